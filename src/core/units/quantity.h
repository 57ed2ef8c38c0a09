// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <compare>
#include <string_view>

namespace amber {

/// What a number measures. Manifold pressure is its own dimension: it is absolute, and one of its units (boost) counts
/// from the standard atmosphere, so it must never be mixed with a pressure difference.
enum class Dimension {
    manifoldPressure,
    pressure,
    temperature,
    temperatureDifference,
    speed,
    verticalSpeed,
    length,
    distance,
    volume,
    mass,
    power,
    rotation,
    duration,
    massFlow,
    volumeFlow,
    voltage,
    current,
    moment,
};

/// One way to write a dimension: si = value * scale + offset.
struct UnitSpec {
    std::string_view symbol;  ///< as shown on screen and card
    std::string_view aliases; ///< other spellings accepted when reading, separated by '|'
    double scale;             ///< SI units for one of this unit
    double offset;            ///< SI value of zero
    int decimals;             ///< decimals a gauge of this unit can be read to
    bool showSign = false;    ///< always written with its sign (boost)
    bool finer = false;       ///< under ten a tenth is told, under one a hundredth (fuel and oil of small aircraft)
};

/// A unit that can only be used with its own dimension.
template <Dimension D>
struct Unit {
    const UnitSpec* spec;
};

/// The dimension of the difference of two quantities.
template <Dimension D>
struct DifferenceOf {
    static constexpr Dimension value = D;
    static constexpr bool affine = false;
};
template <>
struct DifferenceOf<Dimension::temperature> {
    static constexpr Dimension value = Dimension::temperatureDifference;
    static constexpr bool affine = true;
};
template <>
struct DifferenceOf<Dimension::manifoldPressure> {
    static constexpr Dimension value = Dimension::pressure;
    static constexpr bool affine = true;
};

/// A number with a dimension, kept in SI (Pa, K, m/s, m, m³, kg, W, rev/s, s, kg/s, m³/s). It can only be made from, or
/// turned into, a bare number by naming a unit; different dimensions do not mix.
template <Dimension D>
class Quantity {
public:
    using Difference = Quantity<DifferenceOf<D>::value>;
    static constexpr Dimension dimension = D;

    constexpr Quantity() = default;
    static constexpr Quantity si(double value) {
        Quantity q;
        q.si_ = value;
        return q;
    }
    static constexpr Quantity of(double value, Unit<D> unit) {
        return si(value * unit.spec->scale + unit.spec->offset);
    }
    [[nodiscard]] constexpr double si() const { return si_; }
    [[nodiscard]] constexpr double in(Unit<D> unit) const { return (si_ - unit.spec->offset) / unit.spec->scale; }

    friend constexpr auto operator<=>(Quantity a, Quantity b) { return a.si_ <=> b.si_; }
    friend constexpr bool operator==(Quantity a, Quantity b) = default;
    friend constexpr Difference operator-(Quantity a, Quantity b) { return Difference::si(a.si_ - b.si_); }

    friend constexpr Quantity operator+(Quantity a, Difference d) requires(DifferenceOf<D>::affine) {
        return si(a.si_ + d.si());
    }
    friend constexpr Quantity operator-(Quantity a, Difference d) requires(DifferenceOf<D>::affine) {
        return si(a.si_ - d.si());
    }
    friend constexpr Quantity operator+(Quantity a, Quantity b) requires(!DifferenceOf<D>::affine) {
        return si(a.si_ + b.si_);
    }
    friend constexpr Quantity operator*(Quantity a, double k) requires(!DifferenceOf<D>::affine) {
        return si(a.si_ * k);
    }
    friend constexpr double operator/(Quantity a, Quantity b) requires(!DifferenceOf<D>::affine) {
        return a.si_ / b.si_;
    }
    friend constexpr Quantity operator/(Quantity a, double k) requires(!DifferenceOf<D>::affine) {
        return si(a.si_ / k);
    }

private:
    double si_ = 0.0;
};

using ManifoldPressure = Quantity<Dimension::manifoldPressure>;           ///< absolute, Pa
using Pressure = Quantity<Dimension::pressure>;                           ///< Pa
using Temperature = Quantity<Dimension::temperature>;                     ///< K
using TemperatureDifference = Quantity<Dimension::temperatureDifference>; ///< K
using Speed = Quantity<Dimension::speed>;                                 ///< m/s
using VerticalSpeed = Quantity<Dimension::verticalSpeed>;                 ///< m/s
using Length = Quantity<Dimension::length>;                               ///< m (heights)
using Distance = Quantity<Dimension::distance>;                           ///< m (over the ground)
using Volume = Quantity<Dimension::volume>;                               ///< m³
using Mass = Quantity<Dimension::mass>;                                   ///< kg
using Power = Quantity<Dimension::power>;                                 ///< W
using Rotation = Quantity<Dimension::rotation>;                           ///< rev/s
using Duration = Quantity<Dimension::duration>;                           ///< s
using MassFlow = Quantity<Dimension::massFlow>;                           ///< kg/s
using VolumeFlow = Quantity<Dimension::volumeFlow>;                       ///< m³/s
using Moment = Quantity<Dimension::moment>;                               ///< of a load about the datum, kg m

/// The standard atmosphere at sea level, Pa: the zero of a boost gauge.
inline constexpr double standardPressure = 101325.0;

} // namespace amber
