// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/wind.h"
#include "engine/carburettor_ice.h"
#include "engine/knock.h"
#include "flight/engine_traces.h"
#include "heat/heat_solve.h"
#include "notes/gauge_register.h"
#include "powerplant/aircraft.h"
#include "sortie/sortie.h"
#include "start/start_order.h"
#include "watch/judge.h"
#include "watch/rating_clock.h"
#include "watch/rules.h"
#include "watch/run_up_sheet.h"
#include <array>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace amber::powerplant {
struct AircraftState;
}

namespace amber::flight {

inline constexpr double afterLastStart = 30.0;       ///< s of the start that go by when the last engine's oil is up
inline constexpr double runUpTaxi = 0.35;            ///< share of the run-up's time, the queue apart, on the way to it
inline constexpr double moveTime = 0.4;              ///< s that a hand takes from one control to the next: an estimate
inline constexpr double longestCoolDown = 15 * 60.0; ///< s at idle, after which she is stopped though not cool
inline constexpr double throttleShut = 2.5e4;        ///< Pa in the manifold with the throttle shut, in flight

/// How time goes by: in strides at settled levers, or in the short steps of a rehearsal.
enum class Pace { strides, shortSteps };

/// Every gauge of the sortie at one moment, SI, for one (the slowest) engine. The engine standing: the manifold reads
/// the barometric pressure.
struct Sample : Readings {
    double time = 0.0; ///< s from the first look at the tyres
    Phase phase = Phase::walkRound;
    std::size_t gear = 0;
    int tank = -1; ///< index of the tank that feeds
};
/// Between two samples, x of the way from one to the other: levers stand as in the later one once they have moved.
Sample between(const Sample& a, const Sample& b, double x);
/// At a time, held at the ends. The samples must not be empty.
Sample sampleAt(const std::vector<Sample>& samples, double time);

/// Lever positions over a stretch.
struct Setting {
    Rotation rpm;
    std::optional<ManifoldPressure> boost; ///< what is set; what comes may be less
    Origin boostOrigin = Origin::notes;
    std::size_t gear = 0;
    Mixture mixture = Mixture::rich;
    double coolingFlap = 1.0;
    Speed ias;
    bool water = false;  ///< injection on
    double hotAir = 0.0; ///< 1: the carburettor's air full hot, as the drill has it in the let-down and the landing
    bool byRpm = false;  ///< the throttle holds the rpm, whatever boost that takes: on the ground, and where nothing
                         ///< else would hold it
};

/// Where a phase comes nearest to the knock boundary, of every setting and height of it.
struct NearKnock {
    ManifoldPressure boundary, boost; ///< there
    Length height;
    std::size_t gear = 0;
    Temperature charge;
    double time = 0.0;                ///< s
    std::optional<Length> overFrom{}; ///< height from which it is past what can be read off in that gear; none: nowhere
    [[nodiscard]] double margin() const { return boundary.si() - boost.si(); } ///< Pa
};

struct PhaseFlown {
    double start = 0.0, duration = 0.0; ///< s
    double fuel = 0.0;                  ///< m³ burnt
    double distance = 0.0;              ///< m
    std::size_t firstSample = 0, lastSample = 0;
    Setting setting;
    engine::OperatingPoint point;   ///< at the setting, where the phase begins (climb) or settles
    std::optional<NearKnock> knock; ///< none where it is not asked: on the ground, without a blower in the notes
    std::string rating;             ///< key of the rating whose minutes run at the phase's setting; empty: none flown
    double ratingUsed = 0.0;        ///< s of that rating used in the whole sortie by the phase's end
};

struct GearChange {
    double time = 0.0;
    Length pressureAltitude, height;
    ManifoldPressure boostBefore;               ///< at full throttle just before
    std::optional<ManifoldPressure> boostAfter; ///< that is set in the next gear
    std::size_t from = 0, to = 1;
    std::optional<Length> equalPower; ///< pressure altitude where both gears give the same power
    Power gained;                     ///< by the change, each engine; negative: lost
};

/// Where the rating allows less boost from a height on, as it was flown.
struct BoostFall {
    double time = 0.0; ///< s
    Length pressureAltitude, height;
    ManifoldPressure boost; ///< that is left
};

/// Where the time of a rating was used up and the next weaker one taken.
struct RatingChange {
    double time = 0.0; ///< s
    Length height;
    std::string from, to; ///< names
    Phase phase = Phase::climb;
};

struct TankChange {
    double time = 0.0;
    int tank = 0;
    Phase phase = Phase::cruise;
    bool ranDry = false;
    int from = -1;
    double left = 0.0;            ///< usable fuel left in the one before, m³
    double distance = 0.0;        ///< m flown over the ground
    bool wanted = false;          ///< run dry as the notes ask
    bool beforeBadGround = false; ///< earlier than its fuel asks
    enum class Kind { feed, reserve, transferBegins, transferEnds, dropped };
    Kind kind = Kind::feed;
};

/// Fuel in the tanks at the moment of a sample.
struct TankContents {
    std::size_t tanks = 0;
    std::vector<double> held; ///< m³ usable, a row of `tanks` for each sample
    [[nodiscard]] std::span<const double> at(std::size_t sample) const {
        return std::span(held).subspan(sample * tanks, tanks);
    }
};

/// What drove the temperatures over a stretch of time, one engine.
struct Stretch {
    double time = 0.0, duration = 0.0; ///< s
    heat::Drive drive;
};

/// One setting of the let-down's schedule, from a height down.
struct LetDownStep {
    double time = 0.0; ///< s
    Length height;
    Setting setting;
    ManifoldPressure boost;    ///< that comes
    Temperature headOrCoolant; ///< where it begins
};

/// One engine while the others start.
struct EngineWarmth {
    std::string engine;                  ///< position id
    double firedAt = 0.0;                ///< s from the first look at the tyres
    heat::Temperatures atStartEnd;       ///< when the last engine's oil pressure is up
    std::optional<double> readyForRunUp; ///< s at warm-up rpm from then; none: never at this rpm
};

/// The sortie in figures: what fly() computed, without words. Phases are indexed as in Phase.
struct Flown {
    std::vector<Sample> samples;
    std::vector<Stretch> stretches;   ///< without gaps, from the walk-round to the end; of the engine that is drawn
    std::vector<EngineTrace> engines; ///< each flown for itself
    std::array<PhaseFlown, plannedPhases> phases;
    std::vector<GearChange> gearChanges;
    std::vector<BoostFall> boostFalls; ///< of the climb, rising; only such as leave less than comes there
    [[nodiscard]] const GearChange* gearChange() const { return gearChanges.empty() ? nullptr : &gearChanges.front(); }
    std::vector<TankChange> tankChanges;
    TankContents contents;            ///< one row a sample
    double fuelDensity = 0.0;         ///< kg/m³, today's
    double rampWeight = 0.0;          ///< kg
    std::vector<std::size_t> dropped; ///< samples from which drop tanks are gone: at most one
    struct LegFlown {
        std::string to;
        double distance = 0.0, time = 0.0; ///< m and s of it in the cruise
        air::WindOnTrack wind;
        double ground = 0.0; ///< m/s over the ground at the cruise's true airspeed
        bool knowsWind = false;
    };
    std::vector<LegFlown> legs;
    /// Whether the wind aloft is reckoned in.
    [[nodiscard]] bool knowsWind() const {
        for (const auto& leg : legs)
            if (leg.knowsWind)
                return true;
        return false;
    }
    std::vector<RatingChange> ratingChanges;
    watch::RatingLedger ratings;            ///< minutes of each through the whole sortie
    std::vector<watch::Finding> findings;   ///< what the pilot must hear of
    std::vector<watch::Finding> excursions; ///< every stretch of a gauge out of its normal range

