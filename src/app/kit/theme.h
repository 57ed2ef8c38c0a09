// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "watch/judge.h"
#include <QColor>
#include <QFont>
#include <QPalette>
#include <QWidget>

class QPainter;

namespace amber::app {

enum class ThemeKind { day, hangar };

/// Our colours, carried by the palette so that every widget has them without asking anybody: paper, ink and one amber.
struct Colours {
    explicit Colours(const QPalette& palette);
    explicit Colours(const QWidget* widget) : Colours(widget->palette()) {}
    QColor paper, sheet, ink, faint, rule, grid, amber, amberWash, red, green;

    [[nodiscard]] QColor of(watch::Colour colour) const {
        return colour == watch::Colour::red ? red : colour == watch::Colour::amber ? amber : green;
    }
};

QPalette paletteFor(ThemeKind theme);
QString styleSheetFor(const QPalette& palette);

/// The family that ships with the program: B612 under a name of its own (tools/rename-fonts).
QString fontFamily();
/// Loads the fonts that ship with the program. @return false when one is missing
bool loadFonts();
/// Our face at a pixel size.
QFont face(int pixels, bool bold = false);
/// Small capitals for captions and column heads.
QFont captionFace();

/// The mark of a colour: disc normal, triangle amber, square red; shape doubles colour.
void drawColourMark(QPainter& painter, QPointF centre, watch::Colour colour, const Colours& colours, double size = 5.0);

} // namespace amber::app
