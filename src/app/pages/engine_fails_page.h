// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/drill_figures_page.h"

namespace amber::app {

/// An engine, or more of them, dead: the drill, and how she flies on the rest.
class EngineFailsPage : public DrillFiguresPage {
    Q_OBJECT
public:
    EngineFailsPage(SortieDocument& document, QWidget* parent)
        : DrillFiguresPage(document, "engine-fails-page", parent) {}
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
    [[nodiscard]] std::optional<std::pair<double, QString>> runsOut() const override { return runsOut_; }

private:
    std::optional<std::pair<double, QString>> runsOut_;
};

} // namespace amber::app
