// SPDX-License-Identifier: GPL-3.0-or-later
// A test program of many tests: `program test_name [Qt Test's arguments]` runs one, without a name
// all of them, one after the other.
#include <cstdio>

#include "support/qt_test.h"
#include "support/test_list.h"

#ifdef RIGMATCH_TEST_WIDGETS
#include <QApplication>
using Application = QApplication;
#else
using Application = QCoreApplication;
#endif

using namespace rigmatch::support;

int main(int argc, char** argv) {
    Application application(argc, argv);
    QStringList arguments = QCoreApplication::arguments();
    const std::string first = arguments.size() > 1 ? arguments[1].toStdString() : std::string();
    if (const auto helper = helpers().find(first); helper != helpers().end())
        return helper->second(arguments.mid(2));
    if (const auto test = tests().find(first); test != tests().end()) {
        arguments.removeAt(1);
        return QTest::qExec(test->second().get(), arguments);
    }
    if (!first.empty() && first.front() != '-') {
        std::fprintf(stderr, "no test named %s; there are:\n", first.c_str());
        for (const auto& [name, make] : tests()) std::fprintf(stderr, "  %s\n", name.c_str());
        return 2;
    }
    int failed = 0;
    for (const auto& [name, make] : tests()) failed += QTest::qExec(make().get(), arguments);
    return failed;
}
