// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/day_allows.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/knock.h"
#include "engine/permitted_boost.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "units/ascii.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::advice {
namespace {
constexpr double leastSought = 2.5e4, mostSought = 4.5e5; // Pa between which a boost is looked for
constexpr int boundHalvings = 22;

/// All that the bounds of one phase share.
struct Frame {
    const powerplant::Aircraft& a;
    const Sortie& s;
    const flight::Flown& f;
    Phase phase;
    const TypeNotes& n = a.notes;
    const Rating& rating = flight::ratingFor(n, s, phase);
    flight::Setting set = f[phase].setting;
    const flight::Sample& first = f.samples[f[phase].firstSample];
    air::Ambient air = s.day.at(s.day.pressureAltitudeOf(Length::si(first[Gauge::height])));
    engine::KnockBoundary knock{n, a.model(), s.fuelGrade};

    [[nodiscard]] engine::Demand demand(Rotation rpm, std::optional<ManifoldPressure> boost) const {
        engine::Demand d{rpm, boost, set.gear, air, set.ias, set.mixture};
        d.water = set.water;
        return d;
    }
    [[nodiscard]] std::string gear() const {
        return n.engine.gears.empty() ? std::string() : n.engine.gears[set.gear].name;
    }
    /// By the notes, at the phase's first height.
    [[nodiscard]] engine::PermittedBoost permitted(const std::string& grade) const {
        return engine::permittedBoost(
            n, rating, grade, {set.gear, s.day.pressureAltitudeOf(Length::si(first[Gauge::height])), phase, {}});
    }
    [[nodiscard]] std::optional<double> limitHigh(Gauge gauge) const {
        const auto g = n.gauges.find(gauge);
        return g == n.gauges.end() ? std::nullopt : g->second.in(phase).limitHigh;
    }
    /// Boost at which a rising quantity reaches its most; nothing where it does not within the throttle's reach.
    template <class Over>
    [[nodiscard]] std::optional<double> reaches(const Over& over) const {
        if (!over(mostSought))
            return std::nullopt;
        // From above the first that is not over: with little power there is little wash, and less cooling than with
        // more.
        double low = leastSought, high = mostSought;
        constexpr int looks = 24;
        int i = looks - 1;
        while (i >= 0 && over(leastSought + (mostSought - leastSought) * i / looks))
            --i;
        if (i < 0)
            return leastSought;
        low = leastSought + (mostSought - leastSought) * i / looks;
        high = leastSought + (mostSought - leastSought) * (i + 1) / looks;
        return roots::turn(over, low, high, boundHalvings).low;
    }
    [[nodiscard]] std::optional<double> ratingBoost() const {
        // On its own grade: the fuel's cut is a line of its own.
        const auto boost = permitted(rating.grade).boost;
        return boost ? std::optional(boost->si()) : std::nullopt;
    }
    [[nodiscard]] std::optional<double> at(Bound bound, Rotation rpm) const {
        switch (bound) {
        case Bound::rating:
            return ratingBoost();
        case Bound::grade: {
            const auto there = permitted(s.fuelGrade);
            if (!there.cut || !there.boost)
                return std::nullopt;
            return there.boost->si();
        }
        case Bound::knock:
            if (n.engine.gears.empty())
                return std::nullopt;
            return knock.permitted(demand(rpm, ManifoldPressure::si(ratingBoost().value_or(2e5)))).si();
        case Bound::charge: {
            const auto most = limitHigh(Gauge::chargeTemperature);
            if (!most || n.engine.gears.empty())
                return std::nullopt;
            const auto hot = [&](double boost) {
                return engine::operate(a.model(), demand(rpm, ManifoldPressure::si(boost))).chargeTemperature.si() >
                       *most;
            };
            return reaches(hot);
        }
        case Bound::cooling: {
            const auto most =
                limitHigh(n.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature);
            if (!most)
                return std::nullopt;
            const auto hot = [&](double boost) {
                const auto p = engine::operate(a.model(), demand(rpm, ManifoldPressure::si(boost)));
                const auto drive = heat::driveOf(p, rpm, air, set.ias, 1.0);
                const heat::Temperatures now{Temperature::si(first.headOrCoolant()),
                                             Temperature::si(first[Gauge::oilTemperature])};
                // A take-off is over before the heads have settled.
                return (phase == Phase::takeOff
                            ? a.thermal.after(now, drive, Duration::si(f[phase].duration)).headOrCoolant
                            : a.thermal.steadyHeadOrCoolant(a.thermal.forcing(drive)))
                           .si() > *most;
            };
            return reaches(hot);
        }
        case Bound::throttle:
            return engine::operate(a.model(), demand(rpm, std::nullopt)).manifoldPressure.si();
        }
        return std::nullopt;
    }
    struct Least {
        double boost = std::numeric_limits<double>::infinity();
        Bound bound = Bound::rating;
    };
    [[nodiscard]] Least least(Rotation rpm) const {
        Least out;
        for (const Bound b :
             {Bound::rating, Bound::grade, Bound::knock, Bound::charge, Bound::cooling, Bound::throttle})
            if (const auto most = at(b, rpm); most && *most < out.boost - 1.0)
                out = {*most, b};
        return out;
    }
    [[nodiscard]] double power(Rotation rpm, double boost) const {
        return engine::operate(a.model(), demand(rpm, ManifoldPressure::si(boost))).power.si();
    }
};
} // namespace

std::string_view nameOf(Bound bound) {
    switch (bound) {
    case Bound::rating:
        return "the rating";
    case Bound::grade:
        return "the grade of fuel";
    case Bound::knock:
        return "the detonation limit";
    case Bound::charge:
        return "the charge temperature";
    case Bound::cooling:
        return "heads or coolant";
    case Bound::throttle:
        return "full throttle";
    }
    return "";
}

