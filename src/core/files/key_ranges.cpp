// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/key_ranges.h"
#include "notes/gauge_register.h"
#include "notes/phase.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber {
namespace {
const UnitSpec* const plain = nullptr;
const UnitSpec* const rpm = units::rpm.spec;
const UnitSpec* const inHg = units::manifold::inHg.spec;
const UnitSpec* const celsius = units::celsius.spec;
const UnitSpec* const degrees = units::deltaCelsius.spec;
const UnitSpec* const knots = units::knot.spec;
const UnitSpec* const feet = units::foot.spec;
const UnitSpec* const metres = units::metre.spec;
const UnitSpec* const millimetres = &units::detail::lengthTable[5];
const UnitSpec* const centimetres = &units::detail::lengthTable[4];
const UnitSpec* const litres = units::litre.spec;
const UnitSpec* const cc = &units::detail::volumeTable[3];
const UnitSpec* const kilograms = units::kilogram.spec;
const UnitSpec* const kilowatts = units::kilowatt.spec;
const UnitSpec* const minutes = units::minute.spec;
const UnitSpec* const seconds = units::second.spec;
const UnitSpec* const hours = units::hour.spec;
const UnitSpec* const psi = units::psi.spec;
const UnitSpec* const bar = units::bar.spec;
const UnitSpec* const hPa = units::hPa.spec;
const UnitSpec* const pressureInHg = units::inHg.spec;
const UnitSpec* const climbRate = units::feetPerMinute.spec;
const UnitSpec* const kilogramMetres = &units::detail::momentTable[2];
const UnitSpec* const litresPerHour = &units::detail::volumeFlowTable[2];
const UnitSpec* const miles = units::nauticalMile.spec;
const UnitSpec* const volts = &units::detail::voltageTable[0];
const UnitSpec* const amperes = &units::detail::currentTable[0];

constexpr std::string_view turns = "no piston engine of these aircraft turns faster";
constexpr std::string_view charged = "absolute; a quarter of an atmosphere to racing boost";
constexpr std::string_view high = "the model's air ends there, and no such aircraft goes higher";
constexpr std::string_view oilTemp = "oil is solid below and burns above";
constexpr std::string_view share = "a share";
constexpr std::string_view stands = "nobody stands steeper";
constexpr std::string_view flown = "slower than a glider, faster than any propeller";
constexpr std::string_view weights = "from an ultralight to the largest piston airliner";
constexpr std::string_view brief = "seconds to some minutes; longer is a slip of the unit";
constexpr std::string_view night = "colder or warmer than any night";

const KeyRange notesTable[] = {
    {"format", plain, 1, 2, "1: steps are sentences; 2: a cockpit and what is done in it"},
    {"type.empty_weight", kilograms, 50, 150000, weights},
    {"type.max_weight", kilograms, 50, 150000, weights},
    {"engine.cylinders", plain, 1, 48, "more than were ever built into one"},
    {"engine.displacement", litres, 0.1, 200, "of the whole engine; more than any that flew"},
    {"engine.compression", plain, 3, 14, "a petrol engine's compression ratio"},
    {"engine.stroke", millimetres, 20, 500, "from a model's to a ship's"},
    {"engine.reduction", plain, 0.2, 1, "propeller turns for one of the engine"},
    {"engine.ram", plain, 0, 1, share},
    {"engine.throttle_loss", plain, 0, 0.2, "share of the pressure lost at an open throttle"},
    {"engine.carburettor_heat", degrees, 1, 120, "rise of full hot air"},
    {"engine.low_rpm.rpm", rpm, 300, 6000, turns},
    {"engine.low_rpm.boost", inHg, 6, 118, charged},
    {"engine.supercharger.impeller", centimetres, 5, 100, "diameter of the wheel"},
    {"engine.supercharger.auxiliary_impeller", centimetres, 5, 100, "diameter of the wheel"},
    {"engine.supercharger.intercooler", plain, 0, 0.95, "effectiveness; nothing cools wholly"},
    {"engine.supercharger.gear.ratio", plain, 1, 20, "impeller turns for one of the engine"},
    {"engine.supercharger.gear.auxiliary", plain, 0, 20, "impeller turns for one of the engine; 0: neutral"},
    {"engine.supercharger.turbo.held", inHg, 15, 60, "absolute, at the carburettor"},
    {"engine.supercharger.turbo.critical", feet, 1500, 49000, high},
    {"engine.supercharger.turbo.efficiency", plain, 0.4, 0.9, "of a single wheel"},
    {"engine.calibrated.isac", plain, 2, 7, "kg of air for an indicated kWh"},
    {"engine.calibrated.friction", plain, 0.05, 4, "bar, of mean pressure"},
    {"engine.calibrated.volumetric", plain, 0.4, 1.3, "of the swept volume"},
    {"engine.calibrated.efficiency", plain, 0.3, 0.95, "of the blower in a gear"},
    {"engine.calibrated.impeller", centimetres, 5, 100, "diameter of the wheel"},
    {"engine.calibrated.rich.power", plain, 0, 2, "share of rated power"},
    {"engine.calibrated.rich.ratio", plain, 0.05, 0.13, "fuel to air by weight; nothing burns outside"},
    {"engine.calibrated.weak", plain, 0.05, 0.08, "fuel to air by weight"},
    {"engine.mixture.rich.power", plain, 0, 2, "share of rated power"},
    {"engine.mixture.rich.ratio", plain, 0.05, 0.13, "fuel to air by weight; nothing burns outside"},
    {"engine.mixture.weak", plain, 0.05, 0.08, "fuel to air by weight; weaker does not burn, richer is not weak"},
    {"engine.mixture.weak_up_to", plain, 0.1, 1, "share of rated power"},
    {"engine.mixture.corrector_from", feet, 0, 40000, high},
    {"engine.mixture.water", plain, 0.06, 0.12, "fuel to air by weight"},
    {"propeller.diameter", metres, 0.5, 10, "tip to tip"},
    {"propeller.coarse_absorption", plain, 1, 4, "power in coarse over that in fine, standing"},
    {"propeller.blades", plain, 2, 6, "of one propeller"},
    {"propeller.reference_rpm", rpm, 300, 6000, turns},
    {"propeller.reference_tolerance", rpm, 1, 500, "more would find no sick engine"},
    {"rating.rpm", rpm, 300, 6000, turns},
    {"rating.boost", inHg, 6, 118, charged},
    {"rating.grades", inHg, 6, 118, charged},
    {"rating.minutes", minutes, 0.01, 720, "a rating without limit has no minutes"},
    {"rating.above.height", feet, -1500, 49000, high},
    {"rating.above.boost", inHg, 5, 120, charged},
    {"rating.line.power", kilowatts, 1, 4000, "of one engine"},
    {"rating.line.at", metres, 0, 15000, high},
    {"rating.line.holds_to", metres, 0, 15000, high},
    {"rating.line.fuel_flow", litresPerHour, 1, 2500, "of one engine"},
    {"rating.line.boost", inHg, 6, 118, charged},
    {"gear_change.fall", pressureInHg, 0.1, 30, "a fall of boost, not a boost"},
    {"gear_change.throttle_back_to", inHg, 6, 118, charged},
    {"limits.boost", inHg, 0, 118, charged},
    {"limits.rpm", rpm, 0, 6000, turns},
    {"limits.head", celsius, -70, 400, "aluminium gives way above"},
    {"limits.coolant", celsius, -70, 200, "frozen below, steam above, even under pressure"},
    {"limits.oil", celsius, -70, 200, oilTemp},
    {"limits.oil-pressure", psi, 0, 400, "a needle does not show suction here"},
    {"limits.fuel-pressure", psi, 0, 400, "a needle does not show suction here"},
    {"limits.charge", celsius, -70, 300, "of the mixture; hotter burns by itself"},
    {"limits.exhaust", celsius, -70, 1100, "valves and stubs burn above"},
    {"limits.torque", psi, 0, 600, "mean effective pressure of a piston engine"},
    {"limits.amber_for", minutes, 0.01, 720, brief},
    {"speeds.light_weight", kilograms, 50, 150000, weights},
    {"speeds.heavy_weight", kilograms, 50, 150000, weights},
    {"speeds.climb_loss_per_1000ft", knots, 0, 15, "a fall of speed, not a speed"},
    {"speeds.entry.light", knots, 10, 600, flown},
    {"speeds.entry.heavy", knots, 10, 600, flown},
    {"performance.height", metres, -1000, 15000, high},
    {"performance.weight", kilograms, 50, 150000, weights},
    {"performance.ias", knots, 10, 600, flown},
    {"performance.rate", climbRate, 10, 10000, "of climb; a level line has none"},
    {"loading.moments_divided_by", plain, 1, 10000, "an index of moments"},
    {"loading.arm", metres, -50, 100, "longer than any of them"},
    {"loading.side", metres, -60, 60, "wider than any of them"},
    {"loading.chord", metres, 0.3, 20, "of a wing's mean"},
    {"loading.leading_edge", metres, -50, 100, "longer than any of them"},
    {"loading.max_landing", kilograms, 50, 150000, weights},
    {"loading.max_zero_fuel", kilograms, 50, 150000, weights},
    {"loading.most_sideways", kilogramMetres, 0.1, 500000, "of all that stands off the middle"},
    {"loading.oil", litres, 0.5, 2000, "in all tanks"},
    {"loading.oil_burn", litresPerHour, 0.01, 60, "of one engine"},
    {"loading.oil_least", litres, 0.1, 2000, "in all tanks"},
    {"loading.station.usual", kilograms, 0, 30000, "at one station"},
    {"loading.station.most", kilograms, 0.5, 30000, "at one station"},
    {"loading.limit.weight", kilograms, 50, 150000, weights},
    {"loading.trim.light.arm", plain, -2000, 5000, "in the sheet's unit, or percent"},
    {"loading.trim.light.trim", plain, -100, 100, "units of trim"},
    {"loading.trim.heavy.arm", plain, -2000, 5000, "in the sheet's unit, or percent"},
    {"loading.trim.heavy.trim", plain, -100, 100, "units of trim"},
    {"distance.weights", plain, 50, 330000, weights},
    {"distance.heights", plain, -3000, 49000, high},
    {"distance.temperatures", plain, -60, 140, "colder or hotter than any field"},
    {"distance.entries", plain, 10, 330000, "a distance or a weight"},
    {"distance.headwind", plain, 0.4, 1, "times the distance, for 10 kt"},
    {"distance.tailwind", plain, 1, 3, "times the distance, for 10 kt"},
    {"distance.grass", plain, 0.8, 2, "times the distance"},
    {"distance.wet", plain, 0.8, 2.5, "times the distance"},
    {"distance.upslope", plain, 0.5, 2, "times the distance, for one in a hundred"},
    {"fuel.change_above", feet, 0, 20000, "above the ground"},
    {"fuel.tank.transfer_rate", litresPerHour, 10, 50000, "of a pump"},
    {"fuel.tank.leave_at", litres, 0, 50000, "of one tank"},
    {"fuel.tank.standpipe", litres, 0, 50000, "of one tank"},
    {"fuel.tank.uncovers", litres, 0, 50000, "of one tank"},
    {"fuel.tank.empty_mass", kilograms, 0, 2000, "of a drop tank"},
    {"fuel.tank.arms.held", plain, 0, 20000, "contents of one tank"},
    {"fuel.tank.arms.arm", plain, -2000, 5000, "in the sheet's unit, or percent"},
    {"fuel.density", plain, 600, 850, "kg/m³ of any petrol"},
    {"fuel.reserve", minutes, 0, 600, "of cruise"},
    {"fuel.ground_attitude", plain, -30, 30, stands},
    {"fuel.gauge_tolerance", plain, 0.005, 0.3, share},
    {"fuel.tank.capacity", litres, 0.5, 50000, "from a header tank to an airliner's"},
    {"fuel.tank.usable", litres, 0, 50000, "from a header tank to an airliner's"},
    {"fuel.tank.ground.attitude", plain, -30, 30, stands},
    {"fuel.tank.ground.read.held", litres, 0, 50000, "from a header tank to an airliner's"},
    {"fuel.tank.ground.read.shown", litres, 0, 50000, "from a header tank to an airliner's"},
    {"engine_start.prime.at", celsius, -70, 200, "of the engine when it is primed"},
    {"engine_start.prime.dose", plain, 0, 60, "more has flooded any engine"},
    {"engine_start.dose_volume", cc, 0.1, 500, "of one stroke or second"},
    {"engine_start.dose_time", seconds, 0.1, 120, "of one stroke or second"},
    {"engine_start.minutes_per_engine", minutes, 0.1, 60, "from engine to engine"},
    {"engine_start.crank_most", seconds, 1, 1800, "a starter burns sooner"},
    {"engine_start.rest", seconds, 1, 1800, brief},
    {"engine_start.tries", plain, 1, 20, "before the long rest"},
    {"engine_start.oil_pressure", psi, 0.5, 200, "that must show after the first fire"},
    {"engine_start.oil_pressure_within", seconds, 1, 1800, brief},
    {"engine_start.blades_per_dose", plain, 0.2, 20, "pulled through in place of one dose"},
    {"engine_start.slow_rpm", rpm, 200, 2500, "slowest smooth"},
    {"engine_start.generator_from", rpm, 200, 2500, "that a generator cuts in at"},
    {"engine_start.starter.energise_cart", seconds, 0, 300, "the wheel is up or its motor burns"},
    {"engine_start.starter.energise_battery", seconds, 0, 300, "the wheel is up or its motor burns"},
    {"engine_start.starter.booster_most", seconds, 1, 1800, brief},
    {"engine_start.starter.long_rest", minutes, 0.1, 240, "after the last try"},
    {"engine_start.starter.blades_before_ignition", plain, 0, 40, "turned by the starter"},
    {"engine_start.starter.cartridges", plain, 1, 40, "in the breech"},
    {"engine_start.starter.air_bottle", bar, 2, 400, "of a full bottle"},
    {"engine_start.starter.air_per_start", bar, 0.05, 200, "that a start takes"},
    {"engine_start.starter.warm_rpm", rpm, 12, 600, "of the crankshaft, oil warm"},
    {"engine_start.starter.torque", plain, 1, 5000, "Nm at the crankshaft"},
    {"engine_start.starter.fires_after", seconds, 0.2, 120, "of cranking"},
    {"engine_start.battery.volts", plain, 6, 60, "of a ship's battery"},
    {"engine_start.battery.ampere_hours", plain, 5, 400, "of a ship's battery"},
    {"engine_start.battery.resistance", plain, 0.001, 1, "Ω, warm"},
    {"engine_start.battery.fuse", plain, 20, 3000, "A, of the starter's fuse"},
    {"engine_start.hand_turning.blades", plain, 0, 60, "turned by hand"},
    {"engine_start.hand_turning.after", hours, 0, 10000, "stood; a year is some 9,000 h"},
    {"engine_start.hand_turning.longer.after", hours, 0, 10000, "stood; a year is some 9,000 h"},
    {"engine_start.hand_turning.longer.blades", plain, 0, 120, "turned by hand"},
    {"engine_start.cold.preheat_below", celsius, -70, 40, night},
    {"engine_start.cold.heater", kilowatts, 0.1, 200, "that reaches one engine"},
    {"engine_start.cold.blanks_below", celsius, -70, 40, night},
    {"engine_start.cold.dilute_below", celsius, -70, 40, night},
    {"engine_start.cold.diluted_viscosity", plain, 0.05, 1, "over undiluted"},
    {"engine_start.cold.hot_air_after", minutes, 0, 60, brief},
    {"warming.oil_run_up", celsius, -40, 150, oilTemp},
    {"warming.oil_take_off", celsius, -40, 150, oilTemp},
    {"warming.metal_run_up", celsius, -40, 300, "least, of heads or coolant"},
    {"warming.metal_take_off", celsius, -40, 300, "least, of heads or coolant"},
    {"warming.taxi", minutes, 0, 120, "nobody taxies longer"},
    {"warming.taxi_rpm", rpm, 200, 3000, turns},
    {"warming.least_rpm", rpm, 200, 3000, turns},
    {"warming.taxi_speed", knots, 0, 58, "faster is a take-off run"},
    {"warming.step.oil", celsius, -70, 150, oilTemp},
    {"warming.step.rpm", rpm, 300, 2400, "of a warm-up"},
    {"run_up_sheet.high_power_from", rpm, 300, 6000, turns},
    {"run_up_sheet.high_power_most", seconds, 0.5, 1800, brief},
    {"run_up_sheet.reference_held", seconds, 0.5, 1800, brief},
    {"run_up_sheet.magnetos.at_rpm", rpm, 300, 6000, turns},
    {"run_up_sheet.magnetos.at_boost", inHg, 6, 118, charged},
    {"run_up_sheet.magnetos.drop", rpm, 1, 600, "a fall, not a speed"},
    {"run_up_sheet.magnetos.left", rpm, 1, 600, "a fall, not a speed"},
    {"run_up_sheet.magnetos.right", rpm, 1, 600, "a fall, not a speed"},
    {"run_up_sheet.magnetos.difference", rpm, 0, 600, "a fall, not a speed"},
    {"run_up_sheet.magnetos.least", rpm, 0, 600, "a fall, not a speed"},
    {"run_up_sheet.magnetos.on_one", seconds, 0.5, 1800, brief},
    {"run_up_sheet.magnetos.clearing_rpm", rpm, 300, 6000, turns},
    {"run_up_sheet.magnetos.clearing_boost", inHg, 6, 118, charged},
    {"run_up_sheet.magnetos.clearing_for", seconds, 0.5, 1800, brief},
    {"run_up_sheet.propeller.at_rpm", rpm, 300, 6000, turns},
    {"run_up_sheet.propeller.at_boost", inHg, 6, 118, charged},
    {"run_up_sheet.propeller.cycles", plain, 1, 12, "of the lever"},
    {"run_up_sheet.propeller.cycles_in_frost", plain, 1, 12, "of the lever"},
    {"run_up_sheet.propeller.frost_below", celsius, -40, 40, night},
    {"run_up_sheet.propeller.falls", rpm, 0, 3000, "a fall, not a speed"},
    {"run_up_sheet.propeller.feather_falls", rpm, 0, 3000, "a fall, not a speed"},
    {"run_up_sheet.blower.at_rpm", rpm, 300, 6000, turns},
    {"run_up_sheet.blower.at_boost", inHg, 6, 118, charged},
    {"run_up_sheet.blower.boost_rises", pressureInHg, 0, 60, "a rise, not a boost"},
    {"run_up_sheet.blower.oil_pressure_dips", psi, 0, 200, "a fall, not a pressure"},
    {"run_up_sheet.blower.rpm_falls", rpm, 0, 3000, "a fall, not a speed"},
    {"run_up_sheet.blower.hold", seconds, 0.5, 1800, brief},
    {"run_up_sheet.item.at_rpm", rpm, 300, 6000, turns},
    {"run_up_sheet.item.at_boost", inHg, 6, 118, charged},
    {"run_up_sheet.item.takes", seconds, 0.5, 1800, brief},
    {"run_up_sheet.item.pressure", bar, -1.02, 400, "no gauge of these aircraft reads higher"},
    {"run_up_sheet.item.temperature", celsius, -70, 400, "no gauge of these aircraft reads hotter"},
    {"run_up_sheet.item.temperature difference", degrees, -200, 200, "a rise or fall"},
    {"run_up_sheet.item.volts", volts, 0, 60, "of a ship's supply"},
    {"run_up_sheet.item.amperes", amperes, -500, 1500, "of a ship's supply"},
    {"run_up_sheet.item.rpm", rpm, 0, 6000, turns},
    {"run_up_sheet.item.time", seconds, 0, 1800, brief},
    {"letting_down.cooling_per_minute", degrees, 1, 100, "in a minute"},
    {"letting_down.clear_every", minutes, 0.2, 120, brief},
    {"letting_down.clear_for", seconds, 0.5, 1800, brief},
    {"letting_down.clear_boost", inHg, 6, 118, charged},
    {"letting_down.clear_rpm", rpm, 300, 6000, turns},
    {"cooling_down.below", celsius, 20, 300, "heads or coolant before the stop"},
    {"cooling_down.scavenge", seconds, 0, 600, brief},
    {"cooling_down.scavenge_rpm", rpm, 200, 3000, turns},
    {"cooling_down.dilute_under", celsius, -40, 150, oilTemp},
    {"cooling_down.dilution.at", celsius, -70, 40, night},
    {"cooling_down.dilution.minutes", minutes, 0, 60, "more petrol than oil"},
    {"heat.ias", knots, 10, 600, flown},
    {"heat.height", metres, -1000, 15000, high},
    {"heat.flap", plain, 0, 1, share},
    {"heat.slipstream", plain, 0, 1, share},
    {"heat.head", celsius, 60, 350, "at the rated point"},
    {"heat.coolant", celsius, 40, 180, "at the rated point"},
    {"heat.oil", celsius, 20, 160, "at the rated point"},
    {"heat.coolant_thermostat", celsius, 20, 150, "where it opens"},
    {"heat.oil_thermostat", celsius, 10, 130, "where it opens"},
    {"heat.oil_relief", psi, 5, 400, "where the valve opens"},
    {"heat.fuel_pressure", psi, 0.1, 400, "of the engine's pump"},
    {"heat.glycol", plain, 0, 1, share},
    {"heat.coolant_cap", psi, 0, 60, "over the air's pressure"},
    {"trouble.feather.takes", seconds, 1, 120, "of a propeller on its way to feathered"},
    {"trouble.feather.before_rpm", rpm, 100, 2000, "at which a start lock falls in"},
    {"trouble.restart.warm_boost", inHg, 6, 60, charged},
    {"trouble.restart.warm_rpm", rpm, 200, 3000, turns},
    {"trouble.restart.warm_for", minutes, 0.1, 30, "at low power, until it is warm"},
    {"trouble.dive.rpm", rpm, 300, 6000, turns},
    {"trouble.dive.rpm_for", seconds, 1, 600, brief},
    {"trouble.dive.ias", knots, 10, 600, flown},
    {"trouble.dive.least_boost", inHg, 6, 60, charged},
    {"trouble.go-round.open_over", seconds, 0.5, 30, "from the closed throttle to the stop"},
    {"trouble.go-round.not_below", feet, 0, 3000, "above the field"},
    {"trouble.go-round.drag_down", plain, 1, 6, "wheels and flaps down over clean"},
    {"trouble.go-round.wheels_take", seconds, 1, 120, "to come up"},
    {"trouble.glide.ias", knots, 10, 600, flown},
    {"trouble.glide.ratio", plain, 2, 40, "of distance to height"},
    {"PHASE.minutes", minutes, 0, 600, "ten hours is a day's work"},
    {"PHASE.clock.every", minutes, 0.5, 1200, "a chore that comes round in flight"},
    {"PHASE.rpm", rpm, 200, 6000, turns},
    {"PHASE.boost", inHg, 6, 118, charged},
    {"PHASE.ias", knots, 10, 600, flown},
    {"PHASE.rate", climbRate, 10, 10000, "of climb or descent, without a sign"},
    {"PHASE.flap", plain, 0, 1, "share of the way open"},
    {"PHASE.brakes_hold", inHg, 6, 118, charged},
    {"PHASE.tail_lifts", inHg, 6, 118, charged},
    {"walk.part.points.aft", plain, -60, 60, "m; no such aircraft is longer"},
    {"walk.part.points.out", plain, -60, 60, "m; no such aircraft is wider"},
    {"walk.station.aft", plain, -60, 60, "m; no such aircraft is longer"},
    {"walk.station.starboard", plain, -60, 60, "m; no such aircraft is wider"},
    {"walk.station.item.pressure", bar, 0, 400, "no bottle or tyre holds more"},
    {"walk.station.item.length", metres, 0, 10, "of a leg or a mark"},
    {"walk.station.item.volume", litres, 0, 50000, "of a tank"},
    {"walk.station.item.temperature", celsius, -70, 150, night},
};

const KeyRange airframeTable[] = {
    {"format", plain, 1, 1, "the only one there is"},
    {"airframe.hours", plain, 0, 200000, "of one airframe's life"},
    {"airframe.weighed", kilograms, 50, 150000, weights},
    {"airframe.weighed_arm", metres, -50, 100, "longer than any of them"},
    {"airframe.extra_prime", plain, -20, 20, "doses more or less than the notes"},
    {"engine.hours", plain, 0, 50000, "of one engine's life"},
    {"engine.since_overhaul", plain, 0, 50000, "of one engine's life"},
    {"due.every", plain, 0.5, 20000, "hours, from one time to the next"},
    {"due.months", plain, 1, 240, "from one time to the next"},
    {"due.done_hours", plain, 0, 200000, "of one life"},
    {"learnt.by", degrees, -40, 40, "a needle that is further out wants the engineer"},
    {"learnt.pressure", bar, -2, 2, "a needle that is further out wants the engineer"},
    {"learnt.factor", plain, 0.5, 2, "over the notes' or the model's"},
    {"learnt.runs", plain, 1, 100000, "of one airframe's life"},
};

const KeyRange rehearsalTable[] = {
    {"format", plain, 1, 1, "the only one there is"},
    {"rehearsal.seed", plain, 0, 1e15, "any whole number"},
    {"fault.severity", plain, 0, 1, "1 is as bad as it gets"},
    {"fault.chance", plain, 0, 1, "1 is always"},
    {"fault.at", minutes, 0, 720, "nobody rehearses longer"},
    {"fault.until", minutes, 0, 720, "nobody rehearses longer"},
};

const KeyRange logTable[] = {
    {"boost", inHg, 0.6, 118, charged},
    {"rpm", rpm, 0, 6000, turns},
    {"height", feet, -1400, 60000, high},
    {"head", celsius, -60, 500, "frost to melting alloy"},
    {"coolant", celsius, -60, 200, "frost to boiling under pressure"},
    {"oil", celsius, -60, 250, oilTemp},
    {"oil-pressure", psi, 0, 400, "pumps have relief valves far below"},
    {"fuel-pressure", psi, 0, 150, "pumps have relief valves far below"},
    {"charge", celsius, -80, 300, "colder than any air, hotter than any charge that does not detonate"},
    {"torque", psi, 0, 600, "more than any piston engine's mean pressure"},
    {"power", kilowatts, 0, 5000, "of one engine; more than any that flew"},
    {"airspeed", knots, 0, 580, flown},
    {"fuel", litres, 0, 50000, "more than any of them carries"},
    {"fuel-flow", litresPerHour, 0, 3000, "of one engine; more than any that flew"},
    {"carburettor-air", celsius, -80, 150, "colder than any air, hotter than any heater"},
    {"oil-contents", litres, 0, 1000, "more than any tank"},
    {"water-pressure", psi, 0, 200, "pumps have relief valves far below"},
    {"volts", volts, 0, 60, "buses of 12 and 24 V"},
    {"amperes", amperes, -1000, 1000, "more than any generator"},
    {"hydraulic-pressure", psi, 0, 5000, "more than any of them"},
    {"exhaust", celsius, -60, 1200, "frost to red heat"},
    {"weight", kilograms, 50, 150000, weights},
    {"balance", metres, -50, 100, "longer than any of them"},
    {"prime", plain, 0, 100, "strokes or seconds of a primer; more floods any engine"},
    {"tries", plain, 0, 50, "no battery lasts longer"},
    {"crank", seconds, 0, 600, brief},
    {"fire", seconds, 0, 600, brief},
    {"oil-pressure-up", seconds, 0, 300, "stopped long before"},
    {"warm-up", minutes, 0, 120, "nobody warms up longer"},
    {"magneto-left", rpm, -200, 1500, "the engine stops before"},
    {"magneto-right", rpm, -200, 1500, "the engine stops before"},
    {"static-rpm", rpm, 60, 6000, turns},
    {"run-down", seconds, 0, 600, brief},
    {"oil-added", litres, 0, 1000, "more than any tank"},
    {"fuel-added", litres, 0, 50000, "more than any of them carries"},
    {"running", hours, 0, 48, "no run is longer"},
    {"dead-cut", rpm, 0, 3000, "it dies before"},
    {"compression", psi, 0, 600, "more than any piston engine's"},
    {"oil-stick", litres, 0, 1000, "more than any tank"},
    {"stood", minutes, 0, 100000, "two months"},
    {"cooling", degrees, 0, 300, "hotter than that no head is before it falls"},
    {"high-power", minutes, 0, 120, "longer no engine bears it on the ground"},
    {"at-first-fire", minutes, 0, 1440, "a run is a day's at most"},
    {"at-take-off", minutes, 0, 1440, "a run is a day's at most"},
    {"at-top-of-climb", minutes, 0, 1440, "a run is a day's at most"},
    {"at-top-of-descent", minutes, 0, 1440, "a run is a day's at most"},
    {"at-stop", minutes, 0, 1440, "a run is a day's at most"},
    {"at-taxi", minutes, 0, 1440, "a run is a day's at most"},
    {"at-climb-power", minutes, 0, 1440, "a run is a day's at most"},
    {"at-gear-change", minutes, 0, 1440, "a run is a day's at most"},
    {"at-touch-down", minutes, 0, 1440, "a run is a day's at most"},
    {"at-engine-stop", minutes, 0, 1440, "a run is a day's at most"},
    {"at-now", minutes, 0, 1440, "a run is a day's at most"},
};

const KeyRange sortieTable[] = {
    {"format", plain, 1, 1, "the only one there is"},
    {"airframe.extra_prime", plain, -20, 20, "doses more or less than the notes"},
    {"day.elevation", feet, -1400, 18000, "lower or higher than any field"},
    {"day.qnh", hPa, 850, 1100, "lower or higher than any weather"},
    {"day.oat", celsius, -60, 60, "colder or hotter than any field"},
    {"day.dew_point", celsius, -100, 50, "drier or damper than any air"},
    {"day.wind_from", plain, 0, 360, "degrees"},
    {"day.wind_speed", knots, 0, 190, "stronger than any storm"},
    {"load.weight", kilograms, 50, 150000, weights},
    {"load.tanks", litres, 0, 50000, "of one tank"},
    {"load.stations", kilograms, 0, 30000, "at one station"},
    {"load.oil", litres, 0, 2000, "in all tanks"},
    {"fuel.price_of_time", litresPerHour, 0, 5000, "of fuel worth an hour"},
    {"fuel.drop_at", miles, 0, 5400, "a quarter round the earth"},
    {"flight.track", plain, 0, 360, "degrees"},
    {"flight.alternate_distance", miles, 0, 5400, "a quarter round the earth"},
    {"flight.wind_aloft_from", plain, 0, 360, "degrees"},
    {"flight.wind_aloft_speed", knots, 0, 190, "stronger than any storm"},
    {"flight.bad_ground.from", miles, 0, 5400, "of the distance flown"},
    {"flight.bad_ground.to", miles, 0, 5400, "of the distance flown"},
    {"flight.leg.distance", miles, 0, 5400, "a quarter round the earth"},
    {"flight.leg.track", plain, 0, 360, "degrees"},
    {"flight.climb_rpm", rpm, 300, 6000, turns},
    {"flight.climb_boost", inHg, 6, 118, charged},
    {"flight.take_off_rpm", rpm, 300, 6000, turns},
    {"flight.take_off_boost", inHg, 6, 118, charged},
    {"field.runway", plain, 0, 360, "degrees"},
    {"field.length", metres, 30, 10000, "of any strip"},
    {"field.slope", plain, -15, 15, "in a hundred, up positive"},
    {"flight.to_elevation", feet, -1400, 18000, "lower or higher than any field"},
    {"flight.cruise_height", feet, 0, 49000, high},
    {"flight.distance", miles, 0, 5400, "a quarter round the earth"},
    {"flight.hold", minutes, 0, 120, "nobody queues longer with engines running"},
    {"flight.cruise_rpm", rpm, 300, 6000, turns},
    {"flight.cruise_boost", inHg, 6, 118, charged},
    {"start.stopped_for", hours, 0, 100, "longer is cold"},
    {"start.preheated", celsius, -60, 120, "hotter harms it"},
    {"walk_round.attitude", plain, -30, 30, stands},
    {"stop.forecast", celsius, -70, 60, night},
};

const KeyRange commandTable[] = {
    {"rpm", rpm, 60, 6000, turns},
    {"boost", inHg, 0.6, 118, "absolute; full throttle needs none"},
    {"altitude", metres, -1000, 20000, "pressure altitude; the model's air ends there"},
    {"oat", celsius, -93, 66, "colder or hotter than any air"},
    {"ias", knots, 0, 580, flown},
    {"carburettor-heat", degrees, 0, 150, "rise of the carburettor's air"},
    {"dew-point", celsius, -103, 50, "drier or damper than any air"},
    {"mixture", plain, 0.04, 0.14, "fuel to air by weight; nothing burns outside"},
    {"temperature", celsius, -70, 200, "of an engine before its start"},
    {"field", metres, -1000, 6000, "pressure altitude of a field"},
    {"from", feet, 1000, 49000, high},
    {"stopped-at", celsius, 0, 346, "of an engine that has just run"},
    {"until", seconds, 1, 86400, "of a trace, a day at most"},
    {"every", seconds, 0.1, 3600, "between two lines of a trace; a short step at least"},
};

/// "climb.ias" → "PHASE.ias", "limits.oil.climb.max" → "limits.oil".
std::string plainPath(FileFormat format, std::string_view path) {
    if (format != FileFormat::notes)
        return std::string(path);
    const auto first = path.substr(0, path.find('.'));
    if (phaseFromKey(first))
        return "PHASE" + std::string(path.substr(first.size()));
    if (first != "limits" || path.size() <= first.size() + 1)
        return std::string(path);
    if (path.ends_with(".amber_for"))
        return "limits.amber_for";
    const auto rest = path.substr(first.size() + 1);
    return "limits." + std::string(rest.substr(0, rest.find('.')));
}
} // namespace

