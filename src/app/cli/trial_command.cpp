// SPDX-License-Identifier: GPL-3.0-or-later
// Ways of doing a thing that were tried on an airframe's runs, compared by its readings.
#include "cli/airframe_log.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "record/trials.h"
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {

class TrialCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "trial"; }
    [[nodiscard]] const char* help() const override {
        return "Ways of doing a thing that were tried, compared by what was read";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "A sortie of the airframe", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite), or postgresql://… of the hangar's; without: your own");
        a.text("--name", name_, "Of this trial only");
        a.flag("--json", json_, "As JSON");
    }
    int run(const CommandActions&) override {
        const AirframeLog of(sortie_, log_);
        if (!of)
            return of.code;
        auto trials = record::trialsOf(of.log, of.airframe(), of.loaded.aircraft->notes);
        if (!name_.empty())
            std::erase_if(trials, [&](const record::Trial& t) { return t.name != name_; });
        json_ ? printJson(trials) : print(trials, of.airframe());
        return exitOk;
    }

private:
    void print(const std::vector<record::Trial>& trials, const std::string& airframe) const {
        if (trials.empty())
            fmt::print("No run of {} is marked with a trial{}: log add --what trial --words \"intakes: blanked\".\n",
                       airframe, name_.empty() ? "" : " of that name");
        for (const auto& t : trials) {
            if (t.second.empty()) {
                fmt::print("{}: flown {}: {} of the runs, and no other way to hold it against\n", t.name, t.first,
                           t.firstRuns);
                continue;
            }
            fmt::print("{}: {} ({} runs) against {} ({})\n", t.name, t.second, t.secondRuns, t.first, t.firstRuns);
            if (!t.interleaved)
                fmt::print("  The runs of the two ways do not take turns: what changed with time looks like the trial. "
                           "Fly them by turns.\n");
            for (const auto& e : t.effects)
                fmt::print("  {} {}\n", e.tells ? "*" : " ", e.words);
        }
        if (!trials.empty())
            fmt::print("Fly the ways by turns: what creeps shows as an effect of the later one.\n");
        fmt::print("{}", logCaution);
    }
    static void printJson(const std::vector<record::Trial>& trials) {
        nlohmann::ordered_json out = nlohmann::ordered_json::array();
        for (const auto& t : trials) {
            nlohmann::ordered_json effects = nlohmann::ordered_json::array();
            for (const auto& e : t.effects)
                effects.push_back({{"what", e.what},
                                   {"phase", keyOf(e.phase)},
                                   {"engine", e.engine},
                                   {"against_plan", e.againstPlan},
                                   {"runs", {e.first, e.second}},
                                   {"by", e.by},
                                   {"low", e.low},
                                   {"high", e.high},
                                   {"tells", e.tells},
                                   {"more_runs", e.more ? nlohmann::ordered_json(*e.more) : nullptr},
                                   {"words", e.words}});
            out.push_back({{"name", t.name},
                           {"first", t.first},
                           {"second", t.second},
                           {"runs", {t.firstRuns, t.secondRuns}},
                           {"effects", effects}});
        }
        fmt::print("{}\n", out.dump(1));
    }

    std::string sortie_, log_, name_;
    bool json_ = false;
};

} // namespace

std::unique_ptr<Command> trialCommand() {
    return std::make_unique<TrialCommand>();
}

} // namespace amber::app
