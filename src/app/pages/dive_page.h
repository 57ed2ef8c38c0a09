// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// Coming down fast: what it does to rpm, heads or coolant, and how far ahead power comes back.
class DivePage : public TroublePage {
    Q_OBJECT
public:
    DivePage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override { return drill_.view; }

protected:
    void widen() override;

private:
    QBoxLayout* halves_;
    DrillPart drill_;
    FiguresView* figures_;
    QLabel* title_;
    TroubleChart* chart_;
};

} // namespace amber::app
