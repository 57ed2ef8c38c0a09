// SPDX-License-Identifier: GPL-3.0-or-later
// Customary order when something fails that is no engine: smoke, charge too hot, generator, wheels, water in the fuel.
#include "drills/draft.h"
#include "notes/trouble_notes.h"

namespace amber::cockpit {
namespace {
using Line = Draft::Line;
constexpr Phase underSystems = Phase::climb; // where a draft of one emergency keeps its steps

void smoke(Draft& d) {
    d.say(underSystems, "air", "Air", "oxygen, or a vent", "Breath first: fumes are not always smelt.", "J49").memory();
    d.say(underSystems, "hood", "Hood", "shut", "Opened before the flame is known it draws it through the cockpit.",
          "J49")
        .memory();
    d.say(underSystems, "heater", "Heater", "off", "It is the shortest way from an exhaust to the cockpit.", "J49");
    d.say(underSystems, "petrol", "Petrol", "touch no switch", "One spark is enough: land as it is.", "J49");
    auto wires =
        d.say(underSystems, "wires", "Wires", "", "Dead, they stop burning: the engine runs on its magnetos.", "J49");
    wires.at("a bitter smell").on(Acts::generator, "off").on(Acts::battery, "off");
    d.say(underSystems, "one-by-one", "When clear", "on one by one", "What brings it back stays off.", "J49");
    d.say(underSystems, "oil", "Hot oil, paint", "that engine's drill", "Its needles, then its neighbours.", "J49");
    d.say(underSystems, "flames", "Flames", "fire in the air", "Smoke is watched, flame is fought.", "J49").branch();
    d.say(underSystems, "land", "Land", "nearest place", "Nobody sees behind a panel aloft.", "J49");
}

void chargeHigh(Draft& d) {
    if (d.n.engine.gears.empty()) // nothing presses the charge
        return;
    d.say(underSystems, "boost", "Boost", "back until it falls", "Less pressed is less heated.", "J49").memory();
    d.act(underSystems, "intercooler", Acts::intercooler, "It is what cools the charge.", "J49")
        .on(Acts::intercooler, "open");
    d.act(underSystems, "air", Acts::carburettorAir, "Heat at the door is heat in the charge.", "J49")
        .on(Acts::carburettorAir, "cold");
    if (d.e.blower)
        d.act(underSystems, "blower", Acts::gear, "High gear makes the heat.", "J49").on(Acts::gear, "{low-gear}");
    d.act(underSystems, "mixture", Acts::mixture, "Fuel cools it.", "J49").on(Acts::mixture, "rich");
    d.say(underSystems, "never", "Never", "more rpm or boost", "Both heat it again, and it is near to detonating.",
          "J49");
    d.say(underSystems, "heads", "Heads", "watch five minutes", "Still rising: ease it, land. Detonation shows there.",
          "J49");
}

void generatorFails(Draft& d) {
    if (!d.e.electric && !d.has(Acts::generator))
        return;
    d.say(underSystems, "told", "Proof", "no amperes, volts sag", "One needle alone is a needle.", "J49");
    d.say(underSystems, "once", "Generator", "off, on: once", "A trip is cleared by it; twice is a fire.", "J49")
        .on(Acts::generator, "off")
        .on(Acts::generator, "on");
    d.say(underSystems, "shed", "Shed", "lamps, heater, radio", "What the battery holds is counted in minutes.", "J49");
    if (d.e.engines > 1 && d.e.feathers)
        d.say(underSystems, "feather", "Feathering", "keep one charge",
              "What cannot be feathered windmills to the ground.", "J49");
    d.say(underSystems, "needles", "Electric needles", "not to be believed",
          "A fuel gauge that falls with the volts has lost no fuel.", "J49");
    d.act(underSystems, "pumps", Acts::pump, "They draw most. Fuel pressure falls: on again.", "J49")
        .on(Acts::pump, "off");
    d.say(underSystems, "wheels", "Wheels, flaps", "early, if electric", "The last volts lower nothing.", "J49");
    d.say(underSystems, "land", "Land", "before dark, weather", "Radio and lamps go next.", "J49");
}

void wheelsStay(Draft& d) {
    if (!d.has(Acts::wheels) && !d.has(Acts::wingFlap) && !d.has(Acts::brakes))
        return;
    d.say(underSystems, "go-round", "Height", "climb, then read", "Hurried, it is forgotten and landed on.", "J69")
        .memory();
    if (d.has(Acts::wheels)) {
        d.act(underSystems, "again", Acts::wheels, "A lock that hung lets go. Once, and not by force.", "J69")
            .on(Acts::wheels, "up")
            .on(Acts::wheels, "down");
        d.say(underSystems, "emergency", "Emergency lowering", "by the notes, once",
              "Air or a hand pump lowers, and does not raise again.", "J69");
        d.say(underSystems, "proof", "Are they down?", "lamps, marks",
              "And looked at from the ground: one proof alone has been wrong.", "J69");
        d.say(underSystems, "part", "One leg stays", "by the notes", "On two of three it swings at speed.", "J69")
            .branch();
    }
    if (d.has(Acts::wingFlap))
        d.say(underSystems, "flapless", "No flaps", "faster, flatter", "The notes say how much faster.", "J69");
    d.say(underSystems, "brakes", "No brakes", "longest runway", "Into wind, and no taxiing.", "J69");
    d.say(underSystems, "before", "Straps, hood", "tight, open", "A hood jams as the frame bends.", "J69");
    if (d.has(Acts::wheels))
        d.say(underSystems, "belly", "Only with wheels up", "fuel, ignition off",
              "When the field is made: what is shut does not burn.", "J69")
            .branch();
}

void waterInFuel(Draft& d) {
    d.say(underSystems, "back", "Throttle", "back, not closed", "Opened wide it swallows the rest of the water.", "J49")
        .memory();
    d.say(underSystems, "tank", "Tank", "", "Another tank, another filling: the only cure aloft.", "J49")
        .memory()
        .on(Acts::fuel, "{other-tank}")
        .on(Acts::pump, "on");
    d.say(underSystems, "sign", "Is it water?", "one tank, after rain",
          "Ice comes on one engine first, and hot air changes it: water does not.", "J49");
    d.say(underSystems, "wait", "Half a minute", "slowly open", "Pipes and bowl hold some of it.", "J49");
    d.say(underSystems, "after", "Land", "drain every tank", "What settled once settles again.", "J49");
}
} // namespace

void draftSystems(Draft& d, Emergency emergency) {
    if (emergency == Emergency::smoke)
        smoke(d);
    else if (emergency == Emergency::chargeHigh)
        chargeHigh(d);
    else if (emergency == Emergency::generatorFails)
        generatorFails(d);
    else if (emergency == Emergency::wheelsStay)
        wheelsStay(d);
    else
        waterInFuel(d);
}

} // namespace amber::cockpit
