// SPDX-License-Identifier: GPL-3.0-or-later
// Load, fuel, speeds, tanks, best cruise and what the day allows, driven as a pilot drives them.
#include "command_runner.h"
#include "kit/inline_field.h"
#include "loading/load_sheet.h"
#include "pages/allows_page.h"
#include "pages/best_page.h"
#include "pages/fuel_page.h"
#include "pages/load_page.h"
#include "pages/speeds_page.h"
#include "pages/tanks_page.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QPushButton>
#include <nlohmann/json.hpp>

namespace {
using namespace amber;
using test::command;
using test::KeptWindow;

class LoadPages : public KeptWindow {
protected:
    [[nodiscard]] const Sortie& sortie() const { return window->document().sortie(); }
    [[nodiscard]] double ramp() const { return window->document().plan().flown.rampWeight / 0.45359237; }
    /// Types into a field by its name and leaves it by Return.
    void put(const char* name, const char* text) {
        ASSERT_NE(field(name), nullptr) << name;
        ASSERT_TRUE(field(name)->isVisible()) << name;
        type(name, QString::fromUtf8(text));
        QTest::keyClick(field(name), Qt::Key_Return);
        test::settle();
        EXPECT_EQ(window->findChild<app::InlineField*>(QLatin1String(name))->error().toStdString(), "") << name;
    }
};

TEST_F(LoadPages, AWeightAtAStationMovesWeightAndBalanceAndIsUndone) {
    open("lorimer-spring", Phase::load, "load");
    const double before = ramp(), arm = window->document().plan().flown.samples.front()[Gauge::balance];
    put("station-3", "1,671.1 lb; gearbox");
    EXPECT_NEAR(ramp() - before, 500, 1e-6);
    EXPECT_GT(window->document().plan().flown.samples.front()[Gauge::balance], arm + 0.04) << "aft cabin, aft";
    EXPECT_TRUE(figures().contains(QStringLiteral("gearbox")));
    window->document().undoStack().undo();
    test::settle();
    EXPECT_NEAR(ramp(), before, 1e-9);
    EXPECT_FALSE(figures().contains(QStringLiteral("gearbox")));
}

TEST_F(LoadPages, WhoSatAtAStationIsNotLostOverWhatIsTypedAndTakenBackInIt) {
    open("lorimer-spring", Phase::load, "load");
    put("station-3", "1,671.1 lb; gearbox");
    const auto id = window->document().aircraft().notes.loading.stations[3].id;
    ASSERT_EQ(sortie().load.names.at(id), "gearbox");
    // Another name begun, and thought better of, key by key.
    type("station-3", QStringLiteral("1,500 lb; cra"));
    EXPECT_EQ(sortie().load.names.at(id), "cra");
    for (int i = 0; i < 5; ++i)
        QTest::keyClick(field("station-3"), Qt::Key_Backspace);
    EXPECT_EQ(field("station-3")->text(), QStringLiteral("1,500 lb"));
    QTest::keyClick(field("station-3"), Qt::Key_Tab);
    test::settle();
    EXPECT_EQ(sortie().load.names.at(id), "gearbox");
    EXPECT_NEAR(sortie().load.stations.at(id).si(), 1500 * 0.45359237, 0.01);
}

TEST_F(LoadPages, TheWeightOfTheDayStripIsTypedOrFollows) {
    open("lorimer-spring", Phase::load, "load");
    put("weight", "26,000");
    EXPECT_NEAR(ramp(), 26000, 1e-6);
    EXPECT_TRUE(sortie().load.weightTyped);
    EXPECT_TRUE(figures().contains(QStringLiteral("is typed"))) << figures().toStdString();
    put("weight", "load");
    EXPECT_FALSE(sortie().load.weightTyped);
    EXPECT_NEAR(ramp(), 27400, 0.5);
}

TEST_F(LoadPages, ACureIsTakenByOneButtonAndHeals) {
    open("wheelwright-windy", Phase::load, "load");
    auto& page = pageAs<app::LoadPage>();
    EXPECT_EQ(window->document().plan()[Phase::load].worst.colour(), watch::Colour::red);
    ASSERT_GE(page.cures().size(), 3u);
    for (std::size_t i = 0; i < page.cures().size(); ++i) {
        auto* button = page.findChild<QPushButton*>(QStringLiteral("cure-%1").arg(i));
        ASSERT_NE(button, nullptr);
        ASSERT_TRUE(button->isVisible());
        QTest::mouseClick(button, Qt::LeftButton);
        test::settle();
        EXPECT_NE(window->document().plan()[Phase::load].worst.colour(), watch::Colour::red) << i;
        EXPECT_TRUE(page.cures().empty());
        window->document().undoStack().undo();
        test::settle();
        ASSERT_GE(page.cures().size(), 3u);
    }
}

TEST_F(LoadPages, WindAlternateAndReserveChangeTheFuelNeeded) {
    open("lorimer-spring", Phase::load, "fuel");
    const auto needed = [this] {
        for (const auto& c : window->document().plan()[Phase::load].clocks)
            if (c.fact.id == "fuel-needed")
                return c.fact.value;
        return 0.0;
    };
    const double still = needed();
    put("wind-aloft", "060/40");
    EXPECT_DOUBLE_EQ(needed(), still) << "without a track no wind is reckoned";
    put("track", "060");
    const double against = needed();
    EXPECT_GT(against, 1.08 * still);
    EXPECT_TRUE(figures().contains(QStringLiteral("against it"))) << figures().toStdString();
    put("alternate", "Tarn Haven 60 nm");
    EXPECT_EQ(sortie().flight.alternate, "Tarn Haven");
    EXPECT_GT(needed(), against);
    put("reserve", "90");
    EXPECT_NEAR(window->document().plan().flown.reserveFuel / window->document().plan().flown.cruiseFuelFlow, 5400,
                1e-6);
    put("track", "060 165 nm, 240 165 nm");
    ASSERT_EQ(sortie().flight.legs.size(), 2u);
    EXPECT_NEAR(sortie().flight.distance.in(units::nauticalMile), 330, 1e-9);
}

TEST_F(LoadPages, TanksOrderAndBadGroundAreThePilots) {
    open("lorimer-spring", Phase::cruise, "tanks");
    EXPECT_TRUE(figures().contains(QStringLiteral("Fuel to Rear")));
    put("tank-order", "front, rear");
    EXPECT_EQ(sortie().fuel.order, (std::vector<std::string>{"front", "rear"}));
    put("bad-ground", "40-60, 110-130");
    ASSERT_EQ(sortie().flight.badGround.size(), 2u);
    EXPECT_NEAR(sortie().flight.badGround[1].first / 1852, 110, 1e-9);
    type("bad-ground", QStringLiteral("60-40"));
    EXPECT_FALSE(window->findChild<app::InlineField*>(QStringLiteral("bad-ground"))->error().isEmpty());
    QTest::keyClick(field("bad-ground"), Qt::Key_Escape);
    test::settle();
    EXPECT_EQ(sortie().flight.badGround.size(), 2u);
}

TEST_F(LoadPages, ALineOfTheBestCruiseIsTakenIntoThePlan) {
    open("lorimer-spring", Phase::cruise, "best");
    auto& page = pageAs<app::BestPage>();
    test::settle();
    ASSERT_GE(page.rows().size(), 4u);
    int miles = -1;
    for (std::size_t i = 0; i < page.rows().size(); ++i)
        if (page.rows()[i].id == "miles")
            miles = static_cast<int>(i);
    ASSERT_GE(miles, 0);
    const auto wanted = page.rows()[static_cast<std::size_t>(miles)].point;
    page.take(miles);
    test::settle();
    const auto& f = window->document().plan().flown;
    EXPECT_NEAR(f[Phase::cruise].setting.rpm.si(), wanted.cruise.setting.rpm.si(), 1e-6);
    EXPECT_NEAR(sortie().flight.cruiseHeight.si(), wanted.height.si(), 1e-6);
    // The plan flies what the picture said: the picture weighs her as in the middle of the cruise, the plan at every
    // moment of it.
    EXPECT_NEAR(f[Phase::cruise].distance / f[Phase::cruise].fuel / wanted.miles, 0.99, 0.015);
}

TEST_F(LoadPages, WhatTheDayAllowsIsTakenAndGivenBack) {
    open("lorimer-spring", Phase::climb, "allows");
    Sortie less = sortie();
    less.flight.climbBoost = ManifoldPressure::of(34, units::manifold::inHg);
    EXPECT_EQ(window->document().edit(less, QStringLiteral("less")), QString());
    test::settle();
    auto& page = pageAs<app::AllowsPage>();
    auto* take = page.findChild<QPushButton*>(QStringLiteral("take"));
    ASSERT_TRUE(take->isVisible());
    QTest::mouseClick(take, Qt::LeftButton);
    test::settle();
    EXPECT_NEAR(window->document().plan().flown[Phase::climb].point.manifoldPressure.in(units::manifold::inHg), 39,
                0.05);
    EXPECT_FALSE(take->isVisible());
    QTest::mouseClick(page.findChild<QPushButton*>(QStringLiteral("back-to-rating")), Qt::LeftButton);
    test::settle();
    EXPECT_FALSE(sortie().flight.climbBoost);
}

TEST_F(LoadPages, TheSpeedsPageReadsTheTablesForTheRunway) {
    open("lorimer-spring", Phase::load, "speeds");
    EXPECT_TRUE(figures().contains(QStringLiteral("Take-off run")));
    put("runway", "240 1,500 ft grass");
    EXPECT_TRUE(sortie().strip.grass);
    EXPECT_NEAR(sortie().strip.length->in(units::foot), 1500, 1e-6);
    EXPECT_TRUE(figures().contains(QStringLiteral("of 1,500 ft of runway"))) << figures().toStdString();
}

TEST(LoadCommands, SayTheSameAsEachOther) {
    const std::string sortie = test::dataFolder() + "/demo/lorimer-spring.toml";
    const auto load = command({"load", sortie, "--json"});
    ASSERT_EQ(load.code, 0) << load.err.toStdString();
    const auto sheet = load.json();
    const auto plan = command({"plan", sortie, "--json"}).json();
    EXPECT_EQ(plan["load"]["moments"], sheet["moments"]);
    EXPECT_NEAR(plan["weight_kg"].get<double>(), sheet["moments"][0]["mass_kg"].get<double>(), 1e-6);
    const auto fuel = command({"fuel", sortie, "--json"}).json();
    EXPECT_EQ(plan["fuel_needed"], fuel);
    const auto tanks = command({"tanks", sortie, "--json"}).json();
    EXPECT_EQ(plan["tanks"], tanks);
    const auto best = command({"best", sortie, "--json"}).json();
    EXPECT_EQ(best["best"][0]["id"], "now");
    EXPECT_EQ(best["allows"].size(), 3u);
    EXPECT_EQ(plan["best"], best);
    const std::string windy = test::dataFolder() + "/demo/wheelwright-windy.toml";
    const auto red = command({"load", windy});
    EXPECT_EQ(red.code, 1);
    EXPECT_TRUE(red.out.contains(QByteArrayLiteral("red: Centre of gravity")));
    EXPECT_TRUE(red.out.contains(QByteArrayLiteral("cure: Burn Rear, then Main")));
    EXPECT_TRUE(command({"fuel", windy, "--distance", "420 mi"}).out.contains(QByteArrayLiteral("required on board")));
    EXPECT_EQ(command({"fuel", windy, "--distance", "-3 mi"}).code, 2);
    EXPECT_TRUE(command({"load", windy, "--csv"}).out.startsWith(QByteArrayLiteral("item,mass_kg")));
    EXPECT_TRUE(command({"tanks", windy, "--csv"}).out.startsWith(QByteArrayLiteral("time_s,main_l,rear_l")));
}

} // namespace
