// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/frame.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::image {
namespace {

/// Linear map from code value to signal: (code - offset) * scale.
struct Scale {
    float offset;
    float scale;
};

Scale lumaScale(const CodedFrame& frame) {
    if (frame.samples == SampleKind::Float32) return {0.0F, 1.0F};
    const double unit = std::exp2(frame.bitDepth - 8);
    if (frame.tags.range == Range::Limited) {
        return {static_cast<float>(16.0 * unit), static_cast<float>(1.0 / (219.0 * unit))};
    }
    return {0.0F, static_cast<float>(1.0 / (std::exp2(frame.bitDepth) - 1.0))};
}

Scale chromaScale(const CodedFrame& frame) {
    const double unit = std::exp2(frame.bitDepth - 8);
    const double span =
        frame.tags.range == Range::Limited ? 224.0 * unit : std::exp2(frame.bitDepth) - 1.0;
    return {static_cast<float>(128.0 * unit), static_cast<float>(1.0 / span)};
}

/// R' = Y' + redCr Cr, G' = Y' - greenCb Cb - greenCr Cr, B' = Y' + blueCb Cb.
struct ChromaGains {
    float redCr, greenCb, greenCr, blueCb;
};

ChromaGains chromaGains(Matrix matrix) {
    const LumaWeights k = lumaWeights(matrix);
    const double redCr = 2.0 * (1.0 - k.red);
    const double blueCb = 2.0 * (1.0 - k.blue);
    return {static_cast<float>(redCr),
            static_cast<float>(blueCb * k.blue / k.green),
            static_cast<float>(redCr * k.red / k.green),
            static_cast<float>(blueCb)};
}

template <class Sample>
const Sample* rowOf(const Plane& plane, int y) {
    return reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
}

/// Box means of one plane over blocks of stepX by stepY, in signal units. Where a step is below one
/// sample of this plane (subsampled chroma), samples repeat `repeat` times.
template <class Sample>
void boxRow(const Plane& plane,
            int yFirst,
            int stepX,
            int stepY,
            int repeat,
            int x0,
            Scale scale,
            std::vector<float>& out) {
    const int width = static_cast<int>(out.size());
    std::fill(out.begin(), out.end(), 0.0F);
    const int rows = std::max(stepY, 1);
    const int columns = std::max(stepX, 1);
    for (int row = 0; row < rows; ++row) {
        const Sample* source = rowOf<Sample>(plane, std::min(yFirst + row, plane.height - 1));
        if (repeat == 2) {
            for (int x = 0; x < width; ++x) {
                out[static_cast<std::size_t>(x)] += static_cast<float>(source[(x0 + x) >> 1]);
            }
        } else if (repeat > 1) {
            for (int x = 0; x < width; ++x) {
                out[static_cast<std::size_t>(x)] +=
                    static_cast<float>(source[std::min((x0 + x) / repeat, plane.width - 1)]);
            }
        } else if (columns == 1) {
            const Sample* from = source + x0;
            const int safe = std::min(width, plane.width - x0);
            float* to = out.data();
            for (int x = 0; x < safe; ++x) to[x] += static_cast<float>(from[x]);
            for (int x = safe; x < width; ++x) to[x] += static_cast<float>(from[safe - 1]);
        } else if (columns == 2) {
            const Sample* from = source + x0 * 2;
            float* to = out.data();
            for (int x = 0; x < width; ++x) {
                to[x] += static_cast<float>(from[2 * x]) + static_cast<float>(from[2 * x + 1]);
            }
        } else {
            for (int x = 0; x < width; ++x) {
                float sum = 0.0F;
                for (int k = 0; k < columns; ++k) {
                    sum += static_cast<float>(
                        source[std::min((x0 + x) * columns + k, plane.width - 1)]);
                }
                out[static_cast<std::size_t>(x)] += sum;
            }
        }
    }
    const float mean = 1.0F / static_cast<float>(rows * columns);
    for (float& value : out) value = (value * mean - scale.offset) * scale.scale;
}

void boxRowOf(const CodedFrame& frame,
              int planeIndex,
              int yFirst,
              int stepX,
              int stepY,
              int repeat,
              int x0,
              Scale scale,
              std::vector<float>& out) {
    const Plane& plane = frame.planes[static_cast<std::size_t>(planeIndex)];
    switch (frame.samples) {
        case SampleKind::Unsigned8:
            boxRow<std::uint8_t>(plane, yFirst, stepX, stepY, repeat, x0, scale, out);
            break;
        case SampleKind::Unsigned16:
            boxRow<std::uint16_t>(plane, yFirst, stepX, stepY, repeat, x0, scale, out);
            break;
        case SampleKind::Float32:
            boxRow<float>(plane, yFirst, stepX, stepY, repeat, x0, scale, out);
            break;
    }
}

void combineRow(const ChromaGains& gains,
                std::size_t width,
                const float* cb,
                const float* cr,
                float* red,
                float* green,
                float* blue) {
    for (std::size_t x = 0; x < width; ++x) {
        const float y = green[x];
        red[x] = y + gains.redCr * cr[x];
        green[x] = y - gains.greenCb * cb[x] - gains.greenCr * cr[x];
        blue[x] = y + gains.blueCb * cb[x];
    }
}

/// Rows of `region` (in units of the shrunken picture) into `result`.
void fillRows(const CodedFrame& frame, PixelRect region, int step, Frame& result) {
    const auto width = static_cast<std::size_t>(region.width);
    const bool isYcc = frame.tags.matrix != Matrix::None && frame.planeCount == 3;
    const Scale luma = lumaScale(frame);
    const Scale chroma = chromaScale(frame);
    const ChromaGains gains = chromaGains(frame.tags.matrix);
    const int chromaStepX = step >> frame.chromaShiftX;
    const int chromaStepY = step >> frame.chromaShiftY;
    const int repeatX = chromaStepX >= 1 ? 1 : (1 << frame.chromaShiftX) / step;
    std::array<std::vector<float>, 3> rows;
    for (auto& row : rows) row.resize(width);
    for (int y = 0; y < region.height; ++y) {
        const int yFrame = (region.y + y) * step;
        const int yChroma = yFrame >> frame.chromaShiftY;
        for (int plane = 0; plane < frame.planeCount; ++plane) {
            const bool isChroma = isYcc && plane > 0;
            boxRowOf(frame,
                     plane,
                     isChroma ? yChroma : yFrame,
                     isChroma ? chromaStepX : step,
                     isChroma ? chromaStepY : step,
                     isChroma ? repeatX : 1,
                     region.x,
                     isChroma ? chroma : luma,
                     rows[static_cast<std::size_t>(plane)]);
        }
        float* out[3];
        for (std::size_t c = 0; c < 3; ++c) {
            out[c] = result.channels[c].data() + static_cast<std::size_t>(y) * width;
        }
        if (frame.planeCount == 1) {
            for (float* channel : out) std::copy_n(rows[0].data(), width, channel);
        } else if (!isYcc) {
            for (std::size_t c = 0; c < 3; ++c) std::copy_n(rows[c].data(), width, out[c]);
        } else {
            std::copy_n(rows[0].data(), width, out[1]);
            combineRow(gains, width, rows[1].data(), rows[2].data(), out[0], out[1], out[2]);
        }
    }
}

/// Planes in memory that a CodedFrame made here shares.
struct OwnedPlanes {
    std::array<std::vector<std::uint16_t>, 3> wide;
    std::array<std::vector<std::uint8_t>, 3> narrow;
};

/// Y', Cb, Cr of a signal, chroma about 0.
std::array<std::vector<float>, 3> yccPlanes(const Frame& signal, Matrix matrix) {
    const LumaWeights k = lumaWeights(matrix);
    std::array<std::vector<float>, 3> planes = signal.channels;
    for (std::size_t i = 0; i < planes[0].size(); ++i) {
        const double red = signal.channels[0][i];
        const double blue = signal.channels[2][i];
        const double y = k.red * red + k.green * double(signal.channels[1][i]) + k.blue * blue;
        planes[0][i] = static_cast<float>(y);
        planes[1][i] = static_cast<float>((blue - y) / (2.0 * (1.0 - k.blue)));
        planes[2][i] = static_cast<float>((red - y) / (2.0 * (1.0 - k.red)));
    }
    return planes;
}

/// Codes of one plane, averaged over blocks of 2^shift.
std::vector<std::uint16_t> coded(
    const std::vector<float>& plane, int width, int height, int shift, Scale scale, int bitDepth) {
    const double top = std::exp2(bitDepth) - 1.0;
    const int block = 1 << shift;
    std::vector<std::uint16_t> codes;
    codes.reserve(plane.size() >> (2 * shift));
    for (int y = 0; y < height; y += block) {
        for (int x = 0; x < width; x += block) {
            double sum = 0.0;
            int count = 0;
            for (int dy = 0; dy < block && y + dy < height; ++dy) {
                for (int dx = 0; dx < block && x + dx < width; ++dx, ++count) {
                    sum += double(
                        plane[static_cast<std::size_t>(y + dy) * static_cast<std::size_t>(width) +
                              static_cast<std::size_t>(x + dx)]);
                }
            }
            const double code =
                std::round(sum / count / double(scale.scale) + double(scale.offset));
            codes.push_back(static_cast<std::uint16_t>(std::clamp(code, 0.0, top)));
        }
    }
    return codes;
}

}  // namespace

