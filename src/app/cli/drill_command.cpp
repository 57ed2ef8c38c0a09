// SPDX-License-Identifier: GPL-3.0-or-later
// The whole drill of a sortie, done by a careful hand on the engines.
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "flight/open_files.h"
#include "hand/careful_hand.h"
#include "units/text.h"
#include <algorithm>
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {
namespace {

class DrillCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "drill"; }
    [[nodiscard]] const char* help() const override {
        return "Do a sortie's whole drill on the engines, from cold to stopped: what was done when, and what did not "
               "come";
    }
    void declare(Arguments& a) override {
        a.text("sortie", file_, "Sortie file (TOML)", Arguments::Need::required);
        a.flag("--quiet", quiet_, "Only what did not come");
    }
    int run(const CommandActions&) override {
        const auto loaded = flight::loadSortie(file_);
        if (!loaded.ok()) {
            for (const auto& p : loaded.problems)
                fmt::print(stderr, "{}\n", p.text());
            return exitProblems;
        }
        const auto flown = flight::fly(*loaded.aircraft, *loaded.sortie);
        const auto hand = hand::doDrill(*loaded.aircraft, *loaded.sortie, flown);
        if (!quiet_)
            for (const auto& d : hand.done)
                fmt::print("{:>8} {:<10} {:<18} {:<4} {:<18} {}\n", formatMinutesSeconds(d.time), keyOf(d.phase),
                           d.step, d.engine, d.control, d.waited > 1 ? fmt::format("{:.0f} s", d.waited) : "");
        for (const auto& m : hand.missed)
            fmt::print("missed: {}\n", m.sentence);
        for (const auto& f : hand.findings) // a needle in amber while it moves is no news
            if (f.rule != watch::Rule::normalRange)
                fmt::print("{}: {}, {} to {}, {}: {}\n", wordOf(f.verdict.colour()),
                           named(loaded.aircraft->notes, f.engine), formatMinutesSeconds(f.begin),
                           formatMinutesSeconds(f.end), keyOf(f.phase), f.verdict.sentence());
        fmt::print("{}: {} acts, {} did not come\n", loaded.aircraft->notes.name, hand.done.size(), hand.missed.size());
        return hand.missed.empty() ? exitOk : exitProblems;
    }

private:
    /// As this type calls it: "Starboard".
    static std::string named(const TypeNotes& n, const std::string& engine) {
        const auto found =
            std::find_if(n.positions.begin(), n.positions.end(), [&](const Position& p) { return p.id == engine; });
        return found == n.positions.end() ? engine : found->name;
    }
    std::string file_;
    bool quiet_ = false;
};
} // namespace

std::unique_ptr<Command> drillCommand() {
    return std::make_unique<DrillCommand>();
}

} // namespace amber::app
