// SPDX-License-Identifier: GPL-3.0-or-later
// Traps of real pictures (docs/sources.md, traps): each is measured right, or told with its remedy
// and an uncertainty that covers what it does. The charts are drawn by support/own_chart.h, not by
// the product's camera model.
#include "measure/cut_whites.h"
#include "measure/range_check.h"
#include "support/own_take.h"
#include "support/own_truth.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Quality;
using match::Verdict;
using support::matched;
using support::notesOf;
using support::OwnCamera;
using support::OwnRandom;
using support::ownReading;

namespace {

constexpr int kFrames = 6;

OwnRandom randomOf(unsigned seed) { return {std::mt19937(seed)}; }

match::MatchReport pairOf(const OwnCamera& camera, const OwnCamera& reference, unsigned seed = 5) {
    OwnRandom random = randomOf(seed);
    const rig::Reading mine = ownReading(camera, random, kFrames);
    return matched(mine, ownReading(reference, random, kFrames));
}

const match::Difference& differenceOf(const match::MatchReport& report, Quality quality) {
    return report.find("b")->differences.of(quality);
}

bool hasTurn(const match::MatchReport& report, rig::Control control) {
    const auto& turns = report.find("b")->plan.turns;
    return std::any_of(
        turns.begin(), turns.end(), [&](const rig::Turn& t) { return t.control == control; });
}

bool has(const std::string& text, const char* words) {
    return text.find(words) != std::string::npos;
}

/// Warm by that many mired: red and blue an equal part of 66 mired a stop to either side.
std::array<double, 3> warmGains(double mired) {
    return {std::exp2(0.5 * mired / 66.0), 1.0, std::exp2(-0.5 * mired / 66.0)};
}

constexpr std::array<double, 9> kBt709ToBt2020{// ITU-R BT.2087-0, annex 2
                                               0.6274,
                                               0.3293,
                                               0.0433,
                                               0.0691,
                                               0.9195,
                                               0.0114,
                                               0.0164,
                                               0.0880,
                                               0.8956};

}  // namespace

