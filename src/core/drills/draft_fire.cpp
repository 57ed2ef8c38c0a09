// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders for a fire: in the intake or exhaust while starting, in a pool or the nacelle on the ground, in the
// air, in the induction. General practice, by what there is to shut and to fire; the type's notes overrule.
#include "drills/draft.h"

namespace amber::cockpit {
namespace {
constexpr Phase underFire = Phase::climb;
using Line = Draft::Line;

void fuelOff(Draft& d, Line& l) {
    if (d.e.carburettor != Carburettor::floatWithout)
        l.on(Acts::mixture, "cut-off", failedEngines);
}

void throttleSchool(Draft& d, const char* first) {
    auto throttle = d.act(underFire, "throttle", Acts::throttle, "Open draws the fire in, closed starves it.", "J21");
    throttle.schools("fire-throttle", first);
    throttle.school("open", [](Line& l) { l.on(Acts::throttle, "open", failedEngines); });
    throttle.school("closed", [](Line& l) { l.on(Acts::throttle, "closed", failedEngines); });
}

void whileStarting(Draft& d) {
    const bool hand = d.e.starter == StarterKind::hand;
    if (d.e.starter == StarterKind::cartridge) {
        d.say(underFire, "no-second", "Cartridge", "no second one",
              "A cartridge turns it a few blades and cannot be kept on: fuel away at once.", "J21")
            .memory();
    } else if (!hand) {
        auto crank = d.say(underFire, "keep-cranking", "Keep cranking", "",
                           "It draws the fire into the engine, where it goes out.", "J21");
        crank.memory().skipped("The fire stays in the intake and grows.");
        if (d.e.starter == StarterKind::inertia)
            crank.on(Acts::mesh, "on", failedEngines);
        else if (d.e.starter == StarterKind::air)
            crank.on(Acts::airValve, "open", failedEngines);
        else
            crank.on(Acts::starter, "on", failedEngines);
    } else {
        d.say(underFire, "stand-clear", "Stand clear", "nobody touches the propeller", "It is live, and it is burning.",
              "J21")
            .memory();
    }
    auto fuel = d.say(underFire, "fuel", "Fuel away", "", "What is not fed burns out.", "J21");
    fuel.memory();
    fuelOff(d, fuel);
    fuel.on(Acts::primer, "locked").on(Acts::pump, "off", failedEngines);
    throttleSchool(d, "open");
    d.say(underFire, "it-runs", "If it runs", "run it through at fast idle", "A running engine swallows its own fire.",
          "J21");
    auto stop = d.say(underFire, "not-out", "If it does not", "",
                      "Cock, starter, ignition: then the bottle, from the ground.", "J21");
    stop.at("after some seconds").on(Acts::fuel, "off", failedEngines);
    if (d.e.starter == StarterKind::inertia)
        stop.on(Acts::mesh, "off", failedEngines);
    if (d.e.starter != StarterKind::cartridge)
        stop.on(Acts::starter, "off", failedEngines);
    stop.on(Acts::airValve, "shut", failedEngines).on(Acts::ignition, "off", failedEngines);
    d.say(underFire, "bottle", "Fire guard", "into the intake, from the side; clear of the propeller",
          "Propellers are live, burning or not.", "J21");
}

void onTheGround(Draft& d) {
    auto starter = d.say(underFire, "stop-cranking", "Stop cranking", "",
                         "A starter makes sparks; a turning propeller fans it.", "J21");
    starter.memory();
    if (d.e.starter == StarterKind::inertia)
        starter.on(Acts::mesh, "off", failedEngines);
    if (d.e.starter != StarterKind::cartridge)
        starter.on(Acts::starter, "off", failedEngines);
    starter.on(Acts::airValve, "shut", failedEngines);
    if (starter.step().actions.empty())
        starter.set("nobody touches the propeller");
    auto fuel = d.say(underFire, "fuel", "Fuel off", "", "A pool that is fed does not go out.", "J21");
    fuel.memory();
    fuelOff(d, fuel);
    fuel.on(Acts::fuel, "off").on(Acts::pump, "off");
    d.act(underFire, "ignition", Acts::ignition, "The engine must not run on over it.", "J21")
        .memory()
        .on(Acts::ignition, "off");
    d.act(underFire, "bottle", Acts::fireBottle, "Into the nacelle, once it stands.", "J21")
        .memory()
        .on(Acts::fireBottle, "fired", failedEngines);
    d.act(underFire, "battery", Acts::battery, "No sparks behind you.", "J21").memory().on(Acts::battery, "off");
    d.say(underFire, "out", "Out", "upwind, all of you; the fire guard fights it", "Nobody burns for an aeroplane.",
          "J21")
        .memory();
}

void inTheAir(Draft& d) {
    d.act(underFire, "cock", Acts::fuel, "No fuel, no fire: first of all.", "J48")
        .memory()
        .on(Acts::fuel, "off", failedEngines);
    auto order = d.say(underFire, "stop-it",
                       d.e.feathers                                   ? "Cut off and feather"
                       : d.e.carburettor == Carburettor::floatWithout ? "Drag"
                                                                      : "Cut off, and drag",
                       "", "The pump goes on feeding it while the engine turns.", "J48");
    order.memory().schools("failure-order", "cut-off, then feather");
    const auto pitch = [&](Line& l) {
        if (d.e.feathers)
            l.on(Acts::feathering, "feathered", failedEngines);
        else if (d.e.hub != Hub::fixed)
            l.on(Acts::propeller, "coarse", failedEngines);
    };
    order.school("cut-off, then feather", [&](Line& l) {
        fuelOff(d, l);
        pitch(l);
    });
    order.school("feather, then cut-off", [&](Line& l) {
        pitch(l);
        fuelOff(d, l);
    });
    d.act(underFire, "pump", Acts::pump, "It feeds a leak as well as an engine.", "J48")
        .on(Acts::pump, "off", failedEngines);
    throttleSchool(d, "closed");
    d.act(underFire, "ignition", Acts::ignition, "Off once the fuel in the pipes is burnt.", "J48")
        .on(Acts::ignition, "off", failedEngines);
    if (d.control(Acts::generator) && d.control(Acts::generator)->each)
        d.act(underFire, "generator", Acts::generator, "It may be what burns.", "J48")
            .on(Acts::generator, "off", failedEngines);
    auto flaps = d.act(underFire, "cooling", Acts::coolingFlap,
                       "Shut keeps the bottle's gas in; open blows the fire away.", "J48");
    flaps.schools("fire-flaps", "shut");
    flaps.school("shut", [](Line& l) { l.on(Acts::coolingFlap, "shut", failedEngines); });
    flaps.school("open", [](Line& l) { l.on(Acts::coolingFlap, "open", failedEngines); });
    d.act(underFire, "bottle", Acts::fireBottle, "Blown out of a turning engine's cowl it is wasted.", "J48")
        .at("when it has stopped")
        .on(Acts::fireBottle, "fired", failedEngines);
    if (d.e.engines < 2)
        d.say(underFire, "hood", "Hood, vents, heater", "hood shut until leaving; vents and heater off",
              "An open hood draws the flames in.", "J48")
            .memory();
    d.say(underFire, "land", "Then",
          d.e.engines > 1
              ? "watch it; land at the nearest place; no restart"
              : "over the height for baling out: leave; else side-slip the flames away and land; no restart",
          "A fire that is out comes back with the fuel.", "J48");
}

void inTheInduction(Draft& d) {
    d.act(underFire, "throttle", Acts::throttle, "Less charge, less to burn.", "J49")
        .memory()
        .on(Acts::throttle, d.e.boosted ? "{warm-boost}" : "cracked", failedEngines);
    d.act(underFire, "mixture", Acts::mixture, "A backfire comes of a weak mixture.", "J49")
        .memory()
        .on(Acts::mixture, "rich", failedEngines);
    d.act(underFire, "air", Acts::carburettorAir, "Hot air feeds it; cold shuts the door to the exhaust.", "J49")
        .on(Acts::carburettorAir, "cold", failedEngines);
    d.say(underFire, "persists", "Does it go on?", "then the drill in the air",
          "The casing is magnesium: minutes only.", "J49");
}
/// Flames from an exhaust that runs: drawn out, not cut off.
void atTheStack(Draft& d) {
    d.act(underFire, "mixture", Acts::mixture, "Cut off, the fire stays in the pipe with the fuel that is there.",
          "J49")
        .memory()
        .on(Acts::mixture, "rich", failedEngines);
    d.act(underFire, "throttle", Acts::throttle, "More air through it draws the flame out.", "J49")
        .memory()
        .on(Acts::throttle, d.e.boosted ? "{warm-boost}" : "{warm-rpm}", failedEngines);
    d.act(underFire, "primer", Acts::primer, "Unlocked it feeds the flame.", "J49").on(Acts::primer, "locked");
    d.say(underFire, "guard", "Fire guard", "ready, not to fire the bottle while it is drawn out",
          "Gas in a running engine stops it, and the flame stays.", "J49");
    d.say(underFire, "goes-on", "Does it go on?", "then the drill for a pool or nacelle", "Paint and pipes burn next.",
          "J49")
        .branch();
}
} // namespace

void draftFire(Draft& d, Emergency emergency) {
    if (emergency == Emergency::fireStarting)
        whileStarting(d);
    else if (emergency == Emergency::fireGround)
        onTheGround(d);
    else if (emergency == Emergency::fireAir)
        inTheAir(d);
    else if (emergency == Emergency::fireStack)
        atTheStack(d);
    else
        inTheInduction(d);
}

} // namespace amber::cockpit
