// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include "units/result.h"
#include <optional>
#include <string>
#include <string_view>

namespace amber {

/// A number read together with the unit it was written in.
struct Written {
    double si;
    const UnitSpec* unit;
};

/// Reads a bare number the way people write it: "27,400", "−5", "+8", "15.5"; a comma that cannot separate thousands is
/// a decimal one, "7,5". Finite only.
/// @return the number, and in `rest` what follows it; an error for no number, NaN, infinity or misplaced commas.
Result<double> readNumber(std::string_view text, std::string_view& rest);

/// Reads "39 inHg", "+8 lb", "6 °C", "27,400 lb", and "10 ft 9 in". @param assumed the unit of a bare number; nullptr
/// makes a unit compulsory.
/// @return the SI value and the unit, or an error that names the units that would do.
Result<Written> readQuantity(Dimension dimension, std::string_view text, const UnitSpec* assumed = nullptr);

/// "1.340 l": in a unit of which nobody writes thousandths, a point before three figures may part thousands.
struct ThousandsOrDecimals {
    double si;                       ///< if it parts thousands
    std::string thousands, decimals; ///< how each is written without doubt, in quotes
};
std::optional<ThousandsOrDecimals> thousandsOrDecimals(std::string_view text, const UnitSpec& unit);

template <Dimension D>
Result<Quantity<D>> read(std::string_view text, const UnitSpec* assumed = nullptr) {
    auto written = readQuantity(D, text, assumed);
    if (!written)
        return Failure{written.error()};
    return Quantity<D>::si(written.value().si);
}

/// Somebody's text as a terminal may show it: what would steer it (control characters) is shown as a mark.
std::string shownText(std::string_view text);

/// A number with thousands separators and at most `decimals` decimals; a trailing ".0" is dropped.
std::string formatNumber(double value, int decimals, bool showSign = false);
/// "39 inHg", "+8 lbf/in²", "2,350 rpm", rounded to what the gauge can show. @param decimals overrides the unit's own.
std::string format(double si, const UnitSpec& unit, int decimals = -1);
/// Decimals with which two figures that differ are told apart, at most three more than the unit's; −1 when its own do.
int decimalsToTell(double a, double b, const UnitSpec& unit);
/// The same as format() without the unit.
std::string formatValue(double si, const UnitSpec& unit, int decimals = -1);

template <Dimension D>
std::string format(Quantity<D> quantity, Unit<D> unit, int decimals = -1) {
    return format(quantity.si(), *unit.spec, decimals);
}
/// A height to the nearest 100 ft, or 10 m where heights are metric: finer than that no altimeter is flown.
std::string formatHeight(double metres, const UnitSpec& unit);
/// Elapsed or clock time: "0:46" (h:mm). @param seconds 0 or more
std::string formatHoursMinutes(double seconds);
/// A stretch of time: "35 min" under an hour, "1:20 h" from there.
std::string formatHoursOrMinutes(double seconds);
/// A stretch of minutes and seconds: "7:40".
std::string formatMinutesSeconds(double seconds);

} // namespace amber
