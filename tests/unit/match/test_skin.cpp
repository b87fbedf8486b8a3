// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/match_report.h"
#include "match/skin.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Verdict;

namespace {

rig::SkinReading spot(double linear, const colour::TransferCurve& curve, double warmth = 0.0) {
    // Light skin's proportions (chart patch 2), scaled to the light that falls there.
    const auto& nominal = chart::nominalLinear()[1];
    rig::SkinReading skin;
    for (std::size_t c = 0; c < 3; ++c) {
        const double own = nominal(static_cast<long>(c)) * (c == 0 ? 1.0 + warmth : 1.0);
        skin.signal[c] = curve.encode(linear * own);
        skin.standardError[c] = 0.001;
    }
    skin.pixels = 400;
    return skin;
}

rig::FaceReading face(const colour::TransferCurve& curve,
                      double left,
                      double right,
                      double warmth = 0.0) {
    rig::FaceReading reading;
    reading.forehead = spot(1.0, curve, warmth);
    reading.leftCheek = spot(left, curve, warmth);
    reading.rightCheek = spot(right, curve, warmth);
    return reading;
}

const match::People kOne{{"restorer", {{"a", 0}, {"b", 0}}}};

}  // namespace

class TestSkin : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// sources 5.5 and 5.7: the printed light skin patch lies at 57.4 % luma and 120 to 121° in
    /// BT.709 Cb/Cr.
    void thePrintedSkinPatchStandsWhereTheTablesSay() {
        const auto values =
            match::skinValues(face(colour::curveOf(colour::CurveKind::Bt709), 1.0, 1.0), nullptr);
        QVERIFY(values.has_value());
        QVERIFY2(std::abs(values->levelPercent.value - 57.4) < 1.0,
                 qPrintable(QString::number(values->levelPercent.value)));
        QVERIFY2(std::abs(values->hueDegrees.value - 120.1) < 1.5,
                 qPrintable(QString::number(values->hueDegrees.value)));
        QVERIFY(!values->keyFillStops);
    }
    /// Through the camera's own curve a ratio of two to one is a stop, whatever the profile.
    void keyToFillIsAStopOnAnyProfile_data() {
        QTest::addColumn<int>("kind");
        QTest::newRow("BT.709") << int(colour::CurveKind::Bt709);
        QTest::newRow("HLG") << int(colour::CurveKind::Hlg);
        QTest::newRow("log") << int(colour::CurveKind::Log);
        QTest::newRow("camera look") << int(colour::CurveKind::Standard);
    }
    void keyToFillIsAStopOnAnyProfile() {
        QFETCH(int, kind);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const auto fit = match::fitNeutrals(support::idealReading(camera));
        QVERIFY(fit.has_value());
        const auto values = match::skinValues(face(camera.curve, 0.5, 1.0), &*fit);
        QVERIFY(values->keyFillStops);
        // The own right cheek is the brighter one: minus.
        QVERIFY2(std::abs(values->keyFillStops->value + 1.0) < 0.03,
                 qPrintable(QString::number(values->keyFillStops->value)));
        QVERIFY(!values->isLeftBrighter);
    }
    /// A key from the other side is no match, however alike the ratios are; and it is told.
    void keysFromUnlikeSidesAreFarApart() {
        const support::IdealCamera camera;
        const rig::Reading chart = support::idealReading(camera);
        const auto fit = match::fitNeutrals(chart);
        rig::Reading mine = chart;
        rig::Reading theirs = chart;
        mine.faces = {face(camera.curve, 1.0, 0.5)};
        theirs.faces = {face(camera.curve, 0.5, 1.0)};
        for (rig::Reading* reading : {&mine, &theirs}) {
            reading->faces[0].leftEye = {120.0, 50.0};
            reading->faces[0].rightEye = {80.0, 50.0};
        }
        const auto skins = match::compareSkin(kOne, "b", mine, &*fit, "a", &theirs, &*fit);
        QCOMPARE(skins.size(), std::size_t{1});
        QVERIFY(std::abs(*skins[0].keyFillStops.value + 2.0) < 0.05);
        QCOMPARE(skins[0].keyFillStops.verdict, match::Verdict::Off);
        QCOMPARE(skins[0].values.keySideInPicture, std::string("right"));
        QCOMPARE(skins[0].reference->keySideInPicture, std::string("left"));
        QVERIFY(words::inEnglish(skins[0].sideMismatch).find("own left (right in the picture)") !=
                std::string::npos);
        const auto same = match::compareSkin(kOne, "b", mine, &*fit, "a", &mine, &*fit);
        QVERIFY(std::abs(*same[0].keyFillStops.value) < 1e-6);
        QVERIFY(same[0].sideMismatch.empty());
    }
    /// sources 5.6: cheeks at 62 and 44 % are 0.92 stop apart in BT.709.
    void theCheeksOfTheWorkedExampleAreToldInStops() {
        const auto fit = match::fitNeutrals(support::idealReading({}));
        rig::FaceReading reading;
        reading.leftCheek = rig::SkinReading{{0.62, 0.62, 0.62}, {0.001, 0.001, 0.001}, 0.0, 100};
        reading.rightCheek = rig::SkinReading{{0.44, 0.44, 0.44}, {0.001, 0.001, 0.001}, 0.0, 100};
        const auto values = match::skinValues(reading, &*fit);
        QVERIFY2(std::abs(values->keyFillStops->value - 0.92) < 0.03,
                 qPrintable(QString::number(values->keyFillStops->value)));
        QVERIFY(values->isLeftBrighter);
        QVERIFY(!values->isForehead);
    }
    /// The same skin under two lamps: 3200 K (312.5 mired) on the key side, 4000 K (250 mired) on
    /// the other are 62.5 mired apart, on any curve (mired arithmetic, sources 4.7).
    void twoLampsOfUnlikeColourAreTold_data() { keyToFillIsAStopOnAnyProfile_data(); }
    void twoLampsOfUnlikeColourAreTold() {
        QFETCH(int, kind);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const auto fit = match::fitNeutrals(support::idealReading(camera));
        const auto lit = [&](double mired, double light) {
            const auto gains =
                match::gainsOf({base::Mired(mired), colour::whitePointOf(colour::kD65)->duv});
            const auto neutral = match::gainsOf(*colour::whitePointOf(colour::kD65));
            rig::SkinReading skin = spot(light, camera.curve);
            const auto& nominal = chart::nominalLinear()[1];
            for (std::size_t c = 0; c < 3; ++c)
                skin.signal[c] = camera.curve.encode(light * nominal(static_cast<long>(c)) *
                                                     (*gains)[c] / (*neutral)[c]);
            return skin;
        };
        const double d65 = colour::whitePointOf(colour::kD65)->mired.value();
        rig::FaceReading reading;
        reading.leftCheek = lit(d65 + 62.5, 1.0);
        reading.rightCheek = lit(d65, 0.5);
        const auto values = match::skinValues(reading, &*fit);
        QVERIFY(values->keyFillMired.has_value());
        QVERIFY2(
            std::abs(values->keyFillMired->value - 62.5) < 2.0 * values->keyFillMired->uncertainty,
            qPrintable(QString::number(values->keyFillMired->value)));
        QVERIFY(std::abs(values->keyFillDuv->value) < 3.0 * values->keyFillDuv->uncertainty);
        reading.leftCheek = lit(d65, 1.0);
        QVERIFY(std::abs(match::skinValues(reading, &*fit)->keyFillMired->value) < 2.0);
    }
    /// White balance under each of two lamps: what is neutral under the lamp that the camera is set
    /// for has no cast, under the other the mired between the two (sources 4.7). The forehead,
    /// like the chart, stands in the first lamp here.
    void whiteBalanceUnderEachLampIsTold_data() { keyToFillIsAStopOnAnyProfile_data(); }
    void whiteBalanceUnderEachLampIsTold() {
        QFETCH(int, kind);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const auto fit = match::fitNeutrals(support::idealReading(camera));
        const double d65 = colour::whitePointOf(colour::kD65)->mired.value();
        const auto neutral = *match::gainsOf(*colour::whitePointOf(colour::kD65));
        const auto lit = [&](double mired, double light) {
            const auto gains =
                *match::gainsOf({base::Mired(mired), colour::whitePointOf(colour::kD65)->duv});
            rig::SkinReading skin = spot(light, camera.curve);
            const auto& nominal = chart::nominalLinear()[1];
            for (std::size_t c = 0; c < 3; ++c)
                skin.signal[c] = camera.curve.encode(light * nominal(static_cast<long>(c)) *
                                                     gains[c] / neutral[c]);
            return skin;
        };
        rig::FaceReading reading;
        reading.forehead = lit(d65, 0.9);
        reading.rightCheek = lit(d65, 1.0);
        reading.leftCheek = lit(d65 + 62.5, 0.5);
        const auto values = match::skinValues(reading, &*fit);
        QVERIFY(values->keyCast.has_value() && values->fillCast.has_value());
        const auto isNear = [](const match::Measured& measured, double expected) {
            return std::abs(measured.value - expected) < 2.0 * measured.uncertainty;
        };
        QVERIFY(isNear(values->keyCast->mired, 0.0));
        QVERIFY2(isNear(values->fillCast->mired, 62.5),
                 qPrintable(QString::number(values->fillCast->mired.value)));
        QVERIFY(isNear(values->keyCast->duv, 0.0));
        // What lies between the two is what is told as key : fill.
        QVERIFY(std::abs(values->keyCast->mired.value - values->fillCast->mired.value -
                         values->keyFillMired->value) < 1.0);
        reading.forehead.reset();
        QVERIFY(!match::skinValues(reading, &*fit)->keyCast.has_value());
        QVERIFY(match::skinValues(reading, &*fit)->keyFillMired.has_value());
    }
    /// sources 5.6: a face at 58 % before a background at 30 % is 1.70 stops over it in BT.709.
    void backgroundAgainstTheFaceIsToldInStops() {
        const auto fit = match::fitNeutrals(support::idealReading({}));
        rig::FaceReading reading;
        reading.forehead = rig::SkinReading{{0.58, 0.58, 0.58}, {0.001, 0.001, 0.001}, 0.0, 100};
        QVERIFY(!match::skinValues(reading, &*fit)->backgroundStops);
        reading.background = rig::SkinReading{{0.30, 0.30, 0.30}, {0.001, 0.001, 0.001}, 0.0, 100};
        const auto values = match::skinValues(reading, &*fit);
        QVERIFY(values->backgroundStops.has_value());
        QVERIFY2(std::abs(values->backgroundStops->value + 1.70) < 0.04,
                 qPrintable(QString::number(values->backgroundStops->value)));
        QVERIFY(!match::skinValues(reading, nullptr)->backgroundStops);
    }
    void samePersonIsComparedAcrossCameras() {
        const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
        rig::Reading reference = support::idealReading({});
        reference.faces = {face(curve, 0.5, 1.0)};
        rig::Reading camera = support::idealReading({});
        camera.faces = {face(curve, 0.5, 1.0, 0.08)};
        const auto fit = match::fitNeutrals(reference);
        const auto skin = match::compareSkin(kOne, "b", camera, &*fit, "a", &reference, &*fit);
        QCOMPARE(skin.size(), std::size_t{1});
        QCOMPARE(skin[0].person, std::string("restorer"));
        QVERIFY(*skin[0].saturationRatio.value > 1.05);
        QVERIFY(std::abs(*skin[0].keyFillStops.value) < 0.01);
        QCOMPARE(skin[0].keyFillStops.verdict, Verdict::Good);
        match::CameraDifferences board;
        match::putSkin(skin, 1, board);
        QCOMPARE(*board.of(match::Quality::SkinHue).value, *skin[0].hueDegrees.value);
    }
    /// Two places on the circle on either side of 0° are near each other.
    void huesAreComparedRoundTheCircle() {
        const auto coloured = [](double cb, double cr) {
            rig::FaceReading reading;
            const double y = 0.5;
            const double blue = y + 1.8556 * cb;
            const double red = y + 1.5748 * cr;
            const double green = (y - 0.2126 * red - 0.0722 * blue) / 0.7152;
            reading.forehead = rig::SkinReading{{red, green, blue}, {1e-3, 1e-3, 1e-3}, 0.0, 100};
            return reading;
        };
        rig::Reading reference, camera;
        reference.faces = {coloured(0.1, -0.002)};
        camera.faces = {coloured(0.1, 0.002)};
        const auto skin = match::compareSkin(kOne, "b", camera, nullptr, "a", &reference, nullptr);
        QVERIFY(std::abs(*skin[0].hueDegrees.value - 2.29) < 0.05);
    }
    void whatTheReferenceDoesNotSeeIsUnknown() {
        rig::Reading camera = support::idealReading({});
        camera.faces = {face(colour::curveOf(colour::CurveKind::Bt709), 1.0, 1.0)};
        const rig::Reading reference = support::idealReading({});
        const auto skin = match::compareSkin(kOne, "b", camera, nullptr, "a", &reference, nullptr);
        QCOMPARE(skin.size(), std::size_t{1});
        QVERIFY(!skin[0].levelPercent.value);
        match::CameraDifferences board;
        match::putSkin(skin, 1, board);
        QCOMPARE(words::inEnglish(board.of(match::Quality::SkinLevel).reason),
                 std::string("The reference does not see the same face."));
        match::putSkin({}, 2, board);
        QVERIFY(words::inEnglish(board.of(match::Quality::SkinLevel).reason).find("who is who") !=
                std::string::npos);
        match::putSkin({}, 0, board);
        QVERIFY(words::inEnglish(board.of(match::Quality::SkinLevel).reason)
                    .starts_with("No face was found."));
    }
};

RIG_TEST(TestSkin);
#include "test_skin.moc"
