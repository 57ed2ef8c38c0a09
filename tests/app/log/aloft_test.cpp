// SPDX-License-Identifier: GPL-3.0-or-later
// A run at arm's length, by its keys; killed, slept and taken up again; with a recorder on a wire.
#include "command_runner.h"
#include "live/look_at.h"
#include "live/next_card.h"
#include "live/played.h"
#include "notes/cockpit_units.h"
#include "record/log_text.h"
#include "record/what.h"
#include "thorough.h"
#include "window_fixture.h"
#include <QHostAddress>
#include <QPushButton>
#include <QTcpServer>
#include <QTcpSocket>
#include <QUdpSocket>
#include <cstdlib>
#include <fcntl.h>
#include <termios.h>
#include <unistd.h>

namespace {
using namespace amber;

constexpr std::int64_t morning = 1'778'751'000'000; // 14 May 2026, 9:30

class Aloft : public test::Window {
protected:
    void SetUp() override {
        test::Window::SetUp();
        stampBy();
    }
    void stampBy() {
        window->live().stamp = [this] {
            return aloft::Stamp{boot, running0 + static_cast<std::int64_t>(1000.0 * at),
                                morning + setBy + static_cast<std::int64_t>(1000.0 * at)};
        };
    }
    void key(Qt::Key k) {
        QTest::keyClick(&window->aloft(), k);
        test::settle();
    }
    [[nodiscard]] const record::Entry* standing(std::string_view what, std::string_view engine = {}) const {
        for (const auto& s : window->book().standing())
            for (const auto* e : s.last)
                if (e->what == what && e->engine == engine && e->kind == record::Entry::Kind::figure)
                    return e;
        return nullptr;
    }
    double at = 0.0; ///< s of the morning
    std::string boot = "boot-a";
    std::int64_t running0 = 5'000'000, setBy = 0;
};

TEST_F(Aloft, OneKeyKeepsAMomentAndOneMoreItsName) {
    QTest::keyClick(window.get(), Qt::Key_F11);
    test::settle();
    ASSERT_TRUE(window->isAloft());
    EXPECT_EQ(window->aloft().phaseShown(), QStringLiteral("Walk-round"));
    key(Qt::Key_Space);
    ASSERT_NE(standing("at-now"), nullptr); // on the disk at once
    at = 20.0;
    key(Qt::Key_Return); // it was the first fire: at the time of the first press
    EXPECT_EQ(standing("at-now"), nullptr);
    const auto first = window->live().happened().moments;
    ASSERT_EQ(first.size(), 1u);
    EXPECT_EQ(first.front().what, "at-first-fire");
    EXPECT_NEAR(first.front().at, 0.0, 0.01);
    // The other engine, a minute later; and it was two minutes... no, that is before the run.
    at = 60.0;
    key(Qt::Key_Return);
    EXPECT_EQ(window->live().happened().moments.size(), 2u);
    key(Qt::Key_Left);
    EXPECT_NE(window->aloft().told(), QString());
    EXPECT_NEAR(window->live().happened().moments.back().at, 60.0, 0.01);
    // Undone, it is not there; and the log still knows that it was.
    key(Qt::Key_Z);
    EXPECT_EQ(window->live().happened().moments.size(), 1u);
    // A moment that cannot be is refused with why, and nothing is kept.
    at = 400.0;
    key(Qt::Key_M);
    ASSERT_TRUE(window->aloft().showsMoments());
    auto* taxi = window->aloft().findChild<QPushButton*>(QStringLiteral("moment-at-taxi"));
    ASSERT_NE(taxi, nullptr);
    taxi->click();
    test::settle();
    ASSERT_NE(standing("at-taxi"), nullptr);
    key(Qt::Key_Left); // two minutes before
    EXPECT_NEAR(standing("at-taxi")->value, 280.0, 0.01);
    key(Qt::Key_Escape);
    EXPECT_FALSE(window->aloft().showsMoments());
    key(Qt::Key_Escape);
    EXPECT_FALSE(window->isAloft());
    EXPECT_TRUE(window->recording());
    EXPECT_TRUE(window->score().shownNow());
}

TEST_F(Aloft, AWholeFlightByItsCrewIsARunLikeAnyOther) {
    aloft::StandInSetting setting;
    setting.seed = 11;
    Sortie s = window->document().sortie();
    s.flight.distance = Distance::of(150, units::nauticalMile);
    s.flight.legs.clear();
    window->document().edit(s, QStringLiteral("shorter"));
    const auto flight = aloft::standInFlight(window->document().aircraft(), window->document().sortie(), setting);
    at = flight.moments.front().at - 1.0;
    window->openAloft();
    const double half = 0.55 * static_cast<double>(flight.truth.size());
    ASSERT_EQ(app::play(window->live(), flight, 0.0, half, [&](double t) { at = t; }), QString());
    window->aloft().refresh();
    EXPECT_EQ(window->live().now().phase, flight.truth[static_cast<std::size_t>(half)].phase);
    EXPECT_FALSE(window->aloft().nextShown().isEmpty());
    EXPECT_FALSE(window->aloft().clocksShown().isEmpty());
    ASSERT_EQ(
        app::play(window->live(), flight, half, static_cast<double>(flight.truth.size()), [&](double t) { at = t; }),
        QString());
    EXPECT_TRUE(window->live().now().over);
    EXPECT_EQ(window->aloft().phaseShown(), QStringLiteral("Stopped"));
    // In the evening it is a run: hours by its moments.
    const auto hours = window->book().hours();
    ASSERT_TRUE(hours);
    EXPECT_EQ(hours.value().runs, 1u);
    double stopped = 0.0;
    for (const auto& m : flight.moments)
        stopped = m.what == "at-stop" ? m.at : stopped;
    EXPECT_GT(hours.value().engines.front().logged, 0.8 * (stopped - flight.moments.front().at));
    // Two scans in one phase are two readings.
    std::size_t heads = 0;
    for (const auto& r : window->live().happened().readings)
        heads += r.gauge == headOrCoolantGauge(window->document().aircraft().notes) ? 1 : 0;
    EXPECT_GT(heads, 4u);
    // A new press is a new run.
    at += 3600.0;
    window->closeAloft();
    window->openAloft();
    EXPECT_EQ(window->book().run(), nullptr);
}

TEST_F(Aloft, ClosedKilledSleptOrWithTheClockSetItIsAtTheRightNowOrAsks) {
    window->openAloft();
    key(Qt::Key_Return);
    at = 60.0;
    key(Qt::Key_Return);
    const auto taken = [&] { // as after a kill: another window on the same folder
        window = std::make_unique<app::MainWindow>(scratch.filePath(QStringLiteral("settings.ini")), autosaves());
        attend();
        window->resize(1280, 800);
        stampBy();
        window->book().now = [this] { return window->live().timeNow(); };
        EXPECT_TRUE(window->openPath(lorimer()));
        window->show();
        window->openAloft();
        test::settle();
    };
    // An hour's sleep, the clock set back by half an hour meanwhile.
    at = 3660.0;
    setBy = -1'800'000;
    taken();
    ASSERT_NE(window->book().run(), nullptr);
    EXPECT_EQ(window->live().question(), QString());
    EXPECT_NEAR(window->live().now().at, 3660.0, 2.0);
    EXPECT_EQ(window->live().happened().moments.size(), 2u);
    // The computer started again: it asks; no: the run goes on from its last entry.
    setBy = 0;
    boot = "boot-b";
    running0 = 10'000;
    at = 4000.0;
    taken();
    EXPECT_NE(window->live().question(), QString());
    EXPECT_EQ(window->aloft().told(), window->live().question());
    key(Qt::Key_Left);
    EXPECT_EQ(window->live().question(), QString());
    EXPECT_LT(window->live().now().at, 3700.0);
    // And yes: by its clock.
    boot = "boot-c";
    taken();
    EXPECT_NE(window->live().question(), QString());
    key(Qt::Key_Return);
    EXPECT_EQ(window->live().question(), QString());
}

TEST_F(Aloft, AScanIsOneLineAndAMisreadingIsAskedAbout) {
    aloft::StandInSetting setting;
    setting.seed = 4;
    setting.differs = 0.3;
    const auto flight = aloft::standInFlight(window->document().aircraft(), window->document().sortie(), setting);
    double level = 0.0;
    for (const auto& m : flight.moments)
        level = m.what == "at-top-of-climb" ? m.at : level;
    at = flight.moments.front().at - 1.0;
    window->openAloft();
    ASSERT_EQ(app::play(window->live(), flight, 0.0, level + 1200.0, [&](double t) { at = t; }), QString());
    const auto before = window->live().now().today.asked.size();
    key(Qt::Key_S);
    ASSERT_TRUE(window->aloft().scan().isVisible());
    // Every needle as it is, but port's heads are misread by ten times ten.
    const auto& n = window->document().aircraft().notes;
    QString line;
    for (const auto& l : window->book().lines(Phase::cruise)) {
        const bool heads = l.gauge == headOrCoolantGauge(n);
        line += heads ? QStringLiteral("245/185 ") : QStringLiteral("- ");
    }
    window->aloft().scan().setText(line.trimmed());
    QTest::keyClick(&window->aloft().scan(), Qt::Key_Return);
    test::settle();
    EXPECT_FALSE(window->aloft().scan().isVisible()) << window->aloft().told().toStdString();
    ASSERT_GT(window->live().now().today.asked.size(), before);
    EXPECT_NE(window->aloft().told().indexOf(QStringLiteral("misread")), -1) << window->aloft().told().toStdString();
    const auto moments = window->live().happened().moments.size();
    // It stands: whoever read it says so.
    const auto asked = window->live().now().today.asked.size();
    key(Qt::Key_T);
    EXPECT_LT(window->live().now().today.asked.size(), asked);
    EXPECT_EQ(window->live().happened().moments.size(), moments); // and no Return of a line was taken for a moment
    // Switched off, nothing is bent.
    key(Qt::Key_B);
    EXPECT_FALSE(window->live().bends());
    EXPECT_TRUE(window->live().now().today.asked.empty());
    // Rubbish is refused, and nothing of it is kept.
    key(Qt::Key_S);
    window->aloft().scan().setText(QStringLiteral("warm"));
    QTest::keyClick(&window->aloft().scan(), Qt::Key_Return);
    test::settle();
    EXPECT_TRUE(window->aloft().scan().isVisible());
    EXPECT_NE(window->aloft().told(), QString());
}

TEST_F(Aloft, TroubleOpensAtNowAndGoesBack) {
    window->openAloft();
    key(Qt::Key_Return);
    at = 50.0;
    key(Qt::Key_Return);
    QTest::keyClick(window.get(), Qt::Key_F9);
    test::settle();
    ASSERT_TRUE(window->inTrouble());
    EXPECT_FALSE(window->isAloft());
    window->closeTrouble();
    EXPECT_TRUE(window->isAloft());
}

TEST_F(Aloft, NothingIsClippedAndTargetsAreGreat) {
    const auto look = [&](const QSize& size) {
        window->resize(size);
        test::settle();
        window->aloft().refresh();
        test::settle();
        const auto& view = window->aloft();
        const QRect all = view.rect();
        std::vector<const QWidget*> shown;
        for (const auto* w : view.findChildren<QWidget*>())
            if (w->isVisible() && (qobject_cast<const QLabel*>(w) || qobject_cast<const QPushButton*>(w) ||
                                   qobject_cast<const app::NextCard*>(w) || qobject_cast<const app::LookAt*>(w))) {
                const QRect r(w->mapTo(&view, QPoint()), w->size());
                EXPECT_TRUE(all.contains(r)) << w->objectName().toStdString() << " at " << size.width();
                for (const auto* o : shown)
                    EXPECT_FALSE(r.intersects(QRect(o->mapTo(&view, QPoint()), o->size())))
                        << w->objectName().toStdString() << " over " << o->objectName().toStdString() << " at "
                        << size.width();
                shown.push_back(w);
                if (const auto* label = qobject_cast<const QLabel*>(w); label && !label->wordWrap()) {
                    EXPECT_LE(label->fontMetrics().horizontalAdvance(label->text()), label->width() + 1)
                        << label->text().toStdString() << " at " << size.width();
                }
                if (const auto* button = qobject_cast<const QPushButton*>(w)) {
                    EXPECT_GE(button->height(), size.height() >= 800 ? 70 : 48);
                    for (const auto& line : button->text().split(QLatin1Char('\n')))
                        EXPECT_LE(button->fontMetrics().horizontalAdvance(line), button->width())
                            << line.toStdString() << " at " << size.width();
                }
                if (!w->accessibleName().isEmpty() || qobject_cast<const QLabel*>(w) ||
                    qobject_cast<const QPushButton*>(w))
                    continue;
                if (const auto* card = qobject_cast<const app::NextCard*>(w)) {
                    EXPECT_TRUE(card->said().isEmpty());
                }
            }
    };
    for (const char* demo : {"mercer-frost", "tinker-damp"}) {
        window->document().load(scratch.filePath(QStringLiteral("demo/%1.toml").arg(QLatin1String(demo))));
        window->book().anew();
        aloft::StandInSetting setting;
        setting.seed = 9;
        const auto flight = aloft::standInFlight(window->document().aircraft(), window->document().sortie(), setting);
        at = flight.moments.front().at - 1.0;
        window->closeAloft();
        window->openAloft();
        double from = 0.0;
        // Four engines on the ground and in the climb, one at the end; a thorough run sees each at all.
        const bool four = demo == std::string_view("mercer-frost");
        for (const double share : test::thorough() ? std::vector{0.2, 0.6, 0.93}
                                  : four           ? std::vector{0.2, 0.5}
                                                   : std::vector{0.93}) {
            const double until = share * static_cast<double>(flight.truth.size());
            ASSERT_EQ(app::play(window->live(), flight, from, until, [&](double t) { at = t; }), QString()) << demo;
            from = until + 0.001;
            look({1280, 800});
            look({1024, 600});
        }
    }
}

// ---- the wire

QByteArray heading() {
    return "Time,RPM 1 [rpm],RPM 2 [rpm],CHT 1 [°C],CHT 2 [°C],Oil temp 1 [°C],Oil temp 2 [°C]\n";
}
QByteArray line(int t, double rpm, double head) {
    return QStringLiteral("%1,%2,%2,%3,%3,60,61\n").arg(t).arg(rpm).arg(head).toUtf8();
}

TEST_F(Aloft, LinesOverUdpFillTheNeedlesAndProposeMomentsWithoutTakingThem) {
    window->openAloft();
    key(Qt::Key_Return); // port has fired
    QUdpSocket finds;
    ASSERT_TRUE(finds.bind(QHostAddress::LocalHost, 0));
    const quint16 port = finds.localPort();
    finds.close();
    const QString address = QStringLiteral("udp:127.0.0.1:%1").arg(port);
    ASSERT_EQ(window->recorderLink().connectTo(address, window->document().aircraft().notes, nullptr), QString());
    QUdpSocket device;
    device.writeDatagram(heading(), QHostAddress::LocalHost, port);
    for (int t = 0; t < 8; ++t)
        device.writeDatagram(line(t, 800, 112), QHostAddress::LocalHost, port);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->recorderLink().lines() >= 8; }, 10'000));
    const auto& positions = window->document().aircraft().notes.positions;
    EXPECT_NEAR(window->live().needle(Gauge::headTemperature, positions[0].id).value_or(0.0), 112.0 + 273.15, 0.1);
    const auto moments = window->live().happened().moments.size();
    EXPECT_EQ(moments, 1u); // nothing was taken by itself
    EXPECT_NE(window->live().seems(), QString());
    // Silence: a needle of ten seconds ago is none.
    at += 15.0;
    EXPECT_FALSE(window->live().needle(Gauge::headTemperature, positions[0].id));
}

