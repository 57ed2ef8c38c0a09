// SPDX-License-Identifier: GPL-3.0-or-later
// A run as it goes: the plan slid to what happened, what comes next, fuel from here. From a log, or from a stand-in.
#include "aloft/now.h"
#include "aloft/stand_in.h"
#include "cli/airframe_log.h"
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <QDateTime>
#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
constexpr double scanEach = 600.0; // s, of the stand-in's crew in the air; on the ground two in the warm-up

class LiveCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "live"; }
    [[nodiscard]] const char* help() const override {
        return "A run as it goes: what comes next and when, today's engines, fuel from here; of a log's run, or with a "
               "stand-in for the aircraft";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "The sortie that is flown", Arguments::Need::required);
        a.text("--log", log_, "The log (SQLite) with its run, the latest of the airframe; without: your own");
        a.text("--stand-in", standIn_, "Whole number: no log, but an aircraft of another build, drawn by this seed");
        a.text("--at", at_, "The moment, from the beginning of the run, 1:20:00; without: now, or the end");
        a.text("--until", until_, "On to this moment, step by step");
        a.text("--every", every_, "The step; without: five minutes");
        a.flag("--unbent", unbent_, "Slid by the moments only, not bent by what was read");
        a.flag("--json", json_, "As JSON, SI: a line a moment");
        a.oneOf({"--log", "--stand-in"});
    }
    int run(const CommandActions&) override {
        std::optional<double> at, until;
        double every = 300.0;
        for (const auto& [text, name, into] : {std::tuple{&at_, "--at", &at}, std::tuple{&until_, "--until", &until}})
            if (!text->empty()) {
                *into = moment(*text);
                if (!*into)
                    return wrong(fmt::format("{}: write a time in the run as 1:20:00 or 80 min", name));
            }
        if (!every_.empty()) {
            const auto step = moment(every_);
            if (!step || *step < 1.0)
                return wrong("--every: write a time as 5 min, a second at least");
            every = *step;
        }
        flight::LoadedSortie loaded;
        std::optional<aloft::StandInFlight> flight;
        aloft::Happened happened;
        double end = 0.0;
        if (!standIn_.empty()) {
            const auto seed = readSeed(standIn_);
            if (!seed)
                return wrong("--stand-in: write a whole number from 0");
            loaded = flight::loadSortie(sortie_);
            for (const auto& p : loaded.problems)
                fmt::print(stderr, "{}\n", p.text());
            if (!loaded.ok())
                return exitProblems;
            aloft::StandInSetting setting;
            setting.seed = *seed;
            flight = aloft::standInFlight(*loaded.aircraft, *loaded.sortie, setting);
            happened = crewOf(*flight, *loaded.aircraft);
            end = static_cast<double>(flight->truth.size());
        } else {
            const AirframeLog of(sortie_, log_, 1);
            if (!of)
                return of.code;
            loaded = of.loaded;
            if (of.log.runs.empty())
                return wrong(fmt::format("the log has no run of {}", of.airframe()));
            const auto& run = of.log.runs.rbegin()->second;
            // As it was planned that day.
            if (!run.sortie.empty()) {
                auto that = flight::loadSortieText(run.sortie, "run.toml");
                if (that.ok())
                    loaded = std::move(that);
            }
            happened = aloft::happenedOf(record::standing(of.log, run.id), run);
            end = static_cast<double>(QDateTime::currentMSecsSinceEpoch() - run.began) / 1000.0;
            if (end > longestRun || end < 0.0) { // it is over
                end = 0.0;
                for (const auto& m : happened.moments)
                    end = std::max(end, m.at);
                for (const auto& r : happened.readings)
                    end = std::max(end, r.at);
            }
        }
        const auto plan = plan::makePlan(*loaded.aircraft, *loaded.sortie);
        aloft::Options options;
        options.bend = !unbent_;
        const double first = at.value_or(until ? 0.0 : end), last = until.value_or(first);
        int code = exitOk;
        for (double t = first; t <= last + 1e-6; t += every) {
            aloft::Happened heard = happened;
            std::erase_if(heard.moments, [&](const aloft::Given& g) { return g.at > t; });
            std::erase_if(heard.readings, [&](const aloft::Reading& r) { return r.at > t; });
            const auto now = aloft::nowOf(*loaded.aircraft, *loaded.sortie, plan, heard, t, options);
            if (json_)
                printJson(now, loaded.aircraft->notes);
            else
                print(now, *loaded.aircraft);
            if (now.here.verdict.colour() == watch::Colour::red)
                code = exitProblems;
        }
        if (!json_)
            fmt::print("{}", groundCaution);
        return code;
    }

