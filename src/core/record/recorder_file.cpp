// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/recorder_file.h"
#include "files/csv.h"
#include "files/key_ranges.h"
#include "record/log_text.h"
#include "record/recorder_cells.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <map>
#include <optional>

namespace amber::record {
namespace {
constexpr float nothing = std::numeric_limits<float>::quiet_NaN();
constexpr std::int64_t gapLeast = 5000, gapSteps = 3; // ms, steps
constexpr std::int64_t gapMost = 10;                  // steps: longer is one however short
constexpr std::int64_t dayLength = 86'400'000;
constexpr std::size_t mostHeadings = 500, longestShown = 20, mostCells = 20'000'000;
constexpr std::size_t mostTold = 12;
constexpr int headingsWithin = 60, linesTasted = 200;
constexpr std::int64_t longestPiece = 14 * dayLength;

class Reader {
public:
    Reader(std::string_view text, const std::string& file, const TypeNotes& notes, const AirframeFacts* facts,
           Problems& problems)
        : records_(text), text_(text), file_(file), notes_(notes), facts_(facts), problems_(problems) {}

    std::optional<Recording> read() {
        if (!findHeading())
            return std::nullopt;
        std::size_t cellsRead = 0;
        std::vector<std::string_view> cells;
        while (records_.next(cells)) {
            if ((cells.size() == 1 && cells.front().empty()) || cells.front().starts_with('#'))
                continue;
            cellsRead += cells.size();
            if (cellsRead > mostCells)
                return refuse(fmt::format("more than {} figures", mostCells), "Import it in parts");
            take(cells);
        }
        finish();
        if (out_.pieces.empty() && parted_ > 0)
            return refuse(
                fmt::format("line {} has more cells than headings, as have {} in all", partedLine_, parted_),
                "Where a comma stands for the decimal point, cells are parted by semicolons or stand in quotes");
        if (out_.pieces.empty())
            return refuse("no line of it has a time and a figure",
                          "Look whether the time's column is named: [recorder] "
                          "time in the airframe's file");
        if (noSample_ > 0)
            tell(fmt::format("{} line{} with no time: passed over", noSample_, noSample_ == 1 ? "" : "s"));
        if (parted_ > 0)
            tell(fmt::format("{} line{} with more cells than headings, the first line {}: left out (a comma as decimal "
                             "point?)",
                             parted_, parted_ == 1 ? "" : "s", partedLine_));
        for (const auto& [heading, unread] : unread_)
            tell(fmt::format("{}: {} cell{} that {} no figure, the first \"{}\" on line {}: left out", heading,
                             unread.count, unread.count == 1 ? "" : "s", unread.count == 1 ? "is" : "are", unread.shown,
                             unread.line));
        for (const auto& [heading, count] : implausible_)
            tell(fmt::format("{}: {} figure{} that no such gauge shows: left out", heading, count,
                             count == 1 ? "" : "s"));
        if (more_ > 0)
            out_.told.push_back(fmt::format("and {} more", more_));
        return std::move(out_);
    }

private:
    std::nullopt_t refuse(const std::string& why, const std::string& fix) {
        problems_.push_back({file_, line_, why, fix});
        return std::nullopt;
    }
    void tell(std::string what) {
        if (out_.told.size() < mostTold)
            out_.told.push_back(std::move(what));
        else
            ++more_;
    }
    bool findHeading() {
        std::vector<std::string_view> cells;
        for (const char mark : {',', ';', '\t'}) {
            csv::Records records(text_, mark);
            for (int read = 0; read < headingsWithin && records.next(cells); ++read) {
                if (cells.size() < 2 || cells.size() > mostHeadings)
                    continue;
                const std::vector<std::string> headings(cells.begin(), cells.end());
                auto map = mapFor(headings, notes_, facts_);
                // A line of figures is no heading.
                if (map.columns.empty() || timeIn(headings[map.time]))
                    continue;
                headings_ = headings.size();
                out_.map = std::move(map);
                records_ = records;
                comma_ = decimalsBehindCommas(records, mark);
                begin();
                return true;
            }
        }
        line_ = 0;
        refuse("none of its first lines is a heading with columns that are known",
               "Say in the airframe's file what they are: [recorder.columns] \"CHT L\" = \"head, 1, °F\"");
        return false;
    }

    /// Whether the figures of the first lines are written with a comma where others write a point.
    [[nodiscard]] bool decimalsBehindCommas(csv::Records ahead, char mark) const {
        std::vector<std::string_view> cells;
        std::size_t commas = 0, points = 0;
        for (int read = 0; read < linesTasted && ahead.next(cells); ++read) {
            for (const auto& c : out_.map.columns) {
                if (c.column < cells.size()) {
                    const auto cell = cells[c.column];
                    const auto last = cell.find_last_of(",.");
                    // Three figures behind it: thousands, it may be; a semicolon between cells speaks for a decimal
                    // comma.
                    if (last != std::string_view::npos &&
                        (cell.size() - last != 4 || (mark == ';' && cell[last] == ',')))
                        ++(cell[last] == ',' ? commas : points);
                }
            }
        }
        return commas > points;
    }

    void begin() {
        for (const auto& c : out_.map.columns) {
            const auto* range = rangeOf(FileFormat::log, nameOf(c.gauge).key);
            ranges_.push_back(range);
        }
        for (const auto& heading : out_.map.missing)
            tell(fmt::format("the airframe names a column \"{}\": this file has none", heading));
    }

