// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/today.h"
#include "plan/plan.h"
#include "watch/verdict.h"

namespace amber::aloft {

inline constexpr double ninety = 1.645;     ///< standard deviations, on either side of which nine of ten lie
inline constexpr double readStands = 300.0; ///< s that a needle which was read stands in place of what is expected

/// A figure ahead, and in which it lies nine times in ten.
struct Ahead {
    double value = 0.0, low = 0.0, high = 0.0;
};

/// Something that comes next, in the order in which it counts.
struct NextItem {
    enum class Kind {
        tank,
        rating,
        rest,
        oilPressure,
        groundHeat,
        turnBack,
        moment,
        height,
        needle,
        ice,
        reading,
        chore
    };
    Kind kind = Kind::moment;
    std::string id;           ///< stays the same while it is the same thing: "moment/at-taxi", "tank/aux"
    std::string what;         ///< "Change to aux", "Take-off power"
    std::string why;          ///< "main then has 12 US gal"
    std::optional<double> in; ///< s; negative: overdue. None: it counts up, or waits for a needle that does not come
    std::optional<std::pair<double, double>> width; ///< s, nine times in ten
    std::optional<double> estimate;                 ///< s, where `in` is the more careful of two
    std::string told;                               ///< "used 3:20 of 5:00" where it is no countdown
    watch::Verdict verdict;
    Origin origin = Origin::model;
    std::string place; ///< key of the log that ticks it, "at-taxi"; empty: it is only looked at
    std::string engine;
    bool ticks = false; ///< done by a tick of its id
};

/// Minutes of a rating used so far. What is left is not told: it invites use.
struct RatingUsed {
    std::string key, name;
    double used = 0.0;             ///< s
    std::optional<double> allowed; ///< s
    bool runs = false;             ///< it is in use now
    watch::Verdict verdict;
};

/// A needle as it should stand now, by all that was read.
struct NeedleNow {
    Gauge gauge = Gauge::rpm;
    std::string engine;
    Ahead expected;
    double planned = 0.0;       ///< the plan's, for this moment of it
    std::optional<double> read; ///< where somebody read it in the last five minutes: it stands instead
    watch::Verdict verdict;     ///< of what was read; of what is expected where nothing was
};

/// From here: with what is in the tanks now.
struct FromHere {
    Ahead fuel;                ///< m³ in all tanks
    std::vector<double> tanks; ///< m³ in each
    int feeding = -1;
    Ahead landing;                  ///< m³ left when stopped, as planned from here on
    double must = 0.0;              ///< m³ that must be left then
    double endurance = 0.0;         ///< s in the air until only the reserve (and the alternate's) is left
    double range = 0.0;             ///< m over the ground the same way
    std::optional<double> turnBack; ///< s from now: after it fuel does not bring her back with the reserve
    watch::Verdict verdict;
    double burn = 1.0;          ///< consumption over the plan's that the sums are made with
    bool shortenedOnly = false; ///< fewer than two readings agree that it burns less: nothing is lengthened
};

/// What differs from the plan today, in words: "Starboard: heads 4 K hotter, ± 3".
struct Differs {
    std::string what;
    double value = 0.0, deviation = 0.0;
    bool clear = false; ///< by more than twice its deviation
};

/// The run at one moment.
struct Now {
    double at = 0.0, plan = 0.0; ///< s
    Phase phase = Phase::walkRound;
    bool over = false;
    /// Below 1,000 ft after take-off and on approach nothing is called but fire and oil pressure.
    bool quiet = false;
    std::string quietWhy;
    std::optional<Planned> nextMoment;
    double nextMomentIn = 0.0;       ///< s, by the plan from the last one; negative: overdue
    std::vector<NextItem> next;      ///< what counts, first first; none while it is quiet
    std::vector<RatingUsed> ratings; ///< of those with a limit that have been used
    std::vector<NeedleNow> needles;
    std::optional<Ahead> toRunUp, toTakeOff; ///< s until the slowest engine has the minima; none: not on the ground,
                                             ///< had already, or not within an hour
    FromHere here;
    Today today;
    std::vector<Differs> differs;
    std::vector<watch::Verdict> asks; ///< misread?, out of order
    double height = 0.0, ias = 0.0;   ///< m and m/s, as the slid plan has them
};

/// How it is reckoned.
struct Options {
    bool bend = true; ///< by what was read; off: only slid by the moments
    Priors priors{};
    Misfits misfits{};
};

/// The run at a moment: a pure function of the plan, what happened and now.
/// @param at s from the beginning of the run
Now nowOf(const powerplant::Aircraft& aircraft, const Sortie& sortie, const plan::Plan& plan, const Happened& happened,
          double at, const Options& options = {});

} // namespace amber::aloft
