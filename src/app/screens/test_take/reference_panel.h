// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "jobs/chart_job.h"

class QComboBox;
class QLabel;
class QPushButton;
class QTimer;

namespace rigmatch::app {

/// What is held into the light: the choice of the reference, the user's own chart, and the card to
/// be printed.
class ReferencePanel : public QWidget {
    Q_OBJECT
public:
    explicit ReferencePanel(QWidget* parent);

    /// Shows the rig's reference; a file of the user's joins the list. While the user is still
    /// choosing, the choice stays.
    void setReference(const QString& idOrPath);
    [[nodiscard]] const jobs::ReferenceEntry* reference() const;
    void setEnabledForCameras(bool hasCameras);

Q_SIGNALS:
    void chosen(const QString& idOrPath);
    void ownChartAsked();
    void cardAsked();

private:
    std::vector<jobs::ReferenceEntry> m_entries;
    QComboBox* m_box;
    QTimer* m_settled;
    QLabel* m_note;
    QPushButton* m_own;
    QPushButton* m_print;
};

}  // namespace rigmatch::app
