// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/read_lines.h"
#include "files/key_ranges.h"
#include "record/planned.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::record {
namespace {

/// The log's own key of a line of the run-up sheet: what every type reads has one, that it can be followed by.
std::string keyOfSheet(std::string_view id) {
    for (const auto& [line, key] : sheetKeys)
        if (id == line)
            return std::string(key);
    return std::string(ofSheet) + std::string(id);
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

/// The sheet's lines that are read, each as a line of the log.
void addSheet(std::vector<ReadLine>& out, const plan::Plan& plan) {
    for (const auto& l : plan.runUpSheet.lines) {
        if (l.kind == watch::SheetKind::computed)
            continue;
        ReadLine line;
        line.what = keyOfSheet(l.id);
        line.title = l.what;
        line.eachEngine = l.cells.size() > 1 || (l.cells.size() == 1 && l.cells.front().key != l.id);
        line.unit = l.kind == watch::SheetKind::count ? nullptr : l.unit;
        line.planned = plannedOf(plan, Phase::runUp, line.what);
        line.origin = l.origin;
        line.moment = l.at;
        line.want = l.want;
        line.sheet = l;
        out.push_back(std::move(line));
    }
}

void addWalk(std::vector<ReadLine>& out, const plan::Plan& plan) {
    for (const auto& stop : plan.walk.stops)
        for (const auto& found : stop.items) {
            ReadLine line;
            line.what = std::string(ofWalk) + found.key;
            line.title = found.what;
            line.eachEngine = false;
            line.unit = found.item.kind == WalkItemKind::look ? nullptr : found.item.unit;
            line.origin = found.origin;
            line.moment = stop.name;
            line.want = found.want;
            line.item = found.item;
            out.push_back(std::move(line));
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
        line.unit = unitIn(row->key, &notes);
        line.planned = plannedOf(plan, phase, what);
        out.push_back(std::move(line));
    };
    switch (phase) {
    case Phase::load:
        add("oil-stick");
        add("stood");
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
    case Phase::walkRound:
        addWalk(out, plan);
        break;
    case Phase::runUp:
        addSheet(out, plan);
        for (const char* what : {"magneto-left", "magneto-right", "static-rpm"})
            if (std::none_of(out.begin(), out.end(), [&](const ReadLine& l) { return l.what == what; }))
                add(what);
        break;
    case Phase::stop:
        add("run-down");
        add("dead-cut");
        break;
    case Phase::writeUp:
        add("running");
        add("oil-added");
        add("fuel-added", false);
        out.back().moment = "to what it began with";
        add("compression");
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

Result<Typed> readTyped(const ReadLine& line, std::string_view text) {
    const std::string typed(text);
    if (line.item) {
        if (const auto why = watch::refusal(*line.item, typed); !why.empty())
            return Failure{fmt::format("{}: {}", line.title, why)};
        Typed out{Entry::Kind::words, 0.0, watch::kept(*line.item, typed)};
        if (line.item->kind != WalkItemKind::look) {
            out.kind = Entry::Kind::figure;
            out.value = readQuantity(line.item->dimension, typed, line.item->unit).value().si;
        } else if (out.words == watch::inOrder) {
            out = {Entry::Kind::looked, 0.0, {}};
        }
        return out;
    }
    if (!line.sheet) {
        const auto figure = readFigure(line.what, text, line.unit);
        return figure ? Result<Typed>(Typed{Entry::Kind::figure, figure.value(), {}}) : Failure{figure.error()};
    }
    if (const auto why = watch::sheetRefusal(*line.sheet, typed); !why.empty())
        return Failure{fmt::format("{}: {}", line.title, why)};
    Typed out{Entry::Kind::figure, 0.0, watch::sheetKept(*line.sheet, typed)};
    std::string_view rest;
    switch (line.sheet->kind) {
    case watch::SheetKind::drop:
        out.value = watch::readDrop(typed).value().fall.si();
        break;
    case watch::SheetKind::count:
        out.value = readNumber(text, rest).value();
        break;
    case watch::SheetKind::reading:
    case watch::SheetKind::computed:
        out.value = readQuantity(line.sheet->dimension, typed, line.sheet->unit).value().si;
    }
    if (!isOfNotes(line.what)) { // of those the log has a range of its own
        if (const auto* range = rangeOf(FileFormat::log, line.what); range && !range->holds(out.value))
            return Failure{fmt::format("{}: {} is not plausible. {}", line.title, text, range->expected())};
    }
    return out;
}

std::string shownAs(const ReadLine& line, const Entry& e) {
    if (e.kind == Entry::Kind::looked)
        return line.item ? watch::saidOf(watch::inOrder) : "in its band";
    return e.words.empty() ? figureText(e.what, e.value, line.unit) : e.words;
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
            QuickRead read{at, e, {Entry::Kind::looked, 0.0, {}}};
            if (part != ".") {
                auto typed = readTyped(line, part);
                if (!typed)
                    return Failure{typed.error()};
                read.typed = std::move(typed.value());
            }
            out.push_back(std::move(read));
        }
        ++at;
    }
    if (out.empty())
        return Failure{"Nothing was read: type the figures in the order of the lines"};
    return out;
}

} // namespace amber::record
