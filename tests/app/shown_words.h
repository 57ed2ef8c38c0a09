// SPDX-License-Identifier: GPL-3.0-or-later
// Every text that a widget and what is in it show, with where it stands.
#pragma once
#include "charts/drill_view.h"
#include "kit/figures_view.h"
#include <QAbstractButton>
#include <QAbstractItemView>
#include <QComboBox>
#include <QGroupBox>
#include <QHeaderView>
#include <QLabel>
#include <QTableView>
#include <QTextDocumentFragment>
#include <QWidget>
#include <qcustomplot.h>
#include <set>
#include <string>
#include <utility>

namespace amber::test {

using ShownWords = std::set<std::pair<std::string, std::string>>; ///< kind ("label", "tip" ...), text

inline void addWords(ShownWords& out, const char* kind, const QString& text) {
    // (A text with a tag in its middle is rich too, though Qt looks only at how it begins.)
    static const QRegularExpression tag(QStringLiteral("</?[a-z]+[^>]*>"));
    const QString plain =
        text.contains(tag) ? QTextDocumentFragment::fromHtml(text).toPlainText().trimmed() : text.trimmed();
    for (const QString& line : plain.split(QLatin1Char('\n'), Qt::SkipEmptyParts))
        if (line.contains(QRegularExpression(QStringLiteral("[a-z]{3}"))))
            out.emplace(kind, line.simplified().toStdString());
}

inline void addModel(ShownWords& out, const QAbstractItemModel& model) {
    for (int r = 0; r < model.rowCount(); ++r)
        for (int c = 0; c < model.columnCount(); ++c) {
            addWords(out, "cell", model.index(r, c).data().toString());
            addWords(out, "tip", model.index(r, c).data(Qt::ToolTipRole).toString());
        }
    for (int c = 0; c < model.columnCount(); ++c)
        addWords(out, "column", model.headerData(c, Qt::Horizontal).toString());
}

/// What is shown by a widget and all that is in it, hidden parts left out. (What is painted and has no text of its own
/// is read through its reading, where it gives one.)
inline ShownWords wordsOf(QWidget& top) {
    ShownWords out;
    auto all = top.findChildren<QWidget*>();
    all.push_back(&top);
    for (auto* w : all) {
        if (!w->isVisible() || w->inherits("QMenu"))
            continue;
        addWords(out, "tip", w->toolTip());
        if (const auto* label = qobject_cast<QLabel*>(w))
            addWords(out, "label", label->text());
        else if (const auto* button = qobject_cast<QAbstractButton*>(w))
            addWords(out, "button", button->text());
        else if (const auto* group = qobject_cast<QGroupBox*>(w))
            addWords(out, "label", group->title());
        else if (const auto* combo = qobject_cast<QComboBox*>(w))
            addModel(out, *combo->model());
        else if (const auto* view = qobject_cast<QAbstractItemView*>(w); view && view->model())
            addModel(out, *view->model());
        else if (const auto* drill = qobject_cast<app::DrillView*>(w))
            addWords(out, "drill", drill->text());
        else if (const auto* figures = qobject_cast<app::FiguresView*>(w))
            addWords(out, "figure", figures->text());
        else if (auto* plot = qobject_cast<QCustomPlot*>(w)) {
            for (int i = 0; i < plot->itemCount(); ++i)
                if (const auto* text = qobject_cast<QCPItemText*>(plot->item(i)); text && text->visible())
                    addWords(out, "picture", text->text());
            for (const auto* axis : {plot->xAxis, plot->yAxis, plot->xAxis2, plot->yAxis2})
                addWords(out, "picture", axis->label());
        }
    }
    return out;
}

} // namespace amber::test
