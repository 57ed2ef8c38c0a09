// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/key_ranges.h"
#include "units/text.h"
#include <cmath>
#include <cstdint>
#include <fmt/format.h>
#include <optional>
#include <string>

namespace amber::app {

/// Reads the figure of an option and holds it against the range of a path of the files, or of a row of the
/// command line's own, FileFormat::command. @return an error that begins with the option's name
template <Dimension D>
Result<Quantity<D>> readOption(const std::string& option, const std::string& text, const UnitSpec* unit,
                               FileFormat format, const std::string& path) {
    const auto figure = amber::read<D>(text, unit);
    if (!figure)
        return Failure{fmt::format("--{}: {}", option, figure.error())};
    if (const KeyRange* range = rangeOf(format, path); range && !range->holds(figure.value().si()))
        return Failure{fmt::format("--{}: {} is out of range. {}", option, text, range->expected())};
    return figure.value();
}

/// The same against the command line's own row for this option.
template <Dimension D>
Result<Quantity<D>> readOption(const std::string& option, const std::string& text, const UnitSpec* unit) {
    return readOption<D>(option, text, unit, FileFormat::command, option);
}

/// A whole number from 0 to 1e15; nothing for anything else.
inline std::optional<std::uint64_t> readSeed(const std::string& text) {
    std::string_view rest;
    const auto number = readNumber(text, rest);
    if (!number || !rest.empty() || number.value() < 0 || number.value() > 1e15 ||
        number.value() != std::floor(number.value()))
        return std::nullopt;
    return static_cast<std::uint64_t>(number.value());
}

} // namespace amber::app
