// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include <cstdio>
#include <fmt/format.h>
#include <memory>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

namespace amber::app {

/// The aircraft of a command's notes and variant; its problems go to standard error. Nothing when it cannot be read.
inline std::shared_ptr<const powerplant::Aircraft> aircraftOf(const std::string& notes, const std::string& variant) {
    auto loaded = flight::loadAircraft(notes, variant);
    for (const auto& p : loaded.problems)
        fmt::print(stderr, "{}\n", p.text());
    return loaded.aircraft;
}

inline nlohmann::ordered_json orNull(std::optional<double> value) {
    return value ? nlohmann::ordered_json(*value) : nlohmann::ordered_json(nullptr);
}

} // namespace amber::app
