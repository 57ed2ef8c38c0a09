// SPDX-License-Identifier: GPL-3.0-or-later
// What the Sortie menu writes: plan, card and power chart, and what it says when it cannot.
#include "command_runner.h"
#include "engine/power_chart.h"
#include "plan/plan_export.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QImage>
#include <QLabel>
#include <QMenuBar>
#include <QStatusBar>

namespace {
using namespace amber;
using test::Window;

class ExportMenu : public Window {
protected:
    /// Chooses an action of the menus by a part of its text.
    bool choose(const QString& part) {
        for (auto* menu : window->menuBar()->actions())
            for (auto* action : menu->menu()->actions())
                if (QString(action->text()).remove(QLatin1Char('&')).contains(part)) {
                    action->trigger();
                    return true;
                }
        return false;
    }
    QByteArray written(const QString& part, const QString& name) {
        file = scratch.filePath(name);
        EXPECT_TRUE(choose(part)) << part.toStdString();
        return contents(file);
    }
};

TEST_F(ExportMenu, ThePlanIsWrittenAsTheCommandLineWritesIt) {
    const QByteArray json = written(QStringLiteral("Plan as JSON"), QStringLiteral("p.json"));
    EXPECT_EQ(json.toStdString(), plan::planJson(document().aircraft(), document().sortie(), document().plan(), true));
    const auto shell = test::run({QStringLiteral("plan"), lorimer(), QStringLiteral("--json")});
    EXPECT_EQ(json, shell.out) << "one figure, one way to say it";
    const QByteArray csv = written(QStringLiteral("Plan as CSV"), QStringLiteral("p.csv"));
    EXPECT_EQ(csv, test::run({QStringLiteral("plan"), lorimer(), QStringLiteral("--csv")}).out);
}

TEST_F(ExportMenu, TheChartIsWrittenInThreeFormats) {
    window->showPhase(Phase::climb);
    const QByteArray svg = written(QStringLiteral("chart as SVG"), QStringLiteral("c.svg"));
    EXPECT_TRUE(svg.startsWith("<?xml"));
    EXPECT_TRUE(svg.contains("</svg>"));
    const QByteArray png = written(QStringLiteral("chart as PNG"), QStringLiteral("c.png"));
    const QImage image = QImage::fromData(png);
    EXPECT_GE(image.width(), 1000);
    EXPECT_GE(image.height(), 500);
    const QByteArray csv = written(QStringLiteral("chart as CSV"), QStringLiteral("c.csv"));
    const auto& a = document().aircraft();
    const Rotation rpm = document().plan().flown[Phase::climb].setting.rpm;
    EXPECT_EQ(csv.toStdString(), engine::chartCsv(a.notes, engine::powerChart(a.notes, a.model(), rpm)));
    const auto shell = test::command({"chart", "--notes", test::notesOf("lorimer-l4"), "--variant", a.notes.variant,
                                      "--rpm", std::to_string(rpm.si() * 60), "--csv"});
    EXPECT_EQ(csv, shell.out) << "menu and command line write the same table";
    // Of the phase that is shown, as the pictures are.
    window->showPhase(Phase::takeOff);
    const Rotation takeOff = document().plan().flown[Phase::takeOff].setting.rpm;
    ASSERT_GT(takeOff, rpm);
    EXPECT_EQ(written(QStringLiteral("chart as CSV"), QStringLiteral("t.csv")).toStdString(),
              engine::chartCsv(a.notes, engine::powerChart(a.notes, a.model(), takeOff)));
}

TEST_F(ExportMenu, TheCardIsWrittenWithTheSheet) {
    const QByteArray pdf = written(QStringLiteral("Card as PDF"), QStringLiteral("card.pdf"));
    EXPECT_TRUE(pdf.startsWith("%PDF"));
    EXPECT_GT(pdf.size(), 20000);
}

TEST_F(ExportMenu, APlaceThatCannotBeWrittenIsToldAndNothingIsLost) {
    for (const char* what : {"Plan as JSON", "Plan as CSV", "chart as SVG", "chart as CSV"}) {
        file = QStringLiteral("/proc/none/x");
        EXPECT_TRUE(choose(QLatin1String(what)));
        bool told = false;
        for (const auto* label : window->findChildren<QLabel*>())
            told = told || (label->isVisible() && label->text().contains(QStringLiteral("/proc/none")));
        told = told || window->statusBar()->currentMessage().contains(QStringLiteral("/proc/none"));
        EXPECT_TRUE(told) << what;
    }
    EXPECT_FALSE(document().isModified());
}

TEST_F(ExportMenu, NoFileChosenWritesNothing) {
    file.clear();
    const auto before = QDir(scratch.path()).entryList(QDir::Files);
    for (const char* what : {"Plan as JSON", "chart as PNG", "chart as CSV", "Card as PDF"}) {
        EXPECT_TRUE(choose(QLatin1String(what))) << what;
    }
    EXPECT_EQ(QDir(scratch.path()).entryList(QDir::Files), before);
}

TEST_F(ExportMenu, TheChartThatIsWrittenCarriesTheReadingOnScreen) {
    window->showPhase(Phase::climb);
    window->page().showPage("chart");
    test::settle();
    auto& chart = on<app::PowerChartView>();
    auto* plot = chart.findChild<QWidget*>();
    QTest::keyClick(plot, Qt::Key_Down);
    QTest::keyClick(plot, Qt::Key_Down);
    const QString steps = chart.steps().join(QLatin1Char(' '));
    const auto& c = *chart.construction();
    EXPECT_TRUE(steps.contains(QString::fromStdString(format(c.boost.si(), *units::manifold::inHg.spec))))
        << steps.toStdString();
    EXPECT_TRUE(steps.contains(QString::fromStdString(format(c.read.si(), *units::horsepower.spec))));
    EXPECT_TRUE(steps.contains(QString::fromStdString(format(c.model.si(), *units::horsepower.spec))));
    const QByteArray svg = written(QStringLiteral("chart as SVG"), QStringLiteral("c.svg"));
    EXPECT_TRUE(svg.contains(format(c.seaLevel.si(), *units::horsepower.spec).c_str())) << "point A";
}
TEST_F(ExportMenu, TheCardIsOfferedBesideTheSortie) {
    QString suggested;
    window->askFile = [&](const QString&, const QString& suggestion, const QString&, bool) {
        suggested = suggestion;
        return QString();
    };
    QTest::keyClick(window.get(), Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(suggested.toStdString(),
              QString(lorimer()).replace(QStringLiteral(".toml"), QStringLiteral(".pdf")).toStdString());
}

} // namespace
