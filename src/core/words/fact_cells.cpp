// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/fact_cells.h"
#include "words/english.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "jobs/match_job.h"
#include "words/match_text.h"
#include "words/reading_facts.h"

namespace rigmatch::words {

FactCell unknownCell(const std::string& why) {
    return {std::nullopt, 0.0, "unknown", match::Verdict::Unknown, why};
}

FactCell wordCell(const std::string& text, const std::string& why) {
    return {std::nullopt, 0.0, text, match::Verdict::Good, why};
}

namespace {

std::string tintText(const match::Measured& duv) {
    return "Tint: " + base::signedFixed(1000.0 * duv.value, 1) + " ± " +
           base::fixed(1000.0 * duv.uncertainty, 1) + " × 0.001 Duv.";
}

}  // namespace

FactCell numberCell(const match::Measured& measured,
                    int decimals,
                    bool isSigned,
                    const std::string& why) {
    FactCell cell;
    cell.value = measured.value;
    cell.uncertainty = measured.uncertainty;
    cell.text = isSigned ? base::signedFixed(measured.value, decimals)
                         : base::fixed(measured.value, decimals);
    const double least = std::pow(10.0, -decimals);
    if (measured.uncertainty > 0.0)
        cell.text += " ± " + base::fixed(std::max(measured.uncertainty, least), decimals);
    cell.why = why;
    return cell;
}

namespace {

/// The rows of one person's skin.
class SkinRows {
public:
    SkinRows(const match::MatchReport& report, std::size_t cameras, std::string name)
        : m_report(report), m_cameras(cameras), m_name(std::move(name)) {}

    [[nodiscard]] std::vector<FactRow> all() {
        addColour();
        addKeyFill();
        addLightColour();
        addCasts();
        addBackground();
        return std::move(m_rows);
    }

private:
    template <class Make>
    void row(
        const char* key, const char* title, const char* unit, const char* help, const Make& make) {
        FactRow made{key, "Skin of " + m_name, title, unit, help, {}};
        for (std::size_t i = 0; i < m_cameras && i < m_report.cameras.size(); ++i) {
            const auto& skin = m_report.cameras[i].skin;
            const auto found = std::find_if(
                skin.begin(), skin.end(), [&](const auto& one) { return one.person == m_name; });
            made.cells.push_back(found == skin.end()
                                     ? unknownCell("This camera does not see the face.")
                                     : make(*found));
        }
        m_rows.push_back(std::move(made));
    }

    void addColour() {
        row("skinLevelPercent",
            "Level",
            "% signal",
            "Luma of the forehead, or of the brighter cheek where the forehead is covered. No "
            "level is right for all skins: compare with the reference first; lit skin "
            "lies between 25 and 75 % in finished pictures (common practice).",
            [](const match::SkinDifference& s) {
                FactCell cell = numberCell(s.values.levelPercent, 1, false);
                cell.verdict = s.levelPercent.verdict;
                if (!s.values.isForehead) cell.why = "Read on the brighter cheek.";
                if (s.values.isManual) cell.why = "Read on a spot marked by hand.";
                return cell;
            });
        row("skinHueDegrees",
            "Hue",
            "°, Cb/Cr plane",
            "The skin line is drawn at 123° in the BT.709 Cb/Cr plane; one lit healthy skin falls "
            "within 15° of it (common practice).",
            [](const match::SkinDifference& s) {
                FactCell cell = numberCell(s.values.hueDegrees, 1, false);
                cell.verdict = s.hueDegrees.verdict;
                return cell;
            });
        row("skinSaturationPercent",
            "Saturation",
            "% signal",
            "Distance from neutral in the Cb/Cr plane.",
            [](const match::SkinDifference& s) {
                FactCell cell = numberCell(s.values.saturationPercent, 1, false);
                cell.verdict = s.saturationRatio.verdict;
                return cell;
            });
    }

    void addKeyFill() {
        row("keyFillStops",
            "Key : fill",
            "stops",
            "Own left cheek over the right one through this camera's own tone curve: + is a key "
            "from "
            "the person's own left.",
            [](const match::SkinDifference& s) {
                if (!s.values.keyFillStops)
                    return unknownCell("Both cheeks and a chart must be measured.");
                FactCell cell = numberCell(*s.values.keyFillStops, 2, true);
                cell.verdict = s.keyFillStops.verdict;
                cell.why = keySideText(s.values);
                if (!s.sideMismatch.empty()) cell.why = inEnglish(s.sideMismatch);
                return cell;
            });
    }

    void addLightColour() {
        row("keyFillMired",
            "Key : fill, colour of the light",
            "mired",
            "Light on the brighter cheek against the darker one (+ warmer): the skin is the same, "
            "the lamps are not. Over 10 mired: gel or set the lamps alike.",
            [](const match::SkinDifference& s) {
                if (!s.values.keyFillMired)
                    return unknownCell("Both cheeks and a chart must be measured.");
                FactCell cell = numberCell(*s.values.keyFillMired, 0, true);
                const double sure =
                    std::abs(s.values.keyFillMired->value) - s.values.keyFillMired->uncertainty;
                cell.verdict = sure > 20.0   ? match::Verdict::Off
                               : sure > 10.0 ? match::Verdict::Near
                                             : match::Verdict::Good;
                if (s.values.keyFillDuv) cell.why = tintText(*s.values.keyFillDuv);
                return cell;
            });
    }

    void addCasts() {
        const auto castRow = [this](const char* key,
                                    const char* title,
                                    std::optional<match::LightCast> match::SkinValues::*cast) {
            row(key,
                title,
                "mired",
                "How this camera renders what is neutral under the light of that cheek, against "
                "D65 (+ warmer): the chart's white balance, moved by how cheek and forehead "
                "differ. Where the two lights stay apart, no camera setting is right for both.",
                [cast](const match::SkinDifference& s) {
                    const auto& light = s.values.*cast;
                    if (!light)
                        return unknownCell(
                            "Both cheeks, the forehead and a chart must be measured.");
                    FactCell cell = numberCell(light->mired, 0, true);
                    cell.why = tintText(light->duv);
                    return cell;
                });
        };
        castRow("keyCastMired", "White balance, key side", &match::SkinValues::keyCast);
        castRow("fillCastMired", "White balance, fill side", &match::SkinValues::fillCast);
    }

    void addBackground() {
        row("backgroundStops",
            "Background against the face",
            "stops",
            "What stands beside the head against the lit skin. Brighter than the face, the eye "
            "goes to the wall (common practice).",
            [](const match::SkinDifference& s) {
                if (!s.values.backgroundStops)
                    return unknownCell("Needs a chart, and room beside the head within the curve.");
                FactCell cell = numberCell(*s.values.backgroundStops, 1, true);
                cell.verdict = s.values.backgroundStops->value > 0.0 ? match::Verdict::Near
                                                                     : match::Verdict::Good;
                return cell;
            });
    }

    const match::MatchReport& m_report;
    std::size_t m_cameras;
    std::string m_name;
    std::vector<FactRow> m_rows;
};

}  // namespace

std::vector<FactRow> skinFacts(const match::MatchReport& report, std::size_t cameras) {
    std::vector<FactRow> rows;
    std::vector<std::string> people;
    for (const match::CameraMatch& camera : report.cameras) {
        for (const match::SkinDifference& person : camera.skin) {
            if (std::find(people.begin(), people.end(), person.person) == people.end())
                people.push_back(person.person);
        }
    }
    for (const std::string& name : people) {
        for (FactRow& row : SkinRows(report, cameras, name).all()) rows.push_back(std::move(row));
    }
    return rows;
}

}  // namespace rigmatch::words
