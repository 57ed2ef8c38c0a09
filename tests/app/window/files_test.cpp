// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/problems_dialog.h"
#include "units/unit_table.h"
#include "window_fixture.h"
#include <QCloseEvent>
#include <QMessageBox>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QPushButton>
#include <csignal>
#include <sys/resource.h>

using namespace amber;
using test::Window;

namespace {

TEST_F(Window, SavesAndOpensAgain) {
    type("oat", QStringLiteral("17"));
    EXPECT_TRUE(document().isModified());
    QTest::keyClick(window.get(), Qt::Key_S, Qt::ControlModifier);
    EXPECT_FALSE(document().isModified());
    EXPECT_TRUE(contents(lorimer()).contains("oat = \"17 °C\""));
    ASSERT_TRUE(window->openPath(farrier()));
    ASSERT_TRUE(window->openPath(lorimer()));
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 17, 1e-6);
}

TEST_F(Window, SaveAsKeepsTheNotesFound) {
    QDir().mkpath(scratch.filePath(QStringLiteral("elsewhere/deep")));
    file = scratch.filePath(QStringLiteral("elsewhere/deep/mine"));
    type("oat", QStringLiteral("9"));
    ASSERT_TRUE(window->saveAs());
    const QString saved = file + QStringLiteral(".toml");
    EXPECT_TRUE(contents(saved).contains("file = \"../../airframes/hr-k.toml\"")) << "the airframe's own file";
    ASSERT_TRUE(window->openPath(farrier()));
    ASSERT_TRUE(window->openPath(saved));
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 9, 1e-6);
    // And one that names its notes itself.
    ASSERT_TRUE(window->openPath(farrier()));
    ASSERT_TRUE(window->saveAs());
    EXPECT_TRUE(contents(saved).contains("notes = \"../../notes/farrier-f5.toml\""));
    ASSERT_TRUE(window->openPath(saved));
}

TEST_F(Window, ABrokenFileIsExplainedAndTheOpenWorkUntouched) {
    type("oat", QStringLiteral("11"));
    answer = app::MainWindow::Unsaved::discard;
    const QString bad = scratch.filePath(QStringLiteral("bad.toml"));
    for (const QByteArray& bytes : {QByteArray(), QByteArray("\x00\xff\xfe binary", 10),
                                    QByteArray("format = 1\nwings = 2\n"), QByteArray("a = [")}) {
        write(bad, bytes);
        EXPECT_FALSE(window->openPath(bad));
        auto* dialog = window->findChild<app::ProblemsDialog*>();
        ASSERT_NE(dialog, nullptr);
        EXPECT_TRUE(dialog->findChild<QPlainTextEdit*>(QStringLiteral("problem-list"))
                        ->toPlainText()
                        .contains(QStringLiteral("bad.toml")));
        dialog->close();
        test::settle();
        EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 11, 1e-6);
        EXPECT_TRUE(document().isModified());
        EXPECT_EQ(document().path(), lorimer());
    }
    EXPECT_FALSE(window->openPath(scratch.filePath(QStringLiteral("none.toml"))));
}

TEST_F(Window, UnsavedChangesAreGuarded) {
    type("oat", QStringLiteral("11"));
    answer = app::MainWindow::Unsaved::cancel;
    EXPECT_FALSE(window->openPath(farrier()));
    EXPECT_FALSE(window->close());
    EXPECT_EQ(asked, 2);
    EXPECT_EQ(document().path(), lorimer());
    answer = app::MainWindow::Unsaved::save;
    EXPECT_TRUE(window->close());
    EXPECT_TRUE(contents(lorimer()).contains("oat = \"11 °C\""));
}

TEST_F(Window, ASaveThatFailsSaysSoAndKeepsTheOldFile) {
    const QByteArray before = contents(lorimer());
    type("oat", QStringLiteral("11"));
    // A full disk: no file may grow past a few bytes.
    rlimit old{};
    getrlimit(RLIMIT_FSIZE, &old);
    const rlimit tiny{16, old.rlim_max};
    std::signal(SIGXFSZ, SIG_IGN);
    setrlimit(RLIMIT_FSIZE, &tiny);
    const bool saved = window->save();
    setrlimit(RLIMIT_FSIZE, &old);
    EXPECT_FALSE(saved);
    EXPECT_TRUE(window->message().contains(QStringLiteral("What was there before is still there")))
        << window->message().toStdString();
    EXPECT_TRUE(window->message().contains(QStringLiteral("File too large"))) << "the reason has its name";
    EXPECT_EQ(contents(lorimer()), before);
    EXPECT_TRUE(document().isModified());
    // A folder that cannot be written to.
    file = QStringLiteral("/proc/amber/none.toml");
    EXPECT_FALSE(window->saveAs());
    EXPECT_TRUE(window->message().contains(QStringLiteral("cannot be written"))) << window->message().toStdString();
    EXPECT_TRUE(window->save()) << "and with room again it is saved";
}

