// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/ruled_table.h"
#include "kit/theme.h"
#include <QHeaderView>

namespace amber::app {

void rule(QTableView& table, const QString& columns, int aside) {
    table.setShowGrid(false);
    table.setFrameShape(QFrame::NoFrame);
    table.setSelectionMode(QAbstractItemView::SingleSelection);
    table.setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                          QAbstractItemView::EditKeyPressed);
    table.verticalHeader()->hide();
    QHeaderView& heads = *table.horizontalHeader();
    heads.setAccessibleName(columns);
    heads.setHighlightSections(false);
    heads.setSectionResizeMode(QHeaderView::Fixed);
    heads.setFont(face(12));
    table.setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    table.viewport()->setAutoFillBackground(false);
    table.setStyleSheet(QStringLiteral("QTableView { background: transparent; } QHeaderView::section { background: "
                                       "transparent; border: none; padding: 2px %1px; }")
                            .arg(aside));
}

} // namespace amber::app
