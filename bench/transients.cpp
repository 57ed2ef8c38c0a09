// SPDX-License-Identifier: GPL-3.0-or-later
// Rows of docs/validation.md about what changes in time: strides against short steps, and transients against closed
// solutions and hand reckonings.
#include "transients.h"
#include "air/atmosphere.h"
#include "engine/propeller_load.h"
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::bench {
namespace {
using namespace powerplant;

struct Worst {
    double off = 0.0;
    std::string where;
    void see(double x, const std::string& at) {
        if (std::abs(x) > off) {
            off = std::abs(x);
            where = at;
        }
    }
};

void strides(const std::vector<flight::LoadedSortie>& fleet, const Row& row) {
    Worst fuel, flying, ground, oil, clock;
    for (const auto& l : fleet) {
        const auto a = flight::fly(*l.aircraft, *l.sortie),
                   b = flight::fly(*l.aircraft, *l.sortie, flight::Pace::shortSteps);
        const double burnt = a.fuelAtStart - a.fuelAtEnd;
        fuel.see((b.fuelAtStart - b.fuelAtEnd) / burnt - 1, l.aircraft->notes.name);
        for (std::size_t p = 0; p < plannedPhases; ++p) {
            const auto phase = static_cast<Phase>(p);
            const std::string at = fmt::format("{}, {}", l.aircraft->notes.name, keyOf(phase));
            const auto &x = a.samples[a[phase].lastSample], &y = b.samples[b[phase].lastSample];
            (phase >= Phase::runUp && phase <= Phase::climb ? ground : flying)
                .see(y.headOrCoolant() - x.headOrCoolant(), at);
            oil.see(y[Gauge::oilTemperature] - x[Gauge::oilTemperature], at);
            clock.see(b[phase].start - a[phase].start, at);
        }
    }
    row("Strides against short steps of 0.1 s, every demo whole: fuel", "0.2 %",
        fmt::format("{:.2f} % ({})", 100 * fuel.off, fuel.where), fuel.off < 0.002);
    row("heads or coolant at the end of each phase", "0.5 K", fmt::format("{:.2f} K ({})", flying.off, flying.where),
        flying.off < 0.5);
    row("and of run-up, take-off and climb, which begin with seconds at each setting of the checks", "1.25 K",
        fmt::format("{:.2f} K ({})", ground.off, ground.where), ground.off < 1.25);
    row("oil", "0.5 K", fmt::format("{:.2f} K ({})", oil.off, oil.where), oil.off < 0.5);
    row("the clock at which each phase begins", "1 s", fmt::format("{:.2f} s ({})", clock.off, clock.where),
        clock.off < 1.0);
}

struct Stand {
    explicit Stand(const flight::LoadedSortie& l)
        : plant(*l.aircraft, l.sortie->fuelGrade), day(air::standardDay(Length{})), levers(plant.levers()) {
        day.dewPoint = Temperature::si(230);
        run.day = &day;
        run.conditions.resize(plant.count());
        state = plant.standing(day, Temperature::of(80, units::celsius));
        for (auto& e : levers.engines) {
            e.cock = e.booster = true;
            e.cutOff = false;
            e.ignition = Ignition::both;
        }
    }
    void settle() {
        for (std::size_t i = 0; i < plant.count(); ++i)
            state.engines[i] =
                plant.engine(i).running(state.engines[i], levers.engines[i], plant.around(state, levers, run, i));
    }
    Powerplant plant;
    air::Day day;
    Levers levers;
    Run run;
    AircraftState state;
};

void closed(const flight::LoadedSortie& l, const Row& row) {
    {
        // Rpm of a propeller on its fine stop come down as 1/n = 1/n₀ + k t/I while nothing but the air brakes it: the
        // engine's own drag taken off from the readings.
        Stand s(l);
        for (auto& e : s.levers.engines)
            e.throttle = rpmHeld(30);
        s.settle();
        s.plant.steps(s.state, s.levers, s.run, 20'000);
        for (auto& e : s.levers.engines)
            e.cutOff = true;
        s.plant.steps(s.state, s.levers, s.run, 3'000);
        const double n0 = s.state.engines[0].n, before = s.plant.engine(0).kineticEnergy(n0);
        double lost = 0.0;
        for (int i = 0; i < 100; ++i) {
            const auto now = s.plant.step(s.state, s.levers, s.run, 20);
            lost += (now.engines[0].propeller - now.engines[0].shaft) * 0.02;
        }
        const double off = (before - s.plant.engine(0).kineticEnergy(s.state.engines[0].n)) / lost - 1;
        row("Run-down: energy of the turning parts against what propeller and friction took", "3 %",
            fmt::format("{:+.1f} %", 100 * off), std::abs(off) < 0.03);
    }
    {
        // A step of boost under automatic control: 63 % of the way after the control's 0.4 s.
        Stand s(l);
        for (auto& e : s.levers.engines)
            e.throttle = boostHeld(70e3);
        s.settle();
        s.plant.steps(s.state, s.levers, s.run, 20'000);
        const double p0 = s.state.engines[0].manifold;
        for (auto& e : s.levers.engines)
            e.throttle = boostHeld(90e3);
        s.plant.steps(s.state, s.levers, s.run, 400);
        const double share = (s.state.engines[0].manifold - p0) / (90e3 - p0);
        row("Boost under its control: share of a step after the time constant", "1 − 1/e = 0.632",
            fmt::format("{:.3f}", share), std::abs(share - 0.632) < 0.02);
    }
    {
        // The film on the walls (Aquino): what a step of fuel leaves there is X τ of it. By hand from the charge's
        // temperature: X = 0.2 + 0.5 (1 − f), τ = 0.4 s · exp((333 K − T)/40 K).
        Stand s(l);
        for (auto& e : s.levers.engines)
            e.throttle = rpmHeld(25);
        s.settle();
        const auto now = s.plant.steps(s.state, s.levers, s.run, 400'000); // its walls are the air's by then
        const double charge = now.engines[0][Gauge::chargeTemperature];
        const double x = 0.2 + 0.5 * (1 - start::vapourFraction(Temperature::si(charge)));
        const double tau = std::clamp(0.4 * std::exp((333.15 - charge) / 40), 0.2, 4.0);
        const double expected = x * tau * now.engines[0][Gauge::fuelFlow] * l.aircraft->notes.fuel.density;
        row("Film on the manifold's walls at a steady setting, against X τ ṁ (Aquino, SAE 810494)", "2 %",
            fmt::format("{:+.1f} %", 100 * (s.state.engines[0].wall / expected - 1)),
            std::abs(s.state.engines[0].wall / expected - 1) < 0.02);
    }
    {
        // A dose standing in the intake: (1 − e^(−t/τ)) e^(−t/180 s) of it is vapour, as the priming reckons.
        Stand s(l);
        s.state = s.plant.standing(s.day, Temperature::of(10, units::celsius));
        for (auto& e : s.levers.engines)
            e = EngineLevers{};
        for (auto& e : s.levers.engines)
            e.primer = 10.0;
        s.plant.step(s.state, s.levers, s.run, shortStep);
        for (auto& e : s.levers.engines)
            e.primer = 0.0;
        s.plant.steps(s.state, s.levers, s.run, 30'000);
        const double tau = start::evaporationTime(Temperature::of(10, units::celsius)).si();
        const double expected = (1 - std::exp(-30 / tau)) * std::exp(-30.0 / 180);
        const double found = s.state.engines[0].primed / s.plant.engine(0).doseMass() * s.state.engines[0].vapour;
        row("A dose of the primer after half a minute at 10 °C: vapour, of the dose", fmt::format("{:.3f}", expected),
            fmt::format("{:.3f}", found), std::abs(found - expected) < 0.01);
    }
    {
        // A battery under a steady load: Ohm's law and the clock.
        Stand s(l);
        s.state = s.plant.standing(s.day, Temperature::of(15, units::celsius));
        for (auto& e : s.levers.engines) {
            e = EngineLevers{};
            e.booster = true;
        }
        const double before = s.state.charge;
        s.plant.steps(s.state, s.levers, s.run, 600'000);
        const double load = 10.0 + 6.0 * static_cast<double>(s.plant.count());
        row("Battery, ten minutes of two pumps and the lamps: charge taken", fmt::format("{:.2f} Ah", load / 6),
            fmt::format("{:.2f} Ah", before - s.state.charge), std::abs(before - s.state.charge - load / 6) < 0.02);
    }
    {
        Stand s(l);
        s.state.height = 2000;
        s.state.ias = 77;
        s.levers.path = {Path::Kind::rateHeld, 77, 0};
        for (auto& e : s.levers.engines) {
            e.throttle = boostHeld(100e3);
            e.rpm = 35;
        }
        s.settle();
        s.plant.steps(s.state, s.levers, s.run, 20'000);
        s.run.conditions[0].faults = {{Fault::dead, 1.0, s.state.now}};
        const auto windmill = s.plant.steps(s.state, s.levers, s.run, 10'000);
        const double windmilling = -windmill.engines[0].propeller / 0.5 / 85.0; // N, at 85 m/s true
        s.levers.engines[0].feather = true;
        double seconds = 0;
        AircraftReadings now;
        while (s.state.engines[0].n > 0 && seconds < 60) {
            now = s.plant.step(s.state, s.levers, s.run, shortStep);
            seconds += 0.1;
        }
        row("A dead engine at 150 kt: feathered and stopped after", "5 … 20 s", fmt::format("{:.0f} s", seconds),
            seconds > 5 && seconds < 20);
        const double d = l.aircraft->notes.propeller.diameter;
        const double q =
            0.5 * air::density(s.day.at(Length::si(2000)).pressure, s.day.at(Length::si(2000)).temperature) * 85 * 85;
        const double area = windmilling / q;
        row("Windmilling it drags as a flat plate of so much of its disc",
            "0.05 … 0.35 (between a free wheel and a solid disc)", fmt::format("{:.2f}", area / (0.785 * d * d)),
            area / (0.785 * d * d) > 0.05 && area / (0.785 * d * d) < 0.35);
        row("Feathered, of the windmill's drag", "a tenth at most",
            fmt::format("{:.3f}", now.engines[0].standingDrag / area), now.engines[0].standingDrag / area < 0.1);
    }
}
} // namespace

void transients(const std::vector<flight::LoadedSortie>& fleet, const flight::LoadedSortie& twin, const Row& row) {
    strides(fleet, row);
    closed(twin, row);
}

} // namespace amber::bench
