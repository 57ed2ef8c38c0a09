// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <vector>

namespace amber::app {

/// Names of the views of the demo that can be drawn: lorimer-walk-round … thatcher-stop.
std::vector<std::string> snapshotViews();
/// Draws one to a PNG. Needs a QApplication. @return an ExitCode
int takeSnapshot(const std::string& view, const std::string& out, int width, int height, bool hangar);

} // namespace amber::app
