// SPDX-License-Identifier: GPL-3.0-or-later
// Films drawn here, with a shutter that is open for a known share of the way between two pictures,
// and lines that show known moments.
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

#include "support/qt_test.h"
#include "support/test_list.h"
#include "timing/frame_watch.h"
#include "timing/picture_offset.h"
#include "timing/small_luma.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr int kFilmWidth = 640, kFilmHeight = 360;
constexpr double kFilmRate = 50.0;

/// 0..1, the same for the same place: what a lattice of random values gives in between.
double latticeAt(std::uint32_t seed, double x, double y) {
    const auto value = [&](int i, int j) {
        std::uint32_t h = seed + 374761393U * static_cast<std::uint32_t>(i) +
                          668265263U * static_cast<std::uint32_t>(j);
        h = (h ^ (h >> 13U)) * 1274126177U;
        return static_cast<double>((h ^ (h >> 16U)) & 0xFFFFU) / 65535.0;
    };
    const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
    const double u = x - i, v = y - j;
    return (value(i, j) * (1 - u) + value(i + 1, j) * u) * (1 - v) +
           (value(i, j + 1) * (1 - u) + value(i + 1, j + 1) * u) * v;
}

/// A patterned ball before a patterned wall; `where` is how far it has gone, px.
double sceneAt(double where, double slope, int x, int y) {
    const double cx = 110.0 + where, cy = 180.0 + slope * where;
    const double dx = x - cx, dy = y - cy;
    if (dx * dx + dy * dy < 80.0 * 80.0)
        return 40.0 + 170.0 * latticeAt(7, dx / 6.0 + 100.0, dy / 6.0 + 100.0);
    return 80.0 + 60.0 * latticeAt(3, x / 9.0, y / 9.0);
}

struct Film {
    double stepPx = 10.0;        ///< between two pictures that differ
    double slope = 0.2;          ///< of its way
    double openShare = 0.5;      ///< of that step, over which the shutter is open
    int shown = 2;               ///< frames that show one picture
    bool isInterlaced = false;   ///< odd lines half a step later
    double unevenSeconds = 0.0;  ///< by which every repeat's stamp is off
    int frames = 40;
};

image::CodedFrame filmFrame(const Film& film, int index) {
    constexpr int kMoments = 8;
    const int picture = index / film.shown;
    // There and back again.
    const int legs = static_cast<int>(380.0 / film.stepPx);
    const int at = picture % (2 * legs);
    const double sign = at < legs ? 1.0 : -1.0;
    const double begin = film.stepPx * (at < legs ? at : 2 * legs - at);
    auto pixels = std::make_shared<std::vector<std::uint8_t>>(static_cast<std::size_t>(kFilmWidth) *
                                                              kFilmHeight);
    for (int y = 0; y < kFilmHeight; ++y) {
        const double later = film.isInterlaced && y % 2 == 1 ? 0.5 * film.stepPx : 0.0;
        for (int x = 0; x < kFilmWidth; ++x) {
            // Only where the ball can be is it worth more than one moment.
            double sum = 0.0;
            const bool mayMove = std::abs(x - 110.0 - begin) < 130.0;
            const int moments = mayMove && film.openShare > 0.0 ? kMoments : 1;
            for (int m = 0; m < moments; ++m) {
                const double part = film.openShare * (m + 0.5) / moments;
                sum += sceneAt(begin + sign * (later + part * film.stepPx), film.slope, x, y);
            }
            const double grain =
                3.0 *
                (latticeAt(1000U + static_cast<std::uint32_t>(index), x * 1.7, y * 1.7) - 0.5);
            (*pixels)[static_cast<std::size_t>(y) * kFilmWidth + static_cast<std::size_t>(x)] =
                static_cast<std::uint8_t>(std::lround(sum / moments + grain));
        }
    }
    image::CodedFrame frame;
    frame.width = kFilmWidth;
    frame.height = kFilmHeight;
    frame.planeCount = 1;
    frame.planes[0] = {
        reinterpret_cast<const std::byte*>(pixels->data()), kFilmWidth, kFilmWidth, kFilmHeight};
    frame.seconds = index / kFilmRate + (index % film.shown == 1 ? film.unevenSeconds : 0.0);
    frame.owner = pixels;
    return frame;
}

timing::FrameReport filmReport(const Film& film) {
    timing::FrameWatch watch;
    for (int i = 0; i < film.frames; ++i) watch.take(filmFrame(film, i));
    return watch.report();
}

}  // namespace

