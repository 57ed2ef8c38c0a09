// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/run_up_sheet.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double perCycle = 5.0; // s of one exercise of the governor

class Builder {
public:
    Builder(const TypeNotes& notes, const std::map<std::string, std::string>& found, const RunUpDay& day)
        : n_(notes), found_(found), day_(day) {}

    RunUpSheet run() {
        for (const auto& p : n_.positions)
            sheet_.engines.push_back(p.name);
        propeller();
        blower();
        reference();
        magnetos();
        for (const auto& item : n_.runUp.items)
            add(item);
        sheet_.highPowerMost.reset();
        if (n_.runUp.highPowerMost)
            sheet_.highPowerMost = n_.runUp.highPowerMost->si();
        for (auto& l : sheet_.lines) {
            sheet_.highPower += l.seconds;
            for (auto& cell : l.cells)
                fill(l, cell);
        }
        for (std::size_t i = 0; i < sheet_.engines.size(); ++i)
            pattern(i);
        total();
        return std::move(sheet_);
    }

private:
    [[nodiscard]] std::string at(const RunUpSetting& s) const {
        if (s.fieldPressure)
            return format(day_.fieldBoost.si(), n_.unitOf(Gauge::boost));
        if (s.boost)
            return format(s.boost->si(), n_.unitOf(Gauge::boost));
        if (s.rpm)
            return format(s.rpm->si(), *units::rpm.spec);
        return {};
    }
    [[nodiscard]] bool high(const RunUpSetting& s) const {
        if (s.rpm)
            return *s.rpm >= n_.runUp.highPowerFrom;
        return s.boost || s.fieldPressure;
    }
    [[nodiscard]] static std::string range(const Band& b, const UnitSpec& unit) {
        if (b.normalLow && b.normalHigh)
            return fmt::format("{} to {}", formatValue(*b.normalLow, unit), format(*b.normalHigh, unit));
        return {};
    }
    SheetLine& line(std::string id, std::string what, const RunUpSetting& where, RunUpPer per = RunUpPer::engine) {
        SheetLine l;
        l.id = std::move(id);
        l.what = std::move(what);
        l.at = at(where);
        l.unit = units::rpm.spec;
        if (per == RunUpPer::engine)
            for (const auto& p : n_.positions)
                l.cells.push_back({l.id + "/" + p.id, {}, {}, {}, {}, {}});
        else
            l.cells.push_back({l.id, {}, {}, {}, {}, {}});
        sheet_.lines.push_back(std::move(l));
        return sheet_.lines.back();
    }

    void propeller() {
        if (!n_.runUp.propeller)
            return;
        const auto& p = *n_.runUp.propeller;
        const bool frost = p.cyclesInFrost && day_.oat < p.frostBelow;
        const int cycles = p.cyclesAt(day_.oat);
        auto& l = line("propeller",
                       cycles == 1 ? std::string("Governor, drop") : fmt::format("Governor ×{}, drop", cycles), p.at);
        l.band = p.fall;
        l.want = range(p.fall, *l.unit);
        l.why = frost ? "In frost the oil in the hub is thick: more cycles until it answers at once."
                      : "Warm oil into the hub; it falls and comes back at once.";
        if (p.manual)
            l.why += " Then the same in manual.";
        l.low = "Thick or dirty oil in the hub, or the governor's linkage: cycle again.";
        l.high = "The governor hunts or the stop is misset.";
        l.seconds = high(p.at) ? cycles * perCycle : 0.0;
        if (p.featherFall) {
            auto& t = line("feather", "Feathering check, drop", p.at);
            t.band = *p.featherFall;
            t.want = range(*p.featherFall, *t.unit);
            t.why = "Only to see it begin: pulled out at once.";
            t.low = "The feathering pump or its oil does not reach the hub: not airworthy on one engine.";
            t.high = "It was held too long.";
            t.stopper = true;
        }
    }

