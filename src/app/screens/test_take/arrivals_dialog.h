// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "jobs/arrivals.h"

class QComboBox;
class QLabel;
class QPushButton;
class QRadioButton;
class QTreeWidget;
class QTreeWidgetItem;

namespace rigmatch::app {

/// Where files that were dropped are thought to belong, and why: a file is dragged to another
/// camera, or sent there by the list below or the camera's letter, before anything is measured.
class ArrivalsDialog : public QDialog {
    Q_OBJECT
public:
    ArrivalsDialog(const rig::Rig& rig,
                   const rig::Take* shown,
                   const jobs::Arrivals& guess,
                   QWidget* parent);

    /// The guess as it was corrected.
    [[nodiscard]] jobs::Arrivals arrivals() const;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Place {
        QString id;
        QString letter;
        QString title;
        QString held;  ///< name of the file that the shown take holds there
    };
    void makePlaces(const rig::Rig& rig, const rig::Take* shown);
    void buildTree();
    QWidget* buildTakeRow(const rig::Rig& rig, const rig::Take* shown);
    void fill();
    void moveSelected(const QString& placeId);
    void refresh();
    [[nodiscard]] QString whyText(const jobs::Arrival& arrival) const;
    [[nodiscard]] QTreeWidgetItem* itemOf(const QString& placeId) const;

    jobs::Arrivals m_guess;
    std::vector<Place> m_places;
    QTreeWidget* m_tree = nullptr;
    QComboBox* m_belongs = nullptr;
    QRadioButton* m_newTake = nullptr;
    QRadioButton* m_sameTake = nullptr;
    QLabel* m_note = nullptr;
    QPushButton* m_accept = nullptr;
};

}  // namespace rigmatch::app
