// SPDX-License-Identifier: GPL-3.0-or-later
#include "script/script.h"
#include "air/airspeed.h"
#include "files/csv.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::powerplant {
namespace {
enum class Key {
    cock,
    tank,
    booster,
    cutOff,
    mixture,
    throttle,
    boost,
    rpmByThrottle,
    rpm,
    coarse,
    feather,
    gear,
    coolingFlap,
    oilCooler,
    intercooler,
    hotAir,
    turbo,
    water,
    ignition,
    energise,
    mesh,
    boosterCoil,
    prime,
    thinning,
    fault,
    running,
    headOrCoolant,
    oil,
    height,
    ias,
    path,
    rate,
    battery,
    cart,
    generators,
    contents,
    weight,
};
enum class As {
    onOff,
    share,
    count,
    pressure,
    rotation,
    mixture,
    gear,
    ignition,
    fault,
    temperature,
    height,
    speed,
    path,
    rate,
    volume,
    tank,
    mass
};

struct KeyRow {
    Key key;
    As as;
    ScriptKey said;
};
const std::vector<KeyRow>& table() {
    static const std::vector<KeyRow> rows{
        {Key::cock, As::onOff, {"cock", "on, off", "fuel cock"}},
        {Key::tank, As::tank, {"tank", "id of a tank", "tank that it feeds from"}},
        {Key::booster, As::onOff, {"booster", "on, off", "electric or hand pump"}},
        {Key::cutOff, As::onOff, {"cut-off", "on, off", "idle cut-off"}},
        {Key::mixture, As::mixture, {"mixture", "rich, weak, or a fuel–air ratio", "mixture lever"}},
        {Key::throttle, As::share, {"throttle", "0 … 1", "throttle left at a place, 0 shut"}},
        {Key::boost, As::pressure, {"boost", "manifold pressure", "throttle moved by a hand that holds this boost"}},
        {Key::rpmByThrottle, As::rotation, {"rpm-by-throttle", "rpm", "throttle moved by a hand that holds these rpm"}},
        {Key::rpm, As::rotation, {"rpm", "rpm", "propeller lever"}},
        {Key::coarse, As::onOff, {"coarse", "on, off", "two-position propeller"}},
        {Key::feather, As::onOff, {"feather", "on, off", "feathering button"}},
        {Key::gear, As::gear, {"gear", "name of a gear", "blower"}},
        {Key::coolingFlap, As::share, {"cooling-flap", "0 … 1", "cowl flaps or radiator shutter, 1 open"}},
        {Key::oilCooler, As::share, {"oil-cooler", "0 … 1", "air let through the oil cooler"}},
        {Key::intercooler, As::share, {"intercooler", "0 … 1", "its flap, 1 open"}},
        {Key::hotAir, As::share, {"hot-air", "0 … 1", "carburettor air, 1 full hot"}},
        {Key::turbo, As::share, {"turbo", "0 … 1", "share of what its regulator holds"}},
        {Key::water, As::onOff, {"water", "on, off", "water injection"}},
        {Key::ignition, As::ignition, {"ignition", "off, left, right, both", "ignition switch"}},
        {Key::energise, As::onOff, {"energise", "on, off", "inertia wheel of the starter"}},
        {Key::mesh, As::onOff, {"starter", "on, off", "starter engaged"}},
        {Key::boosterCoil, As::onOff, {"booster-coil", "on, off", "booster coil"}},
        {Key::prime, As::count, {"prime", "doses", "given one after the other from now"}},
        {Key::thinning, As::share, {"oil-thinning", "0 … 1", "viscosity over undiluted oil"}},
        {Key::fault, As::fault, {"fault", "key, key severity, or none", "a fault from now, severity 0 … 1"}},
        {Key::running, As::onOff, {"running", "on", "settled at the levers, warm as they are"}},
        {Key::headOrCoolant, As::temperature, {"head", "temperature", "heads or coolant as they are now"}},
        {Key::oil, As::temperature, {"oil", "temperature", "oil as it is now"}},
        {Key::height, As::height, {"height", "height", "above sea level, now"}},
        {Key::ias, As::speed, {"ias", "speed", "that is held, or had now"}},
        {Key::path, As::path, {"path", "standing, taxi, roll, climb, level, descend", "what is flown"}},
        {Key::rate, As::rate, {"rate", "rate of climb", "of descend, negative down"}},
        {Key::battery, As::onOff, {"battery", "on, off", "battery switch"}},
        {Key::cart, As::onOff, {"cart", "on, off", "ground supply"}},
        {Key::generators, As::onOff, {"generators", "on, off", "generator switches"}},
        {Key::contents, As::volume, {"contents", "volume", "of every tank, now"}},
        {Key::weight, As::mass, {"weight", "weight", "all up, now"}},
    };
    return rows;
}

Result<double> choice(const std::string& text, const std::vector<std::string_view>& of) {
    for (std::size_t i = 0; i < of.size(); ++i)
        if (of[i] == text)
            return static_cast<double>(i);
    std::string list;
    for (const auto& o : of)
        list += (list.empty() ? "" : ", ") + std::string(o);
    return Failure{fmt::format("“{}” is none of {}", text, list)};
}
Result<double> quantity(Dimension dimension, const std::string& text, const UnitSpec* unit) {
    const auto read = readQuantity(dimension, text, unit);
    if (!read)
        return Failure{read.error()};
    return read.value().si;
}
Result<double> within(const std::string& text, double low, double high) {
    std::string_view rest;
    const auto number = readNumber(text, rest);
    if (!number || !csv::trimmed(rest).empty())
        return Failure{fmt::format("“{}” is not a number", text)};
    if (number.value() < low || number.value() > high)
        return Failure{fmt::format("{} is not from {} to {}", text, low, high)};
    return number.value();
}

/// What stands behind a fault's key: how bad it is, all of it where nothing is said.
Result<double> severityOf(const std::string& text) {
    const auto gap = text.find(' ');
    return gap == std::string::npos ? Result<double>(1.0)
                                    : within(std::string(csv::trimmed(std::string_view(text).substr(gap))), 0, 1);
}

Result<double> valueOf(As as, const std::string& text, const TypeNotes& n) {
    switch (as) {
    case As::onOff:
        return choice(text, {"off", "on"});
    case As::share:
        return within(text, 0, 1);
    case As::count:
        return within(text, 0, 60);
    case As::pressure:
        return quantity(Dimension::manifoldPressure, text, n.cockpit.boost);
    case As::rotation:
        return quantity(Dimension::rotation, text, units::rpm.spec);
    case As::temperature:
        return quantity(Dimension::temperature, text, n.cockpit.temperature);
    case As::height:
        return quantity(Dimension::length, text, n.cockpit.height);
    case As::speed:
        return quantity(Dimension::speed, text, n.cockpit.speed);
    case As::rate:
        return quantity(Dimension::verticalSpeed, text, nullptr);
    case As::volume:
        return quantity(Dimension::volume, text, n.cockpit.fuel);
    case As::mass:
        return quantity(Dimension::mass, text, n.cockpit.weight);
    case As::ignition:
        return choice(text, {"off", "left", "right", "both"});
    case As::path:
        return choice(text, {"standing", "taxi", "roll", "climb", "descend", "level"});
    case As::mixture:
        if (text == "rich" || text == "weak")
            return text == "rich" ? -1.0 : -2.0;
        return within(text, 0.03, 0.15);
    case As::gear:
        if (const auto gear = n.gearIndex(text); gear && (!n.engine.gears.empty() || text.empty()))
            return static_cast<double>(*gear);
        return Failure{fmt::format("“{}” is no gear of this blower", text)};
    case As::tank:
        for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i)
            if (n.fuel.tanks[i].id == text)
                return static_cast<double>(i);
        return Failure{fmt::format("“{}” is no tank of the notes", text)};
    case As::fault: {
        if (text == "none")
            return -1.0;
        const auto gap = text.find(' ');
        const auto fault = faultFromKey(text.substr(0, gap));
        if (!fault)
            return Failure{fmt::format("“{}” is no fault; docs/formats/trace.md lists them", text.substr(0, gap))};
        return static_cast<double>(*fault);
    }
    }
    return Failure{"nothing is known of it"};
}
} // namespace

