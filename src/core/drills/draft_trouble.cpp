// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders when an engine fails, for feathering and starting again, and for a dive. General practice, by kind
// of propeller, carburettor and number of engines; the type's notes overrule.
#include "drills/draft.h"

namespace amber::cockpit {
namespace {
constexpr Phase kept = Phase::climb; // where a draft of an emergency stands
using Line = Draft::Line;

/// The mixture's cut-off, or the cock where it has none.
void noFuel(Draft& d, Line& l) {
    if (d.e.carburettor == Carburettor::floatWithout)
        l.on(Acts::fuel, "off", failedEngines);
    else
        l.on(Acts::mixture, "cut-off", failedEngines);
}

/// The blades as far out of the wind as this propeller's can go.
void pitchAct(Draft& d, Line& l) {
    if (d.e.feathers)
        l.on(Acts::feathering, "feathered", failedEngines)
            .until(Gauge::rpm, false, "{stopped}", 30.0, "press again; by hand where it can be");
    else if (d.e.hub != Hub::fixed)
        l.on(Acts::propeller, "coarse", failedEngines);
}

std::string whyPitch(const Equipment& e) {
    if (!e.feathers)
        return e.hub == Hub::fixed ? "It windmills: slower is less drag, down to the best speed."
                                   : "Full coarse drags least of what this propeller can do.";
    if (e.hub == Hub::electric)
        return "Electric: the supply must be on, and one propeller at a time, for the current.";
    return "The button must hold in while the pump works, and pop out by itself: if it does not, pull it.";
}

/// From the throttle that proves it to the cooling that is shut: what makes an engine dead for good.
void secure(Draft& d, bool memory) {
    if (d.e.reverses)
        d.say(kept, "reverse-locked", "Reverse", "", "Unlocked it can go the wrong way past fine.", "J48")
            .on(Acts::reversing, "locked", failedEngines)
            .step()
            .memory = memory;
    if (d.e.feathers && d.e.hub == Hub::electric)
        d.say(kept, "supply", "Supply", "", "An electric propeller does not move without it.", "J48")
            .on(Acts::battery, "on")
            .step()
            .memory = memory;
    auto order =
        d.say(kept, "stop-it", d.e.feathers ? "Feather and cut off" : "Drag and fuel", "", whyPitch(d.e), "J48");
    order.schools("failure-order");
    order.school("feather, then cut-off", [&](Line& acts) {
        pitchAct(d, acts);
        noFuel(d, acts);
    });
    order.school("cut-off, then feather", [&](Line& acts) {
        noFuel(d, acts);
        pitchAct(d, acts);
    });
    if (memory)
        order.memory();
    d.say(kept, "pump-cock", "Pump and cock", "", "What leaks there burns there.", "J48")
        .on(Acts::pump, "off", failedEngines)
        .on(Acts::fuel, "off", failedEngines);
    d.act(kept, "ignition", Acts::ignition, "Live while it turns, it would fire what is left in it.", "J48")
        .at("when it has stopped")
        .on(Acts::ignition, "off", failedEngines);
    d.act(kept, "cooling", Acts::coolingFlap, "An open flap on a dead engine only drags.", "J48")
        .on(Acts::coolingFlap, "shut", failedEngines);
    if (d.control(Acts::generator) && d.control(Acts::generator)->each)
        d.act(kept, "generator", Acts::generator, "A generator that no longer turns takes current.", "J48")
            .on(Acts::generator, "off", failedEngines);
}

/// More power from all of them, for nobody knows yet which one died: rich, rpm, boost.
void powerUp(Draft& d) {
    auto up =
        d.say(kept, "power", "Power, all engines", "",
              "Nobody knows yet which one died. Rich, then rpm, then boost: the other way round it detonates.", "J48");
    up.memory().on(Acts::mixture, "rich");
    if (d.e.hub == Hub::twoPosition)
        up.on(Acts::propeller, "fine");
    else if (d.e.hub != Hub::fixed)
        up.on(Acts::propeller, "{live-rpm}");
    up.on(Acts::throttle, d.e.boosted ? "{live-boost}" : "open");
}

void rolling(Draft& d) {
    auto stop = d.say(kept, "rolling", "Still rolling", "", "Nothing is gained by flying with it.", "J48");
    stop.memory().branch().at("on the runway").on(Acts::throttle, "closed").on(Acts::brakes, "held");
    stop.step().what = "Still rolling";
}

void severalEngines(Draft& d) {
    rolling(d);
    d.say(kept, "too-slow", "Airborne, slower than {safe-speed}", "throttles back as needed, land ahead",
          "Below it the rudder cannot hold the aircraft straight: power on one side turns it over.", "J48")
        .memory()
        .branch()
        .at("below the safe speed");
    d.say(kept, "control", "Straight, then speed", "wings level, rudder; {safe-speed} or more, {best-speed} best",
          "First fly. Nothing else is so urgent.", "J48")
        .memory()
        .at("above the safe speed");
    powerUp(d);
    d.say(kept, "drag", "Drag up", "", "Wheels and flaps cost more than the engine that is left can give.", "J48")
        .memory()
        .on(Acts::wheels, "up");
    d.say(kept, d.has(Acts::wheels) ? "flaps-up" : "drag", "Flaps", "",
          "All at once it sinks, and low down there is nothing to sink into.", "J48")
        .memory()
        .on(Acts::wingFlap, "up")
        .set("up in steps, over {safe-speed}");
    const bool torque = d.n.gauges.contains(Gauge::torque);
    d.say(kept, "identify", "Which one",
          d.e.hub == Hub::fixed ? "the foot that rests is on the dead side; its rpm falls, its heads cool"
          : torque              ? "the foot that rests is on the dead side; then torque, fuel flow, heads"
                                : "the foot that rests is on the dead side; then fuel pressure, heads, sound",
          d.e.hub == Hub::fixed ? "A dead centre engine does not yaw: rpm and heads tell."
                                : "Under a governor rpm and boost lie: a windmilling propeller holds both.",
          "J48")
        .memory();
    d.act(kept, "prove", Acts::throttle, "Closed, nothing changes if it is the dead one; a yaw: it was the live one.",
          "J48")
        .memory()
        .skipped("The good one is feathered.")
        .on(Acts::throttle, "closed", failedEngines)
        .step()
        .what = "Prove it";
    d.say(kept, "confirm", "Confirm",
          d.n.crew.size() > 1 ? "a second person says which" : "count two: no change of yaw, it is that one",
          d.n.crew.size() > 1 ? "Two heads feather the wrong one less often."
                              : "Alone, two seconds are the second person.",
          "J48")
        .memory();
    secure(d, true);
    d.act(kept, "live-cooling", Acts::coolingFlap, "The engines that are left work harder at less speed.", "J48")
        .on(Acts::coolingFlap, "{live-flap}", liveEngines)
        .step()
        .what = "Cooling of the others";
    d.say(kept, "trim", "Trim", "ball in the middle, or half out to the live side", "A foot tires in minutes.", "J48");
    d.act(kept, "crossfeed", Acts::crossfeed, "The dead side's fuel is of use to the live one; only when it is needed.",
          "J48")
        .at("when its own fuel runs down")
        .on(Acts::crossfeed, "open");
}

void oneEngine(Draft& d) {
    rolling(d);
    d.say(kept, "low", "Just airborne", "{glide-speed}, straight ahead, small turns only; cock and ignition off",
          "Turning back has killed more than rough ground.", "J48")
        .memory()
        .branch()
        .at("low after take-off");
    d.say(kept, "glide", "Glide", "{glide-speed}; a field, and into wind", "Height is time, speed is control.", "J48")
        .memory();
    if (d.e.hub != Hub::fixed)
        d.act(kept, "coarse", Acts::propeller, "Least drag: it lengthens the glide.", "J48")
            .memory()
            .on(Acts::propeller, "coarse", failedEngines);
    auto tank = d.say(kept, "fuel", "Fuel", "", "An empty tank is the commonest reason of all.", "J48");
    tank.memory().on(Acts::fuel, "{other-tank}", failedEngines).on(Acts::pump, "on", failedEngines);
    d.act(kept, "primer", Acts::primer, "Unlocked it drowns the engine.", "J48").on(Acts::primer, "locked");
    d.act(kept, "mixture", Acts::mixture, "Rich first; if it was rich, leaner.", "J48")
        .on(Acts::mixture, "rich", failedEngines);
    if (d.n.engine.suctionCarburettor)
        d.act(kept, "hot-air", Acts::carburettorAir, "Ice, while there is still heat to melt it.", "J44")
            .on(Acts::carburettorAir, "hot", failedEngines);
    d.act(kept, "ignition", Acts::ignition, "One magneto may be the one that is dead.", "J48")
        .on(Acts::ignition, "both", failedEngines);
    d.act(kept, "throttle", Acts::throttle, "A wide throttle floods it, or stops what would run.", "J48")
        .on(Acts::throttle, "cracked", failedEngines);
    d.say(kept, "straps", "Straps, hood", "tight; open and locked back", "Early: a hood jams as the frame bends.",
          "J48")
        .at("if it does not pick up: in good time for the field");
    if (d.has(Acts::wheels))
        d.say(kept, "wheels", "Wheels", "down on a surface known good; up on unprepared ground",
              "On soft ground wheels turn the aircraft over.", "J48")
            .at("when the field is chosen");
    if (d.has(Acts::wingFlap))
        d.act(kept, "flaps", Acts::wingFlap, "Early they shorten the glide.", "J48")
            .at("when the field is made")
            .on(Acts::wingFlap, "landing");
    auto out = d.say(kept, "secure", "All off", "", "What is shut does not burn on the ground.", "J48");
    out.at("last, before touch-down").on(Acts::throttle, "closed", failedEngines);
    if (d.e.carburettor != Carburettor::floatWithout)
        noFuel(d, out);
    out.on(Acts::fuel, "off", failedEngines).on(Acts::ignition, "off", failedEngines);
    d.act(kept, "battery", Acts::battery, "Last: it drives what is still wanted.", "J48")
        .at("last, before touch-down")
        .on(Acts::battery, "off");
}

/// Down to the ground on the engines that are left.
void fewEngines(Draft& d) {
    if (d.e.engines < 2)
        return;
    d.say(kept, "left", "What is left", "fuel, hydraulics, electrics; crossfeed, pumps on",
          "What the dead engine drove is found missing low down otherwise.", "J67");
    d.say(kept, "speed", "Speed, to the commitment height", "{held-speed} or more",
          "Slower, power for going round cannot be used: the rudder does not hold it.", "J67");
    auto ready = d.say(kept, "ready", "Ready to go round", "", "Rpm before boost, and rich before both.", "J67");
    ready.at("on the approach").on(Acts::mixture, "rich", liveEngines);
    if (d.e.hub != Hub::fixed && d.e.hub != Hub::twoPosition)
        ready.on(Acts::propeller, "{take-off-rpm}", liveEngines);
    d.say(kept, "wheels", "Wheels", "", "Their drag is for the last part; a hand pump takes minutes more.", "J67")
        .at("late, when the field is sure to be reached")
        .on(Acts::wheels, "down");
    d.say(kept, "commit", "Commitment height", "{commit-height}", "Spoken when it is passed. Below it, land.", "J67");
    d.say(kept, "flaps", "Full flap", "", "It cannot be taken off again in time.", "J67")
        .at("when the field is certain")
        .on(Acts::wingFlap, "landing");
    d.say(kept, "trim", "Rudder trim", "to neutral as the power comes off",
          "Left in, it swings the aircraft the other way on landing.", "J67");
    auto round = d.say(kept, "round", "Going round", "", "Power with rudder, no faster than a foot holds it.", "J67");
    round.branch().at("only above the commitment height");
    round.on(Acts::throttle, d.e.boosted ? "{take-off-boost}" : "open", liveEngines).on(Acts::wheels, "up");
    d.say(kept, "taxi", "Clear of the runway", "{taxi-so}",
          "One side alone turns the aircraft, and boils on the brakes.", "J67")
        .at("after landing");
}

void feather(Draft& d) {
    d.act(kept, "throttle", Acts::throttle, "It proves which one, too.", "J48")
        .on(Acts::throttle, "closed", failedEngines);
    secure(d, false);
}

void restart(Draft& d) {
    d.say(kept, "never", "Never", "after a fire, or damage that is not known", "What broke it breaks it again.", "J48");
    auto ready = d.say(kept, "ready", "Ready", "", "It must not catch before it turns freely.", "J48");
    if (d.e.carburettor != Carburettor::floatWithout)
        ready.on(Acts::mixture, "cut-off", failedEngines);
    ready.on(Acts::throttle, "cracked", failedEngines);
    if (d.e.hub == Hub::twoPosition || d.e.hub == Hub::oil || d.e.hub == Hub::electric)
        ready.on(Acts::propeller, "coarse", failedEngines);
    d.say(kept, "fuel", "Cock and pump", "", "Fuel at the carburettor before it turns.", "J48")
        .on(Acts::fuel, "{landing-tank}", failedEngines)
        .on(Acts::pump, "on", failedEngines);
    if (d.e.feathers)
        d.act(kept, "unfeather", Acts::feathering, "Briefly: left in, the blades run to fine and it overspeeds.", "J48")
            .on(Acts::feathering, "normal", failedEngines)
            .until(Gauge::rpm, true, "{turns}", 20.0, "feather it again, look for the cause")
            .step()
            .what = "Unfeather";
    d.say(kept, "turns-freely", "It turns", "slowly and freely, no lock",
          "Oil may have drained into the lower cylinders.", "J48");
    d.act(kept, "ignition", Acts::ignition, "Now it may fire.", "J48").on(Acts::ignition, "both", failedEngines);
    d.act(kept, "mixture", Acts::mixture, "Slowly: it is cold.", "J48").on(Acts::mixture, "rich", failedEngines);
    d.say(kept, "oil-pressure", "Oil pressure", "", "It has stood: none in time, and it is feathered again.", "J48")
        .reads(Gauge::oilPressure, true, "{oil-pressure-least}", 30.0, "feather it again");
    auto warm = d.say(kept, "warm", "Warm it", "",
                      "A cold engine opened quickly tears itself; cold oil does not feather.", "J48");
    if (d.e.hub != Hub::fixed && d.e.hub != Hub::twoPosition)
        warm.on(Acts::propeller, "{warm-rpm}", failedEngines);
    warm.on(Acts::throttle, d.e.boosted ? "{warm-boost}" : "{warm-rpm}", failedEngines).lasting("{warm-for}");
    d.act(kept, "cooling", Acts::coolingFlap, "Shut until it is warm.", "J48")
        .on(Acts::coolingFlap, "shut", failedEngines);
    d.say(kept, "power", "Power", "with the others once oil and heads are in their range; generator on",
          "The generator comes on last.", "J48");
}

void dive(Draft& d) {
    d.act(kept, "mixture", Acts::mixture, "Denser air leans it.", "J50").on(Acts::mixture, "rich");
    if (d.e.blower)
        d.act(kept, "blower", Acts::gear, "High gear low down over-boosts when it is opened.", "J50")
            .on(Acts::gear, "{low-gear}");
    if (d.n.engine.suctionCarburettor)
        d.act(kept, "air", Acts::carburettorAir, "Before the throttle goes back.", "J50")
            .on(Acts::carburettorAir, "hot");
    d.act(kept, "turbo", Acts::turbo, "It must not be left spun up behind a shut throttle.", "J50")
        .on(Acts::turbo, "off");
    d.act(kept, "cooling", Acts::coolingFlap, "Minutes ahead: shock cooling cracks heads.", "J50")
        .on(Acts::coolingFlap, "shut");
    if (d.e.hub != Hub::fixed && d.e.hub != Hub::twoPosition)
        d.act(kept, "propeller", Acts::propeller, "It overspeeds least from low rpm; the governor needs seconds.",
              "J50")
            .on(Acts::propeller, "{climb-rpm}");
    if (d.e.hub == Hub::twoPosition)
        d.act(kept, "propeller", Acts::propeller, "Fine it overspeeds at once.", "J50").on(Acts::propeller, "coarse");
    d.act(kept, "throttle", Acts::throttle, "Never shut: the engine must drive the propeller, and stay warm.", "J50")
        .on(Acts::throttle, d.e.boosted ? "{dive-boost}" : "cracked")
        .over(5.0)
        .caution("Not below this boost while coming down fast.");
    d.say(kept, "limits", "Never", "faster than {dive-speed}; not over {dive-rpm}",
          "Both are counted: they are written up.", "J50");
    d.say(kept, "pull-out", "Pull out", "level, let it cool, then power: rpm before boost",
          "A cold engine opened quickly breaks.", "J50");
}
} // namespace

void draftEmergency(Draft& d, Emergency emergency) {
    switch (emergency) {
    case Emergency::engineFails:
        return d.e.engines > 1 ? severalEngines(d) : oneEngine(d);
    case Emergency::fewEngines:
        return fewEngines(d);
    case Emergency::feather:
        return feather(d);
    case Emergency::restart:
        return restart(d);
    case Emergency::dive:
        return dive(d);
    case Emergency::fireStarting:
    case Emergency::fireGround:
    case Emergency::fireAir:
    case Emergency::fireInduction:
    case Emergency::fireStack:
        return draftFire(d, emergency);
    case Emergency::smoke:
    case Emergency::chargeHigh:
    case Emergency::generatorFails:
    case Emergency::wheelsStay:
    case Emergency::waterInFuel:
        return draftSystems(d, emergency);
    }
}

} // namespace amber::cockpit
