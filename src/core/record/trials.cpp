// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/trials.h"
#include "notes/cockpit_units.h"
#include "record/moments.h"
#include "record/trend.h"
#include "record/what.h"
#include "record/write_up.h"
#include "units/median.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <tuple>

namespace amber::record {
namespace {
constexpr std::int64_t halfAYear = 183LL * 86'400'000; // ms
constexpr int mostMore = 99;                           // runs that anybody would wait for
constexpr const char *with = "with it", *without = "without it";

std::string bareWords(std::string_view s) {
    const auto from = s.find_first_not_of(" \t"), to = s.find_last_not_of(" \t.");
    return from == std::string_view::npos || to == std::string_view::npos || to < from
               ? std::string()
               : std::string(s.substr(from, to - from + 1));
}

using Of = std::tuple<std::string, Phase, std::string, bool>;

class Trials {
public:
    Trials(const Log& log, const std::string& airframe, const TypeNotes& notes)
        : log_(log), notes_(notes), standing_(standing(log)) {
        for (const auto& [id, run] : log.runs)
            if (run.airframe == airframe)
                runs_.push_back(&run);
        for (const auto* run : runs_)
            if (const auto all = standing_.find(run->id); all != standing_.end())
                for (const auto& s : all->second)
                    for (const Entry* e : s.last)
                        if (e->kind == Entry::Kind::words && e->what == "trial")
                            mark(run->id, e->words);
    }

    std::vector<Trial> all() {
        std::vector<Trial> out;
        for (auto& [name, ways] : marked_) {
            if (ways.size() == 1 && ways.contains(with))
                addUnmarked(ways);
            auto most = ways.begin();
            for (auto way = ways.begin(); way != ways.end(); ++way)
                if (way->second.size() > most->second.size())
                    most = way;
            if (ways.contains(without))
                most = ways.find(without);
            for (auto way = ways.begin(); way != ways.end(); ++way)
                if (way != most)
                    out.push_back(compare(name, *most, *way));
            if (ways.size() == 1)
                out.push_back({name, most->first, {}, most->second.size(), 0, {}, true});
        }
        return out;
    }

private:
    using Ways = std::map<std::string, std::vector<std::string>>; ///< way → runs
    void mark(const std::string& run, const std::string& words) {
        const auto colon = words.find(':');
        const std::string name = bareWords(words.substr(0, colon));
        std::string way = colon == std::string::npos ? with : bareWords(words.substr(colon + 1));
        auto& runs = marked_[name][way.empty() ? with : way];
        if (runs.empty() || runs.back() != run)
            runs.push_back(run);
    }
    void addUnmarked(Ways& ways) const {
        const auto& tried = ways.at(with);
        std::int64_t first = log_.runs.at(tried.front()).began;
        for (const auto& id : tried)
            first = std::min(first, log_.runs.at(id).began);
        for (const auto* run : runs_)
            if (run->began >= first - halfAYear && std::find(tried.begin(), tried.end(), run->id) == tried.end())
                ways[without].push_back(run->id);
    }

    struct Point {
        double day, value; ///< d, SI
    };
    /// A figure a run, of everything that is read.
    [[nodiscard]] std::map<Of, std::vector<Point>> readOn(const std::vector<std::string>& runs) const {
        std::map<Of, std::vector<Point>> out;
        for (const auto& id : runs) {
            const double day = static_cast<double>(log_.runs.at(id).began) / 86'400'000.0;
            std::map<Of, std::vector<double>> here;
            if (const auto all = standing_.find(id); all != standing_.end())
                for (const auto& s : all->second)
                    for (const Entry* e : s.last)
                        if (e->kind == Entry::Kind::figure && !s.disagrees && !isMoment(e->what))
                            here[{e->what, e->phase, e->engine, e->planned.has_value()}].push_back(
                                e->planned ? e->value - *e->planned : e->value);
            for (auto& [of, values] : here)
                out[of].push_back({day, medianOf(values)});
        }
        return out;
    }

