// SPDX-License-Identifier: GPL-3.0-or-later
#include "loading/load_sheet.h"
#include "units/lookup.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::loading {
double armOf(const Tank& tank, double contents) {
    return tank.arms.empty() ? tank.arm : lookUp(tank.arms, contents);
}

double usableAtStart(const TypeNotes& n, const Sortie& s, const Tank& tank) {
    const Volume held = watch::contentsOf(n, tank, s.walk.found, s.contents);
    return std::max(0.0, held.si() - (tank.capacity.si() - tank.usable.si()));
}

Sheet::Sheet(const TypeNotes& notes, const Sortie& sortie) : n_(notes), density_(notes.fuel.densityAt(sortie.day.oat)) {
    const LoadingNotes& l = notes.loading;
    const AirframeFacts* own = sortie.airframe.facts.get();
    SheetLine empty{SheetLine::Kind::empty, "empty", "Empty", {}, notes.emptyWeight.si(), l.emptyArm, 0.0,
                    Origin::notes,          {},      nullptr};
    if (own && own->weighed) {
        empty.mass = own->weighed->si();
        empty.origin = Origin::logged;
        empty.who = "as weighed";
        if (own->weighedArm)
            empty.arm = own->weighedArm->si();
    }
    lines_.push_back(empty);
    for (const auto& station : l.stations) {
        SheetLine line{SheetLine::Kind::station,
                       station.id,
                       station.name,
                       {},
                       station.usual.si(),
                       station.arm,
                       station.side,
                       Origin::notes,
                       station.most ? std::optional(station.most->si()) : std::nullopt,
                       &station};
        if (const auto given = sortie.load.stations.find(station.id); given != sortie.load.stations.end()) {
            line.mass = given->second.si();
            line.origin = Origin::entered;
        }
        if (const auto name = sortie.load.names.find(station.id); name != sortie.load.names.end())
            line.who = name->second;
        lines_.push_back(std::move(line));
    }
    if (l.oil.si() > 0)
        lines_.push_back({SheetLine::Kind::oil,
                          "oil",
                          "Oil",
                          {},
                          std::min(sortie.load.oil.value_or(l.oil).si(), l.oil.si()) * oilDensity,
                          l.oilArm,
                          0.0,
                          sortie.load.oil ? Origin::entered : Origin::notes,
                          l.oil.si() * oilDensity,
                          nullptr});
    for (const auto& tank : notes.fuel.tanks) {
        atStart_.push_back(usableAtStart(notes, sortie, tank));
        if (tank.removable && tank.emptyMass.si() > 0 && sortie.contents.contains(tank.id)) {
            lines_.push_back({SheetLine::Kind::dropTank,
                              tank.id,
                              tank.name + ", the tank itself",
                              {},
                              tank.emptyMass.si(),
                              armOf(tank, 0.0),
                              tank.side,
                              Origin::notes,
                              {},
                              nullptr});
            if (tank.kind == TankKind::drop)
                dropTanks_.add(tank.emptyMass.si(), armOf(tank, 0.0), tank.side);
        }
    }
    for (const auto& line : lines_)
        dry_.add(line.mass, line.arm, line.side);
}

std::vector<SheetLine> Sheet::fuel() const {
    std::vector<SheetLine> out;
    for (std::size_t i = 0; i < atStart_.size(); ++i) {
        const Tank& tank = n_.fuel.tanks[i];
        const double unusable = tank.capacity.si() - tank.usable.si();
        out.push_back({SheetLine::Kind::fuel,
                       tank.id,
                       tank.name,
                       {},
                       atStart_[i] * density_,
                       armOf(tank, atStart_[i] + unusable),
                       tank.side,
                       Origin::entered,
                       tank.usable.si() * density_,
                       nullptr});
    }
    return out;
}

Balance Sheet::with(std::span<const double> tanks, bool dropped) const {
    Balance b = dry_;
    if (dropped) {
        b.mass -= dropTanks_.mass;
        b.moment -= dropTanks_.moment;
        b.sideways -= dropTanks_.sideways;
    }
    for (std::size_t i = 0; i < std::min(tanks.size(), n_.fuel.tanks.size()); ++i) {
        const Tank& tank = n_.fuel.tanks[i];
        b.add(tanks[i] * density_, armOf(tank, tanks[i] + tank.capacity.si() - tank.usable.si()), tank.side);
    }
    return b;
}

OilForHours oilForHours(const TypeNotes& n, const Sortie& s, Duration running) {
    if (!n.loading.oilBurn || n.loading.oil.si() <= 0)
        return {};
    const double rate = n.loading.oilBurn->si() * static_cast<double>(n.engineCount());
    OilForHours out;
    out.aboard = std::min(s.load.oil.value_or(n.loading.oil).si(), n.loading.oil.si());
    out.burnt = rate * running.si();
    out.least = n.loading.oilLeast.value_or(Volume{}).si();
    out.lasts = std::max(0.0, (out.aboard - out.least) / rate);
    return out;
}

Mass rampWeight(const TypeNotes& notes, const Sortie& sortie) {
    if (sortie.load.weightTyped)
        return sortie.weight;
    return Mass::si(Sheet(notes, sortie).ramp().mass);
}

double armWritten(const LoadingNotes& n, double metres) {
    if (n.inPercent)
        return 100.0 * (metres - n.leadingEdge) / n.chord;
    return n.armUnit ? metres / n.armUnit->scale : metres;
}

namespace {
int armDecimals(const LoadingNotes& n) {
    if (n.inPercent || !n.armUnit)
        return 1;
    return n.armUnit->scale > 0.5 ? 3 : n.armUnit->scale > 0.1 ? 2 : n.armUnit->scale > 0.005 ? 1 : 0;
}
} // namespace

std::string armText(const LoadingNotes& n, double metres, bool withUnit) {
    const double written = armWritten(n, metres);
    const std::string number = fmt::format("{}{:.{}f}", written < 0 ? "−" : "", std::abs(written), armDecimals(n));
    return !withUnit ? number : number + " " + (n.inPercent ? "%" : std::string(n.armUnit ? n.armUnit->symbol : "m"));
}

std::string shiftText(const LoadingNotes& n, double metres) {
    const double written = n.inPercent ? 100.0 * metres / n.chord : n.armUnit ? metres / n.armUnit->scale : metres;
    return fmt::format("{:.{}f} {}", written, armDecimals(n),
                       n.inPercent ? "%" : std::string(n.armUnit ? n.armUnit->symbol : "m"));
}

std::string momentText(const LoadingNotes& n, double kilogramMetres) {
    const double unit = (n.momentUnit ? n.momentUnit->scale : 1.0) * n.momentsDividedBy;
    return formatNumber(kilogramMetres / unit,
                        n.momentsDividedBy > 1 || !n.momentUnit || n.momentUnit->scale > 0.5 ? 1 : 0);
}

} // namespace amber::loading
