// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/scope_view.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "app/widgets/theme.h"
#include "base/luma.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kScopeGap = 8.0;
constexpr double kFigures = 20.0;     // px under a field
constexpr double kScaleWidth = 30.0;  // px for the percent scale
constexpr double kLowest = -10.0;
constexpr double kScopeTop = 112.0;    // %
constexpr double kChromaReach = 0.56;  // of Cb and Cr shown to each side
constexpr double kTargetShare = 0.75;  // colour bars of 75 %

/// Where a share of all pixels lies, % signal.
double levelOfShare(const scope::LevelScale& scale,
                    const std::vector<std::uint64_t>& counts,
                    double share) {
    std::uint64_t all = 0;
    for (const std::uint64_t count : counts) all += count;
    const double wanted = share * static_cast<double>(all);
    double seen = 0.0;
    for (std::size_t level = 0; level < counts.size(); ++level) {
        seen += static_cast<double>(counts[level]);
        if (seen >= wanted && counts[level] > 0)
            return 100.0 * scale.signalOf(static_cast<double>(level));
    }
    return 100.0 * scale.signalOf(scale.count - 1.0);
}

std::vector<std::uint64_t> levelsOf(const scope::Waveform& waveform, int plane) {
    std::vector<std::uint64_t> counts(static_cast<std::size_t>(waveform.scale.count));
    for (int level = 0; level < waveform.scale.count; ++level) {
        for (int column = 0; column < waveform.columns; ++column)
            counts[static_cast<std::size_t>(level)] += waveform.at(plane, level, column);
    }
    return counts;
}

/// How strongly a cell glows: few pixels are seen, many do not blind.
int glow(double count, double full) {
    if (count <= 0.0) return 0;
    return std::min(255, static_cast<int>(40.0 + 215.0 * std::sqrt(std::min(1.0, count / full))));
}

/// One plane of a waveform, a row for each level, the brightest on top.
QImage traceImage(const scope::Waveform& waveform, int plane, const QColor& colour) {
    const int levels = waveform.scale.count;
    double pixels = 0.0;
    for (int level = 0; level < levels; ++level)
        pixels += waveform.at(plane, level, waveform.columns / 2);
    // Finer levels hold fewer pixels each.
    const double full = std::max(1.0, pixels / 12.0 * 256.0 / levels);
    QImage image(waveform.columns, levels, QImage::Format_ARGB32);
    for (int level = 0; level < levels; ++level) {
        auto* row = reinterpret_cast<QRgb*>(image.scanLine(levels - 1 - level));
        for (int x = 0; x < waveform.columns; ++x) {
            row[x] = qRgba(colour.red(),
                           colour.green(),
                           colour.blue(),
                           glow(waveform.at(plane, level, x), full));
        }
    }
    return image;
}

const QColor kLanes[3] = {QColor(240, 120, 110), QColor(130, 215, 130), QColor(125, 165, 250)};

}  // namespace

ScopeView::ScopeView(QWidget* parent) : QWidget(parent) { setAccessibleName(tr("Scope")); }

QString ScopeView::reading(Kind kind, const Trace& trace) {
    return trace.letter + u": "_s + figures(kind, trace);
}

QString ScopeView::figures(Kind kind, const Trace& trace) {
    if (kind == Kind::Luma && trace.waveform) {
        const auto counts = levelsOf(*trace.waveform, 0);
        const scope::LevelScale& scale = trace.waveform->scale;
        return tr("luma %1 % to %2 %, half of it below %3 %")
            .arg(levelOfShare(scale, counts, 0.001), 0, 'f', 1)
            .arg(levelOfShare(scale, counts, 0.999), 0, 'f', 1)
            .arg(levelOfShare(scale, counts, 0.5), 0, 'f', 1);
    }
    if (kind == Kind::Parade && trace.waveform) {
        QStringList middles;
        for (int plane = 0; plane < 3; ++plane)
            middles << QString::number(
                levelOfShare(trace.waveform->scale, levelsOf(*trace.waveform, plane), 0.5), 'f', 1);
        return tr("middle of red, green, blue %1 %").arg(middles.join(u" / "_s));
    }
    if (kind == Kind::Histogram && trace.histogram) {
        const std::vector<std::uint64_t> counts(trace.histogram->luma.begin(),
                                                trace.histogram->luma.end());
        return tr("luma %1 % to %2 %, middle %3 %")
            .arg(levelOfShare(trace.histogram->scale, counts, 0.001), 0, 'f', 1)
            .arg(levelOfShare(trace.histogram->scale, counts, 0.999), 0, 'f', 1)
            .arg(levelOfShare(trace.histogram->scale, counts, 0.5), 0, 'f', 1);
    }
    if (kind == Kind::Vectorscope && trace.vectorscope) {
        double cb = 0.0, cr = 0.0, all = 0.0;
        const scope::Vectorscope& vectors = *trace.vectorscope;
        const int middle = vectors.size / 2;
        for (int y = 0; y < vectors.size; ++y) {
            for (int x = 0; x < vectors.size; ++x) {
                const double count = vectors.at(x, y);
                cb += count * (x - middle);
                cr += count * (y - middle);
                all += count;
            }
        }
        const double scale = std::max(1.0, all) * vectors.cellsPerUnit;
        return tr("mean colour %1 % saturated at %2°")
            .arg(100.0 * std::hypot(cb, cr) / scale, 0, 'f', 1)
            .arg(scope::hueDegrees(cb, cr), 0, 'f', 0);
    }
    return trace.missing;
}

