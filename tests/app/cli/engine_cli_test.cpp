// SPDX-License-Identifier: GPL-3.0-or-later
// The engine on the command line: calibrate, cruise, chart and point, run as a shell would.
#include "command_runner.h"
#include "flight/open_files.h"
#include "plan/plan.h"
#include <QFile>
#include <QImage>
#include <QTemporaryDir>
#include <algorithm>
#include <fstream>
#include <functional>
#include <sstream>

namespace {
using namespace amber;
using test::command;
using test::notesOf;

std::string contents(const std::string& path) {
    std::ifstream in(path);
    std::stringstream all;
    all << in.rdbuf();
    return all.str();
}
void replace(std::string& text, const std::string& what, const std::string& with) {
    const auto at = text.find(what);
    ASSERT_NE(at, std::string::npos) << what;
    text.replace(at, what.size(), with);
}

class EngineCommands : public ::testing::Test {
protected:
    QTemporaryDir scratch;
    std::string path(const char* name) { return scratch.filePath(QLatin1String(name)).toStdString(); }
    std::string copyOf(const char* notes, const std::function<void(std::string&)>& change = {}) {
        std::string text = contents(notesOf(notes));
        if (change)
            change(text);
        const std::string to = path("type.toml");
        std::ofstream(to) << text;
        return to;
    }
};

TEST_F(EngineCommands, StepRunsAScriptAndWritesItsTrace) {
    const std::string sortie = test::dataFolder() + "/demo/lorimer-spring.toml",
                      script = test::dataFolder() + "/scripts/failure-after-take-off.csv";
    const auto r = command({"step", sortie, "--script", script, "--until", "90 s", "--every", "0.5 s"});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    std::istringstream lines(r.out.toStdString());
    std::string header, line, last;
    std::getline(lines, header);
    std::vector<std::string> names;
    for (const auto& name : QString::fromStdString(header).split(','))
        names.push_back(name.toStdString());
    const auto column = [&](const std::string& of, const std::string& name) {
        const auto at = std::find(names.begin(), names.end(), name);
        EXPECT_NE(at, names.end()) << name;
        return QString::fromStdString(of).split(',')[at - names.begin()].toDouble();
    };
    int count = 0;
    while (std::getline(lines, line)) {
        last = line;
        ++count;
        EXPECT_EQ(QString::fromStdString(line).count(','), QString::fromStdString(header).count(','));
    }
    EXPECT_EQ(count, 180);
    EXPECT_NEAR(column(last, "time_s"), 90.0, 1e-9);
    EXPECT_EQ(column(last, "1.rpm"), 0.0) << "feathered";
    EXPECT_NEAR(column(last, "2.rpm"), 2650, 10);
    EXPECT_GT(column(last, "yaw"), 0.5);
    EXPECT_GT(column(last, "height_m"), 150.0) << "it climbs away on one";
    // Into a file; the same bytes.
    const std::string file = path("trace.csv");
    const auto again =
        command({"step", sortie, "--script", script, "--until", "90 s", "--every", "0.5 s", "--csv", file});
    EXPECT_EQ(again.code, 0);
    EXPECT_EQ(contents(file), r.out.toStdString());
    EXPECT_TRUE(again.out.contains("live"));
}

TEST_F(EngineCommands, StepRefusesWhatItCannotRead) {
    const std::string sortie = test::dataFolder() + "/demo/lorimer-spring.toml", script = path("s.csv");
    std::ofstream(script) << "time,engine,what,value\n0,1,cock,perhaps\n0,7,cock,on\n";
    const auto r = command({"step", sortie, "--script", script});
    EXPECT_EQ(r.code, 1);
    EXPECT_TRUE(r.err.contains(":2:")) << r.err.toStdString();
    EXPECT_TRUE(r.err.contains(":3:"));
    EXPECT_TRUE(r.out.isEmpty());
    EXPECT_EQ(command({"step", sortie, "--script", path("none.csv")}).code, 1);
    std::ofstream(script) << "time,engine,what,value\n";
    EXPECT_EQ(command({"step", sortie, "--script", script, "--until", "3 days"}).code, 2);
    EXPECT_EQ(command({"step", sortie, "--script", script, "--seed", "1.5"}).code, 2);
    EXPECT_EQ(command({"step", sortie, "--script", script, "--csv", "/nowhere/at/all.csv"}).code, 3);
}

TEST_F(EngineCommands, CalibrateTellsTheResidualOfEveryLine) {
    for (const char* type : {"lorimer-l4", "collier-c2", "wheelwright-w2", "sexton-s1"}) {
        const auto r = command({"calibrate", "--notes", notesOf(type), "--json"});
        ASSERT_EQ(r.code, 0) << type << r.err.toStdString();
        const auto json = r.json();
        std::size_t lines = 0;
        const auto loaded = flight::loadAircraft(notesOf(type), {});
        for (const auto& rating : loaded.aircraft->notes.ratings)
            lines += rating.lines.size();
        EXPECT_EQ(json["lines"].size(), lines) << type;
        for (const auto& line : json["lines"])
            if (!line["power"].is_null()) {
                EXPECT_LT(std::abs(line["power"].get<double>()), 0.02) << type << line;
            }
        EXPECT_FALSE(json["written"].get<bool>());
        EXPECT_TRUE(json["contradictions"].empty());
        for (const auto& p : json["parameters"])
            EXPECT_EQ(p["settled"].get<bool>(), p["uncertainty_left"].get<double>() < 0.5) << p;
    }
}

TEST_F(EngineCommands, CalibrateWritesTheBlockOnceAndThePlanKeepsItsFigures) {
    const std::string copy = copyOf("lorimer-l4");
    const auto point = [&] {
        return command({"point", "--notes", copy, "--rpm", "2350", "--boost", "39 inHg", "--gear", "low", "--altitude",
                        "0 ft", "--json"})
            .json()["power_kW"]
            .get<double>();
    };
    const double before = point();
    ASSERT_EQ(command({"calibrate", "--notes", copy, "--write"}).code, 0);
    const std::string once = contents(copy);
    EXPECT_NE(once.find("[engine.calibrated]"), std::string::npos);
    EXPECT_NEAR(point(), before, 1e-3 * before);
    const auto told = command({"calibrate", "--notes", copy, "--json"});
    EXPECT_TRUE(told.json()["written"].get<bool>());
    ASSERT_EQ(command({"calibrate", "--notes", copy, "--write"}).code, 0);
    EXPECT_EQ(contents(copy), once) << "a second time changes nothing";
    EXPECT_EQ(command({"check", copy}).code, 0);
}

TEST_F(EngineCommands, ContradictingLinesAreRefusedAndTheFileLeftAsItWas) {
    const std::string copy = copyOf("lorimer-l4", [](std::string& text) { replace(text, "1,230 hp", "1,730 hp"); });
    const std::string before = contents(copy);
    const auto r = command({"calibrate", "--notes", copy, "--write"});
    EXPECT_EQ(r.code, 1);
    EXPECT_TRUE(r.err.contains("nothing was written")) << r.err.toStdString();
    EXPECT_TRUE(r.err.contains("type.toml:") || r.err.contains("line")) << r.err.toStdString();
    EXPECT_EQ(contents(copy), before);
}

TEST_F(EngineCommands, AFileThatCannotBeWrittenIsTold) {
    const auto r = command({"calibrate", "--notes", "/no/such/file.toml", "--write"});
    EXPECT_EQ(r.code, 1);
    EXPECT_TRUE(r.err.contains("/no/such/file.toml"));
}

TEST_F(EngineCommands, CruiseAsksInAnyDirectionAndAnswersWithinLimits) {
    const std::vector<std::pair<const char*, const char*>> asks{{"--power", "600 hp"},
                                                                {"--burn", "110 US gal/h"},
                                                                {"--speed", "180 kt"},
                                                                {"--endurance", "5 h"},
                                                                {"--range", "600 nm"}};
    for (const auto& [option, value] : asks) {
        const auto r =
            command({"cruise", "--notes", notesOf("lorimer-l4"), "--altitude", "9,000 ft", option, value, "--json"});
        ASSERT_EQ(r.code, 0) << option << r.err.toStdString();
        const auto all = r.json()["candidates"];
        ASSERT_FALSE(all.empty()) << option;
        for (const auto& c : all) {
            EXPECT_LE(c["manifold_pressure_kPa"].get<double>(), c["knock_limit_kPa"].get<double>()) << option << c;
            EXPECT_FALSE(c["why"].get<std::string>().empty());
        }
        // The same question to the other command gives the same figure.
        const auto& c = all.front();
        const auto p =
            command({"point", "--notes", notesOf("lorimer-l4"), "--rpm", std::to_string(c["rpm"].get<double>()),
                     "--boost", std::to_string(c["manifold_pressure_kPa"].get<double>()) + " kPa", "--gear",
                     c["gear"].get<std::string>(), "--mixture", c["mixture"].get<std::string>(), "--altitude",
                     "9,000 ft", "--json"})
                .json();
        EXPECT_NEAR(p["power_kW"].get<double>(), c["power_kW"].get<double>(), 0.03 * c["power_kW"].get<double>())
            << option << ": only the ram of the flight is missing";
    }
}

/// Water displaces air: at 15 °C dew point (17 hPa of some 900) two hundredths of it, so as much more boost for the
/// power.
TEST_F(EngineCommands, CruiseTakesTheHumidityAndSaysWhatTheNotesDoNotAllow) {
    const auto ask = [&](const std::vector<std::string>& more) {
        std::vector<std::string> all{
            "cruise", "--notes", notesOf("lorimer-l4"), "--altitude", "3,000 ft", "--oat", "20 °C", "--power",
            "700 hp", "--json"};
        all.insert(all.end(), more.begin(), more.end());
        return command(all);
    };
    const auto dry = ask({}).json()["candidates"], damp = ask({"--dew-point", "15 °C"}).json()["candidates"];
    int looked = 0;
    for (const auto& a : dry)
        for (const auto& b : damp)
            if (a["rpm"] == b["rpm"] && a["gear"] == b["gear"] && a["mixture"] == b["mixture"]) {
                EXPECT_NEAR(b["manifold_pressure_kPa"].get<double>() / a["manifold_pressure_kPa"].get<double>(), 1.017,
                            0.008)
                    << a;
                ++looked;
            }
    EXPECT_GT(looked, 1);
    EXPECT_EQ(ask({"--dew-point", "30 °C"}).code, 2);
    bool beyond = false;
    for (const auto& c : dry) {
        const bool within = c["within_notes"].get<bool>();
        EXPECT_FALSE(beyond && within) << "what the notes allow comes first";
        beyond = beyond || !within;
        if (within && c["mixture"] == "weak") { // economical: 28 inHg
            EXPECT_LE(c["manifold_pressure_kPa"].get<double>(), 28 * 3.38639 + 0.2) << c;
        }
    }
}

TEST_F(EngineCommands, CruiseRefusesTwoQuestionsAndTellsWhenNothingAnswers) {
    const std::vector<std::string> base{"cruise", "--notes", notesOf("lorimer-l4"), "--altitude", "9,000 ft"};
    auto two = base;
    two.insert(two.end(), {"--power", "600 hp", "--speed", "180 kt"});
    EXPECT_EQ(command(two).code, 2);
    EXPECT_EQ(command(base).code, 2) << "and none";
    auto much = base;
    much.insert(much.end(), {"--power", "3,000 hp"});
    const auto r = command(much);
    EXPECT_EQ(r.code, 1);
    EXPECT_TRUE(r.out.contains("more than any permitted setting")) << r.out.toStdString();
    auto wrong = base;
    wrong.insert(wrong.end(), {"--power", "600 kt"});
    EXPECT_EQ(command(wrong).code, 2);
}

TEST_F(EngineCommands, HotterAirGivesLessCruisePower) {
    const auto power = [](const char* oat) {
        return command({"point", "--notes", notesOf("lorimer-l4"), "--rpm", "2100", "--boost", "31 inHg", "--altitude",
                        "6,000 ft", "--oat", oat, "--json"})
            .json()["power_kW"]
            .get<double>();
    };
    EXPECT_GT(power("-5 C"), power("5 C"));
    EXPECT_GT(power("5 C"), power("15 C"));
}

TEST_F(EngineCommands, ChartGivesJsonCsvSvgAndPng) {
    const std::string notes = notesOf("lorimer-l4"), svg = path("c.svg"), png = path("c.png");
    const auto json = command({"chart", "--notes", notes, "--rpm", "2350", "--boost", "39 inHg", "--gear", "low",
                               "--altitude", "3,000 ft", "--oat", "20 C", "--json"});
    ASSERT_EQ(json.code, 0) << json.err.toStdString();
    const auto chart = json.json();
    EXPECT_FALSE(chart["panels"]["sea_level"].empty());
    EXPECT_FALSE(chart["panels"]["constant_boost"].empty());
    EXPECT_FALSE(chart["marks"].empty());
    EXPECT_LT(chart["construction"]["temperature_factor"].get<double>(), 1.0) << "hotter than standard";
    EXPECT_NEAR(chart["construction"]["corrected_kW"].get<double>(), chart["construction"]["power_kW"].get<double>(),
                0.02 * chart["construction"]["power_kW"].get<double>());
    const auto csv = command({"chart", "--notes", notes, "--csv"});
    EXPECT_TRUE(csv.out.startsWith("panel,rpm,gear,boost_kPa,altitude_m,power_kW\n"));
    EXPECT_GT(csv.out.count('\n'), 300);
    ASSERT_EQ(command({"chart", "--notes", notes, "--svg", svg, "--png", png}).code, 0);
    EXPECT_NE(contents(svg).find("<svg"), std::string::npos);
    const QImage image(QString::fromStdString(png));
    EXPECT_GE(image.width(), 1000);
    EXPECT_EQ(command({"chart", "--notes", notes, "--png", "/proc/none/c.png"}).code, 3);
    EXPECT_EQ(command({"chart", "--notes", notes, "--boost", "120 inHg", "--json"}).code, 2);
    EXPECT_EQ(command({"chart", "--notes", notes, "--gear", "third", "--json"}).code, 2);
}

TEST_F(EngineCommands, TheTableOfTheChartAndThePointAgree) {
    const std::string notes = notesOf("collier-c2");
    const auto chart = command({"chart", "--notes", notes, "--json"}).json();
    int compared = 0;
    for (const auto& line : chart["panels"]["sea_level"]) {
        const auto& last = line["points"].back();
        const auto p = command({"point", "--notes", notes, "--rpm", std::to_string(line["rpm"].get<double>()),
                                "--boost", std::to_string(last["boost_kPa"].get<double>() * 0.999) + " kPa", "--gear",
                                line["gear"].get<std::string>(), "--altitude", "0 ft", "--json"})
                           .json();
        EXPECT_NEAR(p["power_kW"].get<double>(), last["power_kW"].get<double>(),
                    0.004 * last["power_kW"].get<double>());
        ++compared;
    }
    EXPECT_GE(compared, 3);
}

TEST_F(EngineCommands, PointSaysWhatTheNotesDoNotAllow) {
    const auto ask = [](std::vector<std::string> more) {
        std::vector<std::string> all{"point", "--notes", notesOf("lorimer-l4"), "--altitude", "1,000 ft"};
        all.insert(all.end(), more.begin(), more.end());
        return command(all);
    };
    const auto within = ask({"--rpm", "2000", "--boost", "30 inHg", "--json"}).json();
    EXPECT_TRUE(within["rating"].is_string());
    EXPECT_TRUE(within["minutes"].is_null());
    EXPECT_TRUE(within["remarks"].empty()) << within["remarks"].dump();
    const auto takeOff = ask({"--rpm", "2650", "--boost", "45 inHg", "--json"}).json();
    EXPECT_EQ(takeOff["rating"], "take-off");
    EXPECT_EQ(takeOff["minutes"], 5);
    const auto beyond = ask({"--rpm", "2700", "--boost", "55 inHg", "--json"}).json();
    EXPECT_TRUE(beyond["rating"].is_null());
    ASSERT_FALSE(beyond["remarks"].empty());
    EXPECT_NE(beyond["remarks"][0].get<std::string>().find("More than any rating"), std::string::npos);
    EXPECT_TRUE(ask({"--rpm", "2700", "--boost", "55 inHg"}).out.contains("More than any rating"));
    EXPECT_TRUE(ask({"--rpm", "2000", "--boost", "30 inHg", "--grade", "95"}).out.contains("Grade 95 is not in the"));
    const auto water = ask({"--rpm", "2650", "--boost", "45 inHg", "--water"});
    EXPECT_EQ(water.code, 2);
    EXPECT_TRUE(water.err.contains("has no water injection"));
    const auto grade = command(
        {"cruise", "--notes", notesOf("lorimer-l4"), "--altitude", "5,000 ft", "--power", "600 hp", "--grade", "best"});
    EXPECT_EQ(grade.code, 2);
    EXPECT_TRUE(grade.err.contains("the notes know")) << grade.err.toStdString();
}

TEST_F(EngineCommands, CheckFindsWhatCalibrateRefuses) {
    const auto path = this->path("l.toml");
    auto text = contents(notesOf("lorimer-l4"));
    const auto at = text.find("\"1,210 hp\"");
    ASSERT_NE(at, std::string::npos);
    const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<long>(at), '\n');
    text.replace(at, 10, "\"1,452 hp\"");
    std::ofstream(path) << text;
    const auto checked = command({"check", path}), calibrated = command({"calibrate", "--notes", path});
    EXPECT_EQ(checked.code, 1);
    EXPECT_EQ(calibrated.code, 1);
    const auto where = path + ":" + std::to_string(line) + ": rating";
    EXPECT_TRUE(checked.out.contains(where.c_str())) << checked.out.toStdString();
    EXPECT_TRUE(calibrated.err.contains(where.c_str())) << calibrated.err.toStdString();
    EXPECT_EQ(checked.out.count('\n'), 1) << "that line alone";
}

