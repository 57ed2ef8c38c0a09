// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/acts.h"
#include "cockpit/controls.h"
#include "files/csv.h"
#include "notes/cockpit_units.h"
#include "notes/gauge_register.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::rehearse {
namespace {
using powerplant::shortStep;
constexpr double longest = 86'400.0; // s of one file

/// What a bare or written figure of this control is.
Dimension dimensionOf(const Control& control, std::string_view text) {
    switch (control.acts) {
    case Acts::throttle:
        return text.find("rpm") != std::string_view::npos ? Dimension::rotation : Dimension::manifoldPressure;
    case Acts::propeller:
        return Dimension::rotation;
    default:
        return Dimension::duration;
    }
}
const UnitSpec* unitOf(Dimension dimension, const TypeNotes& n) {
    return dimension == Dimension::rotation           ? units::rpm.spec
           : dimension == Dimension::manifoldPressure ? n.cockpit.boost
                                                      : units::second.spec;
}
Target position(std::string is) {
    Target out;
    out.kind = Target::Kind::position;
    out.word = std::move(is);
    return out;
}
Target quantity(Dimension dimension, double si) {
    Target out;
    out.kind = Target::Kind::quantity;
    out.dimension = dimension;
    out.si = si;
    return out;
}
Milliseconds inSteps(double seconds) {
    return static_cast<Milliseconds>(std::llround(seconds * 10.0)) * shortStep;
}

class Reader {
public:
    Reader(const std::string& file, const TypeNotes& notes, Problems& problems)
        : file_(file), n_(notes), problems_(problems) {}

    std::optional<Act> act(const std::vector<std::string>& cells, int line) {
        line_ = line;
        if (cells.size() < 4 || cells.size() > 5)
            return wrong(fmt::format("{} cells where there are four or five", cells.size()),
                         "Write time,engine,what,to and, where it is moved gradually, over");
        Act a;
        a.line = line;
        const auto time = readQuantity(Dimension::duration, cells[0], units::second.spec);
        if (!time || time.value().si < 0 || time.value().si > longest)
            return wrong(fmt::format("“{}” is no time", cells[0]), "Write seconds, 0 to 86,400");
        a.at = inSteps(time.value().si);
        if (!engine(cells[1], a))
            return std::nullopt;
        if (cells.size() == 5 && !cells[4].empty()) {
            const auto over = readQuantity(Dimension::duration, cells[4], units::second.spec);
            if (!over || over.value().si < 0 || over.value().si > 600)
                return wrong(fmt::format("“{}” is no time to move a control in", cells[4]), "Write seconds, 0 to 600");
            a.over = over.value().si;
        }
        if (cells[2] == "phase")
            return phase(cells[3], a);
        if (cells[2] == "call")
            return call(cells[3], a);
        if (cells[2] == "answer")
            return answer(cells[3], a);
        const Control* control = cockpit::find(n_.controls, cells[2]);
        if (!control)
            return wrong(fmt::format("“{}” is no control of the {}", cells[2], n_.name),
                         fmt::format("Write one of {}", controls()));
        a.control = static_cast<std::size_t>(control - n_.controls.data());
        return put(*control, cells[3], a);
    }

private:
    std::optional<Act> wrong(std::string what, std::string remedy) {
        problems_.push_back({file_, line_, std::move(what), std::move(remedy)});
        return std::nullopt;
    }
    bool engine(const std::string& text, Act& a) {
        if (text.empty() || text == "all")
            return true;
        for (std::size_t i = 0; i < n_.positions.size(); ++i)
            if (n_.positions[i].id == text)
                a.engine = static_cast<int>(i);
        if (a.engine < 0)
            wrong(fmt::format("“{}” is no engine of the notes", text), "Write its id, or all");
        return a.engine >= 0;
    }
    std::optional<Act> phase(const std::string& text, Act& a) {
        const auto phase = phaseFromKey(text);
        if (!phase || static_cast<std::size_t>(*phase) >= plannedPhases)
            return wrong(fmt::format("“{}” is no phase that is flown", text), "Write its key, as take-off");
        a.kind = Act::Kind::phase;
        a.phase = *phase;
        return a;
    }
    std::optional<Act> call(const std::string& text, Act& a) {
        const auto fault = powerplant::faultFromKey(text);
        if (!fault)
            return wrong(fmt::format("“{}” is no fault", text), "docs/formats/trace.md lists them");
        a.kind = Act::Kind::call;
        a.called = *fault;
        return a;
    }
    std::optional<Act> answer(const std::string& text, Act& a) {
        for (std::size_t p = 0; p < plannedPhases; ++p)
            for (const auto& step : n_.phase(static_cast<Phase>(p)).steps)
                if (step.id == text && !text.empty()) {
                    a.kind = Act::Kind::answer;
                    a.item = text;
                    return a;
                }
        return wrong(fmt::format("“{}” is no step of the drills of the {}", text, n_.name),
                     "amber-throttle drill lists them with their ids");
    }
    std::optional<Act> put(const Control& control, const std::string& text, Act& a) {
        if (const auto* there = control.position(text)) {
            a.to = position(there->is);
            return a;
        }
        for (const auto& tank : n_.fuel.tanks)
            if (control.acts == Acts::fuel && tank.id == text) {
                a.to = position(tank.id);
                return a;
            }
        std::string_view rest;
        const auto number = readNumber(text, rest);
        while (!rest.empty() && rest.front() == ' ')
            rest.remove_prefix(1);
        if (number && rest == "%" && travels(control)) {
            if (number.value() < 0 || number.value() > 100)
                return wrong(fmt::format("{} is not from 0 to 100 %", text), "Write the share of its travel");
            a.share = number.value() / 100.0;
            return a;
        }
        if (number && control.acts == Acts::primer && (rest == "strokes" || rest == "doses" || rest.empty())) {
            if (number.value() < 0 || number.value() > 60)
                return wrong(fmt::format("{} strokes are not from 0 to 60", text), "Write how many are given");
            a.strokes = number.value();
            a.to =
                quantity(Dimension::duration, a.over > 0 ? a.over : a.strokes * std::max(0.5, n_.start.primeTime.si()));
            a.over = 0.0;
            return a;
        }
        if (number && (control.acts == Acts::throttle || control.acts == Acts::propeller)) {
            const Dimension dimension = dimensionOf(control, text);
            const auto read = readQuantity(dimension, text, unitOf(dimension, n_));
            if (!read)
                return wrong(fmt::format("{}: {}", control.id, read.error()), "Write a boost, rpm or a share in %");
            if (dimension == Dimension::rotation ? read.value().si < 0 || read.value().si > 100
                                                 : read.value().si < 0 || read.value().si > 5e5)
                return wrong(fmt::format("{}: {} is out of range", control.id, text),
                             "Write 0 to 6,000 rpm, or a manifold pressure of 0 to 5 bar");
            a.to = quantity(dimension, read.value().si);
            return a;
        }
        return wrong(fmt::format("{} cannot be put to “{}”", control.id, text),
                     fmt::format("Write {}", choices(control)));
    }
    [[nodiscard]] std::string controls() const {
        std::string out;
        for (const auto& c : n_.controls)
            out += (out.empty() ? "" : ", ") + c.id;
        return out + "; or phase, call, answer";
    }
    static std::string choices(const Control& control) {
        std::string out;
        for (const auto& p : control.positions)
            out += (out.empty() ? "" : ", ") + p.is;
        if (travels(control))
            out += (out.empty() ? "" : ", ") + std::string("a share in %");
        if (control.acts == Acts::throttle)
            out += ", a boost or rpm";
        if (control.acts == Acts::propeller)
            out += ", rpm";
        if (control.acts == Acts::primer)
            out += " strokes, as “4 strokes”";
        return out;
    }

