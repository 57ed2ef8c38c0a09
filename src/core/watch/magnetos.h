// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/run_up_notes.h"
#include "units/result.h"
#include "watch/judge.h"
#include <optional>
#include <string>
#include <string_view>

/// The magneto check read for you (J28): each fall, the difference, and what the pattern of both tells.
namespace amber::watch {

/// How the rpm fell: that tells as much as how far.
enum class DropManner { smooth, slow, sudden, stopped };

struct Drop {
    Rotation fall; ///< rev/s, 0 or more
    DropManner manner = DropManner::smooth;
};

/// "80", "80 rpm", "80 slow", "120 rough", "0", "stops". @return an error that says what can be written
Result<Drop> readDrop(std::string_view text);
/// The same, as it is kept and shown: "80 rpm, slow".
std::string wordsOf(const Drop& drop);

enum class MagnetoSide { left, right };
constexpr std::string_view nameOf(MagnetoSide side) {
    return side == MagnetoSide::left ? "left" : "right";
}
/// Red over the side's limit, under the least fall or when it stops; amber when it falls suddenly within the limit.
Verdict judgeDrop(const MagnetoNotes& notes, MagnetoSide side, const Drop& drop);
/// Amber over the notes' difference.
Verdict judgeDifference(const MagnetoNotes& notes, const Drop& left, const Drop& right);

struct MagnetoFinding {
    Verdict verdict;
    std::string cause;  ///< likely, from the pattern; empty when all is well
    std::string next;   ///< what to do now
    bool burst = false; ///< a clearing burst is the next action
};
/// What both together tell, and the next action. @param cleared bursts given already @param burst the notes' burst in
/// words
MagnetoFinding magnetoFinding(const MagnetoNotes& notes, const Drop& left, const Drop& right, int cleared,
                              const std::string& burst);

} // namespace amber::watch
