// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/metar_dialog.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace amber::app {

MetarDialog::MetarDialog(const QString& initial, std::function<QString(const air::MetarReading&)> refusal,
                         QWidget* parent)
    : QDialog(parent), refusal_(std::move(refusal)) {
    setWindowTitle(tr("METAR"));
    setObjectName(QStringLiteral("metar-dialog"));
    resize(560, 220);
    auto* layout = new QVBoxLayout(this);
    auto* label = new QLabel(
        tr("Paste the report of this field; wind, temperature, dew point and pressure are taken from it."), this);
    label->setWordWrap(true);
    label->setFont(face(13));
    text_ = new QPlainTextEdit(this);
    text_->setObjectName(QStringLiteral("metar-text"));
    text_->setFont(face(15));
    text_->setTabChangesFocus(true);
    text_->setPlaceholderText(QStringLiteral("METAR XXRF 250650Z 24008KT 9999 SCT030 06/03 Q1009"));
    verdict_ = new QLabel(this);
    verdict_->setObjectName(QStringLiteral("metar-verdict"));
    verdict_->setFont(face(13));
    verdict_->setWordWrap(true);
    verdict_->setMinimumHeight(40);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    use_ = buttons->addButton(tr("Use it"), QDialogButtonBox::AcceptRole);
    layout->addWidget(label);
    layout->addWidget(text_, 1);
    layout->addWidget(verdict_);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(text_, &QPlainTextEdit::textChanged, this, &MetarDialog::read);
    text_->setPlainText(initial);
    text_->selectAll();
    read();
}

void MetarDialog::read() {
    const Colours c(this);
    const QString text = text_->toPlainText();
    reading_.reset();
    const auto refuse = [&](const QString& why) {
        verdict_->setText(QStringLiteral("<span style='color:%1'>■ %2</span>").arg(c.red.name(), why.toHtmlEscaped()));
    };
    if (text.trimmed().isEmpty()) {
        verdict_->clear();
    } else if (const auto result = air::readMetar(text.toStdString())) {
        if (const QString why = refusal_(result.value()); !why.isEmpty()) {
            refuse(why);
        } else {
            reading_ = result.value();
            verdict_->setText(QString::fromStdString(reading_->summary()));
        }
    } else {
        refuse(QString::fromStdString(result.error()));
    }
    use_->setEnabled(reading_.has_value());
}

} // namespace amber::app
