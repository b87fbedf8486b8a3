// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <system_error>

namespace rigmatch::base {
namespace {

namespace fs = std::filesystem;

std::string systemReason(int number) { return std::generic_category().message(number); }

tl::unexpected<Error> writeError(const fs::path& path, int number) {
    Text hint = say("file.saveElsewhere");
    if (number == ENOSPC || number == EDQUOT || number == EFBIG) {
        hint = say("file.freeSpace");
    }
    if (number == EACCES || number == EPERM || number == EROFS) {
        hint = say("file.notWritable");
    }
    return fail(ErrorCode::WriteFailed,
                say("file.cannotWrite", {{"path", path.string()}}),
                say("file.systemSays", {{"reason", systemReason(number)}}),
                hint);
}

/// A file descriptor that is closed, and its file removed unless kept.
class TemporaryFile {
public:
    explicit TemporaryFile(fs::path path)
        : m_path(std::move(path)),
          m_descriptor(::open(m_path.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644)) {}
    TemporaryFile(const TemporaryFile&) = delete;
    TemporaryFile& operator=(const TemporaryFile&) = delete;
    ~TemporaryFile() {
        close();
        if (m_isOurs) ::unlink(m_path.c_str());
    }

    [[nodiscard]] bool isOpen() const { return m_descriptor >= 0; }
    [[nodiscard]] int descriptor() const { return m_descriptor; }
    int close() {
        const int code = m_descriptor >= 0 ? ::close(m_descriptor) : 0;
        m_descriptor = -1;
        return code;
    }
    void keep() { m_isOurs = false; }

private:
    fs::path m_path;
    int m_descriptor;
    bool m_isOurs = true;
};

bool writeAll(int descriptor, std::string_view bytes) {
    while (!bytes.empty()) {
        const ssize_t count = ::write(descriptor, bytes.data(), bytes.size());
        if (count < 0 && errno == EINTR) continue;
        if (count <= 0) return false;
        bytes.remove_prefix(static_cast<std::size_t>(count));
    }
    return true;
}

/// The rename itself must reach the disk too, or a power cut may bring the old name back empty.
void flushFolder(const fs::path& folder) {
    const int descriptor = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (descriptor < 0) return;
    ::fsync(descriptor);
    ::close(descriptor);
}

}  // namespace

Result<void> writeAtomically(const fs::path& path, std::string_view bytes) {
    std::error_code ignored;
    const fs::path target = fs::exists(path, ignored) ? fs::canonical(path, ignored) : path;
    const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
    const fs::path temporary =
        folder / ("." + target.filename().string() + "." + std::to_string(::getpid()) + ".part");
    TemporaryFile file(temporary);
    if (!file.isOpen()) return writeError(path, errno);
    if (!writeAll(file.descriptor(), bytes)) return writeError(path, errno);
    if (::fsync(file.descriptor()) != 0) return writeError(path, errno);
    if (file.close() != 0) return writeError(path, errno);
    if (::rename(temporary.c_str(), target.c_str()) != 0) return writeError(path, errno);
    file.keep();
    flushFolder(folder);
    return {};
}

Result<void> appendDurably(const fs::path& path, std::string_view bytes) {
    const int descriptor = ::open(path.c_str(), O_WRONLY | O_APPEND | O_CLOEXEC);
    if (descriptor < 0) return writeError(path, errno);
    const off_t before = ::lseek(descriptor, 0, SEEK_END);
    int reason = before < 0 ? errno : 0;
    if (reason == 0 && (!writeAll(descriptor, bytes) || ::fsync(descriptor) != 0)) {
        reason = errno;
        // What was written of it must not stand before what comes next.
        if (::ftruncate(descriptor, before) != 0) reason = errno;
    }
    ::close(descriptor);
    if (reason != 0) return writeError(path, reason);
    return {};
}

Result<std::string> readWhole(const fs::path& path, std::size_t limitBytes) {
    std::error_code code;
    if (!fs::exists(path, code)) {
        return fail(ErrorCode::NotFound,
                    say("file.cannotOpen", {{"path", path.string()}}),
                    say("file.thereNoSuch"),
                    say("file.checkNameChoose"));
    }
    // Folders cannot be read, and devices and pipes may never end.
    if (!fs::is_regular_file(path, code)) {
        return fail(ErrorCode::Unreadable,
                    say("file.cannotOpen", {{"path", path.string()}}),
                    fs::is_directory(path, code) ? say("file.folder") : say("file.noOrdinaryFile"),
                    say("file.chooseFile"));
    }
    const auto size = fs::file_size(path, code);
    if (!code && size > limitBytes) {
        return fail(ErrorCode::TooLarge,
                    say("file.cannotOpen", {{"path", path.string()}}),
                    say("file.bytesUpRead",
                        {{"bytes", base::whole(size)}, {"most", base::whole(limitBytes)}}),
                    say("file.chooseRigFile"));
    }
    std::ifstream stream(path, std::ios::binary);
    std::string bytes((std::istreambuf_iterator<char>(stream)), std::istreambuf_iterator<char>());
    if (code || !stream.is_open() || stream.bad()) {
        return fail(ErrorCode::Unreadable,
                    say("file.cannotOpen", {{"path", path.string()}}),
                    say("file.noReadableFile"),
                    say("file.checkRightsFile"));
    }
    return bytes;
}

}  // namespace rigmatch::base
