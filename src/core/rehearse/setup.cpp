// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/setup.h"
#include "files/csv.h"
#include "files/table_reader.h"
#include "powerplant/engine.h"
#include "powerplant/generator.h"
#include "symptoms/patterns.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::rehearse {
namespace {
using powerplant::shortStep;
constexpr double latestTime = 12 * 3600.0; // s

std::optional<int> engineCalled(std::string_view id, const TypeNotes& n) {
    for (std::size_t i = 0; i < n.positions.size(); ++i)
        if (n.positions[i].id == id)
            return static_cast<int>(i);
    return std::nullopt;
}
/// "90", "12:30", "5 min".
std::optional<double> timeIn(const std::string& text) {
    if (const auto colon = text.find(':'); colon != std::string::npos) {
        std::string_view rest;
        const auto minutes = readNumber(std::string_view(text).substr(0, colon), rest);
        const bool whole = rest.empty();
        const auto seconds = readNumber(std::string_view(text).substr(colon + 1), rest);
        if (!minutes || !seconds || !whole || !rest.empty() || minutes.value() < 0 || seconds.value() < 0 ||
            seconds.value() >= 60)
            return std::nullopt;
        return minutes.value() * 60 + seconds.value();
    }
    const auto read = readQuantity(Dimension::duration, text, units::second.spec);
    return read ? std::optional(read.value().si) : std::nullopt;
}
} // namespace

std::optional<Setup> readSetup(std::string_view text, const std::string& file, const TypeNotes& n, Problems& problems) {
    const std::size_t before = problems.size();
    const auto root = document::parse(text, file, problems);
    if (!root)
        return std::nullopt;
    Setup out;
    document::TableReader t(*root, "", file, problems, FileFormat::rehearsal);
    t.number("format", true);
    if (auto r = t.table("rehearsal", true)) {
        out.title = r->text("title");
        if (const auto seed = r->number("seed")) {
            if (*seed >= 0 && *seed == std::floor(*seed))
                out.seed = static_cast<std::uint64_t>(*seed);
            else
                r->problem(r->line("seed"), fmt::format("rehearsal.seed: {} is no whole number from 0", *seed),
                           "Write one, as 42");
        }
        std::vector<std::string_view> phases;
        for (std::size_t i = 0; i < plannedPhases; ++i)
            phases.push_back(phaseNames[i].key);
        if (const auto from = r->word("from", phases))
            out.from = phaseNames[*from].phase;
        out.ice = r->flag("ice").value_or(true);
        r->finish();
    }
    for (auto& f : t.tables("fault")) {
        Trap trap;
        std::vector<std::string_view> faults, phases;
        for (const auto& row : powerplant::faultRegister)
            faults.push_back(row.key);
        for (std::size_t i = 0; i < plannedPhases; ++i)
            phases.push_back(phaseNames[i].key);
        if (const auto which = f.word("fault", faults, true))
            trap.fault = powerplant::faultRegister[*which].fault;
        trap.severity = f.number("severity").value_or(1.0);
        trap.chance = f.number("chance").value_or(1.0);
        if (const std::string engine = f.text("engine"); !engine.empty()) {
            if (const auto found = engineCalled(engine, n))
                trap.engine = *found;
            else
                f.problem(f.line("engine"), fmt::format("“{}” is no engine of the notes", engine),
                          "Write the id of a position; without it one is drawn");
        }
        if (const auto phase = f.word("phase", phases))
            trap.phase = phaseNames[*phase].phase;
        if (const auto at = f.quantity<Dimension::duration>("at", true, units::second.spec))
            trap.earliest = trap.latest = at->si();
        if (const auto until = f.quantity<Dimension::duration>("until", false, units::second.spec)) {
            trap.latest = until->si();
            if (trap.latest < trap.earliest)
                f.problem(f.line("until"), "until is before at", "Write the latest time; at is the earliest");
        }
        f.finish();
        out.traps.push_back(trap);
    }
    t.finish();
    return problems.size() > before ? std::nullopt : std::optional(out);
}

