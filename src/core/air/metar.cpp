// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/metar.h"
#include "units/ascii.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::air {
namespace {
constexpr std::size_t longestMetar = 4096;

/// Matches a group against a picture: '9' a digit, 'A' a capital letter, anything else itself.
bool looksLike(std::string_view group, std::string_view picture) {
    return group.size() == picture.size() &&
           std::equal(group.begin(), group.end(), picture.begin(), [](char c, char p) {
               if (p == '9')
                   return c >= '0' && c <= '9';
               if (p == 'A')
                   return c >= 'A' && c <= 'Z';
               return c == p;
           });
}

int digits(std::string_view text) {
    int value = 0;
    for (const char c : text)
        value = value * 10 + (c - '0');
    return value;
}

bool allDigits(std::string_view text) {
    return !text.empty() && std::all_of(text.begin(), text.end(), [](char c) { return c >= '0' && c <= '9'; });
}

bool readWind(std::string_view g, MetarReading& out) {
    double scale = 0.0;
    for (const auto& [suffix, unit] :
         {std::pair<std::string_view, double>{"KT", 1852.0 / 3600.0}, {"MPS", 1.0}, {"KMH", 1.0 / 3.6}})
        if (g.ends_with(suffix) && g.size() >= suffix.size() + 5) {
            scale = unit;
            g.remove_suffix(suffix.size());
            break;
        }
    if (scale == 0.0)
        return false;
    if (g == "/////")
        return true;
    const std::string_view direction = g.substr(0, 3);
    std::string_view speed = g.substr(3);
    if (const auto gust = speed.find('G'); gust != std::string_view::npos) {
        if (!allDigits(speed.substr(gust + 1)))
            return false;
        speed = speed.substr(0, gust);
    }
    if (!allDigits(speed) || speed.size() > 3 || (direction != "VRB" && !allDigits(direction)))
        return false;
    const int from = direction == "VRB" ? 0 : digits(direction);
    if (from > 360)
        return false;
    out.wind = Wind{from, Speed::si(digits(speed) * scale)};
    return true;
}

bool readDegrees(std::string_view text, std::optional<Temperature>& out) {
    const bool minus = text.starts_with('M');
    if (minus)
        text.remove_prefix(1);
    if (text == "//" || text.empty())
        return !minus;
    if (text.size() != 2 || !allDigits(text))
        return false;
    out = Temperature::of(minus ? -digits(text) : digits(text), units::celsius);
    return true;
}

bool readTemperatures(std::string_view g, MetarReading& out) {
    const auto slash = g.find('/');
    if (slash == std::string_view::npos || g.size() > 7)
        return false;
    MetarReading attempt;
    if (!readDegrees(g.substr(0, slash), attempt.temperature) || !readDegrees(g.substr(slash + 1), attempt.dewPoint))
        return false;
    out.temperature = attempt.temperature;
    out.dewPoint = attempt.dewPoint;
    return true;
}

bool readPressure(std::string_view g, MetarReading& out) {
    if (looksLike(g, "Q9999"))
        out.qnh = Pressure::of(digits(g.substr(1)), units::hPa);
    else if (looksLike(g, "A9999"))
        out.qnh = Pressure::of(digits(g.substr(1)) / 100.0, units::inHg);
    else
        return g == "Q////" || g == "A////";
    // Outside every pressure ever measured near sea level it is a slip of the pen.
    if (out.qnh && (out.qnh->in(units::hPa) < 850.0 || out.qnh->in(units::hPa) > 1100.0)) {
        out.qnh.reset();
        return false;
    }
    return true;
}

bool passedOver(std::string_view g) {
    static constexpr std::string_view exact[] = {"METAR", "SPECI", "AUTO", "COR", "CAVOK", "NSC",
                                                 "NCD",   "SKC",   "CLR",  "NSW", "NIL="};
    if (std::find(std::begin(exact), std::end(exact), g) != std::end(exact))
        return true;
    for (const auto picture : {"999999Z", "999V999", "9999", "9999NDV", "9999A", "9999AA", "AAA999", "AAA999AA",
                               "AAA999AAA", "AA999", "R99/9999", "R99A/9999", "//////"})
        if (looksLike(g, picture))
            return true;
    if (g.ends_with("SM") || g.starts_with("R0") || g.starts_with("R1") || g.starts_with("R2") || g.starts_with("R3"))
        return true;
    for (const auto cloud : {"FEW", "SCT", "BKN", "OVC", "VV"})
        if (g.starts_with(cloud) && g.size() >= 5)
            return true;
    // Weather: an optional sign or VC, then pairs of capital letters.
    std::string_view w = g;
    if (!w.empty() && (w.front() == '-' || w.front() == '+'))
        w.remove_prefix(1);
    static constexpr std::string_view pairs =
        " MI PR BC DR BL SH TS FZ VC RE DZ RA SN SG IC PL GR GS UP BR FG FU VA DU SA HZ PO SQ FC SS DS ";
    if (w.size() < 2 || w.size() > 8 || w.size() % 2)
        return false;
    for (std::size_t i = 0; i < w.size(); i += 2)
        if (pairs.find(" " + std::string(w.substr(i, 2)) + " ") == std::string_view::npos)
            return false;
    return true;
}
} // namespace

