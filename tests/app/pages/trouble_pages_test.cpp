// SPDX-License-Identifier: GPL-3.0-or-later
// Trouble, driven as a pilot drives it: one key there, Escape back, the act at once, the same figures as the command.
#include "charts/trouble_chart.h"
#include "command_runner.h"
#include "kit/inline_field.h"
#include "pages/symptoms_page.h"
#include "thorough.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QPushButton>
#include <QToolButton>
#include <nlohmann/json.hpp>

namespace {
using namespace amber;
using test::command;
using test::KeptWindow;

class TroublePages : public KeptWindow {
protected:
    app::TroubleFrame& trouble() const { return window->trouble(); }
    void key(Qt::Key k, Qt::KeyboardModifiers with = {}) const {
        QWidget* at = QApplication::focusWidget();
        QTest::keyClick(at ? at : static_cast<QWidget*>(window.get()), k, with);
        test::settle();
    }
    template <class W>
    W& in(const char* name) const {
        auto* found = trouble().page().findChild<W*>(QLatin1String(name));
        if (!found)
            throw std::runtime_error(name);
        return *found;
    }
    app::DrillView& drill(const char* name = "drill") const { return in<app::DrillView>(name); }
    QString shown() const {
        trouble().reckonNow();
        QString all = in<app::FiguresView>("trouble-figures").text();
        if (const auto* more = trouble().page().findChild<app::FiguresView*>(QStringLiteral("more-figures")))
            all += QLatin1Char('\n') + more->text();
        return all;
    }
    std::string demoFile(const char* demo) const { return dataFolder() + "/demo/" + demo + ".toml"; }
    static std::string dataFolder() { return test::dataFolder(); }
};

TEST_F(TroublePages, OneKeyOpensItInEveryPhaseAndEscapeReturnsExactly) {
    int other = 0; // pages of a phase beside its first
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const Phase phase = phaseNames[i].phase;
        for (const auto* row : app::pagesOf(phase, document())) {
            if (!test::thorough() && row != app::pagesOf(phase, document()).front() && ++other % 2 == 0)
                continue;
            window->showPhase(phase);
            window->page().showPage(row->key);
            test::settle();
            // Something of the page has the focus, where it has anything that takes it.
            for (auto* w : window->page().page().findChildren<QWidget*>())
                if (w->isVisible() && w->focusPolicy() & Qt::TabFocus && w->isEnabled()) {
                    w->setFocus();
                    break;
                }
            QWidget* before = QApplication::focusWidget();
            const auto where = std::string(keyOf(phase)) + " " + std::string(row->key);
            window->openTrouble();
            ASSERT_TRUE(window->inTrouble()) << where;
            EXPECT_EQ(QApplication::focusWidget(), trouble().page().first()) << where << ": the first act";
            QTest::keyClick(QApplication::focusWidget(), Qt::Key_Escape);
            EXPECT_FALSE(window->inTrouble()) << where;
            EXPECT_EQ(window->page().phase(), phase) << where;
            EXPECT_EQ(window->page().pageKey(), row->key) << where;
            EXPECT_EQ(QApplication::focusWidget(), before) << where;
        }
    }
    // By the key itself, and by the word.
    window->showPhase(Phase::climb);
    test::settle();
    QTest::keyClick(window.get(), Qt::Key_F9);
    EXPECT_TRUE(window->inTrouble());
    QTest::keyClick(window.get(), Qt::Key_F9);
    EXPECT_FALSE(window->inTrouble());
    auto* word = window->findChild<QToolButton*>(QStringLiteral("trouble-word"));
    ASSERT_TRUE(word && word->isVisible());
    QTest::mouseClick(word, Qt::LeftButton);
    EXPECT_TRUE(window->inTrouble());
    EXPECT_TRUE(word->isChecked());
    // A phase of the rail leads out again.
    window->showPhase(Phase::cruise);
    EXPECT_FALSE(window->inTrouble());
    EXPECT_FALSE(word->isChecked());
}

TEST_F(TroublePages, TheDrillStandsBeforeAnythingIsReckoned) {
    open("mercer-frost", Phase::climb);
    window->openTrouble();
    // No event has been handled since: the first act is there, and chosen.
    EXPECT_FALSE(drill().lines().empty());
    EXPECT_TRUE(drill().hasFocus());
    EXPECT_FALSE(drill().lines()[static_cast<std::size_t>(drill().current())].gate);
    EXPECT_TRUE(in<QLabel>("verdict").text().contains(QStringLiteral("…")));
    test::settle();
    EXPECT_FALSE(in<QLabel>("verdict").text().contains(QStringLiteral("…"))) << "the figures come after the frame";
}

