// SPDX-License-Identifier: GPL-3.0-or-later
// When it goes wrong, at a moment of a sortie: an engine out, a symptom, feathering and restarting, a dive, going
// round, fire.
#include "cli/cautions.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "files/table_reader.h"
#include "flight/open_files.h"
#include "notes/lever_words.h"
#include "symptoms/symptoms.h"
#include "trouble/automatics.h"
#include "trouble/context.h"
#include "trouble/drill.h"
#include "trouble/sheet.h"
#include "units/text.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sstream>

namespace amber::app {
namespace {
using json = nlohmann::ordered_json;

json numberOr(double si) {
    return std::isnan(si) ? json(nullptr) : json(si);
}

class TroubleCommand final : public Command {
public:
    [[nodiscard]] const char* name() const override { return "trouble"; }
    [[nodiscard]] const char* help() const override {
        return "When it goes wrong: engine-out, symptom, feather, restart, dive, go-round, few-engines, fire, systems: "
               "the drill on this cockpit's controls and the figures beside it";
    }
    void declare(Arguments& a) override {
        a.choice("what", what_,
                 {"engine-out", "symptom", "feather", "restart", "dive", "go-round", "few-engines", "fire", "systems"},
                 "What goes wrong");
        a.text("sortie", file_, "Sortie file (TOML)", Arguments::Need::required);
        a.text("--engine", engines_, "Ids of the engines that fail, \"1\" or \"1,2\"; the first without");
        a.text("--at", at_,
               "When: a phase, \"climb\", or so long after the first look, \"52 min\"; the first climb without");
        a.text(
            "--sign", signs_,
            "symptom: what is noticed, parted by commas, \"oil-pressure falls-fast, shake\"; \"list\" names them all");
        a.text("--to", to_, "dive: height above sea level to come down to, \"3,000 ft\"");
        a.text("--doses", doses_, "symptom, at the start: strokes, seconds or blades of priming given");
        a.text("--tries", tries_, "symptom, at the start: how often it was tried in vain");
        a.flag("--rain", rain_, "symptom: after rain, refuelling or drums: there may be water in the fuel");
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
        const Sortie& s = *loaded.sortie;
        const TypeNotes& n = a.notes;
        std::vector<std::size_t> dead;
        std::stringstream list(engines_.empty() ? n.positions.front().id : engines_);
        for (std::string id; std::getline(list, id, ',');) {
            std::size_t i = 0;
            while (i < n.positions.size() && n.positions[i].id != id)
                ++i;
            if (i == n.positions.size()) {
                std::vector<std::string> ids;
                for (const auto& p : n.positions)
                    ids.push_back(p.id);
                return wrong(fmt::format("--engine: the {} has no engine \"{}\"; its engines are {}", n.name, id,
                                         fmt::join(ids, ", ")));
            }
            if (std::find(dead.begin(), dead.end(), i) == dead.end())
                dead.push_back(i);
        }
        const auto flown = flight::fly(a, s);
        double time = flown[Phase::climb].start;
        if (const auto phase = phaseFromKey(at_); phase && *phase != Phase::writeUp) {
            time = flown[*phase].start + 0.5 * flown[*phase].duration;
        } else if (!at_.empty()) {
            const auto read = amber::read<Dimension::duration>(at_, units::minute.spec);
            if (!read || read.value().si() < 0 || read.value().si() > flown.totalTime())
                return wrong("--at: write a phase of the sortie, or a time within it, \"52 min\"");
            time = read.value().si();
        }
        const trouble::Case at{a, s, flown, trouble::momentAt(n, s, flown, time), dead};
        if (what_ == "symptom")
            return symptom(at);
        json out{{"what", what_}, {"time_s", time}, {"phase", keyOf(at.moment.phase)}};
        if (what_ == "engine-out") {
            const auto o = trouble::engineOut(a, s, flown, time, dead);
            head(n, at, fmt::format("{} out", fmt::join(o.names, " and ")));
            json dead_ids = json::array();
            for (const auto i : dead)
                dead_ids.push_back(n.positions[i].id);
            out["dead"] = dead_ids;
            out["drift_down"] = json::array();
            for (const auto& p : o.driftDown.path)
                out["drift_down"].push_back(
                    {{"seconds", p.seconds}, {"distance_m", p.distance}, {"height_m", p.height}});
            drill(trouble::drillOf(at, Emergency::engineFails), out);
            figures("figures", trouble::figuresOf(o, n), out);
            return finish(out, o.verdict);
        }
        if (what_ == "go-round") {
            if (!engines_.empty() && n.positions.size() < 2)
                return wrong("--engine: one engine has no fewer to go round on");
            if (!engines_.empty() && dead.size() == n.positions.size())
                return wrong("--engine: none is left: see engine-out");
            const auto g = trouble::goRound(a, s, flown, engines_.empty() ? std::vector<std::size_t>{} : dead);
            if (!json_)
                fmt::print("Going round{} at the landing field, {}, {}, {}\n",
                           engines_.empty() ? std::string() : ", " + engines_ + " out,",
                           formatHeight(g.field.si(), *n.cockpit.height),
                           trouble::roundWeight(g.weight.si(), n.cockpit), format(g.air.si(), *n.cockpit.temperature));
            drill(trouble::goRoundDrill(at), out);
            figures("figures", trouble::figuresOf(g, n), out);
            if (!json_ && !g.left.empty())
                fmt::print("\nleft as it was:\n");
            figures("left_so", trouble::leftSo(g, n), out);
            return finish(out, g.climbs);
        }
        if (what_ == "few-engines") {
            if (n.positions.size() < 2)
                return wrong(fmt::format("the {} has one engine: engine-out is its landing", n.name));
            if (dead.size() == n.positions.size())
                return wrong("--engine: none is left: see engine-out");
            const auto f = trouble::fewEngines(a, s, flown, dead);
            if (!json_)
                fmt::print("Landing with {} out, {}, {}, {}\n", fmt::join(f.names, " and "),
                           formatHeight(f.field.si(), *n.cockpit.height),
                           trouble::roundWeight(f.weight.si(), n.cockpit), format(f.air.si(), *n.cockpit.temperature));
            drill(trouble::drillOf(at, Emergency::fewEngines), out);
            figures("figures", trouble::figuresOf(f, n), out);
            return finish(out, f.goesRound);
        }
        if (what_ == "dive") {
            std::optional<Length> to;
            if (!to_.empty()) {
                const auto read = amber::read<Dimension::length>(to_, n.cockpit.height);
                if (!read)
                    return wrong("--to: " + read.error());
                to = read.value();
            }
            const auto d = trouble::dive(a, s, flown, time, to);
            head(n, at, fmt::format("Dive to {}", formatHeight(d.to.si(), *n.cockpit.height)));
            drill(trouble::drillOf(at, Emergency::dive), out);
            figures("figures", trouble::figuresOf(d, n), out);
            return finish(out, d.ways.empty() ? watch::Verdict() : d.ways.front().shock);
        }
        if (what_ == "fire") {
            head(n, at, "Fire");
            for (const auto e : fireDrills)
                drill(trouble::drillOf(at, e), out);
            return finish(out, {});
        }
        if (what_ == "systems") {
            head(n, at, "Systems");
            for (const auto e : systemsDrills)
                if (const auto told = trouble::drillOf(at, e); !told.lines.empty())
                    drill(told, out);
            return finish(out, {});
        }
        const bool feather = what_ == "feather";
        head(n, at, feather ? "Feather" : "Unfeather and restart");
        drill(trouble::drillOf(at, feather ? Emergency::feather : Emergency::restart), out);
        figures("figures", trouble::restartFigures(a, s, flown, at.moment), out);
        return finish(out, {});
    }

private:
    static int wrong(const std::string& why) {
        fmt::print(stderr, "amber-throttle trouble: {}\n", why);
        return exitUsage;
    }
    void head(const TypeNotes& n, const trouble::Case& at, const std::string& title) const {
        if (!json_)
            fmt::print("{}: {}\n", title, trouble::wordsOf(at.moment, n));
    }
    void drill(const trouble::EmergencyDrill& d, json& out) const {
        if (json_) {
            json lines = json::array();
            for (const auto& l : d.lines) {
                json line{{"step", l.step}, {"what", l.what}, {"set", l.set}};
                for (const auto& [key, text] : {std::pair{"at", l.at}, {"why", l.why}, {"caution", l.caution}})
                    if (!text.empty())
                        line[key] = text;
                if (l.memory)
                    line["memory"] = true;
                if (l.school >= 0)
                    line["school"] = l.schools[static_cast<std::size_t>(l.school)].name;
                line["origin"] = markOf(l.origin);
                lines.push_back(std::move(line));
            }
            out["drills"].push_back({{"title", d.title}, {"steps", std::move(lines)}, {"cautions", d.cautions}});
            return;
        }
        fmt::print("\n{}{}\n", d.title,
                   std::any_of(d.lines.begin(), d.lines.end(), [](const auto& l) { return l.memory; })
                       ? "   (* memory items)"
                       : "");
        std::string at;
        for (const auto& l : d.lines) {
            if (l.at != at && !l.at.empty())
                fmt::print("  {}:\n", l.at);
            at = l.at;
            fmt::print("{} {:<34} {}\n", l.memory ? "*" : " ", l.what, l.set);
        }
        for (const auto& c : d.cautions)
            fmt::print("!  {}\n", c);
    }
    void figures(const char* key, const trouble::Figures& all, json& out) const {
        if (json_) {
            json list = json::array();
            for (const auto& f : all) {
                json one{{"id", f.id}, {"what", f.what}, {"value", f.value}, {"si", numberOr(f.si)}};
                if (!f.why.empty())
                    one["why"] = f.why;
                if (f.verdict)
                    one["colour"] = watch::wordOf(f.verdict->colour());
                one["origin"] = markOf(f.origin);
                list.push_back(std::move(one));
            }
            out[key] = std::move(list);
            return;
        }
        fmt::print("\n");
        for (const auto& f : all)
            fmt::print("{:<24} {:<34} {:<8} {}{}\n", f.what, f.value, markOf(f.origin),
                       f.verdict && f.verdict->colour() != watch::Colour::normal
                           ? fmt::format("{}: ", watch::wordOf(f.verdict->colour()))
                           : std::string(),
                       f.why);
    }
    int finish(json& out, const watch::Verdict& verdict) const {
        if (json_) {
            out["colour"] = watch::wordOf(verdict.colour());
            if (!verdict.sentence().empty())
                out["sentence"] = verdict.sentence();
            fmt::print("{}\n", out.dump(2));
        } else {
            if (!verdict.sentence().empty())
                fmt::print("\n{}{}\n",
                           verdict.colour() != watch::Colour::normal
                               ? fmt::format("{}: ", watch::wordOf(verdict.colour()))
                               : std::string(),
                           verdict.sentence());
            fmt::print("{}", airCaution);
        }
        return verdict.colour() == watch::Colour::red ? exitProblems : exitOk;
    }
    int symptom(const trouble::Case& at) {
        const TypeNotes& n = at.aircraft.notes;
        if (signs_ == "list") {
            for (const auto& key : allSignKeys())
                fmt::print("{}\n", key);
            return exitOk;
        }
        std::vector<Sign> noticed;
        std::stringstream list(signs_);
        for (std::string key; std::getline(list, key, ',');) {
            const auto from = key.find_first_not_of(' ');
            if (from == std::string::npos)
                continue;
            key = key.substr(from, key.find_last_not_of(' ') - from + 1);
            const auto sign = signFromKey(key);
            if (!sign) {
                const auto guess = document::nearest(key, allSignKeys());
                return wrong(fmt::format("--sign: “{}” is no sign{}", key,
                                         guess.empty() ? ": --sign list names them all"
                                                       : fmt::format("; did you mean \"{}\"?", guess)));
            }
            noticed.push_back(*sign);
        }
        if (noticed.empty())
            return wrong(
                "--sign is missing: what is noticed, \"oil-pressure falls-fast, shake\"; \"list\" names them all");
        const auto given = readCount(doses_);
        if (!doses_.empty() && !given)
            return wrong("--doses: write how many were given, \"9\"");
        auto context = trouble::contextOf(at, given);
        if (!tries_.empty()) {
            const auto tried = readCount(tries_);
            if (!tried)
                return wrong("--tries: write how often it was tried, \"3\"");
            context.tries = static_cast<int>(*tried);
        }
        context.rain = rain_;
        const auto d = trouble::diagnose(n, noticed, context);
        if (json_) {
            json out{{"what", "symptom"}, {"causes", json::array()}};
            for (const auto& c : d.causes) {
                json one{{"cause", c.pattern.key},
                         {"name", c.pattern.name},
                         {"fit", c.fit},
                         {"plausible", c.plausible},
                         {"told_by", c.pattern.toldBy},
                         {"act", c.then},
                         {"origin", markOf(c.pattern.origin)}};
                out["causes"].push_back(std::move(one));
            }
            {
                out["act_for"] = d.causes[d.forCause].pattern.key;
                out["act"] = d.act;
                out["act_key"] = rowOf(d.first).key;
                out["final"] = rowOf(d.first).final;
                out["harm"] = d.harm;
                out["unsure"] = d.unsure;
                out["test"] = d.test;
                if (d.drill)
                    out["drill"] = amber::nameOf(*d.drill).key;
            }
            out["automatics"] = json::array();
            for (const auto& a : trouble::automaticsOf(n))
                out["automatics"].push_back({{"what", a.what}, {"by_hand", a.byHand}, {"origin", markOf(a.origin)}});
            fmt::print("{}\n", out.dump(2));
            return exitOk;
        }
        const auto& of = d.causes[d.forCause].pattern;
        fmt::print("First: {}\n", d.act);
        if (d.unsure)
            fmt::print("Unsure: nothing that cannot be undone yet.\n");
        fmt::print("Test:  {}\n", d.test);
        if (d.drill)
            fmt::print("Drill: {}\n", amber::nameOf(*d.drill).title);
        if (!of.words.empty())
            fmt::print("The notes ({}): {}\n", inSentence(of.name), of.words);
        fmt::print("\n");
        std::size_t shown = 0;
        for (const auto& c : d.causes) {
            if (shown++ >= 6 || c.fit < 0.005)
                break;
            fmt::print("{:>3.0f} %  {:<44} {:<9} {}\n       {:<44} {}\n", 100 * c.fit, c.pattern.name,
                       markOf(c.pattern.origin), c.pattern.toldBy, "", "then: " + c.then);
        }
        const auto automatics = trouble::automaticsOf(n);
        if (!automatics.empty())
            fmt::print("\nif it no longer looks after itself:\n");
        for (const auto& a : automatics)
            fmt::print("       {:<36} {:<9} {}\n", a.what, markOf(a.origin), a.byHand);
        fmt::print("!  Ranked, not known: the type's manual goes first; land, and let a licensed engineer look.\n");
        return exitOk;
    }
    static std::optional<double> readCount(const std::string& text) {
        double out = 0.0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
        constexpr double most = 99.0;
        if (error != std::errc() || end != text.data() + text.size() || !(out >= 0.0 && out <= most))
            return std::nullopt;
        return out;
    }
    std::string what_ = "engine-out", file_, engines_, at_, signs_, to_, doses_, tries_;
    bool json_ = false, rain_ = false;
};
} // namespace

std::unique_ptr<Command> troubleCommand() {
    return std::make_unique<TroubleCommand>();
}

} // namespace amber::app
