// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/problems_dialog.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QVBoxLayout>

namespace amber::app {

ProblemsDialog::ProblemsDialog(const QString& what, const Problems& problems, QWidget* parent) : QDialog(parent) {
    setObjectName(QStringLiteral("problems"));
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Not opened"));
    resize(760, 320);
    auto* layout = new QVBoxLayout(this);
    auto* label =
        new QLabel(tr("%1 was not opened; what was open before is untouched. %n thing(s) to correct:", nullptr,
                      static_cast<int>(problems.size()))
                       .arg(what),
                   this);
    label->setWordWrap(true);
    label->setFont(face(14));
    auto* list = new QPlainTextEdit(this);
    list->setObjectName(QStringLiteral("problem-list"));
    list->setReadOnly(true);
    list->setFont(face(13));
    QString text;
    for (const auto& p : problems)
        text += QString::fromStdString(p.text()) + QStringLiteral("\n\n");
    list->setPlainText(text.trimmed());
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(label);
    layout->addWidget(list, 1);
    layout->addWidget(buttons);
}

} // namespace amber::app
