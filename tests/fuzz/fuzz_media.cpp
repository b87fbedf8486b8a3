// SPDX-License-Identifier: GPL-3.0-or-later
// Stills, clips and their sound: the first byte chooses the ending; a few frames are read.
#include <array>
#include <cstdlib>

#include "fuzz_file.h"
#include "media/media_reader.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    constexpr std::array<const char*, 6> kEndings{".png", ".jpg", ".tif", ".mov", ".mkv", ".dpx"};
    rigmatch::media::ReaderOptions options;
    options.hasSound = true;
    auto reader = rigmatch::media::MediaReader::open(
        rigmatch::fuzz::fileOf(data + 1, size - 1, kEndings[data[0] % kEndings.size()]), options);
    if (!reader) {
        if (reader.error().hint.empty()) std::abort();
        return 0;
    }
    for (int i = 0; i < 4; ++i) {
        const auto frame = reader->next();
        if (!frame || !*frame) break;
        (void)reader->takeSound();
    }
    return 0;
}
