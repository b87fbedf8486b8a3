// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/file_identity.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <fstream>
#include <vector>

namespace rigmatch::base {

std::string fileIdentity(const std::filesystem::path& file) {
    constexpr std::uint64_t kOffsetBasis = 14695981039346656037ULL, kPrime = 1099511628211ULL;
    constexpr std::uintmax_t kPiece = 1U << 20U;
    std::error_code code;
    if (!std::filesystem::is_regular_file(file, code)) return {};
    const auto size = std::filesystem::file_size(file, code);
    if (code || size == 0) return {};
    std::ifstream in(file, std::ios::binary);
    std::uint64_t hash = kOffsetBasis;
    const auto take = [&](std::uintmax_t from, std::uintmax_t length) {
        std::vector<char> piece(static_cast<std::size_t>(length));
        in.seekg(static_cast<std::streamoff>(from));
        if (!in.read(piece.data(), static_cast<std::streamsize>(length))) return false;
        for (const char byte : piece) {
            hash ^= static_cast<unsigned char>(byte);
            hash *= kPrime;
        }
        return true;
    };
    const std::uintmax_t last = size > kPiece ? size - kPiece : 0;
    const bool isRead = size <= 3 * kPiece
                            ? take(0, size)
                            : take(0, kPiece) && take(last / 2, kPiece) && take(last, kPiece);
    if (!isRead) return {};
    std::array<char, 20> text{};
    const auto end = std::to_chars(text.data(), text.data() + text.size(), hash, 16);
    return std::to_string(size) + "-" + std::string(text.data(), end.ptr);
}

std::uintmax_t sizeOfIdentity(const std::string& identity) {
    std::uintmax_t size = 0;
    std::from_chars(identity.data(), identity.data() + identity.size(), size);
    return size;
}

}  // namespace rigmatch::base
