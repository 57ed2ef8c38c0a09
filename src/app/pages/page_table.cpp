// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/page_table.h"
#include "pages/afterwards_page.h"
#include "pages/allows_page.h"
#include "pages/bands_page.h"
#include "pages/best_page.h"
#include "pages/budget_page.h"
#include "pages/choose_cruise_page.h"
#include "pages/cooling_page.h"
#include "pages/engines_page.h"
#include "pages/fuel_page.h"
#include "pages/levers_page.h"
#include "pages/load_page.h"
#include "pages/order_page.h"
#include "pages/power_chart_page.h"
#include "pages/priming_page.h"
#include "pages/run_up_page.h"
#include "pages/schedule_page.h"
#include "pages/settings_page.h"
#include "pages/speeds_page.h"
#include "pages/tanks_page.h"
#include "pages/walk_round_page.h"
#include <algorithm>

namespace amber::app {
namespace {
template <class P>
Page* make(SortieDocument& document, QWidget* parent) {
    return new P(document, parent);
}
bool hasStations(const SortieDocument& document) {
    return document.isOpen() && !document.plan().walk.stops.empty();
}
bool hasNoStations(const SortieDocument& document) {
    return !hasStations(document);
}
} // namespace

const std::vector<PageRow>& pageTable() {
    using enum Phase;
    static const std::vector<PageRow> table{
        {"load", "load", {load}, make<LoadPage>},
        {"fuel", "fuel", {load}, make<FuelPage>},
        {"speeds", "speeds", {load}, make<SpeedsPage>},
        {"walk-round", "walk-round", {walkRound}, make<WalkRoundPage>, false, hasStations},
        {"steps", "steps", {walkRound}, make<SettingsPage>, false, hasNoStations},
        {"settings",
         "settings",
         {start, warmUp, runUp, takeOff, climb, cruise, letDown, landing, stop},
         make<SettingsPage>},
        {"priming", "priming", {start}, make<PrimingPage>},
        {"order", "order", {start}, make<OrderPage>},
        {"engines", "engines", {warmUp}, make<EnginesPage>, true},
        {"sheet", "sheet", {runUp}, make<RunUpPage>},
        {"budget", "ground budget", {warmUp, runUp}, make<BudgetPage>, true},
        {"bands", "by height", {climb}, make<BandsPage>},
        {"chart", "power chart", {takeOff, climb, cruise}, make<PowerChartPage>},
        {"choose", "choose", {cruise}, make<ChooseCruisePage>},
        {"best", "best cruise", {cruise}, make<BestPage>},
        {"tanks", "tanks", {cruise}, make<TanksPage>},
        {"allows", "what the day allows", {takeOff, climb, cruise}, make<AllowsPage>},
        {"cooling", "cooling", {climb, cruise}, make<CoolingPage>, true},
        {"schedule", "schedule", {letDown}, make<SchedulePage>, true},
        {"afterwards", "afterwards", {stop}, make<AfterwardsPage>, true},
        {"levers",
         "levers",
         {walkRound, start, warmUp, runUp, takeOff, climb, cruise, letDown, landing, stop},
         make<LeversPage>},
    };
    return table;
}

const PageRow& pageRow(std::string_view key) {
    return *std::find_if(pageTable().begin(), pageTable().end(), [&](const PageRow& row) { return row.key == key; });
}

std::vector<const PageRow*> pagesOf(Phase phase, const SortieDocument& document) {
    std::vector<const PageRow*> out;
    for (const auto& row : pageTable())
        if (std::find(row.phases.begin(), row.phases.end(), phase) != row.phases.end() &&
            (!row.shown || row.shown(document)))
            out.push_back(&row);
    return out;
}

const PageRow& causePage(Phase phase, const SortieDocument& document) {
    const auto pages = pagesOf(phase, document);
    for (const auto* page : pages)
        if (page->tellsCause)
            return *page;
    return *pages.front();
}

} // namespace amber::app
