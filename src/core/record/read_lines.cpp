// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/read_lines.h"
#include "record/planned.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::record {
namespace {

const UnitSpec* cockpitUnit(const WhatRow& row, const TypeNotes& notes) {
    if (row.gauge && notes.gauges.contains(*row.gauge))
        return &notes.unitOf(*row.gauge);
    if (row.dimension == Dimension::volume)
        return notes.cockpit.fuel;
    return unitOf(row);
}

std::vector<std::string_view> splitAt(std::string_view text, char mark) {
    std::vector<std::string_view> out;
    while (true) {
        const auto end = text.find(mark);
        out.push_back(text.substr(0, end));
        if (end == std::string_view::npos)
            return out;
        text.remove_prefix(end + 1);
    }
}

} // namespace

std::vector<ReadLine> readLines(const plan::Plan& plan, const TypeNotes& notes, Phase phase) {
    std::vector<ReadLine> out;
    const auto add = [&](std::string_view what, bool eachEngine = true) {
        const WhatRow* row = whatOf(what);
        ReadLine line;
        line.what = row->key;
        line.title = row->title;
        line.eachEngine = eachEngine;
        line.unit = cockpitUnit(*row, notes);
        line.planned = plannedOf(plan, phase, what);
        out.push_back(std::move(line));
    };
    switch (phase) {
    case Phase::load:
        add("oil-added");
        add("fuel-added", false);
        break;
    case Phase::start:
        for (const char* what : {"prime", "tries", "crank", "fire", "oil-pressure-up"})
            add(what);
        out.front().origin = plan.prime.origin;
        if (!out.front().planned)
            for (const auto& line : plan[Phase::start].priming)
                if (line.fact.id == "prime" && plannedOf(plan, phase, "prime", line.fact.engine)) {
                    out.front().each.push_back(line.fact.value);
                    if (line.origin == Origin::logged)
                        out.front().origin = Origin::logged; // the difference is
                }
        break;
    case Phase::warmUp:
        add("warm-up");
        break;
    case Phase::runUp:
        for (const char* what : {"magneto-left", "magneto-right", "static-rpm"})
            add(what);
        break;
    case Phase::stop:
        add("run-down");
        break;
    case Phase::writeUp:
        add("oil-added");
        add("fuel-added", false);
        return out;
    default:
        break;
    }
    for (const auto& e : plan[phase].expect) {
        const std::string_view what = nameOf(e.gauge).key;
        if (!whatOf(what) || std::any_of(out.begin(), out.end(), [&](const ReadLine& l) { return l.gauge == e.gauge; }))
            continue;
        add(what);
        ReadLine& line = out.back();
        line.title = e.title;
        line.origin = e.origin;
        line.moment = e.moment;
        line.gauge = e.gauge;
        line.span = e.scale.second - e.scale.first;
    }
    return out;
}

Result<std::vector<QuickRead>> readQuickLine(const std::vector<ReadLine>& lines, std::size_t engines,
                                             std::string_view text) {
    std::vector<QuickRead> out;
    std::size_t at = 0;
    for (const std::string_view word : splitAt(text, ' ')) {
        if (word.empty())
            continue;
        if (at >= lines.size())
            return Failure{fmt::format("\"{}\" is one too many: {} lines are read here", word, lines.size())};
        const ReadLine& line = lines[at];
        const auto parts = splitAt(word, '/');
        const std::size_t of = line.eachEngine ? engines : 1;
        if (parts.size() != 1 && parts.size() != of)
            return Failure{fmt::format("{}: \"{}\" has {} figures for {} {}", line.title, word, parts.size(), of,
                                       of == 1 ? "place" : "engines")};
        for (std::size_t e = 0; e < of; ++e) {
            const std::string_view part = parts.size() == 1 ? word : parts[e];
            if (part == "-")
                continue;
            QuickRead read{at, e, std::nullopt};
            if (part != ".") {
                const auto value = readFigure(line.what, part, line.unit);
                if (!value)
                    return Failure{value.error()};
                read.value = value.value();
            }
            out.push_back(read);
        }
        ++at;
    }
    if (out.empty())
        return Failure{"Nothing was read: type the figures in the order of the lines"};
    return out;
}

} // namespace amber::record