Result<MetarReading> readMetar(std::string_view text) {
    if (text.size() > longestMetar)
        return Failure{"this is too long to be a METAR: paste one report only"};
    MetarReading out;
    std::size_t groups = 0;
    std::size_t at = 0;
    while (at < text.size()) {
        while (at < text.size() && (ascii::isSpace(text[at]) || text[at] == '='))
            ++at;
        std::string group;
        while (at < text.size() && !ascii::isSpace(text[at]) && text[at] != '=')
            group += ascii::upper(text[at++]);
        if (group.empty())
            continue;
        if (group == "RMK" || group == "NOSIG" || group == "BECMG" || group == "TEMPO")
            break;
        ++groups;
        if (out.station.empty() && groups <= 3 && looksLike(group, "AAAA")) {
            out.station = group;
            continue;
        }
        const bool known = (!out.qnh && readPressure(group, out)) || (!out.wind && readWind(group, out)) ||
                           (!out.temperature && readTemperatures(group, out)) || passedOver(group);
        if (!known)
            out.notRead.push_back(group.substr(0, 24));
    }
    if (groups == 0)
        return Failure{"there is no METAR here: paste the whole line, for example \"METAR XXRF 250650Z 24008KT 9999 "
                       "06/03 Q1009\""};
    if (!out.temperature && !out.qnh)
        return Failure{"no temperature group (like 06/03) and no pressure group (like Q1009 or A2980) in this text"};
    return out;
}

std::string MetarReading::summary() const {
    std::vector<std::string> read, missing;
    const auto sort = [&](bool have, const char* what) { (have ? read : missing).emplace_back(what); };
    sort(wind.has_value(), "wind");
    sort(temperature.has_value(), "temperature");
    sort(dewPoint.has_value(), "dew point");
    sort(qnh.has_value(), "pressure");
    std::string text = fmt::format("Read: {}.", fmt::join(read, ", "));
    if (!missing.empty())
        text += fmt::format(" Not given, left as it was: {}.", fmt::join(missing, ", "));
    if (!notRead.empty())
        text += fmt::format(" Not understood: {}.", fmt::join(notRead, " "));
    return text;
}

Day MetarReading::applied(Day day) const {
    if (wind)
        day.wind = *wind;
    if (temperature)
        day.oat = *temperature;
    // A dew point that the report leaves out stays as it was, but never above the air's temperature.
    day.dewPoint = dewPoint.value_or(std::min(day.dewPoint, day.oat));
    if (qnh)
        day.qnh = *qnh;
    return day;
}

} // namespace amber::air
