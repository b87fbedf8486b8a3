// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "rig/bodies.h"

namespace rigmatch::rig {

/// A set to start from: the plan, and the cameras that stand on it.
struct Layout {
    std::string title;
    std::string description;
    SetPlan plan;
    base::SharedList<Camera> cameras;

    bool operator==(const Layout&) const = default;
};

/// Puts a layout into a rig: its plan replaces the rig's; the rig's own cameras take its places in
/// their order and keep body and settings, missing ones come from the layout; cameras beyond keep
/// no place.
[[nodiscard]] Rig withLayout(Rig rig, const Layout& layout);

// Both kinds are JSON files of their own in the user's data folder, one per layout
// (NAME.riglayout) or camera template (NAME.rigcamera); docs/store-format.md.

/// Fails with WriteFailed, or OutOfRange for an empty title.
[[nodiscard]] base::Result<std::filesystem::path> saveLayout(const Layout& layout,
                                                             const std::filesystem::path& folder);
[[nodiscard]] base::Result<std::filesystem::path> saveTemplate(const BodyKind& kind,
                                                               const std::filesystem::path& folder);
/// Fails with NotFound, Unreadable, TooLarge or CorruptDocument naming file and place.
[[nodiscard]] base::Result<Layout> loadLayout(const std::filesystem::path& file);
[[nodiscard]] base::Result<BodyKind> loadTemplate(const std::filesystem::path& file);

/// All that lie in a folder, by name; what cannot be read is told beside them.
template <class Value>
struct UserFiles {
    std::vector<Value> values;
    std::vector<base::Error> failures;
};
[[nodiscard]] UserFiles<Layout> loadLayouts(const std::filesystem::path& folder);
[[nodiscard]] UserFiles<BodyKind> loadTemplates(const std::filesystem::path& folder);

/// The body, controls and equipment of a camera as a template under that name.
[[nodiscard]] BodyKind templateOf(const Camera& camera, const std::string& name);

}  // namespace rigmatch::rig
