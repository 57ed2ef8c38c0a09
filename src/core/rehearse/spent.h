// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/engine_state.h"
#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace amber::rehearse {

/// What of an engine does not come back by itself: what a mistake, or a fault, has cost it.
struct Spent {
    enum class Of { bearings, rings, coolant, plugs };
    Of of = Of::bearings;
    std::size_t engine = 0;
    double share = 0.0;    ///< of a life, of the coolant, of the plugs that no longer fire
    std::int64_t from = 0; ///< ms, when it began
};

/// Told of an engine each second. Estimates of the model (powerplant/engine_wear): a bearing without oil is gone in 75
/// s at rated rpm, rings in four minutes of heavy knock; coolant boils away or leaks; plugs foul, and burn clear again.
class SpentOf {
public:
    void see(const powerplant::EngineState& engine, std::int64_t now);
    [[nodiscard]] std::vector<Spent> all(std::size_t engine) const;

private:
    struct Kind {
        double share = 0.0;
        std::int64_t from = 0;
    };
    std::array<Kind, 4> kinds_;
};

/// "12 % of its bearings' life gone, run without oil pressure": a model's estimate.
std::string wordsOf(const Spent& spent);

} // namespace amber::rehearse
