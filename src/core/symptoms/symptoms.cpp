// SPDX-License-Identifier: GPL-3.0-or-later
#include "symptoms/symptoms.h"
#include "symptoms/harm.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace amber::trouble {
namespace {
// How likely a sign is by how surely a cause shows it, and one that it does not show: our own figures, of the order in
// which crews speak of them.
constexpr double surely = 0.9, usually = 0.7, sometimes = 0.35;
constexpr double stray = 0.04;    // a sign that has nothing to do with the cause
constexpr double stands = 0.9;    // a needle that the cause does not move
constexpr double otherPace = 0.5; // it moves that way, faster or slower
constexpr double opposite = 0.02;
constexpr double plausibleFrom = 0.2;
constexpr double supportedFrom = 0.25;               // chance of the causes that an act treats
constexpr double sureFrom = 0.6, certainFrom = 0.85; // the same where it cannot be undone: with two signs; with one
constexpr double flamesUnseen = 0.1;                 // nobody overlooks them

double chance(Shows shows) {
    return shows == Shows::surely ? surely : shows == Shows::usually ? usually : sometimes;
}

/// A chance of seeing the second where the first is expected.
double alike(Way expected, Way seen) {
    if (expected == seen)
        return 1.0;
    if ((isUp(expected) && isUp(seen)) || (isDown(expected) && isDown(seen)))
        return otherPace;
    if (expected == Way::flickers || seen == Way::flickers)
        return expected == Way::still || seen == Way::still ? 0.0 : 0.25;
    return 0.0;
}

double likelihood(const Pattern& p, const Sign& seen) {
    double best = -1.0, moves = 0.0;
    bool told = false;
    for (const auto& e : p.signs) {
        if (!seen.isNeedle()) {
            if (e.sign == seen)
                return chance(e.shows);
            continue;
        }
        if (!e.sign.isNeedle() || e.sign.gauge != seen.gauge)
            continue;
        told = true;
        if (e.sign.way == Way::still)
            moves = std::max(moves, 1.0 - chance(e.shows));
        else
            moves = std::max(moves, chance(e.shows));
        best = std::max(best, chance(e.shows) * alike(e.sign.way, seen.way));
    }
    if (!seen.isNeedle())
        return stray;
    if (!told)
        return seen.way == Way::still ? stands : stray;
    if (seen.way == Way::still)
        return std::max(best, 1.0 - moves);
    return std::max(best, opposite);
}
/// How likely, by our own estimates, a sign is where nothing is wrong but a setting, the weather or the needle itself.
double likelihoodOfNothing(const Sign& seen) {
    if (!seen.isNeedle())
        switch (seen.felt) {
        case Felt::smellOfFuel: // a vent, a spill
        case Felt::oilOnCowl:   // radials leave some
            return 0.15;
        case Felt::rough:
        case Felt::shake:
        case Felt::smellOfOil:
        case Felt::blackSmoke:
            return 0.06;
        case Felt::flames:
            return 0.001;
        default:
            return rowOf(seen.felt).sense == Sense::when ? 0.3 : 0.02;
        }
    if (seen.way == Way::still)
        return 0.8;
    // Oil and fuel pressure that fall are never put down to nothing.
    return !isUp(seen.way) && (seen.gauge == Gauge::oilPressure || seen.gauge == Gauge::fuelPressure) ? 0.03
           : seen.way == Way::risesFast || seen.way == Way::fallsFast                                 ? 0.12
                                                                                                      : 0.25;
}

Pattern nothingWrong() {
    Pattern p;
    p.key = "none";
    p.name = "Nothing: a setting, the weather, the needle itself";
    p.toldBy = "Its neighbours stand as they should.";
    p.acts = {FirstAct::look};
    p.grave = Grave::nuisance;
    return p;
}

class Decides {
public:
    Decides(const TypeNotes& n, const Context& c, const std::vector<Cause>& causes) : c_(c), causes_(causes) {
        for (const auto& row : firstActs)
            if (row.act == FirstAct::look || (isUsed(row.act) && impossible(row.act, n, c).empty()))
                possible_.push_back(row.act);
        // Reckoned once: the chances are moved afterwards.
        for (const FirstAct act : possible_) {
            std::vector<double> of;
            for (const auto& cause : causes)
                of.push_back(leftAfter(act, cause.pattern, n, c));
            harm_.push_back(std::move(of));
            cost_.push_back(costOf(act, n, c.stage()));
        }
    }
    struct Choice {
        FirstAct act = FirstAct::look, wanted = FirstAct::look; ///< done; least harm if it were sure enough
        double harm = 0.0;
    };
    /// @param chances of the causes; they need not add up to 1 @param finals what cannot be undone is among the acts
    [[nodiscard]] Choice choose(const std::vector<double>& chances, bool finals = true) const {
        double sum = 0.0;
        for (const double p : chances)
            sum += p;
        Choice out;
        double least = std::numeric_limits<double>::infinity(), leastWanted = least;
        for (std::size_t a = 0; a < possible_.size(); ++a) {
            double harm = cost_[a];
            for (std::size_t i = 0; i < chances.size(); ++i)
                harm += chances[i] / sum * harm_[a][i];
            if (harm < leastWanted) {
                leastWanted = harm;
                out.wanted = possible_[a];
            }
            if (harm < least && (finals || !isFinal(possible_[a])) && isSure(possible_[a], chances, sum)) {
                least = harm;
                out.act = possible_[a];
            }
        }
        out.harm = least;
        return out;
    }
    [[nodiscard]] bool isFinal(FirstAct act) const { return rowOf(act).final && (c_.stages() & flying) != 0; }

private:
    [[nodiscard]] bool isUsed(FirstAct act) const {
        return act == FirstAct::ease || std::any_of(causes_.begin(), causes_.end(), [&](const Cause& c) {
                   return std::find(c.pattern.acts.begin(), c.pattern.acts.end(), act) != c.pattern.acts.end();
               });
    }
    /// What only helps in a rare case is no first act, however grave the case; what cannot be undone wants a cause that
    /// is all but certain, or likely with two signs of it.
    [[nodiscard]] bool isSure(FirstAct act, const std::vector<double>& chances, double sum) const {
        if (act == FirstAct::look || act == FirstAct::ease)
            return true;
        double for_ = 0.0;
        bool signs = false;
        for (std::size_t i = 0; i < causes_.size(); ++i) {
            const auto& p = causes_[i].pattern;
            if (std::find(p.acts.begin(), p.acts.end(), act) == p.acts.end())
                continue;
            for_ += chances[i] / sum;
            signs = signs || causes_[i].fits.size() >= 2;
        }
        if (!isFinal(act))
            return for_ >= supportedFrom;
        return for_ >= certainFrom || (signs && for_ >= sureFrom);
    }
    const Context& c_;
    const std::vector<Cause>& causes_;
    std::vector<FirstAct> possible_;
    std::vector<std::vector<double>> harm_;
    std::vector<double> cost_;
};

std::string ownWords(FirstAct act, const Pattern& p, const TypeNotes& n, const Context& c) {
    return !p.ownAct.empty() && !p.acts.empty() && p.acts.front() == act ? p.ownAct : wordsOf(act, n, c);
}
} // namespace

