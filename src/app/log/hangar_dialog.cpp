// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/hangar_dialog.h"
#include "kit/html.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace amber::app {

HangarDialog::HangarDialog(Hangar& hangar, std::function<void(const QString&)> keep, QWidget* parent)
    : QDialog(parent), hangar_(hangar), keep_(std::move(keep)) {
    setWindowTitle(tr("The hangar's log"));
    setObjectName(QStringLiteral("hangar-dialog"));
    resize(640, 300);
    auto* layout = new QVBoxLayout(this);
    layout->setSpacing(8);
    const auto label = [&](const QString& text, int size) {
        auto* out = new QLabel(text, this);
        out->setFont(face(size));
        out->setWordWrap(true);
        layout->addWidget(out);
        return out;
    };
    label(tr("A hangar that shares one log keeps it in a PostgreSQL database. Whatever is kept here is on this "
             "machine's own disk first, and is merged with the hangar's when that is there: at once, or later."),
          14);
    auto* caption = label(tr("A&ddress"), 13);
    address_ = new QLineEdit(HangarLog::shown(hangar.address()), this);
    address_->setObjectName(QStringLiteral("hangar-address"));
    address_->setFont(face(15));
    address_->setPlaceholderText(QStringLiteral("postgresql://crew@hangar.local/log"));
    address_->setToolTip(tr("user, machine and name of the database; empty: no hangar shares its log"));
    caption->setBuddy(address_);
    layout->addWidget(address_);
    label(tr("A password in the address is written into this program's settings as it stands and is not shown here "
             "again. Better in libpq's own file, ~/.pgpass."),
          13)
        ->setForegroundRole(QPalette::PlaceholderText);
    wrong_ = label({}, 13);
    state_ = label({}, 14);
    state_->setObjectName(QStringLiteral("hangar-state"));
    layout->addStretch(1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    merge_ = buttons->addButton(tr("&Merge now"), QDialogButtonBox::ActionRole);
    merge_->setObjectName(QStringLiteral("hangar-merge"));
    merge_->setDefault(true);
    stop_ = buttons->addButton(tr("&Stop"), QDialogButtonBox::ActionRole);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(merge_, &QPushButton::clicked, this, &HangarDialog::take);
    connect(stop_, &QPushButton::clicked, &hangar_, &Hangar::stop);
    connect(address_, &QLineEdit::textEdited, this, &HangarDialog::refresh);
    connect(&hangar_, &Hangar::changed, this, &HangarDialog::refresh);
    refresh();
}

QString HangarDialog::shown() const {
    return wrong_->text() + QLatin1Char('\n') + state_->text();
}

QString HangarDialog::meant() const {
    const QString typed = address_->text().trimmed();
    return typed == HangarLog::shown(hangar_.address()) ? hangar_.address() : typed;
}

void HangarDialog::take() {
    const QString typed = meant();
    if (const QString why = typed.isEmpty() ? QString() : HangarLog::wrongWith(typed); !why.isEmpty()) {
        wrong_->setText(
            QStringLiteral("<span style='color:%1'>■</span> %2")
                .arg(Colours(this).red.name(), tr("%1 It was not taken.").arg(html::text(why.toStdString()))));
        return;
    }
    wrong_->clear();
    keep_(typed);
    if (typed == hangar_.address())
        hangar_.merge();
    else
        hangar_.setAddress(typed);
    address_->setText(HangarLog::shown(typed));
    refresh();
}

void HangarDialog::refresh() {
    const bool as = meant() == hangar_.address();
    merge_->setText(as && !hangar_.address().isEmpty() ? tr("&Merge now") : tr("&Take it"));
    merge_->setEnabled(!hangar_.isBusy());
    stop_->setEnabled(hangar_.isBusy());
    QStringList lines;
    if (!hangar_.state().isEmpty())
        lines << html::text(hangar_.state().toStdString());
    for (const auto& line : hangar_.told())
        lines << html::text(line.toStdString());
    state_->setText(lines.isEmpty() ? tr("No hangar shares its log with this one.")
                                    : lines.join(QStringLiteral("<br>")));
}

} // namespace amber::app
