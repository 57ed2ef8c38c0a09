// SPDX-License-Identifier: GPL-3.0-or-later
#include "other_engines.h"
#include "air/atmosphere.h"
#include "units/unit_table.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace amber::bench {
namespace {
constexpr double gasConstant = 287.05, specificHeat = 1005.0;

/// Uniform and normal draws that do not depend on the library's distributions.
struct Dice {
    std::mt19937_64 engine;
    double between(double low, double high) {
        return low + (high - low) * static_cast<double>(engine() >> 11) * 0x1.0p-53;
    }
    double about(double middle, double deviation) { // sum of twelve: bounded at six deviations
        double sum = -6.0;
        for (int i = 0; i < 12; ++i)
            sum += between(0, 1);
        return middle + deviation * sum;
    }
};

double rounded(double value, double to) {
    return std::round(value / to) * to;
}
} // namespace

OtherEngine::Output OtherEngine::run(double rpm, std::optional<double> boost, std::size_t gear, const air::Ambient& air,
                                     bool weakMixture) const {
    const double ambient = air.pressure.si(), outside = air.temperature.si();
    const double pistonSpeed = 2 * stroke * rpm, swept = displacement * rpm / 2, relative = rpm / ratedRpm;
    const double most = boost.value_or(5e5);
    double manifold = std::min(most, ambient * 1.5), flow = 0.8 * manifold / (gasConstant * 330) * swept;
    const double ratedFlow = 0.85 * ratedBoost / (gasConstant * 340) * displacement * ratedRpm / 2;
    double charge = 330, work = 0, ratio = weak, wide = ambient;
    for (int pass = 0; pass < 40; ++pass) {
        const double load =
            manifold * rpm / (takeOffBoost * ratedRpm); // of the highest rating's charge, as notes state it
        ratio =
            weakMixture ? weak : richAtCruise + (richAtRated - richAtCruise) * std::clamp((load - 0.5) / 0.5, 0., 1.2);
        const double share = flow / ratedFlow;
        wide = ambient * (1 - carburettorLoss * share * share);
        const double inlet = outside - 245.0 * ratio;
        charge = inlet;
        work = 0;
        if (!gears.empty()) {
            const double tip = std::numbers::pi * impeller * rpm * gears[gear];
            const double coefficient = flow * gasConstant * inlet / wide / (tip * impeller * impeller) / flowBest;
            const double off = coefficient - 1;
            const double efficiency = std::max(0.35, blowerBest * (1 - blowerFall * off * off));
            work = (workFactor - workFall * off) * tip * tip;
            wide *= std::pow(1 + efficiency * work / (specificHeat * inlet), 3.5);
            charge = inlet + work / specificHeat;
        }
        manifold = std::min(most, wide);
        const double exhaust = ambient * (1 + backPressure * share * share);
        const double fill = filling * (1 - fillingFall * (std::pow(pistonSpeed / 14, 2) - 1)) *
                            (compression - std::pow(exhaust / manifold, 1 / residual)) / (compression - 1) *
                            std::pow(charge / 330, fillingHeat);
        const double dry = manifold * (1 - air.vapour.si() / ambient);
        flow = 0.5 * flow + 0.5 * fill * dry / (gasConstant * charge) * swept;
    }
    const double share = flow / ratedFlow, exhaust = ambient * (1 + backPressure * share * share);
    const double off = (ratio - mixtureBest) * (ratio < mixtureBest ? 1.55 : 1.0);
    const double indicated = flow / airPerWork * (1 - heatLoss * (1 / std::max(0.3, relative) - 1)) *
                             std::max(0.3, 1 - mixtureFall * off * off * (ratio < mixtureBest ? 1.6 : 1));
    const double friction = frictionBase + frictionPeak * peakPerBoost * manifold + frictionSpeed * pistonSpeed +
                            frictionSquare * pistonSpeed * pistonSpeed;
    return {indicated - swept * (friction + pumping * (exhaust - manifold)) - flow * (1 + ratio) * work / 0.95,
            flow * ratio, manifold, most >= wide};
}

