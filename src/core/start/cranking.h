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
    Duration forBlades;        ///< of cranking, before the ignition goes on
    Duration untilFiring;      ///< of cranking, from mesh to first fire, the blades included
    bool firesInTime = true;   ///< within the starter's and the booster coil's limit, from the ignition on
    Duration untilOilPressure; ///< from first fire, as long as it is waited for
    Duration oilPressureRises; ///< from first fire, however long
    bool cartAdvised = false;
    Pressure airLeft; ///< compressed air: left in a full bottle after this start
};

/// What decides how an engine turns today.
struct CrankConditions {
    Temperature oil = Temperature::si(288.15);
    Supply supply = Supply::cart;
    bool diluted = false;             ///< the oil, at the last stop
    double bladesPerRevolution = 3.0; ///< that pass for a turn of the crankshaft
};
/// Blades that pass for one turn of the crankshaft.
double bladesPerRevolution(const TypeNotes& notes);

/// Starter torque against friction that rises with oil viscosity (exponent 0.35); the battery sags by V = E − I R and
/// its resistance rises as it cools. An estimate, marked model.
Cranking crank(const StartNotes& notes, const CrankConditions& conditions);

/// Where a throttle set for starting stands, of its travel: a thumb's width, an estimate.
inline constexpr double crackedThrottle = 0.045;

/// Seconds from first fire to oil pressure in the band: some seconds warm, longer with thick oil.
/// @param thinning viscosity of diluted oil over undiluted
Duration oilPressureRise(Temperature oil, double thinning = 1.0);
/// Longest one try may last: the starter's limit, and the booster coil's where it is shorter.
Duration longestTry(const StartNotes& notes);

} // namespace amber::start
