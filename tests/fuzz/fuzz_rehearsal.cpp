// SPDX-License-Identifier: GPL-3.0-or-later
#include "data_folder.h"
#include "flight/open_files.h"
#include "rehearse/debrief.h"
#include <cmath>
#include <cstdint>
#include <cstdlib>

namespace {
using namespace amber;
const flight::LoadedSortie& lorimer() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    return loaded;
}
const flight::Flown& plan() {
    static const auto flown = flight::fly(*lorimer().aircraft, *lorimer().sortie);
    return flown;
}
} // namespace

/// Any bytes are a set-up or problems, and acts or problems; acts are written and read again, and what they do for some
/// seconds leaves figures that can be.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    const std::string_view text{reinterpret_cast<const char*>(bytes), size};
    const auto& notes = lorimer().aircraft->notes;
    Problems problems;
    auto setup = rehearse::readSetup(text, "fuzz.toml", notes, problems);
    if (setup.has_value() == !problems.empty())
        std::abort();
    problems.clear();
    auto acts = rehearse::readActs(text, "fuzz.csv", notes, problems);
    if (acts.has_value() == !problems.empty())
        std::abort();
    if (acts) {
        const auto again = rehearse::readActs(rehearse::writeActs(*acts, notes), "again.csv", notes, problems);
        if (!again || again->size() != acts->size())
            std::abort();
    }
    if (setup)
        setup->from = Phase::walkRound; // a later phase is come to by a whole drill
    rehearse::Rehearsal r(*lorimer().aircraft, *lorimer().sortie, plan(), setup.value_or(rehearse::Setup{}));
    if (acts)
        r.script(*acts);
    r.advance(3'000);
    r.back(1'000);
    r.advance(500);
    for (const auto& e : r.state().engines)
        if (!std::isfinite(e.n) || !std::isfinite(e.headOrCoolant) || !std::isfinite(e.manifold))
            std::abort();
    return 0;
}
