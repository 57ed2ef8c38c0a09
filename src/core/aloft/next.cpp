// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/next.h"
#include "loading/tank_sequence.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/due.h"
#include "watch/rating_clock.h"
#include "watch/start_counts.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::aloft {
namespace {
constexpr double soon = 60.0;         // s
constexpr double scanEvery = 1800.0;  // s, J46
constexpr double hotAirEvery = 600.0; // s, in ice
constexpr double horizon = 5400.0;    // s: further off than that nobody waits
constexpr double choreWaits = 300.0;  // s that something overdue is called for
constexpr double settled = 240.0;     // s after which a phase's first scan is worth it

std::string positionName(const TypeNotes& n, const std::string& engine) {
    for (const auto& p : n.positions)
        if (p.id == engine && n.engineCount() > 1)
            return p.name + ": ";
    return {};
}
} // namespace

watch::Verdict verdictAt(const NextItem& item, double since) {
    if (!item.in || item.kind == NextItem::Kind::needle)
        return item.verdict;
    const auto due = watch::judgeDue(*item.in - since, item.what);
    return due.colour() > item.verdict.colour() ? due : item.verdict;
}

std::vector<NextItem> nextItems(const powerplant::Aircraft& a, const Sortie& sortie, const plan::Plan& plan,
                                const Happened& happened, const Course& course, const FuelCourse& fuel,
                                const Now& now) {
    using Kind = NextItem::Kind;
    const TypeNotes& n = a.notes;
    const auto& f = plan.flown;
    std::vector<NextItem> out;
    if (now.over)
        return out;
    const auto add = [&](NextItem item) {
        if (item.in && item.verdict == watch::Verdict{})
            item.verdict = watch::judgeDue(*item.in, item.what);
        out.push_back(std::move(item));
    };
    const auto moment = [&](std::string id, std::string what, std::string why, double in, std::string place,
                            std::string engine = {}) {
        NextItem item;
        item.kind = Kind::moment;
        item.id = std::move(id);
        item.what = std::move(what);
        item.why = std::move(why);
        item.in = in;
        item.place = std::move(place);
        item.engine = std::move(engine);
        return item;
    };

    // Oil pressure after each fire, until it is logged or long past.
    const StartNotes& start = plan.startInForce;
    for (const auto& m : happened.moments) {
        if (m.what != "at-first-fire" || start.oilPressureWithin.si() <= 0.0)
            continue;
        const bool read = std::any_of(happened.readings.begin(), happened.readings.end(), [&](const Reading& r) {
            return r.gauge == Gauge::oilPressure && r.engine == m.engine && r.at >= m.at && r.at <= now.at;
        });
        const bool seen = happened.lastDone("oil-pressure", m.engine, now.at).value_or(-HUGE_VAL) >= m.at;
        const double in = m.at + start.oilPressureWithin.si() - now.at;
        if (read || seen || in < -120.0)
            continue;
        auto item = moment("oil-pressure/" + m.engine, positionName(n, m.engine) + "Oil pressure",
                           fmt::format("{} within {} of the first fire, else stop",
                                       format(start.oilPressure.si(), n.unitOf(Gauge::oilPressure)),
                                       format(start.oilPressureWithin.si(), *units::second.spec)),
                           in, "oil-pressure", m.engine);
        item.kind = Kind::oilPressure;
        item.ticks = true;
        item.origin = Origin::notes;
        add(std::move(item));
    }
    if (now.quiet) {
        return out;
    }
    // Tank: when the one that feeds is down to what the plan leaves in it.
    for (const auto& change : f.tankChanges) {
        const bool feed =
            change.kind == flight::TankChange::Kind::feed || change.kind == flight::TankChange::Kind::reserve;
        if (!feed || change.from < 0 || change.time < now.plan - 1.0)
            continue;
        // Where another tank was chosen by hand it is that one which is left; and nobody changes to what feeds already.
        const int feeds = now.here.feeding >= 0 ? now.here.feeding : change.from;
        if (change.tank == feeds)
            continue;
        const auto from = static_cast<std::size_t>(feeds);
        const double left = feeds == change.from ? change.left : loading::TankSequence(n, sortie).leaveAt(feeds);
        // The countdown goes by the greater consumption; the width is the estimate's.
        const double sigma = now.today.fuel.deviation, found = std::exp(now.today.fuel.burn);
        const auto middle = fuel.downTo(from, left, now.at, now.here.burn);
        const auto likely = fuel.downTo(from, left, now.at, found);
        if (!middle)
            continue;
        const auto sooner = fuel.downTo(from, left, now.at, found * std::exp(ninety * sigma));
        const auto later = fuel.downTo(from, left, now.at, found * std::exp(-ninety * sigma));
        // Where the plan changes before bad ground or while the tank still has fuel, its own moment stands.
        const double in =
            change.beforeBadGround ? std::min(*middle, course.realAt(change.time)) - now.at : *middle - now.at;
        NextItem item = moment("tank/" + n.fuel.tanks[static_cast<std::size_t>(change.tank)].id,
                               "Change to " + n.fuel.tanks[static_cast<std::size_t>(change.tank)].name,
                               fmt::format("{} then has {}{}", n.fuel.tanks[from].name, format(left, *n.cockpit.fuel),
                                           n.fuel.tanks[from].gauged ? "" : ", and no gauge"),
                               in, "tank/" + n.fuel.tanks[static_cast<std::size_t>(change.tank)].id);
        item.kind = Kind::tank;
        if (likely)
            item.estimate = *likely - now.at;
        if (sooner && later)
            item.width = std::pair{*sooner - now.at, *later - now.at};
        add(std::move(item));
        break; // one after the other
    }
    for (const auto& rating : now.ratings) {
        if (!rating.runs)
            continue;
        NextItem item;
        item.kind = Kind::rating;
        item.id = "rating/" + rating.key;
        item.what = rating.name;
        item.told =
            fmt::format("used {} of {}", formatMinutesSeconds(rating.used), formatMinutesSeconds(*rating.allowed));
        item.why = "reduce within its time";
        item.origin = Origin::notes;
        item.verdict = rating.verdict;
        if (rating.used > 0.5 * *rating.allowed)
            out.push_back(std::move(item));
    }
    // Heat on the ground: in-line engines.
    if (now.phase == Phase::warmUp || now.phase == Phase::runUp)
        if (f.groundToAmber) {
            const double in = course.realAt(f[Phase::warmUp].start) + *f.groundToAmber - now.at;
            NextItem item = moment("ground-heat", "Off the ground",
                                   std::string(n.engine.cooling == Cooling::air ? "heads are" : "coolant is") +
                                       " amber by then at taxi rpm",
                                   in, {});
            item.kind = Kind::groundHeat;
            if (in < 900.0)
                add(std::move(item));
        }
    if (now.here.turnBack && *now.here.turnBack > -soon && *now.here.turnBack < horizon) {
        NextItem item = moment("turn-back", "Latest turning back",
                               "after it the fuel does not reach back with the reserve", *now.here.turnBack, {});
        item.kind = Kind::turnBack;
        add(std::move(item));
    }
    // Minima: a needle that is waited for.
    const auto needle = [&](const std::optional<Ahead>& ahead, const char* id, const char* what, std::string why) {
        if (!ahead)
            return;
        NextItem item = moment(id, what, std::move(why), ahead->value, {});
        item.kind = Kind::needle;
        item.width = std::pair{ahead->low, ahead->high};
        item.verdict = watch::Verdict{};
        out.push_back(std::move(item));
    };
    const auto minima = [&](std::optional<Temperature> head, Temperature oil) {
        std::string why = "oil " + format(oil.si(), *n.cockpit.temperature);
        if (head)
            why += fmt::format(", {} {}", n.engine.cooling == Cooling::air ? "heads" : "coolant",
                               format(head->si(), *n.cockpit.temperature));
        return why;
    };
    if (now.phase == Phase::warmUp || now.phase == Phase::start)
        needle(now.toRunUp, "minima/run-up", "Warm enough for the run-up",
               minima(n.warmUp.headRunUp, n.warmUp.oilRunUp));
    if (now.phase >= Phase::start && now.phase <= Phase::runUp)
        needle(now.toTakeOff, "minima/take-off", "Warm enough for take-off",
               minima(n.warmUp.headTakeOff, n.warmUp.oilTakeOff));
    // Moments, the next ones of the flight.
    int told = 0;
    for (const auto& planned : plannedMoments(f, n)) {
        if (happened.when(planned.row->key, planned.engine) || planned.at + 1.0 < now.plan || told >= 3)
            continue;
        if (now.nextMoment && planned.at < now.nextMoment->at - 1e-6)
            continue;
        const double in =
            planned.row == (now.nextMoment ? now.nextMoment->row : nullptr) && now.nextMoment->engine == planned.engine
                ? now.nextMomentIn
                : course.realAt(planned.at) - now.at;
        if (in > horizon)
            break;
        std::string why;
        if (planned.row->key == "at-gear-change" && f.gearChange())
            why = "at " + formatHeight(f.gearChange()->height.si(), *n.cockpit.height);
        else if (planned.row->key == "at-top-of-climb")
            why = "at " + formatHeight(f.samples[f[Phase::cruise].firstSample][Gauge::height], *n.cockpit.height);
        auto item = moment("moment/" + std::string(planned.row->key) + planned.engine, nameOf(planned, n),
                           std::move(why), in, std::string(planned.row->key), planned.engine);
        if (planned.row->key == "at-gear-change" || planned.row->key == "at-top-of-climb")
            item.kind = Kind::height;
        item.verdict = watch::judgeDue(in, item.what);
        add(std::move(item));
        ++told;
    }
    // Hot air each ten minutes in ice; scans; what comes round by the clock.
    for (const auto& ice : f.ice)
        if (ice.phase == now.phase && ice.phase >= Phase::climb && ice.advice.risk != engine::IceRisk::none) {
            const double from =
                std::max(course.realAt(f[now.phase].start), happened.lastDone("ice", {}, now.at).value_or(-HUGE_VAL));
            const double in = from + hotAirEvery - now.at;
            NextItem item = moment("ice", "Hot air, look for a rise", "ice may form here", in, {});
            item.kind = Kind::ice;
            item.ticks = true;
            add(std::move(item));
        }
    // Where the notes have something that comes round by the clock, they have the scan as well.
    const bool chores = std::any_of(plan.marks.begin(), plan.marks.end(),
                                    [&](const plan::Mark& m) { return m.chore && m.phase == now.phase; });
    if ((now.phase == Phase::cruise || now.phase == Phase::climb) && !chores) {
        double last = course.realAt(f[now.phase].start) + settled - scanEvery;
        for (const auto& r : happened.readings)
            if (r.at <= now.at && course.phaseAt(r.at) == now.phase && !isOfAircraft(r.gauge))
                last = std::max(last, r.at);
        if (const auto ticked = happened.lastDone("scan", {}, now.at))
            last = std::max(last, *ticked);
        NextItem item = moment("scan", "Read the needles", "each half-hour", last + scanEvery - now.at, {});
        item.kind = Kind::reading;
        item.ticks = true;
        add(std::move(item));
    }
    for (const auto& chore : plan.marks)
        if (chore.chore && chore.phase == now.phase) {
            const double in = course.realAt(chore.time) - now.at;
            // Done, or so long ago that nobody will; a minute early is not early.
            const auto ticked = happened.lastDone("chore/" + chore.text, {}, now.at);
            if (in < -choreWaits || (ticked && *ticked >= now.at + in - choreWaits / 2))
                continue;
            if (in > horizon)
                break;
            NextItem item = moment("chore/" + chore.text, chore.text, {}, in, {});
            item.kind = Kind::chore;
            item.ticks = true;
            item.origin = Origin::notes;
            add(std::move(item));
            break;
        }
    // What presses first by its weight, the others by when.
    const auto presses = [](const NextItem& i) { return !i.in || *i.in < soon; };
    std::stable_sort(out.begin(), out.end(), [&](const NextItem& x, const NextItem& y) {
        if (presses(x) != presses(y))
            return presses(x);
        if (presses(x))
            return x.kind < y.kind;
        return *x.in < *y.in;
    });
    return out;
}

} // namespace amber::aloft
