// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/timecode_watch.h"

#include <array>
#include <cmath>

extern "C" {
#include <libavutil/intreadwrite.h>
#include <libavutil/timecode.h>
}

namespace rigmatch::media {
namespace {

constexpr double kDay = 86400.0;
constexpr double kFrames = 1.5;      // off by which a number does not go on from the one before
constexpr double kGroupDoubt = 0.5;  // s: a group's number is of the picture that shows first
constexpr std::size_t kMost = 1000;  // that are kept of a file
constexpr int kDropFlag = 1;  // of a track's description (QuickTime file format, from memory)
constexpr int kFlagsAt = 4, kLeastDescription = 16;  // bytes of it
constexpr double kFastest = 1000.0;                  // frames per second

using Text = std::array<char, AV_TIMECODE_STR_SIZE>;

/// The number that stands with a frame, and how far it may be off, s.
struct FrameCode {
    Timecode timecode;
    double tolerance = 0.0;
};

std::optional<FrameCode> frameCode(const AVFrame& frame, double rate) {
    Text text{};
    double tolerance = kFrames / rate;
    if (const auto* side = av_frame_get_side_data(&frame, AV_FRAME_DATA_S12M_TIMECODE);
        side != nullptr && side->size >= 2 * sizeof(std::uint32_t)) {
        const std::uint32_t code = AV_RN32(side->data + sizeof(std::uint32_t));
        av_timecode_make_smpte_tc_string2(text.data(), av_d2q(rate, 100000), code, 0, 0);
    } else if (const auto* group = av_frame_get_side_data(&frame, AV_FRAME_DATA_GOP_TIMECODE);
               group != nullptr && group->size >= sizeof(std::int64_t)) {
        const auto code = static_cast<std::uint32_t>(AV_RN64(group->data));
        av_timecode_make_mpeg_tc_string(text.data(), code);
        tolerance = kGroupDoubt;
    } else {
        return std::nullopt;
    }
    auto timecode = timecodeOf(text.data(), rate);
    if (!timecode) return std::nullopt;
    return FrameCode{std::move(*timecode), tolerance};
}

}  // namespace

void TimecodeWatch::follow(std::optional<Stamped>& last,
                           Stamped now,
                           double firstSeconds,
                           double toleranceSeconds) {
    if (last && m_jumps.size() < kMost) {
        const double passed = now.seconds - last->seconds;
        const double off =
            std::remainder(now.timecode.seconds - last->timecode.seconds - passed, kDay);
        if (std::abs(off) > toleranceSeconds)
            m_jumps.push_back(
                {now.seconds - firstSeconds, last->timecode.text, now.timecode.text, off});
    }
    last = std::move(now);
}

void TimecodeWatch::takeFrame(const AVFrame& frame,
                              double stampSeconds,
                              double firstSeconds,
                              double rate) {
    if (!(rate >= 1.0) || rate > kFastest) return;
    if (auto code = frameCode(frame, rate))
        follow(m_frame, {stampSeconds, std::move(code->timecode)}, firstSeconds, code->tolerance);
}

void TimecodeWatch::takePacket(const AVStream& stream,
                               const AVPacket& packet,
                               double firstSeconds) {
    const AVCodecParameters& parameters = *stream.codecpar;
    const bool isTrack = parameters.codec_type == AVMEDIA_TYPE_DATA &&
                         parameters.codec_tag == MKTAG('t', 'm', 'c', 'd');
    if (!isTrack || packet.size < 4 || packet.pts == AV_NOPTS_VALUE) return;
    const double rate = av_q2d(stream.avg_frame_rate);
    if (!(rate >= 1.0) || rate > kFastest) return;
    const bool isDrop = parameters.extradata_size >= kLeastDescription &&
                        (AV_RB32(parameters.extradata + kFlagsAt) & kDropFlag) != 0;
    const std::uint32_t count = AV_RB32(packet.data);
    AVTimecode start{};
    const int flags = isDrop ? AV_TIMECODE_FLAG_DROPFRAME : 0;
    if (av_timecode_init(
            &start, stream.avg_frame_rate, flags, static_cast<int>(count & 0x7FFFFFFF), nullptr) <
        0)
        return;
    Text text{};
    av_timecode_make_string(&start, text.data(), 0);
    const double stamp = static_cast<double>(packet.pts) * av_q2d(stream.time_base);
    follow(m_track, {stamp, {text.data(), count / rate}}, firstSeconds, kFrames / rate);
}

void TimecodeWatch::forget() {
    m_frame.reset();
    m_track.reset();
}

}  // namespace rigmatch::media
