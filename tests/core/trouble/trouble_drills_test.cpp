// SPDX-License-Identifier: GPL-3.0-or-later
// The drills of emergencies: in the order of this propeller, this carburettor, this starter; the notes laid upon them;
// what would kill found in them.
#include "air/atmosphere.h"
#include "audit/audit_trouble.h"
#include "cockpit/equipment.h"
#include "cockpit/written.h"
#include "drills/cautions.h"
#include "drills/drill.h"
#include "files/document.h"
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include "trouble/automatics.h"
#include "trouble/drill.h"
#include "trouble/few_engines.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace amber {
namespace {
trouble::Case caseOf(const flight::LoadedSortie& l, const flight::Flown& f, double time,
                     std::vector<std::size_t> dead = {0}) {
    return {*l.aircraft, *l.sortie, f, trouble::momentAt(l.aircraft->notes, *l.sortie, f, time), std::move(dead)};
}
/// Place of the first line that says so, or −1.
int placeOf(const trouble::EmergencyDrill& d, std::string_view what, std::string_view set) {
    for (std::size_t i = 0; i < d.lines.size(); ++i)
        if (d.lines[i].what.find(what) != std::string::npos && d.lines[i].set.find(set) != std::string::npos)
            return static_cast<int>(i);
    return -1;
}
bool hasStep(const trouble::EmergencyDrill& d, std::string_view step) {
    return std::any_of(d.lines.begin(), d.lines.end(), [&](const auto& line) { return line.step == step; });
}
/// Lines that must stand there, in this order.
void expectOrder(const trouble::EmergencyDrill& d, const std::vector<std::pair<const char*, const char*>>& order) {
    int last = -1;
    for (const auto& [what, set] : order) {
        const int at = placeOf(d, what, set);
        EXPECT_GT(at, last) << d.title << ": " << what << " " << set;
        last = std::max(last, at);
    }
}
struct Flying {
    explicit Flying(const std::string& name) : l(test::loaded(name)), f(flight::fly(*l.aircraft, *l.sortie)) {}
    [[nodiscard]] trouble::EmergencyDrill drill(Emergency e, Phase phase = Phase::climb,
                                                std::vector<std::size_t> dead = {0}) const {
        return trouble::drillOf(caseOf(l, f, f[phase].start + 30, std::move(dead)), e);
    }
    const flight::LoadedSortie& l;
    flight::Flown f;
};
} // namespace

TEST(TroubleDrills, EveryTypeHasEveryDrillWithItsFiguresFilledIn) {
    for (const auto& name : test::demoNames()) {
        const Flying now(name);
        for (const auto& e : emergencyNames) {
            const auto d = now.drill(e.emergency);
            if (e.emergency == Emergency::fewEngines && now.l.aircraft->notes.positions.size() < 2) {
                EXPECT_TRUE(d.lines.empty()) << name << ": one engine has no fewer";
                continue;
            }
            const auto& notes = now.l.aircraft->notes;
            const bool moves = cockpit::acting(notes.controls, Acts::wheels) ||
                               cockpit::acting(notes.controls, Acts::wingFlap) ||
                               cockpit::acting(notes.controls, Acts::brakes);
            if ((e.emergency == Emergency::chargeHigh && notes.engine.gears.empty()) ||
                (e.emergency == Emergency::wheelsStay && !moves) ||
                (e.emergency == Emergency::generatorFails && !cockpit::equipmentOf(notes).electric &&
                 !cockpit::acting(notes.controls, Acts::generator))) {
                EXPECT_TRUE(d.lines.empty()) << name << " " << e.key << ": it has none that could fail";
                continue;
            }
            EXPECT_GE(d.lines.size(), 3u) << name << " " << e.key;
            EXPECT_FALSE(d.cautions.empty()) << name << " " << e.key;
            for (const auto& line : d.lines) {
                EXPECT_FALSE(line.what.empty()) << name << " " << e.key << " " << line.step;
                EXPECT_FALSE(line.set.empty()) << name << " " << e.key << " " << line.what;
                for (const auto* text : {&line.what, &line.set, &line.at})
                    EXPECT_EQ(text->find_first_of("{}"), std::string::npos) << name << " " << e.key << ": " << *text;
            }
        }
        EXPECT_GE(trouble::goRoundDrill(caseOf(now.l, now.f, now.f[Phase::landing].start)).lines.size(), 2u) << name;
        EXPECT_TRUE(cockpit::auditEmergencies(now.l.aircraft->notes).empty())
            << name << ": " << cockpit::auditEmergencies(now.l.aircraft->notes).front().text();
    }
}

