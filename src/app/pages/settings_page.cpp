// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/settings_page.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "pages/start_orders.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {

SettingsPage::SettingsPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("settings-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    set_ = new RowView(QStringLiteral("set"), this);
    set_->setAccessibleName(tr("Set: levers in order"));
    setHead_ = heading(tr("Set"));
    left->addWidget(setHead_);
    left->addWidget(set_);
    why_ = richText("why");
    why_->setContentsMargins(0, 6, 0, 0);
    left->addWidget(why_);
    left->addStretch(1);
    comparisonHead_ = heading(tr("Another day (model)"));
    comparison_ = richText("comparison");
    comparison_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    left->addWidget(comparisonHead_);
    left->addWidget(comparison_);

    right->setSpacing(0);
    upper_ = new QHBoxLayout;
    auto* expectColumn = new QVBoxLayout;
    expectColumn->setSpacing(0);
    expect_ = new RowView(QStringLiteral("expect"), this);
    expect_->setAccessibleName(tr("Expect: gauges"));
    expectHead_ = heading(tr("Expect"));
    expectColumn->addWidget(expectHead_);
    expectColumn->addWidget(expect_);
    whyBeside_ = richText("why-beside");
    whyBeside_->setContentsMargins(0, 10, 0, 0);
    expectColumn->addWidget(whyBeside_);
    expectColumn->addStretch(1);
    upper_->addLayout(expectColumn, 1);
    clock_ = rowsUnder(*upper_, "clock", tr("Clock"), tr("Clock: waits and times"), 0);
    right->addLayout(upper_);
    pictureColumn_ = new QWidget(this);
    auto* picture = new QVBoxLayout(pictureColumn_);
    picture->setContentsMargins(0, 8, 0, 0);
    picture->setSpacing(2);
    pictureTitle_ = pictureTitle("chart-title");
    chart_ = new PhaseChart(document_, this);
    picture->addWidget(pictureTitle_);
    picture->addWidget(chart_, 1);
    right->addWidget(pictureColumn_, 1);
    right->addStretch(0);

    comparisonLater_ = new QTimer(this);
    comparisonLater_->setSingleShot(true);
    comparisonLater_->setInterval(0);
    connect(comparisonLater_, &QTimer::timeout, this, &SettingsPage::refreshComparison);
    connect(set_, &RowView::rowSelected, this, [this](int row) {
        showWhy();
        if (row >= 0) {
            const QRect place = set_->visualRect(set_->model()->index(row, 0));
            emit placeWanted(QRect(set_->mapTo(this, place.topLeft()), place.size()));
        }
    });
    connect(set_, &RowView::schoolWanted, this, &SettingsPage::offerSchools);
    connect(chart_, &PhaseChart::heightDragged, this, [this](double metres, int gesture) {
        Sortie changed = document_.sortie();
        changed.flight.cruiseHeight = Length::si(metres);
        edit(changed, tr("cruise height"), gesture);
    });
}

void SettingsPage::widen() {
    const int gap = narrow() ? 14 : 24;
    layout()->setSpacing(gap);
    upper_->setSpacing(gap);
    stack(*upper_, narrow());
    const bool gauges = !document_.plan()[phase_].expect.empty();
    left_->setFixedWidth(!gauges                                                ? share(0.66, 480, 1100)
                         : narrow()                                             ? share(0.46, 340, 420)
                         : phase_ >= Phase::takeOff && phase_ <= Phase::letDown ? share(0.356, 290, 640)
                                                                                : share(0.398, 320, 700));
    setColumn(*clock_, narrow() ? 0 : share(0.30, 246, 450));
    fit();
}

void SettingsPage::fit() {
    constexpr int least = 130; // px, of a picture with its title
    const int room = inView_.height();
    pictureColumn_->setMinimumHeight(least);
    pictureColumn_->setMaximumHeight(narrow() || room == 0 ? QWIDGETSIZE_MAX
                                                           : std::max(least, room - upper_->sizeHint().height()));
}

void SettingsPage::enter() {
    set_->clearSelection();
    if (set_->model()->rowCount() > 0)
        set_->setCurrentIndex(set_->model()->index(0, 0));
    showWhy();
}

void SettingsPage::refresh() {
    const plan::PhasePlan& p = document_.plan()[phase_];
    const int row = set_->currentIndex().row();
    set_->put(html::rows(p.set));
    if (row >= 0 && row < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row, 0));
    // What goes is hidden before what comes is shown: both at once would widen the window.
    const bool picture = PhaseChart::hasPicture(phase_), compared = plan::comparesDays(phase_);
    if (!picture)
        pictureColumn_->hide();
    why_->setVisible(!whyStandsBeside());
    whyBeside_->setVisible(whyStandsBeside());
    expect_->put(html::rows(p.expect));
    expectHead_->setVisible(!p.expect.empty());
    expect_->setVisible(!p.expect.empty());
    clock_->put(html::rows(p.clocks));
    if (picture) {
        chart_->show(phase_);
        pictureTitle_->setText(chart_->title());
        pictureColumn_->show();
    }
    showWhy();
    fit();
    // Other days take flights of their own: where they stand already, after the frame that shows this one.
    if (compared && comparison_->isVisible() && comparedPhase_ == phase_) {
        comparisonLater_->start();
    } else {
        comparisonHead_->setVisible(compared);
        comparison_->setVisible(compared);
        refreshComparison();
    }
}

