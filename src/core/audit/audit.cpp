// SPDX-License-Identifier: GPL-3.0-or-later
#include "audit/audit.h"
#include "audit/audit_trouble.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace amber::cockpit {
namespace {
constexpr int absent = -1;

/// A place as the notes settle it: a figure that they decide themselves is looked up.
struct Settled {
    std::string is;              ///< position; empty: not a position
    std::optional<double> value; ///< SI
    std::string figure;
};

class Auditor {
public:
    explicit Auditor(const TypeNotes& n) : n_(n), e_(equipmentOf(n)) {}

    Problems run() {
        carry(n_, {}, [&](const Change& change, const Action* act, const State& state) {
            if (act)
                doing(change, *act, state);
            else if (change.branch)
                branched(change, state);
            else
                ended(change.phase, state);
        });
        neverTouched();
        figures();
        hands();
        unwritten();
        return std::move(out_);
    }

private:
    // ---- telling
    void say(std::string_view rule, Phase phase, std::size_t step, std::string what, std::string remedy) {
        if (!said_.insert(fmt::format("{}/{}", rule, keyOf(phase))).second)
            return;
        const auto& steps = n_.phase(phase).steps;
        const int line = step < steps.size() && steps[step].line > 0 ? steps[step].line : n_.phase(phase).line;
        std::string_view why;
        for (const auto& r : auditRules())
            if (r.id == rule)
                why = r.why;
        out_.push_back({n_.file, line,
                        fmt::format("{}: {} ({}){}{}", keyOf(phase), what, rule, why.empty() ? "" : ": ",
                                    why.empty() ? why : why.substr(0, why.size() - 1)),
                        std::move(remedy)});
    }
    /// A drill written whole that says nothing of a phase leaves it to memory.
    void unwritten() {
        for (auto i = static_cast<std::size_t>(Phase::start); i < plannedPhases; ++i) {
            const auto phase = static_cast<Phase>(i);
            if (n_.phase(phase).steps.empty())
                say("nothing-written", phase, 0, "the drill is written whole and has no act here",
                    "Write its acts, or take out drill = \"whole\": the standard drill then stands under what is "
                    "written");
        }
    }
    // ---- looking
    [[nodiscard]] int indexOf(Acts acts) const {
        const Control* c = acting(n_.controls, acts);
        return c ? static_cast<int>(c - n_.controls.data()) : absent;
    }
    [[nodiscard]] bool has(Acts acts) const { return indexOf(acts) != absent; }
    [[nodiscard]] const Rating* rating(Phase phase) const { return n_.rating(n_.phase(phase).rating); }
    [[nodiscard]] std::string lowest() const {
        return n_.engine.gears.empty() ? std::string{} : n_.engine.gears.front().name;
    }
    /// The gear that a phase names, else the lowest.
    [[nodiscard]] std::string gearOf(Phase phase) const {
        const auto& gear = n_.phase(phase).gear;
        return gear.empty() ? lowest() : gear;
    }
    /// The first tank of the order that is always there.
    [[nodiscard]] std::string firstFitted() const {
        for (const auto& id : n_.fuel.order)
            for (const auto& tank : n_.fuel.tanks)
                if (tank.id == id && !tank.removable)
                    return id;
        return n_.fuel.takeOffTank;
    }
    [[nodiscard]] std::optional<double> takeOffRpm() const {
        return rating(Phase::takeOff) ? std::optional(rating(Phase::takeOff)->rpm.si()) : std::nullopt;
    }
    /// By the notes alone, before any day is planned: the plan's own figures are advice::figureOf()'s.
    [[nodiscard]] Settled settled(const Target& t, Phase phase) const {
        Settled out;
        if (t.kind == Target::Kind::position)
            out.is = t.word;
        if (t.kind == Target::Kind::quantity)
            out.value = t.si;
        if (t.kind != Target::Kind::figure)
            return out;
        out.figure = t.word;
        const auto& p = n_.phase(phase);
        if (t.word == "mixture")
            out.is = p.mixture.value_or(rating(phase) ? rating(phase)->mixture : Mixture::rich) == Mixture::rich
                         ? "rich"
                         : "weak";
        else if (t.word == "gear")
            out.is = !p.gear.empty()                       ? p.gear
                     : phase == Phase::cruise && e_.blower ? n_.engine.gears.back().name
                                                           : lowest();
        else if (t.word == "flap")
            out.value = p.coolingFlap;
        else if (t.word == "tank")
            out.is = phase == Phase::cruise && !n_.fuel.order.empty()     ? firstFitted()
                     : phase == Phase::letDown || phase == Phase::landing ? n_.fuel.landingTank
                                                                          : n_.fuel.takeOffTank;
        else if (t.word == "landing-tank")
            out.is = n_.fuel.landingTank;
        else if (t.word == "rpm" && (p.rpm || rating(phase)))
            out.value = p.rpm ? p.rpm->si() : rating(phase)->rpm.si();
        else if (t.word == "climb-rpm" && rating(Phase::climb))
            out.value = n_.phase(Phase::climb).rpm.value_or(rating(Phase::climb)->rpm).si();
        else if (t.word == "take-off-rpm" && rating(Phase::takeOff))
            out.value = rating(Phase::takeOff)->rpm.si();
        return out;
    }
    /// Where a control stands, worst engine first: true if any engine's is not as wanted.
    template <typename Wanted>
    [[nodiscard]] bool off(Acts acts, const State& s, Wanted wanted) const {
        const int i = indexOf(acts);
        if (i == absent)
            return false;
        const auto& c = n_.controls[static_cast<std::size_t>(i)];
        for (std::size_t e = 0; e < (c.each ? s.engines() : 1); ++e) {
            const Stand& stand = s.of(static_cast<std::size_t>(i), e);
            if (!wanted(settled(stand.target, stand.phase)))
                return true;
        }
        return false;
    }
    [[nodiscard]] bool stands(Acts acts, const State& s, std::string_view is) const {
        return !off(acts, s, [&](const Settled& at) { return at.is == is; });
    }
    [[nodiscard]] bool fine(const State& s, std::optional<double> least) const {
        return !off(Acts::propeller, s, [&](const Settled& at) {
            return at.is == "fine" || (least && at.value && *at.value >= *least * 0.999);
        });
    }
    [[nodiscard]] std::string called(Acts acts) const {
        const int i = indexOf(acts);
        return i == absent ? std::string(rowOf(acts).name) : n_.controls[static_cast<std::size_t>(i)].name;
    }
    void must(std::string_view rule, Acts acts, std::string_view is, const State& s, Phase phase, std::size_t step,
              const char* when) {
        if (has(acts) && !stands(acts, s, is))
            say(rule, phase, step, fmt::format("{}: not at {} {}", called(acts), is, when),
                fmt::format("Set it before, with do = [{{ {} = \"{}\" }}]",
                            n_.controls[static_cast<std::size_t>(indexOf(acts))].id, is));
    }
    [[nodiscard]] bool about(const Change& c, Acts acts) const {
        return c.control != absent && n_.controls[static_cast<std::size_t>(c.control)].acts == acts;
    }
    [[nodiscard]] const Step& stepOf(const Change& c) const { return n_.phase(c.phase).steps[c.step]; }

