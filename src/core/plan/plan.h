// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "watch/rules.h"
#include "watch/run_up_sheet.h"
#include <cmath>
#include <limits>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace amber::plan {

/// A shown figure before it is words.
struct Fact {
    std::string id;                                          ///< in exports: "to-amber"
    std::optional<Dimension> dimension{};                    ///< none: it is words only
    double value = std::numeric_limits<double>::quiet_NaN(); ///< SI
    std::string engine{};                                    ///< position id, where it is one engine's
    bool operator==(const Fact& o) const {
        return id == o.id && dimension == o.dimension && engine == o.engine &&
               (value == o.value || (std::isnan(value) && std::isnan(o.value)));
    }
};

/// A figure among the words of a Set line, in the order of the words.
struct SetFigure {
    Fact fact;
    Origin origin = Origin::notes;
    bool operator==(const SetFigure&) const = default;
};

/// Words for a placeholder of a step, where they come from, and the figures in them.
struct Filled {
    std::string text;
    Origin origin = Origin::notes;
    std::vector<Fact> facts{};
};

/// One line of the Set column.
struct SetLine {
    std::string stepId;
    std::string what;
    std::string value;              ///< in the cockpit's own units and words
    std::vector<SetFigure> figures; ///< that stand in it, before they were words
    Origin origin = Origin::notes;
    std::string at;    ///< when, if not at once
    std::string sense; ///< how the lever moves
    bool reversed = false;
    std::string why, skipped, job;
    std::vector<School> schools; ///< their settings filled in
    int school = -1;             ///< the one in force
    bool open = false;           ///< the pilot may choose
    bool ordersOffered = false;  ///< the schools are start orders
    bool operator==(const SetLine&) const = default;
};

/// What one engine's needle will show where the log has taught that it reads more or less than the model.
struct Needle {
    std::string engine, name; ///< position id, and what it is called
    double value = 0.0;       ///< SI, as it can be read
    std::string text;         ///< in the gauge's unit
    watch::Verdict verdict;
    bool operator==(const Needle&) const = default;
};

/// One gauge of the Expect column.
struct ExpectLine {
    Gauge gauge = Gauge::rpm;
    std::string title;
    double value = 0.0;          ///< SI, by the notes and the model
    std::string text;            ///< in the gauge's unit
    std::string moment;          ///< "highest", "at the end"; and what other needles show
    std::vector<Needle> needles; ///< of engines whose log has taught that theirs shows another figure
    Origin origin = Origin::model;
    Band band;
    std::pair<double, double> scale{0.0, 1.0}; ///< SI, ends of the drawn dial
    watch::Verdict verdict;                    ///< the worst of the model's and the needles'
    bool operator==(const ExpectLine&) const = default;
};

/// One line of the Clock column.
struct ClockLine {
    Fact fact;
    std::string what, value; ///< in words and the cockpit's units
    Origin origin = Origin::model;
    std::string why;
    watch::Verdict verdict;
    bool operator==(const ClockLine&) const = default;
};

/// A figure under today's and other conditions, side by side.
struct Comparison {
    std::vector<std::string> columns; ///< first "today"
    struct Row {
        std::string what;
        std::vector<std::string> cells;
        std::vector<watch::Verdict> verdicts; ///< one a cell
    };
    std::vector<Row> rows;
};

struct PhasePlan {
    PhasePlan();
    PhasePlan(const PhasePlan&);
    PhasePlan(PhasePlan&&) noexcept;
    PhasePlan& operator=(const PhasePlan&);
    PhasePlan& operator=(PhasePlan&&) noexcept;
    ~PhasePlan();
    Phase phase = Phase::walkRound;
    std::string headline;               ///< "to 14,000 ft · rated power · 23 min · 44 US gal"
    double start = 0.0, duration = 0.0; ///< s
    double fuel = 0.0;                  ///< m³
    std::vector<SetLine> set;
    std::vector<ExpectLine> expect;
    std::vector<ClockLine> clocks;
    std::vector<ClockLine> priming;    ///< start: the dose and all about it
    std::vector<ClockLine> groundFuel; ///< walk-round: each tank by dip and what its gauge should show
    std::string spoken;                ///< of the take-off: said aloud before it, from today's figures
    std::vector<std::string> cautions;
    std::vector<watch::Finding> remarks;
    watch::Verdict worst; ///< of all that is in it
};

/// A point on the score where something must be done.
struct Mark {
    double time = 0.0;
    Phase phase = Phase::start;
    std::string text;
    watch::Verdict verdict;
    bool chore = false; ///< comes round by the clock: named where there is room beside the others
};

/// The plan: everything that screen, card and export show of a sortie.
struct Plan {
    Plan();
    Plan(const Plan&);
    Plan(Plan&&) noexcept;
    Plan& operator=(const Plan&);
    Plan& operator=(Plan&&) noexcept;
    ~Plan();
    std::string title;
    std::string aircraft; ///< Lorimer L.4 "HR-K", Mark B
    std::string route;
    std::string dayLine; ///< field pressure, pressure and density altitude, ISA deviation
    std::vector<PhasePlan> phases;
    std::vector<Mark> marks;
    flight::Flown flown;
    watch::WalkRound walk;
    watch::RunUpSheet runUpSheet;
    StartNotes startInForce;  ///< with the schools chosen
    start::PrimeAdvice prime; ///< by the notes and the model
    double burn = 1.0;        ///< fuel planned over the model's, as the log has taught
    std::vector<start::SequenceLine> startSequence;
    std::vector<start::ComparedOrder> orders;

    [[nodiscard]] const PhasePlan& operator[](Phase p) const { return phases[static_cast<std::size_t>(p)]; }
};

/// The plan of a sortie: a pure function of aircraft and sortie, under 5 ms for the four-engined type.
Plan makePlan(const powerplant::Aircraft& aircraft, const Sortie& sortie);

/// Whether a phase is compared with other days: take-off, climb and cruise.
constexpr bool comparesDays(Phase phase) {
    return phase >= Phase::takeOff && phase <= Phase::cruise;
}
/// Take-off, climb or cruise today, twenty degrees hotter, and on the next lower grade; empty for other phases.
Comparison compareDays(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& today,
                       Phase phase);

} // namespace amber::plan
