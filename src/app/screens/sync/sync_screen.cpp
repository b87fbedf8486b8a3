// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/sync_screen.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QProgressBar>
#include <QScrollArea>

#include "app/screens/sync/channel_cards.h"
#include "app/screens/sync/clap_view.h"
#include "app/screens/sync/sync_controller.h"
#include "app/screens/sync/time_line.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "words/english.h"
#include "words/sound_text.h"
#include "words/sync_text.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QLabel* textArea(const QString& name, const QString& title, QBoxLayout* layout, QWidget* parent) {
    auto* label = makeLabel(QString(), nullptr, name, parent);
    label->setWordWrap(true);
    label->setTextFormat(Qt::RichText);
    label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    label->setAccessibleName(title);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    auto* scroll = new QScrollArea(parent);
    scroll->setObjectName(name + u"Scroll"_s);
    scroll->setAccessibleName(title);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setStyleSheet(u"QScrollArea { border: none; }"_s);
    scroll->setWidget(label);
    layout->addWidget(scroll, 1);
    return label;
}

/// A sentence that asks for something, marked by shape and colour; then what to do.
QString findingHtml(const base::Warning& finding) {
    return u"<p><span style='color:%1'>▲</span> %2<br><span style='color:%3'>%4</span></p>"_s.arg(
        theme::kOff.name(),
        plain(words::inEnglish(finding.text)).toHtmlEscaped(),
        theme::kDim.name(),
        plain(words::inEnglish(finding.hint)).toHtmlEscaped());
}

}  // namespace

