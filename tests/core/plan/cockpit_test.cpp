// SPDX-License-Identifier: GPL-3.0-or-later
// The cockpit: controls, acts, the standard drill beneath the notes, and the state that is carried through it.
#include "audit/audit.h"
#include "cockpit/migrate.h"
#include "cockpit/written.h"
#include "drills/drill.h"
#include "drills/state.h"
#include "files/document.h"
#include "notes/standard_schools.h"
#include "plan/plan.h"
#include "reading/control_reader.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;

const std::vector<std::string>& types() {
    static const std::vector<std::string> all{"chandler-b1", "collier-c2", "farrier-f5",    "lorimer-l4",
                                              "mercer-m6",   "ostler-o3",  "sexton-s1",     "tanner-tn7",
                                              "thatcher-t3", "tinker-mk1", "wheelwright-w2"};
    return all;
}
TypeNotes wholeOf(const std::string& text, Problems& problems) {
    auto reading = readNotes(text, "type.toml");
    problems = reading.problems;
    if (!reading.notes)
        return {};
    TypeNotes n = *reading.notes;
    cockpit::expand(n, problems);
    return n;
}
TypeNotes whole(const std::string& type) {
    Problems problems;
    auto n = wholeOf(test::fileText(test::dataPath("notes/" + type + ".toml")), problems);
    EXPECT_TRUE(problems.empty()) << type << ": " << (problems.empty() ? "" : problems.front().text());
    return n;
}
const Step& step(const TypeNotes& n, Phase phase, std::string_view id) {
    for (const auto& s : n.phase(phase).steps)
        if (s.id == id)
            return s;
    ADD_FAILURE() << "no step " << id;
    static const Step none;
    return none;
}
const Control& control(const TypeNotes& n, Acts acts) {
    const Control* c = cockpit::acting(n.controls, acts);
    EXPECT_TRUE(c) << rowOf(acts).key;
    static const Control none;
    return c ? *c : none;
}
std::string firstProblem(const std::string& from, const std::string& to) {
    Problems problems;
    wholeOf(test::replaced(test::fileText(test::dataPath("notes/lorimer-l4.toml")), from, to), problems);
    return problems.empty() ? std::string{} : problems.front().text();
}

TEST(Controls, ALeverSaysWhichWayIsMoreAndIsMarkedWhereThatIsAgainstTheUsualSense) {
    struct {
        const char* type;
        Acts acts;
        const char *less, *more;
        bool reversed;
    } const cases[] = {
        {"lorimer-l4", Acts::mixture, "aft", "forward", false}, // forward is rich
        {"farrier-f5", Acts::mixture, "forward", "aft", true},  // aft is rich
        {"thatcher-t3", Acts::mixture, "forward", "aft", true}, // forward is weak
        {"chandler-b1", Acts::mixture, "forward", "aft", true},
        {"mercer-m6", Acts::mixture, "down", "up", false},
        {"farrier-f5", Acts::gear, "up", "down", true}, // down is high gear
        {"lorimer-l4", Acts::gear, "down", "up", false},
        {"tinker-mk1", Acts::carburettorAir, "out", "in", false}, // out is hot, in is cold
    };
    for (const auto& c : cases) {
        const auto n = whole(c.type);
        const auto& found = control(n, c.acts);
        EXPECT_EQ(found.less, c.less) << c.type;
        EXPECT_EQ(found.more, c.more) << c.type;
        EXPECT_EQ(found.reversed, c.reversed) << c.type;
    }
    const auto n = whole("farrier-f5");
    EXPECT_DOUBLE_EQ(cockpit::place(control(n, Acts::mixture), "rich"), 1.0);
    EXPECT_DOUBLE_EQ(cockpit::place(control(n, Acts::mixture), "weak"), 0.5);
    EXPECT_DOUBLE_EQ(cockpit::place(control(n, Acts::mixture), "cut-off"), 0.0);
}

