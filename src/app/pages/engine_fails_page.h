// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// An engine, or more of them, dead: the drill, and how she flies on the rest.
class EngineFailsPage : public TroublePage {
    Q_OBJECT
public:
    EngineFailsPage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override { return drill_.view; }
    [[nodiscard]] std::optional<std::pair<double, QString>> runsOut() const override { return runsOut_; }

protected:
    void widen() override;

private:
    QBoxLayout* halves_;
    DrillPart drill_;
    RichLabel* verdict_;
    FiguresView* figures_;
    QLabel* title_;
    TroubleChart* chart_;
    QWidget* right_;
    std::optional<std::pair<double, QString>> runsOut_;
};

} // namespace amber::app
