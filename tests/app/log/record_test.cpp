// SPDX-License-Identifier: GPL-3.0-or-later
// Record in the real window: what is typed where it is expected is on the disk, and nothing of it is lost or changed.
#include "record/log_text.h"
#include "record/planned.h"
#include "window_fixture.h"
#include <QDialog>
#include <QPushButton>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QToolButton>
#include <utility>

namespace {
using namespace amber;
using app::Book;
using record::Entry;

class RecordPage : public test::KeptWindow {
protected:
    void SetUp() override {
        KeptWindow::SetUp();
        answer = app::MainWindow::Unsaved::discard;
        book().anew();
        book().now = [this] { return clock; };
        window->showPhase(Phase::cruise);
        key(Qt::Key_F10);
        ASSERT_TRUE(window->recording());
        book().anew(); // whatever run an earlier test has left
    }
    void TearDown() override {
        window->closeRecord();
        KeptWindow::TearDown();
    }
    Book& book() const { return window->book(); }
    app::RecordFrame& frame() const { return window->recordFrame(); }
    app::ReadTable& table() const { return frame().table(); }
    app::ReadModel& model() const { return frame().model(); }
    void key(Qt::Key k, Qt::KeyboardModifiers with = Qt::NoModifier) const {
        QWidget* focus = QApplication::focusWidget();
        QTest::keyClick(focus ? focus : window.get(), k, with);
        test::settle();
    }
    [[nodiscard]] int row(std::string_view what) const {
        for (int r = 0; r < model().rowCount(); ++r)
            if (model().line(r)->what == what)
                return r;
        ADD_FAILURE() << "no line " << what;
        return 0;
    }
    [[nodiscard]] QModelIndex cell(std::string_view what, int engine = 0) const {
        return model().index(row(what), app::ReadModel::firstEngine + engine);
    }
    /// Types into a cell, and leaves it by Return.
    void read(std::string_view what, const QString& text, int engine = 0) const {
        table().setCurrentIndex(cell(what, engine));
        table().setFocus();
        QTest::keyClicks(&table(), text.left(1));
        auto* editor = table().viewport()->findChild<QLineEdit*>();
        ASSERT_NE(editor, nullptr);
        QTest::keyClicks(editor, text.mid(1));
        QTest::keyClick(editor, Qt::Key_Return);
        test::settle();
    }
    /// The log as another program finds it on the disk now.
    [[nodiscard]] record::Log onDisk() const {
        auto file = app::LogFile::open(book().path());
        EXPECT_TRUE(file) << file.error();
        auto all = file.value()->read();
        EXPECT_TRUE(all);
        return std::move(all.value());
    }
    [[nodiscard]] std::vector<Entry> kept() const {
        std::vector<Entry> out;
        const auto log = onDisk();
        for (const auto& [id, e] : log.entries)
            if (book().run() && e.run == book().run()->id)
                out.push_back(e);
        return out;
    }
    std::int64_t clock = 1'796'000'000'000; // ms
};

TEST_F(RecordPage, AFigureTypedWhereItIsExpectedIsOnTheDiskAndTheNextLineIsChosen) {
    EXPECT_EQ(book().run(), nullptr) << "nothing is begun by looking";
    const int line = row("head");
    read("head", QStringLiteral("182"));
    ASSERT_NE(book().run(), nullptr);
    const auto all = kept();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_NEAR(all[0].value, 455.15, 1e-9);
    EXPECT_EQ(all[0].phase, Phase::cruise);
    EXPECT_EQ(all[0].engine, document().aircraft().notes.positions[0].id);
    EXPECT_EQ(all[0].at, clock);
    EXPECT_FALSE(all[0].rough);
    ASSERT_TRUE(all[0].planned);
    EXPECT_EQ(*all[0].planned, *model().line(line)->planned) << "the plan of the day stands beside it for good";
    EXPECT_TRUE(frame().saved().contains(QStringLiteral("Saved"))) << frame().saved().toStdString();
    EXPECT_EQ(table().currentIndex().row(), line + 1);
    EXPECT_EQ(model().shown(cell("head")), QStringLiteral("182 °C"));
    const auto run = onDisk().runs.at(book().run()->id);
    EXPECT_EQ(run.airframe, document().sortie().airframe.registration);
    EXPECT_FALSE(run.sortie.empty());
}

TEST_F(RecordPage, ACorrectionKeepsTheOldValueAndUndoIsACorrectionToo) {
    read("head", QStringLiteral("182"));
    read("head", QStringLiteral("192"));
    EXPECT_EQ(model().shown(cell("head")), QStringLiteral("192 °C"));
    EXPECT_EQ(kept().size(), 2u);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(model().shown(cell("head")), QStringLiteral("182 °C"));
    EXPECT_EQ(kept().size(), 3u) << "nothing is taken out of a log";
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(model().shown(cell("head")), QString());
    EXPECT_EQ(kept().size(), 4u);
    // Delete, and taken back.
    read("oil", QStringLiteral("68"));
    table().setCurrentIndex(cell("oil"));
    table().setFocus();
    key(Qt::Key_Delete);
    EXPECT_EQ(model().shown(cell("oil")), QString());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(model().shown(cell("oil")), QStringLiteral("68 °C"));
}

TEST_F(RecordPage, TheSameFigureTypedAgainIsNoEntryAndNonsenseIsRefused) {
    read("head", QStringLiteral("182"));
    read("head", QStringLiteral("182"));
    EXPECT_EQ(kept().size(), 1u);
    read("head", QStringLiteral("9999"));
    EXPECT_EQ(kept().size(), 1u);
    EXPECT_TRUE(window->message().contains(QStringLiteral("not plausible"))) << window->message().toStdString();
    read("head", QStringLiteral("183"));
    EXPECT_EQ(window->message(), QString()) << "mended";
}

TEST_F(RecordPage, LookedInItsBandIsKeptAsThatAndStaysOutOfTrends) {
    table().setCurrentIndex(cell("head"));
    table().setFocus();
    key(Qt::Key_Space);
    const auto all = kept();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].kind, Entry::Kind::looked);
    EXPECT_EQ(model().shown(cell("head")), QStringLiteral("in its band"));
    EXPECT_TRUE(book().series({Phase::cruise, "head", all[0].engine}).points.empty());
}

