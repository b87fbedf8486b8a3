// SPDX-License-Identifier: GPL-3.0-or-later
#include <iostream>

#include "base/memory.h"
#include "cli/command_line.h"

int main(int argc, char** argv) {
    rigmatch::base::returnLargeBlocks();
    return rigmatch::cli::runCommandLine(argc, argv, {std::cout, std::cerr});
}
