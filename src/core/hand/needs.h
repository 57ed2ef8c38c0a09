// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "hand/careful_hand.h"
#include "hand/hands.h"
#include <string>
#include <vector>

namespace amber::hand {

/// Something that the day wants of a hand beside the drill.
enum class NeedOf {
    hotAir,    ///< ice is in the carburettor
    coldAir,   ///< it has melted, and power is wanted
    otherTank, ///< the one that is fed from is all but dry
    openFlaps, ///< heads or coolant are over their normal range
    shutFlaps, ///< under it, in the air
    jets,      ///< it is turned unprimed, being warm: it starts on its jets
};
struct Need {
    NeedOf of = NeedOf::hotAir;
    std::vector<Put> puts;            ///< one an engine
    std::vector<std::size_t> engines; ///< that want it
    std::string why;
};

/// What is wanted now, the most pressing first: nothing that this aircraft has no control for, and nothing that stands
/// so. Ice is seen in the engine itself, before a needle shows it: heat from a twelfth of the passage on, all of it; in
/// climb and cruise of a boosted engine, which hot air brings nearer to knocking, only a share, more where it grows,
/// all where a fifth is gone, and cold where the charge has no room for it; cold for the take-off. Else heat is left on
/// until the drill takes it off. A tank is left with a minute in it at the flow that is.
std::vector<Need> needs(const powerplant::Powerplant& plant, const Moment& moment);

} // namespace amber::hand