TEST(Controls, AnEngravedWordIsKnownByWhatItMeans) {
    const auto n = whole("lorimer-l4");
    const auto& mixture = control(n, Acts::mixture);
    ASSERT_TRUE(mixture.position("rich"));
    EXPECT_EQ(mixture.position("rich")->name, "auto rich");
    EXPECT_EQ(mixture.position("auto weak")->is, "weak");
    const auto c = whole("collier-c2");
    EXPECT_EQ(control(c, Acts::lock).position("out")->name, "locked for flight") << "out=locked for flight";
    EXPECT_EQ(control(c, Acts::gear).positions.size(), 3u) << "neutral, low, high";
}

TEST(Controls, WhatATypeHasFollowsFromItsEquipment) {
    const auto has = [](const TypeNotes& n, Acts acts) { return cockpit::acting(n.controls, acts) != nullptr; };
    const auto lorimer = whole("lorimer-l4"), tinker = whole("tinker-mk1"), collier = whole("collier-c2"),
               sexton = whole("sexton-s1");
    EXPECT_TRUE(has(lorimer, Acts::feathering) && has(lorimer, Acts::mesh) && has(lorimer, Acts::wheels));
    EXPECT_FALSE(has(tinker, Acts::propeller) || has(tinker, Acts::gear) || has(tinker, Acts::battery) ||
                 has(tinker, Acts::pump));
    EXPECT_TRUE(has(collier, Acts::water) && has(collier, Acts::cartridge) && has(collier, Acts::intercooler));
    EXPECT_FALSE(control(sexton, Acts::mixture).position("cut-off")) << "its float carburettor has none";
    EXPECT_EQ(control(lorimer, Acts::throttle).origin, Origin::notes);
    EXPECT_EQ(control(lorimer, Acts::generator).origin, Origin::practice);
}

TEST(Acts, ARowSaysControlTargetTimeAndWhatIsWaitedFor) {
    Problems problems;
    const auto root = document::parse(R"(do = [
      { throttle = "30 inHg", over = "3 s" },
      { mixture = "auto rich", hold = true, engines = ["2"] },
      { propeller = "{rpm}", for = "{scavenge}" },
      { until = "oil-pressure above 40 lbf/in²", within = "30 s", else = "stop it" },
      { throttle = "1,700 rpm" },
    ])",
                                      "t", problems);
    ASSERT_TRUE(root);
    document::TableReader t(*root, "start.step", "t", problems, FileFormat::notes);
    const auto acts = notes::readActions(t, "do");
    ASSERT_TRUE(problems.empty()) << problems.front().text();
    ASSERT_EQ(acts.size(), 5u);
    EXPECT_EQ(acts[0].control, "throttle");
    EXPECT_NEAR(acts[0].to.si, 30 * 3386.389, 0.1);
    EXPECT_DOUBLE_EQ(acts[0].over, 3.0);
    EXPECT_TRUE(acts[1].hold);
    EXPECT_EQ(acts[1].engines, std::vector<std::string>{"2"});
    EXPECT_EQ(acts[2].to.kind, Target::Kind::figure);
    EXPECT_EQ(acts[2].lasts->word, "scavenge");
    EXPECT_EQ(acts[3].until->gauge, Gauge::oilPressure);
    EXPECT_NEAR(acts[3].until->level.si, 40 * 6894.757, 0.1);
    EXPECT_DOUBLE_EQ(acts[3].within, 30.0);
    EXPECT_EQ(acts[4].to.dimension, Dimension::rotation);
    EXPECT_NEAR(acts[4].to.si, 1700.0 / 60, 1e-9);
}

