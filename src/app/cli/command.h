// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/command_line.h"
#include <initializer_list>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace amber::app {

/// Where a command says what it takes: figures come as they were typed and are read by the command.
class Arguments {
public:
    enum class Need { optional, required };
    virtual ~Arguments() = default;
    virtual void text(const char* name, std::string& into, const char* help, Need need = Need::optional) = 0;
    /// Told apart from an empty one.
    virtual void text(const char* name, std::optional<std::string>& into, const char* help) = 0;
    virtual void choice(const char* name, std::string& into, std::vector<std::string> of, const char* help) = 0;
    virtual void flag(const char* name, bool& into, const char* help) = 0;
    virtual void files(const char* name, std::vector<std::string>& into, const char* help) = 0;
    /// At most one of these.
    virtual void oneOf(std::initializer_list<const char*> names) = 0;
};

/// One command of the program: a class in a file of its own or beside its kin, and a row of cli/command_table.cpp.
class Command {
public:
    virtual ~Command() = default;
    [[nodiscard]] virtual const char* name() const = 0;
    [[nodiscard]] virtual const char* help() const = 0;
    virtual void declare(Arguments& arguments) = 0;
    /// @return the exit code
    virtual int run(const CommandActions& actions) = 0;
};

/// Every command, in the order of the help.
std::vector<std::unique_ptr<Command>> allCommands();

} // namespace amber::app