/// Some twenty-five words can be said in fifteen seconds (a hundred a minute, slowly), with today's speeds in them.
TEST(TroubleDrills, TheTakeOffIsSpokenFromTodaysFigures) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto plan = plan::makePlan(*l.aircraft, *l.sortie);
        const std::string& said = plan[Phase::takeOff].spoken;
        EXPECT_LE(std::count(said.begin(), said.end(), ' '), 26) << name << ": " << said;
        const auto weight = plan.flown.samples[plan.flown[Phase::takeOff].firstSample][Gauge::weight];
        const auto lift = flight::speedFor(l.aircraft->notes, "lift-off", Mass::si(weight));
        ASSERT_TRUE(lift) << name;
        EXPECT_NE(said.find(format(lift->speed.si(), *l.aircraft->notes.cockpit.speed)), std::string::npos) << said;
        const bool several = l.aircraft->notes.engineCount() > 1;
        EXPECT_EQ(said.find("feather") != std::string::npos, several && l.aircraft->notes.propeller.feathers) << said;
        EXPECT_EQ(said.find("wheels") != std::string::npos,
                  several && cockpit::acting(l.aircraft->notes.controls, Acts::wheels))
            << said;
    }
    auto l = test::loaded("lorimer-spring");
    const auto usual = plan::makePlan(*l.aircraft, *l.sortie)[Phase::takeOff].spoken;
    l.sortie->fuelGrade = "91";
    const auto weak = plan::makePlan(*l.aircraft, *l.sortie)[Phase::takeOff].spoken;
    EXPECT_NE(usual.find("45 inHg"), std::string::npos) << usual;
    EXPECT_NE(weak.find("40.5 inHg"), std::string::npos) << weak;
    // Where the notes do not let it climb on fewer at this weight, nobody is told to go on: high and hot.
    EXPECT_EQ(weak.find("too heavy"), std::string::npos) << weak;
    const auto at = [&](double feet, double celsius) {
        l.sortie->day.elevation = Length::of(feet, units::foot);
        l.sortie->day.oat = Temperature::of(celsius, units::celsius);
        return plan::makePlan(*l.aircraft, *l.sortie)[Phase::takeOff].spoken;
    };
    // 27,400 lb, and 26,938 lb by the table at 4,000 ft and 30 °C; at 9,000 ft it says nothing.
    EXPECT_NE(at(4000, 30).find("too heavy to climb: land ahead"), std::string::npos) << at(4000, 30);
    EXPECT_NE(at(9000, 35).find("whether it climbs is not known here"), std::string::npos) << at(9000, 35);
}

TEST(TroubleDrills, TheTwinsFailureGatesFirstThenProvesThenFeathers) {
    const auto d = Flying("lorimer-spring").drill(Emergency::engineFails);
    EXPECT_TRUE(d.lines.front().gate);
    expectOrder(d, {{"Airborne, slower than 103 kt", "land ahead"},
                    {"Mixture, all", "auto rich"}, // nobody knows yet which one died
                    {"Propeller, all", "rpm"},
                    {"Throttle, all", "inHg"},
                    {"Drag up: undercarriage", "up"},
                    {"Flaps", "up"},
                    {"Which one", "foot"},
                    {"Prove it: throttle, Port", "closed"},
                    {"Confirm", "second person"},
                    {"Supply", "on"},
                    {"Feathering, Port", "feathered"},
                    {"Mixture, Port", "cut-off"},
                    {"Fuel cock, Port", "off"},
                    {"Ignition, Port", "off"},
                    {"Cowl flaps, Port", "shut"},
                    {"Crossfeed", "open"}});
    // Memory items stand together, the read ones after them.
    bool read = false;
    for (const auto& line : d.lines) {
        read = read || !line.memory;
        if (line.memory && line.step != "hand-pump")
            EXPECT_FALSE(read) << line.what << " is done from memory after something was read";
    }
    // The other one dead: the same acts on the other side.
    const auto other = Flying("lorimer-spring").drill(Emergency::engineFails, Phase::climb, {1});
    EXPECT_GE(placeOf(other, "Feathering, Starboard", "feathered"), 0);
    EXPECT_EQ(placeOf(other, "Feathering, Port", "feathered"), -1);
}

