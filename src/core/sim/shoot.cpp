// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/shoot.h"

#include <algorithm>
#include <cmath>
#include <future>
#include <numeric>
#include <span>

#include "base/format.h"
#include "media/clip_writer.h"
#include "sim/camera_model.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/set_sound.h"
#include "sim/take_frames.h"
#include "sound/wave_file.h"

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
    view.width = std::clamp(camera.settings.width.value() / 2 * 2, 64, 8192);
    view.height = std::clamp(camera.settings.height.value() / 2 * 2, 64, 8192);
    view.glass.distortion = body.distortion;
    if (body.focusMetres > 0.0) {
        view.glass.focusMetres = body.focusMetres;
        view.glass.apertureMetres =
            1e-3 * camera.lens.focalLengthMm / std::max(0.5, camera.settings.fNumber.value());
    }
    return view;
}

/// FNV-1a: the same on every machine.
std::uint64_t cameraSeed(const std::string& id) {
    std::uint64_t hash = 14695981039346656037ULL;
    for (const char letter : id)
        hash = (hash ^ static_cast<unsigned char>(letter)) * 1099511628211ULL;
    return hash;
}

std::string viewKey(const View& v) {
    std::string key;
    for (double value : {v.position.x(),
                         v.position.y(),
                         v.position.z(),
                         v.aim.x(),
                         v.aim.y(),
                         v.aim.z(),
                         v.rollDegrees,
                         v.horizontalViewDegrees,
                         1e3 * v.glass.apertureMetres,
                         v.glass.focusMetres,
                         v.glass.distortion,
                         double(v.width),
                         double(v.height)}) {
        key += base::fixed(value, 5) + " ";
    }
    return key;
}

tl::unexpected<base::Error> notSimulated(const rig::Camera& camera) {
    return base::fail(ErrorCode::OutOfRange,
                      base::say("shoot.cameraCannotShoot", {{"camera", camera.letter}}),
                      base::say("shoot.realCameraNot"),
                      base::say("shoot.recordClipDrop"));
}

RenderOptions workFor(bool isFine) {
    RenderOptions work;
    if (isFine) {
        work.lampRays = 32;
        work.lampAgree = 4;
    }
    return work;
}

/// When a camera begins, s of the set's clock: within half a second of the others.
double startOf(const std::string& id, const ShootOptions& options) {
    if (!options.hasSound) return 0.0;
    return 0.8 * (static_cast<double>((cameraSeed(id) + options.seed) % 997U) / 996.0 - 0.5);
}

media::ClipOptions clipOptions(const rig::Camera& camera, const View& view) {
    media::ClipOptions options;
    options.width = view.width;
    options.height = view.height;
    options.bitDepth = camera.simulated->bitDepth >= 10 ? 10 : 8;
    options.codec = options.bitDepth == 10 ? media::ClipCodec::Hevc : media::ClipCodec::H264;
    options.isFullRange = camera.simulated->isFullRange;
    options.quality = options.bitDepth == 10 ? 18 : 20;
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
    return base::fail(ErrorCode::OutOfRange,
                      base::say("shoot.cannotShootTake"),
                      base::say("shoot.givenAllowed", {{"seconds", base::Number{seconds, 2}}}),
                      base::say("shoot.changeLength"));
}

rig::Settings usedSettings(const rig::Camera& camera, const image::Frame& linear) {
    rig::Settings used = camera.settings;
    if (camera.settings.isAutoExposure) {
        const auto& green = linear.channels[1];
        const double mean =
            std::accumulate(green.begin(), green.end(), 0.0) / static_cast<double>(green.size());
        constexpr double kMeterTarget = 0.10;  // where this automatic wants the mean of its picture
        const double stops =
            std::log2(kMeterTarget / std::max(mean, 1e-4)) - exposureStops(*camera.simulated, used);
        used.isoValue =
            rig::nearestAllowed(camera.sheet.isoValues, used.isoValue * std::exp2(stops));
    }
    if (camera.settings.isAutoWhiteBalance) {
        const auto mean = [&](std::size_t c) {
            return std::accumulate(linear.channels[c].begin(), linear.channels[c].end(), 0.0);
        };
        // A fifth of the way to a grey world, as such automatics go.
        const double warmthStops = std::log2(mean(0) / std::max(mean(2), 1e-6));
        const double mired =
            1e6 / kLightKelvin + std::clamp(0.2 * warmthStops / 0.0152, -40.0, 40.0);
        used.whiteBalanceKelvin = rig::nearestAllowed(camera.sheet.kelvins, 1e6 / mired);
    }
    return used;
}

