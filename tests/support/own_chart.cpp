// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/own_chart.h"

#include <opencv2/core.hpp>

namespace rigmatch::support {
namespace own {

Triple signalOf(const OwnCamera& camera, const Triple& light, double veilShare) {
    Triple coded{};
    for (std::size_t row = 0; row < 3; ++row) {
        double mixed = 0.0;
        for (std::size_t c = 0; c < 3; ++c) mixed += camera.matrix[3 * row + c] * light[c];
        const double exposed =
            (std::max(mixed, 0.0) * camera.gains[row]) * std::exp2(camera.stops) +
            camera.veil * veilShare;
        coded[row] = ownSignal(camera.curve, exposed);
        if (camera.contrast != 1.0) {
            const double share = coded[row] / camera.contrastPivot;
            coded[row] = camera.contrastPivot *
                         (camera.isContrastPower ? std::pow(std::max(share, 0.0), camera.contrast)
                                                 : 1.0 + camera.contrast * (share - 1.0));
        }
        if (coded[row] > 0.7) coded[row] = 0.7 + camera.kneeSlope * (coded[row] - 0.7);
    }
    const double luma = 0.2126 * coded[0] + 0.7152 * coded[1] + 0.0722 * coded[2];
    const double bright =
        std::log2(std::max(0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2], 1e-5) / 0.18);
    const double kept =
        std::clamp(1.0 - camera.fadePerStop * std::max(0.0, bright - camera.fadeFrom), 0.0, 1.0);
    const double angle = camera.hueDegrees * std::numbers::pi / 180.0;
    const double cb = kept * camera.saturation * (coded[2] - luma) / 1.8556;
    const double cr = kept * camera.saturation * (coded[0] - luma) / 1.5748;
    const double cb2 = cb * std::cos(angle) - cr * std::sin(angle);
    const double cr2 = cb * std::sin(angle) + cr * std::cos(angle);
    Triple signal{luma + 1.5748 * cr2, 0.0, luma + 1.8556 * cb2};
    signal[1] = (luma - 0.2126 * signal[0] - 0.0722 * signal[2]) / 0.7152;
    for (double& value : signal) value = std::min(value + camera.pedestal, camera.cutAt);
    return signal;
}

Triple placedLight(const OwnCamera& camera, std::size_t patch) {
    const double x = static_cast<double>(patch % 6) / 5.0 - 0.5;
    const double y = static_cast<double>(patch / 6) / 3.0 - 0.5;
    Triple light = lightOf(patch);
    double stops = camera.acrossStops * x + camera.downStops * y;
    if (camera.localContrast != 0.0) {
        const auto stopsAt = [](int column, int row) {
            if (column < 0 || row < 0 || column > 5 || row > 3) return std::log2(0.045 / 0.18);
            const Triple l = lightOf(static_cast<std::size_t>(row * 6 + column));
            return std::log2((0.2126 * l[0] + 0.7152 * l[1] + 0.0722 * l[2]) / 0.18);
        };
        const int column = static_cast<int>(patch % 6);
        const int row = static_cast<int>(patch / 6);
        double around = 0.0;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx)
                if (dx != 0 || dy != 0) around += stopsAt(column + dx, row + dy) / 8.0;
        stops += camera.localContrast * (stopsAt(column, row) - around);
    }
    for (double& value : light) value *= std::exp2(stops);
    if (patch == 23)
        for (double& value : light) value += camera.shineOnBlack;
    return light;
}

