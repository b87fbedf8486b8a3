// SPDX-License-Identifier: GPL-3.0-or-later
// Corrections on cameras that share no code with the product, looked at without noise: on the
// patches they were made from and on colours that had no part in them.
#include <QProcess>
#include <QTemporaryDir>

#include "colour/viewing_lut.h"
#include "jobs/lut_job.h"
#include "match/correction.h"
#include "support/coverage.h"
#include "support/loop_camera.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::LoopCamera;
using support::OwnCamera;
using support::OwnRandom;
using support::quantile;

namespace {

/// A finished picture of either kind, no log: what is shown as it is can be judged as it is.
LoopCamera finishedCamera(OwnRandom& random) {
    LoopCamera camera = support::randomLoopCamera(random, 0.1);
    constexpr std::array kCurves{OwnCamera::Curve::Bt709,
                                 OwnCamera::Curve::Gamma22,
                                 OwnCamera::Curve::Look,
                                 OwnCamera::Curve::SoftLook};
    camera.body.curve = kCurves[static_cast<std::size_t>(random.whole(0, 3))];
    camera.body.stops = random.between(-0.25, 0.05);
    camera.lightMired = random.normal(4.0);  // as turns leave it
    camera.lightDuv = random.normal(0.0007);
    camera.areGainsFirst = true;
    return camera;
}

/// Colours of everyday saturation, none of them a patch.
support::own::Triple heldOut(OwnRandom& random) {
    const double level = std::exp2(random.between(-2.5, 1.9)) * 0.18;
    support::own::Triple light{};
    for (double& value : light)
        value = std::clamp(level * std::exp2(random.normal(0.6)), 0.02, 0.85);
    return light;
}

/// Two cameras in one take, the first the reference.
struct Pair {
    rig::Rig rig;
    OwnCamera first, second;
    [[nodiscard]] const rig::Take& take() const { return rig.takes.front(); }
};
Pair pairOf(const LoopCamera& first, const LoopCamera& second, OwnRandom& random) {
    Pair pair;
    rig::Take take;
    take.id = "take-1";
    for (const char* id : {"a", "b"}) {
        const bool isFirst = *id == 'a';
        rig::Camera camera;
        camera.id = id;
        pair.rig.cameras.push_back(camera);
        rig::Shot shot;
        shot.cameraId = id;
        const OwnCamera body = (isFirst ? first : second).at({});
        (isFirst ? pair.first : pair.second) = body;
        shot.reading = support::ownReading(body, random, 6);
        if (body.curve == OwnCamera::Curve::Hlg) shot.reading->transfer = "hlg";
        take.shots.push_back(shot);
    }
    rig::giveLetters(pair.rig);
    pair.rig.takes = {take};
    return pair;
}

/// An HLG signal as a finished picture: ITU-R BT.2100-2 table 5, its inverse OETF and its OOTF with
/// a system gamma of 1.2, diffuse white at 75 % (ITU-R BT.2408-7); shown by ITU-R BT.1886; above
/// 0.75 it approaches white with the same slope (own choice, sources 6.9).
support::own::Triple finishedHlg(const support::own::Triple& signal) {
    support::own::Triple light{};
    for (std::size_t c = 0; c < 3; ++c) {
        const double v = std::max(signal[c], 0.0);
        const double scene =
            v <= 0.5 ? v * v / 3.0 : (std::exp((v - 0.55991073) / 0.17883277) + 0.28466892) / 12.0;
        light[c] = scene / 0.26496256;
    }
    const double luma = 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2];
    support::own::Triple finished{};
    for (std::size_t c = 0; c < 3; ++c) {
        const double shown =
            std::pow(std::max(light[c] * std::pow(std::max(luma, 1e-6), 0.2), 0.0), 1.0 / 2.4);
        finished[c] =
            shown <= 0.75 ? shown : 0.75 + 0.25 * (1.0 - std::exp(-(shown - 0.75) / 0.25));
    }
    return finished;
}

double meanDeltaE(const match::PatchSignals& a, const match::PatchSignals& b) {
    return match::colourDifference(a, {}, b, {}).mean;
}

}  // namespace

