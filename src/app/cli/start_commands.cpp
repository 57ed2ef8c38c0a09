// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "air/atmosphere.h"
#include "cli/aircraft_option.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "flight/open_files.h"
#include "powerplant/first_fire.h"
#include "start/start_order.h"
#include "start/start_school.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
/// Options of `amber-throttle prime`, as typed.
struct PrimeOptions {
    std::string notes, variant, temperature, altitude;
    bool json = false;
};
/// Options of `amber-throttle start-order`, as typed.
struct StartOrderOptions {
    std::string notes, variant, order, fail, temperature, altitude, supply = "cart";
    bool json = false;
};
using json = nlohmann::ordered_json;

/// Temperature and field pressure of both commands. @return an error, or empty
std::string conditions(const TypeNotes& notes, const std::string& temperature, const std::string& altitude,
                       Temperature& engine, Pressure& field) {
    const auto t = readOption<Dimension::temperature>("temperature", temperature, notes.cockpit.temperature);
    if (!t)
        return t.error();
    engine = t.value();
    field = Pressure::si(standardPressure);
    if (!altitude.empty()) {
        const auto h =
            readOption<Dimension::length>("altitude", altitude, notes.cockpit.height, FileFormat::command, "field");
        if (!h)
            return h.error();
        field = air::pressureAtAltitude(h.value());
    }
    return {};
}

std::vector<std::string> split(const std::string& text, char separator) {
    std::vector<std::string> out;
    std::string part;
    for (const char c : text + separator) {
        if (c == separator) {
            out.push_back(part);
            part.clear();
        } else {
            part += c;
        }
    }
    return out;
}
} // namespace

static int runPrime(const PrimeOptions& o) {
    const auto aircraft = aircraftOf(o.notes, o.variant);
    if (!aircraft)
        return exitProblems;
    Temperature engine;
    Pressure field;
    if (const auto error = conditions(aircraft->notes, o.temperature, o.altitude, engine, field); !error.empty()) {
        fmt::print(stderr, "amber-throttle prime: {}\n", error);
        return exitUsage;
    }
    const auto a = start::Priming(start::startInForce(aircraft->notes, {})).advice(engine, field);
    const auto& unit = a.unit;
    if (o.json)
        fmt::print("{}\n", json{{"dose", a.dose},
                                {"unit", unit},
                                {"blades_besides", a.blades},
                                {"origin", markOf(a.origin)},
                                {"firing_low", a.fireLow},
                                {"firing_high", a.fireHigh},
                                {"flood_dose", a.flood},
                                {"vaporise_s", a.vaporise.si()},
                                {"drain_s", a.drain.si()},
                                {"temperature_C", engine.si() - 273.15}}
                               .dump(2));
    else {
        fmt::print("{} ({}); fires with {} to {}, floods from {}; wait {}, drains in {}\n",
                   advice::doseText(a.dose, unit), markOf(a.origin), formatNumber(a.fireLow, 1),
                   formatNumber(a.fireHigh, 1), formatNumber(a.flood, 0), formatMinutesSeconds(a.vaporise.si()),
                   formatMinutesSeconds(a.drain.si()));
        fmt::print("{}", groundCaution);
    }
    return exitOk;
}