TEST_F(Aloft, ATcpRecorderThatHangsUpComesBackByItself) {
    window->openAloft();
    key(Qt::Key_Return);
    QTcpServer server;
    ASSERT_TRUE(server.listen(QHostAddress::LocalHost, 0));
    ASSERT_EQ(window->recorderLink().connectTo(QStringLiteral("tcp:127.0.0.1:%1").arg(server.serverPort()),
                                               window->document().aircraft().notes, nullptr),
              QString());
    const auto serve = [&] {
        EXPECT_TRUE(QTest::qWaitFor([&] { return server.hasPendingConnections(); }, 15'000));
        auto* socket = server.nextPendingConnection();
        socket->write(heading());
        return socket;
    };
    auto* first = serve();
    first->write(line(1, 800, 100));
    first->write("garbage\x01\xff;;;\n2,8"); // half a line, and then it hangs up
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->recorderLink().lines() == 1; }, 10'000));
    first->abort();
    at += 5.0;
    auto* second = serve();
    second->write(line(3, 900, 120));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->recorderLink().lines() == 2; }, 15'000));
    EXPECT_NEAR(window->live()
                    .needle(Gauge::headTemperature, window->document().aircraft().notes.positions[0].id)
                    .value_or(0.0),
                120.0 + 273.15, 0.1);
    window->recorderLink().off();
}

