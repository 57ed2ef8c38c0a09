// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures and fields of heat, by mouse and key: read-outs, zoom, the clock, fields that the pages hang on, printing.
#include "advice/cool_down.h"
#include "advice/let_down.h"
#include "command_runner.h"
#include "print/card.h"
#include "store/data_folder.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QProcess>
#include <qcustomplot.h>

namespace {
using namespace amber;
using test::command;
using test::KeptWindow;

class HeatViews : public KeptWindow {
protected:
    QCustomPlot* plot() { return on<app::HeatChart>().findChild<QCustomPlot*>(); }
};

TEST_F(HeatViews, CtrlSpaceGoesRoundThePagesOfEveryPhase) {
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const Phase phase = phaseNames[i].phase;
        window->showPhase(phase);
        const auto pages = app::pagesOf(phase, document());
        window->page().showPage(pages.front()->key);
        for (std::size_t n = 1; n <= pages.size(); ++n) {
            QTest::keyClick(window.get(), Qt::Key_Space, Qt::ControlModifier);
            EXPECT_EQ(window->page().pageKey(), pages[n % pages.size()]->key) << keyOf(phase);
        }
        auto* choice = window->page().findChild<QComboBox*>(QStringLiteral("page-choice"));
        if (pages.size() > 1) {
            ASSERT_TRUE(choice->isVisible()) << keyOf(phase);
            EXPECT_EQ(choice->count(), static_cast<int>(pages.size())) << keyOf(phase);
        }
    }
}

TEST_F(HeatViews, APageIsKeptWhenOneComesBackToItsPhase) {
    open("lorimer-spring", Phase::climb, "cooling");
    window->showPhase(Phase::cruise);
    EXPECT_EQ(window->page().pageKey(), "settings");
    window->showPhase(Phase::climb);
    EXPECT_EQ(window->page().pageKey(), "cooling");
    EXPECT_TRUE(on<app::HeatChart>().isVisible());
    const auto& chart = on<app::HeatChart>();
    window->page().showPage("settings");
    EXPECT_FALSE(chart.isVisible());
    EXPECT_TRUE(rows("set").isVisible());
}

TEST_F(HeatViews, ThePictureZoomsByKeyAndReadsOut) {
    open("farrier-summer", Phase::climb, "cooling");
    const QCPRange whole = plot()->xAxis->range();
    plot()->setFocus();
    QTest::keyClick(plot(), Qt::Key_Plus);
    EXPECT_LT(plot()->xAxis->range().size(), whole.size());
    QTest::keyClick(plot(), Qt::Key_Minus);
    QTest::keyClick(plot(), Qt::Key_Home);
    test::settle();
    EXPECT_NEAR(plot()->xAxis->range().size(), whole.size(), 1e-6);
    const QPoint middle = plot()->axisRect()->rect().center();
    const QString read = on<app::HeatChart>().readOut(middle);
    EXPECT_TRUE(read.contains(QStringLiteral("kt"))) << read.toStdString();
    EXPECT_TRUE(read.contains(QStringLiteral("°C")));
    QTest::mouseMove(plot(), middle);
    QTest::mouseDClick(plot(), Qt::LeftButton, {}, middle);
    EXPECT_NEAR(plot()->xAxis->range().size(), whole.size(), 1e-6);
}

TEST_F(HeatViews, EveryPictureHasItsLinesAndATitleInTheCockpitsUnits) {
    struct Want {
        const char* demo;
        Phase phase;
        std::string_view page;
        int graphs;
        const char* unit;
    };
    for (const auto& [demo, phase, page, graphs, unit] : {Want{"mercer-frost", Phase::warmUp, "engines", 8, "°C"},
                                                          Want{"ostler-bush", Phase::warmUp, "engines", 6, "°F"},
                                                          Want{"lorimer-spring", Phase::climb, "bands", 3, "°C"},
                                                          Want{"thatcher-lesson", Phase::climb, "cooling", 4, "°F"},
                                                          Want{"tinker-damp", Phase::letDown, "schedule", 2, "°F"},
                                                          Want{"sexton-meadow", Phase::stop, "afterwards", 2, "°C"}}) {
        open(demo, phase, page);
        EXPECT_GE(plot()->graphCount(), graphs) << demo;
        EXPECT_TRUE(on<app::HeatChart>().title().contains(QString::fromUtf8(unit)))
            << on<app::HeatChart>().title().toStdString();
        int texts = 0;
        for (int i = 0; i < plot()->itemCount(); ++i)
            if (const auto* text = qobject_cast<QCPItemText*>(plot()->item(i)))
                texts += text->text().isEmpty() ? 0 : 1;
        EXPECT_GT(texts, 1) << demo << ": lines are named on the chart";
    }
}

