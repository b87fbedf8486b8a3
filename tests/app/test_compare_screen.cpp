// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractButton>
#include <QClipboard>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTableView>
#include <QToolButton>

#include "app/models/fact_table_model.h"
#include "app/widgets/neutral_ladder.h"
#include "app/widgets/patch_quilt.h"
#include "app/widgets/scope_view.h"
#include "app/widgets/strip_view.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::support;
using app::PatchQuilt;
using app::ScopeView;
using app::StripView;

class TestCompareScreen : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QObject* root() const { return m_app->window.get(); }
    void click(const char* name) {
        QTest::mouseClick(child<QAbstractButton>(root(), name), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
    }
    double largestDifference() const {
        double largest = 0.0;
        for (const auto& patch : child<PatchQuilt>(root(), "compareQuilt")->patches())
            largest = std::max(largest, patch.largestDeltaE);
        return largest;
    }
    void chooseSubject(const QString& text) {
        auto* box = child<QComboBox>(root(), "subjectBox");
        chooseByKeys(box, text);
        QVERIFY(m_app->waitForJobs());
    }
    QString write(const QString& name, const QByteArray& text) const {
        QFile file(m_app->folder.filePath(name));
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() ? file.fileName()
                                                                                  : QString();
    }
    QAction* lutAction(const QString& begin) const {
        for (QAction* action : child<QToolButton>(root(), "lutsButton")->menu()->actions()) {
            if (action->text().startsWith(begin)) return action;
        }
        return nullptr;
    }

private Q_SLOTS:
    void initTestCase() { app::theme::apply(*qApp); }
    void init() {
        QTest::failOnWarning(QRegularExpression("^(?!This plugin does not support)"));
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        m_app->window->resize(1280, 800);
        QVERIFY(m_app->show("compare"));
        QVERIFY(m_app->waitForJobs());
    }
    void cleanup() { m_app.reset(); }

    void theQuiltStripesEveryCamera() {
        auto* quilt = child<PatchQuilt>(root(), "compareQuilt");
        QCOMPARE(quilt->patches().size(), 24);
        QCOMPARE(quilt->patches()[1].colours.size(), 4);
        quilt->setFocus();
        QTest::keyClick(quilt, Qt::Key_Right);
        QTest::keyClick(quilt, Qt::Key_Right);
        const QString details = child<QLabel>(root(), "quiltDetails")->text();
        QVERIFY(details.contains("light skin"));
        QVERIFY(details.contains("(reference)"));
        QCOMPARE(child<app::NeutralLadder>(root(), "compareLadder")->cameras().size(), 4);
    }
    /// The prediction brings the cameras together, and says that it is one.
    void afterTheTurnsStripesNearlyVanish() {
        const double before = largestDifference();
        click("afterTurnsTab");
        QVERIFY(largestDifference() < 0.5 * before);
        QVERIFY(child<QLabel>(root(), "stageNote")->text().contains("Predicted"));
        click("asShotTab");
        QCOMPARE(largestDifference(), before);
    }
    void aPlaceIsReadOnAllCameras() {
        click("picturesTab");
        auto* view = child<StripView>(root(), "stripView");
        QCOMPARE(view->strips().size(), 4);
        for (const auto& strip : view->strips()) QVERIFY(!strip.picture.isNull());
        // The middle of the white patch, at the lower left of the chart.
        const QRectF cell = view->cells()[0];
        const QPoint white(int(cell.left() + 0.15 * cell.width()),
                           int(cell.top() + 0.78 * cell.height()));
        QTest::mouseClick(view, Qt::LeftButton, {}, white);
        const QString values =
            child<QLabel>(root(), "markValues")->text().replace(QChar::Nbsp, u' ');
        const auto number = QRegularExpression("luma ([0-9.]+)").match(values);
        QVERIFY2(number.hasMatch(), qPrintable(values));
        QVERIFY(number.captured(1).toDouble() > 85.0);
        QCOMPARE(values.count("luma"), 4);
        // Four readings and three differences to the reference, each with what is unsure in it.
        QCOMPARE(values.count(u'±'), 7);
        // The same by keys: the mark walks, the values follow.
        view->setFocus();
        QTest::keyClick(view, Qt::Key_Right, Qt::ShiftModifier);
        QVERIFY(child<QLabel>(root(), "markValues")->text().replace(QChar::Nbsp, u' ') != values);
    }
    void facesLieOverEachOther() {
        click("picturesTab");
        chooseSubject("face: restorer");
        auto* view = child<StripView>(root(), "stripView");
        QVERIFY(!view->strips()[0].picture.isNull());
        QVERIFY(!view->strips()[1].picture.isNull());
        // Camera C looks at the apprentice.
        QCOMPARE(view->strips()[2].missing, QString("This face was not found here."));
        // Back at the chart, the pictures are all there again.
        chooseSubject("chart");
        for (const auto& strip : view->strips()) QVERIFY(!strip.picture.isNull());
    }
    void picturesAreSlicedWipedAndSubtracted() {
        click("picturesTab");
        auto* view = child<StripView>(root(), "stripView");
        const QImage beside = view->grab().toImage();
        click("slicesTab");
        QCOMPARE(view->mode(), StripView::Mode::Slices);
        QCOMPARE(view->cells().size(), 1);
        const QImage sliced = view->grab().toImage();
        QVERIFY(sliced != beside);
        QVERIFY(!child<QComboBox>(root(), "againstBox")->isVisible());
        click("wipeTab");
        view->setFocus();
        const double divider = view->divider();
        QTest::keyClick(view, Qt::Key_Right, Qt::ControlModifier);
        QVERIFY(view->divider() > divider);
        const QImage wiped = view->grab().toImage();
        chooseByKeys(child<QComboBox>(root(), "againstBox"), "D");
        QVERIFY(view->grab().toImage() != wiped);
        // A camera against itself would be black: the reference is not offered.
        QCOMPARE(child<QComboBox>(root(), "againstBox")->findText("A"), -1);
        click("differenceTab");
        const QImage difference = view->grab().toImage();
        click("afterTurnsTab");
        const auto brightness = [](const QImage& image) {
            double sum = 0.0;
            for (int y = image.height() / 4; y < image.height() * 3 / 4; y += 4) {
                for (int x = image.width() / 3; x < image.width() * 2 / 3; x += 4)
                    sum += qGray(image.pixel(x, y));
            }
            return sum;
        };
        QVERIFY(brightness(view->grab().toImage()) < 0.6 * brightness(difference));
    }
    void zoomStaysInsideAndGoesBack() {
        click("picturesTab");
        auto* view = child<StripView>(root(), "stripView");
        view->setFocus();
        QTest::keyClick(view, Qt::Key_Plus);
        QTest::keyClick(view, Qt::Key_Plus);
        QVERIFY(view->zoom() > 1.5);
        for (int i = 0; i < 30; ++i) QTest::keyClick(view, Qt::Key_Plus);
        QVERIFY(view->zoom() <= 40.0);
        QTest::keyClick(view, Qt::Key_0);
        QCOMPARE(view->zoom(), 1.0);
        QTest::keyClick(view, Qt::Key_Minus);
        QCOMPARE(view->zoom(), 1.0);
    }
    /// In the wipe both cameras' surroundings of the mark stand large, on their sides.
    void theWipeHasALoupeForEach() {
        click("picturesTab");
        auto* view = child<StripView>(root(), "stripView");
        view->setMode(StripView::Mode::Wipe);
        view->setLoupe(true);
        view->setMark(QPointF(0.5, 0.25));
        const QRectF cell = view->cells().front();
        const QVector<QRectF> loupes = view->loupes(cell);
        QCOMPARE(loupes.size(), 2);
        QVERIFY(loupes[0].right() < cell.center().x() && loupes[1].left() > cell.center().x());
        QVERIFY(cell.contains(loupes[0]) && loupes[0].top() > cell.center().y());
        const QImage with = view->grab().toImage();
        view->setLoupe(false);
        QVERIFY(view->loupes(cell).isEmpty());
        QVERIFY(view->grab().toImage() != with);
        view->setLoupe(true);
        view->setMark(QPointF(0.5, 0.75));
        QVERIFY(view->loupes(cell)[0].bottom() < cell.center().y());
        view->setMode(StripView::Mode::SideBySide);
    }
    void scopesShowTheirKindAndArea() {
        click("scopesTab");
        auto* view = child<ScopeView>(root(), "scopeView");
        QCOMPARE(view->traces().size(), 4);
        QVERIFY(view->traces()[0].waveform);
        QVERIFY(view->accessibleDescription().startsWith("A: luma "));
        const QString whole = view->accessibleDescription();
        chooseByKeys(child<QComboBox>(root(), "scopeAreaBox"), "the part shown");
        QVERIFY(m_app->waitForJobs());
        QVERIFY(view->accessibleDescription() != whole);
        auto* kind = child<QComboBox>(root(), "scopeKindBox");
        chooseByKeys(kind, "Vectorscope");
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(view->kind(), ScopeView::Kind::Vectorscope);
        QVERIFY(view->traces()[3].vectorscope);
        chooseByKeys(kind, "Histogram");
        QVERIFY(m_app->waitForJobs());
        QVERIFY(view->traces()[3].histogram);
        const QImage apart = view->grab().toImage();
        click("overlaidBox");
        QVERIFY(view->isOverlaid());
        QVERIFY(view->grab().toImage() != apart);
        // Listed below where they lie over each other; under each field otherwise.
        QVERIFY(child<QLabel>(root(), "scopeWords")->isVisible());
        click("overlaidBox");
        QVERIFY(!child<QLabel>(root(), "scopeWords")->isVisible());
    }
    /// Shift and drag mark a region; the scopes then count it alone.
    void aDrawnRegionIsCounted() {
        click("picturesTab");
        auto* view = child<StripView>(root(), "stripView");
        const QRectF cell = view->cells()[0];
        const auto at = [&](double x, double y) {
            return QPoint(int(cell.left() + x * cell.width()), int(cell.top() + y * cell.height()));
        };
        QTest::mousePress(view, Qt::LeftButton, Qt::ShiftModifier, at(0.11, 0.72));
        QTest::mouseMove(view, at(0.15, 0.78));
        QMouseEvent move(QEvent::MouseMove,
                         QPointF(at(0.19, 0.84)),
                         view->mapToGlobal(QPointF(at(0.19, 0.84))),
                         Qt::NoButton,
                         Qt::LeftButton,
                         Qt::ShiftModifier);
        QApplication::sendEvent(view, &move);
        QTest::mouseRelease(view, Qt::LeftButton, Qt::ShiftModifier, at(0.19, 0.84));
        click("scopesTab");
        chooseByKeys(child<QComboBox>(root(), "scopeAreaBox"), "the region drawn");
        QVERIFY(m_app->waitForJobs());
        // White on the reference: about 94 %.
        const auto middle =
            QRegularExpression("A: luma .* half of it below ([0-9.]+)")
                .match(child<ScopeView>(root(), "scopeView")->accessibleDescription());
        QVERIFY(middle.hasMatch());
        QVERIFY(middle.captured(1).toDouble() > 85.0);
    }
    void numbersExplainThemselves() {
        click("compareNumbersTab");
        auto* table = child<QTableView>(root(), "factTable");
        QCOMPARE(table->model()->columnCount(), 5);
        int row = -1;
        for (int i = 0; i < table->model()->rowCount(); ++i) {
            if (table->model()->index(i, 0).data().toString().startsWith("Edge width")) row = i;
        }
        QVERIFY(row >= 0);
        const QModelIndex cell = table->model()->index(row, 1);
        QVERIFY(cell.data(app::FactTableModel::ValueRole).toDouble() > 0.1);
        table->setCurrentIndex(cell.siblingAtColumn(0));
        QTest::keyClick(table, Qt::Key_Right);
        QVERIFY(child<QLabel>(root(), "factWords")->text().contains("ISO 12233"));
        // The restorer's skin stands in the table, unknown where the camera does not see him.
        const auto skin = table->model()->match(
            table->model()->index(0, 0), Qt::DisplayRole, "Skin of restorer", 1);
        QCOMPARE(skin.size(), 1);
        const QModelIndex level = table->model()->index(skin[0].row() + 1, 1);
        QVERIFY(level.data(app::FactTableModel::ValueRole).isValid());
        QCOMPARE(level.siblingAtColumn(3).data().toString(), QString("unknown"));
        // A mark stands beside its number, never in it, and is heard as a word.
        int marked = 0;
        for (int i = 0; i < table->model()->rowCount(); ++i) {
            for (int column = 1; column < 5; ++column) {
                const QModelIndex one = table->model()->index(i, column);
                if (one.data(app::FactTableModel::MarkRole).toString().isEmpty()) continue;
                ++marked;
                QVERIFY(!one.data().toString().contains(QChar(0x25b3)));
                const QString spoken = one.data(Qt::AccessibleTextRole).toString();
                QVERIFY(spoken.endsWith("near") || spoken.endsWith("off"));
            }
        }
        QVERIFY(marked > 5);
    }
    void whatIsShownCanBeCopied() {
        auto* screen = child<QWidget>(root(), "compareScreen");
        trigger(screen, "copyNumbersAction");
        const QString numbers = QApplication::clipboard()->text();
        QCOMPARE(numbers.count('\n'), 25);
        QVERIFY(numbers.startsWith("patch\tA R' %"));
        trigger(screen, "copyPictureAction");
        QVERIFY(!QApplication::clipboard()->image().isNull());
        for (const char* tab : {"scopesTab", "toneTab", "compareNumbersTab"}) {
            click(tab);
            trigger(screen, "copyNumbersAction");
            QVERIFY(QApplication::clipboard()->text().size() > 40);
        }
    }
    /// A viewing LUT that halves the signal darkens its camera alone; choosing it can be undone.
    void aViewingLutIsLookedThrough() {
        m_app->chooser.lut = write("half.cube",
                                   "LUT_3D_SIZE 2\n0 0 0\n.5 0 0\n0 .5 0\n.5 .5 0\n0 0 .5\n.5 0 "
                                   ".5\n0 .5 .5\n.5 .5 .5\n");
        lutAction("B:")->trigger();
        click("throughLutTab");
        QVERIFY(child<QLabel>(root(), "stageNote")->text().contains("A, C, D"));
        auto* ladder = child<app::NeutralLadder>(root(), "compareLadder");
        const double through = ladder->cameras()[1].percent[3];
        click("asShotTab");
        QVERIFY(std::abs(2.0 * through - ladder->cameras()[1].percent[3]) < 0.1);
        QVERIFY(lutAction("B: half.cube") != nullptr);
        trigger(root(), "undoAction");
        QVERIFY(lutAction("B: half.cube") == nullptr);
    }
    void aFileThatIsNoLutIsRefusedInWords() {
        m_app->chooser.lut = write("notes.cube", "no table at all");
        lutAction("A:")->trigger();
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors[0].startsWith("Cannot read the LUT notes.cube."));
        m_app->chooser.lut = m_app->folder.filePath("gone.cube");
        lutAction("A:")->trigger();
        QVERIFY(m_app->prompter.errors[1].contains("There is no such file"));
        QVERIFY(lutAction("A: choose") != nullptr);
    }
    /// Every control of every page has a name for tests and one for assistive tools.
    void everyPagesControlsAreNamed() {
        for (const char* tab :
             {"quiltTab", "picturesTab", "scopesTab", "toneTab", "compareNumbersTab"}) {
            click(tab);
            for (QWidget* widget :
                 child<QWidget>(root(), "compareScreen")->findChildren<QWidget*>()) {
                const bool isPart = widget->objectName().startsWith("qt_") ||
                                    widget->inherits("QHeaderView") ||
                                    widget->inherits("QScrollBar") || widget->inherits("QMenu");
                if (widget->focusPolicy() == Qt::NoFocus || !widget->isVisible() || isPart)
                    continue;
                QVERIFY2(!widget->objectName().isEmpty(), widget->metaObject()->className());
                const bool isNamed =
                    !widget->accessibleName().isEmpty() || widget->inherits("QAbstractButton");
                QVERIFY2(isNamed, qPrintable(widget->objectName()));
            }
        }
    }
    void withoutATakeTheScreenSaysWhatToDo() {
        m_app->window->files().newRig();
        m_app->window->showScreen("compare");
        QVERIFY(child<QLabel>(root(), "compareEmptyLabel")->isVisible());
        QVERIFY(!child<QToolButton>(root(), "copyButton")->isEnabled());
    }
    /// Pictures load only while they are looked at.
    void otherScreensLoadNothing() {
        m_app->window->showScreen("match");
        rig::Rig next = m_app->document.rig();
        next.name = "Renamed";
        m_app->document.change("rename", next);
        QVERIFY(m_app->jobs.running().isEmpty());
    }
    /// A curve declared on Tone gives scene stops on Match; one step, undone as one.
    void aCurveIsDeclaredByMenu() {
        click("toneTab");
        auto* button = child<QToolButton>(m_app->window.get(), "declareCurveButton");
        QCOMPARE(button->text(), QString("none ▾"));
        child<QAction>(m_app->window.get(), "curve BT.709")->trigger();
        QCOMPARE(button->text(), QString("BT.709 ▾"));
        QVERIFY(child<QLabel>(m_app->window.get(), "declaredWords")
                    ->text()
                    .contains("departs from it by"));
        const auto& camera = m_app->document.rig().cameras[0];
        QVERIFY(rig::findProfile(camera.sheet, "Standard")->curve.has_value());
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(button->text(), QString("none ▾"));
    }
    /// Primaries of the profile: the standards' and those that the colour library publishes.
    void primariesAreDeclaredForTheProfile() {
        click("toneTab");
        auto* row = child<QWidget>(m_app->window.get(), "curveRow");
        auto* box = child<QComboBox>(row, "profilePrimariesBox");
        QVERIFY(box->count() > 6);
        support::chooseByKeys(box, "BT.2020");
        const auto& camera = m_app->document.rig().cameras[0];
        QCOMPARE(rig::findProfile(camera.sheet, "Standard")->primaries, std::string("bt2020"));
        // Each key made a step: BT.709, then BT.2020.
        support::trigger(m_app->window.get(), "undoAction");
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(box->currentIndex(), 0);
    }
    void aLogCurveIsDeclaredByItsNumbers() {
        click("toneTab");
        child<QAction>(m_app->window.get(), "curveLog")->trigger();
        auto* dialog = child<QDialog>(m_app->window.get(), "logCurveDialog");
        child<QDoubleSpinBox>(dialog, "logSpanSpin")->setValue(12.5);
        QTest::mouseClick(child<QPushButton>(dialog, "declareLogButton"), Qt::LeftButton);
        QCOMPARE(child<QToolButton>(m_app->window.get(), "declareCurveButton")->text(),
                 QString("log (12.50 stops) ▾"));
    }
    void tablesAndTakesThatTellNoCurveAreRefused() {
        click("toneTab");
        m_app->chooser.lut = "/nowhere/x.cube";
        child<QAction>(m_app->window.get(), "curveTable")->trigger();
        child<QAction>(m_app->window.get(), "curveTakes")->trigger();
        QCOMPARE(m_app->prompter.errors.size(), 2);
        QVERIFY(m_app->prompter.errors[1].contains("Only 1 take"));
        QCOMPARE(child<QToolButton>(m_app->window.get(), "declareCurveButton")->text(),
                 QString("none ▾"));
    }
};

RIG_TEST(TestCompareScreen);
#include "test_compare_screen.moc"