class TestRealPictures : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// 1.5 % of white over one of two equal cameras' charts raises grey by 0.115 stop.
    void sheenOnOneChartIsTold_data() {
        QTest::addColumn<int>("curve");
        QTest::addColumn<bool>("isOnReference");
        QTest::newRow("BT.709") << int(OwnCamera::Curve::Bt709) << false;
        QTest::newRow("camera look") << int(OwnCamera::Curve::Look) << false;
        QTest::newRow("BT.709, on the reference") << int(OwnCamera::Curve::Bt709) << true;
    }
    void sheenOnOneChartIsTold() {
        QFETCH(int, curve);
        QFETCH(bool, isOnReference);
        OwnCamera plain;
        plain.curve = static_cast<OwnCamera::Curve>(curve);
        OwnCamera shining = plain;
        shining.veil = 0.015;
        const auto report = isOnReference ? pairOf(plain, shining) : pairOf(shining, plain);
        QVERIFY2(has(notesOf(report), "sheen on the chart"), notesOf(report).c_str());
        QVERIFY(has(notesOf(report), isOnReference ? "On the reference" : "On this camera"));
        QVERIFY(has(notesOf(report), "Tilt the chart"));
        // Without the sheen the cameras are equal: every number covers that.
        for (const auto& [quality, truth] : {std::pair{Quality::Exposure, 0.0},
                                             std::pair{Quality::Contrast, 1.0},
                                             std::pair{Quality::BlackLevel, 0.0},
                                             std::pair{Quality::Saturation, 1.0}}) {
            const auto& d = differenceOf(report, quality);
            QVERIFY2(
                std::abs(*d.value - truth) <= 2.0 * d.uncertainty,
                qPrintable(
                    QString("%1: %2 ± %3").arg(int(quality)).arg(*d.value).arg(d.uncertainty)));
        }
    }
    /// The same camera, untouched, whose black moved since the last take: the chart shines now.
    void blackThatMovedBetweenTakesIsTold() {
        OwnRandom random = randomOf(6);
        OwnCamera plain;
        OwnCamera shining;
        shining.veil = 0.02;
        rig::Rig rig;
        for (const char* id : {"a", "b"}) {
            rig::Camera camera;
            camera.id = id;
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
        for (const bool isLater : {false, true}) {
            rig::Take take;
            take.id = isLater ? "take-2" : "take-1";
            for (const char* id : {"a", "b"}) {
                rig::Shot shot;
                shot.cameraId = id;
                // Both charts shine in the second take: no pair of cameras tells.
                shot.reading = ownReading(isLater ? shining : plain, random, kFrames);
                take.shots.push_back(shot);
            }
            rig.takes.push_back(take);
        }
        const auto later = match::matchTake(rig, rig.takes[1], false);
        QVERIFY2(has(notesOf(later), "Nothing was turned on this camera"), notesOf(later).c_str());
        QVERIFY(!has(notesOf(match::matchTake(rig, rig.takes[0], false)), "Nothing was turned"));
        rig.takes[1].shots[1].settings.profile = "Flat";
        QVERIFY(!has(notesOf(match::matchTake(rig, rig.takes[1], false)), "Nothing was turned"));
    }
    /// A sheen from nothing to 2 % across the chart is no falling light of the set.
    void aSheenThatFallsAcrossIsTold() {
        OwnCamera plain;
        OwnCamera shining;
        shining.veil = 0.02;
        shining.veilFall = 1.0;
        const std::string notes = notesOf(pairOf(shining, plain));
        QVERIFY2(has(notes, "sheen on the chart"), notes.c_str());
    }
    /// Two logs with grey at 41 and 33 % in the same light: no exposure turn, and why.
    void unlikeLogsAreNotTurnedByTheirGrey() {
        OwnCamera a;
        a.curve = OwnCamera::Curve::LogA;
        OwnCamera b;
        b.curve = OwnCamera::Curve::LogB;
        const auto report = pairOf(b, a);
        QVERIFY(!hasTurn(report, rig::Control::Exposure));
        QCOMPARE(report.find("b")->differences.judged(Quality::Exposure).verdict, Verdict::Unknown);
        QVERIFY2(has(notesOf(report), "no exposure is turned"), notesOf(report).c_str());
        QVERIFY(has(notesOf(report), "Declare the curve"));
        // A log beside a finished picture likewise.
        QVERIFY(!hasTurn(pairOf(b, OwnCamera{}), rig::Control::Exposure));
    }
    /// The same log on both cameras is turned by its grey, known or not.
    void likeLogsAreTurned() {
        OwnCamera a;
        a.curve = OwnCamera::Curve::LogA;
        OwnCamera b = a;
        b.stops = -0.7;
        const auto report = pairOf(b, a);
        QVERIFY(hasTurn(report, rig::Control::Exposure));
        const auto& d = report.find("b")->differences.judged(Quality::Exposure);
        QVERIFY(std::abs(*d.value + 0.7) <= 2.0 * d.uncertainty);
    }
    /// HLG beside BT.709 in the same light: through the BT.2100 OOTF its grey is shown at
    /// 0.18^1.2 = 0.128 of white, BT.709's through BT.1886 at 0.117: a tenth of a stop, not a
    /// third.
    void hlgIsJudgedThroughItsOotf() {
        OwnCamera reference;
        OwnCamera hlg;
        hlg.curve = OwnCamera::Curve::Hlg;
        const auto report = pairOf(hlg, reference);
        const auto& judged = report.find("b")->differences.judged(Quality::Exposure);
        QVERIFY(judged.value.has_value());
        QVERIFY2(std::abs(*judged.value) < 0.15, qPrintable(QString::number(*judged.value)));
        QVERIFY(std::abs(*differenceOf(report, Quality::Exposure).value) > 0.15);
        QVERIFY(!hasTurn(report, rig::Control::Exposure));
        QCOMPARE(report.find("b")->conversion, std::string("HLG through the BT.2100 OOTF"));
        QVERIFY(has(notesOf(report), "after conversion"));
        // Half a stop less light still shows as about that.
        hlg.stops = -0.5;
        const auto darker = pairOf(hlg, reference);
        QVERIFY(std::abs(*darker.find("b")->differences.judged(Quality::Exposure).value -
                         *judged.value + 0.5) < 0.05);
    }
    /// Whites cut at 95 %: white and neutral 8 stand alike and are no measure of anything.
    void whitesCutBelowTheTopAreMarked() {
        OwnCamera camera;
        camera.stops = 0.65;
        camera.cutAt = 0.95;
        camera.gains = warmGains(12.0);
        OwnRandom random = randomOf(9);
        rig::Reading reading = ownReading(camera, random, kFrames);
        QVERIFY(std::abs(reading.patches[18].signal[1] - reading.patches[19].signal[1]) < 0.004);
        const auto warning = measure::markCutWhites(reading.patches);
        QVERIFY(warning.has_value());
        QCOMPARE(warning->code, std::string("WhitesCut"));
        QVERIFY2(has(words::inEnglish(warning->text), "white, neutral 8"),
                 words::inEnglish(warning->text).c_str());
        QVERIFY(has(words::inEnglish(warning->text), "Cut at 9"));
        QVERIFY(rig::isClipped(reading.patches[18]) && rig::isClipped(reading.patches[19]));
        OwnCamera plain;
        const auto report = matched(reading, ownReading(plain, random, kFrames));
        const auto truth = support::ownDifference(camera, plain);
        for (const auto& [quality, value] : {std::pair{Quality::Exposure, truth.exposureStops},
                                             std::pair{Quality::WhiteBalance, truth.mired}}) {
            const auto& d = differenceOf(report, quality);
            QVERIFY2(std::abs(*d.value - value) <= 2.0 * d.uncertainty,
                     qPrintable(QString("%1 against %2").arg(*d.value).arg(value)));
        }
    }
    /// Soft shoulders and flat logs are no cut.
    void shouldersAreNoCut() {
        for (int curve = 0; curve <= 6; ++curve) {
            OwnCamera camera;
            camera.curve = static_cast<OwnCamera::Curve>(curve);
            camera.readNoise = 0.001;
            OwnRandom random = randomOf(21);
            rig::Reading reading = ownReading(camera, random, 3);
            QVERIFY2(!measure::markCutWhites(reading.patches), qPrintable(QString::number(curve)));
        }
    }
    /// 25 mired at grey that fade to nothing at white.
    void aFadingCastIsStatedAtGreyAndTold() {
        OwnCamera camera;
        camera.gains = warmGains(25.0);
        camera.fadeFrom = -0.5;
        camera.fadePerStop = 0.4;
        OwnCamera reference;
        const auto report = pairOf(camera, reference);
        const auto& d = differenceOf(report, Quality::WhiteBalance);
        const double truth = support::ownDifference(camera, reference).mired;
        QVERIFY2(
            std::abs(*d.value - truth) <= 2.0 * d.uncertainty,
            qPrintable(QString("%1 ± %2, true %3").arg(*d.value).arg(d.uncertainty).arg(truth)));
        QVERIFY2(has(notesOf(report), "The cast changes with brightness"), notesOf(report).c_str());
    }
    /// Falls of 0.085 and 0.115 stop, once on each side of a tenth, between equal cameras.
    void lightIsEvenedForAllCamerasAlike() {
        OwnCamera one;
        one.acrossStops = 0.085;
        OwnCamera other;
        other.acrossStops = 0.115;
        const auto report = pairOf(one, other);
        const auto& d = differenceOf(report, Quality::Exposure);
        QVERIFY2(std::abs(*d.value) <= d.uncertainty, qPrintable(QString::number(*d.value)));
        QVERIFY(report.light && std::abs(report.light->acrossStops - 0.1) < 0.05);
    }
    /// What one camera alone sees of falling light is told as its own.
    void fallOfOneCameraIsItsOwn() {
        OwnCamera plain;
        OwnCamera falling;
        falling.acrossStops = 0.5;
        const std::string notes = notesOf(pairOf(falling, plain));
        QVERIFY2(has(notes, "more than the other cameras see"), notes.c_str());
    }
    /// A black that shines brighter than neutral 3.5 is the one to refuse, not neutral 3.5.
    void aShiningBlackIsRefusedAlone() {
        OwnCamera shining;
        shining.shineOnBlack = 0.08;
        OwnRandom random = randomOf(3);
        const rig::Reading reading = ownReading(shining, random, kFrames);
        QVERIFY(reading.patches[23].signal[1] > reading.patches[22].signal[1]);
        QCOMPARE(rig::fallingGreys(reading), std::vector<std::string>{"black"});
        const auto report = matched(reading, ownReading(OwnCamera{}, random, kFrames));
        const auto& black = differenceOf(report, Quality::BlackLevel);
        QVERIFY2(!black.value || std::abs(*black.value) <= 2.0 * black.uncertainty,
                 qPrintable(QString::number(black.value.value_or(0.0))));
        QVERIFY(std::abs(*differenceOf(report, Quality::Exposure).value) < 0.03);
    }
    /// Full-range log and HLG keep to the middle of the codes, as limited codes in a full file do.
    void fullRangeLogIsNotCalledLimited_data() {
        QTest::addColumn<int>("curve");
        QTest::newRow("HLG") << int(OwnCamera::Curve::Hlg);
        QTest::newRow("log of unknown curve") << int(OwnCamera::Curve::LogA);
        QTest::newRow("another log") << int(OwnCamera::Curve::LogB);
    }
    void fullRangeLogIsNotCalledLimited() {
        QFETCH(int, curve);
        OwnCamera camera;
        camera.curve = static_cast<OwnCamera::Curve>(curve);
        camera.isFullRange = true;
        camera.bitDepth = 10;
        OwnRandom random = randomOf(4);
        const rig::Reading reading = ownReading(camera, random, 3);
        measure::RangeCheck check;
        check.take(support::ownFrame(support::ownPicture(camera), camera, random.generator));
        QVERIFY(!check.warning(image::Range::Full, reading));
    }
    /// BT.709 codes of limited range in a file that says full range are still told.
    void limitedCodesInAFullFileAreTold() {
        OwnCamera camera;
        camera.bitDepth = 10;
        OwnRandom random = randomOf(4);
        auto frame = support::ownFrame(support::ownPicture(camera), camera, random.generator);
        frame.tags.range = image::Range::Full;
        rig::Reading reading;
        reading.hasChart = true;
        reading.range = "full";
        reading.patches =
            measure::averagePatches({{0.0, chart::readPatches(frame, support::ownPose()).value()}});
        measure::RangeCheck check;
        check.take(frame);
        QVERIFY(check.warning(image::Range::Full, reading).has_value());
    }
    void localContrastIsTold() {
        OwnCamera camera;
        camera.localContrast = 0.15;
        const std::string notes = notesOf(pairOf(camera, OwnCamera{}));
        QVERIFY2(has(notes, "Switch off local contrast, clarity"), notes.c_str());
    }
    /// Ordinary cameras raise none of these flags: at most one in twenty may.
    void ordinaryCamerasAreQuiet() {
        OwnRandom random = randomOf(77);
        int loud = 0;
        constexpr int kPairs = 40;
        for (int i = 0; i < kPairs; ++i) {
            OwnCamera cameras[2];
            for (OwnCamera& camera : cameras) {
                camera.curve =
                    random.whole(0, 1) == 0 ? OwnCamera::Curve::Bt709 : OwnCamera::Curve::Look;
                camera.gains = warmGains(random.normal(15.0));
                camera.saturation = random.between(0.9, 1.15);
                camera.stops = random.between(-0.4, 0.1);
                camera.pedestal = random.between(0.0, 0.004);
                for (std::size_t row = 0; row < 3; ++row) {
                    const double mix = random.normal(0.03);
                    camera.matrix[3 * row + (row + 1) % 3] = mix;
                    camera.matrix[4 * row] = 1.0 - mix;
                }
            }
            const std::string notes = notesOf(pairOf(cameras[0], cameras[1], 100u + unsigned(i)));
            const bool isLoud =
                has(notes, "sheen") || has(notes, "local contrast") || has(notes, "cast changes");
            if (isLoud) qInfo("%s", notes.c_str());
            loud += isLoud ? 1 : 0;
        }
        QVERIFY2(loud <= kPairs / 20, qPrintable(QString::number(loud)));
    }
    /// A phone's HLG in BT.2020 primaries beside a BT.709 camera, told by its tag: saturation and
    /// cast as of a BT.709 recording of the same scene (matrix of ITU-R BT.2087).
    void bt2020PrimariesAreConverted() {
        OwnCamera wide;
        wide.curve = OwnCamera::Curve::Hlg;
        wide.matrix = kBt709ToBt2020;
        wide.gains = {1.0, 1.0, 1.0};
        OwnCamera narrow;
        narrow.curve = OwnCamera::Curve::Hlg;
        OwnRandom random = randomOf(31);
        rig::Reading mine = ownReading(wide, random, kFrames);
        const rig::Reading theirs = ownReading(narrow, random, kFrames);
        const auto before = matched(mine, theirs);
        QVERIFY(*differenceOf(before, Quality::Saturation).value < 0.75);
        mine.primaries = "bt2020";
        const auto report = matched(mine, theirs);
        const auto& saturation = differenceOf(report, Quality::Saturation);
        QVERIFY2(std::abs(*saturation.value - 1.0) <= 2.0 * saturation.uncertainty,
                 qPrintable(QString::number(*saturation.value)));
        QVERIFY2(*differenceOf(report, Quality::DeltaE).value < 0.5,
                 qPrintable(QString::number(*differenceOf(report, Quality::DeltaE).value)));
        QVERIFY(has(notesOf(report), "Recorded in BT.2020 primaries"));
        // The neutral axis is common to both: no cast comes in.
        QVERIFY(std::abs(*differenceOf(report, Quality::WhiteBalance).value) < 1.0);
    }
    /// A cast in wide primaries is larger in BT.709 terms than the same gains would be there.
    void aCastInWidePrimariesIsConvertedToo() {
        OwnCamera wide;
        wide.matrix = kBt709ToBt2020;
        wide.gains = warmGains(20.0);
        OwnRandom random = randomOf(32);
        rig::Reading mine = ownReading(wide, random, kFrames);
        mine.primaries = "bt2020";
        const auto report = matched(mine, ownReading(OwnCamera{}, random, kFrames));
        // BT.2020 light (r, 1, b) in BT.709 by the inverse of BT.2087's matrix.
        const colour::Vector3 bt2020(wide.gains[0], 1.0, wide.gains[2]);
        colour::Matrix3 matrix;
        matrix << 1.6605, -0.5876, -0.0728, -0.1246, 1.1329, -0.0083, -0.0182, -0.1006, 1.1187;
        const auto white = colour::whitePointOf(colour::chromaticityOf(
            colour::Vector3(colour::rgbToXyz(colour::kBt709) * matrix * bt2020)));
        const double expected = (white->mired - colour::whitePointOf(colour::kD65)->mired).value();
        const auto& d = differenceOf(report, Quality::WhiteBalance);
        QVERIFY2(std::abs(*d.value - expected) <= 2.0 * d.uncertainty,
                 qPrintable(QString("%1, expected %2").arg(*d.value).arg(expected)));
        QVERIFY(expected > 24.0);
    }
};

RIG_TEST(TestRealPictures);
#include "test_real_pictures.moc"
