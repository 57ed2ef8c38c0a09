// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/start_words.h"
#include "advice/cool_down.h"
#include "advice/figures.h"
#include "start/preheat.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {
namespace {
void add(PhasePlan& page, Fact fact, std::string what, std::string value, Origin origin, std::string why,
         watch::Verdict verdict = {}) {
    page.clocks.push_back(
        {std::move(fact), std::move(what), std::move(value), origin, std::move(why), std::move(verdict)});
}
/// The same, its words judged.
template <typename Judge>
void addJudged(PhasePlan& page, Fact fact, std::string what, std::string value, Origin origin, std::string why,
               Judge judge) {
    auto verdict = judge(why);
    add(page, std::move(fact), std::move(what), std::move(value), origin, std::move(why), std::move(verdict));
}
std::string seconds(Duration d) {
    return format(std::round(d.si()), *units::second.spec);
}
} // namespace

std::string fuelOff(const TypeNotes& notes) {
    for (const auto& lever : notes.levers)
        for (const auto& position : lever.positions)
            if (position.find("cut-off") != std::string::npos)
                return "mixture at cut-off";
    return "fuel cock off";
}

double groundAttitude(const TypeNotes& notes, const Sortie& sortie) {
    return sortie.walk.attitude.value_or(notes.fuel.groundAttitude);
}

StartWords::StartWords(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown)
    : a_(aircraft), n_(aircraft.notes), s_(sortie), f_(flown), inForce_(start::startInForce(n_, sortie.choices)),
      request_(flight::startRequestOf(sortie, flown)),
      prime_(start::Priming(inForce_).advice(request_.engine, request_.field)),
      cranking_(
          start::crank(inForce_, {request_.oil, request_.supply, request_.diluted, start::bladesPerRevolution(n_)})),
      walk_(watch::walkRound(n_, sortie.walk.found, {sortie.contents, groundAttitude(n_, sortie)})) {}

std::string StartWords::temperature(Temperature t) const {
    return format(t.si(), *n_.cockpit.temperature);
}

std::vector<start::SequenceLine> StartWords::sequence() const {
    return start::startSequence(n_, inForce_, f_.start, request_);
}
std::vector<start::ComparedOrder> StartWords::orders() const {
    return start::compareOrders(n_, inForce_, request_);
}

Filled StartWords::primeText() const {
    std::string text;
    Filled out{"", Origin::logged};
    for (const auto& p : n_.positions) {
        const double amount = start::doseFor(prime_, request_.liking, p.id);
        out.facts.push_back({"prime", {}, amount, p.id});
        text += (text.empty() ? "" : ", ") + fmt::format("{} {}", p.name, formatNumber(amount, 0));
    }
    const std::string blades = prime_.blades > 0 ? fmt::format(" and {} blades", formatNumber(prime_.blades, 0)) : "";
    const double first = out.facts.front().value;
    if (std::all_of(out.facts.begin(), out.facts.end(), [&](const Fact& f) { return f.value == first; })) {
        out.text =
            fmt::format("{}{}{}", advice::doseText(first, prime_.unit), blades, n_.positions.size() > 1 ? " each" : "");
        out.origin = prime_.origin;
        out.facts = {{"prime", {}, first}};
    } else {
        out.text = text + " " + prime_.unit + blades;
    }
    if (prime_.blades > 0)
        out.facts.push_back({"prime-blades", {}, prime_.blades});
    return out;
}

std::string StartWords::beyondTable() const {
    const auto& table = n_.start.prime;
    const auto beyond = [&](Temperature end) {
        return fmt::format("Not in the notes: their table ends at {}, and its last figure is kept.",
                           format(end.si(), *n_.cockpit.temperature));
    };
    if (!table.empty() && request_.engine < table.front().at)
        return beyond(table.front().at);
    if (!table.empty() && request_.engine > table.back().at)
        return beyond(table.back().at);
    return "The notes' table; between its entries as the need for vapour runs.";
}

