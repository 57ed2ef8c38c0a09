// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/start_words.h"
#include "plan/cool_down.h"
#include "start/preheat.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {
namespace {
void add(PhasePlan& page, std::string what, std::string value, std::string mark, std::string why,
         watch::Colour colour = watch::Colour::normal) {
    page.clocks.push_back({std::move(what), std::move(value), std::move(mark), std::move(why), colour});
}
std::string seconds(Duration d) {
    return format(std::round(d.si()), *units::second.spec);
}
constexpr double slowTurning = 0.55; // of the warm speed, below which it hardly fires
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

StartWords::StartWords(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown)
    : n_(aircraft.notes), s_(sortie), f_(flown), inForce_(start::startInForce(n_, sortie.choices)),
      request_(startRequestOf(sortie)), prime_(start::Priming(inForce_).advice(request_.engine, request_.field)),
      cranking_(
          start::crank(inForce_, {request_.oil, request_.supply, request_.diluted, start::bladesPerRevolution(n_)})),
      walk_(start::walkRound(n_, sortie.walk.found, {sortie.contents, groundAttitude(n_, sortie)})) {}

std::string StartWords::temperature(Temperature t) const {
    return format(t.si(), *n_.cockpit.temperature);
}

std::vector<start::SequenceLine> StartWords::sequence() const {
    return start::startSequence(n_, inForce_, f_.start, request_);
}
std::vector<start::ComparedOrder> StartWords::orders() const {
    return start::compareOrders(n_, inForce_, request_);
}

std::pair<std::string, Origin> StartWords::primeText() const {
    std::string text;
    double first = -1.0;
    bool same = true;
    for (const auto& p : n_.positions) {
        const auto extra = s_.airframe.extraPrime.find(p.id);
        const double amount = std::max(0.0, prime_.dose + (extra == s_.airframe.extraPrime.end() ? 0 : extra->second));
        same = same && (first < 0 || amount == first);
        if (first < 0)
            first = amount;
        text += (text.empty() ? "" : ", ") + fmt::format("{} {}", p.name, formatNumber(amount, 0));
    }
    const std::string blades = prime_.blades > 0 ? fmt::format(" and {} blades", formatNumber(prime_.blades, 0)) : "";
    if (same)
        return {fmt::format("{}{}{}", doseText(first, prime_.unit), blades, n_.positions.size() > 1 ? " each" : ""),
                prime_.origin};
    return {text + " " + prime_.unit + blades, Origin::logged};
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

std::optional<std::pair<std::string, Origin>> StartWords::figure(std::string_view name) const {
    using Figure = std::pair<std::string, Origin>;
    const auto rpm = [](Rotation r) { return format(std::round(r.si() * 6) / 6, *units::rpm.spec); };
    if (name == "prime")
        return primeText();
    if (name == "order")
        return Figure{orderText(), Origin::notes};
    if (name == "blades") {
        const int blades = n_.start.starter.bladesBeforeIgnition;
        return Figure{fmt::format("{}", blades > 0 ? blades : std::max(4, inForce_.starter.bladesBeforeIgnition)),
                      Origin::notes};
    }
    if (name == "vaporise")
        return Figure{seconds(prime_.vaporise), Origin::model};
    if (name == "warm-up-rpm")
        return Figure{rpm(Rotation::si(f_.moments[f_[Phase::start].lastMoment].rpm)), Origin::notes};
    if (name == "slow-rpm")
        return Figure{inForce_.slowRpm ? rpm(*inForce_.slowRpm) : "slowest smooth rpm", Origin::notes};
    if (name == "hot-air")
        return Figure{n_.start.cold.hotAirAfter
                          ? fmt::format(", not before {}", formatMinutesSeconds(n_.start.cold.hotAirAfter->si()))
                          : std::string{},
                      Origin::notes};
    return std::nullopt;
}

void StartWords::walkClocks(PhasePlan& page) const {
    add(page, "Walk-round", fmt::format("{:.0f} min", std::max(1.0, std::round(page.duration / 60))), "notes",
        "Time for every station, always in the same order.");
    if (walk_.items > 0)
        add(page, "Seen", fmt::format("{} of {}", walk_.seen, walk_.items), "yours",
            "What has been looked at or read so far.");
    const auto& hand = n_.start.handTurning;
    if (!(hand.blades > 0))
        return;
    const double blades = hand.bladesAfter(s_.start.sinceStop);
    const std::string stood =
        s_.start.sinceStop ? formatHoursOrMinutes(s_.start.sinceStop->si()) : "overnight or longer";
    const bool many = n_.positions.size() > 1;
    add(page, hand.byStarter ? "Turn by starter" : "Turn by hand",
        blades > 0 ? fmt::format("{:.0f} blades{}", blades, many ? " each" : "") : "not yet needed", "notes",
        fmt::format("Stood {}; needed after {} h. Ignition off, throttle closed, and live all the same.", stood,
                    formatHoursMinutes(hand.standing.si())));
    if (!hand.locks)
        return;
    std::string names;
    for (const auto& p : n_.positions)
        names += (names.empty() ? "" : ", ") + p.name;
    add(page, "If it stops", "never force it", "notes",
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
        const Volume held = start::contentsOf(n_, tank, s_.walk.found, s_.contents);
        ClockLine line;
        line.what = fmt::format("{}, {}", tank.name, formatValue(held.si(), unit));
        if (const auto gauge = start::groundGauge(tank, held, attitude)) {
            const double off = gauge->shown.si() - held.si();
            line.value = fmt::format("shows {}", format(gauge->shown.si(), unit));
            line.mark = markOf(gauge->origin);
            line.why = fmt::format("Standing {:.0f}° nose up the gauge reads {} {} than the dip.", attitude,
                                   format(std::abs(off), unit), off >= 0 ? "more" : "less");
            for (const auto& stop : walk_.stops)
                for (const auto& f : stop.items)
                    if (f.item.kind == WalkItemKind::gauge && f.item.tank == tank.id && f.value) {
                        line.colour = f.judgement.colour;
                        line.value = fmt::format("shows {}, read {}", formatValue(gauge->shown.si(), unit), f.found);
                        line.why = f.judgement.sentence;
                    }
        } else {
            line.value = fmt::format("{} by dip, no gauge", format(held.si(), unit));
            line.what = tank.name;
            line.mark = "notes";
            line.why = "Nothing in the cockpit shows this tank: it is dipped now and counted by the clock in flight.";
        }
        page.groundFuel.push_back(std::move(line));
    }
}

void StartWords::priming(PhasePlan& page) const {
    const auto line = [&](std::string what, std::string value, std::string mark, std::string why) {
        page.priming.push_back({std::move(what), std::move(value), std::move(mark), std::move(why), {}});
    };
    const std::string how = s_.start.preheated ? "pre-heated"
                            : s_.start.sinceStop
                                ? fmt::format("{} after stopping", formatHoursOrMinutes(s_.start.sinceStop->si()))
                                : "cold-soaked";
    line(fmt::format("Engine, {}", how), temperature(request_.engine), s_.start.preheated ? "yours" : "model",
         "A standing engine cools towards the air with a time constant of forty minutes.");
    for (const auto& p : n_.positions) {
        const auto extra = s_.airframe.extraPrime.find(p.id);
        const double more = extra == s_.airframe.extraPrime.end() ? 0.0 : extra->second;
        line(p.name,
             fmt::format("{}{}", doseText(std::max(0.0, prime_.dose + more), prime_.unit),
                         prime_.blades > 0 ? fmt::format(", {} blades", formatNumber(prime_.blades, 0)) : ""),
             more != 0 ? "logged" : std::string(markOf(prime_.origin)),
             more != 0 ? fmt::format("This engine has been found to like {} more than the notes say.",
                                     formatNumber(more, 0, true))
                       : beyondTable());
    }
    if (prime_.dose > 0) {
        line("Fires with",
             fmt::format("{} to {} {}", formatNumber(prime_.fireLow, 1), formatNumber(prime_.fireHigh, 1), prime_.unit),
             "model", "Less turns and never fires.");
        line("Floods from", fmt::format("{} {}", formatNumber(prime_.flood, 0), prime_.unit), "model",
             "Coughing, popping, black smoke, fuel from the drain; a fire risk.");
        line("Vapour after", inForce_.primeWhileTurning ? "as it turns" : formatMinutesSeconds(prime_.vaporise.si()),
             "model", "Cold metal takes its time.");
        line("Drained after", formatMinutesSeconds(prime_.drain.si()), "model",
             "Left longer than this it must be primed again.");
    }
    if (const double turns =
            start::Priming(inForce_).clearingRevolutions(prime_.flood + 1.0, request_.engine, request_.field);
        turns > 0)
        line("If flooded", fmt::format("{:.0f} turns, throttle open", turns), "model",
             "Mixture cut off, throttle wide open; within the starter's limit.");
    std::string table;
    for (const auto& entry : n_.start.prime)
        table +=
            fmt::format("{}{}: {}", table.empty() ? "" : " · ", temperature(entry.at), formatNumber(entry.dose, 0));
    line("Notes", table, "notes", fmt::format("{} by engine temperature.", n_.start.primer));
}

void StartWords::turning(PhasePlan& page) const {
    const auto& k = cranking_;
    const auto& starter = inForce_.starter;
    const std::string rpm = fmt::format("{:.0f} rpm", std::round(k.rpm * 60 / 5) * 5);
    const bool slow = k.rpm < slowTurning * starter.warmRpm;
    if (k.amperes > 0) {
        add(page, "Turns at", fmt::format("{}, {:.0f} V, {:.0f} A", rpm, k.volts, std::round(k.amperes / 10) * 10),
            "model",
            k.fuseMargin < 0
                ? fmt::format("The starter draws more than the fuse of {:.0f} A: {}.", inForce_.battery.fuseAmperes,
                              request_.supply == start::Supply::battery ? "use the ground cart, or warm the oil"
                                                                        : "warm the oil; the cart is on already")
            : k.cartAdvised && request_.supply == start::Supply::battery
                ? fmt::format("The battery sags to {:.0f} V: the ground cart is advised.", k.volts)
                : fmt::format("Fuse margin {:.0f} %; cold oil turns slower and draws more.", 100 * k.fuseMargin),
            k.fuseMargin < 0 ? watch::Colour::red
            : k.cartAdvised  ? watch::Colour::amber
                             : watch::Colour::normal);
        if (request_.supply == start::Supply::battery)
            add(page, "Battery after", fmt::format("{:.0f} % left", 100 * f_.start.batteryLeft), "model",
                fmt::format("{:.1f} Ah of {:.0f} for the whole start, every try catching.", f_.start.ampereHours,
                            inForce_.battery.ampereHours),
                f_.start.batteryLeft < 0.5 ? watch::Colour::amber : watch::Colour::normal);
    } else if (starter.kind != StarterKind::hand) {
        add(page, "Turns at", rpm, "model", "Cold oil turns slower.",
            slow ? watch::Colour::amber : watch::Colour::normal);
    }
    add(page, "Fires, oil pressure", fmt::format("{}, then {}", seconds(k.untilFiring), seconds(k.untilOilPressure)),
        "model",
        k.firesInTime
            ? fmt::format("From the first turn{}; then from first fire.",
                          k.forBlades.si() > 0 ? fmt::format(", {} of it for the blades", seconds(k.forBlades)) : "")
            : "Longer than one try may last: warm it, dilute it, or prime it as it turns.",
        k.firesInTime ? watch::Colour::normal : watch::Colour::amber);
    if (starter.boosterMost)
        add(page, "Booster coil", fmt::format("{} at most", seconds(*starter.boosterMost)), "notes",
            "Held until it runs by itself; longer burns the coil.");
    if (!starter.spark.empty())
        add(page, "Spark lever", starter.spark, "notes",
            "Advanced, it kicks back and breaks the wrist or the starter.");
    if (starter.kind == StarterKind::air)
        add(page, "Air left after it", format(k.airLeft.si(), *n_.cockpit.pressure), "model",
            fmt::format("Of {} in a full bottle.", format(starter.airBottle.si(), *n_.cockpit.pressure)),
            k.airLeft.si() < starter.airPerStart.si() ? watch::Colour::amber : watch::Colour::normal);
    if (starter.kind == StarterKind::cartridge)
        add(page, "Cartridges", fmt::format("{}", starter.cartridges), "notes", "Each try spends one.");
}

void StartWords::frost(PhasePlan& page) const {
    const auto& c = n_.start.cold;
    if (c.preheatBelow && request_.engine < *c.preheatBelow) {
        const auto time = start::heaterTime(n_, request_.engine, *c.preheatBelow, s_.day.oat);
        add(page, "Heater",
            time ? fmt::format("{} to {}", formatHoursOrMinutes(std::ceil(time->si() / 300) * 300),
                               temperature(*c.preheatBelow))
                 : "not enough",
            "model",
            fmt::format("{} on each engine, oil and carburettor, under covers.",
                        format(c.heater.si(), *units::kilowatt.spec)),
            time ? watch::Colour::normal : watch::Colour::amber);
    } else if (s_.start.preheated && *s_.start.preheated > s_.day.oat) {
        const auto time = start::heaterTime(n_, s_.day.oat, *s_.start.preheated, s_.day.oat);
        add(page, "Heater",
            time ? fmt::format("{} to {}", formatHoursOrMinutes(std::ceil(time->si() / 300) * 300),
                               temperature(*s_.start.preheated))
                 : fmt::format("cannot reach {}", temperature(*s_.start.preheated)),
            "model",
            fmt::format("{} on each engine, from {}.", format(c.heater.si(), *units::kilowatt.spec),
                        temperature(s_.day.oat)),
            time ? watch::Colour::normal : watch::Colour::amber);
    }
    if (c.blanksBelow && s_.day.oat < *c.blanksBelow)
        add(page, "Blanks", "fitted", "notes",
            fmt::format("Below {}: intake and cooler blanks on until the oil is warm; off before take-off.",
                        temperature(*c.blanksBelow)));
    if (c.hotAirAfter && s_.day.oat.si() < 278.15)
        add(page, "Hot air", fmt::format("after {}", formatMinutesSeconds(c.hotAirAfter->si())), "notes",
            "Only once the exhaust is hot; before that it is no warmer, and a backfire runs up the duct.");
}

void StartWords::startClocks(PhasePlan& page) const {
    priming(page);
    if (!(prime_.dose > 0))
        add(page, "Prime", "none, it is hot", "notes", "A hot engine primed is a flooded one.");
    else if (!inForce_.primeWhileTurning)
        add(page, "Prime waits, drains",
            fmt::format("{}, {}", formatMinutesSeconds(prime_.vaporise.si()), formatMinutesSeconds(prime_.drain.si())),
            "model", "Time to vaporise after the last stroke, and until it has drained again.");
    if (const double turns =
            start::Priming(inForce_).clearingRevolutions(prime_.flood + 1.0, request_.engine, request_.field);
        turns > 0)
        add(page, "If flooded", fmt::format("{:.0f} turns, open", turns), "model",
            fmt::format("Coughing, popping, black smoke, fuel from the drain: {}, throttle wide open, this many "
                        "revolutions {}; then start again without prime. Fuel on the ground: fire guard first.",
                        fuelOff(n_),
                        inForce_.starter.kind == StarterKind::hand ? "by hand, ignition off and treated as live"
                                                                   : "within the starter's limit"));
    if (inForce_.starter.kind != StarterKind::hand)
        add(page, "Starter",
            fmt::format("{}, rest {}", seconds(start::longestTry(inForce_)), formatMinutesSeconds(n_.start.rest.si())),
            "notes",
            fmt::format("At most; {} tries, then {} of rest. After that something is wrong that turning will not mend.",
                        n_.start.tries, formatMinutesSeconds(n_.start.starter.longRest.si())));
    turning(page);
    add(page, "Stop unless",
        fmt::format("{} in {}", format(n_.start.oilPressure.si(), n_.unitOf(Gauge::oilPressure)),
                    seconds(n_.start.oilPressureWithin)),
        "notes", "No oil pressure by then: the engine is stopped.");
    frost(page);
    if (n_.positions.size() > 1)
        add(page, "All running", formatMinutesSeconds(f_.start.total), "model",
            "From the first stroke of prime to the last oil pressure, every try catching. " + n_.start.orderReason);
}

void StartWords::remarks(Phase phase, PhasePlan& page) const {
    if (phase == Phase::walkRound) {
        for (const auto& d : walk_.defects)
            page.remarks.push_back({phase, d.colour, fmt::format("{}: {}", d.where, d.sentence)});
        return;
    }
    if (phase != Phase::start)
        return;
    for (const auto& d : walk_.defects)
        if (d.colour == watch::Colour::red)
            page.remarks.push_back(
                {phase, watch::Colour::red, fmt::format("Not to be started: {}: {}", d.where, d.sentence)});
    const auto& c = n_.start.cold;
    if (c.preheatBelow && request_.engine < *c.preheatBelow)
        page.remarks.push_back({phase, watch::Colour::amber,
                                fmt::format("Engines at {}: these notes want them pre-heated below {}{}.",
                                            temperature(request_.engine), temperature(*c.preheatBelow),
                                            c.oilGrade.empty() ? std::string{} : fmt::format(" with {}", c.oilGrade))});
    if (c.diluteBelow && !s_.start.diluted && !s_.start.preheated && request_.engine < *c.diluteBelow)
        page.remarks.push_back(
            {phase, watch::Colour::amber,
             fmt::format("Below {} the oil is diluted at the stop before; it was not.", temperature(*c.diluteBelow))});
    for (const auto& id : f_.start.abandoned)
        page.remarks.push_back({phase, watch::Colour::red, fmt::format("No. {} has used its tries.", id)});
}

} // namespace amber::plan