void blur(std::vector<double>& plane, double radius, Size size) {
    if (radius <= 0.05) return;
    const int reach = std::max(1, static_cast<int>(std::ceil(2.5 * radius)));
    std::vector<double> kernel;
    double sum = 0.0;
    for (int i = -reach; i <= reach; ++i) {
        kernel.push_back(std::exp(-0.5 * i * i / (radius * radius)));
        sum += kernel.back();
    }
    const auto width = static_cast<std::size_t>(size.width);
    // Across: a row with its ends drawn out.
    std::vector<double> drawn(width + 2 * static_cast<std::size_t>(reach));
    std::vector<double> line(width);
    for (int y = 0; y < size.height; ++y) {
        double* row = plane.data() + static_cast<std::size_t>(y) * width;
        std::fill(drawn.begin(), drawn.begin() + reach, row[0]);
        std::copy(row, row + width, drawn.begin() + reach);
        std::fill(drawn.end() - reach, drawn.end(), row[width - 1]);
        std::fill(line.begin(), line.end(), 0.0);
        for (std::size_t k = 0; k < kernel.size(); ++k)
            for (std::size_t x = 0; x < width; ++x) line[x] += kernel[k] * drawn[x + k];
        for (std::size_t x = 0; x < width; ++x) row[x] = line[x] / sum;
    }
    // Down: rows upon rows.
    std::vector<double> other(plane.size());
    for (int y = 0; y < size.height; ++y) {
        double* to = other.data() + static_cast<std::size_t>(y) * width;
        for (int i = -reach; i <= reach; ++i) {
            const double* from =
                plane.data() +
                static_cast<std::size_t>(std::clamp(y + i, 0, size.height - 1)) * width;
            const double share = kernel[static_cast<std::size_t>(i + reach)];
            for (std::size_t x = 0; x < width; ++x) to[x] += share * from[x];
        }
        for (std::size_t x = 0; x < width; ++x) to[x] /= sum;
    }
    plane.swap(other);
}

image::CodedFrame coded(const std::array<std::vector<double>, 3>& rgb,
                        const OwnCamera& camera,
                        Size size) {
    struct Planes {
        std::array<std::vector<std::uint16_t>, 3> wide;
        std::array<std::vector<std::uint8_t>, 3> narrow;
    };
    auto owner = std::make_shared<Planes>();
    const double unit = std::exp2(camera.bitDepth - 8);
    const double top = std::exp2(camera.bitDepth) - 1.0;
    const double black = camera.isFullRange ? 0.0 : 16.0 * unit;
    const double span = camera.isFullRange ? top : 219.0 * unit;
    const double chromaSpan = camera.isFullRange ? top : 224.0 * unit;
    const int shift = camera.chromaShift;
    image::CodedFrame frame;
    frame.width = size.width;
    frame.height = size.height;
    frame.bitDepth = camera.bitDepth;
    frame.samples =
        camera.bitDepth > 8 ? image::SampleKind::Unsigned16 : image::SampleKind::Unsigned8;
    frame.chromaShiftX = frame.chromaShiftY = shift;
    frame.tags.range = camera.isFullRange ? image::Range::Full : image::Range::Limited;
    frame.tags.isRangeTagged = frame.tags.isMatrixTagged = true;
    for (std::size_t plane = 0; plane < 3; ++plane) {
        const int step = plane == 0 ? 1 : 1 << shift;
        const int width = (size.width + step - 1) / step;
        const int height = (size.height + step - 1) / step;
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                double sum = 0.0;
                for (int dy = 0; dy < step; ++dy) {
                    for (int dx = 0; dx < step; ++dx) {
                        const auto at = static_cast<std::size_t>(
                            std::min(y * step + dy, size.height - 1) * size.width +
                            std::min(x * step + dx, size.width - 1));
                        const double r = rgb[0][at], g = rgb[1][at], b = rgb[2][at];
                        const double luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
                        sum += plane == 0   ? luma
                               : plane == 1 ? (b - luma) / 1.8556
                                            : (r - luma) / 1.5748;
                    }
                }
                const double mean = sum / (step * step);
                const double code =
                    plane == 0 ? black + span * mean : 128.0 * unit + chromaSpan * mean;
                const double kept = std::clamp(std::round(code), 0.0, top);
                if (camera.bitDepth > 8)
                    owner->wide[plane].push_back(static_cast<std::uint16_t>(kept));
                else
                    owner->narrow[plane].push_back(static_cast<std::uint8_t>(kept));
            }
        }
        const auto* data = camera.bitDepth > 8
                               ? reinterpret_cast<const std::byte*>(owner->wide[plane].data())
                               : reinterpret_cast<const std::byte*>(owner->narrow[plane].data());
        frame.planes[plane] = {data,
                               static_cast<std::ptrdiff_t>(width) * (camera.bitDepth > 8 ? 2 : 1),
                               width,
                               height};
    }
    frame.owner = owner;
    return frame;
}

}  // namespace own

