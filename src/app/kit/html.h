// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/row_view.h"
#include "kit/theme.h"
#include <QString>
#include <string>
#include <vector>

namespace amber::app::html {

/// Text of the core, safe in rich text.
inline QString text(const std::string& plain) {
    return QString::fromStdString(plain).toHtmlEscaped();
}

/// The mark of a colour: disc normal, triangle amber, square red.
inline QString mark(watch::Colour colour, const Colours& c) {
    const char* shape = colour == watch::Colour::red ? "■" : colour == watch::Colour::amber ? "▲" : "●";
    return QStringLiteral("<span style='color:%1'>%2</span>").arg(c.of(colour).name(), QString::fromUtf8(shape));
}

/// Lines of the plan as rows of a list.
template <class Line>
std::vector<Row> rows(const std::vector<Line>& lines) {
    return {lines.begin(), lines.end()};
}

} // namespace amber::app::html
