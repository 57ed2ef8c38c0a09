// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

/// The cockpit: its controls, what is done with them in every phase, and the state they are in.
namespace amber::cockpit {

enum class Hub { fixed, twoPosition, oil, electric };
enum class Carburettor { pressureInjection, floatWithCutOff, floatWithout };

/// What a type has, as far as its drill depends on it: told by the notes, or usual.
struct Equipment {
    Hub hub = Hub::oil;
    bool feathers = false, reverses = false;
    Carburettor carburettor = Carburettor::pressureInjection;
    StarterKind starter = StarterKind::direct;
    bool electric = true; ///< a battery and a starter that wants it
    bool blower = false;  ///< more than one gear
    bool turbo = false, intercooler = false, water = false, dilutes = false;
    bool boosted = true; ///< the throttle is set by a boost gauge
    bool coolant = false;
    bool cutOut = false; ///< a slow-running cut-out, which the notes give a control
    int engines = 1;
};

/// Words in propeller.kind ("electric, feathering") and mixture positions say what notes have no key for.
Equipment equipmentOf(const TypeNotes& notes);

} // namespace amber::cockpit
