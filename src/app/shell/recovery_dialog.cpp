// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/recovery_dialog.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QLabel>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

namespace amber::app {

RecoveryDialog::RecoveryDialog(QList<SortieDocument::Leftover> leftovers,
                               std::function<QString(const SortieDocument::Leftover&)> bringBack, QWidget* parent)
    : QDialog(parent), leftovers_(std::move(leftovers)), bringBack_(std::move(bringBack)) {
    setObjectName(QStringLiteral("recovery"));
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Unsaved work found"));
    resize(620, 260);
    auto* column = new QVBoxLayout(this);
    auto* label = new QLabel(tr("An earlier run ended without saving. Bring its changes back?"), this);
    label->setFont(face(14));
    label->setWordWrap(true);
    list_ = new QListWidget(this);
    list_->setObjectName(QStringLiteral("leftovers"));
    list_->setFont(face(14));
    verdict_ = new QLabel(this);
    verdict_->setObjectName(QStringLiteral("recovery-verdict"));
    verdict_->setFont(face(13));
    verdict_->setWordWrap(true);
    verdict_->hide();
    auto* buttons = new QDialogButtonBox(this);
    back_ = buttons->addButton(tr("&Bring back"), QDialogButtonBox::ActionRole);
    back_->setObjectName(QStringLiteral("bring-back"));
    back_->setDefault(true);
    discard_ = buttons->addButton(tr("&Discard"), QDialogButtonBox::ActionRole);
    discard_->setObjectName(QStringLiteral("discard"));
    auto* later = buttons->addButton(tr("&Later"), QDialogButtonBox::RejectRole);
    later->setObjectName(QStringLiteral("later"));
    column->addWidget(label);
    column->addWidget(list_, 1);
    column->addWidget(verdict_);
    column->addWidget(buttons);
    connect(back_, &QPushButton::clicked, this, &RecoveryDialog::bringBack);
    connect(discard_, &QPushButton::clicked, this, &RecoveryDialog::discard);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::itemActivated, this, &RecoveryDialog::bringBack);
    list();
}

void RecoveryDialog::list() {
    list_->clear();
    for (const auto& l : leftovers_)
        list_->addItem(tr("%1, %2").arg(
            l.original.isEmpty() ? tr("a sortie that was never saved") : QFileInfo(l.original).fileName(),
            QLocale(QLocale::English).toString(l.written, QStringLiteral("d MMM yyyy, HH:mm"))));
    list_->setCurrentRow(0);
    back_->setEnabled(!leftovers_.isEmpty());
    discard_->setEnabled(!leftovers_.isEmpty());
}

void RecoveryDialog::bringBack() {
    const int row = list_->currentRow();
    if (row < 0)
        return;
    const QString wrong = bringBack_(leftovers_.at(row));
    if (wrong.isEmpty()) {
        accept();
        return;
    }
    verdict_->setText(
        QStringLiteral("<span style='color:%1'>■ %2</span>").arg(Colours(this).red.name(), wrong.toHtmlEscaped()));
    verdict_->show();
}

void RecoveryDialog::discard() {
    const int row = list_->currentRow();
    if (row < 0)
        return;
    SortieDocument::discard(leftovers_.at(row));
    leftovers_.removeAt(row);
    verdict_->hide();
    if (leftovers_.isEmpty())
        accept();
    else
        list();
}

} // namespace amber::app
