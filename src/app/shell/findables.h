// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "shell/find_box.h"

namespace amber::app {
class MainWindow;

/// All that the find box knows of a window: pages, what the plan says, steps, acts of the menus, terms, chapters.
std::vector<Findable> findables(MainWindow& window);

} // namespace amber::app
