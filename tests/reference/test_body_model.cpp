// SPDX-License-Identifier: GPL-3.0-or-later
// The model of a body against cameras of the tests' own, whose numbers are known.
#include <Eigen/LU>

#include "match/body_model.h"
#include "match/side_view.h"
#include "support/own_take.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::OwnCamera;
using support::OwnRandom;

namespace {

/// Errors of one number and how often they lie within twice what is stated.
struct Told {
    std::vector<double> errors{};
    int covered = 0;

    void take(double value, double truth, double uncertainty) {
        errors.push_back(std::abs(value - truth));
        if (errors.back() <= 2.0 * uncertainty) ++covered;
    }
    [[nodiscard]] double percent() const {
        return 100.0 * covered / static_cast<double>(errors.size());
    }
    [[nodiscard]] double median() {
        std::sort(errors.begin(), errors.end());
        return errors[errors.size() / 2];
    }
};

/// What the model's N and g are of a camera whose gains act after its sensor: both together turn
/// light x into K x, and N diag(g) = K with rows of N that sum to 1.
struct TrueBody {
    Eigen::Matrix3d mixing;
    Eigen::Vector3d gains;

    explicit TrueBody(const OwnCamera& camera) {
        Eigen::Matrix3d all;
        for (int row = 0; row < 3; ++row)
            for (int column = 0; column < 3; ++column)
                all(row, column) = camera.gains[static_cast<std::size_t>(row)] *
                                   camera.matrix[static_cast<std::size_t>(3 * row + column)];
        const Eigen::Vector3d light = all.inverse() * Eigen::Vector3d::Ones();
        mixing = all * light.asDiagonal();
        gains = light.cwiseInverse() * light[1];
    }
};

/// The view of a camera whose curve is declared as BT.709.
match::SideView declaredView(const rig::Reading& reading) {
    match::Side side;
    side.reading = &reading;
    side.declared = colour::curveOf(colour::CurveKind::Bt709);
    return match::viewOf(side);
}

constexpr std::size_t kBlack = 23;

}  // namespace

class TestBodyModel : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Saturation and hue after the curve, gains and mixing of cameras at random: as stated.
    void itsNumbersLieWithinTheirUncertainty() {
        OwnRandom random{std::mt19937(6401)};
        Told saturation, hue, gains, mixing;
        const int count = support::sampleSize(240);
        for (int i = 0; i < count; ++i) {
            OwnCamera camera = support::randomOwnCamera(random);
            // Added after the colour it would belong to nothing in the model.
            camera.pedestal = 0.0;
            const rig::Reading reading = support::ownReading(camera, random, 4);
            const auto fit = match::fitNeutrals(reading);
            if (!fit) continue;
            const match::BodyModel body(reading, *fit);
            QVERIFY(body.errors().has_value());
            const match::BodyModel::Errors& errors = *body.errors();
            const TrueBody truth(camera);
            saturation.take(body.saturation(), camera.saturation, errors.saturation);
            hue.take(body.hueDegrees(), camera.hueDegrees, errors.hueDegrees);
            for (const int c : {0, 2})
                gains.take(std::log2(body.gains()[c]),
                           std::log2(truth.gains[c]),
                           errors.gainStops[static_cast<std::size_t>(c)]);
            for (int row = 0; row < 3; ++row)
                for (int column = 0; column < 3; ++column)
                    mixing.take(body.mixing()(row, column),
                                truth.mixing(row, column),
                                errors.mixing(row, column));
        }
        for (auto& [name, told] : {std::pair<const char*, Told*>{"saturation", &saturation},
                                   {"hue", &hue},
                                   {"gains", &gains},
                                   {"mixing", &mixing}}) {
            qInfo("%s: %zu, median error %.4f, within twice what is stated %.0f %%",
                  name,
                  told->errors.size(),
                  told->median(),
                  told->percent());
            QVERIFY2(told->percent() >= (support::isFullSample() ? 90.0 : 85.0), name);
        }
        QVERIFY(static_cast<double>(saturation.errors.size()) >= 0.9 * count);
    }
    /// A veil is told only where the curve is known, and goes with the light: what the model says
    /// of black a stop up is what the same camera then records.
    void aVeilGoesWithTheLight_data() {
        QTest::addColumn<double>("veil");
        QTest::newRow("none") << 0.0;
        QTest::newRow("1 %") << 0.01;
        QTest::newRow("3 %") << 0.03;
    }
    void aVeilGoesWithTheLight() {
        QFETCH(double, veil);
        constexpr double kTurned = 1.0;
        OwnRandom random{std::mt19937(6402)};
        OwnCamera camera;
        camera.veil = veil;
        camera.saturation = 1.1;
        const rig::Reading reading = support::ownReading(camera, random, 6);
        const match::SideView view = declaredView(reading);
        QVERIFY(view.fit.has_value() && view.fit->veil.has_value());
        QVERIFY(std::abs(view.fit->veil->value - veil) <= 2.0 * view.fit->veil->uncertainty);
        const match::BodyModel body(reading, *view.fit);
        QVERIFY(veil == 0.0 ? body.veil() == 0.0 : std::abs(body.veil() - veil) < 0.002);
        match::Change dial;
        dial.exposureStops = kTurned;
        const auto predicted = body.predicted(reading, dial)[kBlack];
        OwnCamera turned = camera;
        turned.stops += kTurned;
        turned.veil *= std::exp2(kTurned);
        const auto shot = support::own::signalOf(turned, support::own::lightOf(kBlack));
        // Without the curve the foot of the curve is taken for the camera's own.
        const match::BodyModel blind(reading, *match::fitNeutrals(reading));
        QCOMPARE(blind.veil(), 0.0);
        const double off = std::abs(predicted[1] - shot[1]),
                     offBlind = std::abs(blind.predicted(reading, dial)[kBlack][1] - shot[1]);
        qInfo("black by %.4f of signal, without the curve by %.4f", off, offBlind);
        QVERIFY(off < 0.004);
        if (veil > 0.02) QVERIFY(offBlind > 2.0 * off);
        // Light of a patch, the veil undone, is the patch's own.
        const auto light = body.lightOf(reading.patches[kBlack].signal);
        QVERIFY(std::abs(light[1] - reading.patches[kBlack].nominalLinear[1]) < 0.003);
        const auto there = body.signalOfCoded(light);
        for (std::size_t c = 0; c < 3; ++c)
            QVERIFY(std::abs(there[c] - reading.patches[kBlack].signal[c]) < 1e-6);
    }
};

RIG_TEST(TestBodyModel);
#include "test_body_model.moc"
