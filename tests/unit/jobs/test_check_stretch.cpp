// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include <cmath>
#include <numbers>

#include "jobs/check_sound.h"
#include "sound/wave_file.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

constexpr int kRate = 48000;
constexpr double kSeconds = 40.0;
constexpr double kDriftPpm = 200.0;

/// A sound that never repeats: tones whose pitch wanders, at a time of the reference.
float soundAt(double seconds) {
    constexpr double kTurn = 2.0 * std::numbers::pi;
    return static_cast<float>(
        0.2 * std::sin(kTurn * (300.0 * seconds + 40.0 * std::sin(1.3 * seconds))) +
        0.2 * std::sin(kTurn * (710.0 * seconds + 90.0 * std::sin(0.7 * seconds))));
}

std::string written(const QTemporaryDir& folder, const QString& name, double longer) {
    std::vector<float> samples(static_cast<std::size_t>(kSeconds * kRate));
    for (std::size_t i = 0; i < samples.size(); ++i)
        samples[i] = soundAt(static_cast<double>(i) / kRate / longer);
    const std::string file = folder.filePath(name).toStdString();
    if (!sound::writeWave(file, {samples}, kRate)) return {};
    return file;
}

}  // namespace

class TestCheckStretch : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void anOffsetMovesWithTheDrift() {
        jobs::SyncResult result;
        QVERIFY(!result.offsetAt(10.0));
        result.sound.emplace();
        result.sound->offsetSeconds = 0.5;
        result.sound->atSeconds = 100.0;
        QCOMPARE(*result.offsetAt(3700.0), 0.5);
        result.sound->driftPpm = 50.0;
        QCOMPARE(*result.offsetAt(100.0), 0.5);
        QCOMPARE(*result.offsetAt(3700.0), 0.5 + 3600.0 * 50e-6);
    }

    /// Thirty seconds after the moment the offset holds for, a clock that is 200 ppm off is 6 ms
    /// away: the two sounds of the check still lie on each other.
    void bothSoundsMeetFarFromWhereTheOffsetHolds() {
        const QTemporaryDir folder;
        const std::string reference = written(folder, "reference.wav", 1.0);
        jobs::SyncResult result;
        result.file = written(folder, "other.wav", 1.0 + 1e-6 * kDriftPpm);
        QVERIFY(!reference.empty() && !result.file.empty());
        result.durationSeconds = kSeconds;
        result.sound.emplace();
        result.sound->driftPpm = kDriftPpm;
        const auto both = jobs::checkStretch(reference, result, 30.0, 1.0);
        QVERIFY(both);
        QVERIFY(both->left.size() > jobs::kCheckRate / 2);
        double product = 0.0, left = 0.0, right = 0.0;
        for (std::size_t i = 0; i < both->left.size(); ++i) {
            const auto a = static_cast<double>(both->left[i]);
            const auto b = static_cast<double>(both->right[i]);
            product += a * b;
            left += a * a;
            right += b * b;
        }
        const double likeness = product / std::sqrt(left * right);
        QVERIFY2(likeness > 0.95, qPrintable(QString::number(likeness)));
    }
};

RIG_TEST(TestCheckStretch);
#include "test_check_stretch.moc"
