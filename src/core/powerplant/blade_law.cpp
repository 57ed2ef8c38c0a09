// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/blade_law.h"
#include <algorithm>
#include <cmath>

namespace amber::powerplant {

double takenAt(double pitch, double advance) {
    const double cube = pitch * pitch * pitch;
    return std::max(-mostDriven * cube, cube - advance * advance * pitch);
}

double pitchTaking(double share, double advance) {
    const double a2 = advance * advance, hardest = advance / std::sqrt(3.0);
    if (share <= hardest * hardest * hardest - a2 * hardest)
        return hardest;
    // From above the root of a function that bends upwards: it falls to it without passing.
    double x = std::max(advance, 0.0) + std::cbrt(std::max(share, 0.0)) + 1e-3;
    for (int i = 0; i < 40; ++i) {
        const double f = x * x * x - a2 * x - share;
        const double next = x - f / std::max(1e-9, 3.0 * x * x - a2);
        if (std::abs(next - x) < 1e-9)
            return next;
        x = next;
    }
    return x;
}

} // namespace amber::powerplant
