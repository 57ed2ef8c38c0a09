// SPDX-License-Identifier: GPL-3.0-or-later
#include "units/roots.h"
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <cstdint>

namespace amber::roots {

Bracket bracket(const Curve& f, double low, double high, double atLow, double atHigh, double within) {
    std::uintmax_t most = 60;
    const auto b = ::boost::math::tools::toms748_solve(
        f, low, high, atLow, atHigh, [=](double x, double y) { return std::abs(x - y) < within; }, most);
    return {b.first, b.second};
}

double between(const Curve& f, double low, double high, double within) {
    const double atLow = f(low), atHigh = f(high);
    if (atLow * atHigh > 0)
        return std::abs(atLow) < std::abs(atHigh) ? low : high;
    return bracket(f, low, high, atLow, atHigh, within).middle();
}

Bracket turn(const Curve& holds, double low, double high, int halvings) {
    for (int i = 0; i < halvings; ++i) {
        const double middle = 0.5 * (low + high);
        (holds(middle) != 0.0 ? high : low) = middle;
    }
    return {low, high};
}

} // namespace amber::roots
