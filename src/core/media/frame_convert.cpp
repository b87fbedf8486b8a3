// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/frame_convert.h"

#include <cstring>

namespace rigmatch::media {
namespace {

using image::CodedFrame;
using image::Matrix;
using image::PrimariesTag;
using image::Range;
using image::SampleKind;
using image::SignalTags;
using image::TransferTag;

std::optional<Matrix> matrixOf(AVColorSpace space) {
    switch (space) {
        case AVCOL_SPC_BT709:
            return Matrix::Bt709;
        case AVCOL_SPC_BT470BG:
        case AVCOL_SPC_SMPTE170M:
            return Matrix::Bt601;
        case AVCOL_SPC_BT2020_NCL:
            return Matrix::Bt2020;
        default:
            return std::nullopt;
    }
}

PrimariesTag primariesOf(AVColorPrimaries primaries) {
    switch (primaries) {
        case AVCOL_PRI_BT709:
            return PrimariesTag::Bt709;
        case AVCOL_PRI_BT2020:
            return PrimariesTag::Bt2020;
        case AVCOL_PRI_BT470BG:
            return PrimariesTag::Bt601Lines625;
        case AVCOL_PRI_SMPTE170M:
        case AVCOL_PRI_SMPTE240M:
            return PrimariesTag::Bt601;
        case AVCOL_PRI_SMPTE432:
            return PrimariesTag::P3D65;
        default:
            return PrimariesTag::Unknown;
    }
}

TransferTag transferOf(AVColorTransferCharacteristic transfer) {
    switch (transfer) {
        case AVCOL_TRC_BT709:
        case AVCOL_TRC_SMPTE170M:
        case AVCOL_TRC_BT2020_10:
        case AVCOL_TRC_BT2020_12:
            return TransferTag::Bt709;
        case AVCOL_TRC_IEC61966_2_1:
            return TransferTag::Srgb;
        case AVCOL_TRC_ARIB_STD_B67:
            return TransferTag::Hlg;
        case AVCOL_TRC_SMPTE2084:
            return TransferTag::Pq;
        case AVCOL_TRC_LINEAR:
            return TransferTag::Linear;
        case AVCOL_TRC_GAMMA22:
        case AVCOL_TRC_GAMMA28:
            return TransferTag::Gamma;
        default:
            return TransferTag::Unknown;
    }
}

bool isRgb(const AVPixFmtDescriptor& layout) { return (layout.flags & AV_PIX_FMT_FLAG_RGB) != 0; }

/// One sample per plane position, whole bytes, this machine's byte order: readable without
/// unpacking.
bool isPlainPlanar(const AVPixFmtDescriptor& layout) {
    constexpr auto kOther = AV_PIX_FMT_FLAG_PAL | AV_PIX_FMT_FLAG_BITSTREAM |
                            AV_PIX_FMT_FLAG_HWACCEL | AV_PIX_FMT_FLAG_BE | AV_PIX_FMT_FLAG_BAYER;
    if ((layout.flags & kOther) != 0) return false;
    const bool isFloat = (layout.flags & AV_PIX_FMT_FLAG_FLOAT) != 0;
    const int depth = layout.comp[0].depth;
    const int bytes = isFloat ? 4 : (depth > 8 ? 2 : 1);
    if (isFloat ? depth != 32 : depth > 16) return false;
    const int used = layout.nb_components >= 3 ? 3 : 1;
    for (int c = 0; c < used; ++c) {
        if (layout.comp[c].step != bytes || layout.comp[c].shift != 0) return false;
        for (int other = 0; other < c; ++other) {
            if (layout.comp[other].plane == layout.comp[c].plane) return false;
        }
    }
    return true;
}

/// The planar layout that holds the same codes as a packed one.
AVPixelFormat unpackedFormat(const AVPixFmtDescriptor& layout) {
    const int depth = layout.comp[0].depth;
    if (layout.nb_components < 3) return depth > 8 ? AV_PIX_FMT_GRAY16LE : AV_PIX_FMT_GRAY8;
    if (isRgb(layout)) return depth > 8 ? AV_PIX_FMT_GBRP16LE : AV_PIX_FMT_GBRP;
    if (layout.log2_chroma_w == 0) return depth > 8 ? AV_PIX_FMT_YUV444P16LE : AV_PIX_FMT_YUV444P;
    if (layout.log2_chroma_h == 0) {
        if (depth <= 8) return AV_PIX_FMT_YUV422P;
        return depth == 10 ? AV_PIX_FMT_YUV422P10LE : AV_PIX_FMT_YUV422P12LE;
    }
    if (depth <= 8) return AV_PIX_FMT_YUV420P;
    return depth == 10 ? AV_PIX_FMT_YUV420P10LE : AV_PIX_FMT_YUV420P12LE;
}

FfmpegPtr<AVFrame> unpacked(const AVFrame& frame, AVPixelFormat format) {
    FfmpegPtr<AVFrame> target(av_frame_alloc());
    target->format = format;
    target->width = frame.width;
    target->height = frame.height;
    if (av_frame_get_buffer(target.get(), 0) < 0) return nullptr;
    const FfmpegPtr<SwsContext> scaler(sws_getContext(frame.width,
                                                      frame.height,
                                                      static_cast<AVPixelFormat>(frame.format),
                                                      frame.width,
                                                      frame.height,
                                                      format,
                                                      SWS_POINT | SWS_ACCURATE_RND,
                                                      nullptr,
                                                      nullptr,
                                                      nullptr));
    if (!scaler) return nullptr;
    const int* table = sws_getCoefficients(SWS_CS_ITU709);
    const int isFull = frame.color_range == AVCOL_RANGE_JPEG ? 1 : 0;
    sws_setColorspaceDetails(scaler.get(), table, isFull, table, isFull, 0, 1 << 16, 1 << 16);
    sws_scale(
        scaler.get(), frame.data, frame.linesize, 0, frame.height, target->data, target->linesize);
    return target;
}

int shifted(int size, int shift) { return (size + (1 << shift) - 1) >> shift; }

CodedFrame sharedPlanes(const AVFrame& frame,
                        const AVPixFmtDescriptor& layout,
                        const SignalTags& tags) {
    CodedFrame coded;
    coded.width = frame.width;
    coded.height = frame.height;
    coded.bitDepth = layout.comp[0].depth;
    const bool isFloat = (layout.flags & AV_PIX_FMT_FLAG_FLOAT) != 0;
    coded.samples = isFloat ? SampleKind::Float32
                            : (coded.bitDepth > 8 ? SampleKind::Unsigned16 : SampleKind::Unsigned8);
    coded.planeCount = layout.nb_components >= 3 ? 3 : 1;
    coded.tags = tags;
    const bool isColour = coded.planeCount == 3 && !isRgb(layout);
    coded.chromaShiftX = isColour ? layout.log2_chroma_w : 0;
    coded.chromaShiftY = isColour ? layout.log2_chroma_h : 0;
    for (int c = 0; c < coded.planeCount; ++c) {
        const int plane = layout.comp[c].plane;
        const bool isSub = isColour && c > 0;
        coded.planes[static_cast<std::size_t>(c)] = {
            reinterpret_cast<const std::byte*>(frame.data[plane]),
            frame.linesize[plane],
            isSub ? shifted(frame.width, coded.chromaShiftX) : frame.width,
            isSub ? shifted(frame.height, coded.chromaShiftY) : frame.height};
    }
    coded.owner = std::shared_ptr<AVFrame>(av_frame_clone(&frame), FfmpegDeleter{});
    return coded;
}

template <class Sample>
void turnPlane(const image::Plane& from, std::byte* to, int newWidth, int newHeight, int degrees) {
    auto* target = reinterpret_cast<Sample*>(to);
    for (int y = 0; y < newHeight; ++y) {
        for (int x = 0; x < newWidth; ++x) {
            int sourceX = from.width - 1 - x;
            int sourceY = from.height - 1 - y;
            if (degrees == 90) {
                sourceX = y;
                sourceY = from.height - 1 - x;
            } else if (degrees == 270) {
                sourceX = from.width - 1 - y;
                sourceY = x;
            }
            *target++ =
                reinterpret_cast<const Sample*>(from.data + from.strideBytes * sourceY)[sourceX];
        }
    }
}

}  // namespace

SignalTags tagsOf(const AVFrame& frame, bool isStill) {
    const AVPixFmtDescriptor* layout =
        av_pix_fmt_desc_get(static_cast<AVPixelFormat>(frame.format));
    SignalTags tags;
    tags.primaries = primariesOf(frame.color_primaries);
    tags.transfer = transferOf(frame.color_trc);
    if (layout == nullptr || isRgb(*layout) || layout->nb_components < 3) {
        tags.matrix = Matrix::None;
        tags.range = frame.color_range == AVCOL_RANGE_MPEG ? Range::Limited : Range::Full;
        tags.isMatrixTagged = true;
        tags.isRangeTagged = true;
        const bool isFloat = layout != nullptr && (layout->flags & AV_PIX_FMT_FLAG_FLOAT) != 0;
        if (isFloat && tags.transfer == TransferTag::Unknown) tags.transfer = TransferTag::Linear;
        if (isStill && tags.transfer == TransferTag::Unknown) tags.transfer = TransferTag::Srgb;
        return tags;
    }
    const bool isJpegLayout = std::strncmp(layout->name, "yuvj", 4) == 0;
    tags.range =
        frame.color_range == AVCOL_RANGE_JPEG || isJpegLayout ? Range::Full : Range::Limited;
    tags.isRangeTagged = frame.color_range != AVCOL_RANGE_UNSPECIFIED || isJpegLayout;
    const auto matrix = matrixOf(frame.colorspace);
    tags.isMatrixTagged = matrix.has_value();
    // Untagged: BT.601 for stills (JFIF) and standard definition, BT.709 from 720 lines up (common
    // practice).
    tags.matrix = matrix.value_or(isStill || frame.height < 720 ? Matrix::Bt601 : Matrix::Bt709);
    if (isStill && tags.transfer == TransferTag::Unknown) tags.transfer = TransferTag::Srgb;
    return tags;
}

std::optional<CodedFrame> codedFrameOf(const AVFrame& frame, const SignalTags& tags) {
    const AVPixFmtDescriptor* layout =
        av_pix_fmt_desc_get(static_cast<AVPixelFormat>(frame.format));
    if (layout == nullptr) return std::nullopt;
    if (isPlainPlanar(*layout)) return sharedPlanes(frame, *layout, tags);
    const AVPixelFormat format = unpackedFormat(*layout);
    const FfmpegPtr<AVFrame> plain = unpacked(frame, format);
    if (!plain) return std::nullopt;
    return sharedPlanes(*plain, *av_pix_fmt_desc_get(format), tags);
}

CodedFrame turned(const CodedFrame& frame, int degrees) {
    if (degrees == 0) return frame;
    CodedFrame result = frame;
    const bool isSideways = degrees % 180 != 0;
    if (isSideways) {
        std::swap(result.width, result.height);
        std::swap(result.chromaShiftX, result.chromaShiftY);
    }
    const int bytes = frame.samples == SampleKind::Unsigned8
                          ? 1
                          : (frame.samples == SampleKind::Unsigned16 ? 2 : 4);
    auto owner = std::make_shared<std::array<std::vector<std::byte>, 3>>();
    for (std::size_t c = 0; c < static_cast<std::size_t>(frame.planeCount); ++c) {
        const image::Plane& from = frame.planes[c];
        const int width = isSideways ? from.height : from.width;
        const int height = isSideways ? from.width : from.height;
        auto& bytesOut = (*owner)[c];
        bytesOut.resize(static_cast<std::size_t>(width) * static_cast<std::size_t>(height) *
                        static_cast<std::size_t>(bytes));
        if (bytes == 1) turnPlane<std::uint8_t>(from, bytesOut.data(), width, height, degrees);
        if (bytes == 2) turnPlane<std::uint16_t>(from, bytesOut.data(), width, height, degrees);
        if (bytes == 4) turnPlane<float>(from, bytesOut.data(), width, height, degrees);
        result.planes[c] = {
            bytesOut.data(), static_cast<std::ptrdiff_t>(width) * bytes, width, height};
    }
    result.owner = owner;
    return result;
}

}  // namespace rigmatch::media
