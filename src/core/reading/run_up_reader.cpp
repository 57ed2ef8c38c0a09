// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/run_up_reader.h"
#include "files/reader_units.h"
#include "units/ascii.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::TableReader;

/// at = "2,000 rpm", at_boost = "30 inHg" or at = "field pressure".
RunUpSetting readSetting(TableReader& t, const std::string& key) {
    RunUpSetting s;
    s.boost = t.quantity<Dimension::manifoldPressure>(key + "_boost");
    s.rpm = t.quantity<Dimension::rotation>(key + "_rpm", false, rpmUnit);
    s.fieldPressure = t.flag(key + "_field_pressure").value_or(false);
    if ((s.boost ? 1 : 0) + (s.rpm ? 1 : 0) + (s.fieldPressure ? 1 : 0) > 1)
        t.problem(t.line(), fmt::format("{} is set at more than one thing", t.path()),
                  fmt::format("Keep one of {0}_rpm, {0}_boost and {0}_field_pressure", key));
    return s;
}

/// A time of some seconds to some minutes.
Duration readShort(TableReader& t, const std::string& key, Duration usual) {
    return t.quantity<Dimension::duration>(key, false, secondsUnit).value_or(usual);
}

Band readBand(TableReader& t, const std::string& key, Dimension dimension, const std::string& ranged = {}) {
    Band b;
    if (const auto range = t.range(dimension, key, ranged)) {
        b.normalLow = range->first;
        b.normalHigh = range->second;
    }
    return b;
}

MagnetoNotes readMagnetos(TableReader t) {
    MagnetoNotes m;
    m.line = t.line();
    m.at = readSetting(t, "at");
    const auto most = t.quantity<Dimension::rotation>("drop", false, rpmUnit);
    const auto side = [&](const char* key) {
        const auto own = t.quantity<Dimension::rotation>(key, false, rpmUnit);
        if (!t.has(key) && !t.has("drop"))
            t.problem(t.line(), fmt::format("{} gives no most fall of rpm", t.path()),
                      "Add drop = 100, or left and right");
        return own.value_or(most.value_or(Rotation::si(100.0 / 60)));
    };
    m.left = side("left");
    m.right = side("right");
    m.difference = t.quantity<Dimension::rotation>("difference", false, rpmUnit);
    m.least = t.quantity<Dimension::rotation>("least", false, rpmUnit).value_or(m.least);
    if (m.least > std::min(m.left, m.right))
        t.problem(t.line("least"), fmt::format("{}.least is more than the most", t.path()),
                  "A fall under it tells of a switch that does not earth: some 10 rpm");
    m.onOne = readShort(t, "on_one", m.onOne);
    m.clearing = readSetting(t, "clearing");
    m.clearingFor = readShort(t, "clearing_for", m.clearingFor);
    t.finish();
    return m;
}

PropellerCheckNotes readPropeller(TableReader t) {
    PropellerCheckNotes p;
    p.line = t.line();
    p.at = readSetting(t, "at");
    p.cycles = static_cast<int>(t.number("cycles").value_or(1));
    if (const auto frost = t.number("cycles_in_frost"))
        p.cyclesInFrost = static_cast<int>(*frost);
    p.frostBelow = t.quantity<Dimension::temperature>("frost_below").value_or(p.frostBelow);
    p.fall = readBand(t, "falls", Dimension::rotation);
    if (t.has("feather_falls"))
        p.featherFall = readBand(t, "feather_falls", Dimension::rotation);
    p.manual = t.flag("manual").value_or(false);
    t.finish();
    return p;
}

BlowerCheckNotes readBlower(TableReader t) {
    BlowerCheckNotes b;
    b.line = t.line();
    b.at = readSetting(t, "at");
    if (t.has("boost_rises"))
        b.boostRise = readBand(t, "boost_rises", Dimension::pressure);
    if (t.has("oil_pressure_dips"))
        b.oilPressureDip = readBand(t, "oil_pressure_dips", Dimension::pressure);
    if (t.has("rpm_falls"))
        b.rpmFall = readBand(t, "rpm_falls", Dimension::rotation);
    b.holdFor = readShort(t, "hold", b.holdFor);
    b.turbo = t.flag("turbo").value_or(false);
    t.finish();
    return b;
}

RunUpItem readItem(TableReader t, const Cockpit& cockpit) {
    static constexpr std::array dimensions{
        Dimension::pressure, Dimension::temperature, Dimension::temperatureDifference,
        Dimension::voltage,  Dimension::current,     Dimension::rotation,
        Dimension::duration};
    RunUpItem i;
    i.line = t.line();
    i.what = t.text("what", true);
    i.id = t.text("id");
    if (i.id.empty())
        i.id = i.what;
    i.per = static_cast<RunUpPer>(t.word("per", {"engine", "aircraft", "tank"}).value_or(0));
    i.at = readSetting(t, "at");
    static const std::vector<std::string_view> kinds{
        "pressure", "temperature", "temperature difference", "volts", "amperes", "rpm", "time"};
    const std::size_t kind = t.word("kind", kinds, true).value_or(0);
    i.dimension = dimensions[kind];
    const std::string ranged = "run_up_sheet.item." + std::string(kinds[kind]);
    i.unit = i.dimension == Dimension::pressure      ? cockpit.pressure
             : i.dimension == Dimension::temperature ? cockpit.temperature
             : i.dimension == Dimension::temperatureDifference && cockpit.temperature == units::fahrenheit.spec
                 ? &units::detail::temperatureDifferenceTable[1]
             : i.dimension == Dimension::duration ? secondsUnit
                                                  : &unitsOf(i.dimension).front();
    if (const UnitSpec* unit = t.unit(i.dimension, "unit"))
        i.unit = unit;
    i.band = readBand(t, "normal", i.dimension, ranged);
    if (!i.band.normalLow)
        t.problem(t.line(), fmt::format("{} has no normal range", t.path()), "Add normal = \"26 to 29 V\"");
    i.band.limitLow = t.quantitySi(i.dimension, "min", false, nullptr, ranged);
    i.band.limitHigh = t.quantitySi(i.dimension, "max", false, nullptr, ranged);
    i.why = t.text("why");
    i.low = t.text("low");
    i.high = t.text("high");
    i.stopper = t.flag("stopper").value_or(false);
    if (t.has("takes"))
        i.atPower = readShort(t, "takes", Duration::si(5));
    t.finish();
    return i;
}
} // namespace

