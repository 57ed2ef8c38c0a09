// SPDX-License-Identifier: GPL-3.0-or-later
// Work is kept: beside other windows and programs, through crashes, on full disks, with its comments.
#include "shell/recovery_dialog.h"
#include "store/settings.h"
#include "units/unit_table.h"
#include "window_fixture.h"
#include <QElapsedTimer>
#include <QListWidget>
#include <sys/stat.h>

namespace {
using namespace amber;
using test::Window;
using Conflict = app::MainWindow::Conflict;

class KeptWork : public Window {
protected:
    QFileInfoList kept(const QString& folder) const { return QDir(folder).entryInfoList({QStringLiteral("*.toml")}); }
    /// A crash with this text left behind.
    void leave(const QString& folder, const QString& name, const QByteArray& text) {
        QDir().mkpath(folder);
        write(folder + QLatin1Char('/') + name, text);
    }
    QByteArray sortieText(const char* title) {
        Sortie s = document().sortie();
        s.title = title;
        s.airframe.notes = scratch.filePath(QStringLiteral("notes/lorimer-l4.toml")).toStdString();
        return "# autosave of: " + lorimer().toUtf8() + "\n" +
               QByteArray::fromStdString(writeSortie(s, document().aircraft().notes.cockpit));
    }
};

TEST_F(KeptWork, CommentsOfTheFileSurviveSaving) {
    const QByteArray before = contents(lorimer());
    QByteArray commented = before;
    commented.replace("[day]", "# from the tower\n[day]  # Saturday");
    write(lorimer(), commented);
    ASSERT_TRUE(window->openPath(lorimer()));
    type("oat", QStringLiteral("11"));
    ASSERT_TRUE(window->save());
    const QByteArray after = contents(lorimer());
    EXPECT_TRUE(after.contains("# from the tower\n[day]  # Saturday"));
    EXPECT_EQ(QByteArray(after).replace("oat = \"11 °C\"", "oat = \"6 °C\"").toStdString(), commented.toStdString());
}

TEST_F(KeptWork, AnothersChangeIsNeverOverwrittenSilently) {
    app::MainWindow other(scratch.filePath(QStringLiteral("other.ini")), scratch.filePath(QStringLiteral("other")));
    other.askUnsaved = [] { return app::MainWindow::Unsaved::discard; };
    ASSERT_TRUE(other.openPath(lorimer()));
    type("oat", QStringLiteral("11"));
    Sortie theirs = other.document().sortie();
    theirs.title = "Theirs";
    ASSERT_TRUE(other.document().edit(theirs, QStringLiteral("title")).isEmpty());
    ASSERT_TRUE(other.save());
    int conflicts = 0;
    auto decision = Conflict::cancel;
    window->askConflict = [&] {
        ++conflicts;
        return decision;
    };
    EXPECT_FALSE(window->save());
    EXPECT_EQ(conflicts, 1);
    EXPECT_TRUE(contents(lorimer()).contains("Theirs")) << "cancelled: theirs stands";
    decision = Conflict::keepBoth;
    file = scratch.filePath(QStringLiteral("demo/mine.toml"));
    EXPECT_TRUE(window->save());
    EXPECT_TRUE(contents(lorimer()).contains("Theirs"));
    EXPECT_TRUE(contents(file).contains("oat = \"11 °C\""));
    EXPECT_TRUE(window->save()) << "in its own file there is no other";
    EXPECT_EQ(conflicts, 2);
    // Theirs taken, and mine over theirs.
    ASSERT_TRUE(window->openPath(lorimer()));
    type("oat", QStringLiteral("12"));
    write(lorimer(), contents(lorimer()).replace("Theirs", "Third"));
    decision = Conflict::takeTheirs;
    EXPECT_TRUE(window->save());
    EXPECT_EQ(document().sortie().title, "Third");
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 6, 1e-9);
    type("oat", QStringLiteral("13"));
    write(lorimer(), contents(lorimer()).replace("Third", "Fourth"));
    decision = Conflict::overwrite;
    EXPECT_TRUE(window->save());
    EXPECT_TRUE(contents(lorimer()).contains("Third"));
    EXPECT_TRUE(contents(lorimer()).contains("oat = \"13 °C\""));
}

TEST_F(KeptWork, AHeldKeyDoesNotPutTheAutosaveOff) {
    field("oat")->setFocus();
    QElapsedTimer held;
    held.start();
    // The key is held until something is kept: never longer than a second, and some time more for a busy machine.
    int steps = 0;
    while (kept(autosaves()).isEmpty() && held.elapsed() < 20000) {
        QTest::keyClick(field("oat"), ++steps % 2 ? Qt::Key_Up : Qt::Key_Down);
        QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
    }
    EXPECT_FALSE(kept(autosaves()).isEmpty()) << "after " << steps << " steps";
}

