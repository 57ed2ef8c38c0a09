// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <optional>
#include <string>
#include <string_view>

namespace amber {

/// What reading a notes file gave: the notes when they can be used, and everything that is wrong with them when not.
struct NotesReading {
    std::optional<TypeNotes> notes;
    Problems problems;
};

/// Reads notes from text. @param file the name used in messages @param variant id of a variant; empty: the first, or
/// the plain type
NotesReading readNotes(std::string_view text, const std::string& file, const std::string& variant = {});
/// The same from a file.
NotesReading readNotesFile(const std::string& path, const std::string& variant = {});

} // namespace amber
