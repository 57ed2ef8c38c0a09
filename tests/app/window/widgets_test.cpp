// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/captioned.h"
#include "kit/inline_field.h"
#include "kit/row_view.h"
#include "kit/theme.h"
#include "settle.h"
#include "shell/metar_dialog.h"
#include "shell/problems_dialog.h"
#include "store/data_folder.h"
#include "store/settings.h"
#include "store/sortie_document.h"
#include <QDir>
#include <QFile>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTemporaryDir>
#include <QtTest>
#include <cmath>
#include <gtest/gtest.h>

using namespace amber;
using namespace amber::app;

namespace {

/// A field on a plain number, with its history of what was applied.
struct NumberField {
    double value = 10;
    std::vector<int> gestures;
    InlineField field{QStringLiteral("Number"),
                      QStringLiteral("number"),
                      {[this] { return QString::number(value); },
                       [this](const QString& text, int gesture) {
                           bool ok = false;
                           const double read = text.toDouble(&ok);
                           if (!ok)
                               return QStringLiteral("not a number");
                           value = read;
                           gestures.push_back(gesture);
                           return QString();
                       },
                       [this](int steps, int gesture) {
                           value += steps;
                           gestures.push_back(gesture);
                           return QString();
                       },
                       {}}};
    QWidget other;
    NumberField() {
        field.refresh();
        field.show();
        other.setFocusPolicy(Qt::StrongFocus);
        field.activateWindow();
        field.editor()->setFocus();
        amber::test::settle();
    }
};

TEST(InlineField, AppliesWhileTyped) {
    NumberField n;
    n.field.editor()->selectAll();
    QTest::keyClicks(n.field.editor(), QStringLiteral("25"));
    EXPECT_EQ(n.value, 25);
    ASSERT_EQ(n.gestures.size(), 2u);
    EXPECT_EQ(n.gestures[0], n.gestures[1]) << "one stay is one gesture";
    EXPECT_TRUE(n.field.error().isEmpty());
}

TEST(InlineField, KeepsWhatCannotBeReadWhileTypingAndRestoresOnEscape) {
    NumberField n;
    n.field.editor()->selectAll();
    QTest::keyClicks(n.field.editor(), QStringLiteral("2x"));
    EXPECT_EQ(n.value, 2);
    EXPECT_EQ(n.field.text(), QStringLiteral("2x"));
    EXPECT_EQ(n.field.error(), QStringLiteral("not a number"));
    EXPECT_EQ(n.field.toolTip(), QStringLiteral("not a number")) << "the reason is where the eye is";
    n.value = 77;
    n.field.refresh();
    EXPECT_EQ(n.field.text(), QStringLiteral("2x")) << "a change from elsewhere does not take the pen away";
    QTest::keyClick(n.field.editor(), Qt::Key_Escape);
    EXPECT_EQ(n.field.text(), QStringLiteral("77"));
    EXPECT_TRUE(n.field.error().isEmpty());
}

TEST(InlineField, StepsWithKeysAndPages) {
    NumberField n;
    QTest::keyClick(n.field.editor(), Qt::Key_Up);
    QTest::keyClick(n.field.editor(), Qt::Key_PageUp);
    QTest::keyClick(n.field.editor(), Qt::Key_Down);
    EXPECT_EQ(n.value, 20);
    EXPECT_EQ(n.field.text(), QStringLiteral("20"));
}

TEST(InlineField, EveryDragIsAGestureOfItsOwn) {
    NumberField n;
    auto* caption = n.field.findChild<QLabel*>();
    const auto drag = [&](int from, int to) {
        QTest::mousePress(caption, Qt::LeftButton, {}, QPoint(from, 4));
        QMouseEvent move(QEvent::MouseMove, QPointF(to, 4), caption->mapToGlobal(QPointF(to, 4)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(caption, &move);
        QTest::mouseRelease(caption, Qt::LeftButton, {}, QPoint(to, 4));
    };
    drag(0, 30);
    EXPECT_EQ(n.value, 15);
    drag(30, 0);
    EXPECT_EQ(n.value, 10);
    ASSERT_EQ(n.gestures.size(), 2u);
    EXPECT_NE(n.gestures[0], n.gestures[1]);
}

TEST(Gestures, AreNeverTheSame) {
    EXPECT_NE(newGesture(), newGesture());
}

TEST(Theme, BothCarryAllColoursAndCanBeRead) {
    for (const auto kind : {ThemeKind::day, ThemeKind::hangar}) {
        const QPalette palette = paletteFor(kind);
        const Colours c(palette);
        const auto contrast = [](const QColor& a, const QColor& b) {
            const auto luminance = [](const QColor& q) {
                const auto linear = [](double v) {
                    return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
                };
                return 0.2126 * linear(q.redF()) + 0.7152 * linear(q.greenF()) + 0.0722 * linear(q.blueF());
            };
            const double x = luminance(a), y = luminance(b);
            return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
        };
        // Readable in sun: WCAG contrast of words on paper and sheet.
        EXPECT_GT(contrast(c.ink, c.paper), 9);
        EXPECT_GT(contrast(c.ink, c.sheet), 9);
        EXPECT_GT(contrast(c.faint, c.paper), 4.5);
        EXPECT_GT(contrast(c.red, c.paper), 4.5);
        EXPECT_GT(contrast(c.amber, c.paper), 3.0);
        EXPECT_GT(contrast(c.green, c.paper), 3.0);
        EXPECT_NE(c.of(watch::Colour::red), c.of(watch::Colour::amber));
    }
}

TEST(Theme, ShapesDoubleColours) {
    // The marks differ in what they cover, not only in colour.
    std::vector<int> covered;
    for (const auto colour : {watch::Colour::normal, watch::Colour::amber, watch::Colour::red}) {
        QImage image(40, 40, QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter p(&image);
        drawColourMark(p, QPointF(20, 20), colour, Colours(paletteFor(ThemeKind::day)), 10);
        p.end();
        int count = 0;
        for (int y = 0; y < 40; ++y)
            for (int x = 0; x < 40; ++x)
                count += image.pixelColor(x, y).lightness() < 200 ? 1 : 0;
        covered.push_back(count);
    }
    EXPECT_NE(covered[0], covered[1]);
    EXPECT_NE(covered[1], covered[2]);
    EXPECT_GT(covered[2], covered[0]) << "a square covers more than its disc";
}

TEST(Theme, TheFontThatShipsIsTheOneUsed) {
    EXPECT_EQ(QFontInfo(face(14)).family(), fontFamily());
    EXPECT_TRUE(QFontInfo(face(14, true)).bold());
    EXPECT_EQ(QFontInfo(face(14)).pixelSize(), 14);
}

TEST(RowView, GrowsWithItsWordsAndSpeaks) {
    plan::SetLine shortLine, longLine;
    shortLine.what = longLine.what = "Throttle";
    shortLine.value = "39 inHg";
    longLine.value = "open by degrees to the stop, wait, and look at all four gauges before letting go of the lever";
    shortLine.why = "because";
    RowView view(QStringLiteral("rows"));
    view.resize(360, 400);
    view.show();
    view.put({shortLine});
    const int one = view.contentHeight();
    view.put({shortLine, longLine});
    EXPECT_GT(view.contentHeight(), 2 * one) << "long settings wrap";
    EXPECT_EQ(view.model()->index(0, 0).data().toString(), QStringLiteral("Throttle: 39 inHg (notes)"));
    EXPECT_EQ(view.model()->index(0, 0).data(Qt::ToolTipRole).toString(), QStringLiteral("because"));
    QSignalSpy selected(&view, &RowView::rowSelected), wanted(&view, &RowView::schoolWanted);
    view.setFocus();
    view.setCurrentIndex(view.model()->index(0, 0));
    QTest::keyClick(&view, Qt::Key_Down);
    QTest::keyClick(&view, Qt::Key_Space);
    EXPECT_EQ(selected.last().front().toInt(), 1);
    EXPECT_EQ(wanted.count(), 1);
}

TEST(RowView, GaugeRowsTellTheirJudgement) {
    plan::ExpectLine e;
    e.title = "Oil temp.";
    e.text = "96 °C";
    e.verdict = watch::broken(watch::Rule::limit, "Oil temp. 96 °C is over the limit of 95 °C for Climb.");
    e.moment = "highest";
    RowView view(QStringLiteral("rows"));
    view.put({e});
    EXPECT_TRUE(view.model()->index(0, 0).data().toString().contains(QStringLiteral("(red)")));
    EXPECT_TRUE(view.model()->index(0, 0).data(Qt::ToolTipRole).toString().contains(QStringLiteral("over the limit")));
}

TEST(Settings, RememberRecentFilesNewestFirstAndForgetLostOnes) {
    QTemporaryDir scratch;
    const QString ini = scratch.filePath(QStringLiteral("s.ini"));
    QStringList files;
    for (int i = 0; i < 10; ++i) {
        files << scratch.filePath(QStringLiteral("f%1.toml").arg(i));
        QFile f(files.last());
        ASSERT_TRUE(f.open(QIODevice::WriteOnly));
    }
    {
        Settings s(ini);
        for (const auto& f : files)
            s.addRecent(f);
        s.addRecent(files[5]);
        s.setTheme(ThemeKind::hangar);
    }
    Settings again(ini);
    EXPECT_EQ(again.recentFiles().size(), 8);
    EXPECT_EQ(again.recentFiles().front(), files[5]);
    EXPECT_EQ(again.recentFiles().count(files[5]), 1);
    EXPECT_EQ(again.theme(), ThemeKind::hangar);
    QFile::remove(files[5]);
    EXPECT_NE(again.recentFiles().front(), files[5]);
    again.forgetRecent(files[9]);
    EXPECT_FALSE(again.recentFiles().contains(files[9]));
}

TEST(MetarDialog, TellsWhileTypedAndOnlyThenCanBeUsed) {
    MetarDialog dialog({}, [](const air::MetarReading&) { return QString(); });
    dialog.show();
    auto* text = dialog.findChild<QPlainTextEdit*>(QStringLiteral("metar-text"));
    auto* verdict = dialog.findChild<QLabel*>(QStringLiteral("metar-verdict"));
    QPushButton* use = nullptr;
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text() == QStringLiteral("Use it"))
            use = button;
    ASSERT_NE(use, nullptr);
    EXPECT_FALSE(use->isEnabled());
    QTest::keyClicks(text, QStringLiteral("XXRF 25"));
    EXPECT_FALSE(use->isEnabled());
    EXPECT_FALSE(verdict->text().isEmpty());
    QTest::keyClicks(text, QStringLiteral("0650Z 06/03 Q1009"));
    EXPECT_TRUE(use->isEnabled());
    EXPECT_TRUE(verdict->text().contains(QStringLiteral("Not given, left as it was: wind")));
}

TEST(ProblemsDialog, ListsEveryProblemWithItsRemedy) {
    auto* dialog = new ProblemsDialog(QStringLiteral("x.toml"),
                                      {{"x.toml", 3, "a is wrong", "Write b"}, {"x.toml", 9, "c is missing", "Add c"}});
    const QString text = dialog->findChild<QPlainTextEdit*>(QStringLiteral("problem-list"))->toPlainText();
    EXPECT_TRUE(text.contains(QStringLiteral("x.toml:3: a is wrong. Write b")));
    EXPECT_TRUE(text.contains(QStringLiteral("x.toml:9: c is missing. Add c")));
    delete dialog;
}

TEST(Demo, EverySortieOfTheMenuIsThere) {
    EXPECT_EQ(demoSorties().size(), 12u);
    for (const auto& d : demoSorties())
        EXPECT_TRUE(QFile::exists(demoSortie(QLatin1String(d.file)))) << d.file;
}

TEST(WriteAtomically, LeavesNoLitterAndReplacesWhole) {
    QTemporaryDir scratch;
    const QString path = scratch.filePath(QStringLiteral("a.txt"));
    EXPECT_TRUE(writeAtomically(path, "first, which is longer").isEmpty());
    EXPECT_TRUE(writeAtomically(path, "second").isEmpty());
    QFile f(path);
    ASSERT_TRUE(f.open(QIODevice::ReadOnly));
    EXPECT_EQ(f.readAll(), "second");
    EXPECT_EQ(QDir(scratch.path()).entryList(QDir::Files).size(), 1);
    EXPECT_FALSE(writeAtomically(scratch.filePath(QStringLiteral("no/such/folder/a.txt")), "x").isEmpty());
}

} // namespace
