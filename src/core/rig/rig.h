// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/shared.h"
#include "base/text.h"
#include "rig/choices.h"
#include "rig/lamp_turn.h"
#include "rig/reading.h"
#include "rig/set_plan.h"
#include "rig/settings.h"
#include "rig/simulated_body.h"

namespace rigmatch::rig {

struct Lens {
    std::string name = "50 mm f/1.8";
    double focalLengthMm = 50.0;
    double largestAperture = 1.8;  ///< smallest f-number at this focal length
    double smallestAperture = 16.0;
    double shortFocalMm = 0.0;         ///< of a zoom; 0 for a prime
    double longFocalMm = 0.0;          ///< of a zoom; 0 for a prime
    double largestApertureLong = 0.0;  ///< at the long end; 0 where it is the same all through
    double transmissionStops = 0.0;    ///< light lost in the glass: T-stop against f-number
    std::string unknownFields{};

    [[nodiscard]] bool isZoom() const { return longFocalMm > shortFocalMm; }
    bool operator==(const Lens&) const = default;
};

/// Largest aperture of a lens at a focal length: a variable one closes evenly over the zoom range
/// (common practice; makers give only the ends).
[[nodiscard]] double largestApertureAt(const Lens& lens, double focalLengthMm);

/// What a camera needs to run and to record on.
struct Equipment {
    double cardGigabytes = 128.0;  ///< GB of 10^9 bytes
    double cardMegabytesPerSecond = 90.0;
    double powerWatts = 8.0;
    double batteryWattHours = 16.0;
    double longestTakeMinutes = 0.0;    ///< heat or file limit; 0: none known
    std::string powerSource = "mains";  ///< "mains", "battery" or "power over the data port"
    bool isFeedNeeded = false;          ///< its picture or data goes out while it records
    bool hasSharedPort = false;         ///< power and data go through one socket
    std::string unknownFields;

    bool operator==(const Equipment&) const = default;
};

/// How a camera once stood: the picture that later takes are laid on.
struct SavedFraming {
    std::filesystem::path picture;  ///< absolute in memory, relative to the rig file on disk
    std::string takeId;             ///< that it comes from
    std::string savedAt;            ///< ISO 8601, local time
    std::string unknownFields;

    bool operator==(const SavedFraming&) const = default;
};

/// One camera of the rig.
struct Camera {
    std::string id;      ///< never changes; takes refer to it
    std::string letter;  ///< "A" to "P", its own for life; empty until giveLetters()
    std::string role;    ///< "wide front"
    std::string body;    ///< "full-frame hybrid body"
    std::string sensorFormat;
    double sensorWidthMm = 36.0;  ///< active 16:9 area of the mode, before a high-rate crop
    double sensorHeightMm = 20.25;
    Lens lens;
    bool isLensTold = true;    ///< false: nobody said which lens it wears, `lens` is a stand-in
    double filterStops = 0.0;  ///< light lost in a filter on the lens, not ND
    std::filesystem::path viewingLut;  ///< how its recording is to be looked at; empty: as it is.
                                       ///< Absolute in memory, relative to the rig file on disk
    Equipment equipment;
    ControlSheet sheet;
    Settings settings;
    std::string forgottenUpTo;  ///< id of a take: how controls answered up to and with it is
                                ///< forgotten; empty: nothing is
    std::optional<SavedFraming> savedFraming;
    std::optional<SimulatedBody> simulated;  ///< a stand-in that can shoot by itself
    std::string unknownFields;

    bool operator==(const Camera&) const = default;
};

/// A spot of skin marked by hand where no face was found: an upright box in px.
struct SkinMark {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;
    double atSeconds = 0.0;  ///< the frame on which it was marked
    std::string unknownFields{};

    bool operator==(const SkinMark&) const = default;
};

/// What records beside the cameras.
enum class SourceKind {
    SoundRecorder,
    Switcher,  ///< its recording of the programme
    Computer,  ///< a recording of a screen, or of a call
};

/// A source beside the cameras: it takes part in takes, and is never matched.
struct Source {
    std::string id;  ///< never changes, unlike every camera's; takes refer to it
    SourceKind kind = SourceKind::SoundRecorder;
    std::string name;  ///< "mixer under the bench"
    std::string unknownFields;

    bool operator==(const Source&) const = default;
};

/// What one source gave in one take.
struct Shot {
    std::string cameraId;         ///< of the camera, or of another source
    std::filesystem::path media;  ///< absolute in memory, relative to the rig file on disk
    std::vector<std::filesystem::path> laterParts;  ///< files that go on where `media` ends, in
                                                    ///< their order
    Settings settings;                              ///< at that moment
    bool isIsoRecorded =
        false;  ///< the file (or stand-in) told the ISO that was used, automatic or not
    bool isKelvinRecorded = false;  ///< the same for the white balance
    std::optional<PictureQuad> manualCorners;
    std::optional<double> cornersAtSeconds;  ///< the frame on which the corners were set
    std::vector<SkinMark> skinMarks;
    std::string rangeOverride;      ///< "", "limited" or "full"
    std::string matrixOverride;     ///< "", "bt601", "bt709" or "bt2020"
    std::string primariesOverride;  ///< "", "bt601", "bt709", "bt2020" or "p3-d65"
    bool isWholeWanted = false;     ///< a long clip is looked at from end to end
    base::Shared<Reading> reading;
    base::Text failure;  ///< why the file could not be read; empty if it could
    std::string unknownFields;

