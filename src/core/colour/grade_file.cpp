// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/grade_file.h"

#include <OpenColorIO/OpenColorIO.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>

#include "base/luma.h"

namespace rigmatch::colour {
namespace {

namespace OCIO = OCIO_NAMESPACE;

/// One line that no name can break, in text files or in XML.
std::string oneLine(std::string text) {
    constexpr std::string_view kMarks = "\"<>&";
    std::replace_if(
        text.begin(),
        text.end(),
        [&](unsigned char c) {
            return c < 32 || kMarks.find(static_cast<char>(c)) != std::string_view::npos;
        },
        ' ');
    return text;
}

std::string cubeText(const Table3d& table, const GradeWords& words) {
    std::string text = "TITLE \"" + oneLine(words.title) + "\"\n";
    for (const std::string& comment : words.comments) text += "# " + oneLine(comment) + "\n";
    text += "LUT_3D_SIZE " + std::to_string(table.size) +
            "\nDOMAIN_MIN 0.0 0.0 0.0\nDOMAIN_MAX 1.0 1.0 1.0\n";
    std::array<char, 96> line{};
    for (const auto& v : table.values) {
        std::snprintf(line.data(), line.size(), "%.6f %.6f %.6f\n", v[0], v[1], v[2]);
        text += line.data();
    }
    return text;
}

const char* libraryName(GradeFormat format) {
    switch (format) {
        case GradeFormat::Cc:
            return "ColorCorrection";
        case GradeFormat::Ccc:
            return "ColorCorrectionCollection";
        case GradeFormat::CdlList:
            return "ColorDecisionList";
        default:
            return "Academy/ASC Common LUT Format";
    }
}

void describe(OCIO::FormatMetadata& data, const GradeWords& words) {
    data.addAttribute(OCIO::METADATA_ID, words.id.c_str());
    data.addChildElement(OCIO::METADATA_DESCRIPTION, oneLine(words.title).c_str());
    for (const std::string& comment : words.comments)
        data.addChildElement(OCIO::METADATA_DESCRIPTION, oneLine(comment).c_str());
}

/// A decision list carries its own description.
base::Result<std::string> written(GradeFormat format,
                                  const OCIO::ConstTransformRcPtr& transform,
                                  const GradeWords& words) {
    try {
        const auto group = OCIO::GroupTransform::Create();
        group->appendTransform(transform->createEditableCopy());
        if (!isCdl(format)) describe(group->getFormatMetadata(), words);
        std::ostringstream out;
        group->write(OCIO::Config::CreateRaw(), libraryName(format), out);
        return out.str();
    } catch (const std::exception& error) {
        return base::fail(base::ErrorCode::UnsupportedFormat,
                          base::say("gradeFile.cannotWriteFile", {{"suffix", suffixOf(format)}}),
                          base::asIs(error.what()),
                          base::say("gradeFile.useCubeWhich"));
    }
}

}  // namespace

std::array<double, 3> Cdl::apply(const std::array<double, 3>& signal) const {
    std::array<double, 3> out{};
    for (std::size_t c = 0; c < 3; ++c)
        out[c] = std::pow(std::clamp(signal[c] * slope[c] + offset[c], 0.0, 1.0), power[c]);
    const double luma = base::lumaOf(out);
    for (double& value : out) value = std::clamp(luma + saturation * (value - luma), 0.0, 1.0);
    return out;
}

const char* suffixOf(GradeFormat format) {
    switch (format) {
        case GradeFormat::Cube:
            return ".cube";
        case GradeFormat::Clf:
            return ".clf";
        case GradeFormat::Cc:
            return ".cc";
        case GradeFormat::Ccc:
            return ".ccc";
        case GradeFormat::CdlList:
            return ".cdl";
    }
    return "";
}

bool isCdl(GradeFormat format) { return format != GradeFormat::Cube && format != GradeFormat::Clf; }

base::Result<std::string> gradeText(GradeFormat format,
                                    const Table3d& table,
                                    const GradeWords& words) {
    if (format == GradeFormat::Cube) return cubeText(table, words);
    const auto size = static_cast<unsigned long>(table.size);
    const auto lut = OCIO::Lut3DTransform::Create(size);
    lut->setInterpolation(OCIO::INTERP_TETRAHEDRAL);
    lut->setFileOutputBitDepth(OCIO::BIT_DEPTH_F32);
    std::size_t at = 0;
    for (unsigned long b = 0; b < size; ++b) {
        for (unsigned long g = 0; g < size; ++g) {
            for (unsigned long r = 0; r < size; ++r) {
                const auto& v = table.values[at++];
                lut->setValue(r,
                              g,
                              b,
                              static_cast<float>(v[0]),
                              static_cast<float>(v[1]),
                              static_cast<float>(v[2]));
            }
        }
    }
    return written(format, lut, words);
}

base::Result<std::string> gradeText(GradeFormat format, const Cdl& cdl, const GradeWords& words) {
    const auto transform = OCIO::CDLTransform::Create();
    transform->setSlope(cdl.slope.data());
    transform->setOffset(cdl.offset.data());
    transform->setPower(cdl.power.data());
    transform->setSat(cdl.saturation);
    transform->setStyle(OCIO::CDL_ASC);
    describe(transform->getFormatMetadata(), words);
    return written(format, transform, words);
}

}  // namespace rigmatch::colour