class TestCorrection : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void whatTurnsLeaveIsCorrected() {
        OwnRandom random{std::mt19937(5101)};
        std::vector<double> before, patches, out, outBefore;
        const int count = support::sampleSize(120, 12);
        for (int i = 0; i < count; ++i) {
            const LoopCamera a = finishedCamera(random), b = finishedCamera(random);
            const OwnCamera reference = a.at({}), camera = b.at({});
            const rig::Reading theirs = support::ownReading(reference, random, 6);
            const rig::Reading mine = support::ownReading(camera, random, 6);
            const auto fitOfTheirs = match::fitNeutrals(theirs);
            const auto fitOfMine = match::fitNeutrals(mine);
            QVERIFY(fitOfTheirs && fitOfMine);
            const match::Correction correction(mine,
                                               match::BodyModel(mine, *fitOfMine),
                                               theirs,
                                               match::BodyModel(theirs, *fitOfTheirs));
            match::PatchSignals raw, corrected, aim;
            for (std::size_t patch = 0; patch < 24; ++patch) {
                raw.push_back(support::own::signalOf(camera, support::own::lightOf(patch)));
                corrected.push_back(correction.apply(raw.back()));
                aim.push_back(support::own::signalOf(reference, support::own::lightOf(patch)));
            }
            before.push_back(meanDeltaE(raw, aim));
            patches.push_back(meanDeltaE(corrected, aim));
            raw.clear();
            corrected.clear();
            aim.clear();
            for (int colour = 0; colour < 60; ++colour) {
                const auto light = heldOut(random);
                raw.push_back(support::own::signalOf(camera, light));
                corrected.push_back(correction.apply(raw.back()));
                aim.push_back(support::own::signalOf(reference, light));
            }
            outBefore.push_back(meanDeltaE(raw, aim));
            out.push_back(meanDeltaE(corrected, aim));
            // Half the strength is half the way; none is none.
            const support::own::Triple some = raw.front();
            const auto full = correction.apply(some), half = correction.apply(some, 0.5);
            for (std::size_t c = 0; c < 3; ++c) {
                QVERIFY(std::abs(half[c] - 0.5 * (full[c] + some[c])) < 1e-9);
                QCOMPARE(correction.apply(some, 0.0)[c], some[c]);
            }
            // Grey rises.
            double last = -1.0;
            for (double grey = 0.05; grey < 1.0; grey += 0.05) {
                const double green = correction.apply({grey, grey, grey})[1];
                QVERIFY(green > last);
                last = green;
            }
        }
        qInfo(
            "mean dE2000, median / 95th over %d pairs: patches %.2f / %.2f before, %.2f / %.2f "
            "after; held out %.2f / %.2f before, %.2f / %.2f after",
            count,
            quantile(before, 0.5),
            quantile(before, 0.95),
            quantile(patches, 0.5),
            quantile(patches, 0.95),
            quantile(outBefore, 0.5),
            quantile(outBefore, 0.95),
            quantile(out, 0.5),
            quantile(out, 0.95));
        QVERIFY(quantile(patches, 0.5) <= 0.7);
        QVERIFY(quantile(out, 0.5) <= 1.2);
        for (std::size_t i = 0; i < out.size(); ++i) QVERIFY(out[i] <= outBefore[i] + 0.5);
    }
    /// The table reads alike by OpenColorIO and by ffmpeg's lut3d, within a code of 10 bit, and
    /// gives what was computed.
    void theTableIsReadAsItWasMeant() {
        OwnRandom random{std::mt19937(17)};
        rig::Rig rig;
        rig::Take take;
        take.id = "take-1";
        for (const char* id : {"a", "b"}) {
            rig::Camera camera;
            camera.id = id;
            camera.role = "front \"left\"\n";
            rig.cameras.push_back(camera);
            rig::Shot shot;
            shot.cameraId = id;
            shot.reading = support::ownReading(finishedCamera(random).at({}), random, 6);
            take.shots.push_back(shot);
        }
        rig::giveLetters(rig);
        rig.takes = {take};
        const QTemporaryDir folder;
        const auto written = jobs::writeLuts(rig, take, folder.filePath("new").toStdString(), {});
        QVERIFY(written.has_value());
        QCOMPARE(written->size(), std::size_t{1});
        const jobs::WrittenLut& lut = written->front();
        QVERIFY2(lut.failure.empty(), words::inEnglish(lut.failure).c_str());
        QCOMPARE(lut.file.filename().string(), std::string("B-front-left-to-A.cube"));
        QVERIFY(lut.after.mean < lut.before.mean);
        const auto read = colour::ViewingLut::read(lut.file);
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        const auto report = match::matchTake(rig, take);
        const auto* mine = report.find("b");
        const auto* theirs = report.find("a");
        const match::Correction correction(
            *mine->compared,
            *mine->body,
            *theirs->compared,
            match::BodyModel(*theirs->compared, *theirs->differences.fit));
        // One 16-bit picture of many colours for ffmpeg.
        constexpr int kSide = 24;
        QByteArray pixels;
        std::vector<std::array<double, 3>> colours;
        for (int i = 0; i < kSide * kSide; ++i) {
            std::array<double, 3> colour{};
            for (double& value : colour) {
                const int code = random.whole(6000, 58000);
                value = code / 65535.0;
                pixels.append(static_cast<char>(code & 255)).append(static_cast<char>(code >> 8));
            }
            colours.push_back(colour);
        }
        QProcess ffmpeg;
        ffmpeg.start(
            "ffmpeg",
            {"-v",
             "error",
             "-f",
             "rawvideo",
             "-pix_fmt",
             "rgb48le",
             "-s",
             QString("%1x%1").arg(kSide),
             "-i",
             "-",
             "-vf",
             "lut3d=file=" + QString::fromStdString(lut.file.string()) + ":interp=tetrahedral",
             "-f",
             "rawvideo",
             "-pix_fmt",
             "rgb48le",
             "-"});
        QVERIFY(ffmpeg.waitForStarted());
        ffmpeg.write(pixels);
        ffmpeg.closeWriteChannel();
        QVERIFY(ffmpeg.waitForFinished(60000));
        const QByteArray out = ffmpeg.readAllStandardOutput();
        QCOMPARE(out.size(), pixels.size());
        double worstLibrary = 0.0, worstMeant = 0.0;
        for (std::size_t i = 0; i < colours.size(); ++i) {
            const auto meant = correction.apply(colours[i]);
            const auto library = read->apply(colours[i]);
            for (std::size_t c = 0; c < 3; ++c) {
                const auto at = static_cast<qsizetype>(2 * (3 * i + c));
                const int code = static_cast<unsigned char>(out[at]) +
                                 256 * static_cast<unsigned char>(out[at + 1]);
                worstLibrary = std::max(worstLibrary,
                                        std::abs(library[c] - code / 65535.0) *
                                            (library[c] > 0.0 && library[c] < 1.0 ? 1.0 : 0.0));
                worstMeant = std::max(worstMeant, std::abs(library[c] - meant[c]));
            }
        }
        qInfo("largest: library against ffmpeg %.5f, table against what was meant %.5f",
              worstLibrary,
              worstMeant);
        QVERIFY(worstLibrary < 1.0 / 1023.0);
        // 33 points to a side bend in the shadows of a steep curve.
        QVERIFY(worstMeant < 0.02);
    }
    /// A table that ends in a finished picture: HLG by the published formulas, for the reference
    /// too, and another camera's colours as the reference's are finished.
    void hlgIsFinishedAsTheReferenceIs() {
        OwnRandom random{std::mt19937(91)};
        const QTemporaryDir folder;
        for (const bool isOtherHlg : {true, false}) {
            LoopCamera first = finishedCamera(random), second = finishedCamera(random);
            first.body.curve = OwnCamera::Curve::Hlg;
            if (isOtherHlg) second.body.curve = OwnCamera::Curve::Hlg;
            const Pair pair = pairOf(first, second, random);
            jobs::LutOptions options;
            options.result = jobs::LutResult::Finished;
            const auto written =
                jobs::writeLuts(pair.rig, pair.take(), folder.path().toStdString(), options);
            QVERIFY2(written.has_value(), written ? "" : words::inEnglish(written.error()).c_str());
            QCOMPARE(written->size(), std::size_t{2});
            QVERIFY((*written)[0].isReference && !(*written)[1].isReference);
            QCOMPARE((*written)[0].file.filename().string(), std::string("A-to-finished.cube"));
            const auto ownFile = colour::ViewingLut::read((*written)[0].file);
            const auto otherFile = colour::ViewingLut::read((*written)[1].file);
            QVERIFY(ownFile && otherFile);
            match::PatchSignals aim, own, other, untouched;
            for (int i = 0; i < 200; ++i) {
                const auto light = heldOut(random);
                const auto theirs = support::own::signalOf(pair.first, light);
                const auto mine = support::own::signalOf(pair.second, light);
                aim.push_back(finishedHlg(theirs));
                own.push_back(ownFile->apply(theirs));
                other.push_back(otherFile->apply(mine));
                untouched.push_back(isOtherHlg ? finishedHlg(mine) : mine);
            }
            qInfo("held out: reference %.2f, camera %.2f, before %.2f",
                  meanDeltaE(own, aim),
                  meanDeltaE(other, aim),
                  meanDeltaE(untouched, aim));
            QVERIFY(meanDeltaE(own, aim) < 0.4);
            QVERIFY(meanDeltaE(other, aim) < 1.2);
            QVERIFY(meanDeltaE(untouched, aim) > 3.0);
            // None of it is the camera's own conversion.
            options.strength = 0.0;
            const auto none =
                jobs::writeLuts(pair.rig, pair.take(), folder.path().toStdString(), options);
            QVERIFY(none.has_value());
            const auto noneFile = colour::ViewingLut::read((*none)[1].file);
            QVERIFY(noneFile.has_value());
            match::PatchSignals bare;
            for (int i = 0; i < 200; ++i) {
                const auto mine = support::own::signalOf(pair.second, heldOut(random));
                bare.push_back(noneFile->apply(mine));
                untouched[static_cast<std::size_t>(i)] = isOtherHlg ? finishedHlg(mine) : mine;
            }
            QVERIFY(meanDeltaE(bare, untouched) < 0.4);
            options.format = colour::GradeFormat::CdlList;
            const auto refused =
                jobs::writeLuts(pair.rig, pair.take(), folder.path().toStdString(), options);
            QVERIFY(!refused && refused.error().code == base::ErrorCode::OutOfRange);
        }
    }
    /// A recording in BT.2020's primaries (ITU-R BT.2087-0, table of its conversion from BT.709)
    /// beside one in BT.709's, either of them the reference.
    void wideRecordingsAreCorrectedToo() {
        OwnRandom random{std::mt19937(57)};
        const QTemporaryDir folder;
        LoopCamera narrow = finishedCamera(random), wide = finishedCamera(random);
        for (LoopCamera* camera : {&narrow, &wide}) {
            camera->matrix = {1, 0, 0, 0, 1, 0, 0, 0, 1};
            camera->body.saturation = 1.0;
            camera->body.hueDegrees = 0.0;
        }
        constexpr std::array kTo2020{
            0.6274, 0.3293, 0.0433, 0.0691, 0.9195, 0.0114, 0.0164, 0.0880, 0.8956};
        for (const bool isWideFirst : {false, true}) {
            Pair pair = pairOf(isWideFirst ? wide : narrow, isWideFirst ? narrow : wide, random);
            OwnCamera& recorder = isWideFirst ? pair.first : pair.second;
            recorder.matrix = kTo2020;
            const std::size_t at = isWideFirst ? 0 : 1;
            pair.rig.takes[0].shots[at].reading = support::ownReading(recorder, random, 6);
            pair.rig.takes[0].shots[at].reading->primaries = "bt2020";
            const auto written =
                jobs::writeLuts(pair.rig, pair.take(), folder.path().toStdString(), {});
            QVERIFY2(written.has_value(), written ? "" : words::inEnglish(written.error()).c_str());
            QVERIFY2((*written)[0].failure.empty(),
                     words::inEnglish((*written)[0].failure).c_str());
            const auto file = colour::ViewingLut::read((*written)[0].file);
            QVERIFY(file.has_value());
            match::PatchSignals aim, after, before;
            for (int i = 0; i < 200; ++i) {
                const auto light = heldOut(random);
                aim.push_back(support::own::signalOf(pair.first, light));
                before.push_back(support::own::signalOf(pair.second, light));
                after.push_back(file->apply(before.back()));
            }
            qInfo("wide %s: held out %.2f before, %.2f after",
                  isWideFirst ? "reference" : "camera",
                  meanDeltaE(before, aim),
                  meanDeltaE(after, aim));
            QVERIFY(meanDeltaE(before, aim) > 3.0);
            QVERIFY(meanDeltaE(after, aim) < 1.2);
        }
    }
    void camerasThatCannotBeCorrectedAreSaid() {
        OwnRandom random{std::mt19937(3)};
        rig::Rig rig;
        rig::Take take;
        take.id = "take-1";
        for (const char* id : {"a", "b", "c", "d"}) {
            rig::Camera camera;
            camera.id = id;
            rig.cameras.push_back(camera);
            rig::Shot shot;
            shot.cameraId = id;
            shot.reading = support::ownReading(finishedCamera(random).at({}), random, 2);
            if (*id == 'b') shot.reading->hasChart = false;
            if (*id == 'c') shot.reading->primaries = "bt2020";
            if (*id == 'd') shot.settings.isAutoExposure = true;
            take.shots.push_back(shot);
        }
        rig::giveLetters(rig);
        rig.takes = {take};
        const QTemporaryDir folder;
        const auto written = jobs::writeLuts(rig, take, folder.path().toStdString(), {});
        QVERIFY(written.has_value());
        QCOMPARE(written->size(), std::size_t{3});
        QVERIFY(words::inEnglish((*written)[0].failure).find("no chart") != std::string::npos);
        QVERIFY2((*written)[1].failure.empty(), words::inEnglish((*written)[1].failure).c_str());
        QVERIFY(words::inEnglish((*written)[2].failure).find("automatic") != std::string::npos);
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files), QStringList{"C-to-A.cube"});
        // Primaries that nobody knows are not taken for others.
        take.shots[2].reading->primaries = "nobody's";
        rig.takes = {take};
        const auto unknown = jobs::writeLuts(rig, take, folder.path().toStdString(), {});
        QVERIFY(unknown &&
                words::inEnglish((*unknown)[1].failure).find("nobody's") != std::string::npos);
        rig.referenceId = "c";
        QVERIFY(!jobs::writeLuts(rig, take, folder.path().toStdString(), {}));
        rig.referenceId = "b";
        QVERIFY(!jobs::writeLuts(rig, take, folder.path().toStdString(), {}));
    }
};

RIG_TEST(TestCorrection);
#include "test_correction.moc"