TEST_F(RecordPage, TheOneJudgeSaysWhatTheFigureIs) {
    const auto& n = document().aircraft().notes;
    const auto limit = n.gauges.at(Gauge::headTemperature).in(Phase::cruise).limitHigh;
    ASSERT_TRUE(limit);
    const double over = *limit - 273.15 + 10.0;
    read("head", QString::number(over));
    table().setCurrentIndex(cell("head"));
    test::settle();
    const auto verdict = model().verdict(cell("head"));
    ASSERT_TRUE(verdict);
    EXPECT_EQ(verdict->colour(), watch::Colour::red);
    EXPECT_TRUE(frame().sentence().contains(QString::fromStdString(verdict->sentence()).toHtmlEscaped()))
        << frame().sentence().toStdString();
}

TEST_F(RecordPage, AWholeScanIsOneLineAndOneUndo) {
    auto* quick = frame().findChild<QLineEdit*>(QStringLiteral("record-quick"));
    QString text;
    for (const auto& line : model().lines())
        text += line.what == "head"  ? QStringLiteral("182/190 ")
                : line.what == "rpm" ? QStringLiteral("2100 ")
                                     : QStringLiteral("- ");
    quick->setFocus();
    QTest::keyClicks(quick, text);
    QTest::keyClick(quick, Qt::Key_Return);
    test::settle();
    EXPECT_EQ(kept().size(), 4u);
    EXPECT_EQ(model().shown(cell("head", 1)), QStringLiteral("190 °C"));
    EXPECT_TRUE(quick->text().isEmpty());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(model().shown(cell("head", 1)), QString());
    EXPECT_EQ(model().shown(cell("rpm")), QString());
    quick->setFocus();
    QTest::keyClicks(quick, QStringLiteral("99999999"));
    QTest::keyClick(quick, Qt::Key_Return);
    test::settle();
    EXPECT_EQ(kept().size(), 8u) << "refused whole";
    EXPECT_EQ(quick->text(), QStringLiteral("99999999")) << "and still there to mend";
    quick->clear();
}

