// SPDX-License-Identifier: GPL-3.0-or-later
// Somebody sits at a rehearsal: led through the drill, time standing still and taken back, clocks and what is said.
#include "cockpit/controls.h"
#include "rehearse/session.h"
#include "test_data.h"
#include "thorough.h"
#include <algorithm>
#include <cmath>

namespace {
using namespace amber;
using rehearse::Act;
using rehearse::DrillAct;
using rehearse::Milliseconds;
using rehearse::Session;
using rehearse::Way;

std::unique_ptr<Session> sit(const std::string& demo, Way way = Way::led, Phase from = Phase::walkRound) {
    const auto& l = test::loaded(demo);
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = from;
    return std::make_unique<Session>(l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie), setup, way);
}
std::string place(const Session& s) {
    const auto* ask = s.guide().next();
    return ask ? std::string(keyOf(ask->phase)) + "/" + ask->step + ": " + rehearse::said(*ask, s.aircraft().notes) +
                     " " + rehearse::waitsFor(*ask, s.aircraft().notes)
               : "over";
}

/// Does what is asked for whenever it is asked, waits when nothing is. @return how many acts
int led(Session& s, Phase until = Phase::stop, Milliseconds longest = 8 * 3600'000) {
    int acts = 0;
    while (s.guide().next() && s.rehearsal().now() < longest) {
        if (s.guide().next()->begins && s.guide().next()->phase > until)
            break;
        if (!s.toNextAct({}))
            break;
        const std::string was = place(s);
        if (!s.doNext())
            break;
        if (std::getenv("AMBER_LED_TOLD"))
            std::printf("%8.1f %s -> %s\n", s.rehearsal().now() / 1000.0, was.c_str(), place(s).c_str());
        if (++acts > 2000)
            break;
    }
    return acts;
}
class LedThrough : public testing::TestWithParam<std::string> {};

TEST_P(LedThrough, WhoDoesWhatIsAskedWhenItIsAskedDoesTheWholeDrillInItsTurn) {
    const auto s = sit(GetParam());
    const int acts = led(*s);
    EXPECT_EQ(s->guide().next(), nullptr) << place(*s) << " at " << s->rehearsal().now() / 1000;
    EXPECT_GT(acts, 40);
    const auto d = s->debriefed();
    for (const auto& a : d.acts)
        if (a.done != DrillAct::Done::inTurn && a.done != DrillAct::Done::stood)
            ADD_FAILURE() << "XX " << keyOf(a.phase) << " " << s->aircraft().notes.controls[a.control].id << " to "
                          << a.to << " " << static_cast<int>(a.done);
    for (const auto& e : s->rehearsal().state().engines)
        EXPECT_FALSE(e.firing);
}
INSTANTIATE_TEST_SUITE_P(Demos, LedThrough, testing::ValuesIn(test::demoNames()), [](const auto& info) {
    std::string name = info.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});
} // namespace
