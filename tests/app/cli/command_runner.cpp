// SPDX-License-Identifier: GPL-3.0-or-later
#include "command_runner.h"
#include "cli/command_line.h"
#include "shell/snapshot.h"
#include <QCoreApplication>
#include <QStandardPaths>
#include <array>
#include <csignal>
#include <cstdio>
#include <exception>
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

namespace amber::test {
namespace {
constexpr unsigned longest = 60; // s

[[noreturn]] void become(const std::vector<std::string>& arguments) {
    std::vector<char*> words;
    for (const auto& a : arguments)
        words.push_back(const_cast<char*>(a.c_str()));
    words.push_back(nullptr);
    execv(words.front(), words.data());
    _exit(127);
}

/// What the copy of this process does.
[[noreturn]] void act(const std::vector<std::string>& arguments, bool always) {
    unsetenv("DISPLAY");
    unsetenv("QT_QPA_PLATFORM");
    if (always)
        become(arguments);
    QStandardPaths::setTestModeEnabled(false);
    const auto itself = [&]() -> int { become(arguments); };
    app::CommandActions actions;
    actions.window = [&](const std::string&, bool) { return itself(); };
    actions.card = [&](const std::string&, const std::string&, bool) { return itself(); };
    actions.snapshot = [&](const std::string&, const std::string&, int, int, bool) { return itself(); };
    actions.chart = [&](const app::ChartOptions&) { return itself(); };
    actions.snapshotViews = app::snapshotViews();
    std::vector<char*> words;
    for (const auto& a : arguments)
        words.push_back(const_cast<char*>(a.c_str()));
    words.push_back(nullptr);
    int code = 0;
    try {
        code = app::runCommandLine(static_cast<int>(arguments.size()), words.data(), actions);
    } catch (...) {
        std::terminate(); // as the program would
    }
    std::fflush(nullptr);
    _exit(code);
}

QByteArray all(int file) {
    QByteArray out;
    lseek(file, 0, SEEK_SET);
    std::array<char, 65536> block{};
    for (ssize_t n = 0; (n = read(file, block.data(), block.size())) > 0;)
        out.append(block.data(), n);
    close(file);
    return out;
}
} // namespace

QString program() {
    const QString named = qEnvironmentVariable("AMBER_THROTTLE_PROGRAM");
    return named.isEmpty() ? QCoreApplication::applicationDirPath() + QStringLiteral("/../src/app/amber-throttle")
                           : named;
}

Ran run(const QStringList& arguments, Output output) {
    std::vector<std::string> words{program().toStdString()};
    for (const auto& a : arguments)
        words.push_back(a.toStdString());
    const bool always = !qEnvironmentVariableIsEmpty("AMBER_THROTTLE_PROGRAM");
    const int out = memfd_create("out", MFD_CLOEXEC), err = memfd_create("err", MFD_CLOEXEC);
    std::fflush(nullptr);
    const pid_t child = fork();
    if (child == 0) {
        alarm(longest);
        dup2(err, STDERR_FILENO);
        if (output == Output::closed)
            close(STDOUT_FILENO);
        else
            dup2(output == Output::kept ? out : open("/dev/full", O_WRONLY), STDOUT_FILENO);
        close(STDIN_FILENO);
        open("/dev/null", O_RDONLY);
        act(words, always);
    }
    int status = 0;
    EXPECT_EQ(waitpid(child, &status, 0), child);
    return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, all(out), all(err)};
}

Ran command(const std::vector<std::string>& arguments, Output output) {
    QStringList list;
    for (const auto& a : arguments)
        list << QString::fromStdString(a);
    return run(list, output);
}

} // namespace amber::test
