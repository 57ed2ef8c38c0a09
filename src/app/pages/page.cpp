// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/page.h"
#include "kit/captioned.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include <QHBoxLayout>
#include <QResizeEvent>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {

Page::Page(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {}

void Page::present(Phase phase) {
    phase_ = phase;
    if (!document_.isOpen())
        return;
    widen();
    refresh();
}

void Page::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (document_.isOpen() && event->size().width() != event->oldSize().width())
        widen();
}

bool Page::edit(const Sortie& changed, const QString& what, int gesture) {
    const QString error = document_.edit(changed, what, gesture);
    if (!error.isEmpty())
        emit refused(error);
    return error.isEmpty();
}

Page::Halves Page::halves(int between, int lines) {
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(between);
    auto* column = new QWidget(this);
    auto* left = new QVBoxLayout(column);
    left->setContentsMargins(0, 0, 0, 0);
    left->setSpacing(lines);
    columns->addWidget(column);
    auto* right = new QVBoxLayout;
    right->setSpacing(lines);
    columns->addLayout(right, 1);
    return {column, left, right};
}

RowView* Page::rowsUnder(QBoxLayout& columns, const char* name, const QString& title, const QString& spoken,
                         int stretch) {
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    auto* rows = new RowView(QLatin1String(name), this);
    rows->setAccessibleName(spoken);
    column->addWidget(heading(title));
    column->addWidget(rows);
    column->addStretch(1);
    columns.addLayout(column, stretch);
    return rows;
}

QLabel* Page::heading(const QString& text) {
    auto* label = app::heading(text, this);
    label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    return label;
}

QLabel* Page::richText(const char* name, int size) {
    auto* label = new RichLabel(this);
    label->setObjectName(QLatin1String(name));
    label->setFont(face(size));
    label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    return label;
}

QLabel* Page::pictureTitle(const char* name) {
    auto* label = new QLabel(this);
    label->setObjectName(QLatin1String(name));
    label->setFont(face(12));
    label->setForegroundRole(QPalette::PlaceholderText);
    label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    return label;
}

void Page::setColumn(QWidget& column, int width) {
    column.setMinimumWidth(width);
    column.setMaximumWidth(width > 0 ? width : QWIDGETSIZE_MAX);
}

int Page::share(double of, int least, int most) const {
    return std::clamp(static_cast<int>(of * width()), least, most);
}

} // namespace amber::app
