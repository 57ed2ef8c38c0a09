// SPDX-License-Identifier: GPL-3.0-or-later
// What leaves the program as JSON and CSV says what the plan says, for every type.
#include "exported.h"
#include "flight/engine_traces.h"
#include "plan/plan.h"
#include "plan/plan_export.h"
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <sstream>

namespace {
using namespace amber;
using plainJson = nlohmann::json;

class Export : public testing::TestWithParam<std::string> {
protected:
    [[nodiscard]] const TypeNotes& notes() const { return loaded.aircraft->notes; }
    const flight::LoadedSortie& loaded = test::loaded(GetParam());
    const plan::Plan& plan = test::exported(GetParam()).plan;
    const plainJson& root = test::exported(GetParam()).root;
};

/// Every number of a document, with where it stands.
void numbers(const plainJson& at, const std::string& path, std::vector<std::pair<std::string, double>>& out) {
    if (at.is_object()) {
        for (const auto& [key, value] : at.items())
            numbers(value, path + "/" + key, out);
    } else if (at.is_array()) {
        for (std::size_t i = 0; i < at.size(); ++i)
            numbers(at[i], path + "/" + std::to_string(i), out);
    } else if (at.is_number()) {
        out.emplace_back(path, at.get<double>());
    }
}

TEST_P(Export, EveryNumberIsFinite) {
    std::vector<std::pair<std::string, double>> all;
    numbers(root, "", all);
    EXPECT_GT(all.size(), 500u);
    for (const auto& [path, value] : all) {
        EXPECT_TRUE(std::isfinite(value)) << path;
    }
}

TEST_P(Export, PhasesAreThePlansWordForWord) {
    ASSERT_EQ(root["phases"].size(), plan.phases.size());
    double clock = 0.0;
    for (std::size_t i = 0; i < plan.phases.size(); ++i) {
        const auto& j = root["phases"][i];
        const auto& p = plan.phases[i];
        EXPECT_EQ(j["phase"], std::string(keyOf(p.phase)));
        EXPECT_EQ(j["headline"], p.headline);
        EXPECT_EQ(j["colour"], std::string(watch::wordOf(p.worst.colour())));
        EXPECT_NEAR(j["start_s"].get<double>(), clock, 1e-6) << "no gap between phases";
        clock += j["duration_s"].get<double>();
        ASSERT_EQ(j["set"].size(), p.set.size());
        for (std::size_t s = 0; s < p.set.size(); ++s) {
            EXPECT_EQ(j["set"][s]["what"], p.set[s].what);
            EXPECT_EQ(j["set"][s]["value"], p.set[s].value);
            EXPECT_EQ(j["set"][s]["origin"], std::string(markOf(p.set[s].origin)));
        }
        ASSERT_EQ(j["expect"].size(), p.expect.size());
        for (std::size_t e = 0; e < p.expect.size(); ++e) {
            EXPECT_EQ(j["expect"][e]["value"], p.expect[e].text);
            EXPECT_NEAR(j["expect"][e]["si"].get<double>(), p.expect[e].value,
                        1e-9 * std::abs(p.expect[e].value) + 1e-9);
            EXPECT_EQ(j["expect"][e]["sentence"], p.expect[e].verdict.sentence());
        }
        EXPECT_EQ(j["clock"].size(), p.clocks.size());
        EXPECT_EQ(j["cautions"].size(), p.cautions.size());
        EXPECT_EQ(j["remarks"].size(), p.remarks.size());
    }
    EXPECT_NEAR(root["total_time_s"].get<double>(), clock, 1e-6);
}

TEST_P(Export, FuelAddsUp) {
    double burnt = 0.0;
    for (const auto& p : root["phases"])
        burnt += p["fuel_l"].get<double>();
    EXPECT_NEAR(burnt, root["fuel"]["at_start_l"].get<double>() - root["fuel"]["at_end_l"].get<double>(), 1e-6);
    EXPECT_NEAR(root["series"].front()["fuel_l"].get<double>(), root["fuel"]["at_start_l"].get<double>(), 1e-6);
    EXPECT_NEAR(root["series"].back()["fuel_l"].get<double>(), root["fuel"]["at_end_l"].get<double>(), 1e-6);
}

TEST_P(Export, SeriesIsTheFlightAndTimeRunsForward) {
    ASSERT_EQ(root["series"].size(), plan.flown.samples.size());
    const char* headOrCoolant = notes().engine.cooling == Cooling::air ? "head_C" : "coolant_C";
    double last = -1.0;
    for (std::size_t i = 0; i < plan.flown.samples.size(); ++i) {
        const auto& j = root["series"][i];
        const auto& m = plan.flown.samples[i];
        EXPECT_GE(j["t_s"].get<double>(), last);
        last = j["t_s"].get<double>();
        EXPECT_NEAR(j[headOrCoolant].get<double>(), m.headOrCoolant() - 273.15, 1e-6);
        EXPECT_NEAR(j["rpm"].get<double>(), m[Gauge::rpm] * 60, 1e-6);
    }
}

TEST_P(Export, EveryEngineHasItsOwnSeries) {
    ASSERT_EQ(root["engines"].size(), notes().engineCount());
    for (const auto& position : notes().positions) {
        ASSERT_TRUE(root["engines"].contains(position.id)) << position.id;
        const auto& points = root["engines"][position.id];
        EXPECT_GT(points.size(), 40u);
        EXPECT_NEAR(points.back()["t_s"].get<double>(), plan.flown.totalTime(), 1e-6);
        double highest = 0.0;
        for (const auto& p : points)
            highest = std::max(highest, p["oil_pressure_kPa"].get<double>());
        EXPECT_GT(highest, 50.0) << "it ran";
        EXPECT_EQ(points.front()["oil_pressure_kPa"].get<double>(), 0.0) << "and did not at first";
    }
}

TEST_P(Export, SheetStepsAndBandsAreThere) {
    const auto& runUp = root["phases"][static_cast<std::size_t>(Phase::runUp)];
    ASSERT_EQ(runUp["sheet"].size(), plan.runUpSheet.lines.size());
    for (std::size_t i = 0; i < plan.runUpSheet.lines.size(); ++i) {
        EXPECT_EQ(runUp["sheet"][i]["want"], plan.runUpSheet.lines[i].want);
        EXPECT_EQ(runUp["sheet"][i]["readings"].size(), plan.runUpSheet.lines[i].cells.size());
    }
    const auto& down = root["phases"][static_cast<std::size_t>(Phase::letDown)];
    EXPECT_EQ(down["steps"].size(), plan.flown.letDown.size());
    EXPECT_LE(down["cooling_K_min"].get<double>(), down["cooling_limit_K_min"].get<double>());
    ASSERT_FALSE(root["climb"]["bands"].empty());
    EXPECT_NEAR(root["climb"]["bands"].back()["t_s"].get<double>() / 60, root["climb"]["minutes"].get<double>(), 1e-6);
    EXPECT_NEAR(root["climb"]["bands"].back()["fuel_l"].get<double>(), root["climb"]["fuel_l"].get<double>(), 1e-6);
    if (notes().engine.gears.size() > 1 && root["climb"].contains("gear_change_m")) {
        const double change = root["climb"]["gear_change_m"];
        for (const auto& b : root["climb"]["bands"])
            if (b["height_m"].get<double>() < change - 1) {
                EXPECT_EQ(b["gear"].get<int>(), 0);
            }
    }
}

TEST_P(Export, CsvHasTheSameValuesAndEveryRowItsColumns) {
    const std::string csv = plan::planCsv(plan);
    std::istringstream lines(csv);
    std::string line;
    std::getline(lines, line);
    EXPECT_EQ(line, "phase,kind,what,value,origin,colour");
    std::size_t rows = 0;
    while (std::getline(lines, line)) {
        // Commas outside quotes.
        int commas = 0;
        bool quoted = false;
        for (const char c : line) {
            quoted = c == '"' ? !quoted : quoted;
            commas += c == ',' && !quoted ? 1 : 0;
        }
        EXPECT_FALSE(quoted) << line;
        EXPECT_EQ(commas, 5) << line;
        ++rows;
    }
    std::size_t wanted = 0;
    for (const auto& p : plan.phases) {
        wanted += p.set.size() + p.expect.size() + p.clocks.size();
        for (const auto& s : p.set) {
            EXPECT_NE(csv.find(plan::csvField(s.value)), std::string::npos) << s.value;
        }
    }
    EXPECT_GE(rows, wanted);
}

INSTANTIATE_TEST_SUITE_P(Fleet, Export, testing::ValuesIn(test::demoNames()),
                         [](const auto& each) { return each.param.substr(0, each.param.find('-')); });

TEST(CsvField, QuotesWhatNeedsIt) {
    EXPECT_EQ(plan::csvField("39 inHg"), "39 inHg");
    EXPECT_EQ(plan::csvField("2,350 rpm"), "\"2,350 rpm\"");
    EXPECT_EQ(plan::csvField("say \"clear\""), "\"say \"\"clear\"\"\"");
    EXPECT_EQ(plan::csvField("two\nlines"), "\"two\nlines\"");
    EXPECT_EQ(plan::csvField(""), "");
}
} // namespace