TEST_F(RecordPage, AStopClockKeepsItsSeconds) {
    window->showPhase(Phase::start);
    test::settle();
    table().setCurrentIndex(cell("fire", 1));
    table().setFocus();
    key(Qt::Key_S);
    clock += 4'270;
    EXPECT_TRUE(kept().empty());
    // It runs on while another engine is looked at.
    table().setCurrentIndex(cell("fire", 0));
    test::settle();
    EXPECT_TRUE(frame().clocks().runs({Phase::start, "fire", document().aircraft().notes.positions[1].id}));
    table().setCurrentIndex(cell("fire", 1));
    key(Qt::Key_S);
    const auto all = kept();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_NEAR(all[0].value, 4.3, 1e-9) << "to the tenth";
    EXPECT_EQ(all[0].what, "fire");
    EXPECT_EQ(all[0].engine, document().aircraft().notes.positions[1].id);
    // By its button too.
    auto* button = frame().findChild<QToolButton*>(QStringLiteral("clock-crank"));
    ASSERT_NE(button, nullptr);
    button->click();
    clock += 2'000;
    button->click();
    test::settle();
    EXPECT_EQ(kept().size(), 2u);
}

TEST_F(RecordPage, ARunTypedInTheEveningHasItsDayAndItsTimesAreRough) {
    auto* flown = frame().findChild<QLineEdit*>(QStringLiteral("record-flown"));
    flown->setFocus();
    QTest::keyClicks(flown, QStringLiteral("2026-04-14 10:20"));
    QTest::keyClick(flown, Qt::Key_Return);
    read("head", QStringLiteral("182"));
    const auto all = kept();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_TRUE(all[0].rough);
    const auto began = *record::timeFrom("2026-04-14 10:20");
    EXPECT_EQ(book().run()->began, began);
    const auto& cruise = document().plan()[Phase::cruise];
    EXPECT_NEAR(static_cast<double>(all[0].at - began) / 1000.0, cruise.start + cruise.duration / 2, 1.0)
        << "in the middle of its phase";
    EXPECT_EQ(all[0].entered, clock);
    EXPECT_TRUE(frame().soFar().contains(QStringLiteral("about"))) << frame().soFar().toStdString();
}

TEST_F(RecordPage, TheMorningsFlightTypedInTheEveningIsRoughToItsLastReading) {
    const std::int64_t morning = clock - 8LL * 3600 * 1000;
    auto* flown = frame().findChild<QLineEdit*>(QStringLiteral("record-flown"));
    flown->setFocus();
    QTest::keyClicks(flown, QString::fromStdString(record::timeText(morning)).left(16));
    QTest::keyClick(flown, Qt::Key_Return);
    read("head", QStringLiteral("182"));
    read("oil", QStringLiteral("68"));
    const auto all = kept();
    ASSERT_EQ(all.size(), 2u);
    for (const auto& e : all) {
        EXPECT_TRUE(e.rough) << e.what;
        EXPECT_LT(e.at, clock - 5LL * 3600 * 1000) << e.what << " was not read this evening";
    }
}

TEST_F(RecordPage, ARunWithoutItsPlanIsHeldAgainstNoOther) {
    record::Log old;
    old.runs["0001"] = {"0001",     document().sortie().airframe.registration, "Lorimer L.4",
                        "long ago", *record::timeFrom("2026-01-02 10:00"),     {}};
    ASSERT_EQ(app::LogFile::open(book().path()).value()->append(old), QString());
    ASSERT_EQ(book().choose("0001"), QString());
    test::settle();
    EXPECT_FALSE(model().line(row("head"))->planned) << "the plan that is open is another day's";
    read("head", QStringLiteral("182"));
    const auto all = kept();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_FALSE(all[0].planned);
    EXPECT_TRUE(
        frame().findChild<QLabel*>(QStringLiteral("record-headline"))->text().contains(QStringLiteral("no plan")));
}

TEST_F(RecordPage, TheDayIsMendedWhileARunIsTypedInAndNothingOfItIsForgotten) {
    auto* flown = frame().findChild<QLineEdit*>(QStringLiteral("record-flown"));
    flown->setFocus();
    QTest::keyClicks(flown, QStringLiteral("2026-04-14 10:20"));
    QTest::keyClick(flown, Qt::Key_Return);
    Sortie warm = document().sortie();
    warm.day.oat = Temperature::si(warm.day.oat.si() + 10.0);
    ASSERT_EQ(document().edit(warm, QStringLiteral("warm")), QString());
    test::settle();
    EXPECT_EQ(book().flown(), record::timeFrom("2026-04-14 10:20"));
    EXPECT_EQ(*model().line(row("head"))->planned, *record::plannedOf(document().plan(), Phase::cruise, "head"))
        << "beside the readings stands the plan of the mended day";
    // Another airframe has another log.
    ASSERT_TRUE(window->openPath(farrier()));
    test::settle();
    EXPECT_FALSE(book().flown());
    EXPECT_EQ(book().airframe(), document().sortie().airframe.registration);
    EXPECT_EQ(model().engines(), document().aircraft().notes.engineCount());
}