std::string StartWords::orderText() const {
    std::string out;
    for (const auto& id : s_.start.order.empty() ? n_.start.order : s_.start.order)
        for (const auto& p : n_.positions)
            if (p.id == id)
                out += (out.empty() ? "" : ", then ") + p.name;
    return out;
}

std::optional<Filled> StartWords::figure(std::string_view name) const {
    // What a hand does by that name, so that words and hand agree.
    const auto said = [&](const auto& words) -> std::optional<Filled> {
        const auto figure = advice::figureOf(a_, s_, f_, Phase::start, name);
        if (!figure || !figure->si)
            return std::nullopt;
        return Filled{words(*figure->si), figure->origin, {{std::string(name), figure->dimension, *figure->si}}};
    };
    const auto rpm = [](double revs) { return format(std::round(revs * 6) / 6, *units::rpm.spec); };
    if (name == "prime")
        return primeText();
    if (name == "order")
        return Filled{orderText(), Origin::notes};
    if (name == "blades") {
        const int needed = n_.start.starter.bladesBeforeIgnition;
        const int blades = needed > 0 ? needed : std::max(4, inForce_.starter.bladesBeforeIgnition);
        return Filled{fmt::format("{}", blades), Origin::notes, {{"blades", {}, static_cast<double>(blades)}}};
    }
    if (name == "vaporise")
        return said([](double s) { return seconds(Duration::si(s)); });
    if (name == "warm-up-rpm")
        return said(rpm);
    if (name == "slow-rpm")
        return inForce_.slowRpm ? said(rpm) : Filled{"slowest smooth rpm", Origin::notes};
    if (name == "hot-air") {
        const auto& after = n_.start.cold.hotAirAfter;
        return after ? Filled{", not before " + formatMinutesSeconds(after->si()),
                              Origin::notes,
                              {{"hot-air", Dimension::duration, after->si()}}}
                     : Filled{"", Origin::notes};
    }
    return std::nullopt;
}

void StartWords::walkClocks(PhasePlan& page) const {
    add(page, {"walk-round", Dimension::duration, page.duration}, "Walk-round",
        fmt::format("{:.0f} min", std::max(1.0, std::round(page.duration / 60))), Origin::notes,
        "Time for every station, always in the same order.");
    if (walk_.items > 0)
        add(page, {"seen", {}, static_cast<double>(walk_.seen)}, "Seen",
            fmt::format("{} of {}", walk_.seen, walk_.items), Origin::entered,
            "What has been looked at or read so far.");
    const auto& hand = n_.start.handTurning;
    if (!(hand.blades > 0))
        return;
    const double blades = hand.bladesAfter(s_.start.sinceStop);
    const std::string stood =
        s_.start.sinceStop ? formatHoursOrMinutes(s_.start.sinceStop->si()) : "overnight or longer";
    const bool many = n_.positions.size() > 1;
    add(page, {"blades", {}, blades}, hand.byStarter ? "Turn by starter" : "Turn by hand",
        blades > 0 ? fmt::format("{:.0f} blades{}", blades, many ? " each" : "") : "not yet needed", Origin::notes,
        fmt::format("Stood {}; needed after {} h. Ignition off, throttle closed, and live all the same.", stood,
                    formatHoursMinutes(hand.standing.si())));
    if (!hand.locks)
        return;
    std::string names;
    for (const auto& p : n_.positions)
        names += (names.empty() ? "" : ", ") + p.name;
    add(page, {"hydraulic-lock"}, "If it stops", "never force it", Origin::notes,
        fmt::format(
            "Oil has locked a low cylinder{}{}: do not turn it back to clear it either. Plugs out of the lowest "
            "cylinders, drain, turn again by hand; a forced rod bends now and fails in flight.",
            many ? fmt::format(" ({})", names) : "",
            hand.lowest.empty() ? "" : fmt::format(", lowest are {}", hand.lowest)));
}

