// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sync_job.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "timing/frame_judge.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr double kStep = 0.04;  // s

/// Two seconds in which things move by as much in every frame, `jitter` up or down in turn.
std::vector<timing::FrameFacts> movingFacts(double jitter) {
    std::vector<timing::FrameFacts> facts;
    for (int i = 0; i < 50; ++i) {
        timing::FrameFacts one;
        one.seconds = kStep * i;
        one.change = 6.0 * (i % 3 == 0 ? 1.0 + jitter : i % 3 == 1 ? 1.0 / (1.0 + jitter) : 1.0);
        one.motion = one.change;
        facts.push_back(one);
    }
    return facts;
}

}  // namespace

class TestFrameJudge : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void steadyMotionTellsWhatIsMissing() {
        auto facts = movingFacts(0.02);
        facts[25].change = 11.0;
        facts[25].stepRatio = 2.0;
        facts[40].change = 1.5;
        const auto report = timing::judgedFrames(facts);
        QCOMPARE(report.missing, std::vector<double>{kStep * 25});
        QCOMPARE(report.repeated, std::vector<double>{kStep * 40});
        QVERIFY(report.unsteady.empty());
        QVERIFY(jobs::frameFindings(report).size() == 2);
    }

    /// An encoder lets lie what goes slowly, makes it good with a key frame, and lets it lie again:
    /// a rest, and no repeat. A chain that halves the rate right after a rest is told all the same.
    void whatAnEncoderLetsLieIsNoRepeat() {
        auto facts = movingFacts(0.02);
        for (std::size_t i = 1; i < 25; ++i) facts[i].change = 0.15;
        facts[21].change = 2.0;  // the key frame
        QVERIFY(timing::judgedFrames(facts).repeated.empty());
        facts[21].change = 9.0;
        QVERIFY(timing::judgedFrames(facts).repeated.empty());
        facts[21].change = 0.15;
        for (std::size_t i = 26; i < facts.size(); i += 2) facts[i].change = 0.3;
        QVERIFY(timing::judgedFrames(facts).repeated.size() >= 10);
    }
    /// Damaged frames stand or leap as well: no chain is blamed before the file is whole.
    void damagedFramesComeBeforeTheChain() {
        auto facts = movingFacts(0.02);
        facts[25].change = 11.0;
        facts[25].stepRatio = 2.0;
        facts[40].change = 1.5;
        const auto report = timing::judgedFrames(facts);
        const auto whole = jobs::frameFindings(report), damaged = jobs::frameFindings(report, 3);
        QCOMPARE(damaged.size(), std::size_t{2});
        for (std::size_t i = 0; i < damaged.size(); ++i) {
            QCOMPARE(damaged[i].text, whole[i].text);
            QVERIFY(words::inEnglish(damaged[i].hint)
                        .starts_with("Copy the file from the card again first"));
            QVERIFY(!words::inEnglish(whole[i].hint).starts_with("Copy"));
        }
    }

    /// The same two events where what changes jumps anyway: not told, and said so.
    void unsteadyMotionTellsNothingSingle() {
        auto facts = movingFacts(0.4);
        facts[25].change = 11.0;
        facts[25].stepRatio = 2.0;
        facts[40].change = 1.5;
        const auto report = timing::judgedFrames(facts);
        QVERIFY(report.missing.empty());
        QVERIFY(report.repeated.empty());
        QCOMPARE(report.unsteady.size(), std::size_t{1});
        QVERIFY(report.unsteady[0].startSeconds < 0.1 && report.unsteady[0].endSeconds > 1.8);
        const auto findings = jobs::frameFindings(report);
        QCOMPARE(findings.size(), std::size_t{1});
        QCOMPARE(findings[0].code, std::string("FramesUnsteady"));
    }

    /// What an encoder evened out: half a step that lacks while points go on, or a step too much
    /// over two frames. Points that go on as ever, or things that set out, are neither.
    void evenedStepsAreFound() {
        auto facts = movingFacts(0.02);
        facts[20].change = 2.8;
        facts[20].stepRatio = 0.6;
        facts[35].change = facts[36].change = 9.0;
        const auto report = timing::judgedFrames(facts);
        QCOMPARE(report.repeated, std::vector<double>{kStep * 20});
        QCOMPARE(report.missing, std::vector<double>{kStep * 35});
        facts[20].stepRatio = 1.0;
        QVERIFY(timing::judgedFrames(facts).repeated.empty());
        facts = movingFacts(0.02);
        for (std::size_t i = 0; i < 25; ++i) facts[i].change = 0.1;
        facts[25].change = facts[26].change = 9.0;
        QVERIFY(timing::judgedFrames(facts).missing.empty());
    }
    /// Large things that go far jump too, and no encoder moved them.
    void muchMotionIsNotUnsteady() {
        auto facts = movingFacts(0.4);
        for (auto& one : facts) one.change *= 8.0;
        QVERIFY(timing::judgedFrames(facts).unsteady.empty());
    }
    /// Nothing changes at all: that is a repeat under any compression.
    void whatStandsIsARepeatAnywhere() {
        auto facts = movingFacts(0.4);
        facts[25].change = 0.2;
        QCOMPARE(timing::judgedFrames(facts).repeated, std::vector<double>{kStep * 25});
    }

    /// A chain that halves the rate makes change jump too, and is no compression.
    void aHalvedRateIsSteady() {
        auto facts = movingFacts(0.0);
        for (std::size_t i = 1; i < facts.size(); i += 2) facts[i].change = 0.3;
        const auto report = timing::judgedFrames(facts);
        QCOMPARE(words::inEnglish(report.pattern), std::string("every second frame"));
        QVERIFY(report.unsteady.empty());
    }
};

RIG_TEST(TestFrameJudge);
#include "test_frame_judge.moc"