std::optional<double> boundAt(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase,
                              Bound bound, Rotation rpm) {
    return Frame{a, s, f, phase}.at(bound, rpm);
}

DayAllows dayAllows(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase) {
    const Frame frame{a, s, f, phase};
    const TypeNotes& n = a.notes;
    DayAllows out;
    out.phase = phase;
    out.rating = frame.rating.name;
    out.gear = frame.gear();
    out.height = Length::si(frame.first[Gauge::height]);
    out.plannedRpm = frame.set.rpm;
    out.plannedBoost = f[phase].point.manifoldPressure;
    const air::Day day = air::standardDay(Length{});
    out.standard =
        engine::operate(a.model(), {frame.rating.rpm, frame.rating.boost, phase == Phase::takeOff ? frame.set.gear : 0,
                                    day.at(Length{}), frame.set.ias, frame.set.mixture})
            .power;
    const UnitSpec& unit = n.unitOf(Gauge::boost);
    const auto lost = [&] {
        const double cost = out.standard.si() - out.power.si();
        return cost > 0.005 * out.standard.si()
                   ? fmt::format("{} less than the rating gives at sea level on the standard day, {:.0f} %",
                                 format(cost, *n.cockpit.power), 100 * cost / out.standard.si())
                   : std::string("nothing is lost");
    };
    if (a.propeller.followsThrottle() || !frame.rating.boost) {
        // The throttle is the only lever: open until the rpm of the rating.
        out.rpm = f[phase].setting.rpm;
        out.power = f[phase].point.power;
        const bool held = frame.set.byRpm || frame.set.rpm.si() >= frame.rating.rpm.si() * 0.998;
        out.binds = held ? Bound::rating : Bound::throttle;
        out.planned = true;
        const auto& blades = phase == Phase::takeOff ? a.propeller.fine : a.propeller.coarse;
        const double tas = air::trueAirspeed(frame.set.ias, frame.air.pressure, frame.air.temperature).si();
        const double density = air::density(frame.air.pressure, frame.air.temperature);
        constexpr int points = 24;
        for (int i = 0; a.propeller.followsThrottle() && i <= points; ++i) {
            const double rpm = frame.rating.rpm.si() * (0.62 + 0.46 * i / points);
            const auto boost = frame.ratingBoost();
            const double gives =
                engine::operate(
                    a.model(),
                    frame.demand(Rotation::si(rpm), boost ? std::optional(ManifoldPressure::si(*boost)) : std::nullopt))
                    .power.si();
            out.gives.emplace_back(rpm, gives);
            out.takes.emplace_back(rpm, blades.power(rpm, tas, density));
        }
        out.sentence = fmt::format("{} holds it at {}; {}.", held ? "The rating" : "Full throttle",
                                   format(out.rpm, units::rpm), lost());
        return out;
    }
    // Fewer revolutions only where they bring more power: where the charge or the heads bind.
    const double top = frame.rating.rpm.si();
    double best = -1e18;
    constexpr int tried = 16;
    Frame::Least least;
    for (int i = 0; i <= tried; ++i) {
        const Rotation rpm = Rotation::si(top * (1.0 - 0.3 * i / tried));
        const auto here = frame.least(rpm);
        const double power = frame.power(rpm, here.boost);
        if (i == 0 || power > best + 0.002 * std::abs(best)) {
            best = power;
            least = here;
            out.rpm = rpm;
        }
    }
    out.boost = ManifoldPressure::si(least.boost);
    out.power = Power::si(best);
    out.binds = least.bound;
    if (out.rpm.si() < top * 0.999) // what forbids the rating's own rpm is what binds
        out.binds = frame.least(frame.rating.rpm).bound;
    out.planned =
        std::abs(out.plannedBoost.si() - least.boost) < 350.0 && std::abs(out.plannedRpm.si() - out.rpm.si()) < 0.2;
    std::string_view what = nameOf(out.binds);
    if (out.binds == Bound::cooling)
        what = n.engine.cooling == Cooling::air ? "the heads, flaps open" : "the coolant, shutters open";
    out.sentence = fmt::format("{}{} holds it at {} and {}; {}.", ascii::upper(what.front()), what.substr(1),
                               format(least.boost, unit), format(out.rpm, units::rpm), lost());
    if (best < 0.5 * out.standard.si() && out.binds != Bound::throttle)
        out.sentence = fmt::format("{}{} leaves too little today: cool down first, or wait for cooler air.",
                                   ascii::upper(what.front()), what.substr(1));
    constexpr int drawn = 28;
    const double low = 0.6 * top;
    for (const Bound b : {Bound::rating, Bound::grade, Bound::knock, Bound::charge, Bound::cooling, Bound::throttle}) {
        BoundLine line{b, {}};
        for (int i = 0; i <= drawn; ++i) {
            const double rpm = low + (top * 1.04 - low) * i / drawn;
            if (const auto most = frame.at(b, Rotation::si(rpm)))
                line.points.emplace_back(rpm, *most);
        }
        if (!line.points.empty())
            out.lines.push_back(std::move(line));
    }
    return out;
}

Sortie taken(const TypeNotes& n, Sortie s, const DayAllows& d) {
    auto& f = s.flight;
    switch (d.phase) {
    case Phase::takeOff:
        f.takeOffRpm = d.rpm;
        f.takeOffBoost = d.boost;
        break;
    case Phase::climb:
        f.climbRpm = d.rpm;
        f.climbBoost = d.boost;
        break;
    default:
        f.cruiseRpm = d.rpm;
        f.cruiseBoost = d.boost;
        f.cruiseGear = n.engine.gears.size() > 1 ? d.gear : std::string();
        break;
    }
    return s;
}

} // namespace amber::advice
