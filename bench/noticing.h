// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/sign.h"
#include "powerplant/engine_state.h"
#include <cmath>
#include <optional>
#include <set>

/// What a crew can notice of an engine beside a sound one.
namespace amber::bench {

/// A needle's way off a sound engine's, read to its width.
struct NeedleSeen {
    static constexpr double soon = 12.0; ///< s: most of it by then is fast
    double early = 0.0, most = 0.0, last = 0.0, way = 0.0;
    int turns = 0;
    bool read = false;

    /// @param since s from its beginning @param off, width SI
    void see(double since, double off, double width) {
        read = true;
        if (since <= soon && std::abs(off) > std::abs(early))
            early = off;
        if (std::abs(off) > std::abs(most))
            most = off;
        if (std::abs(off - last) > width) {
            const double now = off > last ? 1 : -1;
            turns += now != way && way != 0 ? 1 : 0;
            way = now;
            last = off;
        }
    }
    [[nodiscard]] Way ways(double width) const {
        constexpr int flickers = 6;
        const bool fast = std::abs(early) > 0.6 * std::abs(most);
        return std::abs(most) <= width ? Way::still
               : turns >= flickers     ? Way::flickers
               : most > 0              ? (fast ? Way::risesFast : Way::rises)
                                       : (fast ? Way::fallsFast : Way::falls);
    }
};

/// What is seen, heard, felt and smelt at a moment.
inline void feel(std::set<Felt>& felt, const powerplant::Signs& s) {
    using namespace powerplant;
    const auto add = [&](bool seen, Felt what) {
        if (seen)
            felt.insert(what);
    };
    add(s.smoke == Smoke::black, Felt::blackSmoke);
    add(s.smoke == Smoke::blue, Felt::blueSmoke);
    add(s.smoke == Smoke::white, Felt::whiteVapour);
    add(s.smoke == Smoke::puffs, Felt::puffs);
    add(s.oneHeadCold, Felt::oneHeadCold);
    add(s.flames, Felt::flames);
    add(s.smell == Smell::fuel, Felt::smellOfFuel);
    add(s.smell == Smell::oil, Felt::smellOfOil);
    add(s.smell == Smell::coolant, Felt::sweetSmell);
    add(s.cowl == Cowl::oil, Felt::oilOnCowl);
    add(s.cowl == Cowl::fuel, Felt::fuelOnCowl);
    add(s.cowl == Cowl::coolant, Felt::coolantOnCowl);
    add(s.sound == Sound::backfire, Felt::backfire);
    add(s.sound == Sound::bangs, Felt::bangs);
    add(s.sound == Sound::howl, Felt::howl);
    add(s.sound == Sound::whine, Felt::whine);
    add(s.sound == Sound::beat, Felt::beat);
    add(s.sound == Sound::whistle, Felt::whistle);
    add(s.sound == Sound::rough, Felt::rough);
    add(s.propellerLeverDead, Felt::leverDead);
}

} // namespace amber::bench
