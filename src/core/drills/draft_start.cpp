// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders from the walk-round to the first minute of running. General practice; the type's notes overrule.
#include "drills/draft.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::cockpit {
namespace {
using Line = Draft::Line;

/// Until it turns over by itself.
void catches(Line& l, double most) {
    l.until(Gauge::rpm, true, "{running}", most, "starter off, let it rest, look for the cause");
}

void prime(Draft& d) {
    auto line = d.act(Phase::start, "prime", Acts::primer,
                      "Fuel must be vapour in the cylinder: cold metal vaporises little of each stroke.", "J16");
    line.step().what = "Prime";
    line.each().skipped("Too little turns and never fires; too much coughs, drips and burns.").was({"Prime"});
    line.schools("prime-when", d.n.start.primeWhileTurning ? "while turning" : "before turning");
    line.school("before turning", [](Line& l) { l.on(Acts::primer, "{prime}").lasting("{vaporise}"); });
    line.school("while turning", [&](Line& l) {
        // It is turning while the hand is on the primer; a wheel is still running up.
        if (d.e.starter == StarterKind::direct)
            l.on(Acts::starter, "on").held();
        l.on(Acts::primer, "{prime}").held();
    });
}

void pump(Draft& d) {
    d.act(Phase::start, "booster", Acts::pump,
          "The carburettor must be full before it can meter; over the band it floods.", "J14")
        .each()
        .was({"booster", "Booster pump", "Wobble pump", "Hand pump"})
        .on(Acts::pump, "on")
        .until(Gauge::fuelPressure, true, "{fuel-pressure-least}", 30.0, "look for the leak or the shut cock");
}

void ignition(Draft& d, std::string_view taken) {
    auto line = d.act(Phase::start, "ignition", Acts::ignition,
                      "A lock must show itself with no spark behind it; a wheel turns too few blades to wait.", "J18");
    line.each().was({"Ignition", "Magnetos"}).schools("ignition", taken);
    line.step().open = d.e.starter == StarterKind::direct; // a wheel, a shot and a bottle have no turn to spare
    line.school("on before turning", [](Line& l) { l.on(Acts::ignition, "both"); });
    line.school("after blades",
                [](Line& l) { l.on(Acts::starter, "on").held().lasting("{blades-time}").on(Acts::ignition, "both"); });
}

void direct(Draft& d) {
    pump(d);
    prime(d);
    ignition(d, d.n.start.bladesFirst ? "after blades" : "on before turning");
    d.act(Phase::start, "starter", Acts::starter, "Past its seconds the motor only heats; it is rested between tries.",
          "J18")
        .each()
        .caution("“Clear” called and answered; nobody near the propeller.")
        .on(Acts::boosterCoil, "on")
        .held()
        .on(Acts::starter, "on")
        .held()
        .until(Gauge::rpm, true, "{running}", d.n.start.crankMost.si(), "starter off, let it rest, look for the cause")
        .set(d.has(Acts::boosterCoil) ? "on, coil on, until it fires" : "on until it fires");
}

void inertia(Draft& d) {
    pump(d);
    if (!d.n.start.primeWhileTurning)
        prime(d);
    d.act(Phase::start, "energise", Acts::starter,
          "The wheel stores the work. It stands still before it is energised again, or its clutch breaks.", "J18")
        .each()
        .caution("“Clear” called and answered; nobody near the propeller.")
        .on(Acts::starter, "on")
        .held()
        .lasting("{energise}")
        .set("energised {energise}");
    if (d.n.start.primeWhileTurning)
        prime(d);
    ignition(d, "on before turning");
    auto mesh = d.act(Phase::start, "mesh", Acts::mesh, "The wheel has one good turn in it.", "J18");
    mesh.each().on(Acts::starter, "off").on(Acts::boosterCoil, "on").held().on(Acts::mesh, "on").held();
    catches(mesh, d.n.start.crankMost.si());
    mesh.set("meshed, coil on, until it fires");
}

void cartridge(Draft& d) {
    pump(d);
    d.act(Phase::start, "breech", Acts::cartridge, "Loaded last: nobody turns a propeller by hand with a shot in.",
          "J18")
        .each()
        .caution("Misfire: ignition off, wait, breech shut; never opened at once.")
        .on(Acts::cartridge, "loaded");
    prime(d);
    ignition(d, "on before turning");
    auto fire = d.act(Phase::start, "starter", Acts::starter, "A few turns are all it gives.", "J18");
    fire.each().was({"Cartridge"}).on(Acts::boosterCoil, "on").held().on(Acts::starter, "on").held();
    catches(fire, d.n.start.crankMost.si());
    fire.set("fired, coil on; count the turns");
}

void air(Draft& d) {
    pump(d);
    prime(d);
    ignition(d, "on before turning");
    auto open =
        d.act(Phase::start, "starter", Acts::airValve, "Shut as it fires: what is left is the next try.", "J18");
    open.each().was({"Air"}).on(Acts::boosterCoil, "on").held().on(Acts::airValve, "open").held();
    catches(open, d.n.start.crankMost.si());
    open.set("open, vibrator on; shut as it fires");
}

void byHand(Draft& d) {
    if (d.has(Acts::pump))
        pump(d);
    if (d.n.start.primer != "blades") {
        prime(d);
    } else {
        d.act(Phase::start, "prime", Acts::primer, "Each cylinder draws its share through its own valve.", "J16")
            .each()
            .caution("The propeller is live with the ignition off.")
            .was({"Pull through"})
            .on(Acts::throttle, "closed")
            .on(Acts::primer, "{prime}")
            .lasting("{vaporise}")
            .on(Acts::throttle, "cracked")
            .set("{prime}, throttle closed, “off” answered");
    }
    auto on = d.act(Phase::start, "ignition", Acts::ignition, "Said aloud and answered, both ways.", "J18");
    on.each().was({"Magnetos"}).caution("“Contact” only with chocks in and the pilot in his seat.");
    on.schools("ignition", d.n.start.bladesFirst ? "after blades" : "on before turning");
    on.school("on before turning", [](Line& l) { l.on(Acts::ignition, "both"); });
    on.school("after blades", [](Line& l) { l.waits("{blades-time}").on(Acts::ignition, "both"); });
    auto swing =
        d.act(Phase::start, "starter", Acts::starter, "One swing; “off” before anyone touches it again.", "J18");
    swing.each().on(Acts::boosterCoil, "on").held().on(Acts::starter, "on");
    catches(swing, d.n.start.crankMost.si());
    swing.set(d.has(Acts::boosterCoil) ? "one swing, starting magneto wound" : "one swing");
}
} // namespace