Frame blankFrame(int width, int height) {
    Frame frame;
    frame.width = width;
    frame.height = height;
    for (auto& channel : frame.channels) {
        channel.assign(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), 0.0F);
    }
    return frame;
}

Frame signalFrame(const CodedFrame& frame, PixelRect region) {
    const int left = std::clamp(region.x, 0, frame.width - 1);
    const int top = std::clamp(region.y, 0, frame.height - 1);
    const int right = std::clamp(region.x + region.width, left + 1, frame.width);
    const int bottom = std::clamp(region.y + region.height, top + 1, frame.height);
    const PixelRect inside{left, top, right - left, bottom - top};
    Frame result = blankFrame(inside.width, inside.height);
    fillRows(frame, inside, 1, result);
    return result;
}

Frame signalFrame(const CodedFrame& frame) {
    return signalFrame(frame, {0, 0, frame.width, frame.height});
}

Frame shrunkSignal(const CodedFrame& frame, int step) {
    step = std::max(step, 1);
    const PixelRect all{0, 0, std::max(frame.width / step, 1), std::max(frame.height / step, 1)};
    Frame result = blankFrame(all.width, all.height);
    fillRows(frame, all, step, result);
    return result;
}

double clipSignal(const CodedFrame& frame) {
    if (frame.samples == SampleKind::Float32) return 1e9;
    if (frame.tags.range == Range::Full) return 1.0 - 0.5 / (std::exp2(frame.bitDepth) - 1.0);
    return (254.0 - 16.0) / 219.0 - 0.002;
}

