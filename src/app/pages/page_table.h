// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/page.h"
#include <string_view>
#include <vector>

namespace amber::app {

/// One kind of page: where it belongs and how it is made. A page is added by its class and its row here; choice, keys,
/// pictures (`snapshot PHASE-KEY`) and the score's way to the cause of a colour follow.
struct PageRow {
    std::string_view key; ///< "power chart" is "chart"
    const char* title;    ///< in the choice of pages
    std::vector<Phase> phases;
    Page* (*make)(SortieDocument& document, QWidget* parent);
    bool tellsCause = false;                                 ///< why heads, coolant or oil are where they are
    bool (*shown)(const SortieDocument& document) = nullptr; ///< whether there is anything on it; null: always
};

/// In the order in which they follow each other.
const std::vector<PageRow>& pageTable();
/// A row by its key, which must be there.
const PageRow& pageRow(std::string_view key);
/// The pages of a phase: at least one.
std::vector<const PageRow*> pagesOf(Phase phase, const SortieDocument& document);
/// The page that tells why heads, coolant or oil are where they are; the first where none does.
const PageRow& causePage(Phase phase, const SortieDocument& document);

} // namespace amber::app
