// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/debrief.h"
#include "rehearse/guide.h"
#include "rehearse/questions.h"
#include "rehearse/rehearsal.h"
#include <memory>
#include <string>
#include <vector>

namespace amber::rehearse {

/// How a person is accompanied.
enum class Way {
    led,        ///< the next act is pointed out with its reason, and waits
    alone,      ///< nothing is said until the end
    examined,   ///< as alone; time is not taken back
    challenged, ///< lists are read to whoever sits there, item by item, and answered with how things stand
};
/// Whether somebody sits beside who tells what is next and what the needles have done.
constexpr bool isAccompanied(Way way) {
    return way == Way::led || way == Way::challenged;
}
std::string_view nameOf(Way way);

/// One line of what was said and done.
struct Said {
    Milliseconds at = 0;
    std::string text;
    watch::Colour colour = watch::Colour::normal;
    bool operator==(const Said&) const = default;
};

/// A question that was asked on the way, and what was answered.
struct Asked {
    Milliseconds at = 0;
    std::size_t question = 0; ///< index into Session::questions()
    std::string answer;
    bool right = false;
};

/// One line of the clocks.
struct ClockNow {
    std::string what, value;
    watch::Verdict verdict;
};

/// A rehearsal as somebody sits at it: the sortie and its plan frozen, the hand that shows the way, and time: as fast
/// as is wanted, standing still while a person who is led is waited for, never behind the clock on the wall by more
/// than a moment (a stall of the machine drops real time, no step).
class Session {
public:
    /// @param reference what the careful hand does of this sortie by the plan's clock; null: it is done now, which
    /// takes
    ///     a second or two for four engines
    Session(std::shared_ptr<const powerplant::Aircraft> aircraft, Sortie sortie, flight::Flown plan, Setup setup,
            Way way, std::shared_ptr<const hand::HandRun> reference = nullptr);
    Session(const Session&) = delete; // the rehearsal points into it
    Session& operator=(const Session&) = delete;

    // ---- time
    /// Times real time; 0: it stands.
    void setSpeed(int times) { speed_ = times; }
    [[nodiscard]] int speed() const { return speed_; }
    static constexpr std::array<int, 5> speeds{0, 1, 5, 20, 60};
    /// So much of real time has gone. @return whether anything moved
    bool live(double realSeconds);
    /// Time stands still until the hand that is led has done what is asked for.
    [[nodiscard]] bool standsStill() const;
    /// On until an act is due, a fault comes, or the sortie is over. @param goOn asked every ten seconds of the
    /// rehearsal: false leaves off. @return whether it came to it
    bool toNextAct(const std::function<bool()>& goOn);
    /// Back to an earlier moment; refused when examined. @return whether it went
    bool back(Milliseconds to);
    /// Back before the last act, or before the last lever moved little by little.
    bool undo();

    // ---- hands
    /// A control of some engines put somewhere: one act where they are all, else one an engine.
    void put(Act act, const std::vector<std::size_t>& engines);
    /// What is asked for, done: for a hand that wants to go to the planned mark. @return whether there was anything
    bool doNext();
    /// The item that is challenged, answered with how it stands now. @return whether that was right; nothing: none is
    std::optional<bool> answerItem();
    /// A control of some engines to where the drill has it. @return whether it has it anywhere
    bool putAsPlanned(std::size_t control, const std::vector<std::size_t>& engines);
    /// Acts of a file, done at their moments.
    void play(std::vector<Act> acts) { rehearsal_.script(std::move(acts)); }
    void begin(Phase phase);
    void call(powerplant::Fault fault, int engine);

    // ---- questions
    [[nodiscard]] const std::vector<Question>& questions() const { return questions_; }
    /// The question that wants an answer now: who is examined is asked every few minutes, by the seed, and not while a
    /// fault goes uncalled. Time stands until it is answered.
    [[nodiscard]] std::optional<std::size_t> question() const;
    /// @return whether it was right; nothing: it cannot be read as an answer, and is asked still
    std::optional<bool> answer(std::string_view text);
    [[nodiscard]] const std::vector<Asked>& asked() const { return asked_; }

    // ---- what there is to see
    [[nodiscard]] const Rehearsal& rehearsal() const { return rehearsal_; }
    [[nodiscard]] const Guide& guide() const { return guide_; }
    [[nodiscard]] Way way() const { return way_; }
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *aircraft_; }
    [[nodiscard]] const Sortie& sortie() const { return sortie_; }
    [[nodiscard]] const flight::Flown& plan() const { return plan_; }
    /// Where a control should stand may be told: to who is led, and of an item that was answered wrongly.
    [[nodiscard]] bool mayTell(std::size_t control) const;
    /// Where this moment stands on the plan's time: s from the first look at the tyres.
    [[nodiscard]] double planTime(Milliseconds at) const {
        return plan_[rehearsal_.setup().from].start + static_cast<double>(at) / 1000.0;
    }
    /// Acts, the latest last; who is led hears at once what the watch has seen.
    [[nodiscard]] std::vector<Said> saidAndDone() const;
    [[nodiscard]] std::vector<ClockNow> clocks() const;
    /// What is seen, heard, felt and smelt of the engines beside their needles: "No. 3: rough, black smoke".
    [[nodiscard]] std::vector<std::string> signs() const;
    [[nodiscard]] Debrief debriefed() const;
    /// For another session of the same sortie.
    [[nodiscard]] std::shared_ptr<const hand::HandRun> reference() const { return reference_; }

private:
    void step();
    void drawQuestion();
    /// Puts as acts: engines of one control that are put alike are one.
    void perform(const std::vector<hand::Put>& puts);
    /// Whether an act goes on with the one before it: a lever moved little by little.
    [[nodiscard]] bool goesOn(const Act& before, const Act& act) const;
    std::shared_ptr<const powerplant::Aircraft> aircraft_;
    Sortie sortie_;
    flight::Flown plan_;
    std::shared_ptr<const hand::HandRun> reference_; ///< the careful hand's
    Rehearsal rehearsal_;
    Guide guide_;
    Way way_;
    std::vector<Question> questions_;
    std::vector<Asked> asked_;
    std::size_t nextQuestion_ = 0; ///< index
    Milliseconds questionAt_ = 0;
    int speed_ = 0;
    double pending_ = 0.0; ///< s of the rehearsal that are owed
};

} // namespace amber::rehearse
