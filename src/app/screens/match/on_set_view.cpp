// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/on_set_view.h"

#include <QKeyEvent>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QPointer>
#include <optional>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "words/english.h"
#include "words/lamp_text.h"
#include "words/match_text.h"
#include "words/shooter_words.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

/// Words in the largest letters that fit, down to `least` px.
void paintFitted(QPainter& painter, const QRectF& box, int most, int least, const QString& text) {
    int pixels = most;
    for (; pixels > least; pixels -= 4) {
        painter.setFont(theme::font(pixels, QFont::DemiBold));
        const QRectF needed = painter.boundingRect(box, Qt::AlignCenter | Qt::TextWordWrap, text);
        if (needed.width() <= box.width() && needed.height() <= box.height()) break;
    }
    painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, text);
}

}  // namespace

OnSetView::OnSetView(AppContext& context, MatchController& controller, QWidget* parent)
    : QWidget(parent, Qt::Window), m_context(context), m_controller(controller) {
    setObjectName(u"onSetView"_s);
    setWindowTitle(tr("Turns, on set"));
    setAttribute(Qt::WA_DeleteOnClose);
    setFocusPolicy(Qt::StrongFocus);
    connect(&controller, &MatchController::changed, this, &OnSetView::refresh);
    refresh();
    for (int i = 0; i < count(); ++i) {
        if (isDone(i)) continue;
        m_current = i;
        break;
    }
    refresh();
}

QString OnSetView::effectOf(const rig::Turn& turn) const {
    const rig::Take* take = m_controller.take();
    if (take == nullptr || m_context.selection.isTechnical()) return plain(words::effectText(turn));
    return fromCore(
        words::shooterEffect(turn, words::dialWords(m_controller.rig(), *take, turn.cameraId)));
}

int OnSetView::lights() const { return static_cast<int>(m_controller.lightTurns().size()); }

int OnSetView::count() const { return lights() + static_cast<int>(m_turns.size()); }

bool OnSetView::isDone(int index) const { return cardOf(index).isDone; }

OnSetView::Card OnSetView::lightCard(const jobs::SetLightTurn& turn) const {
    Card card;
    card.who = plain(turn.advice.name);
    card.control = fromCore(words::lampControlText(turn.advice.turn.control));
    card.from = fromCore(words::lampValueText(turn.advice.turn.control, turn.advice.turn.from));
    card.to = fromCore(words::lampValueText(turn.advice.turn.control, turn.advice.turn.to));
    card.effect = fromCore(words::lampEffectText(turn.advice));
    card.reason = tr("It serves all cameras: shoot again before you turn one of them.");
    card.isDone = turn.isDone;
    return card;
}

OnSetView::Card OnSetView::cardOf(int index) const {
    if (index < lights())
        return lightCard(m_controller.lightTurns()[static_cast<std::size_t>(index)]);
    const rig::Turn& turn = m_turns[static_cast<std::size_t>(index - lights())];
    const rig::Camera* camera = rig::findCamera(m_controller.rig(), turn.cameraId);
    Card card;
    card.letter = camera != nullptr ? plain(camera->letter) : QString();
    card.who = camera != nullptr ? plain(camera->role) : QString();
    card.control = fromCore(words::controlTitle(turn));
    card.from = fromCore(turn.fromText);
    card.to = fromCore(turn.toText);
    card.effect = effectOf(turn);
    card.reason = fromCore(words::inEnglish(turn.reason));
    card.isDone = camera != nullptr && rig::isDone(camera->settings, turn);
    card.isAmount = turn.isAmount;
    return card;
}

void OnSetView::refresh() {
    m_turns.clear();
    for (const match::CameraMatch& camera : m_controller.report().cameras)
        m_turns.insert(m_turns.end(), camera.plan.turns.begin(), camera.plan.turns.end());
    m_current = std::clamp(m_current, 0, std::max(0, count() - 1));
    if (count() == 0) {
        setAccessibleName(tr("No turn brings the cameras nearer."));
    } else {
        const Card card = cardOf(m_current);
        const QString change = card.from.isEmpty() ? card.to : card.from + u" → "_s + card.to;
        const QString whose = card.letter.isEmpty() ? tr("Light, %1").arg(card.who)
                                                    : tr("Camera %1").arg(card.letter);
        setAccessibleName(
            tr("%1, %2: %3, %4")
                .arg(whose, card.control, change, card.isDone ? tr("done") : tr("open")));
    }
    update();
}

void OnSetView::go(int by) {
    m_current += by;
    refresh();
}

void OnSetView::tick() {
    if (count() == 0) return;
    const bool wasDone = isDone(m_current);
    if (m_current < lights()) {
        m_controller.tickLight(static_cast<std::size_t>(m_current), !wasDone);
        if (!wasDone) go(1);
        return;
    }
    const rig::Turn turn = m_turns[static_cast<std::size_t>(m_current - lights())];
    if (turn.isAmount) {
        // Nobody told what is set, so nothing is written: on to the next.
        go(1);
        return;
    }
    m_controller.tick(turn, !wasDone);
    if (!wasDone) go(1);
}

void OnSetView::askPrint() {
    const QPointer<OnSetView> self(this);
    m_context.files.savePdf(this, tr("turns.pdf"), [self](const QString& file) {
        if (!self || file.isEmpty() || self->print(file)) return;
        self->m_context.prompter.showError(
            self,
            {base::ErrorCode::WriteFailed,
             base::say("onSet.notPrinted"),
             base::say("file.notWritten", {{"file", file.toStdString()}}),
             base::say("file.chooseFolder")});
    });
}

