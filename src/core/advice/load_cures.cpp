// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/load_cures.h"
#include "loading/envelope.h"
#include "loading/tank_sequence.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace amber::advice {
namespace {
constexpr double cureRoom = 1e-3; // m: what a hand sheet is exact to

/// Weight, moment and room of every moment of a flight, changed by a load that is moved or added.
class Track {
public:
    Track(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) : n_(a.notes) {
        const loading::Sheet sheet(a.notes, s);
        for (std::size_t i = 0; i < f.samples.size(); ++i) {
            const auto b = sheet.with(f.contents.at(i), !f.dropped.empty() && i >= f.dropped.front());
            if (points_.empty() || std::abs(points_.back().mass - b.mass) > 0.5 ||
                std::abs(points_.back().moment - b.moment) > 0.5)
                points_.push_back(b);
        }
    }
    /// Worst room with so many kg more at one arm and less at another, and the top weight.
    [[nodiscard]] double room(double added, double addedArm, double taken, double takenArm) const {
        double worst = 1e9;
        for (loading::Balance b : points_) {
            b.add(added, addedArm);
            b.add(-taken, takenArm);
            worst = std::min(worst, loading::placeOf(n_.loading, b).room());
        }
        return worst;
    }
    [[nodiscard]] double heaviest() const {
        double most = 0.0;
        for (const auto& b : points_)
            most = std::max(most, b.mass);
        return most;
    }

private:
    const TypeNotes& n_;
    std::vector<loading::Balance> points_;
};

/// People move to other seats, cargo to where cargo goes.
bool moves(StationKind from, StationKind to) {
    const auto people = [](StationKind k) { return k == StationKind::crew || k == StationKind::passengers; };
    return people(from) ? people(to) : from == StationKind::cargo && to == StationKind::cargo;
}
} // namespace

double leastRoom(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, double* at) {
    const loading::Sheet sheet(a.notes, s);
    double worst = 1e9;
    for (std::size_t i = 0; i < f.samples.size(); ++i) {
        const auto b = sheet.with(f.contents.at(i), !f.dropped.empty() && i >= f.dropped.front());
        if (const double room = loading::placeOf(a.notes.loading, b).room(); room < worst) {
            worst = room;
            if (at)
                *at = f.samples[i].time;
        }
    }
    return worst;
}

