// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/lessons.h"
#include "flight/taught.h"
#include "notes/cockpit_units.h"
#include "record/log_text.h"
#include "record/planned.h"
#include "record/trend.h"
#include "record/what.h"
#include "record/write_up.h"
#include "sortie/airframe_file.h"
#include "units/median.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numeric>
#include <tuple>

namespace amber::record {
namespace {
constexpr std::size_t lessonRuns = 5;
constexpr double nineteenInTwenty = 1.96; // standard errors, nineteen times in twenty
constexpr double ofMedian = 1.2533;       // √(π/2): the median's error over the mean's, of normal errors
constexpr double ofDistances = 1.4826;    // from the median distance to a standard deviation
constexpr double phasesApart = 3.0;       // standard errors, and then more than is read
constexpr double aDay = 86'400'000.0;
// How airframes of one type differ, standard deviations, and what is read to: estimates.
constexpr double temperatureSpread = 8.0, temperatureWidth = 2.0;    // K
constexpr double pressureSpread = 35'000.0, pressureWidth = 7'000.0; // Pa
constexpr double doseSpread = 0.25, doseWidth = 0.10;                // of logarithms
constexpr double fuelSpread = 0.06, fuelWidth = 0.02;

double weightedMedian(std::vector<std::pair<double, double>> all) { // value, weight
    std::sort(all.begin(), all.end());
    const double half =
        0.5 * std::accumulate(all.begin(), all.end(), 0.0, [](double sum, const auto& a) { return sum + a.second; });
    double sum = 0.0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        sum += all[i].second;
        if (sum > half)
            return all[i].first;
        if (sum == half && i + 1 < all.size())
            return 0.5 * (all[i].first + all[i + 1].first);
    }
    return all.empty() ? 0.0 : all.back().first;
}

/// Figures of a thing, a run each.
struct OfRun {
    std::int64_t at = 0;
    std::map<Phase, std::vector<double>> values; ///< by phase
    [[nodiscard]] double value() const {
        std::vector<double> all;
        for (const auto& [phase, read] : values)
            all.push_back(medianOf(read));
        return medianOf(all);
    }
};
using Runs = std::map<std::pair<std::int64_t, std::string>, OfRun>; // when it began, and its id

std::string dayOf(std::int64_t at) {
    return timeText(at).substr(0, 10);
}

class Teacher {
public:
    Teacher(const Log& log, const std::string& airframe, const TypeNotes& notes, std::string model,
            const PlanOf& planOf)
        : log_(log), notes_(notes), model_(std::move(model)), standing_(standing(log)) {
        for (const auto& [id, run] : log.runs)
            if (run.airframe == airframe)
                gather(run, planOf ? planOf(run) : nullptr);
    }

