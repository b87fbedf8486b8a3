// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/reading_facts.h"
#include "match/sharpness_turn.h"
#include "words/english.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "jobs/match_job.h"
#include "match/curve_identity.h"
#include "match/details.h"
#include "words/fact_cells.h"
#include "words/match_text.h"

namespace rigmatch::words {
namespace {

using match::Measured;
using match::Verdict;

constexpr double kFallNear = 0.1;  // stops across the chart (sources 5.9)
constexpr double kFallOff = 0.3;
constexpr double kCleanPercent = 0.5;  // below, noise is not seen (common practice)
constexpr double kNoiseError = 0.1;  // own estimate: codecs keep noise unevenly from frame to frame
constexpr double kSharpPx = 1.5;     // below, the edge is as sharp as pixels allow (own choice)

/// One camera's side of the table.
struct Column {
    const rig::Reading* reading = nullptr;
    const match::CameraMatch* match = nullptr;  ///< null: alone
    std::optional<rig::Reading> even;           ///< uneven light taken out, where there was any
    std::optional<match::NeutralFit> fit;
    std::optional<match::CurveIdentity> identity;
    match::ProfileClass profile;  ///< where there is a fit
    std::optional<match::Drift> drift;
    std::optional<match::OffMiddle> place;  ///< where the camera's lens is known
    std::optional<colour::TransferCurve> declared;
    bool isReference = false;

    [[nodiscard]] const rig::Reading& evenReading() const { return even ? *even : *reading; }
    [[nodiscard]] bool hasChart() const { return reading != nullptr && reading->hasChart; }
};

const colour::TransferCurve* declaredOf(const Column& column) {
    return column.declared ? &*column.declared : nullptr;
}

/// Verdict of a ratio to the reference's value; good where both stay below what anyone sees.
Verdict ratioVerdict(double mine, double theirs, double unseen, double good, double accept) {
    if (mine <= unseen && theirs <= unseen) return Verdict::Good;
    if (mine <= 0.0 || theirs <= 0.0) return Verdict::Unknown;
    const double ratio = std::max(mine / theirs, theirs / mine);
    return ratio <= good ? Verdict::Good : ratio <= accept ? Verdict::Near : Verdict::Off;
}

class TableMaker {
public:
    explicit TableMaker(std::vector<Column> columns) : m_columns(std::move(columns)) {
        for (const Column& column : m_columns) {
            if (column.isReference) m_reference = &column;
        }
    }

    std::vector<FactRow> rows() {
        addTone();
        addCasts();
        addSectors();
        addPicture();
        addEdges();
        addChart();
        addPlace();
        addVeil();
        addDrift();
        return std::move(m_rows);
    }

private:
    static constexpr const char* kAssumed =
        "The chart has too few greys for a curve; an assumed one is used.";
    static constexpr const char* kNoChart = "No chart was measured on this camera.";

    template <class Make>
    void add(const std::string& key,
             const std::string& group,
             const std::string& title,
             const std::string& unit,
             const std::string& help,
             const Make& make) {
        FactRow row{key, group, title, unit, help, {}};
        for (const Column& column : m_columns)
            row.cells.push_back(column.fit ? make(column) : unknownCell(kNoChart));
        m_rows.push_back(std::move(row));
    }

    void addTone() {
        add("profileClass",
            "Tone",
            "Kind of picture",
            "",
            "Finished, flat, log or HLG, by slope at grey, shadows and shoulder of the grey row.",
            [](const Column& c) {
                if (c.fit->isCurveAssumed) return unknownCell(kAssumed);
                const match::ProfileClass& profile = c.profile;
                return wordCell(profile.name,
                                base::fixed(profile.slopePercentPerStop, 1) +
                                    " % per stop at grey, black patch at " +
                                    base::fixed(profile.blackPercent, 1) + " %, " +
                                    (profile.shoulder < 0.7 ? "rolled off above neutral 8."
                                                            : "no knee up to white."));
            });
        add("publishedCurve",
            "Tone",
            "Published curve",
            "",
            "Each grey predicted from the others through every published curve; one is named where "
            "it fits within 0.6 % and no other does.",
            [](const Column& c) {
                const auto& identity = c.identity;
                if (!identity) return unknownCell("Fewer than four greys are unclipped.");
                std::string tried;
                for (const match::CurveCandidate& candidate : identity->candidates)
                    tried += (tried.empty() ? "" : ", ") + candidate.name + " " +
                             base::fixed(candidate.errorPercent, 2) + " %";
                return identity->isIdentified
                           ? wordCell(identity->best().name, "Errors: " + tried + ".")
                           : wordCell("none told", "Nearest: " + tried + ".");
            });
        add("shoulderRatio",
            "Tone",
            "Slope near white",
            "",
            "Slope between the two lightest greys over the slope at grey; below 0.7 is a knee.",
            [](const Column& c) {
                if (c.fit->isCurveAssumed) return unknownCell(kAssumed);
                return numberCell({c.profile.shoulder, c.profile.shoulderError}, 2, false);
            });
    }

