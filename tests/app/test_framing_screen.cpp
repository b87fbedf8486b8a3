// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QListView>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QRandomGenerator>

#include "app/screens/framing/framing_screen.h"
#include "app/screens/framing/framing_turn_list.h"
#include "rig/rig_store.h"
#include "support/app_fixture.h"
#include "support/media_files.h"
#include "support/photos.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::child;

namespace {

/// Boxes of all greys, the same for a seed, moved by so many px: a set that can be found again.
QImage setPicture(quint32 seed, int right) {
    QImage image(960, 540, QImage::Format_RGB888);
    image.fill(QColor(90, 90, 90));
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    QRandomGenerator random(seed);
    for (int i = 0; i < 260; ++i) {
        const int grey = 30 + static_cast<int>(random.bounded(200u));
        const QRectF box(random.bounded(1000.0) - 40 + right,
                         random.bounded(560.0) - 20,
                         8 + random.bounded(60.0),
                         8 + random.bounded(60.0));
        painter.fillRect(box, QColor(grey, grey, grey));
    }
    return image;
}

rig::FramedPerson personOf(double head, double crown, double across) {
    rig::FramedPerson person;
    person.left = across * 960 - 80;
    person.top = crown * 540 + 20;
    person.width = person.height = 160;
    person.headHeight = {head, 0.005};
    person.faceHeight = {head, 0.006};
    person.headroom = {crown, 0.002};
    person.eyeLine = {crown + 0.5 * head, 0.002};
    person.across = {across, 0.002};
    return person;
}

}  // namespace

