// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/describer.h"
#include "drills/cautions.h"
#include "drills/state.h"
#include "flight/taught.h"
#include "loading/load_sheet.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "notes/placeholder.h"
#include "notes/standard_schools.h"
#include "plan/dial.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::plan {
namespace {
constexpr double leastChore = 300.0; // s: what comes round oftener has no marks, only its line
}

Plan Describer::run() {
    Plan plan;
    plan.walk = words_.walk();
    plan.startInForce = words_.inForce();
    plan.prime = words_.prime();
    plan.burn = a_.model().burn;
    plan.startSequence = words_.sequence();
    plan.orders = words_.orders();
    plan.title = s_.title;
    plan.aircraft = n_.name;
    if (!s_.airframe.registration.empty())
        plan.aircraft += fmt::format(" “{}”", s_.airframe.registration);
    for (const auto& v : n_.variants)
        if (v.id == n_.variant)
            plan.aircraft += ", " + v.name;
    plan.route = s_.day.field + (s_.flight.over.empty() ? "" : " → " + s_.flight.over) + " → " + s_.flight.to;
    plan.dayLine = fmt::format("pressure {} · pressure altitude {} · density altitude {} · ISA {}",
                               format(s_.day.fieldPressure().si(), *units::hPa.spec), height(s_.day.pressureAltitude()),
                               height(s_.day.densityAltitude()),
                               fmt::format("{} °C", formatNumber(s_.day.deviation().si(), 0, true)));
    plan.runUpSheet = watch::runUpSheet(n_, s_.runUpFound, flight::runUpDay(s_, f_));
    sheet_ = &plan.runUpSheet;
    findStanding();
    for (std::size_t i = 0; i < plannedPhases; ++i)
        plan.phases.push_back(describe(static_cast<Phase>(i)));
    marks(plan);
    return plan;
}

PhasePlan Describer::describe(Phase phase) {
    const flight::PhaseFlown& flown = f_[phase];
    const PhaseNotes& notes = n_.phase(phase);
    PhasePlan p;
    p.phase = phase;
    p.start = flown.start;
    p.duration = flown.duration;
    p.fuel = flown.fuel;
    if (phase == Phase::takeOff)
        p.spoken = brief();
    p.cautions = notes.cautions;
    for (auto& common : cockpit::standardCautions(n_, phase))
        p.cautions.push_back(std::move(common));
    if (auto ours = estimatesOf(phase); !ours.empty())
        p.cautions.push_back(std::move(ours));
    if (phase == Phase::walkRound && s_.airframe.facts)
        for (const auto& d : s_.airframe.facts->defects)
            p.cautions.push_back(fmt::format("Carried on this airframe{}: {}{}.",
                                             d.since.empty() ? "" : " since " + d.since, d.what,
                                             d.stops ? "; it does not fly with it" : ""));
    if (phase == Phase::walkRound)
        for (auto& line : taughtWords())
            p.cautions.push_back(std::move(line));
    for (const Step& step : notes.steps) {
        const auto height = advice::heightOfStep(a_, s_, f_, phase, step);
        if (!standing_.contains({phase, step.id}) && !(height && std::isnan(*height))) // no change, no act at it
            p.set.push_back(setLine(phase, step));
    }
    gather(p.set);
    if (const auto line = asItStands(phase))
        p.set.push_back(*line);
    expectations(phase, p);
    for (auto& line : p.expect)
        needles(line, phase);
    clocks(phase, p);
    for (auto& c : p.clocks)
        if (c.origin == Origin::notes && !n_.estimated.empty() && n_.isEstimated(phase, c.fact.id))
            c.origin = Origin::ours;
    for (const auto& finding : f_.findings)
        if (finding.phase == phase)
            p.remarks.push_back(finding);
    words_.remarks(phase, p);
    p.headline = headline(phase, p);
    const auto worse = [&](const watch::Verdict& verdict) {
        if (verdict.colour() > p.worst.colour())
            p.worst = verdict;
    };
    for (const auto& e : p.expect)
        worse(e.verdict);
    for (const auto& r : p.remarks)
        worse(r.verdict);
    for (const auto& c : p.clocks)
        worse(c.verdict);
    return p;
}

