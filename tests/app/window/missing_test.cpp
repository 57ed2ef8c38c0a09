// SPDX-License-Identifier: GPL-3.0-or-later
// What to look for next in the booklet, from the window.
#include "shell/missing_dialog.h"
#include "window_fixture.h"
#include <QElapsedTimer>

namespace {
using namespace amber;

class LookForNext : public test::Window {
protected:
    /// The whole file of docs/own-aircraft.md, as somebody copies it.
    QString shortest() {
        QString out;
        for (const auto& line :
             QString::fromUtf8(contents(q(test::dataFolder() + "/../docs/own-aircraft.md"))).split('\n'))
            if (line.startsWith(QStringLiteral("       ")))
                out += line.mid(7) + '\n';
            else if (!out.isEmpty() && !line.isEmpty())
                break;
        const QString path = scratch.filePath(QStringLiteral("shortest.toml"));
        write(path, out.toUtf8());
        return path;
    }
    static QString q(const std::string& s) { return QString::fromStdString(s); }
};

TEST_F(LookForNext, OfTheShortestNotesTheFuelFlowStandsFirstAndEachRowSaysWhatItMoves) {
    ASSERT_TRUE(window->openPath(shortest()));
    auto* missing = window->showMissing();
    ASSERT_NE(missing, nullptr);
    QElapsedTimer since;
    since.start();
    while (!missing->isDone() && since.elapsed() < 120000)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 200);
    ASSERT_TRUE(missing->isDone());
    const auto& model = *missing->list().model();
    ASSERT_GT(model.rowCount(), 8);
    EXPECT_TRUE(missing->shown(0).contains(QStringLiteral("a fuel flow in one line")))
        << missing->shown(0).toStdString();
    bool taxi = false;
    for (int row = 0; row < model.rowCount(); ++row) {
        EXPECT_TRUE(missing->shown(row).contains(QStringLiteral("±"))) << missing->shown(row).toStdString();
        taxi = taxi || missing->shown(row).startsWith(QStringLiteral("[warming] taxi:"));
    }
    EXPECT_TRUE(taxi);
    EXPECT_TRUE(missing->list().currentIndex().isValid()) << "the keyboard begins at the first";
    if (const auto to = qEnvironmentVariable("AMBER_LOOK"); !to.isEmpty())
        missing->grab().save(to);
}

// A demo sortie, whose notes lie beside it: only its consumption is an estimate.
TEST_F(LookForNext, OfADemoSortieTheNotesAreFound) {
    ASSERT_TRUE(window->openPath(lorimer()));
    auto* missing = window->showMissing();
    ASSERT_NE(missing, nullptr);
    QElapsedTimer since;
    since.start();
    while (!missing->isDone() && since.elapsed() < 120000)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 200);
    ASSERT_EQ(missing->list().model()->rowCount(), 1);
    const QString shown = missing->shown(0), mark = QStringLiteral("fuel ± ");
    const double percent = shown.mid(shown.indexOf(mark) + mark.size()).section(QLatin1Char(' '), 0, 0).toDouble();
    EXPECT_NEAR(percent, 7.0, 0.3) << shown.toStdString() << ": 7 % either way, less where idling burns what it must";
}

TEST_F(LookForNext, ClosedWhileItFliesItEnds) {
    ASSERT_TRUE(window->openPath(shortest()));
    const auto before = writeSortie(document().sortie(), document().aircraft().notes.cockpit);
    QPointer<app::MissingDialog> missing = window->showMissing();
    ASSERT_FALSE(missing.isNull());
    missing->close();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QApplication::processEvents();
    EXPECT_TRUE(missing.isNull());
    EXPECT_EQ(writeSortie(document().sortie(), document().aircraft().notes.cockpit), before);
}
} // namespace
