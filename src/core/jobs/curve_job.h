// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "match/bracket.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// The rig with `curve` declared for the profile that a camera used in a take (nothing: declared no
/// more). A profile that the camera's sheet does not list is added to it.
[[nodiscard]] rig::Rig withDeclaredCurve(rig::Rig rig,
                                         const std::string& cameraId,
                                         const std::string& profile,
                                         const std::optional<colour::TransferCurve>& curve);

/// The curve that is declared for that profile; nothing where none is.
[[nodiscard]] std::optional<colour::TransferCurve> declaredFor(const rig::Camera& camera,
                                                               const std::string& profile);

/// The rig with the primaries that a profile records in; empty: as the file says.
[[nodiscard]] rig::Rig withDeclaredPrimaries(rig::Rig rig,
                                             const std::string& cameraId,
                                             const std::string& profile,
                                             const std::string& primaries);
/// Primaries declared for that profile; empty where none are.
[[nodiscard]] std::string primariesFor(const rig::Camera& camera, const std::string& profile);

/// Primaries that can be chosen: the name that files keep, and what screens show.
struct PrimariesChoice {
    std::string name;
    std::string title;
};
/// The standards' first, then those of cameras that the colour library publishes.
[[nodiscard]] std::vector<PrimariesChoice> primariesChoices();

/// The curve of a table of the user's; fails as colour::curveFromFile.
[[nodiscard]] base::Result<colour::TransferCurve> curveFromTable(const std::filesystem::path& file);

/// The curve from all takes in which the camera used `profile`, by the exposure settings of each
/// take. Fails as match::curveFromBracket.
[[nodiscard]] base::Result<match::BracketCurve> curveFromTakes(const rig::Rig& rig,
                                                               const std::string& cameraId,
                                                               const std::string& profile);

}  // namespace rigmatch::jobs
