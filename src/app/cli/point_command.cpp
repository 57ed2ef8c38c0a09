// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/point_command.h"
#include "air/atmosphere.h"
#include "air/humidity.h"
#include "cli/exit_codes.h"
#include "engine/fuel_grade.h"
#include "engine/knock.h"
#include "engine/operating_point.h"
#include "plan/loading.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
/// Prints the fault of one option and gives the exit code for it.
int wrong(const char* option, const std::string& why) {
    fmt::print(stderr, "amber-throttle point: --{}: {}\n", option, why);
    return exitUsage;
}
} // namespace

int runPoint(const PointOptions& o) {
    const auto loaded = plan::loadAircraft(o.notes, o.variant);
    if (!loaded.aircraft) {
        for (const auto& p : loaded.problems)
            fmt::print(stderr, "{}\n", p.text());
        return exitProblems;
    }
    const TypeNotes& notes = loaded.aircraft->notes;
    engine::Demand demand;
    const auto rpm = read<Dimension::rotation>(o.rpm, units::rpm.spec);
    if (!rpm || rpm.value().si() < 1 || rpm.value().si() > 100)
        return wrong("rpm", rpm ? "between 60 and 6,000 rpm is expected" : rpm.error());
    demand.rpm = rpm.value();
    if (!o.boost.empty()) {
        const auto boost = read<Dimension::manifoldPressure>(o.boost, notes.cockpit.boost);
        if (!boost || boost.value().si() < 2e3 || boost.value().si() > 4e5)
            return wrong("boost", boost ? "between 0.6 and 118 inHg is expected" : boost.error());
        demand.boost = boost.value();
    }
    const auto gear = notes.gearIndex(o.gear);
    if (!gear || (notes.engine.gears.empty() && !o.gear.empty()))
        return wrong("gear", fmt::format("the {} has no gear \"{}\"", notes.engine.name, o.gear));
    demand.gear = *gear;
    const auto altitude = read<Dimension::length>(o.altitude, notes.cockpit.height);
    if (!altitude || altitude.value().si() < -1000 || altitude.value().si() > 20000)
        return wrong("altitude", altitude ? "between −1,000 and 20,000 m is expected" : altitude.error());
    air::Day day = air::standardDay(Length{});
    if (!o.oat.empty()) {
        const auto oat = read<Dimension::temperature>(o.oat, notes.cockpit.temperature);
        if (!oat || oat.value().si() < 180 || oat.value().si() > 340)
            return wrong("oat", oat ? "between −93 and 66 °C is expected" : oat.error());
        // The outside temperature at the altitude asked for: the day keeps its deviation at every height.
        day.oat = Temperature::si(day.oat.si() + oat.value().si() - air::standardTemperature(altitude.value()).si());
    }
    demand.air = day.at(altitude.value());
    if (!o.ias.empty()) {
        const auto ias = read<Dimension::speed>(o.ias, notes.cockpit.speed);
        if (!ias || ias.value().si() < 0 || ias.value().si() > 300)
            return wrong("ias", ias ? "between 0 and 580 kt is expected" : ias.error());
        demand.ias = ias.value();
    }
    if (o.mixture == "weak") {
        demand.mixture = Mixture::weak;
    } else if (o.mixture != "rich" && !o.mixture.empty()) {
        std::string_view rest;
        const auto ratio = readNumber(o.mixture, rest);
        if (!ratio || !rest.empty() || ratio.value() < 0.04 || ratio.value() > 0.14)
            return wrong("mixture", "rich, weak or a fuel–air ratio between 0.04 and 0.14 is expected");
        demand.mixture = ratio.value();
    }
    if (!o.carburettorHeat.empty()) {
        const auto heat = read<Dimension::temperatureDifference>(o.carburettorHeat, units::deltaCelsius.spec);
        if (!heat || heat.value().si() < 0 || heat.value().si() > 150)
            return wrong("carburettor-heat", heat ? "between 0 and 150 °C is expected" : heat.error());
        demand.carburettorHeat = heat.value().si();
    }
    if (!o.dewPoint.empty()) {
        const auto dew = read<Dimension::temperature>(o.dewPoint, notes.cockpit.temperature);
        if (!dew || dew.value().si() < 170 || dew.value().si() > demand.air.temperature.si() + 0.5)
            return wrong("dew-point", dew ? "it cannot be above the air's temperature" : dew.error());
        demand.air.vapour = air::vapourPressure(dew.value());
    }
    demand.water = o.water;
    const std::string grade = o.grade.empty() ? notes.fuel.grades.front() : o.grade;
    if (!engine::gradeNumber(grade))
        return wrong("grade", fmt::format("\"{}\" is not a fuel grade", grade));
    const engine::KnockBoundary knock(notes, loaded.aircraft->model(), grade);
    const auto point = engine::operate(loaded.aircraft->model(), demand);
    const ManifoldPressure held = demand.boost.value_or(point.manifoldPressure);
    const auto height = engine::fullThrottleHeight(loaded.aircraft->model(), demand.rpm, held, demand.gear, day,
                                                   demand.ias, demand.mixture);
    const double power = point.power.si() / 1000, fuel = point.fuelFlow.in(units::kgPerHour);
    if (o.json) {
        nlohmann::ordered_json out;
        out["power_kW"] = power;
        out["manifold_pressure_kPa"] = point.manifoldPressure.in(units::manifold::kPa);
        out["full_throttle"] = point.fullThrottle;
        out["charge_temperature_C"] = point.chargeTemperature.in(units::celsius);
        out["air_flow_kg_h"] = point.airFlow.in(units::kgPerHour);
        out["fuel_flow_kg_h"] = fuel;
        out["bsfc_g_kWh"] = power > 0 ? nlohmann::ordered_json(fuel * 1000 / power) : nlohmann::ordered_json(nullptr);
        out["bmep_kPa"] = point.meanEffectivePressure / 1000;
        out["fuel_air_ratio"] = point.fuelAirRatio;
        out["carburettor_pressure_kPa"] = point.carburettorPressure.si() / 1000;
        out["carburettor_temperature_C"] = point.carburettorTemperature.in(units::celsius);
        if (!notes.engine.gears.empty())
            out["knock_limit_kPa"] = knock.permitted(demand).si() / 1000;
        if (o.staticRpm)
            out["static_rpm"] = engine::staticRpm(loaded.aircraft->model(), loaded.aircraft->fineStop,
                                                  point.manifoldPressure, demand.gear, demand.air, demand.rpm)
                                    .si() *
                                60;
        out["full_throttle_height_m"] = height ? nlohmann::ordered_json(height->si()) : nlohmann::ordered_json(nullptr);
        out["origin"] = markOf(Origin::model);
        fmt::print("{}\n", out.dump(2));
    } else {
        fmt::print("power              {} ({})\n", format(point.power.si(), *notes.cockpit.power),
                   markOf(Origin::model));
        fmt::print("boost              {}{}\n", format(point.manifoldPressure.si(), *notes.cockpit.boost),
                   point.fullThrottle ? ", full throttle" : "");
        fmt::print("charge temperature {}\n", format(point.chargeTemperature.si(), *notes.cockpit.temperature));
        fmt::print("air, fuel          {:.0f} kg/h, {:.1f} kg/h\n", point.airFlow.in(units::kgPerHour), fuel);
        fmt::print("mean pressure      {}\n", format(point.meanEffectivePressure, *notes.cockpit.pressure));
        if (!notes.engine.gears.empty())
            fmt::print("knock boundary     {} on grade {}\n",
                       format(knock.permitted(demand).si(), *notes.cockpit.boost), grade);
        fmt::print("full-throttle height {}\n",
                   height ? format(height->si(), *notes.cockpit.height) : "none: this boost cannot be had");
    }
    return exitOk;
}

} // namespace amber::app
