// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include "start/start_school.h"

namespace amber::plan {

/// Everything the start page shows, computed once for a sortie, and its words.
class StartWords {
public:
    StartWords(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

    [[nodiscard]] const StartNotes& inForce() const { return inForce_; }
    [[nodiscard]] const start::PrimeAdvice& prime() const { return prime_; }
    [[nodiscard]] const watch::WalkRound& walk() const { return walk_; }
    [[nodiscard]] std::vector<start::SequenceLine> sequence() const;
    [[nodiscard]] std::vector<start::ComparedOrder> orders() const;

    /// "3 strokes each"; with an airframe's extra doses engine by engine, marked logged.
    [[nodiscard]] Filled primeText() const;
    /// Where the dose comes from, in words; says when the notes' table ends before.
    [[nodiscard]] std::string beyondTable() const;
    /// "No. 3, then No. 4".
    [[nodiscard]] std::string orderText() const;
    /// Figures for the placeholders blades, vaporise, warm-up-rpm, slow-rpm and hot-air; nothing for other names.
    [[nodiscard]] std::optional<Filled> figure(std::string_view name) const;

    void walkClocks(PhasePlan& page) const;
    /// Each tank by dip and what its gauge should show as she stands.
    void groundFuel(PhasePlan& page) const;
    void startClocks(PhasePlan& page) const;
    /// The dose and everything about it, for the priming page.
    void priming(PhasePlan& page) const;
    /// Cold-weather advice and what the choices come to; stoppers of the walk-round.
    void remarks(Phase phase, PhasePlan& page) const;

private:
    void turning(PhasePlan& page) const;
    void frost(PhasePlan& page) const;
    [[nodiscard]] std::string temperature(Temperature t) const;

    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const flight::Flown& f_;
    StartNotes inForce_;
    start::StartRequest request_;
    start::PrimeAdvice prime_;
    start::Cranking cranking_;
    watch::WalkRound walk_;
};

/// How she stands: the sortie's attitude, else the notes'.
double groundAttitude(const TypeNotes& notes, const Sortie& sortie);
/// How the fuel is kept from a flooded engine: "mixture at cut-off", or "fuel cock off" where no lever has one.
std::string fuelOff(const TypeNotes& notes);

} // namespace amber::plan
