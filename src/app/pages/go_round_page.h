// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// Going round at the landing field today.
class GoRoundPage : public TroublePage {
    Q_OBJECT
public:
    GoRoundPage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override { return drill_.view; }

protected:
    void widen() override;

private:
    QBoxLayout* halves_;
    DrillPart drill_;
    RichLabel* verdict_;
    FiguresView *figures_, *left_;
    QLabel* title_;
    TroubleChart* chart_;
};

} // namespace amber::app
