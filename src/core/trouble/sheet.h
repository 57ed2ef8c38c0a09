// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/dive.h"
#include "trouble/engine_out.h"
#include "trouble/few_engines.h"
#include "trouble/go_round.h"
#include <limits>

namespace amber::trouble {

/// One figure of a page of trouble, before and in words: page, command and export read the same.
struct Figure {
    std::string id;   ///< in exports
    std::string what; ///< "Feathered"
    std::string value;
    double si = std::numeric_limits<double>::quiet_NaN();
    Origin origin = Origin::model;
    std::optional<watch::Verdict> verdict{};
    std::string why{};
    bool strong = false;
};
using Figures = std::vector<Figure>;

Figures figuresOf(const EngineOut& out, const TypeNotes& notes);
Figures figuresOf(const GoRound& round, const TypeNotes& notes);
/// What an approach's levers cost when they are left: one a line.
Figures leftSo(const GoRound& round, const TypeNotes& notes);
Figures figuresOf(const FewEngines& few, const TypeNotes& notes);
Figures figuresOf(const Dive& dive, const TypeNotes& notes);
/// Feathering and starting again: times and figures that the drill goes by.
Figures restartFigures(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                       const Moment& moment);

/// Heights near the ground, to ten feet or five metres.
std::string lowHeight(double metres, const Cockpit& cockpit);
/// To ten of the unit.
std::string roundWeight(double kilograms, const Cockpit& cockpit);
/// "0:52, climb, at 4,300 ft, 27,100 lb, 132 kt"
std::string wordsOf(const Moment& moment, const TypeNotes& notes);

} // namespace amber::trouble
