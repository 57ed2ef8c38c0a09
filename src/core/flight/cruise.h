// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/knock.h"
#include "powerplant/aircraft.h"
#include "sortie/sortie.h"
#include <array>
#include <string>
#include <vector>

namespace amber::flight {

/// Levers of a cruise.
struct LeverSetting {
    Rotation rpm;
    std::optional<ManifoldPressure> boost; ///< none: wide open
    std::size_t gear = 0;
    Mixture mixture = Mixture::rich;
};

/// What the pilot asks of a cruise.
enum class Ask { power, burn, airspeed, endurance, range };
struct AskName {
    Ask ask;
    std::string_view key, title;
    Dimension dimension;
};
inline constexpr std::array<AskName, 5> askNames{{
    {Ask::power, "power", "Power, each engine", Dimension::power},
    {Ask::burn, "burn", "Burn, all engines", Dimension::volumeFlow},
    {Ask::airspeed, "speed", "True airspeed", Dimension::speed},
    {Ask::endurance, "endurance", "Endurance", Dimension::duration},
    {Ask::range, "range", "Range, still air", Dimension::distance},
}};
constexpr const AskName& nameOf(Ask ask) {
    return askNames[static_cast<std::size_t>(ask)];
}

/// Where it is asked.
struct CruiseConditions {
    air::Ambient air;
    Mass weight;
    Volume fuel; ///< usable, for endurance and range
    std::string grade;
    double fuelDensity = 0.0; ///< kg/m³; 0: the notes'
};

/// One setting and what comes of it.
struct CruisePoint {
    LeverSetting setting;
    engine::OperatingPoint point;
    ManifoldPressure boundary; ///< knock boundary there
    bool level = false;        ///< it can hold the height
    Speed tas;
    double burn = 0.0;       ///< m³/s, all engines
    double endurance = 0.0;  ///< s, to dry tanks
    double range = 0.0;      ///< m, still air
    bool withinNotes = true; ///< its boost is one the notes' ratings allow at this rpm and mixture
    std::string why;         ///< of a candidate: why it stands where it does
};

/// What rpm, boost, gear and mixture give here: the same figures as plan, chart and point.
CruisePoint cruisePoint(const powerplant::Aircraft& aircraft, const CruiseConditions& conditions,
                        const engine::KnockBoundary& knock, const LeverSetting& setting);

/// Boost that the notes allow in the cruise at this rpm, gear and mixture on this grade: that of their ratings without
/// a limit of time, between two of them in proportion to the rpm, under the lowest in proportion too. Nothing where
/// they give no boost for the mixture.
std::optional<ManifoldPressure> notesCruiseBoost(const TypeNotes& notes, const std::string& grade,
                                                 const LeverSetting& setting, Length pressureAltitude);

/// The rating that covers an rpm and the boost that comes, with most time: none limited where an unlimited one covers
/// them. Null beyond all of them.
const Rating* coveringRating(const TypeNotes& notes, const std::string& grade, const LeverSetting& setting,
                             ManifoldPressure boost, bool water, Length pressureAltitude);
/// The rating whose minutes a setting uses: the covering one, beyond all of them the strongest.
const Rating& ratingSpent(const TypeNotes& notes, const std::string& grade, const LeverSetting& setting,
                          ManifoldPressure boost, Length pressureAltitude);

/// The levers that a cruise may use: what the notes' ratings and limits leave.
struct CruiseRange {
    Rotation lowest, highest;
    std::vector<Mixture> mixtures;
    std::size_t gears = 1;
};
CruiseRange cruiseRange(const TypeNotes& notes);

/// Settings that give what is asked, within every limit of the notes, the grade's cut, the knock boundary and the
/// mixture's rule; best first: what the notes' ratings allow before what only the
/// model does, least burn, then lower gear and lower rpm. Each rpm step, gear and mixture is solved for
/// its boost by a bracketed root (TOMS 748). Empty when nothing does: then `why` of the answer says so.
struct CruiseAnswer {
    std::vector<CruisePoint> candidates; ///< at most `most`
    std::string why;
};
CruiseAnswer cruiseCandidates(const powerplant::Aircraft& aircraft, const CruiseConditions& conditions, Ask ask,
                              double valueSi, std::size_t most = 8);

/// Greatest boost that notes, grade and boundary together permit in the cruise at this setting.
ManifoldPressure permittedCruiseBoost(const powerplant::Aircraft& aircraft, const CruiseConditions& conditions,
                                      const engine::KnockBoundary& knock, const LeverSetting& setting);

} // namespace amber::flight
