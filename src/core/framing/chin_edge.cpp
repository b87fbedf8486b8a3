// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/chin_edge.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr double kFaceRows = 48.0;      // rows from eyes to chin
constexpr int kJawColumns = 5;          // looked at to either side of the chin
constexpr int kFirstJawRow = -3;        // about the mesh's chin: it lies high as a rule
constexpr double kLeastJawStep = 0.03;  // of the root of signal
constexpr double kOfOtherStep = 0.35;   // of the stronger edge, that the lower one needs
constexpr double kJawSpread = 1.6;      // rows that columns may lie apart
constexpr double kJawDoubt = 0.012, kShadedJawDoubt = 0.017;  // on known heads

/// How far under the mesh's chin a jaw may end: of heads that are turned the mesh has it short, and
/// under one that is not, the neck's own edges are near.
int lastRow(double turnDegrees) {
    constexpr double kFrontal = 3.5, kTurned = 6.0, kAngle = 50.0;
    const double turn = std::min(std::abs(turnDegrees) / kAngle, 1.2);
    return static_cast<int>(std::lround(kFrontal + kTurned * turn * turn));
}

/// The mesh knows people better than rendered heads, under whose chins it ends short: near by, both
/// count alike (a photograph read by eye lies on the mesh, stand-ins on the edge); what is farther
/// off is the mesh's fault.
double weighed(double row) {
    constexpr double kNear = 3.5, kOver = 6.0;  // rows
    const double share = std::clamp(0.5 + 0.5 * (std::abs(row) - kNear) / kOver, 0.5, 1.0);
    return share * row;
}

/// Roots of the frame's green, each the mean of what a place of the crop covers.
class JawColumn {
public:
    JawColumn(const image::CodedFrame& frame, const image::SignalSampler& sampler, double scale)
        : m_frame(frame), m_sampler(sampler), m_scale(scale) {}
    [[nodiscard]] double at(double x, double y) const {
        const int grid = std::clamp(static_cast<int>(std::ceil(m_scale)), 1, 5);
        double sum = 0.0;
        for (int a = 0; a < grid; ++a) {
            for (int b = 0; b < grid; ++b) {
                const double px = x + ((a + 0.5) / grid - 0.5) * m_scale;
                const double py = y + ((b + 0.5) / grid - 0.5) * m_scale;
                const auto rgb = m_sampler.at(
                    std::clamp(static_cast<int>(std::lround(px)), 0, m_frame.width - 1),
                    std::clamp(static_cast<int>(std::lround(py)), 0, m_frame.height - 1));
                sum += std::isfinite(rgb[1]) ? rgb[1] : 0.0;
            }
        }
        return std::sqrt(std::max(0.0, sum / (grid * grid)));
    }

private:
    const image::CodedFrame& m_frame;
    const image::SignalSampler& m_sampler;
    double m_scale;
};

/// The strongest edge of a column: to light below (`sign` 1) or to dark (-1).
struct JawStep {
    double row = 0.0;
    double strength = 0.0;
};
JawStep strongestStep(const std::vector<double>& slopes, double sign) {
    std::size_t best = 0;
    for (std::size_t k = 0; k < slopes.size(); ++k)
        if (sign * slopes[k] > sign * slopes[best]) best = k;
    JawStep step{kFirstJawRow + static_cast<double>(best) - 0.5, sign * slopes[best]};
    if (best > 0 && best + 1 < slopes.size()) {
        const double bend = slopes[best - 1] - 2.0 * slopes[best] + slopes[best + 1];
        if (sign * bend < 0.0) step.row += 0.5 * (slopes[best - 1] - slopes[best + 1]) / bend;
    }
    return step;
}

/// What the columns agree on.
struct JawAgreed {
    double row = 0.0, strength = 0.0, spread = 0.0;
};
JawAgreed jawAgreed(const std::vector<std::vector<double>>& slopes, double sign) {
    std::vector<double> rows, strengths, apart;
    for (const auto& column : slopes) {
        const JawStep step = strongestStep(column, sign);
        rows.push_back(step.row);
        strengths.push_back(step.strength);
    }
    JawAgreed made{image::median(rows), image::median(strengths), 0.0};
    for (const double row : rows) apart.push_back(std::abs(row - made.row));
    made.spread = image::median(apart);
    return made;
}

}  // namespace

std::optional<ChinEdge> chinEdge(const image::CodedFrame& frame, const face::Face& face) {
    const double scale =
        std::hypot(face.chin.x - face.eyes.x, face.chin.y - face.eyes.y) / kFaceRows;
    const int last = lastRow(face.turnDegrees);
    if (scale < 0.15 || face.chin.y + (last + 3) * scale > frame.height) return std::nullopt;
    const image::SignalSampler sampler(frame);
    const JawColumn picture(frame, sampler, scale);
    std::vector<std::vector<double>> slopes;
    for (int dx = -kJawColumns; dx <= kJawColumns; ++dx) {
        std::vector<double> values;
        for (int row = kFirstJawRow - 2; row <= last + 1; ++row) {
            double sum = 0.0;
            for (int beside = -1; beside <= 1; ++beside)
                sum += picture.at(face.chin.x + (dx + beside) * scale, face.chin.y + row * scale);
            values.push_back(sum / 3.0);
        }
        std::vector<double> column;
        for (std::size_t k = 2; k + 1 < values.size(); ++k)
            column.push_back(0.5 * (values[k] + values[k + 1] - values[k - 1] - values[k - 2]));
        slopes.push_back(std::move(column));
    }
    const JawAgreed toLight = jawAgreed(slopes, 1.0), toDark = jawAgreed(slopes, -1.0);
    const auto holds = [](const JawAgreed& one) {
        return one.strength > kLeastJawStep && one.spread < kJawSpread;
    };
    // Under a lit chin lies the jaw's own shade, and its edge is where the neck begins: the lower
    // of the two, where both are there.
    const bool isLight = holds(toLight) && toLight.strength > kOfOtherStep * toDark.strength;
    if (!isLight && !holds(toDark)) return std::nullopt;
    if (isLight) return ChinEdge{face.chin.y + weighed(toLight.row) * scale, kJawDoubt};
    // Where light ends the chin may still go on in its own shade.
    return ChinEdge{face.chin.y + std::max(0.0, weighed(toDark.row)) * scale, kShadedJawDoubt};
}

}  // namespace rigmatch::framing
