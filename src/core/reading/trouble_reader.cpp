// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/trouble_reader.h"
#include "reading/step_reader.h"
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::TableReader;

/// Figures that stand beside a drill's steps.
void readFigures(TableReader& t, Emergency which, TroubleNotes& out) {
    const UnitSpec* rpm = units::rpm.spec;
    switch (which) {
    case Emergency::feather:
        out.featherTakes = t.quantity<Dimension::duration>("takes");
        out.featherBefore = t.quantity<Dimension::rotation>("before_rpm", false, rpm);
        break;
    case Emergency::restart:
        out.warmBoost = t.quantity<Dimension::manifoldPressure>("warm_boost");
        out.warmRpm = t.quantity<Dimension::rotation>("warm_rpm", false, rpm);
        out.warmFor = t.quantity<Dimension::duration>("warm_for");
        break;
    case Emergency::dive:
        out.diveRpm = t.quantity<Dimension::rotation>("rpm", false, rpm);
        out.diveFor = t.quantity<Dimension::duration>("rpm_for");
        out.diveIas = t.quantity<Dimension::speed>("ias");
        out.diveBoost = t.quantity<Dimension::manifoldPressure>("least_boost");
        if (out.diveFor && !out.diveRpm)
            t.problem(t.line("rpm_for"), "a dive has seconds and no rpm that they are for", "Add rpm = 2900 beside it");
        break;
    default:
        break;
    }
}

DrillNotes readDrill(TableReader& t, int format) {
    DrillNotes d;
    d.line = t.line();
    for (auto& step : t.tables("step"))
        d.steps.push_back(readStep(step, format));
    d.without = t.texts("without");
    d.cautions = t.texts("cautions");
    return d;
}
} // namespace

TroubleNotes readTrouble(TableReader t, int format) {
    TroubleNotes out;
    for (const auto& name : emergencyNames)
        if (auto drill = t.table(std::string(name.key))) {
            readFigures(*drill, name.emergency, out);
            out.drills.emplace(name.emergency, readDrill(*drill, format));
            drill->finish();
        }
    if (auto round = t.table("go-round")) {
        out.openOver = round->quantity<Dimension::duration>("open_over");
        out.roundNotBelow = round->quantity<Dimension::length>("not_below");
        out.dragDown = round->number("drag_down");
        out.wheelsTake = round->quantity<Dimension::duration>("wheels_take");
        round->finish();
    }
    if (auto glide = t.table("glide")) {
        out.glideIas = glide->quantity<Dimension::speed>("ias");
        out.glideRatio = glide->number("ratio");
        glide->finish();
    }
    t.finish();
    return out;
}

SymptomNotes readSymptom(TableReader& t) {
    SymptomNotes s;
    s.line = t.line();
    s.cause = t.text("cause", true);
    s.name = t.text("name");
    s.signs = t.texts("signs");
    s.toldBy = t.text("told_by");
    s.act = t.text("act", true);
    s.words = t.text("words");
    if (const auto key = t.text("first"); !key.empty()) {
        s.first = firstActFromKey(key);
        if (!s.first) {
            std::vector<std::string> keys;
            for (const auto& row : firstActs)
                keys.emplace_back(row.key);
            t.problem(t.line("first"), fmt::format("there is no first act \"{}\"", key),
                      fmt::format("Use one of: {}", fmt::join(keys, ", ")));
        }
    }
    s.grave = t.flag("grave").value_or(false);
    if (const auto key = t.text("drill"); !key.empty()) {
        s.drill = emergencyFromKey(key);
        if (!s.drill) {
            std::vector<std::string> keys;
            for (const auto& name : emergencyNames)
                keys.emplace_back(name.key);
            t.problem(t.line("drill"), fmt::format("there is no drill \"{}\"", key),
                      fmt::format("Use one of: {}", fmt::join(keys, ", ")));
        }
    }
    if (s.signs.empty())
        t.problem(t.line(), fmt::format("symptom \"{}\" has no signs", s.cause),
                  "Add signs = [\"oil-pressure falls-fast\", \"shake\"]");
    t.finish();
    return s;
}

} // namespace amber::notes