std::optional<double> OtherEngine::holdsTo(double rpm, double boost, std::size_t gear) const {
    const air::Day day = air::standardDay(Length{});
    double low = -500, high = 14000;
    const auto holds = [&](double h) { return run(rpm, {}, gear, day.at(Length::si(h)), false).manifold >= boost; };
    if (!holds(low))
        return std::nullopt;
    while (high - low > 0.5) {
        const double middle = 0.5 * (low + high);
        (holds(middle) ? low : high) = middle;
    }
    return low;
}

OtherEngine otherEngine(std::uint64_t seed) {
    Dice d{std::mt19937_64(0x5EED0000 + seed)};
    OtherEngine e;
    for (int i = 0; i < 20; ++i)
        d.engine();
    e.cylinders = std::array{7, 9, 12, 14, 18}[static_cast<std::size_t>(d.between(0, 4.999))];
    e.displacement = e.cylinders * d.between(1.7, 3.1) / 1000;
    e.compression = d.between(5.5, 7.3);
    e.stroke =
        std::clamp(std::cbrt(e.displacement / e.cylinders * 4 / std::numbers::pi) * d.between(0.95, 1.15), 0.12, 0.19);
    e.ratedRpm = d.between(11.5, 15.0) / (2 * e.stroke);
    e.filling = d.about(0.89, 0.02);
    e.fillingFall = d.between(0.03, 0.08);
    e.fillingHeat = d.between(0.3, 0.6);
    e.residual = d.between(1.25, 1.35);
    e.backPressure = d.between(0.03, 0.10);
    e.carburettorLoss = d.between(0.02, 0.05);
    e.pumping = d.between(0.6, 0.85);
    e.airPerWork = d.about(3.7, 0.12) / 3.6e6 * std::pow(6.5 / e.compression, 0.25);
    e.heatLoss = d.between(0.02, 0.06);
    e.mixtureBest = d.between(0.078, 0.082);
    e.mixtureFall = d.between(50, 80);
    e.frictionBase = d.between(0.25e5, 0.5e5);
    e.frictionPeak = d.between(0.003, 0.006);
    e.frictionSpeed = d.between(3e3, 6e3);
    e.frictionSquare = d.between(40, 120);
    e.richAtRated = d.between(0.092, 0.108);
    e.richAtCruise = d.between(0.080, 0.088);
    e.weak = d.between(0.065, 0.071);
    const int kind = static_cast<int>(d.between(0, 10));
    const int gears = kind < 2 ? 0 : kind < 6 ? 1 : 2;
    e.blowerBest = d.between(0.62, 0.76);
    e.blowerFall = d.between(0.3, 0.9);
    e.workFactor = d.between(0.86, 0.94);
    e.workFall = d.between(0.0, 0.2);
    e.flowBest = d.between(0.10, 0.16);
    if (gears == 0) {
        e.ratedRpm = d.between(8.5, 12.0) / (2 * e.stroke); // slower, and without a blower to feed
        e.ratedBoost = 0.96e5;
        e.takeOffBoost = 0.98e5;
        e.weakBoost = 0.78e5;
        e.weakRpm = 0.82 * e.ratedRpm;
        return e;
    }
    // The impeller suits the flow: its best coefficient near that of rated power, between the gears where there are
    // two.
    const double tip = d.between(265, 330);
    e.ratedBoost = d.between(1.15, 1.5) * 1e5;
    e.takeOffBoost = e.ratedBoost * d.between(1.06, 1.22);
    e.weakBoost = std::min(e.ratedBoost * 0.8, d.between(0.88, 1.12) * 1e5);
    e.weakRpm = e.ratedRpm * d.between(0.68, 0.85);
    const double volume = 0.85 * e.ratedBoost / (gasConstant * 340) * e.displacement * e.ratedRpm / 2 * gasConstant *
                          268 / (gears == 2 ? 0.65e5 : 0.8e5);
    e.impeller = std::sqrt(volume / (tip * e.flowBest)) * d.between(0.92, 1.08);
    e.gears.push_back(tip / (std::numbers::pi * e.impeller * e.ratedRpm));
    if (gears == 2)
        e.gears.push_back(e.gears[0] * d.between(1.25, 1.45));
    return e;
}

