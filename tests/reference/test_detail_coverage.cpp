// SPDX-License-Identifier: GPL-3.0-or-later
// Noise, edges, the chart's tilt and veils: stated uncertainties against closed forms, on charts
// drawn, turned and tilted without the product's own camera. An uncertainty is one standard
// deviation; an error within twice of it counts as covered.
#include "colour/transfer.h"
#include "match/details.h"
#include "measure/clip_scan.h"
#include "measure/span_reading.h"
#include "support/coverage.h"
#include "support/own_card.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::CoverageRow;
using support::OwnCamera;
using support::OwnCard;
using support::OwnRandom;

namespace {

constexpr unsigned kDetailSeed = 41129;
constexpr double kFramesPerSecond = 4.0;  // a look at every second frame

OwnCard randomCard(OwnRandom& random) {
    OwnCard card;
    card.patchPx = random.between(34.0, 52.0);
    card.rollDegrees = random.normal(8.0);
    card.tiltDegrees = random.between(0.0, 42.0);
    card.towardDegrees = random.between(0.0, 180.0);
    card.away = random.between(3.0, 10.0);
    card.sigmaPx = random.between(0.6, 1.6);
    card.sharpening = random.whole(0, 1) == 0 ? 0.0 : random.between(0.1, 0.8);
    card.maskPx = random.between(0.8, 1.6);
    return card;
}

/// Standard deviation of green over many frames of one patch's level, decoded by ITU-R BT.709-6's
/// own matrix from codes that are rounded as a recording's are.
double recordedNoise(const support::own::Triple& level,
                     const OwnCamera& camera,
                     OwnRandom& random) {
    const support::own::Size size{64, 64};
    std::array<std::vector<double>, 3> flat;
    for (std::size_t c = 0; c < 3; ++c) flat[c].assign(64 * 64, level[c]);
    const double unit = std::exp2(camera.bitDepth - 8);
    const auto codeAt = [](const image::CodedFrame& frame, std::size_t plane, std::size_t i) {
        const std::byte* data = frame.planes[plane].data;
        return frame.bitDepth > 8 ? double(reinterpret_cast<const std::uint16_t*>(data)[i])
                                  : double(reinterpret_cast<const std::uint8_t*>(data)[i]);
    };
    double sum = 0.0, squares = 0.0;
    constexpr int kFrames = 24;
    double n = 0.0;
    for (int k = 0; k < kFrames; ++k) {
        const auto frame = support::ownFrame(flat, camera, random.generator, size);
        for (std::size_t i = 0; i < 64 * 64; ++i) {
            const double y = (codeAt(frame, 0, i) - 16.0 * unit) / (219.0 * unit);
            const double cb = (codeAt(frame, 1, i) - 128.0 * unit) / (224.0 * unit);
            const double cr = (codeAt(frame, 2, i) - 128.0 * unit) / (224.0 * unit);
            const double r = y + 1.5748 * cr, b = y + 1.8556 * cb;
            const double green = (y - 0.2126 * r - 0.0722 * b) / 0.7152;
            sum += green;
            squares += green * green;
            n += 1.0;
        }
    }
    return std::sqrt(std::max(squares / n - (sum / n) * (sum / n), 0.0));
}

}  // namespace

class TestDetailCoverage : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void drawnChartsAreReadWithinTheirUncertainty() {
        OwnRandom random = support::coverageRandom(kDetailSeed);
        CoverageRow width{"edge width, px"}, overshoot{"overshoot, %"}, tilt{"chart tilt, degrees"},
            greyNoise{"noise on grey, %"}, blackNoise{"noise on black, %"};
        int missed = 0;
        const int cases = support::isFullSample() ? 240 : 12;
        for (int i = 0; i < cases; ++i) {
            const OwnCard card = randomCard(random);
            OwnCamera camera = support::randomOwnCamera(random);
            camera.chromaShift = 0;
            camera.stops = random.between(-0.8, -0.2);  // light greys below clipping
            const auto picture = support::ownPicture(card, camera);
            measure::ClipScan scan(kFramesPerSecond, chart::classicChart());
            const int frames = random.whole(5, 15);
            for (int k = 0; k < frames; ++k) {
                auto frame = support::ownFrame(
                    picture, camera, random.generator, {OwnCard::kWidth, OwnCard::kHeight});
                frame.seconds = k / kFramesPerSecond;
                scan.take(frame);
            }
            const auto span = scan.finish();
            if (!span) {
                ++missed;
                continue;
            }
            rig::Reading reading;
            reading.bitDepth = camera.bitDepth;
            measure::putSpan(reading, *span, chart::classicChart());
            if (reading.sharpness) {
                width.take(
                    match::Measured{reading.sharpness->widthPx, reading.sharpness->widthErrorPx},
                    card.widthPx());
                overshoot.take(match::Measured{reading.sharpness->overshootPercent,
                                               reading.sharpness->overshootErrorPercent},
                               card.overshootPercent());
            }
            if (const auto found = rig::chartTilt(reading))
                tilt.take(match::Measured{found->degrees, found->errorDegrees}, card.tiltDegrees);
            if (!reading.noise) continue;
            const auto level = [&](std::size_t patch) {
                return support::own::signalOf(camera, support::own::lightOf(patch));
            };
            const auto keep = [&](CoverageRow& row, double value, double error, std::size_t patch) {
                row.take(match::Measured{100.0 * value, 100.0 * error},
                         100.0 * recordedNoise(level(patch), camera, random));
            };
            keep(greyNoise, reading.noise->grey[1], reading.noise->greyError[1], chart::kNeutral5);
            keep(blackNoise, reading.noise->black[1], reading.noise->blackError[1], 23);
        }
        qInfo("%d of %d charts not found", missed, cases);
        for (const CoverageRow* row : {&width, &overshoot, &tilt, &greyNoise, &blackNoise})
            row->tell();
        QVERIFY(missed <= cases / 20);
        for (const CoverageRow* row : {&width, &overshoot, &tilt, &greyNoise, &blackNoise})
            QVERIFY2(row->isCovered(), row->name);
    }

    /// Glare as sources 5.9 define it: the black patch once neutral 5 reads its nominal value.
    void veilsAreReadWithinTheirUncertainty() {
        OwnRandom random = support::coverageRandom(kDetailSeed + 1);
        CoverageRow veil{"veil, % of white"};
        for (int i = 0; i < support::sampleSize(240); ++i) {
            OwnCamera camera = support::randomOwnCamera(random);
            const bool isHlg = i % 2 == 1;
            camera.curve = isHlg ? OwnCamera::Curve::Hlg : OwnCamera::Curve::Bt709;
            camera.pedestal = 0.0;  // what lifts the black is told from a veil by nothing
            camera.veil = random.whole(0, 3) == 0 ? 0.0 : random.between(0.0, 0.03);
            const rig::Reading reading = support::ownReading(camera, random, random.whole(3, 10));
            const auto declared =
                colour::curveOf(isHlg ? colour::CurveKind::Hlg : colour::CurveKind::Bt709);
            const auto found = match::veil(reading, declared);
            if (!found) continue;
            const double black = support::own::lightOf(23)[1];
            const double grey = support::own::lightOf(chart::kNeutral5)[1];
            const double scale = std::exp2(camera.stops);
            const double truth =
                (black * scale + camera.veil) / (grey * scale + camera.veil) * grey - black;
            veil.take(match::Measured{100.0 * found->value, 100.0 * found->uncertainty},
                      100.0 * truth);
        }
        veil.tell();
        QVERIFY(veil.isCovered());
    }
};

RIG_TEST(TestDetailCoverage);
#include "test_detail_coverage.moc"
