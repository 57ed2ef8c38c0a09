// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber::app {

/// Options of `amber-throttle prime`, as typed.
struct PrimeOptions {
    std::string notes, variant, temperature, altitude;
    bool json = false;
};
/// The dose for one engine temperature. @return an ExitCode
int runPrime(const PrimeOptions& options);

/// Options of `amber-throttle start-order`, as typed.
struct StartOrderOptions {
    std::string notes, variant, order, fail, temperature, altitude, supply = "cart";
    bool json = false;
};
/// The timeline of a start. @return an ExitCode
int runStartOrder(const StartOrderOptions& options);

} // namespace amber::app
