// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/levers_page.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"

namespace amber::app {

LeversPage::LeversPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("levers-page"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    title_ = pictureTitle("levers-title");
    column->addWidget(title_);
    reading_ = richText("levers-reading");
    column->addWidget(reading_);
    panel_ = new LeverPanel(this);
    column->addWidget(panel_, 1);
    column->addStretch(0);
    connect(panel_, &LeverPanel::chosen, this,
            [this] { reading_->setText(html::text(panel_->reading().toStdString())); });
    connect(&document, &SortieDocument::momentChosen, this, [this] {
        if (isVisible())
            refresh();
    });
}

void LeversPage::refresh() {
    if (!document_.isOpen())
        return;
    const auto& f = document_.plan().flown;
    const auto& p = f[phase_];
    // The moment chosen on the score where it is in this phase; else when all of the phase is set.
    const auto chosen = document_.moment();
    const bool within = chosen && *chosen >= p.start && *chosen <= p.start + p.duration;
    const double at = within ? *chosen : p.start + p.duration - 1e-3;
    title_->setText(within ? tr("At %1: as found (ring) and now (filled)").arg(q(formatHoursMinutes(at)))
                           : tr("Set for the phase: as found (ring) and now (filled)"));
    panel_->show(plan::leversAt(document_.aircraft(), document_.sortie(), f, at));
}

} // namespace amber::app
