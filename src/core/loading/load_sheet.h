// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/origin.h"
#include "sortie/sortie.h"
#include <span>
#include <string>
#include <vector>

namespace amber::loading {

/// Weight, its moment about the datum and about the middle: what a load sheet adds up.
struct Balance {
    double mass = 0.0;     ///< kg
    double moment = 0.0;   ///< kg m about the datum, aft positive
    double sideways = 0.0; ///< kg m about the middle, starboard positive

    [[nodiscard]] double arm() const { return mass > 0 ? moment / mass : 0.0; } ///< m aft of the datum
    void add(double kilograms, double armMetres, double sideMetres = 0.0) {
        mass += kilograms;
        moment += kilograms * armMetres;
        sideways += kilograms * sideMetres;
    }
};

/// One line of the sheet.
struct SheetLine {
    enum class Kind { empty, station, oil, dropTank, fuel };
    Kind kind = Kind::station;
    std::string id, name;
    std::string who; ///< by name, where the sortie says
    double mass = 0.0, arm = 0.0, side = 0.0;
    Origin origin = Origin::notes;
    std::optional<double> most; ///< kg
    const LoadStation* station = nullptr;
    [[nodiscard]] double moment() const { return mass * arm; }
};

inline constexpr double oilDensity = 890.0; ///< kg/m³, of warm mineral oil in a tank

/// The load sheet of today: everything aboard with its arm. Sources: weighing and balance as every flight manual has
/// it, centre of gravity = sum of moments over sum of weights.
class Sheet {
public:
    Sheet(const TypeNotes& notes, const Sortie& sortie);

    /// All but the fuel: empty aircraft, stations in the notes' order, oil, drop tanks that hang on her.
    [[nodiscard]] const std::vector<SheetLine>& lines() const { return lines_; }
    /// Fuel of the tanks as they stand at the start, one line each.
    [[nodiscard]] std::vector<SheetLine> fuel() const;
    [[nodiscard]] const std::vector<double>& atStart() const { return atStart_; } ///< usable, m³ a tank
    [[nodiscard]] double density() const { return density_; }                     ///< kg/m³ of today's fuel
    [[nodiscard]] const Balance& dry() const { return dry_; }                     ///< without usable fuel
    /// With so much usable fuel in each tank, m³. @param dropped the drop tanks are gone
    [[nodiscard]] Balance with(std::span<const double> tanks, bool dropped = false) const;
    [[nodiscard]] Balance ramp() const { return with(atStart_); }
    /// Most that could be aboard at a station.
    [[nodiscard]] bool hasArms() const { return n_.loading.given; }

private:
    const TypeNotes& n_;
    std::vector<SheetLine> lines_;
    std::vector<double> atStart_;
    double density_;
    Balance dry_, dropTanks_;
};

/// Arm of a tank's fuel with so much in it, m aft of the datum: between the notes' contents.
double armOf(const Tank& tank, double contents);
/// What can be burnt of a tank at the start: by the dip that was read, else what the sortie says, less what stays in
/// it. A drop tank that the sortie does not name does not hang there.
double usableAtStart(const TypeNotes& notes, const Sortie& sortie, const Tank& tank);
/// Oil of all engines over a time of running, m³ and s; all 0 where the notes give no consumption.
struct OilForHours {
    double aboard = 0.0, burnt = 0.0, least = 0.0; ///< m³; `least` must be left
    double lasts = 0.0;                            ///< s until the least is left
};
OilForHours oilForHours(const TypeNotes& notes, const Sortie& sortie, Duration running);
/// Weight before the engines start: typed, or what is aboard.
Mass rampWeight(const TypeNotes& notes, const Sortie& sortie);
/// A centre of gravity in the notes' own way: "211.4 in", "24.3 %".
std::string armText(const LoadingNotes& notes, double metres, bool withUnit = true);
/// A distance between two centres of gravity the same way.
std::string shiftText(const LoadingNotes& notes, double metres);
/// A moment in the notes' unit and index.
std::string momentText(const LoadingNotes& notes, double kilogramMetres);
/// An arm as the notes write it, a plain number: inches, metres or percent; and back.
double armWritten(const LoadingNotes& notes, double metres);

} // namespace amber::loading