    const std::string& file_;
    const TypeNotes& n_;
    Problems& problems_;
    int line_ = 0;
};

/// Exact enough to come back to the same double.
std::string exact(double value, const UnitSpec& unit) {
    return fmt::format("{} {}", (value - unit.offset) / unit.scale, unit.symbol);
}
std::string toOf(const Act& a, const TypeNotes& n) {
    if (a.kind == Act::Kind::phase)
        return std::string(keyOf(a.phase));
    if (a.kind == Act::Kind::call)
        return std::string(nameOf(a.called).key);
    if (a.kind == Act::Kind::answer)
        return a.item;
    if (a.share)
        return fmt::format("{} %", *a.share * 100.0);
    if (a.to.kind == Target::Kind::quantity && n.controls[a.control].acts == Acts::primer)
        return fmt::format("{} strokes", a.strokes);
    if (a.to.kind == Target::Kind::quantity)
        return exact(a.to.si, *unitOf(a.to.dimension, n));
    return a.to.word;
}
} // namespace

std::optional<std::vector<Act>> readActs(std::string_view text, const std::string& file, const TypeNotes& notes,
                                         Problems& problems) {
    const std::size_t before = problems.size();
    std::vector<Act> out;
    Reader reader(file, notes, problems);
    bool header = false;
    csv::eachLine(text, [&](const std::vector<std::string>& cells, int line) {
        if (!header) {
            header = true;
            if (cells.size() >= 4 && cells[0] == "time")
                return;
            problems.push_back(
                {file, line, "the first line does not name the columns", "Begin with: time,engine,what,to,over"});
        }
        if (auto act = reader.act(cells, line))
            out.push_back(std::move(*act));
    });
    if (problems.size() > before)
        return std::nullopt;
    std::stable_sort(out.begin(), out.end(), [](const Act& a, const Act& b) { return a.at < b.at; });
    return out;
}

