// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/priming_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "plan/start_words.h"
#include <QHBoxLayout>
#include <QVBoxLayout>

namespace amber::app {

PrimingPage::PrimingPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("priming-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    lines_ = new RowView(QStringLiteral("sequence"), this);
    lines_->setAccessibleName(tr("The prime"));
    why_ = richText("why");
    why_->setContentsMargins(0, 6, 0, 0);
    left->addWidget(heading(tr("Prime")));
    left->addWidget(lines_);
    left->addWidget(why_);
    left->addStretch(1);
    right->setSpacing(2);
    const std::array kinds{PhaseChart::Kind::primeDose, PhaseChart::Kind::primeTime};
    for (std::size_t i = 0; i < kinds.size(); ++i) {
        pictures_[i].title = pictureTitle(i == 0 ? "dose-title" : "time-title");
        pictures_[i].chart = new PhaseChart(document_, this, kinds[i]);
        pictures_[i].chart->setObjectName(i == 0 ? QStringLiteral("dose-chart") : QStringLiteral("time-chart"));
        right->addWidget(pictures_[i].title);
        right->addWidget(pictures_[i].chart, 1);
    }
}

void PrimingPage::widen() {
    left_->setFixedWidth(narrow() ? share(0.56, 430, 520) : share(0.398, 320, 700));
}

void PrimingPage::refresh() {
    lines_->put(html::rows(document_.plan()[phase_].priming));
    why_->setText(tr("Strokes count from the first firm one, and the barrel fills before each. <b>Too little</b> "
                     "turns and never fires. <b>Too much</b> coughs, pops, smokes black and runs from the drain: "
                     "%1, throttle wide open, turn it clear, then start again without prime. A fire at the "
                     "intake: keep turning, fuel off, throttle open; then ignition off.")
                      .arg(q(plan::fuelOff(document_.aircraft().notes))));
    for (auto& [title, chart] : pictures_) {
        chart->show(phase_);
        title->setText(chart->title());
    }
}

} // namespace amber::app
