// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/atmosphere.h"
#include "air/humidity.h"
#include "cli/aircraft_option.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "engine/fuel_grade.h"
#include "engine/power_chart.h"
#include "files/document.h"
#include "flight/cruise.h"
#include "flight/open_files.h"
#include "notes/cockpit_units.h"
#include "reading/notes_reader.h"
#include "store/sortie_document.h"
#include "units/text.h"
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
struct CalibrateOptions {
    std::string notes, variant;
    bool write = false, json = false;
};
struct CruiseOptions {
    std::string notes, variant, altitude, oat, dewPoint, grade, weight, fuel;
    std::string power, burn, speed, endurance, range; ///< one of them
    bool json = false;
};
using json = nlohmann::ordered_json;

int wrong(const char* command, const std::string& why) {
    fmt::print(stderr, "amber-throttle {}: {}\n", command, why);
    return exitUsage;
}
void print(const Problems& problems) {
    for (const auto& p : problems)
        fmt::print(stderr, "{}\n", p.text());
}
/// The figure of an option within its range. @return an error, or empty
template <Dimension D>
std::string take(const char* option, const std::string& text, const UnitSpec* unit, Quantity<D>& into) {
    const auto figure = readOption<D>(option, text, unit);
    if (!figure)
        return figure.error();
    into = figure.value();
    return {};
}
} // namespace

static int runCalibrate(const CalibrateOptions& o) {
    // Not through assemble(): a file that is refused there is what this command is for.
    auto reading = readNotesFile(o.notes, o.variant);
    if (!reading.notes) {
        print(reading.problems);
        return exitProblems;
    }
    TypeNotes notes = *reading.notes;
    if (o.write)
        notes.engine.calibrated.reset();
    const auto c = engine::calibrate(notes);
    const auto against = engine::contradictions(notes, c);
    if (o.json) {
        json out;
        out["written"] = c.written;
        out["lines"] = json::array();
        for (const auto& r : c.residuals)
            out["lines"].push_back({{"rating", r.rating},
                                    {"gear", r.gear},
                                    {"line", r.line},
                                    {"power", orNull(r.power)},
                                    {"full_throttle_height_m", orNull(r.heightMetres)},
                                    {"fuel", orNull(r.fuel)}});
        out["parameters"] = json::array();
        for (const auto& f : c.fitted)
            out["parameters"].push_back({{"name", f.name},
                                         {"value", f.value},
                                         {"unit", f.unit},
                                         {"typical", f.typical},
                                         {"uncertainty_left", f.left},
                                         {"at_bound", f.atBound},
                                         {"settled", f.settled()}});
        out["fuel_is_estimate"] = engine::fuelIsEstimate(notes);
        out["contradictions"] = json::array();
        for (const auto& p : against)
            out["contradictions"].push_back(p.text());
        fmt::print("{}\n", out.dump(2));
    } else {
        for (const auto& r : c.residuals)
            fmt::print("{:<10} {:<13} power {:>8}  full-throttle height {:>9}{}\n", r.rating, r.gear,
                       r.power ? fmt::format("{:+.2f} %", 100 * *r.power) : "—",
                       r.heightMetres ? format(*r.heightMetres, *notes.cockpit.height) : "—",
                       r.fuel ? fmt::format("  fuel {:+.1f} %", 100 * *r.fuel) : "");
        if (c.written)
            fmt::print("parameters as written in the file\n");
        for (const auto& f : c.fitted)
            fmt::print("{:<32} {:.3f} {}{}\n", f.name, f.value, f.unit,
                       f.atBound ? fmt::format(" (as far as it may go; typical is {:.3f}. Check the lines and sizes)",
                                               f.typical)
                       : f.settled() ? ""
                                     : fmt::format(" (the lines do not settle it; typical is {:.3f})", f.typical));
        if (engine::fuelIsEstimate(notes))
            fmt::print("Fuel is only an estimate: no line gives a fuel_flow. With two it is known within 3 % in nine "
                       "engines of ten.\n");
    }
    print(against);
    if (!against.empty()) {
        if (o.write)
            fmt::print(stderr, "amber-throttle calibrate: nothing was written\n");
        return exitProblems;
    }
    if (o.write) {
        Problems problems;
        const auto text = document::readFile(o.notes, problems);
        if (!text) {
            print(problems);
            return exitProblems;
        }
        if (const auto error = writeAtomically(QString::fromStdString(o.notes),
                                               QByteArray::fromStdString(engine::withCalibratedBlock(*text, c)));
            !error.isEmpty()) {
            fmt::print(stderr, "amber-throttle calibrate: {}\n", error.toStdString());
            return exitWrite;
        }
    }
    return exitOk;
}

