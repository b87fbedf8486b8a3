// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/channel_cards.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "app/services/texts.h"
#include "app/widgets/badge_label.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "base/format.h"
#include "words/channel_words.h"
#include "words/english.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kLowest = -60.0;  // dBFS at the left end of a bar
constexpr int kBarHeight = 14, kTrack = 8, kCardWidth = 236, kCardHeight = 92;

}  // namespace

LevelBar::LevelBar(const sound::ChannelReport& channel, QWidget* parent)
    : QWidget(parent),
      m_noise(channel.noiseDbfs),
      m_speech(channel.speechDbfs),
      m_peak(channel.peakDbfs) {
    setFixedHeight(kBarHeight);
    const words::LevelGoals goals = words::levelGoals();
    setAccessibleName(tr("Levels; peaks are to lie between %1 and %2 dBFS")
                          .arg(plain(base::signedFixed(goals.peakLow, 0)),
                               plain(base::signedFixed(goals.peakHigh, 0))));
}

void LevelBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const auto at = [&](double level) {
        return std::clamp((level - kLowest) / -kLowest, 0.0, 1.0) * (width() - 1);
    };
    const double top = 0.5 * (height() - kTrack);
    painter.fillRect(QRectF(0, top, width(), kTrack), theme::kField);
    if (m_speech) {
        const double from = at(m_noise.value_or(kLowest));
        painter.fillRect(QRectF(from, top, std::max(at(*m_speech) - from, 1.0), kTrack),
                         theme::kFaint);
    }
    const words::LevelGoals goals = words::levelGoals();
    painter.setPen(theme::kDim);
    painter.drawRect(
        QRectF(at(goals.peakLow), top - 0.5, at(goals.peakHigh) - at(goals.peakLow), kTrack));
    if (m_peak > kLowest)
        painter.fillRect(QRectF(at(m_peak) - 1.0, 0, 3.0, height()), theme::kText);
}

ChannelCard::ChannelCard(const SyncController::Channel& channel, QWidget* parent) : QFrame(parent) {
    using Part = SyncController::Part;
    setProperty("card", true);
    setFixedSize(kCardWidth, kCardHeight);
    const sound::ChannelReport& report = channel.report;
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(3);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    if (!channel.letter.isEmpty()) {
        auto* badge = new BadgeLabel(this);
        badge->setLetter(channel.letter);
        head->addWidget(badge);
    }
    // A long name keeps its channel.
    const QString tail = channel.isOnly ? QString() : u" · %1"_s.arg(channel.index + 1);
    const QString whole = channel.name + tail;
    const QString part = channel.part == Part::Main     ? tr("main")
                         : channel.part == Part::Backup ? tr("backup")
                                                        : QString();
    auto* partLabel = makeLabel(part, "dim", u"channelPart"_s, this);
    auto* name = makeLabel(QString(), nullptr, u"channelName"_s, this);
    const int room = kCardWidth - 30 - (channel.letter.isEmpty() ? 0 : 26) -
                     (part.isEmpty() ? 0 : partLabel->sizeHint().width() + 6);
    const QFontMetrics metrics(name->font());
    name->setText(
        metrics.elidedText(channel.name, Qt::ElideRight, room - metrics.horizontalAdvance(tail)) +
        tail);
    head->addWidget(name);
    head->addStretch();
    head->addWidget(partLabel);
    column->addLayout(head);
    column->addWidget(new LevelBar(report, this));
    const QString levelWords = fromCore(words::levelsText(report));
    QLabel* levels = makeLabel(levelWords, "dim", u"channelLevels"_s, this);
    levels->setFont(theme::font(11));
    column->addWidget(levels);
    const words::ChannelWords words = words::channelWords(report);
    const bool isOff = words.verdict == base::Verdict::Off;
    const bool isTold = isOff || words.verdict == base::Verdict::Near;
    const QString mark = isOff ? u"▲ "_s : isTold ? u"△ "_s : QString();
    QLabel* verdict =
        makeLabel(mark + fromCore(words.text), isTold ? nullptr : "dim", u"channelVerdict"_s, this);
    if (isTold)
        verdict->setStyleSheet(u"color: %1"_s.arg((isOff ? theme::kOff : theme::kNear).name()));
    column->addWidget(verdict);
    setToolTip(whole + u"\n"_s + fromCore(words::inEnglish(report.verdict)));
    const QString who =
        channel.letter.isEmpty() ? QString() : tr("Camera %1, ").arg(channel.letter);
    setAccessibleName(who + whole + u", "_s + (part.isEmpty() ? part : part + u", "_s) +
                      levelWords + u", "_s + fromCore(words.text));
}

void ChannelCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) Q_EMIT chosen();
}

ChannelCards::ChannelCards(SyncController& controller, QWidget* parent)
    : QScrollArea(parent), m_controller(controller) {
    setObjectName(u"channelCards"_s);
    setAccessibleName(tr("Channels of all sources, with their levels"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setStyleSheet(u"QScrollArea { border: none; }"_s);
    m_holder = new QWidget(this);
    m_row = new QHBoxLayout(m_holder);
    m_row->setContentsMargins(0, 0, 0, 0);
    m_row->setSpacing(10);
    m_row->addStretch();
    setWidget(m_holder);
    hide();
}

void ChannelCards::refresh() {
    const std::vector<SyncController::Channel> channels = m_controller.channels();
    setVisible(!channels.empty());
    if (channels == m_shown) return;
    m_shown = channels;
    while (QLayoutItem* item = m_row->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (const SyncController::Channel& channel : channels) {
        auto* card = new ChannelCard(channel, m_holder);
        card->setObjectName(u"channelCard%1"_s.arg(m_row->count()));
        connect(
            card, &ChannelCard::chosen, this, [this, row = channel.row] { Q_EMIT chosen(row); });
        m_row->addWidget(card);
    }
    m_row->addStretch();
    fit();
}

/// Room for the bar only where cards lie outside.
void ChannelCards::fit() {
    const int all = static_cast<int>(m_shown.size()) * (kCardWidth + m_row->spacing());
    setFixedHeight(kCardHeight + (all - m_row->spacing() > width() ? 14 : 0));
}

void ChannelCards::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    fit();
}

}  // namespace rigmatch::app