    void addCasts() {
        const auto cast = [this](const char* where, const char* title, const auto& measure) {
            const std::string key = where;
            add(key + "CastMired",
                "White balance",
                title,
                "mired",
                "How much warmer (+) or cooler than the middle greys.",
                [&](const Column& c) {
                    const auto found = measure(*c.reading, *c.fit);
                    if (!found) return unknownCell("These greys are clipped or beyond the curve.");
                    FactCell cell = numberCell(found->mired, 0, true);
                    cell.verdict = std::abs(found->mired.value) <= 5.0    ? Verdict::Good
                                   : std::abs(found->mired.value) <= 10.0 ? Verdict::Near
                                                                          : Verdict::Off;
                    cell.why = "Tint there: " + base::signedFixed(1000.0 * found->duv.value, 1) +
                               " ± " + base::fixed(1000.0 * found->duv.uncertainty, 1) +
                               " × 0.001 Duv.";
                    return cell;
                });
        };
        cast("highlight", "Cast of the light greys", match::highlightCast);
        cast("shadow", "Cast of black", match::shadowCast);
    }

    void addSectors() {
        if (m_reference == nullptr || !m_reference->fit) return;
        std::vector<std::array<match::HueSector, 6>> all(m_columns.size());
        for (std::size_t i = 0; i < m_columns.size(); ++i) {
            const Column& column = m_columns[i];
            const bool isCompared = column.match != nullptr && column.match->compared &&
                                    column.match->differences.fit &&
                                    m_reference->match != nullptr && m_reference->match->compared;
            if (isCompared && !column.isReference)
                all[i] = match::hueSectors(*column.match->compared,
                                           column.match->differences,
                                           *m_reference->match->compared);
        }
        const auto addRows = [&](const SectorPart& part) {
            for (std::size_t s = 0; s < 6; ++s) {
                std::string name;
                for (const auto& sectors : all) {
                    if (!sectors[s].name.empty()) name = sectors[s].name;
                }
                if (name.empty()) continue;
                FactRow row{
                    name + part.key, part.group, "Colours near " + name, part.unit, part.help, {}};
                for (std::size_t i = 0; i < m_columns.size(); ++i)
                    row.cells.push_back(sectorCell(m_columns[i], all[i][s].*part.value, part));
                m_rows.push_back(std::move(row));
            }
        };
        addRows({"Saturation",
                 "Saturation",
                 "× the reference",
                 "Saturation as a ratio to the reference's, exposure and white balance taken out.",
                 &match::HueSector::saturationRatio,
                 match::Quality::Saturation,
                 2});
        addRows({"Hue",
                 "Hue",
                 "°",
                 "Hue in degrees (+ anticlockwise) against the reference, exposure and white "
                 "balance taken out.",
                 &match::HueSector::hueDegrees,
                 match::Quality::Hue,
                 1});
    }

    /// One of the two numbers of a sector, as a group of rows.
    struct SectorPart {
        const char* key;
        const char* group;
        const char* unit;
        const char* help;
        match::Difference match::HueSector::*value;
        match::Quality quality;
        int decimals;
    };

    static FactCell sectorCell(const Column& column,
                               const match::Difference& difference,
                               const SectorPart& part) {
        if (column.isReference) return wordCell("reference");
        if (!difference.value)
            return unknownCell(difference.reason.empty() ? kNoChart : inEnglish(difference.reason));
        FactCell cell;
        cell.value = *difference.value;
        cell.uncertainty = difference.uncertainty;
        cell.text =
            cellText(part.quality, difference).value + " ± " +
            base::fixed(std::max(cell.uncertainty, std::pow(10.0, -part.decimals)), part.decimals);
        cell.verdict = difference.verdict;
        return cell;
    }

    void addPicture() {
        const auto noise = [this](const char* key, const char* title, auto member, auto error) {
            add(key,
                "Noise and edges",
                title,
                "% signal",
                "Standard deviation from frame to frame, green; the file's compression takes some "
                "away.",
                [&](const Column& c) {
                    if (!c.reading->noise) return unknownCell("Noise needs a clip.");
                    const double value = 100.0 * ((*c.reading->noise).*member)[1];
                    FactCell cell = numberCell(
                        {value,
                         std::hypot(kNoiseError * value, 100.0 * ((*c.reading->noise).*error)[1])},
                        2,
                        false);
                    cell.why = "Signal to noise " +
                               base::fixed(20.0 * std::log10(100.0 / std::max(value, 1e-3)), 0) +
                               " dB.";
                    if (m_reference != nullptr && m_reference->reading->noise)
                        cell.verdict =
                            ratioVerdict(value,
                                         100.0 * ((*m_reference->reading->noise).*member)[1],
                                         kCleanPercent,
                                         1.5,
                                         2.5);
                    return cell;
                });
        };
        noise("noiseGreyPercent",
              "Noise on grey",
              &rig::NoiseReading::grey,
              &rig::NoiseReading::greyError);
        noise("noiseBlackPercent",
              "Noise on black",
              &rig::NoiseReading::black,
              &rig::NoiseReading::blackError);
    }

