// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/lever_picture.h"
#include "advice/figures.h"
#include "notes/lever_words.h"
#include "notes/standard_schools.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {
namespace {
/// Figures made places and words for one cockpit.
class Places {
public:
    Places(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown)
        : a_(aircraft), n_(aircraft.notes), s_(sortie), f_(flown) {
        for (const auto& r : n_.ratings) {
            mostRpm_ = std::max(mostRpm_, r.rpm.si());
            mostBoost_ = std::max(mostBoost_, r.boost ? r.boost->si() : 101325.0);
        }
    }
    [[nodiscard]] LeverPlace of(const Control& c, const cockpit::Stand& stand, std::size_t engine) const {
        const Target& t = stand.target;
        if (t.kind == Target::Kind::position)
            return at(c, t.word);
        std::optional<double> si;
        Dimension dimension = t.dimension;
        Origin origin = Origin::notes;
        if (t.kind == Target::Kind::quantity) {
            si = t.si;
        } else if (t.kind == Target::Kind::figure) {
            const auto figure = advice::figureOf(a_, s_, f_, stand.phase, t.word, engine);
            if (!figure)
                return {"as it was"};
            if (!figure->position.empty())
                return at(c, figure->position);
            if (figure->share && figure->heat) { // between its two ends, wherever they lie
                const double cold = cockpit::place(c, "cold"), hot = cockpit::place(c, "hot");
                return {fmt::format("{:.0f} % hot", 100.0 * *figure->share), figure->origin,
                        cold + (hot - cold) * *figure->share};
            }
            if (figure->share)
                return {flapText(*figure->share), figure->origin, *figure->share};
            si = figure->si;
            dimension = figure->dimension;
            origin = n_.isEstimated(stand.phase, t.word) ? Origin::ours : figure->origin;
        }
        if (!si)
            return {};
        if (dimension == Dimension::rotation) {
            const double share = c.acts == Acts::propeller ? (*si / mostRpm_ - 0.45) / 0.55 : *si / mostRpm_;
            return {format(std::round(*si * 6) / 6, *units::rpm.spec), origin, std::clamp(share, 0.0, 1.0)};
        }
        if (dimension == Dimension::manifoldPressure)
            return {format(*si, n_.unitOf(Gauge::boost)), origin,
                    std::clamp((*si - 3e4) / (mostBoost_ - 3e4), 0.0, 1.0)};
        return {format(*si, *units::second.spec), origin};
    }

private:
    static LeverPlace at(const Control& c, const std::string& is) {
        const auto* p = c.position(is);
        return {p ? p->name : is, std::nullopt, p ? std::optional(cockpit::place(c, p->is)) : std::nullopt};
    }
    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const flight::Flown& f_;
    double mostRpm_ = 1.0, mostBoost_ = 1.0;
};

/// When an act of a phase is done: at its beginning, at its height, or at its end.
double doneAt(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase, const Step& step) {
    const auto& p = f[phase];
    if (step.atEnd)
        return p.start + p.duration;
    const auto height = advice::heightOfStep(a, s, f, phase, step);
    if (!height)
        return p.start;
    for (std::size_t i = p.firstSample; i <= p.lastSample; ++i)
        if (f.samples[i][Gauge::height] >= *height - 1.0)
            return f.samples[i].time;
    return p.start + p.duration + 1e9; // never today
}
} // namespace

Phase phaseAt(const flight::Flown& f, double time) {
    Phase out = Phase::walkRound;
    for (std::size_t i = 0; i < plannedPhases; ++i)
        if (time >= f.phases[i].start - 1e-6)
            out = static_cast<Phase>(i);
    return out;
}

std::vector<LeverState> leversAt(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, double time) {
    const TypeNotes& n = a.notes;
    const Phase phase = phaseAt(f, time);
    cockpit::State before(n), now(n);
    cockpit::carry(n, s.choices, [&](const cockpit::Change& c, const Action* act, const cockpit::State& state) {
        if (!act || c.branch || c.control < 0) {
            if (!act && !c.branch && c.phase < phase)
                before = now = state;
            return;
        }
        if (c.phase == phase && time >= doneAt(a, s, f, phase, n.phase(phase).steps[c.step]) - 1e-6)
            now.put(static_cast<std::size_t>(c.control), c.engine, {act->to, phase, true});
    });
    const Places places(a, s, f);
    std::vector<LeverState> out;
    for (std::size_t i = 0; i < n.controls.size(); ++i) {
        const Control& c = n.controls[i];
        LeverState lever;
        lever.id = c.id;
        lever.name = c.name;
        lever.panel = c.panel;
        lever.column = c.column;
        lever.kind = c.kind;
        lever.acts = c.acts;
        lever.reversed = c.reversed;
        lever.sense = c.sense;
        lever.who = c.who;
        lever.less = c.less;
        lever.more = c.more;
        lever.origin = c.origin;
        for (const auto& p : c.positions)
            lever.positions.push_back(p.name);
        const std::size_t engines = c.each ? now.engines() : 1;
        for (std::size_t e = 0; e < engines; ++e) {
            lever.before.push_back(places.of(c, before.of(i, e), e));
            lever.now.push_back(places.of(c, now.of(i, e), e));
        }
        const auto alike = [](std::vector<LeverPlace>& all) {
            if (std::all_of(all.begin(), all.end(), [&](const LeverPlace& p) { return p == all.front(); }))
                all.resize(1);
        };
        alike(lever.before);
        alike(lever.now);
        lever.changed = lever.before != lever.now;
        out.push_back(std::move(lever));
    }
    return out;
}

} // namespace amber::plan
