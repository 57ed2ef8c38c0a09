// SPDX-License-Identifier: GPL-3.0-or-later
// What follows every keystroke: figures in docs/performance.md, made by tools/measure-performance.
#include "advice/best_cruise.h"
#include "advice/cooling.h"
#include "advice/day_allows.h"
#include "advice/ground_budget.h"
#include "advice/load_cures.h"
#include "data_folder.h"
#include "engine/operating_point.h"
#include "engine/power_chart.h"
#include "flight/cruise.h"
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "plan/pictures.h"
#include "plan/plan.h"
#include "powerplant/powerplant.h"
#include "units/unit_table.h"
#include <benchmark/benchmark.h>

using namespace amber;

namespace {

const flight::LoadedSortie& lorimer() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    return loaded;
}

engine::Demand climb() {
    return {Rotation::of(2350, units::rpm),
            ManifoldPressure::of(39, units::manifold::inHg),
            0,
            lorimer().sortie->day.at(Length::si(1500)),
            Speed::of(130, units::knot),
            Mixture::rich};
}

void steadyPoint(benchmark::State& state) {
    const auto demand = climb();
    for (auto _ : state)
        benchmark::DoNotOptimize(engine::operate(lorimer().aircraft->model(), demand));
}
BENCHMARK(steadyPoint);

void fullThrottleHeightRoot(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(engine::fullThrottleHeight(lorimer().aircraft->model(), Rotation::of(2350, units::rpm),
                                                            ManifoldPressure::of(39, units::manifold::inHg), 0,
                                                            lorimer().sortie->day, Speed::of(130, units::knot)));
}
BENCHMARK(fullThrottleHeightRoot);

void calibrateFromRatingLines(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(engine::calibrate(lorimer().aircraft->notes));
}
BENCHMARK(calibrateFromRatingLines);

void flySortie(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(flight::fly(*lorimer().aircraft, *lorimer().sortie));
}
BENCHMARK(flySortie)->Unit(benchmark::kMillisecond);

void planRecompute(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::makePlan(*lorimer().aircraft, *lorimer().sortie));
}
BENCHMARK(planRecompute)->Unit(benchmark::kMillisecond);

void planOfTheFourEnginedType(benchmark::State& state) {
    static const auto mercer = flight::loadSortie(test::dataFolder() + "/demo/mercer-frost.toml");
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::makePlan(*mercer.aircraft, *mercer.sortie));
}
BENCHMARK(planOfTheFourEnginedType)->Unit(benchmark::kMillisecond);

void planWithComparison(benchmark::State& state) {
    for (auto _ : state) {
        const auto p = plan::makePlan(*lorimer().aircraft, *lorimer().sortie);
        benchmark::DoNotOptimize(plan::compareDays(*lorimer().aircraft, *lorimer().sortie, p.flown, Phase::climb));
    }
}
BENCHMARK(planWithComparison)->Unit(benchmark::kMillisecond);

