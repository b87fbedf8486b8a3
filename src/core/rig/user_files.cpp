// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/user_files.h"

#include <algorithm>
#include <cctype>
#include <system_error>

#include "base/atomic_file.h"
#include "rig/json_plan.h"
#include "rig/json_values.h"
#include "rig/region.h"

namespace rigmatch::rig {
namespace {

namespace fs = std::filesystem;
using base::ErrorCode;
using base::Result;

constexpr std::size_t kMostBytes = 8U << 20U;
constexpr const char* kLayoutFormat = "rigmatch-layout";
constexpr const char* kTemplateFormat = "rigmatch-camera";
constexpr const char* kLayoutSuffix = ".riglayout";
constexpr const char* kTemplateSuffix = ".rigcamera";

/// A file name that every system takes.
std::string fileStem(const std::string& title) {
    std::string stem;
    for (const char letter : title) {
        const auto code = static_cast<unsigned char>(letter);
        const bool isPlain =
            code >= 128 || std::isalnum(code) != 0 || letter == ' ' || letter == '-';
        stem += isPlain ? letter : '-';
    }
    return stem.substr(0, 80);
}

Result<fs::path> write(const Json& json,
                       const std::string& title,
                       const fs::path& folder,
                       const char* suffix) {
    if (fileStem(title).find_first_not_of(" -") == std::string::npos) {
        return base::fail(ErrorCode::OutOfRange,
                          base::say("userFiles.cannotSaveUnder"),
                          base::say("userFiles.noLetterDigit", {{"title", title}}),
                          base::say("userFiles.typeName"));
    }
    std::error_code code;
    fs::create_directories(folder, code);
    const fs::path file = folder / (fileStem(title) + suffix);
    const std::string text = json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
    if (auto done = base::writeAtomically(file, text); !done) return tl::unexpected(done.error());
    return file;
}

/// Reads a file of one format and hands its object to `read`.
template <class Value, class Read>
Result<Value> load(const fs::path& file, const char* format, Read read) {
    const auto text = base::readWhole(file, kMostBytes);
    if (!text) return tl::unexpected(text.error());
    base::Text detail;
    try {
        const Json json = Json::parse(*text);
        ObjectReader object(json, "");
        if (object.text("format") != format) {
            throw JsonFailure{"format", base::say("json.shouldBeFormat", {{"format", format}})};
        }
        return read(object);
    } catch (const JsonFailure& failure) {
        detail = textOf(failure);
    } catch (const Json::parse_error& failure) {
        detail = base::say("json.breaksOff", {{"byte", base::whole(failure.byte)}});
    } catch (const Json::exception&) {
        detail = base::say("json.contentNotExpected");
    }
    return base::fail(ErrorCode::CorruptDocument,
                      base::say("userFiles.cannotUse", {{"filename", file.filename().string()}}),
                      detail,
                      base::say("userFiles.saveAnewProgram"));
}

template <class Value, class Load>
UserFiles<Value> loadAll(const fs::path& folder, const char* suffix, Load loadOne) {
    UserFiles<Value> found;
    std::vector<fs::path> files;
    std::error_code code;
    for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
        if (it->path().extension() == suffix) files.push_back(it->path());
    }
    std::sort(files.begin(), files.end());
    for (const fs::path& file : files) {
        auto value = loadOne(file);
        if (value) {
            found.values.push_back(std::move(*value));
        } else {
            found.failures.push_back(value.error());
        }
    }
    return found;
}

}  // namespace

Rig withLayout(Rig rig, const Layout& layout) {
    SetPlan plan = layout.plan;
    if (const Region* region = findRegion(rig.choices.region)) applyRegion(plan, *region);
    std::size_t next = 0;
    for (PlanObject& place : plan.objects) {
        if (place.kind != PlanKind::Camera) continue;
        if (next >= rig.cameras.size() && rig.cameras.size() < kMostCameras) {
            Camera camera;
            for (const Camera& offered : layout.cameras) {
                if (offered.id == place.cameraId) camera = offered;
            }
            camera.id = freshCameraId(rig);
            rig.cameras.push_back(camera);
        }
        if (next >= rig.cameras.size()) break;
        rig.cameras[next].role = place.name;
        place.cameraId = rig.cameras[next].id;
        ++next;
    }
    rig.plan = std::move(plan);
    giveLetters(rig);
    return rig;
}

Result<fs::path> saveLayout(const Layout& layout, const fs::path& folder) {
    Json cameras = Json::array();
    for (Camera camera : layout.cameras) {
        camera.simulated.reset();
        cameras.push_back(cameraJson(camera));
    }
    return write({{"format", kLayoutFormat},
                  {"version", 1},
                  {"title", layout.title},
                  {"description", layout.description},
                  {"plan", planJson(layout.plan)},
                  {"cameras", cameras}},
                 layout.title,
                 folder,
                 kLayoutSuffix);
}

Result<fs::path> saveTemplate(const BodyKind& kind, const fs::path& folder) {
    Camera camera;
    camera.lens = kind.lens;
    const Json lens = cameraJson(camera)["lens"];
    return write({{"format", kTemplateFormat},
                  {"version", 1},
                  {"name", kind.name},
                  {"sensorFormat", kind.sensorFormat},
                  {"sensorWidthMm", kind.sensorWidthMm},
                  {"sensorHeightMm", kind.sensorHeightMm},
                  {"lens", lens},
                  {"controls", sheetJson(kind.sheet)},
                  {"equipment", equipmentJson(kind.equipment)}},
                 kind.name,
                 folder,
                 kTemplateSuffix);
}

Result<Layout> loadLayout(const fs::path& file) {
    return load<Layout>(file, kLayoutFormat, [](ObjectReader& object) {
        Layout layout;
        layout.title = object.text("title", "Untitled");
        layout.description = object.text("description");
        const Json* plan = object.child("plan");
        if (plan == nullptr) throw JsonFailure{"plan", base::say("userFiles.missing")};
        layout.plan = readPlan(*plan, "plan");
        layout.cameras = readList(object, "cameras", readCamera);
        return layout;
    });
}

Result<BodyKind> loadTemplate(const fs::path& file) {
    return load<BodyKind>(file, kTemplateFormat, [](ObjectReader& object) {
        // A template is a camera without place and settings: read as one.
        Json camera{{"id", "template"}};
        for (const char* key :
             {"sensorFormat", "sensorWidthMm", "sensorHeightMm", "lens", "controls", "equipment"}) {
            if (const Json* value = object.child(key)) camera[key] = *value;
        }
        const Camera read = readCamera(camera, "");
        BodyKind kind = templateOf(read, object.text("name", "Untitled"));
        if (kind.sheet.isoValues.empty()) {
            throw JsonFailure{"controls.iso", base::say("userFiles.listsNoValue")};
        }
        return kind;
    });
}

UserFiles<Layout> loadLayouts(const fs::path& folder) {
    return loadAll<Layout>(folder, kLayoutSuffix, loadLayout);
}

UserFiles<BodyKind> loadTemplates(const fs::path& folder) {
    return loadAll<BodyKind>(folder, kTemplateSuffix, loadTemplate);
}

BodyKind templateOf(const Camera& camera, const std::string& name) {
    BodyKind kind;
    kind.name = name;
    kind.sensorFormat = camera.sensorFormat;
    kind.sensorWidthMm = camera.sensorWidthMm;
    kind.sensorHeightMm = camera.sensorHeightMm;
    kind.lens = camera.lens;
    kind.sheet = camera.sheet;
    kind.equipment = camera.equipment;
    return kind;
}

}  // namespace rigmatch::rig
