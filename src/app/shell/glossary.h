// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QStringList>
#include <vector>

namespace amber::app {

/// A term of the field, as docs/glossary.md has it.
struct Term {
    QString term, meaning;
    QStringList not_; ///< what is not said for it
};

/// All terms of the glossary that the program carries with it.
const std::vector<Term>& glossary();

/// The rows of a Markdown text's three-column tables: term, meaning, not said (by semicolons). Heads and rules are left
/// out.
std::vector<Term> readGlossary(const QString& markdown);

} // namespace amber::app
