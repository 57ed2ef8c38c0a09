// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/recorder_map.h"
#include "units/ascii.h"
#include "units/unit_table.h"
#include <algorithm>
#include <array>

namespace amber::record {
namespace {
/// Words by which headings name a quantity, the longer ones first: a heading is lower case, its marks are spaces.
struct Word {
    std::string_view word;
    Gauge gauge;
};
constexpr std::array<Word, 34> words{{{"manifold pressure", Gauge::boost},
                                      {"carburettor air", Gauge::carburettorAir},
                                      {"cylinder head", Gauge::headTemperature},
                                      {"oil pressure", Gauge::oilPressure},
                                      {"oil press", Gauge::oilPressure},
                                      {"oil temp", Gauge::oilTemperature},
                                      {"fuel pressure", Gauge::fuelPressure},
                                      {"fuel press", Gauge::fuelPressure},
                                      {"fuel flow", Gauge::fuelFlow},
                                      {"coolant", Gauge::coolantTemperature},
                                      {"manifold", Gauge::boost},
                                      {"airspeed", Gauge::airspeed},
                                      {"altitude", Gauge::height},
                                      {"exhaust", Gauge::exhaustTemperature},
                                      {"charge", Gauge::chargeTemperature},
                                      {"height", Gauge::height},
                                      {"torque", Gauge::torque},
                                      {"boost", Gauge::boost},
                                      {"heads", Gauge::headTemperature},
                                      {"head", Gauge::headTemperature},
                                      {"volts", Gauge::volts},
                                      {"amps", Gauge::amperes},
                                      {"bmep", Gauge::torque},
                                      {"oil p", Gauge::oilPressure},
                                      {"oil t", Gauge::oilTemperature},
                                      {"rpm", Gauge::rpm},
                                      {"map", Gauge::boost},
                                      {"cht", Gauge::headTemperature},
                                      {"egt", Gauge::exhaustTemperature},
                                      {"cat", Gauge::carburettorAir},
                                      {"ias", Gauge::airspeed},
                                      {"alt", Gauge::height},
                                      {"ff", Gauge::fuelFlow},
                                      {"oil", Gauge::oilTemperature}}};

std::string lower(std::string_view text) {
    std::string out;
    for (const char c : text)
        out += ascii::lower(c);
    return out;
}
std::string_view bare(std::string_view text) {
    while (!text.empty() && (text.front() == ' ' || text.front() == '\t'))
        text.remove_prefix(1);
    while (!text.empty() && (text.back() == ' ' || text.back() == '\t'))
        text.remove_suffix(1);
    return text;
}
/// Letters and figures of a heading, its other marks as spaces, one before and one behind.
std::string spaced(std::string_view heading) {
    std::string out = " ";
    for (const char c : lower(heading)) {
        const bool plain = ascii::isWord(c);
        if (plain || out.back() != ' ')
            out += plain ? c : ' ';
    }
    if (out.back() != ' ')
        out += ' ';
    return out;
}
/// The unit between brackets, and the heading without it.
std::pair<std::string, std::string> bracketed(const std::string& heading) {
    for (const auto& [open, close] : {std::pair('[', ']'), std::pair('(', ')')}) {
        const auto from = heading.find(open), to = heading.find(close, from == std::string::npos ? 0 : from);
        if (from != std::string::npos && to != std::string::npos && to > from)
            return {heading.substr(from + 1, to - from - 1), heading.substr(0, from) + heading.substr(to + 1)};
    }
    return {{}, heading};
}
void setUnit(RecorderColumn& c, const UnitSpec& unit) {
    c.scale = unit.scale;
    c.zero = unit.offset;
    c.unit = unit.symbol;
}

/// What no instrument shows, but a model knows.
bool isReckoned(Gauge gauge) {
    return gauge == Gauge::power || gauge == Gauge::weight || gauge == Gauge::balance;
}
/// Headings of our own traces: "1.oil_C", "height_m".
std::optional<RecorderColumn> ownColumn(const std::string& heading, const TypeNotes& notes) {
    for (const auto& row : gaugeRegister) {
        if (row.exported.empty() || isReckoned(row.gauge))
            continue;
        RecorderColumn c{0, heading, row.gauge, {}, row.exportScale, row.exportZero, std::string(row.exported), false};
        if (heading == row.exported && isOfAircraft(row.gauge))
            return c;
        for (const auto& p : notes.positions)
            if (heading == p.id + "." + std::string(row.exported)) {
                c.engine = p.id;
                return c;
            }
    }
    return std::nullopt;
}

std::optional<RecorderColumn> guessed(const std::string& heading, const TypeNotes& notes) {
    const auto [unit, rest] = bracketed(heading);
    const std::string name = spaced(rest);
    const auto word = std::find_if(words.begin(), words.end(), [&](const Word& w) {
        const auto at = name.find(" " + std::string(w.word));
        // A short word stands alone, or before a number: "cht2".
        return at != std::string::npos &&
               (w.word.size() > 4 || w.word.back() == ' ' || !ascii::isLetter(name[at + 1 + w.word.size()]));
    });
    if (word == words.end())
        return std::nullopt;
    RecorderColumn c;
    c.heading = heading;
    c.gauge = word->gauge;
    c.byName = true;
    // One that this type has not is no reading of it.
    if ((c.gauge == Gauge::headTemperature || c.gauge == Gauge::coolantTemperature) && !notes.gauges.contains(c.gauge))
        return std::nullopt;
    const Dimension dimension = nameOf(c.gauge).dimension;
    const UnitSpec* said = unit.empty() ? nullptr : findUnit(dimension, bare(unit));
    if (!said && !unit.empty() && dimension == Dimension::temperature)
        said = findUnit(dimension, "°" + std::string(bare(unit)));
    if (!said && !unit.empty())
        return std::nullopt; // a unit that is none of this quantity: it is something else
    if (!said)
        said = notes.gauges.contains(c.gauge) ? &notes.unitOf(c.gauge) : &unitsOf(dimension).front();
    setUnit(c, *said);
    if (isOfAircraft(c.gauge))
        return c;
    if (notes.positions.size() == 1) {
        c.engine = notes.positions.front().id;
        return c;
    }
    for (const auto& p : notes.positions)
        if (name.find(spaced(p.name)) != std::string::npos)
            c.engine = p.id;
    for (std::size_t i = 0; i < notes.positions.size() && c.engine.empty(); ++i) {
        // Its number, by itself or at the end of a word.
        const char digit = static_cast<char>('1' + static_cast<char>(i));
        for (std::size_t at = 1; at + 1 < name.size(); ++at)
            if (name[at] == digit && !ascii::isDigit(name[at - 1]) && name[at + 1] == ' ')
                c.engine = notes.positions[i].id;
    }
    if (c.engine.empty() && notes.positions.size() == 2)
        c.engine = name.find(" l ") != std::string::npos   ? notes.positions[0].id
                   : name.find(" r ") != std::string::npos ? notes.positions[1].id
                                                           : std::string();
    return c.engine.empty() ? std::nullopt : std::optional(c);
}
} // namespace

std::optional<RecorderColumn> columnFrom(std::string_view said) {
    std::vector<std::string> parts;
    while (true) {
        const auto comma = said.find(',');
        parts.emplace_back(bare(said.substr(0, comma)));
        if (comma == std::string_view::npos)
            break;
        said.remove_prefix(comma + 1);
    }
    const auto row = std::find_if(gaugeRegister.begin(), gaugeRegister.end(),
                                  [&](const GaugeRow& r) { return r.key == parts.front(); });
    if (row == gaugeRegister.end())
        return std::nullopt;
    RecorderColumn c;
    c.gauge = row->gauge;
    const bool whole = isOfAircraft(c.gauge);
    if (parts.size() != (whole ? 2U : 3U) || (!whole && parts[1].empty()))
        return std::nullopt;
    const UnitSpec* unit = findUnit(row->dimension, parts.back());
    if (!unit)
        return std::nullopt;
    if (!whole)
        c.engine = parts[1];
    setUnit(c, *unit);
    return c;
}

RecorderMap mapFor(const std::vector<std::string>& headings, const TypeNotes& notes, const AirframeFacts* facts) {
    RecorderMap out;
    const RecorderNotes* said = facts && facts->recorder ? &*facts->recorder : nullptr;
    const auto at = [&](const std::string& heading) {
        return std::find(headings.begin(), headings.end(), heading) - headings.begin();
    };
    const auto isTime = [](const std::string& heading) {
        const auto name = spaced(heading);
        return name.starts_with(" time ") || name.starts_with(" utc ") || name.starts_with(" time s ");
    };
    const auto time = said && !said->time.empty()
                          ? at(said->time)
                          : std::find_if(headings.begin(), headings.end(), isTime) - headings.begin();
    out.time = static_cast<std::size_t>(time) < headings.size() ? static_cast<std::size_t>(time) : 0;
    std::vector<bool> taken(headings.size(), false);
    if (out.time < taken.size())
        taken[out.time] = true;
    if (said)
        for (const auto& [heading, meaning] : said->columns) {
            const auto index = static_cast<std::size_t>(at(heading));
            auto column = columnFrom(meaning);
            if (index >= headings.size() || !column) {
                out.missing.push_back(heading);
                continue;
            }
            column->column = index;
            column->heading = heading;
            taken[index] = true;
            out.columns.push_back(std::move(*column));
        }
    for (std::size_t i = 0; i < headings.size(); ++i) {
        if (taken[i])
            continue;
        auto column = ownColumn(headings[i], notes);
        if (!column)
            column = guessed(headings[i], notes);
        const bool twice = column && std::any_of(out.columns.begin(), out.columns.end(), [&](const auto& c) {
                               return c.gauge == column->gauge && c.engine == column->engine;
                           });
        if (!column || twice) {
            out.unknown.push_back(headings[i]);
            continue;
        }
        column->column = i;
        out.columns.push_back(std::move(*column));
    }
    return out;
}

} // namespace amber::record
