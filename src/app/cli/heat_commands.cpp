// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "advice/let_down.h"
#include "cli/aircraft_option.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <array>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
struct WarmUpOptions {
    std::string notes, variant, temperature, preheated, elevation;
    bool diluted = false, blanks = false, json = false;
};
struct LetDownOptions {
    std::string notes, variant, from, to, oat, rate, weight;
    bool json = false;
};
struct CoolDownOptions {
    std::string notes, variant, temperature, oat, elevation, forecast;
    bool json = false;
};
using json = nlohmann::ordered_json;

struct Bad {
    int code;
};
/// The aircraft, or the end of the command: its problems have been told.
std::shared_ptr<const powerplant::Aircraft> neededAircraft(const std::string& notes, const std::string& variant) {
    if (auto aircraft = aircraftOf(notes, variant))
        return aircraft;
    throw Bad{exitProblems};
}
/// The figure of an option, or the end of the command with a sentence.
template <Dimension D>
Quantity<D> orEnd(const char* command, const Result<Quantity<D>>& figure) {
    if (!figure) {
        fmt::print(stderr, "amber-throttle {}: {}\n", command, figure.error());
        throw Bad{exitUsage};
    }
    return figure.value();
}
/// Reads an option within the range of a figure of the sortie, or ends the command with a sentence.
template <Dimension D>
Quantity<D> take(const char* command, const char* option, const std::string& text, const UnitSpec* unit,
                 const char* path) {
    return orEnd<D>(command, readOption<D>(option, text, unit, FileFormat::sortie, path));
}

std::string clock(std::optional<double> seconds) {
    return seconds ? formatMinutesSeconds(*seconds) : std::string("never");
}

int warmUp(const WarmUpOptions& o) {
    const auto aircraft = neededAircraft(o.notes, o.variant);
    const TypeNotes& n = aircraft->notes;
    Sortie s = flight::plainSortie(n);
    s.day.oat = take<Dimension::temperature>("warmup", "temperature", o.temperature, n.cockpit.temperature, "day.oat");
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 3);
    if (!o.elevation.empty())
        s.day.elevation =
            take<Dimension::length>("warmup", "elevation", o.elevation, n.cockpit.height, "day.elevation");
    if (!o.preheated.empty())
        s.start.preheated =
            take<Dimension::temperature>("warmup", "preheated", o.preheated, n.cockpit.temperature, "start.preheated");
    s.start.diluted = o.diluted;
    s.start.blanks = o.blanks;
    s.flight.toElevation = s.day.elevation;
    s.flight.cruiseHeight = Length::si(s.day.elevation.si() + 1000);
    const auto f = flight::fly(*aircraft, s);
    const auto traces = flight::tracesUntil(f.engines, f[Phase::runUp].start + f[Phase::runUp].duration);
    double first = traces.empty() ? 0.0 : 1e18;
    for (const auto& t : traces)
        first = std::min(first, t.firedAt);
    const auto since = [&](std::optional<double> at) {
        return at ? std::optional(*at - first) : std::optional<double>();
    };
    const std::size_t slowest = flight::slowestEngine(traces);
    if (o.json) {
        json out;
        out["engines"] = json::array();
        for (const auto& t : traces) {
            json points = json::array();
            for (const auto& p : t.points)
                if (p.time >= first)
                    points.push_back(
                        {{"t_s", p.time - first},
                         {n.engine.cooling == Cooling::air ? "head_C" : "coolant_C", p.headOrCoolant - 273.15},
                         {"oil_C", p.oil - 273.15},
                         {"oil_pressure_kPa", p.oilPressure / 1000}});
            out["engines"].push_back({{"engine", t.engine},
                                      {"fires_s", t.firedAt - first},
                                      {"run_up_s", orNull(since(t.runUpAt))},
                                      {"take_off_s", orNull(since(t.takeOffAt))},
                                      {"points", std::move(points)}});
        }
        out["decides"] = traces.empty() ? json(nullptr) : json(traces[slowest].engine);
        out["steps"] = json::array();
        for (const auto& [time, rpm] : f.warmUpSteps)
            out["steps"].push_back({{"t_s", f[Phase::warmUp].start + time - first}, {"rpm", rpm.si() * 60}});
        out["oil_holds_rpm"] = f.oilHoldsRpm;
        out["minutes_to_run_up"] = f.minutesToRunUp ? json(*f.minutesToRunUp / 60) : json(nullptr);
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
        return exitOk;
    }
    for (const auto& t : traces)
        fmt::print("engine {:<4} fires {:>6}  run-up from {:>6}  take-off from {:>6}{}\n", t.engine,
                   clock(since(t.firedAt)), clock(since(t.runUpAt)), clock(since(t.takeOffAt)),
                   traces.size() > 1 && &t == &traces[slowest] ? "  slowest" : "");
    for (const auto& [time, rpm] : f.warmUpSteps)
        fmt::print("{:>9} from {}\n", format(rpm.si(), *units::rpm.spec), clock(f[Phase::warmUp].start + time - first));
    fmt::print("{}", groundCaution);
    return exitOk;
}

