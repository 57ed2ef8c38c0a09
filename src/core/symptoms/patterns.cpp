// SPDX-License-Identifier: GPL-3.0-or-later
// The general patterns: a row a fault. Checked against the engine model, which steps every fault (tests/core/
// symptoms_test.cpp); where crews and model differ in what is seen first, both are in the row.
#include "symptoms/patterns.h"
#include "cockpit/equipment.h"
#include <algorithm>

namespace amber::trouble {
namespace {
using powerplant::Fault;
/// What a type must have for a row to be of use to it.
enum class Needs { nothing, governor, blower, turbo, water, coolant, suction, electric, boostGauge, mags, starter };

/// How a start must be made for a row of the start to be of use.
enum class Starts { anyhow, byBattery, byCartridge, byAir };

struct Line {
    Fault fault;
    unsigned stages; ///< in which it comes
    std::vector<Expected> signs;
    std::vector<Fault> like;
    const char* toldBy;
    std::vector<FirstAct> acts; ///< that treat it, the best first
    Grave grave;
    std::optional<Sign> tried{};
    bool gauge = false, powerLost = false; ///< the loss shows in torque, or in the rpm of a fixed propeller
    Needs needs = Needs::nothing;
};

const std::vector<Line>& lines() {
    using enum Grave;
    using enum Way;
    using enum Felt;
    constexpr Gauge boost = Gauge::boost, rpm = Gauge::rpm, torque = Gauge::torque, heads = Gauge::headTemperature,
                    coolant = Gauge::coolantTemperature, oil = Gauge::oilTemperature, oilPressure = Gauge::oilPressure,
                    fuelPressure = Gauge::fuelPressure, flow = Gauge::fuelFlow, intake = Gauge::carburettorAir,
                    charge = Gauge::chargeTemperature, volts = Gauge::volts, amperes = Gauge::amperes,
                    contents = Gauge::oilContents, water = Gauge::waterPressure, exhaust = Gauge::exhaustTemperature;
    constexpr Shows sure = Shows::surely, usual = Shows::usually, some = Shows::sometimes;
    static const std::vector<Line> all{
        {Fault::oilLost,
         anywhere,
         {{{contents, falls}, sure},
          {oilOnCowl, sure},
          {{oil, rises}, usual},
          {{oilPressure, fallsFast}, usual},
          {{oilPressure, flickers}, some},
          {smellOfOil, some},
          {shake, some}},
         {Fault::oilPressureGauge},
         "Look for streaks, and at the contents: a gauge loses no oil.",
         {FirstAct::ease, FirstAct::shutDown, FirstAct::stopNow},
         losesEngine,
         oilOnCowl},
        {Fault::oilPump,
         anywhere,
         {{{oilPressure, fallsFast}, sure},
          {leverDead, usual},
          {{rpm, rises}, usual},
          {{rpm, risesFast}, some},
          {{oil, rises}, usual},
          {{oil, still}, some},
          {shake, usual},
          {smellOfOil, usual},
          {howl, some},
          {rough, some},
          {yaw, some},
          {{rpm, falls}, some},
          {{heads, falls}, some},
          {{boost, falls}, some},
          {{flow, falls}, some},
          {{fuelPressure, falls}, some},
          {{charge, falls}, some},
          {{intake, falls}, some}},
         {Fault::oilPressureGauge},
         "Move the propeller lever: dead, it is the pump; it answers, it may be the gauge.",
         {FirstAct::shutDown, FirstAct::stopNow, FirstAct::ease},
         losesEngine,
         leverDead},
        {Fault::oilPressureGauge,
         anywhere,
         {{{oilPressure, fallsFast}, sure}, {{oil, still}, sure}, {{rpm, still}, usual}},
         {Fault::oilLost, Fault::oilPump},
         "Minutes on: oil no hotter, the governor answers, the cowl dry. Until then it is the oil.",
         {FirstAct::ease, FirstAct::look, FirstAct::stopNow},
         wears,
         Sign{oil, still},
         true},
        {Fault::reliefValve,
         anywhere,
         {{{oilPressure, fallsFast}, sure}, {{oilPressure, falls}, usual}, {{oil, still}, sure}},
         {Fault::bearing},
         "It follows the rpm, the oil is no hotter, nothing shakes.",
         {FirstAct::ease, FirstAct::doNotGo},
         losesPower,
         Sign{oil, still}},
        {Fault::coolerCongealed,
         atPower,
         {{{oil, rises}, sure}, {{oilPressure, falls}, usual}, {worstAtPower, some}},
         {Fault::coolerClogged},
         "In the cold: shut the cooler, and the oil cools; open, it grows hotter.",
         {FirstAct::shutCooler, FirstAct::ease},
         losesPower,
         {}},
        {Fault::coolerClogged,
         running,
         {{{oil, rises}, sure}, {{oilPressure, falls}, usual}, {worstAtPower, usual}},
         {Fault::coolerCongealed, Fault::bearing},
         "Open it by hand and fly faster: it helps.",
         {FirstAct::openCooler, FirstAct::speed, FirstAct::ease},
         losesPower,
         worstAtPower},
        {Fault::bearing,
         running,
         {{{oilPressure, falls}, sure},
          {{oilPressure, flickers}, sure},
          {{oil, rises}, sure},
          {shake, sure},
          {smellOfOil, usual},
          {rough, usual}},
         {Fault::coolerClogged},
         "Easing it restores nothing, and it shakes.",
         {FirstAct::shutDown, FirstAct::stopNow, FirstAct::ease},
         losesEngine,
         shake},
        {Fault::ring,
         running,
         {{blueSmoke, sure},
          {shake, sure},
          {{oil, rises}, usual},
          {rough, usual},
          {{oilPressure, falls}, some},
          {{contents, falls}, some},
          {smellOfOil, some},
          {yaw, some}},
         {Fault::fouledPlugs, Fault::valve},
         "The same on either magneto; the breather smokes.",
         {FirstAct::ease, FirstAct::shutDown, FirstAct::stopNow},
         losesEngine,
         eitherMagneto,
         false,
         true},
        {Fault::fouledPlugs,
         running,
         {{oneMagneto, sure}, {rough, some}, {shake, some}},
         {Fault::deadLead},
         "A short burst of power clears it.",
         {FirstAct::burst, FirstAct::ease, FirstAct::doNotGo},
         wears,
         {},
         false,
         false,
         Needs::mags},
        {Fault::deadLead,
         running,
         {{rough, sure}, {oneMagneto, sure}, {shake, usual}, {beat, some}},
         {Fault::fouledPlugs, Fault::valve},
         "A burst of power does not help; on the other magneto it is smooth.",
         {FirstAct::doNotGo, FirstAct::ease},
         wears,
         oneMagneto,
         false,
         true,
         Needs::mags},
        {Fault::magnetoDead,
         running,
         {{silentOnOne, usual},
          {{exhaust, risesFast}, usual},
          {{exhaust, rises}, usual},
          {{heads, falls}, usual},
          {yaw, some}},
         {Fault::dead},
         "Select it alone, throttle back: silence.",
         {FirstAct::ease, FirstAct::doNotGo},
         losesPower,
         silentOnOne,
         false,
         true,
         Needs::mags},
        {Fault::notEarthing,
         onGround,
         {{noDrop, sure}},
         {},
         "A dead-cut at idle: it runs on.",
         {FirstAct::doNotGo},
         losesPower,
         noDrop,
         false,
         false,
         Needs::mags},
        {Fault::timingLate,
         running,
         {{smoothDrop, sure}, {{exhaust, risesFast}, usual}, {{heads, rises}, some}},
         {Fault::fouledPlugs},
         "A large smooth drop that no burst clears.",
         {FirstAct::doNotGo, FirstAct::ease},
         wears,
         smoothDrop,
         false,
         true,
         Needs::mags},
        {Fault::carburettorIce,
         running,
         {{{boost, falls}, sure},
          {{flow, falls}, usual},
          {inDampAir, usual},
          {{heads, falls}, usual},
          {{charge, falls}, some},
          {yaw, some},
          {rough, usual},
          {shake, some}},
         {Fault::clutchSlips, Fault::airDoorHot},
         "Full heat: worse at first, then better.",
         {FirstAct::heat},
         losesPower,
         inDampAir,
         false,
         true,
         Needs::suction},
        {Fault::airDoorHot,
         running,
         {{{intake, risesFast}, sure},
          {{charge, risesFast}, sure},
          {{boost, falls}, usual},
          {{boost, fallsFast}, some},
          {{flow, falls}, usual},
          {{flow, fallsFast}, usual},
          {{heads, rises}, some},
          {{heads, falls}, some},
          {{rpm, fallsFast}, some},
          {blackSmoke, usual},
          {yaw, some},
          {rough, some},
          {shake, some}},
         {Fault::carburettorIce},
         "The carburettor air's needle has risen.",
         {FirstAct::coldAir, FirstAct::ease},
         losesPower,
         Sign{intake, risesFast},
         false,
         true},
        {Fault::tankDry,
         running,
         {{{fuelPressure, fallsFast}, sure},
          {{fuelPressure, flickers}, some},
          {{flow, fallsFast}, usual},
          {yaw, usual},
          {{heads, falls}, usual},
          {{oil, falls}, usual},
          {{rpm, fallsFast}, some},
          {{charge, fallsFast}, some},
          {backfire, some},
          {rough, some},
          {silent, some},
          {shake, some}},
         {Fault::fuelPump, Fault::dead},
         "Another tank brings it back.",
         {FirstAct::otherTank, FirstAct::booster},
         losesPower,
         {},
         false,
         true},
        {Fault::fuelPump,
         anywhere,
         {{{fuelPressure, falls}, usual},
          {{fuelPressure, fallsFast}, usual},
          {worstAtPower, usual},
          {{flow, falls}, usual},
          {{flow, fallsFast}, usual},
          {{heads, falls}, usual},
          {{oil, falls}, some},
          {{rpm, falls}, some},
          {{charge, falls}, some},
          {yaw, some},
          {rough, some},
          {backfire, some},
          {{heads, rises}, some},
          {shake, some}},
         {Fault::fuelLeak, Fault::fuelPressureGauge},
         "No smell, no spray, nothing wet; then the booster brings it back.",
         {FirstAct::booster, FirstAct::ease},
         losesPower,
         {},
         false,
         false},
        {Fault::fuelLeak,
         anywhere,
         {{{fuelPressure, falls}, sure},
          {smellOfFuel, sure},
          {fuelOnCowl, usual},
          {{flow, rises}, usual},
          {{flow, risesFast}, some}},
         {Fault::fuelPump, Fault::fuelPressureGauge},
         "Spray, the smell, contents falling. The booster pumps it onto the exhaust.",
         {FirstAct::fuelOff, FirstAct::stopNow},
         mayBurn,
         smellOfFuel},
        {Fault::vapourLock,
         running,
         {{{fuelPressure, flickers}, sure},
          {{fuelPressure, falls}, usual},
          {{flow, flickers}, some},
          {{flow, falls}, some},
          {hotAndHigh, usual},
          {{rpm, flickers}, some},
          {{charge, flickers}, some},
          {{heads, falls}, some},
          {yaw, some},
          {rough, some},
          {backfire, some},
          {shake, some}},
         {Fault::tankDry, Fault::fuelPump},
         "The booster cures it; another tank does not.",
         {FirstAct::booster, FirstAct::ease},
         losesPower,
         hotAndHigh},
        {Fault::fuelPressureGauge,
         anywhere,
         {{{fuelPressure, fallsFast}, sure}, {{flow, still}, sure}, {{rpm, still}, usual}},
         {Fault::fuelLeak, Fault::fuelPump},
         "Minutes on: smooth, flow and power as before. Until then it is the fuel.",
         {FirstAct::look},
         wears,
         Sign{flow, still},
         true},
        {Fault::rich,
         running,
         {{blackSmoke, sure},
          {{flow, rises}, sure},
          {{flow, risesFast}, usual},
          {{heads, falls}, usual},
          {{charge, fallsFast}, usual},
          {worstAtIdle, usual},
          {rough, usual},
          {shake, usual}},
         {Fault::fouledPlugs},
         "Leaning it by hand smooths it.",
         {FirstAct::lean, FirstAct::ease, FirstAct::doNotGo},
         wears,
         blackSmoke,
         false,
         true},
        {Fault::lean,
         running,
         {{{flow, falls}, sure},
          {{flow, fallsFast}, usual},
          {{fuelPressure, still}, usual},
          {backfire, sure},
          {{heads, rises}, usual},
          {{heads, falls}, usual},
          {{charge, risesFast}, usual},
          {{charge, rises}, some},
          {rough, usual},
          {shake, usual},
          {yaw, some}},
         {Fault::fuelPump, Fault::fouledPlugs},
         "Richer smooths it; the fuel pressure is right.",
         {FirstAct::rich, FirstAct::ease, FirstAct::doNotGo},
         losesPower,
         Sign{fuelPressure, still},
         false,
         true},
        {Fault::inductionLeak,
         running,
         {{{boost, rises}, usual},
          {worstAtIdle, usual},
          {whistle, usual},
          {rough, some},
          {{boost, falls}, some},
          {shake, some},
          {{heads, rises}, some}},
         {Fault::boostGaugeLine},
         "At idle the primer smooths it; boosted it whistles.",
         {FirstAct::ease, FirstAct::doNotGo},
         losesPower,
         whistle},
        {Fault::detonation,
         atPower,
         {{{heads, risesFast}, sure},
          {{heads, rises}, some},
          {puffs, usual},
          {blackSmoke, some},
          {rough, usual},
          {shake, usual},
          {{oil, rises}, usual},
          {{oilPressure, falls}, usual},
          {worstAtPower, some},
          {yaw, some}},
         {Fault::flapShut, Fault::preIgnition},
         "Boost back cures it.",
         {FirstAct::boostBack, FirstAct::rich},
         losesEngine,
         worstAtPower,
         false,
         true},
        {Fault::preIgnition,
         atPower,
         {{{heads, risesFast}, sure},
          {{heads, rises}, usual},
          {bangs, sure},
          {rough, usual},
          {shake, usual},
          {{oil, rises}, usual},
          {{oilPressure, falls}, usual},
          {blueSmoke, usual},
          {yaw, some}},
         {Fault::detonation},
         "Boost back does not cure it; it bangs.",
         {FirstAct::shutDown, FirstAct::stopNow, FirstAct::boostBack},
         losesEngine,
         bangs,
         false,
         true},
        {Fault::governorRunaway,
         atPower,
         {{{rpm, risesFast}, sure},
          {howl, sure},
          {yaw, usual},
          {leverDead, usual},
          {{oilPressure, rises}, usual},
          {{oilPressure, risesFast}, some},
          {{flow, risesFast}, usual},
          {{charge, risesFast}, usual},
          {{heads, rises}, some},
          {{oil, rises}, some},
          {shake, some},
          {{boost, still}, some}},
         {Fault::tachometer},
         "The sound follows the needle.",
         {FirstAct::governorBack, FirstAct::shutDown, FirstAct::stopNow},
         losesEngine,
         howl,
         false,
         false,
         Needs::governor},
        {Fault::pitchFixed,
         running,
         {{leverDead, sure}, {followsThrottle, sure}, {{rpm, rises}, some}, {{rpm, falls}, some}},
         {Fault::governorRunaway},
         "The lever does nothing; volts, then the hand switch.",
         {FirstAct::holdRpm, FirstAct::doNotGo},
         wears,
         followsThrottle,
         false,
         false,
         Needs::governor},
        {Fault::tachometer,
         running,
         {{{rpm, fallsFast}, sure}, {{boost, still}, usual}, {{flow, still}, usual}},
         {Fault::governorRunaway, Fault::dead},
         "By ear, and by the beat with the others; power as before.",
         {FirstAct::byEar, FirstAct::doNotGo},
         nuisance,
         Sign{flow, still},
         true},
        {Fault::flapShut,
         running,
         {{{heads, rises}, sure}, {{flow, still}, usual}, {{oil, rises}, some}, {{coolant, rises}, some}},
         {Fault::lean, Fault::detonation, Fault::coolantLost},
         "The flow is right; more speed cools it.",
         {FirstAct::openFlap, FirstAct::speed, FirstAct::ease},
         losesPower,
         Sign{flow, still}},
        {Fault::coolantLost,
         running,
         {{{coolant, rises}, sure},
          {whiteVapour, sure},
          {sweetSmell, usual},
          {coolantOnCowl, usual},
          {{coolant, fallsFast}, some},
          {{coolant, falls}, some},
          {shake, some}},
         {Fault::flapShut},
         "Vapour, a sweet smell. A dry bulb falls again: that is no cure.",
         {FirstAct::ease, FirstAct::shutDown, FirstAct::stopNow},
         losesEngine,
         whiteVapour,
         false,
         false,
         Needs::coolant},
        {Fault::boostGaugeLine,
         running,
         {{{boost, falls}, usual},
          {{boost, fallsFast}, usual},
          {{boost, rises}, some},
          {{flow, still}, sure},
          {{rpm, still}, usual}},
         {Fault::boostControl, Fault::inductionLeak},
         "Flow and torque have not moved: low at power, high at idle.",
         {FirstAct::setByFlow, FirstAct::doNotGo},
         wears,
         Sign{flow, still},
         true,
         false,
         Needs::boostGauge},
        {Fault::boostControl,
         atPower,
         {{{boost, flickers}, sure},
          {{boost, risesFast}, some},
          {{torque, flickers}, usual},
          {{flow, flickers}, usual},
          {yaw, some}},
         {Fault::boostGaugeLine, Fault::clutchSlips},
         "The throttle by hand steadies it; power moves with it.",
         {FirstAct::byHand, FirstAct::doNotGo},
         losesPower,
         Sign{flow, flickers},
         false,
         false,
         Needs::boostGauge},
        {Fault::clutchSlips,
         atPower,
         {{{boost, fallsFast}, sure},
          {{boost, falls}, usual},
          {{boost, flickers}, usual},
          {inHighGear, sure},
          {{charge, falls}, some},
          {{charge, rises}, some},
          {{oil, rises}, usual},
          {{flow, falls}, usual},
          {{flow, fallsFast}, usual},
          {{heads, falls}, some}},
         {Fault::carburettorIce, Fault::boostControl},
         "In low gear it is as it should be.",
         {FirstAct::lowGear, FirstAct::ease, FirstAct::doNotGo},
         wears,
         inHighGear,
         false,
         true,
         Needs::blower},
        {Fault::wasteGate,
         atPower,
         {{{boost, risesFast}, sure},
          {{boost, rises}, usual},
          {{charge, rises}, usual},
          {{heads, rises}, some},
          {{flow, rises}, usual},
          {{flow, risesFast}, usual}},
         {Fault::boostControl},
         "The turbo lever does nothing.",
         {FirstAct::turboBack, FirstAct::doNotGo},
         losesPower,
         {},
         false,
         false,
         Needs::turbo},
        {Fault::waterFails,
         atPower,
         {{{water, fallsFast}, sure},
          {{charge, risesFast}, usual},
          {{charge, rises}, usual},
          {{heads, risesFast}, usual},
          {{heads, rises}, usual},
          {{flow, fallsFast}, some},
          {blackSmoke, some}},
         {Fault::detonation},
         "The water's needle has fallen.",
         {FirstAct::dryBoost, FirstAct::boostBack},
         losesEngine,
         Sign{water, fallsFast},
         false,
         false,
         Needs::water},
        {Fault::valve,
         running,
         {{beat, sure},
          {shake, sure},
          {oneHeadCold, usual},
          {eitherMagneto, usual},
          {{heads, falls}, some},
          {{exhaust, fallsFast}, some},
          {backfire, some}},
         {Fault::deadLead},
         "The same on either magneto; that head grows cold.",
         {FirstAct::ease, FirstAct::shutDown, FirstAct::stopNow},
         losesEngine,
         eitherMagneto,
         false,
         true},
        {Fault::generator,
         running,
         {{{amperes, fallsFast}, sure}, {{volts, falls}, usual}},
         {Fault::gaugeSupply},
         "The volts sag: not the ammeter alone.",
         {FirstAct::shedLoad},
         wears,
         Sign{volts, falls},
         false,
         false,
         Needs::electric},
        {Fault::gaugeSupply,
         anywhere,
         {{{oil, fallsFast}, sure},
          {{heads, fallsFast}, sure},
          {{intake, fallsFast}, sure},
          {{charge, fallsFast}, sure},
          {{coolant, fallsFast}, usual},
          {{contents, fallsFast}, usual},
          {{flow, fallsFast}, usual},
          {{fuelPressure, fallsFast}, some},
          {{boost, still}, usual},
          {{rpm, still}, sure},
          {{oilPressure, still}, some}},
         {Fault::dead},
         "Those that read directly have not moved.",
         {FirstAct::directNeedles, FirstAct::doNotGo},
         wears,
         Sign{boost, still},
         true,
         false,
         Needs::electric},
        {Fault::starterStuck,
         onGround,
         {{whine, sure},
          {lampStays, usual},
          {{amperes, falls}, usual},
          {{amperes, rises}, some},
          {{amperes, fallsFast}, some},
          {{volts, falls}, usual},
          {{volts, fallsFast}, some}},
         {Fault::generator},
         "It whines, its lamp stays on.",
         {FirstAct::supplyOff},
         losesPower,
         whine,
         false,
         false,
         Needs::starter},
        {Fault::hydraulicLock,
         in(Stage::starting),
         {{stalls, sure},
          {{rpm, falls}, some},
          {{volts, falls}, some},
          {{volts, fallsFast}, some},
          {{amperes, fallsFast}, some}},
         {},
         "The volts recover when you let go: the battery is good.",
         {FirstAct::plugsOut},
         losesEngine,
         stalls},
        {Fault::noSpark,
         in(Stage::starting),
         {{wetAndSilent, sure}, {noCough, usual}, {drips, some}},
         {},
         "Wet, and not a sound: the coil, the switch. Dry, it wants priming; dripping, it is flooded.",
         {FirstAct::checkSpark},
         wears,
         wetAndSilent,
         false,
         false,
         Needs::mags},
        {Fault::dead,
         flying,
         {{yaw, sure},
          {{heads, falls}, sure},
          {{flow, fallsFast}, usual},
          {{fuelPressure, still}, usual},
          {silent, usual},
          {{oil, falls}, usual},
          {{charge, fallsFast}, some},
          {{rpm, still}, some},
          {{rpm, fallsFast}, some},
          {{rpm, falls}, some}},
         {Fault::tachometer, Fault::gaugeSupply},
         "Closing its throttle alters no yaw.",
         {FirstAct::engineDrill, FirstAct::stopNow},
         losesEngine,
         yaw,
         false,
         true},
    };
    return all;
}

bool has(Needs needs, const TypeNotes& n, const cockpit::Equipment& e) {
    switch (needs) {
    case Needs::nothing:
    case Needs::mags:
        return true;
    case Needs::governor:
        return e.hub == cockpit::Hub::oil || e.hub == cockpit::Hub::electric;
    case Needs::blower:
        return e.blower;
    case Needs::turbo:
        return e.turbo;
    case Needs::water:
        return e.water;
    case Needs::coolant:
        return e.coolant;
    case Needs::suction:
        return n.engine.suctionCarburettor;
    case Needs::electric:
        return e.electric;
    case Needs::boostGauge:
        return e.boosted;
    case Needs::starter:
        return e.starter == StarterKind::direct || e.starter == StarterKind::inertia;
    }
    return true;
}
/// Causes that no fault of the engine model is: what a start wants of one, fire, water in the fuel, and what is no
/// fault at all.
struct OwnLine {
    const char *key, *name;
    unsigned stages;
    std::vector<Expected> signs;
    const char* toldBy;
    std::vector<FirstAct> acts;
    Grave grave;
    Starts needs = Starts::anyhow;
    double prior = 1.0;
};

const std::vector<OwnLine>& ownLines() {
    using enum Grave;
    using enum Way;
    using enum Felt;
    constexpr Shows sure = Shows::surely, usual = Shows::usually, some = Shows::sometimes;
    constexpr Gauge fuelPressure = Gauge::fuelPressure, volts = Gauge::volts, amperes = Gauge::amperes,
                    rpm = Gauge::rpm;
    constexpr unsigned starting = in(Stage::starting);
    static const std::vector<OwnLine> all{
        {"dry",
         "Too little priming",
         starting,
         {{noCough, usual}, {dryStack, sure}, {coughs, usual}},
         "No drip, no smell at the stacks: half a dose more, and it coughs.",
         {FirstAct::prime},
         wears},
        {"flooded",
         "Flooded",
         starting,
         {{drips, sure},
          {noCough, usual},
          {smellOfFuel, usual},
          {blackSmoke, usual},
          {puffs, usual},
          {fuelOnCowl, some},
          {coughs, some}},
         "It drips, the stacks smell: cleared, it fires.",
         {FirstAct::clear},
         losesPower},
        {"too-cold",
         "Too cold to fire",
         starting,
         {{noCough, usual}, {coughs, usual}, {turnsSlowly, usual}, {dryStack, some}, {{volts, falls}, some}},
         "Two right doses and still dry; oil like tar on the stick.",
         {FirstAct::warm},
         wears,
         Starts::anyhow,
         0.7},
        {"flat-battery",
         "Battery flat or weak",
         starting,
         {{turnsSlowly, sure},
          {{volts, fallsFast}, sure},
          {{volts, falls}, usual},
          {noTurn, some},
          {noCough, some},
          {{amperes, falls}, some}},
         "The volts stay low when you let go; slower at each try.",
         {FirstAct::rest},
         wears,
         Starts::byBattery},
        {"fuse",
         "Starter fuse or breaker",
         starting,
         {{noTurn, sure}, {{volts, still}, sure}, {{amperes, still}, usual}},
         "Nothing turns and the volts do not move.",
         {FirstAct::fuse},
         wears,
         Starts::byBattery,
         0.7},
        {"no-fuel",
         "No fuel comes",
         starting,
         {{{fuelPressure, falls}, sure}, {dryStack, sure}, {noCough, usual}, {coughs, usual}},
         "No fuel pressure: cock, pump, tank.",
         {FirstAct::checkFuel},
         wears,
         Starts::anyhow,
         0.7},
        {"hot-vapour",
         "Vapour lock, hot",
         starting,
         {{{fuelPressure, flickers}, sure}, {coughs, usual}, {noCough, some}, {hotAndHigh, some}},
         "A hot engine, stopped a while ago: the pump brings pressure.",
         {FirstAct::pumpUp},
         wears,
         Starts::anyhow,
         0.5},
        {"cartridge-spent",
         "Cartridge weak or spent",
         starting,
         {{noTurn, usual}, {turnsSlowly, usual}},
         "It fired, and the blades hardly moved; or it did not fire.",
         {FirstAct::nextCartridge},
         losesPower,
         Starts::byCartridge},
        {"air-low",
         "Starting air low",
         starting,
         {{turnsSlowly, sure}, {noTurn, usual}},
         "The bottle's gauge.",
         {FirstAct::fillBottle},
         wears,
         Starts::byAir},
        {"intake-fire",
         "Fire in the intake or exhaust",
         starting,
         {{flames, sure}, {backfire, usual}, {blackSmoke, some}},
         "Flames at intake or stacks, none under it: turned, it is drawn in.",
         {FirstAct::drawIn},
         burns,
         Starts::anyhow,
         1.0},
        {"pool-fire",
         "Fire of spilt fuel or in the nacelle",
         onGround,
         {{flames, sure}, {fuelOnCowl, usual}, {drips, usual}, {smellOfFuel, usual}},
         "Flames under it or round it, not in the stacks.",
         {FirstAct::fuelOff},
         burns,
         Starts::anyhow,
         0.3},
        {"fire",
         "Fire in the nacelle",
         flying,
         {{flames, sure}, {blackSmoke, usual}, {smellOfFuel, some}, {smellOfOil, some}, {rough, some}},
         "Flames, paint that blisters: no needle is waited for.",
         {FirstAct::fuelOff},
         burns,
         Starts::anyhow,
         0.3},
        {"water-in-fuel",
         "Water in the fuel",
         running,
         {{rough, sure},
          {{rpm, flickers}, usual},
          {backfire, usual},
          {{fuelPressure, still}, usual},
          {shake, some},
          {yaw, some}},
         "Every engine of that tank; another tank smooths it within a minute.",
         {FirstAct::otherTank, FirstAct::ease},
         losesPower,
         Starts::anyhow,
         0.4},
    };
    return all;
}

bool has(Starts needs, const cockpit::Equipment& e) {
    switch (needs) {
    case Starts::anyhow:
        return true;
    case Starts::byBattery:
        return e.starter == StarterKind::direct || e.starter == StarterKind::inertia;
    case Starts::byCartridge:
        return e.starter == StarterKind::cartridge;
    case Starts::byAir:
        return e.starter == StarterKind::air;
    }
    return true;
}

} // namespace

std::vector<Pattern> patternsFor(const TypeNotes& n) {
    const auto e = cockpit::equipmentOf(n);
    const bool governed = e.hub == cockpit::Hub::oil || e.hub == cockpit::Hub::electric;
    std::vector<Pattern> out;
    for (const Line& l : lines()) {
        if (!has(l.needs, n, e))
            continue;
        Pattern p;
        p.fault = l.fault;
        p.key = powerplant::nameOf(l.fault).key;
        p.name = powerplant::nameOf(l.fault).title;
        p.signs = l.signs;
        p.like = l.like;
        p.toldBy = l.toldBy;
        p.acts = l.acts;
        p.stages = l.stages;
        p.grave = l.grave;
        p.tried = l.tried;
        p.gauge = l.gauge;
        // An engine of coolant shows by it what others show by their heads.
        if (e.coolant)
            for (auto& s : p.signs)
                if (s.sign.isNeedle() && s.sign.gauge == Gauge::headTemperature)
                    s.sign.gauge = Gauge::coolantTemperature;
        // Under a governor lost power shows in torque and yaw; a fixed propeller turns slower.
        if (l.powerLost) {
            p.signs.push_back({{Gauge::torque, Way::fallsFast}, Shows::usually});
            p.signs.push_back({{Gauge::torque, Way::falls}, Shows::usually});
            if (!governed) {
                p.signs.push_back({{Gauge::rpm, Way::falls}, Shows::usually});
                p.signs.push_back({{Gauge::rpm, Way::fallsFast}, Shows::sometimes});
            } else {
                p.signs.push_back({{Gauge::rpm, Way::still}, Shows::usually});
            }
        }
        if (e.engines < 2) // one engine yaws nobody
            std::erase_if(p.signs, [](const Expected& x) { return x.sign == Sign(Felt::yaw); });
        if (e.engines < 2 && p.tried == Sign(Felt::yaw)) {
            p.tried.reset();
            p.toldBy = "The throttle moved, nothing answers.";
        }
        // The governor's oil comes from the engine's pump only where the blades are moved by oil.
        if (l.fault == Fault::oilPump && e.hub != cockpit::Hub::oil) {
            std::erase_if(p.signs, [](const Expected& x) {
                return x.sign == Sign(Felt::leverDead) || x.sign == Sign(Felt::howl) ||
                       (x.sign.isNeedle() && x.sign.gauge == Gauge::rpm);
            });
            p.toldBy = "This propeller does not tell: ease it; heat and shake within the minute are the pump.";
            p.tried = Sign(Felt::shake);
        }
        out.push_back(std::move(p));
    }
    for (const OwnLine& l : ownLines()) {
        if (!has(l.needs, e))
            continue;
        Pattern p;
        p.key = l.key;
        p.name = l.name;
        p.signs = l.signs;
        p.toldBy = l.toldBy;
        p.acts = l.acts;
        p.stages = l.stages;
        p.grave = l.grave;
        p.prior = l.prior;
        if (e.engines < 2)
            std::erase_if(p.signs, [](const Expected& x) { return x.sign == Sign(Felt::yaw); });
        out.push_back(std::move(p));
    }
    for (const auto& s : n.trouble.symptoms) {
        auto found = std::find_if(out.begin(), out.end(), [&](const Pattern& p) { return p.key == s.cause; });
        if (found == out.end()) {
            out.emplace_back();
            found = std::prev(out.end());
            found->key = s.cause;
            found->stages = running;
            found->name = s.name.empty() ? s.cause : s.name;
        }
        if (!s.name.empty())
            found->name = s.name;
        found->signs.clear();
        for (const auto& key : s.signs)
            if (const auto sign = signFromKey(key))
                found->signs.push_back({*sign, Shows::surely});
        if (!s.toldBy.empty())
            found->toldBy = s.toldBy;
        found->ownAct = s.act;
        if (s.first)
            found->acts = {*s.first};
        else if (found->acts.empty())
            found->acts = {FirstAct::ease};
        found->words = s.words;
        if (s.drill)
            found->drill = s.drill;
        if (s.grave)
            found->grave = Grave::losesEngine;
        found->origin = Origin::notes;
    }
    return out;
}

} // namespace amber::trouble
