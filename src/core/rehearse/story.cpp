// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/story.h"
#include "start/start_school.h"
#include <algorithm>
#include <cmath>

namespace amber::rehearse {
namespace {
constexpr double stepTime = powerplant::shortStep / 1000.0; // s
constexpr double leanEdge = 0.052, richEdge = 0.122;        // vapour fuel–air: past them charges begin to miss
constexpr double chokes = 0.15;                             // of the passage
constexpr double iceTold = 0.05;
constexpr double knockTold = 0.1;
constexpr double dryBowl = 1e-3; // kg

StoppedBy whyStopped(const powerplant::EngineState& s, const powerplant::EngineLevers& l, double tank, bool faulty) {
    using By = StoppedBy;
    if (l.cutOff || l.feather)
        return By::hand;
    if (l.ignition == powerplant::Ignition::off)
        return By::ignition;
    if (!l.cock)
        return By::noFuel;
    if (tank <= 1e-9)
        return By::dryTank;
    if (s.bearing >= 1.0 || faulty)
        return By::broken;
    if (s.ice > chokes)
        return By::ice;
    if (s.fuelAir > richEdge)
        return By::tooRich;
    if (s.bowl < dryBowl)
        return By::noFuel;
    if (s.fuelAir < leanEdge)
        return By::tooLean;
    return By::tooSlow;
}
} // namespace

void tell(EngineStory& story, const powerplant::Powerplant& plant, const Sortie& sortie, const hand::Moment& m,
          std::size_t e, double at) {
    const auto& s = m.state.engines[e];
    const auto& l = m.levers.engines[e];
    if (l.primer > 0 && !s.firing) {
        if (!(story.doses > 0.0)) {
            const auto notes = start::startInForce(plant.aircraft().notes, sortie.choices);
            const start::Priming priming(notes);
            const auto advice = priming.advice(Temperature::si(s.headOrCoolant), sortie.day.fieldPressure());
            story.fireLow = advice.fireLow;
            story.fireHigh = advice.fireHigh;
            story.wanted = advice.dose;
            story.unit = advice.unit;
        }
        story.doses += l.primer * stepTime;
        story.dosesAt = at;
    }
    const bool turned = l.mesh && s.n > 0.1 && !s.firing;
    if (turned) {
        if (!story.turning) {
            ++story.tries;
            if (std::isnan(story.triedAt))
                story.triedAt = at;
        }
        story.turned += stepTime;
        const bool sparks = l.ignition != powerplant::Ignition::off;
        story.hadIgnition = story.hadIgnition || sparks;
        story.hadCoil = story.hadCoil || l.boosterCoil || !plant.aircraft().notes.start.starter.boosterMost;
        story.hadFuel = story.hadFuel || s.fuelAir > 0.01;
        if (sparks) {
            story.vapour += s.fuelAir * stepTime;
            story.sparked += stepTime;
            story.lean += s.fuelAir < start::leanestFiring ? stepTime : 0.0;
            story.rich += s.fuelAir > richEdge ? stepTime : 0.0;
            story.leanest = std::isnan(story.leanest) ? s.fuelAir : std::min(story.leanest, s.fuelAir);
            story.richest = std::isnan(story.richest) ? s.fuelAir : std::max(story.richest, s.fuelAir);
        }
    }
    story.turning = turned;
    if (s.firing && std::isnan(story.firedAt))
        story.firedAt = at;
    if (story.firing && !s.firing) {
        const double tank = l.tank >= 0 && static_cast<std::size_t>(l.tank) < m.state.tanks.size()
                                ? m.state.tanks[static_cast<std::size_t>(l.tank)]
                                : 0.0;
        story.by = whyStopped(s, l, tank, false);
        story.stoppedAt = at;
        story.tank = l.tank;
    }
    story.firing = s.firing;
    if (s.ice < iceTold)
        story.iceAgain = EngineStory::never;
    else if (std::isnan(story.iceAgain))
        story.iceAgain = at;
    if (s.ice > iceTold) {
        if (std::isnan(story.iceFrom))
            story.iceFrom = at;
        if (s.ice > story.ice) {
            story.ice = s.ice;
            story.iceMostAt = at;
            story.iceWorstFrom = story.iceAgain;
        }
        story.heated = story.heated || l.hotAir > 0.2;
    }
    const bool bangs = s.backfire > 0.9;
    if (bangs && !story.bangs) {
        ++story.backfires;
        if (std::isnan(story.backfiredAt))
            story.backfiredAt = at;
    }
    story.bangs = bangs;
    if (m.readings.engines[e].knock > knockTold) {
        if (std::isnan(story.knockedAt))
            story.knockedAt = at;
        story.knocked += stepTime;
    }
    if (s.kicks > story.kicks) {
        story.kicks = s.kicks;
        if (std::isnan(story.kickedBackAt))
            story.kickedBackAt = at;
    }
    if (s.strained > 0.0 && std::isnan(story.lockedAt))
        story.lockedAt = at;
    if (s.pooled > 1e-3) {
        if (std::isnan(story.pooledAt))
            story.pooledAt = at;
        story.pooled = std::max(story.pooled, s.pooled);
    }
    if (s.fire > 0.15 || (s.fire > 0.0 && story.burned > 0.0)) {
        if (std::isnan(story.fireAt))
            story.fireAt = at;
        story.burned += stepTime;
    }
}

std::string wordsOf(StoppedBy by) {
    switch (by) {
    case StoppedBy::hand:
        return "it was stopped by hand";
    case StoppedBy::noFuel:
        return "no fuel came to it";
    case StoppedBy::dryTank:
        return "its tank had run dry";
    case StoppedBy::ignition:
        return "its ignition was off";
    case StoppedBy::tooLean:
        return "its mixture was too lean to burn";
    case StoppedBy::tooRich:
        return "its mixture was too rich to burn";
    case StoppedBy::ice:
        return "ice had choked its carburettor";
    case StoppedBy::tooSlow:
        return "it was idled too slowly to run on";
    case StoppedBy::broken:
        return "it was broken";
    }
    return {};
}

} // namespace amber::rehearse
