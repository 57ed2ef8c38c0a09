// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/priming.h"
#include <algorithm>
#include <cmath>

namespace amber::start {
namespace {
constexpr double celsiusZero = 273.15;
constexpr double coolingTime = 2400.0;      // s, a standing engine
constexpr double roundUpFrom = 0.25;        // a quarter stroke short is let pass
constexpr double drawnThrough = 1.5;        // times faster in moving air
constexpr double leastPart = 0.35;          // of the best mixture, that the wanted dose itself gives at least
constexpr double leastBest = 0.6;           // doses: one never floods a warm engine
constexpr double mostGrown = 3.0;           // times the coldest entry's dose
constexpr double next = 0.1;                // to nothing
constexpr double surelyFiring = 1.35;       // of the leanest that fires
constexpr double standardFieldSlack = 0.03; // of pressure, within which the notes' own figure is used as it is

/// Air to carbure over vapour fraction, relative: what the dose must be in proportion to.
double need(double kelvin) {
    return 288.15 / kelvin / vapourFraction(Temperature::si(kelvin));
}

double pressureFactor(Pressure field) {
    return std::clamp(field.si() / standardPressure, 0.3, 1.0);
}
} // namespace

double vapourFraction(Temperature headOrCoolant) {
    return 1.0 / (1.0 + std::exp(-(headOrCoolant.si() - celsiusZero - 14.0) / 16.0));
}

Duration evaporationTime(Temperature engine, double turns) {
    return Duration::si(std::clamp(7.0 * std::exp((288.15 - engine.si()) / 32.0), 1.5, 40.0) /
                        (1.0 + drawnThrough * std::clamp(turns, 0.0, 1.0)));
}

double turnedCarburettor(double metered, Temperature engine) {
    const double f = vapourFraction(engine);
    return 0.95 * metered * f * std::sqrt(f);
}

Duration drainTime(Temperature engine) {
    return Duration::si(180.0 * std::exp(970.0 * (1.0 / std::max(200.0, engine.si()) - 1.0 / 288.15)));
}

Priming::Priming(const StartNotes& notes)
    : table_(notes.prime), unit_(notes.primer), share_(std::clamp(notes.primerShare, 0.0, 1.0)),
      bladesPerDose_(std::max(0.05, notes.bladesPerDose)), openJets_(notes.openJets) {
    if (unit_ == "blades")
        share_ = 1.0; // pulled through by its own table
}

double Priming::dosesIn(double amount, Temperature engine, Pressure field) const {
    if (share_ <= 0.0)
        return amount / bladesPerDose_;
    return amount + (1.0 - share_) * wanted(engine, field);
}

double Priming::wanted(Temperature engine, Pressure field) const {
    if (table_.empty())
        return 0.0;
    const double t = engine.si(), g = need(t);
    if (engine > hotEngine && engine > table_.back().at)
        return 0.0;
    // Colder than the table the need grows on by the model; warmer the last dose stays.
    double dose =
        t < table_.front().at.si() ? table_.front().dose * g / need(table_.front().at.si()) : table_.back().dose;
    if (t >= table_.front().at.si()) {
        for (std::size_t i = 1; i < table_.size(); ++i)
            if (t <= table_[i].at.si()) {
                const double cold = need(table_[i - 1].at.si()), warm = need(table_[i].at.si());
                const double x = cold > warm ? (g - warm) / (cold - warm) : 0.0;
                dose = table_[i].dose + x * (table_[i - 1].dose - table_[i].dose);
                break;
            }
    }
    return dose * pressureFactor(field);
}

Origin Priming::originAt(Temperature engine, Pressure field) const {
    if (table_.empty() || engine.si() < table_.front().at.si() - 0.05 ||
        1.0 - pressureFactor(field) > standardFieldSlack)
        return Origin::model;
    const bool beyond = engine.si() > table_.back().at.si();
    for (const auto& entry : table_)
        if (std::abs(entry.at.si() - engine.si()) < 0.05)
            return Origin::notes;
    if (beyond && engine > hotEngine)
        return Origin::model;
    return beyond ? Origin::notes : Origin::between;
}

double Priming::vapourRatio(double dose, Temperature engine, Pressure field) const {
    return primerPart(engine) * dosesIn(dose, engine, field) / bestDose(engine, field) + carburetted(engine);
}

double Priming::vapourRatio(double dose, Temperature engine, Pressure field, Duration since) const {
    const double t = std::max(0.0, since.si());
    const double jets = carburetted(engine);
    return (vapourRatio(dose, engine, field) - jets) * (1.0 - std::exp(-t / evaporationTime(engine).si())) *
               std::exp(-t / drainTime(engine).si()) +
           jets;
}

double Priming::bestDose(Temperature engine, Pressure field) const {
    return std::max(wanted(engine, field), leastBest);
}

double Priming::carburetted(Temperature engine) const {
    return openJets_ ? turnedCarburettor(meteredCranking, engine) : 0.0;
}

double Priming::primerPart(Temperature engine) const {
    return std::max(leastPart * bestFiring, bestFiring - carburetted(engine));
}

PrimeAdvice Priming::advice(Temperature engine, Pressure field) const {
    PrimeAdvice out;
    // Far below the table no crew pumps on for ever: what that leaves too lean is told by the tries.
    const double exact = std::min(wanted(engine, field), mostGrown * (table_.empty() ? 0.0 : table_.front().dose));
    const bool pulled = share_ <= 0.0;
    out.unit = pulled ? "blades" : unit_;
    out.dose = std::max(0.0, std::ceil(exact * (pulled ? bladesPerDose_ : share_) - roundUpFrom));
    out.blades = pulled ? 0.0 : std::ceil(exact * (1.0 - share_) * bladesPerDose_ - roundUpFrom);
    out.blades = std::max(0.0, out.blades);
    out.origin = share_ < 1.0 ? Origin::model : originAt(engine, field);
    const double none = vapourRatio(0.0, engine, field), one = vapourRatio(1.0, engine, field) - none;
    out.fireLow = std::max(0.0, leanestFiring - none) / one;
    out.fireHigh = std::max(0.0, richestFiring - none) / one;
    out.flood = std::floor(out.fireHigh) + 1.0;
    if (!pulled && out.dose >= out.flood) // rounded up it would flood
        out.dose = out.flood - 1.0;
    // Rounded down it may be too lean to fire: the next whole one, unless that floods or warm jets do without.
    const bool onJets =
        out.dose + out.blades <= 0.0 && turnedCarburettor(meteredCranking, engine) > 1.1 * leanestFiring;
    if (!pulled && !onJets && exact > next && out.dose + 1.0 < out.flood &&
        vapourRatio(out.dose + out.blades / bladesPerDose_, engine, field) < surelyFiring * leanestFiring)
        out.dose += 1.0;
    const double given = std::max(out.dose, out.fireLow * 1.2);
    const double tau = evaporationTime(engine).si();
    // Enough is nine tenths of what will evaporate; it has drained when it falls under the leanest that fires.
    out.vaporise = Duration::si(tau * std::log(10.0));
    const double jets = carburetted(engine), ratio = vapourRatio(given, engine, field) - jets;
    const double least = std::max(next * leanestFiring, leanestFiring - jets);
    out.drain =
        Duration::si(std::max(out.vaporise.si(), drainTime(engine).si() * std::log(std::max(1.0, ratio / least))));
    return out;
}

double Priming::clearingRevolutions(double dose, Temperature engine, Pressure field) const {
    const double ratio = vapourRatio(dose, engine, field);
    if (ratio <= richestFiring)
        return 0.0;
    // A four-stroke cycle takes two revolutions and carries out its share; the goal is the best mixture.
    return std::ceil(2.0 * std::log(ratio / bestFiring) / -std::log(1.0 - carriedPerCycle));
}

Temperature engineTemperature(const Soak& soak, Temperature oat) {
    if (soak.preheated)
        return Temperature::si(std::max(soak.preheated->si(), oat.si()));
    if (!soak.sinceStop)
        return oat;
    const double left = std::exp(-std::max(0.0, soak.sinceStop->si()) / coolingTime);
    return Temperature::si(oat.si() + std::max(0.0, soak.whenStopped.si() - oat.si()) * left);
}

Duration primingTime(const StartNotes& notes, const PrimeAdvice& advice, double dose, bool blades) {
    const double each = advice.unit == "blades" ? std::max(bladeTime, notes.primeTime.si()) : notes.primeTime.si();
    return Duration::si(dose * each + (blades ? advice.blades * bladeTime : 0.0));
}

double inNotesDoses(const StartNotes& notes, const PrimeAdvice& advice, double dose) {
    return notes.primer == "blades"   ? dose
           : notes.primerShare <= 0.0 ? dose / notes.bladesPerDose
                                      : dose + advice.blades / notes.bladesPerDose;
}

double doseFor(const PrimeAdvice& advice, const PrimeLiking& liking, const std::string& engine) {
    double dose = advice.dose;
    if (const auto f = liking.factor.find(engine); f != liking.factor.end() && dose > 0.0)
        dose = std::clamp(std::round(dose * f->second), std::min(dose, std::max(1.0, std::ceil(advice.fireLow))),
                          std::max(dose, std::floor(advice.fireHigh)));
    else if (const auto extra = liking.extra.find(engine); extra != liking.extra.end())
        dose = std::max(0.0, dose + extra->second);
    return dose;
}

} // namespace amber::start
