// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/notes_reader.h"
#include "files/reader_units.h"
#include "files/table_reader.h"
#include "notes/placeholder.h"
#include "reading/control_reader.h"
#include "reading/estimates.h"
#include "reading/loading_reader.h"
#include "reading/notes_check.h"
#include "reading/run_up_reader.h"
#include "reading/start_reader.h"
#include "reading/step_reader.h"
#include "reading/trouble_reader.h"
#include "reading/walk_reader.h"
#include "units/ascii.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace amber {
namespace {
using document::Node;
using document::TableReader;

void readCockpit(TableReader t, TypeNotes& n) {
    Cockpit& c = n.cockpit;
    const auto take = [&](Dimension d, const char* key, const UnitSpec*& into) {
        if (const UnitSpec* unit = t.unit(d, key))
            into = unit;
    };
    take(Dimension::manifoldPressure, "boost", c.boost);
    take(Dimension::temperature, "temperature", c.temperature);
    take(Dimension::pressure, "pressure", c.pressure);
    take(Dimension::speed, "speed", c.speed);
    take(Dimension::length, "height", c.height);
    take(Dimension::volume, "fuel", c.fuel);
    take(Dimension::mass, "weight", c.weight);
    take(Dimension::distance, "distance", c.distance);
    take(Dimension::power, "power", c.power);
    if (n.format > 1) {
        n.has = t.texts("has");
        n.without = t.texts("without");
        for (const auto* list : {&n.has, &n.without})
            for (const auto& key : *list)
                if (!actsFromKey(key))
                    t.problem(t.line(list == &n.has ? "has" : "without"),
                              fmt::format("“{}” is nothing that a control acts on", key),
                              "docs/formats/type-notes.md lists what a cockpit may have");
        for (auto& row : t.tables("control")) // one a line; [[control]] where they need more room
            n.controls.push_back(notes::readControl(row));
        if (t.has("crew"))
            n.crew = t.texts("crew");
        if (n.crew.empty())
            n.crew = {"pilot"};
    }
    t.finish();
}

void checkMetering(TableReader& t, const char* key, const std::vector<std::pair<double, double>>& schedule) {
    double last = -1.0;
    for (const auto& point : schedule) {
        if (point.first <= last)
            t.problem(t.line("rich"), fmt::format("{} does not rise in steps", key),
                      "Give shares of rated power in rising order, each with its ratio of fuel to air");
        last = point.first;
    }
}

EngineNotes readEngine(TableReader t) {
    EngineNotes e;
    e.line = t.line();
    e.name = t.text("name", true);
    e.cylinders = static_cast<int>(t.number("cylinders", true).value_or(1));
    e.displacement = t.quantity<Dimension::volume>("displacement", true).value_or(Volume::si(0.02));
    e.compression = t.number("compression", true).value_or(6.5);
    const double boreVolume = e.displacement.si() / e.cylinders;
    e.strokeMetres = t.quantity<Dimension::length>("stroke")
                         .value_or(Length::si(std::cbrt(boreVolume * 4.0 / std::numbers::pi)))
                         .si();
    e.cooling = t.word("cooling", {"air", "liquid"}, true).value_or(0) == 0 ? Cooling::air : Cooling::liquid;
    e.reduction = t.number("reduction").value_or(1.0);
    e.ramEfficiency = t.number("ram").value_or(0.7);
    e.throttleLoss = t.number("throttle_loss").value_or(0.02);
    if (auto blower = t.table("supercharger")) {
        e.impellerDiameter = blower->quantity<Dimension::length>("impeller", true).value_or(Length::si(0.25)).si();
        e.auxiliaryDiameter = blower->quantity<Dimension::length>("auxiliary_impeller").value_or(Length{}).si();
        e.intercooler = blower->number("intercooler").value_or(0.0);
        for (auto& gear : blower->tables("gear")) {
            e.gears.push_back({gear.text("name", true), gear.number("ratio", true).value_or(7.0),
                               gear.number("auxiliary").value_or(0.0)});
            if (e.gears.back().auxiliary > 0 && !blower->has("auxiliary_impeller"))
                blower->problem(gear.line(), "an auxiliary stage without its impeller",
                                "Add auxiliary_impeller = \"28 cm\" to engine.supercharger");
            gear.finish();
        }
        if (auto turbo = blower->table("turbo")) {
            TurboNotes made;
            made.held = turbo->quantity<Dimension::manifoldPressure>("held", true).value_or(ManifoldPressure::si(1e5));
            made.critical = turbo->quantity<Dimension::length>("critical", true).value_or(Length::si(7500));
            made.efficiency = turbo->number("efficiency").value_or(made.efficiency);
            turbo->finish();
            e.turbo = made;
        }
        if (e.gears.empty())
            blower->problem(blower->line(), "the supercharger has no gear",
                            "Add gear = [{ name = \"low\", ratio = 7.2 }]");
        blower->finish();
    }
    if (auto c = t.table("calibrated")) {
        CalibratedNotes made;
        made.isac = c->number("isac", true).value_or(3.7) / 3.6e6;
        made.friction = c->number("friction", true).value_or(0.5) * 1e5;
        made.volumetric = c->number("volumetric", true).value_or(0.9);
        made.efficiency = c->numbers("efficiency");
        if (made.efficiency.size() != e.gears.size())
            c->problem(c->line("efficiency"), "engine.calibrated.efficiency has not one figure a gear",
                       "Run amber-throttle calibrate --write again, or take the table out");
        if (c->has("rich"))
            made.rich = c->pairs("rich", "power", "ratio");
        checkMetering(*c, "engine.calibrated.rich", made.rich);
        made.weak = c->number("weak");
        if (const auto impeller = c->quantity<Dimension::length>("impeller"))
            made.impeller = impeller->si();
        c->finish();
        e.calibrated = made;
    }
    e.boostControl = t.flag("boost_control").value_or(true);
    e.suctionCarburettor = t.flag("suction_carburettor").value_or(true);
    if (auto heat = t.quantity<Dimension::temperatureDifference>("carburettor_heat"))
        e.carburettorHeatRise = heat->si();
    for (auto& row : t.tables("low_rpm")) {
        e.lowRpmBoost.emplace_back(
            row.quantity<Dimension::rotation>("rpm", true, rpmUnit).value_or(Rotation::si(25)),
            row.quantity<Dimension::manifoldPressure>("boost", true).value_or(ManifoldPressure::si(1e5)));
        if (e.lowRpmBoost.size() > 1 && (e.lowRpmBoost.back().first <= e.lowRpmBoost[e.lowRpmBoost.size() - 2].first ||
                                         e.lowRpmBoost.back().second < e.lowRpmBoost[e.lowRpmBoost.size() - 2].second))
            t.problem(row.line(), "engine.low_rpm does not rise", "List rising rpm with boost that never falls");
        row.finish();
    }
    e.richSchedule = {{0.4, 0.085}, {0.7, 0.088}, {1.0, 0.105}};
    if (auto mixture = t.table("mixture")) {
        if (mixture->has("rich"))
            e.richSchedule = mixture->pairs("rich", "power", "ratio");
        e.mixtureGiven = mixture->has("rich");
        e.weakRatio = mixture->number("weak").value_or(e.weakRatio);
        e.weakUpTo = mixture->number("weak_up_to").value_or(e.weakUpTo);
        e.altitudeControl = mixture->flag("altitude_control").value_or(true);
        e.correctorFrom = mixture->quantity<Dimension::length>("corrector_from");
        e.waterRatio = mixture->number("water");
        checkMetering(*mixture, "engine.mixture.rich", e.richSchedule);
        if (e.richSchedule.empty())
            e.richSchedule = {{1.0, 0.09}};
        mixture->finish();
    }
    t.finish();
    return e;
}

std::optional<Band> readBand(TableReader& t, Dimension dimension, const Band& from) {
    Band band = from;
    bool any = false;
    if (const auto normal = t.range(dimension, "normal")) {
        band.normalLow = normal->first;
        band.normalHigh = normal->second;
        any = true;
    }
    const UnitSpec* bare = dimension == Dimension::rotation ? rpmUnit : nullptr;
    if (const auto low = t.quantitySi(dimension, "min", false, bare)) {
        band.limitLow = low;
        any = true;
    }
    if (const auto high = t.quantitySi(dimension, "max", false, bare)) {
        band.limitHigh = high;
        any = true;
    }
    if (const auto minutes = t.quantity<Dimension::duration>("amber_for", false, minutesUnit)) {
        band.amberFor = minutes;
        any = true;
    }
    return any ? std::optional(band) : std::nullopt;
}

std::map<Gauge, GaugeNotes> readLimits(TableReader t) {
    std::map<Gauge, GaugeNotes> out;
    for (auto& [key, gaugeTable] : t.namedTables()) {
        const auto gauge = gaugeFromKey(key);
        if (!gauge) {
            std::vector<std::string> names;
            for (const auto& row : gaugeRegister)
                if (row.limited)
                    names.emplace_back(row.key);
            gaugeTable.problem(gaugeTable.line(), fmt::format("limits.{} is not a gauge", key),
                               fmt::format("Use one of: {}", fmt::join(names, ", ")));
            continue;
        }
        const Dimension dimension = nameOf(*gauge).dimension;
        GaugeNotes g;
        g.line = gaugeTable.line();
        g.unit = gaugeTable.unit(dimension, "unit");
        g.scale = gaugeTable.range(dimension, "scale");
        g.band = readBand(gaugeTable, dimension, {}).value_or(Band{});
        for (auto& [phaseKey, phaseTable] : gaugeTable.namedTables()) {
            const auto phase = phaseFromKey(phaseKey);
            if (!phase) {
                phaseTable.problem(
                    phaseTable.line(), fmt::format("limits.{}.{} is not a phase", key, phaseKey),
                    "Use a phase's key: start, warm-up, run-up, take-off, climb, cruise, let-down, landing, stop");
                continue;
            }
            if (const auto band = readBand(phaseTable, dimension, g.band))
                g.perPhase[*phase] = *band;
            phaseTable.finish();
        }
        // A least temperature is for working: until it is warm, the warm-up's own minima say what may be done.
        if (*gauge == Gauge::headTemperature || *gauge == Gauge::coolantTemperature || *gauge == Gauge::oilTemperature)
            for (const Phase cold : {Phase::start, Phase::warmUp})
                if (!g.perPhase.contains(cold) && g.band != Band{}) {
                    Band warming = g.band;
                    warming.normalLow.reset();
                    warming.limitLow.reset();
                    g.perPhase[cold] = warming;
                }
        gaugeTable.finish();
        out.emplace(*gauge, std::move(g));
    }
    t.finish();
    return out;
}

/// By volume, by weight ("480 lb/h"), or for the power ("0.48 lb/(hp·h)"): petrol is taken as 720 kg/m³.
std::optional<VolumeFlow> readFuelFlow(TableReader& line, std::optional<Power> power) {
    constexpr double petrol = 720.0;
    const std::string text = line.has("fuel_flow") ? line.text("fuel_flow") : "";
    if (text.empty())
        return std::nullopt;
    if (const auto slash = text.find("/(hp"); slash != std::string::npos) {
        const auto mass = read<Dimension::mass>(text.substr(0, slash));
        if (mass && power)
            return VolumeFlow::si(mass.value().si() / 3600.0 * (power->si() / 745.69987) / petrol);
        line.problem(line.line("fuel_flow"), fmt::format("“{}” needs the line's power", text),
                     "Give power beside it, or the flow itself");
        return std::nullopt;
    }
    if (const auto mass = read<Dimension::massFlow>(text))
        return VolumeFlow::si(mass.value().si() / petrol);
    return line.quantity<Dimension::volumeFlow>("fuel_flow");
}

Rating readRating(TableReader& t) {
    Rating r;
    r.line = t.line();
    r.key = t.text("key", true);
    r.name = t.text("name", true);
    r.rpm = t.quantity<Dimension::rotation>("rpm", true, rpmUnit).value_or(Rotation::si(30));
    r.boost = t.quantity<Dimension::manifoldPressure>("boost");
    r.mixture = t.word("mixture", {"rich", "weak"}).value_or(0) == 0 ? Mixture::rich : Mixture::weak;
    r.minutes = t.quantity<Dimension::duration>("minutes", false, minutesUnit);
    r.water = t.flag("water").value_or(false);
    r.grade = t.text("grade");
    for (const auto& [grade, node] : t.members("grades")) {
        if (node->kind != Node::Kind::text) {
            t.problem(node->line, fmt::format("the boost for grade {} has no unit", grade),
                      "Write it in quotes with its unit");
            continue;
        }
        const auto boost = read<Dimension::manifoldPressure>(node->text);
        if (boost && t.within("grades", *node, boost.value().si()))
            r.grades.emplace(grade, boost.value());
        else if (!boost)
            t.problem(node->line, fmt::format("grade {}: {}", grade, boost.error()), "");
    }
    for (auto& row : t.tables("above")) {
        r.above.emplace_back(
            row.quantity<Dimension::length>("height", true).value_or(Length{}),
            row.quantity<Dimension::manifoldPressure>("boost", true).value_or(ManifoldPressure::si(1e5)));
        if (r.above.size() > 1 && !(r.above.back().first > r.above[r.above.size() - 2].first))
            t.problem(row.line(), fmt::format("rating \"{}\": the heights of above do not rise", r.key),
                      "List them from the lowest up");
        if (r.boost && r.above.back().second > *r.boost)
            t.problem(row.line(), fmt::format("rating \"{}\": more boost above a height than below it", r.key),
                      "Give the lower boost that is left from there");
        row.finish();
    }
    if (r.above.size() > placeholder::fallNames.size())
        t.problem(r.line,
                  fmt::format("rating \"{}\": above has {} steps, max {}", r.key, r.above.size(),
                              placeholder::fallNames.size()),
                  "Put steps together that are close to each other, each with the lower boost");
    for (auto& line : t.tables("line")) {
        RatingLine l;
        l.line = line.line();
        l.gear = line.text("gear");
        l.power = line.quantity<Dimension::power>("power");
        l.at = line.quantity<Dimension::length>("at").value_or(Length{});
        l.holdsTo = line.quantity<Dimension::length>("holds_to");
        l.boost = line.quantity<Dimension::manifoldPressure>("boost");
        l.fuelFlow = readFuelFlow(line, l.power);
        line.finish();
        r.lines.push_back(std::move(l));
    }
    t.finish();
    return r;
}

PhaseNotes readPhase(TableReader t, int format) {
    PhaseNotes p;
    p.line = t.line();
    p.duration = t.quantity<Dimension::duration>("minutes", false, minutesUnit);
    p.rpm = t.quantity<Dimension::rotation>("rpm", false, rpmUnit);
    p.boost = t.quantity<Dimension::manifoldPressure>("boost");
    p.rating = t.text("rating");
    p.ias = t.quantity<Dimension::speed>("ias");
    p.rate = t.quantity<Dimension::verticalSpeed>("rate");
    p.gear = t.text("gear");
    if (const auto mixture = t.word("mixture", {"rich", "weak"}))
        p.mixture = *mixture == 0 ? Mixture::rich : Mixture::weak;
    p.coolingFlap = t.number("flap");
    p.brakesHold = t.quantity<Dimension::manifoldPressure>("brakes_hold");
    p.tailLifts = t.quantity<Dimension::manifoldPressure>("tail_lifts");
    p.cautions = t.texts("cautions");
    for (auto& step : t.tables("step"))
        p.steps.push_back(notes::readStep(step, format));
    if (format > 1)
        p.without = t.texts("without");
    for (auto& clock : t.tables("clock")) {
        ClockNote note{clock.text("what", true), {}, {}, {}};
        note.every = clock.quantity<Dimension::duration>("every");
        note.value = clock.text("value", !note.every);
        note.why = clock.text("why");
        if (note.every && note.value.empty())
            note.value = "every " + formatHoursOrMinutes(note.every->si());
        p.clocks.push_back(std::move(note));
        clock.finish();
    }
    t.finish();
    return p;
}

HeatNotes readHeat(TableReader t) {
    HeatNotes h;
    h.line = t.line();
    h.rating = t.text("rating", true);
    h.ias = t.quantity<Dimension::speed>("ias", true).value_or(Speed::si(70));
    h.height = t.quantity<Dimension::length>("height").value_or(Length{});
    h.coolingFlap = t.number("flap").value_or(0.5);
    h.slipstream = t.number("slipstream").value_or(1.0);
    h.head = t.quantity<Dimension::temperature>("head");
    h.coolant = t.quantity<Dimension::temperature>("coolant");
    h.oil = t.quantity<Dimension::temperature>("oil", true).value_or(Temperature::si(350));
    h.thermostat = t.quantity<Dimension::temperature>("coolant_thermostat");
    h.oilThermostat = t.quantity<Dimension::temperature>("oil_thermostat").value_or(h.oilThermostat);
    h.oilRelief = t.quantity<Dimension::pressure>("oil_relief", true).value_or(Pressure::si(5e5));
    h.fuelPressure = t.quantity<Dimension::pressure>("fuel_pressure", true).value_or(Pressure::si(1e5));
    h.glycol = t.number("glycol").value_or(0.0);
    h.coolantCap = t.quantity<Dimension::pressure>("coolant_cap").value_or(Pressure{});
    t.finish();
    return h;
}

Speeds readSpeeds(TableReader t) {
    Speeds s;
    s.lightWeight = t.quantity<Dimension::mass>("light_weight", true).value_or(Mass::si(1000));
    s.heavyWeight = t.quantity<Dimension::mass>("heavy_weight", true).value_or(Mass::si(2000));
    s.climbLossPerKm = Speed::si(0.0);
    if (const auto loss = t.quantity<Dimension::speed>("climb_loss_per_1000ft"))
        s.climbLossPerKm = Speed::si(loss->si() / 0.3048);
    for (auto& e : t.tables("entry")) {
        s.entries.push_back({e.text("id", true), e.text("name", true),
                             e.quantity<Dimension::speed>("light", true).value_or(Speed::si(40)),
                             e.quantity<Dimension::speed>("heavy", true).value_or(Speed::si(50))});
        e.finish();
    }
    if (!(s.heavyWeight > s.lightWeight))
        t.problem(t.line("heavy_weight"), "the heavy column is not heavier than the light one",
                  "Correct light_weight or heavy_weight");
    t.finish();
    return s;
}

FuelNotes readFuel(TableReader t, const Cockpit& cockpit, const LoadingNotes& loading) {
    const UnitSpec& unit = *cockpit.fuel;
    FuelNotes f;
    f.density = t.number("density").value_or(720.0);
    f.takeOffTank = t.text("take_off", true);
    f.landingTank = t.text("landing", true);
    f.order = t.texts("order");
    f.grades = t.texts("grades");
    f.reserve = t.quantity<Dimension::duration>("reserve", false, minutesUnit).value_or(Duration::si(1800));
    f.groundAttitude = t.number("ground_attitude").value_or(0);
    f.gaugeTolerance = t.number("gauge_tolerance").value_or(f.gaugeTolerance);
    f.changeAbove = t.quantity<Dimension::length>("change_above");
    for (auto& tank : t.tables("tank")) {
        Tank k;
        k.id = tank.text("id", true);
        k.name = tank.text("name", true);
        k.capacity = tank.quantity<Dimension::volume>("capacity", true).value_or(Volume::si(0.1));
        k.usable = tank.quantity<Dimension::volume>("usable").value_or(k.capacity);
        k.gauged = tank.flag("gauged").value_or(true);
        k.ground = notes::readGround(tank, unit);
        k.kind = static_cast<TankKind>(tank.word("kind", {"main", "drop", "transfer"}).value_or(0));
        k.removable = tank.flag("removable").value_or(k.kind == TankKind::drop);
        k.to = tank.text("to", k.kind == TankKind::transfer);
        k.transferRate = tank.quantity<Dimension::volumeFlow>("transfer_rate", k.kind == TankKind::transfer);
        k.leaveAt = tank.quantity<Dimension::volume>("leave_at");
        k.runDry = tank.flag("run_dry").value_or(false);
        k.standpipe = tank.quantity<Dimension::volume>("standpipe").value_or(Volume{});
        k.uncovers = tank.quantity<Dimension::volume>("uncovers").value_or(Volume{});
        k.emptyMass = tank.quantity<Dimension::mass>("empty_mass").value_or(Mass{});
        k.feeds = tank.texts("feeds");
        notes::readTankArms(tank, loading, cockpit, k);
        tank.finish();
        f.tanks.push_back(std::move(k));
    }
    if (f.tanks.empty())
        t.problem(t.line(), "there is no tank", "Add [[fuel.tank]] with id, name and capacity");
    t.finish();
    return f;
}

TypeNotes readType(TableReader& t, const std::string& file) {
    TypeNotes n;
    n.file = file;
    n.format = static_cast<int>(t.number("format", true).value_or(2));
    if (auto type = t.table("type", true)) {
        n.name = type->text("name", true);
        n.summary = type->text("summary");
        n.coolingLever = type->text("cooling_lever", n.format == 1);
        if (n.format > 1)
            n.wholeDrill = type->word("drill", {"standard", "whole"}).value_or(0) == 1;
        n.emptyWeight = type->quantity<Dimension::mass>("empty_weight", true).value_or(Mass::si(1000));
        n.maxWeight = type->quantity<Dimension::mass>("max_weight", true).value_or(Mass::si(2000));
        if (!(n.maxWeight > n.emptyWeight))
            type->problem(type->line("max_weight"), "max_weight is not above empty_weight", "Correct one of them");
        type->finish();
    }
    for (auto& v : t.tables("variant")) {
        n.variants.push_back({v.text("id", true), v.text("name", true)});
        v.table("set");
        v.finish();
    }
    if (auto cockpit = t.table("cockpit"))
        readCockpit(*cockpit, n);
    if (auto engine = t.table("engine", true))
        n.engine = readEngine(*engine);
    if (auto p = t.table("propeller", true)) {
        n.propeller.kind = p->text("kind", true);
        n.propeller.diameter = p->quantity<Dimension::length>("diameter", true).value_or(Length::si(3)).si();
        // Its kind says it too: "fixed, wood".
        const std::string words = ascii::lowered(n.propeller.kind);
        const auto says = [&](std::string_view word) { return words.find(word) != std::string::npos; };
        n.propeller.electric = says("electric");
        n.propeller.feathers = says("feather");
        n.propeller.reverses = says("revers");
        n.propeller.wood = says("wood");
        const auto usual = says("fixed")                                  ? PropellerControl::fixed
                           : says("two-position") || says("two position") ? PropellerControl::twoPosition
                                                                          : PropellerControl::constantSpeed;
        n.propeller.control = static_cast<PropellerControl>(
            p->word("pitch", {"constant speed", "two-position", "fixed"}).value_or(static_cast<std::size_t>(usual)));
        n.propeller.coarseAbsorption = p->number("coarse_absorption").value_or(n.propeller.coarseAbsorption);
        n.propeller.blades = static_cast<int>(p->number("blades").value_or(3));
        n.propeller.referenceRpm = p->quantity<Dimension::rotation>("reference_rpm", false, rpmUnit);
        n.propeller.referenceTolerance = p->quantity<Dimension::rotation>("reference_tolerance", false, rpmUnit)
                                             .value_or(Rotation::si(50.0 / 60.0))
                                             .si();
        p->finish();
    }
    for (auto& p : t.tables("position")) {
        Position position{p.text("id", true), p.text("name", true), p.texts("accessories")};
        for (const auto& what : position.accessories) {
            const std::string words = ascii::lowered(what);
            const auto says = [&](std::string_view word) { return words.find(word) != std::string::npos; };
            position.generator = position.generator || says("generator") || says("dynamo") || says("alternator");
            position.hydraulics = position.hydraulics || says("hydraulic");
        }
        n.positions.push_back(std::move(position));
        p.finish();
    }
    if (n.positions.empty())
        t.problem(t.line(), "there is no engine position", "Add [[position]] with id and name for each engine");
    if (n.positions.size() > 8)
        t.problem(t.line("position"), "more than eight engine positions", "Eight are the most that can be planned");
    if (auto limits = t.table("limits", true))
        n.gauges = readLimits(*limits);
    for (auto& r : t.tables("rating"))
        n.ratings.push_back(readRating(r));
    if (auto g = t.table("gear_change")) {
        n.gearChange = GearChangeRule{
            g->quantity<Dimension::pressure>("fall", true).value_or(Pressure::si(1e4)),
            g->quantity<Dimension::manifoldPressure>("throttle_back_to", true).value_or(ManifoldPressure::si(1e5))};
        g->finish();
    }
    if (n.format > 1)
        for (auto& c : t.tables("control"))
            n.controls.push_back(notes::readControl(c));
    for (auto& l : n.format == 1 ? t.tables("lever") : std::vector<TableReader>{}) {
        n.levers.push_back({l.text("id", true), l.text("name", true), l.text("sense", true), l.texts("positions"),
                            l.flag("reversed").value_or(false)});
        l.finish();
    }
    if (auto speeds = t.table("speeds", true))
        n.speeds = readSpeeds(*speeds);
    for (auto& p : t.tables("performance")) {
        PerformanceLine line;
        line.line = p.line();
        line.rating = p.text("rating", true);
        line.height = p.quantity<Dimension::length>("height", true).value_or(Length{});
        line.weight = p.quantity<Dimension::mass>("weight", true).value_or(Mass::si(1000));
        line.ias = p.quantity<Dimension::speed>("ias", true).value_or(Speed::si(50));
        line.rate = p.quantity<Dimension::verticalSpeed>("rate");
        p.finish();
        n.performance.push_back(std::move(line));
    }
    if (auto loading = t.table("loading"))
        n.loading = notes::readLoading(*loading, n.cockpit);
    for (auto& table : t.tables("distance"))
        n.tables.push_back(notes::readPerformanceTable(table, n.cockpit));
    if (auto fuel = t.table("fuel", true))
        n.fuel = readFuel(*fuel, n.cockpit, n.loading);
    if (auto walk = t.table("walk"))
        n.walk = notes::readWalk(*walk, n.cockpit);
    if (auto start = t.table("engine_start", true))
        n.start = notes::readStart(*start);
    if (auto w = t.table("warming", true))
        n.warmUp = notes::readWarming(*w);
    if (auto r = t.table("run_up_sheet"))
        n.runUp = notes::readRunUp(*r, n.cockpit);
    if (auto l = t.table("letting_down"))
        n.letDown = notes::readLettingDown(*l);
    if (auto s = t.table("cooling_down", true))
        n.stop = notes::readCoolingDown(*s);
    if (n.format > 1) {
        if (auto trouble = t.table("trouble"))
            n.trouble = notes::readTrouble(*trouble, n.format);
        for (auto& symptom : t.tables("symptom"))
            n.trouble.symptoms.push_back(notes::readSymptom(symptom));
    }
    if (auto heat = t.table("heat", true))
        n.heat = readHeat(*heat);
    for (const auto& name : phaseNames)
        if (name.phase != Phase::writeUp)
            if (auto phase = t.table(std::string(name.key), name.phase > Phase::walkRound))
                n.phases.emplace(name.phase, readPhase(*phase, n.format));
    t.finish();
    return n;
}
} // namespace

