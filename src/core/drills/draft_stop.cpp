// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders of the stop. General practice; the type's notes overrule.
#include "drills/draft.h"
#include <vector>

namespace amber::cockpit {
namespace {
using Line = Draft::Line;
} // namespace

void draftStop(Draft& d) {
    constexpr Phase p = Phase::stop;
    d.act(p, "cooling", Acts::coolingFlap, "On the ground the slipstream is all there is.", "J53")
        .on(Acts::coolingFlap, "{flap}");
    d.act(p, "wing-flap", Acts::wingFlap, "Up before the stones fly.", "J53").on(Acts::wingFlap, "up");
    if (d.n.engine.suctionCarburettor && !d.e.boosted) // it was hot as far as the runway
        d.act(p, "air-cold", Acts::carburettorAir, "Hot air comes in unfiltered.", "J53")
            .on(Acts::carburettorAir, "cold");
    d.act(p, "pump", Acts::pump, "Off: the engine's own holds.", "J53").on(Acts::pump, "off");
    auto cool = d.act(p, "cool", Acts::throttle,
                      "Stopped hot, the oil bakes on the exhaust side and heads cool unevenly.", "J53");
    cool.step().what = "Cool";
    cool.was({"Cool"}).on(Acts::throttle, "{rpm}");
    if (d.n.stop.coolBelow)
        cool.until(d.e.coolant ? Gauge::coolantTemperature : Gauge::headTemperature, false, "{cool-below}", 1200.0,
                   "stopped all the same");
    d.act(p, "brakes", Acts::brakes, "Chocks in before brakes off.", "J53").on(Acts::brakes, "held");
    auto dead = d.act(p, "dead-cut", Acts::ignition,
                      "Off and on again at idle: it dies for a moment, so the switch earths.", "J28");
    dead.each()
        .on(Acts::ignition, "off")
        .lasting("1 s")
        .on(Acts::ignition, "both")
        .lasting("3 s")
        .set("off and on again at idle: it must die");
    dead.step().what = "Dead-cut";
    if (d.n.stop.scavenge.si() > 0) {
        auto scavenge = d.act(p, "scavenge", Acts::throttle,
                              "The pumps empty the sump, so less oil waits in the lower cylinders.", "J54");
        scavenge.step().what = "Scavenge";
        scavenge.was({"Scavenge"})
            .on(Acts::throttle, "{scavenge-rpm}")
            .over(2.0)
            .lasting("{scavenge}")
            .on(Acts::throttle, "{rpm}")
            .set("{scavenge-rpm} for {scavenge}");
    }
    if (d.e.hub != Hub::fixed) {
        auto park =
            d.act(p, "propeller", Acts::propeller, "While it runs: an oil propeller cannot move afterwards.", "J54");
        const bool coarse = d.n.stop.parksCoarse;
        park.was({"Propeller", "Propellers"}).on(Acts::propeller, coarse ? "coarse" : "fine").set("{parking}");
        if (coarse)
            park.lasting("8 s");
    } else if (!d.n.stop.parking.empty()) {
        d.say(p, "propeller", "Propeller", "{parking}", "Where the next crew wants it.", "J54")
            .was({"Propeller", "Propellers"})
            .atEnd();
    }
    d.act(p, "blower", Acts::gear, "As it is found at the next start.", "J54")
        .on(Acts::gear, d.e.blower ? d.n.engine.gears.front().name : "");
    auto turbo = d.act(p, "turbo", Acts::turbo, "It has run down before its oil stops.", "J54");
    turbo.on(Acts::turbo, "off").lasting("10 s");
    auto thin = d.act(p, "dilution", Acts::dilution,
                      "Thin oil turns in the morning; held until it has stopped, it reaches every bearing.", "J55");
    thin.was({"Dilution"})
        .skipped("The starter meets tar.")
        .caution("Petrol in the oil: fire guard, and boil it out at the next warm-up.");
    if (d.n.stop.diluteUnder)
        thin.reads(Gauge::oilTemperature, false, "{dilute-under}", 1200.0, "stop, let it cool, start again and dilute");
    thin.on(Acts::dilution, "{dilutes}").held().lasting("{dilution}").set("{dilution}");
    auto cut = d.act(p, "cut", d.e.cutOut ? Acts::cutOut : Acts::mixture,
                     "Burns the lines dry and leaves no charge in the cylinders.", "J54");
    cut.was({"cut", "Mixture", "Stop", "stopping"});
    const auto stands = [](Line& l, double within = 90.0) -> Line& {
        return l.until(Gauge::rpm, false, "{stopped}", within, "throttle closed, ignition off");
    };
    const bool cutsOff = d.e.carburettor != Carburettor::floatWithout;
    const auto closed = [&](Line& l) {
        stands(l.on(Acts::throttle, "closed").lasting("3 s").on(Acts::mixture, "cut-off"));
    };
    const auto opened = [&](Line& l) {
        stands(l.on(Acts::mixture, "cut-off").lasting("2 s").on(Acts::throttle, "open").over(3.0));
        l.on(Acts::throttle, "closed");
    };
    const auto dry = [&](Line& l) { stands(l.on(Acts::fuel, "off"), 300.0); }; // bowl and lines at idle
    const auto pulled = [&](Line& l) {
        stands(l.on(Acts::throttle, "closed").lasting("3 s").on(Acts::cutOut, "pulled").held());
        l.on(Acts::cutOut, "run");
    };
    const auto without = [&](auto... names) {
        std::erase_if(cut.step().schools, [&](const School& s) { return ((s.name == names) || ...); });
    };
    if (d.e.cutOut) {
        cut.step().what = "Stop";
        cut.schools("stopping", "slow-running cut-out");
        if (!cutsOff)
            without("cut-off, throttle closed", "cut-off, opening the throttle");
    } else if (cutsOff) {
        cut.schools("stopping", d.e.carburettor == Carburettor::pressureInjection ? "cut-off, throttle closed"
                                                                                  : "cut-off, opening the throttle");
        without("slow-running cut-out");
    } else {
        cut.step().what = "Stop";
        cut.schools("stopping", "fuel cock, run dry"); // without a cut-off there is nothing else to pull
        without("cut-off, throttle closed", "cut-off, opening the throttle", "slow-running cut-out");
    }
    if (cutsOff) {
        cut.school("cut-off, throttle closed", closed);
        cut.school("cut-off, opening the throttle", opened);
    }
    if (d.e.cutOut)
        cut.school("slow-running cut-out", pulled);
    cut.school("fuel cock, run dry", dry);
    auto off = d.act(p, "off", Acts::ignition, "Nobody is kicked by the propeller.", "J54");
    off.step().what = "Then";
    off.was({"Then", "Switches"})
        .caution("The propeller is live after it has stopped.")
        .schools("after-stopping", "ignition off first");
    off.school("ignition off first", [](Line& l) {
        l.on(Acts::ignition, "off").on(Acts::fuel, "off").on(Acts::generator, "off").on(Acts::battery, "off");
    });
    off.school("battery off first", [](Line& l) {
        l.on(Acts::generator, "off").on(Acts::battery, "off").on(Acts::ignition, "off").on(Acts::fuel, "off");
    });
    off.school("by the type's order", [](Line& l) {
        l.on(Acts::ignition, "off").on(Acts::fuel, "off").on(Acts::generator, "off").on(Acts::battery, "off");
    });
    d.act(p, "dilution-off", Acts::dilution, "Shut, or it goes on by itself at the next start.", "J55")
        .on(Acts::dilution, "off");
    d.act(p, "gyros", Acts::gyros, "Caged before it is towed.", "J54").on(Acts::gyros, "caged");
    d.act(p, "locks", Acts::lock, "Wind from behind breaks hinges.", "J54").on(Acts::lock, "in");
}

} // namespace amber::cockpit
