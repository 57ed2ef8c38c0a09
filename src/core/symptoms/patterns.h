// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/sign.h"
#include "notes/type_notes.h"
#include "powerplant/fault.h"
#include "symptoms/acts.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::trouble {

/// How surely a fault shows a sign in the minutes in which it is looked for.
enum class Shows { surely, usually, sometimes };

struct Expected {
    Sign sign;
    Shows shows = Shows::usually;
};

/// How bad it is to be wrong about it.
enum class Grave { nuisance, wears, losesPower, losesEngine, mayBurn, burns };

/// What a fault shows, how it is told from its like, and what is done first. General engineering practice (origin
/// practice), or the type's own notes.
struct Pattern {
    std::optional<powerplant::Fault> fault; ///< none: the type's own
    std::string key, name;
    std::vector<Expected> signs;
    std::vector<powerplant::Fault> like;
    std::string toldBy;         ///< what to look at or to try, and what it then shows
    std::optional<Sign> tried;  ///< that trying shows it
    std::vector<FirstAct> acts; ///< that treat it, the best first
    std::string ownAct;         ///< the notes' own words for the first; empty: they have none
    std::string words;          ///< the notes' own
    unsigned stages = anywhere; ///< in which it comes
    double prior = 1.0;         ///< how often among causes, beforehand
    Grave grave = Grave::losesPower;
    std::optional<Emergency> drill;
    bool gauge = false; ///< nothing is wrong but a needle
    Origin origin = Origin::practice;
};

/// Every pattern that this type can show: general ones by its equipment, in its cockpit's needles, and its own.
std::vector<Pattern> patternsFor(const TypeNotes& notes);

} // namespace amber::trouble
