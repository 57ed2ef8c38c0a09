// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <vector>

namespace amber {

/// The value that would stand at a place, counted from 0, were they sorted. They are put in another order.
/// @param place less than there are
double placed(std::vector<double>& values, std::size_t place);
/// The middle one, or halfway between the two in the middle; of none 0.
double medianOf(std::vector<double> values);

} // namespace amber
