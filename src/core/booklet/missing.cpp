// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/missing.h"
#include "booklet/with_figure.h"
#include "engine/calibration.h"
#include "files/key_ranges.h"
#include "flight/flown.h"
#include "reading/notes_reader.h"
#include "units/ascii.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace amber::booklet {
namespace {
constexpr double ourFuel =
    0.07; // how far our own consumption may be off: what airframes of one type differ by, and the fit
constexpr std::string_view fuelPath = "rating.*.fuel";

std::optional<powerplant::Aircraft> aircraftOf(const std::string& text, const std::string& file,
                                               const std::string& variant) {
    auto reading = readNotes(text, file, variant);
    if (!reading.notes)
        return std::nullopt;
    Problems problems;
    return powerplant::assemble(std::move(*reading.notes), problems);
}

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
    out.minutes = 0.5 * std::abs(a.toTakeOff - b.toTakeOff);
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
    return std::max({fuel / 0.02, power / 0.01, minutes / 120.0, margin / 1693.0});
}

std::string Moves::words() const {
    std::string out;
    const auto add = [&](bool counts, const std::string& words) {
        if (counts)
            out += (out.empty() ? "" : ", ") + words;
    };
    add(fuel >= 0.0005, fmt::format("fuel ± {:.1f} %", 100 * fuel));
    add(power >= 0.0005, fmt::format("take-off power ± {:.1f} %", 100 * power));
    add(minutes >= 3, fmt::format("± {:.0f}:{:02.0f} to take-off", std::floor(std::round(minutes) / 60),
                                  std::fmod(std::round(minutes), 60)));
    add(margin >= 50, fmt::format("detonation margin ± {:.1f} kPa", margin / 1e3));
    return out;
}

std::vector<Missing> missing(const std::string& notes, const std::string& file, const std::string& variant,
                             const Sortie& sortie, const std::function<bool(int, int)>& progress) {
    const auto base = aircraftOf(notes, file, variant);
    if (!base)
        return {};
    std::vector<Missing> out;
    for (const auto& e : base->notes.estimated)
        out.push_back({e.path, e.text, e.why, {}, {}, {}, {}});
    if (engine::fuelIsEstimate(base->notes))
        out.push_back(
            {std::string(fuelPath), "our own consumption", "no rating line gives a fuel flow", {}, {}, {}, {}});
    int done = 0;
    bool going = true;
    for (auto& m : out) {
        going = going && (!progress || progress(done++, static_cast<int>(out.size())));
        if (!going) {
            m.notTried = "stopped";
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
            m.notTried = "a word, not a figure";
            continue;
        }
        std::vector<Summary> flown;
        for (const auto& end : {ends->first, ends->second}) {
            const auto text = withFigure(notes, m.path, end);
            auto aircraft = text ? aircraftOf(*text, file, variant) : std::nullopt;
            if (aircraft)
                flown.push_back(summaryOf(*aircraft, sortie));
        }
        if (flown.size() < 2) {
            m.notTried = "the notes do not hold together at an end of its range";
            continue;
        }
        m.low = shown(ends->first, m.path);
        m.high = shown(ends->second, m.path);
        if (isPlain(m.text))
            m.text = shown(m.text, m.path);
        m.moves = between(flown[0], flown[1]);
    }
    std::stable_sort(out.begin(), out.end(), [](const Missing& a, const Missing& b) {
        return std::pair{a.notTried.empty(), a.moves.weight()} > std::pair{b.notTried.empty(), b.moves.weight()};
    });
    return out;
}

} // namespace amber::booklet
