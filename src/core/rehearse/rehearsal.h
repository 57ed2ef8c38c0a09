// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "hand/careful_hand.h"
#include "hand/flight_path.h"
#include "hand/hands.h"
#include "rehearse/acts.h"
#include "rehearse/setup.h"
#include "rehearse/spent.h"
#include "rehearse/story.h"
#include "watch/aims.h"
#include "watch/rating_clock.h"
#include "watch/watch.h"
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <vector>

namespace amber::rehearse {

/// A fault that has come.
struct Came {
    powerplant::Fault fault = powerplant::Fault::oilLost;
    double severity = 1.0;
    std::size_t engine = 0;
    Milliseconds at = 0;
    Phase phase = Phase::walkRound;
    bool operator==(const Came&) const = default;
};

/// The needles of a moment, kept for the trace of the score.
struct Kept {
    Milliseconds at = 0;
    Phase phase = Phase::walkRound;
    std::vector<Readings> engines;
};

/// What ended a rehearsal before its time.
enum class OverBy { hitGround, offTheEnd, liveBlades };
struct Over {
    Milliseconds at = 0;
    OverBy by = OverBy::hitGround;
    Phase phase = Phase::walkRound;
    std::size_t engine = 0; ///< of blades that were live
    bool operator==(const Over&) const = default;
};

/// A rehearsal: a person's acts on the powerplant in short steps of 100 ms, from standing on the field or from any
/// phase, the faults of its set-up coming by its seed. Acts are done at the moment they are given for; time can be
/// taken back to any moment, and what was done after it is left off. Same build, aircraft, sortie, set-up and acts: the
/// same bytes.
class Rehearsal {
public:
    /// @param aircraft @param sortie @param plan what is flown by; all must outlive it. Beginning in a later phase is
    /// coming to it as a careful hand does: some 5,000 times as fast as real time
    Rehearsal(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& plan, Setup setup);
    Rehearsal(const Rehearsal&) = delete; // what is live points into it
    Rehearsal& operator=(const Rehearsal&) = delete;
    /// Another one from a moment of this, which goes on as it was: the same in every byte, with all that had been done
    /// before `at`, and what was done or was to come after it still to be done.
    /// No further back than `earliest`: a branch has no states before its own beginning.
    [[nodiscard]] std::unique_ptr<Rehearsal> branchAt(Milliseconds at) const;
    [[nodiscard]] Milliseconds earliest() const { return kept_.front().state.now - begin_; }

    /// Does an act at this moment, which is written into it.
    void act(Act act);
    /// Acts for moments to come, in the order of their time: a file's.
    void script(std::vector<Act> acts);
    /// Goes on. @param watcher after each short step
    void advance(Milliseconds by, const hand::Watcher& watcher = {});
    /// Back to an earlier moment, reached again from the state kept before it by the acts that had been done; acts
    /// after it are left off. @return where it now is: `to`, held between the beginning and now
    Milliseconds back(Milliseconds to);
    /// Back before an act, which is left off with those after it; what was done before it at the same moment stays.
    void backBefore(std::size_t act);
    /// Back before the last act. @return whether there was one
    bool undo();
    /// Called after each act, whoever does it: nothing else has happened since. Not for what is done again on the way
    /// back to an earlier moment.
    void onAct(std::function<void()> acted) { acted_ = std::move(acted); }

