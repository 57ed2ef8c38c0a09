// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "loading/load_sheet.h"

namespace amber::loading {

/// In which order tanks are fed from, and how much is left in each: by the notes, in the pilot's order where he gave
/// one. Customary where the notes are silent: a twentieth is left in a gauged tank, a tenth in one that only the clock
/// counts; what the standpipe keeps back is not counted on; the last tank of the order goes on.
class TankSequence {
public:
    TankSequence(const TypeNotes& notes, const Sortie& sortie);

    /// Tanks that can be fed from in the cruise, in order; transfer tanks are not among them.
    [[nodiscard]] const std::vector<int>& order() const { return order_; }
    /// Usable fuel, m³, at which a tank is left for another. @param noseUp its outlet may uncover
    [[nodiscard]] double leaveAt(int tank, bool noseUp = false) const;
    /// Least height above the ground at which a tank is changed, m.
    [[nodiscard]] double changeAbove() const;
    /// Whether engines it does not feed need the crossfeed.
    [[nodiscard]] bool needsCrossfeed(int tank) const;
    [[nodiscard]] bool isDrop(int tank) const;

    /// Where a tank is best left that would be at its least after so far over the ground, m: before bad ground when
    /// that lies there.
    [[nodiscard]] double changeAt(double flown, double due) const;

private:
    const TypeNotes& n_;
    const Sortie& s_;
    std::vector<int> order_;
};

} // namespace amber::loading
