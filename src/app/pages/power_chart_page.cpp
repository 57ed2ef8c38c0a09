// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/power_chart_page.h"
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {

PowerChartPage::PowerChartPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("power-chart-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    steps_ = richText("steps", 14);
    steps_->setContentsMargins(0, 6, 0, 0);
    left->addWidget(heading(tr("The reading, step by step (model)")));
    left->addWidget(steps_);
    left->addStretch(1);
    chart_ = new PowerChartView(this);
    right->addWidget(chart_, 1);
    connect(chart_, &PowerChartView::readingChanged, this, [this] {
        steps_->setText(
            chart_->steps().join(QStringLiteral("<br><br>")) +
            tr("<br><br><i>Drag A for the boost, the diamond for the height. Left and Right: height; Up and "
               "Down: boost; Page Up and Down: rpm; G: gear; Home: the plan's setting.</i>"));
    });
}

void PowerChartPage::widen() {
    left_->setFixedWidth(share(0.281, 250, 520));
}

void PowerChartPage::refresh() {
    const auto& f = document_.plan().flown[phase_];
    const auto& m = document_.plan().flown.samples[f.firstSample];
    const Length altitude = document_.sortie().day.pressureAltitudeOf(Length::si(m[Gauge::height]));
    chart_->show(document_.sharedAircraft(),
                 {f.setting.rpm, f.point.manifoldPressure, f.setting.gear, Length::si(std::max(0.0, altitude.si())),
                  document_.sortie().day.at(altitude).temperature});
}

} // namespace amber::app