    void blower() {
        if (!n_.runUp.blower)
            return;
        const auto& b = *n_.runUp.blower;
        const UnitSpec& boost = n_.unitOf(Gauge::boost);
        if (b.boostRise) {
            auto& l = line("blower", b.turbo ? "Turbo in, boost rises" : "High gear, boost rises", b.at);
            l.dimension = Dimension::pressure;
            l.unit = pressureUnit(boost);
            l.band = *b.boostRise;
            l.want = range(l.band, *l.unit);
            l.why = b.turbo ? "The regulator takes hold once its oil is warm."
                            : "The impeller turns faster at the same throttle; back in one quick movement.";
            l.low = b.turbo ? "Cold regulator oil, or a waste gate that sticks open."
                            : "The clutch slips, or sludge keeps it from engaging.";
            l.high = "The throttle was moved, or the boost control does not hold.";
            l.seconds = high(b.at) ? b.holdFor.si() : 0.0;
        }
        if (b.rpmFall) {
            auto& l = line("blower-rpm", "and rpm drop", b.at);
            l.band = *b.rpmFall;
            l.want = range(l.band, *l.unit);
            l.why = "The work of the faster impeller, at the same throttle.";
            l.low = "It did not change gear.";
            l.high = "The throttle was moved, or the clutch drags.";
        }
        if (b.oilPressureDip) {
            auto& l = line("blower-oil", "and oil pressure dips", b.at);
            l.dimension = Dimension::pressure;
            l.unit = &n_.unitOf(Gauge::oilPressure);
            l.band = *b.oilPressureDip;
            l.want = range(l.band, *l.unit);
            l.why = "The clutch fills: no dip means that it did not change.";
            l.low = "The clutch did not fill.";
            l.high = "A clutch that leaks.";
        }
    }

    /// The unit of a boost gauge for a change of boost: without its zero.
    static const UnitSpec* pressureUnit(const UnitSpec& boost) {
        const UnitSpec* found = findUnit(Dimension::pressure, boost.symbol);
        return found ? found : units::kPa.spec;
    }

    void reference() {
        if (!n_.gauges.contains(Gauge::boost)) {
            const double tolerance = n_.propeller.referenceTolerance;
            auto& l = line("full-throttle", "Full throttle, static", {});
            l.at = "wide open";
            l.band.normalLow = day_.staticRpm.si() - tolerance;
            l.band.normalHigh = day_.staticRpm.si() + tolerance;
            referenceWords(l);
            l.want = range(rounded(l.band), *l.unit);
            return;
        }
        RunUpSetting where;
        where.fieldPressure = true;
        auto& l = line("reference", "Reference rpm", where);
        const double tolerance = n_.propeller.referenceTolerance;
        l.band.normalLow = day_.referenceRpm.si() - tolerance;
        l.band.normalHigh = day_.referenceRpm.si() + tolerance;
        referenceWords(l);
        l.want = range(rounded(l.band), *l.unit);
    }
    void referenceWords(SheetLine& l) const {
        l.origin = Origin::model;
        l.why = "For this field's pressure and temperature: the one figure that tells most.";
        l.low = "Down on power: carburettor, valves or rings, when the magnetos are in order.";
        l.high = "The fine stop is misset, or the gauge is wrong.";
        l.seconds = n_.runUp.reference.si();
    }
    /// To whole tens of rpm, as it is shown; the verdict keeps the exact figures.
    static Band rounded(Band b) {
        const auto ten = [](double v) { return std::round(v * 6) / 6; };
        b.normalLow = ten(*b.normalLow);
        b.normalHigh = ten(*b.normalHigh);
        return b;
    }

    void magnetos() {
        if (!n_.runUp.magnetos)
            return;
        const auto& m = *n_.runUp.magnetos;
        for (const auto side : {MagnetoSide::left, MagnetoSide::right}) {
            const bool left = side == MagnetoSide::left;
            auto& l = line(std::string(nameOf(side)), left ? "Left mag drop" : "Right mag drop", m.at);
            l.kind = SheetKind::drop;
            l.want = fmt::format("{} to {}", formatValue(m.least.si(), *l.unit),
                                 format((left ? m.left : m.right).si(), *l.unit));
            l.why = fmt::format("Type the drop, with “slow” or “rough” where it was. Max {:.0f} seconds on one.",
                                m.onOne.si());
            l.seconds = high(m.at) ? m.onOne.si() : 0.0;
            l.stopper = true;
        }
        auto& d = line("apart", "Difference L–R", m.at);
        d.kind = SheetKind::computed;
        d.want = m.difference ? "max " + format(m.difference->si(), *d.unit) : "no limit";
        auto& c = line("cleared", "Clearing bursts given", m.clearing);
        c.kind = SheetKind::count;
        c.want = burst(m);
        c.why = "Oily plugs burn clean; then each magneto is judged again. Type how many were given.";
        auto& p = line("magnetos", "Magnetos", {});
        p.kind = SheetKind::computed;
        p.want = "within limits";
    }
    [[nodiscard]] std::string burst(const MagnetoNotes& m) const {
        const std::string where = at(m.clearing);
        return fmt::format("{}{:.0f} s", where.empty() ? "" : where + ", ", m.clearingFor.si());
    }

