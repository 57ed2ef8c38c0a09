// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/rehearsal.h"
#include <deque>
#include <optional>
#include <string>
#include <vector>

namespace amber::rehearse {

/// One thing that the drill asks for next: a control put somewhere, a needle waited for, or the next phase begun.
struct Ask {
    Phase phase = Phase::walkRound;
    bool begins = false;              ///< this phase is begun
    std::vector<hand::Put> puts;      ///< one an engine; none: only waited for
    std::vector<std::size_t> engines; ///< whose needles are waited for
    std::string step;                 ///< id of the step in the notes
    hand::Wait wait;                  ///< after it is put
    /// When it is due: s since its phase began, or the height come to; neither: at once.
    std::optional<double> after, above, below;
    int turn = -1;      ///< engine whose turn it is; −1: all
    std::string why;    ///< of what is no step of the notes: what the day or the engine wants
    bool ofDay = false; ///< it is asked for beside the drill (hand::needs)
};

/// An item of a list that was challenged, and how it stood when it was answered.
struct ItemAnswered {
    Milliseconds at = 0;
    std::size_t act = 0; ///< index into the rehearsal's acts
    Phase phase = Phase::walkRound;
    std::string item;   ///< "No. 2 mixture"
    std::string stood;  ///< "rich"
    std::string wanted; ///< by the notes or the plan, "auto rich"
    bool right = false;
    bool again = false; ///< it had been answered wrongly before
};

/// How many were challenged, and how many of them were answered rightly at the first time.
struct ItemsAtOnce {
    std::size_t asked = 0, well = 0;
};
ItemsAtOnce itemsAtOnce(const std::vector<ItemAnswered>& items);

/// How the drill is gone through.
enum class Drill {
    followed,   ///< what stands already is passed over
    challenged, ///< every item of the notes' lists is challenged, and wants an answer
};

/// Follows a person through the drill that the careful hand does: what comes next, whether its moment has come, whether
/// it has been done, and whether the needle that it waits for has come. What stands so already is passed over. An act
/// done out of its turn does not lose the place: the line goes on from the first that is not done. Challenged, an item
/// is done when it is answered as it should stand; answered otherwise it is challenged again.
class Guide {
public:
    /// @param reference the careful hand's run of the same sortie by the plan's clock
    Guide(const TypeNotes& notes, const hand::HandRun& reference, Phase from, Drill drill = Drill::followed);

    /// After every short step and every act (Rehearsal::onAct).
    void follow(const Rehearsal& rehearsal);
    /// Time has been taken back to `now`.
    void back(const Rehearsal& rehearsal);

    /// What is asked for; null when the drill is over.
    [[nodiscard]] const Ask* next() const { return at_ < asks_.size() ? &current() : nullptr; }
    /// Its moment has come: height or time.
    [[nodiscard]] bool due() const { return due_ || need_; }
    /// Why what is waited for will not come as things stand, a height, a needle: said as soon as it is seen. Empty: it
    /// may come.
    [[nodiscard]] const std::string& willNotCome() const { return willNot_; }
    /// It is an item that is challenged now and wants an answer; whether that has been wrong already.
    [[nodiscard]] bool challenges() const { return due_ && !put_ && !need_ && next() && isItem(current()); }
    [[nodiscard]] bool wasWrong() const { return challenges() && wrong_; }
    /// Items that were answered so far.
    [[nodiscard]] const std::vector<ItemAnswered>& answered() const { return answered_; }
    /// It has been done, and only what it waits for is wanting.
    [[nodiscard]] bool waits() const { return put_ && !need_; }
    /// What the notes do when the last wait was in vain; empty: it was not.
    [[nodiscard]] const std::string& inVain() const { return inVain_; }
    /// The puts of it that still want doing.
    [[nodiscard]] std::vector<hand::Put> wanting(const Rehearsal& rehearsal) const;
    /// s until a wait of so long is over, or until it is in vain; nothing: it has no such end.
    [[nodiscard]] std::optional<double> left(const Rehearsal& rehearsal) const;