void ScopeView::setTraces(Kind kind, const QVector<Trace>& traces) {
    m_kind = kind;
    m_traces = traces;
    QStringList words;
    for (const Trace& trace : traces) words << reading(kind, trace);
    setAccessibleDescription(words.join(u"; "_s));
    setToolTip(words.join(u'\n'));
    update();
}

void ScopeView::setOverlaid(bool isOverlaid) {
    m_isOverlaid = isOverlaid;
    update();
}

QVector<QRectF> ScopeView::fields() const {
    const QRectF all(rect());
    const auto count = static_cast<int>(m_traces.size());
    if (m_isOverlaid || count <= 1) return {all};
    int columns = count > 3 ? 2 : 1;
    if (m_kind == Kind::Vectorscope) {
        // As many columns as make the circles largest.
        double largest = 0.0;
        for (int tried = 1; tried <= count; ++tried) {
            const int lines = (count + tried - 1) / tried;
            const double side = std::min((all.width() - kScopeGap * (tried - 1)) / tried,
                                         (all.height() - kScopeGap * (lines - 1)) / lines);
            if (side <= largest) continue;
            largest = side;
            columns = tried;
        }
    }
    const int rows = (count + columns - 1) / columns;
    const double width = (all.width() - kScopeGap * (columns - 1)) / columns;
    const double height = (all.height() - kScopeGap * (rows - 1)) / rows;
    QVector<QRectF> areas;
    for (int i = 0; i < count; ++i) {
        const int column = i % columns, row = i / columns;
        areas << QRectF(column * (width + kScopeGap), row * (height + kScopeGap), width, height);
    }
    return areas;
}

void ScopeView::paintLevels(QPainter& painter, const QRectF& field) const {
    painter.setFont(theme::font(11));
    for (int percent = 0; percent <= 100; percent += 25) {
        const double y =
            field.top() + (kScopeTop - percent) / (kScopeTop - kLowest) * field.height();
        painter.setPen(percent % 100 == 0 ? QColor(96, 96, 96) : QColor(62, 62, 62));
        painter.drawLine(QPointF(field.left(), y), QPointF(field.right(), y));
        painter.setPen(theme::kDim);
        painter.drawText(QRectF(field.left() - kScaleWidth, y - 8, kScaleWidth - 5, 16),
                         Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(percent));
    }
}

void ScopeView::paintWaveform(QPainter& painter, const QRectF& field, int camera) const {
    const Trace& trace = m_traces[camera];
    if (!trace.waveform) return;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const int lanes = trace.waveform->planes;
    const double width = field.width() / lanes;
    for (int plane = 0; plane < lanes; ++plane) {
        const QColor colour = m_isOverlaid ? theme::cameraColour(trace.letter)
                              : lanes == 3 ? kLanes[plane]
                                           : QColor(225, 225, 225);
        const scope::LevelScale& scale = trace.waveform->scale;
        const auto yOf = [&](double level) {
            const double percent = 100.0 * scale.signalOf(level);
            return field.top() + (kScopeTop - percent) / (kScopeTop - kLowest) * field.height();
        };
        const QRectF lane(field.left() + plane * width,
                          yOf(scale.count - 0.5),
                          width - 2,
                          yOf(-0.5) - yOf(scale.count - 0.5));
        painter.save();
        painter.setClipRect(field);
        painter.drawImage(lane, traceImage(*trace.waveform, plane, colour));
        painter.restore();
    }
}

