// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/document.h"
#include "notes/type_notes.h"

namespace amber::cockpit {

/// A document written as TOML, tables in the order of the tree. Comments are not in the tree.
std::string toml(const document::Node& root);

/// Notes of format 2 with everything that expand() adds written out: every control, every step with its acts; what was
/// not in the notes says origin = "practice". Read again it is the same notes. @param root the file as parsed
/// @param whole the notes after expand()
std::string expanded(document::Node root, const TypeNotes& whole);

/// One step, its schools and acts, as a tree.
document::Node tree(const Step& step);
document::Node tree(const Control& control);
document::Node tree(const Action& action);

} // namespace amber::cockpit
