// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/drill.h"
#include "advice/figures.h"
#include "drills/drill.h"
#include "notes/lever_words.h"
#include "notes/placeholder.h"
#include "notes/standard_schools.h"
#include "trouble/dive.h"
#include "trouble/engine_out.h"
#include "trouble/few_engines.h"
#include "trouble/sheet.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <optional>

namespace amber::trouble {
namespace {
// What the notes leave out; ours.
constexpr double featherUsual = 12.0;       // s
constexpr double standsUnder = 20.0 / 60.0; // rev/s
constexpr double turnsFrom = 200.0 / 60.0;  // rev/s, of a propeller let out of feather
constexpr double lowAfterTakeOff = 250.0;   // m over the field: higher, there is a choice of fields; ours
constexpr double rolled = 100.0;            // m over the field: no longer on the runway
constexpr double warmsFor = 180.0;          // s
constexpr double warmShare = 0.5;           // of the take-off rpm

/// Fills the figures of a drill.
class Filler {
public:
    explicit Filler(const Case& at) : c_(at), n_(at.aircraft.notes) {}

    [[nodiscard]] std::string text(std::string_view words) const {
        return placeholder::filled(words, [&](std::string_view name) { return figure(name); });
    }

    /// Whether the engines left take her round again.
    [[nodiscard]] bool goesRound() const { return few().anyLeft && few().goesRound.colour() == watch::Colour::normal; }

private:
    [[nodiscard]] const LiveSetting& live() const {
        if (!live_)
            live_ = liveSetting(c_.aircraft, c_.sortie, c_.flown, c_.moment);
        return *live_;
    }
    [[nodiscard]] std::string rpm(Rotation r) const {
        return format(Rotation::si(std::round(r.si() * 6.0) / 6.0), units::rpm);
    }
    [[nodiscard]] std::string boost(std::optional<ManifoldPressure> p) const {
        return p ? format(p->si(), n_.unitOf(Gauge::boost)) : std::string("open");
    }
    [[nodiscard]] std::string speed(Speed v) const { return format(v.si(), *n_.cockpit.speed); }
    [[nodiscard]] const Rating* ratingOf(Phase phase) const { return n_.rating(n_.phase(phase).rating); }
    /// A setting of the plan: one that the pilot typed is followed here too.
    [[nodiscard]] std::string planned(Phase phase, std::string_view name) const {
        const auto f = advice::figureOf(c_.aircraft, c_.sortie, c_.flown, phase, name);
        if (!f || !f->si)
            return "open";
        return f->dimension == Dimension::rotation ? rpm(Rotation::si(*f->si)) : boost(ManifoldPressure::si(*f->si));
    }
    [[nodiscard]] std::string tank(const std::string& id) const {
        for (const auto& t : n_.fuel.tanks)
            if (t.id == id)
                return t.name;
        return "the fullest tank";
    }
    /// The fullest tank but the one that feeds now.
    [[nodiscard]] std::string otherTank() const {
        int best = -1;
        for (std::size_t i = 0; i < c_.moment.tanks.size() && i < n_.fuel.tanks.size(); ++i)
            if (static_cast<int>(i) != c_.moment.sample.tank && n_.fuel.tanks[i].kind != TankKind::transfer &&
                c_.moment.tanks[i] > 0 &&
                (best < 0 || c_.moment.tanks[i] > c_.moment.tanks[static_cast<std::size_t>(best)]))
                best = static_cast<int>(i);
        return best < 0 ? std::string("on") : n_.fuel.tanks[static_cast<std::size_t>(best)].name;
    }
    [[nodiscard]] std::string figure(std::string_view name) const {
        const auto& t = n_.trouble;
        if (name == "live-rpm")
            return rpm(live().rating->rpm);
        if (name == "live-boost") {
            const auto& l = live();
            return boost(l.boost) +
                   (l.left ? fmt::format(", max {}", formatMinutesSeconds(l.left->si())) : std::string());
        }
        if (name == "live-flap")
            return fmt::format("{:.0f} % open", 100 * live().flap);
        if (name == "take-off-rpm")
            return planned(Phase::landing, name);
        if (name == "take-off-boost")
            return planned(Phase::landing, name);
        if (name == "climb-rpm")
            return planned(Phase::takeOff, name);
        if (name == "climb-boost")
            return planned(Phase::takeOff, name);
        if (name == "safe-speed")
            return speed(live().safe);
        if (name == "best-speed")
            return speed(live().best);
        if (name == "glide-speed") {
            if (t.glideIas)
                return speed(*t.glideIas);
            if (!glide_)
                glide_ = glideFrom(c_.aircraft, c_.sortie, c_.moment).ias;
            return speed(Speed::si(std::round(glide_->si() / n_.cockpit.speed->scale) * n_.cockpit.speed->scale));
        }
        if (name == "low-gear")
            return n_.engine.gears.empty() ? std::string("low") : n_.engine.gears.front().name;
        if (name == "other-tank")
            return otherTank();
        if (name == "landing-tank")
            return tank(n_.fuel.landingTank);
        if (name == "stopped")
            return rpm(Rotation::si(standsUnder));
        if (name == "turns")
            return rpm(Rotation::si(turnsFrom));
        if (name == "feather-takes")
            return format(featherTime(n_).si(), *units::second.spec);
        if (name == "feather-before")
            return t.featherBefore ? rpm(*t.featherBefore) : std::string("the start lock's rpm");
        if (name == "oil-pressure-least")
            return format(n_.start.oilPressure.si(), n_.unitOf(Gauge::oilPressure));
        if (name == "warm-rpm") {
            const Rating* r = ratingOf(Phase::takeOff);
            return rpm(t.warmRpm.value_or(Rotation::si(warmShare * (r ? r->rpm.si() : 40.0))));
        }
        if (name == "warm-boost")
            return boost(t.warmBoost ? t.warmBoost : n_.phase(Phase::letDown).boost);
        if (name == "warm-for")
            return formatHoursOrMinutes(warmTime(n_).si());
        if (name == "dive-rpm")
            return rpm(diveRpm(n_)) + (t.diveFor ? fmt::format(" for {:.0f} s", t.diveFor->si()) : std::string());
        if (name == "dive-speed")
            return t.diveIas ? speed(*t.diveIas) : std::string("the placard's speed");
        if (name == "held-speed")
            return speed(few().anyLeft ? few().held : live().safe);
        if (name == "commit-height")
            return few().commit ? lowHeight(few().commit->si(), n_.cockpit) + " over the field: below it, land"
                   : few().pumpLost && few().wheels && few().goesRound.colour() == watch::Colour::normal
                       ? std::string("as the wheels go down: they do not come up again")
                       : std::string("none: the first approach must come off");
        if (name == "taxi-so")
            return few().oneSide ? "stop, wait to be towed: one side alone turns the aircraft"
                                 : "taxi on the engines left, brakes spared";
        if (name == "dive-boost")
            return boost(diveBoost(n_));
        return {};
    }