TEST(TroubleDrills, TheLiveEnginesHaveTakeOffPowerLowAndContinuousPowerHigh) {
    const Flying now("lorimer-spring");
    const auto low = trouble::drillOf(caseOf(now.l, now.f, now.f[Phase::takeOff].start + 20), Emergency::engineFails);
    const auto high = trouble::drillOf(caseOf(now.l, now.f, now.f[Phase::cruise].start + 600), Emergency::engineFails);
    EXPECT_GE(placeOf(low, "Propeller, all", "2,650 rpm"), 0) << "the notes' take-off rating";
    EXPECT_GE(placeOf(low, "Throttle, all", "45 inHg"), 0);
    EXPECT_GE(placeOf(low, "Throttle, all", "max "), 0) << "its minutes run";
    EXPECT_GE(placeOf(high, "Propeller, all", "2,350 rpm"), 0) << "rated power may be held";
    EXPECT_GE(placeOf(high, "Throttle, all", "39 inHg"), 0);
    EXPECT_FALSE(hasStep(high, "rolling")) << "long past it";
    const auto rolling =
        trouble::drillOf(caseOf(now.l, now.f, now.f[Phase::takeOff].start + 3), Emergency::engineFails);
    EXPECT_TRUE(hasStep(rolling, "rolling")) << "three seconds into the take-off";
}

TEST(TroubleDrills, ASinglesForcedLandingHasStrapsEarlyWheelsDecidedAndAllOffLast) {
    const Flying now("farrier-summer");
    const auto high = now.drill(Emergency::engineFails, Phase::cruise);
    expectOrder(high, {{"Glide", ""},
                       {"Fuel", ""},
                       {"Straps, hood", "tight"},
                       {"Wheels", "up on unprepared ground"},
                       {"Wing flaps", "landing"},
                       {"Fuel cock", "off"},
                       {"Battery", "off"}});
    EXPECT_FALSE(hasStep(high, "low")) << "thousands of feet up there is a choice of fields";
    const auto low = trouble::drillOf(caseOf(now.l, now.f, now.f[Phase::takeOff].start + 25), Emergency::engineFails);
    EXPECT_TRUE(hasStep(low, "low"));
    EXPECT_GE(placeOf(low, "Just airborne", "cock and ignition off"), 0);
    const auto fire = now.drill(Emergency::fireAir, Phase::cruise);
    expectOrder(fire, {{"Fuel cock", "off"}, {"Hood, vents, heater", "hood shut until leaving"}, {"Then", "leave"}});
}

TEST(FewEngines, TheTwinIsHeldToItsCommitmentHeightAndASinglesPumpDecidesTheWheels) {
    const Flying now("lorimer-spring");
    const auto& a = *now.l.aircraft;
    const auto port = trouble::fewEngines(a, *now.l.sortie, now.f, {0});
    ASSERT_TRUE(port.commit);
    // By hand: 550 ft/min lost for two seconds, then until the power stands; with a hundred and fifty feet to spare.
    EXPECT_GT(port.commit->si(), 45.0 + 2.0 * port.held.si() * 0.052);
    EXPECT_LT(port.commit->si(), 150.0);
    EXPECT_GE(port.held, port.safe) << "never slower than the safe speed before it";
    // Down a path of three degrees weight gives back W v sin 3°: that much less power over the propeller's efficiency.
    const double w = port.weight.si() * 9.80665;
    const double tas = port.held.si() / std::sqrt(air::density(now.l.sortie->day.fieldPressure(), port.air) / 1.225);
    const double slope = 0.0524 * w * tas / 0.8;
    EXPECT_GT(port.level.si() - port.onWheels.si(), 0.35 * slope);
    EXPECT_LT(port.level.si() - port.onWheels.si(), slope) << "the wheels take some of it";
    EXPECT_GT(port.allDown, port.onWheels);
    EXPECT_LT(port.allDown, port.most);
    // Both engines going round climb better than one by at least the power of the other.
    const auto both = trouble::goRound(a, *now.l.sortie, now.f);
    EXPECT_GT(both.rateUp.si(), port.round->rateUp.si() + 0.8 * 0.8 * port.most.si() / w);
    // Starboard drives the only hydraulic pump: wheels put down by hand stay down, and with them the decision.
    const auto starboard = trouble::fewEngines(a, *now.l.sortie, now.f, {1});
    EXPECT_TRUE(starboard.pumpLost);
    EXPECT_FALSE(starboard.commit);
    EXPECT_FALSE(port.pumpLost);
    EXPECT_TRUE(port.oneSide);
    // Of three the centre one taxies straight.
    const Flying three("ostler-bush");
    EXPECT_FALSE(trouble::fewEngines(*three.l.aircraft, *three.l.sortie, three.f, {0}).oneSide);
    EXPECT_FALSE(trouble::fewEngines(*three.l.aircraft, *three.l.sortie, three.f, {1}).oneSide);
}