class TestFramingScreen : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void init() {
        m_app = std::make_unique<support::AppFixture>();
        QVERIFY(m_app->show("framing"));
    }
    void cleanup() { m_app.reset(); }

    void withoutATakeTheScreenSaysWhatToDo() {
        QVERIFY(child<QLabel>(window(), "framingEmptyLabel")->isVisible());
        QVERIFY(!child<QPushButton>(window(), "saveFramingButton")->isEnabled());
        QVERIFY(!child<QPushButton>(window(), "framingCardButton")->isEnabled());
    }
    void turnsAreListedTickedAndTakenBack() {
        openTwo();
        auto* list = child<QListView>(window(), "framingTurnList");
        QVERIFY(list->model()->rowCount() >= 2);
        const QString first = list->model()->index(0, 0).data().toString();
        QVERIFY2(!first.isEmpty(), qPrintable(first));
        const int open = controller().openTurns();
        list->setFocus();
        list->setCurrentIndex(list->model()->index(0, 0));
        QTest::keyClick(list, Qt::Key_Space);
        QCOMPARE(controller().openTurns(), open - 1);
        QCOMPARE(list->model()->index(0, 0).data(Qt::CheckStateRole).toInt(), int(Qt::Checked));
        m_app->document.undoStack().undo();
        QCOMPARE(controller().openTurns(), open);
        // By the mouse on the box.
        const QRect row = list->visualRect(list->model()->index(0, 0));
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, row.topLeft() + QPoint(18, 18));
        QCOMPARE(controller().openTurns(), open - 1);
    }
    /// The plan's camera follows what is done at the tripod, and comes back.
    void aTurnMovesThePlansPicture() {
        openTwo();
        rig::Rig rig = m_app->document.rig();
        rig::SetPlan plan;
        for (rig::Camera& camera : rig.cameras) {
            camera.isLensTold = true;
            camera.lens.focalLengthMm = 50.0;
            rig::PlanObject place;
            place.id = "place-" + camera.id;
            place.kind = rig::PlanKind::Camera;
            place.cameraId = camera.id;
            place.xMetres = place.aimXMetres = 2.0;
            place.zMetres = 3.0;
            place.heightMetres = place.aimHeightMetres = 1.2;
            place.aimZMetres = 1.0;
            plan.objects.push_back(place);
        }
        rig.plan = plan;
        m_app->document.change("Draw a plan", rig);
        auto* list = child<QListView>(window(), "framingTurnList");
        int row = -1;
        for (std::size_t i = 0; i < controller().turns().size() && row < 0; ++i) {
            const std::string& code = controller().turns()[i].advice.code;
            if (code.starts_with("tilt") || code.starts_with("pan") || code.starts_with("step"))
                row = static_cast<int>(i);
        }
        QVERIFY(row >= 0);
        list->setFocus();
        list->setCurrentIndex(list->model()->index(row, 0));
        QTest::keyClick(list, Qt::Key_Space);
        QVERIFY(!(*m_app->document.rig().plan == plan));
        QCOMPARE(list->currentIndex().row(), row);
        QTest::keyClick(list, Qt::Key_Space);
        const rig::SetPlan& back = *m_app->document.rig().plan;
        for (std::size_t i = 0; i < plan.objects.size(); ++i) {
            QVERIFY(std::abs(back.objects[i].aimXMetres - plan.objects[i].aimXMetres) < 1e-6);
            QVERIFY(std::abs(back.objects[i].aimHeightMetres - plan.objects[i].aimHeightMetres) <
                    1e-6);
            QVERIFY(std::abs(back.objects[i].zMetres - plan.objects[i].zMetres) < 1e-6);
        }
    }
    void goalsAreChosenAndJudgedBy() {
        openTwo();
        auto* menu = child<QMenu>(window(), "framingGoalsMenu");
        QVERIFY(statusOf(1).contains("headroom") || statusOf(1).contains("eyes"));
        child<QAction>(menu, "headroom-wide")->trigger();
        QCOMPARE(m_app->document.rig().choices.headroom, std::string("wide"));
        QVERIFY(child<QPushButton>(window(), "framingGoalsButton")->text().contains("wide"));
        QVERIFY(child<QAction>(menu, "headroom-wide")->isChecked());
        QVERIFY(!child<QAction>(menu, "headroom-tight")->isChecked());
        m_app->document.undoStack().undo();
        QCOMPARE(m_app->document.rig().choices.headroom, std::string("tight"));
    }
    void pagesShowWhatTheyAreFor() {
        openTwo();
        QVERIFY(m_app->waitForJobs());
        auto* safe = child<QCheckBox>(window(), "safeAreasCheck");
        const QImage plain = child<app::FramedView>(window(), "framedView0")->grab().toImage();
        QTest::mouseClick(safe, Qt::LeftButton, {}, {6, 8});
        QVERIFY(safe->isChecked());
        QVERIFY(child<app::FramedView>(window(), "framedView0")->grab().toImage() != plain);
        for (const auto& [tab, part] : {std::pair{"cropsTab", "9:16"},
                                        {"focusTab", "eyes 1.4 px"},
                                        {"savedTab", "no framing is saved"}}) {
            QTest::mouseClick(child<QPushButton>(window(), tab), Qt::LeftButton);
            const auto* view = child<app::FramedView>(window(), "framedView0");
            QVERIFY2(view->toolTip().contains(part), qPrintable(view->toolTip()));
        }
        QTest::mouseClick(child<QPushButton>(window(), "pairTab"), Qt::LeftButton);
        QVERIFY(child<app::FramedView>(window(), "pairLeftView")->isVisible());
        QTest::mouseClick(child<QCheckBox>(window(), "mirrorCheck"), Qt::LeftButton, {}, {6, 8});
        QVERIFY(child<QCheckBox>(window(), "mirrorCheck")->isChecked());
    }
    /// A portrait on the wall beside somebody is no second person, and the caption says so.
    void aPortraitOnTheWallIsSaid() {
        openTwo();
        QVERIFY(m_app->waitForJobs());
        const auto captionOf = [&] {
            return child<app::FramedView>(window(), "framedView0")->toolTip();
        };
        QVERIFY2(captionOf().contains("head 42"), qPrintable(captionOf()));
        QVERIFY(!captionOf().contains("not judged"));
        rig::Rig next = m_app->document.rig();
        rig::Reading reading = *next.takes[0].shots[0].reading;
        reading.framing->people.push_back(personOf(0.12, 0.2, 0.8));
        next.takes[0].shots[0].reading = reading;
        m_app->document.change("portrait", next);
        QVERIFY(m_app->waitForJobs());
        QVERIFY2(captionOf().contains("head 42") && captionOf().contains("not judged"),
                 qPrintable(captionOf()));
    }
    /// Saved, shot again with camera A 14 px to the right: told, with the turn that undoes it, kept
    /// in the file, and the pictures can be flicked.
    void whatMovedSinceIsToldAndKept() {
        openTwo();
        QTest::mouseClick(child<QPushButton>(window(), "saveFramingButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        const rig::Rig& rig = m_app->document.rig();
        QVERIFY(rig.cameras[0].savedFraming.has_value());
        QVERIFY(
            QFile::exists(QString::fromStdString(rig.cameras[0].savedFraming->picture.string())));
        addTake(2, 14, 0);
        QTRY_VERIFY_WITH_TIMEOUT(driftOf(0) != nullptr && driftOf(1) != nullptr, 60000);
        QCOMPARE(driftOf(0)->cause, std::string("pan"));
        QVERIFY(std::abs(driftOf(0)->shiftPx[0] - 14.0) < 0.5);
        QCOMPARE(driftOf(1)->cause, std::string("none"));
        QVERIFY(statusOf(0).contains("moved since"));
        const auto* list = child<QListView>(window(), "framingTurnList");
        QStringList turns;
        for (int i = 0; i < list->model()->rowCount(); ++i)
            turns << list->model()->index(i, 0).data().toString();
        QCOMPARE(turns.filter(QRegularExpression("^Panned: the set moved 14")).size(), 1);
        QTest::mouseClick(child<QPushButton>(window(), "savedTab"), Qt::LeftButton);
        auto* view = child<app::FramedView>(window(), "framedView0");
        QVERIFY(m_app->waitForJobs());
        const QImage through = view->grab().toImage();
        QTest::mousePress(child<QPushButton>(window(), "flickButton"), Qt::LeftButton);
        QVERIFY(view->grab().toImage() != through);
        QTest::mouseRelease(child<QPushButton>(window(), "flickButton"), Qt::LeftButton);
        QCOMPARE(view->grab().toImage(), through);
        // All of it comes back from the file.
        const QString file = m_app->folder.filePath("kept.rigmatch");
        QVERIFY(m_app->document.saveAs(file).has_value());
        const auto loaded = rig::loadRig(file.toStdString());
        QVERIFY(loaded.has_value());
        QCOMPARE(loaded->rig.cameras[0].savedFraming, rig.cameras[0].savedFraming);
        QCOMPARE(*loaded->rig.takes[1].shots[0].reading->framing,
                 *rig.takes[1].shots[0].reading->framing);
        // Measuring made no step: the last one is the new take.
        m_app->document.undoStack().undo();
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{1});
    }
    /// Somebody else sits down: who sat there in the first take lies over, as picture and outline.
    void anEarlierTakeIsLaidOver() {
        openTwo();
        addTake(2, 14, 0);
        QVERIFY(m_app->waitForJobs());
        QTest::mouseClick(child<QPushButton>(window(), "savedTab"), Qt::LeftButton);
        auto* view = child<app::FramedView>(window(), "framedView0");
        const QImage alone = view->grab().toImage();
        auto* box = child<QComboBox>(window(), "layOverBox");
        QCOMPARE(box->count(), 2);
        support::chooseByKeys(box, "take 1");
        QVERIFY(m_app->waitForJobs());
        QVERIFY2(view->toolTip().contains("take 1 laid over"), qPrintable(view->toolTip()));
        QVERIFY(view->grab().toImage() != alone);
        // No step to undo: it is a way of looking.
        QCOMPARE(m_app->document.undoStack().undoText(), QString("take"));
        // The take that is laid over is not offered over itself.
        m_app->selection.setTakeId(QString::fromStdString(m_app->document.rig().takes[0].id));
        QCOMPARE(box->findText("take 1"), -1);
        QVERIFY(controller().ghostTake().isEmpty());
    }
    /// Stills cannot be followed; a clip can.
    void aCropsTrackIsExported() {
        openTwo();
        QTest::mouseClick(child<QPushButton>(window(), "cropsTab"), Qt::LeftButton);
        auto* button = child<QPushButton>(window(), "exportTrackButton");
        QVERIFY(button->isVisible() && !button->isEnabled());
        const QString clip = m_app->folder.filePath("clip.mov");
        QVERIFY(support::runFfmpeg({"-loop",
                                    "1",
                                    "-i",
                                    support::kPhotos + "frontal.png",
                                    "-t",
                                    "1",
                                    "-pix_fmt",
                                    "yuv420p",
                                    clip}));
        rig::Rig next = m_app->document.rig();
        rig::Shot& shot = next.takes[0].shots[1];
        shot.media = clip.toStdString();
        shot.reading->isStill = false;
        shot.reading->width = shot.reading->height = 512;
        m_app->document.change("clip", next);
        QVERIFY(button->isEnabled());
        QVERIFY(child<QComboBox>(window(), "cropCameraBox")->currentText().startsWith("B"));
        m_app->chooser.table = m_app->folder.filePath("crop.csv");
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QFile file(m_app->chooser.table);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.readAll().startsWith("seconds,leftPx"));
        QVERIFY(child<QLabel>(window(), "cropTrackTold")->text().contains("9:16 window of 288"));
        m_app->chooser.table = m_app->folder.filePath("no/such/crop.csv");
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->prompter.errors.size(), 1);
    }
    void theCardHasAPageForEachCamera() {
        openTwo();
        QVERIFY(m_app->waitForJobs());
        m_app->chooser.pdf = m_app->folder.filePath("card.pdf");
        QTest::mouseClick(child<QPushButton>(window(), "framingCardButton"), Qt::LeftButton);
        QFile file(m_app->chooser.pdf);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.readAll().contains("/Count 2"));
        m_app->chooser.pdf = m_app->folder.filePath("no/such/folder/card.pdf");
        QTest::mouseClick(child<QPushButton>(window(), "framingCardButton"), Qt::LeftButton);
        QCOMPARE(m_app->prompter.errors.size(), 1);
    }

