// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/hours.h"
#include "record/log_text.h"
#include "record/what.h"
#include "record/write_up.h"
#include "units/ascii.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace amber::record {
namespace {
constexpr double anHour = 3600.0;         // s
constexpr double oilHours = 5.0 * anHour; // s, under which nothing is told of oil an hour
constexpr double msADay = 86'400'000.0;

std::optional<std::int64_t> dayFrom(const std::string& day) {
    return day.empty() ? std::nullopt : timeFrom(day + " 00:00");
}
/// So many months after a day; the last of a shorter month where there is no such day.
std::int64_t monthsAfter(std::int64_t at, int months) {
    using namespace std::chrono;
    const sys_days day = floor<days>(sys_time<milliseconds>(milliseconds(at)));
    year_month_day out = year_month_day(day) + std::chrono::months(months);
    if (!out.ok())
        out = out.year() / out.month() / last;
    return duration_cast<milliseconds>(sys_days(out).time_since_epoch()).count();
}
bool beginsWith(const std::string& words, const std::string& name) {
    return words.size() >= name.size() && std::equal(name.begin(), name.end(), words.begin(),
                                                     [](char a, char b) { return ascii::lower(a) == ascii::lower(b); });
}

/// What the log says of one run.
struct OfOneRun {
    std::int64_t began = 0;
    std::map<std::string, double> ran, firstFire, oil;
    std::map<std::string, int> tried;
    std::set<std::string> turned; ///< engines that something was read of which only a running one shows
    std::map<std::pair<std::string, std::string>, double> ratings; ///< engine, key
    std::optional<double> takeOff, stop;
    std::vector<std::pair<std::string, std::string>> overhauls, work; ///< engine, words
    std::map<std::string, double> times;                              ///< s, by engine
    [[nodiscard]] double airframe() const {
        if (takeOff && stop && *stop > *takeOff)
            return *stop - *takeOff;
        double most = 0.0;
        for (const auto& [engine, time] : times)
            most = std::max(most, time);
        return most;
    }
};

class Book {
public:
    Book(const Log& log, const std::string& airframe, const TypeNotes& notes, const AirframeFacts* facts,
         std::int64_t now)
        : notes_(notes), facts_(facts), now_(now) {
        const auto from = facts ? dayFrom(facts->hoursAt) : std::nullopt;
        const auto all = standing(log);
        for (const auto& [id, run] : log.runs) {
            if (run.airframe != airframe)
                continue;
            if (from && run.began < *from) {
                ++out_.earlier;
                continue;
            }
            OfOneRun of;
            of.began = run.began;
            if (const auto found = all.find(id); found != all.end())
                read(of, found->second);
            runs_.push_back(std::move(of));
        }
        std::stable_sort(runs_.begin(), runs_.end(),
                         [](const OfOneRun& a, const OfOneRun& b) { return a.began < b.began; });
    }

    Hours all() {
        out_.runs = static_cast<int>(runs_.size());
        for (auto& run : runs_) {
            timeOf(run);
            out_.timeless += run.times.empty() ? 1 : 0;
            out_.logged += run.airframe();
        }
        if (facts_ && facts_->hours)
            out_.sinceNew = *facts_->hours * anHour + out_.logged;
        for (const auto& position : notes_.positions)
            out_.engines.push_back(engine(position));
        if (facts_)
            for (const auto& d : facts_->due)
                out_.due.push_back(due(d));
        std::stable_sort(out_.due.begin(), out_.due.end(),
                         [](const DueLine& a, const DueLine& b) { return a.verdict.colour() > b.verdict.colour(); });
        return std::move(out_);
    }

private:
    /// Seconds to fire, or anything of the cockpit from the warm-up to the landing.
    static bool showsRunning(const Entry& e) {
        if (e.kind != Entry::Kind::figure && e.kind != Entry::Kind::looked)
            return false;
        return e.what == "fire" || e.what == "oil-pressure-up" || (e.phase > Phase::start && e.phase < Phase::stop);
    }
    static void read(OfOneRun& of, const std::vector<Standing>& all) {
        for (const auto& s : all)
            for (const Entry* e : s.last) {
                if (e->kind == Entry::Kind::words && e->what == "overhaul")
                    of.overhauls.emplace_back(e->engine, e->words);
                if (e->kind == Entry::Kind::words && e->what == "work")
                    of.work.emplace_back(e->engine, e->words);
                if (showsRunning(*e))
                    of.turned.insert(e->engine);
                if (e->kind != Entry::Kind::figure)
                    continue;
                if (e->what == "running")
                    of.ran[e->engine] = e->value;
                else if (e->what == "at-first-fire")
                    of.firstFire[e->engine] = e->value;
                else if (e->what == "at-take-off")
                    of.takeOff = e->value;
                else if (e->what == "at-stop")
                    of.stop = e->value;
                else if (e->what == "tries")
                    of.tried[e->engine] = static_cast<int>(e->value);
                else if (e->what == "oil-added")
                    of.oil[e->engine] += e->value;
                else if (e->what.starts_with(ofRating))
                    of.ratings[{e->engine, e->what.substr(ofRating.size())}] += e->value;
            }
    }
    void timeOf(OfOneRun& run) const {
        for (const auto& p : notes_.positions) {
            const auto of = [&](const std::map<std::string, double>& all) -> std::optional<double> {
                for (const auto& key : {p.id, std::string()})
                    if (const auto found = all.find(key); found != all.end())
                        return found->second;
                return std::nullopt;
            };
            if (const auto ran = of(run.ran))
                run.times[p.id] = *ran;
            else if (const auto fired = of(run.firstFire); fired && run.stop && *run.stop > *fired)
                run.times[p.id] = *run.stop - *fired;
        }
    }

