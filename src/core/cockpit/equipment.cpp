// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/equipment.h"
#include <algorithm>

namespace amber::cockpit {

Equipment equipmentOf(const TypeNotes& n) {
    Equipment e;
    e.hub = n.propeller.control == PropellerControl::fixed         ? Hub::fixed
            : n.propeller.control == PropellerControl::twoPosition ? Hub::twoPosition
            : n.propeller.electric                                 ? Hub::electric
                                                                   : Hub::oil;
    e.feathers = n.propeller.feathers;
    e.reverses = n.propeller.reverses;
    bool cutsOff = false;
    for (const auto& control : n.controls)
        if (control.acts == Acts::mixture)
            for (const auto& p : control.positions)
                cutsOff = cutsOff || p.is == "cut-off" || p.name.find("cut-off") != std::string::npos;
    for (const auto& lever : n.levers)
        if (lever.id == "mixture")
            for (const auto& p : lever.positions)
                cutsOff = cutsOff || p.find("cut-off") != std::string::npos;
    e.carburettor = !n.engine.suctionCarburettor ? Carburettor::pressureInjection
                    : cutsOff                    ? Carburettor::floatWithCutOff
                                                 : Carburettor::floatWithout;
    e.starter = n.start.starter.kind;
    e.electric = e.starter == StarterKind::direct || e.starter == StarterKind::inertia;
    e.blower = n.engine.gears.size() > 1;
    e.turbo = n.engine.turbo.has_value();
    e.intercooler = n.engine.intercooler > 0;
    e.water = std::any_of(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.water; });
    e.dilutes = !n.stop.dilution.empty();
    e.boosted = n.gauges.contains(Gauge::boost);
    e.cutOut =
        std::any_of(n.controls.begin(), n.controls.end(), [](const Control& c) { return c.acts == Acts::cutOut; });
    e.coolant = n.engine.cooling == Cooling::liquid;
    e.engines = static_cast<int>(std::max<std::size_t>(1, n.engineCount()));
    return e;
}

} // namespace amber::cockpit