    // start
    start::StartTimeline start;                              ///< as it is foreseen
    std::map<std::string, std::vector<start::Try>> foreseen; ///< the tries of each engine by its model
    std::vector<EngineWarmth> warmth;
    // run-up
    Rotation referenceRpm;
    ManifoldPressure fieldBoost;
    // ground
    std::optional<double> minutesToRunUp,
        minutesToTakeOff; ///< s of running until the minima are met; none: never at this rpm
    std::optional<double> groundToAmber,
        groundToRed; ///< s of taxi rpm from the start of the warm-up; none: not within an hour
    std::vector<std::pair<double, Rotation>> warmUpSteps; ///< s from the start of the warm-up → rpm
    bool oilHoldsRpm = false; ///< a step of the warm-up waited for the oil, whose pressure would pass its limit
    // take-off
    Power seaLevelPower; ///< of the take-off rating on the standard day
    Rotation staticRpm;
    // climb
    std::array<std::optional<Length>, 4> fullThrottleHeights;  ///< by gear, of the climb rating
    std::array<std::optional<ManifoldPressure>, 4> gearBoosts; ///< set in each of them
    VerticalSpeed firstRate;
    bool reachedHeight = true;
    std::optional<Length> heldHeight; ///< of the cruise, where its power does not hold the height that is asked for
    // air
    struct Ice {
        Phase phase;
        engine::IceAdvice advice;
    };
    std::vector<Ice> ice; ///< every phase in which the engine runs
    // cruise
    Speed cruiseTas;
    Length cruisePressureAltitude;
    double cruiseFuelFlow = 0.0; ///< m³/s, all engines
    // let-down
    std::vector<LetDownStep> letDown;
    struct NotesLetDown {
        ManifoldPressure boost;
        VerticalSpeed rate; ///< that it would give at the notes' speed on leaving the cruise, down
    };
    std::optional<NotesLetDown> letDownByNotes; ///< none where they give no boost for it
    double letDownCooling = 0.0;                ///< K, greatest fall of heads or coolant in a minute
    // stop
    double coolDown = 0.0; ///< s at idle after taxi until under the figure
    double fuelAtStart = 0.0, fuelAtEnd = 0.0;
    double reserveFuel = 0.0, alternateFuel = 0.0; ///< m³ that must be left at the end

