// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/controls.h"
#include "cockpit/lever_acts.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace amber::cockpit {
namespace {
std::vector<std::string> parted(std::string_view text) {
    std::vector<std::string> out;
    while (!text.empty()) {
        const auto bar = text.find('|');
        out.emplace_back(text.substr(0, bar));
        text = bar == std::string_view::npos ? std::string_view{} : text.substr(bar + 1);
    }
    return out;
}

/// What every type of this equipment has, whatever its notes say.
std::vector<Acts> usual(const TypeNotes& n, const Equipment& e) {
    std::vector<Acts> out{Acts::throttle,       Acts::mixture,     Acts::fuel,   Acts::ignition,
                          Acts::carburettorAir, Acts::coolingFlap, Acts::brakes, Acts::lock};
    const auto when = [&](bool has, Acts acts) {
        if (has)
            out.push_back(acts);
    };
    when(e.hub != Hub::fixed, Acts::propeller);
    when(e.blower, Acts::gear);
    when(e.turbo, Acts::turbo);
    when(e.intercooler, Acts::intercooler);
    when(e.water, Acts::water);
    out.push_back(Acts::primer);
    when(e.starter != StarterKind::hand, Acts::pump);
    when(!n.start.starter.spark.empty(), Acts::spark);
    when(e.starter != StarterKind::air, Acts::starter);
    when(e.starter == StarterKind::inertia, Acts::mesh);
    when(e.starter == StarterKind::inertia || n.start.starter.boosterMost.has_value(), Acts::boosterCoil);
    when(e.starter == StarterKind::cartridge, Acts::cartridge);
    when(e.starter == StarterKind::air, Acts::airValve);
    when(e.electric, Acts::battery);
    when(e.electric, Acts::generator);
    when(e.electric, Acts::cart);
    when(e.dilutes, Acts::dilution);
    when(e.feathers, Acts::feathering);
    when(e.reverses, Acts::reversing);
    return out;
}

/// Positions that this control can have, from less to more.
std::vector<ControlPosition> known(const TypeNotes& n, const Equipment& e, Acts acts) {
    std::vector<ControlPosition> out;
    if (acts == Acts::gear) {
        for (const auto& gear : n.engine.gears)
            out.push_back({gear.name, gear.name});
        return out;
    }
    for (const auto& word : parted(rowOf(acts).positions))
        out.push_back({word, word});
    if (acts == Acts::fuel)
        for (const auto& tank : n.fuel.tanks)
            out.push_back({tank.id, tank.name});
    if (acts == Acts::mixture && e.carburettor == Carburettor::floatWithout)
        out.erase(out.begin());
    if (acts == Acts::starter && e.starter == StarterKind::inertia)
        out = {{"off", "off"}, {"on", "energise"}};
    if (acts == Acts::starter && e.starter == StarterKind::cartridge)
        out = {{"off", "off"}, {"on", "fire"}};
    if (acts == Acts::primer && n.start.primer == "blades")
        out = {{"locked", "let go"}, {"unlocked", "pulled"}};
    if (acts == Acts::starter && e.starter == StarterKind::hand)
        out = {{"off", "stands"}, {"on", "swung"}};
    return out;
}

/// The notes' names put on what they mean.
void mean(Control& c, const std::vector<ControlPosition>& meant, const std::string& file, Problems& problems) {
    for (auto& p : c.positions) {
        if (p.is.empty())
            for (const auto& m : meant)
                if (p.name == m.is || p.name == m.name)
                    p.is = m.is;
        if (p.is.empty()) // "auto rich" is rich; the longest word that it holds
            for (const auto& m : meant)
                if (p.name.find(m.is) != std::string::npos && m.is.size() > p.is.size())
                    p.is = m.is;
        // What a selector chooses is the type's own: left, centre, right.
        const bool own = c.acts == Acts::primer || c.acts == Acts::crossfeed || c.acts == Acts::transfer ||
                         c.acts == Acts::fuel || c.acts == Acts::trim || c.acts == Acts::wingFlap ||
                         c.acts == Acts::lock;
        if (p.is.empty() && own)
            p.is = p.name;
        if (own)
            continue;
        if (std::none_of(meant.begin(), meant.end(), [&](const ControlPosition& m) { return m.is == p.is; })) {
            std::vector<std::string> words;
            for (const auto& m : meant)
                words.push_back(m.is);
            problems.push_back(
                {file, c.line, fmt::format("{}: “{}” is no place known of it", c.id, p.name),
                 fmt::format("Write what it means before it, \"rich=T\"; known: {}", fmt::join(words, ", "))});
        }
    }
    // Written from the far end: turned, and its ends with it.
    const auto rank = [&](const ControlPosition& p) {
        return std::find_if(meant.begin(), meant.end(), [&](const ControlPosition& m) { return m.is == p.is; }) -
               meant.begin();
    };
    if (c.positions.size() > 1 && c.acts != Acts::fuel && rank(c.positions.front()) > rank(c.positions.back())) {
        std::reverse(c.positions.begin(), c.positions.end());
        std::swap(c.less, c.more);
    }
}

std::string capital(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

/// What the notes leave out, as is usual.
void complete(Control& c, const TypeNotes& n, const Equipment& e, const std::string& file, Problems& problems) {
    const ActsRow& row = rowOf(c.acts);
    if (c.name.empty())
        c.name = c.acts == Acts::coolingFlap && !n.coolingLever.empty()               ? n.coolingLever
                 : c.acts == Acts::coolingFlap && n.engine.cooling == Cooling::liquid ? "Radiator flap"
                 : c.acts == Acts::primer && n.start.primer == "blades"               ? "Pull through"
                 : c.acts == Acts::starter && e.starter == StarterKind::cartridge     ? "Cartridge"
                 : c.acts == Acts::starter && e.starter == StarterKind::hand          ? "By hand"
                                                                                      : capital(std::string(row.name));
    if (c.acts == Acts::starter && e.starter == StarterKind::hand && c.who.empty())
        c.who = "ground crew";
    if ((c.acts == Acts::cart || c.acts == Acts::cartridge || c.acts == Acts::lock) && c.who.empty())
        c.who = "ground crew";
    const bool outside = (c.acts == Acts::starter && e.starter == StarterKind::hand) ||
                         (c.acts == Acts::primer && n.start.primer == "blades");
    if (outside && c.who.empty())
        c.who = "ground crew";
    if (c.panel.empty()) {
        const auto gap = row.place.rfind(' ');
        c.panel = outside ? "outside" : row.place.substr(0, gap);
        c.column = static_cast<double>(row.place.back() - '0');
    }
    const auto bar = row.ends.find('|');
    const std::string less(row.ends.substr(0, bar)), more(row.ends.substr(bar + 1));
    if (c.less.empty()) {
        c.less = less;
        c.more = more;
    }
    const auto meant = known(n, e, c.acts);
    if (c.positions.empty())
        c.positions = meant;
    else
        mean(c, meant, file, problems);
    // Turned about against the usual sense.
    if (c.less == more && c.more == less && c.kind == ControlKind::lever && c.acts != Acts::carburettorAir)
        c.reversed = true;
    // Told where a hand could take it wrongly: a switch that is up for on needs no words.
    const bool plain = c.origin == Origin::practice && c.kind != ControlKind::lever;
    if (c.sense.empty() && !c.positions.empty() && !plain && c.more != c.positions.back().name &&
        c.acts != Acts::trim && c.acts != Acts::brakes && c.acts != Acts::fuel && c.acts != Acts::ignition)
        c.sense = fmt::format("{} is {}", c.more, c.positions.back().name);
}
} // namespace

const Control* find(const std::vector<Control>& controls, std::string_view id) {
    const auto found = std::find_if(controls.begin(), controls.end(), [&](const Control& c) { return c.id == id; });
    return found == controls.end() ? nullptr : &*found;
}

const Control* acting(const std::vector<Control>& controls, Acts on) {
    const auto found = std::find_if(controls.begin(), controls.end(), [&](const Control& c) { return c.acts == on; });
    return found == controls.end() ? nullptr : &*found;
}

const std::string& worker(const Control& control, const std::vector<std::string>& crew) {
    static const std::string pilot = "pilot";
    return !control.who.empty() ? control.who : crew.empty() ? pilot : crew.front();
}

double place(const Control& control, std::string_view position) {
    for (std::size_t i = 0; i < control.positions.size(); ++i)
        if (control.positions[i].is == position)
            return control.positions.size() < 2
                       ? 0.0
                       : static_cast<double>(i) / static_cast<double>(control.positions.size() - 1);
    return 0.0;
}

std::vector<Follower> followers(const std::vector<Control>& controls, const Control& moved, std::string_view position) {
    std::vector<Follower> out;
    if (!moved.position(position))
        return out;
    const double share = place(moved, position);
    for (const auto& id : moved.links)
        if (const Control* c = find(controls, id); c && !c->positions.empty()) {
            const auto last = static_cast<double>(c->positions.size() - 1);
            out.push_back({c, c->positions[static_cast<std::size_t>(std::lround(share * last))].is});
        }
    return out;
}

std::vector<Control> controls(const TypeNotes& n, Problems& problems) {
    const Equipment e = equipmentOf(n);
    std::vector<Control> out = n.controls;
    std::set<std::string> ids;
    for (const auto& c : out)
        if (!ids.insert(c.id).second)
            problems.push_back(
                {n.file, c.line, fmt::format("control \"{}\" stands twice", c.id), "Give each its own id"});
    // Format 1 has levers: what they act on shows in their ids.
    for (const auto& lever : n.levers) {
        const auto acts = actsOf(lever);
        if (!acts || ids.contains(lever.id))
            continue;
        Control c;
        c.id = lever.id;
        c.acts = *acts;
        c.each = rowOf(*acts).each;
        c.kind = rowOf(*acts).kind;
        c.name = lever.name;
        c.sense = lever.sense;
        c.reversed = lever.reversed;
        c.origin = Origin::notes;
        for (const auto& p : lever.positions)
            c.positions.push_back({{}, p});
        out.push_back(std::move(c));
    }
    std::vector<Acts> wanted = usual(n, e);
    for (const auto& key : n.has)
        if (const auto acts = actsFromKey(key))
            wanted.push_back(*acts);
    for (const Acts acts : wanted) {
        const std::string key(rowOf(acts).key);
        if (acting(out, acts) || std::find(n.without.begin(), n.without.end(), key) != n.without.end())
            continue;
        Control c;
        c.id = key;
        c.acts = acts;
        c.each = rowOf(acts).each;
        c.kind = rowOf(acts).kind;
        out.push_back(std::move(c));
    }
    for (auto& c : out)
        complete(c, n, e, n.file, problems);
    // The order of a lever's positions in format 1 tells nothing of its ends; whether it is turned about does.
    for (auto& c : out)
        for (const auto& lever : n.levers)
            if (n.format == 1 && lever.id == c.id && c.kind == ControlKind::lever) {
                const auto ends = rowOf(c.acts).ends;
                const auto bar = ends.find('|');
                c.less = ends.substr(0, bar);
                c.more = ends.substr(bar + 1);
                c.reversed = lever.reversed;
                if (c.reversed)
                    std::swap(c.less, c.more);
            }
    for (const auto& c : out)
        for (const auto& link : c.links)
            if (!find(out, link) || link == c.id)
                problems.push_back({n.file, c.line,
                                    fmt::format("{} is linked to \"{}\", which is not there", c.id, link),
                                    "Use the id of a control"});
    // The hand's own panels first, what is outside last.
    const auto rank = [](const Control& c) {
        return c.panel == "overhead" || c.panel == "quadrant" ? 0
               : c.panel.starts_with("engine")                ? 1
               : c.panel == "outside"                         ? 3
                                                              : 2;
    };
    std::stable_sort(out.begin(), out.end(), [&](const Control& a, const Control& b) {
        return rank(a) != rank(b) ? rank(a) < rank(b) : a.panel != b.panel ? a.panel < b.panel : a.column < b.column;
    });
    return out;
}

} // namespace amber::cockpit
