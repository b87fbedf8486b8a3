// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures drawn here: a wall, a head with shoulders, and what stands around them.
#include <cmath>
#include <random>

#include "framing/bright_spots.h"
#include "framing/focus_watch.h"
#include "framing/framing_surroundings.h"
#include "framing/key_screen.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

constexpr int kDrawnWidth = 1280, kDrawnHeight = 720;
const framing::HeadBox kDrawnHead{560.0, 200.0, 700.0, 390.0};

using DrawnColour = std::array<float, 3>;

class Drawing {
public:
    explicit Drawing(const DrawnColour& wall)
        : m_frame(image::blankFrame(kDrawnWidth, kDrawnHeight)) {
        fill(0, 0, kDrawnWidth, kDrawnHeight, wall);
    }

    Drawing& fill(int left, int top, int right, int bottom, const DrawnColour& colour) {
        for (int y = std::max(top, 0); y < std::min(bottom, kDrawnHeight); ++y)
            for (int x = std::max(left, 0); x < std::min(right, kDrawnWidth); ++x)
                put(x, y, colour);
        return *this;
    }
    Drawing& ball(double cx, double cy, double rx, double ry, const DrawnColour& colour) {
        for (int y = 0; y < kDrawnHeight; ++y) {
            for (int x = 0; x < kDrawnWidth; ++x) {
                if (std::pow((x - cx) / rx, 2) + std::pow((y - cy) / ry, 2) < 1.0)
                    put(x, y, colour);
            }
        }
        return *this;
    }
    /// Skin, hair and a dark coat.
    Drawing& person(const DrawnColour& skin = {0.62F, 0.48F, 0.40F}) {
        ball(630.0, 700.0, 260.0, 260.0, {0.20F, 0.20F, 0.24F});
        ball(630.0, 295.0, 70.0, 95.0, {0.16F, 0.12F, 0.10F});
        ball(630.0, 310.0, 62.0, 78.0, skin);
        return *this;
    }
    template <class Change>
    Drawing& change(Change change) {
        for (int y = 0; y < kDrawnHeight; ++y) {
            for (int x = 0; x < kDrawnWidth; ++x) {
                DrawnColour colour{m_frame.at(0, x, y), m_frame.at(1, x, y), m_frame.at(2, x, y)};
                change(x, y, colour);
                put(x, y, colour);
            }
        }
        return *this;
    }
    [[nodiscard]] image::CodedFrame frame(double seconds = 0.0) const {
        image::SignalTags tags;
        tags.matrix = image::Matrix::Bt709;
        tags.range = image::Range::Limited;
        image::CodedFrame coded = image::codedFromSignal(m_frame, tags, 10);
        coded.seconds = seconds;
        return coded;
    }

private:
    void put(int x, int y, const DrawnColour& colour) {
        const auto at = static_cast<std::size_t>(y) * kDrawnWidth + static_cast<std::size_t>(x);
        for (std::size_t c = 0; c < 3; ++c) m_frame.channels[c][at] = colour[c];
    }
    image::Frame m_frame;
};

constexpr DrawnColour kDrawnWall{0.30F, 0.29F, 0.28F}, kDrawnLamp{0.97F, 0.95F, 0.90F};

std::vector<rig::BrightSpot> spotsOf(const Drawing& drawing) {
    return framing::brightSpots(drawing.frame(), {kDrawnHead});
}

/// Light that falls off by so many stops from left to right.
void fallOff(Drawing& drawing, double stops) {
    drawing.change([stops](int x, int, DrawnColour& colour) {
        const double gain = std::exp2(-stops * x / kDrawnWidth / 2.4);
        for (float& channel : colour) channel *= static_cast<float>(gain);
    });
}

std::map<std::string, base::Finding> aroundFindings(const rig::FramingReading& reading) {
    framing::FramedCamera camera;
    camera.id = "camera-1";
    camera.reading = &reading;
    camera.width = kDrawnWidth;
    camera.height = kDrawnHeight;
    std::vector<base::Finding> all;
    framing::addSurroundings(camera, all);
    std::map<std::string, base::Finding> byName;
    for (const base::Finding& one : all) byName[one.quantity] = one;
    return byName;
}

}  // namespace