TEST_F(Aloft, APseudoTerminalThatGoesIsSaid) {
    window->openAloft();
    key(Qt::Key_Return);
    const int master = posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK);
    ASSERT_GE(master, 0);
    ASSERT_EQ(grantpt(master), 0);
    ASSERT_EQ(unlockpt(master), 0);
    const QString name = QString::fromLocal8Bit(ptsname(master));
    ASSERT_EQ(window->recorderLink().connectTo(QStringLiteral("serial:%1@115200").arg(name),
                                               window->document().aircraft().notes, nullptr),
              QString());
    const QByteArray sent = heading() + line(1, 800, 100) + line(2, 800, 101);
    ASSERT_EQ(::write(master, sent.constData(), static_cast<std::size_t>(sent.size())), sent.size());
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->recorderLink().lines() == 2; }, 10'000))
        << window->recorderLink().state().toStdString();
    ::close(master);
    at += 10.0; // and nothing comes
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->recorderLink().state() != QStringLiteral("Recorder: 2 line(s)"); },
                                10'000));
    window->recorderLink().off();
    EXPECT_EQ(window->recorderLink().state(), QString());
}

TEST_F(Aloft, AddressesThatAreNoneAreRefusedAndNothingIsOpened) {
    const auto& notes = window->document().aircraft().notes;
    for (const char* bad : {"udp:0", "tcp:host.example:80", "udp:127.0.0.1:0", "udp:127.0.0.1:70000",
                            "http://127.0.0.1:80", "serial:ttyUSB0", "127.0.0.1:5000"})
        EXPECT_NE(window->recorderLink().connectTo(QLatin1String(bad), notes, nullptr), QString()) << bad;
    EXPECT_EQ(window->recorderLink().address(), QString());
    EXPECT_EQ(window->recorderLink().connectTo({}, notes, nullptr), QString());
}

