// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/ground_budget_view.h"
#include "charts/heat_chart.h"
#include "store/sortie_document.h"
#include <QLabel>
#include <QWidget>

namespace amber::app {

/// The pages of heat and time: the engines' warm-up, the ground budget, the climb by bands of height, cooling in climb
/// and cruise, the let-down's
/// schedule, cooling down and starting again. A picture with its figures beside it.
class HeatPage : public QWidget {
    Q_OBJECT
public:
    enum class Kind { engines, budget, bands, cooling, schedule, afterwards };
    explicit HeatPage(SortieDocument& document, QWidget* parent = nullptr);
    void present(Kind kind, Phase phase);
    [[nodiscard]] HeatChart& chart() { return *chart_; }
    [[nodiscard]] GroundBudgetView& budget() { return *budget_; }
    /// The figures beside the picture, as rich text.
    [[nodiscard]] QString figures() const { return figures_->text(); }

private:
    [[nodiscard]] QString engines() const;
    [[nodiscard]] QString budgetWords() const;
    [[nodiscard]] QString bands() const;
    [[nodiscard]] QString cooling(Phase phase) const;
    [[nodiscard]] QString schedule() const;
    [[nodiscard]] QString afterwards() const;

    SortieDocument& document_;
    QLabel *title_, *figures_, *head_;
    HeatChart* chart_;
    GroundBudgetView* budget_;
    Kind kind_ = Kind::engines;
    Phase phase_ = Phase::writeUp; ///< the budget was last shown for
};

} // namespace amber::app