CodedFrame codedFromSignal(const Frame& signal,
                           const SignalTags& tags,
                           int bitDepth,
                           int chromaShift) {
    CodedFrame frame;
    frame.width = signal.width;
    frame.height = signal.height;
    frame.bitDepth = bitDepth;
    frame.samples = bitDepth > 8 ? SampleKind::Unsigned16 : SampleKind::Unsigned8;
    frame.tags = tags;
    const bool isYcc = tags.matrix != Matrix::None;
    frame.chromaShiftX = isYcc ? chromaShift : 0;
    frame.chromaShiftY = frame.chromaShiftX;
    const std::array<std::vector<float>, 3> planes =
        isYcc ? yccPlanes(signal, tags.matrix) : signal.channels;
    auto owner = std::make_shared<OwnedPlanes>();
    const std::ptrdiff_t bytes = bitDepth > 8 ? 2 : 1;
    for (std::size_t c = 0; c < 3; ++c) {
        const bool isChroma = isYcc && c > 0;
        const int shift = isChroma ? chromaShift : 0;
        const int width = (signal.width + (1 << shift) - 1) >> shift;
        const int height = (signal.height + (1 << shift) - 1) >> shift;
        const Scale scale = isChroma ? chromaScale(frame) : lumaScale(frame);
        owner->wide[c] = coded(planes[c], signal.width, signal.height, shift, scale, bitDepth);
        if (bitDepth <= 8) {
            for (std::uint16_t code : owner->wide[c])
                owner->narrow[c].push_back(static_cast<std::uint8_t>(code));
        }
        const void* data = bitDepth > 8 ? static_cast<const void*>(owner->wide[c].data())
                                        : static_cast<const void*>(owner->narrow[c].data());
        frame.planes[c] = {static_cast<const std::byte*>(data), bytes * width, width, height};
    }
    frame.owner = owner;
    return frame;
}

}  // namespace rigmatch::image
