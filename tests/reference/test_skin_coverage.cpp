// SPDX-License-Identifier: GPL-3.0-or-later
// Skin between two cameras: stated uncertainties against the light of the scene, sent through
// cameras that share no code with the product (own_chart.h). The heads are rendered stand-ins, each
// seen from two places; the truth is what both cameras make of the very same light.
#include "face/face_finder.h"
#include "face/skin_patch.h"
#include "match/skin.h"
#include "support/coverage.h"
#include "support/found_faces.h"
#include "support/own_truth.h"
#include "support/sitting.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::CoverageRow;
using support::OwnCamera;
using support::OwnRandom;
using support::own::Triple;

namespace {

constexpr unsigned kSkinSeed = 61130;
constexpr support::own::Size kSize{960, 540};

/// A head from one place: its light, and where a clean picture of it shows skin.
struct View {
    image::Frame light;
    face::Face face;
};
struct Head {
    std::array<View, 2> views;
};

double cross(const image::Point& a, const image::Point& b, double x, double y) {
    return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
}

/// Winding number of an outline about a pixel's centre is not zero.
bool isInside(const std::vector<image::Point>& outline, double x, double y) {
    int winding = 0;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const image::Point a = outline[i], b = outline[(i + 1) % outline.size()];
        if (a.y <= y && b.y > y && cross(a, b, x, y) > 0) ++winding;
        if (a.y > y && b.y <= y && cross(a, b, x, y) < 0) --winding;
    }
    return winding != 0;
}

/// Mean over the pixels inside an outline of what `of` makes of their light, without the darkest
/// and the brightest tenth (hair, rims, shine).
template <typename Of>
Triple meanInside(const image::Frame& light, const std::vector<image::Point>& outline, Of of) {
    const image::PixelRect box = image::boundsOf(outline);
    std::vector<std::pair<double, Triple>> pixels;
    for (int y = std::max(box.y, 0); y < std::min(box.y + box.height, light.height); ++y) {
        for (int x = std::max(box.x, 0); x < std::min(box.x + box.width, light.width); ++x) {
            if (!isInside(outline, x, y)) continue;
            const Triple here{light.at(0, x, y), light.at(1, x, y), light.at(2, x, y)};
            pixels.emplace_back(0.2126 * here[0] + 0.7152 * here[1] + 0.0722 * here[2], of(here));
        }
    }
    std::sort(pixels.begin(), pixels.end(), [](const auto& a, const auto& b) {
        return a.first < b.first;
    });
    const std::size_t left = pixels.size() / 4;
    Triple sum{};
    for (std::size_t i = left; i + left < pixels.size(); ++i)
        for (std::size_t c = 0; c < 3; ++c) sum[c] += pixels[i].second[c];
    for (double& value : sum) value /= static_cast<double>(pixels.size() - 2 * left);
    return sum;
}

/// Luma, Cb and Cr of ITU-R BT.709-6.
struct Colour {
    double luma, hueDegrees, saturation;
};
Colour colourOf(const Triple& rgb) {
    const double luma = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
    const double cb = (rgb[2] - luma) / 1.8556, cr = (rgb[0] - luma) / 1.5748;
    return {luma, std::atan2(cr, cb) * 180.0 / std::numbers::pi, std::hypot(cb, cr)};
}

image::CodedFrame recorded(const image::Frame& light, const OwnCamera& camera, OwnRandom& random) {
    std::array<std::vector<double>, 3> picture;
    for (auto& plane : picture) plane.reserve(light.channels[0].size());
    for (std::size_t i = 0; i < light.channels[0].size(); ++i) {
        const Triple signal = support::own::signalOf(
            camera, {light.channels[0][i], light.channels[1][i], light.channels[2][i]});
        for (std::size_t c = 0; c < 3; ++c) picture[c].push_back(std::min(signal[c], 1.09));
    }
    for (auto& plane : picture) support::own::blur(plane, camera.blurPx, kSize);
    return support::ownFrame(picture, camera, random.generator, kSize);
}

std::optional<rig::FaceReading> faceIn(const image::CodedFrame& frame, face::FaceFinder& finder) {
    const auto faces = finder.find(frame);
    if (!faces || faces->empty()) return std::nullopt;
    return support::readingOf(frame, faces->front());
}

