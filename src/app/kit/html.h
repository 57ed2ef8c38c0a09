// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/row_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QString>
#include <string_view>
#include <vector>

namespace amber::app::html {

/// Text of the core, safe in rich text.
inline QString text(std::string_view plain) {
    return q(plain).toHtmlEscaped();
}

/// The mark of a verdict: disc normal, triangle amber, square red.
inline QString mark(const watch::Verdict& verdict, const Colours& c) {
    const watch::Colour colour = verdict.colour();
    const char* shape = colour == watch::Colour::red ? "■" : colour == watch::Colour::amber ? "▲" : "●";
    return QStringLiteral("<span style='color:%1'>%2</span>").arg(c.of(colour).name(), QString::fromUtf8(shape));
}

/// Lines of the plan as rows of a list.
template <class Line>
std::vector<Row> rows(const std::vector<Line>& lines) {
    return {lines.begin(), lines.end()};
}

} // namespace amber::app::html
