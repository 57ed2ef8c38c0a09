// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/command.h"
#include <string>
#include <vector>

namespace amber::app {

/// What a command says of itself: for its man page and the completions of shells.
struct ToldOption {
    std::vector<std::string> names; ///< "--csv"; a bare word is what is given in its place
    std::string help;
    bool takes = true; ///< a value follows
    std::vector<std::string> choices;
};
struct ToldCommand {
    std::string name, help;
    std::vector<ToldOption> options;
};

/// Every command with its options, as the commands declare them.
std::vector<ToldCommand> toldCommands();

/// A man page in man(7)'s macros. @param version as --version has it
std::string manPage(const std::vector<ToldCommand>& commands, const std::string& version);
std::string bashCompletion(const std::vector<ToldCommand>& commands);
std::string zshCompletion(const std::vector<ToldCommand>& commands);
std::string fishCompletion(const std::vector<ToldCommand>& commands);

} // namespace amber::app
