// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include "record/log.h"
#include "sortie/sortie.h"
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

/// What a log teaches of an airframe: figures by which it differs from its notes and the model, run after run.
namespace amber::record {

/// The middle of figures of which later ones count more, drawn towards nothing the fewer they are.
struct Estimate {
    std::size_t runs = 0;
    double seen = 0.0;            ///< weighted median
    double found = 0.0;           ///< drawn towards nothing
    double low = 0.0, high = 0.0; ///< in which it lies, nineteen times in twenty
};
/// Weights halve every `halfLife` runs. The weighted median's error is 1.2533 σ/√n with n = (Σw)²/Σw² (Kish 1965) and σ
/// from the weighted median of the distances from it (× 1.4826); to it comes half of `width`, which no number of runs
/// takes away: plan and flight differ by as much (bench/amber-season). Airframes of a type are held to differ by
/// `spread`: found = seen · spread²/(spread² + error²), the normal posterior of a normal prior.
/// @param latestFirst one a run @param spread standard deviation among airframes @param width what a needle is read to
Estimate estimateOf(std::span<const double> latestFirst, double spread, double width);
inline constexpr double halfLife = 20.0; ///< runs

/// One of them.
struct Lesson {
    LearntLine line; ///< as it would be written into the airframe's file, not yet answered
    Estimate estimate;
    /// Why it is not offered, in a sentence; empty: it is. Too few runs, nothing to be told from nothing, changing from
    /// run to run (a trend: for an engineer), or phases that do not agree.
    std::string notOffered;
    bool planned = false;         ///< the plan can use it; else it is told only
    double low = 0.0, high = 0.0; ///< in which the line's value lies, nineteen times in twenty
    double usual = 0.0;           ///< of what is told only, SI
    [[nodiscard]] bool offered() const { return planned && notOffered.empty(); }
    /// "Port: Oil temp. reads 4 K more than the model, 3 to 5 (22 runs)".
    std::string words;
};

/// The plan of a run by the models of today, or null: then the figure that was kept with each reading is its measure.
using PlanOf = std::function<const plan::Plan*(const Run&)>;

/// What the log teaches of an airframe, all that it was asked, offered or not: needles (heads or coolant, oil, its
/// pressure, charge) in climb, cruise and let-down; the primer's dose by starts at the first try; fuel by what fills
/// her up; and told only: seconds to fire and to oil pressure, oil an hour. Runs before an engine's last overhaul do
/// not count, nor readings that are disputed.
/// @param model mark of the models (powerplant::markOfModel)
std::vector<Lesson> lessonsOf(const Log& log, const std::string& airframe, const TypeNotes& notes,
                              const std::string& model, const PlanOf& planOf = {});

/// What a lesson would change in the plan of a sortie: "Climb 204 °C for 198; cruise 186 °C for 180", "212 US gal for
/// 202", "5 strokes for 4"; empty: nothing that can be read. Of an aircraft that has not been taught it yet, or has.
std::string beforeAndAfter(const Lesson& lesson, const std::shared_ptr<const powerplant::Aircraft>& aircraft,
                           const Sortie& sortie);
/// A lesson's answer put into an airframe's lines: what was said of the same thing before is gone.
std::vector<LearntLine> answered(std::vector<LearntLine> lines, const Lesson& lesson, bool accepted,
                                 const std::string& day, const std::string& who);
/// What was said to a lesson before; null: nothing.
const LearntLine* answerTo(const std::vector<LearntLine>& lines, const Lesson& lesson);

} // namespace amber::record
