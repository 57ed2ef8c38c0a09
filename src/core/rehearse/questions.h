// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::rehearse {

/// Something that is asked of a crew from the notes: a limit, a rating, a speed, which way a lever moves, where it is,
/// what is done first. A figure is answered in this cockpit's units; else one of a few answers is chosen.
struct Question {
    std::string key; ///< stays the same as long as the notes ask it: "limit/head/high", "way/mixture"
    std::string text;
    std::optional<double> si;         ///< the figure
    const UnitSpec* unit = nullptr;   ///< it is answered in
    std::vector<std::string> choices; ///< else, in a fixed order; empty for a figure
    std::size_t right = 0;            ///< index of the right one
    std::string because;              ///< where it stands, or why
    bool reversed = false;            ///< of a lever against the usual sense: asked first
};

/// All that these notes can be asked, in a fixed order. Figures that the notes leave out, in whose place our estimates
/// stand, are not asked.
std::vector<Question> questionsOf(const TypeNotes& notes);

/// The right answer in words: "245 °C", "aft".
std::string answerOf(const Question& question);
/// Whether an answer is right: a figure with or without its unit, as near as its gauge is read (to a two-hundredth
/// where that is coarser); a choice by its number from 1 or its words. Nothing where it cannot be read as an answer.
std::optional<bool> isRight(const Question& question, std::string_view answer);

/// Boxes of cards: what is answered rightly goes one box on and rests for twice as long; what is missed goes back to
/// the first box and comes again today. (The card boxes of S. Leitner's learning rule, 1972, with rests of 1, 2, 4, 8
/// and 16 days.)
class CardBoxes {
public:
    struct Card {
        int box = 0;
        std::int64_t due = 0; ///< day, counted from any fixed day
        bool operator==(const Card&) const = default;
    };
    static constexpr int boxes = 6;

    void answered(const std::string& key, bool right, std::int64_t today);
    [[nodiscard]] const std::map<std::string, Card>& cards() const { return cards_; }
    void put(const std::string& key, Card card) { cards_[key] = card; }
    /// Which of the questions comes next: of those that are due the lowest box first, in it reversed senses before
    /// others, then by a draw; nothing is due: none. @param last that was asked just now, which waits for another
    [[nodiscard]] std::optional<std::size_t> next(const std::vector<Question>& questions, std::int64_t today,
                                                  std::uint64_t seed, const std::string& last = {}) const;
    [[nodiscard]] std::size_t dueOf(const std::vector<Question>& questions, std::int64_t today) const;

private:
    std::map<std::string, Card> cards_;
};

} // namespace amber::rehearse
