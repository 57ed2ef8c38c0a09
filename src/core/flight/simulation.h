// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/permitted_boost.h"
#include "flight/flown.h"
#include "loading/load_sheet.h"
#include "loading/tank_sequence.h"
#include "powerplant/powerplant.h"
#include "watch/watch.h"
#include <memory>
#include <vector>

namespace amber::flight {

/// Flies one sortie in figures, phase by phase: what fly() runs. Ground phases in simulation_ground.cpp, those in the
/// air in simulation_air.cpp; nothing else of the plan sees it.
class Simulation {
public:
    /// @param pace strides, or short steps: slow, to hold the strides against
    Simulation(const powerplant::Aircraft& aircraft, const Sortie& sortie, Pace pace = Pace::strides);
    Flown run();

private:
    // ---- bookkeeping
    [[nodiscard]] double time() const { return static_cast<double>(state_.now) / 1000.0; }
    [[nodiscard]] double total() const;
    [[nodiscard]] int tankIndex(std::string_view id) const;
    [[nodiscard]] Mass weight() const { return plant_->weight(state_); }
    /// Of the engine that is drawn: the one that fires last.
    [[nodiscard]] heat::Temperatures temperatures() const { return temperaturesOf(state_.engines[drawn_]); }
    static heat::Temperatures temperaturesOf(const powerplant::EngineState& engine) {
        return {Temperature::si(engine.headOrCoolant), Temperature::si(engine.oil)};
    }
    [[nodiscard]] Length pressureAltitude() const { return day_.pressureAltitudeOf(Length::si(state_.height)); }
    [[nodiscard]] air::Ambient air() const { return day_.at(pressureAltitude()); }
    /// Notes a finding of a phase, at this moment.
    void say(Phase phase, watch::Rule rule, std::string sentence);
    void begin(Phase phase);
    void end();
    void switchTo(int tank, bool dry, bool beforeBadGround = false);
    void markTank(TankChange::Kind kind, int tank);
    /// Begins and ends the pumping of transfer tanks over a stretch, m³ moved.
    void transfer(double seconds);
    /// Changes from the take-off tank in the climb, where that is due.
    void feedInClimb();
    /// Lets the drop tanks go.
    void release();
    /// Wind on the track that is flown, at this height: from the field's to that aloft in proportion to the height.
    [[nodiscard]] air::WindOnTrack windAtHeight(double height) const;
    [[nodiscard]] air::WindOnTrack wind() const { return windAtHeight(state_.height); }
    [[nodiscard]] std::size_t legNow() const;
    /// Verdicts on weight and balance from the ramp to the stop.
    void balance();
    /// The levers of an engine at a setting.
    [[nodiscard]] powerplant::EngineLevers leversOf(const Setting& setting) const;
    /// The one place where time goes by: the engines at their settings (one, or one each; null: standing) along a path.
    /// Ends where a tank runs dry and goes on from the fullest.
    struct At {
        Setting setting;
        engine::OperatingPoint point;
    };
    void advance(const std::vector<const At*>& engines, double seconds, const powerplant::Path& path);
    void advance(const At& all, double seconds, double rate = 0.0);
    void go(const std::vector<const At*>& engines, double seconds, const powerplant::Path& path);
    /// Height that a change of held speed brings, m: negative for a faster one.
    [[nodiscard]] double heightOf(double from, double to) const;
    /// Next tank, where the one in use is empty.
    void dryTank();
    /// A point of every engine's trace.
    void trace();
    void note(const Setting& setting, const engine::OperatingPoint& point, bool running);
    engine::OperatingPoint operate(const Setting& s) const { return engine::operate(a_.model(), demand(s)); }
    [[nodiscard]] engine::Demand demand(const Setting& s) const;
    /// Knock boundary at a phase's setting; beyond it is said, and only the notes decide.
    void nearKnock(const Setting& setting, const engine::OperatingPoint& point);
    void tellKnock();
    void ice(Phase phase);
    [[nodiscard]] engine::IceAdvice iceOf(Setting setting) const;
    /// Share of hot air that keeps it clear from here to the circuit.
    double heatOnTheWayDown(const Setting& setting);
    heat::Drive drive(const Setting& s, const engine::OperatingPoint& p) const;
    /// Dilution boils out while it warms: reckoned until the run-up.
    [[nodiscard]] double thinning() const { return phase_ < Phase::runUp ? oilThinning(n_, s_) : 1.0; }
    /// Blanks stay on until the take-off.
    [[nodiscard]] bool blanked() const { return s_.start.blanks && phase_ < Phase::takeOff; }
    /// Runs for a time at a constant setting, climbing at a rate.
    void steady(const Setting& setting, double duration, double step, double rate = 0.0);
    void standing(double duration);
    /// The rpm on the ground, by throttle, on the fine stop.
    [[nodiscard]] Setting groundSetting(Rotation rpm, double coolingFlap) const;
    [[nodiscard]] Setting ratedSetting(Phase phase, const Rating& rating) const;
    [[nodiscard]] Setting ratedSetting(Phase phase) const { return ratedSetting(phase, ratingFor(n_, s_, phase)); }
    /// Puts time on the clock of a phase's rating.
    void use(Phase phase, const Rating& rating, double seconds);
    /// The strongest rating under this one that still has time; null when there is none.
    [[nodiscard]] const Rating* nextWeaker(const Rating& rating, const Setting& s) const;
    /// What the propeller makes of a setting in the air: with a fixed or two-position one the rpm follows throttle and
    /// speed, and the throttle is held back rather than pass the wanted rpm.
    [[nodiscard]] Setting settled(Setting s, const engine::BladeAngle& blades) const;
    [[nodiscard]] Setting settled(const Setting& s) const { return settled(s, a_.propeller.coarse); }
    [[nodiscard]] Setting notedSetting(Phase phase);
    /// Where the drill in force has put what acts on this since a phase's beginning, before another's last steps;
    /// empty: it was not touched.
    [[nodiscard]] std::string putIn(Acts acts, Phase from, Phase phase) const;
    /// Whether a two-position propeller is fine again for the landing.
    [[nodiscard]] bool fineForLanding() const;
    /// No setting beyond a limit of the notes, whatever the ratings say.
    void limit(Setting& s, Phase phase) const;
    // ---- phases
    void load();
    void walkRound();
    void start();
    /// Tries in vain that are foreseen, and what would spare them.
    void tellTries(const StartNotes& inForce, const start::StartRequest& request);
    [[nodiscard]] bool warmEnough(const heat::Temperatures& t, Temperature oil,
                                  std::optional<Temperature> headOrCoolant) const;
    class WarmUp; ///< settings of the warm-up, by oil temperature
    /// Warms for a time at the steps' rpm.
    void warmFor(WarmUp& warm, double duration);
    void warmUp();
    void groundBudget(const Setting& taxi);
    void runUp();
    /// The checks of the run-up as the drill has them: settings one after the other, each for its seconds, engine by
    /// engine where it goes so. None where the notes have no acts. @param reference the setting at field pressure
    [[nodiscard]] std::vector<std::pair<Setting, double>> runUpChecks(const Setting& reference) const;
    void takeOff();
    /// s from a standstill to the lift-off speed, at a setting.
    [[nodiscard]] double rollTime(const Setting& setting, Speed liftOff) const;
    [[nodiscard]] Speed climbSpeed() const;
    /// By the notes' rule: boost has fallen by so much at full throttle; by the school that waits, the other gear gives
    /// as much power too.
    [[nodiscard]] bool timeToChange(const Rating& rating, const Setting& s, const engine::OperatingPoint& p) const;
    /// Power, one engine, that the next gear gives more here; negative: less.
    [[nodiscard]] double powerGained(const Rating& rating, const Setting& s, const engine::OperatingPoint& p) const;
    [[nodiscard]] std::optional<Length> gearHeight(const Rating& rating, Setting s, std::size_t gear) const;
    /// Boost of a rating in a gear, with the grade's cut in proportion and within the limit.
    /// What may be set at this height, and what binds. @param s its gear, rpm, mixture and water
    [[nodiscard]] engine::PermittedBoost boostThere(const Rating& rating, const Setting& s, Phase phase) const;
    [[nodiscard]] std::optional<ManifoldPressure> boostInGear(const Rating& rating, const Setting& s) const;
    /// Pressure altitude where the next gear gives as much power at this setting.
    [[nodiscard]] std::optional<Length> equalPower(const Rating& rating, const Setting& s, std::size_t from) const;
    void climb();
    /// The lowest gear that holds the boost; else the one with most power.
    void chooseGear(Setting& s) const;
    /// What the let-down needs over the ground, so that the cruise ends in time.
    [[nodiscard]] double letDownDistance() const;
    /// Rate of descent that a setting gives here, m/s down, by the drag polar.
    [[nodiscard]] double sinkAt(const Setting& s) const;
    /// A setting at whose power she comes down so fast, m/s, at its speed: boost solved for, or rpm where that follows
    /// the throttle. The nearest there is where throttle shut or the cruise's power do not reach it.
    [[nodiscard]] Setting forRate(const Setting& asked, double rate) const;
    /// Flies level at a setting: its gear chosen, its speed settled. @return the true airspeed
    /// True airspeed level here; nothing where this power does not hold the height.
    [[nodiscard]] std::optional<Speed> levelAt(Setting& s) const;
    /// The same; where it is not held, down to where it is, and that is said.
    Speed levelled(Setting& s);
    void cruise();
    /// The let-down's setting, its power `share` of the way from what the rate needs up to the cruise's.
    [[nodiscard]] Setting eased(const Setting& low, const Setting& high, double share) const;
    /// The notes' rate and speed give the power, the rate follows where more is kept. Power is taken off by steps of a
    /// minute: the least at which heads or coolant fall no faster than they may and
    /// stay above their least; the flaps go shut where even that is too little.
    void letDown();
    void landing();
    void stop();
    void reserve();
    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const air::Day& day_;
    Temperature soaked_ = engineTemperatureOf(s_); ///< of the engines until each is started
    Pace pace_;
    std::shared_ptr<const powerplant::Powerplant> plant_;
    struct KnockAsked {
        Phase phase;
        std::size_t gear;
        Mixture mixture;
        double height, boost;
    };
    std::optional<KnockAsked> knockAsked_; ///< where it was asked last
    const engine::KnockBoundary& knock_;
    powerplant::AircraftState state_;
    powerplant::Levers levers_;
    powerplant::Run run_;
    std::size_t drawn_ = 0;
    bool fineLanding_ = false; ///< a two-position propeller, once the landing has begun
    std::optional<At> last_;   ///< what all engines ran at last
    Flown out_;
    Phase phase_ = Phase::walkRound;
    double fuelBefore_ = 0.0, distanceBefore_ = 0.0, engines_ = 1.0;
    watch::Watch watch_;
    int tank_ = 0;
    loading::Sheet sheet_;
    loading::TankSequence sequence_;
    std::vector<bool> pumping_;
    bool released_ = false, onReserve_ = false;
    std::vector<double> legEnds_; ///< m flown
    bool dry_ = false, trial_ = false;
    std::optional<engine::IceAdvice> onTheWayDown_; ///< the worst of the let-down
};

} // namespace amber::flight
