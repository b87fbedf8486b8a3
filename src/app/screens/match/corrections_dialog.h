// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <filesystem>

#include "app/services/app_context.h"
#include "jobs/lut_job.h"

class QComboBox;
class QLabel;
class QVBoxLayout;
class QPushButton;
class QSpinBox;
class QTableWidget;

namespace rigmatch::app {

class MatchController;

/// Look-up tables and decision lists for what turns leave: kind, place of use and strength, a
/// folder, and what each file does, read back from what was written.
class CorrectionsDialog : public QDialog {
    Q_OBJECT
public:
    CorrectionsDialog(AppContext& context, MatchController& controller, QWidget* parent);

private:
    void buildForm(QVBoxLayout* layout);
    void askFolder();
    void write(const QString& folder);
    /// What was written, and why it has no check picture.
    struct Written {
        base::Result<std::vector<jobs::WrittenLut>> files;
        base::Result<void> picture;
    };
    [[nodiscard]] static Written writtenInto(const std::filesystem::path& folder,
                                             const rig::Rig& rig,
                                             const rig::Take& take,
                                             const jobs::LutOptions& options,
                                             const base::Progress& progress);
    void show(const Written& written);
    [[nodiscard]] jobs::LutOptions options() const;
    void refresh();

    AppContext& m_context;
    MatchController& m_controller;
    QComboBox* m_format;
    QComboBox* m_size;
    QComboBox* m_use;
    QComboBox* m_result;
    QSpinBox* m_strength;
    QLabel* m_useWords;
    QLabel* m_state;
    QTableWidget* m_table;
    QPushButton* m_write;
};

}  // namespace rigmatch::app
