// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/judge.h"
#include "units/text.h"
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

Colour colourOf(const Band& band, double value) {
    if (!std::isfinite(value) || above(value, band.limitHigh) || below(value, band.limitLow))
        return Colour::red;
    if (above(value, band.normalHigh) || below(value, band.normalLow))
        return Colour::amber;
    return Colour::normal;
}

Judgement judge(const TypeNotes& notes, Gauge gauge, Phase phase, double value) {
    const auto found = notes.gauges.find(gauge);
    const auto& name = nameOf(gauge);
    if (found == notes.gauges.end())
        return {std::isfinite(value) ? Colour::normal : Colour::red,
                fmt::format("The notes give no limits for {}.", name.key)};
    const Band& band = found->second.in(phase);
    const UnitSpec& unit = notes.unitOf(gauge);
    // A figure a hair past its edge is told with as many decimals as show it.
    const int decimals = decimalsBeside(band, value, unit);
    const auto shown = [&](double si) { return format(si, unit, decimals); };
    Judgement out;
    out.colour = colourOf(band, value);
    const std::string subject = fmt::format("{} {}", name.title, shown(value));
    const auto stage = titleOf(phase);
    if (!std::isfinite(value))
        out.sentence = fmt::format("{} cannot be read.", name.title);
    else if (above(value, band.limitHigh))
        out.sentence = fmt::format("{} is over the limit of {} for {}.", subject, shown(*band.limitHigh), stage);
    else if (below(value, band.limitLow))
        out.sentence = fmt::format("{} is under the least of {} for {}.", subject, shown(*band.limitLow), stage);
    else if (above(value, band.normalHigh))
        out.sentence =
            fmt::format("{} is above the normal {}{}{}.", subject, shown(*band.normalHigh),
                        band.limitHigh ? "; the limit is " + shown(*band.limitHigh) : "",
                        band.amberFor ? fmt::format(", {} allowed", formatMinutesSeconds(band.amberFor->si())) : "");
    else if (below(value, band.normalLow))
        out.sentence = fmt::format("{} is below the normal {}{}.", subject, shown(*band.normalLow),
                                   band.limitLow ? "; the least is " + shown(*band.limitLow) : "");
    else if (band.normalLow && band.normalHigh)
        out.sentence = fmt::format("{} is within the normal {} to {}.", subject, formatValue(*band.normalLow, unit),
                                   shown(*band.normalHigh));
    else
        out.sentence = fmt::format("{} is within its limits.", subject);
    return out;
}

Judgement judgeReading(std::string_view what, const Band& band, const UnitSpec& unit, double value, bool stopper) {
    Judgement out;
    const int decimals = decimalsBeside(band, value, unit);
    const auto shown = [&](double si) { return format(si, unit, decimals); };
    if (!std::isfinite(value)) {
        out.colour = Colour::red;
        out.sentence = fmt::format("{} cannot be read.", what);
        return out;
    }
    out.colour = colourOf(band, value);
    if (out.colour == Colour::red && !stopper)
        out.colour = Colour::amber;
    const std::string stops = out.colour == Colour::red ? "; it stops the flight" : "";
    if (below(value, band.limitLow))
        out.sentence =
            fmt::format("{} {} is under the least of {}{}.", what, shown(value), shown(*band.limitLow), stops);
    else if (above(value, band.limitHigh))
        out.sentence =
            fmt::format("{} {} is over the most of {}{}.", what, shown(value), shown(*band.limitHigh), stops);
    else if (below(value, band.normalLow))
        out.sentence = fmt::format("{} {} is short of {} by {}.", what, shown(value), shown(*band.normalLow),
                                   shown(unit.offset + *band.normalLow - value));
    else if (above(value, band.normalHigh))
        out.sentence = fmt::format("{} {} is over {} by {}.", what, shown(value), shown(*band.normalHigh),
                                   shown(unit.offset + value - *band.normalHigh));
    else
        out.sentence = fmt::format("{} {} is as wanted.", what, shown(value));
    return out;
}

Judgement judgeLook(std::string_view what, std::string_view defect, bool stopper) {
    if (defect.empty())
        return {Colour::normal, fmt::format("{}: in order.", what)};
    return {stopper ? Colour::red : Colour::amber,
            fmt::format("{}: {}{}.", what, defect, stopper ? "; it stops the flight" : "")};
}

} // namespace amber::watch
