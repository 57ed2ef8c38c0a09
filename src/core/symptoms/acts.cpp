// SPDX-License-Identifier: GPL-3.0-or-later
#include "symptoms/acts.h"
#include "cockpit/controls.h"
#include "cockpit/equipment.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::trouble {
namespace {
using cockpit::Hub;

class OnThis {
public:
    OnThis(const TypeNotes& notes, const Context& context)
        : n_(notes), c_(context), e_(cockpit::equipmentOf(notes)), stage_(context.stage()) {}

    [[nodiscard]] std::string wants(FirstAct act) const {
        const unsigned stages = c_.stages();
        const auto only = [&](unsigned where, const char* why) {
            return (stages & where) == 0 ? std::string(why) : std::string();
        };
        const auto control = [&](Acts acts, const char* what) {
            return has(acts) ? std::string() : fmt::format("this aircraft has no {}", what);
        };
        const auto first = [](std::initializer_list<std::string> all) {
            for (const auto& one : all)
                if (!one.empty())
                    return one;
            return std::string();
        };
        const char *needsRunning = "it does not run", *needsGround = "the aircraft is flying",
                   *needsStart = "it is not being started";
        switch (act) {
        case FirstAct::look:
            return {};
        case FirstAct::ease:
        case FirstAct::byEar:
        case FirstAct::setByFlow:
            return only(running, needsRunning);
        case FirstAct::speed:
        case FirstAct::engineDrill:
            return only(flying, "the aircraft is on the ground");
        case FirstAct::heat:
        case FirstAct::coldAir:
            return first({only(running, needsRunning), control(Acts::carburettorAir, "carburettor heat")});
        case FirstAct::otherTank:
            return first({only(running, needsRunning),
                          n_.fuel.tanks.size() > 1 && has(Acts::fuel) ? std::string() : "there is one tank"});
        case FirstAct::booster:
            return first({only(running, needsRunning), control(Acts::pump, "booster pump")});
        case FirstAct::boostBack:
            return only(running, needsRunning);
        case FirstAct::rich:
        case FirstAct::lean:
            return first({only(running, needsRunning), control(Acts::mixture, "mixture lever")});
        case FirstAct::lowGear:
            return first({only(running, needsRunning), control(Acts::gear, "blower gear"),
                          c_.highGear && !*c_.highGear ? "it is in low gear" : std::string()});
        case FirstAct::dryBoost:
            return first({only(running, needsRunning), e_.water ? std::string() : "it has no water injection",
                          c_.wet && !*c_.wet ? "the water is not on" : std::string()});
        case FirstAct::openCooler:
        case FirstAct::shutCooler:
            return first({only(running, needsRunning), control(Acts::oilCooler, "oil cooler to move")});
        case FirstAct::openFlap:
            return first({only(running, needsRunning), control(Acts::coolingFlap, "cooling flap")});
        case FirstAct::governorBack:
        case FirstAct::holdRpm:
            return first({only(running, needsRunning), e_.hub == Hub::fixed ? "its blades are fixed" : std::string()});
        case FirstAct::byHand:
            return first({only(running, needsRunning), e_.boosted ? std::string() : "it has no boost gauge"});
        case FirstAct::turboBack:
            return first({only(running, needsRunning), control(Acts::turbo, "turbo lever")});
        case FirstAct::directNeedles:
        case FirstAct::shedLoad:
            return e_.electric || has(Acts::generator) ? std::string() : "it has no generator";
        case FirstAct::burst:
            return only(in(Stage::ground), needsGround);
        case FirstAct::doNotGo:
        case FirstAct::stopNow:
            return only(onGround, needsGround);
        case FirstAct::shutDown:
            return first({only(flying, "the aircraft is on the ground"),
                          e_.engines < 2 ? "it is the only engine" : std::string()});
        case FirstAct::fuelOff:
            return control(Acts::fuel, "fuel cock");
        case FirstAct::prime:
            return first({only(in(Stage::starting), needsStart), control(Acts::primer, "primer")});
        case FirstAct::rest:
        case FirstAct::fuse:
            return first({only(in(Stage::starting), needsStart), e_.electric ? std::string() : "no battery turns it"});
        case FirstAct::nextCartridge:
            return first({only(in(Stage::starting), needsStart),
                          e_.starter == StarterKind::cartridge ? std::string() : "it has no cartridges"});
        case FirstAct::fillBottle:
            return first({only(in(Stage::starting), needsStart),
                          e_.starter == StarterKind::air ? std::string() : "no air turns it"});
        case FirstAct::supplyOff:
            return first({only(onGround, needsGround), e_.electric ? std::string() : "no battery turns it"});
        case FirstAct::drawIn:
        case FirstAct::clear:
        case FirstAct::checkFuel:
        case FirstAct::checkSpark:
        case FirstAct::warm:
        case FirstAct::plugsOut:
        case FirstAct::pumpUp:
            return only(in(Stage::starting), needsStart);
        }
        return {};
    }

