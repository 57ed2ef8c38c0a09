// SPDX-License-Identifier: GPL-3.0-or-later
// The write-up in the real window and on the command line: what holds an aircraft is told wherever its plan is looked
// at, until an engineer has answered.
#include "command_runner.h"
#include "record/log_text.h"
#include "window_fixture.h"
#include <QProcess>

namespace {
using namespace amber;
using record::Entry;

class WriteUpPage : public test::KeptWindow {
protected:
    void SetUp() override {
        KeptWindow::SetUp();
        answer = app::MainWindow::Unsaved::discard;
        book().now = [this] { return clock += 1000; };
        // A log of this test's own.
        book().close();
        for (const char* more : {"", "-wal", "-shm"})
            QFile::remove(book().path() + QLatin1String(more));
        ASSERT_TRUE(window->openPath(lorimer()));
        window->openRecord();
        ASSERT_TRUE(window->recording());
    }
    void TearDown() override {
        window->closeRecord();
        book().close();
        for (const char* more : {"", "-wal", "-shm"})
            QFile::remove(book().path() + QLatin1String(more));
        KeptWindow::TearDown();
    }
    app::Book& book() const { return window->book(); }
    app::WriteUpView& view() const { return window->recordFrame().writeUp(); }
    [[nodiscard]] const QLabel& held() const { return *window->findChild<QLabel*>(QStringLiteral("held")); }
    [[nodiscard]] std::string engine(std::size_t i) const { return document().aircraft().notes.positions.at(i).id; }
    /// Oil of the second engine so far over its limit in cruise, K.
    void hotOil(double over) const {
        const auto& band = document().aircraft().notes.gauges.at(Gauge::oilTemperature).in(Phase::cruise);
        ASSERT_EQ(book().keepTyped({Phase::cruise, "oil", engine(1)},
                                   {Entry::Kind::figure, band.limitHigh.value() + over, {}}),
                  QString());
        test::settle();
    }
    void type(const char* field, const char* text) const {
        auto* edit = view().findChild<QLineEdit*>(QLatin1String(field));
        ASSERT_NE(edit, nullptr) << field;
        edit->clear();
        QTest::keyClicks(edit, QLatin1String(text));
    }
    std::int64_t clock = 1'796'000'000'000; // ms
};

TEST_F(WriteUpPage, AnExceedanceIsToldOverEveryPageUntilAnEngineerHasAnswered) {
    EXPECT_FALSE(held().isVisible());
    hotOil(-1.0);
    EXPECT_FALSE(held().isVisible()) << "amber holds nothing";
    hotOil(6.0);
    ASSERT_TRUE(held().isVisible());
    EXPECT_TRUE(held().text().contains(QStringLiteral("is held: Starboard"))) << held().text().toStdString();
    window->closeRecord();
    window->showPhase(Phase::takeOff);
    test::settle();
    EXPECT_TRUE(held().isVisible()) << "the plan's pages tell it too";
    // Another aircraft is not held, and this one is again, by what is on the disk.
    open("farrier-summer", Phase::climb);
    EXPECT_FALSE(held().isVisible());
    open("lorimer-spring", Phase::climb);
    EXPECT_TRUE(held().isVisible());

    QTest::keyClick(window.get(), Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
    test::settle();
    ASSERT_TRUE(window->recording());
    ASSERT_TRUE(view().isVisible());
    ASSERT_GE(view().lines().size(), 1u);
    EXPECT_TRUE(view().shown(0).contains(QStringLiteral("Holds the next flight"))) << view().shown(0).toStdString();
    type("answer-found", "core clogged with sludge");
    type("answer-by", "A. Fitter");
    view().findChild<QPushButton*>(QStringLiteral("answer-keep"))->click();
    test::settle();
    EXPECT_TRUE(window->message().contains(QStringLiteral("\"done\" is missing"))) << window->message().toStdString();
    EXPECT_TRUE(held().isVisible()) << "half an answer closes nothing";
    type("answer-done", "flushed, ran 20 minutes in order");
    QTest::keyClick(view().findChild<QLineEdit*>(QStringLiteral("answer-by")), Qt::Key_Return);
    test::settle();
    EXPECT_FALSE(held().isVisible());
    bool told = false;
    for (int row = 0; row < static_cast<int>(view().lines().size()); ++row)
        told = told || view().shown(row).contains(QStringLiteral("found: core clogged with sludge; done: flushed"));
    EXPECT_TRUE(told) << "the answer stands under what it answers";
    window->closeRecord();
    book().close();
    open("lorimer-spring", Phase::climb);
    EXPECT_FALSE(held().isVisible()) << "and it is on the disk";
}

TEST_F(WriteUpPage, WhatAnEarlierRunHoldsIsAnsweredThereAndNoRunIsBegunByIt) {
    hotOil(6.0);
    const auto first = book().run()->id;
    clock += 48LL * 3600 * 1000; // two days on
    window->closeRecord();
    book().close();
    open("lorimer-spring", Phase::climb);
    window->openRecord();
    window->showPhase(Phase::writeUp);
    test::settle();
    ASSERT_EQ(book().run(), nullptr);
    ASSERT_EQ(view().lines().size(), 1u);
    EXPECT_TRUE(view().shown(0).contains(QStringLiteral("2026-1"))) << "with its day";
    type("answer-found", "a");
    type("answer-done", "b");
    type("answer-by", "c");
    view().findChild<QPushButton*>(QStringLiteral("answer-keep"))->click();
    test::settle();
    EXPECT_EQ(book().run(), nullptr);
    EXPECT_TRUE(book().holding().empty());
    auto file = app::LogFile::open(book().path());
    ASSERT_TRUE(file);
    int answers = 0;
    const auto log = file.value()->read().value();
    for (const auto& [id, e] : log.entries)
        if (record::isAnswer(e.what)) {
            ++answers;
            EXPECT_EQ(e.run, first);
        }
    EXPECT_EQ(answers, 3);
    EXPECT_EQ(log.runs.size(), 1u);
}

TEST_F(WriteUpPage, TheRailEndsInItOnlyWhileRecordIsOpen) {
    auto* rail = window->findChild<QListView*>(QStringLiteral("phase-rail"));
    EXPECT_EQ(rail->model()->rowCount(), 12);
    window->showPhase(Phase::writeUp);
    test::settle();
    EXPECT_TRUE(view().isVisible());
    window->closeRecord();
    test::settle();
    EXPECT_EQ(rail->model()->rowCount(), 11);
    EXPECT_EQ(rail->currentIndex().row(), static_cast<int>(Phase::stop)) << "the last of the plan";
}

TEST_F(WriteUpPage, TheWalkRoundAndTheSheetAreReadWhereTheyAreExpected) {
    window->showPhase(Phase::walkRound);
    test::settle();
    auto& model = window->recordFrame().model();
    auto& table = window->recordFrame().table();
    int look = -1, stopper = -1;
    for (int row = 0; row < model.rowCount(); ++row)
        if (model.line(row)->item->kind == WalkItemKind::look)
            (model.line(row)->item->stopper ? stopper : look) = row;
    ASSERT_GE(look, 0);
    ASSERT_GE(stopper, 0);
    table.setCurrentIndex(model.index(look, app::ReadModel::firstEngine));
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_Space);
    EXPECT_EQ(model.shown(model.index(look, app::ReadModel::firstEngine)), QStringLiteral("serviceable"));
    EXPECT_TRUE(
        model.setData(model.index(stopper, app::ReadModel::firstEngine), QStringLiteral("cracked"), Qt::EditRole));
    EXPECT_TRUE(held().isVisible()) << "a stopper holds the flight";
    EXPECT_FALSE(model.headerData(2, Qt::Horizontal, Qt::DisplayRole).toString().isEmpty());
    EXPECT_TRUE(table.isColumnHidden(model.columnCount() - 1)) << "nothing of it is off a plan";

    window->showPhase(Phase::runUp);
    test::settle();
    EXPECT_FALSE(table.isColumnHidden(model.columnCount() - 1));
    int left = -1;
    for (int row = 0; row < model.rowCount(); ++row)
        if (model.line(row)->what == "magneto-left")
            left = row;
    ASSERT_GE(left, 0);
    const auto cell = model.index(left, app::ReadModel::firstEngine);
    EXPECT_TRUE(model.setData(cell, QStringLiteral("60 rough"), Qt::EditRole));
    EXPECT_EQ(model.shown(cell), QStringLiteral("60 rpm, rough"));
    EXPECT_EQ(model.verdict(cell)->colour(), watch::Colour::amber);
    EXPECT_FALSE(model.setData(cell, QStringLiteral("60 purple"), Qt::EditRole));
    EXPECT_EQ(model.shown(cell), QStringLiteral("60 rpm, rough")) << "what cannot be read changes nothing";
}

TEST_F(WriteUpPage, TheEngineersSheetIsAPdfWithWhatWasFoundAndRead) {
    hotOil(6.0);
    ASSERT_EQ(book().keepWords({Phase::landing, "defect", {}}, QStringLiteral("left brake fades")), QString());
    window->showPhase(Phase::writeUp);
    test::settle();
    const QString path = scratch.filePath(QStringLiteral("sheet.pdf"));
    const auto asked = window->askFile;
    window->askFile = [&](const QString&, const QString&, const QString&, bool) { return path; };
    view().findChild<QPushButton*>(QStringLiteral("write-up-pdf"))->click();
    window->askFile = asked;
    QProcess reader;
    reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), path, QStringLiteral("-")});
    ASSERT_TRUE(reader.waitForFinished(30000));
    const QString text = QString::fromUtf8(reader.readAllStandardOutput()).simplified();
    for (const char* piece :
         {"For the engineer", "HR-K", ", limit 95", "Holds the next flight", "left brake fades", "Found: ____",
          "What was read", "Hours, by this log", "Since new", "612 h", "oil screens", "licensed engineer"})
        EXPECT_TRUE(text.contains(QLatin1String(piece))) << piece << " not in " << text.left(600).toStdString();
}