void ScopeView::paintHistogram(QPainter& painter, const QRectF& field, int camera) const {
    const Trace& trace = m_traces[camera];
    if (!trace.histogram) return;
    painter.setRenderHint(QPainter::Antialiasing);
    const scope::Histogram& histogram = *trace.histogram;
    const auto curve = [&](const std::vector<std::uint32_t>& counts, const QColor& colour) {
        // The foot and the top hold what is clipped; they may not squeeze the rest.
        std::uint32_t most = 1;
        for (std::size_t i = 1; i + 1 < counts.size(); ++i) most = std::max(most, counts[i]);
        QPainterPath path;
        for (std::size_t level = 0; level < counts.size(); ++level) {
            const double percent = 100.0 * histogram.scale.signalOf(static_cast<double>(level));
            const double x =
                field.left() + (percent - kLowest) / (kScopeTop - kLowest) * field.width();
            const double share = std::min(1.0, std::sqrt(counts[level] / double(most)));
            const QPointF at(x, field.bottom() - share * (field.height() - 4));
            if (level == 0)
                path.moveTo(at);
            else
                path.lineTo(at);
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour, 1.4));
        painter.drawPath(path);
    };
    painter.save();
    painter.setClipRect(field);
    if (m_isOverlaid) {
        curve(histogram.luma, theme::cameraColour(trace.letter));
    } else {
        curve(histogram.red, kLanes[0]);
        curve(histogram.green, kLanes[1]);
        curve(histogram.blue, kLanes[2]);
        curve(histogram.luma, QColor(225, 225, 225));
    }
    painter.restore();
}

void ScopeView::paintTarget(QPainter& painter, const QRectF& field) const {
    const double scale = field.width() / (2.0 * kChromaReach);
    const auto at = [&](double cb, double cr) {
        return field.center() + QPointF(cb * scale, -cr * scale);
    };
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(theme::font(11));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QColor(62, 62, 62));
    for (const double radius : {0.25, 0.5})
        painter.drawEllipse(field.center(), radius * scale, radius * scale);
    painter.drawLine(at(-0.5, 0), at(0.5, 0));
    painter.drawLine(at(0, -0.5), at(0, 0.5));
    struct Bar {
        const char* name;
        double red, green, blue;
    };
    static constexpr Bar kBars[] = {{QT_TR_NOOP("R"), 1, 0, 0},
                                    {QT_TR_NOOP("Yl"), 1, 1, 0},
                                    {QT_TR_NOOP("G"), 0, 1, 0},
                                    {QT_TR_NOOP("Cy"), 0, 1, 1},
                                    {QT_TR_NOOP("B"), 0, 0, 1},
                                    {QT_TR_NOOP("Mg"), 1, 0, 1}};
    for (const Bar& bar : kBars) {
        const double y = base::lumaOf(std::array{bar.red, bar.green, bar.blue});
        const QPointF place =
            at(kTargetShare * (bar.blue - y) / 1.8556, kTargetShare * (bar.red - y) / 1.5748);
        painter.setPen(QColor(110, 110, 110));
        painter.drawRect(QRectF(place - QPointF(5, 5), QSizeF(10, 10)));
        painter.setPen(theme::kDim);
        painter.drawText(
            QRectF(place + QPointF(8, -8), QSizeF(24, 16)), Qt::AlignVCenter, tr(bar.name));
    }
    const double angle = scope::kSkinLineDegrees * std::numbers::pi / 180.0;
    painter.setPen(QPen(QColor(190, 180, 150), 1.0, Qt::DashLine));
    painter.drawLine(field.center(), at(0.5 * std::cos(angle), 0.5 * std::sin(angle)));
    painter.setPen(theme::kDim);
    const QPointF end = at(0.5 * std::cos(angle), 0.5 * std::sin(angle));
    const double left = std::max(field.left() - 6.0, end.x() - 96.0);
    painter.drawText(QRectF(left, end.y() - 18.0, 100.0, 16.0),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     tr("skin line 123°"));
}