std::vector<std::string> Describer::taughtWords() const {
    std::vector<std::string> out;
    const auto told = [&](const char* before, const std::vector<const LearntLine*>& lines, const char* after) {
        std::string words;
        for (const auto* l : lines)
            words += (words.empty() ? "" : "; ") + fmt::format("{} ({} runs)", flight::wordsOf(*l, n_), l->runs);
        if (!words.empty())
            out.push_back(before + words + after);
    };
    told("Planned with what the log has taught of this airframe: ", flight::inForce(a_, s_), ".");
    told("Not planned with, for notes or models have changed since: ", flight::outdated(a_, s_),
         ". Have it reckoned again in Record, Learnt.");
    return out;
}

void Describer::needles(ExpectLine& line, Phase phase) const {
    std::string shown;
    for (std::size_t i = 0; i < a_.learnt.size() && i < n_.positions.size(); ++i)
        for (const auto& offset : a_.learnt[i].offsets) {
            if (offset.gauge != line.gauge)
                continue;
            Needle needle;
            needle.engine = n_.positions[i].id;
            needle.name = n_.engineCount() > 1 ? n_.positions[i].name : "the needle";
            needle.value = watch::asRead(n_, line.gauge, line.value + offset.by);
            if (needle.value == line.value)
                continue;
            needle.text = format(needle.value, n_.unitOf(line.gauge));
            needle.verdict =
                watch::judge(n_, line.gauge, phase, needle.value,
                             n_.engineCount() > 1 ? " On " + n_.positions[i].name + "'s needle." : std::string());
            // Never looser than without: a needle that reads less takes no colour away.
            if (needle.verdict.colour() > line.verdict.colour())
                line.verdict = needle.verdict;
            shown += fmt::format("{}{} {} ({})", shown.empty() ? "; " : ", ", needle.name, needle.text,
                                 markOf(Origin::logged));
            line.needles.push_back(std::move(needle));
        }
    line.moment += shown;
}

std::string Describer::estimatesOf(Phase phase) const {
    struct Section {
        std::string_view begins;
        Phase phase;
    };
    static constexpr std::array<Section, 14> sections{{{"engine_start.", Phase::start},
                                                       {"start.", Phase::start},
                                                       {"warming.", Phase::warmUp},
                                                       {"warm-up.", Phase::warmUp},
                                                       {"run-up.", Phase::runUp},
                                                       {"take-off.", Phase::takeOff},
                                                       {"climb.", Phase::climb},
                                                       {"gear_change.", Phase::climb},
                                                       {"heat.", Phase::climb},
                                                       {"engine.", Phase::climb},
                                                       {"cruise.", Phase::cruise},
                                                       {"let-down.", Phase::letDown},
                                                       {"landing.", Phase::landing},
                                                       {"cooling_down.", Phase::stop}}};
    std::string out;
    for (const auto& e : n_.estimated)
        for (const auto& section : sections)
            if (e.path.starts_with(section.begins) && section.phase == phase) {
                std::string name = e.path.substr(section.begins.size());
                std::replace_if(
                    name.begin(), name.end(), [](char c) { return c == '_' || c == '.'; }, ' ');
                out += fmt::format("{}{} {}", out.empty() ? "" : ", ", name, e.text);
                break;
            }
    return out.empty() ? out : "Ours, not from these notes: " + out + ".";
}

