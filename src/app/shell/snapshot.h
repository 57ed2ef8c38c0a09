// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/command_line.h"
#include <string>
#include <vector>

namespace amber::app {

/// Names of the views of the demo that can be drawn: lorimer-walk-round … thatcher-stop.
std::vector<std::string> snapshotViews();
/// Draws one to a PNG; several, with commas between, tiled two in a row. Needs a QApplication. @return an ExitCode
int takeSnapshot(const std::string& views, const std::string& out, int width, int height, bool hangar);

/// Draws the power chart of a type to SVG or PNG files. @return an ExitCode
int drawChart(const ChartOptions& options);

} // namespace amber::app
