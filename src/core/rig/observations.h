// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <optional>
#include <string>

#include "base/text.h"
#include "rig/rig.h"

namespace rigmatch::rig {

/// What measuring one shot brought: what a person decided is not in it.
struct Observation {
    std::string rests;        ///< on what it rests: restsOn() of the shot that was measured
    std::string corrections;  ///< the same without its files: correctionsOf()
    base::Shared<Reading> reading;
    base::Text failure;  ///< why the file could not be read; empty if it could
    bool isIsoRecorded = false, isKelvinRecorded = false;
    /// What the file itself tells of the settings.
    std::optional<double> isoValue, shutterSeconds, fNumber, whiteBalanceKelvin;

    bool operator==(const Observation&) const = default;
};

/// All that a shot's measurement rests on, as one text: the file, the hand corrections (corners,
/// skin marks, range, matrix) and what was asked of it (askedOf()). Equal texts, equal
/// measurements.
[[nodiscard]] std::string restsOn(const Shot& shot, const std::string& asked);

/// The same without the files: hand corrections and what was asked.
[[nodiscard]] std::string correctionsOf(const Shot& shot, const std::string& asked);
/// base::fileIdentity() of a shot's files, in their order, joined by "+"; empty where one cannot be
/// read.
[[nodiscard]] std::string identityOf(const Shot& shot);

/// The measurements of one open rig, each under what it rests on. Nothing is ever taken away, so
/// that a hand correction taken back finds the older measurement again.
class Observations {
public:
    void clear() { m_all.clear(); }
    void add(const Observation& observation) { m_all[observation.rests] = observation; }
    /// Takes in what the shots of a rig hold, as it came from its file.
    void addAll(const Rig& rig);
    [[nodiscard]] const Observation* find(const std::string& rests) const;
    /// Those with the same corrections whose files are known by content: whichever has the content
    /// of this shot's file was measured already, wherever it lay.
    [[nodiscard]] std::vector<Observation> correctedAlike(const Shot& shot,
                                                          const std::string& asked) const;
    /// Puts what was measured into the shots that it belongs to. Takes that `rig` shares with
    /// `known` hold it already and are not looked at.
    void putInto(Rig& rig, const Rig& known) const;

private:
    std::map<std::string, Observation> m_all;
};

/// Lays what the file tells of its settings over what was assumed.
void putTold(const Observation& observation, Settings& settings);
/// Puts an observation into a shot, with what the file tells of the settings.
void putInto(const Observation& observation, Shot& shot);
/// What a shot holds that was measured.
[[nodiscard]] Observation observed(const Shot& shot, const std::string& asked);

}  // namespace rigmatch::rig
