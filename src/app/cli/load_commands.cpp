// SPDX-License-Identifier: GPL-3.0-or-later
// Load sheet, fuel, tanks, best cruise and what the day allows, of a sortie.
#include "advice/best_cruise.h"
#include "advice/day_allows.h"
#include "advice/fuel_needed.h"
#include "advice/load_cures.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "files/csv.h"
#include "files/key_ranges.h"
#include "flight/open_files.h"
#include "loading/distances.h"
#include "loading/envelope.h"
#include "notes/cockpit_units.h"
#include "plan/load_plan.h"
#include "units/text.h"
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
using json = nlohmann::ordered_json;

/// What the four have in common: a sortie, its flight, and three ways to print.
class SortieCommand : public Command {
public:
    void declare(Arguments& a) override {
        a.text("sortie", file_, "Sortie file (TOML)", Arguments::Need::required);
        a.flag("--json", json_, "JSON in SI units");
        a.flag("--csv", csv_, "CSV");
        a.oneOf({"--json", "--csv"});
    }
    int run(const CommandActions&) override {
        loaded_ = flight::loadSortie(file_);
        if (!loaded_.ok()) {
            for (const auto& p : loaded_.problems)
                fmt::print(stderr, "{}\n", p.text());
            return exitProblems;
        }
        flown_ = flight::fly(aircraft(), sortie());
        return print();
    }

protected:
    virtual int print() = 0;
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *loaded_.aircraft; }
    [[nodiscard]] const TypeNotes& notes() const { return loaded_.aircraft->notes; }
    [[nodiscard]] const Sortie& sortie() const { return *loaded_.sortie; }
    [[nodiscard]] const Cockpit& cockpit() const { return notes().cockpit; }
    static std::string mark(const watch::Verdict& v) {
        return v.colour() == watch::Colour::normal ? std::string() : fmt::format("{}: ", watch::wordOf(v.colour()));
    }
    std::string file_;
    bool json_ = false, csv_ = false;
    flight::LoadedSortie loaded_;
    flight::Flown flown_;
};

class LoadCommand final : public SortieCommand {
public:
    [[nodiscard]] const char* name() const override { return "load"; }
    [[nodiscard]] const char* help() const override {
        return "Load sheet of a sortie: weights, arms, moments, the CG through the flight and what would bring it "
               "within limits";
    }

protected:
    int print() override {
        const auto p = plan::loadPlan(aircraft(), sortie(), flown_);
        const auto& l = notes().loading;
        if (json_) {
            auto out = plan::loadJson(p, aircraft(), sortie());
            out["cures"] = json::array();
            for (const auto& c : advice::loadCures(aircraft(), sortie(), flown_))
                out["cures"].push_back({{"text", c.text}, {"room_m", c.room}});
            fmt::print("{}\n", out.dump(2));
        } else if (csv_) {
            fmt::print("item,mass_kg,arm_m,moment_kg_m,side_m\n");
            for (const auto& line : p.lines)
                fmt::print("{},{:.3f},{:.4f},{:.2f},{:.3f}\n", csv::cell(line.name), line.mass, line.arm, line.moment(),
                           line.side);
        } else {
            fmt::print("{:<34} {:>11} {:>9} {:>13}\n", "", cockpit().weight->symbol, l.given ? "arm" : "",
                       l.given ? "moment" : "");
            for (const auto& line : p.lines)
                if (line.mass != 0.0)
                    fmt::print("{:<34} {:>11} {:>9} {:>13}\n", line.name + (line.who.empty() ? "" : ", " + line.who),
                               formatValue(line.mass, *cockpit().weight),
                               l.given ? loading::armText(l, line.arm, false) : std::string(),
                               l.given ? loading::momentText(l, line.moment()) : std::string());
            for (const auto& m : p.moments)
                fmt::print("{:<34} {:>11} {:>9}  {}{}\n", m.name, formatValue(m.balance.mass, *cockpit().weight),
                           l.given ? loading::armText(l, m.balance.arm(), false) : std::string(), mark(m.verdict),
                           m.verdict.sentence());
            for (const auto& f : p.findings)
                fmt::print("{}{}\n", mark(f.verdict), f.verdict.sentence());
            for (const auto& c : advice::loadCures(aircraft(), sortie(), flown_))
                fmt::print("cure: {} ({} inside)\n", c.text, loading::shiftText(l, c.room));
            for (const auto& t : p.trim)
                fmt::print("{:<34} {}\n", "Trim, flap " + t.flap, t.text);
            for (const auto& d : p.distances)
                fmt::print("{:<34} {:>11}  {}\n", d.name, d.value ? format(*d.value, *d.unit) : "–", d.why);
            if (!l.given)
                fmt::print("The notes give no load sheet: only weights are reckoned.\n");
        }
        bool red = false;
        for (const auto& f : p.findings)
            red = red || f.verdict.colour() == watch::Colour::red;
        return red ? exitProblems : exitOk;
    }
};

