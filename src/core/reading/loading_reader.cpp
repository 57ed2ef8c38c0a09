// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/loading_reader.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::TableReader;

/// An arm: a length from the datum, or percent of the mean chord.
double readArm(TableReader& t, const std::string& key, const LoadingNotes& l, bool required) {
    const std::string text = t.text(key, required);
    if (text.empty())
        return 0.0;
    if (text.find('%') == std::string::npos)
        return t.quantitySi(Dimension::length, key, required, nullptr, "loading.arm").value_or(0.0);
    std::string_view rest;
    const auto number = readNumber(text, rest);
    if (!number || l.chord <= 0 || number.value() < -100 || number.value() > 200) {
        t.problem(t.line(key), fmt::format("{}.{}: \"{}\" is out of range", t.path(), key, text),
                  l.chord <= 0 ? "Percent are of the mean chord: give loading.chord and loading.leading_edge"
                               : "Between -100 and 200 % of the mean chord is expected");
        return 0.0;
    }
    return l.leadingEdge + number.value() / 100.0 * l.chord;
}

/// Numbers of a list of pairs in the sheet's own arms: percent, or its unit.
double armOf(const LoadingNotes& l, double written) {
    return l.inPercent ? l.leadingEdge + written / 100.0 * l.chord : written * l.armUnit->scale;
}

std::vector<std::pair<double, double>> readTrim(TableReader& t, const std::string& key, const LoadingNotes& l) {
    auto out = t.pairs(key, "arm", "trim");
    for (auto& [arm, trim] : out)
        arm = armOf(l, arm);
    for (std::size_t i = 1; i < out.size(); ++i)
        if (!(out[i].first > out[i - 1].first)) {
            t.problem(t.line(key), fmt::format("{}.{}: arms do not rise", t.path(), key),
                      "Write the most forward first");
            break;
        }
    return out;
}
} // namespace

LoadingNotes readLoading(TableReader t, const Cockpit& cockpit) {
    LoadingNotes l;
    l.given = true;
    l.line = t.line();
    l.armUnit = t.unit(Dimension::length, "arm_unit");
    if (!l.armUnit)
        l.armUnit = cockpit.height == units::metre.spec ? units::metre.spec : findUnit(Dimension::length, "in");
    l.momentUnit = t.unit(Dimension::moment, "moment_unit");
    if (!l.momentUnit)
        l.momentUnit = findUnit(Dimension::moment, cockpit.weight == units::kilogram.spec ? "kg m"
                                                   : l.armUnit == units::foot.spec        ? "lb ft"
                                                                                          : "lb in");
    l.momentsDividedBy = t.number("moments_divided_by").value_or(1.0);
    l.datum = t.text("datum", true);
    l.chord = t.quantitySi(Dimension::length, "chord", false, nullptr).value_or(0.0);
    l.leadingEdge = t.quantitySi(Dimension::length, "leading_edge", false, nullptr).value_or(0.0);
    l.inPercent = t.flag("in_percent").value_or(false);
    if (l.inPercent && l.chord <= 0)
        t.problem(t.line("in_percent"), "loading.in_percent needs the mean chord", "Give chord and leading_edge");
    l.emptyArm = readArm(t, "empty_arm", l, true);
    l.maxLanding = t.quantity<Dimension::mass>("max_landing");
    l.maxZeroFuel = t.quantity<Dimension::mass>("max_zero_fuel");
    l.mostSideways = t.quantity<Dimension::moment>("most_sideways");
    l.oil = t.quantity<Dimension::volume>("oil").value_or(Volume{});
    l.oilArm = readArm(t, "oil_arm", l, l.oil.si() > 0);
    l.oilBurn = t.quantity<Dimension::volumeFlow>("oil_burn");
    l.oilLeast = t.quantity<Dimension::volume>("oil_least");
    l.trimUnit = t.text("trim_unit");
    for (auto& s : t.tables("station")) {
        LoadStation k;
        k.line = s.line();
        k.id = s.text("id", true);
        k.name = s.text("name", true);
        k.kind = static_cast<StationKind>(
            s.word("kind", {"crew", "passengers", "cargo", "equipment", "ballast"}, true).value_or(0));
        k.arm = readArm(s, "arm", l, true);
        k.side = s.quantitySi(Dimension::length, "side", false, nullptr, "loading.side").value_or(0.0);
        k.usual = s.quantity<Dimension::mass>("usual").value_or(Mass{});
        k.most = s.quantity<Dimension::mass>("most");
        if (std::any_of(l.stations.begin(), l.stations.end(), [&](const LoadStation& o) { return o.id == k.id; }))
            s.problem(s.line("id"), fmt::format("loading.station \"{}\" is there twice", k.id), "Give each its own id");
        if (k.most && k.usual > *k.most)
            s.problem(s.line("usual"), fmt::format("loading.station \"{}\": usual is more than most", k.id),
                      "Correct one of them");
        s.finish();
        l.stations.push_back(std::move(k));
    }
    for (auto& e : t.tables("limit")) {
        EnvelopeLine line;
        line.weight = e.quantity<Dimension::mass>("weight", true).value_or(Mass::si(1000));
        line.forward = readArm(e, "forward", l, true);
        line.aft = readArm(e, "aft", l, true);
        if (!(line.aft > line.forward))
            e.problem(e.line("aft"), "loading.limit: the aft limit is not behind the forward one", "Exchange them");
        if (!l.envelope.empty() && !(line.weight > l.envelope.back().weight))
            e.problem(e.line("weight"), "loading.limit: weights do not rise", "Write the lightest first");
        e.finish();
        l.envelope.push_back(line);
    }
    if (l.envelope.empty())
        t.problem(t.line(), "loading has no envelope", "Add [[loading.limit]] with weight, forward and aft");
    for (auto& k : t.tables("trim")) {
        TrimTable table;
        table.flap = k.text("flap", true);
        table.light = readTrim(k, "light", l);
        table.heavy = readTrim(k, "heavy", l);
        if (table.light.empty())
            k.problem(k.line(), "loading.trim has no figures", "Write light = [[forward arm, trim], [aft arm, trim]]");
        if (table.heavy.empty())
            table.heavy = table.light;
        k.finish();
        l.trim.push_back(std::move(table));
    }
    t.finish();
    return l;
}