TEST(FewEngines, TooHeavyToGoRoundSheIsToldByHowMuch) {
    const Flying now("lorimer-spring");
    Sortie high = *now.l.sortie; // a high field on a hot day
    high.flight.toElevation = Length::si(2900.0);
    high.day.oat = Temperature::of(38, units::celsius);
    const auto flown = flight::fly(*now.l.aircraft, high);
    const auto few = trouble::fewEngines(*now.l.aircraft, high, flown, {0});
    EXPECT_EQ(few.goesRound.colour(), watch::Colour::red);
    EXPECT_FALSE(few.commit);
    ASSERT_TRUE(few.shed) << few.goesRound.sentence();
    EXPECT_NEAR(few.climbsAt->si() + few.shed->si(), few.weight.si(), 1e-6);
    // What she cannot do is no act of her drill.
    const auto drill = trouble::drillOf(caseOf(now.l, now.f, now.f[Phase::landing].start), Emergency::fewEngines);
    EXPECT_TRUE(hasStep(drill, "round"));
    const trouble::Case heavy{*now.l.aircraft,
                              high,
                              flown,
                              trouble::momentAt(now.l.aircraft->notes, high, flown, flown[Phase::landing].start),
                              {0}};
    EXPECT_FALSE(hasStep(trouble::drillOf(heavy, Emergency::fewEngines), "round"));
    // At that weight she climbs half a metre a second, a little heavier she does not.
    trouble::RestSolver rest(*now.l.aircraft, high, {0}, trouble::DeadBlades::feathered, false);
    EXPECT_NEAR(rest.at(Length::si(2915.0), *few.climbsAt).rate.si(), 0.5, 0.1);
}

TEST(TroubleDrills, KindsOfPropellerAndEngineHaveTheirOwnOrder) {
    // Reversing: proved locked first; four engines, two dead.
    const auto mercer = Flying("mercer-frost").drill(Emergency::engineFails, Phase::cruise, {0, 1});
    expectOrder(mercer, {{"Reverse", "locked"}, {"Feathering", "feathered"}});
    EXPECT_GE(placeOf(mercer, "Cooling of the others: cowl flaps, No. 3, No. 4", "open"), 0);
    // Fixed: nothing to feather; a dead centre engine is told by its rpm.
    const auto ostler = Flying("ostler-bush").drill(Emergency::engineFails, Phase::climb, {1});
    EXPECT_EQ(placeOf(ostler, "Feather", "feather"), -1);
    EXPECT_GE(placeOf(ostler, "Which one", "centre: no yaw"), 0);
    // Two-position: coarse, and a glide on one engine.
    const auto thatcher = Flying("thatcher-lesson").drill(Emergency::engineFails);
    expectOrder(thatcher,
                {{"Glide", "82 mph"}, {"Propeller", "coarse"}, {"Fuel cock", "Right"}, {"Wobble pump", "by hand"}});
    EXPECT_GE(placeOf(thatcher, "Carb. air", "hot"), 0) << "its carburettor ices";
    EXPECT_EQ(placeOf(Flying("wheelwright-height").drill(Emergency::engineFails), "Turbo", "off") >= 0, true);
    // No electrics, no starter: nothing of them is named.
    const auto tinker = Flying("tinker-damp");
    for (const auto& e : emergencyNames)
        for (const auto& line : tinker.drill(e.emergency).lines) {
            EXPECT_EQ(line.what.find("Battery"), std::string::npos) << e.key;
            EXPECT_EQ(line.what.find("Generator"), std::string::npos) << e.key;
        }
    // A boat: no brakes, and over the bow.
    const auto boat = Flying("chandler-haven");
    EXPECT_EQ(placeOf(boat.drill(Emergency::engineFails, Phase::takeOff), "Brakes", ""), -1);
    EXPECT_GE(placeOf(boat.drill(Emergency::fireGround), "Out", "over the bow"), 0);
}

