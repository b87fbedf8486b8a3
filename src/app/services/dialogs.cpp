// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/dialogs.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>

#include "app/services/texts.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QString words(const char* text) { return QCoreApplication::translate("dialogs", text); }

QFileDialog* fileDialog(QWidget* parent, const QString& title, QFileDialog::FileMode mode) {
    auto* dialog = new QFileDialog(parent, title);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setFileMode(mode);
    return dialog;
}

template <class Done>
void openFor(QFileDialog* dialog, Done done) {
    QObject::connect(dialog, &QFileDialog::finished, dialog, [dialog, done](int result) {
        done(result == QDialog::Accepted ? dialog->selectedFiles() : QStringList());
    });
    dialog->open();
}

QMessageBox* messageBox(QWidget* parent, const QString& title, const QString& text) {
    auto* box = new QMessageBox(parent);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->setWindowTitle(title);
    box->setText(title);
    box->setInformativeText(text);
    return box;
}

}  // namespace

void DialogFileChooser::openRig(QWidget* parent, std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Open a rig"), QFileDialog::ExistingFile);
    dialog->setNameFilter(words("Rigs (*.rigmatch)"));
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::saveRig(QWidget* parent,
                                const QString& suggestion,
                                std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Save the rig"), QFileDialog::AnyFile);
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setNameFilter(words("Rigs (*.rigmatch)"));
    dialog->setDefaultSuffix(u"rigmatch"_s);
    dialog->selectFile(suggestion);
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::openMedia(QWidget* parent, std::function<void(QStringList)> done) {
    auto* dialog = fileDialog(parent, words("Choose clips or stills"), QFileDialog::ExistingFiles);
    dialog->setNameFilters({words("Clips and stills (*.mov *.mp4 *.m4v *.mkv *.mxf *.avi *.png "
                                  "*.jpg *.jpeg *.tif *.tiff "
                                  "*.dpx *.exr *.MOV *.MP4 *.MXF *.JPG *.PNG)"),
                            words("All files (*)")});
    openFor(dialog, done);
}

void DialogFileChooser::openLut(QWidget* parent, std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Choose a viewing LUT"), QFileDialog::ExistingFile);
    dialog->setNameFilters({words("Look-up tables (*.cube *.clf *.3dl *.spi1d *.spi3d *.csp)"),
                            words("All files (*)")});
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::openChart(QWidget* parent, std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Choose your own chart"), QFileDialog::ExistingFile);
    dialog->setNameFilters(
        {words("Charts (*.json *.txt *.cgats *.csv *.tsv)"), words("All files (*)")});
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::savePdf(QWidget* parent,
                                const QString& suggestion,
                                std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Save the card"), QFileDialog::AnyFile);
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setNameFilter(words("PDF (*.pdf)"));
    dialog->setDefaultSuffix(u"pdf"_s);
    dialog->selectFile(suggestion);
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::saveOffsets(QWidget* parent,
                                    const QString& suggestion,
                                    std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Export the offsets"), QFileDialog::AnyFile);
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setNameFilters({words("Table (*.csv)"),
                            words("Edit decision list (*.edl)"),
                            words("OpenTimelineIO (*.otio)"),
                            words("Check sound: reference left, chosen source right (*.wav)"),
                            words("Check clip: pictures and sound side by side (*.mov)")});
    dialog->setDefaultSuffix(u"csv"_s);
    QObject::connect(dialog, &QFileDialog::filterSelected, dialog, [dialog](const QString& filter) {
        dialog->setDefaultSuffix(filter.section(u"*."_s, 1).section(u')', 0, 0));
    });
    dialog->selectFile(suggestion);
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::saveTable(QWidget* parent,
                                  const QString& suggestion,
                                  std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, words("Export the track"), QFileDialog::AnyFile);
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setNameFilters({words("Table (*.csv)")});
    dialog->setDefaultSuffix(u"csv"_s);
    dialog->selectFile(suggestion);
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogFileChooser::openFolder(QWidget* parent,
                                   const QString& title,
                                   std::function<void(QString)> done) {
    auto* dialog = fileDialog(parent, title, QFileDialog::Directory);
    dialog->setOption(QFileDialog::ShowDirsOnly);
    openFor(dialog, [done](const QStringList& files) { done(files.value(0)); });
}

void DialogPrompter::showError(QWidget* parent,
                               const base::Error& error,
                               std::function<void()> done) {
    auto* box = messageBox(
        parent, fromCore(error.what), fromCore(error.detail) + u"\n\n"_s + fromCore(error.hint));
    box->setIcon(QMessageBox::Warning);
    QObject::connect(box, &QMessageBox::finished, box, [done] { done(); });
    box->open();
}

void DialogPrompter::showText(QWidget* parent, const QString& title, const QString& text) {
    messageBox(parent, title, text)->open();
}

void DialogPrompter::ask(QWidget* parent,
                         const QString& title,
                         const QString& text,
                         const QString& yes,
                         const QString& no,
                         const QString& cancel,
                         std::function<void(Answer)> done) {
    auto* box = messageBox(parent, title, text);
    QPushButton* yesButton = box->addButton(yes, QMessageBox::AcceptRole);
    QPushButton* noButton = box->addButton(no, QMessageBox::DestructiveRole);
    if (!cancel.isEmpty()) box->setEscapeButton(box->addButton(cancel, QMessageBox::RejectRole));
    box->setDefaultButton(yesButton);
    QObject::connect(box, &QMessageBox::finished, box, [=] {
        done(box->clickedButton() == yesButton  ? Answer::Yes
             : box->clickedButton() == noButton ? Answer::No
                                                : Answer::Cancel);
    });
    box->open();
}

}  // namespace rigmatch::app
