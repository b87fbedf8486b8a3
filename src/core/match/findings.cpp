// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/findings.h"

#include <array>

namespace rigmatch::match {
namespace {

struct BoardKey {
    const char* key;
    const char* unit;
};
constexpr std::array<BoardKey, kQualityCount> kBoardKeys{{{"exposureStops", "stop"},
                                                          {"whiteBalanceMired", "mired"},
                                                          {"tintDuv", "Duv"},
                                                          {"contrastRatio", "ratio"},
                                                          {"blackLevelPercent", "%"},
                                                          {"saturationRatio", "ratio"},
                                                          {"hueDegrees", "degrees"},
                                                          {"deltaE2000", "ΔE2000"},
                                                          {"skinLevelPercent", "%"},
                                                          {"skinHueDegrees", "degrees"}}};

}  // namespace

const char* keyOf(Quality quality) { return kBoardKeys[static_cast<std::size_t>(quality)].key; }

base::Finding findingOf(const MatchReport& report, const CameraMatch& camera, Quality quality) {
    const Difference& cell = camera.differences.judged(quality);
    base::Finding finding;
    finding.quantity = keyOf(quality);
    finding.unit = kBoardKeys[static_cast<std::size_t>(quality)].unit;
    finding.subject = camera.cameraId;
    finding.other = report.referenceId;
    finding.value = cell.value;
    finding.uncertainty = cell.uncertainty;
    const double neutral = isRatio(quality) ? 1.0 : 0.0;
    finding.low = isRatio(quality) ? 1.0 / (1.0 + cell.good) : neutral - cell.good;
    finding.high = neutral + cell.good;
    finding.nearBy = cell.accept - cell.good;
    finding.verdict = cell.verdict;
    finding.reason = cell.reason;
    return finding;
}

std::vector<base::Finding> findingsOf(const MatchReport& report) {
    std::vector<base::Finding> findings;
    for (const CameraMatch& camera : report.cameras) {
        if (camera.isReference) continue;
        for (std::size_t i = 0; i < kQualityCount; ++i) {
            const auto quality = static_cast<Quality>(i);
            if (!camera.differences.judged(quality).isBeyondChart)
                findings.push_back(findingOf(report, camera, quality));
        }
    }
    return findings;
}

}  // namespace rigmatch::match