TEST_F(TroublePages, TheMomentIsTheOneChosenOnTheScore) {
    open("lorimer-spring", Phase::cruise);
    const double start = document().plan()[Phase::cruise].start;
    document().chooseMoment(start + 900);
    window->openTrouble();
    EXPECT_DOUBLE_EQ(trouble().moment().time, start + 900);
    key(Qt::Key_Right);
    EXPECT_DOUBLE_EQ(trouble().moment().time, start + 960);
    key(Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_DOUBLE_EQ(trouble().moment().time, start + 360);
    // On a window with room for it the score stays, and chooses.
    window->resize(1400, 1100);
    test::settle();
    ASSERT_TRUE(window->score().isVisible());
    const double wanted = document().plan()[Phase::climb].start + 120;
    QTest::mouseClick(&window->score(), Qt::LeftButton, {},
                      QPoint(static_cast<int>(window->score().xOf(wanted)), window->score().height() / 2));
    EXPECT_TRUE(window->inTrouble()) << "it chooses the moment and nothing else";
    EXPECT_NEAR(trouble().moment().time, wanted, 30.0);
    EXPECT_TRUE(window->findChild<QLabel*>(QStringLiteral("trouble-moment"))->text().contains(QStringLiteral("climb")));
    window->resize(1280, 800);
    test::settle();
    EXPECT_FALSE(window->score().isVisible()) << "a drill wants the height";
    key(Qt::Key_Escape);
    EXPECT_TRUE(window->score().isVisible());
}

TEST_F(TroublePages, PageAndCommandTellTheSameFigures) {
    open("lorimer-spring", Phase::climb);
    const double time = document().plan()[Phase::cruise].start + 600;
    const std::string sortie = lorimer().toStdString(), minutes = std::to_string(time / 60) + " min";
    window->openTrouble();
    trouble().setTime(time);
    const auto agree = [&](const char* page, std::vector<std::string> ask, const char* key = "figures") {
        trouble().showPage(page);
        const QString text = shown();
        ask.insert(ask.end(), {"--at", minutes, "--json"});
        const auto ran = command(ask);
        const auto json = ran.json();
        ASSERT_FALSE(json.is_discarded()) << ran.err.toStdString();
        ASSERT_GT(json[key].size(), 2u) << page;
        for (const auto& f : json[key])
            EXPECT_TRUE(text.contains(QString::fromStdString(f["value"])))
                << page << ": " << f["what"] << " " << f["value"];
    };
    agree("engine-fails", {"trouble", "engine-out", sortie});
    agree("dive", {"trouble", "dive", sortie});
    agree("go-round", {"trouble", "go-round", sortie});
    agree("feather", {"trouble", "restart", sortie});
    // And the drill, line by line.
    trouble().showPage("engine-fails");
    const auto json = command({"trouble", "engine-out", sortie, "--at", minutes, "--json"}).json();
    const auto& steps = json["drills"][0]["steps"];
    ASSERT_EQ(steps.size(), drill().lines().size());
    for (std::size_t i = 0; i < steps.size(); ++i) {
        EXPECT_EQ(steps[i]["what"], drill().lines()[i].what);
        EXPECT_EQ(steps[i]["set"], drill().lines()[i].set);
    }
}

TEST_F(TroublePages, AnotherEngineAndTwoOfFourChangeDrillAndFigures) {
    open("mercer-frost", Phase::cruise);
    window->openTrouble();
    const QString one = shown();
    EXPECT_TRUE(drill().text().contains(QStringLiteral("Feathering, No. 1")));
    key(Qt::Key_E);
    EXPECT_TRUE(drill().text().contains(QStringLiteral("Feathering, No. 2")));
    auto* third = window->findChild<QToolButton*>(QStringLiteral("dead-3"));
    ASSERT_NE(third, nullptr);
    QTest::mouseClick(third, Qt::LeftButton);
    EXPECT_EQ(trouble().moment().dead, (std::vector<std::size_t>{1, 2}));
    EXPECT_NE(shown(), one);
    EXPECT_TRUE(drill().text().contains(QStringLiteral("Cowl flaps, No. 1, No. 4"), Qt::CaseInsensitive));
    // The last that is dead cannot be brought to life here.
    QTest::mouseClick(third, Qt::LeftButton);
    auto* second = window->findChild<QToolButton*>(QStringLiteral("dead-2"));
    QTest::mouseClick(second, Qt::LeftButton);
    EXPECT_EQ(trouble().moment().dead, std::vector<std::size_t>{1});
    EXPECT_TRUE(second->isChecked());
}

TEST_F(TroublePages, ActsAreTickedByKeyAndTheClockRunsFromTheFirst) {
    open("farrier-summer", Phase::climb);
    window->openTrouble();
    auto* clock = window->findChild<QLabel*>(QStringLiteral("trouble-clock"));
    EXPECT_TRUE(clock->text().isEmpty());
    const int first = drill().current();
    key(Qt::Key_Space);
    EXPECT_TRUE(drill().isDone(first));
    EXPECT_EQ(drill().current(), first + 1);
    EXPECT_FALSE(clock->text().isEmpty());
    key(Qt::Key_Up);
    key(Qt::Key_Space);
    EXPECT_FALSE(drill().isDone(first)) << "again takes it back";
    // Reasons of the act that is chosen, with whose they are.
    const QString why = in<QLabel>("drill-why").text();
    EXPECT_TRUE(why.contains(QStringLiteral("practice")) || why.contains(QStringLiteral("notes"))) << why.toStdString();
    key(Qt::Key_End);
    EXPECT_EQ(drill().current(), static_cast<int>(drill().lines().size()) - 1);
}

TEST_F(TroublePages, NumbersTurnThePagesAndEachHasItsCautions) {
    for (const char* demo : {"lorimer-spring", "chandler-haven", "tinker-damp"}) {
        open(demo, Phase::cruise);
        window->openTrouble();
        auto* cautions = window->findChild<QLabel*>(QStringLiteral("trouble-cautions"));
        std::set<QString> all;
        for (std::size_t i = 0; i < app::troubleTable().size(); ++i) {
            if (app::troubleTable()[i].key == "few-engines" && window->document().aircraft().notes.positions.size() < 2)
                continue; // one engine has no fewer
            key(static_cast<Qt::Key>(Qt::Key_1 + i));
            EXPECT_EQ(trouble().pageKey(), app::troubleTable()[i].key) << demo;
            EXPECT_TRUE(cautions->isVisible());
            EXPECT_GT(cautions->text().size(), 40) << demo << " " << i;
            all.insert(cautions->text());
        }
        const bool several = window->document().aircraft().notes.positions.size() > 1;
        EXPECT_EQ(all.size(), app::troubleTable().size() - (several ? 0 : 1)) << "each its own";
        key(Qt::Key_Escape);
    }
}

TEST_F(TroublePages, SymptomsAreChosenInCombinationAndLeadToTheDrill) {
    open("lorimer-spring", Phase::cruise);
    window->openTrouble();
    key(Qt::Key_2);
    auto& page = dynamic_cast<app::SymptomsPage&>(trouble().page());
    auto& act = in<QLabel>("first-act");
    EXPECT_TRUE(act.text().contains(QStringLiteral("What do you see")));
    auto& pressure = in<QComboBox>("needle-oil-pressure");
    EXPECT_TRUE(pressure.hasFocus());
    pressure.setCurrentIndex(static_cast<int>(amber::Way::falls) + 1);
    EXPECT_FALSE(page.diagnosis().causes.front().pattern.gauge) << "never a gauge first";
    in<QComboBox>("needle-oil").setCurrentIndex(static_cast<int>(amber::Way::rises) + 1);
    auto& shake = in<QToolButton>("sign-shake");
    shake.setFocus();
    QTest::keyClick(&shake, Qt::Key_Space);
    EXPECT_EQ(page.noticed().size(), 3u);
    EXPECT_EQ(page.diagnosis().causes.front().pattern.key, "bearing");
    EXPECT_TRUE(act.text().contains(QStringLiteral("Ease"))) << "half a chance: nothing that cannot be undone";
    pressure.setCurrentIndex(static_cast<int>(amber::Way::flickers) + 1);
    for (const char* sign : {"sign-smell-of-oil", "sign-rough"})
        QTest::mouseClick(&in<QToolButton>(sign), Qt::LeftButton);
    const auto& cruise = document().plan()[Phase::cruise];
    trouble().setTime(cruise.start + 0.5 * cruise.duration);
    test::settle();
    EXPECT_TRUE(act.text().contains(QStringLiteral("feather"))) << act.text().toStdString();
    EXPECT_TRUE(in<app::FiguresView>("causes").text().contains(QStringLiteral("Bearing failing")));
    // The same as the command.
    const auto json =
        command({"trouble", "symptom", lorimer().toStdString(), "--sign",
                 "oil-pressure flickers, oil rises, shake, smell-of-oil, rough", "--at", "cruise", "--json"})
            .json();
    EXPECT_EQ(json["act"], page.diagnosis().act);
    EXPECT_EQ(json["causes"][0]["cause"], "bearing");
    EXPECT_NEAR(json["causes"][0]["fit"].get<double>(), page.diagnosis().causes.front().fit, 1e-9);
    QTest::mouseClick(&in<QPushButton>("to-drill"), Qt::LeftButton);
    test::settle();
    EXPECT_EQ(trouble().pageKey(), "feather");
    key(Qt::Key_2);
    EXPECT_EQ(page.noticed().size(), 5u) << "they are kept while it flies";
    QTest::mouseClick(&in<QPushButton>("clear"), Qt::LeftButton);
    EXPECT_TRUE(page.noticed().empty());
}

TEST_F(TroublePages, AHotterDayAndAnotherAircraftAreFollowedAtOnce) {
    open("lorimer-spring", Phase::takeOff);
    window->openTrouble();
    trouble().setTime(document().plan()[Phase::takeOff].start + 60);
    const QString cool = shown();
    Sortie s = document().sortie();
    s.day.oat = Temperature::of(38, units::celsius);
    ASSERT_TRUE(document().edit(s, QStringLiteral("OAT")).isEmpty());
    test::settle();
    const QString hot = shown();
    EXPECT_NE(hot, cool);
    EXPECT_TRUE(hot.contains(QStringLiteral("sinks"))) << "hot and heavy it does not hold it on rated power";
    document().undoStack().undo();
    test::settle();
    EXPECT_EQ(shown(), cool);
    // Another type, while it is open: its drill, its engines, its needles.
    answer = app::MainWindow::Unsaved::discard;
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/ostler-bush.toml"))));
    test::settle();
    EXPECT_TRUE(window->inTrouble());
    EXPECT_NE(window->findChild<QToolButton*>(QStringLiteral("dead-C")), nullptr) << "engines of the type that is open";
    trouble().showPage("symptoms");
    test::settle();
    EXPECT_EQ(trouble().page().findChild<QComboBox*>(QStringLiteral("needle-coolant")), nullptr);
    window->setTheme(app::ThemeKind::hangar);
    test::settle();
    trouble().reckonNow();
    EXPECT_TRUE(window->inTrouble());
}

TEST(TroubleCommand, AnswersInTextAndSaysWhatIsWrong) {
    const std::string lorimer = test::dataFolder() + "/demo/lorimer-spring.toml";
    const auto out = command({"trouble", "engine-out", lorimer, "--engine", "2", "--at", "cruise"});
    EXPECT_TRUE(out.out.contains("Feathering, Starboard"));
    EXPECT_TRUE(out.out.contains("Drift-down"));
    EXPECT_TRUE(out.out.contains("Lost with it"));
    EXPECT_TRUE(out.out.contains("approved manual"));
    EXPECT_EQ(out.code, 1) << "at 14,000 ft on one engine: red";
    EXPECT_EQ(command({"trouble", "engine-out", lorimer, "--engine", "2", "--at", "take-off"}).code, 0);
    for (const char* what : {"feather", "restart", "dive", "go-round", "fire"}) {
        const auto ran = command({"trouble", what, lorimer, "--at", "cruise"});
        EXPECT_EQ(ran.code, 0) << what << ran.err.toStdString();
        EXPECT_GT(ran.out.count('\n'), 8) << what;
        EXPECT_TRUE(ran.out.contains("!  ")) << what << " has its caution";
        const auto json = command({"trouble", what, lorimer, "--at", "cruise", "--json"}).json();
        ASSERT_FALSE(json.is_discarded()) << what;
        EXPECT_GT(json["drills"].size(), 0u) << what;
    }
    const auto asks = [&](std::vector<std::string> more, const char* says) {
        std::vector<std::string> all{"trouble"};
        all.insert(all.end(), more.begin(), more.end());
        const auto ran = command(all);
        EXPECT_EQ(ran.code, 2) << says;
        EXPECT_TRUE(ran.err.contains(says)) << ran.err.toStdString();
    };
    asks({"engine-out", lorimer, "--engine", "3"}, "has no engine \"3\"; its engines are 1, 2");
    asks({"engine-out", lorimer, "--at", "noon"}, "--at");
    asks({"symptom", lorimer}, "--sign is missing");
    asks({"symptom", lorimer, "--sign", "oil-pressure fals"}, "did you mean");
    asks({"dive", lorimer, "--to", "low"}, "--to");
    EXPECT_TRUE(command({"trouble", "symptom", lorimer, "--sign", "list"}).out.contains("oil-pressure falls-fast"));
}

} // namespace
