// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/head_outline.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr double kUnit = 48.0;        // px of the crop from eyes to chin
constexpr double kUsualCrown = 1.05;  // of that above the eyes; 0.87 bald, 1.22 much hair
constexpr double kLeastCrown = 0.9, kMostCrown = 1.75;
// A crown lower than hair usually ends is a bald head's, or hair that was taken for the wall.
constexpr double kLowCrown = 1.0;
// What stands above the forehead, of what lies between forehead and chin: 0.27 on bare heads, 0.45
// with much hair (from memory, head measures); more is a hat or hair piled up.
constexpr double kMostAboveBrow = 0.58;
constexpr double kSureDoubt = 0.008, kLowDoubt = 0.025;      // shares of the head, on known heads
constexpr double kAbove = 2.3, kBelow = 1.6, kBeside = 1.9;  // reach of the crop
constexpr int kRounds = 4;

/// A part of the frame about a face, turned upright, at a fixed size of the face.
struct Crop {
    cv::Mat picture;  ///< 8-bit, three channels, stretched
    image::Point eyes;
    double scale = 1.0;  ///< frame px per crop px
    image::Point up;     ///< unit vector of the face's axis in the frame, from chin to eyes
    image::Point place(double x, double y) const {
        // Crop columns run along the face's horizontal, rows against its axis.
        const double right = (x - kBeside * kUnit) * scale, down = (y - kAbove * kUnit) * scale;
        return {eyes.x - right * up.y - down * up.x, eyes.y + right * up.x - down * up.y};
    }
};

Crop cropOf(const image::CodedFrame& frame, const face::Face& face) {
    Crop crop;
    crop.eyes = face.eyes;
    const double ax = face.eyes.x - face.chin.x, ay = face.eyes.y - face.chin.y;
    const double length = std::max(4.0, std::hypot(ax, ay));
    crop.scale = length / kUnit;
    // Near upright faces are taken as upright: the mesh's chin wanders by some degrees.
    const double lean = std::atan2(ax, -ay);
    const double turn = std::abs(lean) < 0.2 ? 0.0 : lean;
    crop.up = {std::sin(turn), -std::cos(turn)};
    const int width = static_cast<int>(2.0 * kBeside * kUnit),
              height = static_cast<int>((kAbove + kBelow) * kUnit);
    const image::SignalSampler sampler(frame);
    cv::Mat raw(height, width, CV_32FC3, cv::Scalar(0, 0, 0));
    // Each crop pixel is the mean of the frame's pixels under it, on a small grid.
    const int grid = std::clamp(static_cast<int>(std::ceil(crop.scale)), 1, 5);
    std::vector<float> values;
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            cv::Vec3f sum(0, 0, 0);
            for (int gy = 0; gy < grid; ++gy) {
                for (int gx = 0; gx < grid; ++gx) {
                    const image::Point at =
                        crop.place(x + (gx + 0.5) / grid - 0.5, y + (gy + 0.5) / grid - 0.5);
                    const int px =
                        std::clamp(static_cast<int>(std::lround(at.x)), 0, frame.width - 1);
                    const int py =
                        std::clamp(static_cast<int>(std::lround(at.y)), 0, frame.height - 1);
                    const auto rgb = sampler.at(px, py);
                    sum += cv::Vec3f(rgb[0], rgb[1], rgb[2]);
                }
            }
            sum /= static_cast<float>(grid * grid);
            for (int c = 0; c < 3; ++c)
                if (!std::isfinite(sum[c])) sum[c] = 0.0F;
            raw.at<cv::Vec3f>(y, x) = sum;
            values.push_back(sum[1]);
        }
    }
    const auto quantile = [&](double share) {
        const auto at = values.begin() +
                        static_cast<std::ptrdiff_t>(share * static_cast<double>(values.size() - 1));
        std::nth_element(values.begin(), at, values.end());
        return *at;
    };
    const float low = quantile(0.01), high = std::max(quantile(0.99), low + 0.02F);
    // A root lifts dark hair apart from dark walls.
    crop.picture.create(height, width, CV_8UC3);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const float value =
                    std::clamp((raw.at<cv::Vec3f>(y, x)[c] - low) / (high - low), 0.0F, 1.0F);
                crop.picture.at<cv::Vec3b>(y, x)[c] =
                    static_cast<std::uint8_t>(255.0F * std::sqrt(value));
            }
        }
    }
    return crop;
}

