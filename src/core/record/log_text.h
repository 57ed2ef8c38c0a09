// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "record/log.h"
#include "record/trace.h"
#include <string>
#include <string_view>

namespace amber::record {

/// A log as JSON that loses nothing (docs/formats/log.md): to carry it to another program, or to read it in again.
/// @param traces blocks of recorders' traces, carried with it
std::string logJson(const Log& log, const std::vector<TraceBlock>& traces = {});
/// Reads it. What is wrong is told and left out; the rest is there.
/// @param traces where blocks of traces go; null: they are left
Log readLogJson(std::string_view text, const std::string& file, Problems& problems,
                std::vector<TraceBlock>* traces = nullptr);
/// What stands, a line each, for a spreadsheet; figures in the commonest unit of each.
std::string logCsv(const Log& log);

/// "2026-11-29 14:05:30" in UTC, and back; nothing for what is no time.
std::string timeText(std::int64_t milliseconds);
std::optional<std::int64_t> timeFrom(std::string_view text);

} // namespace amber::record