TEST(Acts, WhatCannotBeDoneIsToldWithWhatCould) {
    const auto with = [](const std::string& act) {
        return firstProblem("do = [{ brakes = \"off\" }, { throttle = \"30 inHg\"",
                            "do = [" + act + ", { throttle = \"30 inHg\"");
    };
    EXPECT_NE(with("{ brake = \"off\" }").find("Did you mean \"brakes\"?"), std::string::npos);
    EXPECT_NE(with("{ mixture = \"fat\" }").find("has no position \"fat\""), std::string::npos);
    EXPECT_NE(with("{ mixture = \"fat\" }").find("rich (auto rich)"), std::string::npos);
    EXPECT_NE(with("{ mixture = \"30 inHg\" }").find("cannot be set to that"), std::string::npos);
    EXPECT_NE(with("{ mixture = \"rich\", blower = \"low\" }").find("one act moves both"), std::string::npos);
    EXPECT_NE(with("{ until = \"oil above warm\" }").find("is no figure for oil"), std::string::npos);
    EXPECT_NE(with("{ until = \"oils above 40 °C\" }").find("is no gauge"), std::string::npos);
    EXPECT_NE(with("{ until = \"oil over 40 °C\" }").find("neither above nor below"), std::string::npos);
    EXPECT_NE(with("{ for = \"a while\" }").find("is no time"), std::string::npos);
    EXPECT_NE(with("{ throttle = \"{dilution}\" }").find("no figure {dilution} in this phase"), std::string::npos);
    EXPECT_NE(with("{ brakes = \"off\", engines = [\"7\"] }").find("no engine \"7\""), std::string::npos);
    EXPECT_NE(with("{ }").find("moves nothing and waits for nothing"), std::string::npos);
}

TEST(Drill, NotesChangeAddAndRemoveStepsOfTheStandardOne) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    Problems problems;
    const auto n = wholeOf(test::replaced(text, "[climb]\n", "[climb]\nwithout = [\"pump\"]\n"), problems);
    ASSERT_TRUE(problems.empty()) << problems.front().text();
    EXPECT_TRUE(std::none_of(n.phase(Phase::climb).steps.begin(), n.phase(Phase::climb).steps.end(),
                             [](const Step& s) { return s.id == "pump"; }));
    const auto& reduction = step(n, Phase::takeOff, "reduction");
    EXPECT_EQ(reduction.skipped, "The five-minute rating runs out unseen.") << "the notes' own words";
    EXPECT_EQ(reduction.set, "{climb-boost}, then {climb-rpm}") << "and the standard drill's acts";
    EXPECT_EQ(reduction.origin, Origin::notes);
    EXPECT_EQ(step(n, Phase::takeOff, "trim").origin, Origin::practice);
    EXPECT_NE(firstProblem("[climb]\n", "[climb]\nwithout = [\"pumps\"]\n").find("Did you mean \"pump\"?"),
              std::string::npos);

    const auto farrier = whole("farrier-f5");
    const auto& steps = farrier.phase(Phase::runUp).steps;
    const auto at = [&](std::string_view id) {
        return std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == id; }) - steps.begin();
    };
    EXPECT_EQ(at("no-waiting"), at("idle") + 1) << "after = \"idle\"";
}

TEST(Drill, EveryStarterPropellerAndCarburettorHasItsCustomaryOrder) {
    const auto order = [](const std::string& type, Phase phase, std::vector<std::string> ids) {
        const auto n = whole(type);
        std::ptrdiff_t last = -1;
        for (const auto& id : ids) {
            const auto& steps = n.phase(phase).steps;
            const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == id; });
            ASSERT_NE(found, steps.end()) << type << " " << id;
            EXPECT_GT(found - steps.begin(), last) << type << " " << id;
            last = found - steps.begin();
        }
    };
    order("farrier-f5", Phase::start,
          {"booster", "prime", "ignition", "starter", "fires", "first-rpm", "cart-away", "generator", "gyros"});
    order("lorimer-l4", Phase::start, {"booster", "prime", "energise", "ignition", "mesh", "fires", "first-rpm"});
    order("wheelwright-w2", Phase::start,
          {"booster", "energise", "prime", "ignition", "mesh"}); // in the last seconds of it
    order("collier-c2", Phase::start, {"booster", "breech", "prime", "ignition", "starter"});
    order("tanner-tn7", Phase::start, {"booster", "prime", "ignition", "starter", "fires"});
    order("tinker-mk1", Phase::start, {"prime", "ignition", "starter", "fires", "first-rpm"});
    order("lorimer-l4", Phase::runUp,
          {"air", "propeller", "feathering-touch", "blower", "reference", "magnetos", "idle", "hot-air-check"});
    order("mercer-m6", Phase::runUp, {"propeller", "reverse-touch", "reference"});
    order("wheelwright-w2", Phase::runUp, {"turbo", "reference", "magnetos"});
    order("lorimer-l4", Phase::letDown, {"mixture", "air", "throttle", "propeller", "blower", "cooling"});
    order("lorimer-l4", Phase::stop, {"cool", "dead-cut", "scavenge", "propeller", "dilution", "cut", "off", "locks"});
    for (const auto& type : types()) {
        const auto n = whole(type);
        for (const auto& [phase, notes] : n.phases)
            for (const auto& s : notes.steps) {
                EXPECT_FALSE(s.set.empty()) << type << " " << s.id;
                EXPECT_FALSE(s.why.empty()) << type << " " << s.id;
            }
    }
}

