// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <map>
#include <optional>
#include <string>

namespace amber::start {

/// What to prime with, at one engine temperature and field pressure. Doses in `unit`: the notes' own count (strokes,
/// seconds, blades), or blades where the engine is pulled through and the primer left alone.
struct PrimeAdvice {
    double dose = 0.0; ///< whole count to give
    std::string unit;
    double blades = 0.0; ///< pulled through besides, throttle closed, where both are used
    Origin origin = Origin::notes;
    double fireLow = 0.0, fireHigh = 0.0; ///< doses between which the mixture fires
    double flood = 0.0;                   ///< whole dose from which it is flooded
    Duration vaporise;                    ///< wait after the last stroke until enough is vapour
    Duration drain;                       ///< after which it has drained below firing again
};

/// What the engines of an airframe have been found to want beside the notes, by position id.
struct PrimeLiking {
    std::map<std::string, double> extra;  ///< doses more, as its file says
    std::map<std::string, double> factor; ///< of the dose, as its log has taught: it takes the place of `extra`
    bool operator==(const PrimeLiking&) const = default;
};
/// The dose of one engine, whole. What the log taught never takes it past what fires by the model: an engine that is
/// after all as its notes say is not flooded by it.
double doseFor(const PrimeAdvice& advice, const PrimeLiking& liking, const std::string& engine);

/// Fraction of liquid fuel that is vapour in equilibrium: 1/(1 + exp(−(T − 14 °C)/16 °C)), a gasoline's equilibrium air
/// distillation curve, simplified.
double vapourFraction(Temperature headOrCoolant);

inline constexpr double leanestFiring = 0.050, richestFiring = 0.140, bestFiring = 0.075; ///< vapour fuel–air ratios

/// Vapour fuel–air ratio that the carburettor itself gives an engine that is only turned: 0.95 of what it meters, of
/// which the vapour fraction's 1.5th power burns (an estimate: an engine over 30 °C starts unprimed).
double turnedCarburettor(double metered, Temperature engine);

/// Time that a dose in the advice's unit takes, and the blades that are pulled through besides.
Duration primingTime(const StartNotes& notes, const PrimeAdvice& advice, double dose, bool blades = true);
/// The notes' doses that it comes to, blades and all.
double inNotesDoses(const StartNotes& notes, const PrimeAdvice& advice, double dose);

inline constexpr double bladeTime = 1.5; ///< s, for one blade pulled through by hand: an estimate
/// Time constant of the film that runs out of the intake: 180 s at 15 °C (an estimate), in proportion to gasoline's
/// viscosity (0.60 mPa s there, 0.85 at −12 °C; Andrade's form).
Duration drainTime(Temperature engine);
inline constexpr double carriedPerCycle = 0.30; ///< of the fuel, by one cycle turned with the throttle open
/// Time constant of evaporation in an engine of this temperature: slower on colder metal, and two and a half times as
/// fast in the air that is drawn through it from a turn a second on (estimates). @param turns rev/s
Duration evaporationTime(Temperature engine, double turns = 0.0);
/// Fuel–air ratio that jets meter to an engine that is cranked with its throttle cracked: rich (an estimate).
inline constexpr double meteredCranking = 0.080;

/// Hotter than this, and than the notes' warmest entry, an engine is not primed: the charge evaporates by itself.
inline constexpr Temperature hotEngine = Temperature::si(333.15);

/// Priming of one type. The notes' doses by temperature rule; between two of them the dose follows the model's need
/// (air in the cylinders over vapour fraction), below its coldest entry it grows on by the model, above its warmest the
/// last dose stays; a hot engine is not primed. A higher field has less air to carbure and never needs more. Where the
/// school in force draws fuel in by turning blades with the throttle closed, each dose the primer does not give is so
/// many blades.
class Priming {
public:
    explicit Priming(const StartNotes& notes);

    /// Unrounded dose wanted, all ways together, in the notes' count. @param field barometric pressure
    [[nodiscard]] double wanted(Temperature engine, Pressure field) const;
    [[nodiscard]] PrimeAdvice advice(Temperature engine, Pressure field) const;
    /// Vapour fuel–air ratio that the jets alone give it as it is turned: none where they are cut off.
    [[nodiscard]] double carburetted(Temperature engine) const;
    /// Unrounded dose that makes the best mixture: the wanted one, and where none is wanted six tenths, which the warm
    /// metal alone evaporates (an estimate).
    [[nodiscard]] double bestDose(Temperature engine, Pressure field) const;
    /// Vapour fuel–air ratio of the wanted dose itself: with what the jets give it makes the best mixture.
    [[nodiscard]] double primerPart(Temperature engine) const;
    /// Vapour fuel–air ratio in the cylinders when a dose has evaporated as far as it will.
    [[nodiscard]] double vapourRatio(double dose, Temperature engine, Pressure field) const;
    /// The same so long after the last stroke: evaporating towards equilibrium, draining with a time constant of
    /// minutes.
    [[nodiscard]] double vapourRatio(double dose, Temperature engine, Pressure field, Duration since) const;
    /// Engine revolutions, throttle open and mixture cut off, until a dose has been carried out far enough to fire.
    [[nodiscard]] double clearingRevolutions(double dose, Temperature engine, Pressure field) const;

private:
    [[nodiscard]] Origin originAt(Temperature engine, Pressure field) const;
    /// The notes' doses that an amount, and what the blades draw besides, come to.
    [[nodiscard]] double dosesIn(double amount, Temperature engine, Pressure field) const;
    std::vector<PrimeEntry> table_; // coldest first
    std::string unit_;
    double share_, bladesPerDose_;
    bool openJets_;
};

/// How the engine comes to its temperature before a start.
struct Soak {
    std::optional<Duration> sinceStop; ///< none: cold-soaked
    Temperature whenStopped = Temperature::si(393.15);
    std::optional<Temperature> preheated;
};
/// Engine temperature for priming: pre-heated, or cooling towards the air with a time constant of 40 minutes.
Temperature engineTemperature(const Soak& soak, Temperature oat);

} // namespace amber::start
