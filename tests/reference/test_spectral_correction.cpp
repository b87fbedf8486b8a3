// SPDX-License-Identifier: GPL-3.0-or-later
// Corrections between sensors of unlike spectral response, under daylight, tungsten and LED: made
// from the patches of a chart, judged on colours and skin that had no part in it.
#include "match/correction.h"
#include "match/skin_aim.h"
#include "support/coverage.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/spectra.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::OwnCamera;
using support::OwnRandom;
using support::quantile;
using support::Spectrum;

namespace {

/// A camera's recording of a reflectance.
struct Recorder {
    support::SpectralCamera sensor;
    OwnCamera look;  ///< curve, saturation and hue after it
    [[nodiscard]] support::own::Triple operator()(const Spectrum& s) const {
        return support::own::signalOf(look, sensor.light(s));
    }
};

OwnCamera randomLook(OwnRandom& random) {
    OwnCamera look;
    constexpr std::array kCurves{OwnCamera::Curve::Bt709,
                                 OwnCamera::Curve::Gamma22,
                                 OwnCamera::Curve::Look,
                                 OwnCamera::Curve::SoftLook};
    look.curve = kCurves[static_cast<std::size_t>(random.whole(0, 3))];
    look.stops = random.between(-0.3, -0.05);
    look.saturation = random.between(0.9, 1.2);
    look.hueDegrees = random.normal(1.0);
    return look;
}

/// Twenty-four patches: eighteen colours and six greys, as the chart has them (its greys by
/// published reflectances, common practice).
std::vector<Spectrum> chartSpectra(OwnRandom& random) {
    std::vector<Spectrum> patches;
    for (int i = 0; i < 18; ++i) patches.push_back(support::smoothReflectance(random));
    for (const double level : {0.90, 0.59, 0.36, 0.19, 0.09, 0.031})
        patches.push_back(support::greyReflectance(level));
    return patches;
}

rig::Reading readingOf(const Recorder& camera,
                       const std::vector<Spectrum>& patches,
                       const Spectrum& light,
                       OwnRandom& random) {
    rig::Reading reading;
    reading.hasChart = true;
    reading.layout = "classic-24";
    for (std::size_t i = 0; i < patches.size(); ++i) {
        rig::PatchReading patch;
        patch.name = "patch " + std::to_string(i + 1);
        patch.isNeutral = i >= 18;
        const Eigen::Vector3d nominal =
            support::SpectralCamera::linear709(patches[i], light).cwiseMax(0.001);
        patch.signal = camera(patches[i]);
        for (std::size_t c = 0; c < 3; ++c) {
            patch.nominalLinear[c] = nominal[static_cast<int>(c)];
            patch.signal[c] += random.normal(0.001);
            patch.standardError[c] = 0.001;
            patch.noise[c] = 0.004;
        }
        reading.patches.push_back(patch);
    }
    return reading;
}

/// A spot of skin as a camera sees it from its place: lit by its own share, its colour a little
/// otherwise than that of the spot the other camera sees (5 % of saturation: docs/measurement.md).
rig::FaceReading faceOf(const Recorder& camera, const Spectrum& skin, OwnRandom& random) {
    Spectrum lit = skin;
    const double share = random.between(0.8, 1.2);
    for (double& value : lit) value *= share;
    rig::SkinReading spot;
    spot.signal = camera(lit);
    const double luma = 0.2126 * spot.signal[0] + 0.7152 * spot.signal[1] + 0.0722 * spot.signal[2];
    const double colour = 1.0 + random.normal(0.035);
    for (double& value : spot.signal) value = luma + colour * (value - luma);
    spot.standardError = {0.001, 0.001, 0.001};
    spot.pixels = 900;
    rig::FaceReading face;
    face.forehead = spot;
    return face;
}

double deltaE(const support::own::Triple& a, const support::own::Triple& b) {
    return match::colourDifference({a}, {}, {b}, {}).mean;
}

double mean(const std::vector<double>& values) {
    double sum = 0.0;
    for (const double value : values) sum += value;
    return sum / static_cast<double>(std::max<std::size_t>(values.size(), 1));
}

}  // namespace

