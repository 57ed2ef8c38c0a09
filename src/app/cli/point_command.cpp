// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/atmosphere.h"
#include "air/humidity.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "engine/fuel_grade.h"
#include "engine/knock.h"
#include "engine/operating_point.h"
#include "flight/cruise.h"
#include "flight/open_files.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
/// The options of `amber-throttle point`, as typed.
struct PointOptions {
    std::string notes, variant, rpm, boost, gear, altitude, oat, ias, mixture, grade, carburettorHeat, dewPoint;
    bool water = false, staticRpm = false;
    bool json = false;
};
/// Prints what is wrong with an option and gives the exit code for it.
int wrong(const std::string& why) {
    fmt::print(stderr, "amber-throttle point: {}\n", why);
    return exitUsage;
}
} // namespace

static int runPoint(const PointOptions& o) {
    const auto loaded = flight::loadAircraft(o.notes, o.variant);
    if (!loaded.aircraft) {
        for (const auto& p : loaded.problems)
            fmt::print(stderr, "{}\n", p.text());
        return exitProblems;
    }
    const TypeNotes& notes = loaded.aircraft->notes;
    engine::Demand demand;
    const auto rpm = readOption<Dimension::rotation>("rpm", o.rpm, units::rpm.spec);
    if (!rpm)
        return wrong(rpm.error());
    demand.rpm = rpm.value();
    if (!o.boost.empty()) {
        const auto boost = readOption<Dimension::manifoldPressure>("boost", o.boost, notes.cockpit.boost);
        if (!boost)
            return wrong(boost.error());
        demand.boost = boost.value();
    }
    const auto gear = notes.gearIndex(o.gear);
    if (!gear || (notes.engine.gears.empty() && !o.gear.empty()))
        return wrong(fmt::format("--gear: the {} has no gear \"{}\"", notes.engine.name, o.gear));
    demand.gear = *gear;
    const auto altitude = readOption<Dimension::length>("altitude", o.altitude, notes.cockpit.height);
    if (!altitude)
        return wrong(altitude.error());
    air::Day day = air::standardDay(Length{});
    if (!o.oat.empty()) {
        const auto oat = readOption<Dimension::temperature>("oat", o.oat, notes.cockpit.temperature);
        if (!oat)
            return wrong(oat.error());
        // The outside temperature at the altitude asked for: the day keeps its deviation at every height.
        day.oat = Temperature::si(day.oat.si() + oat.value().si() - air::standardTemperature(altitude.value()).si());
    }
    demand.air = day.at(altitude.value());
    if (!o.ias.empty()) {
        const auto ias = readOption<Dimension::speed>("ias", o.ias, notes.cockpit.speed);
        if (!ias)
            return wrong(ias.error());
        demand.ias = ias.value();
    }
    if (o.mixture == "weak") {
        demand.mixture = Mixture::weak;
    } else if (o.mixture != "rich" && !o.mixture.empty()) {
        std::string_view rest;
        const auto ratio = readNumber(o.mixture, rest);
        const KeyRange& range = *rangeOf(FileFormat::command, "mixture");
        if (!ratio || !rest.empty() || !range.holds(ratio.value()))
            return wrong("--mixture: rich, weak or a fuel–air ratio. " + range.expected());
        demand.mixture = ratio.value();
    }
    if (!o.carburettorHeat.empty()) {
        const auto heat = readOption<Dimension::temperatureDifference>("carburettor-heat", o.carburettorHeat,
                                                                       units::deltaCelsius.spec);
        if (!heat)
            return wrong(heat.error());
        demand.carburettorHeat = heat.value().si();
    }
    if (!o.dewPoint.empty()) {
        const auto dew = readOption<Dimension::temperature>("dew-point", o.dewPoint, notes.cockpit.temperature);
        if (!dew || dew.value().si() > demand.air.temperature.si() + 0.5)
            return wrong(dew ? "--dew-point: it cannot be above the air's temperature" : dew.error());
        demand.air.vapour = air::vapourPressure(dew.value());
    }
    demand.water = o.water;
    const std::string grade = o.grade.empty() ? notes.fuel.grades.front() : o.grade;
    if (!engine::gradeNumber(grade))
        return wrong("--grade: " + engine::gradeRemark(notes, grade));
    if (o.water && std::none_of(notes.ratings.begin(), notes.ratings.end(), [](const Rating& r) { return r.water; }))
        return wrong(fmt::format("--water: the {} has no water injection", notes.name));
    const engine::KnockBoundary knock(notes, loaded.aircraft->model(), grade);
    const auto point = engine::operate(loaded.aircraft->model(), demand);
    const ManifoldPressure held = demand.boost.value_or(point.manifoldPressure);
    const auto height = engine::fullThrottleHeight(loaded.aircraft->model(), demand.rpm, held, demand.gear, day,
                                                   demand.ias, demand.mixture);
    const flight::LeverSetting setting{demand.rpm, demand.boost, demand.gear,
                                       o.mixture == "weak" ? Mixture::weak : Mixture::rich};
    const Rating* rating = flight::coveringRating(notes, grade, setting, point.manifoldPressure, o.water,
                                                  air::pressureAltitude(demand.air.pressure));
    std::vector<std::string> remarks;
    if (const auto remark = engine::gradeRemark(notes, grade); !remark.empty())
        remarks.push_back(remark + ".");
    if (!rating)
        remarks.emplace_back("More than any rating of the notes allows at this rpm and boost: not to be flown.");
    if (!notes.engine.gears.empty() && point.manifoldPressure > knock.permitted(demand))
        remarks.emplace_back("Beyond the detonation limit (model) on this grade.");
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
        out["rating"] = rating ? nlohmann::ordered_json(rating->key) : nlohmann::ordered_json(nullptr);
        out["minutes"] =
            rating && rating->minutes ? nlohmann::ordered_json(rating->minutes->in(units::minute)) : nullptr;
        out["remarks"] = remarks;
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
            fmt::print("detonation limit     {} on grade {}\n",
                       format(knock.permitted(demand).si(), *notes.cockpit.boost), grade);
        fmt::print("full-throttle height {}\n", !height ? "none: this boost cannot be had"
                                                : height->si() >= engine::modelTop.si() - 1
                                                    ? "none: it is held to the top of the model's air, " +
                                                          formatHeight(height->si(), *notes.cockpit.height)
                                                    : formatHeight(height->si(), *notes.cockpit.height));
        fmt::print("rating             {}\n",
                   !rating ? "none covers it"
                   : rating->minutes
                       ? fmt::format("{}, for {}", rating->name, formatMinutesSeconds(rating->minutes->si()))
                       : rating->name + ", without limit of time");
        for (const auto& remark : remarks)
            fmt::print("{}\n", remark);
    }
    return exitOk;
}

