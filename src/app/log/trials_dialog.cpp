// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/trials_dialog.h"
#include "kit/words.h"

namespace amber::app {

TrialsDialog::TrialsDialog(const QString& airframe, const std::vector<record::Trial>& trials, QWidget* parent)
    : SheetDialog(tr("What was tried on %1").arg(airframe), QSize(860, 560), parent) {
    setObjectName(QStringLiteral("trials"));
    for (const auto& t : trials) {
        headed(q(t.name));
        if (t.second.empty()) {
            add(tr("Flown %1: %2 of the runs, and no other way to hold it against.").arg(q(t.first)).arg(t.firstRuns));
            continue;
        }
        add(tr("Flown %1 (%2 runs), against %3 (%4).")
                .arg(q(t.second))
                .arg(t.secondRuns)
                .arg(q(t.first))
                .arg(t.firstRuns));
        if (!t.interleaved)
            add(tr("The runs of the two ways do not take turns: what changed with time looks like the trial."), 14);
        for (const auto& e : t.effects)
            add(q(e.words), 14, e.tells, !e.tells);
        column().addSpacing(8);
    }
    if (trials.empty())
        add(tr("No run is marked with a trial yet."));
    add(tr("Mark a run in Record: type “trial intakes: blanked” where a defect is written, and “trial intakes: open” "
           "on "
           "the others. Readings are held against the plan of their own day, so that a hot day is no effect; fly the "
           "ways by turns, for what creeps shows as an effect of the later one. Of many readings one in a hundred "
           "differs by chance. What may be tried, the approved manuals and a licensed engineer say."),
        13, false, true);
}

} // namespace amber::app
