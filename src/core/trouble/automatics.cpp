// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/automatics.h"
#include "cockpit/controls.h"
#include "cockpit/equipment.h"
#include <algorithm>

namespace amber::trouble {

std::vector<Automatic> automaticsOf(const TypeNotes& n) {
    const auto e = cockpit::equipmentOf(n);
    std::vector<Automatic> out;
    std::vector<Acts> told;
    for (const auto& c : n.controls)
        if (!c.byHand.empty()) {
            const auto* place = c.position(c.byHand);
            out.push_back({c.name, place ? "by hand, " + place->name : c.byHand, Origin::notes});
            told.push_back(c.acts);
        }
    const auto usual = [&](Acts acts, bool has, std::string what, std::string byHand) {
        if (has && std::find(told.begin(), told.end(), acts) == told.end())
            out.push_back({std::move(what), std::move(byHand), Origin::practice});
    };
    const auto automatic = [&](Acts acts) {
        const Control* c = cockpit::acting(n.controls, acts);
        return c && (c->position("automatic") || !c->automatic.empty());
    };
    usual(Acts::throttle, e.boosted && n.engine.boostControl, "Boost control",
          "throttle by hand, no further than the gauge allows");
    usual(Acts::mixture, n.engine.altitudeControl && e.carburettor != cockpit::Carburettor::floatWithout,
          "Automatic mixture", "full rich; leaner by hand only to stop black smoke");
    usual(Acts::coolingFlap, automatic(Acts::coolingFlap), "Automatic flaps or shutters",
          "switch to hand, hold to open");
    usual(Acts::oilCooler, automatic(Acts::oilCooler), "Automatic oil cooler",
          "switch to hand, hold to open; shut it in frost");
    usual(Acts::propeller, e.hub == cockpit::Hub::electric, "Electric propeller",
          "manual: hold for more or less rpm, let go at the figure");
    usual(Acts::propeller, e.hub == cockpit::Hub::oil, "Governor", "hold the rpm by throttle and speed");
    usual(Acts::turbo, e.turbo, "Turbo regulator", "lever back slowly by hand, then the throttle");
    usual(Acts::crossfeed, cockpit::acting(n.controls, Acts::crossfeed) != nullptr, "Booster pump",
          "the other side's, by the crossfeed");
    return out;
}

} // namespace amber::trouble
