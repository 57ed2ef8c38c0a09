// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <map>
#include <string_view>

/// The points on which good crews differ, with the schools of each and what each gains and risks. Notes name a point on
/// a step (standard = "ignition") and mark the school they take; what they write themselves goes before these words.
namespace amber::schools {

/// One point: its key in the notes, and its schools.
struct Point {
    std::string_view key; ///< "ignition"
    std::vector<School> schools;
};

const std::vector<Point>& points();
/// Null for a point that is not there.
const Point* point(std::string_view key);

/// The school in force on a step: the pilot's choice where the notes leave it open, else the notes'; null where the
/// step has none. @param choices "phase/step" → name, as in a sortie
const School* inForce(const Step& step, Phase phase, const std::map<std::string, std::string>& choices);
/// The same in a drill of an emergency, "fire-air/throttle".
const School* inForce(const Step& step, std::string_view place, const std::map<std::string, std::string>& choices);

} // namespace amber::schools