const std::vector<ScriptKey>& scriptKeys() {
    static const auto keys = [] {
        std::vector<ScriptKey> out;
        for (const auto& row : table())
            out.push_back(row.said);
        return out;
    }();
    return keys;
}

std::optional<Script> readScript(std::string_view text, const std::string& file, const TypeNotes& notes,
                                 Problems& problems) {
    Script script;
    const std::size_t before = problems.size();
    bool header = false;
    csv::eachLine(text, [&](const std::vector<std::string>& cells, int number) {
        if (!header) {
            header = true;
            if (cells.size() >= 4 && cells[0] == "time")
                return;
            problems.push_back(
                {file, number, "the first line does not name the columns", "Begin with: time,engine,what,value"});
        }
        if (cells.size() != 4) {
            problems.push_back({file, number, fmt::format("{} cells where there are four", cells.size()),
                                "Write time,engine,what,value; a comma inside a cell needs quotes"});
            return;
        }
        ScriptAct act;
        act.line = number;
        const auto time = quantity(Dimension::duration, cells[0], units::second.spec);
        if (!time || time.value() < 0 || time.value() > 86400.0) {
            problems.push_back({file, number, fmt::format("“{}” is no time", cells[0]), "Write seconds, 0 to 86,400"});
            return;
        }
        act.at = static_cast<Milliseconds>(std::llround(time.value() * 10.0)) * shortStep;
        if (cells[1] != "all" && !cells[1].empty()) {
            for (std::size_t i = 0; i < notes.positions.size(); ++i)
                if (notes.positions[i].id == cells[1])
                    act.engine = static_cast<int>(i);
            if (act.engine < 0) {
                problems.push_back(
                    {file, number, fmt::format("“{}” is no engine of the notes", cells[1]), "Write its id, or all"});
                return;
            }
        }
        const auto row =
            std::find_if(table().begin(), table().end(), [&](const KeyRow& r) { return r.said.key == cells[2]; });
        if (row == table().end()) {
            problems.push_back(
                {file, number, fmt::format("“{}” cannot be set", cells[2]), "docs/formats/trace.md lists what can"});
            return;
        }
        act.key = static_cast<std::size_t>(row - table().begin());
        act.text = cells[3];
        const auto value = valueOf(row->as, cells[3], notes);
        if (!value) {
            problems.push_back({file, number, fmt::format("{}: {}", cells[2], value.error()),
                                fmt::format("Write {}", row->said.value)});
            return;
        }
        act.value = value.value();
        if (row->as == As::fault && act.value >= 0) {
            const auto severity = severityOf(act.text);
            if (!severity) {
                problems.push_back({file, number, severity.error(), "Write the fault's key and 0 to 1"});
                return;
            }
            act.severity = severity.value();
        }
        script.acts.push_back(std::move(act));
    });
    if (problems.size() > before)
        return std::nullopt;
    std::stable_sort(script.acts.begin(), script.acts.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
    return script;
}

ScriptRun::ScriptRun(const Powerplant& powerplant, const Script& script, const air::Day& day, Temperature engines)
    : powerplant_(powerplant), script_(script), state_(powerplant.standing(day, engines)), levers_(powerplant.levers()),
      dosesLeft_(powerplant.count()) {
    run_.day = &day;
    run_.conditions.resize(powerplant.count());
}

void ScriptRun::performOn(std::size_t i, const ScriptAct& act) {
    EngineLevers& l = levers_.engines[i];
    const bool on = act.value > 0.5;
    switch (table()[act.key].key) {
    case Key::cock:
        l.cock = on;
        break;
    case Key::tank:
        l.tank = static_cast<int>(act.value);
        break;
    case Key::booster:
        l.booster = on;
        break;
    case Key::cutOff:
        l.cutOff = on;
        break;
    case Key::mixture:
        l.byHand = std::max(0.0, act.value);
        l.mixture = act.value < -1.5 ? Mixture::weak : Mixture::rich;
        break;
    case Key::throttle:
        l.throttle = throttleAt(act.value);
        break;
    case Key::boost:
        l.throttle = boostHeld(act.value);
        break;
    case Key::rpmByThrottle:
        l.throttle = rpmHeld(act.value);
        break;
    case Key::rpm:
        l.rpm = act.value;
        break;
    case Key::coarse:
        l.coarse = on;
        break;
    case Key::feather:
        l.feather = on;
        break;
    case Key::gear:
        l.gear = static_cast<std::size_t>(act.value);
        break;
    case Key::coolingFlap:
        l.coolingFlap = act.value;
        break;
    case Key::oilCooler:
        l.oilCooler = act.value;
        break;
    case Key::intercooler:
        l.intercooler = act.value;
        break;
    case Key::hotAir:
        l.hotAir = act.value;
        break;
    case Key::turbo:
        l.turbo = act.value;
        break;
    case Key::water:
        l.water = on;
        break;
    case Key::ignition:
        l.ignition = static_cast<Ignition>(static_cast<int>(act.value));
        break;
    case Key::energise:
        l.energise = on;
        break;
    case Key::mesh:
        l.mesh = on;
        break;
    case Key::boosterCoil:
        l.boosterCoil = on;
        break;
    case Key::prime:
        dosesLeft_[i] += act.value;
        break;
    case Key::thinning:
        l.thinning = std::max(0.05, act.value);
        break;
    case Key::fault: {
        auto& faults = run_.conditions[i].faults;
        if (act.value < 0) {
            faults.clear();
            break;
        }
        faults.push_back({static_cast<Fault>(static_cast<int>(act.value)), act.severity, state_.now});
        break;
    }
    case Key::running:
        if (on) {
            state_.engines[i].gallery = 1.0;
            state_.engines[i].fired = 60.0;
            state_.engines[i] =
                powerplant_.engine(i).running(state_.engines[i], l, powerplant_.around(state_, levers_, run_, i));
        }
        break;
    case Key::headOrCoolant:
        state_.engines[i].headOrCoolant = act.value;
        break;
    case Key::oil:
        state_.engines[i].oil = act.value;
        break;
    default:
        break;
    }
}

void ScriptRun::perform(const ScriptAct& act) {
    const bool on = act.value > 0.5;
    switch (table()[act.key].key) {
    case Key::height:
        state_.height = act.value;
        return;
    case Key::ias:
        levers_.path.ias = state_.ias = act.value;
        return;
    case Key::path:
        levers_.path.kind = static_cast<Path::Kind>(static_cast<int>(act.value));
        return;
    case Key::rate:
        levers_.path.rate = act.value;
        return;
    case Key::battery:
        levers_.shared.battery = on;
        return;
    case Key::cart:
        levers_.shared.cart = on;
        return;
    case Key::generators:
        levers_.shared.generators = on;
        return;
    case Key::contents:
        for (std::size_t i = 0; i < state_.tanks.size(); ++i)
            state_.tanks[i] = std::min(act.value, powerplant_.aircraft().notes.fuel.tanks[i].usable.si());
        return;
    case Key::weight:
        state_.dryMass += act.value - powerplant_.weight(state_).si();
        return;
    default:
        break;
    }
    for (std::size_t i = 0; i < powerplant_.count(); ++i)
        if (act.engine < 0 || static_cast<std::size_t>(act.engine) == i)
            performOn(i, act);
}

const AircraftReadings& ScriptRun::step() {
    while (next_ < script_.acts.size() && script_.acts[next_].at <= state_.now)
        perform(script_.acts[next_++]);
    const double time = std::max(0.2, powerplant_.aircraft().notes.start.primeTime.si());
    const double dt = static_cast<double>(shortStep) / 1000.0;
    for (std::size_t i = 0; i < dosesLeft_.size(); ++i) {
        const double now = std::min(dosesLeft_[i], dt / time);
        levers_.engines[i].primer = now / dt;
        dosesLeft_[i] -= now;
    }
    readings_ = powerplant_.step(state_, levers_, run_, shortStep);
    return readings_;
}

} // namespace amber::powerplant
