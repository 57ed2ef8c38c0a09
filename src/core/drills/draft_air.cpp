// SPDX-License-Identifier: GPL-3.0-or-later
// Customary orders from the take-off to the landing. General practice; the type's notes overrule.
#include "drills/draft.h"
#include "notes/placeholder.h"
#include <array>
#include <fmt/format.h>

namespace amber::cockpit {
namespace {
using Line = Draft::Line;
/// What sets the power: a boost, or an rpm by the throttle where there is no boost gauge.
std::string_view power(const Draft& d) {
    return d.e.boosted ? "{boost}" : "{rpm}";
}
} // namespace

void draftTakeOff(Draft& d) {
    constexpr Phase p = Phase::takeOff;
    d.act(p, "air", Acts::carburettorAir, "Hot air costs power now and brings detonation.", "J33")
        .was({"Carb. heat"})
        .on(Acts::carburettorAir, "cold");
    d.act(p, "mixture", Acts::mixture, "Fuel is the coolant at this power.", "J40")
        .was({"Mixture"})
        .on(Acts::mixture, "{mixture}");
    d.act(p, "propeller", Acts::propeller, "Fully fine: the governor catches it at the stop.", "J33")
        .was({"Propeller", "Pitch wheel"})
        .on(Acts::propeller, d.e.hub == Hub::twoPosition ? "fine" : "{rpm}");
    d.act(p, "blower", Acts::gear, "High gear near the ground is heat without power.", "J33")
        .was({"Blower"})
        .on(Acts::gear, "{gear}");
    d.act(p, "fuel", Acts::fuel, "The tank that has been feeding since the run-up: nothing new is tried now.", "J45")
        .was({"Fuel"})
        .on(Acts::fuel, "{tank}")
        .on(Acts::pump, "on");
    d.act(p, "wing-flap", Acts::wingFlap, "As the notes give it for the load and the field.", "J33")
        .on(Acts::wingFlap, "take-off");
    d.act(p, "trim", Acts::trim, "By load, centre of gravity and flap.", "J33").on(Acts::trim, "take-off");
    d.act(p, "cooling", Acts::coolingFlap, "Open they shake the tail; shut they cook the heads in the climb.", "J33")
        .was({"Cowl flaps", "Radiator flap", "Radiator shutter", "Shutter"})
        .on(Acts::coolingFlap, "{flap}");
    d.act(p, "oil-cooler", Acts::oilCooler, "By itself.", "J33").on(Acts::oilCooler, "automatic");
    d.act(p, "water", Acts::water, "Armed: it comes in by itself at the boost that needs it.", "J33")
        .on(Acts::water, "on");
    auto open = d.act(p, "throttle", Acts::throttle,
                      "Smoothly and even; brakes off as it will not be held. Pressures seen before it is fast.", "J34");
    open.was({"Throttle"}).on(Acts::brakes, "off");
    if (d.e.turbo)
        open.on(Acts::throttle, "30 inHg")
            .over(3.0)
            .on(Acts::turbo, "in")
            .on(Acts::throttle, "{boost}")
            .over(4.0)
            .set("30 inHg, turbo in, then {boost}");
    else
        open.on(Acts::throttle, d.e.boosted ? "{boost}" : "open")
            .over(4.0)
            .set(d.e.boosted ? "{boost} over four seconds, even" : "full, over four seconds");
    const bool several = d.e.engines > 1;
    d.say(p, "lift-off", "Lift off", several ? "{lift-off}; safe on one {safe-single}" : "{lift-off}",
          several ? "Below the safe speed a failed engine means straight ahead." : "At today's weight.", "J04")
        .was({"Lift off"});
    d.act(p, "wheels", Acts::wheels, "Drag up as soon as it cannot be put back.", "J35").atEnd().on(Acts::wheels, "up");
    d.act(p, "brakes-off", Acts::brakes, "Off for the flight.", "J34").on(Acts::brakes, "off");
    if (d.e.boosted && d.e.hub != Hub::fixed) {
        auto less =
            d.act(p, "reduction", Acts::throttle, "Boost first, then rpm: the other way round it detonates.", "J35");
        less.step().what = "Reduction";
        less.was({"first-reduction", "Reduction"})
            .at("safe height and speed")
            .skipped("The time-limited rating runs out unseen.")
            .atEnd();
        less.set("{climb-boost}, then {climb-rpm}").schools("reduction", "boost, then rpm");
        const auto levers = [&](Line& l) {
            l.on(Acts::throttle, "{climb-boost}")
                .over(3.0)
                .on(Acts::propeller, d.e.hub == Hub::twoPosition ? "coarse" : "{climb-rpm}")
                .over(2.0);
        };
        less.school("boost, then rpm", levers);
        less.school("both together", levers);
    }
    d.act(p, "water-off", Acts::water, "Kept for when it is needed.", "J36").atEnd().on(Acts::water, "off");
    d.act(p, "wing-flap-up", Acts::wingFlap, "By stages, at height.", "J35").atEnd().on(Acts::wingFlap, "up");
}

void draftClimb(Draft& d) {
    constexpr Phase p = Phase::climb;
    d.act(p, "throttle", Acts::throttle, "Rated power as the notes allow it.", "J36")
        .was({"Throttle"})
        .on(Acts::throttle, d.e.boosted ? "{boost}" : "open")
        .set(d.e.boosted ? (d.e.turbo ? "{boost}, by the turbo" : "{boost}") : "full, near {rpm}");
    if (d.e.hub != Hub::twoPosition)
        d.act(p, "propeller", Acts::propeller, "Rated rpm with rated boost; lower rpm with this boost detonates.",
              "J35")
            .was({"Propeller", "Pitch wheel"})
            .on(Acts::propeller, "{rpm}");
    d.act(p, "mixture", Acts::mixture, "Rich at rated power keeps the heads in their limit.", "J40")
        .was({"Mixture", "Corrector"})
        .on(Acts::mixture, "{mixture}");
    d.act(p, "pump", Acts::pump, "One by one, watching the pressure.", "J35")
        .on(Acts::pump, "off")
        .until(Gauge::fuelPressure, true, "{fuel-pressure-least}", 10.0, "pump on again");
    d.act(p, "cooling", Acts::coolingFlap, "As far open as the heads need and no farther: the rest is drag.", "J39")
        .was({"Cowl flaps", "Radiator flap"})
        .on(Acts::coolingFlap, "{flap}");
    if (d.e.blower) {
        auto gear = d.act(p, "gear-change", Acts::gear, "Low gear until the boost has fallen at full throttle.", "J37");
        gear.was({"Blower"})
            .set("{gear}, to {change-height}")
            .skipped("Too early wastes power in heat; too late loses the climb.")
            .schools("gear-change", "at the fall in boost");
        gear.on(Acts::gear, "{gear}");
        for (std::size_t i = 1; i < std::min<std::size_t>(3, d.n.engine.gears.size()); ++i) {
            const std::string next = d.n.engine.gears[i].name;
            const std::string height = i == 1 ? "{change-height}" : "{second-change-height}";
            const bool several = d.e.engines > 1;
            const std::string boost = i == 1 ? "{changed-boost}" : "{second-changed-boost}";
            auto change =
                d.act(p, i == 1 ? "at-the-change" : "at-the-second-change", Acts::gear,
                      "The next gear adds its boost at once: the throttle is closed first so that it has somewhere to "
                      "go.",
                      "J37");
            if (several) // one engine at a time
                change.each();
            change.was(i == 1 ? std::vector<std::string>{"At the change", "Throttle back"} : std::vector<std::string>{})
                .at(height)
                .reads(Gauge::height, true, height)
                .on(Acts::throttle, "{throttle-back}")
                .over(2.0)
                .on(Acts::gear, next)
                .reads(Gauge::oilPressure, true, "{oil-pressure-least}", 10.0, "back to the lower gear")
                .on(Acts::throttle, boost)
                .over(3.0)
                .set("back to {throttle-back}, " + next + ", then " + boost)
                .step()
                .what = i == 1 ? "At the change" : "At the second";
        }
    }
    const Rating* rating = d.n.rating(d.n.phase(p).rating);
    constexpr std::array<const char*, placeholder::fallNames.size()> falls{"boost-falls",       "boost-falls-again",
                                                                           "boost-falls-third", "boost-falls-fourth",
                                                                           "boost-falls-fifth", "boost-falls-sixth"};
    for (std::size_t i = 0; rating && i < std::min(falls.size(), rating->above.size()); ++i) {
        const std::string height = fmt::format("{{{}}}", placeholder::fallNames[i].at);
        const std::string boost = fmt::format("{{{}}}", placeholder::fallNames[i].boost);
        d.act(p, falls[i], Acts::throttle, "From that height this rating allows less boost.", "J36")
            .at(height)
            .reads(Gauge::height, true, height)
            .on(Acts::throttle, boost)
            .over(2.0)
            .set("back to " + boost);
    }
    d.act(p, "intercooler", Acts::intercooler, "The auxiliary stage heats the charge: cooled, it detonates later.",
          "J37")
        .was({"Intercooler"})
        .on(Acts::intercooler, "open");
    d.say(p, "speed", "Speed", "{ias}, less with height", "Faster and flatter cools better and costs a little time.",
          "J38")
        .was({"Speed"});
}

void draftCruise(Draft& d) {
    constexpr Phase p = Phase::cruise;
    d.act(p, "throttle", Acts::throttle, "Boost is reduced before rpm when levelling off.", "J35")
        .was({"Throttle"})
        .on(Acts::throttle, power(d))
        .over(3.0);
    d.act(p, "propeller", Acts::propeller,
          "The lowest rpm that holds the boost without detonation is the most economical.", "J42")
        .was({"Propeller", "Pitch wheel"})
        .on(Acts::propeller, d.e.hub == Hub::twoPosition ? "coarse" : "{rpm}")
        .over(2.0);
    d.act(p, "mixture", Acts::mixture, "Weak only as far as the notes allow it.", "J40")
        .was({"Mixture"})
        .on(Acts::mixture, "{mixture}");
    if (d.e.blower)
        d.act(p, "blower", Acts::gear, "Low gear gives more miles to the gallon where it can hold the boost.", "J42")
            .was({"Blower"})
            .on(Acts::gear, "{gear}");
    d.act(p, "cooling", Acts::coolingFlap, "The speed cools now; open flaps only drag.", "J39")
        .was({"Cowl flaps", "Radiator flap", "Shutter"})
        .on(Acts::coolingFlap, "{flap}");
    d.act(p, "fuel", Acts::fuel, "In the notes' order; the landing tank is kept.", "J45")
        .was({"Fuel"})
        .on(Acts::fuel, "{tank}")
        .set("{tank} first");
}

void draftLetDown(Draft& d) {
    constexpr Phase p = Phase::letDown;
    d.act(p, "mixture", Acts::mixture, "Denser air leans a weak setting; the go-round needs rich.", "J51")
        .was({"Mixture"})
        .on(Acts::mixture, "rich");
    d.act(p, "air", Acts::carburettorAir,
          "Before the throttle goes back: an engine gone cold has no heat left to clear its ice.", "J51")
        .was({"Carb. air", "Carb. heat"})
        .skipped("It does not pick up again.")
        .on(Acts::carburettorAir, !d.n.engine.suctionCarburettor ? "cold"
                                  : !d.n.engine.gears.empty()    ? "{heat}"
                                                                 : "hot");
    d.act(p, "turbo", Acts::turbo, "Out before the throttle: it must not be left spun up behind a shut one.", "J51")
        .was({"Turbo"})
        .on(Acts::turbo, "off");
    d.act(p, "throttle", Acts::throttle,
          "By steps: enough power to keep the heads warm, the engine driving the propeller.", "J51")
        .was({"Throttle", "Throttles"})
        .on(Acts::throttle, power(d))
        .over(10.0);
    d.act(p, "propeller", Acts::propeller, "Low rpm with moderate boost keeps the reduction gear loaded one way.",
          "J51")
        .was({"Propeller"})
        .on(Acts::propeller, d.e.hub == Hub::twoPosition ? "coarse" : "{rpm}");
    if (d.e.blower)
        d.act(p, "blower", Acts::gear, "High gear low down over-boosts on a go-round.", "J51")
            .was({"Blower"})
            .on(Acts::gear, d.n.engine.gears.front().name);
    d.act(p, "intercooler", Acts::intercooler, "A cold charge evaporates badly.", "J51")
        .was({"Intercooler"})
        .on(Acts::intercooler, "shut");
    d.act(p, "cooling", Acts::coolingFlap, "Shut: shock cooling cracks heads.", "J50")
        .was({"Cowl flaps", "Radiator flap", "Radiator shutter", "Shutter"})
        .on(Acts::coolingFlap, "{flap}");
    d.say(p, "speed", "Speed", "{ias}, down {rate}", "A faster let-down costs cooling rate.", "J51").was({"Speed"});
    d.say(p, "clear", "Clear the engine", "{clear}",
          "Oil gathers in the lower cylinders and on the plugs when it idles down.", "J51")
        .was({"Clear the engine"})
        .skipped("It coughs when it is opened for going round.");
}

void draftLanding(Draft& d) {
    constexpr Phase p = Phase::landing;
    d.act(p, "mixture", Acts::mixture, "Ready to go round.", "J52").was({"Mixture"}).on(Acts::mixture, "rich");
    // Under boost hot air knocks; an engine without a blower keeps the ice off with it until the power stands.
    const bool keepsHot = d.n.engine.suctionCarburettor && !d.e.boosted;
    d.act(p, "air", Acts::carburettorAir,
          keepsHot ? "Ice forms behind a shut throttle: hot until the power for going round stands."
                   : "Cold on final: hot air costs the power of a go-around, and brings detonation.",
          "J52")
        .on(Acts::carburettorAir, keepsHot ? "hot" : "cold");
    d.act(p, "fuel", Acts::fuel, "The best tank for landing.", "J52")
        .was({"Fuel"})
        .on(Acts::fuel, "{landing-tank}")
        .on(Acts::pump, "on");
    if (d.e.hub == Hub::twoPosition) {
        d.act(p, "propeller", Acts::propeller, "Ready to go round.", "J52")
            .was({"Propeller", "rpm"})
            .on(Acts::propeller, "fine");
    } else {
        auto pitch = d.act(p, "propeller", Acts::propeller, "High enough for a go-round.", "J52");
        pitch.was({"Propeller", "rpm", "Pitch wheel"}).schools("landing-rpm", "short of fine");
        pitch.school("short of fine", [](Line& l) { l.on(Acts::propeller, "{rpm}"); });
        pitch.school("full fine", [](Line& l) { l.on(Acts::propeller, "fine"); });
    }
    d.act(p, "wheels", Acts::wheels, "Down and locked, lamps seen.", "J52").on(Acts::wheels, "down");
    d.act(p, "wing-flap", Acts::wingFlap, "On final.", "J52").on(Acts::wingFlap, "landing");
    d.act(p, "approach", Acts::throttle, "Power set once and left is kinder than bursts.", "J51")
        .was({"Approach"})
        .on(Acts::throttle, power(d))
        .set(d.e.boosted ? "{approach}, about {boost}" : "{approach}")
        .step()
        .what = "Approach";
    d.act(p, "cooling", Acts::coolingFlap, "For the go-round as the notes say; open once down.", "J53")
        .was({"Cowl flaps", "Radiator flap"})
        .on(Acts::coolingFlap, "{flap}");
    auto round = d.act(
        p, "go-round", Acts::throttle,
        "Ready before it is needed: a cold or lean engine opened quickly coughs, or overspeeds. Rpm before boost.",
        "J52");
    round.step().what = "Go-around";
    round.branch()
        .was({"Go round", "Go-around"})
        .skipped("It dies when it is wanted.")
        .caution("Never high boost on cruise rpm.");
    round.on(Acts::mixture, "rich");
    if (d.e.blower)
        round.on(Acts::gear, d.n.engine.gears.front().name);
    round.on(Acts::pump, "on");
    if (!keepsHot)
        round.on(Acts::carburettorAir, "cold");
    if (d.e.hub != Hub::fixed)
        round.on(Acts::propeller, d.e.hub == Hub::twoPosition ? "fine" : "{take-off-rpm}");
    round.on(Acts::throttle, d.e.boosted ? "{take-off-boost}" : "open").over(3.0);
    if (keepsHot)
        round.on(Acts::carburettorAir, "cold");
    round.on(Acts::wheels, "up").on(Acts::wingFlap, "take-off");
}

} // namespace amber::cockpit
