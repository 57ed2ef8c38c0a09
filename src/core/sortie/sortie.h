// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"
#include "notes/problem.h"
#include "notes/type_notes.h"
#include "start/cranking.h"
#include "watch/walk_round.h"
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber {

/// What the columns of an airframe's recorder are.
struct RecorderNotes {
    std::string time;                                         ///< heading of the time's column; empty: looked for
    std::vector<std::pair<std::string, std::string>> columns; ///< heading → "head, 1, °F" (record::columnFrom)
    bool operator==(const RecorderNotes&) const = default;
};

/// Something the log has taught of an airframe, and what somebody said to it.
struct LearntLine {
    std::string what;          ///< "prime" or "fuel": a factor; else the key of a gauge: SI that its needle reads more
    std::string engine;        ///< position id; empty: of the aircraft
    double value = 0.0;        ///< over the model's
    int runs = 0;              ///< that it rests on
    std::string first, last;   ///< their days, "2025-04-14"
    std::string model;         ///< powerplant::markOfModel when it was reckoned
    bool accepted = false;     ///< else refused: not planned with, and not offered again unless it changes
    std::string answered, who; ///< the day, and by whom
    bool operator==(const LearntLine&) const = default;
};

/// What an airframe's own file says of it.
struct AirframeFacts {
    struct Engine {
        std::string position, serial;
        std::optional<double> hours, sinceOverhaul;
        bool operator==(const Engine&) const = default;
    };
    struct Defect {
        std::string what, since;
        bool stops = false; ///< she does not fly with it
        bool operator==(const Defect&) const = default;
    };
    /// Something that comes round by hours, by the calendar or by both.
    struct Due {
        std::string what, engine;               ///< position id; empty: the airframe's hours
        std::optional<double> every, doneHours; ///< h
        std::optional<int> months;
        std::string done; ///< the day, "2025-03-01"; empty: not said
        bool operator==(const Due&) const = default;
    };
    std::string notes, variant, registration, serial;
    std::optional<double> hours;
    std::string hoursAt;         ///< the day on which all hours of the file stood so; empty: before the log's first run
    std::optional<Mass> weighed; ///< empty, on the scales
    std::optional<Length> weighedArm;
    std::map<std::string, double> extraPrime;
    std::vector<Engine> engines;
    std::vector<Defect> defects; ///< carried
    std::optional<RecorderNotes> recorder;
    std::vector<LearntLine> learnt;
    std::vector<Due> due;
    int line = 0;
    bool operator==(const AirframeFacts&) const = default;
};

/// One aircraft of a type, and what it has been found to like.
struct Airframe {
    std::string file;                           ///< path of its own file, relative to the sortie's folder; empty: none
    std::shared_ptr<const AirframeFacts> facts; ///< of that file
    std::string notes;                          ///< path of the type notes, relative to the sortie's folder
    std::string variant;
    std::string registration;
    std::map<std::string, double> extraPrime; ///< position id → doses more than the notes say
    /// Position id → what the log has taught the dose by (`flight::taught`): of the file, never written to a sortie.
    std::map<std::string, double> primeFactor;
    bool operator==(const Airframe& other) const; ///< of facts what they say
};

/// One stretch of the flight on one track.
struct Leg {
    std::string to;
    Distance distance;
    std::optional<double> track; ///< ° true; none: no wind is reckoned on it
    bool operator==(const Leg&) const = default;
};

/// Where to, how high, at which ratings.
struct Flight {
    std::string over; ///< turning point, if any
    std::string to;
    Length toElevation;
    Length cruiseHeight = Length::si(2000); ///< above sea level on the day's QNH
    std::string climbRating, cruiseRating;  ///< keys; empty: the phase's own
    Distance distance;                      ///< over the ground, from brakes-off to landing
    /// A cruise chosen from the candidates or typed; empty: the rating's.
    std::optional<Rotation> cruiseRpm;
    std::optional<ManifoldPressure> cruiseBoost;
    std::optional<Mixture> cruiseMixture;
    std::string cruiseGear; ///< name; empty: the lowest that holds the boost
    Duration hold;          ///< queue at the holding point
    /// Take-off and climb taken below what the notes allow; empty: the rating's.
    std::optional<Rotation> takeOffRpm, climbRpm;
    std::optional<ManifoldPressure> takeOffBoost, climbBoost;
    std::vector<Leg> legs;          ///< in order; empty: one leg, on `track`
    std::optional<double> track;    ///< ° true
    std::optional<air::Wind> aloft; ///< at the cruise height; none: still air there
    std::string alternate;          ///< where to if the field is shut
    Distance alternateDistance;
    std::vector<std::pair<double, double>> badGround; ///< m flown from – to, over which no tank is changed
    bool operator==(const Flight&) const = default;
};

/// How the engines are to be started today.
struct StartChoice {
    std::vector<std::string> order; ///< position ids; empty: the notes'
    start::Supply supply = start::Supply::cart;
    std::optional<Duration> sinceStop; ///< engines stopped so long ago; none: cold-soaked
    std::optional<Temperature> preheated;
    bool diluted = false; ///< oil diluted at the last stop
    bool blanks = false;  ///< oil-cooler and intake blanks fitted until take-off
    bool operator==(const StartChoice&) const = default;
};

/// What the walk-round found, and how she stands.
struct WalkFindings {
    watch::Found found;
    std::optional<double> attitude; ///< ° nose up; none: as the notes say
    bool operator==(const WalkFindings&) const = default;
};

/// What is put aboard, beside the fuel.
struct LoadChoice {
    bool weightTyped = true;                  ///< the weight stands as typed; else it follows from what is aboard
    std::map<std::string, Mass> stations;     ///< station id → mass; a station not named carries its usual
    std::map<std::string, std::string> names; ///< station id → who or what
    std::optional<Volume> oil;                ///< in all tanks; none: full
    bool operator==(const LoadChoice&) const = default;
};

/// How the fuel is to be used.
struct FuelChoice {
    std::vector<std::string> order;        ///< tank ids; empty: the notes'
    std::optional<Duration> reserve;       ///< none: the notes'
    std::optional<Distance> dropAt;        ///< drop tanks let go there, once empty; none: kept
    std::optional<VolumeFlow> priceOfTime; ///< fuel that an hour is worth, for the cheapest cruise
    bool operator==(const FuelChoice&) const = default;
};

/// The strip that is taken off from.
struct FieldChoice {
    std::optional<double> runway; ///< ° true, of the take-off
    std::optional<Length> length; ///< available
    double slope = 0.0;           ///< in a hundred, up positive
    bool grass = false, wet = false;
    bool operator==(const FieldChoice&) const = default;
};

/// One sortie as it is saved (docs/formats/sortie.md).
struct Sortie {
    Sortie();
    Sortie(const Sortie&);
    Sortie(Sortie&&) noexcept;
    Sortie& operator=(const Sortie&);
    Sortie& operator=(Sortie&&) noexcept;
    ~Sortie();
    bool operator==(const Sortie&) const;
    std::string title;
    Airframe airframe;
    air::Day day;
    std::string fuelGrade;
    Mass weight; ///< at start, as typed: sheet::rampWeight() says what holds
    LoadChoice load;
    FuelChoice fuel;
    FieldChoice strip;
    Flight flight;
    StartChoice start;
    WalkFindings walk;
    std::map<std::string, std::string> runUpFound; ///< key of the run-up sheet → reading, "left/1" → "80 rpm, slow"
    std::optional<Temperature> forecast;           ///< lowest before the next start; none: the day's own
    std::map<std::string, Volume> contents;        ///< tank id → fuel at start; a tank not named is full
    std::map<std::string, std::string> choices;    ///< "phase/step" → school chosen
};

struct SortieReading {
    std::optional<Sortie> sortie;
    Problems problems;
};

/// Reads a sortie from text. Names of ratings, tanks and schools are checked against the notes by checkSortie().
SortieReading readSortie(std::string_view text, const std::string& file);
SortieReading readSortieFile(const std::string& path);

/// What in a sortie does not fit these notes; an empty list when it can be planned.
Problems checkSortie(const Sortie& sortie, const TypeNotes& notes, const std::string& file);

/// The sortie as TOML, figures in the cockpit's units. readSortie() of it gives the same sortie (figures to 9 digits).
std::string writeSortie(const Sortie& sortie, const Cockpit& cockpit);

} // namespace amber
