// SPDX-License-Identifier: GPL-3.0-or-later
// Corrections from outside: written, read back and judged.
#include <QTemporaryDir>

#include "colour/viewing_lut.h"
#include "media/media_reader.h"
#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using nlohmann::json;
using support::LoopCamera;
using support::Ran;
using support::run;
using support::writeChart;

class TestLutCommand : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    QString m_rig;
    std::mt19937 m_random{7};

    QString at(const QString& name) const { return m_folder.filePath(name); }
    void checkFormat(const QString& format) const {
        const Ran ran = run({"lut", m_rig, "--out", at("out"), "--format", format, "--json"});
        QVERIFY2(ran.code == 0, ran.err.c_str());
        const json document = ran.document();
        const json& lut = document["cameras"][0];
        QCOMPARE(lut["to"].get<std::string>(), std::string("recorded"));
        const QString file = QString::fromStdString(lut["file"].get<std::string>());
        QVERIFY(file.endsWith("." + format) && QFile::exists(file));
        const double before = lut["deltaE2000"]["before"]["mean"].get<double>();
        const double after = lut["deltaE2000"]["after"]["mean"].get<double>();
        qInfo("%s: mean dE2000 %.2f before, %.2f after", qPrintable(format), before, after);
        QVERIFY(after < 0.6 * before);
        QCOMPARE(lut.contains("cdl"), format != "cube" && format != "clf");
        if (!lut.contains("cdl")) return;
        const auto read = colour::ViewingLut::read(file.toStdString());
        QVERIFY(read.has_value());
        const json& cdl = lut["cdl"];
        const std::array<double, 3> in{0.31, 0.52, 0.18};
        std::array<double, 3> out{};
        for (std::size_t c = 0; c < 3; ++c)
            out[c] = std::pow(
                std::clamp(in[c] * cdl["slope"][c].get<double>() + cdl["offset"][c].get<double>(),
                           0.0,
                           1.0),
                cdl["power"][c].get<double>());
        const double luma = 0.2126 * out[0] + 0.7152 * out[1] + 0.0722 * out[2];
        for (std::size_t c = 0; c < 3; ++c) {
            const double meant = luma + cdl["saturation"].get<double>() * (out[c] - luma);
            QVERIFY(std::abs(read->apply(in)[c] - meant) < 1.0 / 1023.0);
        }
    }

