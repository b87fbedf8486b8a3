// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/framed_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "base/format.h"
#include "rig/framing_goals.h"
#include "words/framing_text.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kHead = 34, kFoot = 22, kMargin = 10;
constexpr double kActionMargin = 0.035, kGraphicsMargin = 0.05;  // EBU R95 (sources 7.1)

/// A label on a dark ground, so that it reads on any picture.
void paintLabel(QPainter& painter, const QPointF& at, const QString& text) {
    painter.setFont(theme::font(11));
    const QRectF box = painter.fontMetrics().boundingRect(text);
    const QRectF ground(at.x(), at.y() - box.height() - 1, box.width() + 8, box.height() + 2);
    painter.fillRect(ground, QColor(20, 20, 20, 170));
    painter.setPen(theme::kText);
    painter.drawText(ground, Qt::AlignCenter, text);
}

/// White with a dark edge: seen on light and dark pictures alike.
void paintLine(QPainter& painter, const QPointF& from, const QPointF& to, Qt::PenStyle style) {
    painter.setPen(QPen(QColor(0, 0, 0, 150), 3.0));
    painter.drawLine(from, to);
    painter.setPen(QPen(QColor(245, 245, 245), 1.2, style));
    painter.drawLine(from, to);
}

void paintFrame(QPainter& painter, const QRectF& box, Qt::PenStyle style) {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 150), 3.0));
    painter.drawRect(box);
    painter.setPen(QPen(QColor(245, 245, 245), 1.2, style));
    painter.drawRect(box);
}

/// "18.2 ± 0.3", with one unit of the last place at least.
QString percentText(const rig::Doubted& share) {
    return plain(base::fixed(100.0 * share.value, 1) + " ± " +
                 base::fixed(std::max(0.1, 100.0 * share.uncertainty), 1));
}

}  // namespace

QString markOf(base::Verdict verdict) {
    if (verdict == base::Verdict::Off) return u"▲ "_s;
    return verdict == base::Verdict::Near ? u"△ "_s : QString();
}

QColor colourOf(base::Verdict verdict) {
    if (verdict == base::Verdict::Off) return theme::kOff;
    return verdict == base::Verdict::Near ? theme::kNear : theme::kDim;
}

FramedView::FramedView(FramingController& controller, int row, QWidget* parent)
    : QWidget(parent), m_controller(controller), m_row(row) {
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    refresh();
}

const FramingController::Row& FramedView::row() const {
    static const FramingController::Row kNone;
    const auto index = static_cast<std::size_t>(m_row);
    return index < m_controller.rows().size() ? m_controller.rows()[index] : kNone;
}

void FramedView::setRow(int row) {
    m_row = row;
    refresh();
}

void FramedView::setPage(FramedPage page) {
    m_page = page;
    refresh();
}

void FramedView::setSafeAreas(bool isOn) {
    m_hasSafeAreas = isOn;
    update();
}

void FramedView::setSavedShare(double share) {
    m_savedShare = share;
    update();
}

void FramedView::setMirrored(bool isMirrored) {
    m_isMirrored = isMirrored;
    update();
}

void FramedView::setOtherEyes(std::optional<double> eyes) {
    m_otherEyes = eyes;
    update();
}

void FramedView::setGhost(const QImage& picture, const QString& title) {
    m_ghost = picture;
    m_ghostTitle = title;
    refresh();
}

void FramedView::refresh() {
    setAccessibleName(m_ghostTitle.isEmpty()
                          ? tr("Picture of camera %1, %2").arg(row().letter, row().role)
                          : m_ghostTitle);
    QStringList words{row().missing, row().status, footText()};
    words.removeAll(QString());
    setAccessibleDescription(words.join(u"; "_s));
    setToolTip(footText());
    update();
}

