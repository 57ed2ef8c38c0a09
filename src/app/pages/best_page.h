// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/best_cruise.h"
#include "charts/load_chart.h"
#include "kit/row_view.h"
#include "pages/page.h"
#include "plan/load_plan.h"

class QTimer;

namespace amber::app {

/// The best cruise for today's wind and weight: most miles, most hours, least fuel for the flight, cheapest; on one
/// picture of miles per gallon against speed by height.
class BestPage : public Page {
    Q_OBJECT
public:
    explicit BestPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    void enter() override;
    /// Takes a line into the plan, its height too: an undoable edit.
    void take(int row);
    [[nodiscard]] const std::vector<plan::BestRow>& rows() const { return found_; }

protected:
    void widen() override;
    /// Out of sight it forgets: what is shown next is of then.
    void hideEvent(QHideEvent* event) override;

private:
    void showRows();
    void search();

    QWidget* left_;
    RowView* rows_;
    QLabel *heading_, *words_, *title_;
    LoadChart* chart_;
    advice::BestCruise best_;
    std::vector<advice::LegChoice> legs_;
    std::vector<plan::BestRow> found_;
    QTimer* later_;
};

} // namespace amber::app