TEST(Drill, ASlowRunningCutOutIsHeldUntilItIsStillAndBlowersChangeOneByOne) {
    const auto trainer = whole("thatcher-t3");
    const Step& cut = step(trainer, Phase::stop, "cut");
    const auto& acts = cockpit::actionsInForce(cut, schools::inForce(cut, Phase::stop, {}));
    ASSERT_EQ(acts.size(), 3u);
    EXPECT_EQ(notes::written(acts[0].to), "closed");
    EXPECT_EQ(acts[1].control, "cut-out");
    EXPECT_EQ(notes::written(acts[1].to), "pulled");
    EXPECT_TRUE(acts[1].hold);
    ASSERT_TRUE(acts[1].until);
    EXPECT_EQ(acts[1].until->gauge, Gauge::rpm);
    EXPECT_FALSE(acts[1].until->above);
    EXPECT_EQ(notes::written(acts[2].to), "run");
    std::vector<std::string> names;
    for (const auto& s : cut.schools)
        names.push_back(s.name);
    EXPECT_EQ(names, (std::vector<std::string>{"fuel cock, run dry", "slow-running cut-out"})) << "it has no cut-off";
    for (const auto& type : {"lorimer-l4", "mercer-m6"}) {
        const auto notes = whole(type);
        for (const auto& s : step(notes, Phase::stop, "cut").schools)
            EXPECT_NE(s.name, "slow-running cut-out") << type;
        if (notes.engine.gears.size() > 1) {
            const Step& change = step(notes, Phase::climb, "at-the-change");
            EXPECT_TRUE(change.each) << "one engine at a time";
            std::vector<Acts> order;
            for (const auto& a : change.actions)
                if (const Control* c = cockpit::find(notes.controls, a.control))
                    order.push_back(c->acts);
            EXPECT_EQ(order, (std::vector<Acts>{Acts::throttle, Acts::gear, Acts::throttle})) << type;
        }
    }
}

TEST(Drill, WrittenOutAndReadAgainItIsTheSame) {
    for (const auto& type : types()) {
        const auto text = test::fileText(test::dataPath("notes/" + type + ".toml"));
        Problems problems;
        const auto first = wholeOf(text, problems);
        const auto out = cockpit::expanded(*document::parse(text, type, problems), first);
        ASSERT_TRUE(problems.empty()) << type;
        const auto second = wholeOf(out, problems);
        ASSERT_TRUE(problems.empty()) << type << ": " << problems.front().text();
        EXPECT_TRUE(cockpit::expanded(*document::parse(out, type, problems), second) == out) << type;
        for (const auto& [phase, notes] : first.phases) {
            const auto& again = second.phase(phase).steps;
            ASSERT_EQ(notes.steps.size(), again.size()) << type << " " << keyOf(phase);
            for (std::size_t i = 0; i < again.size(); ++i) {
                EXPECT_EQ(notes.steps[i].id, again[i].id);
                EXPECT_EQ(notes.steps[i].set, again[i].set);
                EXPECT_EQ(cockpit::toml(cockpit::tree(notes.steps[i])), cockpit::toml(cockpit::tree(again[i]))) << type;
                EXPECT_EQ(notes.steps[i].origin, again[i].origin) << type << " " << again[i].id;
            }
        }
        ASSERT_EQ(first.controls.size(), second.controls.size());
        for (std::size_t i = 0; i < first.controls.size(); ++i) {
            auto a = first.controls[i], b = second.controls[i];
            a.line = b.line = 0;
            EXPECT_EQ(a, b) << type << " " << a.id;
        }
    }
}