/// What stands under the picture.
QString FramedView::footText() const {
    const auto& shown = row();
    if (shown.reading == nullptr) return {};
    if (m_page == FramedPage::AgainstSaved) {
        if (shown.ghost != nullptr) return tr("%1 laid over").arg(shown.savedAt);
        if (!m_controller.ghostTake().isEmpty()) return tr("not in that take");
        if (shown.savedAt.isEmpty()) return tr("no framing is saved for it");
        return shown.drift.isEmpty() ? tr("saved %1").arg(shown.savedAt) : shown.drift;
    }
    if (m_page == FramedPage::Focus) {
        const rig::FocusReading& focus = shown.reading->focus;
        QStringList parts;
        const auto add = [&](const QString& name, const std::optional<double>& width) {
            if (width) parts << tr("%1 %2").arg(name, plain(base::fixed(*width, 1)));
        };
        add(tr("eyes"), focus.eyes);
        add(tr("ear"), focus.ear);
        add(tr("hair"), focus.hair);
        add(tr("chest"), focus.front);
        add(tr("background"), focus.background);
        return parts.isEmpty() ? tr("no edges to judge by")
                               : tr("edges: %1 px").arg(parts.join(u", "_s));
    }
    if (m_page == FramedPage::Crops) {
        const rig::FramedPerson* lone = rig::lonePerson(*shown.reading);
        if (lone == nullptr) return tr("windows are made for a lone person");
        QStringList parts;
        for (const jobs::CropWindow& crop :
             jobs::cropWindows(*lone, shown.widthPx, shown.heightPx, m_controller.rig().choices))
            parts << (crop.holdsPerson ? u""_s : u"△ "_s) + fromCore(words::cropText(crop));
        return parts.join(u'\n');
    }
    if (shown.reading->people.empty()) return tr("no face found");
    const std::size_t judged = rig::judgedPeople(*shown.reading).size();
    const QString others = shown.reading->people.size() > judged
                               ? u", "_s + tr("smaller faces (picture, mirror, behind) not judged")
                               : QString();
    const rig::FramedPerson* person = rig::lonePerson(*shown.reading);
    if (person == nullptr) return tr("%1 people").arg(judged) + others;
    return tr("head %1 %, sways %2 % of the width")
               .arg(percentText(person->headHeight),
                    plain(base::fixed(100.0 * person->swayShare, 1))) +
           others;
}

double FramedView::atX(const QRectF& area, double share) const {
    return area.left() + (m_isMirrored ? 1.0 - share : share) * area.width();
}

void FramedView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF all = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(hasFocus() ? theme::kFocus : theme::kLine, hasFocus() ? 1.6 : 1.0));
    painter.setBrush(theme::kPanel);
    painter.drawRoundedRect(all, 4, 4);
    paintHead(painter, QRectF(kMargin, 0, width() - 2 * kMargin, kHead));
    const QString foot = m_ghostTitle.isEmpty() ? footText() : QString();
    const int lines = std::max(1, static_cast<int>(foot.count(u'\n')) + 1);
    const int footHeight = foot.isEmpty() ? kMargin : 16 * lines + 10;
    const QRectF area(
        kMargin, kHead, width() - 2 * kMargin, std::max(40, height() - kHead - footHeight));
    const QRectF drawn = pictureRect(area);
    paintPicture(painter, area);
    painter.setFont(theme::font(11));
    painter.setPen(theme::kDim);
    const QRectF below(kMargin, drawn.bottom() + 3, area.width(), footHeight - 6);
    const QStringList texts = foot.split(u'\n');
    for (int i = 0; i < texts.size(); ++i) {
        painter.drawText(QRectF(below.left(), below.top() + 16 * i, below.width(), 16),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(
                             texts[i], Qt::ElideRight, static_cast<int>(area.width())));
    }
}

void FramedView::paintHead(QPainter& painter, const QRectF& area) const {
    const auto& shown = row();
    if (!m_ghostTitle.isEmpty()) {
        painter.setFont(theme::font(13));
        painter.setPen(theme::kText);
        painter.drawText(area, Qt::AlignVCenter, m_ghostTitle);
        return;
    }
    theme::paintBadge(painter, QRectF(area.left(), area.center().y() - 10, 20, 20), shown.letter);
    painter.setFont(theme::font(12));
    const QString status = markOf(shown.verdict) + shown.status;
    const double statusWidth =
        std::min(painter.fontMetrics().horizontalAdvance(status) + 4.0, 0.62 * area.width());
    const QRectF right(area.right() - statusWidth, area.top(), statusWidth, area.height());
    painter.setPen(colourOf(shown.verdict));
    if (!shown.status.isEmpty())
        painter.drawText(right,
                         Qt::AlignVCenter | Qt::AlignRight,
                         painter.fontMetrics().elidedText(
                             status, Qt::ElideRight, static_cast<int>(statusWidth)));
    painter.setFont(theme::font(13));
    painter.setPen(theme::kText);
    const QRectF name(area.left() + 30, area.top(), area.width() - statusWidth - 42, area.height());
    painter.drawText(name,
                     Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(
                         shown.role, Qt::ElideRight, static_cast<int>(name.width())));
}

