// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>
#include <cmath>

#include "colour/published_curves.h"
#include "colour/viewing_lut.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

const colour::PublishedCurve* named(const char* name) {
    for (const colour::PublishedCurve& curve : colour::publishedCurves()) {
        if (curve.name == name) return &curve;
    }
    return nullptr;
}

}  // namespace

class TestPublishedCurves : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    std::string write(const QString& name, const QByteArray& text) {
        QFile file(m_folder.filePath(name));
        if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
        file.write(text);
        return file.fileName().toStdString();
    }

private Q_SLOTS:
    /// SMPTE ST 2084: 100 cd/m² at 50.8 %, 10 000 at 100 %; ITU-R BT.2408: diffuse white of 203
    /// cd/m² at 58 %.
    void pqMeetsItsStandard() {
        QVERIFY(std::abs(colour::pqSignal(100.0) - 0.5081) < 1e-4);
        QVERIFY(std::abs(colour::pqSignal(10000.0) - 1.0) < 1e-9);
        QVERIFY(std::abs(colour::pqSignal(203.0) - 0.5807) < 1e-4);
        QVERIFY(colour::pqSignal(-1.0) < 1e-6);
        QVERIFY(std::abs(named("PQ")->encode(1.0) - 0.58) < 0.002);
    }
    /// Reflectances of sources 5.5.
    void standardsAreThereByTheirNames() {
        QVERIFY(std::abs(named("BT.709")->encode(0.18) - 0.409) < 0.001);
        QVERIFY(std::abs(named("HLG")->encode(0.18) - 0.378) < 0.001);
        QVERIFY(named("sRGB") != nullptr);
    }
    /// What OpenColorIO brings: more than a handful of camera curves, each rising, its grey in the
    /// range that makers' papers span (sources 5.5: 32 to 46 %), no two alike.
    void libraryCurvesRise() {
        int count = 0;
        for (const colour::PublishedCurve& curve : colour::publishedCurves()) {
            if (!curve.isCodeValue) continue;
            ++count;
            double before = -1.0;
            for (double stops = -8.0; stops <= 3.0; stops += 0.25) {
                const double now = curve.encode(std::exp2(stops));
                QVERIFY2(now > before, curve.name.c_str());
                before = now;
            }
            const double grey = curve.encode(0.18);
            QVERIFY2(grey > 0.30 && grey < 0.48, curve.name.c_str());
            // Code 64 is black and 940 white where the file is of limited range.
            QVERIFY(std::abs(curve.signalAt(0.18, true) - (1023.0 * grey - 64.0) / 876.0) < 1e-9);
            QCOMPARE(curve.signalAt(0.18, false), grey);
        }
        QVERIFY(count >= 5);
    }
    void aCubeIsInterpolated() {
        const auto lut = colour::ViewingLut::read(
            write("gain.cube",
                  "LUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 .5 0\n1 .5 0\n0 0 .25\n1 0 .25\n0 .5 .25\n1 .5 "
                  ".25\n"));
        QVERIFY2(lut.has_value(), lut ? "" : words::inEnglish(lut.error()).c_str());
        const auto out = lut->apply({0.4, 0.4, 0.4});
        QVERIFY(std::abs(out[0] - 0.4) < 1e-5);
        QVERIFY(std::abs(out[1] - 0.2) < 1e-5);
        QVERIFY(std::abs(out[2] - 0.1) < 1e-5);
        std::array<std::vector<float>, 3> planes{
            std::vector<float>{0.4F, 1.0F}, {0.4F, 1.0F}, {0.4F, 1.0F}};
        lut->apply(planes);
        QVERIFY(std::abs(planes[1][0] - 0.2F) < 1e-5F);
        QVERIFY(std::abs(planes[2][1] - 0.25F) < 1e-5F);
    }
    void aOneDimensionalTableIsRead() {
        const auto lut = colour::ViewingLut::read(
            write("curve.cube", "LUT_1D_SIZE 3\n0 0 0\n0.25 0.25 0.25\n1 1 1\n"));
        QVERIFY(lut.has_value());
        QVERIFY(std::abs(lut->apply({0.5, 0.25, 0.75})[0] - 0.25) < 1e-5);
        QVERIFY(std::abs(lut->apply({0.5, 0.25, 0.75})[2] - 0.625) < 1e-5);
    }
    void aChangedFileIsReadAnew() {
        const char* text = "LUT_1D_SIZE 2\n0 0 0\n%1 %1 %1\n";
        const std::string path = write("again.cube", QString(text).arg("0.5").toUtf8());
        QVERIFY(std::abs(colour::ViewingLut::read(path)->apply({1, 1, 1})[0] - 0.5) < 1e-5);
        write("again.cube", QString(text).arg("0.8").toUtf8());
        QVERIFY(std::abs(colour::ViewingLut::read(path)->apply({1, 1, 1})[0] - 0.8) < 1e-5);
    }
    void badTablesAreRefusedInWords_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("empty") << QByteArray();
        QTest::newRow("words") << QByteArray("this is no table\n");
        QTest::newRow("cut short") << QByteArray("LUT_3D_SIZE 33\n0 0 0\n1 1 1\n");
        QTest::newRow("absurd size") << QByteArray("LUT_3D_SIZE 1000000\n0 0 0\n");
        QTest::newRow("bytes") << QByteArray(4096, '\xff');
    }
    void badTablesAreRefusedInWords() {
        QFETCH(QByteArray, text);
        const auto lut = colour::ViewingLut::read(write("bad.cube", text));
        QVERIFY(!lut.has_value());
        QCOMPARE(lut.error().code, base::ErrorCode::UnsupportedFormat);
        QCOMPARE(words::inEnglish(lut.error().what), std::string("Cannot read the LUT bad.cube"));
        QVERIFY(!lut.error().detail.empty());
    }
    void aMissingFileIsNamed() {
        const auto lut = colour::ViewingLut::read(m_folder.filePath("gone.cube").toStdString());
        QVERIFY(!lut.has_value());
        QCOMPARE(lut.error().code, base::ErrorCode::NotFound);
    }
};

RIG_TEST(TestPublishedCurves);
#include "test_published_curves.moc"
