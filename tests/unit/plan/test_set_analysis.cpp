// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "plan/analysis.h"
#include "plan/edit.h"
#include "plan/layouts.h"
#include "plan/shot_size.h"
#include "sim/clock_bench.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/plan_text.h"

using namespace rigmatch;
using namespace rigmatch::plan;
using rig::PlanKind;
using rig::PlanObject;

namespace {

words::ToldFact factOf(const std::vector<words::ToldFact>& facts, const std::string& key) {
    for (const words::ToldFact& fact : facts) {
        if (fact.key == key) return fact;
    }
    qFatal("no fact %s", key.c_str());
}

words::ToldFact demoFact(const rig::Rig& rig, const char* objectId, const char* key) {
    return factOf(words::told(SetAnalysis(rig).facts(objectId)), key);
}

/// Host and guest with three cameras: the layout is without fault in these things, so that each
/// test can break one.
rig::Rig talk() { return rig::withLayout({}, builtInLayouts()[1]); }

PlanObject& placeOfLetter(rig::Rig& rig, char letter) {
    return *rig::findPlanCamera(*rig.plan, rig.cameras[static_cast<std::size_t>(letter - 'A')].id);
}

}  // namespace

class TestSetAnalysis : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everyObjectOfEveryLayoutHasFactsWithReasons() {
        for (const rig::Layout& layout : builtInLayouts()) {
            const rig::Rig rig = rig::withLayout({}, layout);
            const SetAnalysis set(rig);
            for (const PlanObject& object : rig.plan->objects) {
                const auto facts = words::told(set.facts(object.id));
                QVERIFY2(!facts.empty(), object.id.c_str());
                for (const words::ToldFact& fact : facts) {
                    QVERIFY2(!fact.value.empty() && !fact.title.empty(), fact.key.c_str());
                    const std::string all = fact.title + fact.value + fact.why + fact.change;
                    QVERIFY2(all.find_first_of("[]{}") == std::string::npos, all.c_str());
                    QVERIFY2(!fact.why.empty() || fact.key == "partner", fact.key.c_str());
                    QVERIFY2(fact.verdict != base::Verdict::Off || !fact.change.empty(),
                             fact.key.c_str());
                    QVERIFY2(!fact.number || std::isfinite(*fact.number), fact.key.c_str());
                }
            }
            for (const Note& note : set.notes()) {
                QVERIFY2(note.verdict != base::Verdict::Off,
                         (layout.title + ": " + words::inEnglish(note.text)).c_str());
            }
        }
    }
    void notesAreInTheOrderOfTheirWeight() {
        const auto notes = SetAnalysis(sim::clockBenchRig()).notes();
        QVERIFY(notes.size() > 3);
        for (std::size_t i = 1; i < notes.size(); ++i) {
            QVERIFY(notes[i - 1].weight >= notes[i].weight);
        }
    }
    /// sources 3.5 (thin lens): the f-number whose disc is the goal's, worked out here from the
    /// distances; with the ND that it costs, and what stays sharp.
    void blurIsAGoal() {
        rig::Rig rig = talk();
        rig::Camera& b = rig.cameras[1];
        b.sheet.fNumbers = {2.8, 4.0, 5.6};
        b.settings.fNumber = 2.8;
        const std::string place = placeOfLetter(rig, 'B').id;
        QCOMPARE(demoFact(rig, place.c_str(), "blur").verdict, base::Verdict::Good);
        rig.choices.blur = "melted";
        const SetAnalysis set(rig);
        const PlacedCamera* placed = set.cameraOf(place);
        QVERIFY(placed != nullptr && placed->view && placed->subjectSeen() != nullptr);
        const double f = b.lens.focalLengthMm, w = b.sensorWidthMm;
        const double s = placed->view->lens().distanceMm;
        const double d = 1000.0 * placed->subjectSeen()->backgroundMetres;
        const double disc = f * f * (d - s) / (b.settings.fNumber * d * (s - f)) / w;
        const double wanted = f * f * (d - s) / (0.030 * w * d * (s - f));
        const words::ToldFact fact = factOf(words::told(set.facts(place)), "blur");
        QVERIFY(std::abs(*fact.number - 100.0 * disc) < 0.02);
        QVERIFY(fact.verdict == base::Verdict::Off);
        const QString change = QString::fromStdString(fact.change);
        const double widest = *std::min_element(b.sheet.fNumbers.begin(), b.sheet.fNumbers.end());
        QVERIFY2(change.contains(QString("f/%1").arg(wanted, 0, 'f', 1)), qPrintable(change));
        // This lens cannot; one that opens further can, and then wears ND.
        QVERIFY(wanted < widest && change.contains("opens to f/"));
        b.sheet.fNumbers = {0.5, 0.7, 1.0, 1.4, 2.0, 2.8, 4.0, 5.6};
        const QString open = QString::fromStdString(demoFact(rig, place.c_str(), "blur").change);
        const double stops = 2.0 * std::log2(b.settings.fNumber / wanted);
        QVERIFY2(open.startsWith(QString("Open to f/%1, and wear %2 stops of ND")
                                     .arg(wanted, 0, 'f', 1)
                                     .arg(stops, 0, 'f', 1)),
                 qPrintable(open));
        QVERIFY(open.contains("Sharp then from") && open.contains("leans or nods leaves it"));
        b.sheet.ndStops = {0.0, 2.0, 4.0};
        QVERIFY(demoFact(rig, place.c_str(), "blur").change.find("and add ") != std::string::npos);
        // At the goal's own f-number nothing is to be turned.
        b.settings.fNumber = wanted;
        QCOMPARE(demoFact(rig, place.c_str(), "blur").verdict, base::Verdict::Good);
        rig.choices.blur = "gentle";
        QVERIFY(demoFact(rig, place.c_str(), "blur").change.find("Close to f/") == 0);
    }
    /// sources 3.2: 36 mm wide, head 0.23 m, 50 mm at 2 m: head 29 % of the frame's height.
    void headHeightFollowsTheTable() {
        rig::Rig rig = talk();
        PlanObject& b = placeOfLetter(rig, 'B');
        PlanObject& person = *rig::findObject(*rig.plan, "person-1");
        person.headMetres = 0.23;
        person.facingDegrees = 0.0;
        b.xMetres = person.xMetres;
        b.zMetres = person.zMetres + 2.0 + 0.07;
        b.heightMetres = b.aimHeightMetres = person.heightMetres;
        b.aimXMetres = person.xMetres;
        b.aimZMetres = person.zMetres;
        const words::ToldFact head =
            factOf(words::told(SetAnalysis(rig).facts(b.id)), "headHeight");
        QVERIFY2(std::abs(*head.number - 29.0) < 0.8, qPrintable(QString::number(*head.number)));
    }
    /// sources 3.6: 0.15 m at 2 m is 4.3°.
    void eyeHeightSaysWhatToDo() {
        rig::Rig rig = talk();
        PlanObject& b = placeOfLetter(rig, 'B');
        QCOMPARE(demoFact(rig, b.id.c_str(), "eyeHeight").verdict, base::Verdict::Good);
        b.heightMetres += 0.35;
        const words::ToldFact high = demoFact(rig, b.id.c_str(), "eyeHeight");
        QVERIFY(high.verdict != base::Verdict::Good);
        QVERIFY(high.value.front() == '+' && high.change.find("Set the lens to 1.2") == 0);
    }
    void crossingTheAxisIsSaidAtTheOneThatCrosses() {
        rig::Rig rig = talk();
        PlanObject& c = placeOfLetter(rig, 'C');
        QCOMPARE(demoFact(rig, c.id.c_str(), "axis").value, std::string("kept"));
        c.zMetres = 0.4;
        QCOMPARE(demoFact(rig, c.id.c_str(), "axis").value, std::string("crossed"));
        QCOMPARE(demoFact(rig, placeOfLetter(rig, 'A').id.c_str(), "axis").verdict,
                 base::Verdict::Near);
        c.zMetres = rig::findObject(*rig.plan, "person-1")->zMetres;
        c.xMetres = 0.2;
        QCOMPARE(demoFact(rig, c.id.c_str(), "axis").value, std::string("on the line"));
    }
    void unequalSinglesAreComparedHeadToHead() {
        rig::Rig rig = talk();
        QCOMPARE(demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "headHeight").verdict,
                 base::Verdict::Good);
        PlanObject& c = placeOfLetter(rig, 'C');
        const Vec away = placeOf(c) - aimOf(c);
        c.xMetres += 0.25 * away.x();
        c.zMetres += 0.25 * away.z();
        const words::ToldFact fact = demoFact(rig, c.id.c_str(), "headHeight");
        QCOMPARE(fact.verdict, base::Verdict::Off);
        QVERIFY(fact.why.find("against B") != std::string::npos && !fact.change.empty());
    }
    void standsAndOtherCamerasInThePictureAreFound() {
        rig::Rig rig = talk();
        PlanObject& a = placeOfLetter(rig, 'A');
        QCOMPARE(demoFact(rig, a.id.c_str(), "intruders").value, std::string("nothing"));
        PlanObject& c = placeOfLetter(rig, 'C');
        c.xMetres = 2.2;
        c.zMetres = 3.2;
        const words::ToldFact fact = demoFact(rig, a.id.c_str(), "intruders");
        QCOMPARE(fact.value, std::string("camera C"));
        QVERIFY(fact.verdict == base::Verdict::Off &&
                fact.change.find("Move camera C out by") == 0);
        rig.plan->heightMetres = 1.9;
        for (PlanObject& object : rig.plan->objects)
            object.heightMetres = std::min(object.heightMetres, 1.5);
        QVERIFY(demoFact(rig, a.id.c_str(), "intruders").why.find("the ceiling, top edge") !=
                std::string::npos);
    }
    /// A wide source whose middle and outermost points lie outside the picture, while its round
    /// fills a corner of it: it is told, and by about as much as rays from the lens meet of it.
    void aLampInACornerIsTold() {
        for (const bool isLeft : {true, false}) {
            rig::Rig rig = talk();
            const std::string a = placeOfLetter(rig, 'A').id;
            const auto view = CameraView::of(*rig.plan, rig.cameras[0], placeOfLetter(rig, 'A'));
            QVERIFY(view.has_value());
            constexpr double kAway = 1.0;
            const double size = 1.3 * view->widthAt(kAway);
            const Vec middle =
                view->position() + kAway /
                                       view->direction({0.5, 0.5})
                                           .dot(view->direction({isLeft ? -0.12 : 1.12, -0.12})) *
                                       view->direction({isLeft ? -0.12 : 1.12, -0.12});
            PlanObject lamp;
            lamp.id = "corner-lamp";
            lamp.kind = PlanKind::Light;
            lamp.name = "Corner lamp";
            lamp.mount = "boom";
            lamp.modifier = "lantern";
            lamp.sourceMetres = size;
            lamp.xMetres = middle.x();
            lamp.heightMetres = middle.y();
            lamp.zMetres = middle.z();
            rig.plan->objects.push_back(lamp);
            int met = 0;
            constexpr int kRays = 40;
            for (int row = 0; row < kRays; ++row) {
                for (int column = 0; column < kRays; ++column) {
                    const Vec ray = view->direction({(column + 0.5) / kRays, (row + 0.5) / kRays});
                    const Vec to = placeOf(lamp) - view->position();
                    met += (to - to.dot(ray) * ray).norm() < 0.5 * size ? 1 : 0;
                }
            }
            const double share = double(met) / (kRays * kRays);
            QVERIFY2(share > 0.2, qPrintable(QString::number(share)));
            const words::ToldFact fact = demoFact(rig, a.c_str(), "intruders");
            QVERIFY2(fact.value.find("Corner lamp") != std::string::npos, fact.value.c_str());
            QCOMPARE(fact.verdict, base::Verdict::Off);
        }
    }
    void ownedLensesAreChosenByTheWantedShot() {
        rig::Rig rig = talk();
        const SetAnalysis set(rig);
        const PlacedCamera& b = set.cameras()[1];
        const LensChoice choice =
            chooseLens(*rig.plan, *b.view, *wantedWidth(*rig.plan, *b.place, *b.view));
        QCOMPARE(*choice.chosenMm, 50.0);
        placeOfLetter(rig, 'B').shot = "wide";
        const words::ToldFact fact = demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "lens");
        QVERIFY(fact.verdict == base::Verdict::Off && fact.change == "Put the 24 mm on.");
        rig.plan->lenses.clear();
        QVERIFY(demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "lens")
                    .why.find("which lenses you own") != std::string::npos);
        rig.plan->lenses = {{16.0, 70.0, 4.0}};
        const SetAnalysis zoomed(rig);
        const PlacedCamera& wide = zoomed.cameras()[1];
        const LensChoice zoom =
            chooseLens(*rig.plan, *wide.view, *wantedWidth(*rig.plan, *wide.place, *wide.view));
        QVERIFY(std::abs(*zoom.chosenMm - zoom.wantedMm) <= 0.5);
    }
    /// sources 3.8: the 9:16 window of 50 mm at 2 m full frame is 0.44 m: the head fits.
    void cropsAndPunchIns() {
        rig::Rig rig = talk();
        const words::ToldFact wide = demoFact(rig, placeOfLetter(rig, 'A').id.c_str(), "crops");
        QVERIFY(wide.verdict == base::Verdict::Near);
        rig.choices.isUprightWanted = false;
        QCOMPARE(demoFact(rig, placeOfLetter(rig, 'A').id.c_str(), "crops").verdict,
                 base::Verdict::Good);
        rig.choices.largestZoom = 2.5;
        QCOMPARE(demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "punchIn").verdict,
                 base::Verdict::Near);
        rig.choices.deliveryWidthPx = 7680.0;
        QCOMPARE(demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "punchIn").verdict,
                 base::Verdict::Off);
    }
    void bothSchoolsOfTheKey() {
        rig::Rig rig = talk();
        QCOMPARE(demoFact(rig, "person-1", "key").verdict, base::Verdict::Good);
        rig.choices.key = "flat";
        QVERIFY(demoFact(rig, "person-1", "key").verdict != base::Verdict::Good);
    }
    void mixedColoursOnSkinAreToldFromThoseOffIt() {
        rig::Rig rig = talk();
        QCOMPARE(demoFact(rig, "person-1", "colourMix").verdict, base::Verdict::Good);
        rig::findObject(*rig.plan, "light-3")->kelvin = 3200.0;
        const words::ToldFact mixed = demoFact(rig, "person-1", "colourMix");
        QCOMPARE(mixed.verdict, base::Verdict::Off);
        QVERIFY2(std::abs(*mixed.number - 133.9) < 0.1, "sources 11.5: 3200 to 5600 K is 133.9");
        QCOMPARE(demoFact(rig, "light-3", "colour").verdict, base::Verdict::Off);
    }
    /// A colour that is meant to differ is no fault, on the lamp as on the skin; the others are
    /// still judged.
    void aContrastThatIsMeantIsNoFault() {
        rig::Rig rig = talk();
        PlanObject& warm = *rig::findObject(*rig.plan, "light-3");
        warm.kelvin = 3200.0;
        warm.isMeantToDiffer = true;
        const words::ToldFact mixed = demoFact(rig, "person-1", "colourMix");
        QCOMPARE(mixed.verdict, base::Verdict::Good);
        QVERIFY2(mixed.why.find("is meant to differ") != std::string::npos, mixed.why.c_str());
        const words::ToldFact colour = demoFact(rig, "light-3", "colour");
        QCOMPARE(colour.verdict, base::Verdict::Good);
        QVERIFY(colour.change.empty());
    }
    /// A tube that belongs in the picture is no accident there, and is judged as a part of it.
    void aLampThatBelongsInThePictureIsJudgedAsAPartOfIt() {
        rig::Rig rig = talk();
        PlanObject& a = placeOfLetter(rig, 'A');
        PlanObject& tube = *rig::findObject(*rig.plan, "light-2");
        tube.mount = "wall";
        tube.xMetres = 0.5 * (a.xMetres + a.aimXMetres);
        tube.zMetres = 0.5 * (a.zMetres + a.aimZMetres);
        tube.heightMetres = a.heightMetres;
        QVERIFY(demoFact(rig, a.id.c_str(), "intruders").verdict != base::Verdict::Good);
        const auto hasShade = [&] {
            const auto facts = words::told(SetAnalysis(rig).facts("light-2"));
            return std::any_of(facts.begin(), facts.end(), [](const words::ToldFact& f) {
                return f.key == "shade";
            });
        };
        QVERIFY(!hasShade());
        tube.isInPicture = true;
        QCOMPARE(demoFact(rig, a.id.c_str(), "intruders").value, std::string("nothing"));
        QVERIFY(hasShade());
        QVERIFY(demoFact(rig, "light-2", "shade").title.find("In the picture") == 0);
    }
    /// Black cloth on the shadow side takes the room's light from it: the ratio grows.
    void blackClothOnTheShadowSideRaisesTheRatio() {
        rig::Rig rig = talk();
        rig.plan->wallReflectance = 0.6;
        const PlanObject person = *rig::findObject(*rig.plan, "person-1");
        const auto ratio = [&] {
            const SetAnalysis set(rig);
            for (const FaceLight& face : set.faces())
                if (face.personId == "person-1") return face.ratioStops;
            return 0.0;
        };
        const double before = ratio();
        PlanObject cloth;
        cloth.id = "flag-9";
        cloth.kind = PlanKind::Flag;
        cloth.widthMetres = 1.4;
        cloth.tallMetres = 2.0;
        cloth.facingDegrees = person.facingDegrees + 90.0;
        rig.plan->objects.push_back(cloth);
        double highest = 0.0;
        for (const double side : {-90.0, 90.0}) {
            const Vec beside = facingVector(person.facingDegrees + side);
            rig.plan->objects.back().xMetres = person.xMetres + 0.6 * beside.x();
            rig.plan->objects.back().zMetres = person.zMetres + 0.6 * beside.z();
            highest = std::max(highest, ratio());
        }
        QVERIFY2(highest > before + 0.15,
                 qPrintable(QStringLiteral("%1, then %2").arg(before).arg(highest)));
    }
    /// A fill that is turned into a white wall on the shadow side still fills.
    void aFillTurnedIntoTheWallStillFills() {
        rig::Rig rig = talk();
        rig.plan->wallReflectance = 0.8;
        PlanObject* fill = rig::findObject(*rig.plan, "light-3");
        fill->modifier = "none";
        fill->beamDegrees = 60.0;
        fill->luxAtOneMetre = 3000.0;
        const PlanObject person = *rig::findObject(*rig.plan, "person-1");
        const auto ratioNow = [&] {
            const SetAnalysis set(rig);
            for (const FaceLight& face : set.faces())
                if (face.personId == "person-1") return face.ratioStops;
            return 0.0;
        };
        const bool isRight = fill->xMetres > 0.5 * rig.plan->widthMetres;
        fill->targetId.clear();
        fill->xMetres = isRight ? rig.plan->widthMetres - 0.7 : 0.7;
        fill->zMetres = person.zMetres + 1.2;
        fill->aimXMetres = isRight ? rig.plan->widthMetres : 0.0;
        fill->aimZMetres = fill->zMetres;
        fill->aimHeightMetres = fill->heightMetres;
        const double turned = ratioNow();
        QCOMPARE(demoFact(rig, fill->id.c_str(), "offWall").value,
                 std::string(isRight ? "right wall" : "left wall"));
        fill->isOn = false;
        const double off = ratioNow();
        QVERIFY2(turned < off - 0.3, qPrintable(QString("%1, %2 stops").arg(turned).arg(off)));
        const auto facts = words::told(SetAnalysis(rig).facts(fill->id));
        QVERIFY(std::none_of(facts.begin(), facts.end(), [](const words::ToldFact& fact) {
            return fact.key == "offWall";
        }));
    }
    /// A camera that looks at a lone speaker from the side is told, unless it is meant.
    void aSideAngleCanBeMeant() {
        rig::Rig rig = talk();
        PlanObject& person = *rig::findObject(*rig.plan, "person-1");
        person.looksToLens = true;
        PlanObject& b = placeOfLetter(rig, 'B');
        b.targetId = "person-1";
        const Vec beside = facingVector(person.facingDegrees + 60.0);
        b.xMetres = person.xMetres + 1.5 * beside.x();
        b.zMetres = person.zMetres + 1.5 * beside.z();
        const words::ToldFact told = demoFact(rig, b.id.c_str(), "look");
        QCOMPARE(told.verdict, base::Verdict::Near);
        QVERIFY(told.change.find("Side angle is meant") != std::string::npos);
        b.isSideMeant = true;
        const words::ToldFact meant = demoFact(rig, b.id.c_str(), "look");
        QCOMPARE(meant.verdict, base::Verdict::Good);
        QVERIFY(meant.change.empty());
        QVERIFY(std::abs(*meant.number - 60.0) < 3.0);
    }
    void overloadedCircuitsAreTheFirstNote() {
        rig::Rig rig = talk();
        for (PlanObject& object : rig.plan->objects) {
            if (object.kind == PlanKind::Light) object.powerWatts = 900.0;
        }
        const SetAnalysis set(rig);
        const auto notes = set.notes();
        QVERIFY(words::inEnglish(notes.front().text).find("Wall sockets") != std::string::npos);
        QCOMPARE(notes.front().verdict, base::Verdict::Off);
        QVERIFY(demoFact(rig, "light-1", "power").why.find("licensed electrician") !=
                std::string::npos);
    }
    /// sources 3.10: a window 4.8 stops over the face needs 3 stops of film to be 1.8 above.
    void windowsAskForFilm() {
        rig::Rig rig = sim::clockBenchRig();
        PlanObject& window = *rig::findObject(*rig.plan, "window-1");
        window.filmStops = 0.0;
        const double over = *demoFact(rig, "window-1", "windowLevel").number;
        window.luxAtGlass *= std::exp2(4.8 - over);
        const words::ToldFact bare = demoFact(rig, "window-1", "windowLevel");
        QVERIFY(std::abs(*bare.number - 4.8) < 0.1 && bare.verdict == base::Verdict::Off);
        QVERIFY2(bare.change.find("Put ND film of 3 stops") == 0, bare.change.c_str());
        window.filmStops = 3.0;
        QVERIFY(std::abs(*demoFact(rig, "window-1", "windowLevel").number - 1.8) < 0.15);
        QCOMPARE(demoFact(rig, "window-1", "windowLevel").verdict, base::Verdict::Good);
        rig.choices.daylight = "blackout";
        QCOMPARE(demoFact(rig, "window-1", "daylight").verdict, base::Verdict::Near);
    }
    void overheadLoadsAndHotLampsAreCautioned() {
        rig::Rig rig = talk();
        PlanObject& lamp = *rig::findObject(*rig.plan, "light-1");
        lamp.mount = "overhead";
        QVERIFY(demoFact(rig, "light-1", "caution").why.find("safety bond") != std::string::npos);
        lamp.lightType = "tungsten spot";
        QVERIFY(demoFact(rig, "light-1", "caution").value.find("hot") != std::string::npos);
    }
    void whatCannotBeKnownIsUnknown() {
        rig::Rig rig = talk();
        rig.cameras[1].settings.isAutoExposure = true;
        const words::ToldFact fact =
            demoFact(rig, placeOfLetter(rig, 'B').id.c_str(), "exposureAgainstReference");
        QCOMPARE(fact.verdict, base::Verdict::Unknown);
        QVERIFY(!fact.number && fact.value == "unknown");
        rig.cameras[1].lens.focalLengthMm = 5000.0;
        const auto facts = words::told(SetAnalysis(rig).facts(placeOfLetter(rig, 'B').id));
        QCOMPARE(facts.size(), std::size_t{1});
        QVERIFY(facts[0].why.find("allowed is 1.0 to 2000.0 mm") != std::string::npos);
    }
    void lensLossAndPrompterAreInTheDifference() {
        rig::Rig rig = talk();
        placeOfLetter(rig, 'B').glassStops = 0.67;
        rig.cameras[1].lens.transmissionStops = 0.2;
        rig.cameras[1].filterStops = 0.1;
        QVERIFY(std::abs(plannedDifferenceStops(rig, rig.cameras[1], rig.cameras[0]) + 0.97) <
                1e-9);
    }
    void feetAreShownWhereWanted() {
        rig::Rig rig = talk();
        rig.plan->isInFeet = true;
        QVERIFY(words::told(SetAnalysis(rig).facts({}))[0].value.find("18.0 ft") == 0);
    }
    void movingSnapsFollowsAndStaysInside() {
        rig::SetPlan plan = *talk().plan;
        const PlanObject camera = *rig::findPlanCamera(plan, "camera-2");
        moveObject(plan, "person-1", 2.4, 2.3);
        const PlanObject& followed = *rig::findPlanCamera(plan, "camera-2");
        QVERIFY(std::abs(followed.aimXMetres - camera.aimXMetres - 0.3) < 1e-9);
        moveObject(plan, "person-1", -3.0, 99.0);
        QCOMPARE(rig::findObject(plan, "person-1")->xMetres, 0.0);
        QCOMPARE(rig::findObject(plan, "person-1")->zMetres, plan.depthMetres);
        QVERIFY(std::abs(snapped(plan, 1.234) - 1.25) < 1e-9);
        plan.isInFeet = true;
        QVERIFY(std::abs(snapped(plan, 0.30) - 0.3048) < 1e-9);
        plan.objects.push_back(newObject(plan, PlanKind::Window, 0.2, 3.0));
        QCOMPARE(plan.objects.back().xMetres, 0.0);
        QCOMPARE(plan.objects.back().facingDegrees, 90.0);
        removeObject(plan, "person-1");
        QVERIFY(rig::findPlanCamera(plan, "camera-2")->targetId.empty());
    }
    void mirroringMakesATwin() {
        rig::Rig rig = talk();
        placeOfLetter(rig, 'C').zMetres += 0.4;
        alignObjects(
            *rig.plan, {placeOfLetter(rig, 'B').id, placeOfLetter(rig, 'C').id}, Alignment::Mirror);
        const SetAnalysis set(rig);
        const auto b = headBox(*set.cameras()[1].view, *set.cameras()[1].subject);
        const auto c = headBox(*set.cameras()[2].view, *set.cameras()[2].subject);
        QVERIFY(b && c && std::abs(b->height() - c->height()) < 0.002);
        QVERIFY(std::abs(b->eyes.x - (1.0 - c->eyes.x)) < 0.005);
    }
    void framingPutsTheEyesOnTheThird() {
        rig::Rig rig = talk();
        PlanObject& b = placeOfLetter(rig, 'B');
        b.aimHeightMetres = 0.4;
        aimAtPerson(*rig.plan, &rig.cameras[1], b.id, "person-1");
        const SetAnalysis set(rig);
        const auto box = headBox(*set.cameras()[1].view, *set.cameras()[1].subject);
        QVERIFY2(std::abs(box->eyes.y - 1.0 / 3.0) < 0.01,
                 qPrintable(QString::number(box->eyes.y)));
    }
};

RIG_TEST(TestSetAnalysis);
#include "test_set_analysis.moc"
