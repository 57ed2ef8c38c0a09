// SPDX-License-Identifier: GPL-3.0-or-later
// What is written goes nowhere else than where it was meant to go: over no input, over no file of another kind, not
// into what ships; what goes out comes back; and what is typed wrongly is told as what it is.
#include "command_runner.h"
#include "record/log_text.h"
#include "store/log_file.h"
#include "store/output.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace {
using namespace amber;
using test::command;

class Outputs : public testing::Test {
protected:
    void SetUp() override {
        const std::filesystem::path here = folder.path().toStdString();
        for (const char* part : {"notes", "demo", "airframes", "rehearsals", "scripts"})
            std::filesystem::copy(std::filesystem::path(test::dataFolder()) / part, here / part);
    }
    [[nodiscard]] std::string at(const char* name) const { return folder.filePath(QLatin1String(name)).toStdString(); }
    static QByteArray bytes(const std::string& path) {
        QFile file(QString::fromStdString(path));
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }
    QTemporaryDir folder;
};

TEST_F(Outputs, GoOverNoInputAndNoFileOfAnotherKind) {
    const std::string sortie = at("demo/thatcher-lesson.toml"), notes = at("notes/lorimer-l4.toml"),
                      log = at("log.sqlite"), acts = at("acts.csv"),
                      setup = at("rehearsals/failure-after-take-off.toml");
    ASSERT_EQ(command({"log", "begin", "--log", log, "--sortie", sortie}).code, 0);
    command({"rehearse", sortie, "--careful", "--acts-out", acts});
    ASSERT_FALSE(bytes(acts).isEmpty());
    const std::vector<std::pair<std::string, std::vector<std::string>>> all{
        {log, {"log", "export", "--log", log, "--file", log}},
        {sortie, {"rehearse", sortie, "--acts", acts, "--until", "5 min", "--csv", sortie}},
        {setup,
         {"rehearse", at("demo/lorimer-spring.toml"), "--setup", setup, "--until", "5 min", "--acts-out", setup}},
        {acts, {"rehearse", sortie, "--acts", acts, "--until", "5 min", "--csv", acts}},
        {sortie, {"plan", sortie, "--pdf", sortie}},
        {notes, {"chart", "--notes", notes, "--svg", notes}},
        {notes, {"log", "export", "--log", log, "--file", notes}},
        {log, {"rehearse", sortie, "--acts", acts, "--until", "5 min", "--csv", log}},
    };
    for (const auto& [file, words] : all) {
        const QByteArray before = bytes(file);
        ASSERT_FALSE(before.isEmpty()) << file;
        const auto ran = command(words);
        EXPECT_EQ(bytes(file), before) << words[0] << " " << words.back();
        EXPECT_NE(ran.code, 0) << words[0] << " " << words.back();
        EXPECT_TRUE(ran.err.contains("Choose another name")) << ran.err.toStdString();
    }
    // A file of its own kind is written over.
    const std::string csv = at("trace.csv");
    ASSERT_EQ(command({"rehearse", sortie, "--acts", acts, "--until", "5 min", "--csv", csv}).err, QByteArray());
    const QByteArray shorter = bytes(csv);
    command({"rehearse", sortie, "--acts", acts, "--until", "10 min", "--csv", csv});
    EXPECT_GT(bytes(csv).size(), shorter.size());
    EXPECT_FALSE(
        app::writeAtomically(QString::fromStdString(test::dataFolder() + "/demo/new.toml"), "a = 1\n").isEmpty())
        << "nor into what ships";
    EXPECT_FALSE(QFile::exists(QString::fromStdString(test::dataFolder() + "/demo/new.toml")));
}

