// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/line_reader.h"
#include "files/csv.h"
#include "files/key_ranges.h"
#include "record/recorder_cells.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::aloft {
namespace {
constexpr std::int64_t silent = 5000; // ms: longer is a gap
constexpr int sayings = 3;            // of one kind, then no more
constexpr std::size_t mostSaid = 200;
} // namespace

LineReader::LineReader(const TypeNotes& notes, const AirframeFacts* facts) : notes_(&notes), facts_(facts) {}

void LineReader::tell(const std::string& key, std::string what) {
    if (++said_[key] <= sayings && told_.size() < mostSaid)
        told_.push_back(std::move(what));
}

std::vector<std::string> LineReader::told() {
    return std::exchange(told_, {});
}

void LineReader::parted() {
    half_.clear();
    overflowed_ = false;
    offset_.reset();
    lastDevice_.reset();
}

bool LineReader::heading(const std::vector<std::string_view>& cells) {
    if (cells.size() < 2)
        return false;
    const std::vector<std::string> headings(cells.begin(), cells.end());
    auto map = record::mapFor(headings, *notes_, facts_);
    if (map.columns.empty() || map.time >= headings.size() || record::timeIn(headings[map.time]))
        return false;
    if (headed_ && headings.size() != headings_)
        tell("headings", fmt::format("The recorder now sends {} columns for {}.", headings.size(), headings_));
    headings_ = headings.size();
    if (!map.unknown.empty() && !headed_)
        tell("unknown", fmt::format("Not taken, nobody says what it is: {}.", [&] {
                 std::string all;
                 for (const auto& u : map.unknown)
                     all += (all.empty() ? "" : ", ") + u.substr(0, 40);
                 return all;
             }()));
    map_ = std::move(map);
    headed_ = true;
    return true;
}

void LineReader::line(std::string_view text, std::vector<Raw>& rows) {
    while (!text.empty() && (text.back() == '\r' || text.back() == ' '))
        text.remove_suffix(1);
    if (text.empty() || text.front() == '#')
        return;
    std::vector<std::string_view> cells;
    const auto parts = [&](char mark) {
        csv::Records records(text, mark);
        cells.clear();
        return records.next(cells) && cells.size() >= 2;
    };
    if (!headed_) {
        for (const char mark : {',', ';', '\t'})
            if (parts(mark) && heading(cells)) {
                mark_ = mark;
                return;
            }
        ++passed_;
        tell("before", "Lines before its headings are passed over.");
        return;
    }
    if (!parts(mark_)) {
        ++passed_;
        tell("garbage", "A line that is no line of this recorder was passed over.");
        return;
    }
    const auto time = map_.time < cells.size() ? record::timeIn(cells[map_.time]) : std::nullopt;
    if (!time) {
        if (heading(cells))
            return;
        ++passed_;
        tell("garbage", "A line that is no line of this recorder was passed over.");
        return;
    }
    if (cells.size() > headings_) {
        ++passed_;
        tell("more", fmt::format("A line with {} cells under {} headings was passed over: a comma as decimal point?",
                                 cells.size(), headings_));
        return;
    }
    if (cells.size() < headings_) {
        // Half a line: the figures it has may be cut as well.
        ++passed_;
        tell("fewer", fmt::format("A line with {} cells under {} headings was passed over.", cells.size(), headings_));
        return;
    }
    Raw row{time->at, {}};
    row.values.reserve(map_.columns.size());
    for (const auto& c : map_.columns) {
        float value = std::numeric_limits<float>::quiet_NaN();
        if (c.column < cells.size() && !cells[c.column].empty()) {
            const auto cell = cells[c.column];
            const bool comma = mark_ != ',' && cell.find(',') != std::string_view::npos;
            if (const auto figure = record::numberIn(cell, comma)) {
                const double si = *figure * c.scale + c.zero;
                const auto* range = rangeOf(FileFormat::log, nameOf(c.gauge).key);
                if (!range || range->holds(si))
                    value = static_cast<float>(si);
                else
                    tell("range " + c.heading, fmt::format("{}: {} is no figure of such a gauge, left out (its unit?).",
                                                           c.heading, std::string(cell.substr(0, 20))));
            }
        }
        row.values.push_back(value);
    }
    rows.push_back(std::move(row));
    ++lines_;
}

std::vector<LiveRow> LineReader::take(std::string_view bytes, std::int64_t received) {
    std::vector<Raw> rows;
    if (lastReceived_ && received - *lastReceived_ > silent && lines_ > 0)
        tell("silent", fmt::format("Nothing came from the recorder for {}.",
                                   formatMinutesSeconds(static_cast<double>(received - *lastReceived_) / 1000.0)));
    lastReceived_ = received;
    for (std::size_t from = 0; from < bytes.size();) {
        const auto end = bytes.find('\n', from);
        const auto part = bytes.substr(from, end == std::string_view::npos ? end : end - from);
        from = end == std::string_view::npos ? bytes.size() : end + 1;
        if (half_.size() + part.size() > longestLine) {
            if (!overflowed_)
                tell("long", "A line without an end was passed over.");
            overflowed_ = true;
            half_.clear();
        } else {
            half_ += part;
        }
        if (end == std::string_view::npos)
            break;
        if (overflowed_)
            ++passed_;
        else
            line(half_, rows);
        half_.clear();
        overflowed_ = false;
    }
    // The device's clock against ours: the least that its lines were late.
    for (const auto& r : rows) {
        if (lastDevice_ && r.device < *lastDevice_ - 1000) {
            tell("back", fmt::format("The recorder's clock was set back by {}: what follows is kept apart.",
                                     formatMinutesSeconds(static_cast<double>(*lastDevice_ - r.device) / 1000.0)));
            offset_.reset();
        }
        lastDevice_ = r.device;
        const std::int64_t here = received - r.device;
        offset_ = offset_ ? std::min(*offset_, here) : here;
    }
    std::vector<LiveRow> out;
    for (auto& r : rows) {
        LiveRow row{r.device + *offset_, false, std::move(r.values)};
        row.past = received - row.at > late;
        if (row.past)
            tell("past", "The recorder sends what it had kept: no needle of now.");
        if (lastKept_ && row.at >= *lastKept_ && row.at - *lastKept_ < finest) {
            if (!out.empty()) { // the later one of the tenth stands
                out.back().values = std::move(row.values);
                continue;
            }
            continue;
        }
        lastKept_ = row.at;
        out.push_back(std::move(row));
    }
    return out;
}

} // namespace amber::aloft