    void take(const std::vector<std::string_view>& cells) {
        // More cells than headings: a figure was parted, and what stands behind it would be read as another's.
        if (std::any_of(cells.begin() + static_cast<std::ptrdiff_t>(std::min(headings_, cells.size())), cells.end(),
                        [](std::string_view cell) { return !cell.empty(); })) {
            if (parted_++ == 0)
                partedLine_ = records_.line();
            return;
        }
        const auto time = out_.map.time < cells.size() ? timeIn(cells[out_.map.time], comma_) : std::nullopt;
        if (!time) {
            ++noSample_;
            return;
        }
        std::int64_t at = time->at;
        if (time->clock) { // past midnight the clock begins anew
            if (lastClock_ && at < *lastClock_ - dayLength / 2)
                days_ += dayLength;
            lastClock_ = at;
            at += days_;
        }
        out_.dated = out_.dated || time->dated;
        ++out_.lines;
        times_.push_back(at);
        for (std::size_t i = 0; i < out_.map.columns.size(); ++i) {
            const auto& c = out_.map.columns[i];
            float value = nothing;
            if (c.column < cells.size()) {
                if (const auto figure = numberIn(cells[c.column], comma_)) {
                    const double si = *figure * c.scale + c.zero;
                    if (!ranges_[i] || ranges_[i]->holds(si))
                        value = static_cast<float>(si);
                    else
                        ++implausible_[c.heading];
                } else if (!cells[c.column].empty()) {
                    auto& [count, line, shown] = unread_[c.heading];
                    if (count++ == 0) {
                        line = records_.line();
                        shown = cells[c.column].substr(0, longestShown);
                    }
                }
            }
            rows_.push_back(value);
        }
    }

    /// Where a clock is set back into what it has told already, what follows is laid on behind: two moments cannot have
    /// one time, and the count of the lines is still true. (Set back before all of it, it is another record.)
    void unfold(std::int64_t step) {
        std::int64_t later = 0, last = times_.front(), earliest = times_.front();
        for (std::size_t i = 1; i < times_.size(); ++i) {
            const std::int64_t raw = times_[i], passed = raw - last;
            if (passed < 0 && raw + later >= earliest) {
                later += step - passed;
                breaks_.emplace(i, -passed);
            }
            last = raw;
            times_[i] = raw + later;
            earliest = std::min(earliest, times_[i]);
        }
    }
    /// Even steps of what was read: a new piece after a gap and where a clock was set back.
    void finish() {
        if (times_.size() < 2)
            return;
        std::vector<std::int64_t> steps;
        for (std::size_t i = 1; i < times_.size(); ++i)
            if (times_[i] > times_[i - 1])
                steps.push_back(times_[i] - times_[i - 1]);
        if (steps.empty())
            return;
        std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
        const std::int64_t step = std::max<std::int64_t>(1, steps[steps.size() / 2]);
        unfold(step);
        const std::size_t columns = out_.map.columns.size();
        RecordedPiece* piece = nullptr;
        const std::int64_t first = times_.front();
        for (std::size_t i = 0; i < times_.size(); ++i) {
            const std::int64_t passed = i == 0 ? 0 : times_[i] - times_[i - 1];
            const bool gap = passed > std::max(gapLeast, gapSteps * step) || passed > gapMost * step, back = passed < 0;
            if (!piece || gap || back || breaks_.contains(i) || times_[i] - piece->start > longestPiece) {
                if (gap)
                    tell(fmt::format("a gap of {} s after {}", passed / 1000, said(times_[i - 1], first)));
                if (const auto by = breaks_.find(i); by != breaks_.end())
                    tell(fmt::format("the clock was set back {} s after {}: what follows is laid on behind it",
                                     by->second / 1000, said(times_[i - 1], first)));
                if (back)
                    tell(fmt::format("the clock was set back {} s after {}", -passed / 1000,
                                     said(times_[i - 1], first)));
                out_.pieces.push_back({times_[i], step, std::vector<std::vector<float>>(columns)});
                piece = &out_.pieces.back();
            }
            const auto index = static_cast<std::size_t>((times_[i] - piece->start + step / 2) / step);
            for (std::size_t c = 0; c < columns; ++c) {
                auto& values = piece->values[c];
                if (values.size() <= index)
                    values.resize(index + 1, nothing);
                if (std::isnan(values[index]))
                    values[index] = rows_[i * columns + c];
            }
        }
    }
    [[nodiscard]] std::string said(std::int64_t at, std::int64_t first) const {
        return out_.dated ? timeText(at) : fmt::format("{} s", (at - first) / 1000);
    }

    struct Unread {
        std::size_t count = 0;
        int line = 0;
        std::string shown;
    };
    csv::Records records_;
    std::string_view text_;
    const std::string& file_;
    const TypeNotes& notes_;
    const AirframeFacts* facts_;
    Problems& problems_;
    Recording out_;
    std::size_t noSample_ = 0, more_ = 0, headings_ = 0, parted_ = 0;
    int line_ = 0, partedLine_ = 0;
    bool comma_ = false;
    std::map<std::string, Unread> unread_;
    std::vector<const KeyRange*> ranges_;
    std::map<std::size_t, std::int64_t> breaks_; ///< lines at which the clock was set back, and by how much
    std::vector<std::int64_t> times_;
    std::vector<float> rows_;
    std::map<std::string, std::size_t> implausible_;
    std::optional<std::int64_t> lastClock_;
    std::int64_t days_ = 0;
};
} // namespace

std::optional<Recording> readRecorder(std::string_view text, const std::string& file, const TypeNotes& notes,
                                      const AirframeFacts* facts, Problems& problems) {
    return Reader(text, file, notes, facts, problems).read();
}

} // namespace amber::record
