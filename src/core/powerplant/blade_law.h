// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace amber::powerplant {

/// Blade angles of one propeller by their pitch x: the advance ratio at which it takes no power over that on the fine
/// stop. Power taken over what the fine stop takes standing, at the same rpm: x³ − a² x with a the advance ratio over
/// the fine stop's own of no power (engine::BladeAngle at every angle; the static power as the cube of the pitch),
/// negative when the air drives it, never under −mostDriven x³.
double takenAt(double pitch, double advance);
inline constexpr double mostDriven = 1.0;
/// The pitch that takes a share of the fine stop's static power: the root of x³ − a² x = share above a/√3, where the
/// air drives it hardest; that where nothing more can be had. Newton's method, to 1e-9.
double pitchTaking(double share, double advance);

} // namespace amber::powerplant