int letDown(const LetDownOptions& o) {
    auto aircraft = *neededAircraft(o.notes, o.variant);
    TypeNotes& n = aircraft.notes;
    Sortie s = flight::plainSortie(n);
    s.flight.cruiseHeight =
        orEnd<Dimension::length>("letdown", readOption<Dimension::length>("from", o.from, n.cockpit.height));
    s.flight.toElevation = take<Dimension::length>("letdown", "to", o.to, n.cockpit.height, "day.elevation");
    if (s.flight.cruiseHeight.si() < s.flight.toElevation.si() + 400) {
        fmt::print(stderr, "amber-throttle letdown: --from: it is not above the circuit of the field\n");
        return exitUsage;
    }
    s.day.elevation = s.flight.toElevation;
    if (!o.oat.empty())
        s.day.oat = take<Dimension::temperature>("letdown", "oat", o.oat, n.cockpit.temperature, "day.oat");
    else
        s.day.oat = air::standardDay(s.day.elevation).oat;
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 5);
    if (!o.weight.empty())
        s.weight = take<Dimension::mass>("letdown", "weight", o.weight, n.cockpit.weight, "load.weight");
    if (!o.rate.empty())
        n.phases[Phase::letDown].rate = orEnd<Dimension::verticalSpeed>(
            "letdown",
            readOption<Dimension::verticalSpeed>("rate", o.rate, nullptr, FileFormat::notes, "let-down.rate"));
    if (const auto problems = checkSortie(s, n, ""); !problems.empty()) {
        fmt::print(stderr, "amber-throttle letdown: {}. {}\n", problems.front().what, problems.front().remedy);
        return exitUsage;
    }
    // The weight asked is that on leaving the height: what is burnt before it is put on top, as far as she may weigh.
    if (!o.weight.empty()) {
        const double wanted = s.weight.si();
        for (int round = 0; round < 2; ++round) {
            const auto trial = flight::fly(aircraft, s);
            const double burnt = trial.rampWeight - trial.samples[trial[Phase::letDown].firstSample][Gauge::weight];
            s.weight = Mass::si(std::min(n.maxWeight.si(), wanted + burnt));
        }
    }
    const auto f = flight::fly(aircraft, s);
    const auto& phase = f[Phase::letDown];
    const auto limit = flight::coolingLimit(n);
    const auto ways = advice::letDownWays(aircraft, s, f);
    if (o.json) {
        json out;
        out["steps"] = json::array();
        for (const auto& step : f.letDown)
            out["steps"].push_back(
                {{"t_s", step.time - phase.start},
                 {"height_m", step.height.si()},
                 {"manifold_pressure_kPa", step.boost.si() / 1000},
                 {"rpm", step.setting.rpm.si() * 60},
                 {"flap", step.setting.coolingFlap},
                 {n.engine.cooling == Cooling::air ? "head_C" : "coolant_C", step.headOrCoolant.si() - 273.15}});
        out["minutes"] = phase.duration / 60;
        out["distance_km"] = phase.distance / 1000;
        out["fuel_l"] = phase.fuel * 1000;
        out["cooling_K_min"] = f.letDownCooling;
        out["cooling_limit_K_min"] = limit.perMinute;
        out["cooling_limit_origin"] = limit.origin == Origin::notes ? "notes" : "ours";
        out["other_rates"] = json::array();
        for (const auto& w : ways)
            out["other_rates"].push_back(
                {{"rate_m_s", w.rate.si()},
                 {"minutes", w.duration / 60},
                 {"distance_km", w.distance / 1000},
                 {"fuel_l", w.fuel * 1000},
                 {"manifold_pressure_kPa", w.boost ? json(w.boost->si() / 1000) : json(nullptr)},
                 {"cooling_K_min", w.cooling},
                 {"least_C", w.least.si() - 273.15},
                 {"colour", watch::wordOf(w.verdict.colour())},
                 {"sentence", w.verdict.sentence()}});
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
        return exitOk;
    }
    for (const auto& step : f.letDown)
        fmt::print("{:>6}  {:>10}  {:>11}  {:>9}  {}\n", formatMinutesSeconds(step.time - phase.start),
                   formatHeight(step.height.si(), *n.cockpit.height),
                   n.gauges.contains(Gauge::boost) ? format(step.boost.si(), n.unitOf(Gauge::boost)) : "",
                   format(std::round(step.setting.rpm.si() * 6) / 6, *units::rpm.spec),
                   format(step.headOrCoolant.si(), *n.cockpit.temperature));
    const UnitSpec& degrees = differenceUnit(n.cockpit);
    fmt::print("falls max {} a minute, limit {} ({})\n", format(f.letDownCooling, degrees, 1),
               format(limit.perMinute, degrees), limit.origin == Origin::notes ? "notes" : "ours");
    for (const auto& w : ways)
        fmt::print("{:>10}  {:>3.0f} min  {:<6}  {}\n", format(w.rate.si(), verticalSpeedUnit(n.cockpit)),
                   w.duration / 60, watch::wordOf(w.verdict.colour()), w.verdict.sentence());
    return exitOk;
}

