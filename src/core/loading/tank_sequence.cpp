// SPDX-License-Identifier: GPL-3.0-or-later
#include "loading/tank_sequence.h"
#include <algorithm>

namespace amber::loading {
namespace {
constexpr double leftGauged = 0.05, leftByClock = 0.10; // of what is usable
constexpr double lowest = 300.0;                        // m above the ground, our own figure
constexpr double ahead = 500.0;                         // m before bad ground begins
} // namespace

TankSequence::TankSequence(const TypeNotes& notes, const Sortie& sortie) : n_(notes), s_(sortie) {
    const auto& wanted = sortie.fuel.order.empty() ? notes.fuel.order : sortie.fuel.order;
    for (const auto& id : wanted)
        for (std::size_t i = 0; i < notes.fuel.tanks.size(); ++i)
            if (notes.fuel.tanks[i].id == id && notes.fuel.tanks[i].kind != TankKind::transfer &&
                usableAtStart(notes, sortie, notes.fuel.tanks[i]) > 0)
                order_.push_back(static_cast<int>(i));
}

double TankSequence::leaveAt(int tank, bool noseUp) const {
    const Tank& t = n_.fuel.tanks[static_cast<std::size_t>(tank)];
    const double usual = t.runDry    ? 0.0
                         : t.leaveAt ? t.leaveAt->si()
                                     : (t.gauged ? leftGauged : leftByClock) * t.usable.si();
    return std::max({usual, t.standpipe.si(), noseUp ? t.uncovers.si() : 0.0});
}

double TankSequence::changeAbove() const {
    return n_.fuel.changeAbove ? n_.fuel.changeAbove->si() : lowest;
}

bool TankSequence::needsCrossfeed(int tank) const {
    const auto& feeds = n_.fuel.tanks[static_cast<std::size_t>(tank)].feeds;
    return !feeds.empty() && feeds.size() < n_.positions.size();
}

bool TankSequence::isDrop(int tank) const {
    return n_.fuel.tanks[static_cast<std::size_t>(tank)].kind == TankKind::drop;
}

double TankSequence::changeAt(double flown, double due) const {
    for (const auto& [from, to] : s_.flight.badGround)
        if (due > from && due < to && flown < from)
            return std::max(flown, std::min(due, from - ahead));
    return due;
}

} // namespace amber::loading
