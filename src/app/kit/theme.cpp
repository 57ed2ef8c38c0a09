// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/theme.h"
#include <QFontDatabase>
#include <QPainter>

namespace amber::app {

// Which palette role carries which of our colours.
Colours::Colours(const QPalette& p)
    : paper(p.color(QPalette::Window)), sheet(p.color(QPalette::Base)), ink(p.color(QPalette::WindowText)),
      faint(p.color(QPalette::PlaceholderText)), rule(p.color(QPalette::Mid)), grid(p.color(QPalette::Midlight)),
      amber(p.color(QPalette::Link)), amberWash(p.color(QPalette::AlternateBase)), red(p.color(QPalette::BrightText)),
      green(p.color(QPalette::LinkVisited)) {}

QPalette paletteFor(ThemeKind theme) {
    const bool day = theme == ThemeKind::day;
    const QColor paper(day ? "#f6f0e4" : "#1d1c19"), sheet(day ? "#fdfaf2" : "#262420"),
        ink(day ? "#211f1b" : "#e9e2d2"), faint(day ? "#6d665a" : "#a39a87"), rule(day ? "#cfc4ad" : "#4a463d"),
        grid(day ? "#e9e0cd" : "#35322c"), amber(day ? "#b86e00" : "#f0a93a"), wash(day ? "#f1e2c4" : "#3b3120"),
        red(day ? "#b3261e" : "#ff7a68"), green(day ? "#3c7a3f" : "#7fbf7a");
    QPalette p;
    for (const auto group : {QPalette::Active, QPalette::Inactive, QPalette::Disabled}) {
        p.setColor(group, QPalette::Window, paper);
        p.setColor(group, QPalette::Base, sheet);
        p.setColor(group, QPalette::Button, paper);
        p.setColor(group, QPalette::ToolTipBase, sheet);
        p.setColor(group, QPalette::ToolTipText, ink);
        p.setColor(group, QPalette::PlaceholderText, faint);
        p.setColor(group, QPalette::Mid, rule);
        p.setColor(group, QPalette::Midlight, grid);
        p.setColor(group, QPalette::Light, sheet);
        p.setColor(group, QPalette::Dark, rule);
        p.setColor(group, QPalette::Shadow, rule);
        p.setColor(group, QPalette::Link, amber);
        p.setColor(group, QPalette::LinkVisited, green);
        p.setColor(group, QPalette::BrightText, red);
        p.setColor(group, QPalette::AlternateBase, wash);
        p.setColor(group, QPalette::Highlight, wash);
        p.setColor(group, QPalette::HighlightedText, ink);
        const QColor text = group == QPalette::Disabled ? faint : ink;
        p.setColor(group, QPalette::WindowText, text);
        p.setColor(group, QPalette::Text, text);
        p.setColor(group, QPalette::ButtonText, text);
    }
    return p;
}

QString styleSheetFor(const QPalette& palette) {
    const Colours c(palette);
    return QStringLiteral(
               "QToolTip { color: %1; background: %2; border: 1px solid %3; padding: 4px; }"
               "QMenuBar { background: %4; } QMenuBar::item { padding: 3px 9px; background: transparent; } "
               "QMenuBar::item:selected { background: %5; }"
               "QMenu { background: %2; border: 1px solid %3; } QMenu::item { padding: 4px 26px 4px 18px; } "
               "QMenu::item:selected { background: %5; }"
               "QMenu::item:disabled { color: %6; } QMenu::separator { height: 1px; background: %3; margin: 3px 8px; }"
               "amber--app--InlineField QLineEdit { background: transparent; border: none; }"
               "QComboBox { border: none; border-bottom: 1px dotted %6; background: transparent; padding: 0px 2px 1px "
               "0px; }"
               "QComboBox:focus { border-bottom: 2px solid %7; } QComboBox::drop-down { border: none; width: 14px; }"
               "QComboBox QAbstractItemView { background: %2; border: 1px solid %3; selection-background-color: %5; "
               "selection-color: %1; }"
               "QScrollBar:vertical { width: 8px; background: transparent; } QScrollBar::handle:vertical { background: "
               "%3; min-height: 20px; }"
               "QScrollBar::add-line:vertical, QScrollBar::sub-line:vertical { height: 0; }"
               "QPushButton { border: 1px solid %6; padding: 4px 12px; background: %2; } QPushButton:focus { border: "
               "2px solid %7; } QPushButton:disabled { color: %6; border-color: %3; }"
               "QToolButton { border: 1px solid %3; padding: 2px 6px; background: %2; } QToolButton:hover { "
               "border-color: "
               "%6; } QToolButton:checked { background: %5; border: 1px solid %7; } QToolButton:focus { border: 2px "
               "solid "
               "%7; padding: 1px 5px; } QToolButton:disabled { color: %6; }")
        .arg(c.ink.name(), c.sheet.name(), c.rule.name(), c.paper.name(), c.amberWash.name(), c.faint.name(),
             c.amber.name());
}

QString fontFamily() {
    return QStringLiteral("Amber Notes");
}

bool loadFonts() {
    bool all = true;
    for (const char* name : {"Regular", "Bold", "Italic"})
        all = QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/AmberNotes-%1.otf").arg(QLatin1String(name))) >=
                  0 &&
              all;
    return all;
}

QFont face(int pixels, bool bold) {
    QFont font(fontFamily());
    font.setPixelSize(pixels);
    font.setBold(bold);
    return font;
}

QFont captionFace() {
    QFont font = face(11);
    font.setCapitalization(QFont::AllUppercase);
    font.setLetterSpacing(QFont::AbsoluteSpacing, 0.4);
    return font;
}

void drawColourMark(QPainter& painter, QPointF at, watch::Colour colour, const Colours& colours, double size) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours.of(colour));
    switch (colour) {
    case watch::Colour::normal:
        painter.drawEllipse(at, size, size);
        break;
    case watch::Colour::amber: {
        const double s = size * 1.3;
        painter.drawPolygon(QPolygonF{{at + QPointF(0, -s), at + QPointF(s, 0.8 * s), at + QPointF(-s, 0.8 * s)}});
        break;
    }
    case watch::Colour::red:
        painter.drawRect(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size));
        break;
    }
    painter.restore();
}

} // namespace amber::app
