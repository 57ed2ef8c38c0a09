// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/what.h"
#include "files/key_ranges.h"
#include "record/moments.h"
#include "units/ascii.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/run_up_sheet.h"
#include "watch/walk_round.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <vector>

namespace amber::record {
namespace {

std::vector<WhatRow> allRows() {
    std::vector<WhatRow> out;
    for (const auto& row : gaugeRegister)
        out.push_back({row.key, row.title, row.dimension, row.gauge});
    const WhatRow more[] = {
        {"prime", "Primer, strokes", {}, {}},
        {"tries", "Tries to start", {}, {}},
        {"crank", "Starter turned", Dimension::duration, {}},
        {"fire", "Seconds to fire", Dimension::duration, {}},
        {"oil-pressure-up", "Seconds to oil pressure", Dimension::duration, {}},
        {"warm-up", "Warm-up", Dimension::duration, {}},
        {"magneto-left", "Left magneto, drop", Dimension::rotation, {}},
        {"magneto-right", "Right magneto, drop", Dimension::rotation, {}},
        {"static-rpm", "Static rpm", Dimension::rotation, {}},
        {"run-down", "Run-down", Dimension::duration, {}},
        {"oil-added", "Oil added", Dimension::volume, {}},
        {"fuel-added", "Fuel added", Dimension::volume, {}},
        {"running", "Engine ran", Dimension::duration, {}},
        {"dead-cut", "Dead cut, fall", Dimension::rotation, {}},
        {"compression", "Compression, weakest cylinder", Dimension::pressure, {}},
        {"oil-stick", "Oil by the stick", Dimension::volume, {}},
        {"stood", "Oil had stood for", Dimension::duration, {}},
        {"cooling", "Fastest fall in a minute", Dimension::temperatureDifference, {}},
        {"high-power", "High power on the ground", Dimension::duration, {}},
        {"at-now", "Now, not yet named", Dimension::duration, {}},
    };
    out.insert(out.end(), std::begin(more), std::end(more));
    for (const auto& row : momentRows)
        out.push_back({row.key, row.title, Dimension::duration, {}});
    return out;
}

/// "2:15": hours and minutes where hours are written, else minutes and seconds; s.
std::optional<double> byTheClock(std::string_view text, const UnitSpec* unit) {
    const auto digits = [](std::string_view s) {
        return !s.empty() && s.size() <= 4 &&
               std::all_of(s.begin(), s.end(), [](char c) { return c >= '0' && c <= '9'; });
    };
    while (!text.empty() && text.back() == ' ')
        text.remove_suffix(1);
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    const auto colon = text.find(':');
    if (colon == std::string_view::npos || !digits(text.substr(0, colon)) || text.size() != colon + 3 ||
        !digits(text.substr(colon + 1)) || text[colon + 1] > '5')
        return std::nullopt;
    const auto number = [](std::string_view figures) {
        double out = 0.0;
        for (const char c : figures)
            out = 10.0 * out + (c - '0');
        return out;
    };
    const double whole = number(text.substr(0, colon)), part = number(text.substr(colon + 1));
    return (60.0 * whole + part) * (unit == units::hour.spec ? 60.0 : 1.0);
}

} // namespace

const UnitSpec* unitOf(const WhatRow& row) {
    if (!row.dimension)
        return nullptr;
    if (row.key == "running")
        return units::hour.spec;
    if (row.key == "stood")
        return units::minute.spec;
    switch (*row.dimension) {
    case Dimension::pressure:
        return units::psi.spec;
    case Dimension::duration:
        return units::second.spec;
    default:
        return &unitsOf(*row.dimension).front();
    }
}

std::span<const WhatRow> whatRows() {
    static const std::vector<WhatRow> rows = allRows();
    return rows;
}

const WhatRow* whatOf(std::string_view key) {
    const auto rows = whatRows();
    const auto found = std::find_if(rows.begin(), rows.end(), [&](const WhatRow& r) { return r.key == key; });
    return found == rows.end() ? nullptr : &*found;
}

const watch::AimRow* aimOf(std::string_view key) {
    if (!key.starts_with(ofAim))
        return nullptr;
    const auto found = std::find_if(watch::aimTable.begin(), watch::aimTable.end(),
                                    [&](const watch::AimRow& row) { return row.id == key.substr(ofAim.size()); });
    return found == watch::aimTable.end() ? nullptr : &*found;
}

std::string titleOf(std::string_view key, const TypeNotes& notes) {
    if (const auto* aim = aimOf(key)) {
        std::string words(aim->what);
        words[0] = ascii::upper(words[0]);
        return words;
    }
    if (const WhatRow* row = whatOf(key))
        return std::string(row->title);
    if (key.starts_with(ofWalk)) {
        const auto* item = watch::itemOf(notes, key.substr(ofWalk.size()));
        if (item && !item->what.empty())
            return item->what;
    }
    if (key.starts_with(ofSheet)) {
        const auto sheet = watch::runUpSheet(notes, {}, {});
        if (const auto* line = sheet.line(key.substr(ofSheet.size())))
            return line->what;
    }
    if (key.starts_with(ofRating))
        for (const auto& rating : notes.ratings)
            if (rating.key == key.substr(ofRating.size()))
                return "Time at " + rating.name;
    if (key.starts_with(ofTank))
        for (const auto& tank : notes.fuel.tanks)
            if (tank.id == key.substr(ofTank.size()))
                return tank.name + " feeds, in the run";
    for (const auto& [word, title] :
         {std::pair("defect", "Defect"), std::pair("note", "Note"), std::pair("overhaul", "Overhaul"),
          std::pair("work", "Work"), std::pair("trial", "Trial"), std::pair("clock", "Clock"),
          std::pair("tick", "Done"), std::pair("found", "Engineer found"), std::pair("done", "Engineer did"),
          std::pair("signed", "Engineer signed")})
        if (key == word)
            return title;
    return std::string(key);
}

Result<double> readFigure(std::string_view key, std::string_view text, const UnitSpec* assumed) {
    const WhatRow* row = whatOf(key);
    if (!row)
        return Failure{fmt::format("\"{}\" is nothing that a log takes figures of", key)};
    double si = 0.0;
    if (row->dimension) {
        const auto clock = row->dimension == Dimension::duration ? byTheClock(text, unitOf(*row)) : std::nullopt;
        const auto read =
            clock ? Result<Written>(Written{*clock, nullptr}) : readQuantity(*row->dimension, text, assumed);
        if (!read)
            return Failure{fmt::format("{}: {}", row->title, read.error())};
        si = read.value().si;
    } else {
        std::string_view rest;
        const auto read = readNumber(text, rest);
        if (!read || rest.find_first_not_of(" \t") != std::string_view::npos ||
            read.value() != std::floor(read.value()))
            return Failure{fmt::format("{}: a whole number is expected", row->title)};
        si = read.value();
    }
    if (const auto* range = rangeOf(FileFormat::log, key); range && !range->holds(si))
        return Failure{fmt::format("{}: {} is not plausible. {}", row->title, text, range->expected())};
    return si;
}

const UnitSpec* needleUnit(std::string_view key, const TypeNotes& notes) {
    const WhatRow* row = whatOf(key);
    return row && row->gauge && notes.gauges.contains(*row->gauge) ? &notes.unitOf(*row->gauge) : nullptr;
}

const UnitSpec* unitIn(std::string_view key, const TypeNotes* notes) {
    const WhatRow* row = whatOf(key);
    if (!row)
        return nullptr;
    if (const UnitSpec* needle = notes ? needleUnit(key, *notes) : nullptr)
        return needle;
    if (notes && row->dimension == Dimension::volume)
        return notes->cockpit.fuel;
    return unitOf(*row);
}

std::string figureText(std::string_view key, double si, const UnitSpec* unit) {
    const WhatRow* row = whatOf(key);
    if (key == "running")
        return formatHoursOrMinutes(si);
    if (!row || !row->dimension)
        return formatNumber(si, row ? 0 : 3);
    return format(si, unit ? *unit : *unitOf(*row));
}

} // namespace amber::record
