// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_finder.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <opencv2/core/utility.hpp>

#include "base/format.h"
#include "chart/chart_placement.h"
#include "chart/pose_refine.h"
#include "colour/transfer.h"
#include "image/robust.h"

namespace rigmatch::chart {
namespace {

using base::ErrorCode;
using base::Result;

constexpr int kWorkingWidth = 960;
constexpr std::size_t kSmallestLattice = 9;
// Few patches are sooner alike by chance: they must agree better.
constexpr std::size_t kFewPatches = 20;
constexpr std::size_t kSmallestOfFew = 7;
constexpr double kFewAgree = 0.85;
constexpr std::size_t kMostLattices = 12;
constexpr int kRowsApart = 16;         // a sample of rows tells black and white pictures
constexpr double kSpecks = 0.0005;     // of a black picture may be brighter
constexpr double kSecondChart = 0.85;  // agreement that a further chart needs

/// The library's own threads cost more than they bring on pictures of this size, and files are
/// measured side by side anyway.
void useOneThread() {
    static const bool kIsSet = [] {
        cv::setNumThreads(1);
        return true;
    }();
    (void)kIsSet;
}

/// What one pass over the frame saw, for the chart or for the reason why not.
struct Sight {
    std::optional<FoundChart> chart;
    bool isPartOutside = false;
    std::size_t largestLattice = 0;
};

/// Working px of a picture shrunken by `step` to frame px (and its inverse).
image::Homography toFramePx(int step) {
    Eigen::Matrix3d matrix;
    const double shift = 0.5 * step - 0.5;
    matrix << step, 0, shift, 0, step, shift, 0, 0, 1;
    return image::Homography(matrix);
}

bool isInsideFrame(const ChartPose& pose, const image::CodedFrame& frame) {
    return std::all_of(pose.corners.begin(), pose.corners.end(), [&](const image::Point& p) {
        return p.x > -1.5 && p.y > -1.5 && p.x < frame.width + 0.5 && p.y < frame.height + 0.5;
    });
}

/// A placement, and how large the chart would be there: area of its field, working px².
struct Candidate {
    Placement placement;
    image::Point centre;
    double area = 0.0;
};

Candidate candidateOf(const Placement& placement, const ReferenceChart& chart) {
    const double right = static_cast<double>(chart.columns) - 1.0;
    const double bottom = static_cast<double>(chart.rows) - 1.0;
    std::array<image::Point, 4> quad{image::Point{0, 0}, {right, 0}, {right, bottom}, {0, bottom}};
    for (image::Point& corner : quad) corner = placement.toPicture.apply(corner);
    return {placement,
            placement.toPicture.apply({0.5 * right, 0.5 * bottom}),
            std::abs(image::signedArea(quad))};
}

/// Candidates on other places than those before them: several lattices grow on one chart.
std::vector<Candidate> distinct(std::vector<Candidate> candidates) {
    std::sort(candidates.begin(), candidates.end(), [](const Candidate& a, const Candidate& b) {
        return a.placement.score > b.placement.score;
    });
    std::vector<Candidate> kept;
    for (const Candidate& candidate : candidates) {
        const bool isNew = std::none_of(kept.begin(), kept.end(), [&](const Candidate& other) {
            return image::distancePx(candidate.centre, other.centre) <
                   0.6 * std::sqrt(std::max(candidate.area, other.area));
        });
        // A second chart is as plainly one as the first.
        if (isNew && (kept.empty() || candidate.placement.score >= kSecondChart))
            kept.push_back(candidate);
    }
    std::sort(kept.begin(), kept.end(), [](const Candidate& a, const Candidate& b) {
        return a.area > b.area;
    });
    return kept;
}

double fittedShare(const RefinedPose& refined, const ReferenceChart& chart) {
    return static_cast<double>(refined.patchesUsed) / static_cast<double>(chart.patches.size());
}

/// Lays the chart on lattices found at `latticeStep`, with colours sampled from a picture at
/// `colourStep`; of several charts the largest whose edges fit is taken.
Sight judge(const image::CodedFrame& frame,
            std::vector<PatchLattice> lattices,
            int latticeStep,
            const StretchedPicture& colour,
            int colourStep,
            double leastAgreement,
            const ReferenceChart& chart,
            const ChartPlacer& placer) {
    Sight sight;
    if (!lattices.empty()) sight.largestLattice = lattices.front().nodes.size();
    const image::Homography toColour =
        toFramePx(colourStep).inverse().after(toFramePx(latticeStep));
    std::vector<Candidate> candidates;
    for (std::size_t i = 0; i < std::min(lattices.size(), kMostLattices); ++i) {
        lattices[i].toPicture = toColour.after(lattices[i].toPicture);
        const auto placement = placer.best(colour, lattices[i]);
        if (!placement || placement->score < leastAgreement) continue;
        if (!placement->isInside) {
            sight.isPartOutside = true;
            continue;
        }
        candidates.push_back(candidateOf(*placement, chart));
    }
    const std::vector<Candidate> charts = distinct(std::move(candidates));
    for (const Candidate& candidate : charts) {
        const auto refined = refinePose(frame,
                                        toFramePx(colourStep).after(candidate.placement.toPicture),
                                        chart.columns,
                                        chart.rows);
        if (!refined) continue;
        if (!isInsideFrame(refined->pose, frame)) {
            sight.isPartOutside = true;
            continue;
        }
        const double fitted = fittedShare(*refined, chart);
        sight.chart = FoundChart{
            refined->pose,
            std::clamp(0.5 * candidate.placement.score + 0.5 * std::sqrt(fitted), 0.0, 1.0),
            refined->patchesUsed,
            static_cast<int>(charts.size()) - 1};
        return sight;
    }
    return sight;
}

tl::unexpected<base::Error> notFound(base::Text detail, base::Text hint) {
    return base::fail(ErrorCode::ChartNotFound,
                      base::say("chartFinder.noChartFound"),
                      std::move(detail),
                      std::move(hint));
}

tl::unexpected<base::Error> reasonFor(const image::CodedFrame& frame,
                                      bool isPartOutside,
                                      std::size_t largest,
                                      const ReferenceChart& chart) {
    if (isPartOutside) {
        return notFound(base::say("chartFinder.chartPartlyOutside"),
                        base::say("chartFinder.moveIntoFrame",
                                  {{"patches", base::whole(chart.patches.size())}}));
    }
    std::vector<float> green;
    const int step = std::max(1, frame.width / kWorkingWidth);
    for (int y = 0; y < image::shrunkSize(frame.height, step); y += kRowsApart) {
        const image::Frame row = image::shrunkRows(frame, step, y, 1);
        green.insert(green.end(), row.channels[1].begin(), row.channels[1].end());
    }
    const auto above = [&](float level) {
        const auto count =
            std::count_if(green.begin(), green.end(), [&](float v) { return v > level; });
        return static_cast<double>(count) / static_cast<double>(green.size());
    };
    if (above(0.98F) > 0.5) {
        return notFound(base::say("chartFinder.moreThanHalf"),
                        base::say("chartFinder.lowerExposureShoot"));
    }
    if (above(0.08F) < kSpecks) {
        return notFound(base::say("chartFinder.pictureBlack"),
                        base::say("chartFinder.takeOffLens"));
    }
    if (largest > 0) {
        return notFound(
            base::say("chartFinder.gridFieldsSeen", {{"largest", base::whole(largest)}}),
            base::say("chartFinder.showWholeChart"));
    }
    return notFound(base::say("chartFinder.noGridPatches"),
                    base::say("chartFinder.holdChartLarger"));
}

}  // namespace

double coloursAgree(const image::CodedFrame& frame,
                    const ChartPose& pose,
                    const ReferenceChart& chart) {
    constexpr int kAround = 2;  // px on each side of a patch's centre
    std::array<std::vector<double>, 3> measured;
    std::array<std::vector<double>, 3> expected;
    const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Srgb);
    const image::SignalSampler signal(frame);
    const image::Homography map = pose.fieldToPicture();
    for (std::size_t patch = 0; patch < chart.patches.size(); ++patch) {
        const image::Point p = map.apply(pose.patchCentre(patch));
        std::array<double, 3> sum{};
        for (int dy = -kAround; dy <= kAround; ++dy) {
            for (int dx = -kAround; dx <= kAround; ++dx) {
                const auto rgb = signal.at(
                    std::clamp(static_cast<int>(std::lround(p.x)) + dx, 0, frame.width - 1),
                    std::clamp(static_cast<int>(std::lround(p.y)) + dy, 0, frame.height - 1));
                for (std::size_t c = 0; c < 3; ++c) sum[c] += double(rgb[c]);
            }
        }
        for (std::size_t c = 0; c < 3; ++c) {
            measured[c].push_back(sum[c]);
            expected[c].push_back(curve.encode(chart.patches[patch].linear(static_cast<long>(c))));
        }
    }
    double agreement = 0.0;
    for (std::size_t c = 0; c < 3; ++c)
        agreement += image::rankCorrelation(measured[c], expected[c]) / 3.0;
    return agreement;
}

