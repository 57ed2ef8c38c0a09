// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/few_engines.h"
#include "air/airspeed.h"
#include "trouble/engine_out.h"
#include "trouble/sheet.h"
#include "units/roots.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::trouble {
namespace {
constexpr double climbsAway = 0.5; // m/s, less is no going round; ours
constexpr double middle = 0.1;     // propeller diameters from the middle: no side
constexpr double lightest = 0.6;   // of the landing weight, to which a lighter one is sought

bool has(const TypeNotes& n, Acts acts) {
    return std::any_of(n.controls.begin(), n.controls.end(), [&](const Control& c) { return c.acts == acts; });
}
} // namespace

FewEngines fewEngines(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f,
                      const std::vector<std::size_t>& dead) {
    const TypeNotes& n = a.notes;
    FewEngines out;
    out.dead = dead;
    for (const std::size_t i : dead)
        out.names.push_back(n.positions[i].name);
    out.anyLeft = dead.size() < n.positions.size();
    out.field = s.flight.toElevation;
    out.wheels = has(n, Acts::wheels);
    out.flaps = has(n, Acts::wingFlap);
    out.wheelsTake = n.trouble.wheelsTake;
    const auto lives = [&](std::size_t i) { return std::find(dead.begin(), dead.end(), i) == dead.end(); };
    bool pump = false, pumpLeft = false;
    double left = 0.0, right = 0.0, centre = 0.0; // engines that live there
    const powerplant::Powerplant plant(a, s.fuelGrade);
    for (std::size_t i = 0; i < n.positions.size(); ++i) {
        pump = pump || n.positions[i].hydraulics;
        pumpLeft = pumpLeft || (n.positions[i].hydraulics && lives(i));
        if (lives(i))
            (std::abs(plant.arm(i)) < middle ? centre : plant.arm(i) < 0 ? left : right) += 1.0;
    }
    out.pumpLost = pump && !pumpLeft;
    out.oneSide = n.positions.size() > 1 && out.anyLeft && centre <= 0.0 && ((left > 0) != (right > 0));
    if (!out.anyLeft)
        return out;

    auto round = goRound(a, s, f, dead);
    out.air = round.air;
    out.weight = round.weight;
    out.held = round.approach;
    const auto safe = flight::speedFor(n, "safe-single", out.weight);
    out.safe = safe ? safe->speed : round.approach;
    out.most = round.each;
    const double live = static_cast<double>(n.positions.size() - dead.size());
    const auto at = s.day.at(round.pressureAltitude);
    const double tas = air::trueAirspeed(out.held, at.pressure, at.temperature).si();
    const double q = 0.5 * air::density(at.pressure, at.temperature) * tas * tas, w = out.weight.si() * air::gravity;
    // What a setting asks of each engine left: down at a rate, with so much of the parasite drag.
    const auto asked = [&](double dirty, double sink) {
        powerplant::Drag drag = a.drag;
        drag.area *= dirty;
        return Power::si(std::max(0.0, (drag.force(q, w) * tas + round.deadDrag.si() - w * sink) /
                                           (powerplant::Drag::propellerEfficiency * live)));
    };
    const double sink = tas * std::sin(threeDegrees);
    out.level = asked(1.0, 0.0);
    out.onWheels = asked(dragDown(n, true, false), sink);
    out.allDown = asked(dragDown(n), sink);
    const auto height = Length::si(out.field.si() + 15.0);
    RestSolver rest(a, s, dead, DeadBlades::feathered, false);
    out.yaw = rest.at(height, out.weight, out.held).yaw;

    // Wheels that only a hand pump or a bottle moves are not brought up again in time.
    const bool stayDown = out.pumpLost && out.wheels;
    const double away = stayDown ? round.rateOnWheels.si() : round.rateUp.si();
    const bool goes = away >= climbsAway && round.notBelow.has_value();
    if (goes && !stayDown)
        out.commit = round.notBelow;
    if (round.rateUp.si() < climbsAway) {
        const auto climbs = [&](double kg) { return rest.at(height, Mass::si(kg)).rate.si() < climbsAway; };
        if (const double light = lightest * out.weight.si(); !climbs(light)) {
            out.climbsAt = Mass::si(roots::turn(climbs, light, out.weight.si(), 12).low);
            out.shed = Mass::si(out.weight.si() - out.climbsAt->si());
        }
    }
    out.goesRound = watch::unless(
        goes, watch::Rule::goRound,
        goes && out.commit ? fmt::format("Above {} over the field it can go round; below, land.",
                                         lowHeight(out.commit->si(), n.cockpit))
        : goes     ? std::string("Until the wheels are down it can go round: then it lands, for they stay down.")
        : out.shed ? fmt::format("No go-round at this weight, possible {} lighter: the first approach must come off.",
                                 format(std::round(out.shed->si() / n.cockpit.weight->scale / 10) * 10 *
                                            n.cockpit.weight->scale,
                                        *n.cockpit.weight))
                   : std::string("No go-round: the first approach must come off."));
    out.path = watch::unless(out.allDown <= out.most, watch::Rule::climbAway,
                             out.allDown <= out.most
                                 ? std::string("The path is held with wheels and flaps down.")
                                 : std::string("With wheels and flaps down it sinks below the path: full flap only "
                                               "when the field is certain."));
    out.round = std::move(round);
    return out;
}

} // namespace amber::trouble
