// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "match/curve_identity.h"
#include "match/judge.h"
#include "match/primaries_map.h"

namespace rigmatch::match {

/// One side of a comparison: a reading and what its camera declares.
struct Side {
    const rig::Reading* reading = nullptr;          ///< null: not measured
    std::optional<colour::TransferCurve> declared;  ///< published or declared curve
    base::Text missing;                             ///< why there is no reading
    std::optional<colour::ViewingLut> lut{};        ///< its viewing LUT, where judging asks for it
    bool isEvened = false;    ///< uneven light on the chart was taken out of the reading
    std::string primaries{};  ///< of the recorded colours, as colour::toBt709() names them;
                              ///< empty: those of the reading's tag, unknown ones as BT.709
};

/// The declared curve, or null.
[[nodiscard]] const colour::TransferCurve* declaredOf(const Side& side);

/// What a recording is made for, as far as matching goes.
enum class RecordingKind {
    Finished,  ///< to be looked at as it is, flat profiles among them
    Log,       ///< to be converted
    Hlg,       ///< to be converted or shown by a display that knows it
};

/// A side made ready to be compared, once for all its comparisons.
struct SideView {
    /// The reading in BT.709 primaries; the reading itself where it already has them.
    std::shared_ptr<const rig::Reading> reading;
    base::Result<NeutralFit> fit = tl::unexpected(base::Error{});
    RecordingKind kind = RecordingKind::Finished;
    std::optional<colour::TransferCurve> curve;  ///< declared, tagged or identified
    std::string curveSource;                     ///< "declared", or "identified as HLG"
    /// The reading as a finished picture: a log recording converted to BT.709, HLG through the
    /// BT.2100 OOTF; nothing where it is one already, or where its curve is unknown.
    std::shared_ptr<const rig::Reading> finished;
    std::string primaries;  ///< as they were taken
    /// To the primaries of `reading`; null where they are the recorded ones.
    std::shared_ptr<const PrimariesMap> toBt709;
    bool arePrimariesKnown = true;  ///< false: the file does not say them; BT.709 was taken

    /// True for a recording whose grey level means nothing before it is converted.
    [[nodiscard]] bool isToConvert() const { return kind != RecordingKind::Finished; }
};

/// Never fails: what cannot be told is missing in the view. `side.reading` must be set and outlive
/// the view, which may show it as it is.
[[nodiscard]] SideView viewOf(const Side& side);

/// `reading` with its colours in BT.709 primaries: through the curve of its own greys into light,
/// by the matrix, and back. Neutrals stay but for their cast. Light that the matrix makes negative
/// lands at the curve's foot.
[[nodiscard]] rig::Reading inBt709(const rig::Reading& reading,
                                   const NeutralFit& fit,
                                   const colour::Matrix3& toBt709);

/// How a side is judged; nothing where `judging` asks for a curve that is not known.
[[nodiscard]] std::optional<Judge> judgeOf(const Side& side, const SideView& view, Judging judging);
/// "as recorded", "in linear light", "through viewing LUTs".
[[nodiscard]] std::string judgingText(Judging judging);
/// What was done to one side before it was judged as recorded: "log converted to BT.709",
/// "HLG through the BT.2100 OOTF"; empty for a finished picture.
[[nodiscard]] std::string conversionText(const SideView& view);

}  // namespace rigmatch::match