void Describer::findStanding() {
    if (n_.format == 1)
        return;
    std::set<std::pair<Phase, std::size_t>> moved;
    cockpit::carry(n_, s_.choices, [&](const cockpit::Change& c, const Action* act, const cockpit::State&) {
        if (act && (c.control < 0 || act->lasts || act->until || act->over > 0 || c.before != c.after))
            moved.insert({c.phase, c.step});
    });
    for (const auto& [phase, notes] : n_.phases)
        for (std::size_t i = 0; i < notes.steps.size(); ++i) {
            const Step& s = notes.steps[i];
            // What the notes say themselves, what can be chosen, and a figure are always told.
            if (s.origin == Origin::practice && !s.actions.empty() && !s.branch && (s.schools.empty() || !s.open) &&
                s.set.find('{') == std::string::npos && !moved.contains({phase, i}))
                standing_.insert({phase, s.id});
        }
}

void Describer::gather(std::vector<SetLine>& set) {
    constexpr std::size_t many = 10, several = 3;
    if (set.size() < many)
        return;
    const auto plain = [](const SetLine& s) {
        return s.origin == Origin::practice && s.schools.empty() && s.at.empty() && !s.reversed && s.skipped.empty() &&
               s.value.size() < 44;
    };
    std::vector<SetLine> out;
    for (std::size_t i = 0; i < set.size();) {
        std::size_t end = i;
        while (end < set.size() && plain(set[end]))
            ++end;
        if (end - i < several) {
            end = std::max(end, i + 1);
            out.insert(out.end(), set.begin() + static_cast<std::ptrdiff_t>(i),
                       set.begin() + static_cast<std::ptrdiff_t>(end));
        } else {
            SetLine line = set[i];
            line.what = "In order";
            line.value.clear();
            line.why.clear();
            line.sense.clear();
            line.figures.clear();
            for (std::size_t k = i; k < end; ++k) {
                line.figures.insert(line.figures.end(), set[k].figures.begin(), set[k].figures.end());
                line.value += (k == i ? "" : " · ") + inSentence(set[k].what) + " " + set[k].value;
                line.why += (k == i ? "" : " ") + set[k].what + ": " + set[k].why;
            }
            out.push_back(std::move(line));
        }
        i = end;
    }
    set = std::move(out);
}

std::optional<SetLine> Describer::asItStands(Phase phase) const {
    SetLine line;
    line.stepId = "as-it-stands";
    line.what = "As it stands";
    line.origin = Origin::practice;
    line.why = "Set before and not to be moved: looked at, each by its name.";
    for (const Step& step : n_.phase(phase).steps)
        if (standing_.contains({phase, step.id})) {
            const SetLine one = setLine(phase, step);
            const std::string told = inSentence(one.what) + " " + one.value;
            if (line.value.find(told) == std::string::npos)
                line.value += (line.value.empty() ? "" : " · ") + told;
        }
    return line.value.empty() ? std::nullopt : std::optional(line);
}

SetLine Describer::setLine(Phase phase, const Step& step) const {
    SetLine line;
    line.stepId = step.id;
    line.what = step.what;
    line.why = step.why;
    line.skipped = step.skipped;
    line.job = step.job;
    line.open = step.open;
    for (const auto& lever : n_.levers)
        if (lever.name == step.what) {
            line.sense = lever.sense;
            line.reversed = lever.reversed;
        }
    // Whose hand, where it is not the pilot's.
    for (const auto& act : step.actions)
        if (const Control* c = cockpit::find(n_.controls, act.control); c && !c->who.empty() && n_.crew.size() > 1) {
            line.sense += (line.sense.empty() ? "" : " · ") + c->who;
            break;
        }
    const auto fill = [&](const std::string& text, Origin& origin, std::vector<SetFigure>* figures = nullptr) {
        return placeholder::filled(text, [&](std::string_view name) {
            const Filled value = figure(phase, name);
            origin = together(origin, value.origin);
            for (std::size_t i = 0; figures && i < value.facts.size(); ++i)
                figures->push_back({value.facts[i], value.origin});
            return value.text;
        });
    };
    std::string set = step.set;
    line.schools = step.schools;
    if (const School* school = schools::inForce(step, phase, s_.choices))
        line.school = static_cast<int>(school - step.schools.data());
    if (phase == Phase::start && step.schools.empty() && n_.positions.size() > 1 &&
        step.set.find("{order}") != std::string::npos)
        for (const auto& o : words_.orders()) {
            if (o.wanted)
                line.school = static_cast<int>(line.schools.size());
            line.schools.push_back(
                {o.named.name, step.set, o.named.reason, o.named.risk, o.named.order == n_.start.order, {}, {}});
            line.ordersOffered = line.open = true;
        }
    if (line.school >= 0 && !line.ordersOffered)
        set = step.schools[static_cast<std::size_t>(line.school)].set;
    // Said by the notes or by nobody's notes; a figure in it tells where it comes from itself.
    if (step.origin == Origin::practice && placeholder::namesIn(set).empty())
        line.origin = Origin::practice;
    line.value = fill(set, line.origin, &line.figures);
    Origin ignored = Origin::notes;
    if (step.at != "{change-height}") // the step before it names the height
        line.at = fill(step.at, ignored);
    for (auto& school : line.schools)
        school.set = fill(school.set, ignored);
    return line;
}

