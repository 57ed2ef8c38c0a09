// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/origin.h"
#include "units/quantity.h"
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// A cockpit's controls and what a hand does to them, as notes write them (format 2).
namespace amber {

/// What a control acts on: a closed list.
enum class Acts {
    throttle,
    propeller,
    mixture,
    gear,
    turbo,
    coolingFlap,
    oilCooler,
    intercooler,
    carburettorAir,
    water,
    primer,
    pump,
    fuel,
    crossfeed,
    transfer,
    ignition,
    spark,
    starter,
    mesh,
    boosterCoil,
    cartridge,
    airValve,
    generator,
    battery,
    cart,
    gyros,
    dilution,
    feathering,
    reversing,
    wingFlap,
    trim,
    wheels,
    brakes,
    fireBottle,
    lock,
    cutOut,
};

enum class ControlKind { lever, positions, toggle, push, valve, pumpHandle };

/// What is usual of a control by what it acts on (our own choice of words and places; notes overrule).
struct ActsRow {
    Acts acts;
    std::string_view key;       ///< in files: acts = "carburettor-air"
    std::string_view name;      ///< usual name
    ControlKind kind;           ///< usual kind
    bool each;                  ///< one an engine
    std::string_view place;     ///< usual place: panel, then column
    std::string_view positions; ///< its positions from less to more, parted by "|"; empty: only figures
    std::string_view ends;      ///< which way less and more lie
    std::string_view standing;  ///< where it is found on an aircraft left for the night
};
std::span<const ActsRow> actsTable();
const ActsRow& rowOf(Acts acts);
std::optional<Acts> actsFromKey(std::string_view key);
std::string_view keyOf(ControlKind kind);

/// One place that a control can be put in.
struct ControlPosition {
    std::string is;   ///< what it means: "rich"
    std::string name; ///< as engraved: "auto rich"
    bool operator==(const ControlPosition&) const = default;
};

/// A lever, switch, cock, button or handle of this cockpit.
struct Control {
    std::string id, name;
    Acts acts = Acts::throttle;
    ControlKind kind = ControlKind::lever;
    bool each = true;                       ///< one an engine; else one for all
    std::string who;                        ///< who works it; empty: the pilot
    std::string panel;                      ///< where it is: "quadrant"
    double column = 0.0;                    ///< counted along the panel from the left, engines beside each other
    std::string sense;                      ///< in words: "forward is rich"
    std::string less, more;                 ///< which way the first and the last position lie: "aft", "forward"
    bool reversed = false;                  ///< against the usual sense: shown as a caution
    std::vector<ControlPosition> positions; ///< from less to more
    std::string gate;                       ///< "at +7 lbf/in²"
    std::vector<std::string> links;         ///< controls that move with it
    std::string automatic;                  ///< the position in which it looks after itself
    std::string byHand;                     ///< and the one to go to when that fails
    Origin origin = Origin::practice;
    int line = 0;

    /// The place that means this or is engraved so; null for none.
    [[nodiscard]] const ControlPosition* position(std::string_view word) const;
    bool operator==(const Control&) const = default;
};

/// Where a control is put, or what is waited for: a position, a figure of the plan, or a quantity.
struct Target {
    enum class Kind { none, position, figure, quantity } kind = Kind::none;
    std::string word; ///< what the position means; the figure's name
    Dimension dimension = Dimension::duration;
    double si = 0.0;
    bool operator==(const Target&) const = default;
};

/// What must be read before an act is done with: "oil-pressure above 40 lbf/in²".
struct Awaited {
    Gauge gauge = Gauge::rpm;
    bool above = true;
    Target level;
    bool operator==(const Awaited&) const = default;
};

/// One act: of a hand on a control, or a wait.
struct Action {
    std::string control; ///< id; empty: nothing is touched
    Target to;
    std::vector<std::string> engines; ///< position ids; empty: the step's own, or all
    double over = 0.0;                ///< s, moved gradually
    bool hold = false;                ///< the hand stays on it until the step is done
    std::optional<Target> lasts;      ///< waited so long
    std::optional<Awaited> until;     ///< and until this is read
    double within = 0.0;              ///< s, at most; 0: no bound
    std::string otherwise;            ///< what is done when it is not
    int line = 0;
    bool operator==(const Action& o) const {
        return control == o.control && to == o.to && engines == o.engines && over == o.over && hold == o.hold &&
               lasts == o.lasts && until == o.until && within == o.within && otherwise == o.otherwise;
    }
};

} // namespace amber