/// One head in the light that lays its forehead at a share of diffuse white.
std::optional<Head> headOf(int number, face::FaceFinder& finder, OwnRandom& random) {
    const bool isDark = number % 2 == 1;
    support::Sitting sitting;
    sitting.turnDegrees = random.between(-18.0, 18.0);
    sitting.headShare = random.between(0.25, 0.42);
    sitting.skin = isDark ? 0.1 : 0.29;
    const double apart = std::array{0.0, 12.0, 24.0, 35.0}[static_cast<std::size_t>(number % 4)];
    const double share = isDark ? random.between(0.08, 0.16) : random.between(0.25, 0.48);
    Head head;
    for (std::size_t v = 0; v < 2; ++v) {
        sitting.cameraDegrees = 0.3 * sitting.turnDegrees + (v == 0 ? -0.5 : 0.5) * apart;
        View& view = head.views[v];
        view.light = support::seenOf(sitting).linear;
        OwnCamera plain;
        plain.readNoise = plain.photonNoise = 0.0;
        plain.chromaShift = 0;
        // Bright enough for the face to be found, then laid where it shall be.
        for (const bool isLaid : {false, true}) {
            const auto faces = finder.find(recorded(view.light, plain, random));
            if (!faces || faces->empty()) return std::nullopt;
            view.face = faces->front();
            if (isLaid) break;
            const Triple forehead = meanInside(
                view.light, view.face.forehead, [](const Triple& light) { return light; });
            const double luminance =
                0.2126 * forehead[0] + 0.7152 * forehead[1] + 0.0722 * forehead[2];
            const auto scale = static_cast<float>(share / std::max(luminance, 1e-6));
            for (auto& channel : view.light.channels)
                for (float& value : channel) value *= scale;
        }
    }
    return head;
}

}  // namespace

class TestSkinCoverage : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void differencesOfSkinCoverTheTruth() {
        OwnRandom random = support::coverageRandom(kSkinSeed);
        face::FaceFinder finder = *face::FaceFinder::create();
        CoverageRow level{"skin level, %"}, hue{"skin hue, degrees"}, saturation{"skin saturation"},
            keyFill{"key : fill against it, stop"}, one{"key : fill, stop"};
        const int heads = support::isFullSample() ? 12 : 5;
        const int pairs = support::isFullSample() ? 34 : 1;
        int missed = 0;
        for (int number = 0; number < heads; ++number) {
            const auto head = headOf(number, finder, random);
            for (int pair = 0; pair < pairs; ++pair) {
                std::array<OwnCamera, 2> cameras{support::randomOwnCamera(random),
                                                 support::randomOwnCamera(random)};
                std::array<rig::Reading, 2> readings;
                std::array<std::optional<match::NeutralFit>, 2> fits;
                bool isWhole = head.has_value();
                for (std::size_t v = 0; v < 2 && isWhole; ++v) {
                    const auto face =
                        faceIn(recorded(head->views[v].light, cameras[v], random), finder);
                    if (const auto fit =
                            match::fitNeutrals(support::ownReading(cameras[v], random, 5)))
                        fits[v] = *fit;
                    isWhole = face.has_value() && fits[v].has_value();
                    if (isWhole) readings[v].faces = {*face};
                }
                if (!isWhole) {
                    ++missed;
                    continue;
                }
                const auto skins = match::compareSkin({{"one", {{"a", 0}, {"b", 0}}}},
                                                      "b",
                                                      readings[1],
                                                      &*fits[1],
                                                      "a",
                                                      &readings[0],
                                                      &*fits[0]);
                if (skins.empty()) continue;
                double levels = 0.0, hues = 0.0, ratios = 0.0;
                for (const View& view : head->views) {
                    const auto seen = [&](const OwnCamera& camera) {
                        return colourOf(
                            meanInside(view.light, view.face.forehead, [&](const Triple& light) {
                                return support::own::signalOf(camera, light);
                            }));
                    };
                    const Colour mine = seen(cameras[1]), theirs = seen(cameras[0]);
                    levels += 50.0 * (mine.luma - theirs.luma);
                    hues += 0.5 * std::remainder(mine.hueDegrees - theirs.hueDegrees, 360.0);
                    ratios += 0.5 * mine.saturation / theirs.saturation;
                }
                level.take(skins[0].levelPercent, levels);
                hue.take(skins[0].hueDegrees, hues);
                saturation.take(skins[0].saturationRatio, ratios);
                keyFill.take(skins[0].keyFillStops, 0.0);
                const face::Face& clean = head->views[1].face;
                if (!skins[0].values.keyFillStops || clean.leftCheek.empty() ||
                    clean.rightCheek.empty())
                    continue;
                const auto lit = [&](const std::vector<image::Point>& outline) {
                    const Triple light = meanInside(
                        head->views[1].light, outline, [](const Triple& value) { return value; });
                    return 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2];
                };
                one.take(*skins[0].values.keyFillStops,
                         std::log2(lit(clean.leftCheek) / lit(clean.rightCheek)));
            }
        }
        qInfo("%d pairs without a face on both", missed);
        const std::array rows{&level, &hue, &saturation, &keyFill, &one};
        for (const CoverageRow* row : rows) row->tell();
        for (const CoverageRow* row : rows) QVERIFY2(row->isCovered(), row->name);
    }
};

RIG_TEST(TestSkinCoverage);
#include "test_skin_coverage.moc"
