// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "drills/state.h"
#include "flight/flown.h"
#include "hand/hands.h"
#include "powerplant/powerplant.h"
#include "watch/rules.h"
#include "watch/watch.h"
#include <functional>

/// A hand that does the drill on the powerplant, step by step, waiting for what each act waits for.
namespace amber::hand {

/// An act whose condition did not come in its time.
struct Missed {
    Phase phase = Phase::walkRound;
    std::string step, engine;
    std::string sentence; ///< "oil pressure above 40 lbf/in² had not come in 30 s: it read 12"
};

/// What an act of the drill waits for once it is done, in figures of today.
struct Wait {
    double lasts = 0.0;         ///< s that it is kept up
    std::optional<Gauge> gauge; ///< and until this reads
    bool above = true;
    double level = 0.0;    ///< SI
    double within = 0.0;   ///< s at most; 0: no bound
    std::string otherwise; ///< what is done when it does not come
};

/// What stands for the step of an act that the day wanted and no drill (hand::needs).
inline constexpr const char* ofTheDay = "day";

/// One act done: when, what was put, and what it waited for.
struct Done {
    double time = 0.0; ///< s
    Phase phase = Phase::walkRound;
    std::string step, engine, control;
    double waited = 0.0;                ///< s
    std::size_t firstPut = 0, puts = 0; ///< of HandRun::put
    std::vector<std::size_t> engines;
    Wait wait;
    double height = 0.0; ///< m
    bool later = false;  ///< it waited for its moment: a height, a time, or the end of its phase
};

/// Where levers and needles stood at the end of a phase.
struct PhaseEnd {
    double time = 0.0;   ///< s
    double height = 0.0; ///< m
    std::size_t put = 0; ///< controls put so far
    std::vector<powerplant::EngineLevers> levers;
    powerplant::AircraftReadings readings;
};

struct HandRun {
    std::vector<Done> done;
    std::vector<Missed> missed; ///< empty: every condition of the drill was reached
    std::array<PhaseEnd, plannedPhases> ends;
    powerplant::AircraftState state;      ///< at the end
    double fuel = 0.0;                    ///< m³ burnt
    bool cooledFirst = false;             ///< stopped, left to cool and started again, so as to be diluted
    int retries = 0;                      ///< of starts that did not catch at once
    std::vector<watch::Finding> findings; ///< what the watch on each engine has seen, limits and seconds
    std::vector<Put> put;                 ///< every control it put, in order
    [[nodiscard]] const PhaseEnd& operator[](Phase p) const { return ends[static_cast<std::size_t>(p)]; }
};

/// How the hand keeps time. In haste each phase ends as soon as its drill is done and the cruise after so long, so that
/// a proof does not take a whole sortie. By the plan's clock it waits where the plan waits: before the start, in the
/// warm-up, taxying, queueing; it stays at take-off power as long, changes tanks when the plan does, lets down by the
/// plan's steps, and leaves the cruise at the planned minute.
struct Haste {
    double cruise = 120.0; ///< s
    bool byTheClock = false;
    bool ice =
        false; ///< forms in the carburettors, and the hand uses heat against it (needs()); else they are kept clear
};
inline constexpr Haste byThePlansClock{0.0, true};
/// The same on the day as it is, with its ice.
inline constexpr Haste asTheDayIs{0.0, true, true};

/// The aircraft as it stands before the first act: tanks as the sortie fills them, the weight that it says.
powerplant::AircraftState standingReady(const powerplant::Powerplant& plant, const Sortie& sortie);

/// A moment of a run, after each short step.
struct Moment {
    Phase phase = Phase::walkRound;
    const powerplant::AircraftState& state;
    const powerplant::AircraftReadings& readings;
    const powerplant::Levers& levers;
};
using Watcher = std::function<void(const Moment&)>;

/// Shows a moment to the watch on each engine: its starter at every step, its needles every second.
/// @param time s, of the watches' own clock
void look(std::vector<watch::Watch>& watches, double time, const Moment& moment);

/// Does the whole drill of a sortie from cold metal to stopped engines in short steps: each engine in the order of
/// starting, each act held until its condition is read or its time is up. Between acts it flies the phases as planned.
/// Nothing it does is not an act of the drill or the plan's own path. @param flown the plan that its figures come from
/// @param conditions one an engine: what is wrong with it, which the hand does not know; empty: they are sound
HandRun doDrill(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                const Haste& haste = {}, const Watcher& watcher = {},
                const std::vector<powerplant::Condition>& conditions = {});

/// The same by the plan’s clock, as far as the beginning of a phase: where everything then stands.
struct Come {
    powerplant::AircraftState state;
    Hands hands;
};
Come comeTo(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown, Phase phase);

} // namespace amber::hand
