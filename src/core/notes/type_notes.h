// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/band.h"
#include "notes/control.h"
#include "notes/gauge_register.h"
#include "notes/loading_notes.h"
#include "notes/origin.h"
#include "notes/phase.h"
#include "notes/problem.h"
#include "notes/run_up_notes.h"
#include "notes/step.h"
#include "notes/trouble_notes.h"
#include "units/quantity.h"
#include "units/unit_table.h"
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

/// The type notes: what a period booklet says of one aircraft type, as read from its TOML file
/// (docs/formats/type-notes.md). Plain values in SI; a field that the booklet leaves out is empty.
namespace amber {

enum class Mixture { rich, weak };
enum class Cooling { air, liquid };

struct GaugeNotes {
    const UnitSpec* unit = nullptr;
    std::optional<std::pair<double, double>> scale; ///< ends of the dial
    Band band;
    std::map<Phase, Band> perPhase; ///< complete bands: what a phase does not say is taken from `band`
    int line = 0;

    [[nodiscard]] const Band& in(Phase phase) const {
        const auto found = perPhase.find(phase);
        return found == perPhase.end() ? band : found->second;
    }
};

/// What the needles of this cockpit are marked in.
struct Cockpit {
    const UnitSpec* boost = units::manifold::inHg.spec;
    const UnitSpec* temperature = units::celsius.spec;
    const UnitSpec* pressure = units::psi.spec;
    const UnitSpec* speed = units::knot.spec;
    const UnitSpec* height = units::foot.spec;
    const UnitSpec* fuel = units::usGallon.spec;
    const UnitSpec* weight = units::pound.spec;
    const UnitSpec* distance = units::nauticalMile.spec;
    const UnitSpec* power = units::horsepower.spec;
};

struct Lever {
    std::string id;
    std::string name;
    std::string sense;                  ///< "forward is rich"
    std::vector<std::string> positions; ///< as engraved, if any
    bool reversed = false;              ///< against the modern sense: shown as a caution
};

struct ClockNote {
    std::string what;
    std::string value;
    std::string why;
    std::optional<Duration> every; ///< a chore that comes round: due so long after the phase begins, and again
};

struct PhaseNotes {
    PhaseNotes();
    PhaseNotes(const PhaseNotes&);
    PhaseNotes(PhaseNotes&&) noexcept;
    PhaseNotes& operator=(const PhaseNotes&);
    PhaseNotes& operator=(PhaseNotes&&) noexcept;
    ~PhaseNotes();
    std::optional<Duration> duration;
    std::optional<Rotation> rpm;
    std::optional<ManifoldPressure> boost;
    std::string rating; ///< key
    std::optional<Speed> ias;
    std::optional<VerticalSpeed> rate;
    std::string gear;
    std::optional<Mixture> mixture;
    std::optional<double> coolingFlap;                     ///< cowl flaps or radiator shutter, 0 shut … 1 open
    std::optional<ManifoldPressure> brakesHold, tailLifts; ///< most boost that brakes hold; at which the tail lifts
    std::vector<Step> steps;
    std::vector<std::string> without; ///< ids of the standard drill that this type has not
    std::vector<ClockNote> clocks;
    std::vector<std::string> cautions;
    int line = 0;
};

struct RatingLine {
    std::string gear; ///< empty without a supercharger
    std::optional<Power> power;
    Length at;                             ///< pressure altitude of `power`
    std::optional<Length> holdsTo;         ///< full-throttle height, no ram
    std::optional<VolumeFlow> fuelFlow;    ///< per engine
    std::optional<ManifoldPressure> boost; ///< in this gear, where it is not the rating's
    int line = 0;
};

struct Rating {
    std::string key;
    std::string name;
    Rotation rpm;
    std::optional<ManifoldPressure> boost; ///< none: full throttle (no boost gauge)
    Mixture mixture = Mixture::rich;
    std::optional<Duration> minutes;
    bool water = false; ///< with water injection
    std::string grade;  ///< the fuel it was set for
    std::map<std::string, ManifoldPressure> grades;
    std::vector<std::pair<Length, ManifoldPressure>> above; ///< most boost from this pressure altitude, rising heights
    std::vector<RatingLine> lines;
    int line = 0;
    /// Boost of a line: its own, or the rating's.
    [[nodiscard]] std::optional<ManifoldPressure> boostOf(const RatingLine& l) const {
        return l.boost ? l.boost : boost;
    }
    /// Boost in a gear, by name: that of its line where there is one.
    [[nodiscard]] std::optional<ManifoldPressure> boostIn(std::string_view gear) const {
        for (const auto& l : lines)
            if (l.gear == gear && l.boost)
                return l.boost;
        return boost;
    }
};

struct SuperchargerGear {
    std::string name;
    double ratio = 0.0;     ///< of the engine stage
    double auxiliary = 0.0; ///< of the auxiliary stage; 0: neutral, or none fitted
};

/// An exhaust-driven compressor ahead of the carburettor, its wastegate worked by a regulator.
struct TurboNotes {
    ManifoldPressure held; ///< carburettor inlet pressure that the regulator holds
    Length critical;       ///< pressure altitude up to which the turbine can, at rated rpm
    double efficiency = 0.68;
};

/// A stroke count of the priming table.
struct PrimeEntry {
    Temperature at;
    double dose = 0.0;
};

struct Position {
    std::string id;
    std::string name;
    std::vector<std::string> accessories;
    bool generator = false, hydraulics = false; ///< driven by it, by its accessories
};

/// Parameters settled once and written into the notes. SI.
struct CalibratedNotes {
    double isac = 3.7 / 3.6e6; ///< kg/J
    double friction = 5e4;     ///< Pa
    double volumetric = 0.9;
    std::vector<double> efficiency;              ///< one a gear
    std::vector<std::pair<double, double>> rich; ///< metering as in [engine.mixture]; empty: that
    std::optional<double> weak;
    std::optional<double> impeller; ///< m, where the notes do not give it
};

struct EngineNotes {
    EngineNotes();
    EngineNotes(const EngineNotes&);
    EngineNotes(EngineNotes&&) noexcept;
    EngineNotes& operator=(const EngineNotes&);
    EngineNotes& operator=(EngineNotes&&) noexcept;
    ~EngineNotes();
    std::optional<CalibratedNotes> calibrated;
    std::string name;
    int cylinders = 0;
    Volume displacement;
    double compression = 0.0;
    double strokeMetres = 0.0; ///< from stroke, or a square engine
    Cooling cooling = Cooling::air;
    double reduction = 1.0; ///< propeller revolutions per engine revolution
    double impellerDiameter = 0.0;
    std::vector<SuperchargerGear> gears;
    double auxiliaryDiameter = 0.0; ///< m, of the auxiliary stage's impeller
    double intercooler = 0.0;       ///< effectiveness with its flap open, 0 … 1; 0: none
    std::optional<TurboNotes> turbo;
    bool boostControl = true;    ///< holds the boost that the lever asks for; else the throttle stays where it is put
    bool altitudeControl = true; ///< of the mixture; without it the carburettor enriches with height
    std::optional<Length> correctorFrom; ///< height from which the manual mixture corrector is used
    std::optional<double> waterRatio;    ///< fuel–air ratio with water injection
    std::vector<std::pair<Rotation, ManifoldPressure>> lowRpmBoost; ///< most boost at low rpm, by the notes, rising
    bool suctionCarburettor = true;                                 ///< fuel evaporates at the throttle: it can ice
    std::optional<double> carburettorHeatRise;                      ///< K of full hot air on the standard day
    double ramEfficiency = 0.7;
    double throttleLoss = 0.02;
    std::vector<std::pair<double, double>> richSchedule; ///< fraction of rated charge flow → fuel–air ratio
    double weakRatio = 0.067;
    bool mixtureGiven = false; ///< metering by the notes, not the usual one
    double weakUpTo = 0.7;     ///< fraction of rated power up to which weak may be used
    int line = 0;
};

/// The rated point that sets the scale of the heat model.
struct HeatNotes {
    std::string rating;
    Speed ias;
    Length height;
    double coolingFlap = 0.5;
    double slipstream = 1.0; ///< share of the propeller's wash that reaches cowl or radiator
    std::optional<Temperature> head, coolant;
    Temperature oil;
    std::optional<Temperature> thermostat; ///< coolant
    Temperature oilThermostat = Temperature::si(343.15);
    Pressure oilRelief;
    Pressure fuelPressure;
    double glycol = 0.0; ///< share of the coolant
    Pressure coolantCap; ///< relief pressure of the header tank
    int line = 0;
};

enum class PropellerControl { constantSpeed, twoPosition, fixed };

struct PropellerNotes {
    std::string kind;                                                        ///< in words
    bool electric = false, feathers = false, reverses = false, wood = false; ///< of those words, read once
    PropellerControl control = PropellerControl::constantSpeed;
    double coarseAbsorption = 1.5; ///< two-position: power taken standing in coarse over that in fine