    /// The figure or position that the drill has for a control of an engine: what is asked for now where it is of that
    /// control, else what was asked for last.
    [[nodiscard]] std::optional<advice::Figure> planned(std::size_t control, std::size_t engine) const;

private:
    struct Place {
        Milliseconds from = 0;
        std::size_t acts = 0, at = 0;
        Milliseconds came = 0, done = 0;
        bool put = false, wrong = false;
        std::string inVain;
        std::vector<Ask> cure;
        std::size_t cureAt = 0;
        int burnt = -1;
    };
    [[nodiscard]] const Ask& current() const { return need_ ? *need_ : ofDrill(); }
    /// What is asked for without what the day wants: the engine's cure, else the drill's.
    [[nodiscard]] const Ask& ofDrill() const { return cures() ? cure_[cureAt_] : asks_[at_]; }
    [[nodiscard]] bool cures() const { return cureAt_ < cure_.size(); }
    /// A start that did not catch: its starter rests, and an engine that is flooded is cleared first.
    void cure(const Rehearsal& rehearsal, std::size_t engine, bool rests);
    /// Flames in the intake or the stacks while it is started: it is kept turning with its fuel shut until they are
    /// gone, and is not started again. Whether there are any.
    bool fire(const Rehearsal& rehearsal);
    /// Doses that lie in an engine and have not gone.
    [[nodiscard]] double given(const Rehearsal& rehearsal, std::size_t engine) const;
    [[nodiscard]] bool flooded(const Rehearsal& rehearsal, std::size_t engine) const;
    void lookAtDay(const Rehearsal& rehearsal);
    [[nodiscard]] std::string comesNot(const Rehearsal& rehearsal) const;
    [[nodiscard]] std::string whyNoPower(const Rehearsal& rehearsal) const;
    void hear(const Rehearsal& rehearsal);
    void prime(const Act& act);
    void answer(const Rehearsal& rehearsal, std::size_t act);
    [[nodiscard]] bool isItem(const Ask& ask) const {
        return drill_ == Drill::challenged && !cures() && !ask.ofDay && !ask.begins && !ask.step.empty() &&
               !ask.puts.empty();
    }
    [[nodiscard]] bool stands(const hand::Put& put, const Rehearsal& rehearsal) const;
    [[nodiscard]] bool reads(const Ask& ask, const Rehearsal& rehearsal) const;
    [[nodiscard]] bool isDue(const Rehearsal& rehearsal) const;
    [[nodiscard]] bool waitIsOver(const Rehearsal& rehearsal, const Ask& ask);
    void go(const Rehearsal& rehearsal, std::size_t to);
    void toPhase(const Rehearsal& rehearsal, Phase phase);

    const TypeNotes* notes_;
    Drill drill_;
    std::vector<ItemAnswered> answered_;
    std::vector<Ask> asks_;
    std::vector<Ask> rest_; ///< after a try in vain, engine by engine: the starter let go, and its rest
    std::vector<Ask> cure_; ///< of the engine whose turn it is, done before its own line goes on
    std::size_t cureAt_ = 0;
    int burnt_ = -1;          ///< engine that burns or has burnt; −1: none
    std::optional<Ask> need_; ///< what the day wants now
    std::string willNot_;
    struct Read {
        Milliseconds at;
        double height, needle;
    };
    std::deque<Read> reads_;      ///< of the last minutes of one wait, a second apart
    std::vector<double> strokes_; ///< of the primer since the ask came, engine by engine
    std::size_t at_ = 0, seen_ = 0;
    Milliseconds came_ = 0, done_ = 0;
    bool put_ = false, due_ = true, wrong_ = false;
    std::string inVain_;
    std::vector<Place> places_; ///< each place of the line since the beginning, to go back to
};

/// The step of the notes that asks for it; null for what the plan's clock asks for.
const Step* stepOf(const TypeNotes& notes, const Ask& ask);
/// "No. 2 mixture to auto rich", "all engines: propeller to 2,400 rpm", "Climb begins".
std::string said(const Ask& ask, const TypeNotes& notes);
/// "No. 2 mixture", "all engines: propeller": what is challenged, without where it should stand.
std::string challenge(const Ask& ask, const TypeNotes& notes);
/// The member of the crew who works what is challenged first, and answers.
std::string answers(const Ask& ask, const TypeNotes& notes);
/// "until oil pressure reads 40 lbf/in², within 30 s", "for 10 s"; empty: nothing is waited for.
std::string waitsFor(const Ask& ask, const TypeNotes& notes);

} // namespace amber::rehearse