void Describer::expect(PhasePlan& p, Gauge gauge, double value, Origin origin, const char* moment) const {
    const auto found = n_.gauges.find(gauge);
    if (found == n_.gauges.end())
        return;
    ExpectLine line;
    line.gauge = gauge;
    line.title = nameOf(gauge).title;
    // What the needle can show: judged as read, so that the words and the colour agree.
    const UnitSpec& unit = n_.unitOf(gauge);
    line.value = watch::asRead(n_, gauge, value);
    line.text = format(line.value, unit);
    line.moment = moment;
    line.origin = origin;
    line.band = found->second.in(p.phase);
    line.scale = dialOf(found->second, line.value);
    line.verdict = watch::judge(n_, gauge, p.phase, line.value);
    p.expect.push_back(std::move(line));
}

void Describer::expectations(Phase phase, PhasePlan& p) const {
    if (phase == Phase::walkRound)
        return;
    const flight::PhaseFlown& flown = f_[phase];
    // Highest and lowest of every gauge while the engine runs.
    Readings high, low;
    const flight::Sample* last = nullptr;
    for (std::size_t i = flown.firstSample; i <= flown.lastSample; ++i) {
        const flight::Sample& m = f_.samples[i];
        if (m[Gauge::rpm] <= 0)
            continue;
        for (const auto& row : gaugeRegister) {
            high[row.gauge] = std::fmax(high[row.gauge], m[row.gauge]);
            low[row.gauge] = std::fmin(low[row.gauge], m[row.gauge]);
        }
        last = &m;
    }
    if (!last)
        return;
    const bool descending = phase == Phase::letDown || phase == Phase::landing;
    const bool warming = phase == Phase::start || phase == Phase::warmUp;
    const bool settled = phase == Phase::cruise;
    const Gauge headOrCoolant = headOrCoolantGauge(n_);
    const flight::Sample& first = f_.samples[flown.firstSample];
    expect(p, Gauge::boost,
           phase == Phase::runUp || phase == Phase::cruise ? f_[phase].point.manifoldPressure.si() : high[Gauge::boost],
           phase >= Phase::takeOff && phase <= Phase::landing && !f_[phase].point.fullThrottle
               ? f_[phase].setting.boostOrigin
               : Origin::model,
           phase == Phase::runUp ? "at the reference" : "highest");
    expect(p, Gauge::rpm, high[Gauge::rpm],
           phase == Phase::runUp ? Origin::model : advice::figureOf(a_, s_, f_, phase, "rpm")->origin, "highest");
    if (descending)
        expect(p, headOrCoolant, low.headOrCoolant(), Origin::model, "lowest");
    else if (phase == Phase::stop)
        expect(p, headOrCoolant, last->headOrCoolant(), Origin::model, "when stopped");
    else if (warming)
        expect(p, headOrCoolant, last->headOrCoolant(), Origin::model, "at the end");
    else if (settled)
        expect(p, headOrCoolant, last->headOrCoolant(), Origin::model, "settled");
    else if (phase == Phase::takeOff && worstIsFirst(headOrCoolant, phase, first.headOrCoolant(), high.headOrCoolant()))
        expect(p, headOrCoolant, first.headOrCoolant(), Origin::model, "before opening up");
    else
        expect(p, headOrCoolant, high.headOrCoolant(), Origin::model, "highest");
    if (phase == Phase::takeOff &&
        worstIsFirst(Gauge::oilTemperature, phase, first[Gauge::oilTemperature], high[Gauge::oilTemperature]))
        expect(p, Gauge::oilTemperature, first[Gauge::oilTemperature], Origin::model, "before opening up");
    else
        expect(p, Gauge::oilTemperature,
               warming || descending || settled || phase == Phase::stop ? (*last)[Gauge::oilTemperature]
                                                                        : high[Gauge::oilTemperature],
               Origin::model,
               settled                                         ? "settled"
               : warming || descending || phase == Phase::stop ? "at the end"
                                                               : "highest");
    // What the climb leaves behind is said in the same line, and judged alike: the worse of the two colours it.
    const auto atFirst = [&](Gauge gauge, double highest, double steady) {
        const auto line =
            std::find_if(p.expect.begin(), p.expect.end(), [&](const ExpectLine& e) { return e.gauge == gauge; });
        if (!settled || highest - steady < 3.0 || line == p.expect.end())
            return;
        const UnitSpec& unit = n_.unitOf(gauge);
        const double value = watch::asRead(n_, gauge, highest);
        line->moment = fmt::format("settled, {} at first", format(value, unit));
        auto verdict = watch::judge(n_, gauge, phase, value,
                                    fmt::format(" That is at first; it settles at {}.", format(steady, unit)));
        if (verdict.colour() > line->verdict.colour())
            line->verdict = std::move(verdict);
    };
    atFirst(headOrCoolant, high.headOrCoolant(), last->headOrCoolant());
    atFirst(Gauge::oilTemperature, high[Gauge::oilTemperature], (*last)[Gauge::oilTemperature]);
    // Cold oil stands high, idling low: the one nearer its limit is shown.
    const auto pressureColour = [&](double v) { return watch::judge(n_, Gauge::oilPressure, phase, v).colour(); };
    if (settled)
        expect(p, Gauge::oilPressure, (*last)[Gauge::oilPressure], Origin::model, "steady");
    else if (pressureColour(high[Gauge::oilPressure]) > pressureColour(low[Gauge::oilPressure]))
        expect(p, Gauge::oilPressure, high[Gauge::oilPressure], Origin::model, "highest");
    else
        expect(p, Gauge::oilPressure, low[Gauge::oilPressure], Origin::model, "lowest");
    expect(p, Gauge::fuelPressure, n_.heat.fuelPressure.si(), Origin::notes, "steady");
    expect(p, Gauge::chargeTemperature, settled ? (*last)[Gauge::chargeTemperature] : high[Gauge::chargeTemperature],
           Origin::model, "highest");
    expect(p, Gauge::torque, settled ? (*last)[Gauge::torque] : high[Gauge::torque], Origin::model,
           settled ? "steady" : "highest");
}

