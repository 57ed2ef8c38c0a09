// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/generator.h"
#include "script/script.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::powerplant {
namespace {
constexpr double widest = 0.03; // of a needle's value, either way, that the roughest engine shakes it

std::string words(const Signs& g) {
    std::string out;
    const auto add = [&](std::string_view word) {
        if (!word.empty())
            out += (out.empty() ? "" : "; ") + std::string(word);
    };
    if (g.sound != Sound::even && g.sound != Sound::silent)
        add(nameOf(g.sound));
    add(nameOf(g.smoke));
    add(nameOf(g.smell));
    add(nameOf(g.cowl));
    if (g.propellerLeverDead)
        add("propeller lever dead");
    if (g.oneHeadCold)
        add("one head cold");
    return out;
}
std::string number(double value) {
    return std::isfinite(value) ? fmt::format("{:.6g}", value) : std::string();
}
} // namespace

AircraftReadings trembling(AircraftReadings readings, std::uint64_t seed, Milliseconds now) {
    for (std::size_t i = 0; i < readings.engines.size(); ++i) {
        auto& engine = readings.engines[i];
        if (engine.signs.shake <= 0)
            continue;
        for (const auto& row : gaugeRegister)
            if (!isOfAircraft(row.gauge) && engine.has(row.gauge) && row.dimension != Dimension::temperature) {
                const auto what = (i << 8U) | static_cast<std::uint64_t>(row.gauge);
                engine[row.gauge] *= 1.0 + widest * engine.signs.shake *
                                               (2.0 * uniformAt(seed, what, static_cast<std::uint64_t>(now)) - 1.0);
            }
    }
    return readings;
}

std::string traceHeader(const Powerplant& powerplant) {
    std::string out = "time_s";
    for (const auto& row : gaugeRegister)
        if (isOfAircraft(row.gauge))
            out += fmt::format(",{}", row.exported);
    out += ",rate_m_s,distance_m,yaw,battery_A,battery_Ah";
    for (const auto& position : powerplant.aircraft().notes.positions) {
        for (const auto& row : gaugeRegister)
            if (!isOfAircraft(row.gauge))
                out += fmt::format(",{}.{}", position.id, row.exported);
        out += fmt::format(",{0}.shake,{0}.signs", position.id);
    }
    return out + "\n";
}

std::string traceLine(const Powerplant&, const AircraftState& state, const AircraftReadings& readings) {
    std::string out = fmt::format("{:.1f}", static_cast<double>(state.now) / 1000.0);
    for (const auto& row : gaugeRegister)
        if (isOfAircraft(row.gauge))
            out += "," + number((readings.engines.front()[row.gauge] - row.exportZero) / row.exportScale);
    out += fmt::format(",{:.4g},{:.6g},{:.4g},{:.4g},{:.6g}", state.rate, state.distance, readings.yaw,
                       readings.amperes, state.charge);
    for (const auto& engine : readings.engines) {
        for (const auto& row : gaugeRegister)
            if (!isOfAircraft(row.gauge))
                out += "," + number((engine[row.gauge] - row.exportZero) / row.exportScale);
        out += fmt::format(",{:.2f},{}", engine.signs.shake, words(engine.signs));
    }
    return out + "\n";
}

} // namespace amber::powerplant