    EngineHours engine(const Position& position) {
        EngineHours e;
        e.engine = position.id;
        e.name = position.name;
        const AirframeFacts::Engine* facts = nullptr;
        if (facts_)
            for (const auto& f : facts_->engines)
                if (f.position == position.id)
                    facts = &f;
        double since = facts && facts->sinceOverhaul ? *facts->sinceOverhaul * anHour : 0.0;
        bool known = facts && facts->sinceOverhaul;
        double timed = 0.0, oilOfTimed = 0.0;
        std::map<std::string, double> ratings;
        for (const auto& run : runs_) {
            const auto time = run.times.find(e.engine);
            const double ran = time == run.times.end() ? 0.0 : time->second;
            for (const auto& [whose, words] : run.overhauls)
                if (whose.empty() || whose == e.engine) { // it begins anew before it runs again
                    e.overhauled = timeText(run.began).substr(0, 10);
                    since = 0.0;
                    known = true;
                }
            e.logged += ran;
            since += ran;
            const bool started = ran > 0.0 || run.turned.contains(e.engine) || run.turned.contains({});
            e.starts += started ? 1 : 0;
            const auto tried = run.tried.find(e.engine);
            e.tries += tried == run.tried.end() ? (started ? 1 : 0) : std::max(tried->second, started ? 1 : 0);
            if (const auto oil = run.oil.find(e.engine); oil != run.oil.end()) {
                e.oilAdded += oil->second;
                oilOfTimed += ran > 0.0 ? oil->second : 0.0;
            }
            timed += ran;
            for (const auto& [key, seconds] : run.ratings)
                if (key.first == e.engine)
                    ratings[key.second] += seconds;
        }
        if (timed >= oilHours)
            e.oilAnHour = oilOfTimed / timed;
        for (const auto& r : notes_.ratings)
            if (ratings.contains(r.key))
                e.ratings.emplace_back(r.name, ratings.at(r.key));
        if (facts) {
            e.serial = facts->serial;
            if (facts->hours)
                e.sinceNew = *facts->hours * anHour + e.logged;
        }
        if (known)
            e.sinceOverhaul = since;
        return e;
    }

    DueLine due(const AirframeFacts::Due& d) const {
        DueLine out;
        out.what = d.what;
        out.engine = d.engine;
        out.done = d.done;
        const auto base = [&]() -> std::optional<double> { // s
            if (d.engine.empty())
                return facts_->hours ? std::optional(*facts_->hours * anHour) : std::nullopt;
            for (const auto& f : facts_->engines)
                if (f.position == d.engine && f.hours)
                    return *f.hours * anHour;
            return std::nullopt;
        }();
        double hours = base.value_or(0.0);                                 // s, as the log goes on
        double doneAt = d.doneHours && base ? *d.doneHours * anHour : NAN; // s; NaN: nobody has said
        for (const auto& run : runs_) {
            for (const auto& [whose, words] : run.work)
                if ((whose.empty() || whose == d.engine) && beginsWith(words, d.what)) {
                    doneAt = hours;
                    out.done = timeText(run.began).substr(0, 10);
                }
            if (d.engine.empty())
                hours += run.airframe();
            else if (const auto time = run.times.find(d.engine); time != run.times.end())
                hours += time->second;
        }
        std::optional<double> left; // share of the interval
        std::string words;
        const auto told = [&](double share, const std::string& what) {
            left = left ? std::min(*left, share) : share;
            words += (words.empty() ? "" : ", ") + what;
        };
        if (d.every && !std::isnan(doneAt)) {
            out.leftHours = *d.every - (hours - doneAt) / anHour;
            told(*out.leftHours / *d.every,
                 *out.leftHours < 0
                     ? fmt::format("{} h past its {} h", formatNumber(-*out.leftHours, 1), formatNumber(*d.every, 0))
                     : fmt::format("{} h left of {}", formatNumber(*out.leftHours, 1), formatNumber(*d.every, 0)));
        }
        if (const auto day = dayFrom(out.done); d.months && day) {
            const std::int64_t next = monthsAfter(*day, *d.months);
            out.leftDays = std::floor(static_cast<double>(next - now_) / msADay);
            told(static_cast<double>(next - now_) / static_cast<double>(next - *day),
                 fmt::format("{} {}", *out.leftDays < 0 ? "was due on" : "due by", timeText(next).substr(0, 10)));
        }
        if ((d.every && std::isnan(doneAt)) || (d.months && out.done.empty()))
            left.reset(); // what nobody has said is no time left
        const std::string engine = engineName(notes_, d.engine);
        std::string what = d.what;
        if (engine.empty() && !what.empty())
            what.front() = ascii::upper(what.front());
        out.verdict = watch::due(left, fmt::format("{}{}: {}{}.", engine.empty() ? "" : engine + ", ", what,
                                                   words.empty() || !left ? "nobody has said when it was done" : words,
                                                   out.done.empty() ? "" : "; done " + out.done));
        return out;
    }

