// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/rules.h"
#include "watch/maker.h"

namespace amber::watch {
namespace {
constexpr double slowTurning = 0.55; // of a warm engine's rpm on the starter; slower it hardly fires
constexpr double batteryHalf = 0.5;
} // namespace

Verdict broken(Rule rule, std::string why) {
    return Maker::verdict(rowOf(rule).colour, std::move(why));
}
Verdict unless(bool kept, Rule rule, std::string why) {
    return kept ? Maker::normal(std::move(why)) : broken(rule, std::move(why));
}
Verdict carburettorIce(bool serious, std::string why) {
    return unless(!serious, Rule::carburettorIce, std::move(why));
}

Verdict coolingRate(double fall, double most, std::string why) {
    return unless(!(fall > most), Rule::coolingRate, std::move(why));
}
Verdict coolingLeast(double falls, std::optional<double> least, std::string why) {
    return unless(!least || !(falls < *least), Rule::coolingLeast, std::move(why));
}
Verdict coolingSettles(double room, std::string why) {
    return unless(!(room < 0), Rule::coolingSettles, std::move(why));
}
Verdict knockRoom(double room, double boundary, std::string why) {
    if (room < -knockPastShare * boundary)
        return broken(Rule::knockPast, std::move(why));
    return unless(!(room < -knockReadingWidth), Rule::knockRoom, std::move(why));
}
Verdict due(std::optional<double> left, std::string why) {
    if (left && *left < 0.0)
        return broken(Rule::overdue, std::move(why));
    return unless(left && *left >= dueSoonShare, Rule::dueSoon, std::move(why));
}
Verdict highPower(double seconds, std::optional<double> most, std::string why) {
    return unless(!most || !(seconds > *most), Rule::highPower, std::move(why));
}
Verdict groundTime(std::optional<double> toAmber, double needed, std::string why) {
    return unless(!toAmber || !(*toAmber < needed), Rule::groundTime, std::move(why));
}
Verdict queue(std::optional<double> toAmber, double waits, std::string why) {
    return unless(!toAmber || !(*toAmber < waits), Rule::queue, std::move(why));
}
Verdict starterCurrent(double fuseMargin, bool cartAdvised, std::string why) {
    if (fuseMargin < 0)
        return broken(Rule::fuse, std::move(why));
    return unless(!cartAdvised, Rule::cartAdvised, std::move(why));
}
Verdict battery(double left, std::string why) {
    return unless(!(left < batteryHalf), Rule::battery, std::move(why));
}
Verdict turnsSlowly(double rpm, double warmRpm, std::string why) {
    return unless(!(rpm < slowTurning * warmRpm), Rule::turnsSlowly, std::move(why));
}
Verdict centreOfGravity(double room, double width, std::string why) {
    if (!(room >= 0))
        return broken(Rule::centreOfGravity, std::move(why));
    return unless(!(room < edgeShare * width), Rule::nearEdge, std::move(why));
}
Verdict starterAir(double left, double perStart, std::string why) {
    return unless(!(left < perStart), Rule::starterAir, std::move(why));
}

} // namespace amber::watch
