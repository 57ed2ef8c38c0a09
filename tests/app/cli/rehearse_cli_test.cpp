// SPDX-License-Identifier: GPL-3.0-or-later
// A rehearsal on the command line: the careful hand, its acts done again, faults, debrief, and what is refused.
#include "command_runner.h"
#include "thorough.h"
#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>

namespace {
using namespace amber;
using test::command;

class RehearseCommand : public ::testing::Test {
protected:
    QTemporaryDir scratch;
    std::string path(const char* name) const { return scratch.filePath(QLatin1String(name)).toStdString(); }
    std::string written(const char* name, const char* text) const {
        QFile f(QString::fromStdString(path(name)));
        EXPECT_TRUE(f.open(QIODevice::WriteOnly));
        f.write(text);
        return path(name);
    }
    static QByteArray contents(const std::string& file) {
        QFile f(QString::fromStdString(file));
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
    static std::string demo(const char* name) { return test::dataFolder() + "/demo/" + name + ".toml"; }
};

TEST_F(RehearseCommand, AnswersToWhatIsChallengedStandInTheDebrief) {
    // The walk-round's first item is the ignition: an answer to another one is none.
    const auto acts = written("acts.csv", "time,engine,what,to,over\n"
                                          "0,all,answer,locks,\n"
                                          "1,all,answer,ignition-off,\n"
                                          "2,all,answer,locks,\n"
                                          "3,all,lock,out,\n"
                                          "3,all,answer,locks,\n");
    const auto r = command({"rehearse", demo("farrier-summer"), "--acts", acts, "--json"});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto items = QJsonDocument::fromJson(r.out).object()["items"].toArray();
    ASSERT_EQ(items.size(), 3);
    const auto at = [&](int i) { return items[i].toObject(); };
    EXPECT_EQ(at(0)["item"].toString(), QStringLiteral("Ignition"));
    EXPECT_TRUE(at(0)["right"].toBool());
    EXPECT_EQ(at(1)["item"].toString(), QStringLiteral("Control locks"));
    EXPECT_FALSE(at(1)["right"].toBool());
    EXPECT_EQ(at(1)["stood"].toString(), QStringLiteral("in"));
    EXPECT_EQ(at(1)["wanted"].toString(), QStringLiteral("out"));
    EXPECT_TRUE(at(2)["right"].toBool() && at(2)["again"].toBool());
    EXPECT_EQ(at(2)["at_s"].toDouble(), 3.0);
    const auto text = command({"rehearse", demo("farrier-summer"), "--acts", acts}).out;
    EXPECT_TRUE(text.contains("1 of 2 items read stood right when first answered.")) << text.data();
    EXPECT_TRUE(text.contains("0:02: Walk-round: Control locks was answered “in”; it should stand at out."))
        << text.data();
    // A rehearsal without an answer is challenged by nobody.
    const auto none = written("none.csv", "time,engine,what,to,over\n3,all,lock,out,\n");
    EXPECT_TRUE(QJsonDocument::fromJson(command({"rehearse", demo("farrier-summer"), "--acts", none, "--json"}).out)
                    .object()["items"]
                    .toArray()
                    .isEmpty());
}

TEST_F(RehearseCommand, TheCarefulHandKeepsThePlansClockAndItsActsAreDoneAgain) {
    const std::string acts = path("acts.csv"), trace = path("trace.csv");
    const auto r =
        command({"rehearse", demo("sexton-meadow"), "--careful", "--json", "--csv", trace, "--acts-out", acts});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto json = QJsonDocument::fromJson(r.out).object();
    // A plan reckons without ice; this hand uses heat against it.
    EXPECT_NEAR(json["fuel_l"].toDouble(), json["planned_fuel_l"].toDouble(), 0.02 * json["fuel_l"].toDouble());
    ASSERT_EQ(json["phases"].toArray().size(), 10);
    double last = 0.0;
    for (const auto& value : json["phases"].toArray()) {
        const auto p = value.toObject();
        EXPECT_GE(p["ended_s"].toDouble(), last);
        last = p["ended_s"].toDouble();
        if (p["phase"] == QLatin1String("cruise"))
            EXPECT_NEAR(last, p["planned_s"].toDouble(), 1.0);
    }
    const auto lines = contents(trace).split('\n');
    EXPECT_NEAR(static_cast<double>(lines.size()), last + 2, 3.0) << "a line a second, a header and an end";
    EXPECT_TRUE(lines.front().startsWith("time_s,height_m"));
    const auto again = command({"rehearse", demo("sexton-meadow"), "--acts", acts, "--until", "20 min", "--json"});
    ASSERT_EQ(again.code, 0) << again.err.toStdString();
    const auto debrief = QJsonDocument::fromJson(again.out).object();
    EXPECT_EQ(debrief["seconds"].toDouble(), 1200.0);
    EXPECT_GT(debrief["acts_in_turn"].toInt(), 15) << "walk-round and start are done";
    EXPECT_EQ(command({"rehearse", demo("sexton-meadow"), "--acts", acts, "--until", "20 min", "--json"}).out,
              again.out)
        << "the same bytes";
}

TEST_F(RehearseCommand, EveryShippedSetUpComesToItsFaultAndTheDebriefTellsIt) {
    const QDir folder(QString::fromStdString(test::dataFolder() + "/rehearsals"));
    ASSERT_GE(folder.entryList({"*.toml"}).size(), 3);
    for (const auto& name : folder.entryList({"*.toml"})) {
        const std::string setup = folder.filePath(name).toStdString();
        int came = 0;
        // Two engines where one is to be told from the other, else one.
        const bool twin = name.startsWith(QLatin1String("failure"));
        for (const char* seed : {"1", "2"}) {
            if (came > 0 && !test::thorough())
                break;
            const auto r = command(
                {"rehearse", demo(twin ? "lorimer-spring" : "farrier-summer"), "--setup", setup, "--seed", seed,
                 "--acts",
                 written("climb.csv", "time,engine,what,to\n0,,brakes,off\n0,,throttle,40 inHg\n60,,phase,climb\n"
                                      "620,,call,oil-pressure-gauge\n"),
                 "--json"});
            ASSERT_EQ(r.code, 0) << r.err.toStdString();
            for (const auto& fault : QJsonDocument::fromJson(r.out).object()["faults"].toArray()) {
                ++came;
                const auto f = fault.toObject();
                EXPECT_EQ(f["called_after_s"].isNull(), f["fault"] != QLatin1String("oil-pressure-gauge"));
                if (!f["called_after_s"].isNull())
                    EXPECT_NEAR(f["at_s"].toDouble() + f["called_after_s"].toDouble(), 620.0, 1e-9);
            }
        }
        EXPECT_GE(came, 1) << name.toStdString();
    }
}

TEST_F(RehearseCommand, FaultsAreGivenInOneWordAndTheTextIsForPeople) {
    const auto r = command(
        {"rehearse", demo("farrier-summer"), "--setup",
         written("s.toml", "format = 1\n[rehearsal]\nfrom = \"cruise\"\n"), "--fault", "oil-pump@10, tachometer@20",
         "--acts", written("a.csv", "time,engine,what,to\n22,,call,oil-pump\n24,,throttle,closed\n"), "--until", "90"});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    EXPECT_TRUE(
        r.out.contains("0:10: Oil pump failed, recognised after 12 s; first act after 14 s: Throttle to closed."))
        << r.out.toStdString();
    EXPECT_TRUE(r.out.contains("0:20: Tachometer failed, not recognised"));
    EXPECT_TRUE(r.out.contains("Propeller to 1,900 rpm was left out")) << r.out.toStdString();
    EXPECT_TRUE(r.out.contains("(red, until "));
    EXPECT_TRUE(r.out.contains("Propellers are live, always"));
}

TEST_F(RehearseCommand, RefusesWhatItCannotDoWithTheReason) {
    const std::string sortie = demo("farrier-summer");
    const auto bad =
        command({"rehearse", sortie, "--acts", written("a.csv", "time,engine,what,to\n5,,thrttle,open\n")});
    EXPECT_EQ(bad.code, 1);
    EXPECT_TRUE(bad.err.contains(":2:") && bad.err.contains("throttle")) << bad.err.toStdString();
    EXPECT_TRUE(bad.out.isEmpty());
    const auto setup = command({"rehearse", sortie, "--setup",
                                written("s.toml", "format = 1\n[rehearsal]\nseed = -3\n[[fault]]\nat = \"2 d\"\n")});
    EXPECT_EQ(setup.code, 1);
    EXPECT_TRUE(setup.err.contains(":3:") && setup.err.contains(":4:") && setup.err.contains(":5:"))
        << setup.err.toStdString();
    for (const std::vector<std::string>& wrong : {std::vector<std::string>{"rehearse", sortie, "--fault", "gremlin@5"},
                                                  {"rehearse", sortie, "--fault", "dead"},
                                                  {"rehearse", sortie, "--seed", "-1"},
                                                  {"rehearse", sortie, "--until", "3 days"},
                                                  {"rehearse", sortie, "--careful", "--fault", "dead@5"},
                                                  {"rehearse", sortie, "--careful", "--until", "60"},
                                                  {"rehearse", sortie, "--careful", "--acts", path("a.csv")}}) {
        const auto r = command(wrong);
        EXPECT_EQ(r.code, 2) << wrong.back();
        EXPECT_FALSE(r.err.isEmpty()) << wrong.back();
    }
    EXPECT_EQ(command({"rehearse", sortie, "--setup", path("none.toml")}).code, 1);
    EXPECT_EQ(command({"rehearse", sortie, "--until", "5", "--csv", "/nowhere/at/all.csv"}).code, 3);
}
} // namespace