// Factors are ours, of the order in which crews speak of them; temperatures in K, times in s.
double chanceBefore(const Pattern& p, const Context& c) {
    if ((p.stages & c.stages()) == 0)
        return 0.0;
    double x = p.prior;
    const auto is = [&](std::string_view key) { return p.key == key; };
    if (is("carburettor-ice") && c.ice) {
        constexpr std::array by{0.1, 0.6, 2.5, 6.0};
        x *= by[static_cast<std::size_t>(std::clamp(*c.ice, 0, 3))];
    }
    if (is("tank-dry")) {
        if (c.tankLeft)
            x *= *c.tankLeft < 120.0 ? 6.0 : *c.tankLeft < 600.0 ? 2.0 : *c.tankLeft > 1800.0 ? 0.25 : 1.0;
        if (c.tankChanged && *c.tankChanged < 120.0)
            x *= 5.0;
    }
    if (is("vapour-lock") && c.oat)
        x *= *c.oat > 298.0 ? 2.0 : *c.oat < 288.0 ? 0.3 : 1.0;
    if (is("cooler-congealed") && c.oat)
        x *= *c.oat < 263.0 ? 2.5 : *c.oat > 283.0 ? 0.05 : 1.0;
    if (c.doses && c.firesFrom && c.firesTo) {
        const bool few = *c.doses<*c.firesFrom, many = *c.doses> * c.firesTo;
        if (is("dry"))
            x *= few ? 6.0 : many ? 0.02 : 1.0;
        if (is("flooded"))
            x *= many ? 6.0 : few ? 0.02 : 1.0;
    }
    if (is("too-cold") && c.metal)
        x *= *c.metal < 268.0 ? 3.0 : *c.metal > 283.0 ? 0.05 : 1.0;
    if (is("hot-vapour") && c.metal)
        x *= *c.metal > 333.0 ? 4.0 : *c.metal < 313.0 ? 0.05 : 1.0;
    if (is("flat-battery") && c.tries)
        x *= *c.tries >= 3 ? 3.0 : *c.tries == 0 ? 0.7 : 1.0;
    if (is("water-in-fuel") && c.rain)
        x *= 4.0;
    if (is("clutch-slips") && c.highGear)
        x *= *c.highGear ? 1.0 : 0.05;
    if (is("water-fails") && c.wet)
        x *= *c.wet ? 1.0 : 0.02;
    if ((is("detonation") || is("pre-ignition")) && c.phase)
        x *= *c.phase == Phase::takeOff || *c.phase == Phase::climb ? 1.5 : 0.7;
    return x;
}

