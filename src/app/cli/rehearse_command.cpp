// SPDX-License-Identifier: GPL-3.0-or-later
// A rehearsal without a window: a file of acts, or the careful hand, through the engines; trace and debrief out.
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "files/document.h"
#include "flight/open_files.h"
#include "rehearse/debrief.h"
#include "rehearse/debrief_json.h"
#include "rehearse/mend.h"
#include "script/script.h"
#include "store/sortie_document.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {
namespace {
using rehearse::Milliseconds;

class RehearseCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "rehearse"; }
    [[nodiscard]] const char* help() const override {
        return "Practise a sortie on the engines: acts from a file, or a careful hand by the plan's clock; faults by "
               "chance and seed; trace and debrief";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "Sortie (TOML): aircraft, day, fuel and schools", Arguments::Need::required);
        a.text("--setup", setup_, "Instructor's file (TOML): where it begins, faults, seed");
        a.text("--acts", acts_, "What is done (CSV: time, engine, what, to, over)");
        a.flag("--careful", careful_, "A careful hand that follows the plan, for tests and demonstrations");
        a.oneOf({"--acts", "--careful"});
        a.text("--fault", faults_,
               "Faults and when, commas between: oil-pump@120, dead 2@climb+40, fouled-plugs 0.5@12:30");
        a.text("--seed", seed_, "Whole number: draws what the set-up leaves to chance");
        a.text("--until", until_, "Where it ends; without, a minute after the last act");
        a.text("--csv", csv_, "Write the trace, a line a second, to this file");
        a.text("--acts-out", actsOut_, "Write what was done to this file, to be done again");
        a.flag("--json", json_, "The debrief as JSON, SI");
    }
    int run(const CommandActions&) override {
        const auto loaded = flight::loadSortie(sortie_);
        Problems problems = loaded.problems;
        rehearse::Setup setup;
        std::optional<std::vector<rehearse::Act>> acts;
        if (loaded.ok()) {
            const TypeNotes& n = loaded.aircraft->notes;
            if (!setup_.empty())
                if (const auto text = document::readFile(setup_, problems))
                    if (auto read = rehearse::readSetup(*text, setup_, n, problems))
                        setup = std::move(*read);
            if (!acts_.empty())
                if (const auto text = document::readFile(acts_, problems))
                    acts = rehearse::readActs(*text, acts_, n, problems);
        }
        for (const auto& p : problems)
            fmt::print(stderr, "{}\n", p.text());
        if (!problems.empty() || !loaded.ok())
            return exitProblems;
        for (const auto& f : parted(faults_)) {
            const auto trap = rehearse::readTrap(f, loaded.aircraft->notes);
            if (!trap)
                return wrong("--fault: " + trap.error());
            setup.traps.push_back(trap.value());
        }
        if (!seed_.empty()) {
            const auto read = readSeed(seed_);
            if (!read)
                return wrong("--seed: write a whole number from 0");
            setup.seed = *read;
        }
        std::optional<double> until;
        if (!until_.empty()) {
            const auto time = readOption<Dimension::duration>("until", until_, units::second.spec);
            if (!time)
                return wrong(time.error());
            until = time.value().si();
        }
        if (careful_ && (!setup.traps.empty() || until || setup.from != Phase::walkRound))
            return wrong(
                "--careful follows the plan from cold to stopped: it takes no fault, no --until, no later phase");
        return careful_ ? careful(*loaded.aircraft, *loaded.sortie)
                        : person(*loaded.aircraft, *loaded.sortie, setup, acts.value_or(std::vector<rehearse::Act>{}),
                                 until);
    }

