// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/missing.h"
#include "booklet/with_figure.h"
#include "engine/calibration.h"
#include "files/key_ranges.h"
#include "flight/flown.h"
#include "flight/taught.h"
#include "reading/notes_reader.h"
#include "units/text.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace amber::booklet {
namespace {
constexpr double ourFuel =
    0.07; // how far our own consumption may be off: what airframes of one type differ by, and the fit
// What a pilot would act on, by experience: practice, not from any notes.
constexpr double actsOnFuel = 0.02, actsOnPower = 0.01, actsOnTime = 120.0; // parts, s
constexpr double actsOnMargin = 0.5 * 3386.389;                             // Pa, half an inch of mercury

/// The aircraft of a text, as the sortie's airframe has been taught; null: the text is no whole notes.
std::shared_ptr<const powerplant::Aircraft> aircraftOf(const std::string& text, const std::string& file,
                                                       const std::string& variant, Sortie sortie) {
    auto reading = readNotes(text, file, variant);
    Problems problems;
    auto made = reading.notes ? powerplant::assemble(std::move(*reading.notes), problems) : std::nullopt;
    return made ? flight::taught(std::make_shared<const powerplant::Aircraft>(std::move(*made)), sortie) : nullptr;
}
bool isEstimated(const TypeNotes& notes, const std::string& path) {
    return std::any_of(notes.estimated.begin(), notes.estimated.end(),
                       [&](const Estimate& e) { return e.path == path; });
}
/// A difference of boost as the gauge is marked, a digit finer than it is read.
std::string boostText(double pascal, const Cockpit& cockpit) {
    const UnitSpec& unit = *cockpit.boost;
    const auto text = format(pascal + unit.offset, unit, unit.decimals + 1);
    return text.starts_with('+') ? text.substr(1) : text;
}

// Less than this is not told.
constexpr double leastPart = 0.0005, leastTime = 3.0, leastMargin = 100.0; // of fuel and power; s; Pa

struct Summary {
    double fuel = 0.0, power = 0.0, toTakeOff = 0.0;
    std::optional<double> margin;
};
Summary summaryOf(const powerplant::Aircraft& aircraft, const Sortie& sortie) {
    const auto flown = flight::fly(aircraft, sortie);
    Summary out;
    for (const auto& p : flown.phases) {
        out.fuel += p.fuel;
        if (p.knock)
            out.margin = std::min(out.margin.value_or(1e9), p.knock->margin());
    }
    const auto at = [&](Phase phase) -> const flight::PhaseFlown& {
        return flown.phases[static_cast<std::size_t>(phase)];
    };
    out.power = at(Phase::takeOff).point.power.si();
    out.toTakeOff = at(Phase::takeOff).start - at(Phase::start).start;
    return out;
}
Moves between(const Summary& a, const Summary& b) {
    Moves out;
    out.fuel = 0.5 * std::abs(a.fuel - b.fuel) / std::max(0.5 * (a.fuel + b.fuel), 1e-9);
    out.power = 0.5 * std::abs(a.power - b.power) / std::max(0.5 * std::abs(a.power + b.power), 1.0);
    out.toTakeOff = 0.5 * std::abs(a.toTakeOff - b.toTakeOff);
    out.margin = a.margin && b.margin ? 0.5 * std::abs(*a.margin - *b.margin) : 0.0;
    return out;
}

/// The ends of an estimated figure's plausible range, as TOML writes them; nothing for words.
std::optional<std::pair<std::string, std::string>> endsOf(const Estimate& e) {
    double value = 0.0;
    const char* begin = e.text.data();
    const auto [end, wrong] = std::from_chars(begin, begin + e.text.size(), value);
    if (wrong != std::errc() || e.path.starts_with("cockpit.") || e.path.ends_with(".kind"))
        return std::nullopt;
    const std::string unit(end, begin + e.text.size());
    double low = 0.75 * value, high = 1.25 * value;
    if (unit == " °C") {
        low = value - 8;
        high = value + 8;
    } else if (unit == " °F") {
        low = value - 14;
        high = value + 14;
    } else if (e.path.ends_with("flap")) {
        low = std::max(0.0, value - 0.25);
        high = std::min(1.0, value + 0.25);
    } else if (unit == " kt" || unit == " mph" || unit == " km/h" || unit == " cm") {
        low = 0.9 * value;
        high = 1.1 * value;
    } else if (e.path.ends_with("rpm")) {
        low = std::round(0.85 * value);
        high = std::round(1.15 * value);
    }
    const auto written = [&](double v) {
        return unit.empty() ? fmt::format("{:g}", v) : fmt::format("\"{:.4g}{}\"", v, unit);
    };
    return std::pair{written(low), written(high)};
}

/// As it is told: without quotes, a plain number with the unit that its key has.
std::string shown(std::string text, const std::string& path) {
    if (!text.empty() && text.front() != '"')
        if (const auto* range = rangeOf(FileFormat::notes, path); range && range->unit)
            text += " " + std::string(range->unit->symbol);
    std::erase(text, '"');
    return text;
}
/// An estimate that is a plain number and nothing else.
bool isPlain(const std::string& text) {
    double value = 0.0;
    const auto [end, wrong] = std::from_chars(text.data(), text.data() + text.size(), value);
    return wrong == std::errc() && end == text.data() + text.size();
}
} // namespace

