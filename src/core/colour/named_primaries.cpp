// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/named_primaries.h"

#include <OpenColorIO/OpenColorIO.h>

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <map>

#include "colour/published_curves.h"

namespace rigmatch::colour {
namespace {

namespace OCIO = OCIO_NAMESPACE;

struct Named {
    const char* name;
    const char* title;
    Primaries primaries;
};
const std::array<Named, 5>& standards() {
    static const std::array<Named, 5> kNamed{{{"bt709", "BT.709", kBt709},
                                              {"bt2020", "BT.2020", kBt2020},
                                              {"bt601", "BT.601 (525 lines)", kBt601},
                                              {"bt601-625", "BT.601 (625 lines)", kBt601Lines625},
                                              {"p3-d65", "P3-D65", kP3D65}}};
    return kNamed;
}

/// ACES2065-1 (SMPTE ST 2065-1): primaries and white.
constexpr Primaries kAces{{0.7347, 0.2653}, {0.0, 1.0}, {0.0001, -0.0770}, {0.32168, 0.33767}};

/// What a built-in transform does to pure red, green and blue of a recording: the columns of its
/// matrix, once its curve is undone by the curve's own inverse.
std::optional<Matrix3> libraryMatrix(const std::string& style) {
    try {
        const auto transform = OCIO::BuiltinTransform::Create();
        transform->setStyle(style.c_str());
        const auto config = OCIO::Config::CreateRaw();
        const auto forward = config->getProcessor(transform)->getDefaultCPUProcessor();
        const auto back = OCIO::BuiltinTransform::Create();
        back->setStyle(style.c_str());
        back->setDirection(OCIO::TRANSFORM_DIR_INVERSE);
        const auto inverse = config->getProcessor(back)->getDefaultCPUProcessor();
        const auto coded = [&](float light) {
            std::array<float, 3> pixel{light, light, light};
            inverse->applyRGB(pixel.data());
            return pixel[1];
        };
        const float dark = coded(0.0F);
        const float lit = coded(0.5F);
        Matrix3 columns;
        for (std::size_t c = 0; c < 3; ++c) {
            std::array<float, 3> pixel{dark, dark, dark};
            pixel[c] = lit;
            forward->applyRGB(pixel.data());
            for (std::size_t row = 0; row < 3; ++row)
                columns(static_cast<long>(row), static_cast<long>(c)) = double(pixel[row]) / 0.5;
        }
        const Matrix3 toBt709 = xyzToRgb(kBt709) * bradford(kAces.white, kD65) * rgbToXyz(kAces);
        const Matrix3 matrix = toBt709 * columns;
        const bool isWhiteKept = ((matrix * Vector3(1, 1, 1)) - Vector3(1, 1, 1)).norm() < 0.01;
        return isWhiteKept ? std::optional(matrix) : std::nullopt;
    } catch (const std::exception&) {
        return std::nullopt;  // no matrix that this version of the library can turn round
    }
}

const std::map<std::string, Matrix3>& cameraMatrices() {
    static const std::map<std::string, Matrix3> kMatrices = [] {
        std::map<std::string, Matrix3> matrices;
        for (const std::string& style : cameraTransformStyles()) {
            if (const auto matrix = libraryMatrix(style))
                matrices.emplace(cameraTransformName(style), *matrix);
        }
        return matrices;
    }();
    return kMatrices;
}

}  // namespace

std::optional<Matrix3> toBt709(const std::string& name) {
    for (const Named& named : standards()) {
        if (name == named.name) return xyzToRgb(kBt709) * rgbToXyz(named.primaries);
    }
    const auto found = cameraMatrices().find(name);
    return found == cameraMatrices().end() ? std::nullopt : std::optional(found->second);
}

const std::vector<std::string>& cameraPrimaries() {
    static const std::vector<std::string> kNames = [] {
        std::vector<std::string> names;
        for (const auto& [name, matrix] : cameraMatrices()) names.push_back(name);
        return names;
    }();
    return kNames;
}

std::string primariesTitle(const std::string& name) {
    for (const Named& named : standards()) {
        if (name == named.name) return named.title;
    }
    return name;
}

}  // namespace rigmatch::colour