void StartWords::groundFuel(PhasePlan& page) const {
    const UnitSpec& unit = *n_.cockpit.fuel;
    const double attitude = groundAttitude(n_, s_);
    for (const auto& tank : n_.fuel.tanks) {
        const Volume held = watch::contentsOf(n_, tank, s_.walk.found, s_.contents);
        ClockLine line;
        line.what = fmt::format("{}, {}", tank.name, formatValue(held.si(), unit));
        if (const auto gauge = watch::groundGauge(tank, held, attitude)) {
            const double off = gauge->shown.si() - held.si();
            line.value = fmt::format("shows {}", format(gauge->shown.si(), unit));
            line.origin = gauge->origin;
            line.fact = {"gauge-" + tank.id, Dimension::volume, gauge->shown.si()};
            line.why = fmt::format("Standing {:.0f}° nose up the gauge reads {} {} than the dip.", attitude,
                                   format(std::abs(off), unit), off >= 0 ? "more" : "less");
            for (const auto& stop : walk_.stops)
                for (const auto& f : stop.items)
                    if (f.item.kind == WalkItemKind::gauge && f.item.tank == tank.id && f.value) {
                        line.verdict = f.verdict;
                        line.value = fmt::format("shows {}, read {}", formatValue(gauge->shown.si(), unit), f.found);
                        line.why = f.verdict.sentence();
                    }
        } else {
            line.value = fmt::format("{} by dip, no gauge", format(held.si(), unit));
            line.what = tank.name;
            line.origin = Origin::notes;
            line.fact = {"dip-" + tank.id, Dimension::volume, held.si()};
            line.why = "Nothing in the cockpit shows this tank: it is dipped now and counted by the clock in flight.";
        }
        page.groundFuel.push_back(std::move(line));
    }
}

void StartWords::priming(PhasePlan& page) const {
    const auto line = [&](Fact fact, std::string what, std::string value, Origin origin, std::string why) {
        page.priming.push_back({std::move(fact), std::move(what), std::move(value), origin, std::move(why), {}});
    };
    const std::string how = s_.start.preheated ? "pre-heated"
                            : s_.start.sinceStop
                                ? fmt::format("{} after stopping", formatHoursOrMinutes(s_.start.sinceStop->si()))
                                : "cold-soaked";
    line({"engine-temperature", Dimension::temperature, request_.engine.si()}, fmt::format("Engine, {}", how),
         temperature(request_.engine), s_.start.preheated ? Origin::entered : Origin::model,
         "A standing engine cools towards the air with a time constant of forty minutes.");
    for (const auto& p : n_.positions) {
        const double dose = start::doseFor(prime_, request_.liking, p.id), more = dose - prime_.dose;
        line({"prime", {}, dose, p.id}, p.name,
             fmt::format("{}{}", advice::doseText(dose, prime_.unit),
                         prime_.blades > 0 ? fmt::format(", {} blades", formatNumber(prime_.blades, 0)) : ""),
             more != 0 ? Origin::logged : prime_.origin,
             more != 0 ? fmt::format("This engine has been found to like {} more than the notes say.",
                                     formatNumber(more, 0, true))
                       : beyondTable());
    }
    if (prime_.dose > 0) {
        line({"fires-with", {}, prime_.fireLow}, "Fires with",
             fmt::format("{} to {} {}", formatNumber(prime_.fireLow, 1), formatNumber(prime_.fireHigh, 1), prime_.unit),
             Origin::model, "Less turns and never fires.");
        line({"floods-from", {}, prime_.flood}, "Floods from",
             fmt::format("{} {}", formatNumber(prime_.flood, 0), prime_.unit), Origin::model,
             "Coughing, popping, black smoke, fuel from the drain; a fire risk.");
        line({"vapour-after", Dimension::duration, prime_.vaporise.si()}, "Vapour after",
             inForce_.primeWhileTurning ? "as it turns" : formatMinutesSeconds(prime_.vaporise.si()), Origin::model,
             "Cold metal takes its time.");
        line({"drained-after", Dimension::duration, prime_.drain.si()}, "Drains in",
             formatMinutesSeconds(prime_.drain.si()), Origin::model, "Left longer than this it must be primed again.");
    }
    if (const double turns =
            start::Priming(inForce_).clearingRevolutions(prime_.flood + 1.0, request_.engine, request_.field);
        turns > 0)
        line({"clearing-turns", {}, turns}, "If flooded", fmt::format("{:.0f} turns, throttle open", turns),
             Origin::model, "Mixture cut off, throttle wide open; within the starter's limit.");
    std::string table;
    for (const auto& entry : n_.start.prime)
        table +=
            fmt::format("{}{}: {}", table.empty() ? "" : " · ", temperature(entry.at), formatNumber(entry.dose, 0));
    line({"prime-table"}, "Notes", table, Origin::notes, fmt::format("{} by engine temperature.", n_.start.primer));
}

