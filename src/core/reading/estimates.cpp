// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/estimates.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::Node;

class Completer {
public:
    explicit Completer(Node& root) : root_(root) {}

    std::vector<Estimate> run() {
        const Node* format = root_.find("format");
        if (!format || format->kind != Node::Kind::number || format->number < 2)
            return {};
        cockpit();
        position();
        engine();
        start();
        warming();
        stopping();
        heat();
        phases();
        return std::move(out_);
    }

private:
    // ---- looking
    [[nodiscard]] const Node* at(std::string_view path, const Node* from = nullptr) const {
        const Node* node = from ? from : &root_;
        while (node && !path.empty()) {
            const auto dot = path.find('.');
            node = node->kind == Node::Kind::table ? node->find(path.substr(0, dot)) : nullptr;
            path = dot == std::string_view::npos ? std::string_view{} : path.substr(dot + 1);
        }
        return node;
    }
    [[nodiscard]] std::optional<double> si(Dimension d, std::string_view path, const Node* from = nullptr) const {
        const Node* node = at(path, from);
        if (node && node->kind == Node::Kind::number && d == Dimension::rotation)
            return node->number / 60.0;
        if (!node || node->kind != Node::Kind::text)
            return std::nullopt;
        const auto read = readQuantity(d, node->text, d == Dimension::rotation ? units::rpm.spec : nullptr);
        return read ? std::optional(read.value().si) : std::nullopt;
    }
    /// Low and high of "60 to 85 °C".
    [[nodiscard]] std::optional<std::pair<double, double>> range(Dimension d, std::string_view path) const {
        const Node* node = at(path);
        if (!node || node->kind != Node::Kind::text)
            return std::nullopt;
        const auto to = node->text.find(" to ");
        const auto high =
            to == std::string::npos ? Result<Written>(Failure{""}) : readQuantity(d, node->text.substr(to + 4));
        if (!high)
            return std::nullopt;
        const auto low = readQuantity(d, node->text.substr(0, to), high.value().unit);
        return low ? std::optional(std::pair{low.value().si, high.value().si}) : std::nullopt;
    }
    /// The unit in which a figure or a range is written; null where there is none.
    [[nodiscard]] const UnitSpec* writtenIn(Dimension d, std::string_view path, const Node* from = nullptr) const {
        const Node* node = at(path, from);
        if (!node || node->kind != Node::Kind::text)
            return nullptr;
        const auto to = node->text.find(" to ");
        const auto read = readQuantity(d, to == std::string::npos ? node->text : node->text.substr(to + 4));
        return read ? read.value().unit : nullptr;
    }
    [[nodiscard]] const Node* first(std::string_view list) const {
        const Node* all = at(list);
        return all && all->kind == Node::Kind::array && !all->items.empty() ? &all->items.front() : nullptr;
    }
    /// A rating by its key, or by the key that a phase names.
    [[nodiscard]] const Node* rating(std::string_view phase) const {
        const Node* key = at(std::string(phase) + ".rating");
        const Node* all = root_.find("rating");
        if (!all || all->kind != Node::Kind::array)
            return nullptr;
        for (const auto& r : all->items)
            if (const Node* id = r.find("key"); key && id && id->text == key->text)
                return &r;
        return all->items.empty() ? nullptr : &all->items.front();
    }
    // ---- filling
    void give(const std::string& path, Node value, std::string told, std::string why) {
        if (at(path))
            return;
        Node* into = &root_;
        std::string_view rest = path;
        for (auto dot = rest.find('.'); dot != std::string_view::npos; dot = rest.find('.')) {
            const std::string key(rest.substr(0, dot));
            if (!into->find(key)) {
                into->members.push_back({key, {}});
                into->members.back().value.line = into->line;
            }
            into = into->find(key);
            if (into->kind != Node::Kind::table)
                return;
            rest.remove_prefix(dot + 1);
        }
        value.line = into->line;
        into->members.push_back({std::string(rest), std::move(value)});
        out_.push_back({path, std::move(told), std::move(why)});
    }
    void text(const std::string& path, std::string value, std::string why) {
        Node n;
        n.kind = Node::Kind::text;
        n.text = value;
        give(path, std::move(n), std::move(value), std::move(why));
    }
    void number(const std::string& path, double value, std::string why) {
        Node n;
        n.kind = Node::Kind::number;
        n.number = value;
        give(path, std::move(n), fmt::format("{:g}", value), std::move(why));
    }
    void celsius(const std::string& path, double kelvin, std::string why) {
        text(path, fmt::format("{:.0f} °C", kelvin - 273.15), std::move(why));
    }
    void rpm(const std::string& path, double revsPerSecond, std::string why) {
        number(path, std::round(revsPerSecond * 60 / 10) * 10, std::move(why));
    }
    [[nodiscard]] bool liquid() const {
        const Node* cooling = at("engine.cooling");
        return cooling && cooling->text == "liquid";
    }
    [[nodiscard]] double mostRpm() const {
        const auto most = rating("take-off") ? si(Dimension::rotation, "rpm", rating("take-off")) : std::nullopt;
        return most.value_or(40.0);
    }

