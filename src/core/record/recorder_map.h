// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/type_notes.h"
#include "sortie/sortie.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::record {

/// A column of a recorder's file, and what it is.
struct RecorderColumn {
    std::size_t column = 0; ///< index in the file
    std::string heading;
    Gauge gauge = Gauge::rpm;
    std::string engine;             ///< position id; empty: of the aircraft
    double scale = 1.0, zero = 0.0; ///< SI = figure × scale + zero
    std::string unit;               ///< as it is said
    bool byName = false;            ///< guessed from its heading, not said by the airframe
};

/// What the columns of a file are.
struct RecorderMap {
    std::size_t time = 0; ///< column of the time
    std::vector<RecorderColumn> columns;
    std::vector<std::string> unknown; ///< headings that are nothing known, or not said to be
    std::vector<std::string> missing; ///< headings that the airframe names and the file has not
};

/// Takes what the airframe's file says of its recorder; what it does not name is looked for among the headings of our
/// own traces, then guessed: the quantity's word, the engine's number or name, the unit in brackets ("CHT 2 [°F]").
/// @param headings cells of the file's heading line
RecorderMap mapFor(const std::vector<std::string>& headings, const TypeNotes& notes, const AirframeFacts* facts);

/// What one column is, as an airframe's file says it: "head, 1, °F", "height, ft". @return nothing where a word is
/// unknown
std::optional<RecorderColumn> columnFrom(std::string_view said);

} // namespace amber::record
