// SPDX-License-Identifier: GPL-3.0-or-later
// A recorder's file in the window and on the command line: shown before it is kept, kept once, drawn over the plan.
#include "command_runner.h"
#include "record/log_text.h"
#include "window_fixture.h"
#include <QTextStream>
#include <algorithm>

namespace {
using namespace amber;

class RecorderPage : public test::KeptWindow {
protected:
    void SetUp() override {
        KeptWindow::SetUp();
        answer = app::MainWindow::Unsaved::discard;
        forget();
        ASSERT_TRUE(window->openPath(lorimer()));
        asked_ = window->askFile;
        askedTake_ = window->askTake;
        path = scratch.filePath(QStringLiteral("morning.csv"));
        window->askFile = [this](const QString&, const QString&, const QString&, bool) { return path; };
        window->askTake = [this](const QString&, const std::vector<app::ToldLine>& lines) {
            shown.clear();
            for (const auto& line : lines)
                shown << QString::fromStdString(line.name + "|" + line.text);
            return keeps;
        };
    }
    void TearDown() override {
        window->askFile = asked_;
        window->askTake = askedTake_;
        window->closeRecord();
        forget();
        KeptWindow::TearDown();
    }
    void forget() const {
        window->closeRecord();
        window->book().close();
        for (const char* more : {"", "-wal", "-shm"})
            QFile::remove(window->book().path() + QLatin1String(more));
    }
    /// Half an hour: take-off at 10 minutes, starboard's oil over its limit from 20 to 22.
    void write(const char* first = "2026-11-20 10:") const {
        const auto& n = document().aircraft().notes;
        const double limit = n.gauges.at(Gauge::oilTemperature).in(Phase::cruise).limitHigh.value() - 273.15;
        QFile file(path);
        ASSERT_TRUE(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
        QTextStream out(&file);
        out << "UTC,RPM 1,RPM 2,MAP 1 [inHg],MAP 2 [inHg],Oil temp 1 [°C],Oil temp 2 [°C],Alt [ft],Other\n";
        for (int t = 0; t < 1800; ++t) {
            const bool flies = t >= 600;
            const double rpm = t < 30 ? 0 : flies ? (t < 700 ? 2650 : 2100) : 1000, boost = t < 700 && flies ? 45 : 30;
            out << first
                << QStringLiteral("%1:%2").arg(t / 60, 2, 10, QLatin1Char('0')).arg(t % 60, 2, 10, QLatin1Char('0'))
                << ',' << rpm << ',' << rpm << ',' << boost << ',' << boost << ",60,"
                << (t >= 1200 && t < 1320 ? limit + 5.0 : 62.0) << ','
                << (flies ? std::min(6000, 300 + 10 * (t - 600)) : 300) << ",7\n";
        }
    }
    void menu() const {
        for (auto* action : window->findChildren<QAction*>())
            if (action->text().contains(QStringLiteral("recor&der")))
                action->trigger();
        test::settle();
    }
    QString path;
    QStringList shown;
    bool keeps = true;
    decltype(app::MainWindow::askFile) asked_;
    decltype(app::MainWindow::askTake) askedTake_;
};

TEST_F(RecorderPage, ItIsShownBeforeItIsKeptAndThenJudgedAndDrawnOverThePlan) {
    write();
    keeps = false;
    menu();
    const QString all = shown.join(QLatin1Char('\n'));
    EXPECT_TRUE(all.contains(QStringLiteral("Oil temp., Starboard, in °C  (by its name)"))) << all.toStdString();
    EXPECT_TRUE(all.contains(QStringLiteral("Not taken|Other"))) << all.toStdString();
    EXPECT_TRUE(all.contains(QStringLiteral("Take-off power|2026-11-20 10:10:00 UTC, 10:00 into the run")))
        << all.toStdString();
    EXPECT_EQ(window->book().run(), nullptr) << "looking keeps nothing";
    keeps = true;
    menu();
    ASSERT_NE(window->book().run(), nullptr) << window->message().toStdString();
    EXPECT_EQ(record::timeText(window->book().run()->began), "2026-11-20 10:00:00") << "the run began with it";
    EXPECT_TRUE(window->book().writeUp().holds());
    EXPECT_NE(window->book().held().sentence().find("Starboard: Oil temp."), std::string::npos)
        << window->book().held().sentence();
    EXPECT_TRUE(window->score().showsRecorded());
    // Once more it is the same: nothing is there twice.
    const auto before = window->book().soFar().size();
    menu();
    EXPECT_EQ(window->book().soFar().size(), before);
    window->closeRecord();
    EXPECT_FALSE(window->score().showsRecorded()) << "the plan alone again";
    window->openRecord();
    EXPECT_TRUE(window->score().showsRecorded()) << "and with the run that is still open";
}

TEST_F(RecorderPage, WithoutDatesTheFlightHasJustEndedUnlessItIsSaidWhen) {
    write("10:");
    static constexpr std::int64_t now = 1'796'000'000'000;
    window->book().now = [] { return now; };
    menu();
    ASSERT_NE(window->book().run(), nullptr) << window->message().toStdString();
    EXPECT_EQ(window->book().run()->began, now - 1'800'000);
}

TEST_F(RecorderPage, WhatIsNoRecordersFileIsRefusedWithWhatToDo) {
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
    file.write("a letter\nto somebody\n");
    file.close();
    menu();
    EXPECT_TRUE(window->message().contains(QStringLiteral("recorder.columns"))) << window->message().toStdString();
    EXPECT_EQ(window->book().run(), nullptr);
}

TEST_F(RecorderPage, TheCommandKeepsTheSameAndALogTakesItOverWhole) {
    write();
    const std::string log = scratch.filePath(QStringLiteral("one.sqlite")).toStdString(),
                      other = scratch.filePath(QStringLiteral("two.sqlite")).toStdString();
    ASSERT_EQ(
        test::command({"log", "begin", "--log", log, "--sortie", lorimer().toStdString(), "--at", "2026-11-20 10:00"})
            .code,
        0);
    const auto look = test::command({"log", "trace", "--log", log, "--file", path.toStdString(), "--preview"});
    EXPECT_EQ(look.code, 0) << look.err.toStdString();
    EXPECT_FALSE(look.out.contains("were new"));
    const auto kept = test::command({"log", "trace", "--log", log, "--file", path.toStdString()});
    EXPECT_TRUE(kept.out.contains("21 blocks of it were new")) << kept.out.toStdString(); // 7 columns of 3 blocks
    EXPECT_TRUE(
        test::command({"log", "trace", "--log", log, "--file", path.toStdString()}).out.contains("\n0 blocks of it"));
    const auto merged = test::command({"log", "merge", "--log", other, "--file", log});
    EXPECT_EQ(merged.code, 0) << merged.err.toStdString();
    EXPECT_TRUE(merged.out.contains("21 blocks of recorders")) << merged.out.toStdString();
    EXPECT_TRUE(test::command({"log", "merge", "--log", other, "--file", log}).out.contains("0 blocks of recorders"));
    const auto one = test::command({"audit", "HR-K", "--log", log, "--json"}),
               two = test::command({"audit", "HR-K", "--log", other, "--json"});
    EXPECT_EQ(one.code, 1);
    EXPECT_EQ(one.out, two.out);
    auto file = app::LogFile::open(QString::fromStdString(other));
    ASSERT_TRUE(file);
    const auto blocks = file.value()->traces({});
    ASSERT_TRUE(blocks);
    EXPECT_EQ(blocks.value().size(), 21u);
    for (const auto& b : blocks.value())
        if (b.quantity == "oil" && b.engine == "1")
            EXPECT_FLOAT_EQ(b.values.front(), 333.15F);
}
} // namespace
