// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/curve_job.h"
#include "match/bracket.h"
#include "match/curve_identity.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

rig::Reading exposed(const colour::TransferCurve& curve, double stops) {
    support::IdealCamera camera;
    camera.curve = curve;
    camera.exposureStops = stops;
    return support::idealReading(camera);
}

}  // namespace

class TestBracket : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Published curves come back from three takes a stop apart.
    void aPublishedCurveComesBack_data() {
        QTest::addColumn<int>("kind");
        for (const auto kind : {colour::CurveKind::Bt709,
                                colour::CurveKind::Srgb,
                                colour::CurveKind::Hlg,
                                colour::CurveKind::Log})
            QTest::newRow(colour::curveName(colour::curveOf(kind)).c_str()) << int(kind);
    }
    void aPublishedCurveComesBack() {
        QFETCH(int, kind);
        const colour::TransferCurve truth = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const rig::Reading first = exposed(truth, 0.0);
        const rig::Reading darker = exposed(truth, -1.0);
        const rig::Reading darkest = exposed(truth, -2.0);
        const auto bracket = match::curveFromBracket(
            {{&first, 0.0, "take 1"}, {&darker, -1.0, "take 2"}, {&darkest, -2.0, "take 3"}});
        QVERIFY2(bracket.has_value(), bracket ? "" : words::inEnglish(bracket.error()).c_str());
        QVERIFY(bracket->fromStops < -4.2);
        QVERIFY(bracket->toStops > 1.5);
        QVERIFY(bracket->stepErrorStops < 0.03);
        for (double stops = -4.0; stops <= 2.0; stops += 0.25) {
            const double light = 0.18 * std::exp2(stops);
            QVERIFY2(std::abs(bracket->curve.encode(light) - truth.encode(light)) < 0.006,
                     qPrintable(QStringLiteral("%1 stops: %2 against %3")
                                    .arg(stops)
                                    .arg(bracket->curve.encode(light))
                                    .arg(truth.encode(light))));
        }
    }
    void stepsThatThePicturesContradictAreRefused() {
        const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
        const rig::Reading first = exposed(curve, 0.0);
        const rig::Reading second = exposed(curve, -0.5);
        const auto bracket =
            match::curveFromBracket({{&first, 0.0, "take 1"}, {&second, -1.0, "take 2"}});
        QVERIFY(!bracket.has_value());
        QVERIFY2(
            words::inEnglish(bracket.error().detail).find("take 2 is +0.5") != std::string::npos,
            words::inEnglish(bracket.error().detail).c_str());
    }
    void tooLittleIsSaid() {
        const rig::Reading first = exposed(colour::curveOf(colour::CurveKind::Bt709), 0.0);
        QVERIFY(words::inEnglish(match::curveFromBracket({{&first, 0.0, "take 1"}}).error().detail)
                    .find("Only 1 take") != std::string::npos);
        QVERIFY(words::inEnglish(
                    match::curveFromBracket({{&first, 0.0, "take 1"}, {&first, 0.1, "take 2"}})
                        .error()
                        .detail)
                    .find("0.10 stop") != std::string::npos);
        rig::Reading none;
        QVERIFY(!match::curveFromBracket({{&none, 0.0, "take 1"}, {nullptr, 1.0, "take 2"}})
                     .has_value());
    }
    void aRigsTakesMakeTheCurveAndItIsDeclared() {
        rig::Rig rig;
        rig::Camera camera;
        camera.id = "camera-1";
        rig.cameras = {camera};
        const colour::TransferCurve truth = colour::curveOf(colour::CurveKind::Log);
        // ISO 800 and 400 are a stop apart; the second take is darker by it.
        int number = 0;
        for (const double iso : {800.0, 400.0}) {
            rig::Take take;
            take.number = ++number;
            rig::Shot shot;
            shot.cameraId = "camera-1";
            shot.settings.profile = "Worklog";
            shot.settings.isoValue = iso;
            shot.reading = exposed(truth, iso == 800.0 ? 0.0 : -1.0);
            take.shots = {shot};
            rig.takes.push_back(take);
        }
        QVERIFY(!jobs::curveFromTakes(rig, "camera-1", "Standard").has_value());
        const auto bracket = jobs::curveFromTakes(rig, "camera-1", "Worklog");
        QVERIFY2(bracket.has_value(), bracket ? "" : words::inEnglish(bracket.error()).c_str());
        QCOMPARE(colour::curveName(bracket->curve), std::string("measured from take 1, take 2"));
        rig = jobs::withDeclaredCurve(rig, "camera-1", "Worklog", bracket->curve);
        const auto declared = jobs::declaredFor(rig.cameras[0], "Worklog");
        QVERIFY(declared.has_value());
        const auto error = match::curveAgreement(*rig.takes[0].shots[0].reading, *declared);
        QVERIFY(error && *error < 0.6);
        QVERIFY(*match::curveAgreement(*rig.takes[0].shots[0].reading,
                                       colour::curveOf(colour::CurveKind::Bt709)) > 2.0);
        rig = jobs::withDeclaredCurve(rig, "camera-1", "Worklog", std::nullopt);
        QVERIFY(!jobs::declaredFor(rig.cameras[0], "Worklog").has_value());
    }
};

RIG_TEST(TestBracket);
#include "test_bracket.moc"
