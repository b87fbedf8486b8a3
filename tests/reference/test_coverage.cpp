// SPDX-License-Identifier: GPL-3.0-or-later
// Stated uncertainties against the truth of cameras that share no code with the product: other
// curves, sensors, noise, sharpening, quantisation and light than those any term was set on. An
// uncertainty is one standard deviation; an error within twice of it counts as covered.
#include <QtTest>

#include "match/curve_error.h"
#include "match/curve_identity.h"
#include "match/details.h"
#include "support/own_take.h"
#include "support/own_truth.h"

using namespace rigmatch;
using match::Quality;
using support::matched;
using support::OwnCamera;
using support::OwnRandom;
using support::ownReading;

namespace {

constexpr std::uint64_t kSeed = 20261128;

/// Pairs to try: the fixed share of the full 240 that every run affords, or
/// RIGMATCH_COVERAGE_PAIRS.
int pairCount() {
    bool isGiven = false;
    const int given = qEnvironmentVariableIntValue("RIGMATCH_COVERAGE_PAIRS", &isGiven);
    return isGiven ? std::max(given, 8) : 60;
}

std::uint64_t seed() {
    bool isGiven = false;
    const int given = qEnvironmentVariableIntValue("RIGMATCH_COVERAGE_SEED", &isGiven);
    return isGiven ? static_cast<std::uint64_t>(given) : kSeed;
}

OwnCamera randomCamera(OwnRandom& random) {
    OwnCamera camera;
    camera.curve = static_cast<OwnCamera::Curve>(random.whole(0, 6));
    camera.stops = random.between(-0.5, 0.15);
    // 66 mired a stop of red against blue, 0.019 Duv a stop of green against both
    // (docs/sources.md).
    const double warm = random.normal(14.0) / 66.0;
    const double green = random.normal(0.003) / 0.019;
    camera.gains = {std::exp2(0.5 * warm - green), 1.0, std::exp2(-0.5 * warm - green)};
    for (std::size_t row = 0; row < 3; ++row) {
        double sum = 0.0;
        for (std::size_t c = 0; c < 3; ++c) {
            if (c == row) continue;
            camera.matrix[3 * row + c] = random.normal(0.05);
            sum += camera.matrix[3 * row + c];
        }
        camera.matrix[4 * row] = 1.0 - sum;
    }
    camera.saturation = random.between(0.85, 1.2);
    camera.hueDegrees = random.normal(1.5);
    camera.pedestal = random.between(-0.004, 0.012);
    camera.readNoise = random.between(0.0006, 0.005);
    camera.photonNoise = random.between(0.001, 0.009);
    camera.noiseRadius = random.whole(0, 1) == 0 ? 0.0 : random.between(0.4, 0.9);
    camera.rowNoise = random.whole(0, 3) == 0 ? random.between(0.0, 0.0008) : 0.0;
    camera.blurPx = random.between(0.4, 1.1);
    camera.sharpening = random.whole(0, 1) == 0 ? 0.0 : random.between(0.1, 0.8);
    camera.bitDepth = random.whole(0, 1) == 0 ? 8 : 10;
    return camera;
}

struct Row {
    const char* name;
    int covered = 0, count = 0, unknown = 0;
    std::vector<double> errors{}, ratios{}, repeats{};

