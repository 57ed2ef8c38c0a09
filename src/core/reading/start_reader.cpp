// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/start_reader.h"
#include "files/reader_units.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::TableReader;

ColdNotes readCold(TableReader t) {
    ColdNotes c;
    c.preheatBelow = t.quantity<Dimension::temperature>("preheat_below");
    c.oilGrade = t.text("oil_grade");
    c.heater = t.quantity<Dimension::power>("heater").value_or(c.heater);
    c.blanksBelow = t.quantity<Dimension::temperature>("blanks_below");
    c.diluteBelow = t.quantity<Dimension::temperature>("dilute_below");
    c.dilutedViscosity = t.number("diluted_viscosity").value_or(c.dilutedViscosity);
    c.hotAirAfter = t.quantity<Dimension::duration>("hot_air_after");
    t.finish();
    return c;
}

StarterNotes readStarter(TableReader t) {
    StarterNotes s;
    s.kind =
        static_cast<StarterKind>(t.word("kind", {"direct", "inertia", "cartridge", "air", "hand"}, true).value_or(0));
    s.energiseCart =
        t.quantity<Dimension::duration>("energise_cart", s.kind == StarterKind::inertia).value_or(Duration{});
    s.energiseBattery = t.quantity<Dimension::duration>("energise_battery").value_or(s.energiseCart);
    s.boosterMost = t.quantity<Dimension::duration>("booster_most");
    s.longRest = t.quantity<Dimension::duration>("long_rest", false, minutesUnit).value_or(s.longRest);
    s.bladesBeforeIgnition = static_cast<int>(t.number("blades_before_ignition").value_or(0));
    s.cartridges = static_cast<int>(t.number("cartridges", s.kind == StarterKind::cartridge).value_or(0));
    s.airBottle = t.quantity<Dimension::pressure>("air_bottle", s.kind == StarterKind::air).value_or(Pressure{});
    s.airPerStart = t.quantity<Dimension::pressure>("air_per_start", s.kind == StarterKind::air).value_or(Pressure{});
    s.warmRpm = t.quantity<Dimension::rotation>("warm_rpm", false, rpmUnit).value_or(Rotation::si(s.warmRpm)).si();
    s.torque = t.number("torque").value_or(s.torque);
    s.spark = t.text("spark");
    s.firesAfter = t.quantity<Dimension::duration>("fires_after").value_or(s.firesAfter);
    t.finish();
    return s;
}

} // namespace

StartNotes readStart(TableReader t) {
    StartNotes s;
    s.primer = t.text("primer", true);
    for (auto& entry : t.tables("prime")) {
        s.prime.push_back({entry.quantity<Dimension::temperature>("at", true).value_or(Temperature::si(288)),
                           entry.number("dose", true).value_or(1)});
        entry.finish();
    }
    std::sort(s.prime.begin(), s.prime.end(), [](const PrimeEntry& a, const PrimeEntry& b) { return a.at < b.at; });
    for (std::size_t i = 1; i < s.prime.size(); ++i)
        if (s.prime[i].dose > s.prime[i - 1].dose)
            t.problem(t.line("prime"), "the priming table gives more prime to a warmer engine",
                      "Check the doses: colder never needs less");
    if (s.prime.empty())
        t.problem(t.line(), "there is no priming table", "Add [[engine_start.prime]] with at and dose");
    s.doseVolume = t.quantity<Dimension::volume>("dose_volume").value_or(s.doseVolume);
    s.order = t.texts("order");
    s.orderReason = t.text("order_reason");
    s.accessoryFirst = t.text("accessory_first");
    s.awayFirst = t.text("away_first");
    s.perEngine = t.quantity<Dimension::duration>("minutes_per_engine", true, minutesUnit).value_or(Duration::si(120));
    s.crankMost = t.quantity<Dimension::duration>("crank_most", true).value_or(Duration::si(15));
    s.rest = t.quantity<Dimension::duration>("rest", true).value_or(Duration::si(60));
    s.tries = static_cast<int>(t.number("tries").value_or(3));
    s.primeTime = t.quantity<Dimension::duration>("dose_time").value_or(s.primeTime);
    s.primeAhead = t.flag("prime_ahead").value_or(true);
    s.oilPressure = t.quantity<Dimension::pressure>("oil_pressure", true).value_or(Pressure::si(1e5));
    s.oilPressureWithin = t.quantity<Dimension::duration>("oil_pressure_within", true).value_or(Duration::si(30));
    if (auto k = t.table("starter"))
        s.starter = readStarter(*k);
    if (auto b = t.table("battery")) {
        s.battery.volts = b->number("volts", true).value_or(24);
        s.battery.ampereHours = b->number("ampere_hours", true).value_or(34);
        s.battery.resistance = b->number("resistance").value_or(s.battery.resistance);
        s.battery.fuseAmperes = b->number("fuse").value_or(s.battery.fuseAmperes);
        b->finish();
    }
    if (auto h = t.table("hand_turning")) {
        s.handTurning.blades = h->number("blades", true).value_or(0);
        s.handTurning.standing = h->quantity<Dimension::duration>("after").value_or(s.handTurning.standing);
        s.handTurning.locks = h->flag("locks").value_or(false);
        s.handTurning.lowest = h->text("lowest");
        s.handTurning.byStarter = h->flag("by_starter").value_or(false);
        for (auto& longer : h->tables("longer")) {
            s.handTurning.longer.emplace_back(
                longer.quantity<Dimension::duration>("after", true).value_or(Duration::si(86400)),
                longer.number("blades", true).value_or(s.handTurning.blades));
            longer.finish();
        }
        double last = s.handTurning.blades, stood = s.handTurning.standing.si();
        for (const auto& [after, blades] : s.handTurning.longer) {
            if (after.si() <= stood || blades < last)
                h->problem(h->line("longer"), "turning by hand asks for fewer blades after standing longer",
                           "List longer standing times in rising order with no fewer blades");
            stood = after.si();
            last = blades;
        }
        h->finish();
    }
    if (auto c = t.table("cold"))
        s.cold = readCold(*c);
    for (auto& a : t.tables("action")) {
        StartAction action;
        action.line = a.line();
        action.when = static_cast<StartAction::When>(
            a.word("when", {"before prime", "before crank", "running", "all running"}, true).value_or(0));
        action.what = a.text("what", true);
        action.set = a.text("set", true);
        a.finish();
        s.actions.push_back(std::move(action));
    }
    s.bladesPerDose = t.number("blades_per_dose").value_or(s.bladesPerDose);
    s.slowRpm = t.quantity<Dimension::rotation>("slow_rpm", false, units::rpm.spec);
    if (const auto band = t.range(Dimension::rotation, "rpm_band", "engine_start.slow_rpm"))
        s.band = {Rotation::si(band->first), Rotation::si(band->second)};
    s.generatorFrom = t.quantity<Dimension::rotation>("generator_from", false, units::rpm.spec);
    s.cartPermits = t.text("cart_permits");
    s.bladesFirst = s.starter.bladesBeforeIgnition > 0;
    t.finish();
    return s;
}

} // namespace amber::notes
