// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/shoot.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/format.h"
#include "media/clip_writer.h"
#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "sim/clock_bench.h"

namespace rigmatch::sim {
namespace {

using base::ErrorCode;
using base::Result;

View viewOf(const rig::Camera& camera) {
    const rig::SimulatedBody& body = *camera.simulated;
    View view;
    view.position = Vec(body.position[0], body.position[1], body.position[2]);
    view.aim = Vec(body.aim[0], body.aim[1], body.aim[2]);
    view.rollDegrees = body.rollDegrees;
    view.horizontalViewDegrees = body.horizontalViewDegrees;
    view.width = std::clamp(camera.settings.width / 2 * 2, 64, 8192);
    view.height = std::clamp(camera.settings.height / 2 * 2, 64, 8192);
    return view;
}

/// FNV-1a: the same on every machine.
std::uint64_t cameraSeed(const std::string& id) {
    std::uint64_t hash = 14695981039346656037ULL;
    for (const char letter : id) hash = (hash ^ static_cast<unsigned char>(letter)) * 1099511628211ULL;
    return hash;
}

std::string viewKey(const View& v) {
    std::string key;
    for (double value : {v.position.x(), v.position.y(), v.position.z(), v.aim.x(), v.aim.y(), v.aim.z(),
                         v.rollDegrees, v.horizontalViewDegrees, double(v.width), double(v.height)}) {
        key += base::fixed(value, 5) + " ";
    }
    return key;
}

std::array<image::Point, 4> projected(const View& view, const ChartPlace& place) {
    std::array<image::Point, 4> corners;
    for (std::size_t i = 0; i < 4; ++i) corners[i] = view.project(place.corners[i]);
    return corners;
}

void holdChart(image::Frame& linear, const Scene& scene, const View& view, const ChartPlace& place) {
    const auto& c = place.corners;
    const Vec middle = 0.25 * (c[0] + c[1] + c[2] + c[3]);
    const auto greenAt = [&](const Vec& point) { return irradiance(scene, point, place.normal).y(); };
    ChartCard card;
    card.isHeld = true;
    const Vec light = irradiance(scene, middle, place.normal);
    card.light = {light.x(), light.y(), light.z()};
    card.fallStopsAcross = std::log2(greenAt(0.5 * (c[0] + c[3])) / greenAt(0.5 * (c[1] + c[2])));
    card.fallStopsDown = std::log2(greenAt(0.5 * (c[0] + c[1])) / greenAt(0.5 * (c[2] + c[3])));
    paintChart(linear, projected(view, place), card);
}

tl::unexpected<base::Error> notSimulated(const rig::Camera& camera) {
    return base::fail(ErrorCode::OutOfRange, "Camera " + camera.letter + " cannot shoot by itself",
                      "It is a real camera, not a simulated one.", "Record a clip on it and drop the file here.");
}

media::ClipOptions clipOptions(const rig::Camera& camera, const View& view) {
    media::ClipOptions options;
    options.width = view.width;
    options.height = view.height;
    options.bitDepth = camera.simulated->bitDepth >= 10 ? 10 : 8;
    options.codec = options.bitDepth == 10 ? media::ClipCodec::Hevc : media::ClipCodec::H264;
    options.isFullRange = camera.simulated->isFullRange;
    options.quality = options.bitDepth == 10 ? 22 : 23;
    options.frameRateNumerator = static_cast<int>(std::lround(camera.settings.frameRate * 1000.0));
    options.frameRateDenominator = 1000;
    const colour::CurveKind kind = recordedCurve(camera).kind;
    options.transfer = kind == colour::CurveKind::Hlg   ? image::TransferTag::Hlg
                       : kind == colour::CurveKind::Log ? image::TransferTag::Unknown
                                                        : image::TransferTag::Bt709;
    return options;
}

}  // namespace

Result<void> ShootOptions::validate() const {
    if (seconds >= 0.2 && seconds <= 60.0) return {};
    return base::fail(ErrorCode::OutOfRange, "Cannot shoot a take of this length",
                      base::fixed(seconds, 2) + " s was given; 0.2 to 60 s is allowed.", "Change the length.");
}

rig::Settings usedSettings(const rig::Camera& camera, const image::Frame& linear) {
    rig::Settings used = camera.settings;
    if (camera.settings.isAutoExposure) {
        const auto& green = linear.channels[1];
        const double mean = std::accumulate(green.begin(), green.end(), 0.0) / static_cast<double>(green.size());
        constexpr double kMeterTarget = 0.15;  // where this automatic wants the mean of its picture
        const double stops = std::log2(kMeterTarget / std::max(mean, 1e-4)) - exposureStops(*camera.simulated, used);
        used.isoValue = rig::nearestAllowed(camera.sheet.isoValues, used.isoValue * std::exp2(stops));
    }
    if (camera.settings.isAutoWhiteBalance) {
        const auto mean = [&](std::size_t c) {
            return std::accumulate(linear.channels[c].begin(), linear.channels[c].end(), 0.0);
        };
        // A fifth of the way to a grey world, as such automatics go.
        const double warmthStops = std::log2(mean(0) / std::max(mean(2), 1e-6));
        const double mired = 1e6 / kLightKelvin + std::clamp(0.2 * warmthStops / 0.0152, -40.0, 40.0);
        used.whiteBalanceKelvin = rig::nearestAllowed(camera.sheet.kelvins, 1e6 / mired);
    }
    return used;
}

SimulatedSet::SimulatedSet() : m_scene(clockBenchScene()) {}

Result<std::shared_ptr<const image::Frame>> SimulatedSet::emptyView(const rig::Camera& camera,
                                                                    const base::Progress& progress) {
    const View view = viewOf(camera);
    auto& kept = m_views[viewKey(view)];
    if (kept) return kept;
    auto rendered = render(m_scene, view, progress);
    if (!rendered) return tl::unexpected(rendered.error());
    kept = std::make_shared<const image::Frame>(std::move(*rendered));
    return kept;
}

Result<rig::Settings> SimulatedSet::shoot(const rig::Camera& camera, const ShootOptions& options,
                                          const std::filesystem::path& file, const base::Progress& progress) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    if (!camera.simulated) return notSimulated(camera);
    const auto empty = emptyView(camera, progress.part(0.0, 0.5));
    if (!empty) return tl::unexpected(empty.error());
    const View view = viewOf(camera);
    rig::Camera used = camera;
    used.settings = usedSettings(camera, **empty);
    const CameraModel model(used);
    auto writer = media::ClipWriter::create(file, clipOptions(camera, view));
    if (!writer) return tl::unexpected(writer.error());
    const int frames = std::max(2, static_cast<int>(std::lround(options.seconds * camera.settings.frameRate)));
    for (int index = 0; index < frames; ++index) {
        if (progress.isCancelled()) {
            std::error_code ignored;
            std::filesystem::remove(file, ignored);
            return tl::unexpected(base::cancelledError());
        }
        image::Frame linear = **empty;
        const auto place = chartPlace(index / camera.settings.frameRate, options.seconds);
        if (place) holdChart(linear, m_scene, view, *place);
        const std::uint64_t seed = options.seed * 1000003U + static_cast<std::uint64_t>(index) * 7919U +
                                   cameraSeed(camera.id);
        if (auto done = writer->append(model.develop(linear, seed)); !done) return tl::unexpected(done.error());
        progress.report(0.5 + 0.5 * index / frames, "shooting camera " + camera.letter);
    }
    if (auto done = writer->finish(); !done) return tl::unexpected(done.error());
    return used.settings;
}

Result<image::Frame> SimulatedSet::heldFrame(const rig::Camera& camera, std::uint64_t seed) {
    if (!camera.simulated) return notSimulated(camera);
    const auto empty = emptyView(camera, {});
    if (!empty) return tl::unexpected(empty.error());
    image::Frame linear = **empty;
    holdChart(linear, m_scene, viewOf(camera), *chartPlace(0.5, 1.0));
    rig::Camera used = camera;
    used.settings = usedSettings(camera, **empty);
    return CameraModel(used).develop(linear, seed);
}

std::array<image::Point, 4> SimulatedSet::heldCorners(const rig::Camera& camera) const {
    return projected(viewOf(camera), *chartPlace(0.5, 1.0));
}

}  // namespace rigmatch::sim
