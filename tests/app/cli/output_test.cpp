// SPDX-License-Identifier: GPL-3.0-or-later
// Outputs that cannot be written, windows that cannot be shown: every command says so and ends with its code.
#include "command_runner.h"
#include "thorough.h"
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <sys/stat.h>

namespace {
using namespace amber;
using test::command;
using test::notesOf;

std::vector<std::vector<std::string>> commands() {
    const std::string lorimer = notesOf("lorimer-l4"), sortie = test::dataFolder() + "/demo/lorimer-spring.toml";
    return {{"plan", sortie},
            {"plan", sortie, "--json"},
            {"plan", sortie, "--csv"},
            {"point", "--notes", lorimer, "--rpm", "2350", "--altitude", "5000 ft", "--gear", "low"},
            {"point", "--notes", lorimer, "--rpm", "2350", "--altitude", "5000 ft", "--gear", "low", "--json"},
            {"prime", "--notes", lorimer, "--temperature", "5 C"},
            {"start-order", "--notes", lorimer, "--temperature", "5 C"},
            {"calibrate", "--notes", lorimer},
            {"cruise", "--notes", lorimer, "--altitude", "9000 ft", "--power", "600 hp"},
            {"chart", "--notes", lorimer, "--csv"},
            {"warmup", "--notes", lorimer, "--temperature", "5 C"},
            {"letdown", "--notes", lorimer, "--from", "14,000 ft", "--to", "300 ft"},
            {"cooldown", "--notes", lorimer, "--temperature", "200 C", "--oat", "5 C"},
            {"check", sortie},
            {"ranges"},
            {"snapshot", "--list"},
            {"--help"},
            {"--version"}};
}

TEST(Output, AFullDiskIsCodeThreeAndAMessageFromEveryCommand) {
    int nth = 0;
    for (const auto& c : commands()) {
        const auto full = command(c, test::Output::fullDisk);
        EXPECT_EQ(full.code, 3) << c.front() << " " << full.err.toStdString();
        EXPECT_TRUE(full.err.contains("could not be written: No space left on device"))
            << c.front() << full.err.toStdString();
        if (!test::thorough() && ++nth % 3 != 0)
            continue;
        const auto closed = command(c, test::Output::closed);
        EXPECT_EQ(closed.code, 3) << c.front() << " " << closed.err.toStdString();
        EXPECT_TRUE(closed.err.contains("could not be written")) << c.front();
    }
}

TEST(Output, AReaderThatGoesAwayIsNotADeath) {
    QProcess p;
    p.start(QStringLiteral("/bin/bash"),
            {QStringLiteral("-c"),
             QStringLiteral("\"$0\" plan \"$1\" --json | head -c 10 >/dev/null; echo ${PIPESTATUS[0]}"),
             test::program(), QString::fromStdString(test::dataFolder() + "/demo/lorimer-spring.toml")});
    ASSERT_TRUE(p.waitForFinished(60000));
    EXPECT_EQ(p.readAllStandardOutput().trimmed(), QByteArray("3"));
    EXPECT_TRUE(p.readAllStandardError().contains("could not be written: Broken pipe"));
}

TEST(Output, NothingIsWrittenToWhatIsNotAFile) {
    QTemporaryDir scratch;
    const std::string sortie = test::dataFolder() + "/demo/lorimer-spring.toml",
                      pipe = scratch.filePath(QStringLiteral("pipe")).toStdString(),
                      folder = scratch.path().toStdString();
    ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
    for (const std::string& target :
         {std::string(), std::string("/dev/full"), std::string("/dev/null"), pipe, folder}) {
        const auto card = command({"plan", sortie, "--pdf", target});
        EXPECT_EQ(card.code, 3) << target << card.err.toStdString();
        EXPECT_FALSE(card.err.isEmpty());
        if (!test::thorough() && !target.empty() && target != pipe)
            continue;
        const auto chart = command({"chart", "--notes", notesOf("lorimer-l4"), "--svg", target});
        EXPECT_EQ(chart.code, 3) << target << chart.err.toStdString();
    }
}

TEST(Output, WithoutADisplayTheProgramSaysSo) {
    const auto bare = command({});
    EXPECT_EQ(bare.code, 2);
    EXPECT_TRUE(bare.err.contains("there is no display")) << bare.err.toStdString();
    QProcess p;
    auto environment = QProcessEnvironment::systemEnvironment();
    environment.remove(QStringLiteral("QT_QPA_PLATFORM"));
    environment.insert(QStringLiteral("DISPLAY"), QStringLiteral(":4711"));
    p.setProcessEnvironment(environment);
    p.start(test::program(), {QStringLiteral("--demo")});
    ASSERT_TRUE(p.waitForFinished(60000));
    EXPECT_EQ(p.exitStatus(), QProcess::NormalExit);
    EXPECT_EQ(p.exitCode(), 2);
    EXPECT_TRUE(p.readAllStandardError().contains("could not be opened on this display"));
}

TEST(Output, AFigureOutOfRangeIsRefusedAsTheFileRefusesIt) {
    const auto wrong = [](const std::vector<std::string>& arguments, const char* piece) {
        const auto r = command(arguments);
        EXPECT_EQ(r.code, 2) << arguments.front();
        EXPECT_TRUE(r.err.contains(piece)) << r.err.toStdString();
    };
    const std::string lorimer = notesOf("lorimer-l4");
    wrong({"warmup", "--notes", lorimer, "--temperature", "72 C"},
          "--temperature: 72 C is out of range. Between −60 and 60 °C");
    wrong({"letdown", "--notes", lorimer, "--from", "14,000 ft", "--to", "90000 ft"}, "Between −1,400 and 18,000 ft");
    wrong({"letdown", "--notes", lorimer, "--from", "14,000 ft", "--to", "300 ft", "--rate", "-500 ft/min"},
          "Between 10 and 10,000 ft/min");
    wrong({"letdown", "--notes", lorimer, "--from", "14,000 ft", "--to", "300 ft", "--weight", "400 lb"},
          "flies between");
    wrong({"point", "--notes", lorimer, "--rpm", "2350", "--altitude", "90000 ft"},
          "--altitude: 90000 ft is out of range");
    wrong({"cruise", "--notes", lorimer, "--altitude", "9000 ft", "--power", "600 hp", "--weight", "99 lb"},
          "flies between");
    const auto table = command({"ranges", "sortie"});
    EXPECT_TRUE(table.out.contains("| day.qnh | 850 | 1,100 | hPa | lower or higher than any weather |"));
}

TEST(Output, TheFormatPagesHoldTheTableThatIsChecked) {
    const auto page = [](const char* name) {
        QFile f(QString::fromStdString(test::dataFolder() + "/../docs/formats/" + name));
        EXPECT_TRUE(f.open(QIODevice::ReadOnly)) << name;
        return f.readAll();
    };
    EXPECT_TRUE(page("type-notes.md").contains(command({"ranges", "notes"}).out)) << "amber-throttle ranges notes";
    EXPECT_TRUE(page("sortie.md").contains(command({"ranges", "sortie"}).out)) << "amber-throttle ranges sortie";
    EXPECT_TRUE(page("log.md").contains(command({"ranges", "log"}).out)) << "made by amber-throttle ranges log";
    EXPECT_TRUE(page("rehearsal.md").contains(command({"ranges", "rehearsal"}).out))
        << "amber-throttle ranges rehearsal";
    EXPECT_TRUE(page("command-line.md").contains(command({"ranges", "command"}).out))
        << "amber-throttle ranges command";
}

} // namespace