TEST(TroubleDrills, FiresAreFoughtByWhereTheyBurn) {
    // Intake fire: the starter stays in while the fuel goes away; a pool: the starter goes off before all else.
    const Flying twin("lorimer-spring");
    expectOrder(twin.drill(Emergency::fireStarting), {{"Keep cranking", "on"},
                                                      {"Mixture", "cut-off"},
                                                      {"Primer", "locked"},
                                                      {"Throttle", "open"},
                                                      {"Fuel cock", "off"},
                                                      {"Mesh", "off"},
                                                      {"Ignition", "off"}});
    const auto pool = twin.drill(Emergency::fireGround);
    EXPECT_NE(pool.lines.front().set.find("off"), std::string::npos);
    EXPECT_NE(pool.lines.front().what.find("Mesh"), std::string::npos);
    expectOrder(
        pool,
        {{"Fuel cock", "off"}, {"Ignition", "off"}, {"Fire bottle", "fired"}, {"Battery", "off"}, {"Out", "upwind"}});
    expectOrder(twin.drill(Emergency::fireAir), {{"Fuel cock", "off"},
                                                 {"Mixture", "cut-off"},
                                                 {"Feathering", "feathered"},
                                                 {"Throttle", "closed"},
                                                 {"Ignition", "off"},
                                                 {"Fire bottle", "fired"},
                                                 {"Then", "no restart"}});
    // A cartridge cannot be kept on; a swung engine has no starter.
    EXPECT_EQ(placeOf(Flying("collier-high").drill(Emergency::fireStarting), "Keep cranking", ""), -1);
    EXPECT_GE(placeOf(Flying("tinker-damp").drill(Emergency::fireStarting), "Stand clear", "propeller"), 0);
    EXPECT_GE(placeOf(Flying("tanner-winter").drill(Emergency::fireStarting), "starting air", "open"), 0)
        << "air keeps it turning";
}

TEST(TroubleDrills, TheSchoolThatThePilotChoosesIsFollowed) {
    auto l = test::loadDemo("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto order = [&] {
        const auto d = trouble::drillOf(caseOf(l, f, f[Phase::climb].start + 30), Emergency::fireAir);
        return std::pair{placeOf(d, "Mixture, Port", "cut-off"), placeOf(d, "Feathering, Port", "feathered")};
    };
    EXPECT_LT(order().first, order().second);
    l.sortie->choices["fire-air/stop-it"] = "feather, then cut-off";
    EXPECT_GT(order().first, order().second);
    const auto throttle = [&] {
        const auto d = trouble::drillOf(caseOf(l, f, f[Phase::climb].start + 30), Emergency::fireAir);
        return placeOf(d, "Throttle, Port", "open");
    };
    EXPECT_EQ(throttle(), -1);
    l.sortie->choices["fire-air/throttle"] = "open";
    EXPECT_GE(throttle(), 0);
}

TEST(TroubleDrills, WrittenOutAndReadAgainTheyAreTheSame) {
    for (const auto* type : {"lorimer-l4", "tinker-mk1", "mercer-m6", "chandler-b1"}) {
        const std::string path = test::dataPath(std::string("notes/") + type + ".toml");
        Problems problems;
        auto read = readNotesFile(path);
        ASSERT_TRUE(read.notes) << type;
        TypeNotes whole = *read.notes;
        cockpit::expand(whole, problems);
        auto root = document::parse(test::fileText(path), path, problems);
        ASSERT_TRUE(root && problems.empty());
        auto again = readNotes(cockpit::expanded(*root, whole), path);
        ASSERT_TRUE(again.notes) << type << ": " << again.problems.front().text();
        cockpit::expand(*again.notes, problems);
        EXPECT_TRUE(problems.empty()) << problems.front().text();
        for (const auto& [emergency, drill] : whole.trouble.drills) {
            const auto& other = again.notes->trouble.drills.at(emergency);
            ASSERT_EQ(other.steps.size(), drill.steps.size()) << type << " " << nameOf(emergency).key;
            for (std::size_t i = 0; i < drill.steps.size(); ++i) {
                EXPECT_EQ(other.steps[i].id, drill.steps[i].id);
                EXPECT_EQ(other.steps[i].set, drill.steps[i].set);
                EXPECT_EQ(other.steps[i].actions, drill.steps[i].actions);
                EXPECT_EQ(other.steps[i].memory, drill.steps[i].memory);
                EXPECT_EQ(other.steps[i].branch, drill.steps[i].branch);
                EXPECT_EQ(other.steps[i].origin, drill.steps[i].origin);
            }
        }
    }
}

