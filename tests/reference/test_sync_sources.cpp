// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>
#include <cmath>
#include <nlohmann/json.hpp>
#include <random>

#include "support/cli_run.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/spoken_sound.h"
#include "support/test_list.h"
#include "support/wav_file.h"

using namespace rigmatch;

namespace {

constexpr int kSourceRate = 48000;

nlohmann::json laidSources(const QStringList& files) {
    return support::run(QStringList{"sync"} + files + QStringList{"--json"}).document();
}

bool sourceTells(const nlohmann::json& result, const char* code) {
    for (const auto& finding : result["findings"]) {
        if (finding["code"] == code) return true;
    }
    return false;
}

}  // namespace

/// Recordings as they come in from bad sources, through the command line.
class TestSyncSources : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Silence; one clap and nothing else; eight channels of which four are dead; broken data.
    void sourcesInABadWayAreTold() {
        const QTemporaryDir folder;
        const QString speech = folder.filePath("speech.wav");
        QVERIFY(
            support::writeWav(speech, {support::spokenSound(11, 12.0, kSourceRate)}, kSourceRate));
        const QString silent = folder.filePath("silent.wav");
        QVERIFY(support::writeWav(
            silent, {std::vector<float>(std::size_t(10.0 * kSourceRate), 0.0F)}, kSourceRate));
        const auto nothing = laidSources({speech, silent})["results"][0];
        QVERIFY(nothing["offsetMs"].is_null());
        QVERIFY(nothing["reason"].get<std::string>().find("hears nothing") != std::string::npos);

        const auto clapAt = [&](const char* name, double seconds, unsigned hands = 5) {
            std::mt19937 random(static_cast<unsigned>(10.0 * seconds));
            std::normal_distribution<float> normal(0.0F, 1.0F), clapped(0.0F, 1.0F);
            std::mt19937 same(hands);
            std::vector<float> samples;
            for (int i = 0; i < int(20.0 * kSourceRate); ++i) {
                const double since = double(i) / kSourceRate - seconds;
                float sample = 0.0003F * normal(random);
                if (since >= 0.0 && since < 0.02)
                    sample += 0.5F * clapped(same) * static_cast<float>(std::exp(-200.0 * since));
                samples.push_back(sample);
            }
            const QString file = folder.filePath(name);
            return support::writeWav(file, {samples}, kSourceRate) ? file : QString();
        };
        const auto clap =
            laidSources({clapAt("clap1.wav", 8.0), clapAt("clap2.wav", 5.5)})["results"][0];
        QVERIFY2(clap["offsetMs"].is_object(), clap.dump().c_str());
        QVERIFY(std::abs(clap["offsetMs"]["value"].get<double>() + 2500.0) < 1.0);
        // Two other claps: not guessed, but what it would be is told.
        const auto other =
            laidSources({clapAt("clap3.wav", 8.0), clapAt("clap4.wav", 5.5, 6)})["results"][0];
        QVERIFY(other["offsetMs"].is_null());
        const std::string reason = other["reason"];
        QVERIFY2(reason.find("if it is the same, the offset is −2500 ms") != std::string::npos,
                 reason.c_str());

        const QString eight = folder.filePath("eight.wav");
        QVERIFY(support::runFfmpeg(
            {"-i",
             speech,
             "-filter_complex",
             "[0:a]pan=7.1|c0=0*c0|c1=0*c0|c2=0*c0|c3=0*c0|c4=c0|c5=0*c0|c6=0*c0|c7=0*c0",
             eight}));
        const auto many = laidSources({speech, eight})["results"][0];
        QVERIFY(std::abs(many["offsetMs"]["value"].get<double>()) < 0.1);
        QVERIFY(sourceTells(many, "SameMicrophone"));
        for (const auto& finding : many["findings"]) {
            const std::string text = finding["text"];
            QVERIFY2(text.find("Its channel 5") == 0, text.c_str());
        }

        const QString whole = folder.filePath("whole.mp4"), broken = folder.filePath("broken.mp4");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc2=s=320x180:r=25:d=12",
                                    "-i",
                                    speech,
                                    "-shortest",
                                    whole}));
        QVERIFY(!sourceTells(laidSources({speech, whole})["results"][0], "FramesDamaged"));
        QFile file(whole);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QByteArray bytes = file.readAll();
        std::mt19937 random(3);
        for (int i = 0; i < 200; ++i)
            bytes[bytes.size() / 4 + qsizetype(random() % (bytes.size() / 2))] = char(random());
        QFile written(broken);
        QVERIFY(written.open(QIODevice::WriteOnly) && written.write(bytes) == bytes.size());
        written.close();
        QVERIFY(sourceTells(laidSources({speech, broken})["results"][0], "FramesDamaged"));
    }
};

RIG_TEST(TestSyncSources);
#include "test_sync_sources.moc"