    /// A pressure as its gauge is written; in bar where that says nothing.
    [[nodiscard]] std::string pressure(std::string_view like, double pascal) const {
        const UnitSpec* unit = writtenIn(Dimension::pressure, like);
        return unit ? format(pascal, *unit, unit->decimals + 1) : fmt::format("{:.2f} bar", pascal / 1e5);
    }
    /// Its needles in the units in which the booklet is written.
    void cockpit() {
        const auto like = [&](const char* key, Dimension d, std::string_view path, const Node* from, const char* why) {
            if (const UnitSpec* unit =
                    from || path.find('.') != std::string_view::npos ? writtenIn(d, path, from) : nullptr)
                text(std::string("cockpit.") + key, std::string(unit->symbol), why);
        };
        like("boost", Dimension::manifoldPressure, "boost", first("rating"), "as its ratings are written");
        like("pressure", Dimension::pressure, "limits.oil-pressure.normal", nullptr, "as its oil pressure is written");
        like("speed", Dimension::speed, "light", first("speeds.entry"), "as its speeds are written");
        like("height", Dimension::length, "height", first("performance"), "as its performance is written");
        like("fuel", Dimension::volume, "capacity", first("fuel.tank"), "as its tanks are written");
        like("weight", Dimension::mass, "type.max_weight", nullptr, "as its weights are written");
        if (const UnitSpec* speed = writtenIn(Dimension::speed, "light", first("speeds.entry")))
            text("cockpit.distance",
                 speed->symbol == "km/h"  ? "km"
                 : speed->symbol == "mph" ? "mi"
                                          : "nm",
                 "as its speeds are written");
    }
    void position() {
        if (root_.find("position"))
            return;
        Node one, all;
        Node id;
        id.kind = Node::Kind::text;
        id.text = "1";
        Node name = id;
        name.text = "Engine";
        one.kind = Node::Kind::table;
        one.members = {{"id", id}, {"name", name}};
        all.kind = Node::Kind::array;
        all.items.push_back(std::move(one));
        give("position", std::move(all), "one engine", "no [[position]] is written");
    }
    void engine() {
        if (at("engine.supercharger"))
            if (const auto litres = si(Dimension::volume, "engine.displacement"))
                text("engine.supercharger.impeller", fmt::format("{:.1f} cm", 8.25 * std::cbrt(*litres * 1e3)),
                     "as the cube root of the displacement, 28 cm for 40 l");
        const Node* pitch = at("propeller.pitch");
        text("propeller.kind", pitch ? pitch->text : "constant speed", "as its pitch says");
        if (const Node* gears = at("engine.supercharger.gear"); gears && gears->items.size() > 1 && rating("climb"))
            if (const auto boost = si(Dimension::manifoldPressure, "boost", rating("climb"))) {
                text("gear_change.fall", "3 inHg", "the usual fall");
                text("gear_change.throttle_back_to",
                     format(0.8 * *boost, *writtenIn(Dimension::manifoldPressure, "boost", rating("climb"))),
                     "four fifths of the climb's boost");
            }
    }
    void start() {
        text("engine_start.primer", "strokes", "the usual primer");
        if (const Node* all = root_.find("position"); all && !at("engine_start.order")) {
            Node order;
            order.kind = Node::Kind::array;
            for (const auto& p : all->items)
                if (const Node* id = p.find("id"))
                    order.items.push_back(*id);
            give("engine_start.order", std::move(order), "as they are listed", "no order is written");
        }
        number("engine_start.minutes_per_engine", 3, "the usual time");
        text("engine_start.crank_most", "20 s", "a starter's usual limit");
        text("engine_start.rest", "60 s", "a starter's usual rest");
        text("engine_start.oil_pressure_within", "30 s", "the usual half minute");
        if (const auto least = si(Dimension::pressure, "limits.oil-pressure.min"))
            text("engine_start.oil_pressure", pressure("limits.oil-pressure.min", 0.7 * *least),
                 "seven tenths of its least in flight");
        text("engine_start.starter.kind", "direct", "an electric starter");
        if (const Node* kind = at("engine_start.starter.kind");
            kind && (kind->text == "direct" || kind->text == "inertia")) {
            number("engine_start.battery.volts", 24, "the usual battery");
            number("engine_start.battery.ampere_hours", 34, "the usual battery");
        }
        rpm("start.rpm", 0.3 * mostRpm(), "three tenths of the greatest rpm");
        number("start.flap", liquid() ? 0.5 : 1.0, liquid() ? "half, until it is warm" : "open on the ground");
    }
    void warming() {
        const double oil = si(Dimension::temperature, "limits.oil.min").value_or(288.15);
        celsius("warming.oil_run_up", std::max(oil, 288.15 + 10), "the notes' least oil, 25 °C at least");
        celsius("warming.oil_take_off", std::max(oil, 288.15 + 10) + 5, "a little above that of the run-up");
        number("warming.taxi", 5, "minutes to the holding point");
        rpm("warming.taxi_rpm", 0.38 * mostRpm(), "four tenths of the greatest rpm");
        rpm("warm-up.rpm", 0.38 * mostRpm(), "four tenths of the greatest rpm");
        number("warm-up.flap", 1.0, "open on the ground");
        rpm("run-up.rpm", 0.65 * mostRpm(), "two thirds of the greatest rpm");
        number("run-up.flap", 1.0, "open on the ground");
    }
    void stopping() {
        text("cooling_down.scavenge", "30 s", "the usual half minute");
        rpm("cooling_down.scavenge_rpm", 0.45 * mostRpm(), "a fast idle");
        rpm("stop.rpm", 0.32 * mostRpm(), "an idle that does not load up");
        number("stop.flap", 1.0, "open on the ground");
    }
    void heat() {
        const Node* climb = at("climb.rating");
        if (climb)
            text("heat.rating", climb->text, "the climb's");
        else if (const Node* line = first("rating"); line && line->find("key"))
            text("heat.rating", line->find("key")->text, "the first rating's: [climb] names none");
        if (const Node* lines = root_.find("performance"); lines && lines->kind == Node::Kind::array)
            for (const auto& l : lines->items)
                if (l.find("rate") && l.find("ias"))
                    text("heat.ias", l.find("ias")->text, "of the climbing performance line");
        number("heat.flap", 0.5, "half open");
        const char* gauge = liquid() ? "coolant" : "head";
        if (const auto normal = range(Dimension::temperature, fmt::format("limits.{}.normal", gauge)))
            celsius(fmt::format("heat.{}", gauge), normal->second - 8.0, "just inside the top of its normal range");
        if (const auto normal = range(Dimension::temperature, "limits.oil.normal"))
            celsius("heat.oil", 0.5 * (normal->first + normal->second), "the middle of its normal range");
        if (const auto normal = range(Dimension::pressure, "limits.oil-pressure.normal")) {
            // Cold oil stands up to a tenth over the relief valve's setting: not out of the normal range by our own
            // estimate.
            constexpr double cold = 1.12;
            const double up = normal->first + 0.75 * (normal->second - normal->first);
            const bool lower = normal->second / cold < up && normal->second / cold > normal->first;
            text("heat.oil_relief", pressure("limits.oil-pressure.normal", lower ? normal->second / cold : up),
                 lower ? "as high as cold oil stays in its normal range" : "three quarters up its normal range");
        }
        if (const auto normal = range(Dimension::pressure, "limits.fuel-pressure.normal"))
            text("heat.fuel_pressure", pressure("limits.fuel-pressure.normal", 0.5 * (normal->first + normal->second)),
                 "the middle of its normal range");
        else
            text("heat.fuel_pressure", "0.3 bar", "a float carburettor's");
    }
    void phases() {
        // Not longer than the rating that it is flown at may last.
        const Node* opened = rating("take-off");
        const Node* time = opened ? opened->find("minutes") : nullptr;
        std::optional<double> lasts; // min
        if (time && time->kind == Node::Kind::number)
            lasts = time->number;
        else if (const auto written = opened ? si(Dimension::duration, "minutes", opened) : std::nullopt)
            lasts = *written / 60.0;
        constexpr double usual = 1.5; // min
        const bool shorter = lasts && *lasts < usual;
        number("take-off.minutes", shorter ? *lasts : usual,
               shorter ? "as long as its rating may last" : "the usual time to safe height");
        number("take-off.flap", 0.5, "half open");
        number("climb.flap", 0.5, "half open");
        number("cruise.flap", 0.25, "a quarter open");
        const Node* cruise = rating("cruise");
        const double rpmOf = cruise ? si(Dimension::rotation, "rpm", cruise).value_or(0.0) : 0.0;
        const double boostOf = cruise ? si(Dimension::manifoldPressure, "boost", cruise).value_or(0.0) : 0.0;
        std::string level, approach;
        if (const Node* lines = root_.find("performance"); lines && lines->kind == Node::Kind::array)
            for (const auto& l : lines->items)
                if (!l.find("rate") && l.find("ias"))
                    level = l.find("ias")->text;
        if (const Node* entries = at("speeds.entry"); entries && entries->kind == Node::Kind::array)
            for (const auto& e : entries->items)
                if (const Node* id = e.find("id"); id && id->text == "approach" && e.find("heavy"))
                    approach = e.find("heavy")->text;
        for (const char* phase : {"let-down", "landing"}) {
            const std::string p = phase;
            const bool down = p == "let-down";
            if (rpmOf > 0)
                rpm(p + ".rpm", down ? 0.95 * rpmOf : rpmOf, down ? "under the cruise's" : "the cruise's");
            if (boostOf > 0)
                text(p + ".boost", fmt::format("{:.1f} inHg", (down ? 0.75 : 0.65) * boostOf / 3386.389),
                     "under the cruise's");
            if (const std::string& speed = down ? level : approach; !speed.empty())
                text(p + ".ias", speed, down ? "of the level performance line" : "the approach's");
            number(p + ".flap", down ? 0.0 : 0.2, down ? "shut: shock cooling" : "for going round");
        }
        text("let-down.rate", "500 ft/min", "the usual rate");
        number("landing.minutes", 5, "the usual circuit");
    }

    Node& root_;
    std::vector<Estimate> out_;
};
} // namespace

std::vector<Estimate> complete(document::Node& root) {
    return Completer(root).run();
}

} // namespace amber::notes