TEST(TroubleDrills, AStepOfTheNotesTakesItsPlaceAndSaysWhoseItIs) {
    const auto d = Flying("mercer-frost").drill(Emergency::engineFails, Phase::cruise);
    const int blower = placeOf(d, "Cabin blower", "off if No. 2");
    ASSERT_GE(blower, 0);
    EXPECT_EQ(d.lines[static_cast<std::size_t>(blower)].origin, Origin::notes);
    EXPECT_GT(blower, placeOf(d, "Cowl flaps of", "") >= 0 ? 0 : -1);
    const int said = placeOf(d, "Confirm", "the engineer");
    ASSERT_GE(said, 0);
    EXPECT_EQ(d.lines[static_cast<std::size_t>(placeOf(d, "Feathering", "feathered"))].origin, Origin::practice);
}

namespace {
/// The twin's notes with one drill replaced by these acts.
Problems problemsOf(Emergency e, const std::string& acts, const std::string& type = "lorimer-l4") {
    const std::string path = test::dataPath("notes/" + type + ".toml");
    std::string text = test::fileText(path);
    const auto own = text.find("# When it goes wrong");
    text = text.substr(0, own) + "[trouble." + std::string(nameOf(e).key) + "]\nstep = [" + acts + "]\n";
    // Only these: the standard ones are taken away.
    auto plain = readNotes(text.substr(0, own), path);
    Problems problems;
    cockpit::expand(*plain.notes, problems);
    std::string without;
    for (const auto& s : plain.notes->trouble.drills.at(e).steps)
        without += (without.empty() ? "\"" : ", \"") + s.id + "\"";
    auto read = readNotes(text + "without = [" + without + "]\n", path);
    EXPECT_TRUE(read.notes) << read.problems.front().text();
    if (!read.notes)
        return read.problems;
    cockpit::expand(*read.notes, problems);
    EXPECT_TRUE(problems.empty()) << problems.front().text();
    return cockpit::auditEmergencies(*read.notes);
}
bool tells(const Problems& all, std::string_view rule) {
    return std::any_of(all.begin(), all.end(),
                       [&](const Problem& p) { return p.text().find(rule) != std::string::npos; });
}
} // namespace

