// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QBoxLayout>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QStandardItemModel>
#include <QStyleOptionViewItem>
#include <QWidget>

namespace amber::app {

/// A combo box under a small caption, set on the same lines as the inline fields beside it.
QWidget* captioned(const QString& caption, QComboBox* box, QWidget* parent);
/// A line to type in, under its caption. @param name of the object
QLineEdit* typedLine(QBoxLayout& column, const char* name, const QString& caption, const QString& prompt, QWidget* in);
/// A list of rows that a delegate draws, to be read and chosen from, not written in; it owns its model.
/// @param name of the object @param called how it is read aloud
QListView* readList(const char* name, const QString& called, QAbstractItemDelegate* delegate, QStandardItemModel* rows,
                    QWidget* in);
/// The ground of one row that a delegate draws: a thin rule below, and where it is chosen a sheet with an amber edge.
void rowGround(QPainter& painter, const QStyleOptionViewItem& option);
/// The head of a column, in small capitals.
QLabel* heading(const QString& text, QWidget* parent);

} // namespace amber::app
