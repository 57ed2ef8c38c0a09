// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace amber {

/// Where a figure comes from; later ones have less authority.
enum class Origin { notes, betweenNotes, model, logged };

/// The mark shown beside a figure.
constexpr std::string_view markOf(Origin origin) {
    switch (origin) {
    case Origin::notes:
        return "notes";
    case Origin::betweenNotes:
        return "between notes";
    case Origin::model:
        return "model";
    case Origin::logged:
        return "logged";
    }
    return "";
}

} // namespace amber