TEST(TroubleAudit, EveryRuleFindsWhatItIsFor) {
    struct Bad {
        Emergency emergency;
        const char *rule, *acts;
    };
    const char* proved = R"({ id = "a", what = "A", do = [{ throttle = "closed", engines = ["failed"] }] }, )";
    const std::vector<Bad> all{
        {Emergency::engineFails, "power-before-rpm",
         R"({ id = "p", what = "P", do = [{ throttle = "{live-boost}", engines = ["live"] }, { propeller = "{live-rpm}", engines = ["live"] }] })"},
        {Emergency::engineFails, "power-before-rich",
         R"({ id = "p", what = "P", do = [{ throttle = "{live-boost}", engines = ["live"] }, { mixture = "rich", engines = ["live"] }] })"},
        {Emergency::engineFails, "not-proved",
         R"({ id = "f", what = "F", do = [{ feathering = "feathered", engines = ["failed"] }, { throttle = "closed", engines = ["failed"] }] })"},
        {Emergency::engineFails, "chosen-before-known",
         R"({ id = "p", what = "P", do = [{ throttle = "{live-boost}", engines = ["live"] }, { throttle = "closed", engines = ["failed"] }] })"},
        {Emergency::fewEngines, "full-flap-early",
         R"({ id = "p", what = "P", do = [{ wing-flap = "landing" }, { wheels = "down" }] })"},
        {Emergency::feather, "never-feathered",
         R"({ id = "f", what = "F", do = [{ mixture = "cut-off", engines = ["failed"] }] })"},
        {Emergency::feather, "ignition-before-feather",
         R"({ id = "f", what = "F", do = [{ ignition = "off", engines = ["failed"] }, { feathering = "feathered", engines = ["failed"] }] })"},
        {Emergency::restart, "ignition-before-turning",
         R"({ id = "r", what = "R", do = [{ ignition = "both", engines = ["failed"] }, { feathering = "normal", engines = ["failed"] }] })"},
        {Emergency::restart, "power-before-oil",
         R"({ id = "r", what = "R", do = [{ throttle = "{warm-boost}", engines = ["failed"] }, { until = "oil-pressure above 40 lbf/in²" }] })"},
        {Emergency::dive, "shut-in-dive", R"({ id = "d", what = "D", do = [{ throttle = "closed" }] })"},
        {Emergency::dive, "hot-air-late-in-dive",
         R"({ id = "d", what = "D", do = [{ throttle = "{dive-boost}" }, { carburettor-air = "hot" }] })"},
        {Emergency::fireStarting, "cranking-stopped",
         R"({ id = "s", what = "S", do = [{ mesh = "off" }, { mixture = "cut-off" }] })"},
        {Emergency::fireGround, "cranking-over-pool",
         R"({ id = "g", what = "G", do = [{ mixture = "cut-off" }, { mesh = "off" }] })"},
        {Emergency::fireGround, "bottle-before-fuel",
         R"({ id = "g", what = "G", do = [{ mesh = "off" }, { fire-bottle = "fired" }, { fuel = "off" }] })"},
        {Emergency::fireGround, "fire-fed",
         R"({ id = "g", what = "G", do = [{ mesh = "off" }, { ignition = "off" }] })"},
        {Emergency::fireAir, "bottle-before-fuel",
         R"({ id = "b", what = "B", do = [{ fire-bottle = "fired", engines = ["failed"] }, { fuel = "off", engines = ["failed"] }] })"},
        {Emergency::fireAir, "restart-after-fire",
         R"({ id = "b", what = "B", do = [{ fuel = "off", engines = ["failed"] }, { ignition = "both", engines = ["failed"] }] })"},
    };
    std::set<std::string_view> found{"reverse-not-locked"}; // the twin cannot reverse: below
    for (const auto& bad : all) {
        EXPECT_TRUE(tells(problemsOf(bad.emergency, bad.acts), bad.rule)) << bad.rule;
        found.insert(bad.rule);
    }
    EXPECT_TRUE(
        tells(problemsOf(Emergency::feather,
                         R"({ id = "f", what = "F", do = [{ feathering = "feathered", engines = ["failed"] }] })",
                         "mercer-m6"),
              "reverse-not-locked"));
    for (const auto& r : cockpit::emergencyRules()) {
        EXPECT_TRUE(found.contains(r.id)) << r.id << " has no example";
        EXPECT_GT(r.why.size(), 8u);
    }
    // And the right order is not found fault with.
    EXPECT_TRUE(
        problemsOf(
            Emergency::engineFails,
            std::string(proved) +
                R"({ id = "f", what = "F", do = [{ feathering = "feathered", engines = ["failed"] }, { ignition = "off", engines = ["failed"] }] })")
            .empty());
}