void SettingsPage::refreshComparison() {
    if (!document_.isOpen() || !plan::comparesDays(phase_) || !isVisibleTo(parentWidget()))
        return;
    const auto comparison = plan::compareDays(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    comparedPhase_ = phase_;
    const bool any = !comparison.rows.empty();
    comparisonHead_->setVisible(any);
    comparison_->setVisible(any);
    if (!any)
        return;
    const Colours c(this);
    QString rich = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='1'><tr><td></td>");
    for (const auto& column : comparison.columns)
        rich += QStringLiteral("<td align='right' valign='bottom' style='color:%1;padding-left:10px'>%2</td>")
                    .arg(c.faint.name(), html::text(column));
    rich += QStringLiteral("</tr>");
    for (const auto& row : comparison.rows) {
        // A unit that all have stands once, with the name: so four columns find room.
        const auto unitOf = [](const std::string& cell) {
            const auto space = cell.find(' ');
            return space == std::string::npos ? std::string{} : cell.substr(space + 1);
        };
        const std::string unit = row.cells.empty() ? std::string{} : unitOf(row.cells.front());
        const bool once = !unit.empty() && std::all_of(row.cells.begin(), row.cells.end(),
                                                       [&](const std::string& cell) { return unitOf(cell) == unit; });
        rich += QStringLiteral("<tr><td style='color:%1'>%2</td>")
                    .arg(c.ink.name(), html::text(once ? row.what + ", " + unit : row.what)
                                           .replace(QLatin1Char(' '), QStringLiteral("&nbsp;")));
        for (std::size_t i = 0; i < row.cells.size(); ++i) {
            QString cell = html::text(once ? row.cells[i].substr(0, row.cells[i].find(' ')) : row.cells[i])
                               .replace(QLatin1Char(' '), QStringLiteral("&nbsp;"));
            if (row.verdicts[i].colour() != watch::Colour::normal)
                cell = html::mark(row.verdicts[i], c) + QStringLiteral("&nbsp;<span style='color:%1'>%2</span>")
                                                            .arg(c.of(row.verdicts[i].colour()).name(), cell);
            rich +=
                QStringLiteral("<td align='right'>%1</td>").arg(i == 0 ? QStringLiteral("<b>%1</b>").arg(cell) : cell);
        }
        rich += QStringLiteral("</tr>");
    }
    comparison_->setText(rich + QStringLiteral("</table>"));
}

void SettingsPage::showWhy() {
    const auto& lines = document_.plan()[phase_].set;
    const int row = set_->currentIndex().row();
    if (row < 0 || row >= static_cast<int>(lines.size())) {
        why_->clear();
        whyBeside_->clear();
        return;
    }
    const auto& s = lines[static_cast<std::size_t>(row)];
    const Colours c(this);
    QString rich = QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3")
                       .arg(c.amber.name(), html::text(s.what), html::text(s.why));
    if (!s.sense.empty())
        rich += QStringLiteral(" <i>%1</i> %2.").arg(tr("Lever:"), html::text(s.sense));
    if (!s.skipped.empty())
        rich += QStringLiteral("<br><i>%1</i> %2").arg(tr("Skipped:"), html::text(s.skipped));
    if (s.ordersOffered)
        rich += tr("<br>◇ Enter: another order; the page \"order\" compares them.");
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        const auto& school = s.schools[i];
        if (s.ordersOffered && static_cast<int>(i) != s.school)
            continue;
        rich += QStringLiteral("<br>%1 <b>%2</b>%3: %4 <i>%5</i> %6")
                    .arg(static_cast<int>(i) == s.school ? QStringLiteral("●") : QStringLiteral("○"),
                         html::text(school.name), school.byNotes ? tr(" (notes)") : QString(), html::text(school.gain),
                         tr("But:"), html::text(school.risk));
    }
    (whyStandsBeside() ? whyBeside_ : why_)->setText(rich);
}

void SettingsPage::offerSchools(int row) {
    const auto& lines = document_.plan()[phase_].set;
    if (row < 0 || row >= static_cast<int>(lines.size()))
        return;
    const auto& s = lines[static_cast<std::size_t>(row)];
    if (s.schools.empty() || !s.open)
        return;
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("schools"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setToolTipsVisible(true);
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        auto* action = menu->addAction(q(s.schools[i].name) + (s.schools[i].byNotes ? tr("  (notes)") : QString()));
        action->setCheckable(true);
        action->setChecked(static_cast<int>(i) == s.school);
        action->setToolTip(q(s.schools[i].gain + " But: " + s.schools[i].risk));
        const QString name = q(s.schools[i].name);
        connect(action, &QAction::triggered, this, [this, row, name] { chooseSchool(row, name); });
    }
    menu->popup(
        set_->viewport()->mapToGlobal(set_->visualRect(set_->model()->index(row, 0)).bottomLeft() + QPoint(128, 0)));
}

void SettingsPage::chooseSchool(int row, const QString& school) {
    const auto& s = document_.plan()[phase_].set.at(static_cast<std::size_t>(row));
    if (s.ordersOffered) {
        for (const auto& o : document_.plan().orders)
            if (o.named.name == school.toStdString()) {
                edit(withOrder(document_, o.named.order), tr("start order"));
                return;
            }
        return;
    }
    Sortie changed = document_.sortie();
    changed.choices[std::string(keyOf(phase_)) + "/" + s.stepId] = school.toStdString();
    edit(changed, tr("school"));
}

} // namespace amber::app
