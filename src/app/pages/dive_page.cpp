// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/dive_page.h"

namespace amber::app {

void DivePage::present(const TroubleMoment& m) {
    fill(drill_, trouble::drillOf(caseOf(m), Emergency::dive));
}

void DivePage::reckon(const TroubleMoment& m) {
    const auto& a = document_.aircraft();
    auto d = trouble::dive(a, document_.sortie(), document_.plan().flown, m.time);
    put(trouble::figuresOf(d, a.notes), tr("dive (model)"), {"way", "ias", "rpm", "boost", "allowed"});
    draw(std::move(d));
}

} // namespace amber::app
