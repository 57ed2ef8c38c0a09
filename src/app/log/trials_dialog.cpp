// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/trials_dialog.h"
#include "kit/captioned.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace amber::app {

TrialsDialog::TrialsDialog(const QString& airframe, const std::vector<record::Trial>& trials, QWidget* parent)
    : QDialog(parent) {
    setObjectName(QStringLiteral("trials"));
    setWindowTitle(tr("What was tried on %1").arg(airframe));
    resize(860, 560);
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
    column->setSpacing(6);
    const auto add = [&](const QString& text, const QFont& font, bool faint) {
        auto* label = new QLabel(text, page);
        label->setTextFormat(Qt::PlainText);
        label->setFont(font);
        label->setWordWrap(true);
        if (faint)
            label->setForegroundRole(QPalette::PlaceholderText);
        column->addWidget(label);
        shown_ += text + QLatin1Char('\n');
    };
    for (const auto& t : trials) {
        column->addWidget(heading(q(t.name), page));
        if (t.second.empty()) {
            add(tr("Flown %1: %2 of the runs, and no other way to hold it against.").arg(q(t.first)).arg(t.firstRuns),
                face(14), false);
            continue;
        }
        add(tr("%1 (%2 runs) against %3 (%4)").arg(q(t.second)).arg(t.secondRuns).arg(q(t.first)).arg(t.firstRuns),
            face(14), false);
        for (const auto& e : t.effects)
            add(q(e.words), face(14, e.tells), !e.tells);
        column->addSpacing(8);
    }
    if (trials.empty())
        add(tr("No run is marked with a trial yet."), face(14), false);
    add(tr("Mark a run in Record: type “trial intakes: blanked” where a defect is written, and “trial intakes: open” "
           "on "
           "the others. Readings are held against the plan of their own day, so that a hot day is no effect; fly the "
           "ways by turns, for what creeps shows as an effect of the later one. Of many readings one in a hundred "
           "differs by chance. What may be tried, the approved manuals and a licensed engineer say."),
        face(13), true);
    column->addStretch(1);
    scroll->setWidget(page);
    outer->addWidget(scroll, 1);
    auto* buttons = new QDialogButtonBox(this);
    auto* close = buttons->addButton(tr("&Close"), QDialogButtonBox::AcceptRole);
    close->setFont(face(14));
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    outer->addWidget(buttons);
}

} // namespace amber::app
