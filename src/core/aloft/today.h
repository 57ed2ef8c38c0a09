// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/fuel_course.h"
#include "aloft/warmth.h"
#include <array>

namespace amber::aloft {

/// How far an engine of this type is held to differ from its plan before anything is read: standard deviations. Ours,
/// from engines of another build (bench/amber-live on seeds that nothing else uses).
struct Priors {
    double cooling = 0.08, oil = 0.08, rates = 0.15; ///< natural logarithms
    double needle = 3.0;                             ///< K, of a thermometer over the truth
    double lag = 15.0, lags = 10.0;                  ///< s that a thermometer lags, and how far that may be off
    double burn = 0.06;                              ///< natural logarithm, of consumption over the plan's
    double fuelGauge = 0.02;                         ///< of what the tanks hold
};
/// What a reading is held to be good for: its width and the model's misfit, standard deviations.
struct Misfits {
    double temperature = 3.5; ///< K
    double timing = 15.0;     ///< s by which a moment or a lever may be off: a needle that moves fast tells less
    double flow = 0.03;       ///< of it
    double fuelGauge = 0.012; ///< of what the tanks hold, from reading to reading
    double fuelPlan = 0.012;  ///< of what is burnt, that phases take more or less of it than planned
    double walk = 0.02;       ///< natural logarithm, of a factor from one part of the flight to another
};

/// What was found of one engine: its factors and how sure they are.
struct EngineToday {
    static constexpr std::size_t unknowns = 7;
    HeatFactors heat;
    double head = 0.0, oil = 0.0; ///< K, that its needles show over the truth
    double lag = 0.0;             ///< s, that they show it later
    std::array<std::array<double, unknowns>, unknowns>
        covariance{};         ///< of cooling, oil, their rates, head and oil needle, lag
    std::size_t readings = 0; ///< that were believed
};
struct FuelToday {
    double burn = 0.0, deviation = 0.0; ///< ln of consumption over the plan's
    double offset = 0.0;                ///< m³, that the gauges show over the truth
    double held = 0.0;                  ///< m³, standard deviation of what is in the tanks now
    std::size_t readings = 0;
    bool twoAgree = false; ///< two readings, apart in time or of two kinds, each by itself say that it burns less
};
/// A reading that is out of all likelihood.
struct AskedReading {
    Reading reading;
    double expected = 0.0, deviation = 0.0; ///< SI, by all others
    bool again = false;                     ///< a second one like it: a lever, or the engine?
    std::string sentence;
};

/// The plan bent to what was read.
struct Today {
    std::vector<EngineToday> engines;
    FuelToday fuel;
    std::vector<AskedReading> asked;
};

/// K or SI that a needle shows over the model, as the airframe's log has taught.
double taughtOffset(const powerplant::Aircraft& aircraft, std::size_t engine, Gauge gauge);

/// Solved anew from all readings: the most likely factors (maximum a posteriori) by Gauss–Newton, derivatives by
/// differences through the course; readings weigh by Student's t with four degrees of freedom. What lies more than
/// three standard deviations from all the others is asked about and not believed, until whoever read it says that it
/// stands. Readings of one needle within its engine's own time (30 s heads, 60 s oil) count as one.
Today todayOf(const powerplant::Aircraft& aircraft, const flight::Flown& flown, const Warmth& warmth,
              const Course& course, const FuelCourse& fuel, const Happened& happened, const Priors& priors = {},
              const Misfits& misfits = {});

} // namespace amber::aloft