    void take(const match::Difference& d, double truth) {
        if (!d.value) {
            ++unknown;
            return;
        }
        const double error = std::abs(*d.value - truth);
        const double alone =
            std::sqrt(std::max(d.uncertainty * d.uncertainty - d.floor * d.floor, 1e-18));
        errors.push_back(error);
        ratios.push_back(error / d.uncertainty);
        repeats.push_back(error / alone);
        covered += error <= 2.0 * d.uncertainty ? 1 : 0;
        ++count;
    }
    void take(const match::Measured& m, double truth) {
        match::Difference d;
        d.value = m.value;
        d.uncertainty = m.uncertainty;
        take(d, truth);
    }
    [[nodiscard]] double percent() const { return 100.0 * covered / std::max(count, 1); }
    [[nodiscard]] double repeatPercent() const {
        const auto inside = std::count_if(
            repeats.begin(), repeats.end(), [](double ratio) { return ratio <= 2.0; });
        return 100.0 * static_cast<double>(inside) / std::max(count, 1);
    }
};

double quantile(std::vector<double> values, double share) {
    if (values.empty()) return 0.0;
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

}  // namespace

class TestCoverage : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void statedUncertaintiesCoverTheTruth() {
        OwnRandom random{std::mt19937(static_cast<unsigned>(seed()))};
        Row exposure{"exposure, stop"}, mired{"white balance, mired"}, duv{"tint, Duv"},
            contrast{"contrast"}, black{"black level, %"}, saturation{"saturation"},
            hue{"hue, degrees"}, deltaE{"mean CIEDE2000"}, lights{"cast of light greys, mired"},
            darks{"cast of black, mired"}, across{"light across, stop"}, down{"light down, stop"},
            slope{"slope at grey, % a stop"}, greyLevel{"signal of grey, %"},
            sectorSaturation{"saturation near a hue"}, sectorHue{"hue near a hue, degrees"},
            shoulder{"slope near white"}, driftStops{"drift, stop"}, driftMired{"drift, mired"};
        for (int pair = 0; pair < pairCount(); ++pair) {
            OwnCamera reference = randomCamera(random);
            OwnCamera camera = randomCamera(random);
            // Every fourth pair: like cameras, so that small differences are tried as well.
            if (pair % 4 == 0) {
                const double stops = camera.stops;
                const int bits = camera.bitDepth;
                camera = reference;
                camera.bitDepth = bits;
                camera.stops = reference.stops + 0.1 * stops;
            }
            // Every second take in even light: what one camera tells is judged there.
            if (pair % 2 == 0) {
                camera.acrossStops = reference.acrossStops = random.normal(0.06);
                camera.downStops = reference.downStops = random.normal(0.06);
            } else {
                camera.acrossStops = camera.downStops = 0.0;
            }
            const int frames = random.whole(3, 10);
            const rig::Reading mine = ownReading(camera, random, frames);
            const rig::Reading theirs = ownReading(reference, random, frames);
            const auto report = matched(mine, theirs);
            const auto& d = report.find("b")->differences;
            const auto truth = support::ownDifference(camera, reference);
            if (std::abs(truth.exposureStops) < 1.4) {
                exposure.take(d.of(Quality::Exposure), truth.exposureStops);
                contrast.take(d.of(Quality::Contrast), truth.contrast);
                black.take(d.of(Quality::BlackLevel), truth.blackPercent);
                saturation.take(d.of(Quality::Saturation), truth.saturation);
                hue.take(d.of(Quality::Hue), truth.hueDegrees);
            }
            const auto fit = match::fitNeutrals(mine);
            const support::OwnTruth curve(camera);
            if (camera.acrossStops == 0.0) {
                if (const auto cast = match::highlightCast(mine, *fit))
                    lights.take(cast->mired, support::ownCast(curve, {18, 19}));
                if (const auto cast = match::shadowCast(mine, *fit))
                    darks.take(cast->mired, support::ownCast(curve, {23}));
                slope.take(match::Measured{100.0 * fit->curve.slopeAt(fit->luminanceStops),
                                           100.0 * match::slopeErrorAt(*fit, fit->luminanceStops)},
                           100.0 * curve.slope(curve.luminance()));
                greyLevel.take(
                    match::Measured{100.0 * fit->greySignal(0.0),
                                    100.0 * match::signalErrorAt(*fit, fit->luminanceStops)},
                    100.0 * curve.greySignal(0.0));
            }
            if (camera.acrossStops == 0.0) {
                const auto stopsOf = [](std::size_t patch) {
                    return std::log2(support::own::lightOf(patch)[1] / 0.18);
                };
                const double step = (curve.green(stopsOf(18)) - curve.green(stopsOf(19))) /
                                    (stopsOf(18) - stopsOf(19));
                const match::ProfileClass kind = match::profileClass(mine, *fit, std::nullopt);
                if (!rig::isClipped(mine.patches[18]))
                    shoulder.take(match::Measured{kind.shoulder, kind.shoulderError},
                                  step / curve.slope(curve.luminance()));
                const auto sectors =
                    match::hueSectors(*report.find("b")->compared, d, *report.find("a")->compared);
                for (std::size_t s = 0; s < 6 && std::abs(truth.exposureStops) < 1.4; ++s) {
                    if (truth.sectorPatches[s] == 0 || !sectors[s].saturationRatio.value) continue;
                    sectorSaturation.take(sectors[s].saturationRatio, truth.sectorSaturation[s]);
                    sectorHue.take(sectors[s].hueDegrees, truth.sectorHue[s]);
                }
            }
            if (const auto drift = match::driftOf(mine, *fit)) {
                driftStops.take(drift->stops, 0.0);
                driftMired.take(drift->mired, 0.0);
            }
            if (const auto fall = match::lightFall(mine, *fit)) {
                across.take(fall->acrossStops, camera.acrossStops);
                down.take(fall->downStops, camera.downStops);
            }
            mired.take(d.of(Quality::WhiteBalance), truth.mired);
            duv.take(d.of(Quality::Tint), truth.duv);
            // Of recordings to be converted only HLG has a published curve here.
            const auto isJudgedSo = [](const OwnCamera& one, const std::string& conversion) {
                return (one.curve == OwnCamera::Curve::Hlg) == !conversion.empty();
            };
            if (isJudgedSo(camera, report.find("b")->conversion) &&
                isJudgedSo(reference, report.find("a")->conversion))
                deltaE.take(d.of(Quality::DeltaE), truth.deltaE);
        }
        const std::array rows{&exposure,
                              &mired,
                              &duv,
                              &contrast,
                              &black,
                              &saturation,
                              &hue,
                              &deltaE,
                              &lights,
                              &darks,
                              &slope,
                              &greyLevel,
                              &across,
                              &down,
                              &sectorSaturation,
                              &sectorHue,
                              &shoulder,
                              &driftStops,
                              &driftMired};
        for (const Row* row : rows) {
            qInfo(
                "%-22s %3d pairs (%d unknown): covered %5.1f %%, without scene and method %5.1f "
                "%%; error median %.5f, 95th %.5f; over the stated deviation median %.2f, 95th "
                "%.2f; over what repeats median %.2f, 95th %.2f",
                row->name,
                row->count,
                row->unknown,
                row->percent(),
                row->repeatPercent(),
                quantile(row->errors, 0.5),
                quantile(row->errors, 0.95),
                quantile(row->ratios, 0.5),
                quantile(row->ratios, 0.95),
                quantile(row->repeats, 0.5),
                quantile(row->repeats, 0.95));
        }
        for (const Row* row : rows) QVERIFY2(row->percent() >= 90.0, row->name);
    }
};

QTEST_APPLESS_MAIN(TestCoverage)
#include "test_coverage.moc"
