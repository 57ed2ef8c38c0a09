// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "sortie/sortie.h"
#include "units/result.h"

namespace amber {

/// An airframe as it is kept (docs/formats/airframe.md): notes and variant, and its own facts. Several sorties name
/// one.
struct AirframeReading {
    std::optional<AirframeFacts> facts;
    Problems problems;
};
/// @param file the path it is read from: the notes are found from its folder
AirframeReading readAirframe(std::string_view text, const std::string& file);

/// Whether a log teaches how the needle of a gauge stands.
bool isTaught(Gauge gauge);
/// An airframe's file with other [[learnt]] tables: what stands in it besides stays to the letter.
/// @param file its path @return an error where it cannot be read, or the tables cannot stand in it
Result<std::string> withLearnt(std::string_view text, const std::string& file, const std::vector<LearntLine>& lines);

/// Fills a sortie's airframe from the file that it names; what the sortie says itself stays. Problems of the file are
/// added. @param sortiePath the sortie's own path, from whose folder the file is found
void joinAirframe(Sortie& sortie, const std::string& sortiePath, Problems& problems);
/// Path of the airframe's file: as written when absolute, else from the sortie's folder.
std::string airframePathOf(const Sortie& sortie, const std::string& sortiePath);

} // namespace amber
