// SPDX-License-Identifier: GPL-3.0-or-later
// Power chart, choosing a cruise and the lever map, driven as a pilot drives them.
#include "print/chart_print.h"
#include "sortie/airframe_file.h"
#include "store/data_folder.h"
#include "units/text.h"
#include "watch/judge.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QLabel>
#include <QPdfWriter>
#include <QProcess>

namespace {
using namespace amber;
using test::KeptWindow;

class EnginePages : public KeptWindow {
protected:
    QString text(const char* label) { return window->page().findChild<QLabel*>(QLatin1String(label))->text(); }
};

TEST_F(EnginePages, TheChartConstructsTheReadingOfThePlan) {
    open("lorimer-spring", Phase::climb, "chart");
    auto& chart = on<app::PowerChartView>();
    EXPECT_TRUE(chart.isVisible());
    ASSERT_TRUE(chart.construction());
    EXPECT_NEAR(chart.construction()->rpm.si() * 60, 2350, 0.5);
    EXPECT_EQ(chart.steps().size(), 5);
    EXPECT_TRUE(text("steps").contains(QStringLiteral("Join A and B")));
    const double model = chart.construction()->model.si();
    EXPECT_NEAR(chart.construction()->corrected.si() / model, 1, 0.015) << "the paper's way and the model agree";
}

TEST_F(EnginePages, WhatTheLogHasTaughtStandsOnThePagesWithItsOrigin) {
    open("lorimer-spring", Phase::cruise);
    EXPECT_FALSE(text("notices").contains(QStringLiteral("Needles:")));
    const QString path = scratch.filePath(QStringLiteral("airframes/hr-k.toml"));
    LearntLine heads{"head", "1", 6.0, 20, "2025-04-14", "2025-09-01", {}, true, "2025-09-02", "R. Vane"};
    heads.model = powerplant::markOfModel(document().aircraft());
    LearntLine fuel = heads;
    fuel.what = "fuel";
    fuel.engine.clear();
    fuel.value = 1.05;
    const auto taught = withLearnt(contents(path).toStdString(), path.toStdString(), {heads, fuel});
    ASSERT_TRUE(taught) << taught.error();
    write(path, QByteArray::fromStdString(taught.value()));
    open("lorimer-spring", Phase::cruise);
    const double model = [&] {
        for (const auto& e : document().plan()[Phase::cruise].expect)
            if (e.gauge == Gauge::headTemperature)
                return e.value;
        return 0.0;
    }();
    const auto needle = watch::asRead(document().aircraft().notes, Gauge::headTemperature, model + 6.0);
    const auto shown = format(needle, document().aircraft().notes.unitOf(Gauge::headTemperature));
    EXPECT_TRUE(text("notices").contains(
        QStringLiteral("<b>Needles:</b> Head temp., Port %1 (logged)").arg(QString::fromStdString(shown))))
        << text("notices").toStdString();
    window->page().showPage("choose");
    const auto headed = [&](const QString& words) {
        for (const auto* label : window->page().page().findChildren<QLabel*>())
            if (label->text() == words)
                return true;
        return false;
    };
    EXPECT_TRUE(headed(QStringLiteral("Settings that give it (model, fuel logged)")));
    window->page().showPage("best");
    test::settle();
    EXPECT_TRUE(headed(QStringLiteral("Best for today's wind and weight (model, fuel logged)")));
}

TEST_F(EnginePages, KeysMoveTheReadingAndAllFollows) {
    open("lorimer-spring", Phase::climb, "chart");
    auto& chart = on<app::PowerChartView>();
    auto* plot = chart.findChild<QWidget*>();
    const auto before = chart.reading();
    const double read = chart.construction()->read.si();
    const QString steps = text("steps");
    QTest::keyClick(plot, Qt::Key_Right);
    EXPECT_GT(chart.reading().height, before.height);
    EXPECT_GT(chart.construction()->read.si(), read) << "constant boost: power rises with height";
    QTest::keyClick(plot, Qt::Key_Down);
    EXPECT_LT(chart.reading().boost, before.boost);
    QTest::keyClick(plot, Qt::Key_PageDown);
    EXPECT_LT(chart.reading().rpm, before.rpm);
    QTest::keyClick(plot, Qt::Key_G);
    EXPECT_EQ(chart.reading().gear, 1u);
    EXPECT_NE(text("steps"), steps);
    QTest::keyClick(plot, Qt::Key_Home);
    EXPECT_EQ(chart.reading().height, before.height);
    EXPECT_EQ(chart.reading().gear, before.gear);
}

TEST_F(EnginePages, TheChartIsWrittenAsSvgAndPng) {
    open("lorimer-spring", Phase::climb, "chart");
    const QByteArray svg = on<app::PowerChartView>().svg(1100, 620), png = on<app::PowerChartView>().png(1100, 620);
    EXPECT_TRUE(svg.contains("<svg"));
    const auto& c = *on<app::PowerChartView>().construction();
    EXPECT_TRUE(svg.contains(format(c.corrected.si(), *units::horsepower.spec).c_str()) ||
                svg.contains(format(c.read.si(), *units::horsepower.spec).c_str()))
        << "the construction is on it";
    EXPECT_TRUE(png.startsWith("\x89PNG"));
    EXPECT_GT(png.size(), 10000);
}

TEST_F(EnginePages, TheChartIsPrintedWithItsConstruction) {
    open("lorimer-spring", Phase::climb, "chart");
    const QString path = scratch.filePath(QStringLiteral("chart.pdf"));
    {
        QPdfWriter writer(path);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageOrientation(QPageLayout::Landscape);
        app::paintChart(writer, on<app::PowerChartView>().svg(1100, 620), QStringLiteral("Lorimer L.4"),
                        on<app::PowerChartView>().steps());
    }
    QProcess reader;
    reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), path, QStringLiteral("-")});
    ASSERT_TRUE(reader.waitForFinished());
    const QString text = QString::fromUtf8(reader.readAllStandardOutput());
    EXPECT_TRUE(text.contains(QStringLiteral("Lorimer L.4")));
    EXPECT_TRUE(text.contains(QStringLiteral("Join A and B"))) << text.toStdString();
}

