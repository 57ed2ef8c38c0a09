// SPDX-License-Identifier: GPL-3.0-or-later
// What a new user meets: ways to begin, and each of them leads on.
#include "shell/start_page.h"
#include "window_fixture.h"
#include <QPushButton>

namespace {
using namespace amber;

class Start : public test::Window {
protected:
    void SetUp() override {
        layOut();
        begin();
    }
    void begin() {
        window.reset();
        window = std::make_unique<app::MainWindow>(scratch.filePath(QStringLiteral("settings.ini")), autosaves());
        attend();
        window->resize(1280, 800);
        window->show();
        window->showStart();
        test::settle();
    }
    [[nodiscard]] QPushButton* way(const char* name) const {
        return window->findChild<QPushButton*>(QLatin1String(name));
    }
    [[nodiscard]] bool started() const { return window->findChild<app::StartPage*>()->isVisible(); }
};

TEST_F(Start, SaysHowToBeginAndWhereFilesAreKept) {
    ASSERT_TRUE(started());
    EXPECT_EQ(way("start-last"), nullptr) << "there is none yet";
    QString all;
    for (const auto* label : window->findChild<app::StartPage*>()->findChildren<QLabel*>())
        all += label->text() + QLatin1Char('\n');
    EXPECT_TRUE(all.contains(scratch.path())) << all.toStdString();
    EXPECT_TRUE(all.contains(QStringLiteral("settings.ini")));
    EXPECT_TRUE(all.contains(QStringLiteral("Approved flight manuals")));
    EXPECT_TRUE(way("start-demo")->hasFocus()) << "Enter opens the demo";
    EXPECT_FALSE(window->strip().isVisible());
}

TEST_F(Start, TheDemoIsOneKeyAway) {
    QTest::keyClick(way("start-demo"), Qt::Key_Space);
    test::settle();
    EXPECT_FALSE(started());
    EXPECT_TRUE(document().isOpen());
    EXPECT_EQ(window->rail().selected(), Phase::climb);
    EXPECT_TRUE(window->strip().isVisible());
}

TEST_F(Start, RehearsingAStartBeginsInTheDemo) {
    way("start-rehearse")->click();
    test::settle();
    EXPECT_TRUE(window->rehearsing());
    EXPECT_EQ(window->rail().selected(), Phase::start);
}

TEST_F(Start, ANewSortieAndAFileAreAskedForAndTheManualIsOpened) {
    file = scratch.filePath(QStringLiteral("notes/tinker-mk1.toml"));
    way("start-own")->click();
    ASSERT_NE(window->findChild<app::ManualWindow*>(), nullptr);
    EXPECT_EQ(window->findChild<app::ManualWindow*>()->chapter(), QStringLiteral("own-aircraft"));
    EXPECT_TRUE(started());
    way("start-new")->click();
    test::settle();
    EXPECT_FALSE(started());
    EXPECT_EQ(document().aircraft().notes.name, "Tinker Mk 1");
}

TEST_F(Start, TheLastSortieStandsFirstTheNextTimeAndEarlierOnesUnderIt) {
    ASSERT_TRUE(window->openPath(farrier()));
    ASSERT_TRUE(window->openPath(lorimer()));
    begin();
    ASSERT_NE(way("start-last"), nullptr);
    EXPECT_TRUE(way("start-last")->hasFocus());
    way("start-last")->click();
    test::settle();
    EXPECT_FALSE(started());
    EXPECT_EQ(document().path(), lorimer());
}

TEST_F(Start, AFileThatCannotBeOpenedLeavesTheWaysToBegin) {
    EXPECT_FALSE(window->openPath(scratch.filePath(QStringLiteral("none.toml"))));
    window->showStart();
    EXPECT_TRUE(started());
}
} // namespace
