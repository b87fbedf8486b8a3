// SPDX-License-Identifier: GPL-3.0-or-later
// Turns carried out to the letter on cameras that share no code with the product, and looked at
// without noise: what is left after each round.
#include <QtTest>

#include "optics/exposure.h"
#include "support/loop_camera.h"
#include "support/samples.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::LoopCamera;
using support::OwnRandom;

namespace {

double quantile(std::vector<double> values, double share) {
    std::sort(values.begin(), values.end());
    return values.empty()
               ? 0.0
               : values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

/// What is left of the truth after a round, and before the first.
struct Left {
    std::vector<double> stops, mired, duv, deltaE;  ///< beyond half a true step
    std::vector<double> turned;                     ///< mired that were turned
    int exposureMet = 0, count = 0;
};

/// A rig of two bodies; the first is the reference and is never turned.
struct Loop {
    std::array<LoopCamera, 2> bodies;
    rig::Rig rig;

    /// Curves of one kind of recording: an unlike log or HLG whose curve nobody declared is not
    /// turned in exposure.
    [[nodiscard]] bool isExposureTurned() const {
        using Curve = support::OwnCamera::Curve;
        const auto isFinished = [](Curve c) {
            return c == Curve::Bt709 || c == Curve::Gamma22 || c == Curve::Look ||
                   c == Curve::SoftLook;
        };
        return isFinished(bodies[0].body.curve) && isFinished(bodies[1].body.curve);
    }

    Loop(const LoopCamera& reference, const LoopCamera& camera) : bodies{reference, camera} {
        for (const char* id : {"a", "b"}) {
            rig::Camera made;
            made.id = id;
            made.sheet = support::loopSheet();
            made.settings.whiteBalanceKelvin = 5600.0;
            rig.cameras.push_back(made);
        }
        rig::renumber(rig);
        // The reference stands as a person would have set it.
        rig.cameras[0].settings.whiteBalanceKelvin = rig::nearestAllowed(
            rig.cameras[0].sheet.kelvins, 1e6 / (1e6 / 5600.0 + bodies[0].lightMired));
    }
    [[nodiscard]] rig::Take shoot(OwnRandom& random) const {
        rig::Take take;
        for (std::size_t i = 0; i < 2; ++i) {
            rig::Shot shot;
            shot.cameraId = std::as_const(rig).cameras[i].id;
            shot.settings = std::as_const(rig).cameras[i].settings;
            shot.reading = support::ownReading(bodies[i].at(shot.settings), random, 4);
            take.shots.push_back(shot);
        }
        return take;
    }
    /// Carries out what the program says.
    void turn(const match::MatchReport& report) {
        for (const rig::Turn& turn : report.turns())
            rig.cameras[1].settings = rig::applied(rig.cameras[1].settings, turn);
    }
    [[nodiscard]] support::OwnDifference truth() const {
        return support::ownDifference(bodies[1].at(std::as_const(rig).cameras[1].settings),
                                      bodies[0].at(std::as_const(rig).cameras[0].settings));
    }
    /// Half a true step of white balance where it stands, mired.
    [[nodiscard]] double halfKelvinStep() const {
        const double kelvin = std::as_const(rig).cameras[1].settings.whiteBalanceKelvin;
        return 0.5 * bodies[1].response * 1e6 * (1.0 / (kelvin - 50.0) - 1.0 / (kelvin + 50.0));
    }
};

void keep(const Loop& loop, double turnedMired, Left& left) {
    const auto d = loop.truth();
    const auto beyond = [](double value, double half) {
        return std::max(std::abs(value) - half, 0.0);
    };
    left.mired.push_back(beyond(d.mired, loop.halfKelvinStep()));
    left.duv.push_back(beyond(d.duv, 0.5 * std::abs(loop.bodies[1].tintPerStep)));
    left.deltaE.push_back(d.deltaE);
    left.turned.push_back(std::abs(turnedMired));
    if (!loop.isExposureTurned()) return;
    left.stops.push_back(beyond(d.exposureStops, 1.0 / 6.0));
    ++left.count;
    if (left.stops.back() <= 0.03 + 0.12 * std::abs(turnedMired) / 100.0) ++left.exposureMet;
}

void tell(const char* what, const Left& left) {
    qInfo(
        "%s: beyond half a step, median / 95th / worst: white balance %.1f / %.1f / %.1f mired, "
        "tint %.4f / %.4f / %.4f Duv, exposure %.3f / %.3f / %.3f stop (met %d of %d), dE %.1f / "
        "%.1f",
        what,
        quantile(left.mired, 0.5),
        quantile(left.mired, 0.95),
        quantile(left.mired, 1.0),
        quantile(left.duv, 0.5),
        quantile(left.duv, 0.95),
        quantile(left.duv, 1.0),
        quantile(left.stops, 0.5),
        quantile(left.stops, 0.95),
        quantile(left.stops, 1.0),
        left.exposureMet,
        left.count,
        quantile(left.deltaE, 0.5),
        quantile(left.deltaE, 0.95));
}

/// Rounds of `count` pairs; gives what is left before, after the first and after the second.
std::array<Left, 3> run(unsigned seed, int count, double spread) {
    std::array<Left, 3> left;
    OwnRandom random{std::mt19937(seed)};
    for (int i = 0; i < count; ++i) {
        const LoopCamera reference = support::randomLoopCamera(random, spread);
        const LoopCamera camera = support::randomLoopCamera(random, spread);
        Loop loop(reference, camera);
        keep(loop, 0.0, left[0]);
        for (std::size_t round = 1; round < 3; ++round) {
            const auto report = match::matchTake(loop.rig, loop.shoot(random));
            const double kelvin = std::as_const(loop.rig).cameras[1].settings.whiteBalanceKelvin;
            loop.turn(report);
            const double now = std::as_const(loop.rig).cameras[1].settings.whiteBalanceKelvin;
            keep(loop, 1e6 / now - 1e6 / kelvin, left[round]);
        }
    }
    return left;
}

}  // namespace

class TestClosedLoop : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Controls within 10 % of what the sheet says: after the first round.
    void turnsLandAtTheFirstTry() {
        const auto left = run(4101, support::sampleSize(240, 24), 0.1);
        tell("before", left[0]);
        tell("after round 1", left[1]);
        tell("after round 2", left[2]);
        QVERIFY(quantile(left[1].mired, 0.5) <= 3.0);
        QVERIFY(quantile(left[1].mired, 0.95) <= 6.0);
        QVERIFY(left[1].exposureMet >= 0.95 * left[1].count);
    }
};

RIG_TEST(TestClosedLoop);
#include "test_closed_loop.moc"
