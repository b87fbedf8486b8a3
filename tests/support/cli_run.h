// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <nlohmann/json.hpp>
#include <random>
#include <sstream>

#include "cli/command_line.h"
#include "support/loop_camera.h"
#include "support/media_files.h"

namespace rigmatch::support {

/// What a run of the command line gave.
struct Ran {
    int code = -1;
    std::string out;
    std::string err;
    [[nodiscard]] nlohmann::json document() const { return nlohmann::json::parse(out); }
};

inline Ran run(const QStringList& words) {
    std::vector<QByteArray> bytes{"rigmatch-cli"};
    for (const QString& word : words) bytes.push_back(word.toUtf8());
    std::vector<const char*> argv;
    for (const QByteArray& word : bytes) argv.push_back(word.constData());
    std::ostringstream out, err;
    const int code = cli::runCommandLine(static_cast<int>(argv.size()), argv.data(), {out, err});
    return {code, out.str(), err.str()};
}

/// What `frame` says of the first of those files.
inline nlohmann::json framed(const QStringList& words) {
    return run(QStringList{"frame", "--json"} + words).document()["results"][0];
}

/// A clip of the chart before a grey wall, as that camera records it.
inline bool writeChart(const QString& file, const OwnCamera& camera, std::mt19937& random) {
    const auto picture = ownPicture(camera);
    constexpr int kWide = 640, kHigh = 360;
    const own::Triple wall = own::signalOf(camera, {0.12, 0.12, 0.12});
    std::array<std::vector<double>, 3> placed;
    for (std::size_t c = 0; c < 3; ++c) {
        placed[c].assign(static_cast<std::size_t>(kWide * kHigh), wall[c]);
        for (int y = 0; y < own::kHeight; ++y) {
            for (int x = 0; x < own::kWidth; ++x)
                placed[c][static_cast<std::size_t>((y + 66) * kWide + x + 166)] =
                    picture[c][static_cast<std::size_t>(y * own::kWidth + x)];
        }
    }
    return writePicture(file, ownFrame(placed, camera, random, {kWide, kHigh}), 13);
}

}  // namespace rigmatch::support