std::vector<LoadCure> loadCures(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    std::vector<LoadCure> out;
    if (!n.loading.given || leastRoom(a, s, f) >= 0)
        return out;
    const UnitSpec& unit = *n.cockpit.weight;
    const loading::Sheet sheet(n, s);
    const Track track(a, s, f);
    const double heaviestAllowed =
        n.maxWeight.si() + (track.heaviest() - f.samples[f[Phase::takeOff].firstSample][Gauge::weight]);
    const double step = unit.scale * (n.maxWeight.si() > 3000 ? 10.0 : 5.0); // what is weighed out to
    const auto proven = [&](LoadCure cure) {
        if (!checkSortie(cure.sortie, n, "").empty())
            return;
        const auto flown = flight::fly(a, cure.sortie);
        cure.room = leastRoom(a, cure.sortie, flown);
        if (cure.room >= 0)
            out.push_back(std::move(cure));
    };
    // Another tank order: every order of the tanks there are, the notes' landing tank last.
    const auto order = loading::TankSequence(n, s).order();
    if (order.size() > 1 && order.size() <= 4) {
        std::vector<std::size_t> way(order.size());
        std::iota(way.begin(), way.end(), 0);
        while (std::next_permutation(way.begin(), way.end())) {
            LoadCure cure{LoadCure::Kind::tankOrder, {}, s, 0.0};
            cure.sortie.fuel.order.clear();
            std::string names;
            for (const std::size_t i : way) {
                const Tank& t = n.fuel.tanks[static_cast<std::size_t>(order[i])];
                cure.sortie.fuel.order.push_back(t.id);
                names += (names.empty() ? "" : ", then ") + t.name;
            }
            cure.text = fmt::format("Burn {}", names);
            proven(std::move(cure));
            if (!out.empty())
                break;
        }
    }
    struct Found {
        double mass;
        const loading::SheetLine *from, *to;
    };
    std::vector<Found> shifts, ballast, leaves;
    for (const auto& from : sheet.lines()) {
        if (!from.station || from.mass < step)
            continue;
        for (const auto& to : sheet.lines()) {
            if (!to.station || &to == &from || !moves(from.station->kind, to.station->kind))
                continue;
            const double most = std::min(from.mass, to.most ? *to.most - to.mass : from.mass);
            for (double m = step; m <= most + 1e-6; m += std::max(step, most / 60.0))
                if (track.room(m, to.arm, m, from.arm) >= cureRoom) {
                    shifts.push_back({std::ceil(m / step - 1e-9) * step, &from, &to});
                    break;
                }
        }
        if (from.station->kind == StationKind::cargo || from.station->kind == StationKind::ballast)
            for (double m = step; m <= from.mass + 1e-6; m += std::max(step, from.mass / 60.0))
                if (track.room(0.0, 0.0, m, from.arm) >= cureRoom) {
                    leaves.push_back({std::min(from.mass, std::ceil(m / step - 1e-9) * step), &from, nullptr});
                    break;
                }
    }
    for (const auto& to : sheet.lines())
        if (to.station && to.station->kind == StationKind::ballast) {
            const double most = to.most ? *to.most - to.mass : 0.0;
            for (double m = step; m <= most + 1e-6; m += std::max(step, most / 60.0))
                if (track.room(m, to.arm, 0.0, 0.0) >= cureRoom && track.heaviest() + m <= heaviestAllowed) {
                    ballast.push_back({std::ceil(m / step - 1e-9) * step, nullptr, &to});
                    break;
                }
        }
    const auto least = [](std::vector<Found>& all) {
        std::sort(all.begin(), all.end(), [](const Found& x, const Found& y) { return x.mass < y.mass; });
        if (all.size() > 2)
            all.resize(2);
    };
    least(shifts);
    least(ballast);
    least(leaves);
    const auto put = [](Sortie& t, const loading::SheetLine& line, double mass) {
        t.load.stations[line.id] = Mass::si(std::max(0.0, mass));
    };
    for (const auto& m : shifts) {
        LoadCure cure{LoadCure::Kind::move,
                      fmt::format("Move {} from {} to {}", format(m.mass, unit), m.from->name, m.to->name), s, 0.0};
        put(cure.sortie, *m.from, m.from->mass - m.mass);
        put(cure.sortie, *m.to, m.to->mass + m.mass);
        proven(std::move(cure));
    }
    for (const auto& m : ballast) {
        LoadCure cure{LoadCure::Kind::ballast, fmt::format("Add {} to {}", format(m.mass, unit), m.to->name), s, 0.0};
        put(cure.sortie, *m.to, m.to->mass + m.mass);
        if (s.load.weightTyped)
            cure.sortie.weight = Mass::si(std::min(n.maxWeight.si(), s.weight.si() + m.mass));
        proven(std::move(cure));
    }
    for (const auto& m : leaves) {
        LoadCure cure{LoadCure::Kind::leave,
                      m.mass >= m.from->mass - 1e-6
                          ? fmt::format("Leave {} empty: {} less", m.from->name, format(m.mass, unit))
                          : fmt::format("Remove {} from {}", format(m.mass, unit), m.from->name),
                      s, 0.0};
        put(cure.sortie, *m.from, m.from->mass - m.mass);
        if (s.load.weightTyped)
            cure.sortie.weight = Mass::si(std::max(n.emptyWeight.si(), s.weight.si() - m.mass));
        proven(std::move(cure));
    }
    return out;
}

} // namespace amber::advice
