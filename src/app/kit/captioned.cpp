// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/captioned.h"
#include "kit/theme.h"
#include <QPainter>
#include <QVBoxLayout>

namespace amber::app {

QWidget* captioned(const QString& caption, QComboBox* box, QWidget* parent) {
    auto* holder = new QWidget(parent);
    auto* layout = new QVBoxLayout(holder);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    auto* label = new QLabel(caption, holder);
    label->setTextFormat(Qt::PlainText);
    label->setFont(captionFace());
    label->setForegroundRole(QPalette::PlaceholderText);
    label->setBuddy(box);
    box->setFont(face(15, true));
    box->setAccessibleName(caption);
    box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    box->setMaximumWidth(230); // a long name is cut at its end, and whole in the list
    layout->addWidget(label);
    layout->addWidget(box);
    return holder;
}

QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setTextFormat(Qt::PlainText); // it names what notes name
    QFont font = captionFace();
    font.setBold(true);
    font.setPixelSize(12);
    label->setFont(font);
    label->setForegroundRole(QPalette::Link);
    label->setFixedHeight(20);
    return label;
}

QLineEdit* typedLine(QBoxLayout& column, const char* name, const QString& caption, const QString& prompt, QWidget* in) {
    auto* edit = new QLineEdit(in);
    edit->setObjectName(QLatin1String(name));
    edit->setAccessibleName(QString(caption).remove(QLatin1Char('&')));
    edit->setFont(face(14));
    edit->setPlaceholderText(prompt);
    auto* label = new QLabel(caption, in);
    label->setTextFormat(Qt::PlainText);
    label->setFont(captionFace());
    label->setForegroundRole(QPalette::PlaceholderText);
    label->setBuddy(edit);
    auto* both = new QVBoxLayout;
    both->setSpacing(0);
    both->addWidget(label);
    both->addWidget(edit);
    column.addLayout(both);
    return edit;
}

void rowGround(QPainter& painter, const QStyleOptionViewItem& option) {
    const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
    const QRect r = option.rect;
    painter.setPen(QPen(c.grid, 1));
    painter.drawLine(r.bottomLeft(), r.bottomRight());
    if (option.state.testFlag(QStyle::State_Selected)) {
        painter.fillRect(r.adjusted(0, 1, 0, -1), c.sheet);
        painter.fillRect(QRect(r.left(), r.top() + 1, 3, r.height() - 2), c.amber);
    }
}

QListView* readList(const char* name, const QString& called, QAbstractItemDelegate* delegate, QStandardItemModel* rows,
                    QWidget* in) {
    auto* list = new QListView(in);
    list->setObjectName(QLatin1String(name));
    list->setAccessibleName(called);
    list->setFrameShape(QFrame::NoFrame);
    list->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    delegate->setParent(list);
    list->setItemDelegate(delegate);
    rows->setParent(list);
    list->setModel(rows);
    return list;
}

} // namespace amber::app