    void addEdges() {
        const auto edge = [this](const Column& c, double value, double error, double theirs) {
            FactCell cell = numberCell({value, error}, 1, false);
            if (m_reference != nullptr && m_reference->reading->sharpness)
                cell.verdict = ratioVerdict(value / c.reading->width,
                                            theirs / m_reference->reading->width,
                                            kSharpPx / c.reading->width,
                                            1.3,
                                            1.7);
            return cell;
        };
        const char* small = "The chart's patches must be 20 px wide or more.";
        add("edgeWidthPx",
            "Noise and edges",
            "Edge width",
            "px",
            "From 10 to 90 % of the step at the lower edges of the light greys (ISO 12233's edge "
            "spread); focus, lens and sharpening together.",
            [&](const Column& c) {
                if (!c.reading->sharpness) return unknownCell(small);
                return edge(c,
                            c.reading->sharpness->widthPx,
                            c.reading->sharpness->widthErrorPx,
                            m_reference != nullptr && m_reference->reading->sharpness
                                ? m_reference->reading->sharpness->widthPx
                                : 0.0);
            });
        add("edgeOvershootPercent",
            "Noise and edges",
            "Edge overshoot",
            "% of the step",
            "What in-camera sharpening leaves beside an edge; set detail lower, and equal.",
            [&](const Column& c) {
                if (!c.reading->sharpness) return unknownCell(small);
                FactCell cell = numberCell({c.reading->sharpness->overshootPercent,
                                            c.reading->sharpness->overshootErrorPercent},
                                           0,
                                           false);
                const auto difference =
                    m_reference != nullptr
                        ? match::overshootDifference(*c.reading, *m_reference->reading)
                        : std::nullopt;
                const double apart = difference ? std::abs(difference->value) : 0.0;
                cell.verdict = apart <= match::kOvershootGood   ? Verdict::Good
                               : apart <= match::kOvershootNear ? Verdict::Near
                                                                : Verdict::Off;
                return cell;
            });
    }

    void addChart() {
        const auto fall = [this](const char* key, const char* title, auto member) {
            add(key,
                "Chart",
                title,
                "stops",
                "A plane through the patches' light. Above 0.1 stop it colours the comparison, "
                "above 0.3 move chart or lamp.",
                [member](const Column& c) {
                    // The fall itself shows only in the reading as it was.
                    const auto fit = match::fitNeutrals(*c.reading, declaredOf(c));
                    const auto found = fit ? match::lightFall(*c.reading, *fit) : std::nullopt;
                    if (!found)
                        return unknownCell("Fewer than ten coloured patches are unclipped.");
                    const Measured& m = (*found).*member;
                    FactCell cell = numberCell(m, 2, true);
                    const double sure = std::abs(m.value) - 2.0 * m.uncertainty;
                    cell.verdict = sure > kFallOff    ? Verdict::Off
                                   : sure > kFallNear ? Verdict::Near
                                                      : Verdict::Good;
                    return cell;
                });
        };
        fall("lightAcrossStops",
             "Light on the chart, right against left",
             &match::LightFall::acrossStops);
        fall(
            "lightDownStops", "Light on the chart, foot against top", &match::LightFall::downStops);
    }

    void addPlace() {
        add("chartTiltDegrees",
            "Chart",
            "Chart turned away",
            "°",
            "From the shape of its field. A matte patch keeps its light from every side, but "
            "turned "
            "away from a lamp it loses 0.21 stop at 30°, 0.50 at 45°, 1.0 at 60°: leave it still "
            "for all cameras, toward their middle.",
            [](const Column& c) {
                const auto tilt = rig::chartTilt(*c.reading);
                if (!tilt) return unknownCell("Needs a chart of two rows and columns.");
                FactCell cell = numberCell({tilt->degrees, tilt->errorDegrees}, 0, false);
                cell.verdict = tilt->degrees > 45.0   ? Verdict::Off
                               : tilt->degrees > 30.0 ? Verdict::Near
                                                      : Verdict::Good;
                return cell;
            });
        add("naturalFallStops",
            "Chart",
            "Fall-off of the lens at the chart",
            "stops",
            "What even a perfect lens loses off its axis (the cos⁴ law), from the lens and sensor "
            "on the camera's sheet. Most lenses lose more, above all at their largest aperture "
            "(common practice: 0.5 to 2 stops in the corners). Hold the chart nearer the middle.",
            [](const Column& c) {
                if (!c.place) return unknownCell("Needs a rig whose lens and sensor are known.");
                FactCell cell = numberCell({c.place->naturalStops, 0.01}, 2, true);
                cell.why = "The chart stands " + base::fixed(100.0 * c.place->share, 0) +
                           " % of the way from the middle to a corner.";
                cell.verdict = c.place->isNotable ? Verdict::Near : Verdict::Good;
                return cell;
            });
    }