    // ---- each act
    void doing(const Change& c, const Action& act, const State& s) {
        const Settled to = settled(c.after, c.phase);
        if (c.phase == Phase::start)
            starting(c, act, to, s);
        if (c.phase == Phase::runUp)
            runUp(c, to, s);
        if (c.phase == Phase::takeOff)
            takeOff(c, to, s);
        if (c.phase == Phase::climb || c.phase == Phase::cruise)
            changing(c, to, s);
        if (c.phase == Phase::letDown)
            lettingDown(c, to);
        if (c.phase == Phase::stop)
            stopping(c, act, to, s);
        if (c.branch)
            goingRound(c, to, s);
        if (c.phase >= Phase::takeOff && c.phase <= Phase::landing && !c.branch) {
            if (about(c, Acts::ignition) && to.is != "both")
                say("ignition-in-flight", c.phase, c.step, fmt::format("the ignition is put to {} in the air", to.is),
                    "Take the act out");
            if (about(c, Acts::fuel) && to.is == "off")
                say("fuel-in-flight", c.phase, c.step, "the fuel cock is shut in the air", "Take the act out");
            if (about(c, Acts::mixture) && to.is == "cut-off")
                say("cut-off-in-flight", c.phase, c.step, "the mixture goes to cut-off in the air", "Take the act out");
            if (about(c, Acts::reversing) && to.is != "locked")
                say("reverse-in-flight", c.phase, c.step, "reverse is not locked in the air", "Take the act out");
            if (about(c, Acts::feathering) && to.is != "normal")
                say("feathered-in-flight", c.phase, c.step, "a propeller is feathered in the ordinary drill",
                    "It belongs to the engine failure");
        }
    }
    void starting(const Change& c, const Action& act, const Settled& to, const State& s) {
        const bool turns = (about(c, Acts::mesh) && to.is == "on") || (about(c, Acts::airValve) && to.is == "open") ||
                           (about(c, Acts::starter) && to.is == "on" && e_.starter != StarterKind::inertia);
        if (act.until && act.until->gauge == Gauge::oilPressure && act.until->above) {
            oilWatched_ = true;
            if (act.within <= 0)
                say("oil-pressure-in-time", c.phase, c.step, "oil pressure is waited for without an end",
                    "Add within = \"30 s\" as the notes give it");
        }
        if (turns && stepOf(c).id != "ignition") {
            must("hot-air-at-start", Acts::carburettorAir, "cold", s, c.phase, c.step, "when it is turned over");
            must("spark-at-start", Acts::spark, "retarded", s, c.phase, c.step, "when it is turned over");
            must("turbo-at-start", Acts::turbo, "off", s, c.phase, c.step, "when it is turned over");
            if (e_.blower)
                must("high-gear-at-start", Acts::gear, lowest(), s, c.phase, c.step, "when it is turned over");
            must("brakes-at-start", Acts::brakes, "held", s, c.phase, c.step, "when it is turned over");
            if (has(Acts::fuel) && stands(Acts::fuel, s, "off"))
                say("fuel-at-start", c.phase, c.step, "the fuel cock is still off when it is turned over",
                    "Open it before, with do = [{ fuel = \"{tank}\" }]");
            if (has(Acts::throttle) && stands(Acts::throttle, s, "open"))
                say("throttle-at-start", c.phase, c.step, "the throttle is wide open when it is turned over",
                    "Crack it only: it races as it catches");
            if (has(Acts::mixture) && e_.carburettor == Carburettor::pressureInjection &&
                !stands(Acts::mixture, s, "cut-off"))
                say("mixture-at-start", c.phase, c.step, "the mixture is not at cut-off when it is turned over",
                    "Prime starts it; rich only as it fires, or it floods");
            if (has(Acts::mixture) && e_.carburettor == Carburettor::floatWithout)
                must("mixture-at-start", Acts::mixture, "rich", s, c.phase, c.step, "when it is turned over");
            if (e_.starter == StarterKind::inertia && !energised_)
                say("mesh-before-wheel", c.phase, c.step, "it is meshed before the wheel is run up", "Energise first");
            if (act.within > 0 && act.within > n_.start.crankMost.si() * 1.001)
                say("starter-too-long", c.phase, c.step,
                    fmt::format("the starter may turn {:.0f} s where the notes allow {:.0f}", act.within,
                                n_.start.crankMost.si()),
                    "Keep within the starter's time");
        }
        energised_ = energised_ || (about(c, Acts::starter) && to.is == "on");
        if ((about(c, Acts::throttle) && to.is == "closed" && stepOf(c).id == "prime") && has(Acts::ignition) &&
            !stands(Acts::ignition, s, "off"))
            say("live-magneto", c.phase, c.step, "it is pulled through with the ignition on",
                "Ignition off, said and answered, first");
    }
    void runUp(const Change& c, const Settled& to, const State& s) {
        const bool reference = about(c, Acts::throttle) && (to.figure == "field-boost" || to.is == "open");
        if (reference) {
            if (has(Acts::propeller) && !fine(s, std::nullopt))
                say("coarse-at-reference", c.phase, c.step, "the propeller is not fine for the reference",
                    "Set it fine before: coarse it never gives the rpm");
            if (e_.blower)
                must("gear-at-reference", Acts::gear, lowest(), s, c.phase, c.step, "for the reference");
            must("hot-air-at-reference", Acts::carburettorAir, "cold", s, c.phase, c.step, "for the reference");
            must("turbo-at-reference", Acts::turbo, "off", s, c.phase, c.step, "for the reference");
            must("brakes-at-reference", Acts::brakes, "held", s, c.phase, c.step, "for the reference");
        }
        if (about(c, Acts::ignition) && (to.is == "left" || to.is == "right"))
            must("turbo-at-magnetos", Acts::turbo, "off", s, c.phase, c.step, "for the magnetos");
        if (about(c, Acts::gear) && to.is != lowest())
            raised_ = true;
    }
    void takeOff(const Change& c, const Settled& to, const State& s) {
        const bool opens = about(c, Acts::throttle) &&
                           (to.figure == "boost" || to.is == "open" || (to.figure == "rpm" && !e_.boosted));
        if (opens && !opened_) {
            opened_ = true;
            opening(c, s);
        }
        // The first reduction: boost, then rpm.
        if (about(c, Acts::throttle) && to.figure == "climb-boost")
            boostReduced_ = true;
        if (about(c, Acts::propeller) && (to.figure == "climb-rpm" || to.is == "coarse") && opened_ && !boostReduced_)
            say("rpm-before-boost", c.phase, c.step, "rpm is taken off before boost",
                "Boost first, then rpm: high boost on low rpm detonates");
    }
    void opening(const Change& c, const State& s) {
        const char* when = "when the throttle is opened for the take-off";
        must("hot-air-at-take-off", Acts::carburettorAir, "cold", s, c.phase, c.step, when);
        if (has(Acts::mixture) && rating(Phase::takeOff) && rating(Phase::takeOff)->mixture == Mixture::rich)
            must("mixture-at-take-off", Acts::mixture, "rich", s, c.phase, c.step, when);
        if (has(Acts::propeller) && !fine(s, takeOffRpm()))
            say("coarse-at-take-off", c.phase, c.step,
                "the propeller is not at take-off rpm when the throttle is opened", "Set it fine before");
        if (e_.blower)
            must("high-gear-at-take-off", Acts::gear, gearOf(Phase::takeOff), s, c.phase, c.step, when);
        must("tank-at-take-off", Acts::fuel, n_.fuel.takeOffTank, s, c.phase, c.step, when);
        must("pump-at-take-off", Acts::pump, "on", s, c.phase, c.step, when);
        must("locked-at-take-off", Acts::lock, "out", s, c.phase, c.step, when);
        must("caged-at-take-off", Acts::gyros, "free", s, c.phase, c.step, when);
        must("spark-at-take-off", Acts::spark, "advanced", s, c.phase, c.step, when);
        must("ignition-at-take-off", Acts::ignition, "both", s, c.phase, c.step, when);
        must("feathering-at-take-off", Acts::feathering, "normal", s, c.phase, c.step, when);
        must("reverse-at-take-off", Acts::reversing, "locked", s, c.phase, c.step, when);
        if (n_.start.primer != "blades")
            must("primer-at-take-off", Acts::primer, "locked", s, c.phase, c.step, when);
        must("cart-at-take-off", Acts::cart, "away", s, c.phase, c.step, when);
        must("generator-at-take-off", Acts::generator, "on", s, c.phase, c.step, when);
        must("dilution-at-take-off", Acts::dilution, "off", s, c.phase, c.step, when);
        must("starter-at-take-off", Acts::starter, "off", s, c.phase, c.step, when);
        must("flap-at-take-off", Acts::wingFlap, "take-off", s, c.phase, c.step, when);
        if (rating(Phase::takeOff) && rating(Phase::takeOff)->water)
            must("water-at-take-off", Acts::water, "on", s, c.phase, c.step, when);
        if (off(Acts::coolingFlap, s,
                [](const Settled& at) { return at.is != "shut" && at.value.value_or(1.0) > 0.05; }))
            say("cooling-at-take-off", c.phase, c.step, fmt::format("{} shut {}", called(Acts::coolingFlap), when),
                "Open it as far as the notes say");
    }
    void changing(const Change& c, const Settled& to, const State& s) {
        // More power than before: rpm first. Up a gear: the throttle back first.
        if (c.phase == Phase::climb && about(c, Acts::gear) && to.is != lowest() && e_.blower && !to.is.empty() &&
            to.figure.empty()) {
            const int throttle = indexOf(Acts::throttle);
            const auto& stand = s.of(static_cast<std::size_t>(throttle), c.engine);
            if (stand.target.word != "throttle-back" && stand.target.kind != Target::Kind::quantity &&
                stand.target.word != "closed")
                say("gear-without-throttle", c.phase, c.step, "the gear is changed up at full throttle",
                    "Throttle back first: the next gear adds its boost at once");
        }
        if (about(c, Acts::carburettorAir) && to.is == "hot" && c.phase == Phase::climb && e_.boosted)
            say("hot-air-in-climb", c.phase, c.step, "hot air is set at rated boost",
                "Hot air at high boost brings detonation; it is for lower power");
    }
    void lettingDown(const Change& c, const Settled& to) {
        if (about(c, Acts::throttle))
            throttledDown_ = true;
        if (about(c, Acts::carburettorAir) && (to.is == "hot" || to.figure == "heat") && throttledDown_)
            say("hot-air-after-throttle", c.phase, c.step, "hot air comes after the throttle has gone back",
                "Put it before: an engine gone cold has no heat left to clear its ice");
        if (about(c, Acts::turbo) && to.is == "off" && throttledDown_)
            say("turbo-after-throttle", c.phase, c.step, "the turbo goes off after the throttle",
                "Put it before the throttle");
    }
    void goingRound(const Change& c, const Settled& to, const State& s) {
        const bool opens =
            about(c, Acts::throttle) && (to.is == "open" || to.figure == "take-off-boost" || to.figure == "boost");
        if (opens && e_.hub != Hub::fixed && !fine(s, takeOffRpm())) {
            say("go-round-rpm", c.phase, c.step, "going round opens up without take-off rpm",
                "Propeller to take-off rpm first: high boost on cruise rpm detonates");
        }
    }
    void stopping(const Change& c, const Action& act, const Settled& to, const State& s) {
        const bool stops = (about(c, Acts::mixture) && to.is == "cut-off") ||
                           (about(c, Acts::cutOut) && to.is == "pulled") ||
                           (about(c, Acts::fuel) && to.is == "off" && !stopped_ && stepOf(c).id != "fuel") ||
                           (about(c, Acts::ignition) && to.is == "off" && !act.lasts && !stopped_);
        if (stops && !stopped_) {
            stopped_ = true;
            must("turbo-at-stop", Acts::turbo, "off", s, c.phase, c.step, "before the engine is stopped");
            if (n_.stop.coolBelow && !cooled_)
                say("stopped-hot", c.phase, c.step, "it is stopped without being cooled first",
                    "Idle until it is under the notes' figure, before it is cut");
        }
        if (about(c, Acts::throttle) && (act.until || to.figure == "rpm"))
            cooled_ = true;
        if (about(c, Acts::propeller)) {

            if (stopped_ && e_.hub != Hub::fixed && e_.hub != Hub::electric)
                say("parked-after-stop", c.phase, c.step, "the propeller is parked after the engine is stopped",
                    "Put it before: an oil propeller cannot move afterwards");
            else if (stopped_)
                say("parked-after-stop", c.phase, c.step, "the propeller is parked after the engine is stopped",
                    "Put it before, while it runs");
        }
        if (about(c, Acts::dilution) && to.is != "off") {
            diluted_ = true;
            dilutionStep_ = c.step;
            if (stopped_)
                say("dilution-after-stop", c.phase, c.step, "oil is diluted after the engine is stopped",
                    "Before: the pump must carry it to the bearings");
            const auto& actions = stepOf(c).actions;
            if (std::none_of(actions.begin(), actions.end(),
                             [](const Action& a) {
                                 return a.until && a.until->gauge == Gauge::oilTemperature && !a.until->above;
                             }) &&
                !oilCooled_)
                say("dilution-hot", c.phase, c.step, "oil is diluted without being under its figure first",
                    "Wait with { until = \"oil below {dilute-under}\" }: hot, the fuel boils off again");
        }
        if (act.until && act.until->gauge == Gauge::oilTemperature && !act.until->above)
            oilCooled_ = true;
        if (diluted_ && !stopped_ && about(c, Acts::throttle) && c.step != dilutionStep_ && to.is != "closed" &&
            to.is != "open")
            say("dilution-then-running", c.phase, c.step, "the engine goes on running after the dilution",
                "Dilute last, and hold it until it has stopped");
    }
    // ---- ends
    void branched(const Change& c, const State& s) {
        wentRound_ = true;
        const char* when = "after going round";
        must("go-round-mixture", Acts::mixture, "rich", s, c.phase, c.step, when);
        if (e_.blower)
            must("go-round-gear", Acts::gear, gearOf(Phase::takeOff), s, c.phase, c.step, when);
        must("go-round-air", Acts::carburettorAir, "cold", s, c.phase, c.step, when);
        if (e_.hub != Hub::fixed && !fine(s, takeOffRpm()))
            say("go-round-rpm", c.phase, c.step, "going round is done without take-off rpm",
                "Propeller to take-off rpm, then boost");
    }
    void ended(Phase phase, const State& s) {
        const std::size_t last = n_.phase(phase).steps.size();
        switch (phase) {
        case Phase::start:
            if (!oilWatched_)
                say("oil-pressure-in-time", phase, last, "no step waits for oil pressure",
                    "Add until = \"oil-pressure above {oil-pressure-least}\" with its seconds and what is done when it "
                    "does not come");
            must("starter-left-on", Acts::starter, "off", s, phase, last, "at the end of the start");
            must("starter-left-on", Acts::mesh, "off", s, phase, last, "at the end of the start");
            must("coil-left-on", Acts::boosterCoil, "off", s, phase, last, "at the end of the start");
            must("air-left-open", Acts::airValve, "shut", s, phase, last, "at the end of the start");
            must("cut-off-after-start", Acts::cutOut, "run", s, phase, last, "at the end of the start");
            must("cut-off-after-start", Acts::ignition, "both", s, phase, last, "at the end of the start");
            if (has(Acts::mixture) && stands(Acts::mixture, s, "cut-off"))
                say("cut-off-after-start", phase, last, "the mixture is never brought out of cut-off",
                    "Rich, slowly, as it fires");
            break;
        case Phase::runUp:
            must("magnetos-left", Acts::ignition, "both", s, phase, last, "at the end of the run-up");
            if (e_.blower && raised_)
                must("gear-left-high", Acts::gear, lowest(), s, phase, last, "at the end of the run-up");
            must("feathering-left", Acts::feathering, "normal", s, phase, last, "at the end of the run-up");
            must("reverse-left", Acts::reversing, "locked", s, phase, last, "at the end of the run-up");
            break;
        case Phase::takeOff:
            if (!opened_)
                say("nobody-opens", phase, last, "no step opens the throttle",
                    "Add one with do = [{ throttle = \"{boost}\" }]");
            if (has(Acts::wheels) && !stands(Acts::wheels, s, "up"))
                say("wheels-left-down", phase, last, "the wheels stay down",
                    "Add a step at the end: do = [{ wheels = \"up\" }]");
            break;
        case Phase::climb:
            if (off(Acts::coolingFlap, s,
                    [](const Settled& at) { return at.is != "shut" && at.value.value_or(1.0) > 0.01; }))
                say("cooling-in-climb", phase, last, fmt::format("{} shut in the climb", called(Acts::coolingFlap)),
                    "Open it as far as the temperatures need");
            must("water-left-on", Acts::water, "off", s, phase, last, "at the end of the climb");
            break;
        case Phase::landing: {
            const char* when = "before the landing";
            must("mixture-at-landing", Acts::mixture, "rich", s, phase, last, when);
            if (e_.blower)
                must("high-gear-at-landing", Acts::gear, gearOf(Phase::landing), s, phase, last, when);
            must("tank-at-landing", Acts::fuel, n_.fuel.landingTank, s, phase, last, when);
            must("pump-at-landing", Acts::pump, "on", s, phase, last, when);
            must("turbo-at-landing", Acts::turbo, "off", s, phase, last, when);
            must("wheels-at-landing", Acts::wheels, "down", s, phase, last, when);
            if (e_.boosted)
                must("hot-air-at-landing", Acts::carburettorAir, "cold", s, phase, last, when);
            if (!wentRound_)
                say("no-go-round", phase, last, "no step says how to go round", "Add one with branch = true");
            break;
        }
        case Phase::stop:
            if (!stopped_)
                say("never-stopped", phase, last, "no step stops the engine",
                    "Add mixture to cut-off, or the fuel cock off");
            must("ignition-left-on", Acts::ignition, "off", s, phase, last, "at the end");
            must("fuel-left-on", Acts::fuel, "off", s, phase, last, "at the end");
            must("battery-left-on", Acts::battery, "off", s, phase, last, "at the end");
            must("generator-left-on", Acts::generator, "off", s, phase, last, "at the end");
            must("dilution-left-on", Acts::dilution, "off", s, phase, last, "at the end");
            must("locks-left-out", Acts::lock, "in", s, phase, last, "at the end");
            if (diluted_ && !stopped_)
                say("dilution-then-running", phase, dilutionStep_, "the engine is diluted and not stopped",
                    "Dilute last, and hold it until it has stopped");
            break;
        default:
            break;
        }
    }
    void neverTouched() {
        std::set<int> touched;
        carry(n_, {}, [&](const Change& c, const Action*, const State&) { touched.insert(c.control); });
        for (std::size_t i = 0; i < n_.controls.size(); ++i) {
            const Control& c = n_.controls[i];
            // What only trouble or the flying itself needs.
            static const std::set<Acts> spared{Acts::fireBottle, Acts::feathering, Acts::crossfeed,
                                               Acts::transfer,   Acts::trim,       Acts::reversing,
                                               Acts::wheels,     Acts::wingFlap,   Acts::brakes};
            if (!touched.contains(static_cast<int>(i)) && !spared.contains(c.acts))
                say("nobody-sets-" + c.id, Phase::walkRound, 0, fmt::format("no step sets {}", c.name),
                    fmt::format("Add a step with do = [{{ {} = \"…\" }}], or take it out of the cockpit", c.id));
        }
    }
    /// What the notes' own figures contradict.
    void figures() {
        const Rating* climb = rating(Phase::climb);
        const auto& p = n_.phase(Phase::climb);
        if (climb && p.rpm && p.rpm->si() < climb->rpm.si() * 0.995 && e_.hub != Hub::fixed)
            say("climb-rpm-below-rating", Phase::climb, 0,
                fmt::format("the climb's boost is used at {} where its rating has {}",
                            format(p.rpm->si(), *units::rpm.spec), format(climb->rpm.si(), *units::rpm.spec)),
                "Give the rating's rpm, or a boost that belongs to the lower one");
        const auto& steps = p.steps;
        for (std::size_t i = 0; i < steps.size(); ++i)
            for (const auto& a : steps[i].actions)
                if (const Control* c = find(n_.controls, a.control); c && climb && c->acts == Acts::propeller &&
                                                                     a.to.kind == Target::Kind::quantity &&
                                                                     a.to.si < climb->rpm.si() * 0.995)
                    say("climb-rpm-below-rating", Phase::climb, i,
                        fmt::format("the propeller is set to {} where the rating of its boost has {}",
                                    format(a.to.si, *units::rpm.spec), format(climb->rpm.si(), *units::rpm.spec)),
                        "Set {rpm}");
    }
    /// Two hands each: what is held while another thing is done.
    void hands() {
        const std::size_t aboard = n_.crew.size();
        for (const auto& c : n_.controls)
            if (!c.who.empty() && c.who != "ground crew" &&
                std::find(n_.crew.begin(), n_.crew.end(), c.who) == n_.crew.end())
                say("who-is-not-aboard-" + c.id, Phase::walkRound, 0,
                    fmt::format("{} is worked by the {}, who is not of the crew", c.name, c.who),
                    "Add him to cockpit.crew, or let another work it");
        for (const auto& [phase, notes] : n_.phases)
            for (std::size_t i = 0; i < notes.steps.size(); ++i) {
                std::map<std::string, std::set<std::string>> held; // by whose hands
                for (const auto& a : notes.steps[i].actions) {
                    const Control* c = find(n_.controls, a.control);
                    if (!c)
                        continue;
                    const std::string who = c->who.empty() ? n_.crew.front() : c->who;
                    auto& his = held[who];
                    std::size_t now = his.size() + (his.contains(a.control) ? 0 : 1);
                    if (a.hold)
                        his.insert(a.control);
                    if (now > 2) {
                        std::vector<std::string> names(his.begin(), his.end());
                        say(fmt::format("three-hands-{}", notes.steps[i].id), phase, i,
                            fmt::format("{}: the {} must hold {} and move {}", notes.steps[i].what, who,
                                        fmt::join(names, ", "), c->name),
                            aboard > 1
                                ? "Give one of them to another with who = \"…\""
                                : "Latch one of them, or let it be done before or after: alone there are two hands");
                    }
                }
            }
    }

