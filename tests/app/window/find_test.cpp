// SPDX-License-Identifier: GPL-3.0-or-later
// The find box, the manual and the glossary.
#include "command_runner.h"
#include "pages/page_table.h"
#include "shell/glossary.h"
#include "window_fixture.h"
#include <QListWidget>
#include <QRegularExpression>

namespace {
using namespace amber;
using Kind = app::Findable::Kind;

TEST(Found, TitlesThatBeginWithItComeFirstAndEveryWordMustBeThere) {
    const std::vector<app::Findable> all{{Kind::figure, "Climb · Oil temp.", "82 °C", {}, {}},
                                         {Kind::term, "mag drop", "Rpm lost on one magneto.", {}, {}},
                                         {Kind::figure, "Run-up · Left mag drop", {}, {}, {}},
                                         {Kind::page, "Drop tanks", {}, "fuel", {}}};
    const auto titles = [&](const char* typed) {
        QStringList out;
        for (const auto* f : app::found(all, QLatin1String(typed)))
            out << f->title;
        return out;
    };
    EXPECT_EQ(titles("mag drop"), QStringList({"mag drop", "Run-up · Left mag drop"}));
    EXPECT_EQ(titles("DROP"), QStringList({"Drop tanks", "mag drop", "Run-up · Left mag drop"}));
    EXPECT_EQ(titles("oil 82"), QStringList{"Climb · Oil temp."}) << "a figure by its value";
    EXPECT_EQ(titles("fuel"), QStringList{"Drop tanks"}) << "by a word that is not shown";
    EXPECT_EQ(titles("rop"), QStringList()) << "a word from its beginning";
    EXPECT_EQ(titles("").size(), 4);
}

class Find : public test::Window {
protected:
    /// Ctrl+K, what is typed, Enter.
    void find(const char* typed) const {
        window->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
        QTest::keyClick(window.get(), Qt::Key_K, Qt::ControlModifier);
        auto* box = window->findChild<app::FindBox*>();
        ASSERT_NE(box, nullptr);
        auto* edit = box->findChild<QLineEdit*>(QStringLiteral("find-edit"));
        QTest::keyClicks(edit, QLatin1String(typed));
        QTest::keyClick(edit, Qt::Key_Return);
        test::settle();
    }
};

TEST_F(Find, APageAFigureAStepAnActATermAreOneBoxAway) {
    find("best cruise");
    EXPECT_EQ(window->page().phase(), Phase::cruise);
    EXPECT_EQ(window->page().pageKey(), "best");
    find("climb blower");
    EXPECT_EQ(window->page().phase(), Phase::climb);
    find("trouble feather");
    EXPECT_TRUE(window->inTrouble());
    EXPECT_EQ(window->trouble().pageKey(), "feather");
    find("hangar theme");
    EXPECT_EQ(window->theme(), app::ThemeKind::hangar);
    find("hung start");
    auto* manual = window->findChild<app::ManualWindow*>();
    ASSERT_NE(manual, nullptr);
    EXPECT_TRUE(manual->isVisible());
    EXPECT_EQ(manual->chapter(), QStringLiteral("glossary"));
}

TEST_F(Find, FromARecordItGoesToThePlan) {
    window->openRecord();
    find("power chart");
    EXPECT_FALSE(window->recording());
    EXPECT_EQ(window->page().pageKey(), "chart");
}

TEST_F(Find, NothingFoundSaysWhatToDoAndGoesNowhere) {
    window->showPhase(Phase::climb);
    find("no such thing at all");
    EXPECT_EQ(window->page().phase(), Phase::climb);
}

TEST_F(Find, EveryFindableOfEveryDemoHasSomewhereToGo) {
    for (const char* demo : {"lorimer-spring", "farrier-summer", "thatcher-lesson"}) {
        open(demo);
        auto* box = window->openFind();
        EXPECT_GT(box->shown(), 50) << demo;
        box->reject();
        test::settle();
    }
}

TEST_F(Find, TheManualOpensAtThePageThatIsShown) {
    open("lorimer-spring", Phase::cruise, "best");
    QTest::keyClick(window.get(), Qt::Key_F1);
    auto* manual = window->findChild<app::ManualWindow*>();
    ASSERT_NE(manual, nullptr);
    EXPECT_EQ(manual->chapter(), QStringLiteral("pages"));
    EXPECT_EQ(manual->atTop(), QStringLiteral("best cruise"));
    window->openRecord();
    window->openManual();
    EXPECT_EQ(manual->chapter(), QStringLiteral("record"));
}

TEST_F(Find, TheManualHasAHeadingAndAParagraphForEveryPage) {
    const QString text = app::chapterText(QStringLiteral("pages"));
    std::set<QString> titles;
    for (const auto& row : app::pageTable())
        titles.insert(QString::fromUtf8(row.title));
    for (const auto& row : app::troubleTable())
        titles.insert(QString::fromUtf8(row.title));
    for (const QString& title : titles)
        EXPECT_TRUE(text.contains(
            QRegularExpression(QStringLiteral("\n## %1\n\n[A-Z]").arg(QRegularExpression::escape(title)))))
            << title.toStdString();
}

TEST_F(Find, EveryChapterIsThereWithItsLinksAndPictures) {
    app::ManualWindow manual(QSize(1000, 700));
    for (const auto& chapter : app::chapters()) {
        const QString text = app::chapterText(QLatin1String(chapter.key));
        EXPECT_TRUE(text.startsWith(QLatin1String("# "))) << chapter.key;
        EXPECT_TRUE(manual.openAt(QLatin1String(chapter.key))) << chapter.key;
        const QRegularExpression picture(QStringLiteral("!\\[[^\\]]*\\]\\([^)]*/([^/)]+)\\)"));
        for (auto it = picture.globalMatch(text); it.hasNext();)
            EXPECT_FALSE(QImage(QStringLiteral(":/manual/") + it.next().captured(1)).isNull()) << chapter.key;
    }
    EXPECT_FALSE(manual.openAt(QStringLiteral("none")));
}

TEST_F(Find, TheManualsCommandsRun) {
    int ran = 0;
    for (const auto& chapter : app::chapters())
        for (const QString& line : app::chapterText(QLatin1String(chapter.key)).split(QLatin1Char('\n'))) {
            if (!line.startsWith(QLatin1String("    amber-throttle rehearse")))
                continue;
            QStringList words = line.simplified().split(QLatin1Char(' ')).mid(1);
            for (QString& w : words)
                if (w.startsWith(QLatin1String("data/")))
                    w = QString::fromStdString(test::dataFolder()) + w.mid(4);
            EXPECT_EQ(test::run(words).code, 0) << line.toStdString();
            ++ran;
        }
    EXPECT_GE(ran, 1);
}

TEST(Glossary, EveryTermHasAMeaningAndIsThereOnce) {
    std::set<QString> terms;
    EXPECT_GT(app::glossary().size(), 60u);
    for (const auto& term : app::glossary()) {
        EXPECT_TRUE(terms.insert(term.term).second) << term.term.toStdString() << " twice";
        EXPECT_GT(term.meaning.size(), 12) << term.term.toStdString();
    }
    const auto read =
        app::readGlossary(QStringLiteral("| term | meaning | not |\n|---|---|---|\n| a | b c. | d; e f |\n"));
    ASSERT_EQ(read.size(), 1u);
    EXPECT_EQ(read[0].not_, QStringList({"d", "e f"}));
}
} // namespace
