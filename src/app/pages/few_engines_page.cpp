// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/few_engines_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "units/text.h"

namespace amber::app {

void FewEnginesPage::present(const TroubleMoment& m) {
    fill(drill_, trouble::drillOf(caseOf(m), Emergency::fewEngines));
    say(tr("Flying the approach on the remaining engines…"));
}

void FewEnginesPage::reckon(const TroubleMoment& m) {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    auto f = trouble::fewEngines(document_.aircraft(), document_.sortie(), document_.plan().flown, m.dead);
    if (!f.anyLeft) {
        say(tr("No engine is left: glide. Its drill and figures are under Engine fails."));
        put({}, tr("on the remaining engines (model)"), {});
        return;
    }
    QStringList lines{QStringLiteral("%1 %2").arg(html::mark(f.goesRound, c), html::text(f.goesRound.sentence()))};
    if (f.path.colour() != watch::Colour::normal)
        lines << QStringLiteral("%1 %2").arg(html::mark(f.path, c), html::text(f.path.sentence()));
    lines << QStringLiteral("<span style='font-weight:normal;font-size:13px'>%1</span>")
                 .arg(tr("At the landing field, %1, %2, %3.")
                          .arg(html::text(formatHeight(f.field.si(), *n.cockpit.height)),
                               html::text(format(f.air.si(), *n.cockpit.temperature)),
                               html::text(trouble::roundWeight(f.weight.si(), n.cockpit))));
    say(lines.join(QStringLiteral("<br>")));
    put(trouble::figuresOf(f, n), tr("on the remaining engines (model)"),
        {"commit", "held-speed", "down-power", "rate-up", "rate-wheels", "rudder"});
    draw(std::move(*f.round));
}

} // namespace amber::app
