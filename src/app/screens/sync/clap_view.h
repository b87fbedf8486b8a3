// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/screens/sync/sync_controller.h"

namespace rigmatch::app {

/// The frames of the clap through each other: as recorded on both clocks, and laid on each other.
class ClapView : public QWidget {
    Q_OBJECT
public:
    ClapView(SyncController& controller, QWidget* parent);
    void setRow(int row);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    SyncController& m_controller;
    SyncController::ClapPictures m_pictures;
};

}  // namespace rigmatch::app
