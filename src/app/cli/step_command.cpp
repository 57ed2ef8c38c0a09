// SPDX-License-Identifier: GPL-3.0-or-later
// The engineer's tool: a script of levers and conditions in, a trace out.
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "files/document.h"
#include "flight/flown.h"
#include "flight/open_files.h"
#include "script/script.h"
#include "store/sortie_document.h"
#include "units/text.h"
#include <cmath>
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {
namespace {
class StepCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "step"; }
    [[nodiscard]] const char* help() const override {
        return "Run a script of levers and faults through the engines, and write the trace";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "Sortie (TOML): aircraft, day and fuel", Arguments::Need::required);
        a.text("--script", script_, "Levers and conditions (CSV: time, engine, what, value)",
               Arguments::Need::required);
        a.text("--until", until_, "Where it ends; without, a minute after the last line");
        a.text("--every", every_, "Time between two lines of the trace; a second without");
        a.text("--seed", seed_, "Whole number: needles of a rough engine tremble");
        a.text("--csv", csv_, "Write the trace to this file instead of standard output");
    }
    int run(const CommandActions&) override {
        const auto loaded = flight::loadSortie(sortie_);
        Problems problems = loaded.problems;
        std::optional<powerplant::Script> script;
        if (loaded.ok())
            if (const auto text = document::readFile(script_, problems))
                script = powerplant::readScript(*text, script_, loaded.aircraft->notes, problems);
        for (const auto& p : problems)
            fmt::print(stderr, "{}\n", p.text());
        if (!script)
            return exitProblems;
        double until = static_cast<double>(script->last()) / 1000.0 + 60.0, every = 1.0;
        for (const auto& [name, text, into] :
             {std::tuple{"until", &until_, &until}, std::tuple{"every", &every_, &every}})
            if (!text->empty()) {
                const auto time = readOption<Dimension::duration>(name, *text, units::second.spec);
                if (!time)
                    return wrong(time.error());
                *into = time.value().si();
            }
        std::optional<std::uint64_t> seed;
        if (!seed_.empty()) {
            const auto read = readSeed(seed_);
            if (!read)
                return wrong("--seed: write a whole number from 0");
            seed = *read;
        }
        const powerplant::Powerplant plant(*loaded.aircraft, loaded.sortie->fuelGrade);
        powerplant::ScriptRun run(plant, *script, loaded.sortie->day, flight::engineTemperatureOf(*loaded.sortie));
        const auto end = static_cast<powerplant::Milliseconds>(std::llround(until * 10)) * powerplant::shortStep;
        const auto stride = std::max<powerplant::Milliseconds>(1, std::llround(every * 10)) * powerplant::shortStep;
        std::string out = powerplant::traceHeader(plant);
        while (run.state().now < end) {
            const auto& now = run.step();
            if (run.state().now % stride == 0)
                out += powerplant::traceLine(plant, run.state(),
                                             seed ? powerplant::trembling(now, *seed, run.state().now) : now);
        }
        if (csv_.empty()) {
            fmt::print("{}", out);
            return exitOk;
        }
        auto error = overInput(csv_, {sortie_, script_});
        if (error.isEmpty())
            error = writeAtomically(QString::fromStdString(csv_), QByteArray::fromStdString(out));
        if (!error.isEmpty()) {
            fmt::print(stderr, "amber-throttle step: {}\n", error.toStdString());
            return exitWrite;
        }
        fmt::print("{}", groundCaution);
        return exitOk;
    }

private:
    static int wrong(const std::string& sentence) {
        fmt::print(stderr, "amber-throttle step: {}\n", sentence);
        return exitUsage;
    }
    std::string sortie_, script_, until_, every_, seed_, csv_;
};
} // namespace

std::unique_ptr<Command> stepCommand() {
    return std::make_unique<StepCommand>();
}

} // namespace amber::app
