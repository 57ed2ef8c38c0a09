// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing cut off and nothing on top of another thing at 1280 × 800.
#include "thorough.h"
#include "window_fixture.h"
#include <QTextDocument>
#include <qcustomplot.h>

namespace {
using namespace amber;
using test::KeptWindow;

class PagesFit : public KeptWindow {
protected:
    /// Every text of a plot that shows, with its place.
    static std::vector<std::pair<QRectF, QString>> texts(QCustomPlot& plot) {
        std::vector<std::pair<QRectF, QString>> out;
        plot.replot(QCustomPlot::rpImmediateRefresh);
        for (int i = 0; i < plot.itemCount(); ++i)
            if (auto* t = qobject_cast<QCPItemText*>(plot.item(i)); t && t->visible())
                out.emplace_back(
                    QRectF(t->topLeft->pixelPosition(), t->bottomRight->pixelPosition()).adjusted(2, 2, -2, -2),
                    t->text());
        return out;
    }
    static void apart(QCustomPlot& plot, const std::string& where) {
        const auto all = texts(plot);
        for (std::size_t i = 0; i < all.size(); ++i)
            for (std::size_t j = i + 1; j < all.size(); ++j)
                EXPECT_FALSE(all[i].first.intersects(all[j].first)) << where << ": \"" << all[i].second.toStdString()
                                                                    << "\" on \"" << all[j].second.toStdString() << '"';
    }
    void headlineIsWhole(const std::string& where) const {
        auto* beside = window->findChild<QLabel*>(QStringLiteral("headline"));
        auto* below = window->findChild<QLabel*>(QStringLiteral("headline-below"));
        EXPECT_NE(beside->text().isEmpty(), below->isHidden()) << where << ": in one place";
        for (auto* label : {beside, below})
            if (!label->isHidden()) {
                EXPECT_LE(QFontMetrics(label->font()).horizontalAdvance(label->text()), label->width()) << where;
                EXPECT_FALSE(label->text().contains(QChar(0x2026))) << where;
            }
    }
    void comparisonIsWhole(const std::string& where) const {
        auto* comparison = window->findChild<QLabel*>(QStringLiteral("comparison"));
        if (!comparison || !comparison->isVisible())
            return;
        QTextDocument document;
        document.setDocumentMargin(0); // as a label has it
        document.setDefaultFont(comparison->font());
        document.setHtml(comparison->text());
        document.setTextWidth(comparison->width());
        EXPECT_LE(document.size().width(), comparison->width() + 1)
            << where << ": " << comparison->text().toStdString();
        EXPECT_LE(document.size().height(), comparison->height() + 2) << where;
    }
    void noLineIsHidden(const std::string& where) const {
        auto& page = window->page();
        for (auto* view : page.page().findChildren<app::RowView*>())
            EXPECT_TRUE(!view->isVisible() || view->verticalScrollBar()->maximum() == 0)
                << where << " " << view->objectName().toStdString();
        for (auto* area : page.findChildren<QScrollArea*>())
            // A whole drill may be longer than the page: it is scrolled, by little more than a page.
            EXPECT_LE(area->verticalScrollBar()->maximum(), area->viewport()->height() * 6 / 5) << where;
        EXPECT_EQ(window->size(), QSize(1280, 800)) << "the page fits the window: " << where;
    }
    void pictureIsThere(Phase phase, const std::string& where) const {
        auto* chart = window->page().page().findChild<app::PhaseChart*>();
        ASSERT_EQ(chart && chart->isVisible(), app::PhaseChart::hasPicture(phase)) << where;
        if (!app::PhaseChart::hasPicture(phase))
            return;
        EXPECT_GT(chart->findChild<QCustomPlot*>()->graphCount(), 1) << where;
        EXPECT_FALSE(chart->title().isEmpty()) << where;
        EXPECT_GT(chart->width(), 580) << "the picture has the whole width: " << where;
    }
    QStringList demos() const {
        return QDir(scratch.filePath(QStringLiteral("demo"))).entryList({QStringLiteral("*.toml")});
    }
};

// One walk through all of it, looked at in every way on the way: opening and laying out is what costs.
TEST_F(PagesFit, EveryPhaseOfEveryDemoIsWholeAndHasItsPicture) {
    answer = app::MainWindow::Unsaved::discard;
    std::size_t type = 0;
    for (const QString& name : demos()) {
        ++type;
        ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/") + name)));
        for (std::size_t i = 0; i < plannedPhases; ++i) {
            if (!test::thorough() && (type + i) % 3 != 0)
                continue;
            const Phase phase = phaseNames[i].phase;
            window->showPhase(phase);
            window->page().showPage(app::pagesOf(phase, document()).front()->key);
            test::settle();
            const auto where = name.toStdString() + " " + std::string(phaseNames[i].title);
            headlineIsWhole(where);
            comparisonIsWhole(where);
            noLineIsHidden(where);
            pictureIsThere(phase, where);
            for (const char* page : {"priming", "order", "settings"})
                if (phase == Phase::start) {
                    window->page().showPage(page);
                    test::settle();
                    noLineIsHidden(where + " " + page);
                }
            for (int station = 1; phase == Phase::walkRound && station < on<app::WalkRoundView>().stations();
                 ++station) {
                QTest::keyClick(&on<app::WalkRoundView>(), Qt::Key_Right);
                test::settle();
                noLineIsHidden(where + " station " + std::to_string(station + 1));
            }
        }
    }
}

TEST_F(PagesFit, FiguresOfTheSmallChartsStandApart) {
    answer = app::MainWindow::Unsaved::discard;
    for (const QString& name : demos()) {
        ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/") + name)));
        window->showPhase(Phase::cruise);
        test::settle();
        apart(*on<app::PhaseChart>().findChild<QCustomPlot*>(), name.toStdString());
    }
}

TEST_F(PagesFit, WordsOfThePowerChartStandApartAtEveryHeight) {
    for (const char* demo : {"lorimer-spring", "farrier-summer", "collier-high", "chandler-haven"}) {
        open(demo, Phase::climb, "chart");
        auto& chart = on<app::PowerChartView>();
        auto reading = chart.reading();
        for (const double height : {0.0, 100.0, 500.0, 1200.0, 3000.0, 6000.0}) {
            reading.height = Length::si(height);
            chart.read(reading);
            test::settle();
            apart(chart.plot(), std::string(demo) + " at " + std::to_string(height) + " m");
        }
    }
}

TEST_F(PagesFit, NoNameOfAGroundFuelIsCut) {
    answer = app::MainWindow::Unsaved::discard;
    for (const QString& name : demos()) {
        ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/") + name)));
        window->showPhase(Phase::walkRound);
        test::settle();
        auto* fuel = window->findChild<app::RowView*>(QStringLiteral("ground-fuel"));
        for (int i = 0; fuel->isVisible() && i < fuel->rows().rowCount(); ++i)
            EXPECT_TRUE(app::namesFit(*fuel, i)) << name.toStdString() << " row " << i;
    }
}

TEST_F(PagesFit, ALongReasonDoesNotWidenTheWindow) {
    for (const char* name : {"elevation", "wind", "weight"}) {
        type(name, QStringLiteral("999999999999999999999999999999999999999999999 furlongs of nothing in particular"));
        QTest::keyClick(field(name), Qt::Key_Tab);
        test::settle();
        EXPECT_TRUE(window->message().contains(QStringLiteral("was not taken"))) << name;
        EXPECT_LE(window->minimumSizeHint().width(), 1280) << name;
        EXPECT_EQ(window->width(), 1280) << name;
    }
}

TEST_F(PagesFit, ALongNameDoesNotWidenTheWindow) {
    const QString name = QStringLiteral("A field with a name of no fewer than sixty letters, at least");
    ASSERT_EQ(name.size(), 60);
    type("field", name);
    QTest::keyClick(field("field"), Qt::Key_Tab);
    Sortie s = document().sortie();
    s.airframe.registration = name.toStdString();
    s.flight.to = name.toStdString();
    s.flight.over = name.toStdString();
    ASSERT_TRUE(document().edit(s, QStringLiteral("names")).isEmpty());
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        window->showPhase(phaseNames[i].phase);
        test::settle();
        EXPECT_LE(window->minimumSizeHint().width(), 1280) << phaseNames[i].title;
        EXPECT_EQ(window->width(), 1280) << phaseNames[i].title;
    }
}

} // namespace
