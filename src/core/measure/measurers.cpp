// SPDX-License-Identifier: GPL-3.0-or-later
#include <array>

#include "measure/face_scan.h"
#include "measure/flicker_check.h"
#include "measure/framing_scan.h"
#include "measure/measurer.h"
#include "measure/range_check.h"
#include "measure/sound_levels.h"
#include "measure/timing_scan.h"
#include "measure/trap_checks.h"

namespace rigmatch::measure {
namespace {

/// Traps of coding show on few frames as well as on all.
constexpr int kFewFrames = 50;

/// A check that ends in one warning or none.
template <class Check, int kStep>
class Watching : public Measurer {
public:
    explicit Watching(Check check = {}) : m_check(std::move(check)) {}
    [[nodiscard]] int frameStep() const override { return kStep; }
    void take(const image::CodedFrame& frame) override {
        if constexpr (requires { m_check.take(frame); })
            m_check.take(frame);
        else
            m_check.take(frame.seconds);
    }
    void finish(rig::Reading& reading) override {
        if (const auto warning = m_check.warning()) reading.warnings.push_back(*warning);
    }

private:
    Check m_check;
};

class WatchingFaces : public Measurer {
public:
    explicit WatchingFaces(const MeasurerInput& input) : m_scan(input.part, input.facesAt) {}
    void take(const image::CodedFrame& frame) override { m_scan.take(frame); }
    void finish(rig::Reading& reading) override { reading.faces = m_scan.faces(); }

private:
    FaceScan m_scan;
};

class WatchingRange : public Measurer {
public:
    explicit WatchingRange(const MeasurerInput& input)
        : m_asRead(input.info.tags.range), m_isChosen(input.isRangeChosen) {}
    [[nodiscard]] int frameStep() const override { return kFewFrames; }
    void take(const image::CodedFrame& frame) override { m_check.take(frame); }
    void finish(rig::Reading&) override {}
    void judge(rig::Reading& reading) override {
        if (m_isChosen) return;
        if (const auto warning = m_check.warning(m_asRead, reading))
            reading.warnings.push_back(*warning);
    }

private:
    RangeCheck m_check;
    image::Range m_asRead;
    bool m_isChosen;
};

template <class Made, int kStep>
std::unique_ptr<Measurer> watching(const MeasurerInput&) {
    return std::make_unique<Watching<Made, kStep>>();
}

constexpr std::array<MeasurerKind, 10> kKinds{
    {{"flicker",
      1,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          return std::make_unique<Watching<FlickerCheck, 1>>(FlickerCheck(input.info.frameRate));
      }},
     {"timing", 1, watching<TimingCheck, 1>},
     {"codes", 1, watching<CodeComb, kFewFrames>},
     {"displays", 1, watching<OverlayCheck, kFewFrames>},
     {"faces",
      1,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          return std::make_unique<WatchingFaces>(input);
      }},
     {"framing",
      4,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          if (!input.isFramingWanted) return nullptr;
          return std::make_unique<FramingScan>(input.part);
      }},
     {"sound",
      1,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          if (!input.isTimingWanted) return nullptr;
          return std::make_unique<SoundScan>();
      }},
     {"frames",
      2,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          if (!input.isTimingWanted) return nullptr;
          return std::make_unique<FrameScan>();
      }},
     {"range",
      1,
      [](const MeasurerInput& input) -> std::unique_ptr<Measurer> {
          return std::make_unique<WatchingRange>(input);
      }},
     {"sound levels", 1, [](const MeasurerInput&) -> std::unique_ptr<Measurer> {
          return std::make_unique<SoundLevels>();
      }}}};

}  // namespace

std::span<const MeasurerKind> measurerKinds() { return kKinds; }

bool isOfToday(const rig::Reading& reading) {
    return !reading.measuredBy.empty() &&
           std::all_of(reading.measuredBy.begin(), reading.measuredBy.end(), [](const auto& stamp) {
               return std::any_of(kKinds.begin(), kKinds.end(), [&](const MeasurerKind& kind) {
                   return stamp.name == kind.name && stamp.version == kind.version;
               });
           });
}

Measurers::Measurers(const MeasurerInput& input) {
    for (const MeasurerKind& kind : kKinds) {
        if (auto made = kind.make(input)) m_all.push_back({&kind, std::move(made)});
    }
}

void Measurers::take(const image::CodedFrame& frame, int count) {
    for (const Made& made : m_all) {
        const int step = made.measurer->frameStep();
        if (step > 0 && count % step == 0) made.measurer->take(frame);
    }
}

void Measurers::takeSound(const media::SoundBlock& block) {
    for (const Made& made : m_all) made.measurer->takeSound(block);
}

void Measurers::finish(rig::Reading& reading) {
    for (const Made& made : m_all) {
        made.measurer->finish(reading);
        reading.measuredBy.push_back({made.kind->name, made.kind->version});
    }
}

void Measurers::judge(rig::Reading& reading) {
    for (const Made& made : m_all) made.measurer->judge(reading);
}

}  // namespace rigmatch::measure