void StartWords::turning(PhasePlan& page) const {
    const auto& k = cranking_;
    const auto& starter = inForce_.starter;
    const std::string rpm = fmt::format("{:.0f} rpm", std::round(k.rpm * 60 / 5) * 5);
    if (k.amperes > 0) {
        addJudged(page, {"turns-at", Dimension::rotation, k.rpm}, "Cranks at",
                  fmt::format("{}, {:.0f} V, {:.0f} A", rpm, k.volts, std::round(k.amperes / 10) * 10), Origin::model,
                  k.fuseMargin < 0
                      ? fmt::format("The starter draws more than the fuse of {:.0f} A: {}.",
                                    inForce_.battery.fuseAmperes,
                                    request_.supply == start::Supply::battery ? "use the ground cart, or warm the oil"
                                                                              : "warm the oil; the cart is on already")
                  : k.cartAdvised && request_.supply == start::Supply::battery
                      ? fmt::format("The battery sags to {:.0f} V: the ground cart is advised.", k.volts)
                      : fmt::format("Fuse margin {:.0f} %; cold oil turns slower and draws more.", 100 * k.fuseMargin),
                  [&](const std::string& why) { return watch::starterCurrent(k.fuseMargin, k.cartAdvised, why); });
        if (request_.supply == start::Supply::battery)
            addJudged(page, {"battery-after", {}, f_.start.batteryLeft}, "Battery after",
                      fmt::format("{:.0f} % left", 100 * f_.start.batteryLeft), Origin::model,
                      fmt::format("{:.1f} Ah of {:.0f} for the whole start, every try catching.", f_.start.ampereHours,
                                  inForce_.battery.ampereHours),
                      [&](const std::string& why) { return watch::battery(f_.start.batteryLeft, why); });
    } else if (starter.kind != StarterKind::hand) {
        addJudged(page, {"turns-at", Dimension::rotation, k.rpm}, "Cranks at", rpm, Origin::model,
                  "Cold oil turns slower.",
                  [&](const std::string& why) { return watch::turnsSlowly(k.rpm, starter.warmRpm, why); });
    }
    // As its own start was stepped, and not as fast as a warm one scaled.
    const auto own = f_.foreseen.find(f_.start.order.empty() ? std::string() : f_.start.order.front());
    const start::Try* first = own != f_.foreseen.end() && !own->second.empty() ? &own->second.front() : nullptr;
    const bool fires = first ? first->fires : k.firesInTime;
    const Duration until = first && fires ? Duration::si(std::round(first->turned)) : k.untilFiring;
    addJudged(
        page, {"fires-after", Dimension::duration, until.si()}, "Fires, oil pressure",
        fires ? fmt::format("{}, then {}", seconds(until), seconds(k.untilOilPressure))
              : fmt::format("not in {}; then {}", seconds(until), seconds(k.untilOilPressure)),
        Origin::model,
        fires ? fmt::format("From the first turn{}; then from first fire.",
                            k.forBlades.si() > 0 ? fmt::format(", {} of it for the blades", seconds(k.forBlades)) : "")
              : "Not within the first try: warm it, dilute it, or prime it as it turns.",
        [&](const std::string& why) { return watch::unless(fires, watch::Rule::firesLate, why); });
    if (starter.boosterMost)
        add(page, {"booster-most", Dimension::duration, starter.boosterMost->si()}, "Booster coil",
            fmt::format("max {}", seconds(*starter.boosterMost)), Origin::notes,
            "Held until it runs by itself; longer burns the coil.");
    if (!starter.spark.empty())
        add(page, {"spark"}, "Spark lever", starter.spark, Origin::notes,
            "Advanced, it kicks back and breaks the wrist or the starter.");
    if (starter.kind == StarterKind::air)
        addJudged(
            page, {"air-left", Dimension::pressure, k.airLeft.si()}, "Air left after it",
            format(k.airLeft.si(), *n_.cockpit.pressure), Origin::model,
            fmt::format("Of {} in a full bottle.", format(starter.airBottle.si(), *n_.cockpit.pressure)),
            [&](const std::string& why) { return watch::starterAir(k.airLeft.si(), starter.airPerStart.si(), why); });
    if (starter.kind == StarterKind::cartridge)
        add(page, {"cartridges", {}, static_cast<double>(starter.cartridges)}, "Cartridges",
            fmt::format("{}", starter.cartridges), Origin::notes, "Each try spends one.");
}

