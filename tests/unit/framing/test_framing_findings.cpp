// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "framing/framing_findings.h"
#include "jobs/framing_job.h"
#include "rig/framing_goals.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/framing_text.h"

using namespace rigmatch;
using base::Verdict;

namespace {

/// A lone person to the lens whose head is `head` of the height, with its crown at `crown`.
rig::FramedPerson personOf(double head, double crown, double across = 0.5, double turn = 0.0) {
    rig::FramedPerson person;
    person.headHeight = {head, 0.005};
    person.faceHeight = {0.95 * head, 0.006};
    person.headroom = {crown, 0.002};
    person.eyeLine = {crown + 0.5 * head, 0.002};
    person.across = {across, 0.002};
    person.turnDegrees = turn;
    person.width = 0.75 * head * 1080.0;
    person.height = person.width;
    person.left = across * 1920.0 - 0.5 * person.width;
    person.top = crown * 1080.0;
    return person;
}

rig::FramingReading readingOf(const rig::FramedPerson& person) {
    rig::FramingReading reading;
    reading.frames = 5;
    reading.people = {person};
    return reading;
}

framing::FramedCamera cameraOf(const std::string& id, const rig::FramingReading& reading) {
    framing::FramedCamera camera;
    camera.id = id;
    camera.reading = &reading;
    camera.width = 1920;
    camera.height = 1080;
    camera.lens = framing::CameraLens{50.0, 36.0, 0.0, 0.0, 2.8};
    return camera;
}

const base::Finding* find(const std::vector<base::Finding>& all,
                          const std::string& quantity,
                          const std::string& subject) {
    for (const base::Finding& finding : all) {
        if (finding.quantity == quantity && finding.subject == subject) return &finding;
    }
    return nullptr;
}

}  // namespace