private:
    static constexpr double longestRun = 24 * 3600.0;
    static int wrong(const std::string& sentence) {
        fmt::print(stderr, "amber-throttle live: {}\n", sentence);
        return exitUsage;
    }
    /// "1:20:00", "80 min".
    static std::optional<double> moment(const std::string& text) {
        double sum = 0.0, part = 0.0;
        int colons = 0;
        bool digits = false;
        for (const char c : text) {
            if (c == ':') {
                sum = 60.0 * (sum + part);
                part = 0.0;
                ++colons;
            } else if (c >= '0' && c <= '9') {
                part = 10.0 * part + (c - '0');
                digits = true;
            } else {
                const auto read = amber::read<Dimension::duration>(text, units::second.spec);
                return read && read.value().si() >= 0.0 && read.value().si() <= longestRun
                           ? std::optional(read.value().si())
                           : std::nullopt;
            }
        }
        if (!digits || colons > 2 || sum + part > longestRun)
            return std::nullopt;
        return sum + part;
    }
    /// What a crew of the stand-in would press and read.
    static aloft::Happened crewOf(const aloft::StandInFlight& flight, const powerplant::Aircraft& a) {
        aloft::Happened out;
        out.moments = flight.moments;
        double fired = 0.0, off = 0.0;
        for (const auto& m : flight.moments) {
            fired = m.what == "at-first-fire" ? std::max(fired, m.at) : fired;
            off = m.what == "at-take-off" ? m.at : off;
        }
        std::vector<double> scans{fired + 60.0, fired + 150.0};
        for (double t = off + scanEach; t < static_cast<double>(flight.truth.size()) - 60.0; t += scanEach)
            scans.push_back(t);
        const Gauge heads = headOrCoolantGauge(a.notes);
        for (const double t : scans) {
            const auto second = static_cast<std::size_t>(t);
            if (second >= flight.truth.size())
                continue;
            for (std::size_t e = 0; e < a.notes.engineCount(); ++e)
                for (const Gauge g : {heads, Gauge::oilTemperature})
                    if (a.notes.gauges.contains(g))
                        out.readings.push_back({g,
                                                a.notes.positions[e].id,
                                                t,
                                                watch::asRead(a.notes, g, flight.truth[second].engines[e][g]),
                                                {},
                                                false});
            if (flight.truth[second].phase >= Phase::climb)
                out.readings.push_back({Gauge::fuel, {}, t, flight.truth[second].engines[0][Gauge::fuel], {}, false});
        }
        return out;
    }
    static void print(const aloft::Now& now, const powerplant::Aircraft& a) {
        const TypeNotes& n = a.notes;
        const auto& fuel = *n.cockpit.fuel;
        fmt::print("{}  {}{}{}\n", formatHoursMinutes(now.at), titleOf(now.phase),
                   now.phase >= Phase::takeOff && now.phase < Phase::stop
                       ? fmt::format(", {}", formatHeight(now.height, *n.cockpit.height))
                       : std::string(),
                   now.over ? ", the run is over" : "");
        if (now.quiet)
            fmt::print("  quiet   {}\n", now.quietWhy);
        for (std::size_t i = 0; i < std::min<std::size_t>(now.next.size(), 3); ++i) {
            const auto& x = now.next[i];
            std::string when = !x.told.empty() ? x.told
                               : !x.in         ? std::string()
                               : *x.in >= 0.0  ? "in " + formatMinutesSeconds(*x.in)
                                               : "overdue by " + formatMinutesSeconds(-*x.in);
            if (x.width && *x.in >= 0.0)
                when += fmt::format(" ({} to {})", formatMinutesSeconds(std::max(0.0, x.width->first)),
                                    formatMinutesSeconds(std::max(0.0, x.width->second)));
            fmt::print("  {:<7} {}: {}{}\n", i == 0 ? "next" : "", x.what, when, x.why.empty() ? "" : "; " + x.why);
        }
        for (const auto& r : now.ratings)
            fmt::print("  {:<7} {}: used {}{}\n", wordOf(r.verdict.colour()), r.name, formatMinutesSeconds(r.used),
                       r.allowed ? " of " + formatMinutesSeconds(*r.allowed) : std::string());
        for (const auto& d : now.differs)
            if (d.clear)
                fmt::print("  today   {}\n", d.what);
        if (now.phase >= Phase::climb && !now.over)
            fmt::print("  fuel    {} on board; when stopped {} ({} to {}), required {}; endurance to the reserve {}\n",
                       format(now.here.fuel.value, fuel), format(now.here.landing.value, fuel),
                       format(now.here.landing.low, fuel), format(now.here.landing.high, fuel),
                       format(now.here.must, fuel), formatHoursOrMinutes(now.here.endurance));
        for (const auto& ask : now.asks)
            fmt::print("  {:<7} {}\n", wordOf(ask.colour()), ask.sentence());
    }
    static void printJson(const aloft::Now& now, const TypeNotes& n) {
        using Json = nlohmann::ordered_json;
        const auto ahead = [](const aloft::Ahead& a) {
            return Json{{"value", a.value}, {"low", a.low}, {"high", a.high}};
        };
        Json out{{"t_s", now.at},    {"plan_s", now.plan}, {"phase", keyOf(now.phase)},
                 {"over", now.over}, {"quiet", now.quiet}, {"height_m", now.height}};
        if (now.nextMoment)
            out["next_moment"] = {
                {"key", now.nextMoment->row->key}, {"engine", now.nextMoment->engine}, {"in_s", now.nextMomentIn}};
        out["next"] = Json::array();
        for (const auto& x : now.next) {
            Json item{{"id", x.id}, {"what", x.what}, {"why", x.why}, {"colour", wordOf(x.verdict.colour())}};
            if (x.in)
                item["in_s"] = *x.in;
            if (x.width)
                item["between_s"] = {x.width->first, x.width->second};
            if (!x.told.empty())
                item["told"] = x.told;
            out["next"].push_back(std::move(item));
        }
        out["ratings"] = Json::array();
        for (const auto& r : now.ratings)
            out["ratings"].push_back({{"rating", r.key},
                                      {"used_s", r.used},
                                      {"allowed_s", r.allowed ? Json(*r.allowed) : Json(nullptr)},
                                      {"colour", wordOf(r.verdict.colour())}});
        out["needles"] = Json::array();
        for (const auto& x : now.needles)
            out["needles"].push_back({{"gauge", nameOf(x.gauge).key},
                                      {"engine", x.engine},
                                      {"expected", ahead(x.expected)},
                                      {"planned", x.planned},
                                      {"read", x.read ? Json(*x.read) : Json(nullptr)},
                                      {"colour", wordOf(x.verdict.colour())}});
        out["to_run_up_s"] = now.toRunUp ? ahead(*now.toRunUp) : Json(nullptr);
        out["to_take_off_s"] = now.toTakeOff ? ahead(*now.toTakeOff) : Json(nullptr);
        Json tanks = Json::object();
        for (std::size_t t = 0; t < now.here.tanks.size(); ++t)
            tanks[n.fuel.tanks[t].id] = now.here.tanks[t];
        out["fuel"] = {{"m3", ahead(now.here.fuel)},
                       {"tanks_m3", tanks},
                       {"stopped_m3", ahead(now.here.landing)},
                       {"required_m3", now.here.must},
                       {"endurance_s", now.here.endurance},
                       {"range_m", now.here.range},
                       {"turn_back_s", now.here.turnBack ? Json(*now.here.turnBack) : Json(nullptr)},
                       {"burn_over_plan", now.here.burn},
                       {"shortened_only", now.here.shortenedOnly},
                       {"colour", wordOf(now.here.verdict.colour())},
                       {"sentence", now.here.verdict.sentence()}};
        out["differs"] = Json::array();
        for (const auto& d : now.differs)
            out["differs"].push_back({{"what", d.what}, {"clear", d.clear}});
        out["asks"] = Json::array();
        for (const auto& a : now.asks)
            out["asks"].push_back(a.sentence());
        fmt::print("{}\n", out.dump());
    }

    std::string sortie_, log_, standIn_, at_, until_, every_;
    bool unbent_ = false, json_ = false;
};

} // namespace

std::unique_ptr<Command> liveCommand() {
    return std::make_unique<LiveCommand>();
}

} // namespace amber::app
