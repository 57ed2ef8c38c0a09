// SPDX-License-Identifier: GPL-3.0-or-later
// What is looked for first is whole and in view without scrolling: memory items on every type, their picture beside
// them.
#include "charts/drill_view.h"
#include "charts/trouble_chart.h"
#include "thorough.h"
#include "window_fixture.h"
#include <QAbstractScrollArea>

namespace {
using namespace amber;

class AtAGlance : public test::KeptWindow {
protected:
    /// The part of the page that is in view, in the page's own pixels.
    static QRect view(QWidget& page) {
        QWidget* area = page.parentWidget();
        while (area && !qobject_cast<QAbstractScrollArea*>(area))
            area = area->parentWidget();
        auto* viewport = static_cast<QAbstractScrollArea*>(area)->viewport();
        return {page.mapFrom(viewport, QPoint()), viewport->size()};
    }
    /// All types in a thorough run, else every third of them from the first.
    [[nodiscard]] QStringList types(qsizetype from) const {
        const auto all = QDir(scratch.filePath(QStringLiteral("demo"))).entryList({QStringLiteral("*.toml")});
        QStringList out;
        for (qsizetype i = 0; i < all.size(); ++i)
            if (test::thorough() || i % 3 == from)
                out << all[i];
        return out;
    }
    void openTroubleAt(const char* page, QSize size) {
        window->resize(size);
        window->openTrouble();
        window->trouble().showPage(page);
        window->trouble().reckonNow();
        test::settle();
    }
};

TEST_F(AtAGlance, MemoryItemsOfAnEngineFailureAreWholeOnEveryTypeAndTheirPictureToo) {
    const auto demos = types(0);
    for (const QString& demo : demos)
        for (const QSize size : {QSize(1024, 600), QSize(1280, 800)}) {
            open(demo.chopped(5).toUtf8().constData(), Phase::climb);
            openTroubleAt("engine-fails", size);
            auto& page = window->trouble().page();
            const auto where = demo.toStdString() + " at " + std::to_string(size.width());
            auto* drill = page.findChild<app::DrillView*>();
            const QRect seen = view(page);
            const int memory = drill->mapTo(&page, QPoint()).y() + drill->memoryBottom();
            EXPECT_GT(drill->memoryBottom(), 60) << where;
            EXPECT_LE(memory, seen.bottom() + 1) << where << ": memory items run below the edge";
            EXPECT_EQ(seen.top(), 0) << where;
            if (size.width() >= 1280) {
                auto* chart = page.findChild<app::TroubleChart*>();
                const QRect place(chart->mapTo(&page, QPoint()), chart->size());
                EXPECT_TRUE(chart->isVisible()) << where;
                EXPECT_GE(place.height(), 180) << where;
                EXPECT_LE(place.bottom(), seen.bottom()) << where << ": the picture is cut off";
            }
            window->closeTrouble();
        }
}

TEST_F(AtAGlance, ThePicturesOfGoAroundAndFewerEnginesAreWhole) {
    for (const char* demo : {"lorimer-spring", "mercer-frost", "farrier-summer", "thatcher-lesson"})
        for (const char* key : {"go-round", "few-engines"}) {
            open(demo, Phase::landing);
            openTroubleAt(key, QSize(1280, 800));
            auto& page = window->trouble().page();
            auto* chart = page.findChild<app::TroubleChart*>();
            if (!chart || !chart->isVisible())
                continue; // a single has no fewer engines
            const QRect seen = view(page), place(chart->mapTo(&page, QPoint()), chart->size());
            EXPECT_LE(place.bottom(), seen.bottom()) << demo << " " << key;
            window->closeTrouble();
        }
}

TEST_F(AtAGlance, ThePictureOfAPhaseIsWholeOnEveryType) {
    const auto demos = types(1);
    for (const QString& demo : demos)
        for (const Phase phase : {Phase::climb, Phase::cruise}) {
            open(demo.chopped(5).toUtf8().constData(), phase);
            auto& page = window->page().page();
            auto* chart = page.findChild<app::PhaseChart*>(QStringLiteral("phase-chart"));
            const QRect seen = view(page), place(chart->mapTo(&page, QPoint()), chart->size());
            const auto where = demo.toStdString() + " " + std::string(keyOf(phase));
            EXPECT_GE(place.height(), 95) << where;
            // Where the columns over it leave less than that, a strip of it may be under the edge.
            const int spare = seen.height() - place.top();
            if (spare >= 110)
                EXPECT_LE(place.bottom(), seen.bottom() + 1) << where << ": the picture is cut off";
        }
}

TEST_F(AtAGlance, SmallerRoomLeavesNothingOfADrillOut) {
    open("mercer-frost", Phase::climb);
    openTroubleAt("engine-fails", QSize(1280, 800));
    auto* drill = window->trouble().page().findChild<app::DrillView*>();
    const QString all = drill->text();
    const int large = drill->memoryBottom();
    drill->setRoom(300);
    EXPECT_LT(drill->memoryBottom(), large);
    EXPECT_EQ(drill->text(), all);
    drill->setRoom(0);
    EXPECT_GE(drill->memoryBottom(), large);
}
} // namespace
