// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/type_notes.h"
#include "watch/rules.h"
#include <array>
#include <deque>
#include <string>
#include <vector>

namespace amber::watch {

/// Follows the gauges of one engine through a sortie and remembers: from when to when each was out of its normal range,
/// the worst of it, how long it has been so, and how fast heads or coolant fell. Plan, rehearsal and record feed it
/// alike.
class Watch {
public:
    /// @param engine position id; empty: all alike
    explicit Watch(const TypeNotes& notes, std::string engine = {});

    /// What the gauges read at a moment, s; moments in order, a straight line between them. A standing engine is not
    /// judged, nor is its oil pressure from the first fire until it comes or its seconds are over; nor what is read on
    /// the ground in the last seconds before it stands (`stopping`), where fuel and revolutions take every needle down
    /// (of oil pressure only once the revolutions are under the notes' slowest). Pressures, revolutions and
    /// boost of the take-off are those of an engine that has been opened up: until then the run-up's hold. Each is
    /// judged as it can be read (asRead).
    void see(double time, Phase phase, const Readings& now, bool running);

    /// Whether the starter turns the engine, at a moment, s: a try longer than the starter may turn, and one that
    /// begins before the starter has had its rest since the last, are found (Rule::starterDuty).
    /// @param live its ignition is on: what the notes have it turned before that is no try, as long as one may last
    void starter(double time, bool turns, bool live = true);
    /// The starter at a moment, s, while it turns and while it has its rest; nothing when it is ready.
    struct StarterNow {
        bool turns = false;
        double seconds = 0.0, of = 0.0; ///< gone, of so many
        Verdict verdict;
    };
    [[nodiscard]] std::optional<StarterNow> starterNow(double time) const;
    /// The colour of a needle at a moment, s, as see() judges it: a standing engine is not judged, nor oil pressure
    /// that has still some seconds to come in.
    [[nodiscard]] Colour colourAt(double time, Phase phase, Gauge gauge, double value, bool running) const;
    /// s that the engine has been at or above the notes' rpm of high power on the ground, before the take-off.
    [[nodiscard]] double highPower() const { return highPower_; }

    /// Every stretch out of the normal range so far, those still going on to the last moment seen. Rule::limit once a
    /// limit was passed, else Rule::normalRange; and Rule::amberTime for each that lasted longer than the notes allow.
    /// A governor that overshoots at take-off (`overshoot`) is none.
    [[nodiscard]] std::vector<Finding> findings() const;
    static constexpr double stopping = 15.0;                      ///< s that an engine takes to stop
    static constexpr double overshoot = 10.0, overshootBy = 1.03; ///< s at most, of the limit
    /// Greatest fall of heads or coolant in any minute of a phase, K; 0: they never fell.
    [[nodiscard]] double greatestFall(Phase phase) const;

private:
    struct Stretch {
        Gauge gauge;
        Phase phase; ///< of the worst
        double begin, end, worst;
        Colour colour = Colour::amber;
        std::optional<double> allowed{}; ///< s in amber: the least that the notes of its phases say
        Phase allowedIn{};
        double timed = 0.0;                              ///< s of it in phases for which they say so
        double redBegin = 0.0, redEnd = 0.0, past = 0.0; ///< from first to last past the limit; s past it
    };
    struct Followed {
        Gauge gauge;
        const GaugeNotes* notes;
        double readingWidth; ///< SI, of its last figure
        bool seen = false;
        double time = 0.0, value = 0.0; ///< when it was seen last
        int open = -1;                  ///< its stretch that goes on
        bool red = false;               ///< past its limit when it was seen last
    };
    /// What was read on the ground and may still turn out to have been the stop.
    struct Waiting {
        double time;
        Phase phase;
        Readings now;
        bool withOil; ///< oil pressure is to be judged
    };
    void judge(const Waiting& seen);
    /// By whose band a needle is judged in a phase.
    [[nodiscard]] Phase phaseOf(Gauge gauge, Phase phase) const;
    /// Every needle is far inside its normal range, and none was out of it: nothing is to be waited for.
    [[nodiscard]] bool quiet(const Waiting& seen) const;
    static bool farInside(const Followed& gauge, const Band& band, double value);
    void follow(Followed& gauge, double time, Phase phase, double value);
    /// The engine stands: oil pressure of what waits is judged, and no more.
    void stopped();
    [[nodiscard]] bool overshoots(const Stretch& stretch) const;
    /// Counts the seconds past a limit, from where it was crossed.
    static void red(Followed& f, Stretch& s, const Band& band, std::pair<double, double> last,
                    std::pair<double, double> now, bool past);
    /// Counts amber time of a phase whose band limits it.
    static void spend(Stretch& stretch, const Band& band, Phase phase, double from, double to);
    void fall(double time, Phase phase, double value);
    void ground(double time, Phase phase, const Readings& now);
    /// Since the first fire it has not yet been over its least, and its seconds are not over.
    bool oilIsAwaited(const Followed& gauge, double time, Phase phase, double pressure);

    const TypeNotes* notes_;
    std::string engine_;
    std::vector<Followed> followed_;
    std::vector<Stretch> stretches_;
    std::deque<Waiting> waiting_;
    std::deque<std::pair<double, double>> minute_; ///< heads or coolant of the last minute: time, K
    std::array<double, plannedPhases + 1> falls_{};
    Gauge headOrCoolant_;
    double highPower_ = 0.0, highFrom_ = 0.0, highEnd_ = 0.0; ///< s, and when it began and ended
    std::optional<double> fast_;                              ///< since when it has been seen that fast
    double opensUpAt_ = 0.0;                                  ///< rev/s
    bool openedUp_ = false;                                   ///< for the take-off
    std::optional<double> runsFrom_;
    bool oilCame_ = false;
    std::vector<Finding> duty_;
    std::optional<double> turnsFrom_, turnedUntil_, deadFrom_; ///< the last: since when with its ignition off
};

} // namespace amber::watch
