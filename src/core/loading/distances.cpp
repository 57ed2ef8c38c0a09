// SPDX-License-Identifier: GPL-3.0-or-later
#include "loading/distances.h"
#include "air/wind.h"
#include "units/text.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::loading {
namespace {
constexpr double tenKnots = 10.0 * 1852.0 / 3600.0;

/// Place between two entries of an axis; nothing outside.
std::optional<std::pair<std::size_t, double>> between(const std::vector<double>& axis, double value) {
    constexpr double hair = 1e-9;
    if (axis.empty())
        return std::pair<std::size_t, double>{0, 0.0};
    if (value < axis.front() - hair || value > axis.back() + hair)
        return std::nullopt;
    if (axis.size() == 1)
        return std::pair<std::size_t, double>{0, 0.0};
    std::size_t i = 1;
    while (i + 1 < axis.size() && axis[i] < value)
        ++i;
    return std::pair<std::size_t, double>{i - 1, (value - axis[i - 1]) / (axis[i] - axis[i - 1])};
}
} // namespace

std::optional<double> entryOf(const PerformanceTable& t, const Cockpit& c, double weight, double height,
                              double temperature, std::string& why) {
    const auto w = between(t.weights, weight), h = between(t.heights, height), k = between(t.temperatures, temperature);
    const auto ends = [](const std::vector<double>& axis, const UnitSpec& unit) {
        return fmt::format("the table goes from {} to {}", format(axis.front(), unit), format(axis.back(), unit));
    };
    if (!w)
        why = fmt::format("{}: {}", format(weight, *c.weight), ends(t.weights, *c.weight));
    else if (!h)
        why = fmt::format("pressure altitude {}: {}", format(height, *c.height), ends(t.heights, *c.height));
    else if (!k)
        why = fmt::format("{}: {}", format(temperature, *c.temperature), ends(t.temperatures, *c.temperature));
    if (!w || !h || !k)
        return std::nullopt;
    const std::size_t nh = t.heights.size(), nk = t.temperatures.size();
    double sum = 0.0;
    for (std::size_t a = 0; a < 2; ++a)
        for (std::size_t b = 0; b < 2; ++b)
            for (std::size_t d = 0; d < 2; ++d) {
                const double share = (a ? w->second : 1.0 - w->second) * (b ? h->second : 1.0 - h->second) *
                                     (d ? k->second : 1.0 - k->second);
                if (share <= 0.0)
                    continue;
                sum += share * t.entries[((w->first + a) * nh + h->first + b) * nk + k->first + d];
            }
    return sum;
}

std::vector<DistanceToday> distancesToday(const TypeNotes& n, const Sortie& s, Mass takeOff, Mass landing) {
    std::vector<DistanceToday> out;
    for (const auto& t : n.tables) {
        DistanceToday d;
        d.id = t.id;
        d.name = t.name;
        d.unit = t.unit;
        d.dimension = t.dimension;
        const bool down = t.id == "landing";
        // Landing elsewhere: the standard fall of temperature with height, and today's QNH.
        const Length field = down ? s.flight.toElevation : s.day.elevation;
        const Length altitude = s.day.pressureAltitudeOf(field);
        const double temperature = down ? s.day.at(altitude).temperature.si() : s.day.oat.si();
        d.entry = entryOf(t, n.cockpit, (down ? landing : takeOff).si(), altitude.si(), temperature, d.why);
        if (d.entry) {
            double value = *d.entry;
            const auto factor = [&](double by, const std::string& what) {
                if (std::abs(by - 1.0) < 1e-9)
                    return;
                value *= by;
                d.why += fmt::format("{}{} × {:.2f}", d.why.empty() ? "" : ", ", what, by);
            };
            if (s.strip.runway && t.dimension == Dimension::length) {
                const double head = -air::onTrack(s.day.wind, *s.strip.runway).along;
                factor(std::pow(head >= 0 ? t.headwind : t.tailwind, std::abs(head) / tenKnots),
                       fmt::format("{} {}", head >= 0 ? "head wind" : "tail wind",
                                   format(std::abs(head), *units::knot.spec)));
            }
            if (t.dimension == Dimension::length) {
                if (s.strip.grass)
                    factor(t.grass, "grass");
                if (s.strip.wet)
                    factor(t.wet, "wet");
                factor(std::pow(t.upslope, down ? -s.strip.slope : s.strip.slope), "slope");
            }
            d.value = value;
            if (d.why.empty())
                d.why =
                    t.dimension == Dimension::mass ? "for today's height and air" : "still air, hard, dry and level";
        }
        out.push_back(std::move(d));
    }
    return out;
}

} // namespace amber::loading
