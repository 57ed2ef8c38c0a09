// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/load_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "plan/load_plan.h"
#include "units/text.h"

namespace amber::app {
namespace {
constexpr std::size_t mostCures = 5;
}

LoadPage::LoadPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Load sheet"), LoadChart::Kind::envelope, 0.44}, parent) {
    setObjectName(QStringLiteral("load-page"));
    cureTitle_ = heading(tr("To bring it within limits: each tried on the whole flight"));
    cureTitle_->hide();
    addUnderPicture(cureTitle_);
    for (std::size_t i = 0; i < mostCures; ++i) {
        auto* button = new QPushButton(this);
        button->setObjectName(QStringLiteral("cure-%1").arg(i));
        button->setFont(face(13));
        button->hide();
        connect(button, &QPushButton::clicked, this, [this, i] { cure(i); });
        button->setStyleSheet(QStringLiteral("text-align: left; padding: 2px 8px"));
        addUnderPicture(button);
        buttons_.push_back(button);
    }
    follow_ = new QPushButton(tr("Let the weight follow from the sheet"), this);
    follow_->setObjectName(QStringLiteral("follow"));
    follow_->setFont(face(13));
    follow_->hide();
    connect(follow_, &QPushButton::clicked, this, [this] {
        Sortie changed = document_.sortie();
        changed.load.weightTyped = false;
        edit(changed, tr("weight"));
    });
    addBelow(follow_);
}

void LoadPage::refresh() {
    // Reckoned only where something is wrong: every cure is flown.
    cures_ = advice::loadCures(document_.aircraft(), document_.sortie(), document_.plan().flown);
    if (cures_.size() > mostCures)
        cures_.resize(mostCures);
    cureTitle_->setVisible(!cures_.empty());
    for (std::size_t i = 0; i < buttons_.size(); ++i) {
        buttons_[i]->setVisible(i < cures_.size());
        if (i < cures_.size()) {
            buttons_[i]->setText(q(cures_[i].text));
            buttons_[i]->setToolTip(
                tr("Flown: %1 inside at the worst moment. One undo takes it back.")
                    .arg(q(loading::shiftText(document_.aircraft().notes.loading, cures_[i].room))));
        }
    }
    follow_->setVisible(document_.sortie().load.weightTyped && document_.aircraft().notes.loading.given);
    FiguresPage::refresh();
}

void LoadPage::cure(std::size_t which) {
    if (which < cures_.size())
        edit(cures_[which].sortie, tr("load"));
}

Figures LoadPage::figures() const {
    const auto& n = document_.aircraft().notes;
    const auto& l = n.loading;
    const UnitSpec& w = *n.cockpit.weight;
    const auto load = plan::loadPlan(document_.aircraft(), document_.sortie(), document_.plan().flown);
    QStringList heads{tr("station"), q(std::string(w.symbol))};
    if (l.given)
        heads << tr("arm, %1").arg(q(std::string(l.inPercent ? "%" : l.armUnit->symbol)))
              << (l.momentsDividedBy > 1 ? tr("moment / %1").arg(l.momentsDividedBy) : tr("moment"));
    heads << tr("from");
    Table table(heads);
    for (const auto& line : load.lines) {
        if (line.mass <= 0 && !(line.station && line.station->kind != StationKind::ballast))
            continue;
        std::vector<Table::Cell> row{q(line.name) +
                                     (line.who.empty() ? QString() : QStringLiteral(", ") + q(line.who))};
        const QString mass = q(formatValue(line.mass, w));
        if (const auto verdict = loading::judgeStation(n, line); verdict.colour() != watch::Colour::normal)
            row.emplace_back(mass, verdict);
        else
            row.emplace_back(mass);
        if (l.given) {
            row.emplace_back(q(loading::armText(l, line.arm, false)));
            row.emplace_back(q(loading::momentText(l, line.moment())));
        }
        row.emplace_back(q(std::string(markOf(line.origin))));
        table.row(std::move(row));
    }
    for (const auto& m : load.moments) {
        std::vector<Table::Cell> row{q(m.name), q(formatValue(m.balance.mass, w))};
        if (l.given) {
            row.emplace_back(q(loading::armText(l, m.balance.arm(), false)), m.verdict);
            row.emplace_back(q(loading::momentText(l, m.balance.moment)));
        }
        const bool still = m.id == "ramp" || m.id == "zero-fuel";
        row.emplace_back(
            q(std::string(markOf(still ? Origin::notes : powerplant::originOfFuel(document_.aircraft())))));
        table.row(std::move(row), true);
    }
    Figures out{std::move(table)};
    QStringList lines;
    if (!l.given)
        lines << tr("The notes give no arms: only weights are reckoned. [loading] in the notes brings the rest.");
    if (document_.sortie().load.weightTyped)
        lines << tr("The weight is typed, %1; it does not follow from this sheet.")
                     .arg(q(format(document_.sortie().weight.si(), w)));
    for (const auto& t : load.trim)
        lines << tr("<b>Trim</b> %1 with flap %2.").arg(html::text(t.text), html::text(t.flap));
    if (!lines.isEmpty())
        out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
