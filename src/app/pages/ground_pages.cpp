// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/html.h"
#include "kit/theme.h"
#include "pages/phase_page.h"
#include "units/text.h"
#include <QSignalBlocker>
#include <cmath>

namespace amber::app {

void PhasePage::refreshStart() {
    const bool here = phase_ == Phase::start, ordering = here && subPage() == SubPage::order;
    {
        const QSignalBlocker quiet(diluted_), quiet2(blanks_);
        diluted_->setCurrentIndex(document_.sortie().start.diluted ? 1 : 0);
        blanks_->setCurrentIndex(document_.sortie().start.blanks ? 1 : 0);
    }
    startColumn_->setVisible(ordering);
    orders_->setVisible(ordering);
    ordersHead_->setVisible(ordering);
    if (!here)
        return;
    const QSignalBlocker quiet(startOrder_), quiet2(supply_);
    const auto& plan = document_.plan();
    const Colours c(this);
    startOrder_->clear();
    const auto cell = [&](const QString& text, const char* align = "left") {
        return QStringLiteral("<td align='%1' style='color:%2'>%3</td>").arg(QLatin1String(align), c.ink.name(), text);
    };
    const bool battery = document_.sortie().start.supply == start::Supply::battery;
    QString rich = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='3'><tr style='color:%1'>"
                                  "<td></td><td align='right'>%2</td>%3<td>%4</td></tr>")
                       .arg(c.faint.name(), tr("all running"),
                            battery ? QStringLiteral("<td align='right'>%1</td>").arg(tr("battery")) : QString(),
                            tr("on line first, and why"));
    for (const auto& o : plan.orders) {
        startOrder_->addItem(
            tr("%1, %2").arg(html::text(o.named.name), html::text(formatMinutesSeconds(o.timeline.total))));
        startOrder_->setItemData(startOrder_->count() - 1, QString::fromStdString(o.named.reason), Qt::ToolTipRole);
        if (o.wanted)
            startOrder_->setCurrentIndex(startOrder_->count() - 1);
        QStringList online;
        for (const auto& a : o.timeline.onLineFirst)
            online << html::text(a);
        QString name = html::text(o.named.name);
        if (o.wanted)
            name = QStringLiteral("<b>%1</b>").arg(name);
        rich += QStringLiteral("<tr>") + cell((o.wanted ? QStringLiteral("● ") : QStringLiteral("○ ")) + name) +
                cell(html::text(formatMinutesSeconds(o.timeline.total)), "right");
        if (battery)
            rich += cell(tr("%1 %").arg(std::lround(100 * o.timeline.batteryLeft)), "right");
        rich += cell(QStringLiteral("%1. %2 <i>%3</i> %4")
                         .arg(online.isEmpty() ? tr("nothing") : online.join(QStringLiteral(", ")),
                              html::text(o.named.reason), tr("But:"), html::text(o.named.risk))) +
                QStringLiteral("</tr>");
    }
    orders_->setText(rich + QStringLiteral("</table>"));
    supply_->setCurrentIndex(battery ? 1 : 0);
    if (!ordering)
        return;
    startTimeline_->refresh();
}

void PhasePage::showSequence() {
    if (subPage() != SubPage::order)
        return;
    const TypeNotes& notes = document_.aircraft().notes;
    // With what does not catch on the timeline, and the settings that follow from it.
    const auto lines = start::startSequence(notes, document_.plan().startInForce, startTimeline_->timeline(),
                                            flight::startRequestOf(document_.sortie()));
    std::vector<SequenceRow> told;
    std::string last;
    for (const auto& line : lines) {
        const std::string text = line.what + " " + line.set;
        if (!told.empty() && last == line.engine && line.time - told.back().time < 0.5) {
            told.back().text += " · " + text;
            continue;
        }
        std::string name;
        for (const auto& p : notes.positions)
            if (p.id == line.engine && line.engine != last)
                name = p.name;
        last = line.engine;
        told.push_back({line.time, name, text});
    }
    std::vector<Row> rows(told.begin(), told.end());
    sequence_->put(std::move(rows));
}

void PhasePage::refreshWalk(bool first) {
    const auto& walk = document_.plan().walk;
    walk_->refresh();
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (index >= walk.stops.size())
        return;
    const auto& stop = walk.stops[index];
    setHead_->setText(
        tr("%1  ·  station %2 of %3").arg(QString::fromStdString(stop.name)).arg(index + 1).arg(walk.stops.size()));
    const int row = first ? 0 : set_->currentIndex().row();
    set_->put(html::rows(stop.items));
    if (row >= 0 && row < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row, 0));
    const Colours c(this);
    QStringList lines;
    for (const auto& d : walk.defects)
        lines << QStringLiteral("%1 %2: %3")
                     .arg(html::mark(d.verdict, c), html::text(d.where), html::text(d.verdict.sentence()));
    const QString head = QStringLiteral("<span style='color:%1'><b>%2</b></span><br>")
                             .arg(palette().color(QPalette::Link).name(), tr("Written up"));
    defects_->setText(head + (lines.isEmpty() ? tr("Nothing so far.") : lines.join(QStringLiteral("<br>"))));
    showWhy();
}

void PhasePage::takeFinding(int row, const QString& text) {
    const auto& stops = document_.plan().walk.stops;
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (phase_ != Phase::walkRound || index >= stops.size() || row < 0 ||
        row >= static_cast<int>(stops[index].items.size()))
        return;
    const auto& finding = stops[index].items[static_cast<std::size_t>(row)];
    Sortie changed = document_.sortie();
    const std::string typed = text.trimmed().toStdString();
    if (typed.empty()) {
        changed.walk.found.erase(finding.key);
    } else {
        if (const auto why = watch::refusal(finding.item, typed); !why.empty()) {
            emit refused(QString::fromStdString(finding.what + ": " + why));
            return;
        }
        changed.walk.found[finding.key] = watch::kept(finding.item, typed);
    }
    if (const QString error = document_.edit(changed, tr("walk-round")); !error.isEmpty()) {
        emit refused(error);
        return;
    }
    // On to the next thing at this station.
    if (!typed.empty() && row + 1 < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row + 1, 0));
}

void PhasePage::takeOrder(const std::vector<std::string>& order) {
    Sortie changed = document_.sortie();
    changed.start.order = order == document_.aircraft().notes.start.order ? std::vector<std::string>{} : order;
    if (const QString error = document_.edit(changed, tr("start order")); !error.isEmpty())
        emit refused(error);
}

} // namespace amber::app
