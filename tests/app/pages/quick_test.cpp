// SPDX-License-Identifier: GPL-3.0-or-later
// What makes an edit quick, without a clock: only what differs is painted, what is hidden is left alone, and a chart is
// drawn once an edit.
#include "kit/combo.h"
#include "kit/rich_label.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QSignalSpy>
#include <qcustomplot.h>

namespace {
using namespace amber;
using app::PhasePage;

TEST(RichLabel, IsAsHighAsAPlainLabelOfTheSameWidth) {
    for (const char* text : {"one",
                             "<b>Throttles</b> Held to full-throttle height; then it falls by itself, a little more "
                             "with every thousand feet, and the engine with it.<br><br><i>Lever:</i> forward opens.",
                             "<table width='100%'><tr><td>time, min</td><td align='right'>5</td></tr></table>"}) {
        app::RichLabel ours;
        QLabel plain;
        plain.setWordWrap(true);
        plain.setTextFormat(Qt::RichText);
        for (auto* label : std::initializer_list<QLabel*>{&ours, &plain}) {
            label->setContentsMargins(3, 6, 5, 2);
            label->setText(QLatin1String(text));
        }
        for (const int width : {180, 320, 456})
            EXPECT_NEAR(ours.heightForWidth(width), plain.heightForWidth(width), 1) << text << " " << width;
        EXPECT_EQ(ours.heightForWidth(320), ours.heightForWidth(320));
    }
    app::RichLabel empty;
    EXPECT_EQ(empty.heightForWidth(300), 0);
    empty.setText(QStringLiteral("now there is something"));
    const int one = empty.heightForWidth(600);
    EXPECT_GT(one, 5);
    empty.setText(QStringLiteral("a<br>b<br>c"));
    EXPECT_NEAR(empty.heightForWidth(600), 3 * one, 2) << "another text, another height";
}

TEST(Combo, IsFilledAnewOnlyWhenItsChoicesDiffer) {
    QComboBox box;
    const QList<app::ComboChoice> two{{QStringLiteral("A"), QStringLiteral("a"), QStringLiteral("first")},
                                      {QStringLiteral("B"), QStringLiteral("b"), {}}};
    app::offer(box, two, QStringLiteral("b"));
    EXPECT_EQ(box.currentData().toString(), QStringLiteral("b"));
    EXPECT_EQ(box.itemData(0, Qt::ToolTipRole).toString(), QStringLiteral("first"));
    QSignalSpy filled(box.model(), &QAbstractItemModel::rowsInserted), told(&box, &QComboBox::currentIndexChanged);
    app::offer(box, two, QStringLiteral("a"));
    EXPECT_EQ(box.currentData().toString(), QStringLiteral("a"));
    EXPECT_EQ(filled.count(), 0);
    EXPECT_EQ(told.count(), 0) << "silently";
    app::offer(box, two.mid(1), QStringLiteral("a"));
    EXPECT_EQ(box.count(), 1);
    EXPECT_EQ(box.currentIndex(), 0) << "what is not offered leaves the first";
}

class Quick : public test::Window {
protected:
    void warmer() {
        auto* oat = field("oat");
        oat->setFocus();
        QTest::keyClick(oat, Qt::Key_Up);
    }
    app::RowView* rows(const char* name) { return window->findChild<app::RowView*>(QLatin1String(name)); }
    QLabel* comparison() { return window->findChild<QLabel*>(QStringLiteral("comparison")); }
};

TEST_F(Quick, OnlyTheRowsThatDifferAreTold) {
    window->showPhase(Phase::climb);
    test::settle();
    QSignalSpy changed(rows("set")->model(), &QAbstractItemModel::dataChanged),
        reset(rows("set")->model(), &QAbstractItemModel::modelReset),
        gauges(rows("expect")->model(), &QAbstractItemModel::dataChanged);
    warmer();
    test::settle();
    EXPECT_EQ(reset.count(), 0);
    EXPECT_LT(changed.count(), rows("set")->model()->rowCount()) << "most levers stand as they stood";
    EXPECT_GT(gauges.count(), 0) << "the temperatures move";
    EXPECT_LT(gauges.count(), rows("expect")->model()->rowCount());
}

TEST_F(Quick, AnEditDrawsTheShownChartOnceAndAHiddenOneNot) {
    window->showPhase(Phase::climb);
    test::settle();
    QCustomPlot* shown = nullptr;
    for (auto* plot : window->page().findChildren<QCustomPlot*>())
        if (plot->isVisible())
            shown = plot;
    ASSERT_NE(shown, nullptr);
    QSignalSpy drawn(shown, &QCustomPlot::afterReplot);
    warmer();
    test::settle();
    EXPECT_EQ(drawn.count(), 1);
    window->page().showPage("chart");
    test::settle();
    drawn.clear();
    warmer();
    test::settle();
    EXPECT_EQ(drawn.count(), 0);
    EXPECT_FALSE(shown->isVisible());
    // It is right again when it is shown.
    window->page().showPage("settings");
    test::settle();
    EXPECT_GE(drawn.count(), 1);
}

TEST_F(Quick, OtherDaysAreFlownAfterTheFrameAndOnlyWhereTheyAreShown) {
    window->showPhase(Phase::climb);
    test::settle();
    const QString before = comparison()->text();
    ASSERT_FALSE(before.isEmpty());
    auto* oat = field("oat");
    oat->setFocus();
    QTest::keyClick(oat, Qt::Key_Up);
    QCoreApplication::sendPostedEvents(); // the frame, without the timers behind it
    EXPECT_EQ(comparison()->text(), before);
    test::settle();
    EXPECT_NE(comparison()->text(), before);
    window->page().showPage("chart");
    test::settle();
    const QString hidden = comparison()->text();
    warmer();
    test::settle();
    EXPECT_EQ(comparison()->text(), hidden);
    window->page().showPage("settings");
    test::settle();
    EXPECT_NE(comparison()->text(), hidden);
}
} // namespace