    double diameter = 0.0; ///< m
    int blades = 3;
    std::optional<Rotation> referenceRpm; ///< at field barometric pressure on the standard day at sea level, fine stop
    double referenceTolerance = 50.0 / 60.0; ///< rev/s
};

struct PerformanceLine {
    std::string rating;
    Length height;
    Mass weight;
    Speed ias;
    std::optional<VerticalSpeed> rate; ///< none: level
    int line = 0;
};

struct SpeedEntry {
    std::string id;
    std::string name;
    Speed light, heavy;
};

struct Speeds {
    Mass lightWeight, heavyWeight;
    std::vector<SpeedEntry> entries;
    Speed climbLossPerKm; ///< fall of climbing speed per 1,000 m
};

/// What a tank's gauge shows on the ground, against what is in the tank, at one attitude.
struct GroundCorrection {
    double attitude = 0.0;                       ///< ° nose up
    std::vector<std::pair<Volume, Volume>> read; ///< contents → shown, rising
};

/// How a tank is used.
enum class TankKind { main, drop, transfer };

struct Tank {
    std::string id;
    std::string name;
    Volume capacity;
    Volume usable;
    bool gauged = true;
    std::vector<GroundCorrection> ground; ///< by rising attitude; empty: the gauge is right as she stands
    TankKind kind = TankKind::main;
    bool removable = false;                      ///< hangs there only where the sortie names it
    double arm = 0.0, side = 0.0;                ///< m aft of the datum, m to starboard
    std::vector<std::pair<double, double>> arms; ///< contents m³ → arm m, rising; empty: `arm` whatever is in it
    std::string to;                              ///< of a transfer tank: the one it is pumped to
    std::optional<VolumeFlow> transferRate;      ///< of its pump
    std::optional<Volume> leaveAt;               ///< usable fuel at which it is left
    bool runDry = false;                         ///< the notes want it run dry
    Volume standpipe;                            ///< usable fuel kept back until the cock is at reserve
    Volume uncovers;                             ///< usable fuel below which the outlet uncovers nose-up
    Mass emptyMass;                              ///< of a drop tank itself
    std::vector<std::string> feeds;              ///< positions fed without the crossfeed; empty: all
};

struct FuelNotes {
    double density = 720.0; ///< kg/m³ at 15 °C
    /// kg/m³ at a temperature: 1.3 in a thousand less for each K (ASTM D1250, table 54B: 346.4/ρ² + 0.439/ρ).
    [[nodiscard]] double densityAt(Temperature fuel) const { return density * (1.0 - 1.3e-3 * (fuel.si() - 288.15)); }
    std::vector<Tank> tanks;
    std::string takeOffTank, landingTank;
    std::vector<std::string> order;
    Duration reserve;
    std::optional<Length> changeAbove; ///< least height above the ground at which a tank is changed
    std::vector<std::string> grades;   ///< best first
    double groundAttitude = 0.0;       ///< ° nose up as she stands on level ground
    double gaugeTolerance = 0.04;      ///< of the capacity, that a gauge may be off before it is written up
};

/// A part of the top-view outline: metres aft of the nose, metres to starboard; a mirrored part is drawn on both sides.
struct OutlinePart {
    std::vector<std::pair<double, double>> points;
    bool mirrored = false;
};

enum class WalkItemKind { look, reading, dip, gauge };

/// One thing to look at or to read at a station.
struct WalkItem {
    std::string id;
    WalkItemKind kind = WalkItemKind::look;
    std::string what;
    std::string look; ///< how it should be found
    std::string why;
    Dimension dimension = Dimension::pressure; ///< of a reading
    const UnitSpec* unit = nullptr;
    Band band;        ///< of a reading: outside normal it is written up; a stopper outside a limit stops the flight
    std::string tank; ///< of a dip or gauge
    bool stopper = false;
    int line = 0;
    bool operator==(const WalkItem&) const = default;
};

struct WalkStation {
    std::string id;
    std::string name;
    double aft = 0.0, starboard = 0.0; ///< m
    std::vector<WalkItem> items;
    int line = 0;
};

/// The path around the aircraft, in order, always the same (J10).
struct WalkNotes {
    std::vector<OutlinePart> outline;
    std::vector<WalkStation> stations;
};

/// What turns the engine over.
enum class StarterKind { direct, inertia, cartridge, air, hand };

/// The starter and what feeds it. Times in s.
struct StarterNotes {
    StarterKind kind = StarterKind::direct;
    Duration energiseCart, energiseBattery; ///< inertia: run-up of the wheel, by supply
    std::optional<Duration> boosterMost;    ///< longest use of the booster coil
    Duration longRest = Duration::si(600);  ///< after the last try
    int bladesBeforeIgnition = 0;
    int cartridges = 0;                    ///< in the breech: starts that can be tried
    Pressure airBottle, airPerStart;       ///< compressed air: full bottle, what a start takes
    double warmRpm = 80.0 / 60.0;          ///< cranking speed with warm oil, rev/s
    double torque = 250.0;                 ///< Nm at the crankshaft at that speed
    std::string spark;                     ///< how the spark is set for the start, where there is a lever
    Duration firesAfter = Duration::si(5); ///< of cranking, when the dose is right
};

/// The ship's battery; a ground cart is taken as stiff.
struct BatteryNotes {
    double volts = 24.0;
    double ampereHours = 34.0;
    double resistance = 0.02; ///< Ω, warm
    double fuseAmperes = 600.0;
};

/// Turning by hand before the start (J13).
struct HandTurning {
    double blades = 0.0;                             ///< after standing `standing`
    Duration standing = Duration::si(2 * 3600);      ///< stood longer than this: turn it
    bool locks = false;                              ///< radials and inverted engines: oil can lock the lower cylinders
    std::string lowest;                              ///< the cylinders that lie lowest, "5 to 10"
    std::vector<std::pair<Duration, double>> longer; ///< stood longer still → blades, rising
    bool byStarter = false;                          ///< too high for the hand: turned by the starter, ignition off
    /// Blades after standing so long; none known: cold, the most.
    [[nodiscard]] double bladesAfter(std::optional<Duration> stood) const;
};

/// Frost (J22).
struct ColdNotes {
    std::optional<Temperature> preheatBelow; ///< engine to be heated before a start
    std::string oilGrade;
    Power heater = Power::si(8000.0);       ///< heat that reaches one engine
    std::optional<Temperature> blanksBelow; ///< intake or cooler blanks are fitted
    std::optional<Temperature> diluteBelow; ///< forecast at which oil is diluted at the stop
    double dilutedViscosity = 0.35;         ///< of diluted oil over undiluted
    std::optional<Duration> hotAirAfter;    ///< running, until the exhaust is hot enough for warm carburettor air
};

/// A setting between two starts: what is on or off for which engine.
struct StartAction {
    enum class When { beforePrime, beforeCrank, running, allRunning };
    When when = When::beforePrime;
    std::string what;
    std::string set; ///< {engine} is the engine's name
    int line = 0;
};

struct StartNotes {
    StartNotes();
    StartNotes(const StartNotes&);
    StartNotes(StartNotes&&) noexcept;
    StartNotes& operator=(const StartNotes&);
    StartNotes& operator=(StartNotes&&) noexcept;
    ~StartNotes();
    std::string primer; ///< what a dose is counted in: "strokes", "seconds", "blades"
    Volume doseVolume = Volume::si(14e-6);
    std::vector<PrimeEntry> prime; ///< coldest first
    std::vector<std::string> order;
    std::string orderReason;
    std::string accessoryFirst, awayFirst; ///< positions that the other schools of start order begin with
    Duration perEngine;
    Duration crankMost, rest;
    int tries = 3;
    Duration primeTime = Duration::si(2); ///< for one stroke, second or blade
    bool primeAhead = true;               ///< the next engine may be primed while this one's oil pressure is watched
    bool primeWhileTurning = false;
    double primerShare = 1.0;                          ///< of the dose; the rest is drawn in by blades, throttle closed
    double bladesPerDose = 3.0;                        ///< pulled through in place of one dose of the primer
    bool bladesFirst = false;                          ///< ignition only after starter.bladesBeforeIgnition
    bool openJets = false;                             ///< no cut-off: its jets give fuel as soon as it is turned
    bool slowFirst = false;                            ///< slowest smooth rpm until oil pressure
    std::optional<Rotation> slowRpm;                   ///< that rpm
    std::optional<std::pair<Rotation, Rotation>> band; ///< of rpm in which it is held while it starts
    std::optional<Rotation> generatorFrom;             ///< rpm at which the generator cuts in
    std::string cartPermits;                           ///< what may be switched on while the cart feeds
    Pressure oilPressure;
    Duration oilPressureWithin;
    StarterNotes starter;
    BatteryNotes battery;
    HandTurning handTurning;
    ColdNotes cold;
    std::vector<StartAction> actions;
};

struct GearChangeRule {
    Pressure fall;
    ManifoldPressure throttleBackTo;
};

struct WarmUpNotes {
    Temperature oilRunUp, oilTakeOff;
    std::optional<Temperature> headRunUp, headTakeOff; ///< or coolant, by the cooling
    Duration taxi;
    Rotation taxiRpm;
    std::vector<std::pair<Temperature, Rotation>> steps; ///< from this oil temperature → rpm, both rising
    std::optional<Rotation> leastRpm;                    ///< slower fouls the plugs
    bool onWater = false;                                ///< taxies on water
    Speed taxiSpeed = Speed::si(4.0);
};

/// The let-down beyond its settings (J50, J51).
struct LetDownNotes {
    std::optional<TemperatureDifference> coolingPerMinute; ///< fastest fall of heads or coolant
    std::optional<Duration> clearEvery;                    ///< a burst that clears the plugs
    Duration clearFor = Duration::si(10);
    std::optional<ManifoldPressure> clearBoost;
    std::optional<Rotation> clearRpm;
};

struct StopNotes {
    std::optional<Temperature> coolBelow; ///< head or coolant
    Duration scavenge;
    Rotation scavengeRpm;
    std::vector<std::pair<Temperature, Duration>> dilution; ///< forecast → minutes of dilution, coldest first
    std::optional<Temperature> diluteUnder;                 ///< oil must be under this first
    std::string parking;                                    ///< where the propeller is left, and why
    bool parksCoarse = false;                               ///< by those words
};

struct Variant {
    std::string id;
    std::string name;
};

/// A figure that booklets seldom have, in its place our own.
struct Estimate {
    std::string path; ///< "engine_start.crank_most"
    std::string text; ///< "20 s"
    std::string why;
};

struct TypeNotes {
    TypeNotes();
    TypeNotes(const TypeNotes&);
    TypeNotes(TypeNotes&&) noexcept;
    TypeNotes& operator=(const TypeNotes&);
    TypeNotes& operator=(TypeNotes&&) noexcept;
    ~TypeNotes();
    std::string file;
    std::vector<Estimate> estimated; ///< what the notes leave out and is needed: our own figures
    int format = 2;                  ///< 1: steps are sentences, and the list of them is whole
    std::string name;
    std::string summary;
    std::vector<Variant> variants;
    std::string variant; ///< id of the one applied, or empty
    Cockpit cockpit;
    EngineNotes engine;
    PropellerNotes propeller;
    std::vector<Position> positions;
    std::map<Gauge, GaugeNotes> gauges;
    std::vector<Rating> ratings;
    std::optional<GearChangeRule> gearChange;
    std::string coolingLever; ///< what the cooling flaps are called
    std::vector<Lever> levers;
    std::vector<Control> controls;         ///< as written; cockpit::expand() adds what they leave out
    bool wholeDrill = false;               ///< the steps written are all there are: no standard drill beneath them
    std::vector<std::string> has, without; ///< what this cockpit has, or has not, beside the usual: keys of Acts
    std::vector<std::string> crew{"pilot"};
    Speeds speeds;
    Mass emptyWeight, maxWeight;
    std::vector<PerformanceLine> performance;
    FuelNotes fuel;
    LoadingNotes loading;
    std::vector<PerformanceTable> tables; ///< distances and weights
    WalkNotes walk;
    StartNotes start;
    WarmUpNotes warmUp;
    RunUpNotes runUp;
    LetDownNotes letDown;
    StopNotes stop;
    TroubleNotes trouble;
    HeatNotes heat;
    std::map<Phase, PhaseNotes> phases;

    [[nodiscard]] const Rating* rating(std::string_view key) const;
    [[nodiscard]] const PhaseNotes& phase(Phase phase) const;
    /// Index of a gear by name; 0 without a supercharger; nothing for an unknown name.
    [[nodiscard]] std::optional<std::size_t> gearIndex(std::string_view name) const;
    /// Unit a gauge is marked in: its own, or the cockpit's.
    [[nodiscard]] const UnitSpec& unitOf(Gauge gauge) const;
    /// Whether a figure of a phase, by its placeholder's or its clock's name, is one of `estimated`.
    [[nodiscard]] bool isEstimated(Phase in, std::string_view figure) const;
    [[nodiscard]] std::size_t engineCount() const { return positions.size(); }
};

} // namespace amber
