// SPDX-License-Identifier: GPL-3.0-or-later
// Rig files that were written by hand, by another program or half: whatever stands in them, the
// file is refused in words or opens, and what opens can be matched, planned and saved.
#include <QTemporaryDir>
#include <cmath>
#include <fstream>
#include <limits>
#include <nlohmann/json.hpp>
#include <random>
#include <set>
#include <sstream>

#include "jobs/match_job.h"
#include "jobs/plan_job.h"
#include "plan/analysis.h"
#include "rig/rig_store.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/reading_facts.h"

using namespace rigmatch;
using nlohmann::json;

namespace {

const std::string kDemoRig = RIGMATCH_SOURCE_DIR "/demo/clock-bench/clock-bench.rigmatch";

/// "/takes/0/shots/3/…" as "/takes/#/shots/#/…": entries of a list are alike.
std::string patternOf(const std::string& pointer) {
    std::string pattern;
    std::stringstream parts(pointer);
    std::string part;
    std::getline(parts, part, '/');
    while (std::getline(parts, part, '/')) {
        const bool isIndex = !part.empty() && std::all_of(part.begin(), part.end(), [](char c) {
            return std::isdigit(static_cast<unsigned char>(c)) != 0;
        });
        pattern += "/" + (isIndex ? "#" : part);
    }
    return pattern;
}

/// One place of each kind in the document, outermost first.
void collect(const json& value,
             const std::string& pointer,
             std::set<std::string>& seen,
             std::vector<std::string>& places) {
    if (!pointer.empty() && seen.insert(patternOf(pointer)).second) places.push_back(pointer);
    if (value.is_object()) {
        for (const auto& [key, child] : value.items())
            collect(child, pointer + "/" + key, seen, places);
    } else if (value.is_array()) {
        for (std::size_t i = 0; i < value.size(); ++i)
            collect(value[i], pointer + "/" + std::to_string(i), seen, places);
    }
}

/// What may stand anywhere by mistake.
const std::vector<json>& wrongValues() {
    static const std::vector<json> kWrongValues{nullptr,
                                                "",
                                                "a word",
                                                -1,
                                                0,
                                                1e300,
                                                -1e-300,
                                                true,
                                                json::array(),
                                                json::object(),
                                                json::array({1, "two", nullptr}),
                                                std::numeric_limits<std::int64_t>::max()};
    return kWrongValues;
}

/// Everything that the program does with a rig that has been opened.
void useAll(const rig::Rig& rig) {
    for (const rig::Take& take : rig.takes) {
        const match::MatchReport report = jobs::matchReport(rig, take);
        (void)words::readingFacts(rig, take, report);
    }
    if (rig.plan) {
        const plan::SetAnalysis analysis(rig);
        (void)analysis.notes();
        for (const rig::PlanObject& object : rig.plan->objects) (void)analysis.facts(object.id);
    }
}

}  // namespace

class TestDamagedRigs : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    std::string m_text;
    json m_document;
    int m_opened = 0;
    int m_refused = 0;

    std::filesystem::path file() const {
        return m_folder.filePath("damaged.rigmatch").toStdString();
    }
    void write(const std::string& text) const {
        std::ofstream(file(), std::ios::binary | std::ios::trunc) << text;
    }
    /// Opens what was written; refusals must say which file and what to do.
    void open(const std::string& what) {
        const auto loaded = rig::loadRig(file());
        if (!loaded) {
            ++m_refused;
            const std::string text = words::inEnglish(loaded.error());
            QVERIFY2(text.find("damaged.rigmatch") != std::string::npos, text.c_str());
            QVERIFY2(!loaded.error().hint.empty(), what.c_str());
            return;
        }
        ++m_opened;
        useAll(loaded->rig);
        const std::filesystem::path copy = m_folder.filePath("copy.rigmatch").toStdString();
        if (loaded->isReadOnly) return;
        QVERIFY2(rig::saveRig(loaded->rig, copy).has_value(), what.c_str());
        QVERIFY2(rig::loadRig(copy).has_value(), what.c_str());
    }

private Q_SLOTS:
    void initTestCase() {
        std::ifstream in(kDemoRig, std::ios::binary);
        m_text.assign(std::istreambuf_iterator<char>(in), {});
        m_document = json::parse(m_text);
        QVERIFY(m_document.is_object());
    }
    void init() { m_opened = m_refused = 0; }

    /// The whole file, as it is, passes: else the others would show nothing.
    void theSoundFileOpens() {
        write(m_text);
        open("sound");
        QCOMPARE(m_opened, 1);
    }
    /// Each kind of place in turn holds a value that does not belong there.
    void wrongValuesAreRefusedOrLivedWith() {
        std::set<std::string> seen;
        std::vector<std::string> places;
        collect(m_document, "", seen, places);
        QVERIFY(places.size() > 100);
        std::size_t turn = 0;
        // Every eighth one, where not all are asked for.
        for (std::size_t i = 0; i < places.size(); i += support::isFullSample() ? 1 : 8) {
            const std::string& place = places[i];
            for (int values = 0; values < support::sampleSize(12, 1); ++values) {
                const json& wrong = wrongValues()[turn++ % wrongValues().size()];
                json document = m_document;
                document[json::json_pointer(place)] = wrong;
                write(document.dump());
                open(place + " = " + wrong.dump());
                if (QTest::currentTestFailed()) return;
            }
        }
        qInfo("%zu places: %d files opened, %d refused", places.size(), m_opened, m_refused);
        QVERIFY(m_refused > 20);
        QVERIFY(m_opened > (support::isFullSample() ? 20 : 8));
    }
    /// Each kind of place in turn is missing.
    void missingPartsAreRefusedOrLivedWith() {
        std::set<std::string> seen;
        std::vector<std::string> places;
        collect(m_document, "", seen, places);
        // A thirtieth of them where not all are asked for.
        const std::size_t step = support::isFullSample() ? 1 : 30;
        for (std::size_t i = 0; i < places.size(); i += step) {
            const std::string& place = places[i];
            json document = m_document;
            const json::json_pointer at(place);
            json& parent = document[at.parent_pointer()];
            if (parent.is_object())
                parent.erase(at.back());
            else
                parent.erase(static_cast<std::size_t>(std::stoul(at.back())));
            write(document.dump());
            open(place + " is missing");
            if (QTest::currentTestFailed()) return;
        }
    }
    void halfFilesAreRefused() {
        for (std::size_t share = 1; share < 20; ++share) {
            write(m_text.substr(0, m_text.size() * share / 20));
            open("cut");
            if (QTest::currentTestFailed()) return;
        }
        write("");
        open("empty");
        QCOMPARE(m_opened, 0);
    }
    /// Bytes turned over at random, as a failing stick does.
    void flippedBytesAreRefusedOrLivedWith() {
        std::mt19937 random(11);
        for (int round = 0; round < support::sampleSize(150, 8); ++round) {
            std::string text = m_text;
            for (int flip = 0; flip < 3; ++flip)
                text[random() % text.size()] = static_cast<char>(random() % 256);
            write(text);
            open("flipped");
            if (QTest::currentTestFailed()) return;
        }
    }
};

RIG_TEST(TestDamagedRigs);
#include "test_damaged_rigs.moc"
