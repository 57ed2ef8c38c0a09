// SPDX-License-Identifier: GPL-3.0-or-later
#include "units/text.h"
#include "units/ascii.h"
#include "units/unit_table.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace amber {
namespace {
constexpr std::string_view unicodeMinus = "\xE2\x88\x92";
constexpr std::string_view noBreakSpace = "\xC2\xA0";

std::string_view trimmed(std::string_view text) {
    while (!text.empty()) {
        if (ascii::isSpace(text.front()))
            text.remove_prefix(1);
        else if (text.starts_with(noBreakSpace))
            text.remove_prefix(noBreakSpace.size());
        else
            break;
    }
    while (!text.empty() && ascii::isSpace(text.back()))
        text.remove_suffix(1);
    return text;
}

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}
} // namespace

Result<double> readNumber(std::string_view text, std::string_view& rest) {
    text = trimmed(text);
    const std::string shown(text.substr(0, 40));
    bool negative = false;
    if (text.starts_with(unicodeMinus)) {
        negative = true;
        text.remove_prefix(unicodeMinus.size());
    } else if (!text.empty() && (text.front() == '-' || text.front() == '+')) {
        negative = text.front() == '-';
        text.remove_prefix(1);
    }
    std::string digits;
    std::size_t at = 0, sinceComma = 0;
    bool point = false, comma = false;
    int commas = 0;
    for (; at < text.size() && digits.size() < 40; ++at) {
        const char c = text[at];
        if (isDigit(c)) {
            digits += c;
            ++sinceComma;
        } else if (c == '.' && !point) {
            if (comma && sinceComma != 3)
                break;
            digits += c;
            point = true;
        } else if (c == ',' && !point && !digits.empty() && at + 1 < text.size() && isDigit(text[at + 1])) {
            if (comma && sinceComma != 3)
                break;
            comma = true;
            ++commas;
            sinceComma = 0;
        } else {
            break;
        }
    }
    if (digits.empty() || digits == ".")
        return Failure{fmt::format("\"{}\" does not begin with a number", shown)};
    if (comma && !point) {
        // A comma that cannot separate thousands is a decimal one: 7,5; 29,80; 0,125.
        const bool thousands = sinceComma == 3 && digits.front() != '0';
        if (!thousands && commas > 1)
            return Failure{fmt::format("\"{}\": is the comma one of thousands or of decimals? Write a point", shown)};
        if (!thousands)
            digits.insert(digits.size() - sinceComma, ".");
    }
    double value = 0.0;
    const auto read = std::from_chars(digits.data(), digits.data() + digits.size(), value);
    if (read.ec != std::errc{} || !std::isfinite(value))
        return Failure{fmt::format("\"{}\" is not a number that can be used", shown)};
    rest = trimmed(text.substr(at));
    return negative ? -value : value;
}

namespace {
/// "10 ft 9 in": so many of a unit, and fewer than one of it in a smaller one.
std::optional<Written> inTwoUnits(Dimension dimension, double first, std::string_view rest) {
    const auto digit = std::find_if(rest.begin(), rest.end(), isDigit);
    const auto split = static_cast<std::size_t>(digit - rest.begin());
    const UnitSpec* unit = digit == rest.end() ? nullptr : findUnit(dimension, trimmed(rest.substr(0, split)));
    if (!unit || unit->offset != 0)
        return std::nullopt;
    std::string_view name;
    const auto second = readNumber(rest.substr(split), name);
    const UnitSpec* smaller = second ? findUnit(dimension, name) : nullptr;
    if (!smaller || smaller->offset != 0 || smaller->scale >= unit->scale ||
        second.value() * smaller->scale >= unit->scale)
        return std::nullopt;
    const double more = second.value() * smaller->scale;
    return Written{first * unit->scale + (first < 0 ? -more : more), unit};
}
} // namespace

namespace {
/// Figures as they stand: what is before the point, and behind it.
struct Parted {
    std::string_view before, behind;
};
std::optional<Parted> partedAtPoint(std::string_view text) {
    const auto begin = std::find_if(text.begin(), text.end(), isDigit);
    const auto point = std::find_if_not(begin, text.end(), isDigit);
    if (begin == text.end() || point == text.end() || *point != '.')
        return std::nullopt;
    const auto end = std::find_if_not(point + 1, text.end(), isDigit);
    return Parted{std::string_view(begin, point), std::string_view(point + 1, end)};
}
/// "1.340 l" and "3.000 m": one to three figures, a point, three figures, in a unit of which nobody writes thousandths.
/// What begins with a nought is a decimal.
bool pointMayPartThousands(std::string_view text, const UnitSpec& unit) {
    const auto parts = partedAtPoint(text);
    return parts && unit.decimals == 0 && parts->behind.size() == 3 && parts->before.size() <= 3 &&
           parts->before.front() != '0' && text.find(',') == std::string_view::npos;
}
/// "gal" alone is no unit: which gallon is asked.
std::optional<std::string> whichGallon(std::string_view unit) {
    for (const std::string_view said :
         {"gal", "gal.", "gals", "gals.", "gallon", "gallons", "gal/h", "gph", "g.p.h.", "gal/hr"})
        if (unit == said)
            return fmt::format("\"{}\": which gallon? Write \"US gal{}\" or \"imp gal{}\"", unit,
                               said.find_first_of("h/") == std::string_view::npos ? "" : "/h",
                               said.find_first_of("h/") == std::string_view::npos ? "" : "/h");
    return std::nullopt;
}
} // namespace

