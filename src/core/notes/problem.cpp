// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/problem.h"
#include <fmt/format.h>

namespace amber {

std::string Problem::text() const {
    const std::string place = line > 0 ? fmt::format("{}:{}", file, line) : file;
    return remedy.empty() ? fmt::format("{}: {}", place, what) : fmt::format("{}: {}. {}", place, what, remedy);
}

} // namespace amber
