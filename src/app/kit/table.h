// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include <QString>
#include <QStringList>

namespace amber::app {

/// A small ruled table in the page's own type, as rich text.
class Table {
public:
    /// @param leftColumn a column set to the left besides the first
    Table(const Colours& colours, const QStringList& heads, int leftColumn = 0) : c_(colours), left_(leftColumn) {
        html_ = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='2'><tr>");
        for (int i = 0; i < heads.size(); ++i)
            html_ += QStringLiteral("<td align='%1' style='color:%2'>%3</td>")
                         .arg(side(i), c_.faint.name(), heads[i].toHtmlEscaped());
        html_ += QStringLiteral("</tr>");
    }
    void row(const QStringList& cells, bool strong = false) {
        html_ += QStringLiteral("<tr>");
        for (int i = 0; i < cells.size(); ++i) {
            QString cell = cells[i];
            if (cell.size() < shortCell && !cell.contains(QLatin1Char('<')))
                cell.replace(QLatin1Char(' '), QStringLiteral("&nbsp;")); // a figure stays with its unit
            const QString text = strong ? QStringLiteral("<b>%1</b>").arg(cell) : cell;
            html_ += QStringLiteral("<td align='%1' style='color:%2'>%3</td>").arg(side(i), c_.ink.name(), text);
        }
        html_ += QStringLiteral("</tr>");
    }
    [[nodiscard]] QString html() const { return html_ + QStringLiteral("</table>"); }

private:
    static constexpr int shortCell = 13;
    [[nodiscard]] QString side(int column) const {
        return column == 0 || column == left_ ? QStringLiteral("left") : QStringLiteral("right");
    }
    const Colours& c_;
    int left_;
    QString html_;
};

} // namespace amber::app
