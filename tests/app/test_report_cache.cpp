// SPDX-License-Identifier: GPL-3.0-or-later
// Reports are computed beside the interface, once, and a quick file is waited for.
#include <QSignalSpy>

#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::AppFixture;
using support::child;

class TestReportCache : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    app::ReportCache& reports() { return *m_app->context.reports; }
    /// One that nobody else asks.
    std::unique_ptr<app::ReportCache> m_own;
    rig::Rig judged(const char* how) {
        rig::Rig rig = m_app->document.rig();
        rig.judge = how;
        return rig;
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        m_own = std::make_unique<app::ReportCache>();
        m_own->setPatience(std::chrono::seconds(60));
    }
    void cleanup() {
        m_own.reset();
        m_app.reset();
    }

    void oneReportServesAllWhoAsk() {
        const rig::Rig& rig = m_app->document.rig();
        const auto first = m_own->of(rig, rig.takes.back());
        QVERIFY(!first->cameras.empty());
        rig::Rig ticked = rig;
        ticked.cameras[1].settings.isoValue = 6400.0;
        ticked.name = "another name";
        QCOMPARE(m_own->of(ticked, ticked.takes.back()).get(), first.get());
    }
    /// Of the plan, who sits where and what flickers is read: a lamp that is moved or dimmed asks
    /// for nothing.
    void aMovedLampIsNoReasonToMatch() {
        rig::Rig rig = m_app->document.rig();
        const auto first = m_own->of(rig, rig.takes.back());
        const auto firstOf = [&](rig::PlanKind kind) {
            return std::find_if(rig.plan->objects.begin(),
                                rig.plan->objects.end(),
                                [&](const auto& object) { return object.kind == kind; });
        };
        const auto lamp = firstOf(rig::PlanKind::Light);
        lamp->xMetres += 0.4;
        lamp->dimPercent = 30.0;
        QCOMPARE(m_own->of(rig, rig.takes.back()).get(), first.get());
        lamp->isFlickerFree = !lamp->isFlickerFree;
        const auto flickering = m_own->of(rig, rig.takes.back());
        QVERIFY(flickering.get() != first.get());
        firstOf(rig::PlanKind::Person)->xMetres += 0.3;
        QVERIFY(m_own->of(rig, rig.takes.back()).get() != flickering.get());
    }
    /// Without patience the interface goes on at once, and is told when the report is there.
    void aLongReportIsNotWaitedFor() {
        m_own->setPatience(std::chrono::milliseconds(0));
        QSignalSpy ready(m_own.get(), &app::ReportCache::ready);
        const rig::Rig rig = judged("linear");
        const auto before = m_own->of(rig, rig.takes.back());
        QVERIFY(m_own->isPending());
        // The last one of the same take and cameras is shown meanwhile.
        QCOMPARE(before->judging, match::Judging::Recorded);
        QVERIFY(ready.wait(20000));
        QVERIFY(!m_own->isPending());
        QCOMPARE(m_own->of(rig, rig.takes.back())->judging, match::Judging::Linear);
        QCOMPARE(ready.count(), 1);
    }
    void aReportOfOtherCamerasIsNeverShown() {
        const rig::Rig& rig = m_app->document.rig();
        (void)m_own->of(rig, rig.takes.back());
        m_own->setPatience(std::chrono::milliseconds(0));
        rig::Rig fewer = rig;
        fewer.cameras.erase(fewer.cameras.begin() + 3);
        QVERIFY(m_own->of(fewer, fewer.takes.back())->cameras.empty());
        QSignalSpy ready(m_own.get(), &app::ReportCache::ready);
        QVERIFY(ready.wait(20000));
        QCOMPARE(m_own->of(fewer, fewer.takes.back())->cameras.size(), std::size_t{3});
    }
    /// Who changes his mind is not told of what he wanted before.
    void onlyTheLastWishIsToldOf() {
        m_own->setPatience(std::chrono::milliseconds(0));
        QSignalSpy ready(m_own.get(), &app::ReportCache::ready);
        const rig::Rig linear = judged("linear");
        (void)m_own->of(linear, linear.takes.back());
        const rig::Rig recorded = judged("lut");
        (void)m_own->of(recorded, recorded.takes.back());
        QVERIFY(ready.wait(20000));
        QCOMPARE(ready.count(), 1);
        QCOMPARE(m_own->of(recorded, recorded.takes.back())->judging, match::Judging::ThroughLut);
    }
    /// The screen says that it is being worked out, then shows it.
    void theScreenFollows() {
        QVERIFY(m_app->show("match"));
        reports().setPatience(std::chrono::milliseconds(0));
        QWidget* window = m_app->window.get();
        m_app->document.change("Judge differently", judged("linear"));
        QCOMPARE(child<QLabel>(window, "turnSummary")->text(), QString("being worked out…"));
        QTRY_VERIFY_WITH_TIMEOUT(!reports().isPending(), 20000);
        QTRY_VERIFY(child<QLabel>(window, "turnSummary")->text() != QString("being worked out…"));
    }
    /// What ends within the patience is there when the call returns; else it comes by itself.
    void quickWorkIsWaitedForALittle() {
        QVERIFY(m_app->waitForJobs());
        int got = 0;
        const auto start = [&](int sleep) {
            m_app->jobs.startQuick<int>(
                "work",
                m_app->window.get(),
                [sleep](const base::Progress&) {
                    QThread::msleep(static_cast<unsigned long>(sleep));
                    return sleep;
                },
                [&got](int value) { got = value; });
        };
        start(5);
        QCOMPARE(got, 5);
        QVERIFY(m_app->jobs.running().isEmpty());
        m_app->jobs.setPatience(std::chrono::milliseconds(1));
        start(100);
        QCOMPARE(got, 5);
        QTRY_COMPARE(got, 100);
        QVERIFY(m_app->waitForJobs());
    }
    void quickWorkThatBreaksIsTold() {
        m_app->jobs.startQuick<int>(
            "work",
            m_app->window.get(),
            [](const base::Progress&) -> int { throw std::runtime_error("out of brass"); },
            [](int) { QFAIL("there is no value"); });
        QTRY_COMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors.front().contains("out of brass"));
        QVERIFY(m_app->waitForJobs());
    }
};

RIG_TEST(TestReportCache);
#include "test_report_cache.moc"
