// SPDX-License-Identifier: GPL-3.0-or-later
#include "symptoms/harm.h"
#include <algorithm>
#include <array>

namespace amber::trouble {
namespace {
constexpr double ofBest = 0.1, ofSecond = 0.3, ofThird = 0.5;
constexpr double lookedAloft = 0.6, lookedOnGround = 0.95; // on the field nothing but time is lost, and nothing won
constexpr double later = 0.02;                             // that a look comes after another act
constexpr double life = 10'000.0, hull = 1'000.0, engineGone = 100.0, hours = 10.0;

constexpr std::array wrongRows{
    WrongAct{FirstAct::booster, "fuel-leak", hull, "it pumps fuel onto the exhaust"},
    WrongAct{FirstAct::booster, "fire", 3 * hull, "it feeds the fire"},
    WrongAct{FirstAct::otherTank, "fire", hull, "it feeds the fire"},
    WrongAct{FirstAct::coldAir, "carburettor-ice", engineGone, "the ice stays, and grows"},
    WrongAct{FirstAct::heat, "detonation", 2 * hours, "a hotter charge detonates sooner"},
    WrongAct{FirstAct::heat, "pre-ignition", 2 * hours, "a hotter charge detonates sooner"},
    WrongAct{FirstAct::heat, "air-door-hot", hours, "it is hot already"},
    WrongAct{FirstAct::heat, "water-fails", engineGone, "a hotter charge detonates sooner"},
    WrongAct{FirstAct::lean, "detonation", engineGone, "a weaker charge detonates sooner"},
    WrongAct{FirstAct::lean, "lean", 0.5 * engineGone, "it is weak already"},
    WrongAct{FirstAct::lean, "pre-ignition", engineGone, "a weaker charge burns hotter"},
    WrongAct{FirstAct::rich, "rich", hours, "it is rich already"},
    WrongAct{FirstAct::dryBoost, "carburettor-ice", hours, "power is wanted"},
    WrongAct{FirstAct::openCooler, "cooler-congealed", 2 * hours, "the oil grows hotter"},
    WrongAct{FirstAct::shutCooler, "cooler-clogged", 3 * hours, "the oil grows hotter"},
    WrongAct{FirstAct::shutCooler, "bearing", 3 * hours, "the oil grows hotter"},
    WrongAct{FirstAct::governorBack, "tachometer", 0.5 * hours, "power is given away for a needle"},
    WrongAct{FirstAct::ease, "dead", hours, "a dead engine is not eased: speed goes"},
    WrongAct{FirstAct::ease, "carburettor-ice", 2 * hours, "a throttle drawn back ices more"},
    WrongAct{FirstAct::burst, "dead-lead", hours, "a burst does not clear it"},
    WrongAct{FirstAct::burst, "bearing", engineGone, "it tears"},
    WrongAct{FirstAct::burst, "ring", engineGone, "it tears"},
    WrongAct{FirstAct::burst, "valve", engineGone, "it tears"},
    WrongAct{FirstAct::prime, "flooded", 0.3 * hull, "fuel runs out and burns"},
    WrongAct{FirstAct::prime, "intake-fire", hull, "it feeds the fire"},
    WrongAct{FirstAct::prime, "pool-fire", hull, "it feeds the fire"},
    WrongAct{FirstAct::prime, "no-spark", 0.5 * hours, "fuel gathers until a spark comes"},
    WrongAct{FirstAct::prime, "hydraulic-lock", 2 * engineGone, "turned on, a rod bends"},
    WrongAct{FirstAct::clear, "hydraulic-lock", 3 * engineGone, "turned on, a rod bends"},
    WrongAct{FirstAct::clear, "pool-fire", hull, "the starter's sparks feed it"},
    WrongAct{FirstAct::drawIn, "hydraulic-lock", 3 * engineGone, "turned on, a rod bends"},
    WrongAct{FirstAct::drawIn, "pool-fire", hull, "the starter's sparks feed it"},
    WrongAct{FirstAct::fuelOff, "intake-fire", 0.3 * hull, "no longer turned, it burns in the cowl"},
    WrongAct{FirstAct::rest, "hydraulic-lock", 0.5 * engineGone, "with a stronger battery a rod bends"},
    WrongAct{FirstAct::fuse, "hydraulic-lock", 2 * engineGone, "with a whole fuse a rod bends"},
    WrongAct{FirstAct::nextCartridge, "hydraulic-lock", 5 * engineGone, "the next shot bends a rod"},
    WrongAct{FirstAct::fillBottle, "hydraulic-lock", 3 * engineGone, "with more air a rod bends"},
    WrongAct{FirstAct::warm, "intake-fire", hull, "it burns meanwhile"},
    WrongAct{FirstAct::pumpUp, "pool-fire", 3 * hull, "it feeds the fire"},
    WrongAct{FirstAct::pumpUp, "flooded", 0.3 * hull, "fuel runs out and burns"},
    WrongAct{FirstAct::checkFuel, "pool-fire", 3 * hull, "it feeds the fire"},
    WrongAct{FirstAct::checkFuel, "flooded", 0.3 * hull, "fuel runs out and burns"},
};
} // namespace

double leftAlone(const Pattern& p, Stage stage) {
    const bool up = stage == Stage::low || stage == Stage::aloft;
    switch (p.grave) {
    case Grave::nuisance:
        return 0.5;
    case Grave::wears:
        return stage == Stage::starting ? 5.0 : 3.0;
    case Grave::losesPower:
        return stage == Stage::low ? 6 * hours : up || stage == Stage::starting ? hours : 0.3 * hours;
    case Grave::losesEngine:
        return 1.5 * engineGone;
    case Grave::mayBurn:
        return up ? 0.06 * life : 0.3 * hull;
    case Grave::burns:
        return up ? 0.2 * life : hull;
    }
    return 0.0;
}

double leftAfter(FirstAct act, const Pattern& p, const TypeNotes& n, const Context& c) {
    // After what can be undone one looks all the same, a little later.
    double share = (c.stages() & flying) != 0 ? lookedAloft : lookedOnGround;
    if (act != FirstAct::look)
        share = rowOf(act).final ? 1.0 : share + later;
    std::size_t place = 0;
    for (const FirstAct own : p.acts) {
        if (!impossible(own, n, c).empty())
            continue;
        if (own == act)
            share = place == 0 ? ofBest : place == 1 ? ofSecond : ofThird;
        ++place;
    }
    double out = share * leftAlone(p, c.stage());
    for (const auto& row : wrongRows)
        if (row.act == act && row.cause == p.key)
            out += row.harm;
    return out;
}

double costOf(FirstAct act, const TypeNotes& n, Stage stage) {
    const bool single = n.engineCount() < 2;
    const bool low = stage == Stage::low;
    const bool up = low || stage == Stage::aloft;
    switch (act) {
    case FirstAct::look:
        return 0.2;
    case FirstAct::shutDown:
        return low ? 3 * hull : 2.5 * hours;
    case FirstAct::fuelOff:
        return !up ? 3.0 : low ? 0.6 * hull : single ? 0.5 * hull : 2.5 * hours;
    // What takes thrust is dear while speed and height are wanting.
    case FirstAct::ease:
    case FirstAct::boostBack:
    case FirstAct::dryBoost:
    case FirstAct::turboBack:
    case FirstAct::governorBack:
    case FirstAct::lowGear:
    case FirstAct::otherTank:
        return low ? (single ? 8 * hours : 6 * hours) : up ? 1.0 : 0.5;
    case FirstAct::heat:
        return low ? 3 * hours : 0.5;
    case FirstAct::speed:
        return low ? 2 * hours : 1.0;
    case FirstAct::stopNow:
    case FirstAct::doNotGo:
        return 5.0;
    case FirstAct::warm:
        return 2.0;
    case FirstAct::rest:
        return 2.0;
    case FirstAct::plugsOut:
        return 6.0;
    default:
        return 1.0;
    }
}

std::span<const WrongAct> wrongActs() {
    return wrongRows;
}

} // namespace amber::trouble