TEST_F(HeatViews, TheBandsOfTheClimbEndAtItsTop) {
    open("collier-high", Phase::climb, "bands");
    const QString text = figures();
    EXPECT_TRUE(text.contains(QStringLiteral("19,000 ft"))) << text.toStdString();
    EXPECT_TRUE(text.contains(QStringLiteral("neutral")));
    EXPECT_TRUE(text.contains(QStringLiteral("high")));
    EXPECT_TRUE(text.contains(QStringLiteral("Throttle back")));
    type("oat", QStringLiteral("30\t"));
    EXPECT_NE(figures(), text) << "the page follows the day";
}

TEST_F(HeatViews, BlanksAreFittedOnThePageAndWarmTheOil) {
    open("tanner-winter", Phase::warmUp, "engines");
    auto* blanks = window->page().findChild<QComboBox*>(QStringLiteral("blanks"));
    ASSERT_NE(blanks, nullptr);
    ASSERT_TRUE(blanks->isVisible());
    const double before = *document().plan().flown.minutesToRunUp;
    blanks->setCurrentIndex(1);
    emit blanks->activated(1);
    EXPECT_TRUE(document().sortie().start.blanks);
    EXPECT_LE(*document().plan().flown.minutesToRunUp, before);
    EXPECT_TRUE(figures().contains(QStringLiteral("take them off")));
    document().undoStack().undo();
    EXPECT_FALSE(document().sortie().start.blanks);
    EXPECT_EQ(blanks->currentIndex(), 0) << "the field follows the undo";
}

TEST_F(HeatViews, AForecastIsTypedAndWrongOnesAreRefused) {
    open("tanner-winter", Phase::stop, "settings");
    ASSERT_NE(field("forecast"), nullptr);
    type("forecast", QStringLiteral("-28"));
    QTest::keyClick(field("forecast"), Qt::Key_Return);
    ASSERT_TRUE(document().sortie().forecast);
    EXPECT_NEAR(document().sortie().forecast->in(units::celsius), -28, 1e-6);
    const auto colder = advice::coolDown(document().aircraft(), document().sortie(), document().plan().flown);
    ASSERT_TRUE(colder.dilute);
    EXPECT_GT(*colder.dilute, 180);
    type("forecast", QStringLiteral("freezing"));
    QTest::keyClick(field("forecast"), Qt::Key_Return);
    EXPECT_NEAR(document().sortie().forecast->in(units::celsius), -28, 1e-6) << "kept";
    EXPECT_TRUE(window->message().contains(QStringLiteral("lowest temperature"))) << window->message().toStdString();
}

TEST_F(HeatViews, TheBudgetIsChosenByMouseAndItsClockClicked) {
    open("farrier-summer", Phase::runUp, "budget");
    auto& view = on<app::GroundBudgetView>();
    const int rows = static_cast<int>(view.budget().runs.size());
    ASSERT_GT(rows, 3);
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(60, 62 + 34 * 2 + 10));
    EXPECT_EQ(view.selected(), 2);
    for (int i = 0; i < rows + 3; ++i)
        QTest::keyClick(&view, Qt::Key_Down);
    EXPECT_EQ(view.selected(), rows - 1) << "it stays on the last";
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(view.width() - 100, 20));
    EXPECT_TRUE(view.clockRuns());
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(view.width() - 100, 20));
    EXPECT_FALSE(view.clockRuns());
    view.select(0);
    const auto& first = view.budget().runs.front();
    EXPECT_TRUE(view.words(0).contains(QStringLiteral("amber")));
    EXPECT_EQ(view.clockText(*first.toAmber + 1e6),
              first.toRed ? QStringLiteral("over the limit: stop") : QStringLiteral("amber"));
    // The queue typed on the page is weighed against it.
    type("oat", QStringLiteral("26\t"));
    type("hold", QStringLiteral("1\t"));
    EXPECT_TRUE(figures().contains(QStringLiteral("fits"))) << figures().toStdString();
    type("hold", QStringLiteral("25\t"));
    EXPECT_TRUE(figures().contains(QStringLiteral("longer than"))) << figures().toStdString();
}

TEST_F(HeatViews, ScheduleSaysWhatThePlanFlew) {
    open("tinker-damp", Phase::letDown, "schedule");
    const QString text = figures();
    for (const auto& step : document().plan().flown.letDown) {
        EXPECT_TRUE(text.contains(
            QString::fromStdString(formatHeight(step.height.si(), *document().aircraft().notes.cockpit.height))))
            << text.toStdString();
    }
    EXPECT_TRUE(text.contains(QStringLiteral("our own figure"))) << "the notes give no rate";
    open("lorimer-spring", Phase::letDown, "schedule");
    EXPECT_TRUE(figures().contains(QStringLiteral("the notes&#39; most")) ||
                figures().contains(QStringLiteral("the notes' most")));
}