TEST(Drill, EveryShippedFileIsShorterThanItWas) {
    const auto lines = [](const std::string& path) {
        auto text = test::fileText(test::dataPath(path));
        // What there was nothing of then: load sheet and distances.
        const std::string rule = "# ----------------------------------------------------------------";
        const auto begins = std::min(text.find(rule + " distances"), text.find(rule + " load sheet"));
        if (begins != std::string::npos)
            text.erase(begins, text.find("# ---- end of load sheet") - begins);
        return std::count(text.begin(), text.end(), '\n');
    };
    for (const auto& type : types())
        EXPECT_LT(lines("notes/" + type + ".toml"), 0.85 * lines("../tests/fixtures/format1/" + type + ".toml"))
            << type;
}

TEST(State, IsCarriedFromTheWalkRoundToTheStop) {
    const auto n = whole("lorimer-l4");
    const auto is = [&](Phase phase, Acts acts, std::size_t engine = 0) {
        const auto state = cockpit::stateAtEnd(n, {}, phase);
        const auto index = static_cast<std::size_t>(&control(n, acts) - n.controls.data());
        return notes::written(state.of(index, engine).target);
    };
    EXPECT_EQ(is(Phase::walkRound, Acts::ignition), "off");
    EXPECT_EQ(is(Phase::start, Acts::ignition, 1), "both");
    EXPECT_EQ(is(Phase::start, Acts::mixture, 1), "rich");
    EXPECT_EQ(is(Phase::takeOff, Acts::pump), "on");
    EXPECT_EQ(is(Phase::takeOff, Acts::throttle), "{climb-boost}");
    EXPECT_EQ(is(Phase::climb, Acts::pump), "off");
    EXPECT_EQ(is(Phase::letDown, Acts::carburettorAir), "{heat}") << "under boost as much as the day wants";
    EXPECT_EQ(is(Phase::landing, Acts::carburettorAir), "cold");
    EXPECT_EQ(is(Phase::landing, Acts::throttle), "{boost}") << "going round is another way out, not on the line";
    for (const Acts acts : {Acts::ignition, Acts::fuel, Acts::battery, Acts::generator})
        EXPECT_EQ(is(Phase::stop, acts), "off") << rowOf(acts).key;
    EXPECT_EQ(is(Phase::stop, Acts::lock), "in");
}

TEST(State, ALinkedLeverGoesToTheSameShareOfItsTravel) {
    auto n = whole("lorimer-l4");
    const auto index = [&](Acts acts) { return static_cast<std::size_t>(&control(n, acts) - n.controls.data()); };
    n.controls[index(Acts::pump)].links = {control(n, Acts::carburettorAir).id, control(n, Acts::ignition).id};
    const auto& pump = n.controls[index(Acts::pump)];
    const auto off = cockpit::followers(n.controls, pump, "off"), on = cockpit::followers(n.controls, pump, "on");
    ASSERT_EQ(off.size(), 2u);
    EXPECT_EQ(off[0].is, control(n, Acts::carburettorAir).positions.front().is);
    EXPECT_EQ(on[0].is, control(n, Acts::carburettorAir).positions.back().is);
    EXPECT_EQ(off[1].is, "off");
    EXPECT_EQ(on[1].is, "both");
    EXPECT_TRUE(cockpit::followers(n.controls, pump, "{boost}").empty()) << "a figure is no position";
    // The pump is switched off after the climb: the ignition, linked to it here, is off from there on.
    const auto state = cockpit::stateAtEnd(n, {}, Phase::climb);
    EXPECT_EQ(state.of(index(Acts::pump), 1).target.word, "off");
    EXPECT_EQ(state.of(index(Acts::ignition), 1).target.word, "off");
    EXPECT_EQ(cockpit::stateAtEnd(whole("lorimer-l4"), {}, Phase::climb).of(index(Acts::ignition), 1).target.word,
              "both");
}

