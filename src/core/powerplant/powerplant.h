// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/atmosphere.h"
#include "air/day.h"
#include "engine/leaning.h"
#include "powerplant/engine.h"
#include <algorithm>
#include <span>
#include <vector>

namespace amber::powerplant {

inline constexpr double easesBy = 1.0; ///< m/s², that a pilot changes a held speed by
/// m/s² that he gains one by while climbing at a rate: seven tenths of the climb at most.
inline double easing(double rate, double speed) {
    return std::clamp(0.7 * rate * air::gravity / std::max(speed, 1.0), 0.05, easesBy);
}
inline constexpr double speedHair = 1e-6; ///< m/s, less is no change

/// All that changes with time: the engines, what they share, and where the aircraft is.
struct AircraftState {
    Milliseconds now = 0;
    std::vector<EngineState> engines;
    std::vector<double> tanks;  ///< m³ usable
    double fuelDensity = 720.0; ///< kg/m³, of the fuel as it was filled
    double charge = 0.0;        ///< Ah in the battery
    double volts = 0.0;         ///< at the bus
    double hydraulic = 0.0;     ///< Pa
    double airBottle = 0.0;     ///< Pa, of a compressed-air starter
    int cartridges = 0;         ///< left, of a cartridge starter
    double height = 0.0;        ///< m above sea level
    double distance = 0.0;      ///< m over the ground
    double ias = 0.0;           ///< m/s
    double rate = 0.0;          ///< m/s, up
    double dryMass = 0.0;       ///< kg, of all but the fuel
    bool operator==(const AircraftState&) const = default;
};

/// Needles and signs of a moment.
struct AircraftReadings {
    std::vector<EngineReadings> engines;
    double yaw =
        0.0; ///< moment of unequal thrust over that of the outermost engine at rated power, nose to port positive
    double amperes = 0.0;               ///< into the battery; negative: out of it
    double generated = 0.0, load = 0.0; ///< A
};

/// Everything that a step needs to know and that no step changes.
struct Run {
    const air::Day* day = nullptr;
    std::vector<Condition> conditions; ///< one an engine; empty: sound, as the airframe's log has taught
    bool ice = true;                   ///< in the carburettors; false: kept clear, as a plan reckons
};

/// The engines of one aircraft, what they share (fuel, electrics, hydraulics, air) and its path. Plan, rehearsal and
/// record move levers over this and nothing else moves it. Engines that are equal in state, levers and condition are
/// stepped once.
///
/// Battery: V = E − I R, E from 95 to 105 % of the nominal by its charge; generators hold 1.19 of the nominal while
/// they can (both estimates of the usual size). Path: thrust = 0.8 P/V as the drag was settled with; on the runway no
/// more than momentum theory gives a standing propeller (Glauert).
class Powerplant {
public:
    Powerplant(const Aircraft& aircraft, const std::string& grade);

    /// Standing on the field: tanks and battery full, all cold.
    [[nodiscard]] AircraftState standing(const air::Day& day, Temperature engines) const;
    [[nodiscard]] Levers levers() const; ///< everything off and shut

    /// At most `shortStep`.
    AircraftReadings step(AircraftState& state, const Levers& levers, const Run& run, Milliseconds dt) const;
    /// Short steps over a time.
    AircraftReadings steps(AircraftState& state, const Levers& levers, const Run& run, Milliseconds time) const;
    /// Any time at levers that stand still, fast states settled. An event in between (a tank empty, a height reached)
    /// is for the caller to end it at.
    AircraftReadings stride(AircraftState& state, const Levers& levers, const Run& run, Milliseconds dt) const;
    /// The same with each engine's settled point known, or one for all.
    AircraftReadings stride(AircraftState& state, const Levers& levers, const Run& run,
                            std::span<const Engine::Settled> settled, Milliseconds dt) const;

    [[nodiscard]] const Aircraft& aircraft() const { return *aircraft_; }
    [[nodiscard]] const Engine& engine(std::size_t i) const { return engines_[i]; }
    [[nodiscard]] std::size_t count() const { return engines_.size(); }
    [[nodiscard]] const engine::KnockBoundary& knock() const { return knock_; }
    [[nodiscard]] Mass weight(const AircraftState& state) const;
    [[nodiscard]] double batteryCapacity() const { return capacity_; }
    /// V of the battery under a load. @param charge Ah left @param amperes drawn
    [[nodiscard]] double loadedVolts(double charge, double amperes) const;
    [[nodiscard]] Surroundings around(const AircraftState& state, const Levers& levers, const Run& run,
                                      std::size_t engine) const;
    /// Distance of an engine from the middle, starboard positive, in propeller diameters: side by side with a gap of a
    /// fifth (an estimate: notes do not say).
    [[nodiscard]] double arm(std::size_t engine) const;

private:
    void step(AircraftState& state, const Levers& levers, const Run& run, Milliseconds dt, AircraftReadings& out) const;
    void drawFuel(AircraftState& state, const Levers& levers, std::size_t engine, double before) const;
    void electrics(AircraftState& state, const Levers& levers, AircraftReadings& out, double seconds) const;
    /// V of the battery, nothing drawn.
    [[nodiscard]] double restingVolts(double charge) const;
    void fly(AircraftState& state, const Levers& levers, const Run& run, const AircraftReadings& out, double seconds,
             bool settled) const;
    void shared(const AircraftState& state, AircraftReadings& out) const;
    /// A condition's own, else the airframe's.
    [[nodiscard]] const Learnt& learntOf(const Condition& condition, std::size_t engine) const;

    const Aircraft* aircraft_;
    engine::KnockBoundary knock_;
    std::vector<Engine> engines_;
    double capacity_, nominalVolts_, resistance_, generatorAmperes_, ratedPower_;
    bool electric_;
};

} // namespace amber::powerplant
