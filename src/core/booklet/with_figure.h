// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <string>
#include <string_view>

namespace amber::booklet {

/// The text of a notes file with one figure put in or replaced, all else as it stands with its comments.
/// @param path of a plain key, "warming.taxi" or "limits.oil.max"; its last part is the key and the rest its table
/// @param value as TOML writes it: 5, "25 °C"
/// @return nothing where the table is written within a line (`a = { … }`) or is one of several ([[rating]])
std::optional<std::string> withFigure(std::string_view text, std::string_view path, std::string_view value);

} // namespace amber::booklet
