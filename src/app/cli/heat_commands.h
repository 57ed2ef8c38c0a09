// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber::app {

struct WarmUpOptions {
    std::string notes, variant, temperature, preheated, elevation;
    bool diluted = false, blanks = false, json = false;
};
/// The start and warm-up of every engine: when each fires, when it has the minima, at which rpm.
int runWarmUp(const WarmUpOptions& options);

struct LetDownOptions {
    std::string notes, variant, from, to, oat, rate, weight;
    bool json = false;
};
/// The let-down's steps of power from a height to the circuit of a field, and what other rates of descent would do.
int runLetDown(const LetDownOptions& options);

struct CoolDownOptions {
    std::string notes, variant, temperature, oat, elevation, forecast;
    bool json = false;
};
/// Cooling at idle until it may be stopped, the next start after some times of standing, dilution for the forecast.
int runCoolDown(const CoolDownOptions& options);

} // namespace amber::app