TEST_F(HeatViews, TheSheetMovesByArrowsAndTypingBegins) {
    open("lorimer-spring", Phase::runUp, "sheet");
    auto& table = pageAs<app::RunUpPage>().table();
    auto& model = pageAs<app::RunUpPage>().model();
    table.setFocus();
    table.setCurrentIndex(model.index(0, app::RunUpModel::firstEngine));
    QTest::keyClick(&table, Qt::Key_Down);
    QTest::keyClick(&table, Qt::Key_Right);
    EXPECT_EQ(table.currentIndex(), model.index(1, app::RunUpModel::firstEngine + 1));
    QTest::keyClick(&table, Qt::Key_2);
    auto* editor = qobject_cast<QLineEdit*>(QApplication::focusWidget());
    ASSERT_NE(editor, nullptr) << "a digit begins a reading";
    QTest::keyClicks(editor, QStringLiteral("10"));
    QTest::keyClick(editor, Qt::Key_Return);
    // The editor commits when it has seen the key itself, and the table moves on when it has closed.
    EXPECT_TRUE(QTest::qWaitFor([&] { return table.currentIndex().row() == 2; }, 2000)) << "on to the next line";
    EXPECT_EQ(model.cell(model.index(1, app::RunUpModel::firstEngine + 1))->shown, "210 rpm");
    EXPECT_EQ(document().undoStack().count(), 1);
    // A reading of the whole aircraft stands in one place.
    for (int r = 0; r < model.rowCount(); ++r)
        if (model.line(r)->cells.size() == 1) {
            EXPECT_NE(model.cell(model.index(r, app::RunUpModel::firstEngine)), nullptr);
            EXPECT_EQ(model.cell(model.index(r, app::RunUpModel::firstEngine + 1)), nullptr);
            EXPECT_FALSE(model.flags(model.index(r, app::RunUpModel::firstEngine + 1)).testFlag(Qt::ItemIsSelectable));
        }
    EXPECT_EQ(model.headerData(app::RunUpModel::firstEngine, Qt::Horizontal, Qt::DisplayRole).toString(),
              QStringLiteral("Port"));
    EXPECT_TRUE(model.data(model.index(0, 0), Qt::ToolTipRole).toString().contains(QStringLiteral("oil")));
}

TEST_F(HeatViews, ReadingsAreSavedWithTheSortieAndPrintedOnTheCard) {
    open("lorimer-spring", Phase::runUp, "sheet");
    Sortie s = document().sortie();
    s.runUpFound["left/1"] = "60 rpm";
    s.runUpFound["right/1"] = "140 rpm, slow";
    ASSERT_TRUE(document().edit(s, QStringLiteral("reading")).isEmpty());
    const QString path = scratch.filePath(QStringLiteral("demo/read.toml")),
                  pdf = scratch.filePath(QStringLiteral("c.pdf"));
    ASSERT_TRUE(document().save(path).isEmpty());
    ASSERT_TRUE(window->openPath(path));
    EXPECT_EQ(document().sortie().runUpFound.at("right/1"), "140 rpm, slow");
    ASSERT_TRUE(app::writeCardPdf(pdf, document().plan(), document().aircraft(), document().sortie()).isEmpty());
    QProcess reader;
    reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), pdf, QStringLiteral("-")});
    ASSERT_TRUE(reader.waitForFinished());
    const QString card = QString::fromUtf8(reader.readAllStandardOutput());
    EXPECT_TRUE(card.contains(QStringLiteral("140 rpm, slow"))) << "as it was read";
    EXPECT_TRUE(card.contains(QStringLiteral("______"))) << "and blanks to fill in";
    EXPECT_TRUE(card.contains(QStringLiteral("Clear it"))) << "with what to do";
}

TEST_F(HeatViews, BothThemesDrawEveryHeatPage) {
    for (const auto theme : {app::ThemeKind::day, app::ThemeKind::hangar}) {
        window->setTheme(theme);
        for (const auto& [phase, page] : {std::pair{Phase::warmUp, "engines"}, std::pair{Phase::runUp, "sheet"},
                                          std::pair{Phase::runUp, "budget"}, std::pair{Phase::climb, "cooling"}}) {
            window->showPhase(phase);
            window->page().showPage(page);
            test::settle();
            const QImage image = window->page().grab().toImage();
            // Paper at a corner, and ink somewhere that stands out from it.
            const int paper = image.pixelColor(2, image.height() - 3).lightness();
            EXPECT_EQ(paper > 128, theme == app::ThemeKind::day);
            int inked = 0;
            for (int y = 0; y < image.height(); y += 3)
                for (int x = 0; x < image.width(); x += 3)
                    inked += std::abs(image.pixelColor(x, y).lightness() - paper) > 110 ? 1 : 0;
            EXPECT_GT(inked, 600) << page;
        }
    }
}

TEST(HeatSnapshots, OneViewIsOnePictureOfTheSizeAsked) {
    QTemporaryDir scratch;
    const std::string png = scratch.filePath(QStringLiteral("t.png")).toStdString();
    ASSERT_EQ(command({"snapshot", "--view", "lorimer-climb-bands", "--out", png, "--size", "1300x820"}).code, 0);
    EXPECT_EQ(QImage(QString::fromStdString(png)).size(), QSize(1300, 820));
    EXPECT_EQ(command({"snapshot", "--view", "nowhere", "--out", png}).code, 2);
}

} // namespace