void OnSetView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Right:
        case Qt::Key_Down:
        case Qt::Key_PageDown:
            go(1);
            return;
        case Qt::Key_Left:
        case Qt::Key_Up:
        case Qt::Key_PageUp:
            go(-1);
            return;
        case Qt::Key_Space:
            tick();
            return;
        case Qt::Key_P:
            askPrint();
            return;
        case Qt::Key_Escape:
            close();
            return;
        default:
            QWidget::keyPressEvent(event);
    }
}

void OnSetView::mousePressEvent(QMouseEvent* event) {
    go(event->position().x() < 0.3 * width() ? -1 : 1);
}

void OnSetView::paintCard(QPainter& painter, const Card& card) const {
    const double w = width();
    const double h = height();
    const double badge = 0.16 * h;
    if (!card.letter.isEmpty()) {
        painter.save();
        painter.translate(0.05 * w, 0.07 * h);
        painter.scale(badge / 20.0, badge / 20.0);
        theme::paintBadge(painter, QRectF(0, 0, 20, 20), card.letter);
        painter.restore();
    }
    painter.setPen(theme::kText);
    const double left = card.letter.isEmpty() ? 0.05 * w : 0.05 * w + badge + 0.03 * w;
    painter.setFont(theme::font(static_cast<int>(0.052 * h), QFont::DemiBold));
    painter.drawText(QRectF(left, 0.07 * h, 0.95 * w - left, 0.08 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     card.who);
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(static_cast<int>(0.045 * h)));
    painter.drawText(QRectF(left, 0.15 * h, 0.95 * w - left, 0.08 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     card.control);
    if (!card.from.isEmpty()) {
        painter.setFont(theme::font(static_cast<int>(0.07 * h)));
        painter.drawText(
            QRectF(0.05 * w, 0.27 * h, 0.9 * w, 0.1 * h), Qt::AlignCenter, card.from + u" →"_s);
    }
    painter.setPen(card.isDone ? theme::kDim : theme::kText);
    paintFitted(painter,
                QRectF(0.05 * w, 0.37 * h, 0.9 * w, 0.27 * h),
                static_cast<int>(0.22 * h),
                24,
                card.to);
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(static_cast<int>(0.036 * h)));
    painter.drawText(QRectF(0.05 * w, 0.66 * h, 0.9 * w, 0.06 * h), Qt::AlignCenter, card.effect);
    painter.setFont(theme::font(static_cast<int>(0.028 * h)));
    painter.drawText(QRectF(0.1 * w, 0.73 * h, 0.8 * w, 0.11 * h),
                     Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
                     card.reason);
    painter.setPen(theme::kText);
    painter.setFont(theme::font(static_cast<int>(0.04 * h), QFont::DemiBold));
    painter.drawText(QRectF(0.05 * w, 0.86 * h, 0.4 * w, 0.06 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     card.isDone     ? tr("✓ done")
                     : card.isAmount ? tr("by this much")
                                     : tr("○ open"));
    painter.drawText(QRectF(0.55 * w, 0.86 * h, 0.4 * w, 0.06 * h),
                     Qt::AlignRight | Qt::AlignVCenter,
                     tr("%1 of %2").arg(m_current + 1).arg(count()));
}

void OnSetView::paintFoot(QPainter& painter) const {
    painter.setPen(theme::kFaint);
    painter.setFont(theme::font(std::max(13, static_cast<int>(0.02 * height()))));
    painter.drawText(QRectF(0, 0.935 * height(), width(), 0.05 * height()),
                     Qt::AlignCenter,
                     tr("← back    next →    space ticks and goes on    P prints    Esc ends"));
}

void OnSetView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme::kWindow);
    if (count() == 0) {
        painter.setPen(theme::kText);
        paintFitted(painter,
                    QRectF(rect()).adjusted(60, 60, -60, -60),
                    static_cast<int>(0.1 * height()),
                    20,
                    tr("No turn brings the cameras nearer."));
    } else {
        paintCard(painter, cardOf(m_current));
    }
    paintFoot(painter);
}

bool OnSetView::print(const QString& file) const {
    QPdfWriter writer(file);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setResolution(150);
    writer.setTitle(tr("Turns of %1").arg(plain(m_controller.rig().name)));
    QPainter painter;
    if (!painter.begin(&writer)) return false;
    const auto line = [&](double y, double height, int size, int weight, const QString& text) {
        QFont font = theme::font(12, weight);
        font.setPixelSize(size);
        painter.setFont(font);
        const QRectF box(0, y, writer.width(), height);
        painter.drawText(box, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, text);
        return y + painter.boundingRect(box, Qt::AlignLeft | Qt::TextWordWrap, text).height();
    };
    std::optional<QString> page;  // the camera's letter, or the light's
    double y = 0.0;
    for (int i = 0; i < count(); ++i) {
        const Card card = cardOf(i);
        const bool isLight = card.letter.isEmpty();
        if (page != card.letter) {
            if (page) writer.newPage();
            page = card.letter;
            const QString head = isLight ? tr("The light") : card.letter + u"  "_s + card.who;
            y = line(0.0, 160, 64, QFont::Bold, head) + 40.0;
        }
        const QString what = isLight ? card.who + u": "_s + card.control : card.control;
        const QString change = card.from.isEmpty() ? card.to : card.from + u" → "_s + card.to;
        y = line(y, 120, 30, QFont::Normal, u"☐  "_s + what);
        y = line(y, 160, 56, QFont::DemiBold, change);
        y = line(y, 120, 22, QFont::Normal, card.effect);
        y = line(y, 160, 22, QFont::Normal, card.reason) + 50.0;
    }
    if (count() == 0) line(0.0, 200, 40, QFont::Normal, tr("No turn brings the cameras nearer."));
    return painter.end();
}

}  // namespace rigmatch::app