TEST_F(WriteUpPage, TheCommandTellsTheSameAndTakesAnAnswer) {
    hotOil(6.0);
    const std::string log = book().path().toStdString();
    const auto told = test::command({"audit", "HR-K", "--log", log, "--json"});
    EXPECT_EQ(told.code, 1) << "it is held: scripts may ask";
    const auto json = told.json();
    ASSERT_EQ(json.size(), 1u) << told.out.toStdString() << told.err.toStdString();
    EXPECT_EQ(json[0]["sentence"], book().writeUp().lines.front().verdict.sentence());
    EXPECT_EQ(json[0]["holds"], true);
    const std::string id = json[0]["id"];
    const auto half = test::command({"audit", "HR-K", "--log", log, "--answer", id, "--found", "sludge"});
    EXPECT_EQ(half.code, 2);
    EXPECT_TRUE(half.err.contains("\"done\" is missing")) << half.err.toStdString();
    const auto whole = test::command(
        {"audit", "HR-K", "--log", log, "--answer", id, "--found", "sludge", "--done", "flushed", "--signed", "A. F."});
    EXPECT_EQ(whole.code, 0) << whole.err.toStdString();
    const auto after = test::command({"audit", "HR-K", "--log", log});
    EXPECT_EQ(after.code, 0);
    EXPECT_TRUE(after.out.contains("found sludge; done flushed; signed A. F.")) << after.out.toStdString();
    EXPECT_TRUE(test::command({"audit", "HR-K", "--log", log, "--open"}).out.startsWith("Nothing stands out"));
    EXPECT_EQ(test::command({"audit", "HR-X", "--log", log}).code, 2);
}
} // namespace
