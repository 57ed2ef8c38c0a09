// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/questions.h"
#include "powerplant/generator.h"
#include "symptoms/symptoms.h"
#include "units/ascii.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>
#include <tuple>

namespace amber::rehearse {
namespace {
constexpr std::size_t mostChoices = 4;

std::string small(std::string text) {
    if (!text.empty())
        text[0] = ascii::lower(text[0]);
    return text;
}

class Asker {
public:
    explicit Asker(const TypeNotes& notes) : n_(notes) {}
    std::vector<Question> all() {
        gauges();
        ratings();
        speeds();
        starts();
        controls();
        firsts();
        return std::move(out_);
    }

private:
    void figure(std::string key, std::string text, double si, const UnitSpec& unit, std::string because) {
        Question q;
        q.key = std::move(key);
        q.text = std::move(text);
        q.si = si;
        q.unit = &unit;
        q.because = std::move(because);
        out_.push_back(std::move(q));
    }
    [[nodiscard]] bool isEstimated(std::string_view path) const {
        return std::any_of(n_.estimated.begin(), n_.estimated.end(), [&](const Estimate& e) { return e.path == path; });
    }
    void gauges() {
        for (const auto& [gauge, g] : n_.gauges) {
            const auto& row = nameOf(gauge);
            const std::string name(row.title);
            const UnitSpec& unit = n_.unitOf(gauge);
            const auto ask = [&](const char* what, const std::optional<double>& si, const char* path,
                                 const char* text) {
                if (si && !isEstimated(fmt::format("limits.{}.{}", row.key, path)))
                    figure(fmt::format("limit/{}/{}", row.key, what), fmt::format("{}: {}", name, text), *si, unit,
                           fmt::format("[limits.{}] of the notes.", row.key));
            };
            ask("most", g.band.limitHigh, "max", "the maximum?");
            ask("least", g.band.limitLow, "min", "the minimum?");
            ask("normal-to", g.band.normalHigh, "normal", "the end of the normal range?");
        }
    }
    void ratings() {
        for (const auto& r : n_.ratings) {
            const std::string because = fmt::format("Rating “{}” of the notes.", r.name);
            figure(fmt::format("rating/{}/rpm", r.key), fmt::format("{}: rpm?", r.name), r.rpm.si(),
                   n_.unitOf(Gauge::rpm), because);
            if (r.boost)
                figure(fmt::format("rating/{}/boost", r.key), fmt::format("{}: boost?", r.name), r.boost->si(),
                       n_.unitOf(Gauge::boost), because);
            if (r.minutes)
                figure(fmt::format("rating/{}/minutes", r.key), fmt::format("{}: for how many minutes?", r.name),
                       r.minutes->si(), *units::minute.spec, because);
        }
    }
    void speeds() {
        if (isEstimated("speeds.entry"))
            return;
        for (const auto& s : n_.speeds.entries)
            figure(fmt::format("speed/{}", s.id),
                   fmt::format("{} at {}: what speed?", s.name, format(n_.speeds.heavyWeight.si(), *n_.cockpit.weight)),
                   s.heavy.si(), *n_.cockpit.speed, "[speeds] of the notes, at the heavy weight.");
    }
    void starts() {
        const auto& s = n_.start;
        const std::string because = "[engine_start] of the notes.";
        const auto ask = [&](const char* path, const char* key, const std::string& text, double si,
                             const UnitSpec& unit) {
            if (si > 0 && !isEstimated(path))
                figure(fmt::format("start/{}", key), text, si, unit, because);
        };
        ask("engine_start.crank_most", "crank-most", "The starter: max seconds?", s.crankMost.si(),
            *units::second.spec);
        ask("engine_start.rest", "rest", "The starter: how many seconds of rest?", s.rest.si(), *units::second.spec);
        ask("engine_start.oil_pressure", "oil-pressure", "After the first fire: which oil pressure must come?",
            s.oilPressure.si(), n_.unitOf(Gauge::oilPressure));
        ask("engine_start.oil_pressure_within", "oil-pressure-within",
            "After the first fire: within how many seconds must oil pressure come?", s.oilPressureWithin.si(),
            *units::second.spec);
        const auto& w = n_.warmUp;
        const UnitSpec& temperature = *n_.cockpit.temperature;
        const char* warm = "[warming] of the notes.";
        if (w.oilRunUp.si() > 0 && !isEstimated("warming.oil_run_up"))
            figure("warm-up/oil-run-up", "Oil temperature: minimum for the run-up?", w.oilRunUp.si(), temperature,
                   warm);
        if (w.oilTakeOff.si() > 0 && !isEstimated("warming.oil_take_off"))
            figure("warm-up/oil-take-off", "Oil temperature: minimum for take-off?", w.oilTakeOff.si(), temperature,
                   warm);
    }
    void controls() {
        std::vector<std::string> panels;
        for (const auto& c : n_.controls)
            if (!c.panel.empty() && std::find(panels.begin(), panels.end(), c.panel) == panels.end())
                panels.push_back(c.panel);
        for (const auto& c : n_.controls) {
            if (c.origin == Origin::practice && !c.reversed)
                continue; // where the notes are silent there is nothing to know
            const bool says = c.positions.size() > 1 && c.less != c.positions.front().name && // on is on
                              !c.less.empty() && c.less != c.more;
            if (says) {
                Question q;
                q.key = "way/" + c.id;
                q.text = fmt::format("{}: which way for “{}”?", c.name, c.positions.front().name);
                q.choices = {c.less, c.more};
                std::sort(q.choices.begin(), q.choices.end());
                q.right =
                    static_cast<std::size_t>(std::find(q.choices.begin(), q.choices.end(), c.less) - q.choices.begin());
                q.because = c.reversed        ? "Against the usual sense on this type."
                            : c.sense.empty() ? "As on most."
                                              : fmt::format("{}.", c.sense);
                q.reversed = c.reversed;
                out_.push_back(std::move(q));
            }
            if (panels.size() > 2 && !c.panel.empty()) {
                Question q;
                q.key = "place/" + c.id;
                q.text = fmt::format("Put your hand on: {}. Where is it?", small(c.name));
                q.choices = few(panels, c.panel, q.right);
                q.because = "Its place in the notes.";
                out_.push_back(std::move(q));
            }
        }
    }
    /// The right one and up to three others that follow it, sorted.
    static std::vector<std::string> few(const std::vector<std::string>& all, const std::string& right,
                                        std::size_t& index) {
        std::vector<std::string> out{right};
        const auto at = static_cast<std::size_t>(std::find(all.begin(), all.end(), right) - all.begin());
        for (std::size_t i = 1; i < all.size() && out.size() < mostChoices; ++i)
            if (const auto& other = all[(at + i) % all.size()]; std::find(out.begin(), out.end(), other) == out.end())
                out.push_back(other);
        std::sort(out.begin(), out.end());
        index = static_cast<std::size_t>(std::find(out.begin(), out.end(), right) - out.begin());
        return out;
    }
    void firsts() {
        const auto patterns = trouble::patternsFor(n_);
        // Each asked where it comes: aloft, else on the ground, else at the start.
        const auto whereOf = [](const trouble::Pattern& p) {
            trouble::Context c;
            for (const Phase phase : {Phase::start, Phase::runUp, Phase::cruise})
                if (trouble::Context at; (at.phase = phase, (at.stages() & p.stages) != 0))
                    c = at;
            return c;
        };
        const auto actOf = [&](const trouble::Pattern& p) { return trouble::firstActOf(p, n_, whereOf(p)); };
        std::vector<std::string> acts;
        for (const auto& p : patterns)
            acts.push_back(actOf(p));
        for (const auto& p : patterns)
            if (p.fault) {
                // Among those of what it is taken for; others where it has no like.
                const std::string right = actOf(p);
                std::vector<std::string> among{right};
                for (const auto like : p.like)
                    for (const auto& other : patterns)
                        if (other.fault == like)
                            among.push_back(actOf(other));
                for (const auto& act : acts)
                    if (among.size() < mostChoices)
                        among.push_back(act);
                Question q;
                q.key = fmt::format("first/{}", p.key);
                q.text = fmt::format("{}: first action?", p.name);
                q.choices = few(among, right, q.right);
                if (q.choices.size() < 2)
                    continue;
                q.because = p.toldBy.empty() ? std::string{} : fmt::format("Told by: {}", p.toldBy);
                out_.push_back(std::move(q));
            }
    }