class TestSurroundings : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void brightThingsAreSeenWhereTheyStand_data() {
        QTest::addColumn<QRect>("lamp");
        QTest::addColumn<QString>("where");
        QTest::newRow("left edge") << QRect(0, 300, 50, 90) << "left";
        QTest::newRow("right edge") << QRect(1225, 80, 55, 60) << "right";
        QTest::newRow("upper edge") << QRect(900, 0, 120, 40) << "top";
        QTest::newRow("lower edge") << QRect(200, 690, 100, 30) << "bottom";
        QTest::newRow("over the head") << QRect(600, 90, 60, 95) << "head";
        QTest::newRow("within, away from the head") << QRect(250, 200, 60, 60) << "";
        QTest::newRow("too small to see") << QRect(0, 300, 6, 6) << "";
    }
    void brightThingsAreSeenWhereTheyStand() {
        QFETCH(QRect, lamp);
        QFETCH(QString, where);
        Drawing drawing(kDrawnWall);
        drawing.person();
        drawing.fill(lamp.left(), lamp.top(), lamp.right() + 1, lamp.bottom() + 1, kDrawnLamp);
        const auto spots = spotsOf(drawing);
        QCOMPARE(spots.size(), std::size_t(where.isEmpty() ? 0 : 1));
        if (where.isEmpty()) return;
        QCOMPARE(QString::fromStdString(spots[0].where), where);
        QVERIFY(std::abs(spots[0].left * kDrawnWidth - lamp.left()) < 6.0);
        QVERIFY(std::abs(spots[0].height * kDrawnHeight - lamp.height()) < 8.0);
    }
    /// A bright wall, a window over half of the picture, a white collar and a shining forehead are
    /// no spots.
    void whatIsUsualIsNoSpot() {
        Drawing light({0.85F, 0.85F, 0.83F});
        light.person();
        QVERIFY(spotsOf(light).empty());
        Drawing window(kDrawnWall);
        window.person();
        window.fill(0, 0, 420, kDrawnHeight, kDrawnLamp);
        QVERIFY(spotsOf(window).empty());
        Drawing collar(kDrawnWall);
        collar.person();
        collar.fill(590, 385, 670, 410, {0.80F, 0.80F, 0.80F});
        collar.ball(640.0, 265.0, 14.0, 10.0, {0.95F, 0.9F, 0.85F});
        QVERIFY(spotsOf(collar).empty());
        Drawing dim({0.05F, 0.05F, 0.05F});
        dim.person({0.30F, 0.22F, 0.18F});
        dim.fill(0, 300, 60, 400, {0.12F, 0.12F, 0.12F});
        QVERIFY(spotsOf(dim).empty());
    }
    void aLineIntoTheHeadIsSeen() {
        Drawing plain(kDrawnWall);
        plain.person();
        QVERIFY(!framing::hasLineOver(plain.frame(), kDrawnHead));
        Drawing stand(kDrawnWall);
        stand.fill(632, 0, 646, 400, {0.08F, 0.08F, 0.08F}).person();
        QVERIFY(framing::hasLineOver(stand.frame(), kDrawnHead));
        // One that stands beside it, or lies across, does not run into it.
        Drawing beside(kDrawnWall);
        beside.fill(760, 0, 774, 720, {0.08F, 0.08F, 0.08F}).person();
        QVERIFY(!framing::hasLineOver(beside.frame(), kDrawnHead));
        Drawing across(kDrawnWall);
        across.fill(0, 140, kDrawnWidth, 154, {0.08F, 0.08F, 0.08F}).person();
        QVERIFY(!framing::hasLineOver(across.frame(), kDrawnHead));
        // No room over the head tells nothing.
        QVERIFY(!framing::hasLineOver(stand.frame(), {560.0, 12.0, 700.0, 390.0}));
    }
    /// Stops by the light that was drawn: a fall-off over the width, of which the middle nine
    /// tenths count.
    void aKeyScreenIsMeasured_data() {
        QTest::addColumn<QString>("hue");
        QTest::addColumn<double>("stops");
        QTest::newRow("green, even") << "green" << 0.0;
        QTest::newRow("green, half a stop") << "green" << 0.5;
        QTest::newRow("blue, a stop") << "blue" << 1.0;
    }
    void aKeyScreenIsMeasured() {
        QFETCH(QString, hue);
        QFETCH(double, stops);
        const DrawnColour cloth =
            hue == "green" ? DrawnColour{0.22F, 0.62F, 0.25F} : DrawnColour{0.14F, 0.25F, 0.68F};
        Drawing drawing(cloth);
        drawing.person();
        fallOff(drawing, stops);
        const auto screen = framing::keyScreen(drawing.frame(), {kDrawnHead});
        QVERIFY(screen.has_value());
        QCOMPARE(QString::fromStdString(screen->hue), hue);
        QVERIFY2(std::abs(screen->evennessStops.value - 0.9 * stops) <
                     0.03 + 2.0 * screen->evennessStops.uncertainty,
                 qPrintable(QString::number(screen->evennessStops.value)));
        QVERIFY(screen->areaShare > 0.5 && screen->areaShare < 0.95);
        QVERIFY2(screen->spillShare < 0.05, qPrintable(QString::number(screen->spillShare)));
    }
    /// Its own colour laid on the person's edge, a quarter of it.
    void spillIsSeenOnThePersonsEdge() {
        const DrawnColour cloth{0.22F, 0.62F, 0.25F};
        Drawing drawing(cloth);
        drawing.person();
        drawing.change([](int x, int y, DrawnColour& colour) {
            const double r = std::hypot((x - 630.0) / 70.0, (y - 295.0) / 95.0);
            // A rim 20 px wide about the head.
            if (r < 1.0 && r > 0.72) colour[1] += 0.25F * 0.385F;
        });
        const auto screen = framing::keyScreen(drawing.frame(), {kDrawnHead});
        QVERIFY(screen.has_value());
        QVERIFY2(screen->spillShare > 0.15 && screen->spillShare < 0.35,
                 qPrintable(QString::number(screen->spillShare)));
    }
    void greenThingsAreNoScreen() {
        Drawing plant(kDrawnWall);
        plant.fill(0, 100, 260, 700, {0.15F, 0.45F, 0.16F}).person();
        QVERIFY(!framing::keyScreen(plant.frame(), {kDrawnHead}));
        Drawing wall({0.52F, 0.55F, 0.53F});
        wall.person();
        QVERIFY(!framing::keyScreen(wall.frame(), {kDrawnHead}));
        // A screen that nobody sits before is told when somebody does.
        Drawing screen({0.22F, 0.62F, 0.25F});
        QVERIFY(!framing::keyScreen(screen.frame(), {}));
    }
    /// A focus that leaves for two fifths of a second twice, against one that stays, with grain.
    void huntingIsSeen_data() {
        QTest::addColumn<QString>("kind");
        QTest::newRow("still") << "still";
        QTest::newRow("hunts twice") << "hunts";
        QTest::newRow("brighter and darker") << "exposure";
        QTest::newRow("moves on") << "moves";
        QTest::newRow("an encoder that settles") << "settles";
    }
    void huntingIsSeen() {
        QFETCH(QString, kind);
        std::mt19937 random(5);
        std::normal_distribution<float> normal(0.0F, 0.006F);
        std::vector<DrawnColour> tiles;
        std::uniform_real_distribution<float> level(0.15F, 0.75F);
        for (int i = 0; i < 200 * 120; ++i) tiles.push_back(DrawnColour{level(random), 0.0F, 0.0F});
        framing::FocusWatch watch;
        for (int i = 0; i < 30; ++i) {
            const double seconds = 0.2 * i;
            const bool isSoft = kind == "hunts" ? (i >= 8 && i < 10) || (i >= 20 && i < 22)
                                                : kind == "moves" && i >= 18;
            const double gain = kind == "exposure" ? 1.0 + 0.2 * std::sin(0.9 * i) : 1.0;
            // Squares of 7 px, joined over 1 px when sharp and over 4 when soft.
            const double join = isSoft ? 4.0 : kind == "settles" && i < 2 ? 2.35 : 1.0;
            Drawing drawing(kDrawnWall);
            drawing.change([&](int x, int y, DrawnColour& colour) {
                const auto at = [&](int i0, int j0) {
                    return static_cast<double>(
                        tiles[static_cast<std::size_t>((j0 + 1) * 200 + i0 + 1)][0]);
                };
                const auto part = [&](int v) {
                    const double within = v % 7 + 0.5;
                    return std::clamp((within - 3.5) / join + 0.5, 0.0, 1.0);
                };
                const double u = part(x), v = part(y);
                const int i0 = x / 7, j0 = y / 7;
                const double value = (at(i0, j0) * (1 - u) + at(i0 + 1, j0) * u) * (1 - v) +
                                     (at(i0, j0 + 1) * (1 - u) + at(i0 + 1, j0 + 1) * u) * v;
                const float coded = static_cast<float>(gain * value) + normal(random);
                colour = {coded, coded, coded};
            });
            watch.take(drawing.frame(seconds));
        }
        const auto focus = watch.report();
        QVERIFY(focus.has_value());
        const std::size_t wanted = kind == "hunts" ? 2 : kind == "moves" ? 1 : 0;
        QCOMPARE(focus->hunts.size(), wanted);
        if (kind == "hunts") {
            QVERIFY(std::abs(focus->hunts[0].startSeconds - 1.6) < 0.01);
            QVERIFY(std::abs(focus->hunts[1].endSeconds - 4.2) < 0.01);
            QVERIFY(!focus->hunts[0].hasStayed);
            QVERIFY(focus->breathing && std::abs(*focus->breathing) < 0.002);
        }
        if (kind == "moves") QVERIFY(focus->hunts[0].hasStayed);
    }
    void findingsSayWhatToDo() {
        rig::FramingReading reading;
        reading.people.resize(1);
        reading.people[0].hasLineOver = true;
        reading.brightSpots = {{0.0, 0.4, 0.04, 0.1, 0.95, "left"},
                               {0.0, 0.7, 0.02, 0.05, 0.95, "left"}};
        reading.keyScreen = rig::KeyScreen{"green", 0.6, {0.9, 0.03}, 0.3, 0.6, 0.3};
        reading.focusOverTime = rig::FocusOverTime{50, {{1.0, 1.4, 0.8, false}}, 0.01};
        auto found = aroundFindings(reading);
        QCOMPARE(found["lineOverHead"].advice.code, std::string("moveOffLine"));
        QCOMPARE(found["spotAtLeft"].advice.code, std::string("hideSpot"));
        QVERIFY(found["spotAtLeft"].verdict == base::Verdict::Near);
        QVERIFY(found["keyEvenness"].verdict == base::Verdict::Off);
        QCOMPARE(found["keyEvenness"].advice.code, std::string("evenScreen"));
        QCOMPARE(found["keyLevel"].advice.code, std::string("brightenScreen"));
        QVERIFY(found["keySaturation"].verdict == base::Verdict::Good);
        QCOMPARE(found["keySpill"].advice.code, std::string("awayFromScreen"));
        QVERIFY(found["focusHunts"].verdict == base::Verdict::Near);
        QCOMPARE(found["focusHunts"].advice.code, std::string("lockFocus"));
        // Two spots at one edge are one thing to do.
        QCOMPARE(found.size(), std::size_t{7});
        reading = {};
        QVERIFY(aroundFindings(reading).empty());
    }
};

RIG_TEST(TestSurroundings);
#include "test_surroundings.moc"