static int runCruise(const CruiseOptions& o) {
    const auto loaded = flight::loadAircraft(o.notes, o.variant);
    if (!loaded.aircraft) {
        print(loaded.problems);
        return exitProblems;
    }
    const auto& aircraft = *loaded.aircraft;
    const TypeNotes& n = aircraft.notes;
    Length altitude;
    if (const auto e = take("altitude", o.altitude, n.cockpit.height, altitude); !e.empty())
        return wrong("cruise", e);
    air::Day day = air::standardDay(Length{});
    flight::CruiseConditions c;
    c.air = day.at(altitude);
    if (!o.oat.empty()) {
        Temperature oat;
        if (const auto e = take("oat", o.oat, n.cockpit.temperature, oat); !e.empty())
            return wrong("cruise", e);
        c.air.temperature = oat;
    }
    if (!o.dewPoint.empty()) {
        Temperature dew;
        if (const auto e = take("dew-point", o.dewPoint, n.cockpit.temperature, dew); !e.empty())
            return wrong("cruise", e);
        if (dew > c.air.temperature)
            return wrong("cruise", "--dew-point: it is above the temperature of the air");
        c.air.vapour = air::vapourPressure(dew);
    }
    c.grade = o.grade.empty() ? n.fuel.grades.front() : o.grade;
    if (!engine::gradeNumber(c.grade))
        return wrong("cruise", "--grade: " + engine::gradeRemark(n, c.grade));
    c.weight = Mass::si(0.5 * (n.speeds.lightWeight.si() + n.speeds.heavyWeight.si()));
    if (!o.weight.empty())
        if (const auto e = take("weight", o.weight, n.cockpit.weight, c.weight); !e.empty())
            return wrong("cruise", e);
    if (c.weight < n.emptyWeight || c.weight > n.maxWeight)
        return wrong("cruise", fmt::format("--weight: the {} flies between {} and {}", n.name,
                                           format(n.emptyWeight.si(), *n.cockpit.weight),
                                           format(n.maxWeight.si(), *n.cockpit.weight)));
    double fuel = 0.0;
    for (const auto& tank : n.fuel.tanks)
        fuel += tank.usable.si();
    c.fuel = Volume::si(fuel);
    if (!o.fuel.empty())
        if (const auto e = take("fuel", o.fuel, n.cockpit.fuel, c.fuel); !e.empty())
            return wrong("cruise", e);
    if (c.fuel.si() < 0 || c.fuel.si() > fuel * 1.0001)
        return wrong("cruise",
                     fmt::format("--fuel: the tanks hold {} that can be used", format(fuel, *n.cockpit.fuel)));
    const std::pair<flight::Ask, const std::string*> asks[] = {{flight::Ask::power, &o.power},
                                                               {flight::Ask::burn, &o.burn},
                                                               {flight::Ask::airspeed, &o.speed},
                                                               {flight::Ask::endurance, &o.endurance},
                                                               {flight::Ask::range, &o.range}};
    std::optional<flight::Ask> ask;
    double value = 0.0;
    for (const auto& [which, text] : asks)
        if (!text->empty()) {
            if (ask)
                return wrong("cruise", "ask one thing: --power, --burn, --speed, --endurance or --range");
            ask = which;
            const auto& name = flight::nameOf(which);
            const UnitSpec* unit = which == flight::Ask::power       ? n.cockpit.power
                                   : which == flight::Ask::airspeed  ? n.cockpit.speed
                                   : which == flight::Ask::range     ? n.cockpit.distance
                                   : which == flight::Ask::endurance ? units::hour.spec
                                                                     : nullptr;
            const auto read = readQuantity(name.dimension, *text, unit);
            if (!read)
                return wrong("cruise", fmt::format("--{}: {}", name.key, read.error()));
            value = read.value().si;
        }
    if (!ask)
        return wrong("cruise", "ask something: --power, --burn, --speed, --endurance or --range");
    const auto answer = flight::cruiseCandidates(aircraft, c, *ask, value);
    const auto gearName = [&](std::size_t g) {
        return n.engine.gears.empty() ? std::string{} : n.engine.gears[g].name;
    };
    if (o.json) {
        json out{{"ask", flight::nameOf(*ask).key}, {"candidates", json::array()}, {"why", answer.why}};
        for (const auto& p : answer.candidates)
            out["candidates"].push_back({{"rpm", p.setting.rpm.si() * 60},
                                         {"manifold_pressure_kPa", p.point.manifoldPressure.si() / 1000},
                                         {"full_throttle", p.point.fullThrottle},
                                         {"gear", gearName(p.setting.gear)},
                                         {"mixture", p.setting.mixture == Mixture::rich ? "rich" : "weak"},
                                         {"power_kW", p.point.power.si() / 1000},
                                         {"bmep_kPa", p.point.meanEffectivePressure / 1000},
                                         {"fuel_l_h", p.burn * 3.6e6},
                                         {"tas_m_s", p.tas.si()},
                                         {"endurance_h", p.endurance / 3600},
                                         {"range_km", p.range / 1000},
                                         {"knock_limit_kPa", p.boundary.si() / 1000},
                                         {"within_notes", p.withinNotes},
                                         {"why", p.why}});
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
    } else {
        for (const auto& p : answer.candidates)
            fmt::print("{:>9}  {:>10}  {:<8} {:<5} {:>9}  {:>13}  {:>8}  {}\n", format(p.setting.rpm, units::rpm),
                       format(p.point.manifoldPressure.si(), n.unitOf(Gauge::boost)), gearName(p.setting.gear),
                       p.setting.mixture == Mixture::rich ? "rich" : "weak",
                       format(p.point.power.si(), *n.cockpit.power), format(p.burn, fuelFlowUnit(n.cockpit), 1),
                       format(p.tas.si(), *n.cockpit.speed), p.why);
        if (answer.candidates.empty())
            fmt::print("{}\n", answer.why);
    }
    return answer.candidates.empty() ? exitProblems : exitOk;
}

