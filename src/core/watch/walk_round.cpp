// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/walk_round.h"
#include "units/text.h"
#include "watch/maker.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double dipShort = 0.02; // of the capacity, within which a dip counts as the plan's figure

double between(const std::vector<std::pair<Volume, Volume>>& table, double held, bool& exact) {
    exact = false;
    if (held <= table.front().first.si())
        return table.front().second.si();
    for (std::size_t i = 1; i < table.size(); ++i) {
        const double x0 = table[i - 1].first.si(), x1 = table[i].first.si();
        if (held <= x1) {
            const double t = (held - x0) / (x1 - x0);
            exact = t > 0.9999;
            return table[i - 1].second.si() + t * (table[i].second.si() - table[i - 1].second.si());
        }
    }
    return table.back().second.si();
}

std::optional<double> reading(const WalkItem& item, const std::string& text) {
    const auto read = readQuantity(item.dimension, text, item.unit);
    return read ? std::optional(read.value().si) : std::nullopt;
}

const Tank* tankOf(const TypeNotes& notes, const std::string& id) {
    for (const auto& tank : notes.fuel.tanks)
        if (tank.id == id)
            return &tank;
    return nullptr;
}

std::string wantText(const Band& b, const UnitSpec& unit) {
    // Enough decimals to tell normal from limit.
    int decimals = -1;
    const auto apart = [&](const std::optional<double>& a, const std::optional<double>& c) {
        if (a && c)
            decimals = std::max(decimals, decimalsToTell(*a, *c, unit));
    };
    apart(b.normalLow, b.normalHigh);
    apart(b.limitLow, b.normalLow);
    apart(b.normalHigh, b.limitHigh);
    std::string out;
    if (b.normalLow && b.normalHigh)
        out = fmt::format("{} to {}", formatValue(*b.normalLow, unit, decimals), format(*b.normalHigh, unit, decimals));
    if (b.limitLow && b.limitLow != b.normalLow)
        out += fmt::format(", min {}", formatValue(*b.limitLow, unit, decimals));
    if (b.limitHigh && b.limitHigh != b.normalHigh)
        out += fmt::format(", max {}", formatValue(*b.limitHigh, unit, decimals));
    return out;
}

class Walk {
public:
    Walk(const TypeNotes& notes, const Found& found, const WalkConditions& conditions)
        : n_(notes), found_(found), c_(conditions) {}

    WalkRound run() {
        for (const auto& station : n_.walk.stations) {
            WalkStop stop;
            stop.name = station.name;
            for (const auto& item : station.items) {
                WalkFinding f = finding(station, item);
                ++out_.items;
                if (f.found.empty()) {
                    ++stop.open;
                } else {
                    ++out_.seen;
                    stop.worst = std::max(stop.worst, f.verdict.colour());
                    if (f.verdict.colour() != Colour::normal)
                        out_.defects.push_back({station.name, f.verdict});
                }
                stop.items.push_back(std::move(f));
            }
            out_.stops.push_back(std::move(stop));
        }
        // Those that stop the flight first.
        std::stable_sort(out_.defects.begin(), out_.defects.end(),
                         [](const Defect& a, const Defect& b) { return a.verdict.colour() > b.verdict.colour(); });
        return std::move(out_);
    }

private:
    WalkFinding finding(const WalkStation& station, const WalkItem& item) const {
        WalkFinding f;
        f.key = station.id + "/" + item.id;
        f.item = item;
        f.what = item.what;
        const auto found = found_.find(f.key);
        const std::string text = found == found_.end() ? std::string{} : found->second;
        if (item.kind == WalkItemKind::look) {
            f.want = item.look;
            f.found = text;
            f.verdict = judgeLook(f.what, text.empty() || saysInOrder(text) ? "" : text, item.stopper);
            if (saysInOrder(f.found))
                f.found = inOrder;
            return f;
        }
        Band band = item.band;
        if (item.kind != WalkItemKind::reading) {
            const Tank* tank = tankOf(n_, item.tank);
            if (!tank)
                return f;
            band = item.kind == WalkItemKind::dip ? dipBand(*tank) : gaugeBand(*tank, f.origin);
            if (f.what.empty())
                f.what = tank->name + (item.kind == WalkItemKind::dip ? ", by dip" : " gauge");
            if (item.kind == WalkItemKind::dip)
                f.want = fmt::format("{}, planned{}", format(*band.normalLow + slack(*tank), *item.unit),
                                     tank->gauged ? "" : "; no gauge");
            else
                f.want = fmt::format("shows {} as it stands",
                                     format(0.5 * (*band.normalLow + *band.normalHigh), *item.unit));
        } else {
            f.want = wantText(band, *item.unit);
        }
        if (text.empty())
            return f;
        f.value = reading(item, text);
        f.found = f.value ? format(*f.value, *item.unit) : text;
        f.verdict = judgeReading(f.what, band, *item.unit, f.value.value_or(NAN), item.stopper);
        if (item.kind == WalkItemKind::dip && f.value && *f.value < *band.normalLow)
            f.verdict = Maker::verdict(
                f.verdict.colour(),
                fmt::format("{} {}: {} less than the plan counts on{}.", f.what, f.found,
                            format(*band.normalLow + slack(*tankOf(n_, item.tank)) - *f.value, *item.unit),
                            f.verdict.colour() == Colour::red ? "; it stops the flight" : ""));
        if (item.kind == WalkItemKind::gauge && f.value && f.verdict.colour() != Colour::normal)
            f.verdict = Maker::verdict(
                f.verdict.colour(),
                fmt::format("{} shows {} where {} is to be expected: gauge, dip or attitude is not as thought.", f.what,
                            f.found, format(0.5 * (*band.normalLow + *band.normalHigh), *item.unit)));
        return f;
    }