TEST(State, ASchoolChangesWhatIsDone) {
    const auto n = whole("lorimer-l4");
    const auto air = [&](const std::map<std::string, std::string>& choices) {
        const auto state = cockpit::stateAtEnd(n, choices, Phase::start);
        return state.of(static_cast<std::size_t>(&control(n, Acts::carburettorAir) - n.controls.data()), 0).target.word;
    };
    EXPECT_EQ(air({}), "cold");
    EXPECT_EQ(air({{"start/air", "hot as soon as it runs"}}), "hot");
    EXPECT_EQ(air({{"start/Carb. air", "hot as soon as it runs"}}), "hot") << "a choice by the step's older name";
}

TEST(State, EnginesAreDoneOneAfterAnotherInTheirOrder) {
    const auto n = whole("lorimer-l4");
    const auto turns = cockpit::turns(n, Phase::start, {"2", "1"});
    std::vector<int> fired;
    for (const auto& t : turns)
        if (n.phase(Phase::start).steps[t.step].id == "mesh")
            fired.push_back(t.engine);
    EXPECT_EQ(fired, (std::vector<int>{1, 0}));
}

/// Choices of any kind carry through every drill without a control that stands nowhere.
RC_GTEST_PROP(StateProperty, WhateverSchoolsAreTakenEveryControlStandsSomewhere, ()) {
    const auto& l = test::loaded(*rc::gen::elementOf(test::demoNames()));
    const TypeNotes& n = l.aircraft->notes;
    std::map<std::string, std::string> choices;
    for (const auto& [phase, notes] : n.phases)
        for (const auto& s : notes.steps)
            if (s.open && !s.schools.empty() && *rc::gen::arbitrary<bool>())
                choices[std::string(keyOf(phase)) + "/" + s.id] =
                    s.schools[*rc::gen::inRange<std::size_t>(0, s.schools.size())].name;
    cockpit::carry(n, choices, [&](const cockpit::Change& c, const Action* act, const cockpit::State& state) {
        if (!act)
            for (std::size_t i = 0; i < n.controls.size(); ++i)
                RC_ASSERT(state.of(i, 0).target.kind != Target::Kind::none || n.controls[i].positions.empty());
        else if (c.control >= 0 && c.after.kind == Target::Kind::position)
            RC_ASSERT(n.controls[static_cast<std::size_t>(c.control)].position(c.after.word) != nullptr);
    });
}

TEST(Migrate, KeepsEveryLineAndCommentAndGivesActsToWhatCanBeUnderstood) {
    for (const auto& type : types()) {
        const auto text = test::fileText(test::dataPath("../tests/fixtures/format1/" + type + ".toml"));
        Problems problems;
        const auto made = cockpit::migrate(text, type, problems);
        ASSERT_TRUE(made && problems.empty()) << type;
        EXPECT_GT(made->steps, 25u) << type;
        EXPECT_LT(made->silent.size(), made->steps / 2) << type << ": most sentences are understood";
        // Nothing vanishes: every line but the two that change is still there, in order.
        std::istringstream before(text), after(made->text);
        std::string a, b;
        while (std::getline(before, a)) {
            if (a == "format = 1" || a == "[[lever]]")
                continue;
            bool found = false;
            while (!found && std::getline(after, b))
                found = a == b;
            ASSERT_TRUE(found) << type << ": " << a;
        }
        const auto n = wholeOf(made->text, problems);
        ASSERT_TRUE(problems.empty()) << type << ": " << problems.front().text();
        EXPECT_EQ(n.format, 2);
        EXPECT_TRUE(n.wholeDrill);
    }
    Problems problems;
    EXPECT_FALSE(cockpit::migrate(test::fileText(test::dataPath("notes/lorimer-l4.toml")), "l", problems));
    EXPECT_NE(problems.front().text().find("format 2 already"), std::string::npos);
}

