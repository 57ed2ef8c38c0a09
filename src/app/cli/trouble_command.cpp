// SPDX-License-Identifier: GPL-3.0-or-later
// What is left when an engine fails, at a moment of a sortie.
#include "advice/engine_out.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "flight/open_files.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sstream>

namespace amber::app {
namespace {
using json = nlohmann::ordered_json;

class TroubleCommand final : public Command {
public:
    [[nodiscard]] const char* name() const override { return "trouble"; }
    [[nodiscard]] const char* help() const override {
        return "When an engine fails (engine-out): rate, ceiling, drift-down and what is lost, on the engine model";
    }
    void declare(Arguments& a) override {
        a.choice("what", what_, {"engine-out"}, "What goes wrong");
        a.text("sortie", file_, "Sortie file (TOML)", Arguments::Need::required);
        a.text("--engine", engines_, "Ids of the engines that fail, \"1\" or \"1,2\"; the first without");
        a.text("--at", at_,
               "When: a phase, \"climb\", or so long after the first look, \"52 min\"; the first climb without");
        a.flag("--json", json_, "JSON in SI units");
    }
    int run(const CommandActions&) override {
        const auto loaded = flight::loadSortie(file_);
        if (!loaded.ok()) {
            for (const auto& p : loaded.problems)
                fmt::print(stderr, "{}\n", p.text());
            return exitProblems;
        }
        const auto& a = *loaded.aircraft;
        const TypeNotes& n = a.notes;
        const auto wrong = [](const std::string& why) {
            fmt::print(stderr, "amber-throttle trouble: {}\n", why);
            return exitUsage;
        };
        std::vector<std::size_t> dead;
        std::stringstream list(engines_.empty() ? n.positions.front().id : engines_);
        for (std::string id; std::getline(list, id, ',');) {
            std::size_t i = 0;
            while (i < n.positions.size() && n.positions[i].id != id)
                ++i;
            if (i == n.positions.size())
                return wrong(fmt::format("--engine: the {} has no engine \"{}\"", n.name, id));
            if (std::find(dead.begin(), dead.end(), i) == dead.end())
                dead.push_back(i);
        }
        const auto flown = flight::fly(a, *loaded.sortie);
        double time = flown[Phase::climb].start;
        if (const auto phase = phaseFromKey(at_); phase && *phase != Phase::writeUp) {
            time = flown[*phase].start + 0.5 * flown[*phase].duration;
        } else if (!at_.empty()) {
            const auto read = amber::read<Dimension::duration>(at_, units::minute.spec);
            if (!read || read.value().si() < 0 || read.value().si() > flown.totalTime())
                return wrong("--at: write a phase of the sortie, or a time within it, \"52 min\"");
            time = read.value().si();
        }
        const auto out = advice::engineOut(a, *loaded.sortie, flown, time, dead);
        if (json_)
            printJson(out);
        else
            printText(out, n);
        return out.verdict.colour() == watch::Colour::red ? exitProblems : exitOk;
    }

private:
    static json of(const advice::OnTheRest& r) {
        return {{"ias_m_s", r.ias.si()},
                {"rate_m_s", r.rate.si()},
                {"power_kW", r.each.si() / 1e3},
                {"needed_kW", r.needed.si() / 1e3},
                {"rating", r.rating},
                {"continuous", r.continuous}};
    }
    static void printJson(const advice::EngineOut& o) {
        json out{{"time_s", o.time},
                 {"height_m", o.height.si()},
                 {"weight_kg", o.weight.si()},
                 {"dead", o.dead},
                 {"feathers", o.feathers},
                 {"windmilling", of(o.windmilling)},
                 {"feathered", of(o.feathered)},
                 {"limited", of(o.limited)},
                 {"ceiling_m", o.ceiling ? json(o.ceiling->si()) : json(nullptr)},
                 {"drift_down",
                  {{"holds", o.driftDown.holds},
                   {"to_m", o.driftDown.to.si()},
                   {"seconds", o.driftDown.seconds},
                   {"distance_km", o.driftDown.distance / 1000}}},
                 {"lost", o.lost},
                 {"colour", watch::wordOf(o.verdict.colour())},
                 {"sentence", o.verdict.sentence()},
                 {"origin", "model"}};
        fmt::print("{}\n", out.dump(2));
    }
    static void printText(const advice::EngineOut& o, const TypeNotes& n) {
        const Cockpit& c = n.cockpit;
        const auto line = [&](const char* what, const advice::OnTheRest& r) {
            fmt::print(
                "{:<13} {:>12} at {:<8} {} each of {} needed to hold it; {}{}\n", what,
                format(std::round(r.rate.si() / verticalSpeedStep(c)) * verticalSpeedStep(c), verticalSpeedUnit(c)),
                format(r.ias, Unit<Dimension::speed>{c.speed}), format(r.each.si(), *c.power),
                format(r.needed.si(), *c.power), r.rating,
                r.minutes ? ", " + formatHoursOrMinutes(r.minutes->si()) : std::string());
        };
        fmt::print("{} out at {}, {}, {} after the first look\n", fmt::join(o.dead, " and "),
                   formatHeight(o.height.si(), *c.height), format(o.weight.si(), *c.weight),
                   formatHoursMinutes(o.time));
        line("windmilling", o.windmilling);
        if (o.feathers)
            line("feathered", o.feathered);
        line("at most", o.limited);
        if (o.ceiling)
            fmt::print("She holds {}.\n", formatHeight(o.ceiling->si(), *c.height));
        if (!o.driftDown.holds)
            fmt::print("Drift-down to {} takes {}, over {}.\n", formatHeight(o.driftDown.to.si(), *c.height),
                       formatHoursOrMinutes(o.driftDown.seconds), format(o.driftDown.distance, *c.distance));
        for (const auto& [what, speed] : o.speeds)
            fmt::print("{:<24} {}\n", what, format(speed.si(), *c.speed));
        if (!o.lost.empty())
            fmt::print("Lost with it: {}.\n", fmt::join(o.lost, ", "));
        if (o.verdict.colour() != watch::Colour::normal)
            fmt::print("{}: ", watch::wordOf(o.verdict.colour()));
        fmt::print("{}\n", o.verdict.sentence());
        fmt::print(
            "!  A model, an estimate. Never slower than the safe speed on fewer engines; the approved manual and its "
            "drill come first.\n");
    }
    std::string what_ = "engine-out", file_, engines_, at_;
    bool json_ = false;
};
} // namespace

std::unique_ptr<Command> troubleCommand() {
    return std::make_unique<TroubleCommand>();
}

} // namespace amber::app