class TestFrameWatch : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Every second frame repeats: a shutter as long as two frames, or a chain that drops one.
    void theCauseOfRepeatsIsTold_data() {
        QTest::addColumn<double>("step");
        QTest::addColumn<double>("slope");
        QTest::addColumn<double>("open");
        QTest::addColumn<QString>("cause");
        QTest::newRow("open throughout") << 10.0 << 0.2 << 1.0 << "shutter";
        QTest::newRow("nine tenths, faster") << 14.0 << 0.0 << 0.9 << "shutter";
        QTest::newRow("half") << 12.0 << 0.2 << 0.5 << "chain";
        QTest::newRow("a quarter, down as well") << 12.0 << 0.3 << 0.25 << "chain";
        QTest::newRow("short") << 10.0 << 0.0 << 0.05 << "chain";
    }
    void theCauseOfRepeatsIsTold() {
        QFETCH(double, step);
        QFETCH(double, slope);
        QFETCH(double, open);
        QFETCH(QString, cause);
        Film film;
        film.stepPx = step;
        film.slope = slope;
        film.openShare = open;
        const auto report = filmReport(film);
        QCOMPARE(QString::fromStdString(words::inEnglish(report.pattern)),
                 QString("every second frame"));
        QVERIFY(report.repeatBlurShare.has_value());
        QVERIFY2(QString::fromStdString(report.repeatCause) == cause,
                 qPrintable(QString::number(*report.repeatBlurShare)));
        // Coarse: it tells all of the step from half of it.
        if (open >= 0.5) QVERIFY(std::abs(*report.repeatBlurShare - open) < 0.25);
    }
    void slowThingsTellNoCause() {
        Film film;
        film.stepPx = 2.5;
        const auto report = filmReport(film);
        QVERIFY(!report.repeated.empty());
        QVERIFY(report.repeatCause.empty());
        QVERIFY(!report.repeatBlurShare);
    }
    void unevenStampsSayThatTheFileDoes() {
        Film film;
        film.openShare = 1.0;
        film.unevenSeconds = 0.006;
        const auto report = filmReport(film);
        QVERIFY(!report.repeated.empty());
        QCOMPARE(report.repeatCause, std::string("file"));
    }
    /// Two moments in one frame, line by line; a frame of one moment has none of it.
    void linesOfTwoMomentsAreSeen() {
        Film film;
        film.shown = 1;
        film.isInterlaced = true;
        QVERIFY(filmReport(film).combedShare > 0.9);
        film.stepPx = 5.0;
        QVERIFY(filmReport(film).combedShare > 0.9);
        film.isInterlaced = false;
        QCOMPARE(filmReport(film).combedShare, 0.0);
        QVERIFY(filmReport(film).repeated.empty());
    }
    /// Against the picture library's area filter: whole multiples, by an own mean, and others.
    void picturesAreShrunkAsTheLibraryDoes() {
        for (const int width : {1280, 1920, 2560, 3840, 1000}) {
            const int height = width * 9 / 16 / 12 * 12;
            auto codes = std::make_shared<std::vector<std::uint8_t>>(
                static_cast<std::size_t>(width) * static_cast<std::size_t>(height));
            std::mt19937 random(static_cast<unsigned>(width));
            for (std::uint8_t& code : *codes) code = static_cast<std::uint8_t>(random() >> 24U);
            image::CodedFrame frame;
            frame.width = width;
            frame.height = height;
            frame.planeCount = 1;
            frame.planes[0] = {
                reinterpret_cast<const std::byte*>(codes->data()), width, width, height};
            frame.owner = codes;
            const cv::Mat ours = timing::smallLuma(frame, 640);
            const cv::Mat whole(height, width, CV_8U, codes->data());
            cv::Mat theirs;
            cv::resize(whole, theirs, ours.size(), 0.0, 0.0, cv::INTER_AREA);
            QCOMPARE(ours.cols, 640);
            QVERIFY2(cv::norm(ours, theirs, cv::NORM_INF) <= 1.0,
                     qPrintable(QString::number(width)));
        }
    }
    /// An offset that stands, and one that grows by three frames in a minute.
    void picturesWanderOrNot() {
        const auto curveOf = [](double offset, double drift) {
            timing::PictureCurve curve;
            curve.frameSeconds = 0.04;
            curve.movingFrames = 1000;
            for (int i = 0; i < 1600; ++i) {
                const double t = 0.04 * i, event = (t - offset) / (1.0 + drift);
                curve.seconds.push_back(t);
                curve.motion.push_back(4.0 + 30.0 * latticeAt(11, event / 0.3, 0.5));
                curve.brightening.push_back(0.0);
            }
            return curve;
        };
        const auto reference = curveOf(0.0, 0.0);
        const auto steady = timing::findPictureOffset(reference, curveOf(0.24, 0.0));
        QVERIFY2(steady.has_value(), steady ? "" : words::inEnglish(steady.error()).c_str());
        QVERIFY(steady->wanderSeconds.has_value());
        QVERIFY(std::abs(steady->offsetSeconds - 0.24) < 0.02);
        QVERIFY(*steady->wanderSeconds < 0.04);
        const auto wandering = timing::findPictureOffset(reference, curveOf(0.2, 0.002));
        QVERIFY(wandering.has_value() && wandering->wanderSeconds.has_value());
        QVERIFY2(*wandering->wanderSeconds > 0.06 && *wandering->wanderSeconds < 0.13,
                 qPrintable(QString::number(*wandering->wanderSeconds)));
        // Twenty seconds hold too few parts to tell.
        timing::PictureCurve brief = reference;
        brief.seconds.resize(500);
        brief.motion.resize(500);
        brief.brightening.resize(500);
        const auto unknown = timing::findPictureOffset(brief, curveOf(0.24, 0.0));
        QVERIFY(unknown.has_value() && !unknown->wanderSeconds);
    }
};

RIG_TEST(TestFrameWatch);
#include "test_frame_watch.moc"
