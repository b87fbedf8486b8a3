// SPDX-License-Identifier: GPL-3.0-or-later
// The match board as a table: its orders, its compact form, and more cameras than have room.
#include <QAbstractItemModelTester>
#include <QHeaderView>
#include <QLabel>
#include <QScrollBar>
#include <QTableView>

#include "app/models/match_board_model.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using app::MatchBoardModel;
using support::AppFixture;
using support::child;

class TestMatchBoard : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QTableView* board() const { return child<QTableView>(m_app->window.get(), "matchBoard"); }
    MatchBoardModel* model() const { return static_cast<MatchBoardModel*>(board()->model()); }
    void toggle(const char* action) const {
        child<QAction>(m_app->window.get(), action)->trigger();
    }
    /// The demo's four cameras four times over; the reference is the sixth.
    void openSixteen() {
        rig::Rig rig = m_app->document.rig();
        const rig::Take take = rig.takes[0];
        rig.takes = {};
        const auto four = rig.cameras;
        rig.cameras = {};
        rig::Take wide = take;
        wide.shots = {};
        for (int i = 0; i < 16; ++i) {
            rig::Camera camera = four[static_cast<std::size_t>(i % 4)];
            rig::Shot shot = *rig::findShot(take, camera.id);
            camera.id = "camera-" + std::to_string(i + 1);
            camera.letter = std::string(1, static_cast<char>('A' + i));
            shot.cameraId = camera.id;
            rig.cameras.push_back(camera);
            wide.shots.push_back(shot);
        }
        rig.referenceId = "camera-6";
        rig.takes.push_back(wide);
        m_app->document.start(rig);
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(model()->columnCount(), 16);
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("match"));
    }
    void cleanup() { m_app.reset(); }

    void groupsAreParted() {
        int starts = 0;
        for (int row = 0; row < model()->rowCount(); ++row) {
            if (!model()->headerData(row, Qt::Vertical, MatchBoardModel::GroupStartRole).toBool())
                continue;
            ++starts;
            QCOMPARE(model()->qualityAt(row), match::Quality::SkinLevel);
        }
        QCOMPARE(starts, 1);
    }
    /// Worst first: nothing good stands above what is off, and the chosen cell stays chosen.
    void theWorstComesFirstOnDemand() {
        const QAbstractItemModelTester tester(model());
        board()->setCurrentIndex(model()->index(8, 1));
        const auto chosen = model()->qualityAt(8);
        toggle("worstFirstAction");
        const auto worst = [&](int row) {
            int verdict = 0;
            for (int column = 1; column < model()->columnCount(); ++column) {
                const QModelIndex cell = model()->index(row, column);
                if (!cell.data(MatchBoardModel::ValueRole).isValid()) continue;
                const auto told =
                    static_cast<match::Verdict>(cell.data(MatchBoardModel::VerdictRole).toInt());
                verdict = std::max(verdict,
                                   told == match::Verdict::Off    ? 3
                                   : told == match::Verdict::Near ? 2
                                                                  : 1);
            }
            return verdict;
        };
        QCOMPARE(worst(0), 3);
        for (int row = 1; row < model()->rowCount(); ++row) QVERIFY(worst(row) <= worst(row - 1));
        QCOMPARE(model()->qualityAt(board()->currentIndex().row()), chosen);
        // The evidence follows the quality, not the row.
        board()->setCurrentIndex(model()->index(0, 1));
        const QString title = model()->headerData(0, Qt::Vertical, Qt::DisplayRole).toString();
        QVERIFY(child<QLabel>(m_app->window.get(), "evidenceTitle")->text().endsWith(title));
        QVERIFY(m_app->settings.value("match/worstFirst").toBool());
        toggle("worstFirstAction");
        QCOMPARE(model()->qualityAt(0), match::Quality::Exposure);
    }
    void compactTakesLessRoom() {
        const int before = board()->height();
        toggle("compactAction");
        QVERIFY(board()->height() < before);
        // Numbers alone need their unit.
        const auto unit = [&](int row) {
            return model()->headerData(row, Qt::Vertical, MatchBoardModel::UnitRole).toString();
        };
        QCOMPARE(unit(0), QString("stop"));
        QCOMPARE(unit(1), QString("mired"));
        QCOMPARE(
            board()->height() >= board()->horizontalHeader()->height() + 10 * board()->rowHeight(0),
            true);
        QVERIFY(m_app->settings.value("match/compact").toBool());
        toggle("compactAction");
        QCOMPARE(board()->height(), before);
    }
    /// Sixteen cameras scroll sideways; the reference stays where it can be seen, and no chosen
    /// cell hides behind it.
    void manyCamerasScrollPastTheReference() {
        openSixteen();
        auto* frozen = child<QTableView>(m_app->window.get(), "frozenReference");
        QVERIFY(frozen->isVisible());
        QVERIFY(!frozen->isColumnHidden(5));
        QCOMPARE(board()->horizontalHeader()->visualIndex(5), 0);
        QVERIFY(board()->columnWidth(2) >= 150);
        QVERIFY(board()->horizontalScrollBar()->maximum() > 500);
        board()->setFocus();
        board()->setCurrentIndex(model()->index(0, 0));
        for (int i = 0; i < 15; ++i) {
            const QRect cell = board()->visualRect(board()->currentIndex());
            QVERIFY2(cell.left() >= frozen->width() - 1 || board()->currentIndex().column() == 5,
                     qPrintable(QString::number(i)));
            QVERIFY(cell.right() <= board()->viewport()->width());
            QTest::keyClick(board(), Qt::Key_Right);
        }
        QCOMPARE(board()->currentIndex().column(), 15);
        QCOMPARE(frozen->x(), board()->verticalHeader()->width() + board()->frameWidth());
        for (int i = 0; i < 14; ++i) {
            QTest::keyClick(board(), Qt::Key_Left);
            const QRect cell = board()->visualRect(board()->currentIndex());
            QVERIFY(cell.left() >= frozen->width() - 1 || board()->currentIndex().column() == 5);
        }
        // A click on the reference that stays in sight chooses it.
        QTest::mouseClick(frozen->viewport(), Qt::LeftButton, {}, QPoint(20, 20));
        QCOMPARE(board()->currentIndex().column(), 5);
        // Compact, more of them fit.
        const int most = board()->horizontalScrollBar()->maximum();
        toggle("compactAction");
        QVERIFY(board()->horizontalScrollBar()->maximum() < most);
    }
    void whereAllHaveRoomNothingScrolls() {
        QVERIFY(!child<QTableView>(m_app->window.get(), "frozenReference")->isVisible());
        QCOMPARE(board()->horizontalScrollBar()->maximum(), 0);
    }
};

RIG_TEST(TestMatchBoard);
#include "test_match_board.moc"
