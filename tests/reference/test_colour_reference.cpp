// SPDX-License-Identifier: GPL-3.0-or-later
// Colour arithmetic against two independent libraries: LittleCMS and OpenColorIO.
#include <OpenColorIO/OpenColorIO.h>
#include <lcms2.h>

#include "colour/lab.h"
#include "colour/named_primaries.h"
#include "colour/transfer.h"
#include "colour/white_point.h"
#include "sim/random.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
namespace OCIO = OCIO_NAMESPACE;

class TestColourReference : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// ITU-R BT.2087-0, annex 2 gives BT.709 to BT.2020; here its inverse. Every set of primaries
    /// keeps white: rows sum to one.
    void primariesConvertAsPublished() {
        const auto wide = colour::toBt709("bt2020");
        QVERIFY(wide.has_value());
        colour::Matrix3 published;
        published << 0.6274, 0.3293, 0.0433, 0.0691, 0.9195, 0.0114, 0.0164, 0.0880, 0.8956;
        QVERIFY(((*wide) * published - colour::Matrix3::Identity()).cwiseAbs().maxCoeff() < 5e-4);
        QVERIFY((*colour::toBt709("bt709") - colour::Matrix3::Identity()).norm() < 1e-9);
        std::vector<std::string> names = colour::cameraPrimaries();
        QVERIFY(names.size() >= 5);
        for (const char* name : {"bt2020", "bt601", "bt601-625", "p3-d65"}) names.push_back(name);
        for (const std::string& name : names) {
            const auto matrix = colour::toBt709(name);
            QVERIFY2(matrix.has_value(), name.c_str());
            const colour::Vector3 white = (*matrix) * colour::Vector3(1, 1, 1);
            QVERIFY2((white - colour::Vector3(1, 1, 1)).norm() < 0.01, name.c_str());
            // Wider primaries: pure red of them lies outside BT.709 or on its edge.
            QVERIFY((*matrix)(0, 0) > 0.9);
        }
        QVERIFY(!colour::toBt709("no such primaries"));
        QCOMPARE(colour::primariesTitle("p3-d65"), std::string("P3-D65"));
    }
    /// Colours of P3-D65 (SMPTE EG 432-1), both BT.601 and BT.2020 against Little CMS, which makes
    /// its matrices from the same published primaries.
    void primariesAgreeWithLittleCms_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QList<double>>("xy");
        QTest::newRow("P3") << "p3-d65" << QList<double>{.680, .320, .265, .690, .150, .060};
        QTest::newRow("525 lines") << "bt601" << QList<double>{.630, .340, .310, .595, .155, .070};
        QTest::newRow("625 lines")
            << "bt601-625" << QList<double>{.640, .330, .290, .600, .150, .060};
        QTest::newRow("wide") << "bt2020" << QList<double>{.708, .292, .170, .797, .131, .046};
    }
    void primariesAgreeWithLittleCms() {
        QFETCH(QString, name);
        QFETCH(QList<double>, xy);
        const cmsCIExyY white{0.3127, 0.3290, 1.0};
        cmsToneCurve* line = cmsBuildGamma(nullptr, 1.0);
        std::array<cmsToneCurve*, 3> lines{line, line, line};
        const cmsCIExyYTRIPLE theirs{{xy[0], xy[1], 1.0}, {xy[2], xy[3], 1.0}, {xy[4], xy[5], 1.0}};
        const cmsCIExyYTRIPLE bt709{{.640, .330, 1.0}, {.300, .600, 1.0}, {.150, .060, 1.0}};
        cmsHPROFILE from = cmsCreateRGBProfile(&white, &theirs, lines.data());
        cmsHPROFILE to = cmsCreateRGBProfile(&white, &bt709, lines.data());
        cmsHTRANSFORM transform = cmsCreateTransform(from,
                                                     TYPE_RGB_DBL,
                                                     to,
                                                     TYPE_RGB_DBL,
                                                     INTENT_RELATIVE_COLORIMETRIC,
                                                     cmsFLAGS_NOOPTIMIZE);
        const auto matrix = colour::toBt709(name.toStdString());
        QVERIFY(matrix && transform != nullptr);
        sim::Random random(11);
        double largest = 0.0;
        for (int i = 0; i < 500; ++i) {
            const colour::Vector3 in(
                random.between(0.2, 0.9), random.between(0.2, 0.9), random.between(0.2, 0.9));
            std::array<double, 3> out{};
            cmsDoTransform(transform, in.data(), out.data(), 1);
            largest = std::max(
                largest, ((*matrix) * in - colour::Vector3(out.data())).cwiseAbs().maxCoeff());
        }
        cmsDeleteTransform(transform);
        cmsCloseProfile(from);
        cmsCloseProfile(to);
        cmsFreeToneCurve(line);
        // Profiles keep their matrices to 16 bits after the point.
        QVERIFY2(largest < 5e-4, qPrintable(QString::number(largest)));
    }
    void labAgreesWithLittleCms() {
        sim::Random random(7);
        const cmsCIExyY d50{colour::kD50.x, colour::kD50.y, 1.0};
        cmsCIEXYZ white;
        cmsxyY2XYZ(&white, &d50);
        for (int i = 0; i < 2000; ++i) {
            const colour::Vector3 xyz(
                random.between(0.0, 0.96), random.between(0.0, 1.0), random.between(0.0, 0.82));
            const cmsCIEXYZ theirXyz{xyz.x(), xyz.y(), xyz.z()};
            cmsCIELab theirs;
            cmsXYZ2Lab(&white, &theirs, &theirXyz);
            const colour::Lab ours = colour::labOf(xyz, colour::kD50);
            QVERIFY(std::abs(ours.lightness - theirs.L) < 1e-6 &&
                    std::abs(ours.a - theirs.a) < 1e-6 && std::abs(ours.b - theirs.b) < 1e-6);
        }
    }
    void deltaEAgreesWithLittleCms() {
        sim::Random random(8);
        for (int i = 0; i < 3000; ++i) {
            const colour::Lab a{
                random.between(0, 100), random.between(-90, 90), random.between(-90, 90)};
            const colour::Lab b{
                random.between(0, 100), random.between(-90, 90), random.between(-90, 90)};
            const cmsCIELab theirA{a.lightness, a.a, a.b};
            const cmsCIELab theirB{b.lightness, b.a, b.b};
            QVERIFY(std::abs(colour::deltaE2000(a, b) -
                             cmsCIE2000DeltaE(&theirA, &theirB, 1, 1, 1)) < 1e-6);
        }
    }
    void bradfordAgreesWithLittleCms() {
        sim::Random random(9);
        for (int i = 0; i < 500; ++i) {
            const colour::Chromaticity from{random.between(0.27, 0.45), random.between(0.28, 0.41)};
            const colour::Chromaticity to{random.between(0.27, 0.45), random.between(0.28, 0.41)};
            const auto xyzOf = [](colour::Chromaticity c) {
                const cmsCIExyY xyY{c.x, c.y, 1.0};
                cmsCIEXYZ xyz;
                cmsxyY2XYZ(&xyz, &xyY);
                return xyz;
            };
            const cmsCIEXYZ fromXyz = xyzOf(from);
            const cmsCIEXYZ toXyz = xyzOf(to);
            const colour::Vector3 sample(random.unit(), random.unit(), random.unit());
            const cmsCIEXYZ theirSample{sample.x(), sample.y(), sample.z()};
            cmsCIEXYZ theirs;
            QVERIFY(cmsAdaptToIlluminant(&theirs, &fromXyz, &toXyz, &theirSample) != 0);
            const colour::Vector3 ours = colour::bradford(from, to) * sample;
            // The library keeps its cone matrix to four decimals, as the standard prints it.
            QVERIFY(std::abs(ours.x() - theirs.X) < 2e-4 && std::abs(ours.y() - theirs.Y) < 2e-4 &&
                    std::abs(ours.z() - theirs.Z) < 2e-4);
        }
    }
    void daylightAgreesWithLittleCms() {
        for (double kelvin = 4000; kelvin <= 25000; kelvin += 250) {
            cmsCIExyY theirs;
            QVERIFY(cmsWhitePointFromTemp(&theirs, kelvin) != 0);
            const auto ours = colour::daylight(base::Kelvin(kelvin));
            QVERIFY(std::abs(ours->x - theirs.x) < 1e-6 && std::abs(ours->y - theirs.y) < 1e-6);
        }
    }
    /// OpenColorIO's Rec. 709 and sRGB moncurves and its camera-log transform with the parameters
    /// of S-2016-001.
    void curvesAgreeWithOpenColorIo() {
        const auto config = OCIO::Config::CreateRaw();
        const auto applied = [&](const OCIO::ConstTransformRcPtr& transform, double value) {
            const auto cpu = config->getProcessor(transform)->getDefaultCPUProcessor();
            std::array<float, 3> pixel{
                static_cast<float>(value), static_cast<float>(value), static_cast<float>(value)};
            cpu->applyRGB(pixel.data());
            return static_cast<double>(pixel[1]);
        };
        const auto srgb = OCIO::ExponentWithLinearTransform::Create();
        const double gamma[4] = {2.4, 2.4, 2.4, 1.0};
        const double offset[4] = {0.055, 0.055, 0.055, 0.0};
        srgb->setGamma(gamma);
        srgb->setOffset(offset);
        const auto rec709 = OCIO::ExponentWithLinearTransform::Create();
        const double gamma709[4] = {1.0 / 0.45, 1.0 / 0.45, 1.0 / 0.45, 1.0};
        const double offset709[4] = {0.099, 0.099, 0.099, 0.0};
        rec709->setGamma(gamma709);
        rec709->setOffset(offset709);
        for (double signal = 0.0; signal <= 1.0; signal += 0.02) {
            QVERIFY(std::abs(applied(srgb, signal) -
                             colour::curveOf(colour::CurveKind::Srgb).decode(signal)) < 3e-5);
            QVERIFY(std::abs(applied(rec709, signal) -
                             colour::curveOf(colour::CurveKind::Bt709).decode(signal)) < 3e-4);
        }
        const double base[3] = {0.0078125, 0.0078125, 0.0078125};
        const auto camera = OCIO::LogCameraTransform::Create(base);
        const double slope[3] = {1.0 / 17.52, 1.0 / 17.52, 1.0 / 17.52};
        const double shift[3] = {9.72 / 17.52, 9.72 / 17.52, 9.72 / 17.52};
        camera->setLogSideSlopeValue(slope);
        camera->setLogSideOffsetValue(shift);
        for (double linear = 0.0; linear <= 8.0; linear = linear * 1.4 + 0.002) {
            QVERIFY(std::abs(applied(camera, linear) -
                             colour::curveOf(colour::CurveKind::Log).encode(linear)) < 3e-5);
        }
    }
};

RIG_TEST(TestColourReference);
#include "test_colour_reference.moc"
