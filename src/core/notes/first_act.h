// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <optional>
#include <string_view>

namespace amber {

/// What is done first when something is wrong, by kind: what it is called and how it is done is the aircraft's.
enum class FirstAct {
    look,
    ease,
    speed,
    heat,
    coldAir,
    otherTank,
    booster,
    boostBack,
    rich,
    lean,
    lowGear,
    dryBoost,
    openCooler,
    shutCooler,
    openFlap,
    governorBack,
    holdRpm,
    byHand,
    turboBack,
    setByFlow,
    byEar,
    directNeedles,
    shedLoad,
    burst,
    doNotGo,
    stopNow,
    shutDown,
    fuelOff,
    engineDrill,
    // starting
    drawIn,
    prime,
    clear,
    checkFuel,
    checkSpark,
    warm,
    rest,
    plugsOut,
    fuse,
    nextCartridge,
    fillBottle,
    pumpUp,
    supplyOff,
};

struct FirstActRow {
    FirstAct act;
    std::string_view key; ///< in notes: first = "low-gear"
    bool final = false;   ///< it cannot be taken back aloft in the time there is
};
inline constexpr std::array firstActs{
    FirstActRow{FirstAct::look, "look"},
    FirstActRow{FirstAct::ease, "ease"},
    FirstActRow{FirstAct::speed, "speed"},
    FirstActRow{FirstAct::heat, "heat"},
    FirstActRow{FirstAct::coldAir, "cold-air"},
    FirstActRow{FirstAct::otherTank, "other-tank"},
    FirstActRow{FirstAct::booster, "booster"},
    FirstActRow{FirstAct::boostBack, "boost-back"},
    FirstActRow{FirstAct::rich, "rich"},
    FirstActRow{FirstAct::lean, "lean"},
    FirstActRow{FirstAct::lowGear, "low-gear"},
    FirstActRow{FirstAct::dryBoost, "dry-boost"},
    FirstActRow{FirstAct::openCooler, "open-cooler"},
    FirstActRow{FirstAct::shutCooler, "shut-cooler"},
    FirstActRow{FirstAct::openFlap, "open-flap"},
    FirstActRow{FirstAct::governorBack, "governor-back"},
    FirstActRow{FirstAct::holdRpm, "hold-rpm"},
    FirstActRow{FirstAct::byHand, "by-hand"},
    FirstActRow{FirstAct::turboBack, "turbo-back"},
    FirstActRow{FirstAct::setByFlow, "set-by-flow"},
    FirstActRow{FirstAct::byEar, "by-ear"},
    FirstActRow{FirstAct::directNeedles, "direct-needles"},
    FirstActRow{FirstAct::shedLoad, "shed-load"},
    FirstActRow{FirstAct::burst, "burst"},
    FirstActRow{FirstAct::doNotGo, "do-not-go"},
    FirstActRow{FirstAct::stopNow, "stop-now"},
    FirstActRow{FirstAct::shutDown, "shut-down", true},
    FirstActRow{FirstAct::fuelOff, "fuel-off", true},
    FirstActRow{FirstAct::engineDrill, "engine-drill"},
    FirstActRow{FirstAct::drawIn, "draw-in"},
    FirstActRow{FirstAct::prime, "prime"},
    FirstActRow{FirstAct::clear, "clear"},
    FirstActRow{FirstAct::checkFuel, "check-fuel"},
    FirstActRow{FirstAct::checkSpark, "check-spark"},
    FirstActRow{FirstAct::warm, "warm"},
    FirstActRow{FirstAct::rest, "rest"},
    FirstActRow{FirstAct::plugsOut, "plugs-out"},
    FirstActRow{FirstAct::fuse, "fuse"},
    FirstActRow{FirstAct::nextCartridge, "next-cartridge"},
    FirstActRow{FirstAct::fillBottle, "fill-bottle"},
    FirstActRow{FirstAct::pumpUp, "pump-up"},
    FirstActRow{FirstAct::supplyOff, "supply-off"},
};
static_assert([] {
    for (std::size_t i = 0; i < firstActs.size(); ++i)
        if (firstActs[i].act != static_cast<FirstAct>(i))
            return false;
    return true;
}());
constexpr const FirstActRow& rowOf(FirstAct act) {
    return firstActs[static_cast<std::size_t>(act)];
}
constexpr std::optional<FirstAct> firstActFromKey(std::string_view key) {
    for (const auto& row : firstActs)
        if (row.key == key)
            return row.act;
    return std::nullopt;
}

} // namespace amber