private:
    static int wrong(const std::string& sentence) {
        fmt::print(stderr, "amber-throttle rehearse: {}\n", sentence);
        return exitUsage;
    }
    static std::vector<std::string> parted(const std::string& text) {
        std::vector<std::string> out;
        for (std::size_t from = 0; from < text.size();) {
            const auto comma = std::min(text.find(',', from), text.size());
            out.push_back(text.substr(from, comma - from));
            from = comma + 1;
        }
        return out;
    }
    int person(const powerplant::Aircraft& aircraft, const Sortie& sortie, const rehearse::Setup& setup,
               std::vector<rehearse::Act> acts, std::optional<double> until) {
        const auto plan = flight::fly(aircraft, sortie);
        rehearse::Rehearsal r(aircraft, sortie, plan, setup);
        const double last = acts.empty() ? 0.0 : static_cast<double>(acts.back().at) / 1000.0;
        const auto reference = hand::doDrill(aircraft, sortie, plan, hand::byThePlansClock);
        const bool challenged = std::any_of(
            acts.begin(), acts.end(), [](const rehearse::Act& a) { return a.kind == rehearse::Act::Kind::answer; });
        rehearse::Guide guide(aircraft.notes, reference, setup.from, rehearse::Drill::challenged);
        if (challenged) {
            r.onAct([&] { guide.follow(r); });
            guide.follow(r);
        }
        r.script(std::move(acts));
        std::string trace = powerplant::traceHeader(r.powerplant());
        const auto end =
            static_cast<Milliseconds>(std::llround(until.value_or(last + 60.0) * 10)) * powerplant::shortStep;
        r.advance(end, [&](const hand::Moment& m) {
            if (challenged)
                guide.follow(r);
            if (r.now() % 1000 == 0)
                trace += powerplant::traceLine(r.powerplant(), m.state,
                                               powerplant::trembling(m.readings, setup.seed, m.state.now));
        });
        auto debrief = rehearse::debrief(r, reference);
        debrief.items = guide.answered();
        rehearse::mend(r, reference, debrief);
        if (const int code = write(trace, r.acts(), aircraft.notes); code != exitOk)
            return code;
        if (json_) {
            fmt::print("{}\n", rehearse::debriefJson(debrief, aircraft.notes));
            return exitOk;
        }
        fmt::print("{}, {}, from {}: {} rehearsed, fuel {} (model)\n", aircraft.notes.name, sortie.title,
                   keyOf(setup.from), formatMinutesSeconds(debrief.seconds),
                   format(debrief.fuel, *aircraft.notes.cockpit.fuel));
        for (const auto& line : debrief.sentences(aircraft.notes))
            fmt::print("{}\n", line);
        fmt::print("{}", groundCaution);
        return exitOk;
    }
    int careful(const powerplant::Aircraft& aircraft, const Sortie& sortie) {
        const auto plan = flight::fly(aircraft, sortie);
        const powerplant::Powerplant plant(aircraft, sortie.fuelGrade);
        std::string trace = powerplant::traceHeader(plant);
        const auto run = hand::doDrill(aircraft, sortie, plan, hand::asTheDayIs, [&](const hand::Moment& m) {
            if (m.state.now % 1000 == 0)
                trace += powerplant::traceLine(plant, m.state, m.readings);
        });
        if (const int code = write(trace, rehearse::actsOf(run), aircraft.notes); code != exitOk)
            return code;
        if (json_)
            fmt::print("{}\n", rehearse::carefulJson(run, plan));
        else {
            fmt::print(
                "{}, {}: a careful hand by the plan's clock (a stand-in for tests, demonstrations and recordings)\n",
                aircraft.notes.name, sortie.title);
            fmt::print("{:<11} {:>8} {:>8} {:>14} {:>8}\n", "phase", "ended", "planned", "heads, coolant", "planned");
            for (std::size_t i = static_cast<std::size_t>(Phase::walkRound); i < plannedPhases; ++i) {
                const auto phase = static_cast<Phase>(i);
                const UnitSpec& unit = *aircraft.notes.cockpit.temperature;
                fmt::print("{:<11} {:>8} {:>8} {:>14} {:>8}\n", keyOf(phase), formatMinutesSeconds(run[phase].time),
                           formatMinutesSeconds(plan[phase].start + plan[phase].duration),
                           format(run[phase].readings.engines.front().headOrCoolant(), unit),
                           format(plan.samples[plan[phase].lastSample].headOrCoolant(), unit));
            }
            for (const auto& m : run.missed)
                fmt::print("missed: {}\n", m.sentence);
            fmt::print("fuel {}, planned {}\n", format(run.fuel, *aircraft.notes.cockpit.fuel),
                       format(plan.fuelAtStart - plan.fuelAtEnd, *aircraft.notes.cockpit.fuel));
            fmt::print("{}", groundCaution);
        }
        return run.missed.empty() ? exitOk : exitProblems;
    }
    [[nodiscard]] int write(const std::string& trace, const std::vector<rehearse::Act>& acts,
                            const TypeNotes& notes) const {
        if (!csv_.empty() && csv_ == actsOut_) {
            fmt::print(stderr, "amber-throttle rehearse: --csv and --acts-out name one file. Choose another name.\n");
            return exitWrite;
        }
        for (const auto& [file, text] : {std::pair{csv_, trace}, std::pair{actsOut_, rehearse::writeActs(acts, notes)}})
            if (!file.empty()) {
                auto error = overInput(file, {sortie_, setup_, acts_});
                if (error.isEmpty())
                    error = writeAtomically(QString::fromStdString(file), QByteArray::fromStdString(text));
                if (!error.isEmpty()) {
                    fmt::print(stderr, "amber-throttle rehearse: {}\n", error.toStdString());
                    return exitWrite;
                }
            }
        return exitOk;
    }
    std::string sortie_, setup_, acts_, faults_, seed_, until_, csv_, actsOut_;
    bool careful_ = false, json_ = false;
};
} // namespace

std::unique_ptr<Command> rehearseCommand() {
    return std::make_unique<RehearseCommand>();
}

} // namespace amber::app
