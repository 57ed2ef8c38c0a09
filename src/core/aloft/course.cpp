// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/course.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::aloft {
namespace {
constexpr double justBefore = 0.5;  // s of the plan
constexpr double afterStop = 120.0; // s that a plan stands after its engines were stopped
constexpr double atOnce = 1e-6;

const record::MomentRow& row(std::string_view key) {
    return *record::momentOf(key);
}
/// Height goes with it: more or less time for the same.
bool stretches(std::string_view from, std::string_view to) {
    return (to == "at-top-of-climb" &&
            (from == "at-climb-power" || from == "at-gear-change" || from == "at-take-off")) ||
           (from == "at-climb-power" && to == "at-gear-change") ||
           (from == "at-top-of-descent" && to == "at-touch-down");
}
} // namespace

std::vector<Planned> plannedMoments(const flight::Flown& f, const TypeNotes& n) {
    std::vector<Planned> out;
    for (const auto& trace : f.engines)
        out.push_back({&row("at-first-fire"), trace.engine, trace.firedAt});
    std::stable_sort(out.begin(), out.end(), [](const Planned& a, const Planned& b) { return a.at < b.at; });
    const auto& warm = f[Phase::warmUp];
    const double end = warm.start + warm.duration;
    out.push_back(
        {&row("at-taxi"), {}, std::max({warm.start, end - n.warmUp.taxi.si(), out.empty() ? 0.0 : out.back().at})});
    out.push_back({&row("at-take-off"), {}, f[Phase::takeOff].start});
    out.push_back({&row("at-climb-power"), {}, f[Phase::climb].start, false});
    if (const auto* change = f.gearChange())
        out.push_back({&row("at-gear-change"), {}, change->time, false});
    out.push_back({&row("at-top-of-climb"), {}, f[Phase::cruise].start});
    out.push_back({&row("at-top-of-descent"), {}, f[Phase::letDown].start});
    out.push_back({&row("at-touch-down"), {}, f[Phase::stop].start});
    const double stop = std::max(f[Phase::stop].start, f.totalTime() - afterStop);
    if (n.engineCount() > 1)
        for (const auto& p : n.positions)
            out.push_back({&row("at-engine-stop"), p.id, stop, false});
    out.push_back({&row("at-stop"), {}, stop});
    std::stable_sort(out.begin(), out.end(), [](const Planned& a, const Planned& b) { return a.at < b.at; });
    return out;
}

std::string nameOf(const Planned& planned, const TypeNotes& notes) {
    for (const auto& p : notes.positions)
        if (p.id == planned.engine && notes.engineCount() > 1)
            return p.name + ": " + std::string(planned.row->name());
    return std::string(planned.row->name());
}

Course::Course(const flight::Flown& flown, const TypeNotes& notes, const Happened& happened, double now)
    : flown_(&flown), planned_(plannedMoments(flown, notes)), now_(now) {
    // Moments of a flight come in its order; engines may fire and be stopped in any.
    std::size_t last = 0;
    double lastAt = -HUGE_VAL;
    std::vector<std::optional<double>> given(planned_.size());
    for (std::size_t i = 0; i < planned_.size(); ++i)
        if (const auto at = happened.when(planned_[i].row->key, planned_[i].engine); at && *at <= now + atOnce)
            given[i] = at;
    for (std::size_t i = 0; i < planned_.size(); ++i) {
        if (!given[i])
            continue;
        if (*given[i] < lastAt && !planned_[i].engine.empty() && planned_[i].row == planned_[last].row) {
            // Out of the planned order of engines: those of one kind change places.
            given[i] = lastAt;
        } else if (*given[i] < lastAt) {
            refused_.push_back({{std::string(planned_[i].row->key), planned_[i].engine, *given[i], {}},
                                fmt::format("{} at {} is before {} at {}: put one of them right.",
                                            nameOf(planned_[i], notes), formatMinutesSeconds(*given[i]),
                                            nameOf(planned_[last], notes), formatMinutesSeconds(lastAt))});
            continue;
        }
        kept_.emplace_back(planned_[i], *given[i]);
        last = i;
        lastAt = *given[i];
        next_ = i + 1;
    }
    // Engines that have not fired when another moment has been given: the plan goes on without being told.
    while (next_ < planned_.size() && given[next_])
        ++next_;
    // Before the first moment the plan stands before the first fire.
    const double firstPlan = kept_.empty() ? planned_.front().at : kept_.front().first.at;
    const double firstReal = kept_.empty() ? now : kept_.front().second;
    const double begin = firstReal - firstPlan;
    if (kept_.empty()) {
        const double stands = std::min(now, standsAt(firstPlan));
        pieces_.push_back({0.0, stands, 0.0, stands});
        if (now > stands)
            pieces_.push_back({stands, now, stands, stands});
    } else {
        pieces_.push_back({begin, firstReal, 0.0, firstPlan});
    }
    for (std::size_t k = 0; k + 1 < kept_.size(); ++k) {
        const auto& [a, ra] = kept_[k];
        const auto& [b, rb] = kept_[k + 1];
        const double real = rb - ra, plan = b.at - a.at;
        if (real <= atOnce)
            continue;
        if (stretches(a.row->key, b.row->key) || plan <= atOnce) {
            pieces_.push_back({ra, rb, a.at, plan <= atOnce ? a.at : b.at});
        } else if (real <= plan) {
            pieces_.push_back({ra, rb, a.at, a.at + real});
        } else {
            const double stands = std::max(a.at, standsAt(b.at));
            pieces_.push_back({ra, ra + (stands - a.at), a.at, stands});
            pieces_.push_back({ra + (stands - a.at), rb, stands, stands});
        }
    }
    std::size_t waits = next_;
    while (waits < planned_.size() && !planned_[waits].waited)
        ++waits;
    due_ = waits < planned_.size() ? planned_[waits].at : flown.totalTime();
    if (!kept_.empty()) {
        const auto& [a, ra] = kept_.back();
        const double stands = std::max(a.at, standsAt(due_)), goes = std::min(now, ra + (stands - a.at));
        if (goes > ra)
            pieces_.push_back({ra, goes, a.at, a.at + (goes - ra)});
        if (now > goes)
            pieces_.push_back({goes, now, stands, stands});
    }
    planNow_ = pieces_.back().planTo;
    const double end = flown.totalTime();
    if (planNow_ < end)
        pieces_.push_back({now, now + (end - planNow_), planNow_, end});
}