NotesReading readNotes(std::string_view text, const std::string& file, const std::string& variant) {
    NotesReading out;
    auto root = document::parse(text, file, out.problems);
    if (!root)
        return out;
    std::string applied;
    if (const Node* variants = root->find("variant"); variants && variants->kind == Node::Kind::array) {
        const std::vector<Node> all = variants->items; // overlay changes the tree they stand in
        std::vector<std::string> ids;
        bool found = false;
        for (const Node& v : all) {
            const Node* id = v.find("id");
            if (!id || id->kind != Node::Kind::text)
                continue;
            ids.push_back(id->text);
            if (found || (!variant.empty() && id->text != variant))
                continue;
            found = true;
            applied = id->text;
            if (const Node* set = v.find("set"); set && set->kind == Node::Kind::table)
                document::overlay(*root, *set, file, out.problems);
        }
        if (!found && !variant.empty())
            out.problems.push_back({file, variants->line, fmt::format("there is no variant \"{}\"", variant),
                                    fmt::format("Use one of: {}", fmt::join(ids, ", "))});
    } else if (!variant.empty()) {
        out.problems.push_back({file, 0, fmt::format("there is no variant \"{}\"", variant),
                                "This type has no variants: leave the variant out"});
    }
    const auto estimated = notes::complete(*root);
    TableReader reader(*root, "", file, out.problems, FileFormat::notes);
    TypeNotes notes = readType(reader, file);
    notes.estimated = estimated;
    notes.variant = applied;
    if (out.problems.empty())
        checkNotes(notes, out.problems);
    std::stable_sort(out.problems.begin(), out.problems.end(),
                     [](const Problem& a, const Problem& b) { return a.line < b.line; });
    if (out.problems.empty())
        out.notes = std::move(notes);
    return out;
}

NotesReading readNotesFile(const std::string& path, const std::string& variant) {
    NotesReading out;
    const auto text = document::readFile(path, out.problems);
    if (!text)
        return out;
    return readNotes(*text, path, variant);
}

} // namespace amber
