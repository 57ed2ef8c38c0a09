// SPDX-License-Identifier: GPL-3.0-or-later
// Runs the built program as a shell would, without a display.
#pragma once
#include "data_folder.h"
#include <QCoreApplication>
#include <QProcess>
#include <QStringList>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

namespace amber::test {

struct Ran {
    int code;
    QByteArray out, err;
    [[nodiscard]] nlohmann::json json() const { return nlohmann::json::parse(out.toStdString(), nullptr, false); }
};

/// The program under test: AMBER_THROTTLE_PROGRAM, else the one built beside the tests.
inline QString program() {
    const QString named = qEnvironmentVariable("AMBER_THROTTLE_PROGRAM");
    return named.isEmpty() ? QCoreApplication::applicationDirPath() + QStringLiteral("/../src/app/amber-throttle")
                           : named;
}

inline Ran run(const QStringList& arguments) {
    QProcess p;
    auto environment = QProcessEnvironment::systemEnvironment();
    environment.remove(QStringLiteral("DISPLAY"));
    environment.remove(QStringLiteral("QT_QPA_PLATFORM"));
    p.setProcessEnvironment(environment);
    p.start(program(), arguments);
    EXPECT_TRUE(p.waitForFinished(60000));
    return {p.exitStatus() == QProcess::NormalExit ? p.exitCode() : -1, p.readAllStandardOutput(),
            p.readAllStandardError()};
}

inline Ran command(const std::vector<std::string>& arguments) {
    QStringList list;
    for (const auto& a : arguments)
        list << QString::fromStdString(a);
    return run(list);
}

inline std::string notesOf(const char* name) {
    return dataFolder() + "/notes/" + name + ".toml";
}

} // namespace amber::test
