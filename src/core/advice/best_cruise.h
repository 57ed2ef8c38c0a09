// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/cruise.h"
#include "flight/flown.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::advice {

/// What a cruise is chosen for.
enum class Goal { miles, hours, price };

/// A setting at a height, and what comes of it over the ground with today's wind.
struct BestPoint {
    flight::CruisePoint cruise;
    Length height;         ///< above sea level
    double ground = 0.0;   ///< m/s, over all legs
    double miles = 0.0;    ///< m over the ground for each m³
    double price = 0.0;    ///< m³ worth for each m over the ground, time counted by its price; 0 without one
    ManifoldPressure most; ///< boost that notes, grade, boundary and charge leave at this rpm; 0 without a boost gauge
};

/// Best settings, and miles per gallon against speed by height.
struct BestCruise {
    struct Curve {
        Length height;
        std::vector<BestPoint> points; ///< the most miles at each speed, rising
    };
    std::vector<Curve> curves;
    std::optional<BestPoint> miles, hours, price;
    std::optional<BestPoint> knee; ///< fastest that still gives 99 % of the most miles, at that height
    std::optional<BestPoint> now;  ///< as planned
    std::string whyGear;           ///< why the best is in its gear
    bool windKnown = false;
};

/// The search over height, gear, rpm, boost and mixture that the notes allow: a grid, then each goal's best is improved
/// until no step of a thousandth helps. Weight as in the middle of the cruise.
class CruiseSearch {
public:
    CruiseSearch(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

    /// A setting held against every bound; nothing where one forbids it or she cannot stay level.
    [[nodiscard]] std::optional<BestPoint> at(Length height, const flight::LeverSetting& setting) const;
    /// Most boost at this rpm, gear and mixture, all bounds but the throttle's; nothing: the notes give none for it.
    [[nodiscard]] std::optional<ManifoldPressure> most(Length height, const flight::LeverSetting& setting) const;
    [[nodiscard]] BestCruise search() const;
    [[nodiscard]] const flight::CruiseRange& range() const { return range_; }
    [[nodiscard]] Length lowest() const { return lowest_; }
    [[nodiscard]] Length highest() const { return highest_; }

private:
    struct Level;
    [[nodiscard]] std::optional<ManifoldPressure> most(const Level& level, const flight::LeverSetting& setting) const;
    [[nodiscard]] std::optional<BestPoint> at(const Level& level, const flight::LeverSetting& setting,
                                              std::optional<ManifoldPressure> allowed) const;
    [[nodiscard]] std::optional<BestCruise::Curve> curveAt(Length height, std::vector<BestPoint>* all) const;
    [[nodiscard]] double worth(Goal goal, const BestPoint& point) const;
    [[nodiscard]] BestPoint improved(Goal goal, BestPoint from) const;
    [[nodiscard]] double groundSpeed(Length height, double trueAirspeed) const;
    const powerplant::Aircraft& a_;
    const Sortie& s_;
    const flight::Flown& f_;
    engine::KnockBoundary knock_;
    flight::CruiseRange range_;
    flight::CruiseConditions conditions_;
    std::optional<double> chargeMost_;
    Length lowest_, highest_;
};

/// Least fuel for the whole leg: each height flown out with climb and let-down at its own best setting, so that what
/// the climb costs is in it.
struct LegChoice {
    Length height;
    BestPoint point;
    double fuel = 0.0, seconds = 0.0; ///< from start to stop
};
std::vector<LegChoice> leastFuelForLeg(const powerplant::Aircraft& aircraft, const Sortie& sortie,
                                       const flight::Flown& flown);

/// A sortie with a cruise taken over: height, rpm, boost, gear and mixture.
Sortie taken(const TypeNotes& notes, Sortie sortie, const BestPoint& point, bool heightToo);

/// A fuel above the grades of the notes: what it brings and what it fouls; empty: it is one of the notes'.
std::string gradeAbove(const TypeNotes& notes, const std::string& grade);

} // namespace amber::advice
