// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/go_round_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "units/text.h"

namespace amber::app {

void GoRoundPage::present(const TroubleMoment& m) {
    fill(drill_, trouble::goRoundDrill(caseOf(m)));
    say(tr("Opening it up at the landing field…"));
}

void GoRoundPage::reckon(const TroubleMoment&) {
    const Colours c(this);
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    auto g = trouble::goRound(a, document_.sortie(), document_.plan().flown);
    say(QStringLiteral("%1 %2<br><span style='font-weight:normal;font-size:13px'>%3</span>")
            .arg(html::mark(g.climbs, c), html::text(g.climbs.sentence()),
                 tr("At the landing field, %1, %2, %3.")
                     .arg(html::text(formatHeight(g.field.si(), *n.cockpit.height)),
                          html::text(format(g.air.si(), *n.cockpit.temperature)),
                          html::text(trouble::roundWeight(g.weight.si(), n.cockpit)))));
    put(trouble::figuresOf(g, n), tr("going round (model)"),
        {"rate-up", "rate-down", "not-below", "boost", "rpm", "full-after"});
    putUnderDrill(trouble::leftSo(g, n), tr("left as it was (model)"));
    draw(std::move(g));
}

} // namespace amber::app
