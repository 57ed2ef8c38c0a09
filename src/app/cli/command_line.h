// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace amber::app {

/// The power chart; with rpm and boost its construction.
struct ChartOptions {
    std::string notes, variant, rpm, boost, gear, altitude, oat;
    bool csv = false, json = false;
    std::optional<std::string> svg, png; ///< files to draw it to
};

/// What to do with a window, or without one but with Qt's fonts and painters: supplied by main so that parsing the
/// command line needs neither.
struct CommandActions {
    std::function<int(const std::string& sortie, bool demo)> window;
    std::function<int(const std::string& sortie, const std::string& pdf, bool air)> card;
    std::function<int(const std::string& view, const std::string& out, int width, int height, bool hangar)> snapshot;
    std::function<int(const ChartOptions& options)> chart; ///< drawn to SVG or PNG
    std::vector<std::string> snapshotViews;
};

/// Parses the command line and runs it. @return an ExitCode
int runCommandLine(int argc, char** argv, const CommandActions& actions);

} // namespace amber::app