/// A short file of format 1: what it does not say is not lost by being rewritten.
TEST(Migrate, AShortFileKeepsADrillUnderItOrSaysWhatIsGone) {
    const auto text = test::fileText(test::dataPath("../tests/fixtures/format1/lorimer-l4.toml"));
    // Without the acts of some phases, or of any.
    const auto without = [&](const std::function<bool(std::string_view)>& phase) {
        std::istringstream in(text);
        std::string line, out;
        bool inStep = false;
        while (std::getline(in, line)) {
            if (line.starts_with("["))
                inStep = line.find(".step") != std::string::npos &&
                         phase(std::string_view(line).substr(line.find_first_not_of('['),
                                                             line.find('.') - line.find_first_not_of('[')));
            if (!inStep)
                out += line + "\n";
        }
        return out;
    };
    Problems problems;
    const auto none = cockpit::migrate(without([](std::string_view p) { return p != "warming"; }), "l", problems);
    ASSERT_TRUE(none && problems.empty()) << (problems.empty() ? "" : problems.front().text());
    EXPECT_EQ(none->steps, 0u);
    EXPECT_EQ(none->text.find("drill = \"whole\""), std::string::npos);
    const auto laid = wholeOf(none->text, problems);
    EXPECT_GT(laid.phase(Phase::climb).steps.size(), 4u) << "the standard drill is laid under it";
    const auto some =
        cockpit::migrate(without([](std::string_view p) { return p == "climb" || p == "stop"; }), "l", problems);
    ASSERT_TRUE(some && problems.empty());
    EXPECT_NE(some->text.find("# No acts were written for climb, stop:"), std::string::npos)
        << some->text.substr(0, 900);
    const auto gone = wholeOf(some->text, problems);
    int told = 0;
    for (const auto& p : cockpit::audit(gone))
        told += p.text().find("nothing-written") != std::string::npos;
    EXPECT_EQ(told, 2) << "check names both";
}