    std::vector<Lesson> all() {
        std::vector<Lesson> out;
        for (const auto& position : notes_.positions) {
            for (const auto& [gauge, limits] : notes_.gauges)
                if (isTaught(gauge))
                    out.push_back(needle(gauge, position.id));
            if (!notes_.start.prime.empty())
                out.push_back(factor("prime", position.id, doseSpread, doseWidth));
        }
        out.push_back(factor("fuel", {}, fuelSpread, fuelWidth));
        for (const auto& position : notes_.positions)
            for (const char* what : {"fire", "oil-pressure-up"})
                out.push_back(told(what, position.id));
        return out;
    }

private:
    /// @param today the plan by the models of today; null: what was kept with each reading is its measure
    void gather(const Run& run, const plan::Plan* today) {
        const auto found = standing_.find(run.id);
        if (found == standing_.end())
            return;
        std::map<std::string, double> tries, primed;
        for (const auto& s : found->second) {
            if (s.disagrees)
                continue;
            for (const Entry* e : s.last) {
                if (e->what == "overhaul") {
                    auto& last = overhauled_[e->engine];
                    last = std::max(last, run.began);
                }
                if (e->kind != Entry::Kind::figure)
                    continue;
                const auto expected =
                    today ? unlearntOf(*today, e->phase, e->what, e->engine).value_or(NAN) : e->planned.value_or(NAN);
                const WhatRow* row = whatOf(e->what);
                if (row && row->gauge && isTaught(*row->gauge) && flown(e->phase)) {
                    if (!std::isnan(expected))
                        of(needles_[{*row->gauge, e->engine}], run).values[e->phase].push_back(e->value - expected);
                } else if (e->what == "tries") {
                    tries[e->engine] = e->value;
                } else if (e->what == "prime" && expected > 0.0 && e->value > 0.0) {
                    primed[e->engine] = std::log(e->value / expected);
                } else if (e->what == "fuel-added" && expected > 0.0 && e->value > 0.0) {
                    of(factors_[{"fuel", {}}], run).values[e->phase].push_back(std::log(e->value / expected));
                } else if (e->what == "fire" || e->what == "oil-pressure-up") {
                    of(told_[{e->what, e->engine}], run).values[e->phase].push_back(e->value);
                }
            }
        }
        // A start that did not come at once tells of a dose that was wrong.
        for (const auto& [engine, dose] : primed)
            if (const auto t = tries.find(engine); t == tries.end() || t->second <= 1.0)
                of(factors_[{"prime", engine}], run).values[Phase::start].push_back(dose);
    }
    static OfRun& of(Runs& runs, const Run& run) {
        auto& out = runs[{run.began, run.id}];
        out.at = run.began;
        return out;
    }
    static bool flown(Phase phase) {
        return phase == Phase::climb || phase == Phase::cruise || phase == Phase::letDown;
    }

    /// Runs since the engine's last overhaul, the latest first.
    [[nodiscard]] std::vector<const OfRun*> since(const Runs& runs, const std::string& engine) const {
        std::int64_t from = 0;
        for (const auto& [whose, at] : overhauled_)
            if (whose.empty() || whose == engine)
                from = std::max(from, at);
        std::vector<const OfRun*> out;
        for (auto run = runs.rbegin(); run != runs.rend(); ++run)
            if (run->first.first >= from)
                out.push_back(&run->second);
        return out;
    }

    Lesson lesson(const std::string& what, const std::string& engine, const Runs& runs, double spread, double width) {
        Lesson out;
        out.planned = true;
        out.line.what = what;
        out.line.engine = engine;
        out.line.model = model_;
        const auto counted = since(runs, engine);
        std::vector<double> values;
        std::vector<Point> points;
        for (const auto* run : counted)
            values.push_back(run->value());
        out.estimate = estimateOf(values, spread, width);
        out.line.runs = static_cast<int>(values.size());
        for (auto run = counted.rbegin(); run != counted.rend(); ++run)
            points.push_back({static_cast<double>((*run)->at) / aDay, (*run)->value()});
        if (!counted.empty()) {
            out.line.first = dayOf(counted.back()->at);
            out.line.last = dayOf(counted.front()->at);
        }
        if (values.size() < lessonRuns) {
            out.notOffered = values.empty()
                                 ? "Nothing was read yet."
                                 : fmt::format("{} of the {} runs that it takes.", values.size(), lessonRuns);
        } else if (trendOf(points).tells()) {
            out.notOffered = "It changes from run to run: a trend, for an engineer to look at.";
        } else if (out.estimate.low <= 0.0 && out.estimate.high >= 0.0) {
            out.notOffered = "Not to be told from what the notes and the model say.";
        }
        return out;
    }