    Trial compare(const std::string& name, const Ways::value_type& first, const Ways::value_type& second) {
        Trial out{name, first.first, second.first, first.second.size(), second.second.size(), {}, true};
        out.interleaved = takeTurns(first.second, second.second);
        const auto before = readOn(first.second), after = readOn(second.second);
        for (const auto& [of, values] : before)
            if (const auto other = after.find(of); other != after.end())
                out.effects.push_back(effect(out, of, values, other->second));
        std::stable_sort(out.effects.begin(), out.effects.end(), [](const Effect& a, const Effect& b) {
            if (a.tells != b.tells)
                return a.tells;
            return a.more.value_or(mostMore + 1) < b.more.value_or(mostMore + 1);
        });
        return out;
    }
    /// Whether a run of the one way lies between two of the other.
    [[nodiscard]] bool takeTurns(const std::vector<std::string>& a, const std::vector<std::string>& b) const {
        const auto bounds = [&](const std::vector<std::string>& runs) {
            std::pair out{log_.runs.at(runs.front()).began, log_.runs.at(runs.front()).began};
            for (const auto& id : runs) {
                out.first = std::min(out.first, log_.runs.at(id).began);
                out.second = std::max(out.second, log_.runs.at(id).began);
            }
            return out;
        };
        const auto x = bounds(a), y = bounds(b);
        return x.first < y.second && y.first < x.second;
    }
    /// Theil and Sen's slope of the runs of each way by itself, SI a day; 0 where they lie too close or are too few.
    [[nodiscard]] static double slopeWithin(const std::vector<Point>& a, const std::vector<Point>& b) {
        std::vector<double> slopes;
        for (const auto* way : {&a, &b})
            for (std::size_t i = 0; i < way->size(); ++i)
                for (std::size_t j = i + 1; j < way->size(); ++j)
                    if (const double days = (*way)[j].day - (*way)[i].day; std::abs(days) > 0.5)
                        slopes.push_back(((*way)[j].value - (*way)[i].value) / days);
        constexpr std::size_t least = 6;
        return slopes.size() < least ? 0.0 : medianOf(std::move(slopes));
    }
    [[nodiscard]] Effect effect(const Trial& trial, const Of& of, const std::vector<Point>& first,
                                const std::vector<Point>& second) const {
        std::vector<double> before, after, daysBefore, daysAfter;
        for (const auto& p : first) {
            before.push_back(p.value);
            daysBefore.push_back(p.day);
        }
        for (const auto& p : second) {
            after.push_back(p.value);
            daysAfter.push_back(p.day);
        }
        Effect out;
        std::tie(out.what, out.phase, out.engine, out.againstPlan) = of;
        const auto change = changeOf(before, after);
        out.first = change.before;
        out.second = change.after;
        out.by = change.by;
        out.low = change.low;
        out.high = change.high;
        out.tells = change.tells();
        constexpr double share = 1.0 / 3.0;
        out.drift = slopeWithin(first, second) * (medianOf(daysAfter) - medianOf(daysBefore));
        const bool byTime = out.tells && out.drift * out.by > 0.0 && std::abs(out.drift) >= share * std::abs(out.by);
        if (byTime) {
            out.tells = false;
            out.words = words(trial, out, true);
            return out;
        }
        const auto each = static_cast<double>(std::min(out.first, out.second));
        if (!out.tells && std::isfinite(out.low) && out.by != 0.0) {
            // The interval narrows with the root of the runs: as many as bring nothing to its edge.
            const double half = out.by > 0 ? out.by - out.low : out.high - out.by;
            const double needed = each * std::pow(half / std::abs(out.by), 2.0);
            if (needed - each <= mostMore)
                out.more = std::max(1, static_cast<int>(std::ceil(needed - each)));
        } else if (!out.tells && each < Change::least) {
            out.more = static_cast<int>(Change::least - each);
        }
        out.words = words(trial, out, false);
        return out;
    }
    [[nodiscard]] std::string words(const Trial& trial, const Effect& e, bool byTime) const {
        const UnitSpec* unit = unitIn(e.what, &notes_);
        const auto figure = [&](double si) {
            return formatNumber(unit ? si / unit->scale : si, unit ? std::max(unit->decimals, 1) : 1);
        };
        const std::string engine = engineName(notes_, e.engine);
        const std::string name =
            fmt::format("{}, {}{}", titleOf(e.what, notes_), titleOf(e.phase), engine.empty() ? "" : ", " + engine);
        const std::string runs = fmt::format("({} runs and {})", e.first, e.second);
        if (byTime)
            return fmt::format("{}: not told apart from its trend: {} {} {} of {} came by time, whichever way {}", name,
                               figure(std::abs(e.drift)), unit ? unit->symbol : "", e.drift > 0 ? "more" : "less",
                               figure(std::abs(e.by)), runs);
        if (e.tells)
            return fmt::format("{}: {} {} {} {} than {}{}, {} to {} {}", name, figure(std::abs(e.by)),
                               unit ? unit->symbol : "", e.by > 0 ? "more" : "less", trial.second, trial.first,
                               e.againstPlan ? ", against the plan of each day" : "",
                               figure(std::min(std::abs(e.low), std::abs(e.high))),
                               figure(std::max(std::abs(e.low), std::abs(e.high))), runs);
        if (e.more)
            return *e.more == 1
                       ? fmt::format("{}: cannot tell yet: a run or two more of each way {}", name, runs)
                       : fmt::format("{}: cannot tell yet: some {} more runs of each way {}", name, *e.more, runs);
        return fmt::format("{}: no difference that more runs would soon tell {}", name, runs);
    }

    const Log& log_;
    const TypeNotes& notes_;
    std::map<std::string, std::vector<Standing>> standing_;
    std::vector<const Run*> runs_;
    std::map<std::string, Ways> marked_;
};
} // namespace

std::vector<Trial> trialsOf(const Log& log, const std::string& airframe, const TypeNotes& notes) {
    return Trials(log, airframe, notes).all();
}

} // namespace amber::record
