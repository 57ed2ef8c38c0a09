// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/engine_fails_page.h"
#include "kit/html.h"
#include "kit/words.h"

namespace amber::app {

void EngineFailsPage::present(const TroubleMoment& m) {
    fill(drill_, trouble::drillOf(caseOf(m), Emergency::engineFails));
    say(tr("Flying it on the remaining engines…"));
}

void EngineFailsPage::reckon(const TroubleMoment& m) {
    const Colours c(this);
    const auto& a = document_.aircraft();
    auto out = trouble::engineOut(a, document_.sortie(), document_.plan().flown, m.time, m.dead);
    QStringList lines{QStringLiteral("%1 %2").arg(html::mark(out.verdict, c), html::text(out.verdict.sentence()))};
    for (const auto* v : {&out.speed, &out.cooling, &out.rating})
        if (v->colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(html::mark(*v, c), html::text(v->sentence()));
    say(lines.join(QStringLiteral("<br>")));
    runsOut_.reset();
    if (out.limitedLive.left)
        runsOut_ = std::pair{out.limitedLive.left->si(), q(out.limitedLive.rating->name)};
    put(trouble::figuresOf(out, a.notes), tr("on the remaining engines (model)"),
        {"rate-least-drag", "rate-windmilling", "glide", "glide-distance", "rate-limited", "power-asked", "ceiling",
         "drift-down"});
    TroubleChart::OutPicture picture{std::move(out), {}};
    if (picture.out.anyLeft)
        picture.curves = trouble::rateCurves(a, document_.sortie(), picture.out);
    draw(std::move(picture));
}

} // namespace amber::app
