// SPDX-License-Identifier: GPL-3.0-or-later
// The man page and the completions of shells are told by the commands themselves.
#include "cli/told_commands.h"
#include "command_runner.h"
#include <QProcess>
#include <regex>

namespace {
using namespace amber;

TEST(ToldCommands, EveryCommandAndOptionStandsInManPageAndCompletions) {
    const auto commands = app::toldCommands();
    const std::string man = app::manPage(commands, "1.2.3"), bash = app::bashCompletion(commands),
                      zsh = app::zshCompletion(commands), fish = app::fishCompletion(commands);
    EXPECT_NE(man.find("amber-throttle 1.2.3"), std::string::npos);
    EXPECT_GT(commands.size(), 25u);
    std::size_t options = 0;
    for (const auto& c : commands) {
        const std::string titled = std::regex_replace(c.name, std::regex("-"), "\\-"); // as roff has a minus
        EXPECT_NE(man.find(".SS " + titled + "\n"), std::string::npos) << c.name;
        for (const auto* completion : {&bash, &zsh, &fish})
            EXPECT_NE(completion->find(c.name), std::string::npos) << c.name;
        for (const auto& o : c.options)
            for (const auto& n : o.names) {
                ++options;
                if (!n.starts_with("--"))
                    continue;
                EXPECT_NE(bash.find(n), std::string::npos) << c.name << " " << n;
                EXPECT_NE(zsh.find(n), std::string::npos) << c.name << " " << n;
                EXPECT_NE(fish.find("-l " + n.substr(2)), std::string::npos) << c.name << " " << n;
            }
    }
    EXPECT_GT(options, 100u);
}

/// What bash offers for words typed so far, the last of them begun.
QStringList offered(const QStringList& words) {
    const auto completion = test::command({"shell", "bash"});
    EXPECT_EQ(completion.code, 0);
    QString script = QString::fromUtf8(completion.out) + QStringLiteral("\nCOMP_WORDS=(");
    for (const QString& w : words)
        script += QStringLiteral(" '%1'").arg(w);
    script += QStringLiteral(" )\nCOMP_CWORD=%1\n_amber_throttle\nprintf '%s\\n' \"${COMPREPLY[@]}\"\n")
                  .arg(words.size() - 1);
    QProcess bash;
    bash.setWorkingDirectory(QStringLiteral("/proc/self/task"));
    bash.start(QStringLiteral("bash"), {QStringLiteral("--norc"), QStringLiteral("-c"), script});
    EXPECT_TRUE(bash.waitForFinished(30000));
    EXPECT_TRUE(bash.readAllStandardError().isEmpty());
    return QString::fromUtf8(bash.readAllStandardOutput()).split(QLatin1Char('\n'), Qt::SkipEmptyParts);
}

TEST(ToldCommands, BashCompletesCommandsOptionsAndChoices) {
    EXPECT_EQ(offered({"amber-throttle", "calib"}), QStringList{"calibrate"});
    EXPECT_TRUE(offered({"amber-throttle", "cru"}).contains(QStringLiteral("cruise")));
    EXPECT_TRUE(offered({"amber-throttle", "plan", "--p"}).contains(QStringLiteral("--pdf")));
    EXPECT_EQ(offered({"amber-throttle", "shell", "fi"}), QStringList{"fish"});
    EXPECT_FALSE(offered({"amber-throttle", "plan", "--"}).contains(QStringLiteral("--rpm"))) << "another command's";
}

TEST(ToldCommands, TheManPageIsToldAndAnotherShellIsRefused) {
    EXPECT_TRUE(test::command({"shell", "man"}).out.startsWith(".TH AMBER-THROTTLE 1"));
    EXPECT_TRUE(test::command({"shell", "zsh"}).out.startsWith("#compdef amber-throttle"));
    EXPECT_EQ(test::command({"shell", "csh"}).code, 2);
}
} // namespace