class TestSpectralCorrection : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void coloursHeldOutComeNearer() {
        OwnRandom random = support::coverageRandom(6101);
        const std::array<Spectrum, 4> lights{support::planckLight(3200.0),
                                             support::planckLight(5600.0),
                                             support::ledLight(0.55, 570.0),
                                             support::ledLight(0.8, 590.0)};
        std::vector<double> patches, out, outBefore, skin, skinBefore, bound;
        double worse = 0.0;
        int remainders = 0;
        const int count = support::sampleSize(400, 40);
        for (int i = 0; i < count; ++i) {
            const Spectrum& light = lights[static_cast<std::size_t>(i) % lights.size()];
            const Recorder mine{support::SpectralCamera(random, light), randomLook(random)};
            const Recorder theirs{support::SpectralCamera(random, light), randomLook(random)};
            const auto chart = chartSpectra(random);
            const rig::Reading a = readingOf(mine, chart, light, random);
            const rig::Reading b = readingOf(theirs, chart, light, random);
            const auto fitA = match::fitNeutrals(a);
            const auto fitB = match::fitNeutrals(b);
            QVERIFY(fitA && fitB);
            const match::Correction correction(
                a, match::BodyModel(a, *fitA), b, match::BodyModel(b, *fitB));
            remainders += correction.hasRemainder() ? 1 : 0;
            std::vector<double> own, before;
            for (const Spectrum& patch : chart)
                own.push_back(deltaE(correction.apply(mine(patch)), theirs(patch)));
            patches.push_back(mean(own));
            own.clear();
            // What one 3 × 3 could do that knew the light and both looks.
            Eigen::MatrixXd from(3, 24), to(3, 24);
            for (int k = 0; k < 24; ++k) {
                const auto a3 = mine.sensor.light(chart[static_cast<std::size_t>(k)]);
                const auto b3 = theirs.sensor.light(chart[static_cast<std::size_t>(k)]);
                from.col(k) = Eigen::Vector3d(a3[0], a3[1], a3[2]);
                to.col(k) = Eigen::Vector3d(b3[0], b3[1], b3[2]);
            }
            const Eigen::Matrix3d known =
                to * from.transpose() * (from * from.transpose()).inverse();
            for (int k = 0; k < 60; ++k) {
                const Spectrum colour = support::smoothReflectance(random);
                const auto light3 = mine.sensor.light(colour);
                const Eigen::Vector3d mapped =
                    known * Eigen::Vector3d(light3[0], light3[1], light3[2]);
                bound.push_back(
                    deltaE(support::own::signalOf(theirs.look, {mapped[0], mapped[1], mapped[2]}),
                           theirs(colour)));
                before.push_back(deltaE(mine(colour), theirs(colour)));
                own.push_back(deltaE(correction.apply(mine(colour)), theirs(colour)));
            }
            out.push_back(mean(own));
            outBefore.push_back(mean(before));
            worse = std::max(worse, out.back() - outBefore.back());
            for (int k = 0; k < 8; ++k) {
                const Spectrum face = support::skinReflectance(random);
                skinBefore.push_back(deltaE(mine(face), theirs(face)));
                skin.push_back(deltaE(correction.apply(mine(face)), theirs(face)));
            }
        }
        qInfo(
            "%d pairs, remainder kept in %d: patches %.2f median; held out %.2f mean (before "
            "%.2f, by a 3 × 3 that knows all %.2f); skin %.2f median, %.2f 90th (before %.2f, "
            "%.2f)",
            count,
            remainders,
            quantile(patches, 0.5),
            mean(out),
            mean(outBefore),
            mean(bound),
            quantile(skin, 0.5),
            quantile(skin, 0.9),
            quantile(skinBefore, 0.5),
            quantile(skinBefore, 0.9));
        QVERIFY(quantile(patches, 0.5) <= 0.7);
        // As near as colours that two sensors see unlike can come.
        QVERIFY(mean(out) <= 1.1 * mean(bound));
        if (support::isFullSample()) QVERIFY(mean(out) <= 1.2);
        QVERIFY(quantile(skin, 0.5) <= 2.0);
        QVERIFY(quantile(skin, 0.9) <= 3.5);
        QVERIFY(worse <= 0.5);
    }
    /// Two people whom both cameras saw: their skin, in light and shade, comes nearer than the
    /// chart alone brings it, and colours that had no part in it stay where they are.
    void skinThatWasSeenIsTrimmed() {
        OwnRandom random = support::coverageRandom(6107);
        const std::array<Spectrum, 3> lights{support::planckLight(5600.0),
                                             support::ledLight(0.55, 570.0),
                                             support::ledLight(0.8, 590.0)};
        std::vector<double> byChart, trimmed, others, othersTrimmed, out, outTrimmed;
        int told = 0, otherwise = 0;
        const int count = support::sampleSize(240, 24);
        for (int i = 0; i < count; ++i) {
            const Spectrum& light = lights[static_cast<std::size_t>(i) % lights.size()];
            const Recorder mine{support::SpectralCamera(random, light), randomLook(random)};
            const Recorder theirs{support::SpectralCamera(random, light), randomLook(random)};
            const auto chart = chartSpectra(random);
            rig::Reading a = readingOf(mine, chart, light, random);
            rig::Reading b = readingOf(theirs, chart, light, random);
            const std::array<Spectrum, 2> people{support::skinReflectance(random),
                                                 support::skinReflectance(random)};
            match::People who;
            for (std::size_t k = 0; k < people.size(); ++k) {
                a.faces.push_back(faceOf(mine, people[k], random));
                b.faces.push_back(faceOf(theirs, people[k], random));
                who.push_back({"person " + std::to_string(k + 1), {{"a", k}, {"b", k}}});
            }
            const match::BodyModel bodyA(a, *match::fitNeutrals(a));
            const match::BodyModel bodyB(b, *match::fitNeutrals(b));
            const match::Correction plain(a, bodyA, b, bodyB);
            const auto aims = match::skinAims(who, {"a", &a}, {"b", &b}, plain, bodyB, {});
            QCOMPARE(aims.size(), people.size());
            const match::Correction full(a, bodyA, b, bodyB, aims);
            for (std::size_t k = 0; k < people.size(); ++k) {
                std::vector<double> chartAlone;
                for (const double level : {1.0, 0.7, 0.4}) {
                    Spectrum lit = people[k];
                    for (double& value : lit) value *= level;
                    chartAlone.push_back(deltaE(plain.apply(mine(lit)), theirs(lit)));
                    trimmed.push_back(deltaE(full.apply(mine(lit)), theirs(lit)));
                }
                byChart.insert(byChart.end(), chartAlone.begin(), chartAlone.end());
                if (chartAlone[0] > 3.5) ++otherwise;
                if (chartAlone[0] > 3.5 && match::isSeenOtherwise(aims[k])) ++told;
            }
            for (int k = 0; k < 8; ++k) {
                const Spectrum face = support::skinReflectance(random);
                others.push_back(deltaE(plain.apply(mine(face)), theirs(face)));
                othersTrimmed.push_back(deltaE(full.apply(mine(face)), theirs(face)));
            }
            for (int k = 0; k < 40; ++k) {
                const Spectrum colour = support::smoothReflectance(random);
                out.push_back(deltaE(plain.apply(mine(colour)), theirs(colour)));
                outTrimmed.push_back(deltaE(full.apply(mine(colour)), theirs(colour)));
            }
        }
        qInfo(
            "skin seen on both, median / 90th: %.2f / %.2f by the chart, %.2f / %.2f trimmed; "
            "other "
            "skin %.2f / %.2f and %.2f / %.2f; held out mean %.2f and %.2f; over 3.5 told %d of %d",
            quantile(byChart, 0.5),
            quantile(byChart, 0.9),
            quantile(trimmed, 0.5),
            quantile(trimmed, 0.9),
            quantile(others, 0.5),
            quantile(others, 0.9),
            quantile(othersTrimmed, 0.5),
            quantile(othersTrimmed, 0.9),
            mean(out),
            mean(outTrimmed),
            told,
            otherwise);
        QVERIFY(quantile(trimmed, 0.9) < 0.8 * quantile(byChart, 0.9));
        QVERIFY(quantile(trimmed, 0.5) < quantile(byChart, 0.5));
        QVERIFY(quantile(othersTrimmed, 0.9) <= 1.02 * quantile(others, 0.9));
        QVERIFY(mean(outTrimmed) <= 1.05 * mean(out));
        QVERIFY(told >= 0.7 * otherwise);
    }
};

RIG_TEST(TestSpectralCorrection);
#include "test_spectral_correction.moc"
