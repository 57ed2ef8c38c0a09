// SPDX-License-Identifier: GPL-3.0-or-later
// What follows every keystroke: figures in docs/performance.md, made by tools/measure-performance.
#include "advice/cooling.h"
#include "advice/ground_budget.h"
#include "data_folder.h"
#include "engine/operating_point.h"
#include "engine/power_chart.h"
#include "flight/cruise.h"
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "plan/pictures.h"
#include "plan/plan.h"
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

const flight::LoadedSortie& mercerDemo() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/mercer-frost.toml");
    return loaded;
}

void temperaturesOfFourEngines(benchmark::State& state) {
    const auto flown = flight::fly(*mercerDemo().aircraft, *mercerDemo().sortie);
    for (auto _ : state)
        benchmark::DoNotOptimize(flight::fly(*mercerDemo().aircraft, *mercerDemo().sortie));
}
BENCHMARK(temperaturesOfFourEngines)->Unit(benchmark::kMillisecond);

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
