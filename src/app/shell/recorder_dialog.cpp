// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/recorder_dialog.h"
#include "kit/html.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace amber::app {
RecorderDialog::RecorderDialog(const QString& name, const std::vector<ToldLine>& lines, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Take in %1").arg(name));
    auto* column = new QVBoxLayout(this);
    auto* text = new QTextBrowser(this);
    text->setAccessibleName(tr("What the file has"));
    text->setFont(face(13));
    QString table = QStringLiteral("<table cellpadding='1'>");
    for (const auto& line : lines)
        table += line.name.empty() ? QStringLiteral("<tr><td colspan='2'>%1</td></tr>").arg(html::text(line.text))
                                   : QStringLiteral("<tr><td>%1&nbsp;&nbsp;</td><td>%2</td></tr>")
                                         .arg(html::text(line.name), html::text(line.text));
    text->setHtml(table + QStringLiteral("</table>"));
    column->addWidget(text, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    buttons->addButton(tr("&Keep it in the log"), QDialogButtonBox::AcceptRole);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    column->addWidget(buttons);
    resize(760, 520);
}

} // namespace amber::app
