// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/told_commands.h"
#include "cli/exit_codes.h"
#include <algorithm>
#include <cctype>
#include <fmt/format.h>

namespace amber::app {
namespace {

class Collected : public Arguments {
public:
    explicit Collected(std::vector<ToldOption>& into) : into_(into) {}
    void text(const char* name, std::string&, const char* help, Need) override { add(name, help, true); }
    void text(const char* name, std::optional<std::string>&, const char* help) override { add(name, help, true); }
    void choice(const char* name, std::string&, std::vector<std::string> of, const char* help) override {
        add(name, help, true);
        into_.back().choices = std::move(of);
    }
    void flag(const char* name, bool&, const char* help) override { add(name, help, false); }
    void files(const char* name, std::vector<std::string>&, const char* help) override { add(name, help, true); }
    void oneOf(std::initializer_list<const char*>) override {}

private:
    void add(const std::string& names, const char* help, bool takes) {
        ToldOption o{{}, help, takes, {}};
        for (std::size_t at = 0; at < names.size();) {
            const std::size_t end = std::min(names.find(',', at), names.size());
            o.names.push_back(names.substr(at, end - at));
            at = end + 1;
        }
        into_.push_back(std::move(o));
    }
    std::vector<ToldOption>& into_;
};

bool isOption(const ToldOption& o) {
    return o.names.front().starts_with('-');
}

/// Text as roff takes it: a leading dot or quote is no request, a hyphen is a minus that can be copied.
std::string roff(const std::string& text) {
    std::string out;
    for (const char c : text)
        out += c == '\\' ? std::string("\\e") : c == '-' ? std::string("\\-") : std::string(1, c);
    return out.starts_with('.') || out.starts_with('\'') ? "\\&" + out : out;
}

/// Within single quotes of a shell.
std::string shellQuoted(const std::string& text) {
    std::string out = "'";
    for (const char c : text)
        out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return out + "'";
}

/// For zsh's lists "word:what it is", within single quotes.
std::string zshText(std::string text) {
    std::string out;
    for (const char c : text)
        out += c == ':' || c == '[' || c == ']' ? std::string("\\") + c : std::string(1, c);
    std::string plain = shellQuoted(out);
    return plain.substr(1, plain.size() - 2);
}

std::string joined(const std::vector<std::string>& words, const char* between = " ") {
    std::string out;
    for (const auto& w : words)
        out += (out.empty() ? "" : between) + w;
    return out;
}
} // namespace

std::vector<ToldCommand> toldCommands() {
    std::vector<ToldCommand> out;
    for (const auto& command : allCommands()) {
        ToldCommand told{command->name(), command->help(), {}};
        Collected arguments(told.options);
        command->declare(arguments);
        out.push_back(std::move(told));
    }
    return out;
}

std::string manPage(const std::vector<ToldCommand>& commands, const std::string& version) {
    std::string out = fmt::format(".TH AMBER-THROTTLE 1 \"\" \"amber-throttle {}\" \"User Commands\"\n", version);
    out +=
        ".SH NAME\namber\\-throttle \\- engine settings of period piston aircraft: plan, rehearse, record\n"
        ".SH SYNOPSIS\n.B amber\\-throttle\n.RI [ sortie ]\n.br\n.B amber\\-throttle\n.I command\n.RI [ options ]\n"
        ".SH DESCRIPTION\nPlans the engine settings of a sortie for today's air, fuel and weight, rehearses them on a "
        "live engine model, and records what the engines did. Without a command it opens its window. It plans and "
        "teaches; approved flight manuals, placards and licensed engineers come first.\n"
        ".SH OPTIONS\n.TP\n.B \\-\\-demo\nOpen the demo sortie.\n.TP\n.B \\-\\-version\nSay the version.\n"
        ".TP\n.B \\-\\-help\nList the commands; after a command, its options.\n.SH COMMANDS\n";
    for (const auto& c : commands) {
        out += fmt::format(".SS {}\n{}.\n", roff(c.name), roff(c.help));
        for (const auto& o : c.options) {
            std::string names;
            for (const auto& n : o.names)
                names += (names.empty() ? "" : ", ") + roff(n);
            out += fmt::format(".TP\n.B {}{}\n{}\n", names,
                               !o.choices.empty()       ? " " + roff(joined(o.choices, "|"))
                               : o.takes && isOption(o) ? " VALUE"
                                                        : "",
                               roff(o.help));
        }
    }
    out += fmt::format(".SH EXIT STATUS\n{} done, {} problems in the input, {} wrong command, {} output could not be "
                       "written.\n",
                       exitOk, exitProblems, exitUsage, exitWrite);
    out +=
        ".SH ENVIRONMENT\n.TP\n.B AMBER_THROTTLE_DATA\nFolder of notes and demos, instead of the one it was installed "
        "with.\n";
    return out;
}

std::string bashCompletion(const std::vector<ToldCommand>& commands) {
    std::vector<std::string> names;
    for (const auto& c : commands)
        names.push_back(c.name);
    std::string out = "# bash completion of amber-throttle, made by: amber-throttle shell bash\n_amber_throttle() {\n"
                      "    local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} options=\n"
                      "    if [ \"$COMP_CWORD\" = 1 ]; then\n"
                      "        COMPREPLY=($(compgen -W \"" +
                      joined(names) +
                      " --demo --version --help\" -- \"$word\") $(compgen -f -- \"$word\"))\n        return\n    fi\n"
                      "    case \"${COMP_WORDS[1]} $before\" in\n";
    for (const auto& c : commands)
        for (const auto& o : c.options)
            if (!o.choices.empty() && isOption(o))
                for (const auto& n : o.names)
                    out += fmt::format("    \"{} {}\") COMPREPLY=($(compgen -W \"{}\" -- \"$word\")); return ;;\n",
                                       c.name, n, joined(o.choices));
    out += "    esac\n    case \"${COMP_WORDS[1]}\" in\n";
    for (const auto& c : commands) {
        std::vector<std::string> options;
        for (const auto& o : c.options) {
            if (isOption(o))
                options.insert(options.end(), o.names.begin(), o.names.end());
            else
                options.insert(options.end(), o.choices.begin(), o.choices.end());
        }
        out += fmt::format("    {}) options=\"{}\" ;;\n", c.name, joined(options));
    }
    out += "    esac\n    COMPREPLY=($(compgen -W \"$options --help\" -- \"$word\"))\n"
           "    case \"$word\" in -*) ;; *) COMPREPLY+=($(compgen -f -- \"$word\")) ;; esac\n}\n"
           "complete -o filenames -F _amber_throttle amber-throttle\n";
    return out;
}

std::string zshCompletion(const std::vector<ToldCommand>& commands) {
    std::string out = "#compdef amber-throttle\n# made by: amber-throttle shell zsh\nlocal -a commands\ncommands=(\n";
    for (const auto& c : commands)
        out += fmt::format("    '{}:{}'\n", c.name, zshText(c.help));
    out += ")\nif (( CURRENT == 2 )); then\n    _describe 'command' commands\n    _files\n    return\nfi\n"
           "case $words[2] in\n";
    for (const auto& c : commands) {
        out += fmt::format("{})\n    shift words; (( CURRENT-- ))\n    _arguments", c.name);
        for (const auto& o : c.options)
            for (const auto& n : o.names)
                if (isOption(o))
                    out += fmt::format(" \\\n        '{}[{}]{}'", n, zshText(o.help),
                                       !o.takes            ? std::string()
                                       : o.choices.empty() ? ":value:_files"
                                                           : ":value:(" + joined(o.choices) + ")");
        out += " \\\n        '*:file:_files'\n    ;;\n";
    }
    return out + "esac\n";
}

std::string fishCompletion(const std::vector<ToldCommand>& commands) {
    std::string out = "# fish completion of amber-throttle, made by: amber-throttle shell fish\n";
    for (const auto& c : commands)
        out += fmt::format("complete -c amber-throttle -n __fish_use_subcommand -a {} -d {}\n", c.name,
                           shellQuoted(c.help));
    for (const auto& c : commands)
        for (const auto& o : c.options)
            for (const auto& n : o.names)
                if (n.starts_with("--"))
                    out += fmt::format(
                        "complete -c amber-throttle -n '__fish_seen_subcommand_from {}' -l {}{}{} -d {}\n", c.name,
                        n.substr(2), o.takes ? " -r" : "",
                        o.choices.empty() ? "" : " -f -a " + shellQuoted(joined(o.choices)), shellQuoted(o.help));
    return out;
}

namespace {
/// What a shell and man are told of the commands.
class ShellCommand : public Command {
public:
    const char* name() const override { return "shell"; }
    const char* help() const override {
        return "Completion for bash, zsh or fish, or the man page, to standard output";
    }
    void declare(Arguments& a) override {
        a.choice("for", for_, {"bash", "zsh", "fish", "man"}, "bash, zsh, fish, or man for the man page");
    }
    int run(const CommandActions&) override {
        const auto commands = toldCommands();
        fmt::print("{}", for_ == "zsh"    ? zshCompletion(commands)
                         : for_ == "fish" ? fishCompletion(commands)
                         : for_ == "man"  ? manPage(commands, AMBER_VERSION)
                                          : bashCompletion(commands));
        return exitOk;
    }

private:
    std::string for_ = "bash";
};
} // namespace

std::unique_ptr<Command> shellCommand() {
    return std::make_unique<ShellCommand>();
}

} // namespace amber::app