RunUpNotes readRunUp(TableReader t, const Cockpit& cockpit) {
    RunUpNotes n;
    if (auto m = t.table("magnetos"))
        n.magnetos = readMagnetos(*m);
    if (auto p = t.table("propeller"))
        n.propeller = readPropeller(*p);
    if (auto b = t.table("blower"))
        n.blower = readBlower(*b);
    n.highPowerFrom = t.quantity<Dimension::rotation>("high_power_from", false, rpmUnit).value_or(n.highPowerFrom);
    if (t.has("high_power_most"))
        n.highPowerMost = readShort(t, "high_power_most", Duration::si(60));
    n.reference = readShort(t, "reference_held", n.reference);
    std::vector<std::string> ids;
    for (auto& item : t.tables("item")) {
        n.items.push_back(readItem(item, cockpit));
        const std::string& id = n.items.back().id;
        if (std::find(ids.begin(), ids.end(), id) != ids.end())
            t.problem(n.items.back().line, fmt::format("the sheet has \"{}\" twice", id), "Give each its own id");
        ids.push_back(id);
    }
    t.finish();
    return n;
}

WarmUpNotes readWarming(TableReader t) {
    WarmUpNotes w;
    w.oilRunUp = t.quantity<Dimension::temperature>("oil_run_up", true).value_or(Temperature::si(300));
    w.oilTakeOff = t.quantity<Dimension::temperature>("oil_take_off", true).value_or(Temperature::si(310));
    w.headRunUp = t.quantity<Dimension::temperature>("metal_run_up");
    w.headTakeOff = t.quantity<Dimension::temperature>("metal_take_off");
    w.taxi = t.quantity<Dimension::duration>("taxi", true, minutesUnit).value_or(Duration::si(240));
    w.taxiRpm = t.quantity<Dimension::rotation>("taxi_rpm", true, rpmUnit).value_or(Rotation::si(15));
    w.leastRpm = t.quantity<Dimension::rotation>("least_rpm", false, rpmUnit);
    w.onWater = t.flag("on_water").value_or(false);
    w.taxiSpeed = t.quantity<Dimension::speed>("taxi_speed").value_or(w.onWater ? Speed::si(2.5) : w.taxiSpeed);
    for (auto& step : t.tables("step")) {
        const auto oil = step.quantity<Dimension::temperature>("oil", true).value_or(Temperature::si(250));
        const auto rpm = step.quantity<Dimension::rotation>("rpm", true, rpmUnit).value_or(Rotation::si(16));
        if (!w.steps.empty() && (oil <= w.steps.back().first || rpm < w.steps.back().second))
            step.problem(step.line(), "the warm-up's steps do not rise",
                         "Give them from cold to warm, each no slower than the one before");
        w.steps.emplace_back(oil, rpm);
        step.finish();
    }
    t.finish();
    return w;
}

LetDownNotes readLettingDown(TableReader t) {
    LetDownNotes l;
    l.coolingPerMinute = t.quantity<Dimension::temperatureDifference>("cooling_per_minute");
    l.clearEvery = t.quantity<Dimension::duration>("clear_every", false, minutesUnit);
    l.clearFor = readShort(t, "clear_for", l.clearFor);
    l.clearBoost = t.quantity<Dimension::manifoldPressure>("clear_boost");
    l.clearRpm = t.quantity<Dimension::rotation>("clear_rpm", false, rpmUnit);
    t.finish();
    return l;
}

StopNotes readCoolingDown(TableReader t) {
    StopNotes s;
    s.coolBelow = t.quantity<Dimension::temperature>("below");
    s.scavenge = t.quantity<Dimension::duration>("scavenge", true).value_or(Duration::si(30));
    s.scavengeRpm = t.quantity<Dimension::rotation>("scavenge_rpm", true, rpmUnit).value_or(Rotation::si(20));
    s.parking = t.text("parking");
    s.parksCoarse = ascii::lowered(s.parking).find("coarse") != std::string::npos;
    s.diluteUnder = t.quantity<Dimension::temperature>("dilute_under");
    for (auto& d : t.tables("dilution")) {
        const auto at = d.quantity<Dimension::temperature>("at", true).value_or(Temperature::si(263));
        const auto minutes = d.quantity<Dimension::duration>("minutes", true, minutesUnit).value_or(Duration::si(120));
        if (!s.dilution.empty() && (at <= s.dilution.back().first || minutes > s.dilution.back().second))
            d.problem(d.line(), "the dilution table gives more to a warmer night",
                      "Give it from the coldest forecast to the warmest, with no more minutes");
        s.dilution.emplace_back(at, minutes);
        d.finish();
    }
    t.finish();
    return s;
}

} // namespace amber::notes