/// What is known before: face and neck in front, the rim of the crop behind, between them likely.
cv::Mat firstGuess(const cv::Mat& picture, const face::Face& face) {
    cv::Mat mask(picture.size(), CV_8U, cv::Scalar(cv::GC_PR_BGD));
    const cv::Point2d eyes(kBeside * kUnit, kAbove * kUnit);
    const double side = face.turnDegrees / 90.0;  // the back of the head lies against the turn
    const cv::Point2d middle(eyes.x - 0.25 * side * kUnit, eyes.y - 0.1 * kUnit);
    const auto ellipse = [&](cv::Point2d at, double across, double down, int value) {
        cv::ellipse(mask,
                    cv::Point(cvRound(at.x), cvRound(at.y)),
                    {cvRound(across * kUnit), cvRound(down * kUnit)},
                    0,
                    0,
                    360,
                    value,
                    cv::FILLED);
    };
    // Far above and beside no head reaches.
    mask.rowRange(0, cvRound((kAbove - kMostCrown - 0.15) * kUnit)).setTo(cv::GC_BGD);
    mask.rowRange(0, cvRound(eyes.y + 0.6 * kUnit))
        .colRange(0, cvRound(0.25 * kUnit))
        .setTo(cv::GC_BGD);
    mask.rowRange(0, cvRound(eyes.y + 0.6 * kUnit))
        .colRange(picture.cols - cvRound(0.25 * kUnit), picture.cols)
        .setTo(cv::GC_BGD);
    ellipse(middle, 1.0 + 0.15 * std::abs(side), 1.15, cv::GC_PR_FGD);
    cv::rectangle(mask,
                  cv::Point(cvRound(eyes.x - 1.3 * kUnit), cvRound(eyes.y + 1.05 * kUnit)),
                  cv::Point(cvRound(eyes.x + 1.3 * kUnit), mask.rows),
                  cv::GC_PR_FGD,
                  cv::FILLED);
    ellipse({eyes.x, eyes.y + 0.15 * kUnit}, 0.5, 0.75, cv::GC_FGD);
    // A strip of the scalp: hair is part of the head whatever its colour.
    ellipse({middle.x, eyes.y - 0.45 * kUnit}, 0.45, 0.30, cv::GC_FGD);
    return mask;
}

/// For each column the highest row of the head above the eyes, going up from the brow.
std::vector<double> upperEdge(const cv::Mat& mask) {
    std::vector<double> edge(static_cast<std::size_t>(mask.cols), -1.0);
    const int eyes = static_cast<int>(kAbove * kUnit);
    for (int x = 0; x < mask.cols; ++x) {
        int y = eyes;
        while (y >= 0 && (mask.at<std::uint8_t>(y, x) & 1) == 0) --y;
        int gap = 0;
        int top = -1;
        for (; y >= 0; --y) {
            const bool isHead = (mask.at<std::uint8_t>(y, x) & 1) != 0;
            gap = isHead ? 0 : gap + 1;
            if (isHead) top = y;
            if (gap > 2) break;
        }
        edge[static_cast<std::size_t>(x)] = top;
    }
    return edge;
}

