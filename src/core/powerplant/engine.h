// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/knock.h"
#include "powerplant/aircraft.h"
#include "powerplant/condition.h"
#include "powerplant/engine_state.h"
#include "powerplant/exhaust.h"
#include "powerplant/levers.h"
#include "start/priming.h"

namespace amber::powerplant {

inline constexpr Milliseconds shortStep = 100;
/// K that full hot air adds to the carburettor's: the notes', or 50 where they say nothing (usual).
inline double hotAirRise(const TypeNotes& notes) {
    return notes.engine.carburettorHeatRise.value_or(50.0);
}

/// What is around one engine during a step.
struct Surroundings {
    air::Ambient air;
    Temperature dewPoint = Temperature::si(273.15);
    Speed ias;                  ///< at cowl and propeller, without the propeller's own wash
    double volts = 0.0;         ///< at the bus
    bool cart = false;          ///< the bus is fed from outside
    double airBottle = 0.0;     ///< Pa, of a compressed-air starter
    int cartridges = 0;         ///< left in the rack
    bool fuelAtTank = true;     ///< its tank can give
    double fuelDensity = 720.0; ///< kg/m³, as it was filled: meters count volume
    Milliseconds now = 0;
    [[nodiscard]] Speed trueAirspeed() const;
};

/// One engine with its propeller, carburettor, starter and oil, stepped in time: `step` in short steps, with what is
/// faster solved by exponentials; `stride` over any time at levers that stand still, what is fast taken as settled.
/// Both are pure; `readings` tells what the needles show of a state.
///
/// Sources. Throttle: compressible flow through an orifice, its flow function an ellipse between critical and equal
/// pressure (Saint-Venant & Wantzel; ellipse after Stodola). Manifold: filling and emptying of one volume (Heywood,
/// Internal Combustion Engine Fundamentals, 1988, chapter 14). Fuel on the walls: two parameters X and τ (Aquino, SAE
/// 810494). Fuel of the primer: as start::Priming. Propeller: as engine::BladeAngle, its blade angle set by a governor
/// of one time constant and a greatest rate. Windmilling and standing: decision 0023. Sizes that notes do not give are
/// estimates, named in engine.cpp.
class Engine {
public:
    Engine(const Aircraft& aircraft, const engine::KnockBoundary& knock, bool generator, bool hydraulics);

    /// Standing, at these temperatures, its tank of oil full.
    [[nodiscard]] EngineState standing(Temperature headOrCoolant, Temperature oil) const;
    /// Running settled at levers, with these temperatures; its oil as far as it has come.
    [[nodiscard]] EngineState running(EngineState from, const EngineLevers& levers, const Surroundings& around) const;

    /// One step of at most `shortStep`.
    EngineReadings step(EngineState& state, const EngineLevers& levers, const Effects& effects, const Learnt& learnt,
                        const Surroundings& around, Milliseconds dt) const;
    /// A whole engine, running or standing, over a stretch at constant levers and air.
    EngineReadings stride(EngineState& state, const EngineLevers& levers, const Surroundings& around,
                          Milliseconds dt) const;
    /// A running engine settled at its levers, with what drives its temperatures: good for every engine at these
    /// levers.
    struct Settled {
        Rotation rpm;
        engine::OperatingPoint point;
        heat::Drive drive;
        heat::ThermalModel::Forcing forcing;
    };
    [[nodiscard]] Settled settle(const EngineLevers& levers, const Surroundings& around) const;
    /// The same where rpm and point are known.
    [[nodiscard]] Settled settled(Rotation rpm, const engine::OperatingPoint& point, const EngineLevers& levers,
                                  const Surroundings& around) const;
    /// @param known where a sister as warm as this one comes to: not reckoned again
    EngineReadings stride(EngineState& state, const EngineLevers& levers, const Surroundings& around,
                          const Settled& settled, Milliseconds dt, const heat::Temperatures* known = nullptr) const;