void cruiseChart(benchmark::State& state) {
    const auto flown = flight::fly(*lorimer().aircraft, *lorimer().sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(plan::cruisePicture(*lorimer().aircraft, *lorimer().sortie, flown));
}
BENCHMARK(cruiseChart)->Unit(benchmark::kMillisecond);

void chartOfTenThousandPoints(benchmark::State& state) {
    const auto& a = *lorimer().aircraft;
    std::size_t lines = 0;
    const auto small = engine::powerChart(a.notes, a.model(), Rotation::of(2350, units::rpm), 40);
    lines = small.points() / 40;
    const int perLine = static_cast<int>(10000 / std::max<std::size_t>(1, lines)) + 1;
    for (auto _ : state)
        benchmark::DoNotOptimize(engine::powerChart(a.notes, a.model(), Rotation::of(2350, units::rpm), perLine));
}
BENCHMARK(chartOfTenThousandPoints)->Unit(benchmark::kMillisecond);

void cruiseCandidatesSearch(benchmark::State& state) {
    const auto& a = *lorimer().aircraft;
    const flight::CruiseConditions c{lorimer().sortie->day.at(Length::of(9000, units::foot)), lorimer().sortie->weight,
                                     Volume::of(500, units::usGallon), "100"};
    for (auto _ : state)
        benchmark::DoNotOptimize(flight::cruiseCandidates(a, c, flight::Ask::power, 600 * 745.7));
}
BENCHMARK(cruiseCandidatesSearch)->Unit(benchmark::kMillisecond);

/// The whole picture of the best cruise: curves by height, the three best, the knee.
void bestCruisePicture(benchmark::State& state) {
    const auto& l = lorimer();
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(advice::CruiseSearch(*l.aircraft, *l.sortie, f).search());
}
BENCHMARK(bestCruisePicture)->Unit(benchmark::kMillisecond);

/// Every bound of the climb over the rpm.
void mapOfWhatTheDayAllows(benchmark::State& state) {
    const auto& l = lorimer();
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(advice::dayAllows(*l.aircraft, *l.sortie, f, Phase::climb));
}
BENCHMARK(mapOfWhatTheDayAllows)->Unit(benchmark::kMillisecond);

/// A load that leaves the envelope: every cure searched and flown.
void curesOfALoad(benchmark::State& state) {
    static const auto l = flight::loadSortie(test::dataFolder() + "/demo/wheelwright-windy.toml");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(advice::loadCures(*l.aircraft, *l.sortie, f));
}
BENCHMARK(curesOfALoad)->Unit(benchmark::kMillisecond);

const flight::LoadedSortie& mercerDemo() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/mercer-frost.toml");
    return loaded;
}

/// Four engines flown a second in short steps, each with temperatures of its own so that none is stepped for another.
void secondOfFourEnginesInShortSteps(benchmark::State& state) {
    const auto& l = mercerDemo();
    const powerplant::Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    auto s = plant.standing(l.sortie->day, Temperature::of(80, units::celsius));
    auto levers = plant.levers();
    const powerplant::Run run{&l.sortie->day, {}, true};
    s.height = 2000;
    s.ias = 80;
    levers.path = {powerplant::Path::Kind::rateHeld, 80, 0};
    for (auto& e : levers.engines) {
        e.cock = e.booster = true;
        e.cutOff = false;
        e.ignition = powerplant::Ignition::both;
        e.throttle = powerplant::boostHeld(100e3);
        e.rpm = 33;
    }
    for (std::size_t i = 0; i < plant.count(); ++i) {
        s.engines[i].headOrCoolant += 3.0 * static_cast<double>(i);
        s.engines[i] = plant.engine(i).running(s.engines[i], levers.engines[i], plant.around(s, levers, run, i));
    }
    const auto from = s;
    for (auto _ : state) {
        if (s.now > 600'000)
            s = from;
        benchmark::DoNotOptimize(plant.steps(s, levers, run, 1000));
    }
}
BENCHMARK(secondOfFourEnginesInShortSteps)->Unit(benchmark::kMicrosecond);

void groundBudgetOfEightWays(benchmark::State& state) {
    const auto flown = flight::fly(*mercerDemo().aircraft, *mercerDemo().sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(
            advice::groundBudget(*mercerDemo().aircraft, *mercerDemo().sortie, flown, advice::GroundFrom::holding));
}
BENCHMARK(groundBudgetOfEightWays)->Unit(benchmark::kMillisecond);

void coolingPictureOfTheClimb(benchmark::State& state) {
    const auto flown = flight::fly(*lorimer().aircraft, *lorimer().sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(advice::coolingPicture(*lorimer().aircraft, *lorimer().sortie, flown, Phase::climb));
}
BENCHMARK(coolingPictureOfTheClimb)->Unit(benchmark::kMillisecond);

void loadSortieAndNotes(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml"));
}
BENCHMARK(loadSortieAndNotes)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
