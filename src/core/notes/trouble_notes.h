// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/first_act.h"
#include "notes/phase.h"
#include "notes/step.h"
#include "units/quantity.h"
#include <array>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// What notes say of the day when it goes wrong: drills, figures, symptoms ([trouble], [[symptom]]).
namespace amber {

/// Drills that stand beside the line of the sortie. Going round is the branch of the landing.
enum class Emergency {
    engineFails,
    fewEngines,
    feather,
    restart,
    dive,
    fireStarting,
    fireGround,
    fireAir,
    fireInduction,
    fireStack,
    smoke,
    chargeHigh,
    generatorFails,
    wheelsStay,
    waterInFuel
};

struct EmergencyName {
    Emergency emergency;
    std::string_view key;   ///< in files: [trouble.engine-fails]
    std::string_view title; ///< on a page
    Phase like;             ///< whose figures {boost}, {rpm} and the like mean in its words
};
inline constexpr std::array<EmergencyName, 15> emergencyNames{{
    {Emergency::engineFails, "engine-fails", "An engine fails", Phase::climb},
    {Emergency::fewEngines, "few-engines", "Landing on fewer engines", Phase::landing},
    {Emergency::feather, "feather", "Feather", Phase::climb},
    {Emergency::restart, "restart", "Unfeather and restart", Phase::cruise},
    {Emergency::dive, "dive", "Dive", Phase::letDown},
    {Emergency::fireStarting, "fire-starting", "Intake or exhaust, while starting", Phase::start},
    {Emergency::fireGround, "fire-ground", "Pool or nacelle, on the ground", Phase::start},
    {Emergency::fireAir, "fire-air", "In the air", Phase::climb},
    {Emergency::fireInduction, "fire-induction", "In the induction, aloft", Phase::climb},
    {Emergency::fireStack, "fire-stack", "At an exhaust, while it runs", Phase::warmUp},
    {Emergency::smoke, "smoke", "Smoke in the cockpit", Phase::cruise},
    {Emergency::chargeHigh, "charge-high", "Charge temperature high", Phase::climb},
    {Emergency::generatorFails, "generator-fails", "Generator fails", Phase::cruise},
    {Emergency::wheelsStay, "wheels-stay", "Wheels, flaps or brakes fail", Phase::landing},
    {Emergency::waterInFuel, "water-in-fuel", "Water in the fuel", Phase::climb},
}};
static_assert([] {
    for (std::size_t i = 0; i < emergencyNames.size(); ++i)
        if (emergencyNames[i].emergency != static_cast<Emergency>(i))
            return false;
    return true;
}());
/// Drills that are told together: of a fire, and of what is no engine's failure.
inline constexpr std::array fireDrills{Emergency::fireStarting, Emergency::fireGround, Emergency::fireAir,
                                       Emergency::fireInduction, Emergency::fireStack};
inline constexpr std::array systemsDrills{Emergency::smoke, Emergency::waterInFuel, Emergency::generatorFails,
                                          Emergency::chargeHigh, Emergency::wheelsStay};
constexpr const EmergencyName& nameOf(Emergency emergency) {
    return emergencyNames[static_cast<std::size_t>(emergency)];
}
constexpr std::optional<Emergency> emergencyFromKey(std::string_view key) {
    for (const auto& name : emergencyNames)
        if (name.key == key)
            return name.emergency;
    return std::nullopt;
}

/// Engines that an act of these drills is meant for, in place of a position's id.
inline constexpr std::string_view failedEngines = "failed", liveEngines = "live";

struct DrillNotes {
    std::vector<Step> steps;
    std::vector<std::string> without; ///< ids of the standard drill that this type has not
    std::vector<std::string> cautions;
    int line = 0;
};

/// A pattern of the type's own: what is noticed, what it is, what is done. Signs are keys of trouble/signs.h.
struct SymptomNotes {
    std::string cause; ///< key of a general fault whose pattern it replaces, or a name of its own
    std::string name;  ///< "Cabin blower drags"
    std::vector<std::string> signs;
    std::string toldBy, act, words; ///< how it is told from its like; first act; the notes' own words
    std::optional<FirstAct> first;  ///< what kind of act that is, so that its harm can be weighed
    std::optional<Emergency> drill;
    bool grave = false; ///< it loses the engine: its harm is weighed so
    int line = 0;
};

struct TroubleNotes {
    std::map<Emergency, DrillNotes> drills;
    std::vector<SymptomNotes> symptoms;
    std::optional<Duration> featherTakes;  ///< from the act until the blades stand
    std::optional<Rotation> featherBefore; ///< slower, and a start lock holds the blades fine
    std::optional<ManifoldPressure> warmBoost;
    std::optional<Rotation> warmRpm; ///< of an engine started again, until it is warm
    std::optional<Duration> warmFor; ///< at least
    std::optional<Rotation> diveRpm; ///< most, for `diveFor`
    std::optional<Duration> diveFor;
    std::optional<Speed> diveIas;              ///< never faster
    std::optional<ManifoldPressure> diveBoost; ///< least, while coming down fast
    std::optional<Duration> openOver;          ///< a throttle opened for going round
    std::optional<Length> roundNotBelow;       ///< above the field: lower, and she lands
    std::optional<double> dragDown;            ///< parasite drag with wheels and flaps down over that clean
    std::optional<Duration> wheelsTake;        ///< to come up
    std::optional<Speed> glideIas;
    std::optional<double> glideRatio; ///< distance over height, propeller as the notes leave it
};

} // namespace amber
