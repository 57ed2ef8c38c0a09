// SPDX-License-Identifier: GPL-3.0-or-later
#include "season.h"
#include "hand/careful_hand.h"
#include "plan/plan.h"
#include "powerplant/generator.h"
#include "record/planned.h"
#include "record/read_lines.h"
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::bench {
namespace {

constexpr std::int64_t firstDay = 1'744'624'800'000; // ms since 1970: 14 April 2025, ten in the morning
constexpr std::int64_t day = 86'400'000;
constexpr powerplant::Milliseconds settled = 60'000;
constexpr std::array phases{Phase::climb, Phase::cruise, Phase::letDown};

/// What a needle is read to, SI.
double widthOf(const record::ReadLine& line) {
    switch (record::whatOf(line.what)->dimension.value_or(Dimension::duration)) {
    case Dimension::temperature:
        return 2.0;
    case Dimension::rotation:
        return 20.0 / 60.0;
    case Dimension::manifoldPressure:
        return 0.5 * 3386.39;
    case Dimension::pressure:
        return 6894.76;
    default:
        return 0.0;
    }
}

/// What a needle did in a phase.
struct Seen {
    double highest = -1e300, lowest = 1e300, last = 0.0;
};

} // namespace

record::Log season(const flight::LoadedSortie& base, const SeasonSetting& setting) {
    record::Log out;
    std::uint64_t clock = 0;
    const auto draw = [&](std::uint64_t what) { return powerplant::uniformAt(setting.seed, what, ++clock); };
    const auto about = [&](std::uint64_t what) { return draw(what) + draw(what) + draw(what) - 1.5; }; // bell, sd 0.5
    const auto ids = record::idsFrom([&] { return static_cast<std::uint64_t>(draw(9) * 1.8e19); });
    std::uint64_t second = 0;
    const auto more = [&](std::uint64_t what) { return powerplant::uniformAt(setting.seed + 7919, what, ++second); };
    const auto moreIds = record::idsFrom([&] { return static_cast<std::uint64_t>(more(19) * 1.8e19); });
    const auto& n = base.aircraft->notes;
    std::int64_t when = firstDay;
    for (int i = 0; i < setting.runs; ++i) {
        when += static_cast<std::int64_t>(draw(1) * 14.0 + 3.0) * day + static_cast<std::int64_t>(about(1) * 3'600'000);
        Sortie s = *base.sortie;
        const double season = std::cos(2.0 * M_PI * (static_cast<double>(when % (365 * day)) / day - 200.0) / 365.0);
        s.day.oat = Temperature::si(273.15 + std::round(10.0 + 9.0 * season + 8.0 * about(2)));
        s.day.dewPoint = Temperature::si(s.day.oat.si() - std::round(3.0 + 6.0 * draw(2)));
        s.day.qnh = Pressure::si(101'300.0 + 100.0 * std::round(20.0 * about(2)));
        s.flight.distance = Distance::of(160.0, units::nauticalMile);
        s.flight.legs.clear();
        s.flight.over.clear();
        const auto plan = plan::makePlan(*base.aircraft, s);
        std::vector<powerplant::Condition> conditions(n.engineCount());
        for (const auto& f : setting.faults)
            if (i > f.from)
                conditions[f.engine].faults.push_back(
                    {f.fault, f.most * (i - f.from) / (setting.runs - 1.0 - f.from), 0});
        for (std::size_t e = 0; e < setting.differs.size(); ++e)
            conditions[e].learnt = setting.differs[e];
        std::map<std::pair<Phase, Gauge>, std::vector<Seen>> seen;
        Phase phase = Phase::walkRound;
        powerplant::Milliseconds began = 0;
        const auto flown = hand::doDrill(
            *base.aircraft, s, plan.flown, hand::byThePlansClock,
            [&](const hand::Moment& m) {
                if (m.phase != phase)
                    began = m.state.now;
                phase = m.phase;
                // Nobody reads needles that are still being set.
                if (m.state.now % 1000 != 0 || m.state.now - began < settled ||
                    std::find(phases.begin(), phases.end(), m.phase) == phases.end())
                    return;
                for (const auto& row : gaugeRegister)
                    for (std::size_t e = 0; e < m.readings.engines.size(); ++e) {
                        auto& of = seen[{m.phase, row.gauge}];
                        of.resize(m.readings.engines.size());
                        const double v = m.readings.engines[e][row.gauge];
                        if (std::isnan(v))
                            continue;
                        of[e].highest = std::max(of[e].highest, v);
                        of[e].lowest = std::min(of[e].lowest, v);
                        of[e].last = v;
                    }
            },
            conditions);
        record::Run run;
        run.id = ids(when);
        run.airframe = s.airframe.registration;
        run.type = n.name;
        run.title = "About the field";
        run.began = when;
        const double warmer = 1.5 * about(3) * 2.0;
        for (const Phase of : phases)
            for (const auto& line : record::readLines(plan, n, of))
                for (std::size_t e = 0; e < n.engineCount(); ++e) {
                    const bool missing = draw(4) < 1.0 / 8, looked = draw(4) < 0.1, slip = draw(4) < 1.0 / 60;
                    const double blur = draw(5) - 0.5, side = draw(5) < 0.5 ? -1.0 : 1.0;
                    const double width = widthOf(line);
                    const auto found = line.gauge ? seen.find({of, *line.gauge}) : seen.end();
                    if (missing || width == 0.0 || found == seen.end() ||
                        found->second[e].lowest > found->second[e].highest)
                        continue;
                    const Seen& it = found->second[e];
                    double value = line.moment.starts_with("highest")  ? it.highest
                                   : line.moment.starts_with("lowest") ? it.lowest
                                                                       : it.last;
                    const bool temperature = record::whatOf(line.what)->dimension == Dimension::temperature;
                    if (temperature)
                        value += warmer;
                    const double zero = temperature ? 273.15 : 0.0;
                    value = zero + width * std::round((value - zero) / width + 0.6 * blur);
                    if (slip)
                        value += 10.0 * side * (temperature ? 1.0 : width / 2.0);
                    record::Entry entry;
                    const auto& p = plan[of];
                    entry.at = entry.entered = when + static_cast<std::int64_t>(1000.0 * (p.start + 0.8 * p.duration));
                    entry.id = ids(entry.at);
                    entry.run = run.id;
                    entry.phase = of;
                    entry.engine = n.positions[e].id;
                    entry.what = line.what;
                    entry.planned = line.planned;
                    entry.kind = looked ? record::Entry::Kind::looked : record::Entry::Kind::figure;
                    entry.value = looked ? 0.0 : value;
                    if (record::wrongWith(entry).empty())
                        out.entries.emplace(entry.id, entry);
                }
        // Strokes, tries, and what filled her up: of draws of their own.
        const auto keep = [&](std::string_view what, Phase of, const std::string& engine, double at, double value,
                              std::optional<double> planned) {
            record::Entry entry;
            entry.at = entry.entered = when + static_cast<std::int64_t>(1000.0 * at);
            entry.id = moreIds(entry.at);
            entry.run = run.id;
            entry.phase = of;
            entry.engine = engine;
            entry.what = what;
            entry.planned = planned;
            entry.value = value;
            if (record::wrongWith(entry).empty())
                out.entries.emplace(entry.id, entry);
        };
        for (std::size_t e = 0; e < n.engineCount(); ++e) {
            const auto dose = record::unlearntOf(plan, Phase::start, "prime", n.positions[e].id);
            if (!dose || *dose <= 0.0)
                continue;
            const double wants = *dose * (e < setting.differs.size() ? setting.differs[e].primeDose : 1.0);
            const double given = std::max(1.0, std::round(wants + 1.2 * (more(11) - 0.5)));
            keep("prime", Phase::start, n.positions[e].id, plan[Phase::start].start, given, dose);
            keep("tries", Phase::start, n.positions[e].id, plan[Phase::start].start + 60.0,
                 std::abs(given - wants) < 1.0 ? 1.0 : 2.0, {});
        }
        constexpr double gallon = 0.003785411784; // m³: what a pump is read to
        keep("fuel-added", Phase::writeUp, {}, plan.flown.totalTime() + 1800.0,
             gallon * std::round(flown.fuel / gallon * (1.0 + 0.04 * (more(12) - 0.5))),
             record::unlearntOf(plan, Phase::writeUp, "fuel-added"));
        keep("at-take-off", Phase::takeOff, {}, plan[Phase::takeOff].start, plan[Phase::takeOff].start, {});
        keep("at-stop", Phase::stop, {}, plan.flown.totalTime(), plan.flown.totalTime(), {});
        for (const auto& engine : plan.flown.engines) {
            keep("at-first-fire", Phase::start, engine.engine, engine.firedAt, engine.firedAt, {});
            keep("oil-added", Phase::writeUp, engine.engine, plan.flown.totalTime() + 1800.0,
                 gallon * 0.25 * std::round(6.0 + 4.0 * more(13)), {});
        }
        out.runs.emplace(run.id, run);
    }
    return out;
}

} // namespace amber::bench
