// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/operating_point.h"

namespace amber::engine {

/// The knock boundary: permitted manifold pressure pk = ref · exp(−k (Tm − Tref)) · g(F/A) · (n/nr)^¼ with k = 0.004/K,
/// Tref = 100 °C; g falls from 1 rich to 0.85 weak; the rpm term (charge lingers at low rpm) is ours, see
/// docs/decisions. `ref` is such that every rating of the notes, on its own grade, lies 5 % or more inside it on the
/// standard day; for another grade it goes as the performance number, and never under what the notes permit on that
/// grade. A model value never loosens a limit: use it to warn and to cut, after the notes.
class KnockBoundary {
public:
    KnockBoundary(const TypeNotes& notes, const EngineParameters& engine, const std::string& grade);

    /// At a charge temperature, fuel–air ratio and rpm.
    [[nodiscard]] ManifoldPressure permitted(Temperature charge, double fuelAir, Rotation rpm, bool water) const;
    /// At what is asked of the engine: charge temperature and mixture settle with the boost (fixed point, to 0.1 kPa).
    /// The notes' own low-rpm table goes before it where it is lower.
    [[nodiscard]] ManifoldPressure permitted(const Demand& demand) const;
    /// The notes' most boost at this rpm, between its entries; nothing above the last of them or without a table.
    [[nodiscard]] std::optional<ManifoldPressure> lowRpmBoost(Rotation rpm) const;

private:
    const EngineParameters* engine_;
    std::vector<std::pair<Rotation, ManifoldPressure>> lowRpm_;
    double reference_ = 1e5; // Pa
};

} // namespace amber::engine