bool KeyRange::holds(double si) const {
    // A figure written on the edge in another unit may miss it by the last place of the arithmetic.
    const double slack = 1e-9 * (highSi() - lowSi());
    return si >= lowSi() - slack && si <= highSi() + slack;
}

std::string KeyRange::expected(const UnitSpec* in) const {
    const UnitSpec* as = unit && in ? in : unit;
    const auto shown = [&](double value) {
        if (as != unit) { // four figures of it are enough to tell what is out of range
            value = ((value * unit->scale + unit->offset) - as->offset) / as->scale;
            const double step = std::pow(10.0, std::floor(std::log10(std::max(1e-9, std::abs(value)))) - 3.0);
            value = std::round(value / step) * step;
        }
        return formatNumber(value, 3, as && as->showSign);
    };
    return fmt::format("Between {} and {}{} is expected: {}", shown(low), shown(high),
                       as ? " " + std::string(as->symbol) : "", why);
}

std::span<const KeyRange> keyRanges(FileFormat format) {
    switch (format) {
    case FileFormat::notes:
        return notesTable;
    case FileFormat::sortie:
        return sortieTable;
    case FileFormat::airframe:
        return airframeTable;
    case FileFormat::rehearsal:
        return rehearsalTable;
    case FileFormat::log:
        return logTable;
    case FileFormat::command:
        break;
    }
    return commandTable;
}

const KeyRange* rangeOf(FileFormat format, std::string_view path) {
    using Index = std::map<std::string_view, const KeyRange*>;
    const auto index = [](std::span<const KeyRange> table) {
        Index out;
        for (const auto& row : table)
            out.emplace(row.key, &row);
        return out;
    };
    static const Index all[] = {index(notesTable),    index(sortieTable),    index(commandTable),
                                index(airframeTable), index(rehearsalTable), index(logTable)};
    const Index& table = all[static_cast<std::size_t>(format)];
    const auto found = table.find(plainPath(format, path));
    return found == table.end() ? nullptr : found->second;
}

std::string rangesAsMarkdown(FileFormat format) {
    std::string out = "| figure | from | to | in | why |\n|---|---|---|---|---|\n";
    for (const auto& row : keyRanges(format))
        out += fmt::format("| {} | {} | {} | {} | {} |\n", row.key, formatNumber(row.low, 3), formatNumber(row.high, 3),
                           row.unit ? row.unit->symbol : "", row.why);
    return out;
}

} // namespace amber
