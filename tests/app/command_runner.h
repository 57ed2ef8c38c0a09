// SPDX-License-Identifier: GPL-3.0-or-later
// Runs the program's commands as a shell would, without a display.
#pragma once
#include "data_folder.h"
#include <QByteArray>
#include <QStringList>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

namespace amber::test {

struct Ran {
    int code; ///< −1: it did not end by itself
    QByteArray out, err;
    [[nodiscard]] nlohmann::json json() const { return nlohmann::json::parse(out.toStdString(), nullptr, false); }
};

/// The program under test: AMBER_THROTTLE_PROGRAM, else the one built beside the tests.
QString program();

/// Where a command's standard output goes.
enum class Output { kept, fullDisk, closed };

/// A command in a process of its own, which is a copy of this one: the program's code is in it already, and a
/// sanitized program takes a twelfth of a second to begin. What needs a screen or draws goes to the program itself, and
/// all of them do where AMBER_THROTTLE_PROGRAM names one.
Ran run(const QStringList& arguments, Output output = Output::kept);
Ran command(const std::vector<std::string>& arguments, Output output = Output::kept);

inline std::string notesOf(const char* name) {
    return dataFolder() + "/notes/" + name + ".toml";
}

} // namespace amber::test
