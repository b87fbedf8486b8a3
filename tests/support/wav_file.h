// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFile>
#include <QtEndian>
#include <cstring>
#include <vector>

namespace rigmatch::support {

/// Writes channels of equal length as a WAV file of 32-bit float (RIFF, format tag 3).
inline bool writeWav(const QString& path,
                     const std::vector<std::vector<float>>& channels,
                     int sampleRate) {
    const auto count = static_cast<quint32>(channels.front().size());
    const auto width = static_cast<quint32>(channels.size());
    QByteArray data;
    const auto put = [&](quint32 value, int bytes) {
        for (int i = 0; i < bytes; ++i) data.append(static_cast<char>(value >> (8 * i) & 0xFFU));
    };
    const quint32 bytes = count * width * 4;
    data.append("RIFF");
    put(36 + bytes, 4);
    data.append("WAVEfmt ");
    put(16, 4);
    put(3, 2);
    put(width, 2);
    put(static_cast<quint32>(sampleRate), 4);
    put(static_cast<quint32>(sampleRate) * width * 4, 4);
    put(width * 4, 2);
    put(32, 2);
    data.append("data");
    put(bytes, 4);
    data.reserve(static_cast<qsizetype>(44 + bytes));
    for (quint32 i = 0; i < count; ++i) {
        for (const auto& channel : channels) {
            quint32 bits = 0;
            std::memcpy(&bits, &channel[i], 4);
            put(bits, 4);
        }
    }
    QFile file(path);
    return file.open(QIODevice::WriteOnly) && file.write(data) == data.size();
}

}  // namespace rigmatch::support
