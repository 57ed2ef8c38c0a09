// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace amber::powerplant {

/// Opening of a throttle standing at a place of its lever: the area grows by equal shares for equal movements, from the
/// idle stop to wide open (an estimate of the linkage).
/// @param place 0 … 1 @param idle area at the idle stop @return area over that wide open
double throttleArea(double place, double idle = 0.016);

/// Pressure behind a throttle over that with it wide open, one engine's demand drawing on it. Compressible flow through
/// an orifice (Saint-Venant & Wantzel), its flow function the ellipse Ψ² = 1 − ((r − rc)/(1 − rc))² above the critical
/// ratio rc = 0.528 and 1 below it; sized so that wide open at the rated rpm the given share of pressure is lost.
/// @param area 0 … 1 @param speed rpm over rated @param wideOpenLoss 0.005 … 0.2
double throttledShare(double area, double speed, double wideOpenLoss);
/// The area that leaves this share of the pressure: the same relation solved for it.
double areaFor(double share, double speed, double wideOpenLoss);

} // namespace amber::powerplant
