// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/rules.h"
#include <array>
#include <deque>
#include <limits>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

/// What each phase of a sortie is for, and whether it came to that.
namespace amber::watch {

/// What must have come about, whoever did what.
enum class Aim {
    clearOfGround,
    flyingSpeed,
    starts,
    oilPressure,
    runUpWarm,
    takeOffWarm,
    leavesGround,
    runsOn,
    height,
    level,
    coolsSlowly,
    lands,
    cooledFirst,
    stopped,
};

/// An aim as data: the phase that owns it, whether it is of each engine, the rule it breaks when it is not met, and how
/// it comes before others. What is not met takes those after it along that could not be met then.
struct AimRow {
    Aim aim;
    std::string_view id;
    Phase owner;
    bool each;
    int before; ///< the lower leads
    Rule rule;
    std::string_view what;
};
inline constexpr std::array aimTable{
    AimRow{Aim::clearOfGround, "clear-of-ground", Phase::takeOff, false, 0, Rule::hitGround, "it stays off the ground"},
    AimRow{Aim::flyingSpeed, "flying-speed", Phase::takeOff, false, 1, Rule::underStall, "it keeps flying speed"},
    AimRow{Aim::starts, "starts", Phase::start, true, 2, Rule::neverRan, "the engine runs when the start is over"},
    AimRow{Aim::oilPressure, "oil-pressure", Phase::start, true, 3, Rule::oilPressureLate,
           "oil pressure comes in its seconds"},
    AimRow{Aim::runUpWarm, "run-up-warm", Phase::runUp, true, 6, Rule::runUpMinima,
           "warm enough before it is opened up"},
    AimRow{Aim::takeOffWarm, "take-off-warm", Phase::takeOff, true, 5, Rule::takeOffMinima,
           "warm enough for take-off power"},
    AimRow{Aim::leavesGround, "leaves-ground", Phase::takeOff, false, 2, Rule::notAirborne,
           "it leaves the ground and climbs away"},
    AimRow{Aim::runsOn, "runs-on", Phase::warmUp, true, 1, Rule::stoppedRunning, "the engine runs until it is stopped"},
    AimRow{Aim::height, "height", Phase::climb, false, 4, Rule::heightNotReached, "the height is reached"},
    AimRow{Aim::level, "level", Phase::cruise, false, 4, Rule::cruiseNotHeld, "height and speed are held"},
    AimRow{Aim::coolsSlowly, "cools-slowly", Phase::letDown, true, 3, Rule::coolingRate,
           "heads or coolant fall no faster than they may"},
    AimRow{Aim::lands, "lands", Phase::landing, false, 2, Rule::notOnField, "it is on the field"},
    AimRow{Aim::cooledFirst, "cooled-first", Phase::stop, true, 7, Rule::coolBeforeStop, "cooled before it is stopped"},
    AimRow{Aim::stopped, "stopped", Phase::stop, true, 7, Rule::notSafe, "stopped, and its ignition off"},
};
static_assert([] {
    for (std::size_t i = 0; i < aimTable.size(); ++i)
        if (aimTable[i].aim != static_cast<Aim>(i))
            return false;
    return true;
}());
constexpr const AimRow& rowOf(Aim aim) {
    return aimTable[static_cast<std::size_t>(aim)];
}

/// What the day and the plan make of the aims. SI.
struct AimFigures {
    double top = 0.0;       ///< m, where the climb ends
    double cruiseIas = 0.0; ///< m/s
    double distance = 0.0;  ///< m, from brakes-off to landing
    /// K by phase: the notes', or what the plan comes to today where that is more.
    std::array<double, plannedPhases> coolingPerMinute{};
    std::optional<double> coolBelow; ///< K; none: idling does not bring it today, or the notes ask for none
    double stopTakes = 0.0;          ///< s that the stop is planned to take
};

/// One engine at a moment.
struct EngineSeen {
    bool running = false;
    bool sparks = false; ///< its ignition is on
    bool turned = false; ///< a start is being tried
    const Readings* needles = nullptr;
};

/// What is seen of a moment. NaN: not known, and not judged.
struct AimMoment {
    static constexpr double unknown = std::numeric_limits<double>::quiet_NaN();
    double time = 0.0; ///< s
    Phase phase = Phase::walkRound;
    bool airborne = false, touchedDown = false, hit = false, offTheEnd = false;
    double height = unknown, ias = unknown, rate = unknown, distance = unknown; ///< m, m/s, m
    double stall = unknown;                                                     ///< m/s
    std::span<const EngineSeen> engines;
};

enum class AimStatus {
    open, ///< not come to
    met,
    unmet,
    givenUp, ///< rightly left: a take-off stopped on the runway
    follows, ///< not met because of another that is before it
};
struct AimResult {
    Aim aim = Aim::starts;
    int engine = -1; ///< index; −1: of the aircraft
    AimStatus status = AimStatus::open;
    double at = 0.0; ///< s, when it was decided
    Verdict verdict; ///< of what was not met
};

/// Follows a sortie and says of each aim whether it was met: careful hand, rehearsal and trace alike.
class Aims {
public:
    Aims(const TypeNotes& notes, AimFigures figures);
    /// Moments in order, a second or less apart.
    void see(const AimMoment& now);
    /// Every aim of the phases come to, those that lead first. @param ended nothing more will come: what is open in the
    /// last phase is told as not met where it was due
    [[nodiscard]] std::vector<AimResult> results(bool ended) const;

private:
    struct Of {
        double ranAt = AimMoment::unknown, stands = AimMoment::unknown; ///< s; since when it stands again
        double oilFrom = AimMoment::unknown;
        bool oilCame = false, tried = false, opened = false, openedForTakeOff = false;
        std::deque<std::pair<double, double>> minute;
        double worstFall = 0.0; ///< K in a minute, of one that is too fast
        double lastHead = AimMoment::unknown;
        bool running = false, sparks = false;
    };
    void decide(Aim aim, int engine, bool met, double at, const std::string& why);
    void giveUp(Aim aim, double at);
    [[nodiscard]] AimResult* of(Aim aim, int engine);
    void seeEngine(std::size_t e, const AimMoment& now, const EngineSeen& seen);
    void seeAircraft(const AimMoment& now);
    [[nodiscard]] std::string whose(std::size_t e) const;
    /// "oil 20 °C for 40 °C"; empty: warm enough.
    [[nodiscard]] std::string cold(const Readings& needles, std::optional<Temperature> oil,
                                   std::optional<Temperature> metal) const;

    const TypeNotes* notes_;
    AimFigures figures_;
    Gauge headOrCoolant_;
    double opensUpAt_ = 0.0; ///< rev/s
    std::vector<Of> engines_;
    std::vector<AimResult> all_;
    AimMoment last_;
    double phaseBegan_ = 0.0, shortSince_ = AimMoment::unknown, slowSince_ = AimMoment::unknown;
    bool flew_ = false, rolled_ = false, seen_ = false;
};

} // namespace amber::watch
