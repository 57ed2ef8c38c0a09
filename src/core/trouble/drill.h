// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/moment.h"

namespace amber::trouble {

/// One act of an emergency's drill, in this cockpit's words and units.
struct DrillLine {
    std::string step;  ///< id
    std::string group; ///< of several acts: what the step is about, "Power on the others"
    std::string what;  ///< "Throttle, Starboard"
    std::string set;   ///< "closed"
    std::string at;    ///< when, if not at once
    std::string why, skipped, caution;
    bool first = true;   ///< of its step
    bool memory = false; ///< done before any page is read
    bool gate = false;   ///< a way out that goes before the rest: rolling, too slow
    Origin origin = Origin::practice;
    std::vector<School> schools; ///< of the step
    int school = -1;             ///< the one in force
    bool operator==(const DrillLine&) const = default;
};

struct EmergencyDrill {
    Emergency emergency = Emergency::engineFails;
    std::string title;
    std::vector<DrillLine> lines;
    std::vector<std::string> cautions; ///< where the act is
};

/// What a drill is asked for: when, and which engines are dead.
struct Case {
    const powerplant::Aircraft& aircraft;
    const Sortie& sortie;
    const flight::Flown& flown;
    Moment moment;
    std::vector<std::size_t> dead;
};

/// The drill of an emergency: the type's notes laid on what is customary (cockpit::expand), its figures those of the
/// day. The schools in force: the pilot's "fire-air/throttle" among the sortie's choices where the notes leave it open.
EmergencyDrill drillOf(const Case& at, Emergency emergency);
/// Going round: the branch of the landing, act by act, its figures the plan's.
EmergencyDrill goRoundDrill(const Case& at);

/// From the act of feathering until the blades stand; the notes' or ours.
Duration featherTime(const TypeNotes& notes);
/// Of an engine started again, at low power; the notes' or ours.
Duration warmTime(const TypeNotes& notes);

/// What must be said where such an act is done; general, before the notes' own.
std::vector<std::string> cautionsOf(const TypeNotes& notes, Emergency emergency);
std::vector<std::string> goRoundCautions();

} // namespace amber::trouble