    void add(const RunUpItem& item) {
        const auto one = [&](std::string id, std::string what) {
            auto& l = line(std::move(id), std::move(what), item.at,
                           item.per == RunUpPer::engine ? item.per : RunUpPer::aircraft);
            l.dimension = item.dimension;
            l.unit = item.unit;
            l.band = item.band;
            l.want = range(item.band, *item.unit);
            l.why = item.why;
            l.low = item.low;
            l.high = item.high;
            l.stopper = item.stopper;
            l.seconds = high(item.at) ? item.atPower.si() : 0.0;
        };
        if (item.per == RunUpPer::tank)
            for (const auto& tank : n_.fuel.tanks)
                one(item.id + "/" + tank.id, fmt::format("{}, {}", item.what, tank.name));
        else
            one(item.id, item.what);
    }

    [[nodiscard]] const std::string* found(const std::string& key) const {
        const auto it = found_.find(key);
        return it == found_.end() ? nullptr : &it->second;
    }

    void fill(const SheetLine& l, SheetCell& cell) {
        const std::string* text = found(cell.key);
        if (!text || l.kind == SheetKind::computed)
            return;
        cell.shown = *text;
        if (l.kind == SheetKind::drop) {
            if (const auto drop = readDrop(*text)) {
                cell.value = drop.value().fall.si();
                cell.shown = wordsOf(drop.value());
                cell.verdict = judgeDrop(*n_.runUp.magnetos, l.id == "left" ? MagnetoSide::left : MagnetoSide::right,
                                         drop.value());
            }
            return;
        }
        if (l.kind == SheetKind::count) {
            std::string_view rest;
            if (const auto number = readNumber(*text, rest))
                cell.value = number.value();
            return;
        }
        if (const auto value = readQuantity(l.dimension, *text, l.unit)) {
            cell.value = value.value().si;
            cell.shown = format(value.value().si, *l.unit);
            cell.verdict = judgeReading(l.what, l.band, *l.unit, *cell.value, l.stopper);
            if (cell.verdict.colour() != Colour::normal) {
                const bool low = l.band.normalLow && *cell.value < *l.band.normalLow;
                cell.cause = low ? l.low : l.high;
                cell.next = cell.verdict.colour() == Colour::red
                                ? "Shut down and call the engineer."
                                : "Once more; if it stays, ask the engineer before flight.";
            }
        }
    }

    /// Difference and pattern of one engine's magnetos.
    void pattern(std::size_t engine) {
        if (!n_.runUp.magnetos)
            return;
        const auto& m = *n_.runUp.magnetos;
        const auto cellOf = [&](const char* id) -> SheetCell& {
            return std::find_if(sheet_.lines.begin(), sheet_.lines.end(),
                                [&](const SheetLine& l) { return l.id == id; })
                ->cells[engine];
        };
        const std::string *l = found(cellOf("left").key), *r = found(cellOf("right").key);
        if (!l || !r)
            return;
        const auto left = readDrop(*l), right = readDrop(*r);
        if (!left || !right)
            return;
        auto& apart = cellOf("apart");
        apart.value = std::abs(left.value().fall.si() - right.value().fall.si());
        apart.shown = format(*apart.value, *units::rpm.spec);
        apart.verdict = judgeDifference(m, left.value(), right.value());
        auto& says = cellOf("magnetos");
        const int cleared = static_cast<int>(cellOf("cleared").value.value_or(0));
        const auto f = magnetoFinding(m, left.value(), right.value(), cleared, burst(m));
        says.verdict = f.verdict;
        says.cause = f.cause;
        says.next = f.next;
        says.shown = f.verdict.colour() == Colour::normal  ? "within limits"
                     : f.burst                             ? "clear it"
                     : f.verdict.colour() == Colour::amber ? "ask first"
                                                           : "stop";
    }

