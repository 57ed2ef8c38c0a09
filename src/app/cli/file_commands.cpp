// SPDX-License-Identifier: GPL-3.0-or-later
// Commands about whole files: plan, check, ranges.
#include "advice/drill_check.h"
#include "audit/audit.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "files/document.h"
#include "files/key_ranges.h"
#include "flight/open_files.h"
#include "plan/plan_export.h"
#include "reading/notes_reader.h"
#include "sortie/airframe_file.h"
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace amber::app {
namespace {

void print(const Problems& problems, std::FILE* to) {
    for (const auto& p : problems)
        fmt::print(to, "{}\n", p.text());
}

int runPlan(const std::string& path, bool asJson, bool asCsv) {
    const auto loaded = flight::loadSortie(path);
    if (!loaded.ok()) {
        print(loaded.problems, stderr);
        return exitProblems;
    }
    const auto made = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    const std::string text = asJson  ? plan::planJson(*loaded.aircraft, *loaded.sortie, made, true)
                             : asCsv ? plan::planCsv(made)
                                     : plan::planText(made);
    fmt::print("{}", text);
    return exitOk;
}

/// What a file that is not yet whole gives already.
void soFar(const std::string& text, const std::string& file) {
    Problems ignored;
    const auto root = document::parse(text, file, ignored);
    if (!root)
        return;
    std::vector<std::string> have, lack;
    const auto count = [&](const char* key, const char* one) {
        const auto* node = root->find(key);
        if (!node)
            lack.emplace_back(one);
        else if (node->kind == document::Node::Kind::array)
            have.push_back(fmt::format("{} {}{}", node->items.size(), one, node->items.size() == 1 ? "" : "s"));
        else if (node->kind == document::Node::Kind::table && (std::string_view(key) == "limits"))
            have.push_back(fmt::format("{} of {} gauges", one, node->members.size()));
        else
            have.emplace_back(one);
    };
    count("engine", "engine");
    count("propeller", "propeller");
    count("rating", "rating");
    count("limits", "limits");
    count("speeds", "speeds");
    count("performance", "performance line");
    count("fuel", "tanks");
    count("engine_start", "start");
    fmt::print("{}: so far this gives {}{}\n", file,
               have.empty() ? "nothing" : fmt::format("{}", fmt::join(have, ", ")),
               lack.empty() ? std::string{} : fmt::format("; still without {}", fmt::join(lack, ", ")));
}

/// Notes, or a sortie when the file has an [airframe].
int runCheck(const std::vector<std::string>& files) {
    bool bad = false;
    for (const auto& file : files) {
        Problems problems;
        std::string verdict;
        bool unread = false;
        const auto text = document::readFile(file, problems);
        if (text) {
            Problems ignored;
            const auto root = document::parse(*text, file, ignored);
            const auto kind = root ? flight::kindOf(*root) : flight::FileKind::notes;
            if (kind == flight::FileKind::airframe) {
                problems = readAirframe(*text, file).problems;
                verdict = "airframe";
            } else if (kind == flight::FileKind::sortie) {
                problems = flight::loadSortieText(*text, file).problems;
                verdict = "sortie";
            } else if (kind == flight::FileKind::setup) {
                // Which faults and engines there are, its sortie's notes say.
                problems.push_back(
                    {file, 0, "this is a rehearsal's set-up, which is checked with a sortie",
                     fmt::format("Run: amber-throttle rehearse SORTIE --setup {} --until \"1 s\"", file)});
            } else {
                const auto plain = readNotes(*text, file);
                problems = plain.problems;
                unread = !plain.notes;
                verdict = "notes";
                std::vector<std::string> variants{plain.notes ? plain.notes->variant : ""};
                if (plain.notes)
                    for (const auto& v : plain.notes->variants)
                        if (v.id != variants.front())
                            variants.push_back(v.id);
                for (const auto& v : variants)
                    if (problems.empty()) {
                        const auto loaded = flight::loadAircraft(file, v);
                        problems = loaded.problems;
                        if (loaded.aircraft)
                            problems = engine::contradictions(loaded.aircraft->notes, loaded.aircraft->calibration);
                        if (loaded.aircraft && loaded.aircraft->notes.format > 1) {
                            for (const auto& found :
                                 {cockpit::audit(loaded.aircraft->notes), advice::checkFlown(*loaded.aircraft)})
                                problems.insert(problems.end(), found.begin(), found.end());
                        }
                    }
            }
        }
        print(problems, stdout);
        if (unread && text)
            soFar(*text, file);
        bad = bad || !problems.empty();
        if (problems.empty())
            fmt::print("{}: {} in order\n", file, verdict);
    }
    return bad ? exitProblems : exitOk;
}

class PlanCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "plan"; }
    [[nodiscard]] const char* help() const override { return "Plan a sortie: text, or one of the formats"; }
    void declare(Arguments& a) override {
        a.text("sortie", file_, "Sortie file (TOML)", Arguments::Need::required);
        a.flag("--json", json_, "JSON to standard output");
        a.flag("--csv", csv_, "CSV to standard output");
        a.text("--pdf", pdf_, "Write the card (A5 PDF) to this file");
        a.text("--air-card", airCard_,
               "Write the card for the air (A5 PDF: what flies, then memory items) to this file");
        a.oneOf({"--json", "--csv", "--pdf", "--air-card"});
    }
    int run(const CommandActions& actions) override {
        return pdf_       ? actions.card(file_, *pdf_, false)
               : airCard_ ? actions.card(file_, *airCard_, true)
                          : runPlan(file_, json_, csv_);
    }

private:
    std::string file_;
    bool json_ = false, csv_ = false;
    std::optional<std::string> pdf_, airCard_;
};

class CheckCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "check"; }
    [[nodiscard]] const char* help() const override { return "Check type notes and sorties; list every problem"; }
    void declare(Arguments& a) override { a.files("files", files_, "Files to check"); }
    int run(const CommandActions&) override { return runCheck(files_); }

private:
    std::vector<std::string> files_;
};

class RangesCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "ranges"; }
    [[nodiscard]] const char* help() const override {
        return "What each figure of a file or an option may be, and why, as Markdown";
    }
    void declare(Arguments& a) override {
        a.choice("whose", whose_, {"notes", "sortie", "airframe", "rehearsal", "log", "command"},
                 "notes, sortie, airframe, rehearsal, log or command");
    }
    int run(const CommandActions&) override {
        fmt::print("{}", rangesAsMarkdown(whose_ == "notes"       ? FileFormat::notes
                                          : whose_ == "sortie"    ? FileFormat::sortie
                                          : whose_ == "airframe"  ? FileFormat::airframe
                                          : whose_ == "rehearsal" ? FileFormat::rehearsal
                                          : whose_ == "log"       ? FileFormat::log
                                                                  : FileFormat::command));
        return exitOk;
    }

private:
    std::string whose_ = "notes";
};
} // namespace

std::unique_ptr<Command> planCommand() {
    return std::make_unique<PlanCommand>();
}
std::unique_ptr<Command> checkCommand() {
    return std::make_unique<CheckCommand>();
}
std::unique_ptr<Command> rangesCommand() {
    return std::make_unique<RangesCommand>();
}

} // namespace amber::app