bool Describer::worstIsFirst(Gauge gauge, Phase phase, double first, double highest) const {
    return watch::judge(n_, gauge, phase, first).colour() > watch::judge(n_, gauge, phase, highest).colour();
}

std::string Describer::headline(Phase phase, const PhasePlan& p) const {
    const auto burnt = fuel(p.fuel);
    switch (phase) {
    case Phase::load: {
        const auto& ramp = f_.samples[f_[phase].firstSample];
        return fmt::format("{}{} · {} of fuel", format(f_.rampWeight, *n_.cockpit.weight),
                           ramp.has(Gauge::balance) ? " · CG " + loading::armText(n_.loading, ramp[Gauge::balance])
                                                    : std::string(),
                           fuel(f_.fuelAtStart));
    }
    case Phase::walkRound:
        return s_.start.sinceStop
                   ? fmt::format("{} · engines at {}, {} after stopping", minutes(p.duration),
                                 temperature(flight::engineTemperatureOf(s_)),
                                 formatHoursOrMinutes(s_.start.sinceStop->si()))
                   : fmt::format("{} · engines cold at {}", minutes(p.duration), temperature(s_.day.oat));
    case Phase::start:
        return fmt::format("{} · {}", words_.orderText(), minutes(p.duration));
    case Phase::warmUp:
    case Phase::stop:
    case Phase::runUp:
        return fmt::format("{} · {}", minutes(p.duration), burnt);
    case Phase::takeOff:
        return fmt::format("grade {} · {} · {}", s_.fuelGrade, height(Length::si(s_.day.elevation.si())), burnt);
    case Phase::climb: {
        const auto top = height(Length::si(f_.samples[f_[phase].lastSample][Gauge::height]));
        return fmt::format("to {} · {} · {} · {}", top, flight::ratingFor(n_, s_, phase).name, minutes(p.duration),
                           burnt);
    }
    case Phase::cruise:
        return fmt::format("at {} · {} · {}{} · {}",
                           height(f_.heldHeight.value_or(Length::si(f_.samples[f_[phase].firstSample][Gauge::height]))),
                           s_.flight.cruiseRpm || s_.flight.cruiseBoost || s_.flight.cruiseMixture
                               ? "your setting"
                               : flight::ratingFor(n_, s_, phase).name,
                           formatHoursOrMinutes(p.duration), knowsWind() ? " with the wind" : " in still air", burnt);
    case Phase::letDown:
    case Phase::landing:
        return fmt::format("{} · {} · {}", s_.flight.to, minutes(p.duration), burnt);
    case Phase::writeUp:
        break;
    }
    return {};
}

