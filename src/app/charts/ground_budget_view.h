// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/ground_budget.h"
#include "store/sortie_document.h"
#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

namespace amber::app {

/// The time budget on the ground: a bar for each way of waiting, normal until amber, amber until the limit, on one
/// scale of minutes. Space or a click on the clock starts and stops it: then a line moves across the bars. Up and Down
/// choose a bar; W and H take the budget from the start of the warm-up or from the holding point.
class GroundBudgetView : public QWidget {
    Q_OBJECT
public:
    explicit GroundBudgetView(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    void startFrom(advice::GroundFrom from);
    [[nodiscard]] advice::GroundFrom from() const { return from_; }
    [[nodiscard]] const advice::GroundBudget& budget() const { return budget_; }
    [[nodiscard]] int selected() const { return selected_; }
    void select(int run);
    /// Starts or stops the clock.
    void toggleClock();
    [[nodiscard]] bool clockRuns() const { return timer_.isActive(); }
    /// What the clock reads at a number of seconds since it was started: what is left to amber of the chosen way.
    [[nodiscard]] QString clockText(double elapsed) const;
    /// What a bar says in words.
    [[nodiscard]] QString words(int run) const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {420, 220}; }

signals:
    void chosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] QRectF rowBox(int run) const;
    [[nodiscard]] QRectF clockBox() const;
    [[nodiscard]] double longest() const; ///< s, right end of the scale
    [[nodiscard]] double elapsed() const;

    SortieDocument& document_;
    advice::GroundFrom from_ = advice::GroundFrom::holding;
    advice::GroundBudget budget_;
    int selected_ = 0;
    QTimer timer_;
    QElapsedTimer since_;
};

} // namespace amber::app
