// SPDX-License-Identifier: GPL-3.0-or-later
// What the drill of an emergency does in an order that kills: found in the acts themselves, whoever wrote them.
#include "audit/audit_trouble.h"
#include "cockpit/equipment.h"
#include "drills/drill.h"
#include "notes/standard_schools.h"
#include <algorithm>
#include <fmt/format.h>
#include <functional>

namespace amber::cockpit {
namespace {
/// One act of a drill in its order, the notes' schools taken.
struct Doing {
    Acts acts;
    std::string to;     ///< a position, or a figure's name
    bool live = false;  ///< on the engines that are left, or on all
    bool known = false; ///< on those that are left only: somebody knows which
    bool waits = false; ///< for oil pressure
    int line = 0;
};

class EmergencyAuditor {
public:
    EmergencyAuditor(const TypeNotes& n, Emergency which, const DrillNotes& drill)
        : n_(n), which_(which), drill_(drill) {
        for (const auto& step : drill.steps) {
            if (step.branch)
                continue;
            for (const auto& a : actionsInForce(step, schools::inForce(step, nameOf(which).key, {}))) {
                const Control* c = find(n.controls, a.control);
                const bool oil = a.until && a.until->gauge == Gauge::oilPressure && a.until->above;
                if (c || oil)
                    acts_.push_back({c ? c->acts : Acts::lock, c ? a.to.word : std::string(),
                                     a.engines.empty() || a.engines.front() == liveEngines,
                                     !a.engines.empty() && a.engines.front() == liveEngines, oil,
                                     step.line > 0 ? step.line : drill.line});
            }
        }
    }

    Problems run() {
        switch (which_) {
        case Emergency::engineFails:
            engineFails();
            break;
        case Emergency::fewEngines:
            onFewer();
            break;
        case Emergency::feather:
            featherOrder();
            break;
        case Emergency::restart:
            restart();
            break;
        case Emergency::dive:
            dive();
            break;
        case Emergency::fireStarting:
            starting();
            break;
        case Emergency::fireGround:
            ground();
            break;
        case Emergency::fireAir:
            inAir();
            break;
        case Emergency::fireInduction:
        case Emergency::fireStack:
        case Emergency::smoke:
        case Emergency::chargeHigh:
        case Emergency::generatorFails:
        case Emergency::wheelsStay:
        case Emergency::waterInFuel:
            break;
        }
        return std::move(out_);
    }

private:
    using Test = std::function<bool(const Doing&)>;
    static constexpr int never = 1 << 20;
    [[nodiscard]] int first(const Test& test) const {
        const auto found = std::find_if(acts_.begin(), acts_.end(), test);
        return found == acts_.end() ? never : static_cast<int>(found - acts_.begin());
    }
    [[nodiscard]] int of(Acts acts, std::string_view to) const {
        return first([&](const Doing& d) { return d.acts == acts && d.to == to; });
    }
    void say(std::string_view rule, int at, std::string what, std::string remedy) {
        std::string_view why;
        for (const auto& r : emergencyRules())
            if (r.id == rule)
                why = r.why;
        const int line = at < static_cast<int>(acts_.size()) ? acts_[static_cast<std::size_t>(at)].line : drill_.line;
        out_.push_back({n_.file, line,
                        fmt::format("trouble.{}: {} ({}): {}", nameOf(which_).key, what, rule,
                                    why.substr(0, why.size() - (why.empty() ? 0 : 1))),
                        std::move(remedy)});
    }
    [[nodiscard]] int powerOn() const {
        return first(
            [](const Doing& d) { return d.acts == Acts::throttle && d.live && d.to != "closed" && d.to != "cracked"; });
    }
    [[nodiscard]] int pitch() const {
        return first([](const Doing& d) {
            return !d.live && ((d.acts == Acts::feathering && d.to == "feathered") ||
                               (d.acts == Acts::propeller && d.to == "coarse"));
        });
    }
    [[nodiscard]] int fuelAway() const {
        return first([](const Doing& d) {
            return (d.acts == Acts::mixture && d.to == "cut-off") || (d.acts == Acts::fuel && d.to == "off");
        });
    }

