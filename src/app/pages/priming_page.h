// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/phase_chart.h"
#include "kit/row_view.h"
#include "pages/page.h"
#include <array>

namespace amber::app {

/// The prime: dose, what it does, and pictures of dose against temperature and of the charge against time.
class PrimingPage : public Page {
    Q_OBJECT
public:
    explicit PrimingPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;

protected:
    void widen() override;

private:
    struct Picture {
        QLabel* title;
        PhaseChart* chart;
    };
    QWidget* left_;
    RowView* lines_;
    QLabel* why_;
    std::array<Picture, 2> pictures_;
};

} // namespace amber::app
