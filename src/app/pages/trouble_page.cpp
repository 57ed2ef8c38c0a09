// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/trouble_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "pages/dive_page.h"
#include "pages/drills_page.h"
#include "pages/engine_fails_page.h"
#include "pages/feather_page.h"
#include "pages/few_engines_page.h"
#include "pages/go_round_page.h"
#include "pages/symptoms_page.h"
#include <QVBoxLayout>
#include <fmt/format.h>

namespace amber::app {
namespace {
template <class P>
TroublePage* madeTrouble(SortieDocument& document, QWidget* parent) {
    return new P(document, parent);
}
} // namespace

const std::vector<TroubleRow>& troubleTable() {
    static const std::vector<TroubleRow> table{
        {"engine-fails", "Engine fails", madeTrouble<EngineFailsPage>, true},
        {"symptoms", "Symptoms", madeTrouble<SymptomsPage>, false},
        {"feather", "Feather", madeTrouble<FeatherPage>, true},
        {"dive", "Dive", madeTrouble<DivePage>, false},
        {"go-round", "Go-around", madeTrouble<GoRoundPage>, false},
        {"fire", "Fire", madeTrouble<FirePage>, true},
        {"few-engines", "Fewer engines", madeTrouble<FewEnginesPage>, true, true},
        {"systems", "Systems", madeTrouble<SystemsPage>, false},
    };
    return table;
}

TroublePage::TroublePage(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {}

trouble::Case TroublePage::caseOf(const TroubleMoment& m) const {
    const auto& f = document_.plan().flown;
    return {document_.aircraft(), document_.sortie(), f,
            trouble::momentAt(document_.aircraft().notes, document_.sortie(), f, m.time), m.dead};
}

QLabel* TroublePage::heading(const QString& text) {
    auto* label = new QLabel(text, this);
    label->setFont(face(16, true));
    return label;
}

TroublePage::DrillPart TroublePage::drillPart(const QString& name, const QString& title) {
    DrillPart part;
    part.holder = new QWidget(this);
    auto* column = new QVBoxLayout(part.holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    if (!title.isEmpty()) {
        auto* head = heading(title);
        head->setWordWrap(true);
        column->addWidget(head);
    }
    part.view = new DrillView(name, part.holder);
    column->addWidget(part.view);
    part.why = new RichLabel(part.holder);
    part.why->setFont(face(13));
    part.why->setObjectName(name + QStringLiteral("-why"));
    column->addWidget(part.why);
    column->addStretch(1);
    connect(part.view, &DrillView::ticked, this, &TroublePage::ticked);
    connect(part.view, &DrillView::placeWanted, this, [this, view = part.view](QRect place) {
        emit placeWanted(QRect(view->mapTo(this, place.topLeft()), place.size()));
    });
    connect(part.view, &DrillView::chosen, this, [this, part](int line) { showWhy(part, line); });
    return part;
}

void TroublePage::showWhy(const DrillPart& part, int line) {
    const auto& lines = part.view->lines();
    if (line < 0 || line >= static_cast<int>(lines.size()))
        return;
    // The reason stands with the first act of a step.
    auto first = static_cast<std::size_t>(line);
    while (first > 0 && !lines[first].first)
        --first;
    const auto& l = lines[first];
    QStringList out;
    if (!l.why.empty())
        out << html::text(l.why);
    if (!l.skipped.empty())
        out << tr("Left out: %1").arg(html::text(l.skipped));
    if (!l.caution.empty())
        out << QStringLiteral("<b>%1</b> %2").arg(tr("Caution:"), html::text(l.caution));
    for (std::size_t i = 0; i < l.schools.size(); ++i)
        out << QStringLiteral("%1 <b>%2</b>: %3 %4")
                   .arg(static_cast<int>(i) == l.school ? QStringLiteral("◆") : QStringLiteral("◇"),
                        html::text(l.schools[i].name), html::text(l.schools[i].gain), html::text(l.schools[i].risk));
    part.why->setText(out.join(QStringLiteral("<br>")) +
                      QStringLiteral("  <i>%1</i>").arg(html::text(markOf(l.origin))));
}

void TroublePage::fill(DrillPart& part, const trouble::EmergencyDrill& drill) {
    part.view->put(drill);
    showWhy(part, part.view->current());
}

Table TroublePage::tableOf(const trouble::Figures& figures, const QString& first) {
    Table table({first, tr("is"), tr("because")}, 2);
    for (const auto& f : figures) {
        std::string why = f.why;
        if (f.origin != Origin::model)
            why += fmt::format("{}({})", why.empty() ? "" : " ", markOf(f.origin));
        table.row({q(f.what), f.verdict ? Table::Cell(q(f.value), *f.verdict) : Table::Cell(q(f.value)), q(why)},
                  f.strong);
    }
    return table;
}

void TroublePage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    widen();
}

} // namespace amber::app
