// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/details_dialog.h"
#include "kit/theme.h"
#include "units/text.h"
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>

namespace amber::app {
namespace {
constexpr int longest = 60; // letters that a name may have
}

DetailsDialog::DetailsDialog(SortieDocument& document, QWidget* parent) : QDialog(parent), document_(document) {
    setObjectName(QStringLiteral("details"));
    setWindowTitle(tr("Sortie"));
    const Sortie& s = document.sortie();
    auto* form = new QFormLayout(this);
    const auto field = [&](const QString& label, const char* name, const std::string& text, const QString& hint) {
        auto* edit = new QLineEdit(QString::fromStdString(text), this);
        edit->setObjectName(QLatin1String(name));
        edit->setMaxLength(longest);
        edit->setMinimumWidth(320);
        edit->setToolTip(hint);
        form->addRow(label, edit);
        return edit;
    };
    title_ = field(tr("&Title"), "details-title", s.title, tr("On the card and in the window's heading"));
    registration_ = field(tr("&Registration"), "details-registration", s.airframe.registration,
                          tr("Of this airframe; on the card"));
    over_ = field(tr("&Over"), "details-over", s.flight.over, tr("Turning points, if any"));
    to_ = field(tr("To (&destination)"), "details-to", s.flight.to, tr("Field of landing"));
    toElevation_ = field(tr("&Elevation there"), "details-elevation",
                         format(s.flight.toElevation.si(), *document.aircraft().notes.cockpit.height),
                         tr("Height of the landing field above sea level"));
    verdict_ = new QLabel(this);
    verdict_->setObjectName(QStringLiteral("details-verdict"));
    verdict_->setWordWrap(true);
    verdict_->setFont(face(13));
    form->addRow(verdict_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &DetailsDialog::take);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    // There and back: naming the field of departure takes its elevation too.
    connect(to_, &QLineEdit::textEdited, this, [this](const QString& text) {
        if (const auto& day = document_.sortie().day; text.trimmed().toStdString() == day.field)
            toElevation_->setText(
                QString::fromStdString(format(day.elevation.si(), *document_.aircraft().notes.cockpit.height)));
    });
}

void DetailsDialog::take() {
    const auto refuse = [this](const QString& why) {
        verdict_->setText(
            QStringLiteral("<span style='color:%1'>■ %2</span>").arg(Colours(this).red.name(), why.toHtmlEscaped()));
    };
    Sortie changed = document_.sortie();
    changed.title = title_->text().trimmed().toStdString();
    changed.airframe.registration = registration_->text().trimmed().toStdString();
    changed.flight.over = over_->text().trimmed().toStdString();
    changed.flight.to = to_->text().trimmed().toStdString();
    if (changed.flight.to.empty())
        return refuse(tr("Name the field of landing."));
    const auto elevation =
        read<Dimension::length>(toElevation_->text().toStdString(), document_.aircraft().notes.cockpit.height);
    if (!elevation)
        return refuse(QString::fromStdString(elevation.error()));
    changed.flight.toElevation = elevation.value();
    if (const QString error = document_.edit(changed, tr("sortie")); !error.isEmpty())
        return refuse(error);
    accept();
}

} // namespace amber::app
