// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/sheet_dialog.h"
#include "kit/captioned.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QPushButton>
#include <QScrollArea>

namespace amber::app {

SheetDialog::SheetDialog(const QString& title, QSize size, QWidget* parent) : QDialog(parent) {
    setWindowTitle(title);
    resize(size);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(20, 16, 20, 16);
    outer->setSpacing(10);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->viewport()->setAutoFillBackground(false);
    page_ = new QWidget(scroll);
    page_->setAutoFillBackground(false);
    auto* whole = new QVBoxLayout(page_);
    whole->setContentsMargins(0, 0, 8, 0);
    column_ = new QVBoxLayout;
    column_->setSpacing(7);
    whole->addLayout(column_);
    whole->addStretch(1);
    scroll->setWidget(page_);
    outer->addWidget(scroll, 1);
    auto* buttons = new QDialogButtonBox(this);
    auto* close = buttons->addButton(tr("&Close"), QDialogButtonBox::AcceptRole);
    close->setFont(face(14));
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    outer->addWidget(buttons);
}

QLabel* SheetDialog::label(const QString& text, const QFont& font, bool faint) {
    auto* out = new QLabel(text, page_);
    out->setFont(font);
    if (faint)
        out->setForegroundRole(QPalette::PlaceholderText);
    return out;
}

void SheetDialog::headed(const QString& title) {
    column_->addWidget(heading(title, page_));
}

void SheetDialog::add(const QString& text, int pixels, bool bold, bool faint, const QString& plain) {
    auto* paragraph = label(text, face(pixels, bold), faint);
    paragraph->setTextFormat(plain.isEmpty() ? Qt::PlainText : Qt::RichText);
    paragraph->setWordWrap(true);
    column_->addWidget(paragraph);
    tell(plain.isEmpty() ? text : plain);
}

} // namespace amber::app