std::array<std::vector<double>, 3> ownPicture(const OwnCamera& camera) {
    using namespace own;
    std::array<std::vector<double>, 3> picture;
    for (auto& plane : picture) plane.resize(static_cast<std::size_t>(kWidth * kHeight));
    const Triple wall = signalOf(camera, {0.12, 0.12, 0.12});
    const Triple card = signalOf(camera, {0.045, 0.045, 0.045});
    for (int y = 0; y < kHeight; ++y) {
        for (int x = 0; x < kWidth; ++x) {
            Triple signal = wall;
            const double px = (x + 0.5 - kMargin) / kPatchPx;
            const double py = (y + 0.5 - kMargin) / kPatchPx;
            if (px > -0.35 && py > -0.35 && px < 6.35 && py < 4.35) signal = card;
            const double inX = px - std::floor(px) - 0.5;
            const double inY = py - std::floor(py) - 0.5;
            const bool isPatch = px >= 0.0 && py >= 0.0 && px < 6.0 && py < 4.0 &&
                                 std::abs(inX) < 0.5 * kPatchShare &&
                                 std::abs(inY) < 0.5 * kPatchShare;
            if (isPatch) {
                const auto patch = static_cast<std::size_t>(py) * 6 + static_cast<std::size_t>(px);
                const double along = 1.0 - camera.veilFall * (1.0 - px / 6.0);
                signal = signalOf(camera, placedLight(camera, patch), along);
            }
            for (std::size_t c = 0; c < 3; ++c)
                picture[c][static_cast<std::size_t>(y * kWidth + x)] = signal[c];
        }
    }
    for (auto& plane : picture) {
        blur(plane, camera.blurPx);
        if (camera.sharpening > 0.0) {
            std::vector<double> soft = plane;
            blur(soft, 1.2);
            for (std::size_t i = 0; i < plane.size(); ++i)
                plane[i] += camera.sharpening * (plane[i] - soft[i]);
        }
    }
    return picture;
}

image::CodedFrame ownFrame(const std::array<std::vector<double>, 3>& picture,
                           const OwnCamera& camera,
                           std::mt19937& random,
                           own::Size size) {
    using namespace own;
    cv::RNG normal(random());
    std::array<std::vector<double>, 3> noisy = picture;
    std::vector<double> rows(static_cast<std::size_t>(size.height));
    normal.fill(rows, cv::RNG::NORMAL, 0.0, camera.rowNoise);
    for (auto& plane : noisy) {
        std::vector<double> noise(plane.size());
        normal.fill(noise, cv::RNG::NORMAL, 0.0, 1.0);
        // A Gaussian of radius r keeps 1 / (2 sqrt(pi) r) of white noise's deviation.
        if (camera.noiseRadius > 0.0) blur(noise, camera.noiseRadius, size);
        const double kept = camera.noiseRadius > 0.05
                                ? 2.0 * std::sqrt(std::numbers::pi) * camera.noiseRadius
                                : 1.0;
        for (std::size_t i = 0; i < plane.size(); ++i) {
            const double deviation =
                std::sqrt(camera.readNoise * camera.readNoise +
                          camera.photonNoise * camera.photonNoise * std::clamp(plane[i], 0.0, 1.0));
            plane[i] +=
                kept * deviation * noise[i] + rows[i / static_cast<std::size_t>(size.width)];
            plane[i] = std::min(plane[i], std::max(camera.cutAt, -1.0));
        }
    }
    return coded(noisy, camera, size);
}

}  // namespace rigmatch::support