    bool operator==(const Shot&) const = default;
};

/// What a take is for: only what its purposes ask is judged.
enum class Purpose {
    Match,
    Framing,
    Timing,  ///< and sound
    TryOut,  ///< of profiles
    Probe,   ///< of one control
    Programme,
};
inline constexpr std::array kPurposes{Purpose::Match,
                                      Purpose::Framing,
                                      Purpose::Timing,
                                      Purpose::TryOut,
                                      Purpose::Probe,
                                      Purpose::Programme};
/// Name in files and for scripts: "match", "framing", "timing", "tryout", "probe", "programme".
[[nodiscard]] const char* nameOf(Purpose purpose);
[[nodiscard]] std::optional<Purpose> purposeNamed(const std::string& name);

/// One take of all sources.
struct Take {
    std::string id;
    int number = 1;
    std::vector<Purpose> purposes{
        Purpose::Match};    ///< in the order of the enumeration, one at least
    std::string startedAt;  ///< ISO 8601, local time
    base::SharedList<Shot> shots;
    std::vector<std::string> doneAtTripods;  ///< keys of framing turns that were carried out
    std::vector<LampTurn> doneAtLamps;       ///< of the plan, that were carried out since
    std::string unknownFields;

    bool operator==(const Take&) const = default;
};

/// All cameras of one set: the document.
struct Rig {
    std::string name = "Untitled rig";
    std::string referenceId;
    std::string judge = "recorded";    ///< "recorded", "linear" or "lut"
    std::string target;                ///< what all are matched to, as jobs::targetOf() reads it;
                                       ///< empty: the reference
    std::string chart = "classic-24";  ///< the reference on the set: an id of chart/builtin_charts,
                                       ///< or the path of a chart file, absolute in memory
    base::SharedList<Camera> cameras;
    base::SharedList<Source> sources;
    base::SharedList<Take> takes;
    base::Shared<SetPlan> plan;
    Choices choices;
    int laterVersion = 0;  ///< of the file, where a later program wrote it: it keeps its number and
                           ///< is never written as an older one; else 0
    std::string unknownFields;

    bool operator==(const Rig&) const = default;
};

inline constexpr std::size_t kMostCameras = 16;
inline constexpr std::size_t kMostSources = 8;

/// True where the rig's reference is a file of the user's, not one that ships with the program:
/// ids hold no full stop.
[[nodiscard]] bool isChartFile(const Rig& rig);

[[nodiscard]] const Camera* findCamera(const Rig& rig, const std::string& id);
[[nodiscard]] Camera* findCamera(Rig& rig, const std::string& id);
/// A camera's letter, "?" where the rig has none of that id.
[[nodiscard]] std::string letterOf(const Rig& rig, const std::string& cameraId);
[[nodiscard]] const Source* findSource(const Rig& rig, const std::string& id);
[[nodiscard]] const Shot* findShot(const Take& take, const std::string& cameraId);
[[nodiscard]] Shot* findShot(Take& take, const std::string& cameraId);

/// Gives each camera without a letter the first one that is free: A, B, C… A camera keeps its
/// letter for life, as the tape on it and the names of its files do. The reference falls back to
/// the first camera.
void giveLetters(Rig& rig);

[[nodiscard]] bool isFor(const Take& take, Purpose purpose);
/// True where a chart, or people, are looked for in a take: it is to be matched, framed, or shows
/// what profiles and controls do.
[[nodiscard]] bool showsChart(const Take& take);
[[nodiscard]] bool showsPeople(const Take& take);
/// The chart that is looked for in what a source gave: Rig::chart, or empty where the take is not
/// about one, or the source is no camera.
[[nodiscard]] std::string chartFor(const Rig& rig, const Take& take, const std::string& sourceId);
/// True where it is asked how a source frames its people: a camera, in a take to be matched or
/// framed.
[[nodiscard]] bool isFramingAsked(const Rig& rig, const Take& take, const std::string& sourceId);
/// True where it is asked what its sound holds and what its frames hide.
[[nodiscard]] bool isTimingAsked(const Take& take);
/// All that is asked of what a source gave, as one text: equal texts, equal questions.
[[nodiscard]] std::string askedOf(const Rig& rig, const Take& take, const std::string& sourceId);
/// The newest take of that purpose; nullptr where there is none.
[[nodiscard]] const Take* newestTake(const Rig& rig, Purpose purpose);

/// An id that no camera, source and take of `rig` has: "camera-3", "source-1", "take-2".
[[nodiscard]] std::string freshCameraId(const Rig& rig);
[[nodiscard]] std::string freshSourceId(const Rig& rig);
[[nodiscard]] std::string freshTakeId(const Rig& rig);

/// Things that will hurt the match, to be flagged at the camera's row. Empty: nothing.
struct CameraFlag {
    std::string field;  ///< "autoExposure", "autoWhiteBalance", "frameRate", "shutter"
    base::Text text;    ///< a sentence
    bool operator==(const CameraFlag&) const = default;
};
[[nodiscard]] std::vector<CameraFlag> cameraFlags(const Rig& rig, const Camera& camera);

}  // namespace rigmatch::rig
