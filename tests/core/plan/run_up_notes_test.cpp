// SPDX-License-Identifier: GPL-3.0-or-later
// [run_up_sheet], [warming], [letting_down] and [cooling_down] as they are read: what is taken, and what is refused
// where.
#include "reading/notes_reader.h"
#include "reading/run_up_reader.h"
#include "test_data.h"
#include "units/text.h"

namespace {
using namespace amber;

/// Reads one table of its own with a reader, collecting problems.
template <class Result, class Read>
Result readOnly(const char* table, const std::string& text, Problems& problems, const Read& read) {
    static const std::string file = "t.toml";
    const auto root = document::parse(text, file, problems);
    EXPECT_TRUE(root);
    if (!root)
        return {};
    return read(document::TableReader(*root, table, file, problems, FileFormat::notes));
}
RunUpNotes sheetOf(const std::string& text, Problems& problems, const Cockpit& cockpit = {}) {
    return readOnly<RunUpNotes>("run_up_sheet", text, problems,
                                [&](document::TableReader t) { return notes::readRunUp(std::move(t), cockpit); });
}
WarmUpNotes warmingOf(const std::string& text, Problems& problems) {
    return readOnly<WarmUpNotes>("warming", text, problems,
                                 [](document::TableReader t) { return notes::readWarming(std::move(t)); });
}
LetDownNotes lettingOf(const std::string& text, Problems& problems) {
    return readOnly<LetDownNotes>("letting_down", text, problems,
                                  [](document::TableReader t) { return notes::readLettingDown(std::move(t)); });
}
StopNotes coolingOf(const std::string& text, Problems& problems) {
    return readOnly<StopNotes>("cooling_down", text, problems,
                               [](document::TableReader t) { return notes::readCoolingDown(std::move(t)); });
}
std::string all(const Problems& problems) {
    std::string out;
    for (const auto& p : problems)
        out += p.text() + "\n";
    return out;
}
void expectOnly(const Problems& problems, const std::string& wanted) {
    ASSERT_EQ(problems.size(), 1u) << wanted << "\n" << all(problems);
    EXPECT_NE(problems.front().text().find(wanted), std::string::npos) << problems.front().text();
    EXPECT_GT(problems.front().line, 0) << problems.front().text();
}

const std::string sheet = R"(
high_power_from = 1900
high_power_most = "90 s"
reference_held = "12 s"
[magnetos]
at_boost = "30 inHg"
left = 95
right = 125
difference = 40
least = 5
on_one = "7 s"
clearing_rpm = 1800
clearing_for = "45 s"
[propeller]
at_rpm = 1600
cycles = 2
cycles_in_frost = 5
frost_below = "-3 °C"
falls = "350 to 450 rpm"
feather_falls = "100 to 300 rpm"
manual = true
[blower]
at_rpm = 1700
boost_rises = "1 to 3 inHg"
rpm_falls = "20 to 80 rpm"
oil_pressure_dips = "5 to 20 lbf/in²"
hold = "6 s"
[[item]]
what = "Generator"
kind = "volts"
normal = "26 to 29 V"
min = "24 V"
max = "30 V"
at_rpm = 1400
low = "not cut in"
high = "regulator"
[[item]]
what = "Fuel pressure"
id = "fuel"
kind = "pressure"
per = "tank"
normal = "14 to 16 lbf/in²"
stopper = true
takes = "5 s"
[[item]]
what = "Amperes"
kind = "amperes"
per = "aircraft"
normal = "5 to 60 A"
)";

