// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/knock.h"
#include "engine/fuel_grade.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {
namespace {
constexpr double perKelvin = 0.004, referenceTemperature = 373.15;
constexpr double weakShare = 0.85; // of the rich boundary
constexpr double rpmExponent = 0.25;
constexpr double notesMargin = 1.05; // the notes' ratings leave room for a day some 12 K hotter than standard
constexpr double waterGain = 1.12;   // water injection cools the charge in the cylinder too

double mixtureShare(double fuelAir) {
    const double t = std::clamp((fuelAir - 0.062) / 0.040, 0.0, 1.0);
    return weakShare + (1.0 - weakShare) * t * t * (3 - 2 * t);
}

double factor(const EngineParameters& e, double charge, double fuelAir, double n, bool water) {
    return std::exp(-perKelvin * (charge - referenceTemperature)) * mixtureShare(fuelAir) *
           std::pow(std::clamp(n / e.ratedRpm, 0.1, 1.0), rpmExponent) * (water ? waterGain : 1.0);
}

/// Greatest boost over factor of all rating lines, as each stands on a grade; only those the notes speak of if asked.
double anchored(const TypeNotes& notes, const EngineParameters& engine, const std::string& grade, bool ownGrade) {
    double most = 0.0;
    const air::Day day = air::standardDay(Length{});
    for (const auto& rating : notes.ratings) {
        if (!rating.boost)
            continue;
        const auto cap = gradeCap(notes, rating, ownGrade && !rating.grade.empty() ? rating.grade : grade);
        if (cap && cap->origin == Origin::model)
            continue;
        for (const auto& line : rating.lines) {
            const ManifoldPressure boost = cap ? std::min(cap->boost, *rating.boostOf(line)) : *rating.boostOf(line);
            Demand d{rating.rpm,      boost,   notes.gearIndex(line.gear).value_or(0),
                     day.at(line.at), Speed{}, rating.mixture};
            d.water = rating.water;
            // Where the line speaks: a full-throttle height alone says nothing of that gear at sea level.
            for (const Length height :
                 {line.power ? line.at : line.holdsTo.value_or(line.at), line.holdsTo.value_or(line.at)}) {
                d.air = day.at(height);
                const auto p = operate(engine, d);
                most = std::max(
                    most, std::min(boost.si(), p.manifoldPressure.si()) /
                              factor(engine, p.chargeTemperature.si(), p.fuelAirRatio, rating.rpm.si(), rating.water));
            }
        }
    }
    return most;
}
} // namespace

KnockBoundary::KnockBoundary(const TypeNotes& notes, const EngineParameters& engine, const std::string& grade)
    : engine_(&engine), lowRpm_(notes.engine.lowRpmBoost) {
    // The grade the ratings were set for: the best that a rating names, else the best that may be used.
    double own = 0.0;
    std::string ownGrade = notes.fuel.grades.empty() ? grade : notes.fuel.grades.front();
    for (const auto& rating : notes.ratings)
        if (const auto number = gradeNumber(rating.grade); number && *number > own) {
            own = *number;
            ownGrade = rating.grade;
        }
    const double ownNumber = performanceNumber(gradeNumber(ownGrade).value_or(100.0));
    const double number = performanceNumber(gradeNumber(grade).value_or(gradeNumber(ownGrade).value_or(100.0)));
    const double best = anchored(notes, engine, ownGrade, true);
    reference_ = best * notesMargin;
    if (number < ownNumber) {
        // Only ratings with an entry for this grade may hold it higher than the number alone would.
        TypeNotes named = notes;
        std::erase_if(named.ratings, [&](const Rating& r) { return !r.grades.contains(grade); });
        reference_ = notesMargin * std::max(best * number / ownNumber, anchored(named, engine, grade, false));
    }
    if (!(reference_ > 0))
        reference_ = 4e5; // no boost in the notes: an engine without a blower is not held by this
}

ManifoldPressure KnockBoundary::permitted(Temperature charge, double fuelAir, Rotation rpm, bool water) const {
    return ManifoldPressure::si(reference_ * factor(*engine_, charge.si(), fuelAir, rpm.si(), water));
}

ManifoldPressure KnockBoundary::permitted(const Demand& demand) const {
    Demand d = demand;
    d.held = true;
    ManifoldPressure limit = ManifoldPressure::si(reference_);
    for (int pass = 0; pass < 4; ++pass) {
        d.boost = limit;
        const auto p = operate(*engine_, d);
        limit = permitted(p.chargeTemperature, p.fuelAirRatio, d.rpm, d.water);
    }
    if (const auto notes = lowRpmBoost(d.rpm); notes && *notes < limit)
        return *notes;
    return limit;
}

std::optional<ManifoldPressure> KnockBoundary::lowRpmBoost(Rotation rpm) const {
    if (lowRpm_.empty() || rpm > lowRpm_.back().first)
        return std::nullopt;
    if (rpm <= lowRpm_.front().first)
        return lowRpm_.front().second;
    for (std::size_t i = 1; i < lowRpm_.size(); ++i)
        if (rpm <= lowRpm_[i].first) {
            const auto& [n0, p0] = lowRpm_[i - 1];
            const auto& [n1, p1] = lowRpm_[i];
            const double t = (rpm.si() - n0.si()) / (n1.si() - n0.si());
            return ManifoldPressure::si(p0.si() + t * (p1.si() - p0.si()));
        }
    return std::nullopt;
}

} // namespace amber::engine
