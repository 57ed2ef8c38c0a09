// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders of the warm-up and the run-up. General practice; the type's notes overrule.
#include "drills/draft.h"
#include <fmt/format.h>

namespace amber::cockpit {
namespace {
using Line = Draft::Line;

void propellerExercise(Draft& d) {
    constexpr Phase p = Phase::runUp;
    const auto& check = d.n.runUp.propeller;
    const int cycles = check ? check->cycles : 1;
    switch (d.e.hub) {
    case Hub::oil: {
        auto line = d.act(p, "propeller", Acts::propeller,
                          "Warm oil is drawn into the hub; rpm falls, oil pressure dips, both return.", "J29");
        line.was({"Propeller", "Pitch wheel"}).on(Acts::throttle, "{exercise-rpm}");
        for (int i = 0; i < cycles; ++i)
            line.on(Acts::propeller, "coarse").lasting("4 s").on(Acts::propeller, "fine").lasting("4 s");
        line.set("{cycles} at {exercise-rpm}, coarse and fine again");
        break;
    }
    case Hub::electric: {
        auto line = d.act(p, "propeller", Acts::propeller,
                          "The motor must run both ways and the automatic must answer.", "J29");
        line.was({"Propeller"}).on(Acts::throttle, "{exercise-rpm}");
        for (int i = 0; i < cycles; ++i)
            line.on(Acts::propeller, "coarse").lasting("4 s").on(Acts::propeller, "fine").lasting("4 s");
        line.set("{cycles} at {exercise-rpm}; manual less, more, automatic");
        break;
    }
    case Hub::twoPosition:
        d.act(p, "propeller", Acts::propeller, "Coarse: rpm falls. It is fine again for the reference.", "J29")
            .was({"Propeller"})
            .on(Acts::throttle, "{exercise-rpm}")
            .on(Acts::propeller, "coarse")
            .lasting("5 s")
            .on(Acts::propeller, "fine")
            .lasting("5 s")
            .set("coarse at {exercise-rpm}: rpm falls; fine");
        break;
    case Hub::fixed:
        break;
    }
    d.act(p, "feathering-touch", Acts::feathering,
          "A short check, cancelled at the rpm drop: the pump and its way to the hub are proved.", "J29")
        .each()
        .on(Acts::feathering, "feathered")
        .lasting("1 s")
        .on(Acts::feathering, "normal")
        .lasting("8 s")
        .set("checked, cancelled at the rpm drop");
    d.act(p, "reverse-touch", Acts::reversing, "All alike, lamps on, and out again with the lock proved.", "J29")
        .on(Acts::throttle, "{taxi-rpm}")
        .on(Acts::reversing, "reverse")
        .lasting("4 s")
        .on(Acts::reversing, "locked")
        .set("reverse at idle, out, lock proved");
}

void blower(Draft& d) {
    constexpr Phase p = Phase::runUp;
    if (d.e.blower) {
        const auto& gears = d.n.engine.gears;
        auto line = d.act(
            p, "blower", Acts::gear,
            "In one motion: boost rises, oil pressure dips if the clutches change. A rest between changes.", "J30");
        line.was({"Blower"}).on(Acts::throttle, "{blower-rpm}");
        std::string words;
        for (std::size_t i = 1; i < gears.size(); ++i) {
            line.on(Acts::gear, gears[i].name).lasting("5 s");
            words += gears[i].name + ", ";
        }
        line.on(Acts::gear, gears.front().name)
            .lasting("3 s")
            .set(fmt::format("{}{} at {{blower-rpm}}", words, gears.front().name));
    }
    d.act(p, "turbo", Acts::turbo,
          "The regulator's oil must be warm to answer; a magneto check with it in can backfire.", "J30")
        .was({"Turbo"})
        .on(Acts::throttle, "{blower-rpm}")
        .on(Acts::turbo, "in")
        .lasting("10 s")
        .on(Acts::turbo, "off")
        .lasting("5 s")
        .set("in and out at {blower-rpm}; off for what follows");
}
} // namespace

void draftWarmUp(Draft& d) {
    constexpr Phase p = Phase::warmUp;
    auto rpm = d.act(p, "throttle", Acts::throttle,
                     "Slower fouls plugs and splashes no oil; faster on cold oil breaks things.", "J23");
    rpm.was({"Throttle"}).on(Acts::throttle, "{rpm}");
    auto flap =
        d.act(p, "cooling", Acts::coolingFlap, "Shut they warm the front and leave the harness to cook.", "J25");
    flap.was({"Cowl flaps", "Radiator flap", "Radiator shutter", "Shutter", "cowl-cold"})
        .schools("cowl-cold", "open on the ground");
    flap.school("open on the ground", [](Line& l) { l.on(Acts::coolingFlap, "{flap}"); });
    flap.school("closed until warm", [&](Line& l) {
        l.on(Acts::coolingFlap, "shut");
        if (d.n.warmUp.headRunUp)
            l.until(d.e.coolant ? Gauge::coolantTemperature : Gauge::headTemperature, true, "{metal-run-up}", 1500.0,
                    "opened all the same");
        l.on(Acts::coolingFlap, "{flap}");
    });
    d.act(p, "oil-cooler", Acts::oilCooler, "It regulates itself once the oil flows.", "J25")
        .on(Acts::oilCooler, "automatic");
    d.act(p, "taxi", Acts::throttle, "An rpm that neither loads up nor needs the brakes all the time.", "J26")
        .was({"Taxi"})
        .on(Acts::brakes, "off")
        .on(Acts::throttle, "{taxi-rpm}")
        .set("{taxi-rpm}, brakes off")
        .atEnd()
        .step()
        .what = "Taxi";
    auto minima = d.say(p, "minima", "Before run-up", "",
                        "Cold oil will not follow the governor; cold heads misfire and blame the magneto.", "J24");
    minima.was({"Before run-up"}).atEnd();
    if (d.n.warmUp.headRunUp)
        minima.reads(d.e.coolant ? Gauge::coolantTemperature : Gauge::headTemperature, true, "{metal-run-up}", 1500.0,
                     "wait, into wind");
    minima.reads(Gauge::oilTemperature, true, "{oil-run-up}", 1500.0, "wait, into wind");
}

void draftRunUp(Draft& d) {
    constexpr Phase p = Phase::runUp;
    d.act(p, "into-wind", Acts::brakes, "The cowl needs the wind; the tail lifts at high boost.", "J27")
        .was({"Into wind"})
        .on(Acts::brakes, "held")
        .set("into wind, brakes held, area behind clear")
        .step()
        .what = "Into wind";
    d.act(p, "air", Acts::carburettorAir, "Hot air makes every figure of the run-up wrong.", "J27")
        .on(Acts::carburettorAir, "cold");
    d.act(p, "cooling", Acts::coolingFlap, "Full power standing has only the propeller's wind.", "J27")
        .on(Acts::coolingFlap, "{flap}");
    propellerExercise(d);
    blower(d);
    d.act(p, "reference", Acts::throttle,
          "At the boost the gauge showed at rest, the propeller turns this fast when the engine is well.", "J31")
        .was({"Reference", "Full throttle"})
        .skipped("A tired engine takes off unnoticed.")
        .on(Acts::throttle, d.e.boosted ? "{field-boost}" : "open")
        .over(5.0)
        .lasting("10 s")
        .set(d.e.boosted ? "{field-boost} gives {reference-rpm}" : "full: {static-rpm} static")
        .step()
        .what = "Reference";
    auto magnetos =
        d.act(p, "magnetos", Acts::ignition, "Each in turn and quickly: on one the charge burns late and hot.", "J28");
    magnetos.was({"Magnetos"})
        .each()
        .on(Acts::ignition, "left")
        .lasting("5 s")
        .on(Acts::ignition, "both")
        .lasting("2 s")
        .on(Acts::ignition, "right")
        .lasting("5 s")
        .on(Acts::ignition, "both");
    magnetos.step().what = "Magnetos";
    magnetos.set(d.e.boosted ? "at that boost: {magneto-limits}" : "{magneto-limits}");
    d.act(p, "idle", Acts::throttle, "An engine that dies on the approach was asking here.", "J32")
        .was({"Idle"})
        .on(Acts::throttle, "closed")
        .over(4.0)
        .lasting("10 s")
        .set("throttle closed: it holds its idle")
        .step()
        .what = "Idle";
    d.act(p, "hot-air-check", Acts::carburettorAir, "Its temperature rises or boost and rpm fall; cold again.", "J32")
        .was({"Hot air", "Carb. heat"})
        .on(Acts::throttle, "{taxi-rpm}")
        .on(Acts::carburettorAir, "hot")
        .lasting("8 s")
        .on(Acts::carburettorAir, "cold")
        .set("hot: look, cold again");
}

} // namespace amber::cockpit
