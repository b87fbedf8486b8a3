// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <unistd.h>

#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <filesystem>
#include <string>

namespace rigmatch::fuzz {

/// Writes the bytes of a case into a file in memory and gives its name. Names come round after so
/// many cases that no file is taken for the one before it, by its time and size.
inline std::filesystem::path fileOf(const std::uint8_t* data,
                                    std::size_t size,
                                    const char* suffix) {
    static const std::string kBase =
        (std::filesystem::is_directory("/dev/shm") ? "/dev/shm" : "/tmp") +
        std::string("/rigmatch-fuzz-") + std::to_string(::getpid());
    constexpr unsigned kNames = 64;
    static unsigned count = 0;
    const std::string name = kBase + "-" + std::to_string(count++ % kNames) + suffix;
    if (std::FILE* file = std::fopen(name.c_str(), "wb")) {
        std::fwrite(data, 1, size, file);
        std::fclose(file);
    }
    return name;
}

}  // namespace rigmatch::fuzz