TEST_F(EngineCommands, PointTakesGradeHeatHumidityWaterAndStaticRpm) {
    const auto ask = [](std::vector<std::string> more, const char* type = "collier-c2") {
        std::vector<std::string> all{"point",   "--notes", notesOf(type), "--rpm",    "2400",
                                     "--boost", "40 inHg", "--altitude",  "2,000 ft", "--json"};
        all.insert(all.end(), more.begin(), more.end());
        const auto r = command(all);
        EXPECT_EQ(r.code, 0) << r.err.toStdString();
        return r.json();
    };
    const auto plain = ask({});
    ASSERT_TRUE(plain.contains("knock_limit_kPa"));
    const double power = plain["power_kW"], limit = plain["knock_limit_kPa"];
    EXPECT_LT(ask({"--grade", "91/96"})["knock_limit_kPa"].get<double>(), limit);
    const auto heated = ask({"--carburettor-heat", "40 C"});
    EXPECT_LT(heated["power_kW"].get<double>(), power);
    EXPECT_LT(heated["knock_limit_kPa"].get<double>(), limit);
    EXPECT_GT(heated["carburettor_temperature_C"].get<double>(), plain["carburettor_temperature_C"].get<double>());
    EXPECT_LT(ask({"--dew-point", "10 C"})["power_kW"].get<double>(),
              ask({"--dew-point", "-20 C"})["power_kW"].get<double>());
    EXPECT_GT(ask({"--water"})["knock_limit_kPa"].get<double>(), limit);
    EXPECT_GT(ask({"--static"})["static_rpm"].get<double>(), 500);
    EXPECT_LT(ask({"--mixture", "0.06"})["fuel_flow_kg_h"].get<double>(), plain["fuel_flow_kg_h"].get<double>());
    EXPECT_EQ(command({"point", "--notes", notesOf("collier-c2"), "--rpm", "2400", "--altitude", "0 ft", "--dew-point",
                       "40 C"})
                  .code,
              2)
        << "a dew point above the air's temperature";
    EXPECT_EQ(
        command({"point", "--notes", notesOf("collier-c2"), "--rpm", "2400", "--altitude", "0 ft", "--grade", "best"})
            .code,
        2);
}

} // namespace