SimulatedSet::SimulatedSet() { follow(clockBenchPlan()); }

void SimulatedSet::follow(const rig::SetPlan& plan) {
    if (plan == m_plan) return;
    m_plan = plan;
    m_scene.reset();
    m_views.clear();
    m_layers.clear();
}

const Scene& SimulatedSet::scene() {
    if (!m_scene) m_scene = sceneOf(m_plan);
    return *m_scene;
}

Result<std::shared_ptr<const image::Frame>> SimulatedSet::emptyView(
    const rig::Camera& camera, bool isFine, const base::Progress& progress) {
    const View view = viewOf(camera);
    auto& kept = m_views[viewKey(view) + (isFine ? " fine" : "")];
    if (kept) return kept;
    auto rendered = render(scene(), view, progress, workFor(isFine));
    if (!rendered) return tl::unexpected(rendered.error());
    kept = std::make_shared<const image::Frame>(std::move(*rendered));
    return kept;
}

Result<std::shared_ptr<const LayeredPicture>> SimulatedSet::layeredView(
    const rig::Camera& camera, bool isFine, const base::Progress& progress) {
    const View view = viewOf(camera);
    auto& kept = m_layers[viewKey(view) + (isFine ? " fine" : "")];
    if (kept) return kept;
    auto rendered = renderLayers(scene(), view, progress, workFor(isFine));
    if (!rendered) return tl::unexpected(rendered.error());
    kept = std::make_shared<const LayeredPicture>(std::move(*rendered));
    return kept;
}

image::Frame SimulatedSet::Stage::at(double seconds, const View& view) const {
    image::Frame seen = *set;
    if (people) people->lay(seconds, {0, 0, view.width, view.height}, seen);
    return seen;
}

Result<SimulatedSet::Stage> SimulatedSet::stageOf(const rig::Camera& camera,
                                                  const ShootOptions& options,
                                                  const base::Progress& progress) {
    Stage stage;
    if (!options.isAlive) {
        auto rendered = emptyView(camera, options.isFine, progress);
        if (!rendered) return tl::unexpected(rendered.error());
        stage.set = std::move(*rendered);
        return stage;
    }
    const auto rendered = layeredView(camera, options.isFine, progress);
    if (!rendered) return tl::unexpected(rendered.error());
    stage.set = {*rendered, &(*rendered)->set};
    stage.people.emplace(m_plan,
                         viewOf(camera),
                         (*rendered)->parts,
                         options.seconds,
                         options.seed,
                         clapSeconds(options));
    return stage;
}

std::optional<double> SimulatedSet::clapSeconds(const ShootOptions& options) const {
    const bool isHandy =
        std::any_of(m_plan.objects.begin(), m_plan.objects.end(), [](const rig::PlanObject& o) {
            return o.kind == rig::PlanKind::Person && o.hasRaisedHands;
        });
    if (!isHandy || !options.hasSound) return std::nullopt;
    return SetSound::clapAt(options.seconds);
}

namespace {

/// What a camera's own microphone hears during a take that it begins at `start`.
Samples ownSound(const rig::SetPlan& plan,
                 const View& view,
                 const ShootOptions& options,
                 double start,
                 double seconds) {
    if (!options.hasSound) return {};
    Microphone own;
    own.place = view.position;
    own.gainDecibels = 1.0;
    own.roomShare = 0.58;  // it looks where the camera looks
    return SetSound(plan, options.seconds, options.seed).heard(own, start, seconds);
}

/// Frames and their sound into a file; one frame is exposed while the one before it is encoded.
class Recording {
public:
    Recording(media::ClipWriter& writer, Samples sound, double frameRate, int repeatEvery)
        : m_writer(writer),
          m_sound(std::move(sound)),
          m_rate(frameRate),
          m_repeatEvery(repeatEvery) {}

