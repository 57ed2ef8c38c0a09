// SPDX-License-Identifier: GPL-3.0-or-later
// Boost that may be set, in one place: what the notes' rows leave, and what binds.
#pragma once
#include "engine/knock.h"
#include "notes/type_notes.h"
#include <optional>
#include <string>

namespace amber::engine {

/// What leaves no more. In the order of the notes' rows; of two that leave the same, the first.
enum class Binds { nothing, rating, gear, height, grade, phase, mark, asked, detonation };
std::string_view nameOf(Binds binds);

/// Where the boost is wanted.
struct BoostAt {
    std::size_t gear = 0;
    Length pressureAltitude;               ///< of the rating's height steps
    std::optional<Phase> phase;            ///< its own boost and its mark on the gauge; none: the gauge's own mark
    std::optional<ManifoldPressure> asked; ///< less than the rating, as the pilot likes
    [[nodiscard]] static BoostAt inGear(std::size_t gear) {
        return {.gear = gear, .pressureAltitude = Length{}, .phase = {}, .asked = {}};
    }
};

struct PermittedBoost {
    std::optional<ManifoldPressure> boost; ///< none for an engine without a boost gauge
    Binds binds = Binds::nothing;
    Origin origin = Origin::notes;
    bool cut = false;      ///< below the rating because of the grade
    bool ungraded = false; ///< the notes say nothing of so low a grade: detonation has its word too
    std::string because;   ///< one sentence when cut
};

/// Least of the rows that speak: the rating's boost, its line's in this gear, the step of `above` at this height, the
/// grade's entry, the phase's own boost (take-off, climb and cruise), the mark on the gauge, the pilot's own. Of a
/// grade between two entries the boost is interpolated by performance number; a grade under the lowest entry is held to
/// that entry, and `ungraded`. A grade never raises a rating. A rating without entries of its own is held to the most
/// that any rating with entries may use on that grade.
PermittedBoost permittedBoost(const TypeNotes& notes, const Rating& rating, const std::string& grade,
                              const BoostAt& at);

/// And of a grade that the notes do not speak of, no more than the model's knock boundary there (5 % kept from it, as
/// the notes' own ratings keep from theirs).
PermittedBoost permittedBoost(const TypeNotes& notes, const Rating& rating, const std::string& grade, const BoostAt& at,
                              const KnockBoundary& knock, const Demand& there);

} // namespace amber::engine
