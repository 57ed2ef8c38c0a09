// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/phase.h"
#include <optional>

namespace amber::trouble {

/// Where she is when something is noticed, as far as causes and acts depend on it.
enum class Stage {
    starting, ///< an engine is being started, or has just fired
    ground,   ///< it runs slowly, on the field
    runUp,    ///< it is opened up, on the field
    low,      ///< taking off, landing, near the ground: thrust and control first
    aloft,
};
/// Stages as a sum.
constexpr unsigned in(Stage stage) {
    return 1U << static_cast<unsigned>(stage);
}
inline constexpr unsigned onGround = in(Stage::starting) | in(Stage::ground) | in(Stage::runUp);
inline constexpr unsigned flying = in(Stage::low) | in(Stage::aloft);
inline constexpr unsigned running = in(Stage::ground) | in(Stage::runUp) | flying;
inline constexpr unsigned atPower = in(Stage::runUp) | flying;
inline constexpr unsigned anywhere = onGround | flying;

/// What the program knows beside what is noticed. What is not known weighs nothing.
struct Context {
    std::optional<Phase> phase;
    std::optional<double> aboveField;         ///< m
    std::optional<int> ice;                   ///< risk of carburettor ice: 0 none, 1 light, 2 moderate, 3 serious
    std::optional<double> oat;                ///< K, at the height
    std::optional<double> metal;              ///< K, of heads or coolant
    std::optional<bool> highGear;             ///< the blower's
    std::optional<bool> wet;                  ///< water injection is on
    std::optional<double> doses;              ///< given to an engine that has not fired
    std::optional<double> firesFrom, firesTo; ///< doses between which it fires today
    std::optional<double> clearBlades;        ///< that carry out what is too much, throttle open
    std::optional<int> tries;                 ///< at starting it, in vain
    std::optional<double> tankLeft;           ///< s, of the tank that is fed
    std::optional<double> tankChanged;        ///< s since then
    bool rain = false;                        ///< or drums, or just refuelled: water may be in the fuel

    /// The stages that it can be: two while an engine is started, all where no phase is known.
    [[nodiscard]] unsigned stages() const {
        if (!phase)
            return anywhere;
        if (*phase <= Phase::start)
            return in(Stage::starting) | in(Stage::ground);
        if (*phase == Phase::runUp)
            return in(Stage::ground) | in(Stage::runUp);
        if (*phase < Phase::takeOff || *phase >= Phase::stop)
            return in(Stage::ground);
        constexpr double highEnough = 300.0; // m over the field
        if (*phase == Phase::takeOff || *phase == Phase::landing || (aboveField && *aboveField < highEnough))
            return in(Stage::low);
        return in(Stage::aloft);
    }
    /// By which harm is weighed.
    [[nodiscard]] Stage stage() const {
        if (!phase)
            return Stage::aloft;
        const unsigned all = stages();
        return (all & in(Stage::starting)) != 0 ? Stage::starting
               : (all & in(Stage::ground)) != 0 ? Stage::ground // a run-up costs no more
               : (all & in(Stage::low)) != 0    ? Stage::low
                                                : Stage::aloft;
    }
};

} // namespace amber::trouble