    template <typename Picture, typename Told>
    Result<void> write(int frames, const Picture& picture, const Told& told) {
        std::future<image::Frame> next = std::async(std::launch::async, picture, 0);
        for (int index = 0; index < frames; ++index) {
            const image::Frame current = next.get();
            if (!told(index)) return tl::unexpected(base::cancelledError());
            if (index + 1 < frames) next = std::async(std::launch::async, picture, index + 1);
            if (auto done = append(index, current); !done) return done;
        }
        return m_writer.finish();
    }

private:
    Result<void> append(int index, const image::Frame& current) {
        // A chain that stutters shows the picture before once more.
        const bool isRepeat = m_repeatEvery > 1 && index > 0 && index % m_repeatEvery == 0;
        if (auto done = m_writer.append(isRepeat ? m_before : current); !done) return done;
        if (m_repeatEvery > 1 && !isRepeat) m_before = current;
        return m_writer.appendSound(
            std::span(m_sound).subspan(soundTo(index), soundTo(index + 1) - soundTo(index)));
    }
    [[nodiscard]] std::size_t soundTo(int index) const {
        return std::min(m_sound.size(), static_cast<std::size_t>(SetSound::kRate * index / m_rate));
    }

    media::ClipWriter& m_writer;
    Samples m_sound;
    double m_rate;
    int m_repeatEvery;
    image::Frame m_before;
};

}  // namespace

Result<rig::Settings> SimulatedSet::shoot(const rig::Camera& camera,
                                          const ShootOptions& options,
                                          const std::filesystem::path& file,
                                          const base::Progress& progress) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    if (!camera.simulated) return notSimulated(camera);
    const View view = viewOf(camera);
    const double start = startOf(camera.id, options), rate = camera.settings.frameRate;
    auto stage = stageOf(camera, options, progress.part(0.0, 0.5));
    if (!stage) return tl::unexpected(stage.error());
    rig::Camera used = camera;
    used.settings = usedSettings(camera, stage->at(start, view));
    const CameraModel model(used);
    media::ClipOptions how = clipOptions(camera, view);
    if (options.hasSound) how.soundRate = SetSound::kRate;
    auto writer = media::ClipWriter::create(file, how);
    if (!writer) return tl::unexpected(writer.error());
    TakeFrames pictures(
        *stage->set, model, scene(), view, stage->people ? &*stage->people : nullptr);
    const int frames = std::max(2, static_cast<int>(std::lround(options.seconds * rate)));
    const auto picture = [&](int index) {
        const std::uint64_t seed = options.seed * 1000003U +
                                   static_cast<std::uint64_t>(index) * 7919U +
                                   cameraSeed(camera.id);
        const double now = start + index / rate;
        return pictures.frame(now, chartPlace(m_plan, now, options.seconds), seed);
    };
    Recording recording(*writer,
                        ownSound(m_plan, view, options, start, frames / rate),
                        rate,
                        options.hasSound ? camera.simulated->repeatEvery : 0);
    const auto done = recording.write(frames, picture, [&](int index) {
        if (index > 0)
            progress.report(0.5 + 0.5 * (index - 1) / frames,
                            base::say("progress.shooting", {{"letter", camera.letter}}));
        return !progress.isCancelled();
    });
    if (!done) {
        std::error_code ignored;
        if (progress.isCancelled()) std::filesystem::remove(file, ignored);
        return tl::unexpected(done.error());
    }
    return used.settings;
}

Result<void> SimulatedSet::recordSound(const ShootOptions& options,
                                       const std::filesystem::path& file) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    const SetSound set(m_plan, options.seconds, options.seed);
    std::vector<Samples> channels;
    // A recorder is started first and stopped last.
    constexpr double kEarly = 0.7;
    for (const Microphone& one : set.bodyMicrophones())
        channels.push_back(set.heard(one, -kEarly, options.seconds + kEarly));
    return sound::writeWave(file, channels, SetSound::kRate);
}

Result<image::Frame> SimulatedSet::heldFrame(const rig::Camera& camera, std::uint64_t seed) {
    if (!camera.simulated) return notSimulated(camera);
    const auto empty = emptyView(camera, false, {});
    if (!empty) return tl::unexpected(empty.error());
    rig::Camera used = camera;
    used.settings = usedSettings(camera, **empty);
    const CameraModel model(used);
    const View view = viewOf(camera);
    return TakeFrames(**empty, model, scene(), view).frame(0.0, chartPlace(m_plan, 0.5, 1.0), seed);
}

std::array<image::Point, 4> SimulatedSet::heldCorners(const rig::Camera& camera) const {
    return cornersOf(viewOf(camera), *chartPlace(m_plan, 0.5, 1.0));
}

}  // namespace rigmatch::sim
