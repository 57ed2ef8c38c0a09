// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/heat_chart.h"
#include "charts/load_chart.h"
#include "kit/figures_view.h"
#include "notes/type_notes.h"
#include "pages/page.h"
#include <variant>

namespace amber::app {

/// Figures beside a computed picture: what the pages of heat and time, of load and fuel have in common.
class FiguresPage : public Page {
    Q_OBJECT
public:
    struct Look {
        QString heading; ///< "%1": whether the log is in its figures of fuel
        std::variant<HeatChart::Kind, LoadChart::Kind> picture;
        double share; ///< of the width that the figures take
    };
    FiguresPage(SortieDocument& document, Look look, QWidget* parent);
    void refresh() override;

protected:
    void widen() override;
    [[nodiscard]] virtual Figures figures() const = 0;
    /// Something to choose or to press, under the figures.
    void addBelow(QWidget* widget);
    /// The same under the picture.
    void addUnderPicture(QWidget* widget);
    [[nodiscard]] LoadChart* loadChart() const { return load_; }

private:
    Look look_;
    QLabel *heading_, *title_;
    FiguresView* figures_;
    QWidget* left_;
    QVBoxLayout *below_, *under_;
    HeatChart* heat_ = nullptr;
    LoadChart* load_ = nullptr;
    PictureChart* chart_;
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
