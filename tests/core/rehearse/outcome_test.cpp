// SPDX-License-Identifier: GPL-3.0-or-later
// What a rehearsal came to, judged before what was done: aims, the ground, the chain of why, and one act put right.
#include "cockpit/controls.h"
#include "rehearse/mend.h"
#include "rehearse/session.h"
#include "test_data.h"
#include "thorough.h"
#include "watch/start_counts.h"
#include <algorithm>
#include <cmath>

namespace {
using namespace amber;
using rehearse::Act;
using rehearse::Root;
using watch::Aim;

/// One demo, its plan, and the careful hand's acts on its day and in air without ice.
struct Day {
    const flight::LoadedSortie& loaded;
    flight::Flown plan;
    hand::HandRun reference, hand;
    [[nodiscard]] const TypeNotes& notes() const { return loaded.aircraft->notes; }
    [[nodiscard]] std::vector<Act> acts() const { return rehearse::actsOf(hand); }
};
const Day& day(const std::string& name) {
    static std::map<std::string, std::unique_ptr<Day>> all;
    auto& one = all[name];
    if (!one) {
        const auto& l = test::loaded(name);
        auto plan = flight::fly(*l.aircraft, *l.sortie);
        auto reference = hand::doDrill(*l.aircraft, *l.sortie, plan, hand::byThePlansClock);
        auto hand = hand::doDrill(*l.aircraft, *l.sortie, plan, hand::asTheDayIs);
        one = std::make_unique<Day>(Day{l, std::move(plan), std::move(reference), std::move(hand)});
    }
    return *one;
}
std::unique_ptr<rehearse::Rehearsal> flown(const Day& d, const std::vector<Act>& acts, double until = 0.0,
                                           rehearse::Setup setup = {}) {
    auto r = std::make_unique<rehearse::Rehearsal>(*d.loaded.aircraft, *d.loaded.sortie, d.plan, std::move(setup));
    r->script(acts);
    r->advance(until > 0 ? static_cast<rehearse::Milliseconds>(until * 1000.0) : d.hand.state.now + 60'000);
    return r;
}
std::size_t controlOf(const TypeNotes& n, Acts acts) {
    return static_cast<std::size_t>(cockpit::acting(n.controls, acts) - n.controls.data());
}
std::string text(const rehearse::Debrief& d, const TypeNotes& n) {
    std::string out;
    for (const auto& line : d.sentences(n))
        out += line + "\n";
    return out;
}
/// The first moment at which a phase begins, ms.
rehearse::Milliseconds begins(const std::vector<Act>& acts, Phase phase) {
    for (const auto& a : acts)
        if (a.kind == Act::Kind::phase && a.phase == phase)
            return a.at;
    return 0;
}

// ---- the ground

TEST(Ground, WithoutHeatInIcyAirSheComesDownOnItAndTheDebriefSaysWhyAndWhatWouldHaveHeldHerUp) {
    const auto& d = day("tinker-damp");
    auto acts = rehearse::actsOf(d.reference); // a hand in air without ice: it never takes heat
    const auto r = flown(d, acts);
    ASSERT_TRUE(r->over());
    EXPECT_EQ(r->over()->by, rehearse::OverBy::hitGround);
    const double field = d.loaded.sortie->day.elevation.si();
    EXPECT_NEAR(r->state().height, field, 0.5) << "its field and its goal are one";
    EXPECT_EQ(r->state().ias, 0.0);
    const auto now = r->now();
    r->advance(60'000);
    EXPECT_EQ(r->now(), now) << "no time goes on after that";

    auto debrief = rehearse::debrief(*r, d.reference);
    ASSERT_FALSE(debrief.unmet.empty());
    EXPECT_EQ(debrief.unmet.front().result.aim, Aim::clearOfGround);
    EXPECT_EQ(debrief.unmet.front().root, Root::ice);
    EXPECT_GT(r->stories().front().ice, 0.3) << "a third of its air and more";
    EXPECT_FALSE(debrief.nothingToMend());
    const auto& n = d.notes();
    EXPECT_NE(text(debrief, n).find("heat was never used"), std::string::npos) << text(debrief, n);
    rehearse::mend(*r, d.reference, debrief);
    ASSERT_FALSE(debrief.mended.empty()) << text(debrief, n);
    EXPECT_TRUE(debrief.mended.front().reaches);
    EXPECT_NE(debrief.mended.front().act.find(n.controls[controlOf(n, Acts::carburettorAir)].name), std::string::npos)
        << debrief.mended.front().act;
}

TEST(Ground, NobodyIsLiftedByBeginningAPhaseNorLanded) {
    const auto& d = day("farrier-summer");
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = Phase::takeOff;
    rehearse::Rehearsal standing(*d.loaded.aircraft, *d.loaded.sortie, d.plan, setup);
    Act climb;
    climb.kind = Act::Kind::phase;
    climb.phase = Phase::climb;
    standing.act(climb);
    standing.advance(20'000);
    EXPECT_NEAR(standing.state().height, d.loaded.sortie->day.elevation.si(), 1e-6);
    EXPECT_EQ(standing.state().ias, 0.0);
    setup.from = Phase::cruise;
    rehearse::Rehearsal flying(*d.loaded.aircraft, *d.loaded.sortie, d.plan, setup);
    const double height = flying.state().height;
    Act stop = climb;
    stop.phase = Phase::stop;
    flying.act(stop);
    flying.advance(10'000);
    EXPECT_NEAR(flying.state().height, height, 60.0);
    EXPECT_GT(flying.state().ias, 40.0) << "it does not taxi at " << height << " m";
}

TEST(Ground, ALandingBegunFarFromTheFieldIsNotOnIt) {
    const auto& d = day("farrier-summer");
    auto acts = d.acts();
    // Straight from the climb to the landing: some 25 of 200 km and more are flown.
    const auto cruise = begins(acts, Phase::cruise);
    std::erase_if(acts, [&](const Act& a) { return a.at >= cruise; });
    Act land;
    land.kind = Act::Kind::phase;
    land.phase = Phase::landing;
    land.at = cruise + 1'000;
    acts.push_back(land);
    Act idle;
    idle.control = controlOf(d.notes(), Acts::throttle);
    idle.to.kind = Target::Kind::position;
    idle.to.word = "closed";
    idle.at = cruise + 2'000;
    acts.push_back(idle);
    const auto r = flown(d, acts, static_cast<double>(cruise) / 1000.0 + 1800.0);
    const auto all = rehearse::unmet(*r, true);
    ASSERT_FALSE(all.empty());
    EXPECT_TRUE(all.front().result.aim == Aim::lands || all.front().result.aim == Aim::clearOfGround)
        << all.front().sentence();
}

// ---- a careful hand is praised, on its day and in ice

class CarefulOutcome : public testing::TestWithParam<std::string> {};
TEST_P(CarefulOutcome, MeetsEveryAimAndThereIsNothingToMend) {
    const auto& d = day(GetParam());
    const auto r = flown(d, d.acts());
    auto debrief = rehearse::debrief(*r, d.reference);
    EXPECT_FALSE(r->over());
    for (const auto& u : debrief.unmet)
        ADD_FAILURE() << u.sentence();
    EXPECT_GE(debrief.aimsMet, 10u) << "an engine at least: started, warm, off, up, down, cooled, stopped";
    EXPECT_TRUE(debrief.nothingToMend()) << text(debrief, d.notes());
    for (const auto& s : r->stories()) {
        EXPECT_EQ(s.kicks, 0);
        EXPECT_TRUE(std::isnan(s.fireAt));
        EXPECT_TRUE(std::isnan(s.lockedAt));
        EXPECT_LT(s.pooled, 0.01) << "kg: its own drill floods nothing";
    }
}
INSTANTIATE_TEST_SUITE_P(Demos, CarefulOutcome,
                         testing::ValuesIn(test::thorough() ? test::demoNames()
                                                            : std::vector<std::string>{"tinker-damp", "tanner-winter",
                                                                                       "collier-high"}),
                         [](const auto& info) {
                             std::string name = info.param;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

// ---- starts

/// The Thatcher's acts up to a minute after the start, with another dose.
std::vector<Act> dosed(const Day& d, double strokes) {
    auto acts = d.acts();
    const auto end = begins(acts, Phase::warmUp);
    std::erase_if(acts, [&](const Act& a) { return a.at > end; });
    for (auto& a : acts)
        if (a.strokes > 0) {
            a.to.si = a.to.si * strokes / a.strokes;
            a.strokes = strokes;
        }
    return acts;
}

TEST(StartOutcome, OneStrokeForFiveNeverFiresAndIsNotPraised) {
    const auto& d = day("thatcher-lesson");
    const auto acts = dosed(d, 1);
    const auto r = flown(d, acts, static_cast<double>(acts.back().at) / 1000.0 + 60.0);
    EXPECT_FALSE(r->state().engines[0].firing);
    auto debrief = rehearse::debrief(*r, d.reference);
    ASSERT_FALSE(debrief.unmet.empty());
    EXPECT_EQ(debrief.unmet.front().result.aim, Aim::starts);
    EXPECT_EQ(debrief.unmet.front().root, Root::dose);
    const auto& story = r->stories().front();
    EXPECT_LT(story.leanest, 0.050) << "leaner than gasoline's lower limit of inflammability";
    EXPECT_GT(story.fireLow, 1.0);
    EXPECT_FALSE(debrief.nothingToMend());
    EXPECT_NE(debrief.unmet.front().sentence().find("1 stroke where"), std::string::npos)
        << debrief.unmet.front().sentence();
    rehearse::mend(*r, d.reference, debrief);
    ASSERT_FALSE(debrief.mended.empty());
    EXPECT_TRUE(debrief.mended.front().reaches) << debrief.mended.front().act;
}

TEST(StartOutcome, ThreeTimesTheDoseIsFloodedAndTheCowlIsWet) {
    const auto& d = day("thatcher-lesson");
    const auto acts = dosed(d, 14);
    const auto r = flown(d, acts, static_cast<double>(acts.back().at) / 1000.0 + 60.0);
    EXPECT_FALSE(r->state().engines[0].firing);
    const auto debrief = rehearse::debrief(*r, d.reference);
    ASSERT_FALSE(debrief.unmet.empty());
    EXPECT_EQ(debrief.unmet.front().root, Root::dose);
    EXPECT_NE(debrief.unmet.front().sentence().find("flooded"), std::string::npos) << debrief.unmet.front().sentence();
    EXPECT_GT(r->stories().front().richest, 0.12);
    // Each act was done in its turn, and yet: by how much is told.
    EXPECT_TRUE(std::any_of(debrief.acts.begin(), debrief.acts.end(), [](const rehearse::DrillAct& a) {
        return a.done == rehearse::DrillAct::Done::wrong && a.by.starts_with("14 for ");
    }));
}

TEST(StartOutcome, WhoPrimesNothingAndEndsIsToldThatItNeverRan) {
    const auto& d = day("thatcher-lesson");
    auto acts = d.acts();
    const auto from = begins(acts, Phase::start);
    std::erase_if(acts, [&](const Act& a) { return a.at > from; });
    const auto r = flown(d, acts, static_cast<double>(from) / 1000.0 + 300.0);
    const auto debrief = rehearse::debrief(*r, d.reference);
    ASSERT_FALSE(debrief.unmet.empty());
    EXPECT_EQ(debrief.unmet.front().root, Root::noTry);
    EXPECT_GT(std::count_if(debrief.acts.begin(), debrief.acts.end(),
                            [](const rehearse::DrillAct& a) {
                                return a.phase == Phase::start && a.done == rehearse::DrillAct::Done::leftOut;
                            }),
              5)
        << "after five minutes each act of the start was due, whenever the plan has its turn";
}

TEST(StartOutcome, ASparkLeftAdvancedKicksBackAndTheEngineNeverRuns) {
    const auto& d = day("thatcher-lesson");
    auto acts = d.acts();
    const auto spark = controlOf(d.notes(), Acts::spark);
    std::erase_if(acts, [&](const Act& a) { return a.kind == Act::Kind::control && a.control == spark; });
    const auto end = begins(acts, Phase::warmUp);
    const auto r = flown(d, acts, static_cast<double>(end) / 1000.0 + 30.0);
    EXPECT_GE(r->stories().front().kicks, 1);
    const auto all = rehearse::unmet(*r, true);
    ASSERT_FALSE(all.empty());
    EXPECT_EQ(all.front().root, Root::spark) << all.front().sentence();
}

TEST(StartOutcome, BladesPulledWithTheIgnitionOnEndTheRehearsal) {
    const auto& d = day("tinker-damp");
    auto acts = d.acts();
    const auto magnetos = controlOf(d.notes(), Acts::ignition);
    Act live;
    live.control = magnetos;
    live.to.kind = Target::Kind::position;
    live.to.word = "both";
    live.at = begins(acts, Phase::start) + 100;
    acts.insert(
        std::upper_bound(acts.begin(), acts.end(), live, [](const Act& a, const Act& b) { return a.at < b.at; }), live);
    const auto r = flown(d, acts);
    ASSERT_TRUE(r->over());
    EXPECT_EQ(r->over()->by, rehearse::OverBy::liveBlades);
    EXPECT_NE(text(rehearse::debrief(*r, d.reference), d.notes()).find("ignition on"), std::string::npos);
}

TEST(StartOutcome, APumpOnOpenJetsFloodsAnEngineThatStands) {
    const auto& d = day("lorimer-spring");
    auto acts = d.acts();
    const auto end = begins(acts, Phase::warmUp);
    std::erase_if(acts, [&](const Act& a) { return a.at > end; });
    // Rich from the beginning, as is usual with a float: here the pump fills it.
    const auto mixture = controlOf(d.notes(), Acts::mixture);
    for (auto& a : acts)
        if (a.kind == Act::Kind::control && a.control == mixture && a.to.word == "cut-off")
            a.to.word = "rich";
    const auto r = flown(d, acts, static_cast<double>(acts.back().at) / 1000.0 + 30.0);
    double most = 0.0;
    for (const auto& s : r->stories())
        most = std::max(most, s.richest);
    EXPECT_GT(most, 0.14) << "richer than burns";
    const auto sound = flown(d, d.acts(), static_cast<double>(acts.back().at) / 1000.0 + 30.0);
    for (const auto& s : sound->stories())
        EXPECT_LT(s.richest, 0.14);
}

// ---- in the air

TEST(AirOutcome, AThrottleShutWithFlapsOpenShockCoolsAndItIsToldWithItsRate) {
    const auto& d = day("collier-high");
    auto acts = d.acts();
    Act shut;
    shut.control = controlOf(d.notes(), Acts::throttle);
    shut.to.kind = Target::Kind::position;
    shut.to.word = "closed";
    shut.at = begins(acts, Phase::cruise) + 600'000;
    Act open = shut;
    open.control = controlOf(d.notes(), Acts::coolingFlap);
    open.to = {};
    open.share = 1.0;
    std::erase_if(acts, [&](const Act& a) { return a.at >= shut.at; });
    acts.push_back(shut);
    acts.push_back(open);
    const auto r = flown(d, acts, static_cast<double>(shut.at) / 1000.0 + 150.0);
    const auto all = rehearse::unmet(*r, true);
    const auto cools =
        std::find_if(all.begin(), all.end(), [](const rehearse::Unmet& u) { return u.result.aim == Aim::coolsSlowly; });
    ASSERT_NE(cools, all.end());
    EXPECT_EQ(cools->root, Root::cooling);
    EXPECT_NE(cools->sentence().find("in a minute"), std::string::npos) << cools->sentence();
    EXPECT_EQ(cools->result.verdict.colour(), watch::Colour::red);
}

TEST(AirOutcome, ATankRunDryStopsItAndIsNamed) {
    const auto& d = day("collier-high");
    auto acts = d.acts();
    const auto cock = controlOf(d.notes(), Acts::fuel);
    const auto climb = begins(acts, Phase::takeOff);
    std::erase_if(acts, [&](const Act& a) {
        return a.kind == Act::Kind::control && a.control == cock && a.at > climb && a.to.word != "off";
    });
    auto l = test::loadDemo("collier-high");
    for (const auto& tank : l.aircraft->notes.fuel.tanks)
        if (tank.id == d.notes().fuel.takeOffTank)
            l.sortie->contents[tank.id] = Volume::si(0.35 * tank.usable.si());
    const auto plan = flight::fly(*l.aircraft, *l.sortie);
    rehearse::Rehearsal r(*l.aircraft, *l.sortie, plan, {});
    r.script(acts);
    r.advance(d.hand.state.now);
    const auto all = rehearse::unmet(r, true);
    ASSERT_FALSE(all.empty());
    EXPECT_TRUE(std::any_of(all.begin(), all.end(), [](const rehearse::Unmet& u) { return u.root == Root::tank; }))
        << all.front().sentence();
}

TEST(AirOutcome, AnEngineDeadByTheSetUpIsTheFaultsAndNoHands) {
    const auto& d = day("farrier-summer");
    rehearse::Setup setup;
    setup.ice = false;
    setup.traps = {rehearse::readTrap("dead@climb+60", d.notes()).value()};
    const auto r = flown(d, rehearse::actsOf(d.reference), 0.0, setup);
    ASSERT_TRUE(r->over()) << "a single engine, and nobody lands it";
    const auto all = rehearse::unmet(*r, true);
    ASSERT_FALSE(all.empty());
    EXPECT_EQ(all.front().root, Root::fault) << all.front().sentence();
    EXPECT_GE(r->state().height,
              std::min(d.loaded.sortie->day.elevation.si(), d.loaded.sortie->flight.toElevation.si()) - 0.5);
}

// ---- branches

TEST(Branch, WithoutAChangeItIsTheSameInEveryByte) {
    const auto& d = day("tinker-damp");
    const auto whole = flown(d, d.acts());
    const auto half = flown(d, d.acts(), static_cast<double>(d.hand.state.now) / 2000.0);
    for (const rehearse::Milliseconds at : {0, 300'000, 741'300, 1'900'000}) {
        const auto branch = half->branchAt(at);
        EXPECT_EQ(branch->now(), at);
        branch->advance(whole->now() - at);
        EXPECT_TRUE(branch->state() == whole->state()) << at;
        EXPECT_EQ(branch->acts().size(), whole->acts().size());
        EXPECT_EQ(branch->trace().size(), whole->trace().size());
        EXPECT_EQ(branch->findings().size(), whole->findings().size());
        EXPECT_EQ(branch->branchAt(0)->now(), branch->earliest()) << "a branch begins where it was taken up";
        EXPECT_LE(branch->earliest(), at);
    }
}

// ---- who is led

TEST(LedOutcome, FloodedItIsClearedAndStartsAndNoDoseIsGivenTwice) {
    const auto& l = test::loaded("tinker-damp");
    rehearse::Session s(l.aircraft, *l.sortie, day("tinker-damp").plan, {}, rehearse::Way::led,
                        std::make_shared<hand::HandRun>(day("tinker-damp").reference));
    s.setSpeed(60);
    const auto primer = controlOf(s.aircraft().notes, Acts::primer);
    bool over = false, turned = false;
    double asked = 0.0;
    for (int i = 0; i < 200'000 && s.rehearsal().phase() <= Phase::start; ++i) {
        const auto* next = s.guide().next();
        ASSERT_NE(next, nullptr);
        const bool primes = std::any_of(next->puts.begin(), next->puts.end(), [&](const hand::Put& p) {
            return p.control == primer && p.to.position.empty();
        });
        if (primes && !over) {
            over = true; // three times the dose, by a hand that does not count
            Act act = rehearse::actOf(next->puts.front());
            act.engine = -1;
            act.strokes *= 3.0;
            act.to.si *= 3.0;
            s.put(act, {0});
            s.putAsPlanned(primer, {0});
            s.putAsPlanned(primer, {0});
            EXPECT_EQ(std::count_if(s.rehearsal().acts().begin(), s.rehearsal().acts().end(),
                                    [&](const Act& a) { return a.control == primer && a.strokes > 0; }),
                      1)
                << "what lies in it is not given again";
            continue;
        }
        if (primes && s.guide().due() && !s.guide().waits())
            asked += 1.0;
        turned = turned || next->why.find("flooded") != std::string::npos;
        if (s.guide().due() && !s.guide().waits())
            s.doNext();
        else
            s.live(0.25);
        if (s.rehearsal().state().engines[0].firing)
            break;
    }
    EXPECT_TRUE(turned) << "clearing is asked for";
    EXPECT_EQ(asked, 0.0) << "and no dose";
    EXPECT_TRUE(s.rehearsal().state().engines[0].firing);
}

TEST(LedOutcome, HeatIsAskedForInIcyAirAndWithoutItTheHeightIsToldNotToCome) {
    const auto& l = test::loaded("tinker-damp");
    rehearse::Setup setup;
    setup.from = Phase::climb;
    rehearse::Session s(l.aircraft, *l.sortie, day("tinker-damp").plan, setup, rehearse::Way::led,
                        std::make_shared<hand::HandRun>(day("tinker-damp").reference));
    s.setSpeed(60);
    bool heat = false;
    std::string told;
    for (int i = 0; i < 20'000 && told.empty() && !s.rehearsal().over(); ++i) {
        if (const auto* next = s.guide().next(); next && next->ofDay) {
            heat = heat || next->puts.front().to.position == "hot";
            // It is not heard: time goes on by hand.
            Act nothing = rehearse::actOf(next->puts.front());
            nothing.to.word = "cold";
            s.put(nothing, {0});
            rehearse::Rehearsal& r = const_cast<rehearse::Rehearsal&>(s.rehearsal());
            for (int step = 0; step < 10; ++step) {
                r.advance(100);
                const_cast<rehearse::Guide&>(s.guide()).follow(r);
            }
        } else if (!s.guide().due() || s.guide().waits() || !s.doNext()) {
            s.live(0.25);
        }
        told = s.guide().willNotCome();
    }
    EXPECT_TRUE(heat) << "asked for as the drill's acts are";
    EXPECT_NE(told.find("will not come"), std::string::npos);
    EXPECT_NE(told.find("ice"), std::string::npos) << told;
    const auto at = s.rehearsal().now();
    s.toNextAct({});
    EXPECT_EQ(s.rehearsal().now(), at) << "and nothing is waited for in vain";
    EXPECT_LT(s.rehearsal().now(), 3'600'000) << "an hour, not six";
}

// ---- the log

TEST(PrimeVerdict, IsAmberPastWhatFiresAndUnderIt) {
    using watch::Colour;
    EXPECT_EQ(watch::judgePrime(16, 5, "strokes").colour(), Colour::amber);
    EXPECT_EQ(watch::judgePrime(1, 5, "strokes").colour(), Colour::amber);
    for (const double fires : {4.0, 5.0, 8.0}) // 5 × 0.67 … 5 × 1.87
        EXPECT_EQ(watch::judgePrime(fires, 5, "strokes").colour(), Colour::normal) << fires;
    EXPECT_EQ(watch::judgePrime(2, 0, "strokes").colour(), Colour::amber) << "a hot engine primed is flooded";
    EXPECT_EQ(watch::judgePrime(0, 0, "strokes").colour(), Colour::normal);
}
} // namespace
