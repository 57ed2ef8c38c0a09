// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/ground_budget_view.h"
#include "pages/page.h"

namespace amber::app {

/// How long heads or coolant stay normal on the ground, by the way of waiting.
class BudgetPage : public Page {
    Q_OBJECT
public:
    explicit BudgetPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;

protected:
    void widen() override;

private:
    [[nodiscard]] QString words() const;

    QWidget* left_;
    QLabel *title_, *figures_;
    GroundBudgetView* budget_;
    Phase asked_ = Phase::writeUp; ///< it was last shown for
};

} // namespace amber::app
