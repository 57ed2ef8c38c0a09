// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::advice {

/// A figure of the plan as a hand needs it: where a control goes, or what is waited for.
struct Figure {
    std::string position;                      ///< what it means, where it is one: "rich", a gear, a tank
    Dimension dimension = Dimension::duration; ///< of `si`
    std::optional<double> si;                  ///< SI
    std::optional<double> share;               ///< of a flap's travel, of the hot-air lever's
    bool heat = false;                         ///< the share is of hot air
    double doses = 0.0;                        ///< of a prime: by the primer, and what blades draw besides
    Origin origin = Origin::notes;
};

/// What an act of the drill means today by {name} in a phase (notes/placeholder.h lists the names): the plan's own
/// settings, so that a hand, the page of levers and the words agree. Nothing for a name that is words only, and for a
/// figure that the notes leave out.
/// @param engine index, for doses
std::optional<Figure> figureOf(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                               Phase phase, std::string_view name, std::size_t engine = 0);

/// The height at which a step of the climb is done today: a change of gear, a boost that falls. Nothing for a step that
/// is of no height; NaN where today it is not come to.
std::optional<double> heightOfStep(const powerplant::Aircraft& aircraft, const Sortie& sortie,
                                   const flight::Flown& flown, Phase phase, const Step& step);

} // namespace amber::advice