void ScopeView::paintVectors(QPainter& painter, const QRectF& field, int camera) const {
    const Trace& trace = m_traces[camera];
    const double scale = field.width() / (2.0 * kChromaReach);
    const QColor colour = m_isOverlaid || !trace.dots.isEmpty() ? theme::cameraColour(trace.letter)
                                                                : QColor(225, 225, 225);
    if (trace.vectorscope) {
        const scope::Vectorscope& vectors = *trace.vectorscope;
        double all = 0.0;
        for (const std::uint32_t count : vectors.counts) all += count;
        QImage image(vectors.size, vectors.size, QImage::Format_ARGB32);
        for (int y = 0; y < vectors.size; ++y) {
            auto* row = reinterpret_cast<QRgb*>(image.scanLine(y));
            for (int x = 0; x < vectors.size; ++x) {
                const int alpha = glow(vectors.at(x, vectors.size - 1 - y), all / 600.0);
                row[x] = qRgba(colour.red(), colour.green(), colour.blue(), alpha);
            }
        }
        // Cell size / 2 holds 0; the picture's rows run downward.
        const double side = vectors.size / vectors.cellsPerUnit * scale;
        const double cell = side / vectors.size;
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.save();
        painter.setClipRect(field);
        painter.drawImage(QRectF(field.center().x() - side / 2.0 - cell / 2.0,
                                 field.center().y() - side / 2.0 + cell / 2.0,
                                 side,
                                 side),
                          image);
        painter.restore();
    }
    painter.setPen(QPen(QColor(20, 20, 20), 1.0));
    painter.setBrush(theme::cameraColour(trace.letter));
    for (const QPointF& dot : trace.dots)
        painter.drawEllipse(field.center() + QPointF(dot.x() * scale, -dot.y() * scale), 4.5, 4.5);
}

void ScopeView::paintField(QPainter& painter,
                           const QRectF& field,
                           const QVector<int>& cameras) const {
    painter.fillRect(field, QColor(30, 30, 30));
    QRectF inner = field.adjusted(4, 4, -4, -4);
    if (!m_isOverlaid && cameras.size() == 1 && m_traces[cameras[0]].missing.isEmpty()) {
        inner.adjust(0, 0, 0, -kFigures);
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(12));
        painter.drawText(QRectF(field.left() + 8, inner.bottom() + 2, field.width() - 16, kFigures),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         QFontMetrics(painter.font(), this)
                             .elidedText(figures(m_kind, m_traces[cameras[0]]),
                                         Qt::ElideRight,
                                         static_cast<int>(field.width()) - 16));
    }
    if (m_kind == Kind::Vectorscope) {
        const double side = std::min(inner.width(), inner.height());
        inner = QRectF(inner.center() - QPointF(side, side) / 2.0, QSizeF(side, side));
        paintTarget(painter, inner);
    } else if (m_kind == Kind::Histogram) {
        inner.adjust(0, 0, 0, -16);
        painter.setFont(theme::font(11));
        for (int percent = 0; percent <= 100; percent += 25) {
            const double x =
                inner.left() + (percent - kLowest) / (kScopeTop - kLowest) * inner.width();
            painter.setPen(QColor(62, 62, 62));
            painter.drawLine(QPointF(x, inner.top()), QPointF(x, inner.bottom()));
            painter.setPen(theme::kDim);
            painter.drawText(
                QRectF(x - 20, inner.bottom(), 40, 16), Qt::AlignCenter, QString::number(percent));
        }
    } else {
        inner.adjust(kScaleWidth - 4, 0, 0, 0);
        paintLevels(painter, inner);
    }
    for (const int camera : cameras) {
        if (m_kind == Kind::Vectorscope)
            paintVectors(painter, inner, camera);
        else if (m_kind == Kind::Histogram)
            paintHistogram(painter, inner, camera);
        else
            paintWaveform(painter, inner, camera);
    }
    double x =
        field.left() + (m_kind == Kind::Luma || m_kind == Kind::Parade ? kScaleWidth + 6 : 6);
    for (const int camera : cameras) {
        theme::paintBadge(painter, QRectF(x, field.top() + 6, 18, 18), m_traces[camera].letter);
        x += 24;
        const Trace& trace = m_traces[camera];
        if (!trace.missing.isEmpty() && !m_isOverlaid) {
            painter.setPen(theme::kDim);
            painter.setFont(theme::font(12));
            painter.drawText(field.adjusted(40, 20, -20, -20),
                             Qt::AlignCenter | Qt::TextWordWrap,
                             trace.missing);
        }
    }
}

void ScopeView::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    if (m_traces.isEmpty()) return;
    const QVector<QRectF> areas = fields();
    QVector<int> all;
    for (int i = 0; i < m_traces.size(); ++i) all << i;
    if (areas.size() == 1) {
        paintField(painter, areas.front(), all);
        return;
    }
    for (const int i : all) paintField(painter, areas[i], {i});
}

}  // namespace rigmatch::app
