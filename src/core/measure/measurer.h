// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <span>

#include "image/frame.h"
#include "measure/clip_part.h"
#include "media/media_info.h"
#include "media/sound_block.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// One question that is asked of a clip while it goes by once: frames and blocks of sound are
/// handed to it in their order, and at the end it puts its answer, and what should be told, into
/// the reading. One thread at a time.
class Measurer {
public:
    virtual ~Measurer() = default;
    /// Looks at every that-many-th frame; 0: at none.
    [[nodiscard]] virtual int frameStep() const { return 1; }
    virtual void take(const image::CodedFrame&) {}
    virtual void takeSound(const media::SoundBlock&) {}
    virtual void finish(rig::Reading& reading) = 0;
    /// Called once the chart is in the reading too, for what can be told only with it.
    virtual void judge(rig::Reading&) {}
};

/// What is known before the first frame.
struct MeasurerInput {
    const media::MediaInfo& info;
    bool isRangeChosen = false;       ///< the user says how the codes are to be read
    bool isFramingWanted = false;     ///< it is asked how people are framed
    bool isTimingWanted = false;      ///< it is asked what sound holds and frames hide
    ClipPart part{};                  ///< of the clip that will be shown; nothing of a still
    std::optional<double> facesAt{};  ///< s, where faces are known to be
};

/// A measurer as it is registered. Its version is kept with what it measured, and is raised
/// whenever it would answer otherwise.
struct MeasurerKind {
    const char* name;
    int version;
    /// Null: it is not asked for.
    std::unique_ptr<Measurer> (*make)(const MeasurerInput& input);
};

/// All of them, in the order in which their answers are told. The chart, which can be set by hand,
/// is looked for beside them (clip_scan.h).
[[nodiscard]] std::span<const MeasurerKind> measurerKinds();
/// Every measurer that watched for this reading would answer the same today. Not of readings that
/// name none.
[[nodiscard]] bool isOfToday(const rig::Reading& reading);

/// One clip's set of measurers.
class Measurers {
public:
    explicit Measurers(const MeasurerInput& input);
    /// `count`: of the frame, from 0.
    void take(const image::CodedFrame& frame, int count);
    void takeSound(const media::SoundBlock& block);
    void finish(rig::Reading& reading);
    void judge(rig::Reading& reading);

private:
    struct Made {
        const MeasurerKind* kind;
        std::unique_ptr<Measurer> measurer;
    };
    std::vector<Made> m_all;
};

}  // namespace rigmatch::measure
