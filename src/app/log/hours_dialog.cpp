// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/hours_dialog.h"
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/theme.h"
#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace amber::app {

HoursDialog::HoursDialog(const QString& airframe, const record::Hours& hours, const TypeNotes& notes, QWidget* parent)
    : QDialog(parent) {
    setObjectName(QStringLiteral("hours"));
    setWindowTitle(tr("Hours of %1").arg(airframe));
    const auto table = record::hoursTable(hours, notes);
    const Colours c(parent ? parent : this);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(20, 16, 20, 16);
    outer->setSpacing(10);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->viewport()->setAutoFillBackground(false);
    auto* page = new QWidget(scroll);
    page->setAutoFillBackground(false);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 8, 0);
    column->setSpacing(8);
    const auto label = [&](const QString& text, const QFont& font, bool faint = false) {
        auto* out = new QLabel(text, page);
        out->setFont(font);
        out->setWordWrap(true);
        if (faint)
            out->setForegroundRole(QPalette::PlaceholderText);
        return out;
    };
    column->addWidget(heading(tr("Engines"), page));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(26);
    grid->setVerticalSpacing(5);
    const int columns = static_cast<int>(table.columns.size());
    for (int e = 0; e < columns; ++e)
        grid->addWidget(label(q(table.columns[static_cast<std::size_t>(e)]), captionFace(), true), 0, e + 1,
                        Qt::AlignRight);
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        const int at = static_cast<int>(r) + 1;
        grid->addWidget(label(q(table.rows[r].what), face(14)), at, 0);
        shown_ += q(table.rows[r].what);
        for (int e = 0; e < columns; ++e) {
            const QString cell = q(table.rows[r].cells[static_cast<std::size_t>(e)]);
            auto* figure = label(cell.isEmpty() ? QStringLiteral("–") : cell, face(14, true));
            figure->setWordWrap(false);
            grid->addWidget(figure, at, e + 1, Qt::AlignRight);
            shown_ += QLatin1Char('\t') + cell;
        }
        shown_ += QLatin1Char('\n');
    }
    grid->setColumnStretch(0, 1);
    column->addLayout(grid);
    for (const auto& line : table.told) {
        column->addWidget(label(q(line), face(14)));
        shown_ += q(line) + QLatin1Char('\n');
    }
    column->addSpacing(6);
    column->addWidget(heading(tr("Due"), page));
    for (const auto& d : hours.due) {
        column->addWidget(
            label(html::mark(d.verdict, c) + QLatin1Char(' ') + html::text(d.verdict.sentence()), face(14)));
        shown_ += q(d.verdict.sentence()) + QLatin1Char('\n');
    }
    if (hours.due.empty())
        column->addWidget(
            label(tr("Its file names nothing that comes round: write [[due]] tables into it."), face(14)));
    column->addWidget(
        label(tr("Done: write it in Record, beginning with “work” and the name of what was due; an engine "
                 "that was overhauled, with “overhaul”. What is due, and whether it was done, the approved "
                 "papers and a licensed engineer say; this is a hand's tally beside them."),
              face(13), true));
    column->addStretch(1);
    scroll->setWidget(page);
    outer->addWidget(scroll, 1);
    auto* buttons = new QDialogButtonBox(this);
    auto* close = buttons->addButton(tr("&Close"), QDialogButtonBox::AcceptRole);
    close->setFont(face(14));
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    outer->addWidget(buttons);
    resize(std::min(960, 420 + 150 * columns), 560);
}

} // namespace amber::app