TEST_F(Outputs, ALogOfAnySizeGoesOutAndComesBackInLittleMemory) {
    const std::string path = at("log.sqlite"), json = at("log.json"), back = at("back.sqlite");
    constexpr int runs = 250, each = 4;
    {
        auto log = app::LogFile::open(QString::fromStdString(path));
        ASSERT_TRUE(log);
        record::Log all;
        for (int i = 0; i < runs; ++i) {
            const std::string id = "r" + std::to_string(i);
            all.runs.emplace(id, record::Run{id, "HR-K", "Lorimer L.4", "there and back", 1'796'040'000'000 + i, ""});
            for (int k = 0; k < each; ++k) {
                record::Entry e;
                e.id = "e" + std::to_string(i) + "-" + std::to_string(k);
                e.run = id;
                e.at = e.entered = 1'796'040'000'000 + i;
                e.what = "head";
                e.value = 450.0 + k;
                all.entries.emplace(e.id, e);
            }
            record::Entry note;
            note.id = "n" + std::to_string(i);
            note.run = id;
            note.at = note.entered = 1'796'040'000'000 + i;
            note.what = "note";
            note.kind = record::Entry::Kind::words;
            note.words = std::string(18'000, static_cast<char>('a' + i % 26));
            all.entries.emplace(note.id, note);
        }
        ASSERT_EQ(log.value()->merge(all).value().entries, static_cast<std::size_t>(runs * (each + 1)));
        std::vector<record::TraceBlock> blocks;
        for (int b = 0; b < 40; ++b) {
            record::TraceBlock block;
            block.id = "b" + std::to_string(b);
            block.run = "r0";
            block.source = "recorder";
            block.quantity = "rpm";
            block.start = 1'796'040'000'000 + b * 600'000;
            block.step = 1'000;
            block.values.assign(600, 35.25F);
            blocks.push_back(block);
        }
        ASSERT_TRUE(log.value()->keepTrace(blocks, {}));
    }
    ASSERT_EQ(command({"log", "export", "--log", path, "--file", json}).code, 0);
    EXPECT_GT(QFileInfo(QString::fromStdString(json)).size(), 4 << 20) << "more than notes may have";
    const auto in = command({"log", "import", "--log", back, "--file", json});
    EXPECT_EQ(in.code, 0) << in.err.toStdString();
    EXPECT_TRUE(in.out.contains("250 runs and 1250 entries were new.")) << in.out.toStdString();
    EXPECT_TRUE(in.out.contains("40 blocks")) << in.out.toStdString();
    const std::string again = at("again.json");
    ASSERT_EQ(command({"log", "export", "--log", back, "--file", again}).code, 0);
    EXPECT_EQ(bytes(again), bytes(json)) << "byte for byte";
    EXPECT_TRUE(
        command({"log", "import", "--log", back, "--file", json}).out.contains("0 runs and 0 entries were new."));
    const auto listed = command({"log", "list", "--log", path, "--csv"});
    EXPECT_EQ(listed.out.count('\n'), runs * (each + 1) + 1);
}

TEST_F(Outputs, WordsThatAreNoCommandAreToldAsThat) {
    const auto mistyped = command({"plna", at("demo/thatcher-lesson.toml")});
    EXPECT_EQ(mistyped.code, 2);
    EXPECT_EQ(mistyped.err, QByteArray("amber-throttle: there is no command \"plna\"; did you mean plan?\n"));
    EXPECT_EQ(command({"xyzzyx"}).err,
              QByteArray("amber-throttle: there is no command \"xyzzyx\". amber-throttle --help lists them.\n"));
}

TEST_F(Outputs, EveryKindOfFileIsCheckedAsWhatItIs) {
    const auto airframe = command({"check", at("airframes/hr-k.toml")});
    EXPECT_EQ(airframe.code, 0) << airframe.out.toStdString();
    EXPECT_TRUE(airframe.out.contains("airframe in order"));
    const auto setup = command({"check", at("rehearsals/fuel-pressure-falls.toml")});
    EXPECT_EQ(setup.code, 1);
    EXPECT_TRUE(setup.out.contains("set-up, which is checked with a sortie")) << setup.out.toStdString();
}

TEST_F(Outputs, WhatIsAddedWithoutARunGoesIntoNoneThatIsToCome) {
    const std::string path = at("log.sqlite");
    {
        auto log = app::LogFile::open(QString::fromStdString(path));
        ASSERT_TRUE(log);
        record::Log one;
        constexpr std::int64_t farAhead = 4'000'000'000'000; // 2096
        one.runs.emplace("r1", record::Run{"r1", "HR-K", "Lorimer L.4", "", farAhead, ""});
        ASSERT_TRUE(log.value()->merge(one));
    }
    const auto added = command({"log", "add", "--log", path, "--phase", "climb", "--what", "note", "--words", "rough"});
    EXPECT_EQ(added.code, 2);
    EXPECT_TRUE(added.err.contains("2096-10-02, which is to come")) << added.err.toStdString();
    EXPECT_EQ(
        command({"log", "add", "--log", path, "--run", "r1", "--phase", "climb", "--what", "note", "--words", "rough"})
            .code,
        0);
}

TEST_F(Outputs, NothingSteersATerminal) {
    const std::string path = at("log.sqlite");
    {
        // As an older version kept it.
        auto log = app::LogFile::open(QString::fromStdString(path));
        ASSERT_TRUE(log);
        record::Log raw;
        raw.runs.emplace("r1", record::Run{"r1", "HR-K", "T\x1b[2J", "title\x1b]0;x\x07", 1'796'040'000'000, ""});
        ASSERT_TRUE(log.value()->merge(raw));
    }
    for (const char* does : {"runs", "list"})
        EXPECT_FALSE(command({"log", does, "--log", path}).out.contains('\x1b')) << does;
    EXPECT_FALSE(command({"log", "export", "--log", path}).out.contains('\x1b'));
}

TEST_F(Outputs, OneWeightOnThePlanAndOnTheLoadSheet) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "tinker-damp", "sexton-meadow", "tanner-winter"}) {
        QFile file(folder.filePath(QStringLiteral("demo/%1.toml").arg(QLatin1String(name))));
        double weight = 0.0;
        for (const bool typed : {false, true}) {
            if (typed) {
                ASSERT_TRUE(file.open(QIODevice::ReadWrite));
                QString text = QString::fromUtf8(file.readAll());
                const QString unit =
                    QStringLiteral("%1 kg").arg(weight * 1.02, 0, 'f', 1); // more than the sheet adds to
                text.remove(QRegularExpression(QStringLiteral("^weight = .*$"), QRegularExpression::MultilineOption));
                text.replace(QRegularExpression(QStringLiteral("^\\[load\\]$"), QRegularExpression::MultilineOption),
                             QStringLiteral("[load]\nweight = \"%1\"").arg(unit));
                file.resize(0);
                file.write(text.toUtf8());
                file.close();
            }
            const auto planned = command({"plan", file.fileName().toStdString(), "--json"});
            const auto plan = planned.json(), load = command({"load", file.fileName().toStdString(), "--json"}).json();
            ASSERT_TRUE(plan.is_object() && load.is_object()) << name << planned.err.toStdString();
            EXPECT_EQ(load.at("weight_typed").get<bool>(), typed) << name;
            double sum = 0.0;
            for (const auto& item : load.at("items"))
                sum += item.at("mass_kg").get<double>();
            weight = plan.at("weight_kg").get<double>();
            EXPECT_NEAR(sum, weight, 0.5) << name << ": the lines add up to it";
            for (const auto& m : load.at("moments"))
                if (m.at("id") == "ramp")
                    EXPECT_NEAR(m.at("mass_kg").get<double>(), weight, 0.5) << name;
        }
    }
}
/// A log is read in the cockpit's units, and a bare number is the needle's: 5.1 kgf/cm² is 72.5 lbf/in² nowhere.
TEST_F(Outputs, TheLogSpeaksInTheCockpitsUnits) {
    const std::string log = at("log.sqlite");
    ASSERT_EQ(command({"log", "begin", "--log", log, "--sortie", at("demo/tanner-winter.toml")}).code, 0);
    const auto add = [&](const char* what, const char* figure) {
        return command(
            {"log", "add", "--log", log, "--engine", "1", "--phase", "climb", "--what", what, "--figure", figure});
    };
    ASSERT_EQ(add("oil-pressure", "5.1").code, 0);
    ASSERT_EQ(add("boost", "980").code, 0);
    const auto listed = command({"log", "list", "--log", log}).out;
    EXPECT_TRUE(listed.contains("5.1 kgf/cm²")) << listed.toStdString();
    EXPECT_TRUE(listed.contains("980 mmHg")) << listed.toStdString();
    EXPECT_FALSE(listed.contains("lbf/in²") || listed.contains("inHg")) << listed.toStdString();
    // Kept in SI whatever was typed: 5.1 kgf/cm² are 500 kPa.
    const auto json = nlohmann::json::parse(command({"log", "list", "--log", log, "--json"}).out.toStdString());
    bool found = false;
    for (const auto& e : json["entries"])
        if (e.value("what", "") == "oil-pressure") {
            found = true;
            EXPECT_NEAR(e["value"].get<double>(), 5.1 * 98'066.5, 1.0);
        }
    EXPECT_TRUE(found);
}
} // namespace