void Describer::marks(Plan& plan) const {
    const auto add = [&](double time, Phase phase, std::string text, watch::Verdict verdict = {}) {
        plan.marks.push_back({time, phase, std::move(text), std::move(verdict), false});
    };
    add(f_[Phase::start].start, Phase::start, "Start");
    add(f_[Phase::runUp].start, Phase::runUp, "Run-up");
    add(f_[Phase::takeOff].start, Phase::takeOff, "Take-off");
    add(f_[Phase::climb].start, Phase::climb, "First reduction");
    for (const auto& change : f_.gearChanges)
        add(change.time, Phase::climb, "Blower to " + gearName(change.to));
    for (const auto& c : f_.tankChanges) {
        const std::string text = tankText(c);
        add(c.time, c.phase, text, watch::unless(!c.ranDry, watch::Rule::tankDry, text));
    }
    for (const auto phase : {Phase::climb, Phase::cruise, Phase::letDown})
        for (const auto& chore : n_.phase(phase).clocks)
            if (chore.every && chore.every->si() >= leastChore)
                for (double due = chore.every->si(); due < f_[phase].duration - 1.0; due += chore.every->si())
                    plan.marks.push_back({f_[phase].start + due, phase, chore.what, {}, true});
    add(f_[Phase::letDown].start, Phase::letDown, "Let-down");
    add(f_[Phase::stop].start, Phase::stop, "Cool and stop");
    for (const auto& p : plan.phases)
        if (p.worst.colour() != watch::Colour::normal)
            add(p.start, p.phase, p.worst.sentence(), p.worst);
    std::stable_sort(plan.marks.begin(), plan.marks.end(),
                     [](const Mark& a, const Mark& b) { return a.time < b.time; });
}

} // namespace amber::plan
