// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/moving_people.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "sim/random.h"
#include "sim/stand_in.h"

namespace rigmatch::sim {
namespace {

constexpr double kHips = 0.55, kShoulders = 0.12;  // m below the head's middle, at scale 1
constexpr double kRoomPx = 4.0;                    // beside the farthest that anything moves
constexpr double kFarthestMetres = 0.16;           // that anything moves

double smoothStep(double from, double to, double at) {
    const double share = std::clamp((at - from) / (to - from), 0.0, 1.0);
    return share * share * (3.0 - 2.0 * share);
}

std::size_t placeOf(int column, int row, int width) {
    return static_cast<std::size_t>(row) * static_cast<std::size_t>(width) +
           static_cast<std::size_t>(column);
}

/// Lays what a part shows at a place of its own over one pixel.
void layPixel(const MovingPart& seen, image::Point from, std::size_t to, image::Frame& onto) {
    const int column = static_cast<int>(std::floor(from.x)),
              row = static_cast<int>(std::floor(from.y));
    if (column < 0 || row < 0 || column + 1 >= seen.box.width || row + 1 >= seen.box.height) return;
    const auto across = static_cast<float>(from.x - column),
               down = static_cast<float>(from.y - row);
    const std::size_t at = placeOf(column, row, seen.box.width);
    const std::size_t below = at + static_cast<std::size_t>(seen.box.width);
    const auto mix = [&](const std::vector<float>& plane) {
        return (1.0F - down) * ((1.0F - across) * plane[at] + across * plane[at + 1]) +
               down * ((1.0F - across) * plane[below] + across * plane[below + 1]);
    };
    const float cover = mix(seen.cover);
    if (cover <= 0.0F) return;
    for (std::size_t c = 0; c < 3; ++c) {
        float& value = onto.channels[c][to];
        value = (1.0F - cover) * value + mix(seen.colour.channels[c]);
    }
}

/// Means of a box about every pixel, of what is covered alone.
void spread(std::vector<float>& plane, int width, int height, int reach) {
    std::vector<float> sums(plane.size());
    for (const bool isAcross : {true, false}) {
        const int lines = isAcross ? height : width, length = isAcross ? width : height;
        for (int line = 0; line < lines; ++line) {
            double sum = 0.0;
            const auto at = [&](int i) {
                return isAcross ? placeOf(i, line, width) : placeOf(line, i, width);
            };
            for (int i = 0; i < std::min(reach, length); ++i) sum += double(plane[at(i)]);
            for (int i = 0; i < length; ++i) {
                if (i + reach < length) sum += double(plane[at(i + reach)]);
                if (i - reach - 1 >= 0) sum -= double(plane[at(i - reach - 1)]);
                sums[at(i)] = static_cast<float>(sum);
            }
        }
        plane.swap(sums);
    }
}

/// Heights as a smooth field that goes on a little beyond the part's edge.
std::vector<float> heightField(const MovingPart& part, double pxPerMetre) {
    const int reach = std::clamp(static_cast<int>(0.05 * pxPerMetre), 2, 60);
    std::vector<float> sums = part.height, covers = part.cover;
    // Only where something is: heights and covers of the same pixels.
    for (std::size_t i = 0; i < covers.size(); ++i)
        covers[i] = part.height[i] > 0.0F ? part.cover[i] : 0.0F;
    for (int round = 0; round < 2; ++round) {
        spread(sums, part.box.width, part.box.height, reach);
        spread(covers, part.box.width, part.box.height, reach);
    }
    for (std::size_t i = 0; i < sums.size(); ++i)
        sums[i] = covers[i] > 1e-6F ? sums[i] / covers[i] : -1.0F;
    return sums;
}

double bodyScale(const plan::Head& head) { return std::clamp(head.scale, 0.75, 1.1); }

/// First and last column of every row; the last before the first where nothing is.
std::vector<std::pair<int, int>> coveredColumns(const MovingPart& part) {
    std::vector<std::pair<int, int>> columns;
    for (int y = 0; y < part.box.height; ++y) {
        const auto row = part.cover.begin() + static_cast<long>(y) * part.box.width;
        const auto isThere = [](float cover) { return cover > 0.0F; };
        const auto first = std::find_if(row, row + part.box.width, isThere);
        int last = part.box.width - 1;
        while (last >= 0 && !isThere(row[last])) --last;
        columns.emplace_back(static_cast<int>(first - row), last);
    }
    return columns;
}

/// Hands that open a little, meet, rest on each other and part again.
double clapShare(double after) {
    constexpr double kLift = 0.35, kFall = 0.10, kRest = 0.08, kPart = 0.40;  // s
    constexpr double kOpen = -0.35;  // of the way, outwards
    if (after < -kLift || after > kRest + kPart) return 0.0;
    if (after < -kFall) return kOpen * smoothStep(-kLift, -kFall, after);
    if (after < 0.0) {
        const double share = 1.0 + after / kFall;
        return kOpen + (1.0 - kOpen) * share * share;  // ever faster
    }
    return 1.0 - smoothStep(kRest, kRest + kPart, after);
}

}  // namespace

image::PixelRect joined(image::PixelRect a, image::PixelRect b) {
    if (a.width <= 0 || a.height <= 0) return b;
    if (b.width <= 0 || b.height <= 0) return a;
    const int left = std::min(a.x, b.x), top = std::min(a.y, b.y);
    return {left,
            top,
            std::max(a.x + a.width, b.x + b.width) - left,
            std::max(a.y + a.height, b.y + b.height) - top};
}

Pose poseAt(std::size_t person,
            const plan::Head& head,
            double seconds,
            double length,
            std::uint64_t seed,
            std::optional<double> clapSeconds) {
    Random random(seed * 1000003U + 7919U * static_cast<std::uint64_t>(person) + 11U);
    const auto phase = [&] { return 2.0 * std::numbers::pi * random.unit(); };
    const auto wave = [&](double perSecond) {
        return std::sin(2.0 * std::numbers::pi * perSecond * seconds + phase());
    };
    const double aside = 0.011 * wave(0.21) + 0.004 * wave(0.57);
    const double slowly = 0.010 * wave(0.13) + 0.003 * wave(0.43);
    // One after the other leans toward what is looked at.
    const double lean = (0.30 + 0.28 * static_cast<double>(person % 2U)) * length;
    const double wide = std::clamp(0.16 * length, 0.5, 1.5);
    const double leaning = 0.055 * std::exp(-0.5 * std::pow((seconds - lean) / (0.5 * wide), 2.0));
    Pose pose;
    pose.sway = aside * head.left + (slowly + leaning) * head.forward -
                0.18 * (slowly + leaning) * Vec::UnitY();
    if (clapSeconds) pose.clap = clapShare(seconds - *clapSeconds);
    return pose;
}

MovingPeople::MovingPeople(const rig::SetPlan& plan,
                           const View& view,
                           const std::vector<MovingPart>& parts,
                           double length,
                           std::uint64_t seed,
                           std::optional<double> clapSeconds)
    : m_view(view), m_length(length), m_seed(seed), m_clapSeconds(clapSeconds) {
    const auto people = plan::objectsOf(plan, rig::PlanKind::Person);
    for (const MovingPart& seen : parts) {
        const auto index = static_cast<std::size_t>(seen.person);
        if (index >= people.size()) continue;
        Part part;
        part.seen = &seen;
        part.head = plan::headOf(*people[index]);
        const double pxPerMetre = view.focalPx() / std::max(seen.metres, 0.05);
        if (seen.part != kTrunk)
            part.handMetres = (seen.part == kLeftForearm ? 1.0 : -1.0) * kHandAside;
        const double scale = bodyScale(part.head), eyes = part.head.centre.y();
        for (const float metres : heightField(seen, pxPerMetre)) {
            const auto share = [&](double upTo) {
                if (metres < 0.0F) return -1.0F;
                return static_cast<float>(
                    smoothStep(eyes - kHips * scale, eyes - upTo * scale, double(metres)));
            };
            part.sways.push_back(share(kShoulders));
            if (part.handMetres != 0.0) part.reaches.push_back(share(kWristDown));
        }
        part.covered = coveredColumns(seen);
        m_parts.push_back(std::move(part));
        const int room = static_cast<int>(kFarthestMetres * pxPerMetre + kRoomPx);
        m_region = joined(m_region,
                          {seen.box.x - room,
                           seen.box.y - room,
                           seen.box.width + 2 * room,
                           seen.box.height + 2 * room});
    }
    const int left = std::clamp(m_region.x, 0, view.width),
              top = std::clamp(m_region.y, 0, view.height);
    m_region = {left,
                top,
                std::clamp(m_region.x + m_region.width, left, view.width) - left,
                std::clamp(m_region.y + m_region.height, top, view.height) - top};
    // Whoever sits farther off comes first, and hands lie over their own body.
    std::map<int, double> away;
    for (const Part& part : m_parts) {
        auto& metres = away[part.seen->person];
        metres = std::max(metres, part.seen->metres);
    }
    std::stable_sort(m_parts.begin(), m_parts.end(), [&](const Part& a, const Part& b) {
        if (a.seen->person != b.seen->person) return away[a.seen->person] > away[b.seen->person];
        return a.seen->part < b.seen->part;
    });
}

void MovingPeople::lay(double seconds, image::PixelRect piece, image::Frame& onto) const {
    for (const Part& part : m_parts) {
        const Pose pose = poseAt(static_cast<std::size_t>(part.seen->person),
                                 part.head,
                                 seconds,
                                 m_length,
                                 m_seed,
                                 m_clapSeconds);
        layPart(part, pose, piece, onto);
    }
}

MovingPeople::Shift MovingPeople::shiftOf(const Part& part, const Pose& pose) const {
    const double scale = bodyScale(part.head);
    // As the head goes, so goes the picture of it, and nearer is larger.
    const Vec ahead = (m_view.aim - m_view.position).normalized();
    Shift shift;
    shift.middle = m_view.project(part.head.centre);
    const image::Point moved = m_view.project(part.head.centre + pose.sway);
    const double depth = (part.head.centre - m_view.position).dot(ahead);
    shift.larger = depth / std::max(depth + pose.sway.dot(ahead), 0.1) - 1.0;
    shift.by = {moved.x - shift.middle.x, moved.y - shift.middle.y};
    if (part.handMetres != 0.0 && pose.clap != 0.0) {
        const Vec at =
            part.head.centre + scale * (part.handMetres * part.head.left -
                                        kHandDown * Vec::UnitY() + kHandAhead * part.head.forward);
        const Vec to = at - pose.clap * scale *
                                (part.handMetres - std::copysign(kPalm, part.handMetres)) *
                                part.head.left;
        const image::Point before = m_view.project(at), after = m_view.project(to);
        shift.hand = {after.x - before.x, after.y - before.y};
    }
    const double pxPerMetre = m_view.focalPx() / std::max(part.seen->metres, 0.05);
    shift.roomPx =
        static_cast<int>(std::hypot(shift.by.x, shift.by.y) + std::abs(shift.larger) * pxPerMetre +
                         std::hypot(shift.hand.x, shift.hand.y) + kRoomPx);
    return shift;
}

image::Point MovingPeople::sourceOf(const Part& part, const Shift& shift, double x, double y) {
    const image::PixelRect& box = part.seen->box;
    double sx = x, sy = y;
    constexpr int kSteps = 2;
    for (int i = 0; i < kSteps; ++i) {
        const int column = std::clamp(static_cast<int>(sx) - box.x, 0, box.width - 1),
                  row = std::clamp(static_cast<int>(sy) - box.y, 0, box.height - 1);
        const std::size_t at = placeOf(column, row, box.width);
        const auto weight = static_cast<double>(part.sways[at]);
        if (weight < 0.0) break;
        const double reach = part.reaches.empty() ? 0.0 : static_cast<double>(part.reaches[at]);
        sx = x - weight * (shift.by.x + shift.larger * (x - shift.middle.x)) - reach * shift.hand.x;
        sy = y - weight * (shift.by.y + shift.larger * (y - shift.middle.y)) - reach * shift.hand.y;
    }
    return {sx - box.x, sy - box.y};
}

void MovingPeople::layPart(const Part& part,
                           const Pose& pose,
                           image::PixelRect piece,
                           image::Frame& onto) const {
    const image::PixelRect& box = part.seen->box;
    const Shift shift = shiftOf(part, pose);
    const int room = shift.roomPx;
    const int fromX = std::max(piece.x, box.x - room),
              toX = std::min(piece.x + piece.width, box.x + box.width + room);
    const int fromY = std::max(piece.y, box.y - room),
              toY = std::min(piece.y + piece.height, box.y + box.height + room);
    for (int y = fromY; y < toY; ++y) {
        // Rows go up and down by a little as people lean.
        int first = box.width, last = -1;
        const int top = std::max(0, y - box.y - room),
                  bottom = std::min(box.height - 1, y - box.y + room);
        for (int row = top; row <= bottom; ++row) {
            first = std::min(first, part.covered[static_cast<std::size_t>(row)].first);
            last = std::max(last, part.covered[static_cast<std::size_t>(row)].second);
        }
        const int end = std::min(toX, box.x + last + 1 + room);
        for (int x = std::max(fromX, box.x + first - room); x < end; ++x)
            layPixel(*part.seen,
                     sourceOf(part, shift, x, y),
                     placeOf(x - piece.x, y - piece.y, piece.width),
                     onto);
    }
}

}  // namespace rigmatch::sim