int coolDown(const CoolDownOptions& o) {
    const auto aircraft = neededAircraft(o.notes, o.variant);
    const TypeNotes& n = aircraft->notes;
    const auto* unit = n.cockpit.temperature;
    const auto hot = orEnd<Dimension::temperature>(
        "cooldown",
        readOption<Dimension::temperature>("temperature", o.temperature, unit, FileFormat::command, "stopped-at"));
    const auto oat = take<Dimension::temperature>("cooldown", "oat", o.oat, unit, "day.oat");
    Length elevation;
    if (!o.elevation.empty())
        elevation = take<Dimension::length>("cooldown", "elevation", o.elevation, n.cockpit.height, "day.elevation");
    const Temperature forecast =
        o.forecast.empty() ? oat
                           : take<Dimension::temperature>("cooldown", "forecast", o.forecast, unit, "stop.forecast");
    air::Day day = air::standardDay(elevation);
    day.oat = oat;
    const auto air = day.at(day.pressureAltitude());
    const Rotation idle = *n.phase(Phase::stop).rpm;
    const auto boost = engine::boostForRpm(aircraft->model(), aircraft->fineStop, idle, 0, air);
    const auto p = engine::operate(aircraft->model(), {idle, boost, 0, air, Speed{}, Mixture::rich});
    const heat::Drive drive = heat::driveOf(p, idle, air, Speed{}, n.phase(Phase::stop).coolingFlap.value_or(1.0));
    std::optional<double> wait;
    if (n.stop.coolBelow)
        if (const auto t = heat::timeToCool(aircraft->thermal, {hot, aircraft->notes.heat.oil}, drive,
                                            *n.stop.coolBelow, Duration::si(1800)))
            wait = t->si();
    const Temperature stopped = n.stop.coolBelow ? std::min(hot, *n.stop.coolBelow) : hot;
    const auto dilution = advice::dilutionFor(n.stop, forecast);
    std::vector<advice::RestartRow> rows;
    for (const double minutes : {5.0, 15.0, 30.0, 60.0, 120.0})
        rows.push_back(advice::restartAfter(n, minutes * 60, stopped, oat, day.pressureAltitude()));
    if (o.json) {
        json out;
        out["below_C"] = n.stop.coolBelow ? json(n.stop.coolBelow->si() - 273.15) : json(nullptr);
        out["idle_s"] = orNull(wait);
        out["idle_rpm"] = idle.si() * 60;
        out["dilution_s"] = dilution ? json(dilution->seconds) : json(nullptr);
        out["dilution_origin"] = dilution ? json(markOf(dilution->origin)) : json(nullptr);
        out["restarts"] = json::array();
        for (const auto& r : rows)
            out["restarts"].push_back({{"after_s", r.after},
                                       {"engine_C", r.engine.si() - 273.15},
                                       {"dose", r.dose},
                                       {"unit", n.start.primer},
                                       {"origin", markOf(r.origin)},
                                       {"advice", r.advice}});
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
        return exitOk;
    }
    if (n.stop.coolBelow)
        fmt::print("idle at {} until under {}: {}\n", format(idle.si(), *units::rpm.spec),
                   format(n.stop.coolBelow->si(), *unit),
                   wait ? formatMinutesSeconds(*wait) : "not within half an hour");
    if (dilution)
        fmt::print("dilute {} ({})\n", formatMinutesSeconds(dilution->seconds), markOf(dilution->origin));
    for (const auto& r : rows)
        fmt::print("after {:>3.0f} min  {:>7}  {}  {}\n", r.after / 60, format(r.engine.si(), *unit),
                   r.dose > 0 ? advice::doseText(r.dose, n.start.primer) : "no prime", r.advice);
    fmt::print("{}", groundCaution);
    return exitOk;
}