class FuelCommand final : public SortieCommand {
public:
    [[nodiscard]] const char* name() const override { return "fuel"; }
    [[nodiscard]] const char* help() const override {
        return "Fuel required, part by part, beside fuel on board; range and endurance with reserve";
    }
    void declare(Arguments& a) override {
        SortieCommand::declare(a);
        a.text("--distance", distance_, "Another distance, as \"420 nm\": the fuel required for it");
    }

protected:
    int print() override {
        const auto need = advice::fuelNeeded(aircraft(), sortie(), flown_);
        std::optional<double> other;
        if (!distance_.empty()) {
            const auto d = amber::read<Dimension::distance>(distance_, cockpit().distance);
            if (!d || !rangeOf(FileFormat::sortie, "flight.distance")->holds(d.value().si())) {
                fmt::print(stderr, "amber-throttle fuel: --distance: {}\n",
                           d ? rangeOf(FileFormat::sortie, "flight.distance")->expected() : d.error());
                return exitUsage;
            }
            other = advice::fuelForDistance(aircraft(), sortie(), d.value());
        }
        const UnitSpec& unit = *cockpit().fuel;
        if (json_) {
            json out = plan::fuelJson(need);
            if (!distance_.empty())
                out["for_distance_l"] = other ? json(*other * 1000) : json(nullptr);
            fmt::print("{}\n", out.dump(2));
        } else if (csv_) {
            fmt::print("part,fuel_l,seconds,distance_km,notes_l\n");
            for (const auto& p : need.parts)
                fmt::print("\"{}\",{:.3f},{:.0f},{:.2f},{}\n", p.what, p.volume * 1000, p.seconds, p.distance / 1000,
                           p.byTable ? fmt::format("{:.3f}", *p.byTable * 1000) : "");
        } else {
            for (const auto& p : need.parts)
                fmt::print("{:<22} {:>14} {:>9} {:>10}  {}\n", p.what, format(p.volume, unit, 1),
                           formatHoursMinutes(p.seconds),
                           p.distance > 0 ? format(p.distance, *cockpit().distance) : std::string(),
                           p.byTable ? fmt::format("notes {}", format(*p.byTable, unit, 1)) : std::string());
            fmt::print("{:<22} {:>14}\n{:<22} {:>14}   {} more unusable\n", "Required", format(need.needed, unit, 1),
                       "On board", format(need.aboard, unit, 1), format(need.unusable, unit));
            fmt::print("{}{}\n", mark(need.verdict), need.verdict.sentence());
            fmt::print("Range with reserve {}, endurance {} from take-off.\n",
                       format(need.furthest, *cockpit().distance), formatHoursOrMinutes(need.longest));
            if (need.oilHours > 0)
                fmt::print("Oil: {} on board, {} used, enough for {}.\n", format(need.oilAboard, unit),
                           format(need.oilBurnt, unit, 1), formatHoursOrMinutes(need.oilHours));
            if (!distance_.empty())
                fmt::print("{}: {}\n", distance_,
                           other ? format(*other, unit, 1) + " required on board"
                                 : std::string("the tanks do not hold it"));
        }
        return need.verdict.colour() == watch::Colour::red ? exitProblems : exitOk;
    }

private:
    std::string distance_;
};