static int runChart(const ChartOptions& o) {
    const auto loaded = flight::loadAircraft(o.notes, o.variant);
    if (!loaded.aircraft) {
        print(loaded.problems);
        return exitProblems;
    }
    const auto& aircraft = *loaded.aircraft;
    const TypeNotes& n = aircraft.notes;
    Rotation rpm = flight::ratingFor(n, {}, Phase::climb).rpm;
    if (!o.rpm.empty())
        if (const auto e = take("rpm", o.rpm, units::rpm.spec, rpm); !e.empty())
            return wrong("chart", e);
    const auto gear = n.gearIndex(o.gear);
    if (!gear || (n.engine.gears.empty() && !o.gear.empty()))
        return wrong("chart", fmt::format("--gear: the {} has no gear \"{}\"", n.engine.name, o.gear));
    std::optional<engine::Construction> construction;
    if (!o.boost.empty()) {
        ManifoldPressure boost;
        Length altitude;
        if (const auto e = take("boost", o.boost, n.cockpit.boost, boost); !e.empty())
            return wrong("chart", e);
        if (!o.altitude.empty())
            if (const auto e = take("altitude", o.altitude, n.cockpit.height, altitude); !e.empty())
                return wrong("chart", e);
        Temperature oat = air::standardTemperature(altitude);
        if (!o.oat.empty())
            if (const auto e = take("oat", o.oat, n.cockpit.temperature, oat); !e.empty())
                return wrong("chart", e);
        construction = engine::construct(aircraft.model(), rpm, boost, *gear, altitude, oat);
        if (!construction)
            return wrong("chart",
                         "this boost cannot be had at sea level at this rpm: there is no point A to join from");
    }
    const auto chart = engine::powerChart(n, aircraft.model(), rpm);
    const auto gearName = [&](std::size_t g) {
        return n.engine.gears.empty() ? std::string{} : n.engine.gears[g].name;
    };
    if (o.json) {
        json out{{"panels", json::object()}};
        const auto lines = [&](const std::vector<engine::ChartLine>& all, const char* x, double scale) {
            json a = json::array();
            for (const auto& l : all) {
                json line{{"rpm", l.rpm.si() * 60}, {"gear", gearName(l.gear)}, {"points", json::array()}};
                if (l.boost)
                    line["boost_kPa"] = l.boost->si() / 1000;
                for (const auto& p : l.points)
                    line["points"].push_back({{x, p.x * scale}, {"power_kW", p.power / 1000}});
                a.push_back(std::move(line));
            }
            return a;
        };
        out["panels"]["sea_level"] = lines(chart.seaLevel, "boost_kPa", 1e-3);
        out["panels"]["full_throttle"] = lines(chart.fullThrottle, "altitude_m", 1);
        out["panels"]["constant_boost"] = lines(chart.constantBoost, "altitude_m", 1);
        out["marks"] = json::array();
        for (const auto& m : chart.marks)
            out["marks"].push_back({{"rating", m.rating},
                                    {"gear", gearName(m.gear)},
                                    {m.seaLevel ? "boost_kPa" : "altitude_m", m.seaLevel ? m.x / 1000 : m.x},
                                    {"power_kW", m.power / 1000}});
        if (construction) {
            const auto& c = *construction;
            out["construction"] = {{"rpm", c.rpm.si() * 60},
                                   {"boost_kPa", c.boost.si() / 1000},
                                   {"gear", gearName(c.gear)},
                                   {"altitude_m", c.height.si()},
                                   {"sea_level_power_kW", c.seaLevel.si() / 1000},
                                   {"full_throttle_height_m", c.holdsTo->si()},
                                   {"full_throttle_power_kW", c.atFullThrottle.si() / 1000},
                                   {"above_full_throttle_height", c.beyond},
                                   {"read_kW", c.read.si() / 1000},
                                   {"temperature_factor", c.correction},
                                   {"corrected_kW", c.corrected.si() / 1000},
                                   {"power_kW", c.model.si() / 1000},
                                   {"chart_over_model", c.overModel()}};
        }
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
        return exitOk;
    }
    fmt::print("{}", engine::chartCsv(n, chart));
    return exitOk;
}

