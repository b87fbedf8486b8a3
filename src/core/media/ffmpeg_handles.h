// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <string>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libavutil/imgutils.h>
#include <libavutil/opt.h>
#include <libavutil/pixdesc.h>
#include <libswscale/swscale.h>
}

namespace rigmatch::media {

/// Owners for the C library's objects: one deleter each.
struct FfmpegDeleter {
    void operator()(AVFormatContext* context) const { avformat_close_input(&context); }
    void operator()(AVCodecContext* context) const { avcodec_free_context(&context); }
    void operator()(AVFrame* frame) const { av_frame_free(&frame); }
    void operator()(AVPacket* packet) const { av_packet_free(&packet); }
    void operator()(SwsContext* context) const { sws_freeContext(context); }
};

template <class T>
using FfmpegPtr = std::unique_ptr<T, FfmpegDeleter>;

/// The library's words for one of its error numbers.
inline std::string ffmpegReason(int number) {
    char text[AV_ERROR_MAX_STRING_SIZE] = {};
    av_strerror(number, text, sizeof text);
    return text;
}

}  // namespace rigmatch::media