    const TypeNotes& n_;
    Equipment e_;
    Problems out_;
    std::set<std::string> said_;

    bool energised_ = false, oilWatched_ = false, raised_ = false, opened_ = false, boostReduced_ = false,
         throttledDown_ = false;
    bool wentRound_ = false, stopped_ = false, cooled_ = false, diluted_ = false, oilCooled_ = false;
    std::size_t dilutionStep_ = 0;
};
} // namespace

const std::vector<AuditRule>& auditRules() {
    static const std::vector<AuditRule> rules{
        {"hot-air-at-start", "A backfire into the warm duct burns it."},
        {"hot-air-at-reference", "Hot air makes every figure of the run-up wrong."},
        {"hot-air-at-take-off", "Hot air costs power when it is needed, and brings detonation."},
        {"hot-air-in-climb", "Hot air at high boost brings detonation."},
        {"hot-air-after-throttle", "An engine gone cold has no heat left to clear its ice."},
        {"hot-air-at-landing", "Hot air costs the power of a go-around, and brings detonation."},
        {"spark-at-start", "Advanced it kicks back."},
        {"spark-at-take-off", "Retarded it runs hot and weak."},
        {"turbo-at-start", "A backfire into a spun-up turbine breaks it."},
        {"turbo-at-reference", "The reference is the engine's own, without it."},
        {"turbo-at-magnetos", "A cut with the turbo in backfires."},
        {"turbo-after-throttle", "It must not be left spun up behind a shut throttle."},
        {"turbo-at-landing", "It over-boosts going round."},
        {"turbo-at-stop", "It runs down without oil."},
        {"high-gear-at-start", "More to turn, on clutches without oil."},
        {"gear-at-reference", "High gear takes its power before the propeller has it."},
        {"gear-left-high", "It is found high at the take-off."},
        {"high-gear-at-take-off", "Heat without power, and detonation."},
        {"high-gear-at-landing", "It over-boosts going round."},
        {"gear-without-throttle", "The boost jumps past its limit."},
        {"brakes-at-start", "The aircraft moves as soon as it fires."},
        {"brakes-at-reference", "The aircraft moves at power."},
        {"fuel-at-start", "It starts on the prime and dies."},
        {"throttle-at-start", "It races on dry bearings."},
        {"mixture-at-start", "It floods, or never fires."},
        {"mesh-before-wheel", "A still wheel turns nothing."},
        {"starter-too-long", "Past its time the motor only heats."},
        {"starter-left-on", "It burns out."},
        {"coil-left-on", "It burns out."},
        {"air-left-open", "There is nothing left for the next try."},
        {"cut-off-after-start", "It dies as the prime is used up."},
        {"live-magneto", "A pulled blade kills."},
        {"oil-pressure-in-time", "An engine without oil pressure is stopped, or lost."},
        {"coarse-at-reference", "Coarse it cannot give its rpm, and is thought sick."},
        {"coarse-at-take-off", "Full boost on low rpm detonates, and there is no thrust."},
        {"magnetos-left", "Half the sparks, and a hot late burn."},
        {"feathering-left", "It feathers at the take-off."},
        {"reverse-left", "It goes into reverse in the air."},
        {"mixture-at-take-off", "Fuel is the coolant at this power."},
        {"tank-at-take-off", "An untried or empty tank at the worst moment."},
        {"pump-at-take-off", "A failed engine pump stops it over the hedge."},
        {"locked-at-take-off", "The aircraft cannot be flown."},
        {"caged-at-take-off", "No horizon in cloud."},
        {"ignition-at-take-off", "Half the sparks, or none."},
        {"feathering-at-take-off", "It feathers as power comes."},
        {"reverse-at-take-off", "It goes into reverse in the air."},
        {"primer-at-take-off", "It draws fuel by itself and runs rich."},
        {"cart-at-take-off", "The aircraft drags it along."},
        {"generator-at-take-off", "The battery is flat by the first turn."},
        {"dilution-at-take-off", "The oil is thinned away."},
        {"starter-at-take-off", "It burns out."},
        {"flap-at-take-off", "A longer run than was reckoned."},
        {"water-at-take-off", "That boost without water detonates."},
        {"cooling-at-take-off", "Heads or coolant boil in the climb."},
        {"cooling-in-climb", "Heads or coolant boil."},
        {"nobody-opens", "A take-off needs power."},
        {"nothing-written", "What is in no drill is left out on the day."},
        {"rpm-before-boost", "High boost on low rpm detonates."},
        {"wheels-left-down", "Drag all the way up."},
        {"water-left-on", "It is gone when it is needed."},
        {"ignition-in-flight", "It stops, or burns late and hot."},
        {"fuel-in-flight", "It stops."},
        {"cut-off-in-flight", "It stops."},
        {"reverse-in-flight", "The aircraft cannot be flown."},
        {"feathered-in-flight", "It stops."},
        {"go-round-rpm", "High boost on cruise rpm detonates."},
        {"go-round-mixture", "Lean at full boost it detonates."},
        {"go-round-gear", "It over-boosts."},
        {"go-round-air", "Hot air costs the power that is wanted."},
        {"no-go-round", "It is improvised when there is no time."},
        {"mixture-at-landing", "Denser air leans it, and the go-round needs rich."},
        {"tank-at-landing", "It runs dry on the approach."},
        {"pump-at-landing", "A failed engine pump stops it on the approach."},
        {"wheels-at-landing", "The aircraft lands on its belly."},
        {"stopped-hot", "Oil bakes on the hot side."},
        {"parked-after-stop", "The propeller stays where it was."},
        {"dilution-after-stop", "The fuel lies in the tank and the bearings stay cold."},
        {"dilution-hot", "The fuel boils off again and the oil is as thick as before."},
        {"dilution-then-running", "It boils out again."},
        {"never-stopped", "It runs until the tank is dry."},
        {"ignition-left-on", "A live propeller for whoever comes next."},
        {"fuel-left-on", "It drips all night."},
        {"battery-left-on", "Flat in the morning."},
        {"generator-left-on", "It drains the battery backwards."},
        {"dilution-left-on", "It dilutes by itself at the next start."},
        {"locks-left-out", "Wind from behind breaks hinges."},
        {"climb-rpm-below-rating", "That boost on lower rpm detonates."},
    };
    return rules;
}

Problems audit(const TypeNotes& whole) {
    auto out = Auditor(whole).run();
    const auto troubles = auditEmergencies(whole);
    out.insert(out.end(), troubles.begin(), troubles.end());
    return out;
}

} // namespace amber::cockpit