/// Notes of format 1 plan as they did before there was another: phases and fuel, kept from then; and so do they
/// migrated.
TEST(Migrate, OldNotesPlanAsBeforeAndTheSameWhenRewritten) {
    std::map<std::string, std::vector<std::pair<double, double>>> kept;
    std::istringstream figures(test::fileText(test::dataPath("../tests/fixtures/format1/figures.csv")));
    std::string line;
    std::getline(figures, line);
    while (std::getline(figures, line)) {
        std::istringstream cells(line);
        std::string demo, phase, seconds, litres;
        std::getline(cells, demo, ',');
        std::getline(cells, phase, ',');
        std::getline(cells, seconds, ',');
        std::getline(cells, litres, ',');
        kept[demo].emplace_back(std::stod(seconds), std::stod(litres));
    }
    ASSERT_EQ(kept.size(), 11u);
    const bool refresh = std::getenv("AMBER_REFRESH_REFERENCE") != nullptr; // tools/refresh-reference
    std::string anew = "demo,phase,duration_s,fuel_l\n";
    for (const auto& [demo, phases] : kept) {
        const auto& now = test::loaded(demo);
        const auto file = std::filesystem::path(now.sortie->airframe.notes).filename().string();
        const auto path = test::dataPath("../tests/fixtures/format1/" + file);
        const auto old = flight::loadAircraft(path, now.sortie->airframe.variant);
        ASSERT_TRUE(old.aircraft) << demo;
        Sortie typed = *now.sortie; // those notes have no load sheet
        typed.load.weightTyped = true;
        // Fuel weighed then the same on a cold day and a hot one.
        powerplant::Aircraft then = *old.aircraft;
        then.notes.fuel.density *= then.notes.fuel.density / then.notes.fuel.densityAt(typed.day.oat);
        const auto flown = flight::fly(then, typed);
        for (std::size_t i = 0; i < phases.size(); ++i) {
            anew += fmt::format("{},{},{:.8g},{:.8g}\n", demo, keyOf(static_cast<Phase>(i + 1)),
                                flown.phases[i + 1].duration, flown.phases[i + 1].fuel * 1000);
            if (refresh)
                continue;
            EXPECT_NEAR(flown.phases[i + 1].duration, phases[i].first, 0.1)
                << demo << " " << keyOf(static_cast<Phase>(i + 1));
            EXPECT_NEAR(flown.phases[i + 1].fuel * 1000, phases[i].second, 0.01 + 0.004 * phases[i].second)
                << demo << " " << keyOf(static_cast<Phase>(i + 1));
        }
        Problems problems;
        const auto made = cockpit::migrate(test::fileText(path), path, problems);
        auto reading = readNotes(made->text, path, now.sortie->airframe.variant);
        ASSERT_TRUE(reading.notes) << reading.problems.front().text();
        auto again = powerplant::assemble(std::move(*reading.notes), problems);
        ASSERT_TRUE(again) << problems.front().text();
        again->notes.fuel.density = then.notes.fuel.density;
        const auto rewritten = flight::fly(*again, typed);
        for (Phase phase = Phase::walkRound; phase < Phase::letDown;
             phase = static_cast<Phase>(static_cast<int>(phase) + 1)) {
            // How long the run-up's checks take is known from acts only; she climbs away so much lighter or heavier.
            // The cruise is as much longer or shorter as the let-down is: the distance is the same.
            const double slack = phase < Phase::runUp     ? 1e-6
                                 : phase == Phase::runUp  ? 60.0
                                 : phase == Phase::cruise ? 60.0
                                                          : 3.0;
            EXPECT_NEAR(rewritten[phase].duration, flown[phase].duration, slack) << demo << " " << keyOf(phase);
            EXPECT_NEAR(rewritten[phase].fuel, flown[phase].fuel,
                        phase < Phase::runUp ? 1e-9 : (phase == Phase::runUp ? 0.9 : 0.02) * flown[phase].fuel)
                << demo << " " << keyOf(phase);
        }
        // Sentences of format 1 are not understood; as acts they are, and what they do to the air is reckoned with.
        EXPECT_NEAR(rewritten.totalTime(), flown.totalTime(), 60.0) << demo;
        EXPECT_NEAR(rewritten.fuelAtEnd, flown.fuelAtEnd, 0.05 * (flown.fuelAtStart - flown.fuelAtEnd)) << demo;
    }
    if (refresh)
        std::ofstream(test::dataPath("../tests/fixtures/format1/figures.csv")) << anew;
}
TEST(DrillFigures, AGearIsChangedThrottledBackOverTwoSecondsAndOpenedOverThree) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        const auto found = n.phases.find(Phase::climb);
        if (found == n.phases.end() || !n.gearChange)
            continue;
        for (const auto& step : found->second.steps) {
            if (step.origin != Origin::practice)
                continue;
            const auto throttled = std::find_if(step.actions.begin(), step.actions.end(),
                                                [](const Action& a) { return a.to.word == "throttle-back"; });
            if (throttled == step.actions.end())
                continue;
            ++seen;
            EXPECT_EQ(throttled->over, 2.0) << name;
            const auto oil = std::find_if(step.actions.begin(), step.actions.end(), [](const Action& a) {
                return a.until && a.until->gauge == Gauge::oilPressure;
            });
            ASSERT_NE(oil, step.actions.end()) << name;
            EXPECT_EQ(oil->within, 10.0) << name;
            EXPECT_EQ(oil->otherwise, "back to the lower gear") << name;
            EXPECT_EQ(step.actions.back().over, 3.0) << name;
        }
    }
    EXPECT_GT(seen, 0u);
}

TEST(DrillFigures, EverySchoolSaysWhatItSets) {
    for (const auto& name : test::demoNames())
        for (const auto& [phase, notes] : test::loaded(name).aircraft->notes.phases)
            for (const auto& step : notes.steps)
                for (const auto& school : step.schools) {
                    EXPECT_FALSE(school.set.empty()) << name << ": " << step.id << ": " << school.name;
                }
}

TEST(DrillFigures, AStepOfTheNotesIsTheNotesAndOneOfTheDrillPractice) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        std::size_t ours = 0, theirs = 0;
        for (const auto& [phase, notes] : n.phases)
            for (const auto& step : notes.steps)
                if (step.line > 0) {
                    EXPECT_EQ(step.origin, Origin::notes) << name << ": " << step.id;
                    ++theirs;
                } else {
                    ours += step.origin == Origin::practice;
                }
        EXPECT_GT(ours, 10u) << name;
        EXPECT_GT(theirs, 5u) << name;
    }
}

} // namespace
