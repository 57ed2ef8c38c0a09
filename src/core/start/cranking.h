// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

namespace amber::start {

enum class Supply { cart, battery };

/// One try at turning the engine, at this oil temperature and from this supply.
struct Cranking {
    double rpm = 0.0;          ///< rev/s reached
    double volts = 0.0;        ///< at the starter; 0 for cartridge, air and hand
    double amperes = 0.0;      ///< drawn
    double ampereHours = 0.0;  ///< taken by one full try
    double fuseMargin = 1.0;   ///< 1 − current over fuse; below 0 it blows
    Duration energise;         ///< inertia wheel
    Duration untilFiring;      ///< of cranking, from mesh to first fire
    Duration untilOilPressure; ///< from first fire
    bool cartAdvised = false;
    Pressure airLeft; ///< compressed air: left in a full bottle after this start
};

/// Starter torque against friction that rises with oil viscosity (exponent 0.35); the battery sags by V = E − I R and
/// its resistance rises as it cools. An estimate, marked model.
Cranking crank(const StartNotes& notes, Temperature oil, Supply supply);

/// Seconds from first fire to oil pressure in the band: some seconds warm, longer with thick oil.
Duration oilPressureRise(Temperature oil);

} // namespace amber::start
