// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <nlohmann/json.hpp>

#include "support/cli_run.h"
#include "support/wav_file.h"

namespace rigmatch::support {

inline constexpr int kSyncRate = 48000;

/// A textured wall that stands still; the rate follows.
inline const QString kWall = QStringLiteral(
    "nullsrc=size=640x360:rate=1:duration=1,geq=lum='60+20*sin(X/6)*sin(Y/10)':cb=128:cr=128,"
    "loop=-1:1,fps=");

/// A clip of a pattern in motion with that sound delayed in it by ffmpeg, the independent writer.
inline bool writeClip(const QString& file,
                      const QString& speech,
                      const QString& filter,
                      const QString& rate,
                      const QStringList& codec) {
    return writeSoundClip(file,
                          "testsrc2=size=320x180:rate=" + rate + ":duration=16",
                          {"-i", speech},
                          filter + ",apad=whole_dur=16",
                          codec);
}

inline nlohmann::json syncOf(const QStringList& files) {
    return run(QStringList{"sync"} + files + QStringList{"--json"}).document();
}

inline bool tells(const nlohmann::json& result, const char* code) {
    for (const auto& finding : result["findings"]) {
        if (finding["code"] == code) return true;
    }
    return false;
}

inline double valueOf(const nlohmann::json& result, const char* key) {
    return result[key]["value"].get<double>();
}

}  // namespace rigmatch::support
