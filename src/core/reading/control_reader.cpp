// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/control_reader.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::Node;
using document::TableReader;

/// Quantities that an act or a condition can be told in, tried in this order: a unit belongs to few.
constexpr std::array toldIn{
    Dimension::duration, Dimension::rotation, Dimension::temperature, Dimension::manifoldPressure,
    Dimension::pressure, Dimension::speed,    Dimension::length};

std::optional<Target> quantityIn(std::string_view text, Dimension dimension) {
    const auto read = readQuantity(dimension, text);
    if (!read)
        return std::nullopt;
    return Target{Target::Kind::quantity, {}, dimension, read.value().si};
}

std::optional<Awaited> readCondition(TableReader& t, const std::string& key) {
    const std::string text = t.text(key);
    if (text.empty())
        return std::nullopt;
    const auto refuse = [&](std::string what) {
        t.problem(t.line(key), std::move(what),
                  "Write it as \"oil-pressure above 40 lbf/in²\": gauge, above or below, figure");
        return std::nullopt;
    };
    const auto first = text.find(' ');
    const auto second = first == std::string::npos ? first : text.find(' ', first + 1);
    if (second == std::string::npos)
        return refuse(fmt::format("“{}” is not a condition", text));
    const std::string gauge = text.substr(0, first), way = text.substr(first + 1, second - first - 1);
    Awaited out;
    const auto row =
        std::find_if(gaugeRegister.begin(), gaugeRegister.end(), [&](const GaugeRow& r) { return r.key == gauge; });
    if (row == gaugeRegister.end())
        return refuse(fmt::format("“{}” is no gauge", gauge));
    if (way != "above" && way != "below")
        return refuse(fmt::format("“{}” is neither above nor below", way));
    out.gauge = row->gauge;
    out.above = way == "above";
    const std::string level = text.substr(second + 1);
    if (level.starts_with('{')) {
        out.level = readTarget(level);
        return out;
    }
    const auto read = quantityIn(level, row->dimension);
    if (!read)
        return refuse(fmt::format("“{}” is no figure for {}", level, gauge));
    out.level = *read;
    return out;
}

Target readLasting(TableReader& t, const std::string& key) {
    const std::string text = t.text(key);
    Target made = readTarget(text);
    if (made.kind != Target::Kind::figure &&
        !(made.kind == Target::Kind::quantity && made.dimension == Dimension::duration))
        t.problem(t.line(key), fmt::format("“{}” is no time", text), "Write \"10 s\", or a figure in braces");
    return made;
}

double secondsOf(TableReader& t, const std::string& key) {
    return t.quantity<Dimension::duration>(key).value_or(Duration{}).si();
}

Action readAction(TableReader& t) {
    Action a;
    a.line = t.line();
    static constexpr std::array<std::string_view, 8> own{"engines", "over",   "hold", "for",
                                                         "until",   "within", "else", "engine"};
    for (const auto& key : t.keys()) {
        if (std::find(own.begin(), own.end(), key) != own.end())
            continue;
        if (!a.control.empty()) {
            t.problem(t.line(key), fmt::format("one act moves both {} and {}", a.control, key),
                      "Write one pair of braces for each control, in their order");
            continue;
        }
        a.control = key;
        a.to = readTarget(t.text(key, true));
    }
    a.engines = t.texts("engines");
    a.over = secondsOf(t, "over");
    a.hold = t.flag("hold").value_or(false);
    if (t.has("for"))
        a.lasts = readLasting(t, "for");
    a.until = readCondition(t, "until");
    a.within = secondsOf(t, "within");
    a.otherwise = t.text("else");
    if (a.control.empty() && !a.lasts && !a.until)
        t.problem(t.line(), "an act that moves nothing and waits for nothing",
                  "Name a control and where it goes, { mixture = \"rich\" }, or what is waited for");
    t.finish();
    return a;
}
} // namespace

