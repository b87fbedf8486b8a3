// SPDX-License-Identifier: GPL-3.0-or-later
// The end of the work: why what is left is not turned, and when to stop.
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/rest_reasons.h"

using namespace rigmatch;
using match::Quality;
using words::RestCause;

class TestRestReasons : public QObject {
    Q_OBJECT
    rig::Rig m_rig;
    rig::Take m_take;
    match::MatchReport m_report;

    [[nodiscard]] match::CameraMatch& mine() { return m_report.cameras[1]; }
    void put(Quality quality, double value, double uncertainty) {
        match::Difference& difference = mine().differences.of(quality);
        difference = match::toleranceOf(quality);
        match::setValue(difference, quality, value, uncertainty);
    }
    [[nodiscard]] std::vector<words::RestReason> reasons() const {
        return words::restReasons(m_rig, m_take, m_report);
    }

private Q_SLOTS:
    void init() {
        m_rig = {};
        m_take = {};
        m_report = {};
        for (const char* id : {"a", "b"}) {
            rig::Camera camera;
            camera.id = id;
            camera.sheet.isoValues = {400.0, 800.0, 1600.0};  // whole stops
            camera.sheet.kelvins = {5000.0, 5600.0, 6300.0};
            camera.settings.isoValue = 800.0;
            camera.settings.whiteBalanceKelvin = 5600.0;
            m_rig.cameras.push_back(camera);
            rig::Shot shot;
            shot.cameraId = id;
            shot.settings = camera.settings;
            m_take.shots.push_back(shot);
            match::CameraMatch match;
            match.cameraId = id;
            match.isReference = m_report.cameras.empty();
            m_report.cameras.push_back(match);
        }
        m_report.referenceId = "a";
    }
    void nothingLeftIsDone() {
        put(Quality::Exposure, 0.01, 0.02);
        QVERIFY(reasons().empty());
        QCOMPARE(words::restHeadline(reasons()),
                 std::string("Done: every row that can be judged is good."));
    }
    /// Half of a whole stop of ISO is 0.5; half of 5600 to 6300 K is 9.9 mired.
    void belowHalfAStepIsTimeToStop() {
        put(Quality::Exposure, 0.3, 0.02);
        put(Quality::WhiteBalance, -7.0, 1.0);
        const auto left = reasons();
        QCOMPARE(left.size(), std::size_t{2});
        for (const auto& one : left) QVERIFY(one.cause == RestCause::BelowStep);
        QCOMPARE(left[0].cameraId, std::string("b"));
        QCOMPARE(words::restHeadline(left), std::string("Stop: the rest is below a step."));
    }
    void whatTheReadingDoesNotTellIsNoFault() {
        put(Quality::WhiteBalance, 6.0, 4.0);
        QVERIFY(reasons().at(0).cause == RestCause::Unsure);
        QVERIFY(words::restHeadline(reasons()).starts_with("Stop"));
    }
    /// A control that ends, and a look that no control moves, say what would help; then it is not
    /// time to stop.
    void whatIsOutOfReachSaysWhatWouldHelp() {
        put(Quality::Exposure, 1.4, 0.02);
        mine().plan.leftOver = {
            {Quality::Exposure, base::asIs("Add an ND: ISO 400 is the nearest.")}};
        put(Quality::Contrast, 1.3, 0.01);
        const auto left = reasons();
        QVERIFY(left.at(0).cause == RestCause::OutOfReach);
        QCOMPARE(left[0].text, std::string("Add an ND: ISO 400 is the nearest."));
        QVERIFY(left.at(1).cause == RestCause::NoControl);
        QVERIFY(left[1].text.find("correction") != std::string::npos);
        QVERIFY(words::restHeadline(left).starts_with("No turn"));
        m_rig.cameras[1].sheet.knobs = {{"contrast", rig::KnobKind::Contrast, {-1.0, 0.0, 1.0}}};
        QVERIFY(reasons().at(1).cause == RestCause::BelowStep);
    }
    void whatATurnSeesToIsNotListed() {
        put(Quality::Exposure, 1.4, 0.02);
        put(Quality::Tint, 0.01, 0.0002);
        rig::Turn turn;
        turn.effect = "exposureStops";
        mine().plan.turns = {turn};
        const auto left = reasons();
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(left[0].quality == Quality::Tint);
        QVERIFY(left[0].cause == RestCause::NoControl);  // nobody told what its tint is set to
    }
};

RIG_TEST(TestRestReasons);
#include "test_rest_reasons.moc"
