// SPDX-License-Identifier: GPL-3.0-or-later
// The model against what must hold: prints docs/validation.md's tables, and curves as CSV for the figures. Ends with 1
// when anything does not hold. Run by tools/validate.
#include "advice/ground_budget.h"
#include "advice/let_down.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "data_folder.h"
#include "engine/calibration.h"
#include "engine/energy_balance.h"
#include "engine/fuel_grade.h"
#include "engine/knock.h"
#include "engine/power_chart.h"
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "heat/heat_solve.h"
#include "other_engines.h"
#include "plan/plan.h"
#include "transients.h"
#include "trouble_truth.h"
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

using namespace amber;

namespace {
bool allHold = true;
std::string folder = std::filesystem::temp_directory_path().string(); // where the curves go when no folder is named

void row(const std::string& what, const std::string& wanted, const std::string& found, bool holds) {
    fmt::print("| {} | {} | {} | {} |\n", what, wanted, found, holds ? "holds" : "**does not hold**");
    allHold = allHold && holds;
}
void head(const char* title) {
    fmt::print("\n## {}\n\n| what | must be | found | |\n|---|---|---|---|\n", title);
}

/// Every aircraft that ships, by its demo.
const std::vector<flight::LoadedSortie>& fleet() {
    static const auto all = [] {
        std::vector<std::string> paths;
        for (const auto& e : std::filesystem::directory_iterator(test::dataFolder() + "/demo"))
            paths.push_back(e.path().string());
        std::sort(paths.begin(), paths.end());
        std::vector<flight::LoadedSortie> out;
        for (const auto& p : paths)
            out.push_back(flight::loadSortie(p));
        return out;
    }();
    return all;
}
const flight::LoadedSortie& type(const std::string& name) {
    for (const auto& l : fleet())
        if (l.ok() && l.aircraft->notes.name.starts_with(name))
            return l;
    throw std::runtime_error(name);
}
air::Day dayOff(double kelvin) {
    air::Day day = air::standardDay(Length{});
    day.oat = Temperature::si(day.oat.si() + kelvin);
    return day;
}

void atmosphere() {
    head("Air");
    struct Row {
        double h, t, p, rho;
    };
    const Row table[] = {{0, 288.150, 101325.0, 1.22500},     {1000, 281.650, 89874.6, 1.11164},
                         {2000, 275.150, 79495.2, 1.00649},   {5000, 255.650, 54019.9, 0.736116},
                         {8000, 236.150, 35599.8, 0.525168},  {11000, 216.650, 22632.0, 0.363918},
                         {15000, 216.650, 12044.5, 0.193674}, {20000, 216.650, 5474.88, 0.0880348}};
    double worst = 0;
    for (const auto& r : table) {
        const Length h = Length::si(r.h);
        worst = std::max({worst, std::abs(air::standardTemperature(h).si() / r.t - 1),
                          std::abs(air::pressureAtAltitude(h).si() / r.p - 1),
                          std::abs(air::standardDensity(h) / r.rho - 1)});
    }
    row("ICAO Doc 7488 tables, 0 … 20 km: T, p, ρ", "5 figures", fmt::format("within {:.1e}", worst), worst < 2e-5);
}

void power() {
    head("Power");
    double worst = 0;
    std::ofstream csv(folder + "/gagg-ferrar.csv");
    csv << "height_m,model,gagg_ferrar\n";
    std::string worstType;
    for (const auto& l : fleet()) {
        const auto& a = *l.aircraft;
        if (!a.notes.engine.gears.empty() || a.notes.engine.turbo)
            continue;
        const auto of = [&](double h) {
            return engine::operate(a.model(),
                                   {a.notes.ratings.front().rpm, {}, 0, dayOff(0).at(Length::si(h)), Speed{}, 0.080})
                .power.si();
        };
        for (double h = 0; h <= 6000; h += 250) {
            const double sigma = air::standardDensity(Length::si(h)) / 1.225, rule = sigma - (1 - sigma) / 7.55;
            const double share = of(h) / of(0);
            if (a.notes.name.starts_with("Tinker"))
                csv << fmt::format("{},{:.5f},{:.5f}\n", h, share, rule);
            if (h <= 4500 && std::abs(share - rule) > worst) {
                worst = std::abs(share - rule);
                worstType = a.notes.name;
            }
        }
    }
    row("Unblown, constant rpm, to 4,500 m, against σ − (1 − σ)/7.55 (Gagg & Ferrar, SAE 1934): every type that ships",
        "within 0.03", fmt::format("worst {:.3f}, {}", worst, worstType), worst < 0.03);
    worst = 0;
    for (std::uint64_t seed = 1; seed <= 500; ++seed) {
        const auto other = bench::otherEngine(seed);
        if (!other.gears.empty())
            continue;
        const auto model = engine::calibrate(bench::bookletOf(other, seed, seed % 3 == 0 ? 1 : 0)).parameters;
        const auto of = [&](double h) {
            return engine::operate(model,
                                   {Rotation::si(other.ratedRpm), {}, 0, dayOff(0).at(Length::si(h)), Speed{}, 0.080})
                .power.si();
        };
        for (double h = 500; h <= 4500; h += 500) {
            const double sigma = air::standardDensity(Length::si(h)) / 1.225;
            worst = std::max(worst, std::abs(of(h) / of(0) - (sigma - (1 - sigma) / 7.55)));
        }
    }
    row("and every unblown one of 500 engines drawn at random (bench/other_engines)", "within 0.03",
        fmt::format("worst {:.3f}", worst), worst < 0.03);
    double least = 1e9, most = -1e9;
    std::size_t lines = 0;
    bool falls = true;
    for (const auto& l : fleet()) {
        const auto& a = *l.aircraft;
        if (a.notes.engine.gears.empty() || a.notes.engine.turbo)
            continue;
        for (const auto& r : a.notes.ratings) {
            if (!r.boost || r.water)
                continue;
            for (std::size_t g = 0; g < a.notes.engine.gears.size(); ++g) {
                const auto boost = *r.boostIn(a.notes.engine.gears[g].name);
                const auto top2 = engine::fullThrottleHeight(a.model(), r.rpm, boost, g, dayOff(0), Speed{}, r.mixture);
                if (!top2 || top2->si() < 600)
                    continue;
                const auto at = [&](double h) {
                    return engine::operate(a.model(),
                                           {r.rpm, boost, g, dayOff(0).at(Length::si(h)), Speed{}, r.mixture})
                        .power.si();
                };
                const double rise = 100 * (std::pow(at(top2->si()) / at(0), 304.8 / top2->si()) - 1);
                least = std::min(least, rise);
                most = std::max(most, rise);
                falls = falls && at(top2->si() + 600) < at(top2->si());
                ++lines;
            }
        }
    }
    row(fmt::format("Supercharged, constant boost and rpm, {} rating lines: rise per 300 m to full throttle", lines),
        "0.3 … 1.5 %", fmt::format("{:.2f} … {:.2f} %", least, most), least > 0.3 && most < 1.5);
    row("and it falls above full-throttle height", "every line", falls ? "every line" : "not every line", falls);
    // Monotony over every type.
    double hot = -1, more = 1;
    for (const auto& l : fleet()) {
        const auto& a = *l.aircraft;
        for (const auto& r : a.notes.ratings)
            for (std::size_t g = 0; g < std::max<std::size_t>(1, a.notes.engine.gears.size()); ++g)
                for (double h = 0; h <= 8000; h += 1000) {
                    double last = 1e18;
                    for (double d = -30; d <= 30; d += 5) {
                        const double p = engine::operate(a.model(), {r.rpm, r.boost, g, dayOff(d).at(Length::si(h)),
                                                                     Speed{}, r.mixture})
                                             .power.si();
                        hot = std::max(hot, p / last - 1);
                        last = p;
                    }
                    double before = -1e18;
                    for (double b = 5e4; b < 2.2e5; b += 5e3) {
                        const double p = engine::operate(a.model(), {r.rpm, ManifoldPressure::si(b), g,
                                                                     dayOff(0).at(Length::si(h)), Speed{}, 0.085})
                                             .power.si();
                        more = std::min(more, (p - before) / std::abs(p));
                        before = p;
                    }
                }
    }
    row("A hotter day, every rating, gear and height: change of power per 5 °C", "never up",
        fmt::format("at most {:+.2f} %", 100 * hot), hot <= 1e-9);
    row("More boost, every rating, gear and height", "never less power", fmt::format("at least {:+.4f}", more),
        more >= -1e-9);
}

void energy() {
    head("Energy and fuel");
    double least = 1e9, most = 0, coolest = 1e9, hottest = 0;
    double richest = 0, worstShare = 1, bestShare = 0;
    std::string table =
        "\nSpecific consumption of the highest and the lowest rating of every type, standard day:\n\n"
        "| type | rating | power | lb/(hp·h) | g/(kW·h) | exhaust | charge |\n|---|---|---|---|---|---|---|\n";
    for (const auto& l : fleet()) {
        const auto& a = *l.aircraft;
        for (std::size_t i = 0; i < a.notes.ratings.size(); ++i) {
            const auto& r = a.notes.ratings[i];
            const bool enriched = r.minutes || r.key == a.notes.phase(Phase::takeOff).rating ||
                                  r.key == a.notes.phase(Phase::climb).rating;
            for (const auto& line : r.lines) {
                const std::size_t g = a.notes.gearIndex(line.gear).value_or(0);
                engine::Demand d{r.rpm, r.boostOf(line), g, dayOff(0).at(line.at), Speed{}, r.mixture};
                d.water = r.water;
                const auto p = engine::operate(a.model(), d);
                const auto b = engine::energyBalance(a.notes, a.model(), p);
                const double sfc = p.specificConsumption() * 3.6e9 * 0.745699872 / 453.59237;
                coolest = std::min(coolest, b.exhaustTemperature.si() - 273.15);
                hottest = std::max(hottest, b.exhaustTemperature.si() - 273.15);
                if (!enriched) {
                    least = std::min(least, sfc);
                    most = std::max(most, sfc);
                } else {
                    richest = std::max(richest, sfc);
                    const double share = p.power.si() / p.indicated;
                    worstShare = std::min(worstShare, share);
                    bestShare = std::max(bestShare, share);
                }
                if ((i == 0 || i + 1 == a.notes.ratings.size()) && &line == &r.lines.front())
                    table += fmt::format("| {} | {} | {:.0f} kW | {:.2f} | {:.0f} | {:.0f} °C | {:.0f} °C |\n",
                                         a.notes.name, r.key, p.power.si() / 1000, sfc, p.specificConsumption() * 3.6e9,
                                         b.exhaustTemperature.si() - 273.15, p.chargeTemperature.si() - 273.15);
            }
        }
    }
    row("Exhaust gas, from what shaft, friction, blower, metal and unburnt fuel leave", "450 … 1,150 °C",
        fmt::format("{:.0f} … {:.0f} °C", coolest, hottest), coolest > 450 && hottest < 1150);
    row("Specific consumption, every cruising rating", "0.43 … 0.62 lb/(hp·h)",
        fmt::format("{:.2f} … {:.2f}", least, most), least >= 0.43 && most <= 0.62);
    row("Enriched take-off and climb, all gears: consumption (decision 0002)", "0.75 at most",
        fmt::format("{:.2f}", richest), richest <= 0.75);
    row("and brake over indicated power there, the blower's work taken off", "0.65 … 0.95",
        fmt::format("{:.2f} … {:.2f}", worstShare, bestShare), worstShare > 0.65 && bestShare < 0.95);
    fmt::print("{}", table);
}

void calibration() {
    head("Calibration from rating lines");
    double worstPower = 0, worstHeight = 0;
    std::string table = "\n| type | lines | worst power | worst full-throttle height | not settled by the lines "
                        "|\n|---|---|---|---|---|\n";
    for (const auto& l : fleet()) {
        const auto& c = l.aircraft->calibration;
        worstPower = std::max(worstPower, c.worstPower());
        worstHeight = std::max(worstHeight, c.worstHeight());
        std::vector<std::string> open;
        for (const auto& f : c.fitted)
            if (!f.settled())
                open.push_back(f.name);
        table += fmt::format("| {} | {} | {:.2f} % | {:.0f} m | {} |\n", l.aircraft->notes.name, c.residuals.size(),
                             100 * c.worstPower(), c.worstHeight(),
                             open.empty() ? "—" : fmt::format("{}", fmt::join(open, ", ")));
    }
    row("Rating lines of every type: power (decision 0016)", "2 %", fmt::format("{:.2f} %", 100 * worstPower),
        worstPower < 0.02);
    row("Full-throttle heights", "150 m", fmt::format("{:.0f} m", worstHeight), worstHeight < 150);
    // Three lines and no more.
    TypeNotes three = type("Lorimer").aircraft->notes;
    const TypeNotes& all = type("Lorimer").aircraft->notes;
    std::erase_if(three.ratings, [](const Rating& r) { return r.key != "take-off" && r.key != "climb"; });
    const auto c = engine::calibrate(three);
    row("Three lines only (Lorimer take-off, climb low, climb high): those three", "1 %, 150 m",
        fmt::format("{:.2f} %, {:.0f} m", 100 * c.worstPower(), c.worstHeight()),
        c.worstPower() < 0.01 && c.worstHeight() < 150);
    double unseen = 0;
    for (const auto& r : all.ratings)
        if (!three.rating(r.key))
            for (const auto& line : r.lines)
                if (line.power) {
                    const auto p =
                        engine::operate(c.parameters, {r.rpm, r.boostOf(line), all.gearIndex(line.gear).value_or(0),
                                                       dayOff(0).at(line.at), Speed{}, r.mixture});
                    unseen = std::max(unseen, std::abs(p.power.si() / line.power->si() - 1));
                }
    row("and the ratings that the fit has not seen", "5 %", fmt::format("{:.1f} %", 100 * unseen), unseen < 0.05);
    fmt::print("{}", table);
}

void knock() {
    head("Knock boundary");
    double least = 1e9;
    std::string where;
    for (const auto& l : fleet()) {
        const auto& a = *l.aircraft;
        if (a.notes.engine.gears.empty())
            continue;
        for (const auto& r : a.notes.ratings) {
            if (!r.boost)
                continue;
            const engine::KnockBoundary k(a.notes, a.model(), r.grade.empty() ? a.notes.fuel.grades.front() : r.grade);
            for (const auto& line : r.lines) {
                engine::Demand d{r.rpm,
                                 r.boostOf(line),
                                 a.notes.gearIndex(line.gear).value_or(0),
                                 dayOff(0).at(line.power ? line.at : line.holdsTo.value_or(line.at)),
                                 Speed{},
                                 r.mixture};
                d.water = r.water;
                const double m = k.permitted(d).si() / d.boost->si() - 1;
                if (m < least) {
                    least = m;
                    where = a.notes.name + " " + r.key;
                }
            }
        }
    }
    row("Every rating on its own grade, standard day: room to the boundary", "5 % or more by construction, 0 at least",
        fmt::format("{:.1f} % ({})", 100 * least, where), least > 0);
}

/// What engineers doubted when they saw it, each against a reckoning by hand.
void doubted() {
    head("Figures that engineers doubted");
    const auto& lorimer = type("Lorimer");
    const flight::Flown flown = flight::fly(*lorimer.aircraft, *lorimer.sortie);
    // Idle at 1,000 rpm: the mean pressures that must be found, over what fuel gives at such dilution. Friction 0.9 bar
    // (piston speed 5.3 m/s, Taylor op. cit.), pumping the difference over the piston, propeller by its standing power.
    const flight::Sample* idle = nullptr;
    for (const auto& m : flown.samples)
        if (m.phase == Phase::warmUp && std::abs(m[Gauge::rpm] - 1000.0 / 60) < 0.05)
            idle = &m;
    const auto& e = lorimer.aircraft->model();
    const air::Day& day = lorimer.sortie->day;
    const auto ambient = day.at(day.pressureAltitudeOf(Length::si((*idle)[Gauge::height])));
    const auto point =
        engine::operate(e, {Rotation::si((*idle)[Gauge::rpm]), ManifoldPressure::si((*idle)[Gauge::boost]), 0, ambient,
                            Speed{}, Mixture::rich});
    const double swept = e.displacement * (*idle)[Gauge::rpm] / 2;
    const double needed = 0.9e5 * swept + (ambient.pressure.si() - (*idle)[Gauge::boost]) * swept + point.power.si();
    const double byHand = needed / (0.25 * 43.5e6);
    row("44-litre radial at 1,000 rpm on the ground: fuel, against (friction 0.9 bar + pumping + propeller)/(0.25 × "
        "43.5 MJ/kg)",
        "0.75 … 1.25 of it",
        fmt::format("{:.2f}: {:.1f} US gal/h at {:.1f} inHg", point.fuelFlow.si() / byHand,
                    point.fuelFlow.si() / lorimer.aircraft->notes.fuel.density * 3600 / 3.785411784e-3,
                    (*idle)[Gauge::boost] / 3386.389),
        std::abs(point.fuelFlow.si() / byHand - 1) < 0.25);
    // A liquid-cooled engine boils on the ground: from cold, 900 rpm, flap open, 28 °C.
    const auto& farrier = type("Farrier");
    Sortie hot = *farrier.sortie;
    hot.day.oat = Temperature::of(28, units::celsius);
    const auto g =
        advice::groundBudget(*farrier.aircraft, hot, flight::fly(*farrier.aircraft, hot), advice::GroundFrom::warmUp);
    const auto& run = g.runs.front();
    row("Liquid-cooled single, 28 °C, taxi rpm with the flap open: coolant out of its normal (110 °C)", "8 … 30 min",
        run.toAmber ? fmt::format("{:.0f} min", *run.toAmber / 60) : "never",
        run.toAmber && *run.toAmber > 480 && *run.toAmber < 1800);
    // An unblown engine's charge at height: what the fuel takes, its manifold gives back.
    double coldest = 1e9;
    for (const auto& l : fleet())
        if (l.aircraft->notes.engine.gears.empty() && !l.aircraft->notes.engine.turbo) {
            const Rating& r = l.aircraft->notes.ratings.front();
            const auto here = dayOff(0).at(Length::si(4500));
            coldest =
                std::min(coldest, engine::operate(l.aircraft->model(), {r.rpm, r.boost, 0, here, Speed{}, r.mixture})
                                          .chargeTemperature.si() -
                                      here.temperature.si());
        }
    row("Unblown engine at 4,500 m: charge over the air outside (manifold jacketed or by the exhaust)", "−5 K at least",
        fmt::format("{:+.1f} K", coldest), coldest > -5);
    // The Farrier may hold take-off boost in high gear too, where its charge is far hotter: in low gear at sea level
    // the same boundary lies higher by the charge's difference, and only the rating, not knock, ends the boost there.
    const Rating& takeOff = flight::ratingFor(farrier.aircraft->notes, *farrier.sortie, Phase::takeOff);
    const auto& model = farrier.aircraft->model();
    const engine::KnockBoundary k(farrier.aircraft->notes, model, takeOff.grade);
    const auto at = [&](std::size_t gear, Length height) {
        return engine::Demand{takeOff.rpm, takeOff.boost, gear, dayOff(0).at(height), Speed{}, Mixture::rich};
    };
    double hottest = 0;
    for (const auto& line : takeOff.lines)
        hottest = std::max(hottest, engine::operate(model, at(farrier.aircraft->notes.gearIndex(line.gear).value_or(0),
                                                              line.holdsTo.value_or(line.at)))
                                        .chargeTemperature.si());
    const auto low = at(0, Length{});
    const double cooler = hottest - engine::operate(model, low).chargeTemperature.si();
    const double room = k.permitted(low).si() / takeOff.boost->si() - 1;
    row("Farrier, take-off boost in low gear at sea level: room to the boundary",
        fmt::format("1.05 · exp(0.004 · {:.0f} K cooler than in high gear) − 1 = {:.0f} %", cooler,
                    100 * (1.05 * std::exp(0.004 * cooler) - 1)),
        fmt::format("{:.0f} %, {:.1f} lbf/in²", 100 * room, room * takeOff.boost->si() / 6894.757),
        std::abs(room - (1.05 * std::exp(0.004 * cooler) - 1)) < 0.06);
}

void curves() {
    // The power chart of the Lorimer and height curves of four kinds of supercharging.
    std::ofstream csv(folder + "/power-height.csv");
    csv << "type,gear,height_m,power_kW,boost_kPa\n";
    for (const char* name : {"Lorimer", "Collier", "Wheelwright", "Tinker"}) {
        const auto& a = *type(name).aircraft;
        const Rating& r = flight::ratingFor(a.notes, {}, Phase::climb);
        for (std::size_t g = 0; g < std::max<std::size_t>(1, a.notes.engine.gears.size()); ++g)
            for (double h = 0; h <= 11000; h += 100) {
                const auto boost =
                    r.boost && !a.notes.engine.gears.empty() ? r.boostIn(a.notes.engine.gears[g].name) : r.boost;
                const auto p =
                    engine::operate(a.model(), {r.rpm, boost, g, dayOff(0).at(Length::si(h)), Speed{}, r.mixture});
                csv << fmt::format("{},{},{},{:.2f},{:.2f}\n", name,
                                   a.notes.engine.gears.empty() ? "none" : a.notes.engine.gears[g].name, h,
                                   p.power.si() / 1000, p.manifoldPressure.si() / 1000);
            }
    }
}
heat::Drive driveOf(const powerplant::Aircraft& a, const engine::Demand& d, double coolingFlap) {
    const auto p = engine::operate(a.model(), d);
    return {true,
            p.airFlow,
            p.fuelAirRatio,
            p.power,
            d.rpm,
            d.air,
            d.ias.si() > 0 ? air::trueAirspeed(d.ias, d.air.pressure, d.air.temperature) : Speed{},
            coolingFlap,
            1.0,
            1.0};
}
heat::Drive standing(const powerplant::Aircraft& a, double rpm, double deviation = 0.0) {
    const auto air = dayOff(deviation).at(Length{});
    const Rotation n = Rotation::of(rpm, units::rpm);
    return driveOf(a, {n, engine::boostForRpm(a.model(), a.fineStop, n, 0, air), 0, air, Speed{}, Mixture::rich}, 1.0);
}

void heatModel() {
    head("Heat");
    const auto& a = *type("Lorimer").aircraft;
    const HeatNotes& h = a.notes.heat;
    const Rating& r = *a.notes.rating(h.rating);
    const auto rated = driveOf(a, {r.rpm, r.boost, 0, dayOff(0).at(h.height), h.ias, r.mixture}, h.coolingFlap);
    const auto ratio = [&](const heat::Drive& d) {
        const double gas = 1323.15 - 1.6e5 * std::pow(d.fuelAirRatio - 0.08, 2);
        const double t = a.thermal.steady(d).headOrCoolant.si();
        return (t - d.air.temperature.si()) / (gas - t);
    };
    auto d = rated;
    d.shaft = Power{};
    auto more = d, faster = d;
    more.airFlow = MassFlow::si(1.3 * d.airFlow.si());
    faster.trueAirspeed = Speed::si(1.2 * d.trueAirspeed.si());
    const double inflow = std::log(ratio(more) / ratio(d)) / std::log(1.3);
    const double outflow = std::log(ratio(faster) / ratio(d)) / std::log(1.44);
    row("Heads: log–log slope of (Th − Ta)/(Tg − Th) against charge flow (Pinkel, NACA Report 612, 1938)", "0.62",
        fmt::format("{:.3f}", inflow), std::abs(inflow - 0.62) < 0.005);
    row("and against σΔp", "−0.38", fmt::format("{:.3f}", outflow), std::abs(outflow + 0.38) < 0.005);
    const auto constant = [&](const heat::Drive& x) {
        const auto end = a.thermal.steady(x);
        return -10.0 / a.thermal.rates({Temperature::si(end.headOrCoolant.si() + 10), end.oil}, x).headOrCoolant;
    };
    const double atRated = constant(rated), idle = constant(standing(a, 700));
    row("44-litre two-row radial, 15 °C: time constant at rated power", "≈ 95 s", fmt::format("{:.0f} s", atRated),
        std::abs(atRated - 95) < 5);
    row("and at ground idle", "≈ 5 min", fmt::format("{:.1f} min", idle / 60), idle > 210 && idle < 390);
    const heat::Temperatures cold{Temperature::of(15, units::celsius), Temperature::of(15, units::celsius)};
    const auto warm = heat::timeToMinima(a.thermal, cold, standing(a, 1000), {Temperature::of(120, units::celsius), {}},
                                         Duration::si(3600));
    const auto oil = heat::timeToMinima(a.thermal, cold, standing(a, 1000), {{}, Temperature::of(40, units::celsius)},
                                        Duration::si(3600));
    row("15 → 120 °C heads at 1,000 rpm", "4 … 6 min, to 9 with open flaps", fmt::format("{:.1f} min", warm->si() / 60),
        warm->si() > 240 && warm->si() < 540);
    row("15 → 40 °C oil in about as long", "3 … 7 min", fmt::format("{:.1f} min", oil->si() / 60),
        oil->si() > 180 && oil->si() < 420);
    // The integrator: the whole of every demo in steps of at most 10 s, and in half of them.
    double worst = 0;
    std::string where;
    double endurance = 0;
    for (const auto& l : fleet()) {
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        heat::Temperatures whole{flight::engineTemperatureOf(*l.sortie), flight::engineTemperatureOf(*l.sortie)},
            halves = whole;
        endurance = std::max(endurance, f.totalTime() / 3600);
        for (const auto& s : f.stretches) {
            whole = l.aircraft->thermal.after(whole, s.drive, Duration::si(s.duration));
            const int pieces = 2 * std::max(1, static_cast<int>(std::ceil(s.duration / 10.0)));
            for (int i = 0; i < pieces; ++i)
                halves = l.aircraft->thermal.after(halves, s.drive, Duration::si(s.duration / pieces));
            const double off = std::max(std::abs(whole.headOrCoolant.si() - halves.headOrCoolant.si()),
                                        std::abs(whole.oil.si() - halves.oil.si()));
            if (off > worst) {
                worst = off;
                where = l.aircraft->notes.name;
            }
        }
    }
    row(fmt::format("Integrator: halving the step over every demo (longest {:.1f} h)", endurance), "0.1 K",
        fmt::format("{:.4f} K ({})", worst, where), worst < 0.1);
    double fastest = 0;
    bool within = true;
    for (const auto& l : fleet()) {
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const double limit = flight::coolingLimit(l.aircraft->notes).perMinute;
        within = within && f.letDownCooling <= limit;
        fastest = std::max(fastest, f.letDownCooling / limit);
    }
    row("Let-down of every demo: fastest fall of a minute, of what it may be", "100 % at most",
        fmt::format("{:.0f} %", 100 * fastest), within);
    double wrong = 0;
    for (const auto& l : fleet())
        for (double rpm : {0.35, 0.5})
            for (double dT = -30; dT < 30; dT += 10) {
                const double n = 60 * l.aircraft->model().ratedRpm * rpm;
                const auto cool = l.aircraft->thermal.steady(standing(*l.aircraft, n, dT)),
                           hot = l.aircraft->thermal.steady(standing(*l.aircraft, n, dT + 10));
                wrong = std::max(wrong, cool.headOrCoolant.si() - hot.headOrCoolant.si());
            }
    row("A hotter day on the ground, every type: heads or coolant", "never cooler",
        fmt::format("at most {:.2f} K cooler", std::max(0.0, wrong)), wrong <= 1e-6);
    std::ofstream csv(folder + "/warm-up.csv");
    csv << "oat_C,minutes,heads_C,oil_C\n";
    for (double oat : {-15.0, 0.0, 15.0, 30.0}) {
        heat::Temperatures t{Temperature::of(oat, units::celsius), Temperature::of(oat, units::celsius)};
        const auto x = standing(a, 1000, oat - 15);
        for (double m = 0; m <= 12; m += 0.25) {
            csv << fmt::format("{},{},{:.2f},{:.2f}\n", oat, m, t.headOrCoolant.si() - 273.15, t.oil.si() - 273.15);
            t = a.thermal.after(t, x, Duration::si(15));
        }
    }
}
} // namespace

int main(int argc, char** argv) {
    if (argc > 1)
        folder = argv[1];
    for (const auto& l : fleet())
        if (!l.ok()) {
            fmt::print(stderr, "{}\n", l.problems.empty() ? "a demo does not load" : l.problems.front().text());
            return 2;
        }
    atmosphere();
    power();
    energy();
    calibration();
    knock();
    doubted();
    heatModel();
    head("In time");
    bench::transients(fleet(), type("Lorimer"), row);
    head("When it goes wrong");
    bench::troubles(fleet(), type("Lorimer"), row);
    curves();
    return allHold ? 0 : 1;
}
