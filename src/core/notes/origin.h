// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace amber {

/// Where a figure comes from.
enum class Origin {
    entered,  ///< by the pilot
    notes,    ///< printed in the type's notes
    between,  ///< between two figures of the notes
    practice, ///< common practice, not from these notes
    logged,   ///< found on this airframe
    ours,     ///< our own figure
    model,
};

/// The mark shown beside a figure.
constexpr std::string_view markOf(Origin origin) {
    switch (origin) {
    case Origin::entered:
        return "yours";
    case Origin::notes:
        return "notes";
    case Origin::between:
        return "between notes";
    case Origin::practice:
        return "practice";
    case Origin::logged:
        return "logged";
    case Origin::ours:
        return "ours";
    case Origin::model:
        return "model";
    }
    return "";
}

/// What is told of a figure made of two: that it was found on this airframe; else the one with less authority.
constexpr Origin together(Origin a, Origin b) {
    return a == Origin::logged || b == Origin::logged ? Origin::logged : a < b ? b : a;
}

} // namespace amber
