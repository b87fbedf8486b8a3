// SPDX-License-Identifier: GPL-3.0-or-later
#include <iostream>

#include "cli/command_line.h"

int main(int argc, char** argv) {
    return rigmatch::cli::runCommandLine(argc, argv, {std::cout, std::cerr});
}
