// SPDX-License-Identifier: GPL-3.0-or-later
// Bad hands in numbers: bad-hands COUNT SEED DEMO.toml…: each hand is one careful hand's acts with one thing done
// otherwise, flown and debriefed; how often it is named first, and its counterfactual reaches the aim.
#include "bad_hands.h"
#include <cstdlib>
#include <map>

using namespace amber;
using namespace amber::test;

int main(int argc, char** argv) {
    if (argc < 4) {
        fmt::print(stderr, "bad-hands COUNT SEED SORTIE.toml...\n");
        return 2;
    }
    const int count = std::atoi(argv[1]);
    std::mt19937_64 draw(static_cast<std::uint64_t>(std::atoll(argv[2])));
    const bool verbose = std::getenv("AMBER_VERBOSE") != nullptr;
    struct Sum {
        int all = 0, harmful = 0, first = 0, neutral = 0, blamed = 0, praised = 0, under = 0, neutralHarm = 0;
    };
    std::map<std::string, Sum> byKind;
    std::map<std::string, Sum> byDay;
    // Each sortie on its own day, and warmer and colder by the season.
    const bool ownDay = std::getenv("AMBER_ONE_DAY") != nullptr;
    std::vector<std::unique_ptr<BadDay>> days;
    std::vector<std::string> names;
    for (const double warmer : ownDay ? std::vector{0.0} : std::vector{0.0, 14.0, -14.0})
        for (int i = 3; i < argc; ++i) {
            auto loaded = flight::loadSortie(argv[i]);
            if (!loaded.ok()) {
                fmt::print(stderr, "{}: {}\n", argv[i], loaded.problems.front().text());
                return 1;
            }
            days.push_back(std::make_unique<BadDay>(std::move(loaded), warmer));
            names.push_back(fmt::format("{}{}", argv[i], warmer == 0.0 ? "" : fmt::format(" {:+.0f} K", warmer)));
        }
    Sum total;
    if (std::getenv("AMBER_TWO")) { // two things done otherwise, each of which does harm
        int pairs = 0, both = 0;
        for (int i = 0; i < count; ++i) {
            const BadDay& day = *days[static_cast<std::size_t>(i) % days.size()];
            const auto& kinds = kindsOfBadHands();
            const auto kind = [&] {
                return kinds[std::uniform_int_distribution<std::size_t>(0, kinds.size() - 1)(draw)];
            };
            const auto& n = day.loaded.aircraft->notes;
            const auto first = spoil(day.acts, n, draw, kind());
            const auto second = first ? spoil(first->acts, n, draw, kind()) : std::nullopt;
            if (!second || second->control == first->control || second->ofPhase || first->ofPhase)
                continue;
            const double one = rehearse::harmOf(*day.fly(first->acts)), two = rehearse::harmOf(*day.fly(second->acts));
            if (one < day.harm + 0.9 || two < one + 0.9)
                continue;
            const auto t = told(day, *first, &*second);
            ++pairs;
            both += t.both ? 1 : 0;
            if (verbose && !t.both)
                fmt::print("## {}: {} {}; {} {}\n{}", names[static_cast<std::size_t>(i) % days.size()], first->kind,
                           first->words, second->kind, second->words, t.text);
        }
        fmt::print("two at once: {} pairs, both among the first three {} ({:.0f} %)\n", pairs, both,
                   pairs ? 100.0 * both / pairs : 100.0);
        return 0;
    }
    if (std::getenv("AMBER_EVERY")) { // each act of every drill, every kind: told, or neutral
        int all = 0, harmful = 0, named = 0, between = 0, silent = 0, neutral = 0, blamed = 0;
        for (std::size_t which = 0; which < days.size(); ++which)
            for (const auto& kind : kindsOfEachAct())
                for (std::size_t i = 0; i < days[which]->acts.size(); ++i) {
                    if (std::uniform_int_distribution<int>(1, std::max(1, count))(draw) != 1)
                        continue; // one in so many
                    const BadDay& day = *days[which];
                    const auto spoilt = spoilAct(day.acts, day.loaded.aircraft->notes, draw, kind, i);
                    if (!spoilt)
                        continue;
                    const auto t = told(day, *spoilt);
                    ++all;
                    harmful += t.is == Told::Is::harmful;
                    named += t.is == Told::Is::harmful && t.first && t.reaches;
                    between += t.is == Told::Is::between;
                    neutral += t.is == Told::Is::neutral;
                    blamed += t.is == Told::Is::neutral && t.blamed;
                    const bool quiet = t.is != Told::Is::neutral && !t.told;
                    silent += quiet;
                    if (verbose && quiet)
                        fmt::print("## {} {}: {} at {:.0f}: nothing is said\n", names[which], kind, spoilt->words,
                                   static_cast<double>(spoilt->at) / 1000.0);
                }
        fmt::print("every act, one in {}: {} tried; harmful {}, named first and put right {} ({:.0f} %); between {}; "
                   "nothing said of {}; neutral {}, blamed {} ({:.1f} %)\n",
                   std::max(1, count), all, harmful, named, harmful ? 100.0 * named / harmful : 100.0, between, silent,
                   neutral, blamed, neutral ? 100.0 * blamed / neutral : 0.0);
        return 0;
    }
    for (int i = 0; i < count; ++i) {
        const std::size_t which = static_cast<std::size_t>(i) % days.size();
        const BadDay& day = *days[which];
        const auto& kinds = kindsOfBadHands();
        const auto& kind = kinds[(static_cast<std::size_t>(i) / days.size()) % kinds.size()];
        std::optional<Spoilt> spoilt;
        for (int tries = 0; tries < 20 && !spoilt; ++tries)
            spoilt = spoil(day.acts, day.loaded.aircraft->notes, draw, kind);
        if (!spoilt)
            continue;
        const auto t = told(day, *spoilt);
        const std::string& name = names[which];
        for (Sum* s : {&byKind[kind], &byDay[name], &total}) {
            ++s->all;
            s->harmful += t.is == Told::Is::harmful;
            s->first += t.is == Told::Is::harmful && t.first && t.reaches;
            s->neutral += t.is == Told::Is::neutral;
            s->blamed += t.is == Told::Is::neutral && t.blamed;
            s->praised += t.praised;
            s->under += t.underGround;
        }
        const bool bad = (t.is == Told::Is::harmful && !(t.first && t.reaches)) ||
                         (t.is == Told::Is::neutral && t.blamed) || t.praised || t.underGround;
        if (verbose && bad)
            fmt::print("## {} {}: {} at {:.0f} engine {}: {} harm {:.2f} (good {:.2f}) first {} reaches {} among3 {} "
                       "blamed {}\n{}",
                       name, kind, spoilt->words, static_cast<double>(spoilt->at) / 1000.0, spoilt->engine,
                       t.is == Told::Is::harmful ? "HARMFUL" : "neutral", t.harm, day.harm, t.first, t.reaches,
                       t.among3, t.blamed, t.text);
    }
    const auto line = [](const std::string& name, const Sum& s) {
        fmt::print(
            "{:<40} {:>4} hands; harmful {:>4}, named first and put right {:>4} ({:.0f} %); neutral {:>4}, blamed "
            "{:>3}; praised {}, under the ground {}\n",
            name, s.all, s.harmful, s.first, s.harmful ? 100.0 * s.first / s.harmful : 100.0, s.neutral, s.blamed,
            s.praised, s.under);
    };
    for (const auto& [name, s] : byKind)
        line(name, s);
    for (const auto& [name, s] : byDay)
        line(name, s);
    line("all", total);
    // What is told of a few is held a little looser than of many: 90 and 2 in a hundred.
    const bool few = total.all < 200;
    const bool named = total.first >= (few ? 0.8 : 0.9) * total.harmful;
    const bool fair = total.blamed <= std::max(few ? 1.0 : 0.0, 0.02 * total.neutral);
    if (!named || !fair || total.praised > 0 || total.under > 0) {
        fmt::print(stderr, "bad hands: {}\n",
                   !named              ? "the act that did the harm is not named first often enough"
                   : !fair             ? "a hand that did no harm is blamed"
                   : total.praised > 0 ? "praised though an aim was not met"
                                       : "under the ground");
        return 1;
    }
    return 0;
}
