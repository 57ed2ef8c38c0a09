// SPDX-License-Identifier: GPL-3.0-or-later
#include "units/median.h"
#include <algorithm>

namespace amber {

double placed(std::vector<double>& values, std::size_t place) {
    std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(place), values.end());
    return values[place];
}

double medianOf(std::vector<double> values) {
    const std::size_t n = values.size();
    if (n == 0)
        return 0.0;
    return n % 2 == 1 ? placed(values, n / 2) : 0.5 * (placed(values, n / 2 - 1) + placed(values, n / 2));
}

} // namespace amber