Result<Written> readQuantity(Dimension dimension, std::string_view text, const UnitSpec* assumed) {
    if (dimension == Dimension::length)
        for (const std::string_view said : {"sea level", "Sea level", "SEA LEVEL", "S.L.", "MSL"})
            if (trimmed(text) == said)
                return Written{0.0, assumed ? assumed : units::foot.spec};
    std::string_view rest;
    const auto number = readNumber(text, rest);
    if (!number)
        return Failure{number.error()};
    if (dimension == Dimension::volume || dimension == Dimension::volumeFlow)
        if (const auto gallon = whichGallon(rest))
            return Failure{*gallon};
    const UnitSpec* unit = rest.empty() ? assumed : findUnit(dimension, rest);
    if (!unit)
        if (const auto both = inTwoUnits(dimension, number.value(), rest))
            return *both;
    if (!unit) {
        std::string choices;
        for (const auto& u : unitsOf(dimension))
            choices += (choices.empty() ? "" : ", ") + std::string(u.symbol);
        if (rest.empty())
            return Failure{fmt::format("{} needs its unit: one of {}", nameOf(dimension), choices)};
        return Failure{
            fmt::format("\"{}\" is not a unit of {}: use one of {}", rest.substr(0, 20), nameOf(dimension), choices)};
    }
    return Written{number.value() * unit->scale + unit->offset, unit};
}

std::optional<ThousandsOrDecimals> thousandsOrDecimals(std::string_view text, const UnitSpec& unit) {
    if (!pointMayPartThousands(text, unit))
        return std::nullopt;
    const auto parts = *partedAtPoint(text);
    const auto last = parts.behind.find_last_not_of('0');
    std::string kept(last == std::string_view::npos ? std::string_view("0") : parts.behind.substr(0, last + 1));
    if (kept.size() == 3)
        kept += '0'; // four figures part no thousands
    const std::string all = std::string(parts.before) + std::string(parts.behind);
    double value = 0.0;
    std::from_chars(all.data(), all.data() + all.size(), value);
    if (trimmed(text).starts_with('-') || trimmed(text).starts_with(unicodeMinus))
        value = -value;
    return ThousandsOrDecimals{value * unit.scale + unit.offset, fmt::format("\"{} {}\"", all, unit.symbol),
                               fmt::format("\"{}.{} {}\"", parts.before, kept, unit.symbol)};
}

std::string shownText(std::string_view text) {
    constexpr std::string_view mark = "\xEF\xBF\xBD"; // U+FFFD
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        if (c < 0x20 || c == 0x7f) {
            out += mark;
        } else if (c == 0xc2 && i + 1 < text.size() && static_cast<unsigned char>(text[i + 1]) < 0xa0) {
            out += mark;
            ++i;
        } else {
            out += text[i];
        }
    }
    return out;
}

std::string formatNumber(double value, int decimals, bool showSign) {
    if (!std::isfinite(value))
        return "—";
    std::string text = fmt::format("{:.{}f}", std::abs(value), decimals);
    if (const auto point = text.find('.'); point != std::string::npos) {
        while (text.back() == '0')
            text.pop_back();
        if (text.back() == '.')
            text.pop_back();
    }
    const bool zero = text.find_first_not_of("0.") == std::string::npos;
    const auto point = text.find('.');
    for (auto at = static_cast<long>(point == std::string::npos ? text.size() : point) - 3; at > 0; at -= 3)
        text.insert(static_cast<std::size_t>(at), ",");
    if (value < 0 && !zero)
        return std::string(unicodeMinus) + text;
    return showSign ? "+" + text : text;
}

std::string formatValue(double si, const UnitSpec& unit, int decimals) {
    const double value = (si - unit.offset) / unit.scale;
    if (decimals < 0)
        decimals = unit.decimals + (unit.finer && std::abs(value) < 9.95 ? std::abs(value) < 0.95 ? 2 : 1 : 0);
    return formatNumber(value, decimals, unit.showSign);
}

int decimalsToTell(double a, double b, const UnitSpec& unit) {
    constexpr int most = 3;
    int decimals = unit.decimals;
    while (decimals < unit.decimals + most && a != b &&
           formatValue(a, unit, decimals) == formatValue(b, unit, decimals))
        ++decimals;
    return decimals == unit.decimals ? -1 : decimals;
}

std::string format(double si, const UnitSpec& unit, int decimals) {
    return formatValue(si, unit, decimals) + " " + std::string(unit.symbol);
}

std::string formatHeight(double metres, const UnitSpec& unit) {
    const double step = unit.scale < 1.0 ? 100.0 * unit.scale : 10.0;
    return format(std::round(metres / step) * step, unit);
}

std::string formatHoursMinutes(double seconds) {
    const long minutes = std::lround(std::max(0.0, seconds) / 60.0);
    return fmt::format("{}:{:02}", minutes / 60, minutes % 60);
}

std::string formatHoursOrMinutes(double seconds) {
    const long minutes = std::lround(std::max(0.0, seconds) / 60.0);
    return minutes < 60 ? fmt::format("{} min", minutes) : formatHoursMinutes(seconds) + " h";
}

std::string formatMinutesSeconds(double seconds) {
    const long whole = std::lround(std::max(0.0, seconds));
    return fmt::format("{}:{:02}", whole / 60, whole % 60);
}

} // namespace amber
