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

/// Kinds that are done to an act that is there; the others add one.
inline const std::vector<std::string>& kindsOfEachAct() {
    static const std::vector<std::string> kinds{"left out",      "halved",  "doubled",   "trebled",
                                                "a minute late", "swapped", "elsewhere", "phase early"};
    return kinds;
}

/// One act done otherwise. @return nothing where that cannot be done to it
inline std::optional<Spoilt> spoilAct(std::vector<rehearse::Act> acts, const TypeNotes& n, std::mt19937_64& draw,
                                      const std::string& kind, std::size_t i) {
    using rehearse::Act;
    Spoilt out;
    out.kind = kind;
    Act& a = acts[i];
    const bool control = a.kind == Act::Kind::control, phase = a.kind == Act::Kind::phase;
    if (!control && !phase)
        return std::nullopt;
    out.words = rehearse::said(a, n);
    out.control = a.control;
    out.engine = a.engine;
    out.at = a.at;
    out.ofPhase = phase;
    if (kind == "phase early") {
        if (!phase || a.phase <= Phase::takeOff || a.phase >= Phase::stop || i == 0)
            return std::nullopt;
        a.at -= std::min<rehearse::Milliseconds>(120'000, (a.at - acts[i - 1].at) / 200 * 100);
    } else if (!control) {
        return std::nullopt;
    } else if (kind == "left out") {
        acts.erase(acts.begin() + static_cast<std::ptrdiff_t>(i));
    } else if (kind == "halved" || kind == "doubled" || kind == "trebled") {
        const double by = kind == "halved" ? 0.5 : kind == "doubled" ? 2.0 : 3.0;
        if (a.strokes > 0) {
            a.strokes = std::max(1.0, std::floor(a.strokes * by));
            a.to.si *= by;
        } else if (a.to.kind == Target::Kind::quantity && by < 1.5 && n.controls[a.control].acts == Acts::throttle) {
            a.to.si *= 0.5 * (1.0 + by);
        } else {
            return std::nullopt;
        }
    } else if (kind == "a minute late") {
        a.at += 60'000;
    } else if (kind == "swapped") {
        if (i + 1 >= acts.size() || acts[i + 1].kind != Act::Kind::control)
            return std::nullopt;
        std::swap(a.at, acts[i + 1].at);
        std::swap(a, acts[i + 1]);
    } else if (kind == "elsewhere") {
        const auto& positions = n.controls[a.control].positions;
        if (a.to.kind != Target::Kind::position || positions.size() < 2)
            return std::nullopt;
        const auto& other = positions[std::uniform_int_distribution<std::size_t>(0, positions.size() - 1)(draw)].is;
        if (other == a.to.word)
            return std::nullopt;
        a.to.word = other;
    }
    std::stable_sort(acts.begin(), acts.end(), [](const Act& x, const Act& y) { return x.at < y.at; });
    out.acts = std::move(acts);
    return out;
}

/// @return nothing where the draw does not fit these acts
inline std::optional<Spoilt> spoil(std::vector<rehearse::Act> acts, const TypeNotes& n, std::mt19937_64& draw,
                                   const std::string& kind) {
    using rehearse::Act;
    const auto& ofEach = kindsOfEachAct();
    if (std::find(ofEach.begin(), ofEach.end(), kind) != ofEach.end()) {
        std::vector<std::size_t> fits;
        for (std::size_t i = 0; i < acts.size(); ++i)
            if (std::mt19937_64 any(i); spoilAct(acts, n, any, kind, i))
                fits.push_back(i);
        if (fits.empty())
            return std::nullopt;
        const auto at = fits[std::uniform_int_distribution<std::size_t>(0, fits.size() - 1)(draw)];
        return spoilAct(std::move(acts), n, draw, kind, at);
    }
    // An act that nobody asked for, in the air.
    Spoilt out;
    out.kind = kind;
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
    out.words = rehearse::said(a, n);
    out.control = a.control;
    out.engine = a.engine;
    out.at = a.at;
    acts.push_back(a);
    std::stable_sort(acts.begin(), acts.end(), [](const Act& x, const Act& y) { return x.at < y.at; });
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

    /// @param warmer K, than the sortie has it: the air and its dew point
    explicit BadDay(flight::LoadedSortie l, double warmer = 0.0)
        : loaded(on(std::move(l), warmer)), plan(flight::fly(*loaded.aircraft, *loaded.sortie)),
          reference(hand::doDrill(*loaded.aircraft, *loaded.sortie, plan, hand::byThePlansClock)),
          hand(hand::doDrill(*loaded.aircraft, *loaded.sortie, plan, hand::asTheDayIs)), acts(rehearse::actsOf(hand)),
          good(fly(acts)), harm(rehearse::harmOf(*good)) {}
    static flight::LoadedSortie on(flight::LoadedSortie l, double warmer) {
        auto& day = l.sortie->day;
        day.oat = Temperature::si(day.oat.si() + warmer);
        day.dewPoint = Temperature::si(std::min(day.oat.si(), day.dewPoint.si() + warmer));
        return l;
    }
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
    bool told = false; ///< anything at all is said of it: an aim, a limit, an act
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
    out.told = out.blamed || !d.nothingToMend();
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