TEST(RunUpReader, TakesEveryKey) {
    Problems problems;
    const auto n = sheetOf(sheet, problems);
    ASSERT_TRUE(problems.empty()) << all(problems);
    ASSERT_TRUE(n.magnetos && n.propeller && n.blower);
    EXPECT_NEAR(n.magnetos->left.si() * 60, 95, 1e-9);
    EXPECT_NEAR(n.magnetos->right.si() * 60, 125, 1e-9);
    EXPECT_NEAR(n.magnetos->difference->si() * 60, 40, 1e-9);
    EXPECT_NEAR(n.magnetos->least.si() * 60, 5, 1e-9);
    EXPECT_EQ(n.magnetos->onOne.si(), 7);
    EXPECT_EQ(n.magnetos->clearingFor.si(), 45);
    EXPECT_NEAR(n.magnetos->at.boost->si(), 30 * 3386.389, 1);
    EXPECT_NEAR(n.magnetos->clearing.rpm->si(), 30, 1e-9);
    EXPECT_EQ(n.propeller->cycles, 2);
    EXPECT_EQ(*n.propeller->cyclesInFrost, 5);
    EXPECT_NEAR(n.propeller->frostBelow.si(), 270.15, 1e-9);
    EXPECT_TRUE(n.propeller->manual);
    EXPECT_NEAR(*n.propeller->featherFall->normalHigh, 5, 1e-9);
    EXPECT_NEAR(*n.blower->rpmFall->normalLow * 60, 20, 1e-9);
    EXPECT_EQ(n.blower->holdFor.si(), 6);
    EXPECT_FALSE(n.blower->turbo);
    ASSERT_EQ(n.items.size(), 3u);
    EXPECT_EQ(n.items[0].id, "Generator") << "what it is called, where there is no id";
    EXPECT_EQ(n.items[0].unit->symbol, "V");
    EXPECT_EQ(*n.items[0].band.limitLow, 24);
    EXPECT_EQ(n.items[1].per, RunUpPer::tank);
    EXPECT_TRUE(n.items[1].stopper);
    EXPECT_EQ(n.items[1].atPower.si(), 5);
    EXPECT_EQ(n.items[2].per, RunUpPer::aircraft);
    EXPECT_EQ(n.items[2].unit->symbol, "A");
    EXPECT_NEAR(n.highPowerFrom.si() * 60, 1900, 1e-9);
    EXPECT_EQ(n.highPowerMost->si(), 90);
    EXPECT_EQ(n.reference.si(), 12);
}

TEST(RunUpReader, UsesTheCockpitsUnits) {
    Problems problems;
    Cockpit c;
    c.temperature = units::fahrenheit.spec;
    c.pressure = findUnit(Dimension::pressure, "kgf/cm²");
    const auto n = sheetOf("[[item]]\nwhat = \"Rise\"\nkind = \"temperature difference\"\nnormal = \"20 to 60 °F\"\n"
                           "[[item]]\nwhat = \"Air\"\nkind = \"pressure\"\nnormal = \"30 to 50 kgf/cm²\"\n",
                           problems, c);
    EXPECT_TRUE(problems.empty()) << all(problems);
    EXPECT_EQ(n.items[0].unit->symbol, "°F");
    EXPECT_EQ(n.items[1].unit->symbol, "kgf/cm²");
    EXPECT_NEAR(*n.items[0].band.normalHigh, 60 * 5.0 / 9, 1e-9);
}

struct Slip {
    const char *from, *to, *told;
};
class RunUpSlips : public testing::TestWithParam<Slip> {};
TEST_P(RunUpSlips, AreToldWithTheirLine) {
    const auto& [from, to, told] = GetParam();
    Problems problems;
    sheetOf(test::replaced(sheet, from, to), problems);
    expectOnly(problems, told);
}
INSTANTIATE_TEST_SUITE_P(
    All, RunUpSlips,
    testing::Values(Slip{"at_boost = \"30 inHg\"", "at_boost = \"30 inHg\"\nat_rpm = 2000", "more than one thing"},
                    Slip{"left = 95", "left = 9500", "out of range"},
                    Slip{"least = 5", "least = 99", "more than the most"},
                    Slip{"on_one = \"7 s\"", "on_one = \"7 h\"", "out of range"},
                    Slip{"on_one = \"7 s\"", "on_won = \"7 s\"", "on_won is not a key"},
                    Slip{"cycles = 2", "cycles = 200", "cycles"},
                    Slip{"falls = \"350 to 450 rpm\"", "falls = \"350 to 450 °C\"", "falls"},
                    Slip{"falls = \"350 to 450 rpm\"", "falls = \"450\"", "falls"},
                    Slip{"kind = \"volts\"\nnormal = \"26 to 29 V\"\nmin = \"24 V\"\nmax = \"30 V\"",
                         "kind = \"volt\"\nnormal = \"26 to 29 hPa\"", "kind"},
                    Slip{"normal = \"26 to 29 V\"", "", "no normal range"},
                    Slip{"what = \"Amperes\"", "what = \"Amperes\"\nid = \"fuel\"", "twice"},
                    Slip{"per = \"tank\"", "per = \"wing\"", "per"},
                    Slip{"takes = \"5 s\"", "takes = \"5 lb\"", "takes"},
                    Slip{"high_power_most = \"90 s\"", "high_power_most = \"0 s\"", "out of range"},
                    Slip{"stopper = true", "stopper = \"yes\"", "stopper"}));

TEST(RunUpReader, MagnetosNeedALimit) {
    Problems problems;
    sheetOf("[magnetos]\nat_rpm = 1800\nright = 90\n", problems);
    expectOnly(problems, "no most fall");
}

