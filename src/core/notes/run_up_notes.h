// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/band.h"
#include "units/unit_table.h"
#include <optional>
#include <string>
#include <vector>

namespace amber {

/// Where in the run-up something is done: at an rpm, at a boost, or at the boost of the day's field pressure.
struct RunUpSetting {
    std::optional<Rotation> rpm;
    std::optional<ManifoldPressure> boost;
    bool fieldPressure = false;
};

/// The magneto check (J28). Rotations in rev/s.
struct MagnetoNotes {
    RunUpSetting at;
    Rotation left, right; ///< most fall of rpm on that magneto alone
    std::optional<Rotation> difference;
    Rotation least = Rotation::si(10.0 / 60); ///< less than this and a switch does not earth
    Duration onOne = Duration::si(10);        ///< longest on one magneto
    RunUpSetting clearing;                    ///< burst that clears oily plugs
    Duration clearingFor = Duration::si(30);
    int line = 0;
};

/// Exercise of the propeller's governor (J29).
struct PropellerCheckNotes {
    RunUpSetting at;
    int cycles = 1;
    std::optional<int> cyclesInFrost;
    Temperature frostBelow = Temperature::si(273.15);
    Band fall;                       ///< of rpm, rev/s
    std::optional<Band> featherFall; ///< at a short touch of the feathering button
    bool manual = false;             ///< electric: also in manual
    int line = 0;
    /// Times that the lever is moved today: more in frost, where the notes say so.
    [[nodiscard]] int cyclesAt(Temperature oat) const {
        return cyclesInFrost && oat < frostBelow ? *cyclesInFrost : cycles;
    }
};

/// Change of the supercharger's gear, or the turbo's exercise (J30): what moves, and by how much.
struct BlowerCheckNotes {
    RunUpSetting at;
    std::optional<Band> boostRise;         ///< Pa
    std::optional<Band> oilPressureDip;    ///< Pa
    std::optional<Band> rpmFall;           ///< rev/s
    Duration holdFor = Duration::si(10.0); ///< in the other gear
    bool turbo = false;
    int line = 0;
};

enum class RunUpPer { engine, aircraft, tank };

/// One reading of the sheet.
struct RunUpItem {
    std::string id, what;
    RunUpSetting at;
    RunUpPer per = RunUpPer::engine;
    Dimension dimension = Dimension::pressure;
    const UnitSpec* unit = nullptr;
    Band band;
    std::string why;
    std::string low, high; ///< likely cause, when it reads low or high
    Duration atPower;      ///< time at high power that it takes
    bool stopper = false;
    int line = 0;
};

/// The run-up sheet of a type: what is done in which order is in the phase's steps; here is what is read and judged.
struct RunUpNotes {
    std::optional<MagnetoNotes> magnetos;
    std::optional<PropellerCheckNotes> propeller;
    std::optional<BlowerCheckNotes> blower;
    std::vector<RunUpItem> items;
    Rotation highPowerFrom = Rotation::si(25); ///< rpm from which the ground limit of time counts
    std::optional<Duration> highPowerMost;     ///< longest above that on the ground
    Duration reference = Duration::si(10);     ///< held at the reference setting
};

} // namespace amber
