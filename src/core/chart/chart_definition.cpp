// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_definition.h"

namespace rigmatch::chart {
namespace {

std::array<colour::Vector3, kPatchCount> linearFromLab() {
    const colour::Matrix3 toRgb =
        colour::xyzToRgb(colour::kBt709) * colour::bradford(colour::kD50, colour::kD65);
    std::array<colour::Vector3, kPatchCount> linear;
    for (std::size_t i = 0; i < kPatchCount; ++i) {
        linear[i] = toRgb * colour::xyzOf(nominalLab()[i], colour::kD50);
    }
    return linear;
}

}  // namespace

const std::array<std::string_view, kPatchCount>& patchNames() {
    static constexpr std::array<std::string_view, kPatchCount> kNames{
        "dark skin", "light skin",    "blue sky",     "foliage",   "blue flower",  "bluish green",
        "orange",    "purplish blue", "moderate red", "purple",    "yellow green", "orange yellow",
        "blue",      "green",         "red",          "yellow",    "magenta",      "cyan",
        "white",     "neutral 8",     "neutral 6.5",  "neutral 5", "neutral 3.5",  "black"};
    return kNames;
}

const std::array<colour::Lab, kPatchCount>& nominalLab() {
    static constexpr std::array<colour::Lab, kPatchCount> kLab{{
        {37.986, 13.555, 14.059},  {65.711, 18.130, 17.810},  {49.927, -4.880, -21.925},
        {43.139, -13.095, 21.905}, {55.112, 8.844, -25.399},  {70.719, -33.397, -0.199},
        {62.661, 36.067, 57.096},  {40.020, 10.410, -45.964}, {51.124, 48.239, 16.248},
        {30.325, 22.976, -21.587}, {72.532, -23.709, 57.255}, {71.941, 19.363, 67.857},
        {28.778, 14.179, -50.297}, {55.261, -38.342, 31.370}, {42.101, 53.378, 28.190},
        {81.733, 4.039, 79.819},   {51.935, 49.986, -14.574}, {51.038, -28.631, -28.638},
        {96.539, -0.425, 1.186},   {81.257, -0.638, -0.335},  {66.766, -0.734, -0.504},
        {50.867, -0.153, -0.270},  {35.656, -0.421, -1.231},  {20.461, -0.079, -0.973},
    }};
    return kLab;
}

const std::array<colour::Vector3, kPatchCount>& nominalLinear() {
    static const std::array<colour::Vector3, kPatchCount> kLinear = linearFromLab();
    return kLinear;
}

}  // namespace rigmatch::chart
