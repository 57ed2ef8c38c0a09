// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/placeholder.h"
#include <algorithm>

namespace amber::placeholder {

const std::vector<Name>& all() {
    using enum Phase;
    static const std::vector<Name> names{
        {"boost", "boost to set, cut for the grade, in the gauge's unit", {takeOff, climb, cruise, letDown, landing}},
        {"rpm", "engine speed to set", {start, warmUp, runUp, takeOff, climb, cruise, letDown, landing, stop}},
        {"mixture", "rich or weak, by the lever's own word", {takeOff, climb, cruise, letDown, landing}},
        {"gear", "supercharger gear", {takeOff, climb, cruise, letDown, landing}},
        {"flap",
         "cowl flap or radiator opening",
         {start, warmUp, runUp, takeOff, climb, cruise, letDown, landing, stop}},
        {"ias", "indicated airspeed", {climb, cruise, letDown, landing}},
        {"rate", "rate of descent", {letDown}},
        {"tank", "tank that feeds", {start, takeOff, climb, cruise, letDown, landing}},
        {"prime", "dose of each engine for today's temperature", {start}},
        {"order", "start order", {start}},
        {"blades", "blades turned before the ignition goes on", {start}},
        {"vaporise", "wait after the last stroke until enough is vapour", {start}},
        {"warm-up-rpm", "rpm set once it runs, with which the warm-up begins", {start}},
        {"slow-rpm", "slowest smooth speed, until oil pressure", {start, runUp}},
        {"hot-air", "when the exhaust is hot enough, in words; empty where the notes do not say", {start}},
        {"taxi-rpm", "taxying speed of the engine", {warmUp, runUp, stop}},
        {"supply", "the cart connected, or away: as the sortie starts", {start}},
        {"fuel-pressure-least", "least fuel pressure", {start, warmUp, runUp, takeOff, climb}},
        {"oil-pressure-least", "oil pressure that must come within its seconds", {start, warmUp, runUp, climb}},
        {"running", "rpm above which it turns by itself", {start}},
        {"energise", "time that the inertia wheel is run up", {start}},
        {"prime-time", "time that the dose takes", {start}},
        {"blades-time", "time that the blades take before the ignition goes on", {start}},
        {"exercise-rpm", "rpm at which the propeller is exercised", {runUp}},
        {"cycles", "how often it is exercised today, from the run-up sheet: more in frost", {runUp}},
        {"blower-rpm", "rpm at which the blower or turbo is exercised", {runUp}},
        {"landing-tank", "tank for landing", {letDown, landing}},
        {"take-off-rpm", "rpm of the take-off, for going round", {landing}},
        {"take-off-boost", "boost of the take-off, for going round", {landing}},
        {"dilute-under", "oil temperature under which it is diluted", {stop}},
        {"dilutes", "on where the forecast wants dilution, else off", {stop}},
        {"stopped", "rpm under which it stands still", {stop}},
        {"oil-run-up", "least oil temperature for the run-up", {warmUp, runUp}},
        {"metal-run-up", "least head or coolant temperature for the run-up", {warmUp, runUp}},
        {"field-boost", "what the manifold gauge shows at rest", {runUp}},
        {"reference-rpm", "rpm at that boost on the fine stop today", {runUp}},
        {"static-rpm", "static rpm at full take-off boost", {runUp, takeOff}},
        {"magneto-limits", "most fall on each magneto and between them, from the run-up sheet", {runUp}},
        {"lift-off", "lift-off speed at today's weight", {takeOff}},
        {"safe-single", "safe speed on one engine", {takeOff}},
        {"climb-boost", "boost of the climb", {takeOff}},
        {"climb-rpm", "rpm of the climb", {takeOff}},
        {"change-height", "height of the gear change", {climb}},
        {"second-change-height", "height of the second change of gear", {climb}},
        {"changed-boost", "boost after the change of gear", {climb}},
        {"second-changed-boost", "boost after the second change", {climb}},
        {"falls-at", "height from which the rating allows less boost", {climb}},
        {"fallen-boost", "the boost that is left from there", {climb}},
        {"second-falls-at", "height from which it allows still less", {climb}},
        {"second-fallen-boost", "the boost that is left from there", {climb}},
        {"third-falls-at", "height of the third such step", {climb}},
        {"third-fallen-boost", "the boost that is left from there", {climb}},
        {"fourth-falls-at", "height of the fourth such step", {climb}},
        {"fourth-fallen-boost", "the boost that is left from there", {climb}},
        {"fifth-falls-at", "height of the fifth such step", {climb}},
        {"fifth-fallen-boost", "the boost that is left from there", {climb}},
        {"sixth-falls-at", "height of the sixth such step", {climb}},
        {"sixth-fallen-boost", "the boost that is left from there", {climb}},
        {"throttle-back", "boost to close to before the change", {climb}},
        {"approach", "approach speed at landing weight", {landing}},
        {"heat", "hot air that keeps the carburettor clear of ice today: cold, a share, or hot", {letDown}},
        {"cool-below", "temperature to cool under before stopping", {stop}},
        {"clear", "burst that clears the engine, and how often", {letDown}},
        {"dilution", "minutes of oil dilution for the forecast", {stop}},
        {"parking", "where the propeller is left", {stop}},
        {"scavenge", "time of the scavenge run", {stop}},
        {"scavenge-rpm", "rpm of the scavenge run", {stop}},
    };
    return names;
}

bool availableIn(std::string_view name, Phase phase) {
    const auto found = std::find_if(all().begin(), all().end(), [&](const Name& n) { return n.name == name; });
    return found != all().end() && std::find(found->phases.begin(), found->phases.end(), phase) != found->phases.end();
}

const std::vector<TroubleName>& allInTrouble() {
    static const std::vector<TroubleName> names{
        {"live-rpm", "rpm of the engines that are left: take-off rating low down, else the strongest that may be held"},
        {"live-boost", "boost of that rating, cut for the grade"},
        {"held-speed", "speed held on fewer engines until the commitment height"},
        {"commit-height", "height over the landing field below which one lands on fewer engines"},
        {"taxi-so", "how it comes off the runway on the engines that are left"},
        {"live-flap", "cowl flap or radiator opening that those engines then need"},
        {"take-off-rpm", "rpm of the take-off"},
        {"take-off-boost", "boost of the take-off, cut for the grade"},
        {"climb-rpm", "rpm of the climb"},
        {"climb-boost", "boost of the climb"},
        {"safe-speed", "safe speed on the engines that are left"},
        {"best-speed", "best speed on them"},
        {"glide-speed", "best gliding speed"},
        {"low-gear", "lowest gear of the blower"},
        {"other-tank", "another tank with fuel in it"},
        {"landing-tank", "tank for landing"},
        {"stopped", "rpm under which it stands still"},
        {"turns", "rpm at which a feathered propeller turns again"},
        {"feather-takes", "time that feathering takes"},
        {"feather-before", "rpm of the start lock: slower, it cannot be feathered"},
        {"oil-pressure-least", "oil pressure that must come within its seconds"},
        {"warm-rpm", "rpm of an engine started again, until it is warm"},
        {"warm-boost", "its boost until then"},
        {"warm-for", "and how long"},
        {"dive-rpm", "most rpm of a dive, and its seconds"},
        {"dive-speed", "never faster"},
        {"dive-boost", "least boost while coming down fast"},
    };
    return names;
}

bool availableInTrouble(std::string_view name) {
    return std::any_of(allInTrouble().begin(), allInTrouble().end(),
                       [&](const TroubleName& n) { return n.name == name; });
}

std::vector<std::string> namesIn(std::string_view text) {
    std::vector<std::string> out;
    for (std::size_t at = 0; (at = text.find('{', at)) != std::string_view::npos;) {
        const auto close = text.find('}', at);
        if (close == std::string_view::npos) {
            out.emplace_back("{");
            break;
        }
        out.emplace_back(text.substr(at + 1, close - at - 1));
        at = close + 1;
    }
    return out;
}

std::string filled(std::string_view text, const std::function<std::string(std::string_view)>& value) {
    std::string out;
    while (!text.empty()) {
        const auto open = text.find('{');
        const auto close = open == std::string_view::npos ? open : text.find('}', open);
        if (close == std::string_view::npos) {
            out += text;
            break;
        }
        out += text.substr(0, open);
        out += value(text.substr(open + 1, close - open - 1));
        text.remove_prefix(close + 1);
    }
    return out;
}

} // namespace amber::placeholder