TEST_F(Window, WorkSurvivesACrash) {
    type("oat", QStringLiteral("21"));
    QTRY_COMPARE_WITH_TIMEOUT(QDir(autosaves()).entryList({QStringLiteral("*.toml")}).size(), 1, 3000);
    const QString live = QDir(autosaves()).entryInfoList({QStringLiteral("*.toml")}).front().absoluteFilePath();
    EXPECT_TRUE(app::SortieDocument::leftovers(autosaves()).isEmpty()) << "a running window's autosave is not offered";
    // The crash: the file is there, its owner is not.
    const QString crashed = scratch.filePath(QStringLiteral("crashed"));
    QDir().mkpath(crashed);
    ASSERT_TRUE(QFile::copy(live, crashed + QStringLiteral("/left.toml")));
    app::MainWindow next(scratch.filePath(QStringLiteral("other.ini")), crashed);
    next.askUnsaved = [] { return app::MainWindow::Unsaved::discard; };
    next.show();
    ASSERT_TRUE(next.openPath(farrier()));
    next.offerRecovery();
    auto* box = next.findChild<QDialog*>(QStringLiteral("recovery"));
    ASSERT_NE(box, nullptr);
    EXPECT_TRUE(box->findChild<QListWidget*>()->item(0)->text().contains(QStringLiteral("lorimer-spring.toml")));
    QTest::mouseClick(box->findChild<QPushButton*>(QStringLiteral("bring-back")), Qt::LeftButton);
    EXPECT_NEAR(next.document().sortie().day.oat.in(units::celsius), 21, 1e-6);
    EXPECT_TRUE(next.document().isModified());
    EXPECT_EQ(next.document().path(), lorimer());
    EXPECT_FALSE(QFile::exists(crashed + QStringLiteral("/left.toml"))) << "offered once";
}

TEST_F(Window, AutosaveGoesWhenTheWorkIsSaved) {
    type("oat", QStringLiteral("21"));
    QTRY_COMPARE_WITH_TIMEOUT(QDir(autosaves()).entryList({QStringLiteral("*.toml")}).size(), 1, 3000);
    ASSERT_TRUE(window->save());
    EXPECT_TRUE(QDir(autosaves()).entryList({QStringLiteral("*.toml")}).isEmpty());
}

TEST_F(Window, AFileIsDroppedOnTheWindowAndIsRecentAfterwards) {
    const auto dragEnter = [this](const QMimeData& data) {
        QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window.get(), &enter);
        EXPECT_TRUE(enter.isAccepted());
    };
    QMimeData mime;
    mime.setUrls({QUrl::fromLocalFile(farrier())});
    dragEnter(mime);
    QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &drop);
    EXPECT_EQ(document().path(), farrier());
    EXPECT_EQ(app::Settings(scratch.filePath(QStringLiteral("settings.ini"))).recentFiles().front(), farrier());
    // Weather dropped as text goes into the day.
    QMimeData weather;
    weather.setText(QStringLiteral("XXRF 250650Z 31012KT 9999 14/09 Q1020"));
    dragEnter(weather);
    QDropEvent text(QPointF(300, 300), Qt::CopyAction, &weather, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &text);
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 14, 1e-9);
}

TEST_F(Window, TypeNotesBeginANewSortieThatIsNotYetSaved) {
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("notes/farrier-f5.toml"))));
    EXPECT_TRUE(document().path().isEmpty());
    EXPECT_TRUE(document().isModified());
    EXPECT_EQ(document().aircraft().notes.name, "Farrier F.5");
    file = scratch.filePath(QStringLiteral("demo/new.toml"));
    ASSERT_TRUE(window->save());
    EXPECT_TRUE(contents(file).contains("notes = \"../notes/farrier-f5.toml\""));
}

} // namespace