class TestFramingFindings : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Fist (9 cm) and three fingers (5.5 cm) over a head of 23 cm (common practice): 7 to 12 %
    /// over a head of 30 %, 6 to 10 over 25, 10 to 16 over 40.
    void headroomFollowsTheSchool() {
        const rig::Choices tight;
        for (const auto& [head, low, high] :
             {std::tuple{0.30, 0.07, 0.12}, {0.25, 0.06, 0.10}, {0.40, 0.10, 0.16}}) {
            const rig::Wanted wanted = rig::wantedHeadroom(tight, head);
            QVERIFY(std::abs(wanted.low - low) < 0.006);
            QVERIFY(wanted.high >= high - 0.006);
        }
        rig::Choices wide;
        wide.headroom = "wide";
        QVERIFY(std::abs(rig::wantedHeadroom(wide, 0.3).low - 0.16) < 1e-9);
        // Common practice: 0.20 under a punch-in of 1.5 about eyes at 0.40 leaves 0.10.
        QVERIFY(std::abs(rig::headroomAfterZoom(0.20, 0.40, 1.5) - 0.10) < 1e-9);
    }
    void whatIsFineAsksForNothing() {
        const auto good = readingOf(personOf(0.45, 0.14));
        const auto all = framing::framingFindings({cameraOf("b", good)}, {});
        QVERIFY(!all.empty());
        for (const base::Finding& finding : all) {
            QCOMPARE(finding.verdict, Verdict::Good);
            QVERIFY(finding.advice.code.empty());
        }
    }
    /// A pinhole camera of 50 mm on 36 mm: a place v px off the axis is seen under atan(v / f).
    void eyesTooLowTiltTheLensDown() {
        const auto low = readingOf(personOf(0.40, 0.32));
        const auto all = framing::framingFindings({cameraOf("b", low)}, {});
        const base::Finding* turn = nullptr;
        for (const base::Finding& finding : all) {
            if (finding.advice.code == "tiltDown") turn = &finding;
            QVERIFY(finding.advice.code != "tiltUp");
        }
        QVERIFY(turn != nullptr);
        const double goal = rig::wantedEyes(low.people[0], {});
        QVERIFY(goal < 0.52 && goal >= 0.30);
        const double focal = 50.0 / 36.0 * 1920.0;
        const double degrees =
            (std::atan((0.52 - 0.5) * 1080.0 / focal) - std::atan((goal - 0.5) * 1080.0 / focal)) *
            180.0 / M_PI;
        QVERIFY(std::abs(turn->advice.arguments.at("degrees") - degrees) < 1e-6);
        // 23 cm of head over 40 % of the height tell the scale: the camera goes down as far.
        const double centimetres = (0.52 - goal) * 23.0 / 0.40;
        QVERIFY(std::abs(turn->advice.arguments.at("centimetres") - centimetres) < 1e-6);
    }
    void withoutALensTurnsAreSharesOfThePicture() {
        const auto low = readingOf(personOf(0.40, 0.32));
        framing::FramedCamera camera = cameraOf("b", low);
        camera.lens.reset();
        for (const base::Finding& finding : framing::framingFindings({camera}, {})) {
            if (finding.advice.code.empty()) continue;
            QVERIFY(finding.advice.arguments.contains("share"));
            QVERIFY(!finding.advice.arguments.contains("degrees"));
        }
    }
    void aLookPastTheLensWantsAThird() {
        const auto lens = readingOf(personOf(0.4, 0.13, 0.62, 3.0));
        const auto past = readingOf(personOf(0.4, 0.13, 0.5, 30.0));
        const auto placed = framing::framingFindings({cameraOf("b", lens)}, {});
        QCOMPARE(find(placed, "across", "b")->advice.code, std::string("panRight"));
        // The own left is the picture's right: who looks there stands on the left third.
        const auto moved = framing::framingFindings({cameraOf("b", past)}, {});
        QCOMPARE(find(moved, "across", "b")->advice.code, std::string("panRight"));
        rig::Choices centred;
        centred.placing = "centre";
        const auto fine = framing::framingFindings({cameraOf("b", past)}, centred);
        QCOMPARE(find(fine, "across", "b")->verdict, Verdict::Good);
    }
    /// From 3.3 m instead of 3.0 m a head is a tenth smaller, and 77 mm instead of 70 bring it back
    /// (calculated).
    void twoSinglesAreMadeAlike() {
        const auto lead = readingOf(personOf(0.33, 0.11));
        const auto small = readingOf(personOf(0.30, 0.11));
        framing::FramedCamera zoom = cameraOf("c", small);
        zoom.lens = framing::CameraLens{70.0, 36.0, 24.0, 105.0, std::nullopt};
        zoom.distanceMetres = 3.3;
        const auto all = framing::framingFindings({cameraOf("b", lead), zoom}, {});
        const base::Finding* size = find(all, "headSize", "c");
        QVERIFY(size != nullptr);
        QCOMPARE(size->other, std::string("b"));
        QCOMPARE(size->advice.code, std::string("stepNearer"));
        QVERIFY(std::abs(size->advice.arguments.at("centimetres") - 30.0) < 0.01);
        QVERIFY(std::abs(size->advice.arguments.at("focalTo") - 77.0) < 0.01);
        QVERIFY(find(all, "headSize", "b") == nullptr);
    }
    void otherSizesAreMeant() {
        const auto lead = readingOf(personOf(0.50, 0.12));
        const auto wide = readingOf(personOf(0.24, 0.20));
        const auto all = framing::framingFindings({cameraOf("b", lead), cameraOf("c", wide)}, {});
        QVERIFY(find(all, "headSize", "c") == nullptr);
    }
    /// Thin lens: 85 mm at f/2.8 focused at 2.10 m blurs what stands at 2.00 m over f²|s − d| /
    /// (N d (s − f)); the edge of a disc rises from 10 to 90 % over 0.687 of its diameter.
    void focusSaysByHowMuch() {
        const double f = 0.085, n = 2.8, d = 2.0, s = 2.1;
        const double disc = f * f * (s - d) / (n * d * (s - f));
        const double discPx = disc / 0.036 * 1920.0;
        rig::FramingReading reading = readingOf(personOf(0.45, 0.14));
        const double sharp = 1.2;
        reading.focus.ear = sharp;
        reading.focus.eyes = std::hypot(sharp, 0.687 * discPx);
        reading.focus.sharpest = "ear";
        framing::FramedCamera camera = cameraOf("b", reading);
        camera.lens = framing::CameraLens{85.0, 36.0, 0.0, 0.0, n};
        camera.distanceMetres = d;
        const auto all = framing::framingFindings({camera}, {});
        const base::Finding* focus = find(all, "focus", "b");
        QVERIFY(focus != nullptr);
        QCOMPARE(focus->advice.code, std::string("focusNearer"));
        QVERIFY(std::abs(focus->advice.arguments.at("centimetres") - 10.0) < 1.0);
        // A tenth of a pixel is no finding.
        reading.focus.eyes = sharp + 0.1;
        QCOMPARE(find(framing::framingFindings({camera}, {}), "focus", "b")->verdict,
                 Verdict::Good);
    }
    /// What is held before the chest is nearer than the eyes: where it is sharp, they are soft and
    /// nothing behind them is sharper, the focus lies before them.
    void focusOnWhatIsHeldLiesBeforeTheEyes() {
        rig::FramingReading reading = readingOf(personOf(0.45, 0.14));
        reading.focus = {
            .eyes = 6.0, .ear = 8.0, .hair = {}, .background = 15.0, .front = 2.0, .sharpest = {}};
        const auto isTold = [&] {
            const auto all = framing::framingFindings({cameraOf("b", reading)}, {});
            const base::Finding* before = find(all, "focusBefore", "b");
            return before != nullptr && before->verdict != Verdict::Good;
        };
        QVERIFY(isTold());
        reading.focus.front = 5.0;  // clothes, about as soft
        QVERIFY(!isTold());
        reading.focus.front = 2.0;
        reading.focus.ear = 4.0;  // the ear is sharper too: it lies behind
        QVERIFY(!isTold());
        reading.focus.ear = 8.0;
        reading.focus.background = 3.0;
        QVERIFY(!isTold());
        reading.focus = {
            .eyes = 1.5, .ear = 1.6, .hair = {}, .background = 4.0, .front = 0.8, .sharpest = {}};
        QVERIFY(!isTold());
    }
    /// A portrait on the wall beside somebody: told, not judged, and the person is framed as alone.
    void aSmallerFaceIsNotJudged() {
        const rig::FramingReading alone = readingOf(personOf(0.40, 0.25, 0.5));
        rig::FramingReading beside = alone;
        rig::FramedPerson portrait = personOf(0.12, 0.25, 0.2);
        beside.people.insert(beside.people.begin(), portrait);
        QCOMPARE(rig::lonePerson(beside), &beside.people[1]);
        const auto then = framing::framingFindings({cameraOf("b", alone)}, {});
        const auto now = framing::framingFindings({cameraOf("b", beside)}, {});
        const base::Finding* small = find(now, "smallFace", "b");
        QVERIFY(small != nullptr && small->person == 0);
        QCOMPARE(small->verdict, Verdict::Unknown);
        QVERIFY(find(now, "pairLevel", "b") == nullptr);
        QCOMPARE(now.size(), then.size() + 1);
        for (const base::Finding& finding : then) {
            const base::Finding* same = find(now, finding.quantity, "b");
            QVERIFY2(
                same != nullptr && same->verdict == finding.verdict && same->value == finding.value,
                finding.quantity.c_str());
        }
        // Somebody a little further away is one of two.
        beside.people[0] = personOf(0.30, 0.25, 0.2);
        QVERIFY(rig::lonePerson(beside) == nullptr);
        QVERIFY(find(framing::framingFindings({cameraOf("b", beside)}, {}), "pairLevel", "b"));
    }
    void aCameraThatMovedIsPutBackFirst() {
        rig::FramingReading reading = readingOf(personOf(0.40, 0.32, 0.7));
        rig::FrameDrift drift;
        drift.shiftPx = {31.0, 0.0};
        drift.shiftUncertaintyPx = 0.3;
        drift.cause = "pan";
        reading.drift = drift;
        const auto all = framing::framingFindings({cameraOf("b", reading)}, {});
        int turns = 0;
        for (const base::Finding& finding : all) turns += finding.advice.code.empty() ? 0 : 1;
        QCOMPARE(turns, 1);
        QCOMPARE(find(all, "moved", "b")->advice.code, std::string("putBack"));
        QCOMPARE(find(all, "moved", "b")->verdict, Verdict::Off);
    }
    void aCutHeadIsToldAndRollIsLevelled() {
        rig::FramedPerson cut = personOf(0.55, 0.0);
        cut.isCut = true;
        rig::FramingReading reading = readingOf(cut);
        reading.roll = rig::RollReading{1.4, 0.1, 0.0, "uprights"};
        const auto all = framing::framingFindings({cameraOf("b", reading)}, {});
        QCOMPARE(find(all, "cut", "b")->verdict, Verdict::Off);
        QCOMPARE(find(all, "roll", "b")->advice.code, std::string("rollClockwise"));
        // A head alone, held aslant, is no proof.
        reading.roll = rig::RollReading{1.4, 3.0, 0.0, "eyes"};
        const auto unsure = framing::framingFindings({cameraOf("b", reading)}, {});
        QCOMPARE(find(unsure, "roll", "b")->verdict, Verdict::Unknown);
        QVERIFY(find(unsure, "roll", "b")->advice.code.empty());
    }
    /// 9:16 out of HD is 608 px wide; a punch-in of 1.25 leaves 1536 (calculated).
    void cropsKeepThePerson() {
        rig::FramedPerson person = personOf(0.4, 0.13, 0.4);
        auto crops = jobs::cropWindows(person, 1920, 1080, {});
        QCOMPARE(crops.size(), std::size_t{4});
        QCOMPARE(crops[0].widthPx, 608);
        QCOMPARE(crops[3].widthPx, 1536);
        QVERIFY(crops[3].isUpscaled);
        QVERIFY(std::abs(crops[0].left + 0.5 * crops[0].width - 0.4) < 1e-9);
        QVERIFY(crops[0].holdsPerson);
        person.swayShare = 0.25;
        QVERIFY(!jobs::cropWindows(person, 1920, 1080, {})[0].holdsPerson);
        // About the eyes: they keep their place, headroom shrinks as common practice has it.
        const double left = rig::headroomAfterZoom(0.13, 0.33, 1.25);
        QVERIFY(std::abs(crops[3].headroom - left) < 1e-9);
    }
    void wordsNameCameraAndTurn() {
        rig::Rig rig;
        for (const char* id : {"b", "c"}) {
            rig::Camera camera;
            camera.id = id;
            camera.role = id;
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
        rig::Take take;
        take.id = "t";
        for (const auto& [id, head] : {std::pair{"b", 0.33}, {"c", 0.30}}) {
            rig::Shot shot;
            shot.cameraId = id;
            rig::Reading reading;
            reading.width = 1920;
            reading.height = 1080;
            reading.framing = readingOf(personOf(head, 0.11));
            shot.reading = reading;
            take.shots.push_back(shot);
        }
        rig.takes.push_back(take);
        const auto findings = jobs::framingFindings(rig, rig.takes[0]);
        const base::Finding* size = find(findings, "headSize", "c");
        QVERIFY(size != nullptr);
        const auto words = words::framingWords(*size, rig, rig.takes[0]);
        QCOMPARE(words.headline, std::string("head 9 % smaller than A's"));
        QVERIFY2(words.turn.starts_with("Step nearer "), words.turn.c_str());
        // Nobody told the lens: no centimetres, no degrees.
        rig.cameras[1].isLensTold = false;
        const auto untold = jobs::framingFindings(rig, rig.takes[0]);
        QCOMPARE(words::framingWords(*find(untold, "headSize", "c"), rig, rig.takes[0]).turn,
                 std::string("Make it 10 % larger: step nearer"));
    }
    /// What may be a veil and is not surely one is not called none.
    void whatIsNotSureIsNotDenied() {
        base::Finding veil;
        veil.quantity = "veil";
        veil.high = 0.06;
        veil.uncertainty = 0.01;
        veil.verdict = base::Verdict::Good;
        const auto headline = [&](double value) {
            veil.value = value;
            return words::framingWords(veil, {}, {}).headline;
        };
        QCOMPARE(headline(0.02), std::string("no veil seen"));
        QCOMPARE(headline(0.078), std::string("a veil is not sure"));
        veil.verdict = base::Verdict::Near;
        QVERIFY(headline(0.09).starts_with("its darkest stands 9 % over"));
    }
};

RIG_TEST(TestFramingFindings);
#include "test_framing_findings.moc"
