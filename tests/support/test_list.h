// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>
#include <map>
#include <memory>
#include <string>

namespace rigmatch::support {

using TestMaker = std::function<std::unique_ptr<QObject>()>;
/// What a test program does for one of its own tests in a process of its own.
using Helper = std::function<int(const QStringList& arguments)>;

inline std::map<std::string, TestMaker>& tests() {
    static std::map<std::string, TestMaker> all;
    return all;
}
inline std::map<std::string, Helper>& helpers() {
    static std::map<std::string, Helper> all;
    return all;
}

/// Name of a test: its file's without folder and ending, the one that ctest knows.
inline std::string testNameOf(const std::string& file) {
    const auto slash = file.find_last_of('/');
    const std::string name = slash == std::string::npos ? file : file.substr(slash + 1);
    return name.substr(0, name.find('.'));
}

struct TestEntry {
    TestEntry(const char* file, TestMaker make) { tests()[testNameOf(file)] = std::move(make); }
};
struct HelperEntry {
    HelperEntry(const char* name, Helper run) { helpers()[name] = std::move(run); }
};

}  // namespace rigmatch::support

/// Puts a test class into its program, under the name of the file it stands in.
#define RIG_TEST(Class)                                        \
    static const rigmatch::support::TestEntry s_entry##Class { \
        __FILE__, [] { return std::make_unique<Class>(); }     \
    }
