// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/picture_drift.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <opencv2/calib3d.hpp>
#include <opencv2/features2d.hpp>
#include <opencv2/imgproc.hpp>

#include "framing/edge_width.h"
#include "framing/luma_picture.h"
#include "framing/tile_align.h"

namespace rigmatch::framing {
namespace {

constexpr std::array<std::string_view, 10> kNames{
    "none", "pan", "tilt", "roll", "zoom", "focus", "modeCrop", "lens", "moved", "unknown"};

constexpr int kWidth = 1920;
constexpr int kFeatures = 4000;
constexpr double kSmooth = 1.2;  // px: noise makes features of its own
constexpr float kRatio = 0.8F;   // Lowe's, of the best distance over the second
constexpr int kLeastPoints = 10;
constexpr double kFloorPx = 0.03, kFloorDegrees = 0.003, kFloorScale = 8e-5;
constexpr double kLeastAlike = 0.25, kSurelyAlike = 0.6;
constexpr double kSure = 3.0;        // times the uncertainty from which a change is one
constexpr double kOff = 0.3;         // share of tiles off the homography that tell depth
constexpr double kBreathing = 0.02;  // of scale that focus makes, at most
constexpr double kSofter = 1.22;     // of edge widths
constexpr double kUnlike = 1.35;     // of edge widths, from where one picture is made as soft
constexpr double kSlightPx = 1.0;    // that such pictures may lie apart
constexpr double kBendSure = 15.0;   // times its uncertainty from which lines bow otherwise
constexpr double kBendPx = 2.0;      // that the sides lie off by it
constexpr double kBowedOff = 0.6;    // of the tiles that lay off, at most, where it was the lens
// Shadows of people and other light move more than their own scatter tells (drift figures).
constexpr double kFewTiles = 60.0, kUsualTiles = 180.0;
constexpr double kWiderShift = 1.1, kWiderRoll = 1.4, kWiderScale = 1.25;

/// Where people are, and how far they may move.
cv::Mat withoutPeople(const LumaPicture& picture,
                      const std::vector<face::Face>& people,
                      double room) {
    cv::Mat mask(picture.luma.size(), CV_8U, cv::Scalar(255));
    for (const face::Face& face : people) {
        const double left = (face.left - 1.2 * room * face.width) / picture.step;
        const double right = (face.left + (1.0 + 1.2 * room) * face.width) / picture.step;
        const double top = (face.top - 0.9 * face.height) / picture.step;
        const cv::Rect body(cvRound(left), cvRound(top), cvRound(right - left), mask.rows);
        cv::rectangle(mask, body, 0, cv::FILLED);
        // Shoulders and arms.
        const double low = (face.top + 1.2 * face.height) / picture.step;
        const cv::Rect arms(cvRound((face.left - 2.0 * room * face.width) / picture.step),
                            cvRound(low),
                            cvRound((1.0 + 4.0 * room) * face.width / picture.step),
                            mask.rows);
        cv::rectangle(mask, arms, 0, cv::FILLED);
    }
    return mask;
}

struct Matches {
    std::vector<cv::Point2f> before, after;  ///< px of the frames
};

Matches matched(const LumaPicture& first,
                const cv::Mat& firstMask,
                const LumaPicture& second,
                const cv::Mat& secondMask) {
    const auto sift = cv::SIFT::create(kFeatures, 3, 0.01);
    cv::Mat firstSmooth, secondSmooth;
    cv::GaussianBlur(first.luma, firstSmooth, {}, kSmooth);
    cv::GaussianBlur(second.luma, secondSmooth, {}, kSmooth);
    std::vector<cv::KeyPoint> firstKeys, secondKeys;
    cv::Mat firstWords, secondWords;
    sift->detectAndCompute(firstSmooth, firstMask, firstKeys, firstWords);
    sift->detectAndCompute(secondSmooth, secondMask, secondKeys, secondWords);
    Matches matches;
    if (firstKeys.size() < 4 || secondKeys.size() < 4) return matches;
    const cv::BFMatcher matcher(cv::NORM_L2);
    std::vector<std::vector<cv::DMatch>> there, back;
    matcher.knnMatch(firstWords, secondWords, there, 2);
    matcher.knnMatch(secondWords, firstWords, back, 1);
    for (const auto& pair : there) {
        if (pair.size() < 2 || pair[0].distance > kRatio * pair[1].distance) continue;
        const auto& returned = back[static_cast<std::size_t>(pair[0].trainIdx)];
        if (returned.empty() || returned[0].trainIdx != pair[0].queryIdx) continue;
        const cv::Point2f a = firstKeys[static_cast<std::size_t>(pair[0].queryIdx)].pt;
        const cv::Point2f b = secondKeys[static_cast<std::size_t>(pair[0].trainIdx)].pt;
        matches.before.emplace_back(first.toFrame(a.x, a.y));
        matches.after.emplace_back(second.toFrame(b.x, b.y));
    }
    return matches;
}

/// What a homography does at a place: shift, roll, scale.
struct Local {
    double x = 0.0, y = 0.0, roll = 0.0, scale = 1.0;
};
Local localOf(const cv::Matx33d& h, double x, double y) {
    const auto apply = [&](double px, double py) {
        const cv::Vec3d v = h * cv::Vec3d(px, py, 1.0);
        return cv::Point2d(v[0] / v[2], v[1] / v[2]);
    };
    constexpr double kStep = 4.0;
    const cv::Point2d at = apply(x, y), right = apply(x + kStep, y), left = apply(x - kStep, y),
                      down = apply(x, y + kStep), up = apply(x, y - kStep);
    const cv::Point2d dx = (right - left) * (0.5 / kStep), dy = (down - up) * (0.5 / kStep);
    Local local;
    local.x = at.x - x;
    local.y = at.y - y;
    local.roll = std::atan2(dx.y - dy.x, dx.x + dy.y) * 180.0 / std::numbers::pi;
    local.scale = std::sqrt(std::abs(dx.x * dy.y - dx.y * dy.x));
    return local;
}

/// How much farther the edges go than the middle: in px per square of the picture's width from it,
/// along the width of a shift along the width, and so for the height.
std::array<double, 2> bendOf(const cv::Matx33d& h, int width, int height) {
    const double x = 0.5 * (width - 1), y = 0.5 * (height - 1), reach = 0.25 * width;
    const auto shift = [&](double px, double py) {
        const cv::Vec3d v = h * cv::Vec3d(px, py, 1.0);
        return cv::Point2d(v[0] / v[2] - px, v[1] / v[2] - py);
    };
    const cv::Point2d middle = shift(x, y);
    const auto bend = [&](const cv::Point2d& one, const cv::Point2d& other) {
        return 0.5 * (one + other - 2.0 * middle) * 16.0;
    };
    return {bend(shift(x + reach, y), shift(x - reach, y)).x,
            bend(shift(x, y + reach), shift(x, y - reach)).y};
}

/// A camera that is turned about its lens bends the picture as the lens's view says: by the shift
/// times the square of width over focal length, and not across the shift. One that is carried aside
/// bends it as the wall stands. Lenses from 0.4 to 7 widths of focal length are reckoned with.
bool isTurnedOtherwise(const std::array<double, 2>& bend,
                       const std::array<double, 2>& doubt,
                       const std::array<double, 2>& shift) {
    constexpr double kLeast = 0.02, kMost = 6.0, kFloorBend = 1.0, kOfShift = 0.02;
    const double floor = kFloorBend + kOfShift * std::hypot(shift[0], shift[1]);
    for (std::size_t k = 0; k < 2; ++k) {
        const auto [low, high] = std::minmax({kLeast * shift[k], kMost * shift[k]});
        const double beyond = std::max(low - bend[k], bend[k] - high);
        if (beyond > 4.0 * doubt[k] + floor) return true;
    }
    return false;
}

/// Between px of the frames and of the smaller pictures, whose pixels are whole areas.
cv::Matx33d toSmall(const LumaPicture& picture) {
    const double s = 1.0 / picture.step;
    return {s, 0, 0.5 * s - 0.5, 0, s, 0.5 * s - 0.5, 0, 0, 1};
}
/// A recording of another size brought to the later file's.
cv::Matx33d resized(const image::CodedFrame& reference, const image::CodedFrame& frame) {
    const double x = static_cast<double>(frame.width) / reference.width,
                 y = static_cast<double>(frame.height) / reference.height;
    return {x, 0, 0.5 * x - 0.5, 0, y, 0.5 * y - 0.5, 0, 0, 1};
}
cv::Matx33d smallOf(const cv::Matx33d& h,
                    const image::CodedFrame& reference,
                    const LumaPicture& first,
                    const image::CodedFrame& frame,
                    const LumaPicture& second) {
    return toSmall(second) * h * resized(reference, frame) * toSmall(first).inv();
}
cv::Matx33d largeOf(const cv::Matx33d& h,
                    const image::CodedFrame& reference,
                    const LumaPicture& first,
                    const image::CodedFrame& frame,
                    const LumaPicture& second) {
    return toSmall(second).inv() * h * toSmall(first) * resized(reference, frame).inv();
}

/// The same of an alignment: what was carried, and not turned.
bool isBentOtherwise(const Alignment& align,
                     const image::CodedFrame& reference,
                     const LumaPicture& first,
                     const image::CodedFrame& frame,
                     const LumaPicture& second) {
    const cv::Matx33d large = largeOf(align.h, reference, first, frame, second);
    const Local local = localOf(large, 0.5 * (frame.width - 1), 0.5 * (frame.height - 1));
    return isTurnedOtherwise(
        bendOf(large, frame.width, frame.height),
        {second.step * std::sqrt(align.spread(6, 6)), second.step * std::sqrt(align.spread(7, 7))},
        {local.x, local.y});
}

/// Lines bow otherwise than they did, by more than a pixel at the sides.
bool isBowed(const Alignment& align, int width) {
    const double doubt = std::sqrt(align.spread(8, 8)) / width;
    return std::abs(align.bend) > kBendSure * doubt &&
           std::abs(align.bend) * 0.125 * width > kBendPx;
}

/// Makes the sharper of two pictures as soft as the other: edges of unlike width do not lie on each
/// other to a fraction of a pixel.
void makeAlike(cv::Mat& first, double firstPx, cv::Mat& second, double secondPx) {
    if (std::max(firstPx, secondPx) < kUnlike * std::min(firstPx, secondPx)) return;
    constexpr double kOfGaussian = 2.563;  // 10 to 90 %, in standard deviations
    const double sigma = std::sqrt(std::abs(firstPx * firstPx - secondPx * secondPx)) / kOfGaussian;
    cv::Mat& sharper = firstPx < secondPx ? first : second;
    cv::GaussianBlur(sharper, sharper, {}, sigma);
}

bool isCropRatio(double scale, double doubt) {
    // Readouts that cameras change to (common practice).
    const double size = scale > 1.0 ? scale : 1.0 / scale;
    constexpr std::array<double, 9> kRatios{1.1, 1.19, 1.25, 1.3, 1.33333, 1.5, 1.6, 1.7, 2.0};
    return std::any_of(kRatios.begin(), kRatios.end(), [&](double ratio) {
        return std::abs(size - ratio) < 0.004 * ratio + 3.0 * doubt;
    });
}

DriftCause causeOf(const PictureDrift& drift, bool isOff, int width) {
    const auto isSure = [](double value, double doubt) { return std::abs(value) > kSure * doubt; };
    const double zoomed = drift.scale - 1.0;
    const bool hasX = isSure(drift.shiftPx[0], drift.shiftUncertaintyPx);
    const bool hasY = isSure(drift.shiftPx[1], drift.shiftUncertaintyPx);
    const bool hasRoll = isSure(drift.rollDegrees, drift.rollUncertaintyDegrees);
    const bool hasScale = isSure(zoomed, drift.scaleUncertainty);
    const bool isSharper = drift.sharpness > kSofter || drift.sharpness < 1.0 / kSofter;
    // How much of each there is, in px at the edge of the picture: what is a tenth of the largest
    // belongs to it (an axis that is not quite the lens's), and so does a quarter of a px.
    const double x = std::abs(drift.shiftPx[0]), y = std::abs(drift.shiftPx[1]);
    const double turned = std::abs(drift.rollDegrees) * std::numbers::pi / 180.0 * 0.5 * width;
    const double grown = std::abs(zoomed) * 0.5 * width;
    const double most =
        std::max({hasX ? x : 0.0, hasY ? y : 0.0, hasRoll ? turned : 0.0, hasScale ? grown : 0.0});
    // Where one picture is much softer than the other, things at unlike depths no longer lie on
    // each other to a fraction of a pixel.
    const bool isUnlike = drift.sharpness > kUnlike || drift.sharpness < 1.0 / kUnlike;
    const bool isSlight = isUnlike && x <= kSlightPx && y <= kSlightPx && turned <= kSlightPx;
    if (isOff && !isSlight) return DriftCause::Moved;
    const double least = std::min(most, std::max(0.1 * most, isUnlike ? kSlightPx : 0.25));
    if (most == 0.0) return isSharper ? DriftCause::Focus : DriftCause::None;
    const bool isX = hasX && x >= least, isY = hasY && y >= least;
    const bool isRoll = hasRoll && turned >= least, isScale = hasScale && grown >= least;
    const int kinds = int(isX) + int(isY) + int(isRoll) + int(isScale);
    if (kinds > 1) return DriftCause::Moved;
    if (isX) return DriftCause::Pan;
    if (isY) return DriftCause::Tilt;
    if (isRoll) return DriftCause::Roll;
    if (std::abs(zoomed) < kBreathing && isSharper) return DriftCause::Focus;
    return std::abs(zoomed) > 0.05 && isCropRatio(drift.scale, drift.scaleUncertainty)
               ? DriftCause::ModeCrop
               : DriftCause::Zoom;
}

tl::unexpected<base::Error> nothing(base::Text detail) {
    return base::fail(base::ErrorCode::Unmeasurable,
                      base::say("pictureDrift.setNotFound"),
                      std::move(detail),
                      base::say("pictureDrift.compareFramesSame"));
}

/// Where the set may have gone, px of the later frame: by features, and as it stood.
base::Result<std::vector<cv::Matx33d>> guessedHomographies(const image::CodedFrame& reference,
                                                           const LumaPicture& first,
                                                           const cv::Mat& firstMask,
                                                           const image::CodedFrame& frame,
                                                           const LumaPicture& second,
                                                           const cv::Mat& secondMask) {
    Matches matches;
    std::vector<cv::Matx33d> guesses;
    try {
        matches = matched(first, firstMask, second, secondMask);
        // Recordings of another size are brought to this one's.
        const auto sx = static_cast<float>(frame.width) / static_cast<float>(reference.width);
        const auto sy = static_cast<float>(frame.height) / static_cast<float>(reference.height);
        for (cv::Point2f& point : matches.before)
            point = {(point.x + 0.5F) * sx - 0.5F, (point.y + 0.5F) * sy - 0.5F};
        if (static_cast<int>(matches.before.size()) < kLeastPoints)
            return nothing(base::say("pictureDrift.onlyPlacesWere",
                                     {{"places", base::whole(matches.before.size())}}));
        for (const double reach : {6.0, 2.5, 12.0}) {
            const auto found = homographyOf(
                matches.before, matches.after, {frame.width, frame.height}, reach * second.step);
            if (found) guesses.push_back(*found);
        }
        guesses.push_back(cv::Matx33d::eye());  // as a rule a camera stands as it stood
    } catch (const cv::Exception& failure) {
        return nothing(base::say("library.says", {{"reason", failure.what()}}));
    }
    return guesses;
}

/// Shift, roll and scale at the middle of the later frame, with their uncertainties.
PictureDrift measured(const Alignment& align,
                      const image::CodedFrame& reference,
                      const LumaPicture& first,
                      const image::CodedFrame& frame,
                      const LumaPicture& second) {
    const cv::Matx33d exact = largeOf(align.h, reference, first, frame, second);
    const Local local = localOf(exact, 0.5 * (frame.width - 1), 0.5 * (frame.height - 1));
    PictureDrift drift;
    drift.shiftPx = {local.x, local.y};
    drift.rollDegrees = local.roll;
    drift.scale = local.scale;
    drift.points = align.tiles;
    // A few tiles scatter alike by chance.
    const double few = std::sqrt((1.0 + kFewTiles / align.tiles) / (1.0 + kFewTiles / kUsualTiles));
    // Of the numbers at the middle: the shift is p0 and p3, scale (p1 + p5) / 2, roll (p4 - p2)
    // / 2.
    const auto& spread = align.spread;
    const double width = first.luma.cols;
    const double toFrame = second.step;
    drift.shiftUncertaintyPx =
        few * kWiderShift *
        std::hypot(toFrame * std::sqrt(std::max(spread(0, 0), spread(3, 3))), kFloorPx * toFrame);
    const double scale =
        std::sqrt(std::max(0.0, 0.25 * (spread(1, 1) + spread(5, 5) + 2.0 * spread(1, 5)))) / width;
    const double roll =
        std::sqrt(std::max(0.0, 0.25 * (spread(4, 4) + spread(2, 2) - 2.0 * spread(2, 4)))) / width;
    drift.scaleUncertainty = few * kWiderScale * std::hypot(scale, kFloorScale);
    drift.rollUncertaintyDegrees =
        few * kWiderRoll * std::hypot(roll * 180.0 / std::numbers::pi, kFloorDegrees);
    return drift;
}

base::Result<PictureDrift> driftWith(const image::CodedFrame& reference,
                                     const std::vector<face::Face>& referencePeople,
                                     const image::CodedFrame& frame,
                                     const std::vector<face::Face>& people,
                                     double room) {
    LumaPicture first = lumaPicture(reference, kWidth), second = lumaPicture(frame, kWidth);
    const cv::Mat firstMask = withoutPeople(first, referencePeople, room),
                  secondMask = withoutPeople(second, people, room);
    const auto guesses =
        guessedHomographies(reference, first, firstMask, frame, second, secondMask);
    if (!guesses) return tl::unexpected(guesses.error());
    const auto then =
        edgeWidth(first.luma, cv::Rect(0, 0, first.luma.cols, first.luma.rows), firstMask);
    const auto now =
        edgeWidth(second.luma, cv::Rect(0, 0, second.luma.cols, second.luma.rows), secondMask);
    if (then && now) makeAlike(first.luma, then->px, second.luma, now->px);
    // From here on in the smaller pictures' own px.
    const std::vector<EvenedPair> pairs = evenedPairs(first.luma, second.luma);
    std::optional<Alignment> align;
    for (const cv::Matx33d& guess : *guesses) {
        if (align && align->likeness > kSurelyAlike) break;
        const auto one =
            aligned(pairs, firstMask, secondMask, smallOf(guess, reference, first, frame, second));
        if (one && (!align || one->likeness > align->likeness)) align = one;
    }
    if (!align) return nothing(base::say("pictureDrift.tooLittleAny"));
    if (align->likeness < kLeastAlike) return nothing(base::say("pictureDrift.whatAlikeTwo"));
    // What does not lie together may be bowed by another lens.
    const bool isOff = align->offShare > kOff || align->likeness < kSurelyAlike ||
                       isBentOtherwise(*align, reference, first, frame, second);
    const auto bowed = isOff ? aligned(pairs, firstMask, secondMask, align->h, true) : std::nullopt;
    const bool isLens = bowed && isBowed(*bowed, first.luma.cols) && bowed->offShare <= kOff &&
                        bowed->offShare < kBowedOff * align->offShare &&
                        bowed->likeness > align->likeness &&
                        !isBentOtherwise(*bowed, reference, first, frame, second);
    if (isLens) align = bowed;
    PictureDrift drift = measured(*align, reference, first, frame, second);
    if (then && now) drift.sharpness = now->px / then->px / drift.scale;
    const bool isMoved =
        align->offShare > kOff || isBentOtherwise(*align, reference, first, frame, second);
    drift.cause = isLens ? DriftCause::Lens : causeOf(drift, isMoved, frame.width);
    return drift;
}

}  // namespace

std::string nameOf(DriftCause cause) {
    return std::string(kNames.at(static_cast<std::size_t>(cause)));
}

DriftCause causeNamed(const std::string& name) {
    const auto found = std::find(kNames.begin(), kNames.end(), name);
    return found == kNames.end() ? DriftCause::Unknown
                                 : static_cast<DriftCause>(found - kNames.begin());
}

rig::FrameDrift driftReading(const base::Result<PictureDrift>& drift, const std::string& against) {
    rig::FrameDrift kept;
    kept.against = against;
    if (!drift) {
        kept.reason = base::fullText(drift.error());
        return kept;
    }
    kept.shiftPx = drift->shiftPx;
    kept.rollDegrees = drift->rollDegrees;
    kept.scale = drift->scale;
    kept.shiftUncertaintyPx = drift->shiftUncertaintyPx;
    kept.rollUncertaintyDegrees = drift->rollUncertaintyDegrees;
    kept.scaleUncertainty = drift->scaleUncertainty;
    kept.cause = nameOf(drift->cause);
    kept.points = drift->points;
    kept.sharpness = drift->sharpness;
    return kept;
}

base::Result<PictureDrift> pictureDrift(const image::CodedFrame& reference,
                                        const std::vector<face::Face>& referencePeople,
                                        const image::CodedFrame& frame,
                                        const std::vector<face::Face>& people) {
    // Room for people to sway in; where they fill the picture, what is left beside them.
    auto drift = driftWith(reference, referencePeople, frame, people, 1.0);
    if (!drift) return driftWith(reference, referencePeople, frame, people, 0.45);
    if (drift->points < kFewTiles) {
        auto close = driftWith(reference, referencePeople, frame, people, 0.7);
        if (close && close->cause == drift->cause &&
            close->scaleUncertainty < drift->scaleUncertainty)
            return close;
    }
    return drift;
}

}  // namespace rigmatch::framing