const std::string warming = R"(
oil_run_up = "40 °C"
oil_take_off = "45 °C"
metal_run_up = "100 °C"
metal_take_off = "110 °C"
taxi = 6
taxi_rpm = 1000
least_rpm = 750
on_water = true
[[step]]
oil = "-60 °C"
rpm = 800
[[step]]
oil = "12 °C"
rpm = 1000
)";

TEST(WarmingReader, TakesEveryKey) {
    Problems problems;
    const auto w = warmingOf(warming, problems);
    ASSERT_TRUE(problems.empty()) << all(problems);
    EXPECT_EQ(w.taxi.si(), 360);
    EXPECT_NEAR(w.leastRpm->si() * 60, 750, 1e-9);
    EXPECT_TRUE(w.onWater);
    EXPECT_LT(w.taxiSpeed.si(), 4) << "slower on the water";
    ASSERT_EQ(w.steps.size(), 2u);
    EXPECT_NEAR(w.steps[1].first.si(), 285.15, 1e-9);
    EXPECT_NEAR(w.steps[1].second.si() * 60, 1000, 1e-9);
}

class WarmingSlips : public testing::TestWithParam<Slip> {};
TEST_P(WarmingSlips, AreToldWithTheirLine) {
    const auto& [from, to, told] = GetParam();
    Problems problems;
    warmingOf(test::replaced(warming, from, to), problems);
    expectOnly(problems, told);
}
INSTANTIATE_TEST_SUITE_P(All, WarmingSlips,
                         testing::Values(Slip{"oil = \"12 °C\"", "oil = \"-70 °C\"", "do not rise"},
                                         Slip{"\nrpm = 1000\n", "\nrpm = 700\n", "do not rise"},
                                         Slip{"rpm = 800", "rpm = 80", "out of range"},
                                         Slip{"on_water = true", "taxi_speed = \"90 kt\"", "out of range"},
                                         Slip{"oil_run_up = \"40 °C\"", "", "oil_run_up"},
                                         Slip{"taxi_rpm = 1000", "taxi_rpm = \"fast\"", "taxi_rpm"}));

TEST(LettingDownReader, TakesEveryKeyAndRefusesNonsense) {
    Problems problems;
    const auto l = lettingOf("cooling_per_minute = \"36 °F\"\nclear_every = 5\nclear_for = \"8 s\"\n"
                             "clear_boost = \"28 inHg\"\n",
                             problems);
    ASSERT_TRUE(problems.empty()) << all(problems);
    EXPECT_NEAR(l.coolingPerMinute->si(), 20, 1e-9);
    EXPECT_EQ(l.clearEvery->si(), 300);
    EXPECT_EQ(l.clearFor.si(), 8);
    Problems bad;
    EXPECT_FALSE(lettingOf("cooling_per_minute = \"0.1 °C\"\n", bad).coolingPerMinute) << "not taken";
    expectOnly(bad, "out of range");
}

TEST(CoolingDownReader, TakesEveryKeyAndRefusesATableThatRises) {
    const std::string text = "below = \"180 °C\"\nscavenge = \"30 s\"\nscavenge_rpm = 1300\nparking = \"fine\"\n"
                             "dilute_under = \"50 °C\"\n[[dilution]]\nat = \"-30 °C\"\nminutes = 6\n[[dilution]]\n"
                             "at = \"-5 °C\"\nminutes = 2\n";
    Problems problems;
    const auto s = coolingOf(text, problems);
    ASSERT_TRUE(problems.empty()) << all(problems);
    EXPECT_EQ(s.parking, "fine");
    ASSERT_EQ(s.dilution.size(), 2u);
    EXPECT_EQ(s.dilution[0].second.si(), 360);
    Problems rises, order;
    coolingOf(test::replaced(text, "minutes = 2", "minutes = 9"), rises);
    expectOnly(rises, "more to a warmer night");
    coolingOf(test::replaced(text, "at = \"-5 °C\"", "at = \"-35 °C\""), order);
    expectOnly(order, "warmer night");
}

TEST(Units, VoltsAndAmperesAreRead) {
    EXPECT_NEAR(readQuantity(Dimension::voltage, "27.5 V").value().si, 27.5, 1e-12);
    EXPECT_NEAR(readQuantity(Dimension::current, "40 amps").value().si, 40, 1e-12);
    EXPECT_EQ(format(28.04, unitsOf(Dimension::voltage).front()), "28 V");
    EXPECT_FALSE(readQuantity(Dimension::voltage, "27.5 A").ok());
    EXPECT_EQ(nameOf(Dimension::current), "a current");
}
} // namespace
