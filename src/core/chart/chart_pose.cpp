// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_pose.h"

#include <algorithm>

namespace rigmatch::chart {

image::Homography ChartPose::fieldToPicture() const {
    return image::Homography::ofUnitSquare(corners).value_or(
        image::Homography(Eigen::Matrix3d::Zero()));
}

image::Point ChartPose::patchCentre(std::size_t patch) const {
    const std::size_t column = patch % columns, row = patch / columns;
    return {(static_cast<double>(column) + 0.5 * patchShare) / stepsAcross(),
            (static_cast<double>(row) + 0.5 * patchShare) / stepsDown()};
}

image::Point ChartPose::patchCentrePx(std::size_t patch) const {
    return fieldToPicture().apply(patchCentre(patch));
}

std::array<image::Point, 4> ChartPose::patchQuad(std::size_t patch, double share) const {
    const image::Homography map = fieldToPicture();
    const image::Point centre = patchCentre(patch);
    const double halfX = 0.5 * share * patchShare / stepsAcross();
    const double halfY = 0.5 * share * patchShare / stepsDown();
    return {map.apply({centre.x - halfX, centre.y - halfY}),
            map.apply({centre.x + halfX, centre.y - halfY}),
            map.apply({centre.x + halfX, centre.y + halfY}),
            map.apply({centre.x - halfX, centre.y + halfY})};
}

double ChartPose::patchSizePx() const {
    const double across = std::min(image::distancePx(corners[0], corners[1]),
                                   image::distancePx(corners[3], corners[2])) /
                          stepsAcross();
    const double down = std::min(image::distancePx(corners[0], corners[3]),
                                 image::distancePx(corners[1], corners[2])) /
                        stepsDown();
    return std::min(across, down) * patchShare;
}

double ChartPose::widthPx() const {
    return 0.5 *
           (image::distancePx(corners[0], corners[1]) + image::distancePx(corners[3], corners[2]));
}

double largestCornerShift(const ChartPose& first, const ChartPose& second) {
    double largest = 0.0;
    for (std::size_t i = 0; i < 4; ++i) {
        largest = std::max(largest, image::distancePx(first.corners[i], second.corners[i]));
    }
    return largest;
}

}  // namespace rigmatch::chart