namespace {
class CalibrateCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "calibrate"; }
    [[nodiscard]] const char* help() const override {
        return "Fit the engine model to the rating lines and say how well";
    }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.flag("--write", o_.write, "Write the parameters into the file");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runCalibrate(o_); }

private:
    CalibrateOptions o_;
};

class CruiseCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "cruise"; }
    [[nodiscard]] const char* help() const override {
        return "Settings for a cruise: ask by power, burn, speed, endurance or range";
    }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--altitude", o_.altitude, "Pressure altitude", Arguments::Need::required);
        a.text("--oat", o_.oat, "Outside air temperature there; standard without");
        a.text("--dew-point", o_.dewPoint, "Dew point there; dry air without");
        a.text("--grade", o_.grade, "Fuel grade; the best of the notes without");
        a.text("--weight", o_.weight, "Weight; the middle of the speed table without");
        a.text("--fuel", o_.fuel, "Usable fuel; full tanks without");
        a.text("--power", o_.power, "Power of one engine");
        a.text("--burn", o_.burn, "Fuel flow of all engines");
        a.text("--speed", o_.speed, "True airspeed");
        a.text("--endurance", o_.endurance, "Hours in the air");
        a.text("--range", o_.range, "Distance in still air");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runCruise(o_); }

private:
    CruiseOptions o_;
};

class ChartCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "chart"; }
    [[nodiscard]] const char* help() const override {
        return "The power chart; with --rpm and --boost its construction";
    }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--rpm", o_.rpm, "Engine speed of the constant-boost lines; the climb's without");
        a.text("--boost", o_.boost, "Boost to construct a reading for");
        a.text("--gear", o_.gear, "Supercharger gear");
        a.text("--altitude", o_.altitude, "Pressure altitude of the reading");
        a.text("--oat", o_.oat, "Outside air temperature there; standard without");
        a.flag("--json", o_.json, "JSON to standard output");
        a.flag("--csv", o_.csv, "CSV to standard output (without any other)");
        a.text("--svg", o_.svg, "Draw it to this SVG file");
        a.text("--png", o_.png, "Draw it to this PNG file");
        a.oneOf({"--json", "--csv"});
    }
    int run(const CommandActions& actions) override {
        if ((o_.svg && o_.svg->empty()) || (o_.png && o_.png->empty())) {
            fmt::print(stderr, "amber-throttle chart: there is no file name to write to\n");
            return exitWrite;
        }
        return o_.svg || o_.png ? actions.chart(o_) : runChart(o_);
    }

private:
    ChartOptions o_;
};
} // namespace

std::unique_ptr<Command> calibrateCommand() {
    return std::make_unique<CalibrateCommand>();
}
std::unique_ptr<Command> cruiseCommand() {
    return std::make_unique<CruiseCommand>();
}
std::unique_ptr<Command> chartCommand() {
    return std::make_unique<ChartCommand>();
}

} // namespace amber::app