    [[nodiscard]] std::string words(FirstAct act) const {
        const bool single = e_.engines < 2;
        switch (act) {
        case FirstAct::look:
            return stage_ == Stage::starting ? "Let it stop. Wet or dry, smoke, volts: look before another try."
                   : stage_ == Stage::low    ? "Fly the aircraft. Touch nothing that takes thrust; read its neighbours."
                   : single                  ? "Towards a field. Touch nothing yet: read its neighbours, look, smell."
                                             : "Touch nothing yet: read its neighbours, look, smell.";
        case FirstAct::ease:
            return stage_ == Stage::ground || stage_ == Stage::starting ? "Throttle back to idle; into wind."
                   : stage_ == Stage::low                               ? "Safe speed and height first; then ease it."
                   : single ? "Least power that holds height, towards a field."
                            : "Ease that engine; towards a field.";
        case FirstAct::speed:
            return "Nose down a little: more speed, less power.";
        case FirstAct::heat:
            return fmt::format("{} {}, fully, and held: worse at first, then better.", name(Acts::carburettorAir),
                               at(Acts::carburettorAir, "hot"));
        case FirstAct::coldAir:
            return fmt::format("{} {}; ease it.", name(Acts::carburettorAir), at(Acts::carburettorAir, "cold"));
        case FirstAct::otherTank:
            return fmt::format("Throttle back; {} to another tank{}; reopen slowly.", lowered(name(Acts::fuel)),
                               has(Acts::pump) ? ", " + lowered(name(Acts::pump)) + " on" : "");
        case FirstAct::booster:
            return fmt::format("{} {}.", name(Acts::pump), at(Acts::pump, "on"));
        case FirstAct::boostBack:
            return (e_.boosted ? std::string("Boost back") : std::string("Throttle back")) + rich() +
                   (e_.hub == Hub::oil || e_.hub == Hub::electric ? ". Not rpm down." : ".");
        case FirstAct::rich:
            return fmt::format("{} rich; ease it.", name(Acts::mixture));
        case FirstAct::lean:
            return fmt::format("{}{} back by hand until it is smooth.",
                               has(Acts::primer) ? name(Acts::primer) + " locked; " : "",
                               has(Acts::primer) ? lowered(name(Acts::mixture)) : name(Acts::mixture));
        case FirstAct::lowGear:
            return fmt::format("{}, {} low; stay there.", "Boost back" + rich(), lowered(name(Acts::gear)));
        case FirstAct::dryBoost:
            return "Boost back to the dry figure at once.";
        case FirstAct::openCooler:
            return fmt::format("{} open by hand; more speed, less power.", name(Acts::oilCooler));
        case FirstAct::shutCooler:
            return fmt::format("{} shut: shut, it thaws; then warmer air, lower.", name(Acts::oilCooler));
        case FirstAct::openFlap:
            return fmt::format("{} open by hand; more speed, less power.", name(Acts::coolingFlap));
        case FirstAct::governorBack:
            return stage_ == Stage::low
                       ? "Keep safe speed. Throttle back only to hold the limit, climb; then the lever."
                   : stage_ == Stage::ground || stage_ == Stage::starting
                       ? "Throttle closed. Do not go."
                       : "Throttle and speed back, then the propeller lever" +
                             std::string(e_.hub == Hub::electric ? ", then its manual switch." : ".");
        case FirstAct::holdRpm:
            return "Hold the rpm by throttle and speed.";
        case FirstAct::byHand:
            return "Throttle by hand, no further than the gauge allows.";
        case FirstAct::turboBack:
            return fmt::format("{} back slowly, then the throttle.", name(Acts::turbo));
        case FirstAct::setByFlow:
            return n_.gauges.contains(Gauge::fuelFlow) ? "Set it by rpm and fuel flow; add no throttle."
                   : single                            ? "Set it by rpm and speed; add no throttle."
                                                       : "Set it by rpm and as the others stand; add no throttle.";
        case FirstAct::byEar:
            return single ? "Set it by ear and by speed."
                          : "Set it by ear, by the beat with the others. Never feather for it.";
        case FirstAct::directNeedles:
            return "Fly by the needles that read directly.";
        case FirstAct::shedLoad:
            return e_.feathers && e_.engines > 1 ? "Shed load; keep the charge for feathering."
                                                 : "Shed load; the battery is all there is.";
        case FirstAct::burst:
            return "A short burst of power, into wind; check once more.";
        case FirstAct::doNotGo:
            return "Do not go. Stop it; a licensed engineer looks.";
        case FirstAct::stopNow:
            return fmt::format("Stop it now: {}.", stopping());
        case FirstAct::shutDown:
            return e_.feathers            ? "Shut it down and feather it."
                   : e_.hub == Hub::fixed ? "Shut it down; slow down, its blades drag."
                                          : "Shut it down: full coarse, slow down.";
        case FirstAct::fuelOff:
            if (stage_ == Stage::starting || stage_ == Stage::ground)
                return fmt::format("Stop cranking. {} off, ignition off; out, upwind.", name(Acts::fuel));
            return fmt::format("{} off{}. {}", name(Acts::fuel), has(Acts::pump) ? ", no booster" : "",
                               single        ? "Glide: a field, or height to bale out."
                               : e_.feathers ? "Shut it down, feather it."
                                             : "Shut it down.");
        case FirstAct::engineDrill:
            return single ? "Speed for the glide; a field; then one try: the drill."
                          : "Speed first. All rich, all up; then which one: the drill.";
        case FirstAct::drawIn:
            return fmt::format("Keep it turning: {} off, throttle open; it is drawn in.", lowered(name(Acts::fuel)));
        case FirstAct::prime:
            return fmt::format("Half a dose more{}, once.", n_.start.primer.empty() ? "" : " of the primer");
        case FirstAct::clear:
            return fmt::format("Clear it: ignition off, {}, throttle open, {}.", fuelShut(),
                               c_.clearBlades ? fmt::format("{:.0f} blades (model)", *c_.clearBlades)
                                              : "turn it through");
        case FirstAct::checkFuel:
            return fmt::format("{} on{}; then prime.", name(Acts::fuel),
                               has(Acts::pump) ? ", " + lowered(name(Acts::pump)) + " to pressure" : "");
        case FirstAct::checkSpark:
            return fmt::format("Ignition off; look at the switch{} and their leads.",
                               has(Acts::boosterCoil) ? ", the " + lowered(name(Acts::boosterCoil)) : "");
        case FirstAct::warm:
            return "Stop trying: warm oil and cylinders first.";
        case FirstAct::rest:
            return fmt::format("Starter off; rest it {}. Then a cart, or another battery.",
                               formatMinutesSeconds(n_.start.rest.si()));
        case FirstAct::plugsOut:
            return "Stop. Ignition off; plugs out of the lowest cylinders. Never bump it, never turn it back.";
        case FirstAct::fuse:
            return "Starter off. One new fuse of the same size, once.";
        case FirstAct::nextCartridge:
            return "Ignition off; wait, breech shut; then the next cartridge.";
        case FirstAct::fillBottle:
            return "Starting air shut; fill the bottle before another try.";
        case FirstAct::pumpUp:
            return fmt::format("{}No prime, throttle wider.",
                               has(Acts::pump) ? name(Acts::pump) + " to pressure. " : "");
        case FirstAct::supplyOff:
            return "Its supply off, cart and battery; then stop the engine.";
        }
        return {};
    }

private:
    [[nodiscard]] bool has(Acts acts) const { return cockpit::acting(n_.controls, acts) != nullptr; }
    [[nodiscard]] std::string name(Acts acts) const {
        const Control* c = cockpit::acting(n_.controls, acts);
        return c ? c->name : std::string(rowOf(acts).name);
    }
    /// Within a sentence: its first letter small where the rest of the word is.
    static std::string lowered(std::string words) {
        if (words.size() > 1 && words[1] >= 'a' && words[1] <= 'z' && words[0] >= 'A' && words[0] <= 'Z')
            words[0] = static_cast<char>(words[0] - 'A' + 'a');
        return words;
    }
    /// A position as it is engraved.
    [[nodiscard]] std::string at(Acts acts, std::string_view is) const {
        const Control* c = cockpit::acting(n_.controls, acts);
        const ControlPosition* p = c ? c->position(is) : nullptr;
        return p && !p->name.empty() ? p->name : std::string(is);
    }
    [[nodiscard]] std::string rich() const {
        return has(Acts::mixture) ? ", " + lowered(name(Acts::mixture)) + " rich" : std::string();
    }
    [[nodiscard]] std::string stopping() const {
        if (has(Acts::cutOut))
            return lowered(name(Acts::cutOut)) + " " + at(Acts::cutOut, "pulled");
        if (const Control* c = cockpit::acting(n_.controls, Acts::mixture); c && c->position("cut-off"))
            return lowered(c->name) + " " + at(Acts::mixture, "cut-off");
        return "ignition off, " + lowered(name(Acts::fuel)) + " off";
    }
    [[nodiscard]] std::string fuelShut() const {
        if (const Control* c = cockpit::acting(n_.controls, Acts::mixture); c && c->position("cut-off"))
            return lowered(c->name) + " " + at(Acts::mixture, "cut-off");
        return lowered(name(Acts::fuel)) + " off";
    }
    const TypeNotes& n_;
    const Context& c_;
    cockpit::Equipment e_;
    Stage stage_;
};
} // namespace

std::string impossible(FirstAct act, const TypeNotes& n, const Context& c) {
    return OnThis(n, c).wants(act);
}
std::string wordsOf(FirstAct act, const TypeNotes& n, const Context& c) {
    return OnThis(n, c).words(act);
}

std::optional<Emergency> drillOf(FirstAct act, const TypeNotes& n, const Context& c) {
    const bool single = n.engineCount() < 2;
    const Stage stage = c.stage();
    switch (act) {
    case FirstAct::engineDrill:
        return Emergency::engineFails;
    case FirstAct::shutDown:
        return n.propeller.feathers ? Emergency::feather : Emergency::engineFails;
    case FirstAct::fuelOff:
        return stage == Stage::starting || stage == Stage::ground ? Emergency::fireGround : Emergency::fireAir;
    case FirstAct::drawIn:
        return Emergency::fireStarting;
    case FirstAct::shedLoad:
        return Emergency::generatorFails;
    case FirstAct::ease:
        return single && stage == Stage::aloft ? std::optional(Emergency::engineFails) : std::nullopt;
    default:
        return std::nullopt;
    }
}

} // namespace amber::trouble