    [[nodiscard]] double slack(const Tank& tank) const { return dipShort * tank.capacity.si(); }
    [[nodiscard]] Volume plannedOf(const Tank& tank) const {
        const auto planned = c_.planned.find(tank.id);
        return planned == c_.planned.end() ? tank.capacity : planned->second;
    }
    /// The plan counts on what it was given: short of it is written up, more than the tank holds cannot be.
    [[nodiscard]] Band dipBand(const Tank& tank) const {
        Band b;
        b.normalLow = plannedOf(tank).si() - slack(tank);
        b.limitLow = std::max(0.0, std::min(*b.normalLow, 0.8 * plannedOf(tank).si()));
        b.limitHigh = tank.capacity.si() * 1.01;
        return b;
    }
    [[nodiscard]] Band gaugeBand(const Tank& tank, Origin& origin) const {
        const auto shows = groundGauge(tank, contentsOf(n_, tank, found_, c_.planned), c_.attitude);
        const double middle = shows ? shows->shown.si() : 0.0, off = n_.fuel.gaugeTolerance * tank.capacity.si();
        if (shows)
            origin = shows->origin;
        Band b;
        b.normalLow = middle - off;
        b.normalHigh = middle + off;
        return b;
    }

    const TypeNotes& n_;
    const Found& found_;
    const WalkConditions& c_;
    WalkRound out_;
};
} // namespace

std::optional<GroundGauge> groundGauge(const Tank& tank, Volume contents, double attitude) {
    if (!tank.gauged)
        return std::nullopt;
    if (tank.ground.empty())
        return GroundGauge{contents, Origin::notes};
    const auto& g = tank.ground;
    bool exact = false;
    if (attitude <= g.front().attitude || g.size() == 1) {
        const double shown = between(g.front().read, contents.si(), exact);
        return GroundGauge{Volume::si(shown), exact ? Origin::notes : Origin::between};
    }
    for (std::size_t i = 1; i < g.size(); ++i)
        if (attitude <= g[i].attitude) {
            const double t = (attitude - g[i - 1].attitude) / (g[i].attitude - g[i - 1].attitude);
            bool exactHigh = false;
            const double low = between(g[i - 1].read, contents.si(), exact);
            const double high = between(g[i].read, contents.si(), exactHigh);
            return GroundGauge{Volume::si(low + t * (high - low)),
                               exactHigh && t > 0.9999 ? Origin::notes : Origin::between};
        }
    const double shown = between(g.back().read, contents.si(), exact);
    return GroundGauge{Volume::si(shown), exact ? Origin::notes : Origin::between};
}

Volume contentsOf(const TypeNotes& notes, const Tank& tank, const Found& found,
                  const std::map<std::string, Volume>& planned) {
    for (const auto& station : notes.walk.stations)
        for (const auto& item : station.items)
            if (item.kind == WalkItemKind::dip && item.tank == tank.id)
                if (const auto text = found.find(station.id + "/" + item.id); text != found.end())
                    if (const auto value = reading(item, text->second))
                        return Volume::si(std::clamp(*value, 0.0, tank.capacity.si()));
    const auto given = planned.find(tank.id);
    if (given == planned.end()) // a tank that can be taken off and that nobody names does not hang there
        return tank.removable ? Volume{} : tank.capacity;
    return given->second;
}

Verdict Defect::told() const {
    return Maker::verdict(verdict.colour(), fmt::format("{}: {}", where, verdict.sentence()));
}

WalkRound walkRound(const TypeNotes& notes, const Found& found, const WalkConditions& conditions) {
    return Walk(notes, found, conditions).run();
}

std::string refusal(const WalkItem& item, const std::string& text) {
    if (item.kind == WalkItemKind::look)
        return text.size() > 200 ? "Write the defect in fewer than 200 letters." : std::string{};
    const auto read = readQuantity(item.dimension, text, item.unit);
    if (!read)
        return read.error();
    return item.dimension != Dimension::temperature && read.value().si < 0 ? "It cannot be less than nothing."
                                                                           : std::string{};
}

std::string kept(const WalkItem& item, const std::string& text) {
    if (item.kind == WalkItemKind::look)
        return saysInOrder(text) ? std::string(inOrder) : text;
    const auto read = readQuantity(item.dimension, text, item.unit);
    return read ? fmt::format("{:.6g} {}", (read.value().si - read.value().unit->offset) / read.value().unit->scale,
                              read.value().unit->symbol)
                : text;
}

const WalkItem* itemOf(const TypeNotes& notes, std::string_view key) {
    for (const auto& station : notes.walk.stations)
        for (const auto& item : station.items)
            if (station.id + "/" + item.id == key)
                return &item;
    return nullptr;
}

} // namespace amber::watch
