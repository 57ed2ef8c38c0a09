// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/figures.h"
#include "plan/plan.h"
#include "plan/start_words.h"
#include "units/text.h"
#include <cmath>
#include <set>

namespace amber::plan {

inline double roundTo(double value, double step) {
    return std::round(value / step) * step;
}
/// Words for one sortie already flown in figures: what makePlan() runs. Figures in the cockpit's units and placeholders
/// in describer_figures.cpp, the Clock column in describer_clocks.cpp.
class Describer {
public:
    Describer(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown)
        : a_(aircraft), n_(aircraft.notes), s_(sortie), f_(flown), words_(aircraft, sortie, flown) {}
    /// Everything but the figures themselves.
    Plan run();

private:
    // ---- figures in the cockpit's units
    [[nodiscard]] std::string height(Length h) const { return formatHeight(h.si(), *n_.cockpit.height); }
    [[nodiscard]] std::string boost(double si) const { return format(si, n_.unitOf(Gauge::boost)); }
    [[nodiscard]] std::string rpm(double revsPerSecond) const;
    [[nodiscard]] std::string speed(Speed v) const { return format(v.si(), *n_.cockpit.speed); }
    /// Less than ten of the gauge's unit is written to a tenth.
    [[nodiscard]] std::string fuel(double cubicMetres) const;
    [[nodiscard]] std::string temperature(Temperature t) const { return format(t.si(), *n_.cockpit.temperature); }
    [[nodiscard]] static std::string minutes(double seconds);
    [[nodiscard]] std::string gearName(std::size_t gear) const;
    [[nodiscard]] std::string mixtureName(Mixture m) const;
    [[nodiscard]] std::string tankName(int index) const;
    /// "Fuel to Rear", "Transfer from Tip", "Front to reserve"
    [[nodiscard]] std::string tankText(const flight::TankChange& change) const;
    /// Why a tank is changed there, and by what it is known.
    [[nodiscard]] std::string tankReason(const flight::TankChange& change) const;
    [[nodiscard]] bool knowsWind() const;
    /// Weights, balance, trim and fuel needed.
    void loadClocks(PhasePlan& p) const;
    // ---- placeholders
    /// A placeholder's figure; what the notes leave out and is estimated is marked as ours.
    [[nodiscard]] Filled figure(Phase phase, std::string_view name) const;
    [[nodiscard]] Filled asPlanned(Phase phase, std::string_view name) const;
    /// A figure of the drill in the cockpit's units and words.
    [[nodiscard]] std::string toldFigure(const advice::Figure& figure) const;
    /// "800 rpm; 1,000 from oil 12 °C; 1,200 from 30 °C"
    [[nodiscard]] std::string warmUpSteps() const;
    [[nodiscard]] Temperature forecast() const { return s_.forecast.value_or(s_.day.oat); }
    /// "30 inHg for 10 s each 5 min"
    [[nodiscard]] Filled clearing() const;
    [[nodiscard]] std::string brief() const;
    [[nodiscard]] std::string degrees(double kelvin) const;
    /// What the intercooler's flap does to the charge at the end of the climb.
    void intercoolerClock(PhasePlan& p) const;
    /// Let-down: how fast it cools against how fast it may.
    void coolingClocks(PhasePlan& p) const;
    /// "2 strokes", "1 stroke"
    [[nodiscard]] std::string doses(double dose) const;
    void stopClocks(PhasePlan& p) const;
    void warmUpClocks(PhasePlan& p) const;
    [[nodiscard]] Mass weightAt(Phase phase) const;
    [[nodiscard]] int tankOf(const std::string& id) const;
    [[nodiscard]] int tankAtStartOf(Phase phase) const { return f_.samples[f_[phase].firstSample].tank; }
    // ---- one phase
    PhasePlan describe(Phase phase);
    /// What of the airframe's log it is planned with, and what no longer.
    [[nodiscard]] std::vector<std::string> taughtWords() const;
    /// Adds what engines' needles will show where the log has taught that.
    void needles(ExpectLine& line, Phase phase) const;
    /// Figures of a phase that the notes leave out and that are ours, in one sentence; empty: none.
    [[nodiscard]] std::string estimatesOf(Phase phase) const;
    /// Steps of common practice whose controls stand there already: told in one line.
    void findStanding();
    [[nodiscard]] std::optional<SetLine> asItStands(Phase phase) const;
    /// In a long list, runs of plain acts of common practice in one line, in their order.
    static void gather(std::vector<SetLine>& set);
    SetLine setLine(Phase phase, const Step& step) const;
    void expect(PhasePlan& p, Gauge gauge, double value, Origin origin, const char* moment) const;
    void expectations(Phase phase, PhasePlan& p) const;
    [[nodiscard]] bool worstIsFirst(Gauge gauge, Phase phase, double first, double highest) const;
    void ratingClock(PhasePlan& p, Phase phase) const;
    void clocks(Phase phase, PhasePlan& p) const;
    void letDownClock(PhasePlan& p) const;
    [[nodiscard]] double powerShare(Phase phase) const;
    void knockMargin(Phase phase, PhasePlan& p) const;
    void iceClock(Phase phase, PhasePlan& p) const;
    /// When hot air is used against ice in a phase: under boost cold before power, without a blower after it.
    static std::string_view heatWhen(Phase phase, bool boosted);
    /// Loss of boost over a thousand feet (300 m) with the throttle left where it is.
    [[nodiscard]] double boostFall(Phase phase) const;
    [[nodiscard]] std::string changeReason(const flight::GearChange& change) const;
    [[nodiscard]] const UnitSpec& fuelFlowUnit() const;
    [[nodiscard]] std::string headline(Phase phase, const PhasePlan& p) const;
    void marks(Plan& plan) const;
    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const flight::Flown& f_;
    const watch::RunUpSheet* sheet_ = nullptr;
    StartWords words_;
    std::set<std::pair<Phase, std::string>> standing_;
};

} // namespace amber::plan