private:
    [[nodiscard]] QWidget* window() const { return m_app->window.get(); }
    [[nodiscard]] app::FramingController& controller() const {
        return child<app::FramingScreen>(window(), "framingScreen")->controller();
    }
    [[nodiscard]] QString statusOf(std::size_t row) const {
        return controller().rows()[row].status;
    }
    [[nodiscard]] const rig::FrameDrift* driftOf(std::size_t shot) const {
        const auto& takes = m_app->document.rig().takes;
        const auto& reading = takes[takes.size() - 1].shots[shot].reading;
        return reading && reading->framing && reading->framing->drift ? &*reading->framing->drift
                                                                      : nullptr;
    }
    /// A take of both cameras whose pictures stand so far to the right.
    void addTake(int number, int rightOfA, int rightOfB) {
        rig::Rig next = m_app->document.rig();
        rig::Take take;
        take.id = rig::freshTakeId(next);
        take.number = number;
        take.startedAt = "2026-03-02T10:00:00";
        take.purposes = {rig::Purpose::Framing};
        for (int i = 0; i < 2; ++i) {
            rig::Shot shot;
            shot.cameraId = next.cameras[static_cast<std::size_t>(i)].id;
            const QString file =
                m_app->folder.filePath(QString("%1-%2.png").arg(i == 0 ? 'A' : 'B').arg(number));
            QVERIFY(
                setPicture(static_cast<quint32>(7 + i), i == 0 ? rightOfA : rightOfB).save(file));
            shot.media = file.toStdString();
            rig::Reading reading;
            reading.isStill = true;
            reading.width = 960;
            reading.height = 540;
            rig::FramingReading framing;
            framing.frames = 1;
            framing.people = {i == 0 ? personOf(0.42, 0.13, 0.5) : personOf(0.36, 0.30, 0.5)};
            framing.focus.eyes = 1.4;
            framing.focus.sharpest = "eyes";
            reading.framing = framing;
            shot.reading = reading;
            take.shots.push_back(shot);
        }
        next.takes.push_back(take);
        m_app->document.change("take", next);
        m_app->selection.setTakeId(QString::fromStdString(take.id));
    }
    void openTwo() {
        rig::Rig rig;
        for (const char* role : {"restorer close", "apprentice close"}) {
            rig::Camera camera;
            camera.id = rig::freshCameraId(rig);
            camera.role = role;
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
        m_app->document.start(rig);
        const QString file = m_app->folder.filePath("bench.rigmatch");
        QVERIFY(m_app->document.saveAs(file).has_value());
        addTake(1, 0, 0);
        m_app->window->showScreen("framing");
    }

    std::unique_ptr<support::AppFixture> m_app;
};

RIG_TEST(TestFramingScreen);
#include "test_framing_screen.moc"