SyncScreen::SyncScreen(AppContext& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_controller(new SyncController(context, this)) {
    setObjectName(u"syncScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(10);
    layout->addWidget(buildHead());
    m_empty = makeLabel(QString(), "dim", u"syncEmptyLabel"_s, this);
    m_empty->setAlignment(Qt::AlignCenter);
    m_empty->setWordWrap(true);
    layout->addWidget(m_empty, 1);
    m_body = new QWidget(this);
    auto* body = new QVBoxLayout(m_body);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(10);
    buildLines(body);
    m_microphones = makeLabel(QString(), nullptr, u"syncMicrophones"_s, m_body);
    m_microphones->setWordWrap(true);
    body->addWidget(m_microphones);
    m_channels = new ChannelCards(*m_controller, m_body);
    body->addWidget(m_channels);
    buildCards(body);
    layout->addWidget(m_body, 1);
    connect(m_controller, &SyncController::changed, this, &SyncScreen::refresh);
    connect(m_controller, &SyncController::failed, this, [this](const base::Error& error) {
        m_context.prompter.showError(window(), error);
    });
    connect(m_line, &TimeLine::currentChanged, this, &SyncScreen::refreshDetails);
    connect(m_channels, &ChannelCards::chosen, m_line, &TimeLine::setCurrent);
    refresh();
}

void SyncScreen::buildLines(QVBoxLayout* body) {
    m_lines = new QScrollArea(m_body);
    m_lines->setObjectName(u"syncLinesScroll"_s);
    m_lines->setFocusPolicy(Qt::NoFocus);  // the time line in it has the focus
    m_lines->setWidgetResizable(true);
    m_lines->setFrameShape(QFrame::NoFrame);
    m_line = new TimeLine(*m_controller, m_lines);
    auto* holder = new QWidget(m_lines);
    auto* held = new QVBoxLayout(holder);
    held->setContentsMargins(0, 0, 0, 0);
    held->addWidget(m_line);
    held->addStretch();
    m_lines->setWidget(holder);
    body->addWidget(m_lines);
}

void SyncScreen::buildCards(QVBoxLayout* body) {
    auto* cards = new QHBoxLayout;
    cards->setSpacing(12);
    const auto addCard = [&](const QString& title, const QString& name, QLabel** heading) {
        QFrame* card = makeCard(name + u"Card"_s, m_body);
        auto* column = new QVBoxLayout(card);
        column->setContentsMargins(14, 10, 14, 10);
        QLabel* label = makeLabel(title, nullptr, QString(), card);
        label->setFont(theme::font(13, QFont::DemiBold));
        column->addWidget(label);
        if (heading != nullptr) *heading = label;
        auto* row = new QHBoxLayout;
        row->setSpacing(12);
        column->addLayout(row, 1);
        QLabel* text = textArea(name, title, row, card);
        cards->addWidget(card, 1);
        return std::pair(text, row);
    };
    const auto [timing, timingRow] = addCard(tr("Timing"), u"syncTiming"_s, &m_timingTitle);
    m_timing = timing;
    m_clap = new ClapView(*m_controller, m_body);
    timingRow->addWidget(m_clap, 1);
    m_sound = addCard(tr("Sound"), u"syncSound"_s, nullptr).first;
    cards->setStretch(0, 3);
    cards->setStretch(1, 2);
    body->addLayout(cards, 1);
}

QWidget* SyncScreen::buildHead() {
    auto* head = new QWidget(this);
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(makeLabel(tr("Sync"), "heading", QString(), head));
    m_summary = makeLabel(QString(), "dim", u"syncSummary"_s, head);
    row->addSpacing(12);
    row->addWidget(m_summary);
    row->addStretch();
    m_progress = new QProgressBar(head);
    m_progress->setObjectName(u"syncProgress"_s);
    m_progress->setAccessibleName(tr("How far syncing is"));
    m_progress->setFixedWidth(160);
    row->addWidget(m_progress);
    m_cancel = makeButton(tr("Cance&l"), u"cancelSyncButton"_s, tr("Stop syncing"), head);
    m_sync = makeButton(tr("&Sync the take"),
                        u"syncButton"_s,
                        tr("Lay all files of the take on the reference by sound and picture"),
                        head);
    m_copy = makeButton(tr("&Copy offsets"),
                        u"copyOffsetsButton"_s,
                        tr("Offsets of all sources as text for a spreadsheet"),
                        head);
    m_export =
        makeButton(tr("E&xport…"),
                   u"exportSyncButton"_s,
                   tr("Offsets as CSV, EDL or OpenTimelineIO, or a sound or clip to check them by"),
                   head);
    m_listen = makeButton(
        tr("L&isten"),
        u"listenButton"_s,
        tr("The reference left and this source right: one sound in the middle where they agree"),
        head);
    for (QPushButton* button : {m_cancel, m_listen, m_copy, m_export, m_sync})
        row->addWidget(button);
    connect(m_listen, &QPushButton::clicked, this, &SyncScreen::listen);
    connect(m_sync, &QPushButton::clicked, m_controller, &SyncController::sync);
    connect(m_cancel, &QPushButton::clicked, m_controller, &SyncController::cancel);
    connect(m_copy, &QPushButton::clicked, this, [this] {
        QApplication::clipboard()->setText(m_controller->offsetsText());
    });
    connect(m_export, &QPushButton::clicked, this, &SyncScreen::exportOffsets);
    return head;
}

void SyncScreen::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    m_clap->setRow(m_line->current());
    m_controller->loadStrips();
    refreshDetails();
}

void SyncScreen::listen() {
    if (m_controller->isListening())
        m_controller->stopListening();
    else
        m_controller->listen(m_line->current());
}

/// What the chosen row is as a feed of one device.
QString SyncScreen::feedHtml() const {
    const QStringList words = m_controller->feedWords(m_line->current());
    if (words.isEmpty()) return {};
    QString text = tr("<p><span style='color:%1'>If one device began all of these at once, they "
                      "are its feeds:</span>")
                       .arg(theme::kDim.name());
    for (const QString& line : words) text += u"<br>"_s + line.toHtmlEscaped();
    return text + u"</p>"_s;
}

void SyncScreen::exportOffsets() {
    m_context.files.saveOffsets(window(), u"offsets.csv"_s, [this](const QString& file) {
        m_controller->exportTo(file, m_line->current());
    });
}

void SyncScreen::refresh() {
    const bool hasRows = m_controller->rows().size() >= 2;
    m_empty->setVisible(!hasRows);
    m_body->setVisible(hasRows);
    m_empty->setText(
        tr("Two files of one take can be laid on each other: clips, and the recorder's sound.\nAdd "
           "them on the screen Test take; let all of them hear one clap."));
    m_sync->setEnabled(m_controller->canSync());
    m_sync->setVisible(!m_controller->isSyncing());
    m_cancel->setVisible(m_controller->isSyncing());
    m_progress->setVisible(m_controller->isSyncing());
    m_progress->setValue(static_cast<int>(100.0 * m_controller->share()));
    m_copy->setEnabled(m_controller->hasReport());
    m_export->setEnabled(m_controller->hasReport());
    const auto placed = std::count_if(m_controller->rows().begin(),
                                      m_controller->rows().end(),
                                      [](const auto& row) { return row.isPlaced; });
    const auto all = static_cast<int>(m_controller->rows().size());
    m_summary->setText(!m_controller->hasReport()
                           ? counted(all, tr("1 file"), tr("%1 files"))
                           : tr("%1 of %2 lie on one clock").arg(placed).arg(all));
    m_microphones->setText(m_controller->microphones());
    m_microphones->setVisible(m_controller->hasReport());
    m_channels->refresh();
    if (isVisible()) m_controller->loadStrips();
    m_line->refresh();
    // All rows where they fit in half of the screen; else they scroll.
    m_lines->setFixedHeight(std::min(m_line->sizeHint().height() + 6, std::max(160, height() / 2)));
    refreshDetails();
}

void SyncScreen::refreshDetails() {
    const auto& rows = m_controller->rows();
    if (rows.empty()) return;
    const auto& row = rows[static_cast<std::size_t>(m_line->current())];
    // The output is asked for once somebody looks: that may start the system's sound.
    if (isVisible()) {
        const bool canListen = m_controller->canListen(m_line->current());
        m_listen->setEnabled(canListen || m_controller->isListening());
        m_listen->setToolTip(
            m_listen->isEnabled()
                ? tr("The reference left and this source right: one sound in the middle where "
                     "they agree")
                : tr("There is no sound output, or the two have no sound in common"));
        m_listen->setText(m_controller->isListening() ? tr("Stop l&istening") : tr("L&isten"));
    }
    const QString who = row.letter.isEmpty() ? row.name : tr("Camera %1").arg(row.letter);
    m_timingTitle->setText(tr("Timing · %1").arg(who));
    QString timing;
    if (!m_controller->hasReport()) {
        timing =
            tr("<p>Nothing is measured yet: <i>Sync the take</i> listens to all files and "
               "watches their frames.</p>");
    } else if (row.isReference) {
        timing = tr("<p>The reference: the others are laid on it.</p>");
    } else if (row.result != nullptr) {
        for (const std::string& line :
             words::syncLines(*row.result, words::SyncWords::WithoutFindings))
            timing += u"<p>%1</p>"_s.arg(plain(line).toHtmlEscaped());
    }
    timing += feedHtml();
    if (row.findings != nullptr) {
        for (const base::Warning& finding : *row.findings) timing += findingHtml(finding);
    }
    m_clap->setRow(m_line->current());
    m_timing->setText(timing);
    QString sound;
    if (row.heard != nullptr) {
        for (const std::string& line :
             words::soundLines(*row.heard, words::SoundWords::WithoutFindings))
            sound += u"<p style='white-space:pre-wrap'>%1</p>"_s.arg(plain(line).toHtmlEscaped());
        for (const base::Warning& finding : row.heard->findings) sound += findingHtml(finding);
    } else if (m_controller->hasReport()) {
        sound = tr("<p>No sound was heard in it.</p>");
    }
    m_sound->setText(sound);
}

}  // namespace rigmatch::app
