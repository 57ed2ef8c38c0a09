// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <string>

namespace amber::engine {

struct GradeCap {
    ManifoldPressure boost;
    Origin origin = Origin::notes; ///< the notes' entry, between two of them, or (the lowest one) under all: model
};

/// Performance number of an octane rating: 2,800/(128 − octane) below 100, the number itself from 100 (ASTM D614 scale,
/// simplified).
double performanceNumber(double grade);
/// The leading number of a grade's name, or nothing: "91" → 91, "100/130" → 100.
std::optional<double> gradeNumber(const std::string& grade);

/// What is to be said of a grade: empty for one of the notes'; a sentence where it is reckoned from its number or where
/// it is none (then gradeNumber gives nothing).
std::string gradeRemark(const TypeNotes& notes, const std::string& grade);

/// Most boost a rating may use on this grade by the notes' entries (engine/permitted_boost.h asks it, with all else
/// that binds). Between two entries the boost is interpolated by performance number; a grade under the lowest has that
/// one's, as `model`: the knock boundary has its word there. A rating without entries of its own is held to the most
/// that any rating with entries may use on that grade; nothing where none has.
std::optional<GradeCap> gradeCap(const TypeNotes& notes, const Rating& rating, const std::string& grade);

} // namespace amber::engine