TEST(Automatics, TheHandKnowsWhatToDoOnEveryKindOfCockpit) {
    const auto byHand = [](const char* demo, std::string_view what) {
        for (const auto& a : trouble::automaticsOf(test::loaded(demo).aircraft->notes))
            if (a.what.find(what) != std::string::npos)
                return a.byHand;
        return std::string();
    };
    EXPECT_NE(byHand("farrier-summer", "Boost control").find("gauge allows"), std::string::npos);
    EXPECT_NE(byHand("lorimer-spring", "Electric propeller").find("hold for more or less"), std::string::npos);
    EXPECT_NE(byHand("mercer-frost", "Governor").find("throttle and speed"), std::string::npos);
    EXPECT_NE(byHand("lorimer-spring", "Booster pump").find("crossfeed"), std::string::npos);
    EXPECT_EQ(byHand("wheelwright-height", "Turbo"), "by hand, off") << "its notes say so";
    EXPECT_EQ(byHand("tinker-damp", "Governor"), "");
    EXPECT_EQ(byHand("sexton-meadow", "Boost control"), "");
    // What the notes say of a control goes before.
    TypeNotes own = test::lorimer().notes;
    for (auto& c : own.controls)
        if (c.acts == Acts::propeller)
            c.byHand = "toggle, by ear";
    const auto all = trouble::automaticsOf(own);
    EXPECT_EQ(std::count_if(all.begin(), all.end(), [](const auto& a) { return a.byHand == "toggle, by ear"; }), 1);
    EXPECT_EQ(std::count_if(all.begin(), all.end(), [](const auto& a) { return a.what == "Electric propeller"; }), 0);
}

TEST(StandardCautions, EveryTypeHasThemWhereTheActIsAndNoneTwice) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        const auto says = [&](Phase phase, std::string_view word) {
            std::vector<std::string> all = n.phase(phase).cautions;
            for (auto& c : cockpit::standardCautions(n, phase))
                all.push_back(c);
            return std::count_if(all.begin(), all.end(), [&](std::string c) {
                std::transform(c.begin(), c.end(), c.begin(),
                               [](unsigned char x) { return static_cast<char>(std::tolower(x)); });
                return c.find(word) != std::string::npos;
            });
        };
        EXPECT_GE(says(Phase::walkRound, "live"), 1) << name;
        EXPECT_GE(says(Phase::start, "fire guard"), 1) << name;
        EXPECT_EQ(says(Phase::letDown, "shock"), 1) << name;
        EXPECT_EQ(says(Phase::cruise, "ice in the carburettor"), n.engine.suctionCarburettor ? 1 : 0) << name;
        EXPECT_EQ(says(Phase::takeOff, "safe speed"), n.positions.size() > 1 ? 1 : 0) << name;
    }
}

TEST(TroubleNotes, SlipsAreToldWithTheirLine) {
    const std::string path = test::dataPath("notes/lorimer-l4.toml");
    const std::string text = test::fileText(path);
    const auto told = [&](const std::string& more, const std::string& what) {
        const auto read = readNotes(text.substr(0, text.find("# When it goes wrong")) + more, path);
        Problems problems = read.problems;
        if (read.notes) {
            TypeNotes whole = *read.notes;
            cockpit::expand(whole, problems);
        }
        for (const auto& p : problems)
            if (p.text().find(what) != std::string::npos)
                return p.line > 500;
        ADD_FAILURE() << what << (problems.empty() ? ": nothing told" : ": " + problems.front().text());
        return false;
    };
    EXPECT_TRUE(
        told("[trouble.engine-fails]\nstep = [{ id = \"x\", what = \"X\", set = \"{live-bost}\" }]\n", "live-boost"));
    EXPECT_TRUE(told("[trouble.engine-fails]\nwithout = [\"powr\"]\n", "power"));
    EXPECT_TRUE(told("[trouble.dive]\nrpm_for = \"20 s\"\n", "no rpm"));
    EXPECT_TRUE(told("[trouble.dive]\nrpm = 29000\n", "29000"));
    EXPECT_TRUE(told("[trouble.glide]\nratio = 85\n", "85"));
    EXPECT_TRUE(told("[trouble.feather]\nstep = [{ id = \"x\", what = \"X\", do = [{ feathering = \"feathred\" }] }]\n",
                     "feathred"));
    EXPECT_TRUE(told("[trouble.feather]\nstep = [{ id = \"x\", what = \"X\", do = [{ throttle = \"closed\", engines = "
                     "[\"dead\"] }] }]\n",
                     "dead"));
    EXPECT_TRUE(
        told("[[symptom]]\ncause = \"x\"\nact = \"y\"\nsigns = [\"oil-pressure fals\"]\n", "oil-pressure falls"));
    EXPECT_TRUE(told("[[symptom]]\ncause = \"x\"\nact = \"y\"\n", "no signs"));
    EXPECT_TRUE(told("[[symptom]]\ncause = \"x\"\nact = \"y\"\nsigns = [\"shake\"]\ndrill = \"fether\"\n",
                     "there is no drill"));
}

} // namespace amber