    void engineFails() {
        const bool several = n_.positions.size() > 1;
        const int power = powerOn();
        const int rpm = first([](const Doing& d) { return d.acts == Acts::propeller && d.live; });
        const int rich = first([](const Doing& d) { return d.acts == Acts::mixture && d.live; });
        if (rpm != never && power < rpm)
            say("power-before-rpm", power, "boost on the live engines goes up before their rpm",
                "Rich, then rpm, then boost");
        if (rich != never && power < rich)
            say("power-before-rich", power, "boost on the live engines goes up before they are rich",
                "Rich, then rpm, then boost");
        if (!several)
            return;
        const int proved =
            first([](const Doing& d) { return d.acts == Acts::throttle && !d.live && d.to == "closed"; });
        const int chosen = first([](const Doing& d) { return d.known && d.acts == Acts::throttle; });
        if (chosen < proved)
            say("chosen-before-known", chosen, "one side's throttle moves before it is proved which engine died",
                "All engines up; then which one");
        if (pitch() < proved)
            say("not-proved", pitch(), "the propeller is feathered before its throttle is closed",
                "Close that throttle first: it proves which one");
        featherOrder();
    }
    void onFewer() {
        const int flap = of(Acts::wingFlap, "landing"), wheels = of(Acts::wheels, "down");
        if (flap != never && wheels != never && flap < wheels)
            say("full-flap-early", flap, "full flap goes down before the wheels",
                "Wheels, then flap when the field is certain");
    }
    void featherOrder() {
        const Equipment e = equipmentOf(n_);
        const int off = of(Acts::ignition, "off");
        if (e.feathers && pitch() == never)
            say("never-feathered", 0, "the propeller is not feathered", "Put the act of feathering into the drill");
        if (pitch() != never && off < pitch())
            say("ignition-before-feather", off, "the ignition goes off before the propeller is feathered",
                "Feather, then ignition when it has stopped");
        if (e.reverses && pitch() != never && of(Acts::reversing, "locked") > pitch())
            say("reverse-not-locked", pitch(), "the propeller is feathered before reverse is proved locked",
                "Lock reverse first");
    }
    void restart() {
        const int fires = of(Acts::ignition, "both"), turns = of(Acts::feathering, "normal");
        if (turns != never && fires < turns)
            say("ignition-before-turning", fires, "the ignition is on before it turns",
                "Let it turn slowly first: it may be locked");
        const int oil = first([](const Doing& d) { return d.waits; });
        const int power =
            first([](const Doing& d) { return d.acts == Acts::throttle && d.to != "closed" && d.to != "cracked"; });
        if (power < oil)
            say("power-before-oil", power, "power goes on before oil pressure is read", "Wait for the oil pressure");
    }
    void dive() {
        const int shut = of(Acts::throttle, "closed"), hot = of(Acts::carburettorAir, "hot");
        const int back = first([](const Doing& d) { return d.acts == Acts::throttle; });
        if (shut != never)
            say("shut-in-dive", shut, "the throttle is shut in a dive", "Leave it at the minimum boost of the notes");
        if (hot != never && back < hot)
            say("hot-air-late-in-dive", hot, "hot air after the throttle went back", "Hot air first");
    }
    void starting() {
        const int off =
            first([](const Doing& d) { return (d.acts == Acts::starter || d.acts == Acts::mesh) && d.to == "off"; });
        if (off != never && off < fuelAway())
            say("cranking-stopped", off, "the starter goes off before the fuel is away",
                "Keep cranking while the fuel goes off");
        if (fuelAway() == never)
            say("fire-fed", 0, "nothing shuts the fuel off", "Cut-off or cock off");
    }
    void ground() {
        const int starter = first([](const Doing& d) {
            return (d.acts == Acts::starter || d.acts == Acts::mesh || d.acts == Acts::airValve) &&
                   (d.to == "off" || d.to == "shut");
        });
        if (starter != never && starter > 0)
            say("cranking-over-pool", starter, "something goes before the starter is off", "Stop cranking first");
        if (fuelAway() == never)
            say("fire-fed", 0, "nothing shuts the fuel off", "Cut-off and cock off");
        bottleAfterFuel();
    }
    void inAir() {
        if (fuelAway() == never)
            say("fire-fed", 0, "nothing shuts the fuel off", "Cock off, then cut-off");
        bottleAfterFuel();
        const int again = first([](const Doing& d) {
            return (d.acts == Acts::ignition && (d.to == "both" || d.to == "left" || d.to == "right")) ||
                   (d.acts == Acts::starter && d.to == "on") || (d.acts == Acts::feathering && d.to == "normal");
        });
        if (again != never)
            say("restart-after-fire", again, "the engine is started again", "No restart after a fire");
    }
    void bottleAfterFuel() {
        const int bottle = of(Acts::fireBottle, "fired");
        if (bottle != never && bottle < fuelAway())
            say("bottle-before-fuel", bottle, "the bottle is fired while fuel still comes", "Fuel off first");
    }

    const TypeNotes& n_;
    Emergency which_;
    const DrillNotes& drill_;
    std::vector<Doing> acts_;
    Problems out_;
};
} // namespace

const std::vector<AuditRule>& emergencyRules() {
    static const std::vector<AuditRule> rules{
        {"power-before-rpm", "High boost on low rpm detonates."},
        {"power-before-rich", "Weak at full boost it detonates."},
        {"chosen-before-known", "In the first seconds nobody knows which one died."},
        {"not-proved", "The good one is feathered."},
        {"never-feathered", "A windmilling propeller may cost the height that is left."},
        {"ignition-before-feather", "What is left in it goes out through a hot exhaust."},
        {"reverse-not-locked", "The blades go the wrong way past fine."},
        {"full-flap-early", "It cannot be taken off again in time, and the engines left do not hold it."},
        {"ignition-before-turning", "With oil in a cylinder the first kick bends the rod."},
        {"power-before-oil", "Its bearings run dry."},
        {"shut-in-dive", "Shock cooling cracks heads, and the propeller drives the engine."},
        {"hot-air-late-in-dive", "An engine gone cold has no heat left to clear its ice."},
        {"cranking-stopped", "The fire stays in the intake and grows."},
        {"cranking-over-pool", "A starter makes sparks, a propeller fans it."},
        {"fire-fed", "A fire that is fed does not go out."},
        {"bottle-before-fuel", "It lights again, and there is no second bottle."},
        {"restart-after-fire", "What burned it burns it again."},
    };
    return rules;
}

Problems auditEmergencies(const TypeNotes& whole) {
    Problems out;
    for (const auto& [which, drill] : whole.trouble.drills) {
        auto found = EmergencyAuditor(whole, which, drill).run();
        out.insert(out.end(), found.begin(), found.end());
    }
    return out;
}

} // namespace amber::cockpit