void draftWalkRound(Draft& d) {
    d.act(Phase::walkRound, "ignition-off", Acts::ignition, "A live magneto and a hand on the blade.", "J10")
        .caution("The propeller is treated as live all the same.")
        .on(Acts::ignition, "off");
    d.act(Phase::walkRound, "locks", Acts::lock, "Taken off locked it cannot be flown.", "J11").on(Acts::lock, "out");
    if (d.n.start.handTurning.blades > 0 && !d.n.start.handTurning.byStarter)
        d.say(Phase::walkRound, "turn", "Turn by hand", "ignition off, throttle closed; a stop is never forced",
              "Oil in a low cylinder bends a rod; it fails later, in flight.", "J13");
}

void draftStart(Draft& d) {
    constexpr Phase p = Phase::start;
    if (d.e.engines > 1)
        d.say(p, "order", "Order", "{order}",
              d.n.start.orderReason.empty() ? "One at a time, each to its oil pressure." : d.n.start.orderReason, "J20")
            .was({"Order"});
    d.act(p, "brakes", Acts::brakes, "The aircraft moves as soon as the first one fires.", "J14")
        .on(Acts::brakes, "held");
    auto supply = d.act(p, "supply", Acts::battery, "Warning lamps come on with it: that is their test.", "J15");
    supply.on(Acts::battery, "on").on(Acts::cart, "{supply}");
    if (!d.n.start.cartPermits.empty())
        supply.set("on, cart {supply}; on the cart only " + d.n.start.cartPermits);
    d.act(p, "fuel", Acts::fuel, "The take-off tank, proved before it is needed.", "J14")
        .on(Acts::fuel, "{tank}")
        .was({"Fuel cock"});
    auto cracked = d.act(p, "throttle-cracked", Acts::throttle, "Set before the start it need not be chased.", "J14");
    cracked.on(Acts::throttle, "cracked");
    if (const auto& band = d.n.start.band)
        cracked.set(fmt::format("cracked, for {} to {}", formatValue(band->first.si(), *units::rpm.spec),
                                format(band->second, units::rpm)));
    d.act(p, "mixture", Acts::mixture,
          d.e.carburettor == Carburettor::floatWithout
              ? "Rich to start."
              : "It fires on the primer: fuel from the carburettor would flood it.",
          "J14")
        .was({"mixture-lever", "mixture-cut-off"})
        .on(Acts::mixture, d.e.carburettor == Carburettor::floatWithout ? "rich" : "cut-off");
    auto pitch = d.act(p, "propeller", Acts::propeller, "Least load on the starter and on cold bearings.", "J14");
    pitch.was({"Propeller"}).schools("propeller", "fine");
    pitch.school("fine", [](Line& l) { l.on(Acts::propeller, "fine"); });
    pitch.school("coarse until oil pressure", [](Line& l) { l.on(Acts::propeller, "coarse"); });
    if (d.e.blower)
        d.act(p, "blower", Acts::gear, "Less to turn, and clutches hold only with warm oil.", "J14")
            .on(Acts::gear, d.n.engine.gears.front().name);
    d.act(p, "turbo", Acts::turbo, "A backfire into a spun-up turbine breaks it.", "J14")
        .on(Acts::turbo, "off")
        .was({"Turbo"});
    d.act(p, "cooling", Acts::coolingFlap, "Even warming; nothing cooks unseen.", "J14")
        .on(Acts::coolingFlap, "{flap}")
        .was({"shutter", "radiator", "Radiator flap"});
    d.act(p, "oil-cooler", Acts::oilCooler, "By itself; shut only where frost keeps the oil thick.", "J14")
        .on(Acts::oilCooler, "automatic");
    d.act(p, "intercooler", Acts::intercooler, "Nothing to cool yet.", "J14").on(Acts::intercooler, "shut");
    d.act(p, "carburettor-cold", Acts::carburettorAir, "A backfire into the warm duct burns it.", "J14")
        .on(Acts::carburettorAir, "cold");
    d.act(p, "spark", Acts::spark, "Advanced it kicks back.", "J18").on(Acts::spark, "retarded").was({"Spark"});
    switch (d.e.starter) {
    case StarterKind::direct:
        direct(d);
        break;
    case StarterKind::inertia:
        inertia(d);
        break;
    case StarterKind::cartridge:
        cartridge(d);
        break;
    case StarterKind::air:
        air(d);
        break;
    case StarterKind::hand:
        byHand(d);
        break;
    }
    // Where there is no mixture lever the starter is let go all the same.
    const std::array turned{Acts::mixture, Acts::starter, Acts::airValve, Acts::cartridge};
    const auto* with =
        std::find_if(turned.begin(), turned.end(), [&](Acts acts) { return d.control(acts) != nullptr; });
    auto fires = d.act(p, "fires", with == turned.end() ? Acts::mixture : *with,
                       "By degrees: fast floods it. The starter is let go at once.", "J19");
    fires.step().what = "As it fires";
    fires.each()
        .was({"Mixture"})
        .on(Acts::starter, "off")
        .on(Acts::mesh, "off")
        .on(Acts::airValve, "shut")
        .on(Acts::boosterCoil, "off")
        .on(Acts::cartridge, "empty");
    if (d.e.carburettor != Carburettor::floatWithout)
        fires.on(Acts::mixture, "rich").over(3.0);
    const Control* mixture = d.control(Acts::mixture);
    const auto* rich = mixture ? mixture->position("rich") : nullptr;
    const std::string go = d.e.starter == StarterKind::hand ? "stand clear" : "starter let go";
    fires.set(d.e.carburettor != Carburettor::floatWithout && rich ? go + "; mixture " + rich->name + ", slowly" : go);
    if (d.n.start.primer != "blades")
        d.say(p, "keep-alive", "Keep it alive", "a touch of primer if it falters; no quick throttle",
              "Opened quickly it coughs back, and burns.", "J19")
            .each();
    auto first = d.act(p, "first-rpm", Acts::throttle, "No oil pressure by then: the engine is stopped.", "J19");
    first.each().was({"Throttle", "Running", "As it fires"}).skipped("Bearings run dry; it shows a season later.");
    first.schools("first-rpm", d.n.start.slowFirst ? "slow until oil pressure" : "warm-up rpm at once");
    first.school("slow until oil pressure", [&](Line& l) {
        l.on(Acts::throttle, "{slow-rpm}")
            .until(Gauge::oilPressure, true, "{oil-pressure-least}", d.n.start.oilPressureWithin.si(), "stop it")
            .on(Acts::throttle, "{warm-up-rpm}");
    });
    first.school("warm-up rpm at once", [&](Line& l) {
        l.on(Acts::throttle, "{warm-up-rpm}")
            .until(Gauge::oilPressure, true, "{oil-pressure-least}", d.n.start.oilPressureWithin.si(), "stop it");
    });
    d.act(p, "spark-advanced", Acts::spark, "Retarded it runs hot and weak.", "J19").each().on(Acts::spark, "advanced");
    d.act(p, "propeller-fine", Acts::propeller, "Oil is up: it can be spared for the hub.", "J19")
        .on(Acts::propeller, "fine");
    auto off =
        d.act(p, "pump-after", Acts::pump, "Switched off once, it shows that the engine's own pump holds.", "J19");
    off.was({"pump"}).schools("booster-pump", "where the notes name it");
    off.school("where the notes name it", [](Line& l) { l.on(Acts::pump, "off"); });
    off.school("on for the whole flight", [](Line& l) { l.on(Acts::pump, "on"); });
    if (d.n.start.primer != "blades")
        d.act(p, "primer-locked", Acts::primer, "Left unlocked it draws fuel by itself and the engine runs rich.",
              "J19")
            .on(Acts::primer, "locked");
    d.act(p, "cart-away", Acts::cart, "Before the generator: two supplies fight.", "J15").on(Acts::cart, "away");
    auto generator = d.act(p, "generator", Acts::generator, "It cuts in with rpm; the heavy loads wait for it.", "J15");
    generator.on(Acts::generator, "on");
    if (d.n.start.generatorFrom)
        generator.set("on, cuts in at " + format(*d.n.start.generatorFrom, units::rpm));
    d.act(p, "gyros", Acts::gyros, "They need minutes to stand up.", "J14").on(Acts::gyros, "free");
    auto warm = d.act(p, "air", Acts::carburettorAir,
                      "Only in frost, and only once the exhaust is hot; cold again before the run-up.", "J19");
    warm.was({"Carb. air", "Carb. heat"}).schools("carburettor-air", "cold");
    warm.school("cold", [](Line& l) { l.on(Acts::carburettorAir, "cold"); });
    warm.school("hot as soon as it runs", [](Line& l) { l.on(Acts::carburettorAir, "hot"); });
}

} // namespace amber::cockpit
