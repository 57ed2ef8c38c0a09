// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/type_notes.h"
#include "units/result.h"
#include "watch/aims.h"
#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <utility>

namespace amber::record {

/// Something that a log takes figures of: every gauge of the register, and what is counted, timed or filled up.
struct WhatRow {
    std::string_view key, title;
    std::optional<Dimension> dimension; ///< none: a count
    std::optional<Gauge> gauge;         ///< that it is read off
};

/// Unit that its figures are shown in where no cockpit says another; null: a count.
const UnitSpec* unitOf(const WhatRow& row);
/// All of them, gauges first.
std::span<const WhatRow> whatRows();
/// The row of a key; null when there is none. Words ("defect", "note") have no row.
const WhatRow* whatOf(std::string_view key);
/// A part of an engineer's answer to something that was found: what it was, what was done, who answers for it.
constexpr bool isAnswer(std::string_view key) {
    return key == "found" || key == "done" || key == "signed";
}
/// Whether a key takes words and no figure. With "overhaul" an engine (none: the aircraft) begins anew;
/// "work" is what was done to it, beginning with the name of what was due; "trial" that the run tries a way of doing
/// something, "name: way" or only the name; "clock" what the computer's clocks showed (aloft::Stamp); "tick" what
/// was called for and is done, by its id (aloft::NextItem).
constexpr bool takesWords(std::string_view key) {
    return key == "defect" || key == "note" || key == "overhaul" || key == "work" || key == "trial" || key == "clock" ||
           key == "tick" || isAnswer(key);
}
/// What only the notes know: a line of the run-up sheet ("sheet/propeller"), an item of the walk-round
/// ("walk/nose/oil"), the seconds at a rating ("rating/take-off"). Their figures are kept with their words.
inline constexpr std::string_view ofSheet = "sheet/", ofWalk = "walk/", ofRating = "rating/";
/// From when a tank feeds ("tank/main"): s from the beginning of the run, pressed for in the air.
inline constexpr std::string_view ofTank = "tank/";
/// An aim that a recorder's trace did not meet ("aim/run-up-warm"); its words say how. Never typed.
inline constexpr std::string_view ofAim = "aim/";
/// The aim of such a key; null: it is none.
const watch::AimRow* aimOf(std::string_view key);
/// Lines of the sheet that have a key of their own in the log: every type reads them.
inline constexpr std::array<std::pair<std::string_view, std::string_view>, 4> sheetKeys{
    {{"left", "magneto-left"},
     {"right", "magneto-right"},
     {"reference", "static-rpm"},
     {"full-throttle", "static-rpm"}}};
constexpr bool isOfNotes(std::string_view key) {
    return (key.starts_with(ofSheet) && key.size() > ofSheet.size()) ||
           (key.starts_with(ofWalk) && key.size() > ofWalk.size()) ||
           (key.starts_with(ofRating) && key.size() > ofRating.size()) ||
           (key.starts_with(ofTank) && key.size() > ofTank.size()) ||
           (key.starts_with(ofAim) && key.size() > ofAim.size());
}

/// "Oil temp.", "Propeller once, fall": of the log's rows, else as the notes have it.
std::string titleOf(std::string_view key, const TypeNotes& notes);

/// A figure as it is written, "165 °C", "3"; a time by the clock too, "2:15" (hours and minutes of how long an engine
/// ran, minutes and seconds of what a stop clock takes): SI, or the count. Refused outside the range of the log's
/// figures (keyRanges, FileFormat::log), with the reason. @param assumed the unit of a bare number; null: one must be
/// written
Result<double> readFigure(std::string_view key, std::string_view text, const UnitSpec* assumed = nullptr);
/// The unit of its needle in a cockpit, which a bare number is in; null where it has none.
const UnitSpec* needleUnit(std::string_view key, const TypeNotes& notes);
/// The unit that a cockpit reads it in: its needle's, its fuel gauges'; where no notes are known, the usual one. Null
/// for counts and for what is no figure.
const UnitSpec* unitIn(std::string_view key, const TypeNotes* notes);
/// "165 °C", "3": in the unit given, or `unitOf`.
std::string figureText(std::string_view key, double si, const UnitSpec* unit = nullptr);

} // namespace amber::record
