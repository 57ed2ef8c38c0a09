// SPDX-License-Identifier: GPL-3.0-or-later
// What check finds in a drill: the cases that stood in the files of format 1, and one more of every rule, seeded.
#include "advice/drill_check.h"
#include "audit/audit.h"
#include "cockpit/migrate.h"
#include "reading/control_reader.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include <algorithm>
#include <set>

namespace {
using namespace amber;

bool finds(const Problems& problems, std::string_view rule) {
    return std::any_of(problems.begin(), problems.end(), [&](const Problem& p) {
        return p.text().find("(" + std::string(rule) + ")") != std::string::npos;
    });
}
std::shared_ptr<const powerplant::Aircraft> migrated(const std::string& type) {
    const auto path = test::dataPath("../tests/fixtures/format1/" + type + ".toml");
    Problems problems;
    const auto made = cockpit::migrate(test::fileText(path), path, problems);
    auto reading = readNotes(made->text, path);
    auto aircraft = powerplant::assemble(std::move(*reading.notes), problems);
    EXPECT_TRUE(aircraft) << (problems.empty() ? type : problems.front().text());
    return std::make_shared<const powerplant::Aircraft>(std::move(*aircraft));
}

TEST(Audit, FindsWhatWasWrongInTheFilesOfFormatOne) {
    const std::map<std::string_view, std::set<std::string>> wrong{
        {"hot-air-at-take-off", {"mercer-m6", "ostler-o3", "sexton-s1", "tanner-tn7"}},
        {"mixture-at-landing", {"chandler-b1", "collier-c2", "mercer-m6", "wheelwright-w2"}},
        {"high-gear-at-landing", {"chandler-b1", "tanner-tn7"}},
        {"go-round-rpm",
         {"chandler-b1", "collier-c2", "farrier-f5", "lorimer-l4", "mercer-m6", "tanner-tn7", "wheelwright-w2"}},
        {"hot-air-after-throttle",
         {"chandler-b1", "lorimer-l4", "mercer-m6", "ostler-o3", "tanner-tn7", "thatcher-t3"}},
        {"parked-after-stop", {"chandler-b1", "collier-c2", "farrier-f5", "lorimer-l4", "mercer-m6", "wheelwright-w2"}},
        {"dilution-after-stop", {"collier-c2", "lorimer-l4", "mercer-m6", "wheelwright-w2"}},
        {"dilution-then-running", {"tanner-tn7"}},
        {"coarse-at-reference", {"thatcher-t3"}},
    };
    std::map<std::string_view, std::set<std::string>> found;
    for (const auto& type : {"chandler-b1", "collier-c2", "farrier-f5", "lorimer-l4", "mercer-m6", "ostler-o3",
                             "sexton-s1", "tanner-tn7", "thatcher-t3", "tinker-mk1", "wheelwright-w2"}) {
        const auto problems = cockpit::audit(migrated(type)->notes);
        for (const auto& [rule, ignored] : wrong)
            if (finds(problems, rule))
                found[rule].insert(type);
    }
    for (const auto& [rule, in] : wrong)
        EXPECT_EQ(found[rule], in) << rule;
}

TEST(Audit, TheModelShowsABoostOnTooFewTurnsAndACoolantAtItsLimit) {
    EXPECT_TRUE(finds(advice::checkFlown(*migrated("ostler-o3")), "boost-on-low-rpm"))
        << "33 inHg on some 1,880 rpm, a fixed propeller";
    auto shut = *migrated("tanner-tn7");
    shut.notes.phases.at(Phase::climb).coolingFlap = 0.2;
    EXPECT_TRUE(finds(advice::checkFlown(shut), "cooling-margin")) << "the shutter at 20 % in the climb, of 60";
    EXPECT_FALSE(finds(advice::checkFlown(*migrated("lorimer-l4")), "cooling-margin"));
}

TEST(Audit, TheShippedFilesAreClean) {
    for (const auto& name : test::demoNames()) {
        const auto& a = *test::loaded(name).aircraft;
        const auto problems = cockpit::audit(a.notes);
        EXPECT_TRUE(problems.empty()) << name << ": " << (problems.empty() ? "" : problems.front().text());
        const auto flown = advice::checkFlown(a);
        EXPECT_TRUE(flown.empty()) << name << ": " << (flown.empty() ? "" : flown.front().text());
    }
}

/// A drill made wrong in one place.
struct Seed {
    const char* rule;
    const char* demo;
    std::function<void(TypeNotes&)> spoil;
};
std::vector<Step>& steps(TypeNotes& n, Phase phase) {
    return n.phases.at(phase).steps;
}
Step& at(TypeNotes& n, Phase phase, std::string_view id) {
    for (auto& s : steps(n, phase))
        if (s.id == id)
            return s;
    throw std::invalid_argument("no step " + std::string(id));
}
auto drop(Phase phase, std::string id) {
    return [=](TypeNotes& n) {
        at(n, phase, id);
        std::erase_if(steps(n, phase), [&](const Step& s) { return s.id == id; });
    };
}
/// Another act at the end of a step, or in its place.
auto also(Phase phase, std::string id, std::string control, std::string to) {
    return [=](TypeNotes& n) {
        Action a;
        a.control = control;
        a.to = notes::readTarget(to);
        Step& s = at(n, phase, id);
        s.actions.push_back(a);
        for (auto& school : s.schools)
            if (school.actions)
                school.actions->push_back(a);
    };
}
auto moved(Phase phase, std::string id, std::string behind) {
    return [=](TypeNotes& n) {
        Step s = at(n, phase, id);
        s.atEnd = false;
        std::erase_if(steps(n, phase), [&](const Step& o) { return o.id == id; });
        auto& all = steps(n, phase);
        const auto found = std::find_if(all.begin(), all.end(), [&](const Step& o) { return o.id == behind; });
        all.insert(found + 1, s);
    };
}
auto both(std::function<void(TypeNotes&)> a, std::function<void(TypeNotes&)> b) {
    return [=](TypeNotes& n) {
        a(n);
        b(n);
    };
}

class Seeded : public testing::TestWithParam<Seed> {};

TEST_P(Seeded, IsFoundAndNothingWasThereBefore) {
    TypeNotes n = test::loaded(GetParam().demo).aircraft->notes;
    ASSERT_FALSE(finds(cockpit::audit(n), GetParam().rule));
    GetParam().spoil(n);
    const auto problems = cockpit::audit(n);
    EXPECT_TRUE(finds(problems, GetParam().rule));
    for (const auto& p : problems) {
        EXPECT_GT(p.line + 1, 0);
        EXPECT_FALSE(p.remedy.empty());
        for (const auto& rule : cockpit::auditRules())
            if (p.what.find("(" + std::string(rule.id) + ")") != std::string::npos)
                EXPECT_NE(p.what.find(rule.why.substr(0, rule.why.size() - 1)), std::string::npos)
                    << p.what << ": says why";
    }
}

INSTANTIATE_TEST_SUITE_P(
    Drills, Seeded,
    testing::Values(
        Seed{"hot-air-at-start", "lorimer-spring", also(Phase::start, "carburettor-cold", "carburettor-air", "hot")},
        Seed{"spark-at-start", "thatcher-lesson", drop(Phase::start, "spark")},
        Seed{"turbo-at-start", "wheelwright-height", also(Phase::start, "turbo", "turbo", "in")},
        Seed{"high-gear-at-start", "lorimer-spring", also(Phase::start, "blower", "blower", "high")},
        Seed{"fuel-at-start", "farrier-summer", drop(Phase::start, "fuel")},
        Seed{"throttle-at-start", "farrier-summer", also(Phase::start, "throttle-cracked", "throttle", "open")},
        Seed{"mixture-at-start", "collier-high", also(Phase::start, "mixture", "mixture", "rich")},
        Seed{"mesh-before-wheel", "lorimer-spring", drop(Phase::start, "energise")},
        Seed{"starter-left-on", "farrier-summer", drop(Phase::start, "fires")},
        Seed{"coil-left-on", "lorimer-spring", drop(Phase::start, "fires")},
        Seed{"air-left-open", "tanner-winter", drop(Phase::start, "fires")},
        Seed{"cut-off-after-start", "lorimer-spring", drop(Phase::start, "fires")},
        Seed{"oil-pressure-in-time", "lorimer-spring", drop(Phase::start, "first-rpm")},
        Seed{"live-magneto", "tinker-damp",
             both(also(Phase::start, "fuel", "ignition", "both"), drop(Phase::walkRound, "turn"))},
        Seed{"brakes-at-start", "farrier-summer", also(Phase::start, "brakes", "brakes", "off")},
        Seed{"coarse-at-reference", "thatcher-lesson",
             both(drop(Phase::start, "propeller-fine"), drop(Phase::runUp, "propeller"))},
        Seed{"gear-at-reference", "farrier-summer", also(Phase::runUp, "blower", "blower", "high")},
        Seed{"hot-air-at-reference", "lorimer-spring", also(Phase::runUp, "air", "carburettor-air", "hot")},
        Seed{"turbo-at-magnetos", "wheelwright-height", also(Phase::runUp, "reference", "turbo", "in")},
        Seed{"magnetos-left", "lorimer-spring", also(Phase::runUp, "magnetos", "ignition", "left")},
        Seed{"feathering-left", "lorimer-spring", also(Phase::runUp, "feathering-touch", "feathering", "feathered")},
        Seed{"reverse-left", "mercer-frost", also(Phase::runUp, "reverse-touch", "reversing", "reverse")},
        Seed{"hot-air-at-take-off", "lorimer-spring", also(Phase::takeOff, "air", "carburettor-air", "hot")},
        Seed{"mixture-at-take-off", "farrier-summer", also(Phase::takeOff, "mixture", "mixture", "weak")},
        Seed{"coarse-at-take-off", "lorimer-spring", also(Phase::takeOff, "propeller", "propeller", "coarse")},
        Seed{"high-gear-at-take-off", "farrier-summer", also(Phase::takeOff, "blower", "blower", "high")},
        Seed{"tank-at-take-off", "lorimer-spring", also(Phase::takeOff, "fuel", "fuel", "rear")},
        Seed{"pump-at-take-off", "lorimer-spring", also(Phase::takeOff, "fuel", "pump", "off")},
        Seed{"locked-at-take-off", "lorimer-spring", drop(Phase::walkRound, "locks")},
        Seed{"caged-at-take-off", "lorimer-spring", drop(Phase::start, "gyros")},
        Seed{"spark-at-take-off", "thatcher-lesson", drop(Phase::start, "spark-advanced")},
        Seed{"primer-at-take-off", "lorimer-spring", drop(Phase::start, "primer-locked")},
        Seed{"cart-at-take-off", "lorimer-spring", drop(Phase::start, "cart-away")},
        Seed{"generator-at-take-off", "lorimer-spring", drop(Phase::start, "generator")},
        Seed{"flap-at-take-off", "lorimer-spring", drop(Phase::takeOff, "wing-flap")},
        Seed{"cooling-at-take-off", "lorimer-spring", also(Phase::takeOff, "cooling", "cowl", "shut")},
        Seed{"nobody-opens", "lorimer-spring", drop(Phase::takeOff, "throttle")},
        Seed{"rpm-before-boost", "lorimer-spring", also(Phase::takeOff, "lift-off", "propeller", "{climb-rpm}")},
        Seed{"wheels-left-down", "lorimer-spring", drop(Phase::takeOff, "wheels")},
        Seed{"gear-without-throttle", "lorimer-spring", also(Phase::climb, "throttle", "blower", "high")},
        Seed{"hot-air-in-climb", "lorimer-spring", also(Phase::climb, "mixture", "carburettor-air", "hot")},
        Seed{"cooling-in-climb", "lorimer-spring", also(Phase::climb, "cooling", "cowl", "shut")},
        Seed{"ignition-in-flight", "lorimer-spring", also(Phase::cruise, "mixture", "ignition", "left")},
        Seed{"fuel-in-flight", "lorimer-spring", also(Phase::cruise, "fuel", "fuel", "off")},
        Seed{"cut-off-in-flight", "lorimer-spring", also(Phase::letDown, "mixture", "mixture", "cut-off")},
        Seed{"hot-air-after-throttle", "lorimer-spring", moved(Phase::letDown, "air", "throttle")},
        Seed{"turbo-after-throttle", "wheelwright-height", moved(Phase::letDown, "turbo", "throttle")},
        Seed{"mixture-at-landing", "mercer-frost",
             both(drop(Phase::letDown, "mixture"), drop(Phase::landing, "mixture"))},
        Seed{"high-gear-at-landing", "lorimer-spring", drop(Phase::letDown, "blower")},
        Seed{"tank-at-landing", "lorimer-spring", drop(Phase::landing, "fuel")},
        Seed{"pump-at-landing", "lorimer-spring", drop(Phase::landing, "fuel")},
        Seed{"wheels-at-landing", "lorimer-spring", drop(Phase::landing, "wheels")},
        Seed{"hot-air-at-landing", "lorimer-spring", drop(Phase::landing, "air")},
        Seed{"no-go-round", "lorimer-spring", drop(Phase::landing, "go-round")},
        Seed{"stopped-hot", "lorimer-spring", both(drop(Phase::stop, "cool"), drop(Phase::stop, "scavenge"))},
        Seed{"parked-after-stop", "collier-high", moved(Phase::stop, "propeller", "cut")},
        Seed{"dilution-after-stop", "lorimer-spring", moved(Phase::stop, "dilution", "cut")},
        Seed{"dilution-then-running", "lorimer-spring", moved(Phase::stop, "scavenge", "dilution")},
        Seed{"ignition-left-on", "lorimer-spring", drop(Phase::stop, "off")},
        Seed{"fuel-left-on", "lorimer-spring", drop(Phase::stop, "off")},
        Seed{"battery-left-on", "lorimer-spring", drop(Phase::stop, "off")},
        Seed{"locks-left-out", "lorimer-spring", drop(Phase::stop, "locks")},
        Seed{"dilution-left-on", "lorimer-spring", drop(Phase::stop, "dilution-off")}),
    [](const auto& given) {
        std::string name = given.param.rule;
        std::replace(name.begin(), name.end(), '-', '_');
        return name;
    });

TEST(Audit, OnePairOfHandsCannotHoldThreeThings) {
    TypeNotes n = test::loaded("farrier-summer").aircraft->notes;
    Step& s = at(n, Phase::start, "starter");
    Action third;
    third.control = "primer";
    third.to = notes::readTarget("unlocked");
    s.actions.push_back(third);
    EXPECT_TRUE(finds(cockpit::audit(n), "three-hands-starter")) << "coil and starter held, and the primer worked";
    n.crew = {"pilot", "engineer"};
    for (auto& c : n.controls)
        if (c.acts == Acts::primer)
            c.who = "engineer";
    EXPECT_FALSE(finds(cockpit::audit(n), "three-hands-starter")) << "with a second person it is done";
    n.crew = {"pilot"};
    EXPECT_TRUE(finds(cockpit::audit(n), "who-is-not-aboard-primer"));
}

TEST(Audit, AControlThatNobodySetsIsNamed) {
    TypeNotes n = test::loaded("lorimer-spring").aircraft->notes;
    Control c;
    c.id = "heater";
    c.name = "Cabin heater";
    c.acts = Acts::oilCooler;
    c.each = false;
    c.positions = {{"shut", "shut"}, {"open", "open"}};
    n.controls.push_back(c);
    EXPECT_TRUE(finds(cockpit::audit(n), "nobody-sets-heater"));
}

TEST(Audit, EveryRuleThatIsSaidHasItsReason) {
    std::set<std::string_view> ids;
    for (const auto& r : cockpit::auditRules()) {
        EXPECT_TRUE(ids.insert(r.id).second) << r.id;
        EXPECT_GT(r.why.size(), 8u) << r.id;
    }
    EXPECT_GT(ids.size(), 70u);
}
} // namespace