    [[nodiscard]] const PhaseFlown& operator[](Phase p) const { return phases[static_cast<std::size_t>(p)]; }
    [[nodiscard]] PhaseFlown& operator[](Phase p) { return phases[static_cast<std::size_t>(p)]; }
    [[nodiscard]] double totalTime() const { return samples.empty() ? 0.0 : samples.back().time; }
};

/// Flies the sortie on the models: a pure function, well under 5 ms for three hours and four engines. The sortie must
/// have passed checkSortie(). No setting it chooses is beyond the rating, the grade's cut or a limit of the notes.
/// @param pace short steps only to hold the strides against
Flown fly(const powerplant::Aircraft& aircraft, const Sortie& sortie, Pace pace = Pace::strides);

/// Dew point at a height: falls by 1.8 K per kilometre from the field's, never above the air.
Temperature dewPointAt(const air::Day& day, Length height, Temperature air);
/// Temperature of the engines before the start: cold-soaked, pre-heated, or cooling since they were stopped.
Temperature engineTemperatureOf(const Sortie& sortie);
/// An engine that has not yet had fuel is as warm as the sortie says of its start: heaters and covers are taken off it
/// then, and an hour since the stop is an hour at the start.
void keepAsSoaked(Phase phase, powerplant::AircraftState& state, Temperature engine);
/// The start as the sortie asks for it, nothing failing.
start::StartRequest startRequestOf(const Sortie& sortie);
/// The same with what was foreseen of each engine.
start::StartRequest startRequestOf(const Sortie& sortie, const Flown& flown);

/// Fastest fall of heads or coolant in a minute, and whether the notes say so or it is our own figure: 20 K for heads,
/// 15 K for coolant.
struct CoolingLimit {
    double perMinute = 20.0; ///< K
    Origin origin = Origin::model;
};
CoolingLimit coolingLimit(const TypeNotes& notes);
/// Least temperature of heads or coolant in the let-down: the notes' lowest normal, else their least; none: not given.
std::optional<Temperature> letDownLeast(const TypeNotes& notes);
/// Viscosity over undiluted oil, when it was diluted and has not yet been boiled out.
double oilThinning(const TypeNotes& notes, const Sortie& sortie);

/// Wind on a track at a height: from the field's to that aloft, which stands at the cruise height, in proportion to the
/// height; as aloft above it. None where the sortie gives no wind aloft or no track.
air::WindOnTrack windAt(const Sortie& sortie, double heightMetres, std::optional<double> track, double groundMetres);
/// Seconds of cruise that the reserve is: the sortie's, else the notes'.
double reserveTime(const TypeNotes& notes, const Sortie& sortie);
/// The day as the run-up sheet is worked out for it.
watch::RunUpDay runUpDay(const Sortie& sortie, const Flown& flown);

/// Rating a phase uses, the sortie's choice first.
const Rating& ratingFor(const TypeNotes& notes, const Sortie& sortie, Phase phase);

/// Speed between the light and heavy columns at this weight, held at the columns' ends; notes at a column, between
/// notes inside.
struct TabulatedSpeed {
    Speed speed;
    Origin origin;
};
std::optional<TabulatedSpeed> speedFor(const TypeNotes& notes, std::string_view id, Mass weight);
inline constexpr double circuitHeight = 300.0; ///< m above the field, where the let-down ends
/// The climb's speed at a height: the table's, less with height, three quarters of it at least.
Speed climbSpeedAt(const TypeNotes& notes, Mass weight, Length pressureAltitude);

} // namespace amber::flight
