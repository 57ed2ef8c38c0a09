// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/standard_schools.h"
#include <algorithm>

namespace amber::schools {
namespace {
SchoolEffect primes(bool whileTurning) {
    SchoolEffect e;
    e.primeWhileTurning = whileTurning;
    return e;
}
SchoolEffect share(double primer) {
    SchoolEffect e;
    e.primerShare = primer;
    return e;
}
SchoolEffect blades(bool first) {
    SchoolEffect e;
    e.bladesFirst = first;
    return e;
}
SchoolEffect slow(bool first) {
    SchoolEffect e;
    e.slowFirst = first;
    return e;
}
SchoolEffect shut(bool untilWarm) {
    SchoolEffect e;
    e.shutUntilWarm = untilWarm;
    return e;
}
SchoolEffect changes(bool atEqualPower) {
    SchoolEffect e;
    e.changeAtEqualPower = atEqualPower;
    return e;
}
School school(std::string name, std::string set, std::string gain, std::string risk, SchoolEffect effect = {}) {
    return {std::move(name), std::move(set), std::move(gain), std::move(risk), false, effect, {}};
}
} // namespace

const std::vector<Point>& points() {
    static const std::vector<Point> all{
        {"prime-when",
         {school("before turning", "{prime}, wait {vaporise}", "The fuel has time to become vapour.",
                 "It drains away, or pools, when the crew is slow.", primes(false)),
          school("while turning", "{prime}, as it turns", "Moving air carries it to every cylinder and none can pool.",
                 "A hand and the starter's seconds are spent on it.", primes(true))}},
        {"prime-how",
         {school("primer only", "{prime}", "Counted strokes: the same dose every time.",
                 "A leaking or blocked primer line goes unseen.", share(1.0)),
          school("pull-through, no primer", "{prime}, throttle closed, ignition off",
                 "Every cylinder draws its share through its own valve.",
                 "Many blades by hand, and a live magneto kills.", share(0.0)),
          school("both", "{prime}, throttle closed", "Fewer strokes, and a lock is felt on the way.",
                 "The count is lost between two people.", share(0.5))}},
        {"ignition",
         {school("on before turning", "on, then turn", "It fires on the first good charge.",
                 "With oil in a cylinder the first kick bends the rod.", blades(false)),
          school("after blades", "on after {blades} blades", "A lock shows itself with no spark behind it.",
                 "The prime has moved on before it can fire.", blades(true))}},
        {"propeller",
         {school("fine", "fully fine", "Lightest to turn; no lever to move afterwards.",
                 "The governor takes oil that the bearings want."),
          school("coarse until oil pressure", "coarse, fine when oil pressure is up", "The bearings are served first.",
                 "Heavier to turn, and forgotten in coarse at the run-up.")}},
        {"first-rpm",
         {school("warm-up rpm at once", "{warm-up-rpm} as soon as it runs", "Oil is flung to every cylinder wall.",
                 "Cold bearings run fast on little oil.", slow(false)),
          school("slow until oil pressure", "{slow-rpm} until oil pressure, then {warm-up-rpm}",
                 "Nothing is loaded before oil reaches it.", "Too slow and too long fouls the plugs.", slow(true))}},
        {"carburettor-air",
         {school("cold", "cold", "A backfire blows into open air, not into a warm duct.",
                 "In frost the mixture stays wet and the engine spits."),
          school("hot as soon as it runs", "cold; hot when it runs", "Warm air makes vapour of the fuel in frost.",
                 "A backfire into the warm duct burns it.")}},
        {"booster-pump",
         {school("on for the whole flight", "on, left on", "Fuel pressure never waits for a hand.",
                 "A failed engine pump is hidden until landing."),
          school("where the notes name it", "on; off when it runs by itself",
                 "The engine's own pump shows that it works.", "A switch to remember at every change.")}},
        {"cowl-cold",
         {school("open on the ground", "{flap}", "Front and rear cylinders warm evenly.", "Warming takes longer.",
                 shut(false)),
          school("closed until warm", "shut until the heads are warm, then {flap}", "Minutes are saved in frost.",
                 "The harness and the rear row cook unseen.", shut(true))}},
        {"climb-mixture",
         {school("rich in the climb", "rich", "Fuel cools the heads and prevents detonation.", "A tenth more fuel."),
          school("weak except at take-off and combat power", "weak", "Fuel saved on every climb.",
                 "Hotter heads; only where the notes allow weak at this power.")}},
        {"gear-change",
         {school("at the fall in boost", "{gear}, to {change-height}", "As the notes say: one figure to watch for.",
                 "Power drops at the change where equal power lies higher.", changes(false)),
          school("at equal power", "{gear}, to {change-height}", "No power is lost at the change.",
                 "Longer on a falling boost, and not what the notes say.", changes(true))}},
        {"reduction",
         {school("boost, then rpm", "{climb-boost}, then {climb-rpm}", "High boost never meets low rpm.",
                 "Two movements a lever at a time."),
          school("both together", "both to {climb-boost}, {climb-rpm}", "One movement where the levers are linked.",
                 "Unlinked, one hand runs ahead and it detonates.")}},
        {"landing-rpm",
         {school("full fine", "fully fine", "All the power is there at once for going round.",
                 "Opened quickly it overspeeds."),
          school("short of fine", "{rpm}", "Opened quickly it does not overspeed.",
                 "A lever more to move when going round.")}},
        {"approach-power",
         {school("set once", "{boost}, left alone", "Steady heads and a steady slope.", "A long, flat approach."),
          school("closed throttle", "closed in the circuit", "Short and steep over the hedge.",
                 "Shock cooling, and loading up before a go-round."),
          school("kept warm with bursts", "closed, a burst each half minute", "Clears the plugs on the way down.",
                 "Ragged, and easily forgotten.")}},
        {"stopping",
         {school("cut-off, throttle closed", "cut-off, throttle closed", "It stops clean and dry.",
                 "The last charge may kick it back."),
          school("cut-off, opening the throttle", "cut-off, throttle opened as it dies",
                 "Fresh air clears the cylinders.", "Opened early it runs up."),
          school("fuel cock, run dry", "fuel off, run dry", "Works without a cut-off, carburettor left empty.",
                 "The pump runs dry."),
          school("slow-running cut-out", "cut-out pulled, held until still", "Starves the jet it idles on.",
                 "Let go too soon it catches again.")}},
        {"failure-order",
         {school("feather, then cut-off", "", "The drag goes first: low and slow that is what kills.",
                 "It is feathered while fuel still reaches it."),
          school("cut-off, then feather", "", "No fuel to a broken engine; it cannot surge as the blades turn.",
                 "Some seconds more of a windmilling propeller.")}},
        {"fire-throttle",
         {school("open", "", "It draws the fire in, and burns out what fuel there is.",
                 "It feeds a fire that has more fuel than that."),
          school("closed", "", "It starves the fire of air.", "What burns in the intake stays there.")}},
        {"fire-flaps",
         {school("shut", "", "The bottle's gas stays in the cowl.", "The fire is hotter where it is."),
          school("open", "", "It blows a fire away from the bulkhead.", "The gas is gone before it has worked.")}},
        {"after-stopping",
         {school("ignition off first", "ignition, fuel, battery", "No live propeller when people come near.",
                 "Gauges go dead later, easily left on."),
          school("battery off first", "battery, ignition, fuel", "No flat battery in the morning.",
                 "Magnetos are live for longer."),
          school("by the type's order", "in the order of the notes", "Nothing of this type is forgotten.",
                 "Another order than on the last aircraft.")}},
    };
    return all;
}

const Point* point(std::string_view key) {
    const auto found = std::find_if(points().begin(), points().end(), [&](const Point& p) { return p.key == key; });
    return found == points().end() ? nullptr : &*found;
}

const School* inForce(const Step& step, Phase phase, const std::map<std::string, std::string>& choices) {
    return inForce(step, keyOf(phase), choices);
}

const School* inForce(const Step& step, std::string_view place, const std::map<std::string, std::string>& choices) {
    const School* out = nullptr;
    for (const auto& s : step.schools)
        if (s.byNotes)
            out = &s;
    if (!step.open)
        return out;
    const auto chosen = [&](const std::string& id) -> const School* {
        const auto choice = choices.find(std::string(place) + "/" + id);
        if (choice != choices.end())
            for (const auto& s : step.schools)
                if (s.name == choice->second)
                    return &s;
        return nullptr;
    };
    if (const School* own = chosen(step.id))
        return own;
    for (const auto& id : step.was) // chosen while the notes still called it so
        if (const School* old = chosen(id))
            return old;
    return out;
}

} // namespace amber::schools
