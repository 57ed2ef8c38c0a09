// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/words.h"
#include "notes/type_notes.h"
#include <QObject>
#include <string>

namespace amber::app {

/// What is printed serves whichever engine fails: the one that the drill was asked for, the notes' first, is not named.
inline QString anyEngine(const std::string& text, const TypeNotes& notes) {
    QString out = q(text);
    if (notes.positions.size() > 1)
        if (const QString name = QStringLiteral(", ") + q(notes.positions.front().name); out.endsWith(name))
            out = out.chopped(name.size()) + QObject::tr(", dead engine");
    return out;
}

} // namespace amber::app
