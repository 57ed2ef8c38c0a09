// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/power_chart_view.h"
#include "pages/page.h"

namespace amber::app {

/// The power chart of a phase with its reading, step by step.
class PowerChartPage : public Page {
    Q_OBJECT
public:
    explicit PowerChartPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    [[nodiscard]] PowerChartView& chart() { return *chart_; }

protected:
    void widen() override;

private:
    QWidget* left_;
    QLabel* steps_;
    PowerChartView* chart_;
};

} // namespace amber::app
