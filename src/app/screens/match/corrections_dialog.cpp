// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/corrections_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QSpinBox>
#include <QTableWidget>
#include <algorithm>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "jobs/check_picture.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr const char* kCheckPicture = "check.png";

QComboBox* addBox(const QString& title,
                  const QString& name,
                  const std::vector<std::pair<QString, int>>& items,
                  QFormLayout* form,
                  QWidget* parent) {
    auto* box = new QComboBox(parent);
    box->setObjectName(name);
    box->setAccessibleName(QString(title).remove(u'&'));
    for (const auto& [text, value] : items) box->addItem(text, value);
    auto* label = makeLabel(title, nullptr, {}, parent);
    label->setBuddy(box);
    form->addRow(label, box);
    return box;
}

QTableWidget* newTable(QWidget* parent) {
    auto* table = new QTableWidget(0, 5, parent);
    table->setObjectName(u"correctionTable"_s);
    table->setAccessibleName(CorrectionsDialog::tr("What each file does"));
    table->setHorizontalHeaderLabels({CorrectionsDialog::tr("Camera"),
                                      CorrectionsDialog::tr("Patches, mean ΔE2000"),
                                      CorrectionsDialog::tr("Worst patch"),
                                      CorrectionsDialog::tr("Skin, mean ΔE2000"),
                                      CorrectionsDialog::tr("File")});
    table->verticalHeader()->hide();
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table->horizontalHeader()->setStretchLastSection(true);
    table->setTabKeyNavigation(false);
    return table;
}

}  // namespace

CorrectionsDialog::CorrectionsDialog(AppContext& context,
                                     MatchController& controller,
                                     QWidget* parent)
    : QDialog(parent), m_context(context), m_controller(controller) {
    setObjectName(u"correctionsDialog"_s);
    setWindowTitle(tr("Corrections for what turns leave"));
    auto* layout = new QVBoxLayout(this);
    auto* words = makeLabel(
        tr("One file per camera takes its picture, as shot in this take, to the reference's. It "
           "holds for this light and these settings: do the turns first, and shoot once more."),
        "dim",
        {},
        this);
    words->setWordWrap(true);
    layout->addWidget(words);
    buildForm(layout);
    m_table = newTable(this);
    layout->addWidget(m_table, 1);
    m_state = makeLabel(tr("Nothing is written yet."), "dim", u"correctionStateLabel"_s, this);
    m_state->setWordWrap(true);
    layout->addWidget(m_state);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    m_write = buttons->addButton(tr("&Write to a folder…"), QDialogButtonBox::ActionRole);
    m_write->setObjectName(u"writeCorrectionsButton"_s);
    m_write->setDefault(true);
    connect(m_write, &QPushButton::clicked, this, &CorrectionsDialog::askFolder);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_format, &QComboBox::currentIndexChanged, this, &CorrectionsDialog::refresh);
    connect(m_use, &QComboBox::currentIndexChanged, this, &CorrectionsDialog::refresh);
    layout->addWidget(buttons);
    resize(760, 560);
    refresh();
}

void CorrectionsDialog::buildForm(QVBoxLayout* layout) {
    auto* form = new QFormLayout;
    using colour::GradeFormat;
    m_format = addBox(
        tr("&Kind"),
        u"correctionFormatBox"_s,
        {{tr(".cube, a 3D table"), int(GradeFormat::Cube)},
         {tr(".clf, a 3D table in the Common LUT Format"), int(GradeFormat::Clf)},
         {tr(".cdl, a decision list: slope, offset, power, saturation"), int(GradeFormat::CdlList)},
         {tr(".ccc, a collection of decisions"), int(GradeFormat::Ccc)},
         {tr(".cc, one decision"), int(GradeFormat::Cc)}},
        form,
        this);
    m_use = addBox(tr("Used &in"),
                   u"correctionUseBox"_s,
                   {{tr("an editor"), int(jobs::LutUse::Editor)},
                    {tr("a monitor or LUT box"), int(jobs::LutUse::Monitor)},
                    {tr("a camera's monitor path"), int(jobs::LutUse::Camera)}},
                   form,
                   this);
    m_useWords = makeLabel(QString(), "dim", u"correctionUseLabel"_s, this);
    m_useWords->setWordWrap(true);
    form->addRow(QString(), m_useWords);
    m_result = addBox(tr("&Ends in"),
                      u"correctionResultBox"_s,
                      {{tr("what the reference records"), int(jobs::LutResult::Recorded)},
                       {tr("a finished picture: log and HLG converted to BT.709"),
                        int(jobs::LutResult::Finished)}},
                      form,
                      this);
    m_size = addBox(tr("&Points to a side"),
                    u"correctionSizeBox"_s,
                    {{u"17"_s, 17}, {u"33"_s, 33}, {u"65"_s, 65}},
                    form,
                    this);
    m_size->setCurrentIndex(1);
    m_strength = new QSpinBox(this);
    m_strength->setObjectName(u"correctionStrengthBox"_s);
    m_strength->setAccessibleName(tr("Strength, %"));
    m_strength->setRange(0, 100);
    m_strength->setValue(100);
    m_strength->setSuffix(tr(" %"));
    auto* strengthLabel = makeLabel(tr("&Strength"), nullptr, {}, this);
    strengthLabel->setBuddy(m_strength);
    form->addRow(strengthLabel, m_strength);
    layout->addLayout(form);
}

