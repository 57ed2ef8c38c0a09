// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <span>
#include <string_view>

namespace amber {

/// Every unit of a dimension, the commonest first.
std::span<const UnitSpec> unitsOf(Dimension dimension);
/// What a dimension is called in a message: "a temperature".
std::string_view nameOf(Dimension dimension);
/// The unit written this way (symbol or alias, case-sensitive first, then not), or nullptr.
const UnitSpec* findUnit(Dimension dimension, std::string_view text);

namespace units {
namespace detail {
// Sources: NIST SP 811 (2008), appendix B; mercury at 0 °C, water excluded.
inline constexpr UnitSpec inHg{"inHg", "in Hg|in.Hg|in. Hg|ins Hg|\"Hg|in", 3386.389, 0.0, 1};
inline constexpr UnitSpec boost{
    "lbf/in²",
    "lb|lbs|lb.|psi|p.s.i.|lb/in²|lb/in2|lbf/in2|lb/sq.in|lb/sq in|lb/sq. in.|lb./sq. in.|lb per sq in|lb. per sq. in.",
    6894.757,
    standardPressure,
    1,
    true};
inline constexpr UnitSpec mmHg{"mmHg", "mm Hg|mm", 133.3224, 0.0, 0};
inline constexpr UnitSpec kPa{"kPa", "", 1000.0, 0.0, 1};
inline constexpr UnitSpec ata{"ata", "", 98066.5, 0.0, 2};
inline constexpr UnitSpec cmHg{"cmHg", "cm Hg|cm", 1333.224, 0.0, 1};
inline constexpr UnitSpec mbar{"mbar", "mb|hPa", 100.0, 0.0, 0};
inline constexpr UnitSpec manifoldTable[] = {inHg, boost, mmHg, kPa, ata, cmHg, mbar};

inline constexpr UnitSpec pressureTable[] = {
    {"hPa", "mb|mbar", 100.0, 0.0, 0},
    {"lbf/in²",
     "lb|lbs|lb.|psi|p.s.i.|lb/in²|lb/in2|lbf/in2|lb/sq.in|lb/sq in|lb/sq. in.|lb./sq. in.|lb per sq in|lb. per sq. "
     "in.",
     6894.757, 0.0, 1},
    {"kgf/cm²", "kg/cm²|kg/cm2|kgf/cm2|at", 98066.5, 0.0, 2},
    {"bar", "", 1e5, 0.0, 2},
    {"inHg", "in Hg|in.Hg|in", 3386.389, 0.0, 2},
    {"mmHg", "mm Hg|mm", 133.3224, 0.0, 0},
    {"kPa", "", 1000.0, 0.0, 1},
    {"Pa", "", 1.0, 0.0, 0},
    {"cmHg", "cm Hg|cm", 1333.224, 0.0, 1},
};
inline constexpr UnitSpec temperatureTable[] = {
    {"°C", "C|degC|ºC|deg C|deg. C|° C", 1.0, 273.15, 0},
    {"°F", "F|degF|ºF|deg F|deg. F|° F", 5.0 / 9.0, 273.15 - 32.0 * 5.0 / 9.0, 0},
    {"K", "", 1.0, 0.0, 1},
};
inline constexpr UnitSpec temperatureDifferenceTable[] = {
    {"°C", "C|degC|ºC|deg C|K", 1.0, 0.0, 0},
    {"°F", "F|degF|ºF|deg F", 5.0 / 9.0, 0.0, 0},
};
inline constexpr UnitSpec speedTable[] = {
    {"kt", "kts|knots|kn|knot|kt.", 1852.0 / 3600.0, 0.0, 0},
    {"mph", "m.p.h.", 0.44704, 0.0, 0},
    {"km/h", "kph|kmh|km/hr|km.p.h.", 1.0 / 3.6, 0.0, 0},
    {"m/s", "mps", 1.0, 0.0, 1},
};
inline constexpr UnitSpec verticalSpeedTable[] = {
    {"ft/min", "fpm|ft./min.|ft per min|f.p.m.", 0.3048 / 60.0, 0.0, 0},
    {"m/s", "mps", 1.0, 0.0, 1},
};
inline constexpr UnitSpec lengthTable[] = {
    {"ft", "feet|ft.|foot|'", 0.3048, 0.0, 0},
    {"m", "metres|meters", 1.0, 0.0, 0},
    {"km", "", 1000.0, 0.0, 2},
    {"in", "inch|inches|\"", 0.0254, 0.0, 1},
    {"cm", "", 0.01, 0.0, 1},
    {"mm", "", 0.001, 0.0, 0},
};
inline constexpr UnitSpec distanceTable[] = {
    {"nm", "NM|nmi|n.m.", 1852.0, 0.0, 0},
    {"mi", "miles|sm", 1609.344, 0.0, 0},
    {"km", "", 1000.0, 0.0, 0},
};
inline constexpr UnitSpec volumeTable[] = {
    {"US gal", "USgal|US gallon|US gallons|gal US", 3.785411784e-3, 0.0, 0, false, true},
    {"imp gal", "impgal|imp. gal|imperial gal|imperial gallons|UK gal", 4.54609e-3, 0.0, 0, false, true},
    {"l", "L|litre|litres|liter|liters", 1e-3, 0.0, 0, false, true},
    {"cc", "cm³|cm3|ml", 1e-6, 0.0, 0},
    {"in³", "in3|cu in|cu.in.|cubic inches", 1.6387064e-5, 0.0, 0},
};
inline constexpr UnitSpec massTable[] = {
    {"lb", "lbs|lbm|lb.|lbs.|pounds", 0.45359237, 0.0, 0},
    {"kg", "kg.|kgs", 1.0, 0.0, 0},
};
inline constexpr UnitSpec powerTable[] = {
    {"hp", "bhp|HP|b.h.p.|B.H.P.|h.p.|H.P.", 745.69987, 0.0, 0},
    {"PS", "ps|cv", 735.49875, 0.0, 0},
    {"kW", "", 1000.0, 0.0, 0},
};
inline constexpr UnitSpec rotationTable[] = {
    {"rpm", "r.p.m.|rev/min|revs/min|U/min|tr/min|min⁻¹|1/min", 1.0 / 60.0, 0.0, 0}};
inline constexpr UnitSpec durationTable[] = {
    {"min", "minutes|minute|mins", 60.0, 0.0, 0},
    {"s", "sec|secs|seconds|second", 1.0, 0.0, 0},
    {"h", "hours|hour|hr|hrs", 3600.0, 0.0, 1},
};
inline constexpr UnitSpec massFlowTable[] = {
    {"kg/h", "", 1.0 / 3600.0, 0.0, 0},
    {"lb/h", "lbs/h|pph", 0.45359237 / 3600.0, 0.0, 0},
    {"kg/s", "", 1.0, 0.0, 2},
};
inline constexpr UnitSpec volumeFlowTable[] = {
    {"US gal/h", "USgal/h|US gal/hr|US gph|US gal per hour", 3.785411784e-3 / 3600.0, 0.0, 0, false, true},
    {"imp gal/h", "impgal/h|imp gal/hr|imp gph|imp. gal/h|imp gal per hour", 4.54609e-3 / 3600.0, 0.0, 0, false, true},
    {"l/h", "L/h|litres/h|l/hr|litres per hour|ltr/h", 1e-3 / 3600.0, 0.0, 0, false, true},
};
inline constexpr UnitSpec voltageTable[] = {{"V", "volt|volts", 1.0, 0.0, 1}};
inline constexpr UnitSpec momentTable[] = {
    {"lb in", "lb·in|lb.in|lb-in|in lb", 0.45359237 * 0.0254, 0.0, 0},
    {"lb ft", "lb·ft|lb.ft|lb-ft|ft lb", 0.45359237 * 0.3048, 0.0, 0},
    {"kg m", "kg·m|kg.m|kgm", 1.0, 0.0, 1},
};
inline constexpr UnitSpec currentTable[] = {{"A", "amp|amps|ampere|amperes", 1.0, 0.0, 0}};
} // namespace detail

namespace manifold {
inline constexpr Unit<Dimension::manifoldPressure> inHg{&detail::manifoldTable[0]}, boost{&detail::manifoldTable[1]},
    mmHg{&detail::manifoldTable[2]}, kPa{&detail::manifoldTable[3]}, ata{&detail::manifoldTable[4]};
}
inline constexpr Unit<Dimension::pressure> hPa{&detail::pressureTable[0]}, psi{&detail::pressureTable[1]},
    kgfPerCm2{&detail::pressureTable[2]}, bar{&detail::pressureTable[3]}, inHg{&detail::pressureTable[4]},
    kPa{&detail::pressureTable[6]}, pascal{&detail::pressureTable[7]};
inline constexpr Unit<Dimension::temperature> celsius{&detail::temperatureTable[0]},
    fahrenheit{&detail::temperatureTable[1]}, kelvin{&detail::temperatureTable[2]};
inline constexpr Unit<Dimension::temperatureDifference> deltaCelsius{&detail::temperatureDifferenceTable[0]};
inline constexpr Unit<Dimension::speed> knot{&detail::speedTable[0]}, mph{&detail::speedTable[1]},
    kmPerHour{&detail::speedTable[2]}, metrePerSecond{&detail::speedTable[3]};
inline constexpr Unit<Dimension::verticalSpeed> feetPerMinute{&detail::verticalSpeedTable[0]};
inline constexpr Unit<Dimension::length> foot{&detail::lengthTable[0]}, metre{&detail::lengthTable[1]};
inline constexpr Unit<Dimension::distance> nauticalMile{&detail::distanceTable[0]};
inline constexpr Unit<Dimension::volume> usGallon{&detail::volumeTable[0]}, impGallon{&detail::volumeTable[1]},
    litre{&detail::volumeTable[2]};
inline constexpr Unit<Dimension::mass> pound{&detail::massTable[0]}, kilogram{&detail::massTable[1]};
inline constexpr Unit<Dimension::power> horsepower{&detail::powerTable[0]}, kilowatt{&detail::powerTable[2]};
inline constexpr Unit<Dimension::rotation> rpm{&detail::rotationTable[0]};
inline constexpr Unit<Dimension::duration> minute{&detail::durationTable[0]}, second{&detail::durationTable[1]},
    hour{&detail::durationTable[2]};
inline constexpr Unit<Dimension::massFlow> kgPerHour{&detail::massFlowTable[0]};
inline constexpr Unit<Dimension::volumeFlow> usGallonPerHour{&detail::volumeFlowTable[0]};
} // namespace units
} // namespace amber
