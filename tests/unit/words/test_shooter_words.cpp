// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/shooter_words.h"

using namespace rigmatch;
using match::Quality;

namespace {

match::Difference of(Quality quality, double value) {
    match::Difference difference = match::toleranceOf(quality);
    match::setValue(difference, quality, value, 0.01);
    return difference;
}

}  // namespace

class TestShooterWords : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void differencesAreSaidAsTheEyeHasThem_data() {
        QTest::addColumn<int>("quality");
        QTest::addColumn<double>("value");
        QTest::addColumn<QString>("words");
        const auto row = [](Quality quality, double value, const char* words) {
            QTest::addRow("%d %g", static_cast<int>(quality), value)
                << static_cast<int>(quality) << value << QString(words);
        };
        row(Quality::Exposure, -0.65, "2/3 stop darker");
        row(Quality::Exposure, 0.34, "1/3 stop brighter");
        row(Quality::Exposure, 0.5, "1/2 stop brighter");
        row(Quality::Exposure, 1.3, "1 1/3 stops brighter");
        row(Quality::Exposure, -0.17, "1/6 stop darker");
        row(Quality::Exposure, 0.02, "same");
        // One mired at 5600 K is 31 K (K² / 10⁶, calculated).
        row(Quality::WhiteBalance, 10.0 * 300.0 / 313.6, "300 K too warm");
        row(Quality::WhiteBalance, -21.0, "650 K too cool");
        row(Quality::Tint, -0.0052, "pinker, 3 steps");
        row(Quality::Contrast, 1.20, "harder");
        row(Quality::Contrast, 1.0 / 1.2, "flatter");
        row(Quality::BlackLevel, 4.0, "milky");
        row(Quality::Saturation, 1.3, "more colourful");
        row(Quality::Saturation, 0.8, "paler");
        row(Quality::SkinHue, -8.7, "redder");
        row(Quality::DeltaE, 0.8, "not seen");
        row(Quality::DeltaE, 4.0, "seen in a cut");
        row(Quality::DeltaE, 9.6, "seen at once");
    }
    void differencesAreSaidAsTheEyeHasThem() {
        QFETCH(int, quality);
        QFETCH(double, value);
        QFETCH(QString, words);
        const auto which = static_cast<Quality>(quality);
        const words::DialWords dials{5600.0, 0.0017};
        QCOMPARE(QString::fromStdString(words::shooterWords(which, of(which, value), dials)),
                 words);
    }
    void whatIsUnknownHasNoWords() {
        const match::Difference unknown = match::toleranceOf(Quality::Exposure);
        QVERIFY(words::shooterWords(Quality::Exposure, unknown, {}).empty());
    }
    void stepsAreNamedOnlyWhereTheyAreTold() {
        QCOMPARE(words::shooterWords(Quality::Tint, of(Quality::Tint, -0.0052), {}),
                 std::string("pinker"));
        rig::Rig rig;
        rig::Camera camera;
        camera.id = "b";
        camera.sheet.tintSteps = {-1.0, 0.0, 1.0};
        camera.sheet.tintDuvPerStep = 0.001;
        rig.cameras.push_back(camera);
        rig::Take take;
        rig::Shot shot;
        shot.cameraId = "b";
        shot.settings = rig::unknownSettings();
        take.shots.push_back(shot);
        QVERIFY(!words::dialWords(rig, take, "b").duvPerStep);
        QCOMPARE(words::dialWords(rig, take, "b").kelvin, 5600.0);
        take.shots[0].settings.tintSteps = 0.0;
        take.shots[0].settings.whiteBalanceKelvin = 3200.0;
        QCOMPARE(*words::dialWords(rig, take, "b").duvPerStep, 0.001);
        QCOMPARE(words::dialWords(rig, take, "b").kelvin, 3200.0);
    }
    void turnsSayWhatIsLeft() {
        rig::Turn turn;
        turn.control = rig::Control::Iso;
        turn.effect = "exposureStops";
        turn.before = -0.65;
        turn.after = 0.02;
        QCOMPARE(words::shooterEffect(turn, {}), std::string("then the same"));
        turn.after = -0.17;
        QCOMPARE(words::shooterEffect(turn, {}), std::string("then 1/6 stop darker"));
        turn.control = rig::Control::LockExposure;
        QCOMPARE(words::shooterEffect(turn, {}), std::string("stops wandering"));
    }
};

RIG_TEST(TestShooterWords);
#include "test_shooter_words.moc"
