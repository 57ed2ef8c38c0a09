// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <string>

namespace amber::engine {

struct PermittedBoost {
    std::optional<ManifoldPressure> boost; ///< none for an engine without a boost gauge
    Origin origin = Origin::notes;
    bool cut = false;    ///< below the rating because of the grade
    std::string because; ///< one sentence when cut
};

/// Performance number of an octane rating: 2,800/(128 − octane) below 100, the number itself from 100 (ASTM D614 scale,
/// simplified).
double performanceNumber(double grade);
/// The leading number of a grade's name, or nothing: "91" → 91, "100/130" → 100.
std::optional<double> gradeNumber(const std::string& grade);

/// What is to be said of a grade: empty for one of the notes'; a sentence where it is reckoned from its number or where
/// it is none (then gradeNumber gives nothing).
std::string gradeRemark(const TypeNotes& notes, const std::string& grade);

/// Boost a rating may use on this grade. The notes' own entries rule; between two entries the boost is interpolated by
/// performance number; below the lowest it falls with the performance number (model). A grade never raises a rating. A
/// rating without entries of its own is held to the most that any rating with entries may use on that grade.
PermittedBoost permittedBoost(const TypeNotes& notes, const Rating& rating, const std::string& grade);

} // namespace amber::engine