TEST_F(RecordPage, DefectsAreWordsOfTheirEngine) {
    table().setCurrentIndex(cell("head", 1));
    auto* words = frame().findChild<QLineEdit*>(QStringLiteral("record-words"));
    words->setFocus();
    QTest::keyClicks(words, QStringLiteral("rough below 1,500"));
    QTest::keyClick(words, Qt::Key_Return);
    for (const char* line : {"note: a warm day", "Work: oil screens, clean", "worked loose: a cowl clip",
                             "trial intakes: blanked", "overhaul by the shop"}) {
        QTest::keyClicks(words, QString::fromLatin1(line));
        QTest::keyClick(words, Qt::Key_Return);
    }
    test::settle();
    const auto all = kept();
    ASSERT_EQ(all.size(), 6u);
    std::vector<std::pair<std::string, std::string>> more;
    for (std::size_t i = 2; i < all.size(); ++i)
        more.emplace_back(all[i].what, all[i].words);
    EXPECT_EQ(more, (std::vector<std::pair<std::string, std::string>>{{"work", "oil screens, clean"},
                                                                      {"defect", "worked loose: a cowl clip"},
                                                                      {"trial", "intakes: blanked"},
                                                                      {"overhaul", "by the shop"}}));
    EXPECT_EQ(all[0].what, "defect");
    EXPECT_EQ(all[0].words, "rough below 1,500");
    EXPECT_EQ(all[0].engine, document().aircraft().notes.positions[1].id);
    EXPECT_EQ(all[1].what, "note");
    EXPECT_EQ(all[1].words, "a warm day");
}

TEST_F(RecordPage, ADefectThatBeginsWithAnEnginesNameIsOfThatEngine) {
    table().setCurrentIndex(cell("head", 0));
    const auto& positions = document().aircraft().notes.positions;
    auto* words = frame().findChild<QLineEdit*>(QStringLiteral("record-words"));
    words->setFocus();
    QTest::keyClicks(words, QString::fromStdString(positions[1].name).toUpper() + QStringLiteral(" magneto rough"));
    QTest::keyClick(words, Qt::Key_Return);
    QTest::keyClicks(words, QString::fromStdString(positions[1].name) + QStringLiteral("ly painted cowl"));
    QTest::keyClick(words, Qt::Key_Return);
    test::settle();
    const auto all = kept();
    ASSERT_EQ(all.size(), 2u);
    EXPECT_EQ(all[0].engine, positions[1].id) << "though the other's cell is chosen";
    EXPECT_EQ(all[1].engine, positions[0].id) << "a longer word is no name";
}

TEST_F(RecordPage, AClockThatIsPressedOnAnotherPhasesPageTakesNothingDown) {
    for (int twice = 0; twice < 2; ++twice) {
        window->showPhase(Phase::warmUp);
        test::settle();
        for (auto* clockButton : frame().findChildren<QToolButton*>())
            if (clockButton->isVisible() && clockButton->objectName().startsWith(QLatin1String("clock-")))
                QTest::mouseClick(clockButton, Qt::LeftButton);
        window->showPhase(Phase::climb);
        test::settle();
        const auto names = [&] {
            QStringList out;
            for (auto* b : frame().findChildren<QToolButton*>())
                if (b->isVisible() && b->objectName().startsWith(QLatin1String("clock-")))
                    out << b->objectName();
            return out;
        }();
        for (const auto& name : names)
            if (auto* b = frame().findChild<QToolButton*>(name))
                QTest::mouseClick(b, Qt::LeftButton);
        test::settle();
    }
}

TEST_F(RecordPage, ALogThatAnotherOneWasPutInPlaceOfGetsWhatIsTypedNow) {
    read("head", QStringLiteral("182"));
    const QString path = book().path(), aside = path + QStringLiteral(".aside");
    for (const auto* end : {"", "-wal", "-shm"})
        ASSERT_TRUE(QFile::rename(path + QLatin1String(end), aside + QLatin1String(end)));
    {
        auto other = app::LogFile::open(path); // as a rescue beside the open window leaves it
        ASSERT_TRUE(other);
    }
    read("oil", QStringLiteral("68"));
    EXPECT_EQ(kept().size(), 2u) << "what is told as saved is in the file of that name";
}