double Course::standsAt(double plan) const {
    return plan - justBefore;
}

double Course::nextIn() const {
    const auto* n = next();
    if (!n)
        return 0.0;
    const double lastPlan = kept_.empty() ? 0.0 : kept_.back().first.at;
    const double lastReal = kept_.empty() ? 0.0 : kept_.back().second;
    return lastReal + (n->at - lastPlan) - now_;
}

double Course::planAt(double real) const {
    if (pieces_.empty() || real <= pieces_.front().from)
        return pieces_.empty() ? 0.0 : pieces_.front().planFrom;
    for (const auto& p : pieces_)
        if (real < p.to)
            return p.planFrom + std::max(0.0, real - p.from) * p.pace();
    return pieces_.back().planTo;
}

double Course::realAt(double plan) const {
    double out = pieces_.empty() ? 0.0 : pieces_.front().from;
    for (const auto& p : pieces_) {
        if (p.planFrom > plan) // it was left out: it was when the next began
            return p.from;
        if (plan <= p.planTo)
            return p.planTo > p.planFrom ? p.from + (plan - p.planFrom) / p.pace() : p.from;
        out = p.to;
    }
    return out;
}

Phase Course::phaseAt(double real) const {
    const double plan = planAt(real);
    Phase out = Phase::walkRound;
    for (std::size_t i = static_cast<std::size_t>(Phase::walkRound); i < plannedPhases; ++i)
        if (flown_->phases[i].start <= plan + atOnce && flown_->phases[i].duration > 0.0)
            out = static_cast<Phase>(i);
    return out;
}

std::vector<Course::Piece> Course::standingAt(double plan, double until) const {
    std::vector<Piece> out;
    for (const auto& p : pieces_)
        if (p.to <= now_ + atOnce)
            out.push_back(p);
    const double stands = std::max(planNow_, standsAt(plan)), goes = std::min(until, now_ + stands - planNow_);
    if (goes > now_)
        out.push_back({now_, goes, planNow_, planNow_ + (goes - now_)});
    if (until > goes)
        out.push_back({std::max(now_, goes), until, stands, stands});
    return out;
}

std::string cannotBe(const flight::Flown& flown, const TypeNotes& notes, const Happened& happened, const Given& given) {
    if (!record::isMoment(given.what))
        return {};
    Happened with = happened;
    std::erase_if(with.moments, [&](const Given& g) { return g.what == given.what && g.engine == given.engine; });
    with.moments.push_back(given);
    double latest = given.at;
    for (const auto& m : with.moments)
        latest = std::max(latest, m.at);
    const Course course(flown, notes, with, latest);
    for (const auto& [g, why] : course.refused())
        return why;
    return {};
}

} // namespace amber::aloft