class TanksCommand final : public SortieCommand {
public:
    [[nodiscard]] const char* name() const override { return "tanks"; }
    [[nodiscard]] const char* help() const override { return "When to change tanks, and what is left in each"; }

protected:
    int print() override {
        const auto& n = notes();
        const auto plan = plan::makePlan(aircraft(), sortie());
        const auto lines = plan::tankLines(plan, n);
        const UnitSpec& unit = *n.cockpit.fuel;
        if (json_) {
            fmt::print("{}\n", plan::tanksJson(plan, n).dump(2));
        } else if (csv_) {
            std::string head = "time_s";
            for (const auto& t : n.fuel.tanks)
                head += "," + t.id + "_l";
            fmt::print("{}\n", head);
            for (std::size_t i = 0; i < flown_.samples.size(); ++i) {
                std::string line = fmt::format("{:.1f}", flown_.samples[i].time);
                for (const double held : flown_.contents.at(i))
                    line += fmt::format(",{:.3f}", held * 1000);
                fmt::print("{}\n", line);
            }
        } else {
            for (const auto& l : lines)
                fmt::print("{:>7}  {:<34} {}{}\n", formatHoursMinutes(l.time), l.text, mark(l.verdict), l.why);
            fmt::print("{:<14} {:>14} {:>14}\n", "", "at the start", "at the end");
            const auto first = flown_.contents.at(0), last = flown_.contents.at(flown_.samples.size() - 1);
            for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i)
                fmt::print("{:<14} {:>14} {:>14}\n", n.fuel.tanks[i].name, format(first[i], unit, 1),
                           format(last[i], unit, 1));
        }
        bool dry = false;
        for (const auto& l : lines)
            dry = dry || l.verdict.colour() == watch::Colour::red;
        return dry ? exitProblems : exitOk;
    }
};

class BestCommand final : public SortieCommand {
public:
    [[nodiscard]] const char* name() const override { return "best"; }
    [[nodiscard]] const char* help() const override {
        return "Best cruise for today's wind and weight: most miles, most hours, least fuel for the leg, cheapest; and "
               "what the day allows";
    }

protected:
    int print() override {
        const auto& n = notes();
        const advice::CruiseSearch search(aircraft(), sortie(), flown_);
        const auto best = search.search();
        const auto legs = advice::leastFuelForLeg(aircraft(), sortie(), flown_);
        const auto rows = plan::bestRows(best, legs);
        if (json_) {
            json out = plan::bestJson(best, rows, aircraft(), sortie(), flown_);
            fmt::print("{}\n", out.dump(2));
        } else if (csv_) {
            fmt::print("height_m,tas_m_s,ground_m_s,km_per_l,rpm,manifold_pressure_kPa,gear,mixture\n");
            for (const auto& curve : best.curves)
                for (const auto& p : curve.points)
                    fmt::print("{:.0f},{:.2f},{:.2f},{:.4f},{:.0f},{:.2f},{},{}\n", p.height.si(), p.cruise.tas.si(),
                               p.ground, p.miles / 1e6, p.cruise.setting.rpm.si() * 60,
                               p.cruise.point.manifoldPressure.si() / 1000, plan::gearName(n, p.cruise.setting.gear),
                               p.cruise.setting.mixture == Mixture::rich ? "rich" : "weak");
        } else {
            for (const auto& r : rows)
                fmt::print("{:<26} {}\n", r.name, plan::bestText(n, r.point));
            if (!best.whyGear.empty())
                fmt::print("{}\n", best.whyGear);
            if (!best.windKnown)
                fmt::print("Still air: give the wind aloft and a track, and it is reckoned in.\n");
            for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise})
                fmt::print("{:<10} {}\n", titleOf(phase),
                           advice::dayAllows(aircraft(), sortie(), flown_, phase).sentence);
            if (const auto above = advice::gradeAbove(n, sortie().fuelGrade); !above.empty())
                fmt::print("{}\n", above);
        }
        return best.miles ? exitOk : exitProblems;
    }
};
} // namespace

std::unique_ptr<Command> loadCommand() {
    return std::make_unique<LoadCommand>();
}
std::unique_ptr<Command> fuelCommand() {
    return std::make_unique<FuelCommand>();
}
std::unique_ptr<Command> tanksCommand() {
    return std::make_unique<TanksCommand>();
}
std::unique_ptr<Command> bestCommand() {
    return std::make_unique<BestCommand>();
}

} // namespace amber::app
