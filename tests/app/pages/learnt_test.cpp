// SPDX-License-Identifier: GPL-3.0-or-later
// What the log teaches, in the window and on the command line: the season that ships, in which port's heads read more,
// its primer wants more, and both engines burn more.
#include "command_runner.h"
#include "files/document.h"
#include "log/hours_dialog.h"
#include "log/learnt_dialog.h"
#include "log/trials_dialog.h"
#include "record/log_text.h"
#include "settle.h"
#include "shell/main_window.h"
#include "store/log_file.h"
#include "window_fixture.h"
#include <QFile>
#include <QPushButton>

namespace {
using namespace amber;
using namespace amber::app;

/// The demo's files in a folder of their own, and the season in a log there.
class LearntPage : public ::testing::Test {
protected:
    void SetUp() override {
        ASSERT_TRUE(folder_.isValid());
        for (const char* name : {"demo/lorimer-spring.toml", "airframes/hr-k.toml", "notes/lorimer-l4.toml"}) {
            const QString to = folder_.filePath(QString::fromLatin1(name));
            QDir().mkpath(QFileInfo(to).absolutePath());
            ASSERT_TRUE(QFile::copy(QString::fromStdString(test::dataFolder()) + '/' + name, to)) << name;
            QFile::setPermissions(to, QFile::ReadOwner | QFile::WriteOwner);
        }
        sortie_ = folder_.filePath(QStringLiteral("demo/lorimer-spring.toml"));
        airframe_ = folder_.filePath(QStringLiteral("airframes/hr-k.toml"));
        log_ = folder_.filePath(QStringLiteral("log.sqlite"));
        Problems problems;
        const std::string season = test::dataFolder() + "/logs/lorimer-season.json";
        const auto text = document::readFile(season, problems);
        ASSERT_TRUE(text);
        auto log = LogFile::open(log_);
        ASSERT_TRUE(log);
        ASSERT_TRUE(log.value()->merge(record::readLogJson(*text, season, problems)));
        ASSERT_TRUE(problems.empty());
    }
    [[nodiscard]] std::string airframeText() const {
        Problems problems;
        return document::readFile(airframe_.toStdString(), problems).value_or(std::string());
    }
    QTemporaryDir folder_;
    QString sortie_, airframe_, log_;
};
double burnt(const plan::Plan& p) {
    return p.flown.fuelAtStart - p.flown.fuelAtEnd;
}

TEST_F(LearntPage, WhatIsAcceptedIsPlannedWithAtOnceAndAfterUndo) {
    SortieDocument document(folder_.filePath(QStringLiteral("autosave")));
    ASSERT_TRUE(document.load(sortie_).empty());
    auto log = LogFile::open(log_);
    ASSERT_TRUE(log);
    auto runs = log.value()->read({QStringLiteral("HR-K"), {}, Teaching::latestRuns});
    ASSERT_TRUE(runs);
    Sortie warmer = document.sortie();
    warmer.day.oat = Temperature::si(warmer.day.oat.si() + 5.0);
    ASSERT_TRUE(document.edit(warmer, QStringLiteral("warmer")).isEmpty());
    const double before = burnt(document.plan());

    LearntDialog dialog(
        document,
        Teaching(std::move(runs.value()), {document.sortie(), document.sharedAircraft(), {}}, sortie_.toStdString()),
        QStringLiteral("R. Vane"), nullptr);
    dialog.show();
    while (!dialog.isDone()) // its runs are planned one by one
        QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    int fuel = -1, offered = 0;
    for (std::size_t i = 0; i < dialog.lessons().size(); ++i) {
        offered += dialog.lessons()[i].offered() ? 1 : 0;
        if (dialog.lessons()[i].line.what == "fuel")
            fuel = static_cast<int>(i);
    }
    EXPECT_EQ(offered, 3) << "heads and primer of port, fuel of both";
    ASSERT_GE(fuel, 0);
    dialog.list().setCurrentIndex(dialog.list().model()->index(fuel, 0));
    EXPECT_TRUE(dialog.shown(fuel).startsWith(QStringLiteral("Fuel 5 % more"))) << dialog.shown(fuel).toStdString();
    EXPECT_TRUE(dialog.today().contains(QStringLiteral("US gal for"))) << dialog.today().toStdString();
    auto* accept = dialog.findChild<QPushButton*>(QStringLiteral("learnt-accept"));
    ASSERT_TRUE(accept->isEnabled());
    accept->click();
    EXPECT_NEAR(burnt(document.plan()) / before, 1.05, 0.006);
    EXPECT_NE(airframeText().find("what = \"fuel\""), std::string::npos);
    EXPECT_NE(airframeText().find("who = \"R. Vane\""), std::string::npos);
    EXPECT_NE(airframeText().find("# An invented airframe"), std::string::npos) << "the rest of the file stands";
    // An answer is no edit: undo takes the weather back and leaves it.
    document.undoStack().undo();
    EXPECT_LT(document.sortie().day.oat.si(), warmer.day.oat.si());
    EXPECT_DOUBLE_EQ(document.plan().burn, document.aircraft().model().burn);
    EXPECT_NEAR(document.plan().burn, 1.05, 0.006);
    document.undoStack().redo();
    EXPECT_NEAR(burnt(document.plan()) / before, 1.05, 0.006);
    // Refused, and everything is as before.
    auto* refuse = dialog.findChild<QPushButton*>(QStringLiteral("learnt-refuse"));
    ASSERT_TRUE(refuse->isEnabled());
    refuse->click();
    EXPECT_NEAR(burnt(document.plan()), before, 1e-9);
    EXPECT_EQ(document.plan().burn, 1.0);
    EXPECT_NE(airframeText().find("answer = \"refused\""), std::string::npos);
    // What is not offered cannot be accepted.
    dialog.list().setCurrentIndex(dialog.list().model()->index(static_cast<int>(dialog.lessons().size()) - 1, 0));
    EXPECT_FALSE(accept->isEnabled());
}

TEST_F(LearntPage, ClosingItEndsThePlanning) {
    SortieDocument document(folder_.filePath(QStringLiteral("autosave")));
    ASSERT_TRUE(document.load(sortie_).empty());
    auto log = LogFile::open(log_);
    auto runs = log.value()->read({QStringLiteral("HR-K"), {}, Teaching::latestRuns});
    ASSERT_TRUE(runs);
    auto* dialog = new LearntDialog(
        document,
        Teaching(std::move(runs.value()), {document.sortie(), document.sharedAircraft(), {}}, sortie_.toStdString()),
        {}, nullptr);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    bool gone = false;
    QObject::connect(dialog, &QObject::destroyed, [&] { gone = true; });
    dialog->show();
    EXPECT_FALSE(dialog->isDone());
    dialog->close();
    test::settle();
    EXPECT_TRUE(gone);
}

TEST_F(LearntPage, TheCommandOffersAcceptsAndRefuses) {
    const QStringList asked{QStringLiteral("learn"), sortie_, QStringLiteral("--log"), log_};
    const auto offered = test::run(asked);
    EXPECT_EQ(offered.code, 0);
    EXPECT_TRUE(offered.out.contains("Port: Head temp. reads 6 °C more than the model")) << offered.out.toStdString();
    EXPECT_TRUE(offered.out.contains("a trend, for an engineer")) << "starboard's clogging cooler is not learnt";
    const std::string untouched = airframeText();
    const auto wrong = test::run(asked + QStringList{QStringLiteral("--accept"), QStringLiteral("oil/2")});
    EXPECT_EQ(wrong.code, 2);
    EXPECT_TRUE(wrong.err.contains("cannot be accepted: It changes from run to run")) << wrong.err.toStdString();
    EXPECT_EQ(test::run(asked + QStringList{QStringLiteral("--accept"), QStringLiteral("paint")}).code, 2);
    EXPECT_EQ(airframeText(), untouched);
    const auto all = test::run(asked + QStringList{QStringLiteral("--accept"), QStringLiteral("all")});
    EXPECT_EQ(all.code, 0) << all.err.toStdString();
    EXPECT_TRUE(test::run({QStringLiteral("plan"), sortie_}).out.contains("Planned with what the log has taught"));
    const auto json = test::run(asked + QStringList{QStringLiteral("--json")});
    EXPECT_TRUE(json.out.contains("\"answer\": \"planned with since")) << json.out.toStdString();
    EXPECT_EQ(test::run(asked + QStringList{QStringLiteral("--refuse"), QStringLiteral("head/1")}).code, 0);
    EXPECT_NE(airframeText().find("answer = \"refused\""), std::string::npos);
}

TEST_F(LearntPage, WithoutAnAirframesFileThereIsNoPlaceForAnAnswer) {
    QFile file(sortie_);
    ASSERT_TRUE(file.open(QIODevice::ReadWrite));
    QByteArray text = file.readAll();
    ASSERT_TRUE(text.contains("file = "));
    const auto from = text.indexOf("file = "), to = text.indexOf('\n', from);
    text.replace(from, to - from, "notes = \"../notes/lorimer-l4.toml\"\nvariant = \"B\"\nregistration = \"HR-K\"");
    file.resize(0);
    file.seek(0);
    file.write(text);
    file.close();
    const auto refused = test::run({QStringLiteral("learn"), sortie_, QStringLiteral("--log"), log_,
                                    QStringLiteral("--accept"), QStringLiteral("all")});
    EXPECT_EQ(refused.code, 3);
    EXPECT_TRUE(refused.err.contains("airframe's own file")) << refused.err.toStdString();
}

TEST_F(LearntPage, HoursAreTheSameInTheWindowAndOnTheCommandLine) {
    const auto text = test::run({QStringLiteral("hours"), sortie_, QStringLiteral("--on"), QStringLiteral("2026-12-01"),
                                 QStringLiteral("--log"), log_});
    EXPECT_EQ(text.code, 0) << text.err.toStdString();
    const auto json = test::run({QStringLiteral("hours"), sortie_, QStringLiteral("--on"), QStringLiteral("2026-12-01"),
                                 QStringLiteral("--log"), log_, QStringLiteral("--json")})
                          .json();
    ASSERT_FALSE(json.is_discarded());
    ASSERT_EQ(json["engines"].size(), 2u);
    const auto& port = json["engines"][0];
    EXPECT_EQ(port["starts"], 36);
    EXPECT_NEAR(port["since_new_h"].get<double>(), 612.0 + port["logged_h"].get<double>(), 1e-9);
    EXPECT_NEAR(port["since_overhaul_h"].get<double>(), 112.0 + port["logged_h"].get<double>(), 1e-9);
    EXPECT_GT(port["logged_h"].get<double>(), 40.0);
    SortieDocument document(folder_.filePath(QStringLiteral("autosave")));
    ASSERT_TRUE(document.load(sortie_).empty());
    auto log = LogFile::open(log_);
    const auto runs = log.value()->read({QStringLiteral("HR-K"), {}, 0});
    ASSERT_TRUE(runs);
    const HoursDialog dialog(QStringLiteral("HR-K"),
                             record::hoursOf(runs.value(), "HR-K", document.aircraft().notes,
                                             document.sortie().airframe.facts.get(),
                                             *record::timeFrom("2026-11-29 12:00")),
                             document.aircraft().notes, nullptr);
    for (const auto& line : text.out.split('\n'))
        if (line.startsWith("Since new"))
            for (const auto& figure : {line.mid(22, 22).trimmed(), line.mid(44, 22).trimmed()})
                EXPECT_TRUE(dialog.shown().contains(QString::fromUtf8(figure))) << figure.toStdString();
    EXPECT_TRUE(dialog.shown().contains(QStringLiteral("oil screens"))) << dialog.shown().toStdString();
}

TEST_F(LearntPage, ATrialIsMarkedOnTheCommandLineAndComparedInBoth) {
    const auto none = test::run({QStringLiteral("trial"), sortie_, QStringLiteral("--log"), log_});
    EXPECT_EQ(none.code, 0);
    EXPECT_TRUE(none.out.contains("No run of HR-K is marked with a trial")) << none.out.toStdString();
    // Of starboard's clogging cooler: the last runs against those before.
    auto log = LogFile::open(log_);
    const auto runs = log.value()->runs(QStringLiteral("HR-K"), 100);
    ASSERT_TRUE(runs);
    ASSERT_EQ(runs.value().size(), 36u);
    for (std::size_t i = 0; i < 12; ++i) // the newest first
        ASSERT_EQ(test::run({QStringLiteral("log"), QStringLiteral("add"), QStringLiteral("--log"), log_,
                             QStringLiteral("--run"), QString::fromStdString(runs.value()[i].id),
                             QStringLiteral("--phase"), QStringLiteral("write-up"), QStringLiteral("--what"),
                             QStringLiteral("trial"), QStringLiteral("--words"), QStringLiteral("new oil")})
                      .code,
                  0);
    const auto told = test::run({QStringLiteral("trial"), sortie_, QStringLiteral("--log"), log_});
    EXPECT_TRUE(told.out.contains("new oil: with it (12 runs) against without it (")) << told.out.toStdString();
    // Its cooler clogs meanwhile: a trend is not taken for the trial, whose runs are all the later ones.
    EXPECT_FALSE(told.out.contains("* Oil temp., Climb, Starboard")) << told.out.toStdString();
    EXPECT_TRUE(told.out.contains("Oil temp., Climb, Starboard: not told apart from its trend"));
    EXPECT_TRUE(told.out.contains("do not take turns"));
    EXPECT_FALSE(told.out.contains("* Oil temp., Climb, Port")) << told.out.toStdString();
    SortieDocument document(folder_.filePath(QStringLiteral("autosave")));
    ASSERT_TRUE(document.load(sortie_).empty());
    const auto all = log.value()->read({QStringLiteral("HR-K"), {}, 0});
    ASSERT_TRUE(all);
    const TrialsDialog dialog(QStringLiteral("HR-K"), record::trialsOf(all.value(), "HR-K", document.aircraft().notes),
                              nullptr);
    for (const auto& line : told.out.split('\n'))
        if (line.startsWith("  * "))
            EXPECT_TRUE(dialog.shown().contains(QString::fromUtf8(line.mid(4)))) << line.toStdString();
}

} // namespace
