// SPDX-License-Identifier: GPL-3.0-or-later
// What bench/compare_scipy.py solves again: parameters, conditions, our answers and how long they took, as JSON.
#include "data_folder.h"
#include "engine/power_chart.h"
#include "flight/flown.h"
#include "flight/open_files.h"
#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <fmt/format.h>
#include <functional>
#include <nlohmann/json.hpp>

using namespace amber;
using json = nlohmann::json;

namespace {
double secondsOf(const std::function<void()>& work, int times) {
    double best = 1e9;
    for (int i = 0; i < times; ++i) {
        const auto begin = std::chrono::steady_clock::now();
        work();
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    return best;
}

json engineOf(const engine::EngineParameters& e) {
    json gears = json::array();
    for (const auto& g : e.gears)
        gears.push_back({{"ratio", g.ratio}, {"efficiency", g.efficiency}});
    json rich = json::array();
    for (const auto& [x, y] : e.rich)
        rich.push_back({x, y});
    return {{"displacement", e.displacement},
            {"compression", e.compression},
            {"stroke", e.stroke},
            {"impeller", e.impellerDiameter},
            {"gears", gears},
            {"work_factor", e.workFactor},
            {"isac", e.isac},
            {"friction_base", e.frictionBase},
            {"friction_speed", e.frictionSpeed},
            {"volumetric", e.volumetric},
            {"ram", e.ram},
            {"throttle_loss", e.throttleLoss},
            {"rich", rich},
            {"rated_charge", e.ratedCharge}};
}
} // namespace

int main() {
    const auto lorimer = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    const auto mercer = flight::loadSortie(test::dataFolder() + "/demo/mercer-frost.toml");
    if (!lorimer.ok() || !mercer.ok())
        return 2;
    const auto& a = *lorimer.aircraft;
    json out;
    out["engine"] = engineOf(a.model());
    // A chart of 10,000 points: rpm, boost and height in both gears, standard day, mixture set.
    std::vector<engine::Demand> demands;
    const air::Day day = air::standardDay(Length{});
    for (std::size_t gear = 0; gear < 2; ++gear)
        for (int i = 0; i < 20; ++i)
            for (int j = 0; j < 25; ++j)
                for (int k = 0; k < 10; ++k)
                    demands.push_back({Rotation::si((1400 + 65.0 * i) / 60), ManifoldPressure::si(5e4 + 4500.0 * j),
                                       gear, day.at(Length::si(900.0 * k)), Speed::si(60), 0.085});
    std::vector<engine::OperatingPoint> points(demands.size());
    out["points_s"] = secondsOf([&] { engine::operate(a.model(), demands, points); }, 9);
    out["points"] = json::array();
    for (std::size_t i = 0; i < demands.size(); ++i)
        out["points"].push_back({demands[i].rpm.si(), demands[i].boost->si(), demands[i].gear,
                                 demands[i].air.pressure.si(), demands[i].air.temperature.si(), demands[i].ias.si(),
                                 std::get<double>(demands[i].mixture), points[i].power.si(),
                                 points[i].manifoldPressure.si(), points[i].chargeTemperature.si()});
    // Full-throttle heights: the same root.
    struct Root {
        double rpm, boost;
        std::size_t gear;
    };
    std::vector<Root> roots;
    for (std::size_t gear = 0; gear < 2; ++gear)
        for (int i = 0; i < 25; ++i)
            roots.push_back({(2000 + 24.0 * i) / 60, 1.0e5 + 1000.0 * i, gear});
    std::vector<double> heights(roots.size());
    out["roots_s"] = secondsOf(
        [&] {
            for (std::size_t i = 0; i < roots.size(); ++i)
                heights[i] =
                    engine::fullThrottleHeight(a.model(), Rotation::si(roots[i].rpm),
                                               ManifoldPressure::si(roots[i].boost), roots[i].gear, day, Speed{}, 0.085)
                        .value_or(Length::si(-1e9))
                        .si();
        },
        9);
    out["roots"] = json::array();
    for (std::size_t i = 0; i < roots.size(); ++i)
        out["roots"].push_back({roots[i].rpm, roots[i].boost, roots[i].gear, heights[i]});
    // Temperatures of the four-engined sortie.
    const auto& m = *mercer.aircraft;
    const auto flown = flight::fly(m, *mercer.sortie);
    out["heat_s"] = secondsOf(
        [&] {
            heat::Temperatures at{flight::engineTemperatureOf(*mercer.sortie),
                                  flight::engineTemperatureOf(*mercer.sortie)};
            for (const auto& s : flown.stretches)
                at = m.thermal.after(at, s.drive, Duration::si(s.duration));
            if (at.oil.si() < 0)
                std::abort(); // never: so that the loop is not thrown away
        },
        9);
    out["heat_engines"] = 1;
    out["heat_constants"] = json::object();
    for (const auto& [name, value] : m.thermal.constants())
        out["heat_constants"][name] = value;
    out["heat_from"] = flight::engineTemperatureOf(*mercer.sortie).si();
    out["heat"] = json::array();
    heat::Temperatures t{flight::engineTemperatureOf(*mercer.sortie), flight::engineTemperatureOf(*mercer.sortie)};
    for (const auto& s : flown.stretches) {
        t = m.thermal.after(t, s.drive, Duration::si(s.duration));
        json one{{"duration", s.duration}, {"metal", t.headOrCoolant.si()}, {"oil", t.oil.si()}};
        for (const auto& [name, value] : m.thermal.forcingOf(s.drive))
            one[name] = value;
        out["heat"].push_back(std::move(one));
    }
    fmt::print("{}\n", out.dump());
    return 0;
}