private Q_SLOTS:
    void init() {
        m_rig = at("set.rigmatch");
        QFile::remove(m_rig);
    }

    /// What is left goes into a table, which is judged as others will see it.
    void aTableIsWrittenForWhatIsLeft() {
        LoopCamera b = support::loopBody(8.0, 0.001, -0.1);
        b.body.saturation = 1.25;
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(writeChart(at("b.mov"), b.at(rig::Settings{}), m_random));
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        const Ran ran = run({"lut", m_rig, "--out", at("luts"), "--size", "33", "--json"});
        QVERIFY2(ran.code == 0, ran.err.c_str());
        const json document = ran.document();
        const json& lut = document["cameras"][0];
        QCOMPARE(lut["camera"].get<std::string>(), std::string("B"));
        QCOMPARE(lut["inputRange"].get<std::string>(), std::string("full"));
        QVERIFY(QFile::exists(QString::fromStdString(lut["file"].get<std::string>())));
        const double before = lut["deltaE2000"]["before"]["mean"].get<double>();
        const double after = lut["deltaE2000"]["after"]["mean"].get<double>();
        qInfo("mean dE2000 %.2f before, %.2f after", before, after);
        QVERIFY(before > 3.0 && after < 0.7);
        // The check picture, read by another library: the corrected chart is the reference's, the
        // recorded one is not. Tiles begin at 24, 416 and 808 px, below 112.
        QCOMPARE(run({"lut", m_rig, "--out", at("luts"), "--check", at("check.png")}).code, 0);
        auto png = media::MediaReader::open(at("check.png").toStdString());
        QVERIFY(png.has_value());
        const auto page = png->next();
        QVERIFY(page.has_value() && page->has_value());
        const auto tile = [&](int left) {
            return image::signalFrame(**page, {left + 40, 150, 300, 120});
        };
        const image::Frame reference = tile(24), recorded = tile(416), corrected = tile(808);
        const auto apart = [&](const image::Frame& other) {
            double sum = 0.0;
            for (std::size_t c = 0; c < 3; ++c)
                for (std::size_t i = 0; i < reference.channels[c].size(); ++i)
                    sum += std::abs(static_cast<double>(other.channels[c][i]) -
                                    static_cast<double>(reference.channels[c][i]));
            return sum / static_cast<double>(3 * reference.channels[0].size());
        };
        QVERIFY2(apart(corrected) < 0.4 * apart(recorded),
                 qPrintable(QString("%1 %2").arg(apart(corrected)).arg(apart(recorded))));
        const Ran half = run({"lut", m_rig, "--out", at("half"), "--strength", "50", "--json"});
        const double middle =
            half.document()["cameras"][0]["deltaE2000"]["after"]["mean"].get<double>();
        QVERIFY(middle > after && middle < before);
        // Nothing here is to be converted: the result is finished as it is, and the reference gets
        // no file. A decision list converts nothing.
        const json finished =
            run({"lut", m_rig, "--out", at("luts"), "--to", "finished", "--json"}).document();
        QCOMPARE(finished["cameras"].size(), std::size_t{1});
        QCOMPARE(finished["cameras"][0]["to"].get<std::string>(), std::string("finished"));
        const Ran list =
            run({"lut", m_rig, "--out", at("luts"), "--to", "finished", "--format", "cdl"});
        QVERIFY(list.code == 1 && list.err.find("decision list") != std::string::npos);
        QCOMPARE(run({"lut", m_rig, "--out", at("luts"), "--size", "20"}).code, 2);
        QCOMPARE(run({"lut", at("none.rigmatch"), "--out", at("luts")}).code, 1);
    }

    /// Every format is written, read back and judged; a decision list does what the ASC's formula
    /// says (ASC CDL 1.2).
    void everyFormatIsReadBack() {
        LoopCamera b = support::loopBody(6.0, 0.001, -0.1);
        b.body.saturation = 1.2;
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(writeChart(at("b.mov"), b.at(rig::Settings{}), m_random));
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        for (const char* format : {"cube", "clf", "cc", "ccc", "cdl"}) checkFormat(format);
    }
    /// A table for the whole code range: black at 64 and white at 940 of 1023.
    void aMonitorsTableTakesTheWholeRange() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(
            writeChart(at("b.mov"), support::loopBody(9, 0, -0.2).at(rig::Settings{}), m_random));
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        std::array<std::array<double, 3>, 2> shown{};
        const std::array<double, 3> in{0.5, 0.4, 0.3};
        for (std::size_t i = 0; i < 2; ++i) {
            const bool isMonitor = i == 1;
            const Ran ran = run({"lut",
                                 m_rig,
                                 "--out",
                                 at(isMonitor ? "monitor" : "editor"),
                                 "--size",
                                 "33",
                                 "--for",
                                 isMonitor ? "monitor" : "editor",
                                 "--json"});
            QCOMPARE(ran.code, 0);
            const json document = ran.document();
            const json& lut = document["cameras"][0];
            QCOMPARE(lut["inputRange"].get<std::string>(),
                     std::string(isMonitor ? "limited" : "full"));
            const auto read = colour::ViewingLut::read(lut["file"].get<std::string>());
            QVERIFY(read.has_value());
            const auto code = [&](double v) { return isMonitor ? (876.0 * v + 64.0) / 1023.0 : v; };
            const auto out = read->apply({code(in[0]), code(in[1]), code(in[2])});
            for (std::size_t c = 0; c < 3; ++c)
                shown[i][c] = isMonitor ? (1023.0 * out[c] - 64.0) / 876.0 : out[c];
        }
        for (std::size_t c = 0; c < 3; ++c) QVERIFY(std::abs(shown[0][c] - shown[1][c]) < 0.006);
    }
};

RIG_TEST(TestLutCommand);
#include "test_lut_command.moc"