Target readTarget(std::string_view text) {
    if (text.size() > 2 && text.front() == '{' && text.back() == '}')
        return {Target::Kind::figure, std::string(text.substr(1, text.size() - 2)), Dimension::duration, 0.0};
    if (!text.empty() && std::string_view("0123456789+-−").find(text.front()) != std::string_view::npos)
        for (const Dimension d : toldIn)
            if (const auto read = quantityIn(text, d))
                return *read;
    return {text.empty() ? Target::Kind::none : Target::Kind::position, std::string(text), Dimension::duration, 0.0};
}

std::string written(const Target& target) {
    switch (target.kind) {
    case Target::Kind::none:
        return {};
    case Target::Kind::position:
        return target.word;
    case Target::Kind::figure:
        return "{" + target.word + "}";
    case Target::Kind::quantity:
        break;
    }
    const UnitSpec* unit =
        target.dimension == Dimension::duration ? units::second.spec : &unitsOf(target.dimension).front();
    return fmt::format("{:.10g} {}", (target.si - unit->offset) / unit->scale, unit->symbol);
}

std::string written(const Awaited& condition) {
    return fmt::format("{} {} {}", nameOf(condition.gauge).key, condition.above ? "above" : "below",
                       written(condition.level));
}

std::vector<Action> readActions(TableReader& t, const std::string& key) {
    std::vector<Action> out;
    for (auto& act : t.tables(key))
        out.push_back(readAction(act));
    return out;
}

Control readControl(TableReader& t) {
    Control c;
    c.origin = Origin::notes;
    c.line = t.line();
    c.id = t.text("id", !t.has("acts"));
    const std::string acts = t.has("acts") ? t.text("acts") : c.id;
    if (const auto known = actsFromKey(acts)) {
        c.acts = *known;
    } else {
        std::vector<std::string> keys;
        for (const auto& row : actsTable())
            keys.emplace_back(row.key);
        const auto guess = document::nearest(acts, keys);
        t.problem(t.line(t.has("acts") ? "acts" : "id"), fmt::format("“{}” is nothing that a control acts on", acts),
                  guess.empty() ? fmt::format("Say acts = one of: {}", fmt::join(keys, ", "))
                                : fmt::format("Did you mean acts = \"{}\"?", guess));
    }
    const ActsRow& row = rowOf(c.acts);
    if (c.id.empty())
        c.id = row.key;
    c.name = t.text("name");
    c.kind = static_cast<ControlKind>(t.word("kind", {"lever", "positions", "switch", "push", "valve", "pump"})
                                          .value_or(static_cast<std::size_t>(row.kind)));
    c.each = t.flag("each").value_or(row.each);
    c.who = t.text("who");
    if (t.has("place")) {
        const std::string place = t.text("place");
        const auto gap = place.rfind(' ');
        std::string_view rest;
        const auto column = gap == std::string::npos ? Result<double>(Failure{""})
                                                     : readNumber(std::string_view(place).substr(gap), rest);
        if (!column || !rest.empty())
            t.problem(t.line("place"), fmt::format("“{}” is no place", place),
                      "Write the panel and a number from the left: \"quadrant 2\"");
        else {
            c.panel = place.substr(0, gap);
            c.column = column.value();
        }
    }
    c.sense = t.text("sense");
    if (const auto ends = t.texts("ends"); !ends.empty()) {
        if (ends.size() != 2)
            t.problem(t.line("ends"), "ends has not two words",
                      "Write which way the first and the last position lie: [\"aft\", \"forward\"]");
        else {
            c.less = ends[0];
            c.more = ends[1];
        }
    }
    for (const auto& name : t.texts("positions")) {
        const auto parted = name.find('=');
        c.positions.push_back(parted == std::string::npos
                                  ? ControlPosition{{}, name}
                                  : ControlPosition{name.substr(0, parted), name.substr(parted + 1)});
    }
    if (t.has("reversed"))
        c.reversed = t.flag("reversed").value_or(false);
    c.gate = t.text("gate");
    c.links = t.texts("links");
    c.automatic = t.text("automatic");
    c.byHand = t.text("by_hand");
    if (t.word("origin", {"notes", "practice"}).value_or(0) == 1)
        c.origin = Origin::practice;
    t.finish();
    return c;
}

} // namespace amber::notes