Result<Trap> readTrap(std::string_view text, const TypeNotes& n) {
    const auto sign = text.find('@');
    if (sign == std::string_view::npos)
        return Failure{fmt::format("“{}” says no time: write fault@time, as oil-pump@120", text)};
    Trap trap;
    std::string words(csv::trimmed(text.substr(0, sign))), when(csv::trimmed(text.substr(sign + 1)));
    bool named = false;
    while (!words.empty()) {
        const auto gap = words.find(' ');
        const std::string word = words.substr(0, gap);
        words = gap == std::string::npos ? "" : std::string(csv::trimmed(std::string_view(words).substr(gap)));
        std::string_view rest;
        const auto number = readNumber(word, rest);
        if (!named) {
            const auto fault = powerplant::faultFromKey(word);
            if (!fault)
                return Failure{fmt::format("“{}” is no fault; docs/formats/trace.md lists them", word)};
            trap.fault = *fault;
            named = true;
        } else if (const auto engine = engineCalled(word, n))
            trap.engine = *engine;
        else if (number && rest.empty() && number.value() >= 0 && number.value() <= 1)
            trap.severity = number.value();
        else
            return Failure{fmt::format("“{}” is neither an engine nor a severity from 0 to 1", word)};
    }
    if (!named)
        return Failure{"no fault is named before @"};
    if (const auto plus = when.find('+'); plus != std::string::npos || phaseFromKey(when)) {
        const auto phase = phaseFromKey(csv::trimmed(std::string_view(when).substr(0, plus)));
        if (!phase || static_cast<std::size_t>(*phase) >= plannedPhases)
            return Failure{fmt::format("“{}” is no phase that is flown", when.substr(0, plus))};
        trap.phase = *phase;
        when = plus == std::string::npos ? "0" : std::string(csv::trimmed(std::string_view(when).substr(plus + 1)));
    }
    const auto at = timeIn(when);
    if (!at || *at < 0 || *at > latestTime)
        return Failure{fmt::format("“{}” is no time: write seconds, 12:30, or climb+40", when)};
    trap.earliest = trap.latest = *at;
    return trap;
}

Trap oneByChance(const TypeNotes& notes, Phase from, std::uint64_t seed) {
    constexpr double soonest = 15.0, latest = 150.0; // s of its phase
    using powerplant::Fault;
    const auto ofTheStart = [](Fault f) {
        return f == Fault::starterStuck || f == Fault::hydraulicLock || f == Fault::noSpark;
    };
    std::vector<Fault> can;
    for (const auto& pattern : trouble::patternsFor(notes))
        if (pattern.fault && (from <= Phase::start || !ofTheStart(*pattern.fault)))
            can.push_back(*pattern.fault);
    const auto draw = [&](std::uint64_t what, std::size_t among) {
        return std::min(among - 1, static_cast<std::size_t>(powerplant::uniformAt(seed, 1'000 + what, 0) *
                                                            static_cast<double>(among)));
    };
    Trap out;
    out.fault = can[draw(0, can.size())];
    const auto first = static_cast<std::size_t>(std::max(from, Phase::start)),
               last = std::max(first, static_cast<std::size_t>(Phase::letDown));
    out.phase = ofTheStart(out.fault) ? Phase::start : static_cast<Phase>(first + draw(1, last - first + 1));
    out.earliest = soonest;
    out.latest = latest;
    return out;
}

Drawn drawn(const Trap& trap, std::size_t index, std::uint64_t seed, std::size_t engines) {
    const auto draw = [&](std::uint64_t what) { return powerplant::uniformAt(seed, 8 * index + what, 0); };
    Drawn out;
    out.comes = trap.chance >= 1.0 || draw(1) < trap.chance;
    out.engine = trap.engine >= 0
                     ? static_cast<std::size_t>(trap.engine)
                     : std::min(engines - 1, static_cast<std::size_t>(draw(2) * static_cast<double>(engines)));
    const double at = trap.earliest + (trap.latest - trap.earliest) * draw(3);
    out.after = static_cast<Milliseconds>(std::llround(at * 10.0)) * shortStep;
    return out;
}

} // namespace amber::rehearse
