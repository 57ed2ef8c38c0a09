// SPDX-License-Identifier: GPL-3.0-or-later
// Type notes as text: written out whole, or of format 1 rewritten as format 2.
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cockpit/migrate.h"
#include "cockpit/written.h"
#include "drills/drill.h"
#include "flight/open_files.h"
#include "reading/notes_reader.h"
#include "store/sortie_document.h"
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {
namespace {

int refuse(const Problems& problems) {
    for (const auto& p : problems)
        fmt::print(stderr, "{}\n", p.text());
    return exitProblems;
}

int runExpand(const std::string& file, const std::string& variant) {
    Problems problems;
    const auto text = document::readFile(file, problems);
    if (!text)
        return refuse(problems);
    auto reading = readNotes(*text, file, variant);
    if (!reading.notes)
        return refuse(reading.problems);
    if (reading.notes->format == 1) {
        fmt::print(
            stderr,
            "{}: format 1 has its whole drill as sentences; amber-throttle notes --migrate makes format 2 of it\n",
            file);
        return exitUsage;
    }
    TypeNotes whole = *reading.notes;
    cockpit::expand(whole, problems);
    if (!problems.empty())
        return refuse(problems);
    const auto root = document::parse(*text, file, problems);
    fmt::print("{}", cockpit::expanded(*root, whole));
    return exitOk;
}

int runMigrate(const std::string& file) {
    Problems problems;
    const auto text = document::readFile(file, problems);
    const auto made = text ? cockpit::migrate(*text, file, problems) : std::nullopt;
    if (!made)
        return refuse(problems);
    fmt::print("{}", made->text);
    fmt::print(stderr, "{}: {} steps, {} of them stay sentences without acts{}{}\n", file, made->steps,
               made->silent.size(), made->silent.empty() ? "" : ": ", fmt::join(made->silent, ", "));
    return exitOk;
}

/// What the notes give so far, in a few lines.
int runSummary(const std::string& file, const std::string& variant) {
    const auto loaded = flight::loadAircraft(file, variant);
    if (!loaded.aircraft)
        return refuse(loaded.problems);
    const TypeNotes& n = loaded.aircraft->notes;
    std::size_t steps = 0, practice = 0, silent = 0;
    for (const auto& [phase, notes] : n.phases)
        for (const auto& s : notes.steps) {
            ++steps;
            practice += s.origin == Origin::practice;
            silent += s.actions.empty();
        }
    std::size_t own = 0;
    for (const auto& c : n.controls)
        own += c.origin == Origin::notes;
    fmt::print("{}: format {}, {} engine{}, {} ratings, {} gauges with limits\n", n.name, n.format, n.engineCount(),
               n.engineCount() == 1 ? "" : "s", n.ratings.size(), n.gauges.size());
    fmt::print("  {} controls, {} by the notes and {} usual for this equipment\n", n.controls.size(), own,
               n.controls.size() - own);
    fmt::print("  {} steps, {} by the notes and {} common practice; {} say something that no control does\n", steps,
               steps - practice, practice, silent);
    if (!n.estimated.empty())
        fmt::print("  {} figures are ours, not from these notes:\n", n.estimated.size());
    for (const auto& e : n.estimated)
        fmt::print("    {:<34} {:<14} {}\n", e.path, e.text, e.why);
    return exitOk;
}

class NotesCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "notes"; }
    [[nodiscard]] const char* help() const override {
        return "What type notes give: a summary, the whole drill, or format 2 of format 1";
    }
    void declare(Arguments& a) override {
        a.text("notes", file_, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", variant_, "Variant of the notes");
        a.flag("--expand", expand_, "The notes with every control and step written out, to standard output");
        a.flag("--migrate", migrate_, "Notes of format 1 as format 2, to standard output");
        a.oneOf({"--expand", "--migrate"});
    }
    int run(const CommandActions&) override {
        return expand_ ? runExpand(file_, variant_) : migrate_ ? runMigrate(file_) : runSummary(file_, variant_);
    }

private:
    std::string file_, variant_;
    bool expand_ = false, migrate_ = false;
};
} // namespace

std::unique_ptr<Command> notesCommand() {
    return std::make_unique<NotesCommand>();
}

} // namespace amber::app