/// Where the colour changes most about a row, to a fraction of a row; how strongly.
struct Step {
    double row = 0.0;
    double strength = 0.0;
};
Step stepNear(const cv::Mat& picture, int x, int row) {
    Step step{static_cast<double>(row), 0.0};
    std::vector<double> slopes;
    constexpr int kRowsAbout = 4;
    const int first = std::max(2, row - kRowsAbout),
              last = std::min(picture.rows - 3, row + kRowsAbout);
    for (int y = first; y <= last; ++y) {
        double sum = 0.0;
        for (int c = 0; c < 3; ++c) {
            double above = 0.0, below = 0.0;
            for (int dx = -2; dx <= 2; ++dx) {
                const int at = std::clamp(x + dx, 0, picture.cols - 1);
                above += picture.at<cv::Vec3b>(y - 1, at)[c] + picture.at<cv::Vec3b>(y - 2, at)[c];
                below += picture.at<cv::Vec3b>(y, at)[c] + picture.at<cv::Vec3b>(y + 1, at)[c];
            }
            sum += std::abs(above - below) / 10.0;
        }
        slopes.push_back(sum);
    }
    if (slopes.size() < 3) return step;
    const auto best =
        static_cast<std::size_t>(std::max_element(slopes.begin(), slopes.end()) - slopes.begin());
    step.strength = slopes[best];
    double into = 0.0;
    if (best > 0 && best + 1 < slopes.size()) {
        const double bend = slopes[best - 1] - 2.0 * slopes[best] + slopes[best + 1];
        if (bend < 0.0) into = 0.5 * (slopes[best - 1] - slopes[best + 1]) / bend;
    }
    // The edge lies between the rows that differ.
    step.row = first + static_cast<double>(best) + into - 0.5;
    return step;
}

}  // namespace

HeadOutline headOutline(const image::CodedFrame& frame, const face::Face& face) {
    const Crop crop = cropOf(frame, face);
    HeadOutline outline;
    outline.crown = crop.place(kBeside * kUnit, (kAbove - kUsualCrown) * kUnit);
    outline.left = face.left - 0.1 * face.width;
    outline.right = face.left + 1.1 * face.width;
    cv::Mat mask = firstGuess(crop.picture, face), behind, before;
    try {
        cv::setRNGSeed(1);  // the mixtures start from k-means: the same picture, the same cut
        cv::grabCut(crop.picture, mask, {}, behind, before, kRounds, cv::GC_INIT_WITH_MASK);
    } catch (const cv::Exception&) {
        return outline;
    }
    const std::vector<double> edge = upperEdge(mask);
    // The crown: the highest rows over the head's middle, smoothed over some columns.
    const double shift = -0.25 * face.turnDegrees / 90.0 * kUnit;
    const int from = cvRound((kBeside - 0.75) * kUnit + shift),
              to = cvRound((kBeside + 0.75) * kUnit + shift);
    double highest = crop.picture.rows, strength = 0.0, column = kBeside * kUnit;
    for (int x = std::max(3, from); x < std::min(crop.picture.cols - 3, to); ++x) {
        std::vector<double> rows;
        for (int at = x - 3; at <= x + 3; ++at) rows.push_back(edge[static_cast<std::size_t>(at)]);
        const double row = image::median(rows);
        if (row < 0.0 || row >= highest) continue;
        const Step step = stepNear(crop.picture, x, static_cast<int>(row));
        if (step.row >= highest) continue;
        highest = step.row;
        strength = step.strength;
        column = x;
    }
    const double above = kAbove - highest / kUnit;
    constexpr double kLeastStrength = 20.0;  // of 8-bit codes over three channels
    if (above < kLeastCrown || above > kMostCrown || strength < kLeastStrength) return outline;
    const image::Point top = crop.place(column, highest);
    const double brow = face.chin.y - face.brow.y;
    if (brow > 0.0 && face.brow.y - top.y > kMostAboveBrow * brow) return outline;
    outline.crown = top;
    outline.isEstimate = false;
    outline.crownDoubt = above < kLowCrown ? kLowDoubt : kSureDoubt;
    const auto wide = [&](int step) {
        const int row = cvRound((kAbove - 0.2) * kUnit);
        int x = cvRound(kBeside * kUnit);
        while (x > 0 && x + 1 < mask.cols && (mask.at<std::uint8_t>(row, x) & 1) != 0) x += step;
        return crop.place(x, row).x;
    };
    outline.left = std::min(wide(-1), wide(1));
    outline.right = std::max(wide(-1), wide(1));
    return outline;
}

}  // namespace rigmatch::framing
