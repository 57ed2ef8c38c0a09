// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/hours_dialog.h"
#include "kit/html.h"
#include "kit/theme.h"
#include <QGridLayout>

namespace amber::app {

HoursDialog::HoursDialog(const QString& airframe, const record::Hours& hours, const TypeNotes& notes, QWidget* parent)
    : SheetDialog(tr("Hours of %1").arg(airframe),
                  QSize(std::min(960, 420 + 150 * static_cast<int>(hours.engines.size())), 560), parent) {
    setObjectName(QStringLiteral("hours"));
    const auto table = record::hoursTable(hours, notes);
    const Colours c(parent ? parent : this);
    headed(tr("Engines"));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(26);
    grid->setVerticalSpacing(5);
    const int columns = static_cast<int>(table.columns.size());
    for (int e = 0; e < columns; ++e)
        grid->addWidget(label(q(table.columns[static_cast<std::size_t>(e)]), captionFace(), true), 0, e + 1,
                        Qt::AlignRight);
    int at = 0;
    for (const auto& row : table.rows) {
        ++at;
        grid->addWidget(label(q(row.what), face(14)), at, 0);
        QStringList words{q(row.what)};
        for (int e = 0; e < columns; ++e) {
            words << q(row.cells[static_cast<std::size_t>(e)]);
            grid->addWidget(label(words.back().isEmpty() ? QStringLiteral("–") : words.back(), face(14, true)), at,
                            e + 1, Qt::AlignRight);
        }
        tell(words.join(QLatin1Char('\t')));
    }
    grid->setColumnStretch(0, 1);
    column().addLayout(grid);
    for (const auto& line : table.told)
        add(q(line));
    column().addSpacing(6);
    headed(tr("Due"));
    for (const auto& d : hours.due)
        add(html::mark(d.verdict, c) + QLatin1Char(' ') + html::text(d.verdict.sentence()), 14, false, false,
            q(d.verdict.sentence()));
    if (hours.due.empty())
        add(tr("Its file names nothing that comes round: write [[due]] tables into it."));
    add(tr("Done: write it in Record, beginning with “work” and the name of what was due; an engine that was "
           "overhauled, "
           "with “overhaul”. What is due, and whether it was done, the approved papers and a licensed engineer say; "
           "this "
           "is a hand's tally beside them."),
        13, false, true);
}

} // namespace amber::app