static int runStartOrder(const StartOrderOptions& o) {
    const auto aircraft = aircraftOf(o.notes, o.variant);
    if (!aircraft)
        return exitProblems;
    const auto wrong = [](const std::string& why) {
        fmt::print(stderr, "amber-throttle start-order: {}\n", why);
        return static_cast<int>(exitUsage);
    };
    start::StartRequest request;
    if (const auto error = conditions(aircraft->notes, o.temperature, o.altitude, request.engine, request.field);
        !error.empty())
        return wrong(error);
    request.oil = request.engine;
    request.supply = o.supply == "battery" ? start::Supply::battery : start::Supply::cart;
    if (!o.order.empty())
        request.order = split(o.order, ',');
    if (!o.fail.empty())
        for (const auto& part : split(o.fail, ',')) {
            const auto pair = split(part, ':');
            std::string_view rest;
            const auto count = pair.size() == 2 ? readNumber(pair[1], rest) : Result<double>(Failure{""});
            if (!count || !rest.empty() || count.value() < 0 || count.value() > 50 ||
                count.value() != static_cast<int>(count.value()))
                return wrong("--fail: write engine:tries, for example 4:1");
            request.failures[pair[0]] = static_cast<int>(count.value());
        }
    const auto inForce = start::startInForce(aircraft->notes, {});
    const powerplant::Powerplant plant(*aircraft, aircraft->notes.fuel.grades.front());
    request.foreseen = powerplant::foresee(plant, inForce, request, {request.field, request.engine, {}});
    const auto planned = start::planStart(aircraft->notes, inForce, request);
    if (!planned)
        return wrong(planned.error());
    const auto& t = planned.value();
    if (o.json) {
        json out{{"order", t.order}};
        out["events"] = json::array();
        std::map<std::string, double> byKind;
        for (const auto& e : t.events) {
            out["events"].push_back({{"engine", e.engine},
                                     {"kind", keyOf(e.kind)},
                                     {"start_s", e.start},
                                     {"end_s", e.end},
                                     {"try", e.attempt},
                                     {"failed", e.failed}});
            byKind[std::string(keyOf(e.kind))] += e.length();
        }
        json lanes = json::object();
        for (const auto& id : t.order)
            lanes[id] = t.laneTotal(id);
        json running = json::object();
        for (const auto& [id, from] : t.runningFrom)
            running[id] = from;
        out["totals"] = {{"all_running_s", t.total},
                         {"lanes_s", lanes},
                         {"kinds_s", byKind},
                         {"ampere_hours", t.ampereHours},
                         {"battery_left", t.batteryLeft}};
        if (t.cartridgesLeft >= 0)
            out["totals"]["cartridges_left"] = t.cartridgesLeft;
        if (t.airLeft.si() > 0)
            out["totals"]["air_left_kPa"] = t.airLeft.si() / 1000;
        out["running_from_s"] = running;
        out["abandoned"] = t.abandoned;
        out["on_line_after_first"] = t.onLineFirst;
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
    } else {
        for (const auto& e : t.events)
            fmt::print("{:>6} {:>6}  {:<4} {}{}\n", formatMinutesSeconds(e.start), formatMinutesSeconds(e.end),
                       e.engine, titleOf(e.kind), e.failed ? ", does not catch" : "");
        fmt::print("{} in {} (model)\n", t.abandoned.empty() ? "all running" : "tries used up, not all running",
                   formatMinutesSeconds(t.total));
        fmt::print("{}", groundCaution);
    }
    return exitOk;
}

namespace {
class PrimeCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "prime"; }
    [[nodiscard]] const char* help() const override { return "Priming dose for one engine temperature"; }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--temperature", o_.temperature, "Temperature of the engine", Arguments::Need::required);
        a.text("--altitude", o_.altitude, "Pressure altitude of the field");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runPrime(o_); }

private:
    PrimeOptions o_;
};

class StartOrderCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "start-order"; }
    [[nodiscard]] const char* help() const override { return "Timeline of a start"; }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--order", o_.order, "Engines in order, 3,4,2,1; the notes' without");
        a.text("--fail", o_.fail, "Tries that do not catch, 4:1,2:2");
        a.text("--temperature", o_.temperature, "Temperature of engines and oil", Arguments::Need::required);
        a.text("--altitude", o_.altitude, "Pressure altitude of the field");
        a.choice("--supply", o_.supply, {"cart", "battery"}, "cart or battery");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runStartOrder(o_); }

private:
    StartOrderOptions o_;
};
} // namespace

std::unique_ptr<Command> primeCommand() {
    return std::make_unique<PrimeCommand>();
}
std::unique_ptr<Command> startOrderCommand() {
    return std::make_unique<StartOrderCommand>();
}

} // namespace amber::app
