// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/walk_reader.h"
#include "units/ascii.h"
#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace amber::notes {
namespace {
using document::TableReader;

constexpr double farthest = 60.0; // m from the nose, that an aircraft of this kind can reach

/// "Tyre, port" → "tyre-port".
std::string idFrom(const std::string& what) {
    std::string out;
    for (const char c : what) {
        if (ascii::isWord(c))
            out += ascii::lower(c);
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    while (!out.empty() && out.back() == '-')
        out.pop_back();
    return out;
}

WalkItem readWalkItem(TableReader& t, const Cockpit& cockpit) {
    WalkItem i;
    i.line = t.line();
    i.stopper = t.flag("stopper").value_or(false);
    i.why = t.text("why");
    const bool dip = t.has("dip"), gauge = t.has("gauge"), look = t.has("look");
    if (dip + gauge + look + t.has("kind") != 1)
        t.problem(t.line(), fmt::format("{} is not one thing to look at or read", t.path()),
                  "Give it one of look, kind (with normal), dip or gauge");
    if (dip || gauge) {
        i.kind = dip ? WalkItemKind::dip : WalkItemKind::gauge;
        i.tank = t.text(dip ? "dip" : "gauge");
        i.what = t.text("what");
        i.id = t.text("id");
        if (i.id.empty())
            i.id = (dip ? "dip-" : "gauge-") + i.tank;
        i.dimension = Dimension::volume;
        i.unit = cockpit.fuel;
        t.finish();
        return i;
    }
    i.what = t.text("what", true);
    i.id = t.text("id");
    if (i.id.empty())
        i.id = idFrom(i.what);
    if (look) {
        i.look = t.text("look", true);
        t.finish();
        return i;
    }
    i.kind = WalkItemKind::reading;
    static constexpr std::array dimensions{Dimension::pressure, Dimension::length, Dimension::volume,
                                           Dimension::temperature};
    static const std::vector<std::string_view> kinds{"pressure", "length", "volume", "temperature"};
    const std::size_t kind = t.word("kind", kinds).value_or(0);
    i.dimension = dimensions[kind];
    const std::string ranged = "walk.station.item." + std::string(kinds[kind]);
    switch (i.dimension) {
    case Dimension::length:
        i.unit = cockpit.height == units::metre.spec ? &units::detail::lengthTable[4] : &units::detail::lengthTable[3];
        break;
    case Dimension::volume:
        i.unit = cockpit.fuel;
        break;
    case Dimension::temperature:
        i.unit = cockpit.temperature;
        break;
    default:
        i.unit = cockpit.pressure;
    }
    if (const UnitSpec* unit = t.unit(i.dimension, "unit"))
        i.unit = unit;
    if (const auto normal = t.range(i.dimension, "normal", ranged)) {
        i.band.normalLow = normal->first;
        i.band.normalHigh = normal->second;
    } else {
        t.problem(t.line(), fmt::format("{} has no normal range", t.path()), "Add normal = \"40 to 44 lbf/in²\"");
    }
    i.band.limitLow = t.quantitySi(i.dimension, "min", false, nullptr, ranged);
    i.band.limitHigh = t.quantitySi(i.dimension, "max", false, nullptr, ranged);
    t.finish();
    return i;
}
} // namespace

std::vector<GroundCorrection> readGround(TableReader& tank, const UnitSpec& fuel) {
    std::vector<GroundCorrection> out;
    for (auto& t : tank.tables("ground")) {
        GroundCorrection g;
        g.attitude = t.number("attitude", true).value_or(0);
        for (const auto& [held, shown] : t.pairs("read", "held", "shown", &fuel))
            g.read.emplace_back(Volume::si(held), Volume::si(shown));
        if (g.read.size() < 2 || std::adjacent_find(g.read.begin(), g.read.end(), [](const auto& a, const auto& b) {
                                     return !(a.first < b.first) || b.second < a.second;
                                 }) != g.read.end())
            t.problem(t.line("read"), fmt::format("{}.read does not rise in steps", t.path()),
                      "Give at least two pairs of contents and what the gauge shows, both rising");
        t.finish();
        out.push_back(std::move(g));
    }
    std::sort(out.begin(), out.end(),
              [](const GroundCorrection& a, const GroundCorrection& b) { return a.attitude < b.attitude; });
    return out;
}

WalkNotes readWalk(TableReader t, const Cockpit& cockpit) {
    WalkNotes w;
    for (auto& part : t.tables("part")) {
        OutlinePart p;
        p.points = part.pairs("points", "aft", "out");
        p.mirrored = part.flag("mirror").value_or(false);
        if (p.points.size() < 3)
            part.problem(part.line("points"), "a part of the outline has fewer than three points",
                         "Give at least three: metres aft of the nose, metres to starboard");
        part.finish();
        w.outline.push_back(std::move(p));
    }
    for (auto& station : t.tables("station")) {
        WalkStation s;
        s.line = station.line();
        s.id = station.text("id", true);
        s.name = station.text("name", true);
        s.aft = station.number("aft", true).value_or(0);
        s.starboard = station.number("starboard", true).value_or(0);
        for (auto& item : station.tables("item"))
            s.items.push_back(readWalkItem(item, cockpit));
        if (s.items.empty())
            station.problem(station.line(), fmt::format("station \"{}\" has nothing to look at", s.name),
                            "Add item = [{ what = \"…\", look = \"…\" }]");
        station.finish();
        w.stations.push_back(std::move(s));
    }
    t.finish();
    return w;
}

void checkWalk(const TypeNotes& notes, Problems& problems) {
    const auto say = [&](int line, std::string what, std::string remedy) {
        problems.push_back({notes.file, line, std::move(what), std::move(remedy)});
    };
    for (const auto& part : notes.walk.outline)
        for (const auto& [aft, starboard] : part.points)
            if (std::abs(aft) > farthest || std::abs(starboard) > farthest) {
                say(0, "the outline goes farther than 60 m", "Give its points in metres");
                break;
            }
    std::set<std::string> stations;
    for (const auto& s : notes.walk.stations) {
        if (!stations.insert(s.id).second)
            say(s.line, fmt::format("station \"{}\" stands twice", s.id), "Give each station its own id");
        std::set<std::string> items;
        for (const auto& i : s.items) {
            if (i.id.empty() || !items.insert(i.id).second)
                say(i.line, fmt::format("station \"{}\": item \"{}\" stands twice", s.id, i.id),
                    "Give each item its own id");
            if (i.tank.empty())
                continue;
            const auto tank = std::find_if(notes.fuel.tanks.begin(), notes.fuel.tanks.end(),
                                           [&](const Tank& t) { return t.id == i.tank; });
            if (tank == notes.fuel.tanks.end())
                say(i.line, fmt::format("station \"{}\": there is no tank \"{}\"", s.id, i.tank),
                    "Use the id of a [[fuel.tank]]");
            else if (i.kind == WalkItemKind::gauge && !tank->gauged)
                say(i.line, fmt::format("station \"{}\": tank \"{}\" has no gauge", s.id, i.tank),
                    "Read it by dip, or take gauged = false out");
        }
    }
}

} // namespace amber::notes