    Lesson needle(Gauge gauge, const std::string& engine) {
        const bool pressure = nameOf(gauge).dimension == Dimension::pressure;
        const double spread = pressure ? pressureSpread : temperatureSpread,
                     width = pressure ? pressureWidth : temperatureWidth;
        const Runs& runs = needles_[{gauge, engine}];
        Lesson out = lesson(std::string(nameOf(gauge).key), engine, runs, spread, width);
        out.line.value = out.estimate.found;
        out.low = out.estimate.low;
        out.high = out.estimate.high;
        if (out.notOffered.empty() && std::abs(out.estimate.found) < 0.5 * width)
            out.notOffered = "Less than the needle can be read to.";
        if (out.notOffered.empty())
            out.notOffered = apart(runs, engine, width);
        finish(out, [&](double v) {
            const UnitSpec& unit = pressure ? notes_.unitOf(gauge) : *units::deltaCelsius.spec;
            return format(v, unit);
        });
        return out;
    }
    /// One offset must do for all phases.
    [[nodiscard]] std::string apart(const Runs& runs, const std::string& engine, double width) const {
        std::map<Phase, std::vector<double>> by;
        for (const auto* run : since(runs, engine))
            for (const auto& [phase, values] : run->values)
                by[phase].push_back(medianOf(values));
        for (const auto& [a, one] : by)
            for (const auto& [b, other] : by) {
                if (a >= b || one.size() < lessonRuns || other.size() < lessonRuns)
                    continue;
                const auto x = estimateOf(one, HUGE_VAL, width), y = estimateOf(other, HUGE_VAL, width);
                const double error = std::hypot(x.high - x.seen, y.high - y.seen) / nineteenInTwenty;
                if (std::abs(x.seen - y.seen) > std::max(width, phasesApart * error))
                    return fmt::format("{} and {} do not agree: no one figure fits.", titleOf(a), titleOf(b));
            }
        return {};
    }
    Lesson factor(const std::string& what, const std::string& engine, double spread, double width) {
        Lesson out = lesson(what, engine, factors_[{what, engine}], spread, width);
        out.line.value = std::exp(out.estimate.found);
        out.low = std::exp(out.estimate.low);
        out.high = std::exp(out.estimate.high);
        if (out.notOffered.empty() && std::abs(out.estimate.found) < width)
            out.notOffered = "Too little to be worth planning with.";
        if (out.notOffered.empty() && what == "fuel" && out.estimate.found < 0.0)
            out.notOffered =
                "The aircraft burns less than the model: told, and not planned with, so that fuel is never short.";
        finish(out, [](double v) { return formatNumber(100.0 * (v - 1.0), 0) + " %"; });
        return out;
    }
    Lesson told(const std::string& what, const std::string& engine) {
        const Runs& runs = told_[{what, engine}];
        Lesson out;
        out.line.what = what;
        out.line.engine = engine;
        std::vector<double> values;
        for (const auto* run : since(runs, engine))
            values.push_back(run->value());
        out.line.runs = static_cast<int>(values.size());
        out.estimate = estimateOf(values, HUGE_VAL, 1.0);
        out.usual = out.estimate.seen;
        out.low = std::max(0.0, out.estimate.low);
        out.high = std::max(0.0, out.estimate.high);
        if (values.size() < lessonRuns)
            out.notOffered = values.empty()
                                 ? "Nothing was read yet."
                                 : fmt::format("{} of the {} runs that it takes.", values.size(), lessonRuns);
        std::string name = engineName(notes_, engine);
        out.words =
            fmt::format("{}{}: usually {}, {} to {} ({} runs)", name.empty() ? "" : name + ": ", whatOf(what)->title,
                        formatMinutesSeconds(out.usual), formatMinutesSeconds(std::max(0.0, out.estimate.low)),
                        formatMinutesSeconds(std::max(0.0, out.estimate.high)), values.size());
        return out;
    }
    template <class Words>
    void finish(Lesson& out, const Words& words) const {
        out.words = flight::wordsOf(out.line, notes_);
        if (out.notOffered.empty())
            out.words += fmt::format(", {} to {}", words(out.low), words(out.high));
        out.words += fmt::format(" ({} run{})", out.line.runs, out.line.runs == 1 ? "" : "s");
    }

    const Log& log_;
    const TypeNotes& notes_;
    std::string model_;
    std::map<std::string, std::vector<Standing>> standing_;
    std::map<std::string, std::int64_t> overhauled_; ///< by engine; empty: all
    std::map<std::pair<Gauge, std::string>, Runs> needles_;
    std::map<std::pair<std::string, std::string>, Runs> factors_, told_;
};
} // namespace