namespace {
class PointCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "point"; }
    [[nodiscard]] const char* help() const override { return "One steady point of one engine"; }
    void declare(Arguments& a) override {
        a.text("--notes", o_.notes, "Type notes (TOML)", Arguments::Need::required);
        a.text("--variant", o_.variant, "Variant of the type");
        a.text("--rpm", o_.rpm, "Engine speed", Arguments::Need::required);
        a.text("--boost", o_.boost, "Boost or manifold pressure with its unit; full throttle without");
        a.text("--gear", o_.gear, "Supercharger gear");
        a.text("--altitude", o_.altitude, "Pressure altitude", Arguments::Need::required);
        a.text("--oat", o_.oat, "Outside air temperature there; standard without");
        a.text("--ias", o_.ias, "Indicated airspeed, for ram; standing without");
        a.text("--mixture", o_.mixture, "rich, weak or a fuel-air ratio");
        a.text("--grade", o_.grade, "Fuel grade for the detonation limit; the best of the notes without");
        a.text("--carburettor-heat", o_.carburettorHeat, "Rise of the carburettor air");
        a.text("--dew-point", o_.dewPoint, "Dew point of the air; dry without");
        a.flag("--water", o_.water, "Water injection on");
        a.flag("--static", o_.staticRpm, "Also the static rpm on the fine stop at this boost");
        a.flag("--json", o_.json, "JSON to standard output");
    }
    int run(const CommandActions&) override { return runPoint(o_); }

private:
    PointOptions o_;
};
} // namespace

std::unique_ptr<Command> pointCommand() {
    return std::make_unique<PointCommand>();
}

} // namespace amber::app
