// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/viewing_lut.h"

#include <OpenColorIO/OpenColorIO.h>

namespace rigmatch::colour {
namespace {

namespace OCIO = OCIO_NAMESPACE;

}  // namespace

struct ViewingLut::State {
    OCIO::ConstCPUProcessorRcPtr processor;
};

base::Result<ViewingLut> ViewingLut::read(const std::filesystem::path& path) {
    const std::string name = path.filename().string();
    std::error_code problem;
    if (!std::filesystem::is_regular_file(path, problem)) {
        return base::fail(base::ErrorCode::NotFound,
                          "Cannot read the LUT " + name,
                          "There is no such file: " + path.string() + ".",
                          "Choose the file again, or remove it from the camera.");
    }
    try {
        // Files are read anew: one may have changed since it was last looked at.
        OCIO::ClearAllCaches();
        auto transform = OCIO::FileTransform::Create();
        transform->setSrc(path.string().c_str());
        transform->setInterpolation(OCIO::INTERP_BEST);
        const auto config = OCIO::Config::CreateRaw();
        auto state = std::make_shared<State>();
        state->processor = config->getProcessor(transform)->getDefaultCPUProcessor();
        ViewingLut lut;
        lut.m_state = state;
        return lut;
    } catch (const std::exception& error) {
        return base::fail(base::ErrorCode::UnsupportedFormat,
                          "Cannot read the LUT " + name,
                          error.what(),
                          "Use a .cube or CLF file.");
    }
}

std::array<double, 3> ViewingLut::apply(const std::array<double, 3>& signal) const {
    std::array<float, 3> pixel{static_cast<float>(signal[0]),
                               static_cast<float>(signal[1]),
                               static_cast<float>(signal[2])};
    m_state->processor->applyRGB(pixel.data());
    return {double(pixel[0]), double(pixel[1]), double(pixel[2])};
}

void ViewingLut::apply(std::array<std::vector<float>, 3>& planes) const {
    if (planes[0].empty()) return;
    OCIO::PlanarImageDesc image(planes[0].data(),
                                planes[1].data(),
                                planes[2].data(),
                                nullptr,
                                static_cast<long>(planes[0].size()),
                                1);
    m_state->processor->apply(image);
}

}  // namespace rigmatch::colour