PerformanceTable readPerformanceTable(TableReader& t, const Cockpit& cockpit) {
    PerformanceTable p;
    p.line = t.line();
    static const std::vector<std::string_view> ids{"take-off", "obstacle", "accelerate-stop", "landing",
                                                   "engine-out-weight"};
    static const char* const names[] = {"Take-off run", "To clear the obstacle", "Accelerate and stop", "Landing",
                                        "Most weight that climbs with an engine out"};
    const auto which = t.word("id", ids, true).value_or(0);
    p.id = ids[which];
    p.name = t.text("name");
    if (p.name.empty())
        p.name = names[which];
    p.dimension = p.id == "engine-out-weight" ? Dimension::mass : Dimension::length;
    p.unit = t.unit(p.dimension, "unit");
    if (!p.unit)
        p.unit = p.dimension == Dimension::mass ? cockpit.weight : cockpit.height;
    const auto axis = [&](const char* key, const UnitSpec& unit) {
        auto out = t.numbers(key);
        for (auto& v : out)
            v = v * unit.scale + unit.offset;
        if (!std::is_sorted(out.begin(), out.end()) || std::adjacent_find(out.begin(), out.end()) != out.end())
            t.problem(t.line(key), fmt::format("distance.{} do not rise", key), "Write the least first, each once");
        return out;
    };
    p.weights = axis("weights", *cockpit.weight);
    p.heights = axis("heights", *cockpit.height);
    p.temperatures = axis("temperatures", *cockpit.temperature);
    p.headwind = t.number("headwind").value_or(1.0);
    p.tailwind = t.number("tailwind").value_or(1.0);
    p.grass = t.number("grass").value_or(1.0);
    p.wet = t.number("wet").value_or(1.0);
    p.upslope = t.number("upslope").value_or(1.0);
    for (const double v : t.numbers("entries"))
        p.entries.push_back(v * p.unit->scale);
    const std::size_t wanted = std::max<std::size_t>(1, p.weights.size()) * p.heights.size() * p.temperatures.size();
    if (p.heights.empty() || p.temperatures.empty() || p.entries.size() != wanted)
        t.problem(t.line(),
                  fmt::format("distance \"{}\" has {} entries, {} are wanted", p.id, p.entries.size(), wanted),
                  "One for each weight, height and temperature: all of the first weight and height first");
    t.finish();
    return p;
}

void readTankArms(TableReader& tank, const LoadingNotes& loading, const Cockpit& cockpit, Tank& out) {
    const bool wanted = loading.given && !tank.has("arms");
    LoadingNotes metres = loading;
    if (!metres.armUnit)
        metres.armUnit = units::metre.spec;
    out.arm = readArm(tank, "arm", metres, wanted);
    out.side = tank.quantitySi(Dimension::length, "side", false, nullptr, "loading.side").value_or(0.0);
    for (const auto& [held, arm] : tank.pairs("arms", "held", "arm"))
        out.arms.emplace_back(held * cockpit.fuel->scale, armOf(metres, arm));
    for (std::size_t i = 1; i < out.arms.size(); ++i)
        if (!(out.arms[i].first > out.arms[i - 1].first)) {
            tank.problem(tank.line("arms"), fmt::format("tank \"{}\": contents of arms do not rise", out.id),
                         "Write the emptiest first");
            break;
        }
}

} // namespace amber::notes
