// SPDX-License-Identifier: GPL-3.0-or-later
// What skin says beside the chart: notes, and its part in choosing turns.
#include "match/correction.h"
#include "match/match_report.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::IdealCamera;

namespace {

constexpr std::size_t kLightSkin = 1;  // patch of the classic chart

/// A face whose forehead has the colour of the chart's light skin, as such a camera records it.
rig::FaceReading faceBy(const IdealCamera& camera, double moreColour = 0.0) {
    rig::SkinReading spot;
    spot.signal = support::idealReading(camera).patches[kLightSkin].signal;
    const double luma = match::lumaOf(spot.signal);
    for (double& value : spot.signal) value = luma + (1.0 + moreColour) * (value - luma);
    spot.standardError = {0.001, 0.001, 0.001};
    spot.pixels = 900;
    rig::FaceReading face;
    face.forehead = spot;
    return face;
}

struct Seen {
    rig::Rig rig;
    rig::Take take;
    match::People people{{"restorer", {{"a", 0}, {"b", 0}}}};

    [[nodiscard]] match::MatchReport report() const {
        return match::matchTake(rig, take, true, people);
    }
    [[nodiscard]] QString notes() const {
        QString all;
        const match::MatchReport made = report();
        for (const base::Text& note : made.find("b")->differences.notes)
            all += QString::fromStdString(words::inEnglish(note)) + "\n";
        return all;
    }
};

/// A is ideal and sees chart and face alike; B sees the chart as `chart` and the face as `face`.
Seen seenBy(const IdealCamera& chart, const rig::FaceReading& face) {
    Seen made;
    for (const char* id : {"a", "b"}) {
        rig::Camera body;
        body.id = id;
        body.sheet.isoValues = optics::isoSeries(100.0, 6400.0);
        for (double kelvin = 3000.0; kelvin <= 9000.0; kelvin += 100.0)
            body.sheet.kelvins.push_back(kelvin);
        const bool isReference = std::string(id) == "a";
        rig::Shot shot;
        shot.cameraId = id;
        shot.settings = body.settings;
        shot.reading = support::idealReading(isReference ? IdealCamera{} : chart);
        shot.reading->faces = {isReference ? faceBy({}) : face};
        made.rig.cameras.push_back(body);
        made.take.shots.push_back(shot);
    }
    rig::giveLetters(made.rig);
    return made;
}

IdealCamera warmer(double mired) {
    IdealCamera camera;
    camera.whiteBalanceMired = mired;
    return camera;
}

}  // namespace

class TestSkinAim : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Chart and face are warm alike: nothing is said, and the aim is what the reference sees.
    void skinThatAgreesWithTheChartSaysNothing() {
        const Seen seen = seenBy(warmer(25.0), faceBy(warmer(25.0)));
        const auto report = seen.report();
        const match::CameraMatch* b = report.find("b");
        QCOMPARE(b->skinAims.size(), std::size_t{1});
        QVERIFY2(b->skinAims[0].apart.value < 0.6,
                 std::to_string(b->skinAims[0].apart.value).c_str());
        for (std::size_t c = 0; c < 3; ++c)
            QVERIFY(std::abs(b->skinAims[0].aim[c] - faceBy({}).forehead->signal[c]) < 0.01);
        QVERIFY2(!seen.notes().contains("restorer"), qPrintable(seen.notes()));
    }
    /// A face at another light than the reference's is brighter or darker: that is no matter of the
    /// sensors.
    void shadeIsNoMatterOfColour() {
        IdealCamera darker;
        darker.exposureStops = -0.6;
        const Seen seen = seenBy({}, faceBy(darker));
        const auto aims = seen.report().find("b")->skinAims;
        QCOMPARE(aims.size(), std::size_t{1});
        QVERIFY2(aims[0].apart.value < 0.6, std::to_string(aims[0].apart.value).c_str());
        QVERIFY(aims[0].aim[1] < 0.9 * faceBy({}).forehead->signal[1]);
    }
    /// The charts agree, and the skin is a third more colourful: unlike sensors.
    void skinThatSensorsSeeOtherwiseIsTold() {
        const Seen seen = seenBy({}, faceBy({}, 0.5));
        QVERIFY(match::isSeenOtherwise(seen.report().find("b")->skinAims[0]));
        QVERIFY2(seen.notes().contains("sees the skin of restorer otherwise"),
                 qPrintable(seen.notes()));
    }
    /// Equal cameras, the chart held in a warmer light before the second: turned by it, the faces
    /// come apart.
    void aChartInAnotherLightThanTheFaceIsTold() {
        const Seen seen = seenBy(warmer(45.0), faceBy({}));
        QVERIFY(!seen.report().find("b")->plan.turns.empty());
        QVERIFY2(seen.notes().contains("does not stand in the light of the face"),
                 qPrintable(seen.notes()));
        QVERIFY(!seenBy(warmer(45.0), faceBy(warmer(45.0)))
                     .notes()
                     .contains("does not stand in the light"));
    }
    /// By the chart 5600 and 5000 K are equally far, on either side: skin decides, by what it
    /// needs. Clipped skin has no say.
    void skinDecidesBetweenEquals() {
        const auto kelvinWith = [](double faceMired, double clipped) {
            rig::FaceReading face = faceBy(warmer(faceMired));
            face.forehead->clippedShare = clipped;
            // 6500 K is 153.8 mired, 5600 K 178.6, 5000 K 200 (sources 4.7): 35.4 lie between.
            Seen seen = seenBy(warmer(35.4), face);
            seen.rig.cameras[1].sheet.kelvins = {5000.0, 5600.0, 6500.0};
            seen.take.shots[1].settings.whiteBalanceKelvin = 6500.0;
            const auto turns = seen.report().turns();
            for (const rig::Turn& turn : turns) {
                if (turn.control == rig::Control::WhiteBalance) return turn.toValue;
            }
            return 0.0;
        };
        QCOMPARE(kelvinWith(60.0, 0.0), 5000.0);
        QCOMPARE(kelvinWith(10.0, 0.0), 5600.0);
        QCOMPARE(kelvinWith(10.0, 1.0), kelvinWith(60.0, 1.0));
    }
    /// The correction made with the aims takes the skin to them, where the chart alone does not.
    void correctionsAreTrimmedToSkin() {
        const Seen seen = seenBy({}, faceBy({}, 0.3));
        const auto report = seen.report();
        const match::CameraMatch* b = report.find("b");
        const match::CameraMatch* a = report.find("a");
        const match::BodyModel theirs(*a->compared, *match::fitNeutrals(*a->compared));
        const auto left = [&](std::span<const match::SkinAim> aims) {
            const match::Correction correction(*b->compared, *b->body, *a->compared, theirs, aims);
            const auto made = correction.apply(b->skinAims[0].recorded);
            return match::colourDifference({made}, {}, {b->skinAims[0].aim}, {}).mean;
        };
        QVERIFY(left({}) > 2.0);
        QVERIFY2(left(b->skinAims) < 0.5 * left({}), std::to_string(left(b->skinAims)).c_str());
    }
};

RIG_TEST(TestSkinAim);
#include "test_skin_aim.moc"