TEST(AloftCommand, ARunIsToldMomentByMomentAndTheStandInsFileComesIntoALog) {
    const std::string sortie = test::dataFolder() + "/demo/tinker-damp.toml";
    const auto told = test::command({"live", sortie, "--stand-in", "2", "--at", "30 min", "--json"});
    ASSERT_EQ(told.code, 0) << told.err.toStdString();
    const auto json = told.json();
    EXPECT_NEAR(json["t_s"].get<double>(), 1800.0, 1e-6);
    EXPECT_GT(json["fuel"]["stopped_m3"]["high"].get<double>(), json["fuel"]["stopped_m3"]["value"].get<double>());
    EXPECT_FALSE(json["next"].empty());
    EXPECT_EQ(test::command({"live", sortie, "--stand-in", "2", "--at", "tea"}).code, 2);
    EXPECT_EQ(test::command({"stand-in", sortie}).code, 2);
    EXPECT_EQ(test::command({"stand-in", sortie, "--udp", "70000"}).code, 2);
    QTemporaryDir folder;
    const std::string csv = folder.filePath(QStringLiteral("flight.csv")).toStdString(),
                      log = folder.filePath(QStringLiteral("log.sqlite")).toStdString();
    EXPECT_EQ(test::command({"stand-in", sortie, "--csv", sortie}).code, 2); // never over an input
    ASSERT_EQ(test::command({"stand-in", sortie, "--csv", csv, "--seed", "5"}).code, 0);
    const auto begun = test::command({"log", "begin", "--log", log, "--sortie", sortie});
    ASSERT_EQ(begun.code, 0) << begun.err.toStdString();
    const std::string id = begun.out.trimmed().toStdString();
    const auto in = test::command({"log", "trace", "--log", log, "--run", id, "--file", csv});
    EXPECT_EQ(in.code, 0) << in.err.toStdString();
}

} // namespace