void StartWords::frost(PhasePlan& page) const {
    const auto& c = n_.start.cold;
    if (c.preheatBelow && request_.engine < *c.preheatBelow) {
        const auto time = start::heaterTime(n_, request_.engine, *c.preheatBelow, s_.day.oat);
        addJudged(page, {"heater", Dimension::duration, time ? time->si() : NAN}, "Heater",
                  time ? fmt::format("{} to {}", formatHoursOrMinutes(std::ceil(time->si() / 300) * 300),
                                     temperature(*c.preheatBelow))
                       : "not enough",
                  Origin::model,
                  fmt::format("{} on each engine, oil and carburettor, under covers.",
                              format(c.heater.si(), *units::kilowatt.spec)),
                  [&](const std::string& why) { return watch::unless(time.has_value(), watch::Rule::heater, why); });
    } else if (s_.start.preheated && *s_.start.preheated > s_.day.oat) {
        const auto time = start::heaterTime(n_, s_.day.oat, *s_.start.preheated, s_.day.oat);
        addJudged(page, {"heater", Dimension::duration, time ? time->si() : NAN}, "Heater",
                  time ? fmt::format("{} to {}", formatHoursOrMinutes(std::ceil(time->si() / 300) * 300),
                                     temperature(*s_.start.preheated))
                       : fmt::format("cannot reach {}", temperature(*s_.start.preheated)),
                  Origin::model,
                  fmt::format("{} on each engine, from {}.", format(c.heater.si(), *units::kilowatt.spec),
                              temperature(s_.day.oat)),
                  [&](const std::string& why) { return watch::unless(time.has_value(), watch::Rule::heater, why); });
    }
    if (c.blanksBelow && s_.day.oat < *c.blanksBelow)
        add(page, {"blanks"}, "Blanks", "fitted", Origin::notes,
            fmt::format("Below {}: intake and cooler blanks on until the oil is warm; off before take-off.",
                        temperature(*c.blanksBelow)));
    if (c.hotAirAfter && s_.day.oat.si() < 278.15)
        add(page, {"hot-air-after", Dimension::duration, c.hotAirAfter->si()}, "Hot air",
            fmt::format("after {}", formatMinutesSeconds(c.hotAirAfter->si())), Origin::notes,
            "Only once the exhaust is hot; before that it is no warmer, and a backfire runs up the duct.");
}

