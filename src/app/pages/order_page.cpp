// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/order_page.h"
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "pages/start_orders.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <cmath>

namespace amber::app {

OrderPage::OrderPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("order-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    order_ = new QComboBox(this);
    order_->setObjectName(QStringLiteral("start-order"));
    left->addWidget(captioned(tr("Order"), order_, this), 0, Qt::AlignLeft);
    left->addSpacing(2);
    sequence_ = new RowView(QStringLiteral("sequence"), this);
    sequence_->setAccessibleName(tr("The start, engine by engine"));
    left->addWidget(heading(tr("Set, engine by engine (model)")));
    left->addWidget(sequence_);
    left->addStretch(1);
    right->setSpacing(2);
    orders_ = richText("orders");
    right->addWidget(heading(tr("Orders compared (model)")));
    right->addWidget(orders_);
    right->addSpacing(8);
    title_ = pictureTitle("start-summary");
    timeline_ = new StartTimelineView(document_, this);
    right->addWidget(title_);
    right->addWidget(timeline_, 1);

    connect(order_, &QComboBox::activated, this, [this](int index) {
        const auto orders = start::namedOrders(document_.aircraft().notes);
        if (index >= 0 && index < static_cast<int>(orders.size()))
            edit(withOrder(document_, orders[static_cast<std::size_t>(index)].order), tr("start order"));
    });
    connect(timeline_, &StartTimelineView::summaryChanged, this, [this] {
        title_->setText(timeline_->summary());
        title_->setToolTip(title_->text());
        showSequence();
    });
    connect(timeline_, &StartTimelineView::orderWanted, this,
            [this](const std::vector<std::string>& order) { edit(withOrder(document_, order), tr("start order")); });
}

void OrderPage::widen() {
    left_->setFixedWidth(share(0.398, 320, 700));
}

void OrderPage::refresh() {
    showOrders();
    timeline_->refresh();
}

void OrderPage::showOrders() {
    const QSignalBlocker quiet(order_);
    const auto& plan = document_.plan();
    const Colours c(this);
    order_->clear();
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
        order_->addItem(tr("%1, %2").arg(html::text(o.named.name), html::text(formatMinutesSeconds(o.timeline.total))));
        order_->setItemData(order_->count() - 1, q(o.named.reason), Qt::ToolTipRole);
        if (o.wanted)
            order_->setCurrentIndex(order_->count() - 1);
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
}

void OrderPage::showSequence() {
    const TypeNotes& notes = document_.aircraft().notes;
    // With what does not catch on the timeline, and the settings that follow from it.
    const auto lines = start::startSequence(notes, document_.plan().startInForce, timeline_->timeline(),
                                            flight::startRequestOf(document_.sortie(), document_.plan().flown));
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

} // namespace amber::app
