// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "files/table_reader.h"
#include <CLI/CLI.hpp>
#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <sstream>
#include <system_error>

namespace amber::app {
namespace {

/// Arguments of one command as CLI11 takes them.
class CliArguments : public Arguments {
public:
    explicit CliArguments(CLI::App& command) : command_(command) {}
    void text(const char* name, std::string& into, const char* help, Need need) override {
        auto* option = command_.add_option(name, into, help);
        if (need == Need::required)
            option->required();
        if (!into.empty())
            option->capture_default_str();
    }
    void text(const char* name, std::optional<std::string>& into, const char* help) override {
        command_.add_option_function<std::string>(
            name, [&into](const std::string& given) { into = given; }, help);
    }
    void choice(const char* name, std::string& into, std::vector<std::string> of, const char* help) override {
        command_.add_option(name, into, help)->check(CLI::IsMember(std::move(of)))->capture_default_str();
    }
    void flag(const char* name, bool& into, const char* help) override { command_.add_flag(name, into, help); }
    void files(const char* name, std::vector<std::string>& into, const char* help) override {
        command_.add_option(name, into, help)->required();
    }
    void oneOf(std::initializer_list<const char*> names) override {
        for (const auto* a : names)
            for (const auto* b : names)
                if (a != b)
                    command_.get_option(a)->excludes(command_.get_option(b));
    }

private:
    CLI::App& command_;
};

int parseAndRun(int argc, char** argv, const CommandActions& actions) {
    CLI::App app{"Amber Throttle plans the engine settings of a sortie for period aircraft.\n"
                 "It plans and teaches; approved flight manuals, placards and licensed engineers come first.",
                 "amber-throttle"};
    app.set_version_flag("--version", "amber-throttle " AMBER_VERSION);
    app.footer("Exit codes: 0 done, 1 problems in the input, 2 wrong command, 3 output could not be written.");

    std::string sortie;
    bool demo = false;
    app.add_option("file", sortie, "Sortie to open in the window");
    app.add_flag("--demo", demo, "Open the demo sortie");
    const auto commands = allCommands();
    std::vector<CLI::App*> parsers;
    for (const auto& command : commands) {
        parsers.push_back(app.add_subcommand(command->name(), command->help()));
        CliArguments arguments(*parsers.back());
        command->declare(arguments);
    }
    app.require_subcommand(0, 1);

    // A word that is neither a command nor a file, most likely a command mistyped.
    if (argc > 1 && argv[1][0] != '-' && argv[1][0] != '\0') {
        const std::string word = argv[1];
        std::vector<std::string> names;
        for (const auto& command : commands)
            names.emplace_back(command->name());
        std::error_code none;
        if (std::find(names.begin(), names.end(), word) == names.end() &&
            word.find_first_of("./") == std::string::npos && !std::filesystem::exists(word, none)) {
            const std::string guess = document::nearest(word, names);
            fmt::print(stderr, "amber-throttle: there is no command \"{}\"{}\n", word,
                       guess.empty() ? std::string(". amber-throttle --help lists them.")
                                     : fmt::format("; did you mean {}?", guess));
            return exitUsage;
        }
    }

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        std::ostringstream told, wrong; // through our own printing, which notices what cannot be written
        const bool asked = app.exit(error, told, wrong) == 0;
        fmt::print("{}", told.str());
        fmt::print(stderr, "{}", wrong.str());
        return asked ? exitOk : exitUsage;
    }

    for (std::size_t i = 0; i < commands.size(); ++i)
        if (parsers[i]->parsed())
            return commands[i]->run(actions);
    return actions.window(sortie, demo);
}

} // namespace

int runCommandLine(int argc, char** argv, const CommandActions& actions) {
    // A reader that goes away (head, a pager) is an output that could not be written, not a reason to be killed.
    std::signal(SIGPIPE, SIG_IGN);
    int code = exitWrite;
    std::string why;
    try {
        code = parseAndRun(argc, argv, actions);
        errno = 0;
        if (std::fflush(stdout) != 0 || std::ferror(stdout) != 0)
            why = errno ? std::strerror(errno) : "it came out short";
    } catch (const std::system_error& error) {
        why = error.code().message();
    }
    if (why.empty())
        return code;
    std::fprintf(stderr, "amber-throttle: standard output could not be written: %s\n", why.c_str());
    return exitWrite;
}

} // namespace amber::app
