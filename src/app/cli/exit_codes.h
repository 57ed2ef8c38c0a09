// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace amber::app {

/// What the command line ends with, for scripts (docs/formats/command-line.md).
enum ExitCode {
    exitOk = 0,       ///< done
    exitProblems = 1, ///< the input has problems; they are listed on standard error (check: standard output)
    exitUsage = 2,    ///< the command itself is wrong
    exitWrite = 3,    ///< an output file could not be written
};

} // namespace amber::app
