// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/phase_chart.h"
#include "kit/in_view.h"
#include "kit/row_view.h"
#include "pages/page.h"

class QTimer;

class QHBoxLayout;

namespace amber::app {

/// Levers and figures of a phase: Set with why and schools, Expect, Clock, the phase's picture, another day.
class SettingsPage : public Page {
    Q_OBJECT
public:
    explicit SettingsPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    void enter() override;
    /// Takes a school for a step: an undoable edit.
    void chooseSchool(int row, const QString& school);

protected:
    void widen() override;

private:
    QHBoxLayout* upper_; ///< the columns on the right
    void showWhy();
    void offerSchools(int row);
    void refreshComparison();
    /// The picture no taller than what is in view under the columns: whole, whatever stands at the left.
    void fit();
    /// Words want more room than levers: those of the start stand under the gauges, beside it.
    [[nodiscard]] bool whyStandsBeside() const { return phase_ == Phase::start; }

    QWidget *left_, *pictureColumn_;
    QLabel *setHead_, *why_, *comparisonHead_, *comparison_, *expectHead_, *whyBeside_, *pictureTitle_;
    RowView *set_, *expect_, *clock_;
    PhaseChart* chart_;
    QTimer* comparisonLater_;
    InView inView_{this, [this] { fit(); }};
    Phase comparedPhase_ = Phase::walkRound; ///< of the comparison that stands there
};

} // namespace amber::app