    const TypeNotes& notes_;
    const AirframeFacts* facts_;
    std::int64_t now_;
    std::vector<OfOneRun> runs_;
    Hours out_;
};
} // namespace

Hours hoursOf(const Log& log, const std::string& airframe, const TypeNotes& notes, const AirframeFacts* facts,
              std::int64_t now) {
    return Book(log, airframe, notes, facts, now).all();
}

HoursTable hoursTable(const Hours& h, const TypeNotes& notes) {
    HoursTable out;
    const auto add = [&](std::string what, const auto& cell) {
        HoursTable::Row row{std::move(what), {}};
        bool any = false;
        for (const auto& e : h.engines) {
            row.cells.push_back(cell(e));
            any = any || !row.cells.back().empty();
        }
        if (any)
            out.rows.push_back(std::move(row));
    };
    const auto hours = [](std::optional<double> s) { return s ? hoursText(*s) : std::string(); };
    const auto volume = [&](double v, int decimals) { return format(v, *notes.cockpit.fuel, decimals); };
    for (const auto& e : h.engines)
        out.columns.push_back(e.name);
    add("Number", [](const EngineHours& e) { return e.serial; });
    add("Since new", [&](const EngineHours& e) { return hours(e.sinceNew); });
    add("Since overhaul", [&](const EngineHours& e) {
        return hours(e.sinceOverhaul) + (e.overhauled.empty() ? "" : ", " + e.overhauled);
    });
    add("Of these in the log", [](const EngineHours& e) { return hoursText(e.logged); });
    add("Starts (tries)",
        [](const EngineHours& e) { return e.starts == 0 ? std::string() : fmt::format("{} ({})", e.starts, e.tries); });
    if (notes.start.starter.kind == StarterKind::cartridge)
        add("Cartridges", [](const EngineHours& e) { return e.tries == 0 ? std::string() : std::to_string(e.tries); });
    add("Oil added", [&](const EngineHours& e) { return e.oilAdded > 0 ? volume(e.oilAdded, 1) : std::string(); });
    add("Oil an hour",
        [&](const EngineHours& e) { return e.oilAnHour ? volume(*e.oilAnHour * anHour, 2) : std::string(); });
    for (const auto& r : notes.ratings)
        add("At " + r.name, [&](const EngineHours& e) {
            for (const auto& [name, seconds] : e.ratings)
                if (name == r.name)
                    return formatHoursOrMinutes(seconds);
            return std::string();
        });
    if (h.sinceNew)
        out.told.push_back(fmt::format("The airframe: {} since new, {} of it in the log.", hoursText(*h.sinceNew),
                                       hoursText(h.logged)));
    else
        out.told.push_back(fmt::format("The airframe: {} in the log; what it stood at before is not said in its file.",
                                       hoursText(h.logged)));
    if (h.earlier > 0)
        out.told.push_back(h.earlier == 1
                               ? "A run of before the day of its file's hours is in those."
                               : fmt::format("{} runs of before the day of its file's hours are in those.", h.earlier));
    const char* say = "type how long each engine ran in the write-up.";
    if (h.timeless > 0)
        out.told.push_back(
            h.runs == 1 ? fmt::format("The run is without times and adds nothing: {}", say)
            : h.timeless == 1
                ? fmt::format("Of {} runs one is without times and adds nothing: {}", h.runs, say)
                : fmt::format("Of {} runs {} are without times and add nothing: {}", h.runs, h.timeless, say));
    return out;
}

std::string hoursText(double seconds) {
    return formatNumber(seconds / anHour, 1) + " h";
}

} // namespace amber::record
