// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/heat_chart.h"
#include "kit/figures_view.h"
#include "notes/type_notes.h"
#include "pages/page.h"

namespace amber::app {

/// Figures beside a picture of temperatures through time, height or speed: what the pages of heat and time have in
/// common.
class FiguresPage : public Page {
    Q_OBJECT
public:
    struct Look {
        QString heading;
        HeatChart::Kind picture;
        double share; ///< of the width that the figures take
    };
    FiguresPage(SortieDocument& document, Look look, QWidget* parent);
    void refresh() override;

protected:
    void widen() override;
    [[nodiscard]] virtual Figures figures() const = 0;

private:
    Look look_;
    QLabel* title_;
    FiguresView* figures_;
    QWidget* left_;
    HeatChart* chart_;
};

/// Words that these pages share.
namespace figures {
/// Minutes and seconds.
QString clock(double seconds);
/// A temperature difference in the cockpit's degrees, signed.
QString degrees(double kelvin, const Cockpit& cockpit);
double rounded(double value, double to);
} // namespace figures

} // namespace amber::app
