// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <vector>

namespace amber {

/// One thing wrong with a file, where it is, and what to do about it.
struct Problem {
    std::string file;
    int line = 0; ///< 1-based; 0 for the file as a whole
    std::string what;
    std::string remedy;

    /// "lorimer.toml:12: …. …" as compilers write it, so that editors can jump there.
    [[nodiscard]] std::string text() const;
};

using Problems = std::vector<Problem>;

} // namespace amber
