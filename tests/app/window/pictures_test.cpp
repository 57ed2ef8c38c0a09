// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/data_folder.h"
#include "units/unit_table.h"
#include "window_fixture.h"
#include <QHelpEvent>
#include <QMenuBar>
#include <QMessageBox>
#include <QPrintDialog>
#include <QTimer>
#include <qcustomplot.h>

using namespace amber;
using test::KeptWindow;

namespace {
/// One window, worked in from one test to the next.
class OneWindowPictured : public KeptWindow {};

QCustomPlot* plotOf(app::MainWindow& window) {
    return window.page().page().findChild<app::PhaseChart*>()->findChild<QCustomPlot*>();
}

TEST_F(OneWindowPictured, TheHandleOnThePictureIsDraggedByTheMouse) {
    window->showPhase(Phase::climb);
    test::settle();
    auto* plot = plotOf(*window);
    ASSERT_NE(plot, nullptr);
    const auto& sortie = document().sortie();
    const double before = sortie.flight.cruiseHeight.si();
    const auto& top = document().plan().flown.samples[document().plan().flown[Phase::climb].lastSample];
    const UnitSpec& boost = *units::manifold::inHg.spec;
    const auto at = [&](double metres) {
        const double feet = sortie.day.pressureAltitudeOf(Length::si(metres)).in(units::foot);
        return QPoint(qRound(plot->xAxis->coordToPixel(feet)),
                      qRound(plot->yAxis->coordToPixel((top[Gauge::boost] - boost.offset) / boost.scale)));
    };
    const QPoint from = at(before), to = at(before - 900);
    QTest::mousePress(plot, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 5; ++i) {
        const QPoint p = from + (to - from) * i / 5;
        QMouseEvent move(QEvent::MouseMove, QPointF(p), plot->mapToGlobal(QPointF(p)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(plot, &move);
    }
    QTest::mouseRelease(plot, Qt::LeftButton, {}, to);
    EXPECT_NEAR(document().sortie().flight.cruiseHeight.si(), before - 900, 60);
    EXPECT_EQ(document().undoStack().count(), 1) << "one drag, one undo";
    document().undoStack().undo();
    EXPECT_EQ(document().sortie().flight.cruiseHeight.si(), before);
}

TEST_F(OneWindowPictured, ThePictureZoomsByKeyAndStaysWhileValuesChange) {
    window->showPhase(Phase::cruise);
    test::settle();
    auto* plot = plotOf(*window);
    const QCPRange whole = plot->xAxis->range();
    plot->setFocus();
    QTest::keyClick(plot, Qt::Key_Plus);
    const QCPRange zoomed = plot->xAxis->range();
    EXPECT_LT(zoomed.size(), whole.size());
    type("oat", QStringLiteral("9"));
    EXPECT_NEAR(plot->xAxis->range().size(), zoomed.size(), 1e-6) << "an edit does not throw the view away";
    QTest::keyClick(plot, Qt::Key_Home);
    EXPECT_NEAR(plot->xAxis->range().size(), whole.size(), 1e-6);
    const double before = document().sortie().flight.cruiseHeight.in(units::foot);
    QTest::keyClick(plot, Qt::Key_Left);
    EXPECT_NEAR(document().sortie().flight.cruiseHeight.in(units::foot), before - 500, 1e-6)
        << "the height moves by key too";
}

TEST_F(OneWindowPictured, ThePictureReadsOutInItsUnits) {
    window->showPhase(Phase::climb);
    test::settle();
    const QString climb = on<app::PhaseChart>().readOut(QPoint(200, 60));
    EXPECT_TRUE(climb.contains(QStringLiteral("ft")) && climb.contains(QStringLiteral("inHg"))) << climb.toStdString();
    window->showPhase(Phase::letDown);
    test::settle();
    EXPECT_TRUE(on<app::PhaseChart>().readOut(QPoint(200, 60)).contains(QStringLiteral("°C")));
    EXPECT_FALSE(app::PhaseChart::hasPicture(Phase::walkRound));
}

TEST_F(OneWindowPictured, TheScoreTellsItsMarksAndFollowsTheDay) {
    auto& score = window->score();
    const auto& marks = document().plan().marks;
    ASSERT_FALSE(marks.empty());
    const auto change =
        std::find_if(marks.begin(), marks.end(), [](const plan::Mark& m) { return m.text.starts_with("Blower"); });
    ASSERT_NE(change, marks.end());
    const double before = change->time;
    type("oat", QStringLiteral("30"));
    const auto& later = document().plan().marks;
    const auto moved =
        std::find_if(later.begin(), later.end(), [](const plan::Mark& m) { return m.text.starts_with("Blower"); });
    ASSERT_NE(moved, later.end());
    EXPECT_NE(moved->time, before) << "the gear change moves with the day";
    EXPECT_GT(score.xOf(moved->time), 0);
    EXPECT_TRUE(score.readings(0).size() == 7);
}

TEST_F(OneWindowPictured, TheScorePansOnlyWhenZoomed) {
    auto& score = window->score();
    const auto drag = [&](int from, int to) {
        QTest::mousePress(&score, Qt::LeftButton, {}, QPoint(from, 100));
        QMouseEvent move(QEvent::MouseMove, QPointF(to, 100), score.mapToGlobal(QPointF(to, 100)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(&score, &move);
        QTest::mouseRelease(&score, Qt::LeftButton, {}, QPoint(to, 100));
    };
    const Phase shownBefore = window->page().phase();
    score.zoom(0.3, 4000);
    const double left = score.timeAt(200);
    drag(600, 500);
    EXPECT_GT(score.timeAt(200), left);
    EXPECT_EQ(window->page().phase(), shownBefore) << "a drag is not a click";
}

TEST_F(OneWindowPictured, ThePrintDialogueOpensForTheCard) {
    bool seen = false;
    // A modal dialogue runs its own loop: look at it from inside and leave.
    QTimer timer;
    timer.setInterval(30);
    QObject::connect(&timer, &QTimer::timeout, [&] {
        if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) {
            seen = seen || qobject_cast<QPrintDialog*>(dialog) != nullptr;
            dialog->reject();
        }
    });
    timer.start();
    QTimer::singleShot(3000, [&] {
        if (auto* dialog = QApplication::activeModalWidget())
            dialog->close();
    });
    QTest::keyClick(window.get(), Qt::Key_P, Qt::ControlModifier);
    timer.stop();
    EXPECT_TRUE(seen);
}

TEST_F(OneWindowPictured, HelpListsTheKeys) {
    QTest::keyClick(window.get(), Qt::Key_F1, Qt::ShiftModifier);
    auto* box = window->findChild<QDialog*>(QStringLiteral("keys"));
    ASSERT_NE(box, nullptr);
    const QString text = box->findChild<QTextBrowser*>()->toPlainText();
    for (const char* key : {"Ctrl+S", "Ctrl+Z", "Ctrl+M", "Ctrl+6", "Alt+4", "Ctrl+T", "F2", "Ctrl+Space",
                            "height of the reading", "from station to station", "does not catch"})
        EXPECT_TRUE(text.contains(QLatin1String(key))) << key;
    EXPECT_LE(box->height(), window->height()) << "never taller than the window";
    box->close();
}

TEST_F(OneWindowPictured, ExportsAreWrittenFromTheMenu) {
    for (const char* kind : {"pdf", "json", "csv"}) {
        file = scratch.filePath(QStringLiteral("out.%1").arg(QLatin1String(kind)));
        for (auto* menu : window->menuBar()->actions())
            for (auto* action : menu->menu()->actions())
                if (action->text().remove(QLatin1Char('&')).contains(QString::fromLatin1(kind).toUpper()))
                    action->trigger();
        EXPECT_GT(QFileInfo(file).size(), 500) << kind;
        EXPECT_TRUE(window->message().contains(QStringLiteral("Written to"))) << window->message().toStdString();
    }
}

} // namespace