jobs::LutOptions CorrectionsDialog::options() const {
    jobs::LutOptions options;
    options.format = static_cast<colour::GradeFormat>(m_format->currentData().toInt());
    options.use = static_cast<jobs::LutUse>(m_use->currentData().toInt());
    options.size = m_size->currentData().toInt();
    if (m_result->isEnabled())
        options.result = static_cast<jobs::LutResult>(m_result->currentData().toInt());
    options.strength = m_strength->value() / 100.0;
    return options;
}

void CorrectionsDialog::refresh() {
    const bool isTable = !colour::isCdl(options().format);
    m_size->setEnabled(isTable);
    m_use->setEnabled(isTable);
    const auto& cameras = m_controller.report().cameras;
    const bool isAnyToConvert = std::any_of(
        cameras.begin(), cameras.end(), [](const auto& one) { return one.isToConvert; });
    m_result->setEnabled(isTable && isAnyToConvert);
    m_result->setToolTip(isAnyToConvert
                             ? QString()
                             : tr("No camera of this take records log or HLG: all pictures are "
                                  "finished as they are."));
    if (!isTable) {
        m_useWords->setText(
            tr("Takes signals of 0 (black) to 1 (nominal white); what lies above white is cut."));
        return;
    }
    switch (options().use) {
        case jobs::LutUse::Editor:
            m_useWords->setText(
                tr("0 is black and 1 nominal white, whatever the file's range; nothing is cut."));
            break;
        case jobs::LutUse::Monitor:
            m_useWords->setText(
                tr("The whole code range: black at 64 and white at 940 of 1023. "
                   "Feed limited range and let the box change no range."));
            break;
        case jobs::LutUse::Camera:
            m_useWords->setText(
                tr("0 is black and 1 nominal white, cut to that; it is not "
                   "recorded unless the camera is told so."));
            break;
    }
}

void CorrectionsDialog::askFolder() {
    const QPointer<CorrectionsDialog> self(this);
    m_context.files.openFolder(this, tr("Folder for the corrections"), [self](const QString& path) {
        if (self && !path.isEmpty()) self->write(path);
    });
}

void CorrectionsDialog::write(const QString& folder) {
    const rig::Take* take = m_controller.take();
    if (take == nullptr) return;
    m_write->setEnabled(false);
    m_state->setText(tr("Being written…"));
    m_context.jobs.start<Written>(
        tr("Writing corrections"),
        this,
        [rig = m_controller.rig(),
         id = take->id,
         path = std::filesystem::path(folder.toStdString()),
         options = options()](const base::Progress& progress) -> Written {
            for (const rig::Take& one : rig.takes) {
                if (one.id == id) return writtenInto(path, rig, one, options, progress);
            }
            return Written{};
        },
        [this](const Written& written) { show(written); });
}

CorrectionsDialog::Written CorrectionsDialog::writtenInto(const std::filesystem::path& folder,
                                                          const rig::Rig& rig,
                                                          const rig::Take& take,
                                                          const jobs::LutOptions& options,
                                                          const base::Progress& progress) {
    std::error_code ignored;
    std::filesystem::remove(folder / kCheckPicture, ignored);
    Written written{jobs::writeLuts(rig, take, folder, options), {}};
    // A picture that cannot be drawn (its clips are away) takes nothing from the files.
    if (written.files)
        written.picture = jobs::writeCheckPicture(
            rig, take, *written.files, options, folder / kCheckPicture, progress);
    return written;
}

void CorrectionsDialog::show(const Written& written) {
    m_write->setEnabled(true);
    m_table->setRowCount(0);
    if (!written.files) {
        m_state->setText(fromCore(base::fullText(written.files.error())));
        return;
    }
    QStringList refused;
    std::filesystem::path folder;
    int files = 0;
    for (const jobs::WrittenLut& one : *written.files) {
        const rig::Camera* camera = rig::findCamera(m_controller.rig(), one.cameraId);
        if (!one.failure.empty()) {
            refused << fromCore(one.failure);
            continue;
        }
        ++files;
        folder = one.file.parent_path();
        const int row = m_table->rowCount();
        m_table->insertRow(row);
        const auto moved = [](double before, double after) {
            return u"%1 → %2"_s.arg(before, 0, 'f', 1).arg(after, 0, 'f', 1);
        };
        const QString skin = one.skinBefore && one.skinAfter
                                 ? moved(*one.skinBefore, *one.skinAfter)
                                 : tr("no face seen by both");
        const QString letter = camera != nullptr ? plain(camera->letter) : QString();
        const QString file = plain(one.file.filename().string());
        const QStringList cells = one.isReference
                                      ? QStringList{letter, tr("converted"), {}, {}, file}
                                      : QStringList{letter,
                                                    moved(one.before.mean, one.after.mean),
                                                    moved(one.before.max, one.after.max),
                                                    skin,
                                                    file};
        for (int column = 0; column < static_cast<int>(cells.size()); ++column)
            m_table->setItem(row, column, new QTableWidgetItem(cells[column]));
    }
    const QString done =
        files == 0 ? tr("Nothing was written.")
                   : counted(files, tr("1 file was written to"), tr("%1 files were written to")) +
                         u" "_s + plain(folder.string()) + u"."_s;
    QStringList said{done};
    if (files > 0 && written.picture)
        said << tr("%1 there shows chart and faces before and after.")
                    .arg(QString::fromLatin1(kCheckPicture));
    else if (files > 0)
        said << tr("No check picture: %1").arg(fromCore(base::fullText(written.picture.error())));
    m_state->setText((said + refused).join(u'\n'));
    // A label that wraps asks for less than its words need.
    m_state->setMinimumHeight(m_state->heightForWidth(m_state->width()));
    layout()->activate();
}

}  // namespace rigmatch::app
