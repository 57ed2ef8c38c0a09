// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/now.h"

namespace amber::aloft {

/// What is said of it so many seconds after it was reckoned: it may have become due meanwhile. A needle that is waited
/// for is never due.
watch::Verdict verdictAt(const NextItem& item, double since);

/// What comes next, what counts most first: what is overdue or due within a minute by its weight (tank, rating,
/// starter's rest, oil pressure, heat on the ground, turning back, moments, needles, ice, readings, chores), the others
/// by when. None while it is quiet, but oil pressure.
std::vector<NextItem> nextItems(const powerplant::Aircraft& aircraft, const Sortie& sortie, const plan::Plan& plan,
                                const Happened& happened, const Course& course, const FuelCourse& fuel, const Now& now);

} // namespace amber::aloft