    [[nodiscard]] Milliseconds now() const { return live_.state.now - begin_; }
    /// What has ended it: no time goes on after that, and no act is done.
    [[nodiscard]] const std::optional<Over>& over() const { return live_.over; }
    [[nodiscard]] Phase phase() const { return live_.phase; }
    [[nodiscard]] Milliseconds phaseBegan() const { return live_.phaseBegan; }
    /// Minutes of the ratings, of the engine that has used most.
    [[nodiscard]] const watch::RatingLedger& ratings() const { return live_.ratings; }
    [[nodiscard]] const std::vector<watch::Watch>& watches() const { return live_.watches; } ///< one an engine
    [[nodiscard]] const powerplant::AircraftState& state() const { return live_.state; }
    [[nodiscard]] const powerplant::AircraftReadings& readings() const { return live_.readings; }
    [[nodiscard]] const hand::Hands& hands() const { return live_.hands; }
    /// "auto rich", "39 inHg", "40 %": how a control of an engine stands, as engraved and in this cockpit's units.
    [[nodiscard]] std::string stands(std::size_t control, std::size_t engine) const;
    [[nodiscard]] const std::vector<Act>& acts() const { return acts_; }       ///< done, in order
    [[nodiscard]] const std::vector<Act>& leftOff() const { return leftOff_; } ///< by the last going back
    [[nodiscard]] const std::vector<Came>& came() const { return live_.came; }
    [[nodiscard]] const std::vector<Kept>& trace() const { return trace_; } ///< one each second
    [[nodiscard]] std::size_t timesBack() const { return timesBack_; }      ///< that time was taken back
    /// What the watch on each engine has seen so far, times from the rehearsal's beginning.
    [[nodiscard]] std::vector<watch::Finding> findings() const;
    [[nodiscard]] double fuelBurnt() const; ///< m³ gone from the tanks
    /// What has happened to each engine.
    [[nodiscard]] const std::vector<EngineStory>& stories() const { return live_.stories; }
    /// Whether it came to what each phase is for. @param ended as watch::Aims::results
    [[nodiscard]] std::vector<watch::AimResult> aims(bool ended) const { return live_.aims.results(ended); }
    [[nodiscard]] const std::vector<Act>& toCome() const { return waiting_; } ///< of a script
    /// What it has cost the engines so far.
    [[nodiscard]] std::vector<Spent> spent() const;
    [[nodiscard]] const powerplant::Powerplant& powerplant() const { return *plant_; }
    [[nodiscard]] const Setup& setup() const { return setup_; }
    [[nodiscard]] const Sortie& sortie() const { return *sortie_; }
    [[nodiscard]] const flight::Flown& plan() const { return *plan_; }

    /// States to come back to: every five seconds of the last two hours, before that every minute.
    static constexpr Milliseconds keptEvery = 5'000, keptLater = 60'000;
    static constexpr std::size_t keptFinely = 1'440;

private:
    /// All that changes with time.
    struct Live {
        hand::Hands hands;
        hand::FlightPath path;
        powerplant::AircraftState state{};
        powerplant::AircraftReadings readings{};
        powerplant::Run run{};
        std::vector<watch::Watch> watches{};
        watch::RatingLedger ratings{};
        std::map<std::string, watch::Finding> overRated{}; ///< ratings used longer than they may be, by key
        std::vector<SpentOf> spent{};                      ///< one an engine
        std::vector<EngineStory> stories{};                ///< one an engine
        watch::Aims aims;
        std::optional<Over> over{};
        bool down = false; ///< she has touched down
        std::vector<Came> came{};
        std::vector<bool> sprung{}; ///< traps that have come, or never will
        Phase phase = Phase::walkRound;
        Milliseconds phaseBegan = 0;
        std::size_t done = 0; ///< acts so far
    };
    Rehearsal(const Rehearsal& of, Milliseconds at);
    Live atFirst();
    void aim();
    void step(const hand::Watcher& watcher);
    void keep();
    void perform(const Act& act);
    void done(Act act);
    void begin(Phase phase);
    void spring();
    void spendRating();
    [[nodiscard]] double seconds() const { return static_cast<double>(now()) / 1000.0; }

    const powerplant::Aircraft* aircraft_;
    const Sortie* sortie_;
    Temperature soaked_; ///< of the engines until each is started
    const flight::Flown* plan_;
    Setup setup_;
    std::shared_ptr<const powerplant::Powerplant> plant_; ///< what is live points into it
    std::vector<Drawn> drawn_;
    Milliseconds begin_ = 0; ///< of the powerplant's time
    double fuelAtFirst_ = 0.0;
    bool pulledByHand_ = false; ///< what primes it is its blades
    Live live_;
    std::vector<Live> kept_; ///< every five seconds
    std::vector<Kept> trace_;
    std::vector<Act> acts_, waiting_, leftOff_;
    std::size_t timesBack_ = 0;
    std::function<void()> acted_;
};

} // namespace amber::rehearse