    [[nodiscard]] const FewEngines& few() const {
        if (!few_)
            few_ = fewEngines(c_.aircraft, c_.sortie, c_.flown, c_.dead);
        return *few_;
    }

    const Case& c_;
    const TypeNotes& n_;
    mutable std::optional<FewEngines> few_;
    mutable std::optional<LiveSetting> live_;
    mutable std::optional<Speed> glide_;
};

/// "Throttle, Starboard", "Throttles of the others", "Throttles".
std::string nameOf(const Control& c, const Action& a, const Case& at) {
    const auto& positions = at.aircraft.notes.positions;
    if (positions.size() < 2 || !c.each)
        return c.name;
    const auto listed = [&](bool dead) {
        std::vector<std::string> out;
        for (std::size_t i = 0; i < positions.size(); ++i)
            if ((std::find(at.dead.begin(), at.dead.end(), i) != at.dead.end()) == dead)
                out.push_back(positions[i].name);
        return out;
    };
    const std::string who = a.engines.empty() ? std::string() : a.engines.front();
    if (who.empty())
        return c.name + ", all";
    std::vector<std::string> names;
    if (who == failedEngines)
        names = listed(true);
    else if (who == liveEngines)
        names = listed(false);
    else
        for (const auto& id : a.engines)
            for (const auto& p : positions)
                if (p.id == id)
                    names.push_back(p.name);
    if (names.empty())
        return c.name;
    return fmt::format("{}, {}", c.name, fmt::join(names, ", "));
}

void append(EmergencyDrill& out, const Step& step, const School* school, const Case& at,
            const std::function<std::string(std::string_view)>& fill) {
    const TypeNotes& n = at.aircraft.notes;
    DrillLine line;
    line.step = step.id;
    line.at = fill(step.at);
    line.memory = step.memory;
    line.gate = step.branch && step.memory;
    line.origin = step.origin;
    for (const auto& s : step.schools) {
        line.schools.push_back(s);
        if (&s == school)
            line.school = static_cast<int>(line.schools.size()) - 1;
    }
    const auto push = [&](std::string what, std::string set) {
        line.what = std::move(what);
        line.set = std::move(set);
        line.first = out.lines.empty() || out.lines.back().step != step.id;
        line.why = line.first ? step.why : std::string();
        line.skipped = line.first ? step.skipped : std::string();
        line.caution = line.first ? step.caution : std::string();
        out.lines.push_back(line);
    };
    const auto& actions = cockpit::actionsInForce(step, school);
    // Words of the notes' own, or a step without acts: one line.
    const std::string own = cockpit::wordsOf(step, step.actions, n.controls, n);
    if (actions.empty() || (step.set != own && !step.set.empty() && !(school && school->actions))) {
        if (!step.set.empty())
            push(fill(step.what), fill(step.set));
        return;
    }
    // A step of several acts, or one that is not named after its control, says what it is about.
    const Control* only = actions.size() == 1 ? cockpit::find(n.controls, actions.front().control) : nullptr;
    const bool named = std::all_of(actions.begin(), actions.end(), [&](const Action& a) {
        const Control* c = cockpit::find(n.controls, a.control);
        return !c || c->name == step.what;
    });
    line.group = named || only ? std::string() : fill(step.what);
    for (const auto& a : actions) {
        const Control* c = cockpit::find(n.controls, a.control);
        Step asControl;
        asControl.what = c ? c->name : step.what;
        auto words = fill(cockpit::wordsOf(a, asControl, n.controls, n));
        if (a.hold)
            words += ", held";
        if (a.until && a.until->gauge == Gauge::rpm)
            words +=
                fmt::format(", until rpm {} {}", a.until->above ? "over" : "under",
                            a.until->level.kind == Target::Kind::figure ? fill("{" + a.until->level.word + "}")
                                                                        : format(a.until->level.si, *units::rpm.spec));
        if (!words.empty())
            push(!c               ? fill(step.what)
                 : only && !named ? fmt::format("{}: {}", fill(step.what), inSentence(nameOf(*c, a, at)))
                                  : nameOf(*c, a, at),
                 std::move(words));
    }
}
} // namespace

Duration featherTime(const TypeNotes& n) {
    return n.trouble.featherTakes.value_or(Duration::si(featherUsual));
}
Duration warmTime(const TypeNotes& n) {
    return n.trouble.warmFor.value_or(Duration::si(warmsFor));
}

EmergencyDrill drillOf(const Case& at, Emergency emergency) {
    const TypeNotes& n = at.aircraft.notes;
    EmergencyDrill out;
    out.emergency = emergency;
    out.title = amber::nameOf(emergency).title;
    const Filler filler(at);
    const auto fill = [&](std::string_view words) { return filler.text(words); };
    out.cautions = cautionsOf(n, emergency);
    if (const auto drill = n.trouble.drills.find(emergency); drill != n.trouble.drills.end()) {
        for (const auto& step : drill->second.steps)
            if (!(emergency == Emergency::fewEngines &&
                  (at.dead.size() >= n.positions.size() || (step.id == "round" && !filler.goesRound()))) &&
                !((step.id == "rolling" && at.moment.flying && at.moment.aboveField.si() > rolled) || // long past it
                  (step.id == "low" && at.moment.flying && at.moment.aboveField.si() > lowAfterTakeOff)))
                append(out, step, schools::inForce(step, amber::nameOf(emergency).key, at.sortie.choices), at, fill);
        out.cautions.insert(out.cautions.end(), drill->second.cautions.begin(), drill->second.cautions.end());
    }
    return out;
}

EmergencyDrill goRoundDrill(const Case& at) {
    const TypeNotes& n = at.aircraft.notes;
    EmergencyDrill out;
    out.title = "Going round";
    out.cautions = goRoundCautions();
    const auto fill = [&](std::string_view words) {
        return placeholder::filled(words, [&](std::string_view name) -> std::string {
            const auto f = advice::figureOf(at.aircraft, at.sortie, at.flown, Phase::landing, name);
            if (!f)
                return std::string(name);
            if (!f->position.empty())
                return f->position;
            if (f->share)
                return fmt::format("{:.0f} % open", 100 * *f->share);
            if (!f->si)
                return std::string(name);
            return f->dimension == Dimension::manifoldPressure ? format(*f->si, n.unitOf(Gauge::boost))
                   : f->dimension == Dimension::rotation ? format(std::round(*f->si * 6.0) / 6.0, *units::rpm.spec)
                   : f->dimension == Dimension::speed    ? format(*f->si, *n.cockpit.speed)
                                                         : format(*f->si, *units::second.spec);
        });
    };
    for (const auto& step : n.phase(Phase::landing).steps)
        if (step.branch) {
            Step told = step;
            if (!told.actions.empty()) // act by act, whatever the one line says
                told.set = cockpit::wordsOf(told, told.actions, n.controls, n);
            append(out, told, schools::inForce(step, Phase::landing, at.sortie.choices), at, fill);
        }
    return out;
}

std::vector<std::string> cautionsOf(const TypeNotes& n, Emergency emergency) {
    const bool several = n.positions.size() > 1;
    switch (emergency) {
    case Emergency::engineFails:
        return several ? std::vector<
                             std::string>{"Never slower than the safe speed on fewer engines: rudder runs out before "
                                          "the wing does.",
                                          "The approved manual and its drill come first; figures here are a model's."}
                       : std::vector<std::string>{
                             "Land ahead: no turn back low down.",
                             "The approved manual and its drill come first; figures here are a model's."};
    case Emergency::fewEngines:
        return {"Never slower than the safe speed before the commitment height.",
                "Practise it with zero thrust, not with a dead engine low down; the approved manual comes first."};
    case Emergency::feather:
        return {"Feather the engine that is confirmed, not the one that is suspected.",
                "A propeller that turns, or has turned, is live: the approved manual comes first."};
    case Emergency::restart:
        return {"Never after a fire or unknown damage; never force what does not turn.",
                "Cold oil does not feather again: height for a second failure first."};
    case Emergency::dive:
        return {"Shock cooling cracks heads minutes later: power comes back by steps.",
                "Placards of speed and rpm come before any figure here."};
    case Emergency::fireStarting:
    case Emergency::fireGround:
        return {"Fire guard at every start, bottle in hand, briefed; the propeller is live, burning or not.",
                "Nobody goes near the propeller until it stands and the ignition is off."};
    case Emergency::fireAir:
        return {"Never a restart after a fire.", "The approved manual's fire drill comes first."};
    case Emergency::fireStack:
        return {"Fire guard at every start; nobody near the propeller."};
    case Emergency::smoke:
        return {"Smoke or fumes: oxygen where there is any; carbon monoxide has no smell."};
    case Emergency::chargeHigh:
        return {"Detonation is not heard under a headset: the needles tell it."};
    case Emergency::generatorFails:
        return {"The type's own order of loads comes first."};
    case Emergency::wheelsStay:
        return {"Emergency lowering is the type's own: what it does is not undone aloft."};
    case Emergency::waterInFuel:
        return {"Not sure it is water: hot air first where ice is possible; both are little harm."};
    case Emergency::fireInduction:
        return {"A casing that burns is minutes from breaking: be ready for the drill in the air."};
    }
    return {};
}

std::vector<std::string> goRoundCautions() {
    return {"Full-throttle seconds count: they are the take-off rating's.",
            "Ice: hot air that was in before the throttle went back comes out with care, as the notes say.",
            "Rpm before boost, always."};
}

} // namespace amber::trouble
