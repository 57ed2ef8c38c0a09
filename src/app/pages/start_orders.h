// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <string>
#include <vector>

namespace amber::app {

/// The sortie with another start order; the notes' own is kept as no choice.
inline Sortie withOrder(const SortieDocument& document, const std::vector<std::string>& order) {
    Sortie changed = document.sortie();
    changed.start.order = order == document.aircraft().notes.start.order ? std::vector<std::string>{} : order;
    return changed;
}

} // namespace amber::app
