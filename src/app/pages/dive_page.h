// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/drill_figures_page.h"

namespace amber::app {

/// Coming down fast: what it does to rpm, heads or coolant, and how far ahead power comes back.
class DivePage : public DrillFiguresPage {
    Q_OBJECT
public:
    DivePage(SortieDocument& document, QWidget* parent) : DrillFiguresPage(document, "dive-page", parent) {}
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
};

} // namespace amber::app
