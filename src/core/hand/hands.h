// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/figures.h"
#include "powerplant/powerplant.h"
#include <array>
#include <optional>
#include <string>
#include <utility>
#include <vector>

/// Hands on the controls of an aircraft, and the path that is flown with them.
namespace amber::hand {

/// One control of one engine put somewhere: enough to do the same again.
struct Put {
    powerplant::Milliseconds at = 0;
    std::size_t control = 0; ///< index into the notes' controls
    std::size_t engine = 0;
    advice::Figure to;
    double over = 0.0;   ///< s, moved gradually
    bool linked = false; ///< it followed another
};

/// Where one control of one engine was put last.
struct At {
    std::string position;            ///< what it means; empty: a figure
    std::optional<double> share, si; ///< of its travel; SI
    bool operator==(const At&) const = default;
};

/// What turns an engine for its start: let go between two tries.
inline constexpr std::array startingControls{Acts::starter, Acts::mesh, Acts::airValve, Acts::boosterCoil};

/// What the controls of a cockpit do to the levers that its engines feel: the one way from a control put in a position,
/// at a share of its travel or to a figure, to powerplant::Levers. The careful hand and the rehearsal both move through
/// it. What is moved gradually, and strokes of a primer, go on by `advance`.
class Hands {
public:
    /// Every control where it is found on an aircraft left for the night. @param plant must outlive it
    /// @param thinning of the oil, viscosity over undiluted
    explicit Hands(const powerplant::Powerplant& plant, double thinning = 1.0);

    /// A control of one engine, and what is linked to it. A figure that is no position of its kind is felt by none.
    /// @param state where levers and needles are now, for what moves gradually
    /// @return what was put: the control, and those that followed it
    std::vector<Put> put(std::size_t control, const advice::Figure& to, std::size_t engine, double over,
                         const powerplant::AircraftState& state);
    /// The control that acts on this put in a position, where the type has one.
    std::vector<Put> put(Acts on, const std::string& position, std::size_t engine,
                         const powerplant::AircraftState& state);
    /// Levers on their way and strokes of the primer, as far as they are at a moment.
    void advance(powerplant::Milliseconds now);
    /// Levers on their way stay where they are.
    void letGo() { ramps_.clear(); }

    /// rev/s that a governed propeller's lever asks for at full coarse (an estimate) and at full fine: the notes'
    /// fastest rating.
    [[nodiscard]] std::pair<double, double> governed() const;
    /// Where a control was put last, or is found.
    [[nodiscard]] const At& at(std::size_t control, std::size_t engine) const {
        return at_[control * levers_.engines.size() + engine];
    }
    [[nodiscard]] const powerplant::Levers& levers() const { return levers_; }
    [[nodiscard]] powerplant::Levers& levers() { return levers_; }

private:
    struct Ramp {
        std::size_t engine;
        double from, to;
        powerplant::Milliseconds begin, end;
        bool throttle; ///< else rpm
    };
    struct Strokes {
        std::size_t engine;
        powerplant::Milliseconds begin, end;
        double rate; ///< doses a second
    };
    void move(const Control& control, const advice::Figure& to, std::size_t engine, double over,
              const powerplant::AircraftState& state);
    void throttle(const advice::Figure& to, std::size_t engine, double over, const powerplant::AircraftState& state);
    void ramp(std::size_t engine, bool throttle, double from, double to, double over, powerplant::Milliseconds now);

    const powerplant::Powerplant* plant_;
    powerplant::Levers levers_;
    std::vector<At> at_; ///< control by control, engine by engine
    std::vector<Ramp> ramps_;
    std::vector<Strokes> strokes_;
};

} // namespace amber::hand
