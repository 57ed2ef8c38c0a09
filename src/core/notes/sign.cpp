// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/sign.h"
#include "units/ascii.h"
#include <algorithm>
#include <array>

namespace amber {
namespace {
constexpr std::array feltRows{
    FeltRow{Felt::yaw, "yaw", "it yaws", Sense::felt},
    FeltRow{Felt::shake, "shake", "it shakes", Sense::felt},
    FeltRow{Felt::leverDead, "lever-dead", "propeller lever does nothing", Sense::felt},
    FeltRow{Felt::followsThrottle, "follows-throttle", "rpm follow throttle and speed", Sense::felt},
    FeltRow{Felt::rough, "rough", "runs rough", Sense::heard},
    FeltRow{Felt::backfire, "backfire", "backfires", Sense::heard},
    FeltRow{Felt::bangs, "bangs", "bangs", Sense::heard},
    FeltRow{Felt::howl, "howl", "howls", Sense::heard},
    FeltRow{Felt::whine, "whine", "whines", Sense::heard},
    FeltRow{Felt::beat, "beat", "a steady beat", Sense::heard},
    FeltRow{Felt::whistle, "whistle", "whistles", Sense::heard},
    FeltRow{Felt::silent, "silent", "no sound of it", Sense::heard},
    FeltRow{Felt::blackSmoke, "black-smoke", "black smoke", Sense::seen},
    FeltRow{Felt::blueSmoke, "blue-smoke", "blue smoke", Sense::seen},
    FeltRow{Felt::whiteVapour, "white-vapour", "white vapour", Sense::seen},
    FeltRow{Felt::puffs, "puffs", "black puffs", Sense::seen},
    FeltRow{Felt::oneHeadCold, "one-head-cold", "one head cold", Sense::seen},
    FeltRow{Felt::oilOnCowl, "oil-on-cowl", "oil on the cowl", Sense::seen},
    FeltRow{Felt::fuelOnCowl, "fuel-on-cowl", "fuel on the cowl", Sense::seen},
    FeltRow{Felt::coolantOnCowl, "coolant-on-cowl", "coolant on the cowl", Sense::seen},
    FeltRow{Felt::flames, "flames", "flames", Sense::seen},
    FeltRow{Felt::smellOfFuel, "smell-of-fuel", "smell of fuel", Sense::smelt},
    FeltRow{Felt::smellOfOil, "smell-of-oil", "smell of hot oil", Sense::smelt},
    FeltRow{Felt::sweetSmell, "sweet-smell", "sweet smell", Sense::smelt},
    FeltRow{Felt::worstAtIdle, "worst-at-idle", "worst at idle", Sense::when},
    FeltRow{Felt::worstAtPower, "worst-at-power", "worst at power", Sense::when},
    FeltRow{Felt::inHighGear, "in-high-gear", "in high gear only", Sense::when},
    FeltRow{Felt::inDampAir, "in-damp-air", "in cloud or damp air", Sense::when},
    FeltRow{Felt::hotAndHigh, "hot-and-high", "hot and high", Sense::when},
    FeltRow{Felt::oneMagneto, "one-magneto", "on one magneto only", Sense::tried},
    FeltRow{Felt::eitherMagneto, "either-magneto", "the same on either magneto", Sense::tried},
    FeltRow{Felt::silentOnOne, "silent-on-one", "silent on one magneto", Sense::tried},
    FeltRow{Felt::noDrop, "no-drop", "no drop on one magneto", Sense::tried},
    FeltRow{Felt::smoothDrop, "smooth-drop", "a large, smooth drop", Sense::tried},
    FeltRow{Felt::noCough, "no-cough", "turns, does not cough", Sense::starting},
    FeltRow{Felt::drips, "drips", "drips, puffs", Sense::starting},
    FeltRow{Felt::wetAndSilent, "wet-and-silent", "wet and silent", Sense::starting},
    FeltRow{Felt::stalls, "stalls", "stalls at the same blade", Sense::starting},
    FeltRow{Felt::lampStays, "lamp-stays", "starter lamp stays on", Sense::starting},
    FeltRow{Felt::noTurn, "no-turn", "does not turn", Sense::starting},
    FeltRow{Felt::turnsSlowly, "turns-slowly", "turns slowly", Sense::starting},
    FeltRow{Felt::coughs, "coughs", "coughs and dies", Sense::starting},
    FeltRow{Felt::dryStack, "dry", "dry: no drip, no smell", Sense::starting},
};
static_assert([] {
    for (std::size_t i = 0; i < feltRows.size(); ++i)
        if (static_cast<std::size_t>(feltRows[i].felt) != i + 1)
            return false;
    return true;
}());
constexpr std::array wayRows{
    WayRow{Way::rises, "rises", "rises"},
    WayRow{Way::falls, "falls", "falls"},
    WayRow{Way::risesFast, "rises-fast", "rises fast"},
    WayRow{Way::fallsFast, "falls-fast", "falls fast"},
    WayRow{Way::flickers, "flickers", "flickers"},
    WayRow{Way::still, "still", "stands still"},
};
} // namespace

std::string_view nameOf(Sense sense) {
    constexpr std::array<std::string_view, 7> names{"felt", "heard", "seen", "smelt", "when", "by trying", "starting"};
    return names[static_cast<std::size_t>(sense)];
}
std::span<const FeltRow> feltTable() {
    return feltRows;
}
const FeltRow& rowOf(Felt felt) {
    return feltRows[static_cast<std::size_t>(felt) - 1];
}
std::span<const WayRow> wayTable() {
    return wayRows;
}

std::string keyOf(const Sign& s) {
    if (!s.isNeedle())
        return std::string(rowOf(s.felt).key);
    return std::string(nameOf(s.gauge).key) + " " + std::string(wayRows[static_cast<std::size_t>(s.way)].key);
}

std::string wordsOf(const Sign& s) {
    if (!s.isNeedle())
        return std::string(rowOf(s.felt).words);
    std::string title(nameOf(s.gauge).title);
    if (title.size() > 1 && std::islower(static_cast<unsigned char>(title[1])))
        title[0] = ascii::lower(title[0]);
    if (const auto dot = title.find(" temp."); dot != std::string::npos)
        title.replace(dot, 6, " temperature");
    if (const auto comma = title.find(','); comma != std::string::npos)
        title.resize(comma);
    return title + " " + std::string(wayRows[static_cast<std::size_t>(s.way)].words);
}

std::optional<Sign> signFromKey(std::string_view key) {
    for (const auto& row : feltRows)
        if (row.key == key)
            return Sign(row.felt);
    const auto gap = key.find(' ');
    if (gap == std::string_view::npos)
        return std::nullopt;
    const auto gauge = std::find_if(gaugeRegister.begin(), gaugeRegister.end(),
                                    [&](const GaugeRow& r) { return r.key == key.substr(0, gap); });
    const auto way =
        std::find_if(wayRows.begin(), wayRows.end(), [&](const WayRow& r) { return r.key == key.substr(gap + 1); });
    if (gauge == gaugeRegister.end() || way == wayRows.end())
        return std::nullopt;
    return Sign(gauge->gauge, way->way);
}

std::vector<std::string> allSignKeys() {
    std::vector<std::string> out;
    for (const auto& row : feltRows)
        out.emplace_back(row.key);
    for (const auto& gauge : gaugeRegister)
        for (const auto& way : wayRows)
            out.push_back(std::string(gauge.key) + " " + std::string(way.key));
    return out;
}

} // namespace amber