    void addVeil() {
        add("veilPercent",
            "Chart",
            "Veil of glare",
            "% of white",
            "Light on the black patch beyond what it reflects, through the declared curve. Over 1 "
            "%: clean the lens, shade it, turn the chart out of the lamp's reflection.",
            [](const Column& c) {
                if (!c.declared)
                    return unknownCell("Needs a profile whose curve is published or declared.");
                const auto found = match::veil(*c.reading, *c.declared);
                if (!found) return unknownCell("Neutral 5 or black is clipped or crushed.");
                FactCell cell =
                    numberCell({100.0 * found->value, 100.0 * found->uncertainty}, 1, true);
                cell.verdict = found->value > 0.02   ? Verdict::Off
                               : found->value > 0.01 ? Verdict::Near
                                                     : Verdict::Good;
                return cell;
            });
    }

    void addDrift() {
        const auto drift = [this](const char* key,
                                  const char* title,
                                  const char* unit,
                                  int decimals,
                                  auto member) {
            add(key,
                "Steadiness",
                title,
                unit,
                "Trend of neutral 5 while the chart rested. A trend tells of an automatic left on, "
                "or of changing daylight.",
                [&](const Column& c) {
                    if (!c.drift)
                        return unknownCell("The chart must rest for half a second of a clip.");
                    FactCell cell = numberCell((*c.drift).*member, decimals, true);
                    cell.why = "Watched for " + base::fixed(c.drift->seconds, 1) + " s.";
                    cell.verdict = c.drift->isNotable ? Verdict::Off : Verdict::Good;
                    return cell;
                });
        };
        drift("driftStops", "Exposure drift at rest", "stop", 2, &match::Drift::stops);
        drift("driftMired", "White balance drift at rest", "mired", 0, &match::Drift::mired);
    }

    std::vector<Column> m_columns;
    const Column* m_reference = nullptr;
    std::vector<FactRow> m_rows;
};

/// `light`: of the whole take; without one, uneven light is taken out by this camera's own view.
Column columnOf(const rig::Reading* reading,
                const std::optional<colour::TransferCurve>& declared,
                const std::optional<match::LightPlane>& light) {
    Column column;
    column.reading = reading;
    if (!column.hasChart()) return column;
    column.declared = declared;
    column.even = light ? std::optional(match::evened(*reading, *light)) : match::evened(*reading);
    if (const auto fit =
            match::fitNeutrals(column.even ? *column.even : *reading, declaredOf(column))) {
        column.fit = *fit;
        column.identity = match::identifyCurve(column.evenReading());
        column.profile = match::profileClass(*reading, *fit, column.identity);
        column.drift = match::driftOf(*reading, *fit);
    }
    return column;
}

}  // namespace

FactTable readingFacts(const rig::Rig& rig,
                       const rig::Take& take,
                       const match::MatchReport& report) {
    FactTable table;
    std::vector<Column> columns;
    for (const rig::Camera& camera : rig.cameras) {
        table.cameraIds.push_back(camera.id);
        const rig::Shot* shot = rig::findShot(take, camera.id);
        const bool isMeasured = shot != nullptr && shot->reading;
        Column column = columnOf(isMeasured ? &*shot->reading : nullptr,
                                 isMeasured ? match::declaredCurve(camera, *shot) : std::nullopt,
                                 report.light);
        column.match = report.find(camera.id);
        if (isMeasured)
            column.place = match::offMiddle(*shot->reading, camera, shot->reading->frameRate);
        column.isReference = camera.id == rig.referenceId;
        columns.push_back(std::move(column));
    }
    // Without the reference's chart nothing is compared, only told.
    for (Column& column : columns) column.isReference = column.isReference && column.hasChart();
    table.rows = TableMaker(std::move(columns)).rows();
    for (FactRow& row : skinFacts(report, rig.cameras.size())) table.rows.push_back(std::move(row));
    return table;
}

FactTable readingFacts(const rig::Reading& reading) {
    FactTable table;
    table.cameraIds = {""};
    table.rows = TableMaker({columnOf(&reading, std::nullopt, std::nullopt)}).rows();
    return table;
}

}  // namespace rigmatch::words
