// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <vector>

#include "base/result.h"
#include "rig/set_plan.h"

class QLabel;
class QLineEdit;
class QFormLayout;

namespace rigmatch::app {

class PredictedPicture;
class PredictedPictures;
class SetController;

/// Room size and surfaces, units, circuits, owned lenses, what is delivered, and both schools.
/// Every field takes effect by itself and can be undone.
class RoomDialog : public QDialog {
    Q_OBJECT
public:
    RoomDialog(SetController& controller, QWidget* parent);

private:
    QWidget* buildRoomPage();
    QWidget* buildSuppliesPage();
    QWidget* buildChoicesPage();
    void addCircuits(QFormLayout* form);
    void setLenses(const QString& text);
    void show(const base::Result<void>& done);

    SetController& m_controller;
    QLabel* m_refusal;
};

/// Asks for the name of a layout.
class LayoutNameDialog : public QDialog {
    Q_OBJECT
public:
    LayoutNameDialog(const QString& suggestion, QWidget* parent);
    [[nodiscard]] QString title() const;

private:
    QLineEdit* m_title;
};

/// One predicted picture as large as the window allows, with all guides.
class LargePictureDialog : public QDialog {
    Q_OBJECT
public:
    LargePictureDialog(SetController& controller, const QString& cameraId, QWidget* parent);

private:
    void refresh();

    SetController& m_controller;
    QString m_cameraId;
    PredictedPicture* m_view;
    PredictedPictures* m_pictures;
};

/// The lenses of a typed list, such as "24 f/2.8, 24-70 f/2.8"; OutOfRange names the part that is
/// none.
[[nodiscard]] base::Result<std::vector<rig::OwnedLens>> lensesOf(const QString& text);
[[nodiscard]] QString lensText(const std::vector<rig::OwnedLens>& lenses);

}  // namespace rigmatch::app
