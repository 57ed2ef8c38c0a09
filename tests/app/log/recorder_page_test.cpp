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

TEST_F(RecorderPage, AMomentPutElsewhereIsKeptAndWhatHangsOnItIsReckonedAnew) {
    write();
    menu();
    auto& book = window->book();
    auto& score = window->score();
    const auto at = [&] { return (*book.anchors().takeOffPower - book.run()->began) / 1000.0; };
    const auto minutes = [&](const char* engine) {
        std::vector<double> all;
        for (const auto* e : book.soFar())
            if (e->what == "rating/take-off" && e->engine == engine)
                all.push_back(e->value);
        EXPECT_EQ(all.size(), 1u) << "one stands, not two";
        return all.empty() ? 0.0 : all.front();
    };
    const auto held = [&] {
        std::size_t n = 0;
        for (const auto& line : book.writeUp().lines)
            n += line.what == "oil" ? 1 : 0;
        return n;
    };
    ASSERT_DOUBLE_EQ(at(), 600.0);
    EXPECT_NEAR(minutes("1"), 100.0, 1.5) << "2,650 rpm and 45 inHg from 10:00 to 11:40";
    EXPECT_EQ(held(), 1u);
    const auto entries = book.soFar().size();
    ASSERT_GE(score.moments().size(), 4u);
    std::size_t takeOff = 0;
    while (!score.moments().at(takeOff).name.startsWith(QStringLiteral("Take-off power")))
        ++takeOff;

    // By keys, to the second.
    score.setFocus();
    for (std::size_t i = 0; i <= takeOff; ++i)
        QTest::keyClick(&score, Qt::Key_M);
    QTest::keyClick(&score, Qt::Key_Right, Qt::ShiftModifier);
    for (int i = 0; i < 5; ++i)
        QTest::keyClick(&score, Qt::Key_Right);
    QTest::keyClick(&score, Qt::Key_Return);
    test::settle();
    EXPECT_DOUBLE_EQ(at(), 615.0);
    EXPECT_NEAR(minutes("1"), 85.0, 1.5);
    EXPECT_NEAR(minutes("2"), 85.0, 1.5);
    EXPECT_EQ(held(), 1u) << "what does not hang on it is as it was";
    EXPECT_EQ(book.soFar().size(), entries + 1) << "the moment itself";
    EXPECT_DOUBLE_EQ(score.moments().at(takeOff).time, document().plan()[Phase::takeOff].start)
        << "plan and recorder are laid on each other there";

    // One undo takes all of it back.
    ASSERT_EQ(book.undo(), QString());
    EXPECT_DOUBLE_EQ(at(), 600.0);
    EXPECT_NEAR(minutes("1"), 100.0, 1.5);
    EXPECT_EQ(book.soFar().size(), entries);

    // By the mouse, and Escape while it is held by a key leaves it.
    const QPoint flag = score.flagOf(takeOff).toPoint();
    QTest::mousePress(&score, Qt::LeftButton, {}, flag);
    QTest::mouseMove(&score, flag + QPoint(12, 0));
    QTest::mouseRelease(&score, Qt::LeftButton, {}, flag + QPoint(12, 0));
    test::settle();
    EXPECT_GT(at(), 605.0);
    const double dragged = at();
    QTest::keyClick(&score, Qt::Key_M);
    QTest::keyClick(&score, Qt::Key_Right);
    QTest::keyClick(&score, Qt::Key_Escape);
    EXPECT_DOUBLE_EQ(at(), dragged);
    EXPECT_TRUE(window->recording());
    // It is on the disk: opened again it stands there.
    const auto run = book.run()->id;
    book.close();
    window->openRecord();
    ASSERT_EQ(book.choose(run), QString());
    EXPECT_NEAR(at(), dragged, 1e-3);

    // Delete takes it back to where the rules find it, with all that hangs on it; an undo puts it by hand again.
    test::settle();
    ASSERT_TRUE(score.moments().at(takeOff).byHand);
    const auto takenBack = [&] {
        score.setFocus();
        for (std::size_t i = 0; i <= takeOff; ++i)
            QTest::keyClick(&score, Qt::Key_M);
        QTest::keyClick(&score, Qt::Key_Delete);
        test::settle();
    };
    takenBack();
    EXPECT_DOUBLE_EQ(at(), 600.0);
    EXPECT_NEAR(minutes("1"), 100.0, 1.5);
    EXPECT_FALSE(score.moments().at(takeOff).byHand);
    takenBack();
    EXPECT_DOUBLE_EQ(at(), 600.0) << "by the rules it is there already";
    QTest::keyClick(&score, Qt::Key_Escape);
    ASSERT_EQ(book.undo(), QString());
    EXPECT_NEAR(at(), dragged, 1e-3);
    EXPECT_TRUE(score.moments().at(takeOff).byHand);
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
    // A moment put elsewhere: the minutes at the rating are others.
    const auto ratings = [&] {
        const auto all = test::command({"log", "list", "--log", log, "--csv"}).out.split('\n');
        QByteArrayList out;
        for (const auto& line : all)
            if (line.contains(",rating/take-off,"))
                out << line;
        return out;
    };
    ASSERT_EQ(ratings().size(), 2);
    const auto moved = test::command(
        {"log", "add", "--log", log, "--phase", "take-off", "--what", "at-take-off", "--figure", "10:15"});
    EXPECT_EQ(moved.code, 0) << moved.err.toStdString();
    EXPECT_TRUE(moved.err.contains("2 readings of the recorder were reckoned anew")) << moved.err.toStdString();
    ASSERT_EQ(ratings().size(), 2) << "one stands for each engine";
    for (const auto& line : ratings())
        EXPECT_TRUE(line.contains("1:24") || line.contains("1:25")) << line.toStdString();
    const auto merged = test::command({"log", "merge", "--log", other, "--file", log});
    EXPECT_EQ(merged.code, 0) << merged.err.toStdString();
    EXPECT_TRUE(merged.out.contains("21 blocks of recorders")) << merged.out.toStdString();
    EXPECT_TRUE(test::command({"log", "merge", "--log", other, "--file", log}).out.contains("0 blocks of recorders"));
    // As JSON, and read in again, it is the same log, traces too.
    const std::string json = scratch.filePath(QStringLiteral("one.json")).toStdString(),
                      third = scratch.filePath(QStringLiteral("three.sqlite")).toStdString();
    ASSERT_EQ(test::command({"log", "export", "--log", log, "--file", json}).code, 0);
    const auto imported = test::command({"log", "import", "--log", third, "--file", json});
    EXPECT_EQ(imported.code, 0) << imported.err.toStdString();
    EXPECT_GT(contents(QString::fromStdString(json)).size(), 50'000);
    EXPECT_TRUE(imported.out.contains("21 blocks of recorders")) << imported.out.toStdString();
    EXPECT_EQ(test::command({"log", "export", "--log", third}).out, contents(QString::fromStdString(json)));
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