std::string writeActs(const std::vector<Act>& acts, const TypeNotes& n) {
    std::string out = "time,engine,what,to,over\n";
    for (const auto& a : acts) {
        const std::string what = a.kind == Act::Kind::phase    ? "phase"
                                 : a.kind == Act::Kind::call   ? "call"
                                 : a.kind == Act::Kind::answer ? "answer"
                                                               : n.controls[a.control].id;
        const bool primes = a.kind == Act::Kind::control && n.controls[a.control].acts == Acts::primer &&
                            a.to.kind == Target::Kind::quantity;
        const double over = primes ? a.to.si : a.over;
        out += fmt::format("{:.1f},{},{},{},{}\n", static_cast<double>(a.at) / 1000.0,
                           a.engine < 0 ? "all" : n.positions[static_cast<std::size_t>(a.engine)].id, what, toOf(a, n),
                           over > 0 ? fmt::format("{} s", over) : "");
    }
    return out;
}

Act actOf(const hand::Put& p) {
    Act a;
    a.at = p.at;
    a.control = p.control;
    a.engine = static_cast<int>(p.engine);
    a.over = p.over;
    a.share = p.to.share;
    a.strokes = p.to.doses;
    if (!p.to.position.empty())
        a.to = position(p.to.position);
    else if (p.to.si)
        a.to = quantity(p.to.dimension, *p.to.si);
    return a;
}

std::vector<Act> actsOf(const hand::HandRun& run) {
    std::vector<Act> out;
    std::size_t ended = 0; // phases
    for (std::size_t i = 0; i <= run.put.size(); ++i) {
        for (; ended + 1 < plannedPhases && run.ends[ended].put <= i; ++ended) {
            Act next;
            next.kind = Act::Kind::phase;
            next.at = inSteps(run.ends[ended].time);
            next.phase = static_cast<Phase>(ended + 1);
            if (next.phase > Phase::walkRound) // it begins there
                out.push_back(std::move(next));
        }
        if (i == run.put.size() || run.put[i].linked)
            continue; // what is linked follows by itself
        out.push_back(actOf(run.put[i]));
    }
    return out;
}

bool noStrokes(const hand::Put& put, const TypeNotes& n) {
    return n.controls[put.control].acts == Acts::primer && put.to.position.empty() && put.to.doses <= 0.0;
}

bool travels(const Control& control) {
    return control.acts == Acts::throttle || control.acts == Acts::coolingFlap || control.acts == Acts::carburettorAir;
}

std::string shareText(const Control& control, double share) {
    return fmt::format("{:.0f} %{}", std::round(share * 100.0), control.acts == Acts::carburettorAir ? " hot" : "");
}

bool isNear(double a, double b) {
    constexpr double onFigure = 0.02;
    return std::abs(a - b) <= onFigure * std::abs(b);
}

bool standsAs(const Control& control, const advice::Figure& asked, const hand::At& is) {
    constexpr double onTravel = 0.06;
    const auto travel = [](const std::string& position, const std::optional<double>& share) -> std::optional<double> {
        return share                                      ? share
               : position == "shut" || position == "cold" ? std::optional{0.0}
               : position == "open" || position == "hot"  ? std::optional{1.0}
                                                          : share;
    };
    if (!asked.position.empty() && asked.position == is.position)
        return true;
    if (asked.share || (is.share && travels(control) && control.acts != Acts::throttle)) {
        const auto a = travel(asked.position, asked.share), b = travel(is.position, is.share);
        return a && b && std::abs(*a - *b) <= onTravel;
    }
    return asked.position.empty() && asked.si && is.si && isNear(*is.si, *asked.si);
}

advice::Figure figureOf(const Act& act) {
    advice::Figure out;
    out.share = act.share;
    out.doses = act.strokes;
    if (act.to.kind == Target::Kind::position)
        out.position = act.to.word;
    if (act.to.kind == Target::Kind::quantity) {
        out.si = act.to.si;
        out.dimension = act.to.dimension;
    }
    return out;
}

std::string said(const Act& act, const TypeNotes& n) {
    const std::string whose =
        act.engine < 0 || n.engineCount() < 2 ? "" : n.positions[static_cast<std::size_t>(act.engine)].name + " ";
    if (act.kind == Act::Kind::phase)
        return fmt::format("{} begins", titleOf(act.phase));
    if (act.kind == Act::Kind::call)
        return fmt::format("called: {}{}", whose, nameOf(act.called).title);
    if (act.kind == Act::Kind::answer)
        return fmt::format("answered: {}{}", whose, act.item);
    return fmt::format("{}{} to {}", whose, n.controls[act.control].name, whereTo(act, n));
}

std::string whereTo(const Act& act, const TypeNotes& n) {
    const Control& c = n.controls[act.control];
    if (act.share)
        return shareText(c, *act.share);
    if (act.to.kind == Target::Kind::quantity && c.acts == Acts::primer)
        return fmt::format("{} strokes", formatNumber(act.strokes, 1));
    if (act.to.kind == Target::Kind::quantity)
        return format(act.to.si, *unitOf(act.to.dimension, n));
    if (const auto* position = c.position(act.to.word))
        return position->name;
    return act.to.word;
}

} // namespace amber::rehearse
