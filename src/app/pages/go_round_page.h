// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/drill_figures_page.h"

namespace amber::app {

/// Going round at the landing field today.
class GoRoundPage : public DrillFiguresPage {
    Q_OBJECT
public:
    GoRoundPage(SortieDocument& document, QWidget* parent) : DrillFiguresPage(document, "go-round-page", parent) {}
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
};

} // namespace amber::app
