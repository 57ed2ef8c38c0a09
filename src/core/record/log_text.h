// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "record/log.h"
#include "record/trace.h"
#include <functional>
#include <iosfwd>
#include <string>
#include <string_view>

namespace amber::record {

/// A log as JSON that loses nothing (docs/formats/log.md): to carry it to another program, or to read it in again.
/// @param traces blocks of recorders' traces, carried with it
std::string logJson(const Log& log, const std::vector<TraceBlock>& traces = {});
/// The same, row by row, for a log of any size: first all runs, then all entries, then all blocks.
class LogJsonWriter {
public:
    using Sink = std::function<bool(std::string_view text)>; ///< whether it could be written
    explicit LogJsonWriter(Sink sink) : sink_(std::move(sink)) {}
    bool put(const Run& run);
    bool put(const Entry& entry);
    bool put(const TraceBlock& block);
    bool end();

private:
    bool row(int list, const std::string& text);
    Sink sink_;
    int list_ = -1;
    bool first_ = true;
};

/// Where the rows of a log go that is read row by row. What is wrong with a row is told and it is left out.
struct LogSink {
    std::function<void(Run)> run;
    std::function<void(Entry)> entry;
    std::function<void(TraceBlock)> block;
};
/// Reads a log of any size: no more than one row of it is held at a time. @return whether it was read to its end
bool readLogJson(std::istream& in, const std::string& file, Problems& problems, const LogSink& sink);

/// Reads it. What is wrong is told and left out; the rest is there.
/// @param traces where blocks of traces go; null: they are left
Log readLogJson(std::string_view text, const std::string& file, Problems& problems,
                std::vector<TraceBlock>* traces = nullptr);
/// What stands, a line each, for a spreadsheet; figures in the commonest unit of each.
std::string logCsv(const Log& log);
/// The same without its heading.
std::string logCsvRows(const Log& log);

/// "2026-11-29 14:05:30" in UTC, and back; nothing for what is no time.
std::string timeText(std::int64_t milliseconds);
std::optional<std::int64_t> timeFrom(std::string_view text);

} // namespace amber::record
