// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/words.h"

#include <filesystem>
#include <ostream>

#include "rig/rig_store.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

constexpr char kLastLetter = static_cast<char>('A' + rig::kMostCameras - 1);

tl::unexpected<base::Error> misread(const std::string& text,
                                    const std::string& allowed,
                                    const std::string& example) {
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("words.cannotUnderstand", {{"text", text}}),
                      base::asIs(allowed),
                      base::say("words.example", {{"example", example}}));
}

}  // namespace

base::Result<NamedFile> namedFile(const std::string& text) {
    const auto sign = text.find('=');
    if (sign == 1 && text[0] >= 'A' && text[0] <= kLastLetter && text.size() > 2)
        return NamedFile{text.substr(0, 1), text.substr(2)};
    return misread(
        text,
        std::string("A camera is given as LETTER=FILE, letters A to ") + kLastLetter + ".",
        "--camera B=b.mov");
}

base::Result<jobs::GivenSetting> givenSetting(const std::string& text) {
    const auto dot = text.find('.');
    const auto sign = text.find('=');
    if (dot == 1 && sign != std::string::npos && sign > 2 && sign + 1 < text.size())
        return jobs::GivenSetting{
            text.substr(0, 1), text.substr(2, sign - 2), text.substr(sign + 1)};
    return misread(text, "A setting is given as LETTER.KEY=VALUE.", "--set B.iso=800");
}

base::Result<rig::Rig> writable(const std::string& file) {
    auto loaded = rig::loadRig(file);
    if (!loaded) return tl::unexpected(loaded.error());
    if (loaded->isReadOnly) {
        return base::fail(base::ErrorCode::NewerVersion,
                          base::say("file.cannotWrite", {{"path", file}}),
                          base::say("rigFile.later"),
                          base::say("rigFile.useThatVersion"));
    }
    return std::move(loaded->rig);
}

base::Result<rig::Rig> openedOrNew(const std::string& file) {
    std::error_code code;
    if (std::filesystem::exists(file, code)) return writable(file);
    rig::Rig made;
    made.name = std::filesystem::path(file).stem().string();
    return made;
}

int failed(const Streams& streams, const base::Error& error) {
    streams.err << words::inEnglish(error) << "\n";
    return kFailed;
}

bool said(const Streams& streams, const base::Error& error) {
    streams.err << words::inEnglish(error) << "\n";
    return false;
}

}  // namespace rigmatch::cli
