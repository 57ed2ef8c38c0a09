// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/permitted_boost.h"
#include "engine/fuel_grade.h"
#include "units/text.h"
#include <array>
#include <fmt/format.h>

namespace amber::engine {
namespace {
constexpr double ungradedMargin = 1.05; // kept from the boundary, as the notes' own ratings keep from theirs

void least(PermittedBoost& out, std::optional<ManifoldPressure> most, Binds binds, Origin origin) {
    if (most && *most < *out.boost) {
        out.boost = most;
        out.binds = binds;
        out.origin = origin;
    }
}
} // namespace

std::string_view nameOf(Binds binds) {
    constexpr std::array<std::string_view, 9> names{"full throttle",
                                                    "the rating",
                                                    "the rating in this gear",
                                                    "the rating at this height",
                                                    "the grade",
                                                    "the phase's own boost",
                                                    "the mark on the gauge",
                                                    "the boost that was entered",
                                                    "detonation"};
    return names[static_cast<std::size_t>(binds)];
}

PermittedBoost permittedBoost(const TypeNotes& notes, const Rating& rating, const std::string& grade,
                              const BoostAt& at) {
    PermittedBoost out;
    const auto& gears = notes.engine.gears;
    out.boost = gears.empty() ? rating.boost : rating.boostIn(gears[std::min(at.gear, gears.size() - 1)].name);
    if (!rating.boost || !out.boost)
        return {};
    out.binds = *out.boost < *rating.boost ? Binds::gear : Binds::rating;
    for (const auto& [from, most] : rating.above)
        if (at.pressureAltitude >= from)
            least(out, most, Binds::height, Origin::notes);
    const auto graded = gradeCap(notes, rating, grade);
    out.ungraded = graded && graded->origin == Origin::model;
    if (graded && graded->boost < *rating.boost) {
        out.cut = true;
        out.because = fmt::format("Grade {} permits {} where the rating is {}", grade,
                                  format(graded->boost.si(), *notes.cockpit.boost),
                                  format(rating.boost->si(), *notes.cockpit.boost));
        least(out, graded->boost, Binds::grade, graded->origin);
    }
    if (at.phase && *at.phase <= Phase::cruise)
        least(out, notes.phase(*at.phase).boost, Binds::phase, Origin::notes);
    if (const auto g = notes.gauges.find(Gauge::boost); g != notes.gauges.end())
        if (const auto mark = at.phase ? g->second.in(*at.phase).limitHigh : g->second.band.limitHigh)
            least(out, ManifoldPressure::si(*mark), Binds::mark, Origin::notes);
    least(out, at.asked, Binds::asked, Origin::entered);
    return out;
}

PermittedBoost permittedBoost(const TypeNotes& notes, const Rating& rating, const std::string& grade, const BoostAt& at,
                              const KnockBoundary& knock, const Demand& there) {
    auto out = permittedBoost(notes, rating, grade, at);
    if (!out.boost || !out.ungraded || notes.engine.gears.empty())
        return out;
    Demand d = there;
    d.boost = out.boost;
    const auto boundary = ManifoldPressure::si(knock.permitted(d).si() / ungradedMargin);
    if (boundary < *out.boost && !out.cut) {
        out.cut = true;
        out.because = fmt::format(
            "Grade {} is under those of the notes: the detonation limit (model) leaves {} where the rating is {}",
            grade, format(boundary.si(), *notes.cockpit.boost), format(rating.boost->si(), *notes.cockpit.boost));
    }
    least(out, boundary, Binds::detonation, Origin::model);
    return out;
}

} // namespace amber::engine