Estimate estimateOf(std::span<const double> latestFirst, double spread, double width) {
    Estimate out;
    out.runs = latestFirst.size();
    if (latestFirst.empty())
        return out;
    std::vector<std::pair<double, double>> all;
    double sum = 0.0, squares = 0.0;
    for (std::size_t i = 0; i < latestFirst.size(); ++i) {
        const double weight = std::exp2(-static_cast<double>(i) / halfLife);
        all.emplace_back(latestFirst[i], weight);
        sum += weight;
        squares += weight * weight;
    }
    out.seen = weightedMedian(all);
    for (auto& [value, weight] : all)
        value = std::abs(value - out.seen);
    const double sigma = ofDistances * weightedMedian(all);
    const double error = std::hypot(ofMedian * sigma * std::sqrt(squares) / sum, 0.5 * width);
    const double share = std::isinf(spread) ? 1.0 : spread * spread / (spread * spread + error * error);
    out.found = share * out.seen;
    const double apart = nineteenInTwenty * error * std::sqrt(share);
    out.low = out.found - apart;
    out.high = out.found + apart;
    return out;
}

std::vector<Lesson> lessonsOf(const Log& log, const std::string& airframe, const TypeNotes& notes,
                              const std::string& model, const PlanOf& planOf) {
    return Teacher(log, airframe, notes, model, planOf).all();
}

std::string beforeAndAfter(const Lesson& lesson, const std::shared_ptr<const powerplant::Aircraft>& aircraft,
                           const Sortie& sortie) {
    const auto with = [&](bool taught) {
        Sortie s = sortie;
        AirframeFacts facts = s.airframe.facts ? *s.airframe.facts : AirframeFacts{};
        facts.learnt.clear();
        if (taught) {
            facts.learnt = {lesson.line};
            facts.learnt.front().accepted = true;
        }
        s.airframe.facts = std::make_shared<const AirframeFacts>(std::move(facts));
        const auto of = flight::taught(aircraft, s);
        return plan::makePlan(*of, s);
    };
    const TypeNotes& n = aircraft->notes;
    const auto before = with(false), after = with(true);
    const auto& what = lesson.line.what;
    std::string out;
    const auto told = [&](const std::string& where, const std::string& is, const std::string& was) {
        if (is != was)
            out += fmt::format("{}{}{} for {}", out.empty() ? "" : "; ", where, is, was);
    };
    if (what == "fuel") {
        const auto used = [&](const plan::Plan& p) {
            return format(p.flown.fuelAtStart - p.flown.fuelAtEnd, *n.cockpit.fuel);
        };
        told({}, used(after), used(before));
    } else if (what == "prime") {
        const auto dose = [&](const plan::Plan& p) {
            for (const auto& line : p[Phase::start].priming)
                if (line.fact.id == "prime" && line.fact.engine == lesson.line.engine)
                    return line.value;
            return std::string();
        };
        told({}, dose(after), dose(before));
    } else {
        for (const Phase phase : {Phase::climb, Phase::cruise, Phase::letDown})
            for (const auto& line : after[phase].expect)
                for (const auto& needle : line.needles)
                    if (nameOf(line.gauge).key == what && needle.engine == lesson.line.engine)
                        told(std::string(titleOf(phase)) + " ", needle.text, line.text);
    }
    return out;
}

const LearntLine* answerTo(const std::vector<LearntLine>& lines, const Lesson& lesson) {
    for (const auto& l : lines)
        if (l.what == lesson.line.what && l.engine == lesson.line.engine)
            return &l;
    return nullptr;
}

std::vector<LearntLine> answered(std::vector<LearntLine> lines, const Lesson& lesson, bool accepted,
                                 const std::string& day, const std::string& who) {
    std::erase_if(lines,
                  [&](const LearntLine& l) { return l.what == lesson.line.what && l.engine == lesson.line.engine; });
    LearntLine line = lesson.line;
    line.accepted = accepted;
    line.answered = day;
    line.who = who;
    lines.push_back(std::move(line));
    return lines;
}

} // namespace amber::record