TypeNotes bookletOf(const OtherEngine& e, std::uint64_t seed, int fuelLines) {
    constexpr double horsepower = 745.7, foot = 0.3048;
    const bool pounds = seed % 2 == 0; // boost in lbf/in² over the standard atmosphere, or absolute in inHg
    const air::Day day = air::standardDay(Length{});
    const auto stated = [&](double pa) {
        return pounds ? 101325 + rounded((pa - 101325) / 6894.76, 0.25) * 6894.76
                      : rounded(pa / 3386.39, 0.5) * 3386.39;
    };
    const auto rpmOf = [](double n) { return rounded(n * 60, 50) / 60; };
    TypeNotes notes;
    notes.cockpit.height = units::foot.spec;
    notes.fuel.density = 720;
    EngineNotes& n = notes.engine;
    n.cylinders = e.cylinders;
    n.displacement = Volume::si(rounded(e.displacement, 1e-5));
    n.compression = rounded(e.compression, 0.05);
    n.strokeMetres = rounded(e.stroke, 0.001);
    n.impellerDiameter = rounded(e.impeller, 0.001);
    for (std::size_t g = 0; g < e.gears.size(); ++g)
        n.gears.push_back({g ? "high" : "low", rounded(e.gears[g], 0.01), 0});
    n.richSchedule = {{0.4, 0.085}, {0.7, 0.088}, {1.0, 0.105}}; // the reader's own where the booklet is silent
    if (seed % 3 != 0) {
        n.richSchedule = {{0.5, rounded(e.richAtCruise, 0.001)}, {1.0, rounded(e.richAtRated, 0.001)}};
        n.weakRatio = rounded(e.weak, 0.001);
        n.mixtureGiven = true;
    }
    int fuelLeft = fuelLines;
    const auto line = [&](double rpm, double boost, std::size_t gear, double at, bool weak, bool holds, bool fuel) {
        const auto o = e.run(rpm, boost, gear, day.at(Length::si(at)), weak);
        RatingLine l;
        l.gear = e.gears.empty() ? "" : gear ? "high" : "low";
        l.power = Power::si(rounded(o.power / horsepower, 5) * horsepower);
        l.at = Length::si(at);
        if (const auto h = holds ? e.holdsTo(rpm, boost, gear) : std::nullopt; h && *h > 300)
            l.holdsTo = Length::si(rounded(*h / foot, 250) * foot);
        if (fuel && fuelLeft-- > 0)
            l.fuelFlow = VolumeFlow::si(rounded(o.fuel / 720 * 3.6e6, 1) / 3.6e6);
        return l;
    };
    const auto rating = [&](const char* key, double rpm, std::optional<double> boost, bool weak,
                            std::vector<RatingLine> lines) {
        Rating r;
        r.key = r.name = key;
        r.rpm = Rotation::si(rpm);
        if (boost)
            r.boost = ManifoldPressure::si(*boost);
        r.mixture = weak ? Mixture::weak : Mixture::rich;
        r.lines = std::move(lines);
        notes.ratings.push_back(std::move(r));
    };
    const double rated = rpmOf(e.ratedRpm), cruise = rpmOf(e.weakRpm), weak = stated(e.weakBoost);
    if (e.gears.empty()) {
        rating("take-off", rated, {}, false, {line(rated, 5e5, 0, 0, false, false, fuelLines > 1)});
        const double climb = rpmOf(0.92 * e.ratedRpm);
        rating("climb", climb, {}, false, {line(climb, 5e5, 0, 1500, false, false, false)});
    } else {
        const double takeOff = stated(e.takeOffBoost), climb = stated(e.ratedBoost), rpm = rpmOf(0.95 * e.ratedRpm);
        rating("take-off", rated, takeOff, false, {line(rated, takeOff, 0, 0, false, false, fuelLines > 1)});
        std::vector<RatingLine> lines;
        for (std::size_t g = 0; g < e.gears.size(); ++g)
            if (const auto h = e.holdsTo(rpm, climb, g); h && *h > 300)
                lines.push_back(line(rpm, climb, g, std::floor(*h / 100) * 100, false, true, false));
        if (!lines.empty())
            rating("climb", rpm, climb, false, lines);
    }
    rating("weak", cruise, weak, true, {line(cruise, weak, 0, 600, true, seed % 4 < 2, true)});
    return notes;
}

} // namespace amber::bench