    /// Time at the old setting that a change of rpm is worth. Up: the energy of the turning parts over the power it
    /// comes to; standing half of that and six tenths of a second (fixed blades three), three at most; down in
    /// the air: what the parts give back over the power given up, six seconds at most. (Settled against short steps on
    /// the shipped types: tests/core/engine/stride_test.cpp.)
    [[nodiscard]] double changeLag(Rotation from, Power before, Rotation to, Power after, bool moving) const {
        const double energy = kineticEnergy(to.si()) - kineticEnergy(from.si());
        if (energy > 0)
            return after.si() <= 0 ? 0.0
                   : moving        ? energy / after.si()
                                   : std::min(3.0, governorTakesUp() + 0.5 * energy / after.si());
        const double given = before.si() - after.si();
        return moving && after.si() > 0 && given > 0.05 * before.si() ? std::min(6.0, -energy / given) : 0.0;
    }
    /// Time with the throttle shut until the propeller, standing on its fine stop, has brought it down: a fifth of
    /// I/k (1/n₁ − 1/n₀) with k its power over n³, for the hand that opens again before; six seconds at most.
    [[nodiscard]] double runDownTime(Rotation from, Rotation to, const Surroundings& around) const;
    /// What drives the temperatures at a point.
    [[nodiscard]] heat::Drive drive(const engine::OperatingPoint& point, double n, const EngineLevers& levers,
                                    const Surroundings& around) const;
    [[nodiscard]] const Aircraft& aircraft() const { return *aircraft_; }
    /// The same accessories: one may be stepped for the other.
    [[nodiscard]] bool alike(const Engine& other) const {
        return generator_ == other.generator_ && hydraulics_ == other.hydraulics_;
    }
    [[nodiscard]] double doseMass() const { return doseMass_; }
    /// Exhaust temperature of a sound engine, K. @param fuelAir in the cylinders
    [[nodiscard]] double exhaust(const engine::OperatingPoint& point, double fuelAir) const {
        return exhaustTemperature(point, fuelAir, point.manifoldPressure.si() / mostBoost_);
    }
    /// Where the throttle's lever stands for an opening, 0 shut … 1 open. @param area over that wide open
    [[nodiscard]] double throttlePlace(double area) const;
    [[nodiscard]] double oilCapacity() const { return oilCapacity_; }
    /// J of the turning parts at a speed of the engine, rev/s.
    [[nodiscard]] double kineticEnergy(double n) const { return 0.5 * inertia_ * n * n; }
    /// W that the propeller takes at an engine speed, pitch and true airspeed.
    [[nodiscard]] double propellerPower(double n, double pitch, double trueSpeed, double density) const;

private:
    void setIdleStop(const air::Ambient& air);
    /// s that blades which can move take to stand still on their stop.
    [[nodiscard]] double governorTakesUp() const {
        return aircraft_->propeller.control == PropellerControl::fixed ? 0.3 : 0.6;
    }
    static constexpr double featheredPitch = 14.0;
    /// Advance ratio of the propeller over that at which the fine stop takes no power.
    [[nodiscard]] double advanceRatio(double n, double trueSpeed) const;
    struct Working; ///< what the parts of a step pass on
    void gearAndTurbo(Working& w) const;
    void throttle(Working& w) const;
    void combustion(Working& w) const;
    void fuel(Working& w) const;
    void turning(Working& w) const;
    void starter(Working& w) const;
    void blades(Working& w) const;
    void heat(Working& w) const;
    void oilAndWear(Working& w) const;
    void plugs(Working& w) const;
    void ice(Working& w) const;
    void needles(Working& w) const;
    void signs(Working& w) const;
    [[nodiscard]] engine::Demand demand(const EngineLevers& l, const Surroundings& around, double hotAir) const;
    [[nodiscard]] engine::Demand demand(const EngineState& s, const EngineLevers& l, const Effects& e,
                                        const Surroundings& around) const;
    void read(const EngineState& state, const engine::OperatingPoint& point, const Surroundings& around,
              EngineReadings& out) const;

    const Aircraft* aircraft_;
    engine::KnockBoundary knock_;
    start::Priming priming_;
    bool generator_, hydraulics_;
    double inertia_;            ///< J/(rev/s)², twice the energy at one rev/s
    double mostBoost_;          ///< Pa, highest of the ratings
    double ratedFuel_;          ///< kg/s at the highest rating
    double idleArea_ = 0.016;   ///< of the throttle at its stop
    bool cutsOff_, sparkLever_; ///< its mixture has a cut-off; its spark has a lever
    double doseMass_, oilCapacity_, waterCapacity_, fuelPressure_;
};

} // namespace amber::powerplant
