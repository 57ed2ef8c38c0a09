// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/figures.h"
#include "hand/careful_hand.h"
#include "hand/hands.h"
#include "notes/problem.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// A sortie practised on the engines: what hands do goes through the powerplant, and a judge looks on.
namespace amber::rehearse {

using powerplant::Milliseconds;

/// One thing that a person does: a control put somewhere, the next phase begun, a fault called by its name, or an item
/// of a list that was challenged answered with how it stands.
struct Act {
    enum class Kind { control, phase, call, answer };
    Milliseconds at = 0; ///< from the beginning, in steps of 100 ms
    Kind kind = Kind::control;
    std::size_t control = 0;     ///< index into the notes' controls
    int engine = -1;             ///< index; −1: all
    Target to;                   ///< where a control is put
    std::optional<double> share; ///< of its travel, instead of `to`
    double strokes = 0.0;        ///< doses of a primer, given over `to`'s seconds
    double over = 0.0;           ///< s, moved gradually
    Phase phase = Phase::walkRound;
    powerplant::Fault called = powerplant::Fault::oilLost;
    std::string item; ///< id of the step that is answered
    int line = 0;     ///< of its file; 0: none
    bool operator==(const Act&) const = default;
};

/// Acts as CSV (docs/formats/rehearsal.md): the columns time, engine, what, to, and over where one has it. Reading
/// tells every problem with its line; nothing, then.
std::optional<std::vector<Act>> readActs(std::string_view text, const std::string& file, const TypeNotes& notes,
                                         Problems& problems);
/// The same written: readActs() of it gives the same acts.
std::string writeActs(const std::vector<Act>& acts, const TypeNotes& notes);

/// Whether it can be put at any share of its travel.
bool travels(const Control& control);
/// "40 %"; of carburettor air, whose lever lies the other way, "40 % hot".
std::string shareText(const Control& control, double share);
/// What a careful hand has put, and the phases that it went through, as acts of a person.
std::vector<Act> actsOf(const hand::HandRun& run);
/// Whether a control that was put in one place stands as another asks: the same position; of a figure, as near as a
/// lever can be set and a needle read (an estimate: a fiftieth; 6 % of a flap's travel).
bool standsAs(const Control& control, const advice::Figure& asked, const hand::At& is);
/// The same nearness, of two figures.
bool isNear(double a, double b);
/// Where a control is put by an act: its position, share or figure.
advice::Figure figureOf(const Act& act);
/// A prime of no strokes: the hand saw that none is wanted.
bool noStrokes(const hand::Put& put, const TypeNotes& notes);
/// One control that a hand has put somewhere, as an act.
Act actOf(const hand::Put& put);
/// "auto rich", "39 inHg", "40 %": where a control is put, as engraved and in this cockpit's units.
std::string whereTo(const Act& act, const TypeNotes& notes);
/// "No. 2 mixture to rich": what was done, in words.
std::string said(const Act& act, const TypeNotes& notes);

} // namespace amber::rehearse
