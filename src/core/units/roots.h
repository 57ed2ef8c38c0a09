// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <memory>
#include <type_traits>

/// The one place where an equation is solved. (A table is read between its lines by units/lookup.h.)
namespace amber::roots {

/// A function of one number that outlives the call it is handed to.
class Curve {
public:
    template <class F>
    requires(!std::is_same_v<std::remove_cvref_t<F>, Curve>)
        Curve(F&& f) // NOLINT: anything that takes a number and gives one
        : of_(const_cast<void*>(static_cast<const void*>(std::addressof(f)))),
          call_([](void* of, double x) -> double { return (*static_cast<std::remove_reference_t<F>*>(of))(x); }) {}
    double operator()(double x) const { return call_(of_, x); }

private:
    void* of_;
    double (*call_)(void*, double);
};

struct Bracket {
    double low = 0.0, high = 0.0;
    [[nodiscard]] double middle() const { return 0.5 * (low + high); }
};

/// Two points no farther apart than `within` between which a continuous function passes nothing, by TOMS 748 (Alefeld,
/// Potra & Shi, 1995), sixty looks at most.
/// @param atLow, atHigh the function at both ends, of unlike signs or nothing
Bracket bracket(const Curve& f, double low, double high, double atLow, double atHigh, double within);

/// The middle of that; where the function has one sign at both ends, the end at which it is nearer to nothing.
double between(const Curve& f, double low, double high, double within);

/// Where a condition, not kept at `low` and kept at `high` (nothing and other than nothing), turns: the last point at
/// which it was seen not to be kept and the first at which it was. By so many halvings.
Bracket turn(const Curve& holds, double low, double high, int halvings);

} // namespace amber::roots