TEST_F(EnginePages, EveryTypeDrawsItsChartAndItsChoices) {
    for (const auto& demo : app::demoSorties()) {
        open(demo.file, Phase::climb, "chart");
        EXPECT_FALSE(on<app::PowerChartView>().steps().isEmpty()) << demo.file;
        EXPECT_EQ(window->size(), QSize(1280, 800)) << demo.file;
        window->showPhase(Phase::cruise);
        window->page().showPage("choose");
        test::settle();
        EXPECT_EQ(window->size(), QSize(1280, 800)) << demo.file;
        EXPECT_FALSE(text("moves").isEmpty()) << demo.file;
    }
}

TEST_F(EnginePages, AnAskedPowerGivesCandidatesAndOneIsTakenAndUndone) {
    open("lorimer-spring", Phase::cruise, "choose");
    auto& page = pageAs<app::ChooseCruisePage>();
    page.ask(flight::Ask::power, 800 * 745.7);
    ASSERT_GE(page.candidates().size(), 2u);
    for (const auto& p : page.candidates())
        EXPECT_NEAR(p.point.power.si() / (800 * 745.7), 1, 0.01);
    const auto wanted = page.candidates()[1];
    auto& settings = rows("sequence");
    settings.setFocus();
    settings.setCurrentIndex(settings.model()->index(2, 0)); // under the heading
    QTest::keyClick(&settings, Qt::Key_Return);
    EXPECT_NEAR(document().sortie().flight.cruiseRpm->si(), wanted.setting.rpm.si(), 1e-9);
    EXPECT_NEAR(document().plan().flown[Phase::cruise].point.power.si() / (800 * 745.7), 1, 0.01);
    document().undoStack().undo();
    EXPECT_FALSE(document().sortie().flight.cruiseRpm);
}

TEST_F(EnginePages, ItIsAskedInAnyDirection) {
    open("lorimer-spring", Phase::cruise, "choose");
    auto* ask = window->page().findChild<QComboBox*>(QStringLiteral("ask"));
    ASSERT_NE(ask, nullptr);
    ASSERT_EQ(ask->count(), 5);
    for (int i = 0; i < 5; ++i) {
        ask->setCurrentIndex(i);
        emit ask->activated(i);
        EXPECT_FALSE(pageAs<app::ChooseCruisePage>().candidates().empty()) << ask->currentText().toStdString();
        EXPECT_FALSE(shown(rows("sequence")).isEmpty());
    }
    type("asked", QStringLiteral("9000 nm"));
    EXPECT_TRUE(pageAs<app::ChooseCruisePage>().candidates().empty());
    EXPECT_TRUE(text("moves").contains(QStringLiteral("No permitted setting"))) << text("moves").toStdString();
}

TEST_F(EnginePages, TheLeversGoBoostFirstFromTheClimb) {
    open("lorimer-spring", Phase::cruise, "choose");
    const auto& path = on<app::LeverMap>().path();
    ASSERT_EQ(path.moves.size(), 2u);
    EXPECT_FALSE(path.moves[0].rpmLever);
    EXPECT_TRUE(text("moves").contains(QStringLiteral("boost first")));
}

TEST_F(EnginePages, TheLeanTestIsReadForThePilot) {
    open("lorimer-spring", Phase::cruise, "choose");
    auto* test = window->page().findChild<QComboBox*>(QStringLiteral("lean-test"));
    test->setCurrentIndex(1);
    emit test->activated(1);
    EXPECT_TRUE(text("moves").contains(QStringLiteral("It was rich")));
    test->setCurrentIndex(2);
    emit test->activated(2);
    EXPECT_TRUE(text("moves").contains(QStringLiteral("It was not rich")));
}

TEST_F(EnginePages, ATypedCruiseIsPlannedAndARatingTakesItBack) {
    open("lorimer-spring", Phase::cruise, "settings");
    type("cruise-rpm", QStringLiteral("1900"));
    EXPECT_NEAR(document().plan().flown[Phase::cruise].setting.rpm.si() * 60, 1900, 0.01);
    type("cruise-boost", QStringLiteral("60"));
    EXPECT_LE(document().plan().flown[Phase::cruise].point.manifoldPressure,
              ManifoldPressure::of(39.01, units::manifold::inHg))
        << "never past the notes' limit";
    auto* rating = window->page().findChild<QComboBox*>(QStringLiteral("cruise-rating"));
    emit rating->activated(rating->currentIndex());
    EXPECT_FALSE(document().sortie().flight.cruiseRpm);
    EXPECT_FALSE(document().sortie().flight.cruiseBoost);
}
} // namespace