TEST_F(RecordPage, ARunGoesOnWhenOneComesBackAndAnEarlierOneHasThePlanOfItsDay) {
    read("head", QStringLiteral("182"));
    const std::string run = book().run()->id;
    const double planned = *model().line(row("head"))->planned;
    key(Qt::Key_F6);
    EXPECT_FALSE(window->recording());
    Sortie hot = document().sortie();
    hot.day.oat = Temperature::si(hot.day.oat.si() + 25.0);
    ASSERT_EQ(document().edit(hot, QStringLiteral("hot")), QString());
    key(Qt::Key_F10);
    ASSERT_NE(book().run(), nullptr);
    EXPECT_EQ(book().run()->id, run);
    EXPECT_EQ(*model().line(row("head"))->planned, planned) << "the plan of the day it was flown";
    book().anew();
    test::settle();
    EXPECT_GT(*model().line(row("head"))->planned, planned + 5.0) << "a new run has today's";
    ASSERT_EQ(book().choose(run), QString());
    EXPECT_NEAR(*model().line(row("head"))->planned, planned, 0.01);
    EXPECT_EQ(model().shown(cell("head")), QStringLiteral("182 °C"));
}

TEST_F(RecordPage, ALogThatIsTakenAwayWhileItIsOpenIsWrittenAnewWithAllItHeld) {
    read("head", QStringLiteral("182"));
    read("oil", QStringLiteral("68"));
    const QString path = book().path();
    for (const char* end : {"", "-wal", "-shm"})
        QFile::remove(path + QLatin1String(end));
    ASSERT_FALSE(QFile::exists(path));
    read("rpm", QStringLiteral("2100"));
    const auto all = kept();
    EXPECT_EQ(all.size(), 3u);
    EXPECT_EQ(onDisk().runs.size(), 1u);
}

TEST_F(RecordPage, ALogThatCannotBeWrittenSaysSoAndTheFigureIsNotShownAsKept) {
    read("head", QStringLiteral("182"));
    const QString path = book().path();
    // Another program holds it.
    const int patience = std::exchange(app::LogFile::patience, 0);
    book().close();
    ASSERT_EQ(book().open(), QString());
    ASSERT_NE(book().run(), nullptr) << "today's run goes on";
    {
        auto other = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("holder"));
        other.setDatabaseName(path);
        ASSERT_TRUE(other.open());
        ASSERT_TRUE(QSqlQuery(other).exec(QStringLiteral("BEGIN EXCLUSIVE")));
        read("oil", QStringLiteral("68"));
        EXPECT_EQ(model().shown(cell("oil")), QString());
        EXPECT_TRUE(window->message().contains(QStringLiteral("not kept"))) << window->message().toStdString();
        EXPECT_EQ(frame().saved(), QStringLiteral("Not saved"));
        other.close();
    }
    QSqlDatabase::removeDatabase(QStringLiteral("holder"));
    app::LogFile::patience = patience;
    read("oil", QStringLiteral("68"));
    EXPECT_EQ(model().shown(cell("oil")), QStringLiteral("68 °C"));
}

TEST_F(RecordPage, ItsButtonsOpenWhatAllRunsCameTo) {
    ASSERT_TRUE(book().keepTyped({Phase::cruise, "head", "1"}, {Entry::Kind::figure, 450.0, {}}).isEmpty());
    const auto opened = [&](const char* button) {
        auto* asked = frame().findChild<QPushButton*>(QLatin1String(button));
        EXPECT_TRUE(asked && asked->isVisible()) << button;
        QTest::mouseClick(asked, Qt::LeftButton);
        QString name;
        for (auto* dialog : window->findChildren<QDialog*>())
            if (dialog->isVisible()) {
                name = QString::fromLatin1(dialog->metaObject()->className());
                dialog->close();
            }
        test::settle();
        return name;
    };
    EXPECT_EQ(opened("record-learnt"), QStringLiteral("amber::app::LearntDialog"));
    EXPECT_EQ(opened("record-hours"), QStringLiteral("amber::app::HoursDialog"));
    EXPECT_EQ(opened("record-trials"), QStringLiteral("amber::app::TrialsDialog"));
}
} // namespace