void StartWords::startClocks(PhasePlan& page) const {
    priming(page);
    if (!(prime_.dose > 0))
        add(page, {"prime", {}, 0.0}, "Prime", "none, it is hot", Origin::notes,
            "A hot engine primed is a flooded one.");
    else if (!inForce_.primeWhileTurning)
        add(page, {"prime-waits", Dimension::duration, prime_.vaporise.si()}, "Prime waits, drains",
            fmt::format("{}, {}", formatMinutesSeconds(prime_.vaporise.si()), formatMinutesSeconds(prime_.drain.si())),
            Origin::model, "Time to vaporise after the last stroke, and until it has drained again.");
    if (const double turns =
            start::Priming(inForce_).clearingRevolutions(prime_.flood + 1.0, request_.engine, request_.field);
        turns > 0)
        add(page, {"clearing-turns", {}, turns}, "If flooded", fmt::format("{:.0f} turns, open", turns), Origin::model,
            fmt::format("Coughing, popping, black smoke, fuel from the drain: {}, throttle wide open, this many "
                        "revolutions {}; then start again without prime. Fuel on the ground: fire guard first.",
                        fuelOff(n_),
                        inForce_.starter.kind == StarterKind::hand ? "by hand, ignition off and treated as live"
                                                                   : "within the starter's limit"));
    if (inForce_.starter.kind != StarterKind::hand)
        add(page, {"starter-most", Dimension::duration, start::longestTry(inForce_).si()}, "Starter",
            fmt::format("{}, rest {}", seconds(start::longestTry(inForce_)), formatMinutesSeconds(n_.start.rest.si())),
            Origin::notes,
            fmt::format("At most; {} tries, then {} of rest. After that something is wrong that turning will not mend.",
                        n_.start.tries, formatMinutesSeconds(n_.start.starter.longRest.si())));
    turning(page);
    add(page, {"oil-pressure-within", Dimension::duration, n_.start.oilPressureWithin.si()}, "Stop unless",
        fmt::format("{} in {}", format(n_.start.oilPressure.si(), n_.unitOf(Gauge::oilPressure)),
                    seconds(n_.start.oilPressureWithin)),
        Origin::notes, "No oil pressure by then: the engine is stopped.");
    frost(page);
    if (n_.positions.size() > 1)
        add(page, {"all-running", Dimension::duration, f_.start.total}, "All running",
            f_.start.abandoned.empty() ? formatMinutesSeconds(f_.start.total) : std::string("not all"), Origin::model,
            "From the first stroke of prime to the last oil pressure, every try catching. " + n_.start.orderReason);
}

void StartWords::remarks(Phase phase, PhasePlan& page) const {
    const auto say = [&](watch::Rule rule, watch::Verdict verdict, std::string engine = {}) {
        page.remarks.push_back(
            {rule, phase, std::move(engine), page.start, page.start + page.duration, NAN, std::move(verdict)});
    };
    if (phase == Phase::walkRound) {
        for (const auto& d : walk_.defects)
            say(watch::Rule::walkRound, d.told());
        return;
    }
    if (phase != Phase::start)
        return;
    for (const auto& d : walk_.defects)
        if (d.stops())
            say(watch::Rule::walkRound,
                watch::broken(watch::Rule::walkRound,
                              fmt::format("Not to be started: {}: {}", d.where, d.verdict.sentence())));
    const auto& c = n_.start.cold;
    if (c.preheatBelow && request_.engine < *c.preheatBelow)
        say(watch::Rule::preheat,
            watch::broken(watch::Rule::preheat,
                          fmt::format("Engines at {}: these notes want them pre-heated below {}{}.",
                                      temperature(request_.engine), temperature(*c.preheatBelow),
                                      c.oilGrade.empty() ? std::string{} : fmt::format(" with {}", c.oilGrade))));
    if (c.diluteBelow && !s_.start.diluted && !s_.start.preheated && request_.engine < *c.diluteBelow)
        say(watch::Rule::dilution,
            watch::broken(watch::Rule::dilution,
                          fmt::format("Below {} the oil is diluted at the stop before; it was not.",
                                      temperature(*c.diluteBelow))));
}

} // namespace amber::plan
