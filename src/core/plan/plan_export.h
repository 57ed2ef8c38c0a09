// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <string>

namespace amber::plan {

/// The plan as JSON (docs/formats/plan.schema.json), figures both as on screen and in SI.
/// @param searched with the best cruise and what the day allows, which are searched for beside the plan
std::string planJson(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Plan& plan,
                     bool searched = false);
/// One row a setting, gauge or clock: phase,kind,what,value,origin,colour.
std::string planCsv(const Plan& plan);
/// For reading in a terminal.
std::string planText(const Plan& plan);
/// A field for CSV, quoted when it must be (RFC 4180).
std::string csvField(const std::string& text);

} // namespace amber::plan
