// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/on_set_view.h"

#include <QKeyEvent>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QPointer>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "words/english.h"
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

QString changeText(const rig::Turn& turn) {
    return turn.fromText.empty() ? fromCore(turn.toText)
                                 : fromCore(turn.fromText) + u" → "_s + fromCore(turn.toText);
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
    for (int i = 0; i < static_cast<int>(m_turns.size()); ++i) {
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

bool OnSetView::isDone(int index) const {
    const rig::Turn& turn = m_turns[static_cast<std::size_t>(index)];
    const rig::Camera* camera = rig::findCamera(m_controller.rig(), turn.cameraId);
    return camera != nullptr && rig::isDone(camera->settings, turn);
}

void OnSetView::refresh() {
    m_turns.clear();
    for (const match::CameraMatch& camera : m_controller.report().cameras)
        m_turns.insert(m_turns.end(), camera.plan.turns.begin(), camera.plan.turns.end());
    m_current = std::clamp(m_current, 0, std::max(0, static_cast<int>(m_turns.size()) - 1));
    if (m_turns.empty()) {
        setAccessibleName(tr("No turn brings the cameras nearer."));
    } else {
        const rig::Turn& turn = m_turns[static_cast<std::size_t>(m_current)];
        const rig::Camera* camera = rig::findCamera(m_controller.rig(), turn.cameraId);
        setAccessibleName(tr("Camera %1, %2: %3, %4")
                              .arg(camera != nullptr ? plain(camera->letter) : QString(),
                                   fromCore(words::controlTitle(turn)),
                                   changeText(turn),
                                   isDone(m_current) ? tr("done") : tr("open")));
    }
    update();
}

void OnSetView::go(int by) {
    m_current += by;
    refresh();
}

void OnSetView::tick() {
    if (m_turns.empty()) return;
    const rig::Turn turn = m_turns[static_cast<std::size_t>(m_current)];
    if (turn.isAmount) {
        // Nobody told what is set, so nothing is written: on to the next.
        go(1);
        return;
    }
    const bool wasDone = isDone(m_current);
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

void OnSetView::paintTurn(QPainter& painter, const rig::Turn& turn) const {
    const double w = width();
    const double h = height();
    const rig::Camera* camera = rig::findCamera(m_controller.rig(), turn.cameraId);
    const QString letter = camera != nullptr ? plain(camera->letter) : QString();
    const bool done = isDone(m_current);
    const double badge = 0.16 * h;
    painter.save();
    painter.translate(0.05 * w, 0.07 * h);
    painter.scale(badge / 20.0, badge / 20.0);
    theme::paintBadge(painter, QRectF(0, 0, 20, 20), letter);
    painter.restore();
    painter.setPen(theme::kText);
    const double left = 0.05 * w + badge + 0.03 * w;
    painter.setFont(theme::font(static_cast<int>(0.052 * h), QFont::DemiBold));
    painter.drawText(QRectF(left, 0.07 * h, 0.95 * w - left, 0.08 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     camera != nullptr ? plain(camera->role) : QString());
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(static_cast<int>(0.045 * h)));
    painter.drawText(QRectF(left, 0.15 * h, 0.95 * w - left, 0.08 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     fromCore(words::controlTitle(turn)));
    if (!turn.fromText.empty()) {
        painter.setFont(theme::font(static_cast<int>(0.07 * h)));
        painter.drawText(QRectF(0.05 * w, 0.27 * h, 0.9 * w, 0.1 * h),
                         Qt::AlignCenter,
                         fromCore(turn.fromText) + u" →"_s);
    }
    painter.setPen(done ? theme::kDim : theme::kText);
    paintFitted(painter,
                QRectF(0.05 * w, 0.37 * h, 0.9 * w, 0.27 * h),
                static_cast<int>(0.22 * h),
                24,
                fromCore(turn.toText));
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(static_cast<int>(0.036 * h)));
    painter.drawText(
        QRectF(0.05 * w, 0.66 * h, 0.9 * w, 0.06 * h), Qt::AlignCenter, effectOf(turn));
    painter.setFont(theme::font(static_cast<int>(0.028 * h)));
    painter.drawText(QRectF(0.1 * w, 0.73 * h, 0.8 * w, 0.11 * h),
                     Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
                     fromCore(words::inEnglish(turn.reason)));
    painter.setPen(theme::kText);
    painter.setFont(theme::font(static_cast<int>(0.04 * h), QFont::DemiBold));
    painter.drawText(QRectF(0.05 * w, 0.86 * h, 0.4 * w, 0.06 * h),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     done            ? tr("✓ done")
                     : turn.isAmount ? tr("by this much")
                                     : tr("○ open"));
    painter.drawText(QRectF(0.55 * w, 0.86 * h, 0.4 * w, 0.06 * h),
                     Qt::AlignRight | Qt::AlignVCenter,
                     tr("%1 of %2").arg(m_current + 1).arg(m_turns.size()));
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
    if (m_turns.empty()) {
        painter.setPen(theme::kText);
        paintFitted(painter,
                    QRectF(rect()).adjusted(60, 60, -60, -60),
                    static_cast<int>(0.1 * height()),
                    20,
                    tr("No turn brings the cameras nearer."));
    } else {
        paintTurn(painter, m_turns[static_cast<std::size_t>(m_current)]);
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
    std::string cameraId;
    double y = 0.0;
    for (const rig::Turn& turn : m_turns) {
        if (turn.cameraId != cameraId) {
            if (!cameraId.empty()) writer.newPage();
            cameraId = turn.cameraId;
            const rig::Camera* camera = rig::findCamera(m_controller.rig(), cameraId);
            y = line(0.0,
                     160,
                     64,
                     QFont::Bold,
                     camera != nullptr ? plain(camera->letter + "  " + camera->role) : QString());
            y += 40.0;
        }
        y = line(y, 120, 30, QFont::Normal, u"☐  "_s + fromCore(words::controlTitle(turn)));
        y = line(y, 160, 56, QFont::DemiBold, changeText(turn));
        y = line(y, 120, 22, QFont::Normal, effectOf(turn));
        y = line(y, 160, 22, QFont::Normal, fromCore(words::inEnglish(turn.reason))) + 50.0;
    }
    if (m_turns.empty())
        line(0.0, 200, 40, QFont::Normal, tr("No turn brings the cameras nearer."));
    return painter.end();
}

}  // namespace rigmatch::app