std::string firstActOf(const Pattern& p, const TypeNotes& n, const Context& c) {
    for (const FirstAct act : p.acts)
        if (impossible(act, n, c).empty())
            return ownWords(act, p, n, c);
    return wordsOf(FirstAct::look, n, c);
}

Diagnosis diagnose(const TypeNotes& n, std::span<const Sign> noticed, const Context& context) {
    Diagnosis out;
    if (noticed.empty())
        return out;
    auto patterns = patternsFor(n);
    patterns.push_back(nothingWrong());
    for (const auto& p : patterns) {
        const double before = chanceBefore(p, context);
        if (before <= 0.0)
            continue;
        Cause c;
        c.pattern = p;
        const bool nothing = p.key == "none";
        double fit = std::log(before);
        for (const auto& seen : noticed) {
            const double l = nothing ? likelihoodOfNothing(seen) : likelihood(p, seen);
            fit += std::log(l);
            if (!nothing && l >= sometimes * otherPace && !(seen.isNeedle() && seen.way == Way::still))
                c.fits.push_back(seen);
            else if (!nothing && l <= 0.12)
                c.against.push_back(seen);
        }
        // What it would surely show and was not noticed speaks against it, a little: one looks at few things at once.
        for (const auto& e : p.signs) {
            const bool looked = std::any_of(noticed.begin(), noticed.end(), [&](const Sign& s) {
                return s == e.sign || (s.isNeedle() && e.sign.isNeedle() && s.gauge == e.sign.gauge);
            });
            // Nor what this cockpit has no needle for, nor the air, which the plan knows.
            if (looked || (e.sign.isNeedle() && (e.sign.way == Way::still || !n.gauges.contains(e.sign.gauge))) ||
                (e.sign == Sign(Felt::inDampAir) && context.ice))
                continue;
            fit += std::log(e.sign == Sign(Felt::flames) ? flamesUnseen
                            : e.shows == Shows::surely   ? 0.6
                            : e.shows == Shows::usually  ? 0.85
                                                         : 0.97);
            if (e.shows != Shows::sometimes)
                c.lookFor.push_back(e.sign);
        }
        c.fit = std::exp(fit);
        if (!c.fits.empty() || nothing) // what fits nothing that moved is no cause
            out.causes.push_back(std::move(c));
    }
    double sum = 0.0;
    for (const auto& c : out.causes)
        sum += c.fit;
    for (auto& c : out.causes)
        c.fit /= sum;
    std::stable_sort(out.causes.begin(), out.causes.end(),
                     [](const Cause& a, const Cause& b) { return a.fit > b.fit; });
    // Oil and fuel pressure are never put down to a gauge first.
    const auto hazards = [](const Cause& c) {
        return std::any_of(c.pattern.signs.begin(), c.pattern.signs.end(), [](const Expected& e) {
            return e.sign.isNeedle() && isDown(e.sign.way) &&
                   (e.sign.gauge == Gauge::oilPressure || e.sign.gauge == Gauge::fuelPressure);
        });
    };
    if (out.causes.front().pattern.gauge && hazards(out.causes.front())) {
        const auto real = std::find_if(out.causes.begin() + 1, out.causes.end(),
                                       [&](const Cause& c) { return !c.pattern.gauge && hazards(c); });
        if (real != out.causes.end())
            std::rotate(out.causes.begin(), real, real + 1);
    }
    const double best = std::max(out.causes.front().fit, out.causes.size() > 1 ? out.causes[1].fit : 0.0);
    std::size_t gravest = 0;
    const auto weight = [&](const Cause& c) { return c.fit * leftAlone(c.pattern, context.stage()); };
    for (std::size_t i = 0; i < out.causes.size(); ++i) {
        auto& c = out.causes[i];
        c.plausible = i == 0 || c.fit >= plausibleFrom * best;
        c.then = firstActOf(c.pattern, n, context);
        if (c.plausible && weight(c) > weight(out.causes[gravest]))
            gravest = i;
    }
    std::vector<double> chances;
    for (const auto& c : out.causes)
        chances.push_back(c.fit);
    const Decides decides(n, context, out.causes);
    auto chosen = decides.choose(chances);
    out.unsure = decides.isFinal(chosen.wanted) && chosen.wanted != chosen.act;
    for (std::size_t i = 0; i < chances.size() && !out.unsure; ++i)
        for (const double by : {0.5, 2.0}) {
            auto moved = chances;
            moved[i] *= by;
            const auto other = decides.choose(moved);
            if (other.act != chosen.act && (decides.isFinal(other.act) || decides.isFinal(chosen.act)))
                out.unsure = true;
        }
    // Unsure, nothing is done that cannot be undone.
    if (out.unsure && decides.isFinal(chosen.act))
        chosen = decides.choose(chances, false);
    out.unsure = out.unsure || chosen.act == FirstAct::look;
    out.first = chosen.act;
    out.harm = chosen.harm;
    // Whose act it is: of the causes that it treats the one that weighs most.
    out.forCause = gravest;
    double most = -1.0;
    for (std::size_t i = 0; i < out.causes.size(); ++i) {
        const auto& acts = out.causes[i].pattern.acts;
        if (chosen.act != FirstAct::look && std::find(acts.begin(), acts.end(), chosen.act) != acts.end() &&
            weight(out.causes[i]) > most) {
            most = weight(out.causes[i]);
            out.forCause = i;
        }
    }
    const auto& of = out.causes[out.forCause].pattern;
    out.act = ownWords(chosen.act, of, n, context);
    out.drill = of.drill && chosen.act != FirstAct::look ? of.drill : drillOf(chosen.act, n, context);
    out.test = out.causes[gravest].pattern.toldBy;
    return out;
}

} // namespace amber::trouble
