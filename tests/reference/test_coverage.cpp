// SPDX-License-Identifier: GPL-3.0-or-later
// Stated uncertainties against the truth of cameras that share no code with the product: other
// curves, sensors, noise, sharpening, quantisation and light than those any term was set on. An
// uncertainty is one standard deviation; an error within twice of it counts as covered.
#include "match/curve_error.h"
#include "match/curve_identity.h"
#include "match/details.h"
#include "support/coverage.h"
#include "support/own_truth.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using match::Quality;
using support::CoverageRow;
using support::matched;
using support::OwnCamera;
using support::OwnRandom;
using support::ownReading;

namespace {

constexpr unsigned kSeed = 20261128;

}  // namespace

class TestCoverage : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void statedUncertaintiesCoverTheTruth() {
        OwnRandom random = support::coverageRandom(kSeed);
        CoverageRow exposure{"exposure, stop"}, mired{"white balance, mired"}, duv{"tint, Duv"},
            contrast{"contrast"}, black{"black level, %"}, saturation{"saturation"},
            hue{"hue, degrees"}, deltaE{"mean CIEDE2000"}, lights{"cast of light greys, mired"},
            darks{"cast of black, mired"}, across{"light across, stop"}, down{"light down, stop"},
            slope{"slope at grey, % a stop"}, greyLevel{"signal of grey, %"},
            sectorSaturation{"saturation near a hue"}, sectorHue{"hue near a hue, degrees"},
            shoulder{"slope near white"}, driftStops{"drift, stop"}, driftMired{"drift, mired"};
        for (int pair = 0; pair < support::sampleSize(600); ++pair) {
            OwnCamera reference = support::randomOwnCamera(random);
            OwnCamera camera = support::randomOwnCamera(random);
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
            const auto keepOne = [&](const rig::Reading& reading, const OwnCamera& one) {
                const auto fit = match::fitNeutrals(reading);
                const support::OwnTruth curve(one);
                if (one.acrossStops == 0.0) {
                    if (const auto cast = match::highlightCast(reading, *fit))
                        lights.take(cast->mired, support::ownCast(curve, {18, 19}));
                    if (const auto cast = match::shadowCast(reading, *fit))
                        darks.take(cast->mired, support::ownCast(curve, {23}));
                    const double grey = fit->luminanceStops;
                    slope.take(match::Measured{100.0 * fit->curve.slopeAt(grey),
                                               100.0 * match::slopeErrorAt(*fit, grey)},
                               100.0 * curve.slope(curve.luminance()));
                    greyLevel.take(match::Measured{100.0 * fit->greySignal(0.0),
                                                   100.0 * match::signalErrorAt(*fit, grey)},
                                   100.0 * curve.greySignal(0.0));
                    const auto stopsOf = [](std::size_t patch) {
                        return std::log2(support::own::lightOf(patch)[1] / 0.18);
                    };
                    const double step = (curve.green(stopsOf(18)) - curve.green(stopsOf(19))) /
                                        (stopsOf(18) - stopsOf(19));
                    const match::ProfileClass kind =
                        match::profileClass(reading, *fit, std::nullopt);
                    if (!rig::isClipped(reading.patches[18]))
                        shoulder.take(match::Measured{kind.shoulder, kind.shoulderError},
                                      step / curve.slope(curve.luminance()));
                }
                if (const auto drift = match::driftOf(reading, *fit)) {
                    driftStops.take(drift->stops, 0.0);
                    driftMired.take(drift->mired, 0.0);
                }
                if (const auto fall = match::lightFall(reading, *fit)) {
                    across.take(fall->acrossStops, one.acrossStops);
                    down.take(fall->downStops, one.downStops);
                }
            };
            keepOne(mine, camera);
            keepOne(theirs, reference);
            if (camera.acrossStops == 0.0) {
                const auto sectors =
                    match::hueSectors(*report.find("b")->compared, d, *report.find("a")->compared);
                for (std::size_t s = 0; s < 6 && std::abs(truth.exposureStops) < 1.4; ++s) {
                    if (truth.sectorPatches[s] == 0 || !sectors[s].saturationRatio.value) continue;
                    sectorSaturation.take(sectors[s].saturationRatio, truth.sectorSaturation[s]);
                    sectorHue.take(sectors[s].hueDegrees, truth.sectorHue[s]);
                }
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
        for (const CoverageRow* row : rows) row->tell();
        for (const CoverageRow* row : rows) QVERIFY2(row->isCovered(), row->name);
    }
};

RIG_TEST(TestCoverage);
#include "test_coverage.moc"