template <class Options>
int guarded(int (*command)(const Options&), const Options& options) {
    try {
        return command(options);
    } catch (const Bad& bad) {
        return bad.code;
    }
}
} // namespace

static int runWarmUp(const WarmUpOptions& o) {
    return guarded(warmUp, o);
}
static int runLetDown(const LetDownOptions& o) {
    return guarded(letDown, o);
}
static int runCoolDown(const CoolDownOptions& o) {
    return guarded(coolDown, o);
}

namespace {
class WarmUpCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "warmup"; }
    [[nodiscard]] const char* help() const override {
        return "Start and warm-up of every engine on a cold or mild day";
    }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--temperature", o_.temperature, "Temperature of air and engines", Arguments::Need::required);
        a.text("--preheated", o_.preheated, "Temperature the engines were heated to");
        a.text("--elevation", o_.elevation, "Elevation of the field");
        a.flag("--diluted", o_.diluted, "The oil was diluted at the last stop");
        a.flag("--blanks", o_.blanks, "Blanks on the oil cooler");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runWarmUp(o_); }

private:
    WarmUpOptions o_;
};

class LetDownCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "letdown"; }
    [[nodiscard]] const char* help() const override { return "Steps of power from a height down to the circuit"; }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--from", o_.from, "Height it begins at, above the sea", Arguments::Need::required);
        a.text("--to", o_.to, "Elevation of the field", Arguments::Need::required);
        a.text("--oat", o_.oat, "Temperature at the field; standard without");
        a.text("--rate", o_.rate, "Rate of descent; the notes' without");
        a.text("--weight", o_.weight, "Weight; the middle of the speed table without");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runLetDown(o_); }

private:
    LetDownOptions o_;
};

class CoolDownCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "cooldown"; }
    [[nodiscard]] const char* help() const override { return "Idle until cool enough, dilution, and the next start"; }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--temperature", o_.temperature, "Heads or coolant when parked", Arguments::Need::required);
        a.text("--oat", o_.oat, "Temperature of the air", Arguments::Need::required);
        a.text("--elevation", o_.elevation, "Elevation of the field");
        a.text("--forecast", o_.forecast, "Lowest temperature before the next start");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runCoolDown(o_); }

private:
    CoolDownOptions o_;
};
} // namespace

std::unique_ptr<Command> warmUpCommand() {
    return std::make_unique<WarmUpCommand>();
}
std::unique_ptr<Command> letDownCommand() {
    return std::make_unique<LetDownCommand>();
}
std::unique_ptr<Command> coolDownCommand() {
    return std::make_unique<CoolDownCommand>();
}

} // namespace amber::app
