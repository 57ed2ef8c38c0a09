// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "record/log.h"
#include <string>
#include <string_view>

namespace amber::record {

/// A log as JSON that loses nothing (docs/formats/log.md): to carry it to another program, or to read it in again.
std::string logJson(const Log& log);
/// Reads it. What is wrong is told and left out; the rest is there.
Log readLogJson(std::string_view text, const std::string& file, Problems& problems);
/// What stands, a line each, for a spreadsheet; figures in the commonest unit of each.
std::string logCsv(const Log& log);

/// "2026-11-29 14:05:30" in UTC, and back; nothing for what is no time.
std::string timeText(std::int64_t milliseconds);
std::optional<std::int64_t> timeFrom(std::string_view text);

} // namespace amber::record