TEST_F(KeptWork, AReadingIsKeptTheMomentItIsEntered) {
    Sortie s = document().sortie();
    s.walk.found["cockpit/ignition"] = "stiff";
    ASSERT_TRUE(document().edit(s, QStringLiteral("walk-round")).isEmpty());
    // No event has been handled since: the process may be killed here.
    ASSERT_EQ(kept(autosaves()).size(), 1);
    EXPECT_TRUE(contents(kept(autosaves()).front().absoluteFilePath()).contains("stiff"));
}

TEST_F(KeptWork, EveryLeftoverIsOfferedAndNoneIsLostOnTheWay) {
    const QString folder = scratch.filePath(QStringLiteral("crashed"));
    leave(folder, QStringLiteral("one.toml"), sortieText("One"));
    leave(folder, QStringLiteral("two.toml"), sortieText("Two"));
    leave(folder, QStringLiteral("bad.toml"), QByteArray("# autosave of: /nowhere.toml\nformat = 7\n"));
    app::MainWindow next(scratch.filePath(QStringLiteral("next.ini")), folder);
    next.askUnsaved = [] { return app::MainWindow::Unsaved::discard; };
    next.offerRecovery();
    auto* dialog = next.findChild<app::RecoveryDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* list = dialog->findChild<QListWidget*>();
    ASSERT_EQ(list->count(), 3);
    const auto row = [&](const char* piece) {
        for (int i = 0; i < list->count(); ++i)
            if (list->item(i)->text().contains(QLatin1String(piece)))
                return i;
        return -1;
    };
    // What cannot be brought back is told, stays, and can be discarded.
    list->setCurrentRow(row("nowhere"));
    QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("bring-back")), Qt::LeftButton);
    EXPECT_TRUE(dialog->findChild<QLabel*>(QStringLiteral("recovery-verdict"))
                    ->text()
                    .contains(QStringLiteral("cannot be brought back")));
    EXPECT_TRUE(QFile::exists(folder + QStringLiteral("/bad.toml")));
    list->setCurrentRow(row("nowhere"));
    QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("discard")), Qt::LeftButton);
    EXPECT_FALSE(QFile::exists(folder + QStringLiteral("/bad.toml")));
    ASSERT_EQ(list->count(), 2);
    list->setCurrentRow(0);
    QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("bring-back")), Qt::LeftButton);
    // Kept under this run's name before the old copy went: two copies still, one of them the other's.
    EXPECT_EQ(kept(folder).size(), 2);
    EXPECT_TRUE(next.document().isModified());
    const std::string first = next.document().sortie().title;
    next.offerRecovery();
    test::settle();
    ASSERT_EQ(app::SortieDocument::leftovers(folder).size(), 1);
    EXPECT_NE(first, "");
}

TEST_F(KeptWork, WhatIsNotAFileIsNotWrittenTo) {
    const QByteArray fifo = scratch.filePath(QStringLiteral("pipe")).toUtf8();
    ASSERT_EQ(mkfifo(fifo.constData(), 0600), 0);
    for (const QString& path : {QString(), QStringLiteral("/dev/null"), QString::fromUtf8(fifo), scratch.path()})
        EXPECT_FALSE(app::writeAtomically(path, "x").isEmpty()) << path.toStdString();
    EXPECT_TRUE(app::writeAtomically(scratch.filePath(QStringLiteral("plain")), "x").isEmpty());
}

/// The crash that was: the power chart kept the aircraft of a sortie that another had replaced.
TEST_F(KeptWork, AViewLooksAtNothingThatTheDocumentReplaced) {
    window->showPhase(Phase::climb);
    window->page().showPage("chart");
    test::settle();
    auto& chart = on<app::PowerChartView>();
    const std::weak_ptr<const powerplant::Aircraft> shown = document().sharedAircraft();
    window->showPhase(Phase::walkRound);
    ASSERT_TRUE(window->openPath(farrier()));
    EXPECT_FALSE(shown.expired()) << "the chart still holds what it drew";
    window->setTheme(app::ThemeKind::hangar);
    test::settle();
    chart.resize(500, 300);
    test::settle();
    window->showPhase(Phase::climb);
    window->page().showPage("chart");
    test::settle();
    EXPECT_TRUE(shown.expired()) << "and lets it go with the next";
    EXPECT_TRUE(on<app::PowerChartView>().construction());
    EXPECT_EQ(on<app::PowerChartView>().reading().rpm.si(), document().plan().flown[Phase::climb].setting.rpm.si());
}

/// A plan is a value: it can be read after its aircraft has gone.
TEST(Plan, KeepsNothingOfItsAircraft) {
    auto loaded = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    ASSERT_TRUE(loaded.ok());
    const auto made = std::make_unique<plan::Plan>(plan::makePlan(*loaded.aircraft, *loaded.sortie));
    const std::string names = made->walk.stops.at(2).name + made->walk.stops.at(2).items.at(0).item.what;
    loaded.aircraft.reset();
    loaded.sortie.reset();
    EXPECT_EQ(made->walk.stops.at(2).name + made->walk.stops.at(2).items.at(0).item.what, names);
    EXPECT_FALSE(names.empty());
}

} // namespace
