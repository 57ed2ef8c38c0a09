// SPDX-License-Identifier: GPL-3.0-or-later
// Every page of every type at sizes from a small laptop's to a large screen's: nothing wider than the window, nothing
// cut off at a side, nothing on top of another thing, and no page taller than its scroll.
#include "kit/theme.h"
#include "shell/snapshot.h"
#include "store/data_folder.h"
#include "thorough.h"
#include "window_fixture.h"
#include <QScrollBar>

namespace {
using namespace amber;
using test::KeptWindow;

constexpr std::array<std::pair<int, int>, 5> sizes{{{1024, 600}, {1280, 720}, {1366, 768}, {1920, 1080}, {3840, 2160}}};
const QString longName = QStringLiteral("A name of no fewer than sixty letters, as some of them have");

class Sizes : public KeptWindow {
protected:
    /// Labels, fields, lists and pictures that show on the page and hold nothing of the page themselves.
    static std::vector<QWidget*> leaves(const QWidget& page) {
        std::vector<QWidget*> out;
        for (auto* widget : page.findChildren<QWidget*>()) {
            const bool leaf = qobject_cast<QLabel*>(widget) || qobject_cast<QComboBox*>(widget) ||
                              qobject_cast<QLineEdit*>(widget) || qobject_cast<app::RowView*>(widget) ||
                              qobject_cast<app::DrillView*>(widget) || widget->inherits("QCustomPlot");
            if (leaf && widget->isVisible() && !qobject_cast<QAbstractItemView*>(widget->parentWidget()) &&
                !(qobject_cast<QLabel*>(widget) && static_cast<QLabel*>(widget)->text().isEmpty()) &&
                !qobject_cast<QComboBox*>(widget->parentWidget()))
                out.push_back(widget);
        }
        return out;
    }
    static std::string nameOf(const QWidget* w) {
        return std::string(w->metaObject()->className()) + " \"" + w->objectName().toStdString() + "\"";
    }
    void holds(const std::string& where) { holds(where, window->page()); }
    void holds(const std::string& where, QWidget& page) {
        EXPECT_LE(window->minimumSizeHint().width(), 1024) << where;
        EXPECT_LE(window->minimumSizeHint().height(), 600) << where;
        const auto all = leaves(page);
        std::vector<QRect> places;
        for (auto* w : all) {
            const QRect place(w->mapTo(&page, QPoint()), w->size());
            places.push_back(place);
            EXPECT_GE(place.left(), 0) << where << " " << nameOf(w);
            EXPECT_LE(place.right(), page.width()) << where << " " << nameOf(w) << " is cut off at the right";
            if (auto* rows = qobject_cast<app::RowView*>(w))
                EXPECT_EQ(rows->verticalScrollBar()->maximum(), 0) << where << " " << nameOf(w) << " hides lines";
            if (auto* rows = qobject_cast<app::RowView*>(w))
                for (int i = 0; i < rows->rows().rowCount(); ++i)
                    EXPECT_TRUE(app::namesFit(*rows, i)) << where << " " << nameOf(w) << ": "
                                                         << rows->rows().index(i, 0).data().toString().toStdString();
            if (auto* label = qobject_cast<QLabel*>(w); label && label->hasHeightForWidth())
                EXPECT_GE(label->height() + 2, label->heightForWidth(label->width())) << where << " " << nameOf(w);
        }
        for (std::size_t i = 0; i < all.size(); ++i)
            for (std::size_t j = i + 1; j < all.size(); ++j) {
                if (all[i]->isAncestorOf(all[j]) || all[j]->isAncestorOf(all[i]))
                    continue;
                const QRect both = places[i].intersected(places[j]);
                EXPECT_FALSE(both.width() > 2 && both.height() > 2)
                    << where << ": " << nameOf(all[i]) << " and " << nameOf(all[j]) << " overlap";
            }
        // (Record's table scrolls in a low window: the readings' own rows are many.)
        if (auto* table = page.findChild<QTableView*>();
            table && table->isVisible() && !qobject_cast<app::ReadTable*>(table)) {
            EXPECT_EQ(table->verticalScrollBar()->maximum(), 0) << where << ": lines of the sheet are hidden";
            for (int r = 0; r < table->model()->rowCount(); ++r)
                for (int c = 0; c < app::RunUpModel::firstEngine; ++c) {
                    const QString text = table->model()->index(r, c).data().toString();
                    EXPECT_LE(QFontMetrics(app::face(13, c == 0)).horizontalAdvance(text), table->columnWidth(c) - 8)
                        << where << ": " << text.toStdString();
                }
        }
        // The strip's fields stand inside the window too.
        for (auto* edit : window->strip().findChildren<QLineEdit*>())
            if (edit->isVisible())
                EXPECT_LE(edit->mapTo(window.get(), QPoint(edit->width(), 0)).x(), window->width()) << where;
    }
};

class SizesOf : public Sizes, public testing::WithParamInterface<std::size_t> {
protected:
    /// Whoever rehearses: how it begins, hands in a start that is led, the debrief, a question.
    void rehearseFits(const std::string& where) {
        // A short way: a hand that flies for hours lays nothing out otherwise.
        Sortie near = document().sortie();
        near.flight.distance = Distance::of(40, units::nauticalMile);
        near.flight.legs.clear();
        near.flight.over.clear();
        ASSERT_EQ(document().edit(near, QStringLiteral("near")), QString());
        window->openRehearsal();
        const auto seated = [&](const char* what) {
            test::settle();
            holds(where + ", rehearse, " + what, window->seatFrame());
        };
        seated("begin");
        rehearse::Setup setup;
        setup.from = Phase::walkRound;
        window->seat().sit(setup, rehearse::Way::led);
        window->seat().pause(true);
        window->seatFrame().showHands();
        seated("hands");
        window->seatFrame().showDebrief();
        seated("debrief");
        window->seatFrame().openCards();
        seated("question");
        window->closeRehearsal();
        document().undoStack().undo();
    }
    /// What is read: where most is, and where least.
    void recordFits(const std::string& where) {
        window->openRecord();
        for (const Phase phase : {Phase::start, Phase::runUp, Phase::cruise, Phase::load, Phase::writeUp}) {
            window->showPhase(phase);
            test::settle();
            EXPECT_TRUE(window->recording()) << where;
            holds(where + ", record, " + std::string(keyOf(phase)), window->recordFrame());
            EXPECT_EQ(window->height(), sizes[GetParam()].second) << where << ", record, " << keyOf(phase);
            const auto& table = window->recordFrame().table();
            int wide = 0;
            for (int c = 0; c < table.model()->columnCount(); ++c)
                wide += table.columnWidth(c);
            EXPECT_LE(wide, table.viewport()->width()) << where << ": columns are cut off";
        }
        window->closeRecord();
    }
    /// Whether a type is opened in this size at all.
    static bool opens(std::size_t type) { return test::thorough() || GetParam() == 0 || type % 4 == GetParam() - 1; }
    /// Whether a type's pages of a phase (the last of all: trouble) are looked at in this size. A thorough
    /// run looks at all of them; else the smallest sees a sixth of the pairs of type and phase, each of the others
    /// half the phases of a quarter of the types, the largest a quarter of them.
    static bool looksAt(std::size_t type, std::size_t phase) {
        if (test::thorough())
            return true;
        const std::size_t share = GetParam() == 0 ? 6 : GetParam() + 1 == sizes.size() ? 4 : 2;
        return GetParam() == 0 ? (type + phase) % share == 0 : (type / 4 + phase) % share == 0;
    }
};

TEST_P(SizesOf, EveryPageOfEveryTypeFits) {
    const auto [width, height] = sizes[GetParam()];
    answer = app::MainWindow::Unsaved::discard;
    // Where things are is asked here; that they are painted, in the smallest size (and by other tests).
    window->setUpdatesEnabled(GetParam() == 0);
    const auto all = app::demoSorties();
    for (std::size_t d = 0; d < all.size(); ++d) {
        if (!opens(d))
            continue;
        const auto& demo = all[d];
        ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/%1.toml").arg(QLatin1String(demo.file)))));
        // Names as long as they come.
        Sortie s = document().sortie();
        s.airframe.registration = s.day.field = s.flight.to = s.flight.over = longName.toStdString();
        ASSERT_TRUE(document().edit(s, QStringLiteral("names")).isEmpty());
        window->resize(width, height);
        for (std::size_t i = 0; i < plannedPhases; ++i)
            for (const auto* row : app::pagesOf(phaseNames[i].phase, document())) {
                if (!looksAt(d, i))
                    continue;
                window->showPhase(phaseNames[i].phase);
                window->page().showPage(row->key);
                test::settle();
                const std::string where = std::string(demo.file) + " " + std::string(phaseNames[i].key) + " " +
                                          std::string(row->key) + " at " + std::to_string(width) + " × " +
                                          std::to_string(height);
                EXPECT_EQ(window->size(), QSize(width, height)) << where;
                holds(where);
                if (HasFatalFailure())
                    return;
            }
        const std::string at = std::string(demo.file) + " at " + std::to_string(width) + " × " + std::to_string(height);
        if (test::thorough() || d / 4 == GetParam() % 3)
            rehearseFits(at);
        if (test::thorough() || d / 4 == (GetParam() + 1) % 3)
            recordFits(at);
        if (!looksAt(d, plannedPhases))
            continue;
        window->openTrouble();
        for (const auto& row : app::troubleTable()) {
            window->trouble().showPage(row.key);
            window->trouble().reckonNow();
            test::settle();
            const std::string where = std::string(demo.file) + " trouble " + std::string(row.key) + " at " +
                                      std::to_string(width) + " × " + std::to_string(height);
            EXPECT_EQ(window->size(), QSize(width, height)) << where;
            holds(where, window->trouble());
        }
        window->closeTrouble();
    }
    window->setUpdatesEnabled(true);
}
INSTANTIATE_TEST_SUITE_P(All, SizesOf, testing::Range<std::size_t>(0, sizes.size()),
                         [](const auto& given) { return "of" + std::to_string(sizes[given.param].first); });

TEST_F(Sizes, LargeScreensAreUsed) {
    open("lorimer-spring", Phase::climb);
    const int rows1280 = rows("set").width(), picture1280 = on<app::PhaseChart>().height(),
              score1280 = window->score().height();
    window->resize(1920, 1080);
    test::settle();
    EXPECT_GT(rows("set").width(), rows1280 * 1.35);
    EXPECT_GT(on<app::PhaseChart>().height(), picture1280 * 1.3);
    EXPECT_GT(window->score().height(), score1280 * 1.2);
}

TEST_F(Sizes, TheBorderOfTheScoreIsDraggedAndKept) {
    auto* halves = window->findChild<QSplitter*>(QStringLiteral("halves"));
    const int before = window->score().height();
    QTest::mousePress(halves->handle(1), Qt::LeftButton, {}, QPoint(200, 2));
    QTest::mouseMove(halves->handle(1), QPoint(200, -78));
    QTest::mouseRelease(halves->handle(1), Qt::LeftButton, {}, QPoint(200, -78));
    test::settle();
    const int dragged = window->score().height();
    EXPECT_NEAR(dragged, before + 80, 6);
    answer = app::MainWindow::Unsaved::discard;
    window->close();
    app::MainWindow again(scratch.filePath(QStringLiteral("settings.ini")), autosaves());
    again.resize(1280, 800);
    again.show();
    ASSERT_TRUE(again.openPath(lorimer()));
    test::settle();
    EXPECT_NEAR(again.score().height(), dragged, 6);
}

TEST_F(Sizes, APageThatDoesNotFitScrollsToTheLineThatIsChosen) {
    open("lorimer-spring", Phase::takeOff);
    window->resize(1024, 600);
    test::settle();
    auto* area = window->page().findChild<app::PageScroll*>();
    ASSERT_GT(area->verticalScrollBar()->maximum(), 0);
    auto& set = rows("set");
    set.setFocus();
    for (int i = 0; i < set.model()->rowCount(); ++i) {
        QTest::keyClick(&set, Qt::Key_Down);
        const QRect line = set.visualRect(set.currentIndex());
        const QRect seen(set.mapTo(area->viewport(), line.topLeft()), line.size());
        EXPECT_GE(seen.top(), 0) << i;
        EXPECT_LE(seen.bottom(), area->viewport()->height()) << i;
    }
}
} // namespace