Result<FoundChart> findChart(const image::CodedFrame& frame,
                             const FinderOptions& options,
                             const ReferenceChart& chart) {
    if (!chart.isSearchable()) {
        return notFound(base::say("chartFinder.notLookedMarked", {{"chart", chart.name}}),
                        base::say("chartFinder.setFourCorners"));
    }
    if (frame.width < 48 || frame.height < 32) {
        return notFound(
            base::say("chartFinder.pictureOnlyPx",
                      {{"width", base::whole(frame.width)}, {"height", base::whole(frame.height)}}),
            base::say("chartFinder.useFootageLeast"));
    }
    useOneThread();
    const int step =
        std::max(1, static_cast<int>(std::lround(double(frame.width) / kWorkingWidth)));
    const StretchedPicture colour = stretchedColour(frame, step);
    const bool isSmall = chart.patches.size() < kFewPatches;
    const std::size_t smallestLattice = isSmall ? kSmallestOfFew : kSmallestLattice;
    const double leastAgreement =
        isSmall ? std::max(options.leastAgreement, kFewAgree) : options.leastAgreement;
    const ChartPlacer placer(chart);
    bool isPartOutside = false;
    std::size_t largest = 0;
    const auto isFound = [&](const Sight& sight) {
        isPartOutside = isPartOutside || sight.isPartOutside;
        largest = std::max(largest, sight.largestLattice);
        return sight.chart.has_value();
    };
    const auto lookAt = [&](const StretchedPicture& picture, int pictureStep) {
        return judge(frame,
                     growLattices(flatPatches(picture), smallestLattice),
                     pictureStep,
                     colour,
                     step,
                     leastAgreement,
                     chart,
                     placer);
    };
    Sight sight = lookAt(colour, step);
    if (isFound(sight)) return *sight.chart;
    // Large noisy or soft charts show better coarsely.
    sight = lookAt(halved(colour), step * 2);
    if (isFound(sight)) return *sight.chart;
    if (options.effort == Effort::Full && step >= 2) {
        // Small charts show at full size, where luma alone is as sharp as the picture gets.
        sight = lookAt(stretchedLuma(frame), 1);
        if (isFound(sight)) return *sight.chart;
    }
    return reasonFor(frame, isPartOutside, largest, chart);
}

Result<FoundChart> followChart(const image::CodedFrame& frame,
                               const ChartPose& near,
                               const ReferenceChart& chart) {
    const auto refined = refinePose(frame, roughMap(near), chart.columns, chart.rows);
    if (!refined || !isInsideFrame(refined->pose, frame)) {
        return notFound(base::say("chartFinder.chartsEdgesNot"),
                        base::say("chartFinder.keepChartStill"));
    }
    const double agreement = coloursAgree(frame, refined->pose, chart);
    if (agreement < FinderOptions{}.leastAgreement) {
        return notFound(base::say("chartFinder.coloursThereNot"),
                        base::say("chartFinder.setCornersFour"));
    }
    const double fitted = fittedShare(*refined, chart);
    return FoundChart{refined->pose,
                      std::clamp(0.5 * agreement + 0.5 * std::sqrt(fitted), 0.0, 1.0),
                      refined->patchesUsed,
                      0};
}

}  // namespace rigmatch::chart
