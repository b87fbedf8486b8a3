// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QProcess>
#include <QString>
#include <QStringList>

#include "image/frame.h"
#include "media/clip_writer.h"
#include "sim/random_frames.h"

namespace rigmatch::support {

/// Runs the ffmpeg command, the independent writer of test media. True where it succeeded. H.264
/// and HEVC are written quickly, with frames out of order as cameras' are, unless the arguments
/// name a preset.
inline bool runFfmpeg(QStringList arguments) {
    const bool hasPresets = arguments.contains("libx264") || arguments.contains("libx265");
    if (hasPresets && !arguments.contains("-preset"))
        arguments = arguments.mid(0, arguments.size() - 1) +
                    QStringList{"-preset", "veryfast", arguments.back()};
    QProcess process;
    process.start(QStringLiteral("ffmpeg"),
                  QStringList{QStringLiteral("-v"), QStringLiteral("error"), QStringLiteral("-y")} +
                      arguments);
    return process.waitForFinished(60000) && process.exitCode() == 0;
}

/// A clip with sound: ffmpeg's `picture` source and `sound` input, the latter through `filter`;
/// `codec`: further options, of the sound.
inline bool writeSoundClip(const QString& path,
                           const QString& picture,
                           const QStringList& sound,
                           const QString& filter,
                           const QStringList& codec = {}) {
    return runFfmpeg(QStringList{"-f", "lavfi", "-i", picture} + sound +
                     QStringList{"-filter_complex",
                                 "[1:a]" + filter + "[a]",
                                 "-map",
                                 "0:v",
                                 "-map",
                                 "[a]",
                                 "-c:v",
                                 "libx264",
                                 "-preset",
                                 "ultrafast",
                                 "-pix_fmt",
                                 "yuv420p"} +
                     codec + QStringList{path});
}

/// A clip of `frames` frames in which the random frame of `seed` stands still.
inline bool writeStillClip(const QString& path,
                           std::uint64_t seed,
                           int frames,
                           const sim::RandomFrameOptions& options,
                           std::array<image::Point, 4>* corners = nullptr) {
    const sim::RandomFrame frame = sim::randomFrame(seed, options);
    if (corners != nullptr) *corners = frame.corners;
    media::ClipOptions clip;
    clip.width = options.width;
    clip.height = options.height;
    clip.quality = 12;
    auto writer = media::ClipWriter::create(path.toStdString(), clip);
    if (!writer) return false;
    const image::Frame signal = image::signalFrame(frame.frame);
    for (int i = 0; i < frames; ++i) {
        if (!writer->append(signal)) return false;
    }
    return writer->finish().has_value();
}

/// A clip of `frames` frames of one picture, BT.709 limited, HEVC of 10 bit.
inline bool writePicture(const QString& path, const image::CodedFrame& frame, int frames) {
    media::ClipOptions clip;
    clip.codec = media::ClipCodec::Hevc;
    clip.bitDepth = 10;
    clip.width = frame.width;
    clip.height = frame.height;
    clip.quality = 12;
    auto writer = media::ClipWriter::create(path.toStdString(), clip);
    if (!writer) return false;
    const image::Frame signal = image::signalFrame(frame);
    for (int i = 0; i < frames; ++i) {
        if (!writer->append(signal)) return false;
    }
    return writer->finish().has_value();
}

}  // namespace rigmatch::support
