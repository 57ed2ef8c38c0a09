// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/drill_figures_page.h"

namespace amber::app {

/// Approach, landing and going round on the engines that are left, at the landing field today.
class FewEnginesPage : public DrillFiguresPage {
    Q_OBJECT
public:
    FewEnginesPage(SortieDocument& document, QWidget* parent)
        : DrillFiguresPage(document, "few-engines-page", parent) {}
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
};

} // namespace amber::app
