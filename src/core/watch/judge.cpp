// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/judge.h"
#include "units/text.h"
#include "watch/maker.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
// A figure that equals the limit to the last place the arithmetic keeps is on it, not past it.
constexpr double hair = 1e-9;
bool above(double value, std::optional<double> edge) {
    return edge && value > *edge * (1 + hair);
}
bool below(double value, std::optional<double> edge) {
    return edge && value < *edge * (1 - hair);
}
/// Decimals that tell a figure from the edge it has passed.
int decimalsBeside(const Band& band, double value, const UnitSpec& unit) {
    for (const auto& edge : {band.limitHigh, band.normalHigh})
        if (above(value, edge))
            return decimalsToTell(value, *edge, unit);
    for (const auto& edge : {band.limitLow, band.normalLow})
        if (below(value, edge))
            return decimalsToTell(value, *edge, unit);
    return -1;
}
} // namespace

double asRead(double value, const UnitSpec& unit) {
    const double step = unit.scale * std::pow(10.0, -unit.decimals);
    return unit.offset + std::round((value - unit.offset) / step) * step;
}

double asRead(const TypeNotes& notes, Gauge gauge, double value) {
    constexpr double tens = 10.0 / 60.0;
    return gauge == Gauge::rpm ? std::round(value / tens) * tens : asRead(value, notes.unitOf(gauge));
}

Colour colourOf(const Band& band, double value) {
    if (!std::isfinite(value) || above(value, band.limitHigh) || below(value, band.limitLow))
        return Colour::red;
    if (above(value, band.normalHigh) || below(value, band.normalLow))
        return Colour::amber;
    return Colour::normal;
}

Verdict judge(const TypeNotes& notes, Gauge gauge, Phase phase, double value, std::string_view also) {
    const auto found = notes.gauges.find(gauge);
    const auto& name = nameOf(gauge);
    if (found == notes.gauges.end())
        return Maker::verdict(std::isfinite(value) ? Colour::normal : Colour::red,
                              fmt::format("The notes give no limits for {}.", name.key));
    const Band& band = found->second.in(phase);
    const UnitSpec& unit = notes.unitOf(gauge);
    // A figure a hair past its edge is told with as many decimals as show it.
    const int decimals = decimalsBeside(band, value, unit);
    const auto shown = [&](double si) { return format(si, unit, decimals); };
    std::string sentence;
    const std::string subject = fmt::format("{} {}", name.title, shown(value));
    const auto stage = titleOf(phase);
    if (!std::isfinite(value))
        sentence = fmt::format("{} cannot be read.", name.title);
    else if (above(value, band.limitHigh))
        sentence = fmt::format("{}, limit {} for {}.", subject, shown(*band.limitHigh), stage);
    else if (below(value, band.limitLow))
        sentence = fmt::format("{}, minimum {} for {}.", subject, shown(*band.limitLow), stage);
    else if (above(value, band.normalHigh))
        sentence =
            fmt::format("{}, normal to {}{}{}.", subject, shown(*band.normalHigh),
                        band.limitHigh ? ", limit " + shown(*band.limitHigh) : "",
                        band.amberFor ? fmt::format(", {} allowed", formatMinutesSeconds(band.amberFor->si())) : "");
    else if (below(value, band.normalLow))
        sentence = fmt::format("{}, normal from {}{}.", subject, shown(*band.normalLow),
                               band.limitLow ? ", minimum " + shown(*band.limitLow) : "");
    else if (band.normalLow && band.normalHigh)
        sentence = fmt::format("{} is within the normal {} to {}.", subject, formatValue(*band.normalLow, unit),
                               shown(*band.normalHigh));
    else
        sentence = fmt::format("{} is within its limits.", subject);
    const Colour colour = colourOf(band, value);
    if (colour != Colour::normal)
        sentence += also;
    return Maker::verdict(colour, std::move(sentence));
}

Verdict judgeReading(std::string_view what, const Band& band, const UnitSpec& unit, double value, bool stopper) {
    const int decimals = decimalsBeside(band, value, unit);
    const auto shown = [&](double si) { return format(si, unit, decimals); };
    if (!std::isfinite(value))
        return Maker::red(fmt::format("{} cannot be read.", what));
    Colour colour = colourOf(band, value);
    if (colour == Colour::red && !stopper)
        colour = Colour::amber;
    const std::string stops = colour == Colour::red ? "; it stops the flight" : "";
    std::string sentence;
    if (below(value, band.limitLow))
        sentence = fmt::format("{} {}, min {}{}.", what, shown(value), shown(*band.limitLow), stops);
    else if (above(value, band.limitHigh))
        sentence = fmt::format("{} {}, max {}{}.", what, shown(value), shown(*band.limitHigh), stops);
    else if (below(value, band.normalLow))
        sentence = fmt::format("{} {}, normal from {}: {} short.", what, shown(value), shown(*band.normalLow),
                               shown(unit.offset + *band.normalLow - value));
    else if (above(value, band.normalHigh))
        sentence = fmt::format("{} {}, normal to {}: {} over.", what, shown(value), shown(*band.normalHigh),
                               shown(unit.offset + value - *band.normalHigh));
    else
        sentence = fmt::format("{} {}: normal.", what, shown(value));
    return Maker::verdict(colour, std::move(sentence));
}

Verdict judgeLook(std::string_view what, std::string_view defect, bool stopper) {
    if (defect.empty())
        return Maker::normal(fmt::format("{}: serviceable.", what));
    return Maker::verdict(stopper ? Colour::red : Colour::amber,
                          fmt::format("{}: {}{}.", what, defect, stopper ? "; it stops the flight" : ""));
}

std::optional<double> roomUnderLimit(const TypeNotes& notes, Gauge gauge, Phase phase, double valueSi) {
    const auto found = notes.gauges.find(gauge);
    const auto limit = found == notes.gauges.end() ? std::nullopt : found->second.in(phase).limitHigh;
    return limit ? std::optional(*limit - valueSi) : std::nullopt;
}

} // namespace amber::watch
