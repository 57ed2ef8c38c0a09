// SPDX-License-Identifier: GPL-3.0-or-later
// Heat pages, the run-up sheet and the commands behind them, driven as a pilot drives them.
#include "command_runner.h"
#include "store/data_folder.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

namespace {
using namespace amber;
using test::command;
using test::KeptWindow;
using test::notesOf;

class HeatPages : public KeptWindow {
protected:
    app::RunUpPage& sheet() { return pageAs<app::RunUpPage>(); }
    /// Types into the sheet at a line and engine, as with the keyboard.
    void type(const char* line, int engine, const QString& text) {
        auto& table = sheet().table();
        auto& model = sheet().model();
        for (int r = 0; r < model.rowCount(); ++r)
            if (model.line(r)->id == line) {
                const auto index = model.index(r, app::RunUpModel::firstEngine + engine);
                table.setCurrentIndex(index);
                table.setFocus();
                table.edit(index);
                auto* editor = table.viewport()->findChild<QLineEdit*>();
                ASSERT_NE(editor, nullptr) << line;
                editor->setText(text);
                QTest::keyClick(editor, Qt::Key_Return);
                // It commits when it has seen the key, and the table moves on when it has closed.
                test::settle();
                for (int i = 0; i < 4; ++i)
                    QApplication::processEvents();
                return;
            }
        FAIL() << "no line " << line;
    }
    QModelIndex at(const char* line, int engine) {
        auto& model = sheet().model();
        for (int r = 0; r < model.rowCount(); ++r)
            if (model.line(r)->id == line)
                return model.index(r, app::RunUpModel::firstEngine + engine);
        return {};
    }
};

TEST_F(HeatPages, ASickEngineIsToldWithItsCauseAndUndone) {
    open("lorimer-spring", Phase::runUp, "sheet");
    EXPECT_TRUE(sheet().isVisible());
    type("left", 0, QStringLiteral("60"));
    type("right", 0, QStringLiteral("130 slow"));
    EXPECT_EQ(sheet().model().cell(at("magnetos", 0))->shown, "clear it");
    EXPECT_EQ(window->document().plan()[Phase::runUp].worst.colour(), watch::Colour::red);
    sheet().table().setCurrentIndex(at("magnetos", 0));
    EXPECT_TRUE(sheet().verdict().contains(QStringLiteral("oiled or leaded plugs"))) << sheet().verdict().toStdString();
    EXPECT_TRUE(sheet().verdict().contains(QStringLiteral("Clear it")));
    EXPECT_TRUE(sheet().findings().contains(QStringLiteral("Port")));
    type("cleared", 0, QStringLiteral("1"));
    type("right", 0, QStringLiteral("80"));
    EXPECT_EQ(sheet().model().cell(at("magnetos", 0))->shown, "within limits");
    EXPECT_EQ(sheet().model().cell(at("apart", 0))->shown, "20 rpm");
    EXPECT_LT(window->document().plan()[Phase::runUp].worst.colour(), watch::Colour::red)
        << "only the day's ice is amber";
    window->document().undoStack().undo();
    EXPECT_EQ(sheet().model().cell(at("right", 0))->shown, "130 rpm, slow");
}

TEST_F(HeatPages, BadReadingsAreRefusedAndDeleteTakesOut) {
    open("lorimer-spring", Phase::runUp, "sheet");
    QString why;
    QObject::connect(&window->page(), &app::PhasePage::refused, window.get(), [&](const QString& w) { why = w; });
    type("left", 1, QStringLiteral("eighty"));
    EXPECT_FALSE(why.isEmpty());
    EXPECT_TRUE(sheet().model().cell(at("left", 1))->shown.empty());
    type("left", 1, QStringLiteral("55"));
    EXPECT_EQ(sheet().model().cell(at("left", 1))->shown, "55 rpm");
    sheet().table().setCurrentIndex(at("left", 1));
    QTest::keyClick(&sheet().table(), Qt::Key_Delete);
    EXPECT_TRUE(sheet().model().cell(at("left", 1))->shown.empty());
    EXPECT_FALSE(sheet().model().flags(at("magnetos", 1)).testFlag(Qt::ItemIsEditable)) << "worked out, not typed";
}

TEST_F(HeatPages, EnginesWarmEachFromItsOwnStart) {
    open("mercer-frost", Phase::warmUp, "engines");
    const QString text = figures();
    EXPECT_TRUE(text.contains(QStringLiteral("slowest")));
    for (const char* engine : {"No. 1", "No. 2", "No. 3", "No. 4"}) {
        EXPECT_TRUE(text.contains(QLatin1String(engine))) << engine;
    }
    EXPECT_TRUE(on<app::HeatChart>().title().contains(QStringLiteral("first fire")));
    // Not diluted it warms otherwise: the page follows.
    auto* oil = window->page().findChild<QComboBox*>(QStringLiteral("diluted"));
    ASSERT_TRUE(oil->isVisible());
    oil->setCurrentIndex(0);
    emit oil->activated(0);
    EXPECT_NE(figures(), text);
}

TEST_F(HeatPages, TheGroundBudgetCountsDown) {
    open("farrier-summer", Phase::runUp, "budget");
    auto& view = on<app::GroundBudgetView>();
    ASSERT_TRUE(view.isVisible());
    ASSERT_GT(view.budget().runs.size(), 4u);
    const double left = *view.budget().runs.front().toAmber;
    EXPECT_EQ(view.clockText(0), QString::fromStdString(formatMinutesSeconds(left)) + QStringLiteral(" to amber"));
    ASSERT_GT(left, 10);
    EXPECT_EQ(view.clockText(5), QString::fromStdString(formatMinutesSeconds(left - 5)) + QStringLiteral(" to amber"));
    EXPECT_FALSE(view.clockText(left + 1).contains(QStringLiteral("to amber")));
    view.setFocus();
    QTest::keyClick(&view, Qt::Key_Space);
    EXPECT_TRUE(view.clockRuns());
    QTest::keyClick(&view, Qt::Key_Space);
    EXPECT_FALSE(view.clockRuns());
    QTest::keyClick(&view, Qt::Key_Down);
    EXPECT_EQ(view.selected(), 1);
    EXPECT_TRUE(figures().contains(QString::fromStdString(view.budget().runs[1].name)));
    QTest::keyClick(&view, Qt::Key_W);
    EXPECT_EQ(view.from(), advice::GroundFrom::warmUp);
    EXPECT_GT(*view.budget().runs.front().toAmber, left) << "cold, it lasts longer";
}

TEST_F(HeatPages, AWarmStretchOfTheScoreLeadsToItsCause) {
    open("farrier-summer", Phase::landing, "settings");
    auto* score = window->findChild<app::Score*>();
    Sortie hot = window->document().sortie();
    hot.day.oat = Temperature::si(hot.day.oat.si() + 8.0);
    ASSERT_TRUE(window->document().edit(hot, QStringLiteral("hotter")).isEmpty());
    const auto& f = window->document().plan().flown;
    const auto& notes = window->document().aircraft().notes;
    for (const auto& m : f.samples)
        if (m.phase == Phase::climb && m[Gauge::rpm] > 0 && m.time > f[Phase::climb].start + 25 &&
            watch::colourOf(notes.gauges.at(Gauge::coolantTemperature).in(Phase::climb), m.headOrCoolant()) !=
                watch::Colour::normal) {
            // The coolant's lane is the fourth of six.
            const double y = 40 + (score->height() - 60) * 3.5 / 6;
            QTest::mouseClick(score, Qt::LeftButton, {},
                              QPoint(static_cast<int>(score->xOf(m.time + 2)), static_cast<int>(y)));
            EXPECT_EQ(window->page().phase(), Phase::climb);
            EXPECT_EQ(window->page().pageKey(), "cooling");
            return;
        }
    FAIL() << "on a hotter day the demo should run warm in the climb";
}

TEST_F(HeatPages, ForecastDecidesTheDilution) {
    open("tanner-winter", Phase::stop, "afterwards");
    EXPECT_TRUE(figures().contains(QStringLiteral("Dilute")));
    Sortie mild = window->document().sortie();
    mild.forecast = Temperature::of(6, units::celsius);
    EXPECT_TRUE(window->document().edit(mild, QStringLiteral("forecast")).isEmpty());
    EXPECT_TRUE(figures().contains(QStringLiteral("the notes begin at")));
}

TEST(HeatCommands, WarmUpGivesEveryEngine) {
    const auto r = command({"warmup", "--notes", notesOf("mercer-m6"), "--temperature", "-5 C", "--json"});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto json = r.json();
    ASSERT_EQ(json["engines"].size(), 4u);
    for (const auto& e : json["engines"]) {
        EXPECT_GT(e["run_up_s"].get<double>(), e["fires_s"].get<double>());
        EXPECT_GE(e["take_off_s"].get<double>(), e["run_up_s"].get<double>());
        EXPECT_GT(e["points"].size(), 10u);
    }
    const auto mild = command({"warmup", "--notes", notesOf("mercer-m6"), "--temperature", "15 C", "--json"}).json();
    EXPECT_LT(mild["minutes_to_run_up"].get<double>(), json["minutes_to_run_up"].get<double>());
    EXPECT_EQ(command({"warmup", "--notes", notesOf("mercer-m6"), "--temperature", "warm"}).code, 2);
    EXPECT_EQ(command({"warmup", "--notes", "/no/such.toml", "--temperature", "5 C"}).code, 1);
    EXPECT_EQ(command({"letdown", "--notes", "/no/such.toml", "--from", "9,000 ft", "--to", "0 ft"}).code, 1);
    EXPECT_EQ(command({"cooldown", "--notes", "/no/such.toml", "--temperature", "200 C", "--oat", "5 C"}).code, 1);
    EXPECT_TRUE(command({"warmup", "--notes", notesOf("lorimer-l4"), "--temperature", "5 C"}).out.contains("slowest"));
}

TEST(HeatCommands, LetDownKeepsItsCoolingRateAndAFasterOneTells) {
    const auto ask = [](const char* rate) {
        return command({"letdown", "--notes", notesOf("lorimer-l4"), "--from", "14,000 ft", "--to", "300 ft", "--rate",
                        rate, "--json"})
            .json();
    };
    const auto slow = ask("500 ft/min"), fast = ask("1,500 ft/min");
    for (const auto& j : {slow, fast}) {
        EXPECT_LE(j["cooling_K_min"].get<double>(), j["cooling_limit_K_min"].get<double>());
    }
    EXPECT_GT(slow["minutes"].get<double>(), fast["minutes"].get<double>());
    EXPECT_EQ(slow["cooling_limit_origin"], "notes");
    EXPECT_EQ(slow["other_rates"].size(), 5u);
    EXPECT_EQ(command({"letdown", "--notes", notesOf("lorimer-l4"), "--from", "400 ft", "--to", "5,000 ft"}).code, 2);
    EXPECT_EQ(command({"letdown", "--notes", notesOf("lorimer-l4"), "--from", "9,000 ft"}).code, 2);
}

TEST(HeatCommands, CoolDownGivesIdleDilutionAndRestarts) {
    const auto j = command({"cooldown", "--notes", notesOf("tanner-tn7"), "--temperature", "105 C", "--oat", "-8 C",
                            "--forecast", "-20 C", "--json"})
                       .json();
    EXPECT_GT(j["idle_s"].get<double>(), 10);
    EXPECT_GT(j["dilution_s"].get<double>(), 180);
    EXPECT_EQ(j["dilution_origin"], "between notes");
    ASSERT_EQ(j["restarts"].size(), 5u);
    EXPECT_LT(j["restarts"][4]["engine_C"].get<double>(), j["restarts"][0]["engine_C"].get<double>());
    const auto hotter =
        command({"cooldown", "--notes", notesOf("tanner-tn7"), "--temperature", "115 C", "--oat", "-8 C", "--json"})
            .json();
    EXPECT_GT(hotter["idle_s"].get<double>(), j["idle_s"].get<double>());
}

TEST(HeatCommands, ThePlanCarriesTheTemperaturesOfEveryEngineAndTheSheet) {
    const auto j = command({"plan", test::dataFolder() + "/demo/ostler-bush.toml", "--json"}).json();
    ASSERT_EQ(j["engines"].size(), 3u);
    for (const auto& [engine, points] : j["engines"].items()) {
        EXPECT_GT(points.size(), 50u) << engine;
    }
    EXPECT_TRUE(j["phases"][4].contains("sheet"));
    EXPECT_TRUE(j["phases"][8].contains("cooling_K_min"));
}
} // namespace
