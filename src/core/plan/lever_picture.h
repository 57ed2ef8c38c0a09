// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "drills/state.h"
#include "flight/flown.h"

namespace amber::plan {

/// Where one control of one engine stands, in the cockpit's words and along its travel.
struct LeverPlace {
    std::string text;               ///< "auto rich", "39 inHg"
    std::optional<Origin> origin{}; ///< of a figure; a position has none
    std::optional<double> share{};  ///< of its travel, 0 less … 1 more; none: it has no travel that is known
    bool operator==(const LeverPlace&) const = default;
};

/// One control of the cockpit at a moment, beside how the phase found it.
struct LeverState {
    std::string id, name, panel;
    double column = 0.0;
    ControlKind kind = ControlKind::lever;
    Acts acts = Acts::throttle;
    bool reversed = false;
    std::string sense, who;
    std::string less, more;              ///< which way its ends lie
    std::vector<std::string> positions;  ///< from less to more, as engraved
    std::vector<LeverPlace> before, now; ///< one an engine, or one for all; alike for all: one
    bool changed = false;
    Origin origin = Origin::notes; ///< of the control
    bool operator==(const LeverState&) const = default;
};

/// Every control at a moment of the sortie, in the order of the panels: what the phase of that moment has set by then.
/// Acts at a height are done when the plan has come to it; those of a phase's end, at its end. The schools in force.
std::vector<LeverState> leversAt(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                                 double time);

/// The phase of a moment.
Phase phaseAt(const flight::Flown& flown, double time);

} // namespace amber::plan