double Moves::weight() const {
    return std::max({fuel / actsOnFuel, power / actsOnPower, toTakeOff / actsOnTime, margin / actsOnMargin});
}

std::string Moves::words(const Cockpit& cockpit) const {
    std::string out;
    const auto add = [&](bool counts, const std::string& words) {
        if (counts)
            out += (out.empty() ? "" : ", ") + words;
    };
    add(fuel >= leastPart, fmt::format("fuel ± {:.1f} %", 100 * fuel));
    add(power >= leastPart, fmt::format("take-off power ± {:.1f} %", 100 * power));
    add(toTakeOff >= leastTime, fmt::format("± {} to take-off", formatMinutesSeconds(toTakeOff)));
    add(margin >= leastMargin, fmt::format("detonation margin ± {}", boostText(margin, cockpit)));
    return out;
}

std::string markOfWeight(const Cockpit& cockpit) {
    return fmt::format("{:.0f} % of fuel, {:.0f} % of power, {:.0f} min, {} of margin", 100 * actsOnFuel,
                       100 * actsOnPower, actsOnTime / 60, boostText(actsOnMargin, cockpit));
}

bool Missing::counts() const {
    return notTried == NotTried::no && (moves.fuel >= leastPart || moves.power >= leastPart ||
                                        moves.toTakeOff >= leastTime || moves.margin >= leastMargin);
}

std::string restOf(const std::vector<Missing>& all) {
    std::string out;
    const auto say = [&](auto which, std::string_view one, std::string_view more) {
        if (const auto n = std::count_if(all.begin(), all.end(), which))
            out += fmt::format("{}{} {}.", out.empty() ? "" : " ", n, n == 1 ? one : more);
    };
    say([](const Missing& m) { return m.notTried == NotTried::no && !m.counts(); }, "more moves nothing of this sortie",
        "more move nothing of this sortie");
    say([](const Missing& m) { return m.notTried == NotTried::word; }, "is a word, not a figure",
        "are words, not figures");
    say([](const Missing& m) { return m.notTried == NotTried::refused; },
        "could not be tried: the notes do not hold together at an end of its range",
        "could not be tried: the notes do not hold together at an end of their range");
    say([](const Missing& m) { return m.notTried == NotTried::stopped; }, "was not tried any more",
        "were not tried any more");
    return out;
}

std::vector<Missing> missing(const std::string& notes, const std::string& file, const std::string& variant,
                             const Sortie& sortie, const std::function<bool(int, int)>& progress) {
    const auto base = aircraftOf(notes, file, variant, sortie);
    if (!base)
        return {};
    std::vector<Missing> out;
    for (const auto& e : base->notes.estimated)
        out.push_back({e.path, e.text, e.why, {}, {}, {}, {}});
    if (engine::fuelIsEstimate(base->notes) && powerplant::originOfFuel(*base) != Origin::logged)
        out.push_back({std::string(fuelPath),
                       "as such engines usually burn",
                       "no rating line gives a fuel flow",
                       {},
                       {},
                       {},
                       {}});
    int done = 0;
    bool going = true;
    for (auto& m : out) {
        going = going && (!progress || progress(done++, static_cast<int>(out.size())));
        if (!going) {
            m.notTried = NotTried::stopped;
            continue;
        }
        if (m.path == fuelPath) {
            const auto burning = [&](double factor) {
                powerplant::Learnt learnt;
                learnt.fuel = factor;
                return summaryOf(powerplant::taught(*base, std::vector(base->notes.positions.size(), learnt)), sortie);
            };
            m.low = "7 % less";
            m.high = "7 % more";
            m.moves = between(burning(1 - ourFuel), burning(1 + ourFuel));
            continue;
        }
        const auto ends = endsOf({m.path, m.text, m.why});
        if (!ends) {
            m.notTried = NotTried::word;
            continue;
        }
        std::vector<Summary> flown;
        for (const auto& end : {ends->first, ends->second}) {
            const auto text = withFigure(notes, m.path, end);
            const auto aircraft = text ? aircraftOf(*text, file, variant, sortie) : nullptr;
            // What was put in must have been read, not have come to stand within something else.
            if (aircraft && !isEstimated(aircraft->notes, m.path))
                flown.push_back(summaryOf(*aircraft, sortie));
        }
        if (flown.size() < 2) {
            m.notTried = NotTried::refused;
            continue;
        }
        m.low = shown(ends->first, m.path);
        m.high = shown(ends->second, m.path);
        if (isPlain(m.text))
            m.text = shown(m.text, m.path);
        m.moves = between(flown[0], flown[1]);
    }
    std::stable_sort(out.begin(), out.end(), [](const Missing& a, const Missing& b) {
        return std::pair{a.notTried == NotTried::no, a.moves.weight()} >
               std::pair{b.notTried == NotTried::no, b.moves.weight()};
    });
    return out;
}

} // namespace amber::booklet
