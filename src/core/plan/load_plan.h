// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/best_cruise.h"
#include "advice/day_allows.h"
#include "advice/fuel_needed.h"
#include "loading/distances.h"
#include "loading/envelope.h"
#include "plan/plan.h"
#include <nlohmann/json_fwd.hpp>

namespace amber::plan {

/// Weight and balance at one moment of the flight.
struct LoadMoment {
    std::string id, name; ///< "take-off", "At take-off"
    loading::Balance balance;
    double time = 0.0; ///< s from the first look at the tyres
    watch::Verdict verdict;
};

/// The load sheet of a sortie that was flown: what page, card, command and export show.
struct LoadPlan {
    std::vector<loading::SheetLine> lines; ///< stations, oil and fuel
    std::vector<LoadMoment> moments;       ///< ramp, take-off, worst, landing, without fuel
    std::vector<loading::Balance> track;   ///< through the flight, in order
    std::vector<watch::Finding> findings;  ///< of the load
    std::vector<loading::TrimAdvice> trim;
    std::vector<loading::DistanceToday> distances;
    std::vector<watch::Verdict> distanceVerdicts; ///< one each: against the runway, or the weight
};
LoadPlan loadPlan(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

/// A change of tanks in words, in order of time.
struct TankLine {
    double time = 0.0;
    std::string text, why;
    watch::Verdict verdict;
    double distance = 0.0; ///< m flown
};
std::vector<TankLine> tankLines(const Plan& plan, const TypeNotes& notes);

/// A speed of the notes for the weight at a moment.
struct SpeedLine {
    std::string id, name;
    Speed light, heavy;
    struct At {
        std::string where; ///< "take-off"
        double weight = 0.0;
        Speed speed;
        Origin origin = Origin::between;
    };
    std::vector<At> at;
};
std::vector<SpeedLine> speedLines(const powerplant::Aircraft& aircraft, const flight::Flown& flown);

/// One line of the best cruise.
struct BestRow {
    std::string id, name;
    advice::BestPoint point;
};
std::vector<BestRow> bestRows(const advice::BestCruise& best, const std::vector<advice::LegChoice>& legs);
/// "8,200 ft · 1,650 rpm · 27.4 inHg · high · weak · 152 kt · 41.3 US gal/h · 3.7 nm/US gal"
std::string bestText(const TypeNotes& notes, const advice::BestPoint& point);
/// "3.7 nm/US gal", in the cockpit's units.
std::string milesText(const TypeNotes& notes, double metresPerCubicMetre, bool withUnit = true);
std::string milesUnit(const TypeNotes& notes);
/// Of a supercharger gear; empty without one.
std::string gearName(const TypeNotes& notes, std::size_t gear);

nlohmann::ordered_json loadJson(const LoadPlan& load, const powerplant::Aircraft& aircraft, const Sortie& sortie);
nlohmann::ordered_json fuelJson(const advice::FuelNeeded& needed);
nlohmann::ordered_json tanksJson(const Plan& plan, const TypeNotes& notes);
nlohmann::ordered_json bestJson(const advice::BestCruise& best, const std::vector<BestRow>& rows,
                                const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

} // namespace amber::plan
