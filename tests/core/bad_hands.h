// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cockpit/controls.h"
#include "flight/open_files.h"
#include "rehearse/mend.h"
#include <fmt/format.h>
#include <random>
#include <string>
#include <vector>

/// Bad hands: a careful hand's acts with one thing done otherwise, drawn by seed.
namespace amber::test {

/// What was done otherwise.
struct Spoilt {
    std::vector<rehearse::Act> acts;
    std::string kind, words;
    std::size_t control = 0;
    int engine = -1;
    rehearse::Milliseconds at = 0;
    bool ofPhase = false;
};

inline const std::vector<std::string>& kindsOfBadHands() {
    static const std::vector<std::string> kinds{"left out", "halved",    "doubled",     "trebled",     "a minute late",
                                                "swapped",  "elsewhere", "phase early", "pulled back", "switched off"};
    return kinds;
}

/// @return nothing where the draw does not fit these acts
inline std::optional<Spoilt> spoil(std::vector<rehearse::Act> acts, const TypeNotes& n, std::mt19937_64& draw,
                                   const std::string& kind) {
    using rehearse::Act;
    Spoilt out;
    out.kind = kind;
    const auto pick = [&](auto&& fits) -> std::optional<std::size_t> {
        std::vector<std::size_t> all;
        for (std::size_t i = 0; i < acts.size(); ++i)
            if (fits(acts[i]))
                all.push_back(i);
        if (all.empty())
            return std::nullopt;
        return all[std::uniform_int_distribution<std::size_t>(0, all.size() - 1)(draw)];
    };
    const auto ofControl = [](const Act& a) { return a.kind == Act::Kind::control; };
    const auto note = [&](const Act& a) {
        out.words = rehearse::said(a, n);
        out.control = a.control;
        out.engine = a.engine;
        out.at = a.at;
        out.ofPhase = a.kind == Act::Kind::phase;
    };
    const auto sorted = [&] {
        std::stable_sort(acts.begin(), acts.end(), [](const Act& a, const Act& b) { return a.at < b.at; });
    };
    if (kind == "left out") {
        const auto i = pick(ofControl);
        if (!i)
            return std::nullopt;
        note(acts[*i]);
        acts.erase(acts.begin() + static_cast<std::ptrdiff_t>(*i));
    } else if (kind == "halved" || kind == "doubled" || kind == "trebled") {
        const double by = kind == "halved" ? 0.5 : kind == "doubled" ? 2.0 : 3.0;
        const auto i = pick([&](const Act& a) {
            return ofControl(a) && (a.strokes > 0 || (a.to.kind == Target::Kind::quantity && by < 1.5 &&
                                                      n.controls[a.control].acts == Acts::throttle));
        });
        if (!i)
            return std::nullopt;
        Act& a = acts[*i];
        note(a);
        if (a.strokes > 0) {
            a.strokes = std::max(1.0, std::floor(a.strokes * by));
            a.to.si *= by;
        } else {
            a.to.si *= 0.5 * (1.0 + by);
        }
    } else if (kind == "a minute late") {
        const auto i = pick(ofControl);
        if (!i)
            return std::nullopt;
        note(acts[*i]);
        acts[*i].at += 60'000;
        sorted();
    } else if (kind == "swapped") {
        const auto i = pick([&](const Act& a) { return ofControl(a) && &a != &acts.back(); });
        if (!i || *i + 1 >= acts.size() || !ofControl(acts[*i + 1]))
            return std::nullopt;
        note(acts[*i]);
        std::swap(acts[*i].at, acts[*i + 1].at);
        std::swap(acts[*i], acts[*i + 1]);
    } else if (kind == "elsewhere") {
        const auto i = pick([&](const Act& a) {
            return ofControl(a) && a.to.kind == Target::Kind::position && n.controls[a.control].positions.size() > 1;
        });
        if (!i)
            return std::nullopt;
        Act& a = acts[*i];
        note(a);
        const auto& positions = n.controls[a.control].positions;
        const auto& other = positions[std::uniform_int_distribution<std::size_t>(0, positions.size() - 1)(draw)].is;
        if (other == a.to.word)
            return std::nullopt;
        a.to.word = other;
    } else if (kind == "phase early") {
        const auto i = pick([&](const Act& a) {
            return a.kind == Act::Kind::phase && a.phase > Phase::takeOff && a.phase < Phase::stop;
        });
        if (!i || *i == 0)
            return std::nullopt;
        note(acts[*i]);
        const auto before = acts[*i - 1].at;
        acts[*i].at -= std::min<rehearse::Milliseconds>(120'000, (acts[*i].at - before) / 200 * 100);
        sorted();
    } else { // an act that nobody asked for, in the air
        rehearse::Milliseconds from = 0, to = 0;
        for (const auto& a : acts)
            if (a.kind == Act::Kind::phase && a.phase == Phase::climb)
                from = a.at;
            else if (a.kind == Act::Kind::phase && a.phase == Phase::letDown)
                to = a.at;
        if (to <= from)
            return std::nullopt;
        const Control* c = nullptr;
        Act a;
        a.to.kind = Target::Kind::position;
        if (kind == "pulled back") {
            c = cockpit::acting(n.controls, Acts::throttle);
            a.to.word = "closed";
        } else {
            static constexpr std::array off{Acts::ignition, Acts::fuel, Acts::mixture};
            c = cockpit::acting(n.controls, off[std::uniform_int_distribution<std::size_t>(0, off.size() - 1)(draw)]);
            a.to.word = c && c->acts == Acts::mixture ? "cut-off" : "off";
        }
        if (!c || !c->position(a.to.word))
            return std::nullopt;
        a.control = static_cast<std::size_t>(c - n.controls.data());
        a.engine = static_cast<int>(std::uniform_int_distribution<std::size_t>(0, n.engineCount() - 1)(draw));
        a.at = from + static_cast<rehearse::Milliseconds>(std::uniform_real_distribution<double>(0.1, 0.9)(draw) *
                                                          static_cast<double>(to - from)) /
                          100 * 100;
        note(a);
        acts.push_back(a);
        sorted();
    }
    out.acts = std::move(acts);
    return out;
}

/// One aircraft on one day, its plan and the careful hand's acts on it.
struct BadDay {
    flight::LoadedSortie loaded;
    flight::Flown plan;
    hand::HandRun reference, hand;
    std::vector<rehearse::Act> acts;
    std::unique_ptr<rehearse::Rehearsal> good;
    double harm = 0.0;

    explicit BadDay(flight::LoadedSortie l)
        : loaded(std::move(l)), plan(flight::fly(*loaded.aircraft, *loaded.sortie)),
          reference(hand::doDrill(*loaded.aircraft, *loaded.sortie, plan, hand::byThePlansClock)),
          hand(hand::doDrill(*loaded.aircraft, *loaded.sortie, plan, hand::asTheDayIs)), acts(rehearse::actsOf(hand)),
          good(fly(acts)), harm(rehearse::harmOf(*good)) {}
    [[nodiscard]] std::unique_ptr<rehearse::Rehearsal> fly(const std::vector<rehearse::Act>& all) const {
        auto r = std::make_unique<rehearse::Rehearsal>(*loaded.aircraft, *loaded.sortie, plan, rehearse::Setup{});
        r->script(all);
        r->advance(hand.state.now + 60'000);
        return r;
    }
};

/// How one spoilt hand was debriefed.
struct Told {
    enum class Is { neutral, harmful, between } is = Is::between;
    double harm = 0.0;
    bool blamed = false, first = false, reaches = false, among3 = false, praised = false, underGround = false,
         both = false; ///< of two, both among the first three
    std::string text;
};

/// Flies a spoilt hand and debriefs it as the product does.
/// @param second what was done otherwise beside it, of the same acts; null: nothing
inline Told told(const BadDay& day, const Spoilt& spoilt, const Spoilt* second = nullptr) {
    Told out;
    const TypeNotes& n = day.loaded.aircraft->notes;
    const auto r = day.fly(second ? second->acts : spoilt.acts);
    out.harm = rehearse::harmOf(*r);
    auto d = rehearse::debrief(*r, day.reference);
    out.praised = d.nothingToMend() && (!d.unmet.empty() || r->over());
    rehearse::mend(*r, day.reference, d);
    out.underGround = r->state().height <
                      std::min(day.loaded.sortie->day.elevation.si(), day.loaded.sortie->flight.toElevation.si()) - 1.0;
    out.is = rehearse::readAlike(*r, *day.good) && std::abs(out.harm - day.harm) < 1e-9 ? Told::Is::neutral
             : out.harm > day.harm + 0.9                                                ? Told::Is::harmful
                                                                                        : Told::Is::between;
    const auto names = [&](const rehearse::Mended& m, const Spoilt& of) {
        if (of.ofPhase || m.phase)
            return of.ofPhase && m.phase.has_value();
        return m.control == of.control &&
               (m.engine < 0 || of.engine < 0 || m.engine == of.engine || !n.controls[of.control].each);
    };
    for (const auto& a : d.acts)
        out.blamed = out.blamed || (a.done != rehearse::DrillAct::Done::inTurn &&
                                    a.done != rehearse::DrillAct::Done::stood && !a.noEffect);
    for (const auto& e : d.extras)
        out.blamed = out.blamed || e.harmful;
    if (!d.mended.empty()) {
        out.first = names(d.mended.front(), spoilt);
        out.reaches = d.mended.front().reaches;
        for (std::size_t i = 0; i < std::min<std::size_t>(3, d.mended.size()); ++i)
            out.among3 = out.among3 || names(d.mended[i], spoilt);
    }
    if (second) {
        bool other = false;
        for (std::size_t i = 0; i < std::min<std::size_t>(3, d.mended.size()); ++i)
            other = other || names(d.mended[i], *second);
        out.both = out.among3 && other;
    }
    for (const auto& line : d.sentences(n))
        out.text += "      " + line + "\n";
    return out;
}

} // namespace amber::test