void FramedView::paintImage(QPainter& painter, const QRectF& area) const {
    const auto& shown = row();
    const auto draw = [&](const QImage& image, double share) {
        painter.setOpacity(share);
        painter.drawImage(area, m_isMirrored ? image.mirrored(true, false) : image);
        painter.setOpacity(1.0);
    };
    draw(shown.picture, 1.0);
    if (m_page == FramedPage::AgainstSaved && !shown.saved.isNull())
        draw(shown.saved, m_savedShare);
    if (!m_ghost.isNull()) draw(m_ghost, 0.5);
}

QRectF FramedView::pictureRect(const QRectF& whole) const {
    const auto& shown = row();
    const double aspect = shown.heightPx > 0 ? double(shown.widthPx) / shown.heightPx : 16.0 / 9.0;
    const double height = std::min(whole.height(), whole.width() / aspect);
    return {whole.center().x() - 0.5 * height * aspect, whole.top(), height * aspect, height};
}

void FramedView::paintPicture(QPainter& painter, const QRectF& whole) const {
    const auto& shown = row();
    const QRectF area = pictureRect(whole);
    if (shown.reading == nullptr || shown.picture.isNull()) {
        painter.setPen(QPen(theme::kLine, 1.0, Qt::DashLine));
        painter.setBrush(theme::kWindow);
        painter.drawRect(area);
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(12));
        painter.drawText(area.adjusted(12, 0, -12, 0),
                         Qt::AlignCenter | Qt::TextWordWrap,
                         shown.missing.isEmpty() ? tr("Loading…") : shown.missing);
        return;
    }
    painter.save();
    painter.setClipRect(area);
    paintImage(painter, area);
    if (m_hasSafeAreas) {
        for (const double margin : {kActionMargin, kGraphicsMargin}) {
            const double x = margin * area.width(), y = margin * area.height();
            paintFrame(painter, area.adjusted(x, y, -x, -y), Qt::DotLine);
        }
    }
    const auto& people = shown.reading->people;
    if (m_page == FramedPage::AgainstSaved && shown.ghost != nullptr)
        for (const rig::FramedPerson& person : shown.ghost->people)
            paintOutline(painter, area, person);
    if (m_page == FramedPage::Measures) paintSpots(painter, area);
    if (m_page == FramedPage::Crops) paintCrops(painter, area);
    if (m_page == FramedPage::Focus) paintFocus(painter, area);
    if ((m_page == FramedPage::Measures || m_page == FramedPage::Pair) && m_ghostTitle.isEmpty()) {
        for (const rig::FramedPerson& person : people)
            paintPerson(painter, area, person, &person == rig::lonePerson(*shown.reading));
        if (m_otherEyes) {
            const double y = area.top() + *m_otherEyes * area.height();
            paintLine(painter, {area.left(), y}, {area.right(), y}, Qt::DotLine);
        }
    }
    painter.restore();
}

void FramedView::paintPerson(QPainter& painter,
                             const QRectF& area,
                             const rig::FramedPerson& person,
                             bool isLone) const {
    const auto y = [&](double share) { return area.top() + share * area.height(); };
    const double x = atX(area, person.across.value);
    const double half = isLone ? area.width() : 0.9 * person.headHeight.value * area.height();
    const double left = std::max(area.left(), x - half), right = std::min(area.right(), x + half);
    if (isLone && m_page == FramedPage::Measures) {
        const double goal = rig::wantedEyes(person, m_controller.rig().choices);
        if (std::abs(goal - person.eyeLine.value) > 0.005)
            paintLine(painter, {left, y(goal)}, {right, y(goal)}, Qt::DashLine);
        const double across = atX(area, rig::wantedAcross(person, m_controller.rig().choices));
        paintLine(painter, {across, y(0.0)}, {across, y(0.06)}, Qt::SolidLine);
        paintLine(painter, {across, y(0.94)}, {across, y(1.0)}, Qt::SolidLine);
    }
    paintLine(
        painter, {left, y(person.eyeLine.value)}, {right, y(person.eyeLine.value)}, Qt::SolidLine);
    const double crown = y(person.headroom.value);
    const double chin = y(person.headroom.value + person.headHeight.value);
    if (m_page == FramedPage::Pair) {
        for (const double edge : {crown, chin})
            paintLine(painter, {x - 0.25 * half, edge}, {x + 0.25 * half, edge}, Qt::SolidLine);
        return;
    }
    if (rig::isClose(person)) {
        paintLine(painter, {x, y(0.0)}, {x, crown}, Qt::SolidLine);
        paintLabel(painter,
                   {x + 6, std::max(area.top() + 18, 0.5 * (area.top() + crown) + 8)},
                   tr("headroom %1 %").arg(percentText(person.headroom)));
    }
    if (isLone)
        paintLabel(painter,
                   {area.left() + 6, y(person.eyeLine.value) - 3},
                   tr("eyes %1 %").arg(percentText(person.eyeLine)));
}