    void total() {
        for (const auto& l : sheet_.lines) {
            for (std::size_t i = 0; i < l.cells.size(); ++i) {
                const auto& c = l.cells[i];
                if (l.kind != SheetKind::computed && l.kind != SheetKind::count) {
                    ++sheet_.cells;
                    sheet_.read += c.shown.empty() ? 0 : 1;
                }
                if (c.verdict.colour() > sheet_.worst.colour())
                    sheet_.worst = c.verdict;
                // Each magneto's own fall is told by the pattern of both, once it is there.
                const bool told = l.kind == SheetKind::drop || l.id == "apart";
                const auto* says = line("magnetos");
                if (c.verdict.colour() == Colour::normal ||
                    (told && says && !says->cells[std::min(i, says->cells.size() - 1)].shown.empty()))
                    continue;
                sheet_.findings.push_back(
                    {l.cells.size() > 1 ? sheet_.engines[i] : std::string{}, c.cause, c.next, c.verdict});
            }
        }
        std::stable_sort(sheet_.findings.begin(), sheet_.findings.end(),
                         [](const auto& a, const auto& b) { return a.verdict.colour() > b.verdict.colour(); });
    }
    [[nodiscard]] const SheetLine* line(std::string_view id) const { return sheet_.line(id); }

    const TypeNotes& n_;
    const std::map<std::string, std::string>& found_;
    const RunUpDay& day_;
    RunUpSheet sheet_;
};
} // namespace

const SheetLine* RunUpSheet::line(std::string_view id) const {
    const auto found = std::find_if(lines.begin(), lines.end(), [&](const SheetLine& l) { return l.id == id; });
    return found == lines.end() ? nullptr : &*found;
}

RunUpSheet runUpSheet(const TypeNotes& notes, const std::map<std::string, std::string>& found, const RunUpDay& day) {
    return Builder(notes, found, day).run();
}

Verdict RunUpSheet::highPowerVerdict(std::string why) const {
    return watch::highPower(highPower, highPowerMost, std::move(why));
}

std::string sheetRefusal(const SheetLine& l, const std::string& text) {
    if (l.kind == SheetKind::computed)
        return "this is worked out from the lines above";
    if (l.kind == SheetKind::drop) {
        const auto drop = readDrop(text);
        return drop ? std::string{} : drop.error();
    }
    if (l.kind == SheetKind::count) {
        std::string_view rest;
        const auto number = readNumber(text, rest);
        return number && rest.empty() && number.value() >= 0 && number.value() <= 9 &&
                       number.value() == std::floor(number.value())
                   ? std::string{}
                   : "a count between 0 and 9 is expected";
    }
    const auto value = readQuantity(l.dimension, text, l.unit);
    return value ? std::string{} : value.error();
}

std::string sheetKept(const SheetLine& l, const std::string& text) {
    if (l.kind == SheetKind::drop) {
        const auto drop = readDrop(text);
        return drop ? wordsOf(drop.value()) : text;
    }
    if (l.kind != SheetKind::reading)
        return text;
    const auto value = readQuantity(l.dimension, text, l.unit);
    return value ? format(value.value().si, *value.value().unit) : text;
}

std::string magnetoLimits(const TypeNotes& n) {
    if (!n.runUp.magnetos)
        return "a small, even drop, and smooth";
    const auto& m = *n.runUp.magnetos;
    const auto bare = [](Rotation r) { return formatValue(r.si(), *units::rpm.spec); };
    std::string out = m.left == m.right ? fmt::format("max drop {}", bare(m.left))
                                        : fmt::format("max drop left {}, right {}", bare(m.left), bare(m.right));
    if (m.difference)
        out += fmt::format(", difference {}", bare(*m.difference));
    return out;
}

} // namespace amber::watch
