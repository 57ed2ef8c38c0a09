// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/magnetos.h"
#include <map>
#include <string>
#include <vector>

namespace amber::watch {

enum class SheetKind { reading, drop, count, computed };

/// One reading, of one engine or of the aircraft.
struct SheetCell {
    std::string key;   ///< "left/1": what and which engine
    std::string shown; ///< as typed, with its unit; computed where nothing is typed; empty: not yet read
    std::optional<double> value;
    Verdict verdict;
    std::string cause, next; ///< likely, and what to do; empty when all is well
};

/// One line of the sheet.
struct SheetLine {
    std::string id, what;
    std::string at;   ///< where in the run-up: "2,000 rpm"
    std::string want; ///< "350 to 450 rpm"
    std::string why;
    SheetKind kind = SheetKind::reading;
    Dimension dimension = Dimension::rotation;
    const UnitSpec* unit = nullptr;
    Band band;
    Origin origin = Origin::notes;
    double seconds = 0.0;         ///< at high power, each engine
    std::vector<SheetCell> cells; ///< one an engine, or one alone
    std::string low, high;        ///< likely cause
    bool stopper = false;
};

/// The worked run-up sheet: what to read at which setting, what it should be today, and what was read, judged.
struct RunUpSheet {
    std::vector<std::string> engines; ///< names, in the notes' order of positions
    std::vector<SheetLine> lines;
    struct Finding {
        std::string engine, cause, next;
        Verdict verdict;
    };
    std::vector<Finding> findings; ///< worst first
    double highPower = 0.0;        ///< s, each engine
    std::optional<double> highPowerMost;
    int read = 0, cells = 0;
    Verdict worst;

    /// The seconds at high power against the most, in these words.
    [[nodiscard]] Verdict highPowerVerdict(std::string why) const;
    [[nodiscard]] const SheetLine* line(std::string_view id) const;
};

/// What of the day the sheet depends on. Where only its keys are wanted the temperature alone will do.
struct RunUpDay {
    Temperature oat;
    ManifoldPressure fieldBoost;      ///< at which the reference is read
    Rotation referenceRpm, staticRpm; ///< today's
};
/// @param found key of the sheet → reading as typed: "left/1" → "80 rpm, slow"
RunUpSheet runUpSheet(const TypeNotes& notes, const std::map<std::string, std::string>& found, const RunUpDay& day);

/// Why what was typed cannot be taken; empty when it can.
std::string sheetRefusal(const SheetLine& line, const std::string& text);
/// What is kept of it.
std::string sheetKept(const SheetLine& line, const std::string& text);
/// Limits of the magneto check in words: "drop 85, apart 35 at most"; without any what crews listen for.
std::string magnetoLimits(const TypeNotes& notes);

} // namespace amber::watch
