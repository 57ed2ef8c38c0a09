// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "heat/thermal_model.h"
#include <functional>
#include <optional>

/// The heat model asked backwards: how long, how far open, how many rpm.
namespace amber::heat {

/// Least temperatures that are waited for; an empty one is not asked.
struct Minima {
    std::optional<Temperature> headOrCoolant, oil;
    [[nodiscard]] bool met(const Temperatures& t) const {
        return (!headOrCoolant || t.headOrCoolant >= *headOrCoolant) && (!oil || t.oil >= *oil);
    }
};

/// Time until all minima are met under one drive, to a second; nothing when they are not within the horizon.
std::optional<Duration> timeToMinima(const ThermalModel& model, Temperatures from, const Drive& drive,
                                     const Minima& minima, Duration horizon);
/// Time until heads or coolant pass a temperature, rising, to a second; nothing when they do not within the horizon.
std::optional<Duration> timeToPass(const ThermalModel& model, Temperatures from, const Drive& drive,
                                   Temperature headOrCoolant, Duration horizon);
/// Time until they have fallen to one, to a second; nothing when they do not within the horizon.
std::optional<Duration> timeToCool(const ThermalModel& model, Temperatures from, const Drive& drive,
                                   Temperature headOrCoolant, Duration horizon);

struct FlapNeed {
    double opening = 0.0; ///< 0 shut … 1 open
    bool enough = true;   ///< fully open it stays under the wanted temperature
    Temperature settles;  ///< there, at that opening
};
/// Least opening of flap or shutter at which heads or coolant settle no hotter than wanted (TOMS 748, to 0.1 %).
FlapNeed flapFor(const ThermalModel& model, Drive drive, Temperature wanted);

/// Highest rpm at which oil of this temperature stays under a pressure (TOMS 748, to 1 rpm); `most` when all do.
Rotation rpmForOilPressure(const ThermalModel& model, Temperature oil, double thinning, Pressure limit, Rotation most);

/// Highest rpm, of a range, at which heads or coolant settle no hotter than wanted (TOMS 748, to 1 rpm); nothing when
/// even the lowest is too hot. @param driveAt what an rpm makes of the engine; hotter with rpm
std::optional<Rotation> rpmFor(const ThermalModel& model, const std::function<Drive(Rotation)>& driveAt,
                               Temperature wanted, Rotation low, Rotation high);

/// Boiling point of coolant. Water by the Antoine equation (constants for 1 … 374 °C), raised by the share of ethylene
/// glycol as handbooks tabulate it at one atmosphere. @param outside pressure of the air @param relief of the cap, over
/// that @param glycol share by volume, 0 … 1
Temperature coolantBoils(Pressure outside, Pressure relief, double glycol);

} // namespace amber::heat