    const TypeNotes& n_;
    std::vector<Question> out_;
};
} // namespace

std::vector<Question> questionsOf(const TypeNotes& notes) {
    return Asker(notes).all();
}

std::string answerOf(const Question& q) {
    return q.si ? format(*q.si, *q.unit) : q.choices[q.right];
}

std::optional<bool> isRight(const Question& q, std::string_view answer) {
    while (!answer.empty() && ascii::isSpace(answer.front()))
        answer.remove_prefix(1);
    while (!answer.empty() && ascii::isSpace(answer.back()))
        answer.remove_suffix(1);
    if (answer.empty())
        return std::nullopt;
    std::string_view rest;
    const auto number = readNumber(answer, rest);
    if (q.si) {
        if (!number)
            return std::nullopt;
        constexpr double coarsest = 0.005; // of the figure
        const double given = number.value() * q.unit->scale + q.unit->offset;
        const double width = 0.5 * std::pow(10.0, -q.unit->decimals) * q.unit->scale;
        const double shown = (*q.si - q.unit->offset) / q.unit->scale;
        return std::abs(given - *q.si) <= std::max(width, coarsest * std::abs(shown) * q.unit->scale) * (1 + 1e-9);
    }
    if (number && rest.empty()) {
        const double index = number.value();
        if (index != std::floor(index) || index < 1 || index > static_cast<double>(q.choices.size()))
            return std::nullopt;
        return static_cast<std::size_t>(index) - 1 == q.right;
    }
    const auto lower = [](std::string_view text) {
        std::string out(text);
        for (char& c : out)
            c = ascii::lower(c);
        return out;
    };
    for (std::size_t i = 0; i < q.choices.size(); ++i)
        if (lower(q.choices[i]) == lower(answer))
            return i == q.right;
    return std::nullopt;
}

void CardBoxes::answered(const std::string& key, bool right, std::int64_t today) {
    Card& card = cards_[key];
    card.box = right ? std::min(card.box + 1, boxes - 1) : 0;
    card.due = right ? today + (std::int64_t{1} << (card.box - 1)) : today;
}

std::optional<std::size_t> CardBoxes::next(const std::vector<Question>& questions, std::int64_t today,
                                           std::uint64_t seed, const std::string& last) const {
    std::optional<std::size_t> best;
    std::tuple<bool, int, bool, double> least;
    for (std::size_t i = 0; i < questions.size(); ++i) {
        const auto found = cards_.find(questions[i].key);
        const Card card = found == cards_.end() ? Card{0, today} : found->second;
        if (card.due > today)
            continue;
        // What was asked just now waits until another has been asked, where there is another.
        const std::tuple rank{questions[i].key == last, card.box, !questions[i].reversed,
                              powerplant::uniformAt(seed, i, 0)};
        if (!best || rank < least) {
            best = i;
            least = rank;
        }
    }
    return best;
}

std::size_t CardBoxes::dueOf(const std::vector<Question>& questions, std::int64_t today) const {
    return static_cast<std::size_t>(std::count_if(questions.begin(), questions.end(), [&](const Question& q) {
        const auto found = cards_.find(q.key);
        return found == cards_.end() || found->second.due <= today;
    }));
}

} // namespace amber::rehearse