/// Head and shoulders of who sat there: a shape to sit into.
void FramedView::paintOutline(QPainter& painter,
                              const QRectF& area,
                              const rig::FramedPerson& person) const {
    const double head = person.headHeight.value * area.height();
    const double x = atX(area, person.across.value);
    const double crown = area.top() + person.headroom.value * area.height();
    QPainterPath path;
    path.addEllipse(QRectF(x - 0.38 * head, crown, 0.76 * head, head));
    // Shoulders slope from the neck; three heads across (own choice).
    const double neck = crown + 1.08 * head;
    path.moveTo(x - 0.2 * head, neck);
    path.cubicTo(x - 0.3 * head,
                 neck + 0.2 * head,
                 x - 1.0 * head,
                 neck + 0.15 * head,
                 x - 1.15 * head,
                 neck + 0.75 * head);
    path.moveTo(x + 0.2 * head, neck);
    path.cubicTo(x + 0.3 * head,
                 neck + 0.2 * head,
                 x + 1.0 * head,
                 neck + 0.15 * head,
                 x + 1.15 * head,
                 neck + 0.75 * head);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 160), 3.0));
    painter.drawPath(path);
    painter.setPen(QPen(theme::kText, 1.2, Qt::DashLine));
    painter.drawPath(path);
}

void FramedView::paintSpots(QPainter& painter, const QRectF& area) const {
    const auto& shown = row();
    for (const rig::BrightSpot& spot : shown.reading->brightSpots) {
        const QRectF box(area.left() + spot.left * area.width(),
                         area.top() + spot.top * area.height(),
                         spot.width * area.width(),
                         spot.height * area.height());
        paintFrame(painter, box.adjusted(-2, -2, 2, 2).intersected(area), Qt::DotLine);
    }
}

void FramedView::paintCrops(QPainter& painter, const QRectF& area) const {
    const auto& shown = row();
    const rig::FramedPerson* lone = rig::lonePerson(*shown.reading);
    if (lone == nullptr) return;
    for (const jobs::CropWindow& crop :
         jobs::cropWindows(*lone, shown.widthPx, shown.heightPx, m_controller.rig().choices)) {
        const QRectF box(area.left() + crop.left * area.width(),
                         area.top() + crop.top * area.height(),
                         crop.width * area.width(),
                         crop.height * area.height());
        paintFrame(painter,
                   box.adjusted(0.5, 0.5, -0.5, -0.5),
                   crop.holdsPerson ? Qt::SolidLine : Qt::DashLine);
        paintLabel(painter, {box.left() + 3, box.bottom() - 4}, fromCore(crop.name));
    }
}

void FramedView::paintFocus(QPainter& painter, const QRectF& area) const {
    const auto& shown = row();
    const auto largest = std::max_element(
        shown.reading->people.begin(), shown.reading->people.end(), [](auto& a, auto& b) {
            return a.headHeight.value < b.headHeight.value;
        });
    if (largest == shown.reading->people.end()) return;
    const double perPx = area.width() / std::max(1, shown.widthPx);
    const QRectF face(area.left() + largest->left * perPx,
                      area.top() + largest->top * perPx,
                      largest->width * perPx,
                      largest->height * perPx);
    paintFrame(painter, face, Qt::DotLine);
    if (shown.reading->focus.sharpest.empty()) return;
    const std::string& place = shown.reading->focus.sharpest;
    painter.setFont(theme::font(11));
    const auto roomFor = [&](const QString& text) {
        return area.right() - painter.fontMetrics().horizontalAdvance(text) - 8.0;
    };
    const rig::FocusReading& focus = shown.reading->focus;
    const std::optional<double>& least = place == "ear" ? focus.ear : focus.background;
    // By less than a pixel no place is sharper for an eye.
    const bool isAlike = place == "eyes" || (focus.eyes && least && *focus.eyes - *least < 1.0);
    const QString text = isAlike          ? tr("eyes as sharp as the rest")
                         : place == "ear" ? tr("sharpest: ear")
                                          : tr("sharpest: background");
    paintLabel(painter, {std::min(face.left(), roomFor(text)), face.top() - 4}, text);
}

void FramedView::mousePressEvent(QMouseEvent*) { Q_EMIT chosen(row().cameraId); }

void FramedView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        Q_EMIT chosen(row().cameraId);
    else
        QWidget::keyPressEvent(event);
}

}  // namespace rigmatch::app
