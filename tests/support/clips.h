// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::support {

/// The demo's clips.
inline const QString kDemo = QStringLiteral(RIGMATCH_SOURCE_DIR "/demo/clock-bench/");
/// Two seconds of each of them, smaller: for what any clip of a chart and faces shows. Made by
/// ffmpeg -ss 1 -t 2 -i demo/clock-bench/A.mov -vf scale=1280:720:flags=area -c:v libx264 -crf 19
/// -x264-params chroma-qp-offset=-6 -pix_fmt yuv420p (A: yuv420p10le) -g 25 -c:a copy -bitexact.
inline const QString kClips = QStringLiteral(RIGMATCH_SOURCE_DIR "/tests/data/clips/");

}  // namespace rigmatch::support
