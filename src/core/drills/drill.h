// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cockpit/controls.h"
#include <map>

namespace amber::cockpit {

/// The standard drill of a type: what crews customarily do with this equipment, phase by phase (origin practice).
std::map<Phase, std::vector<Step>> standardDrill(const TypeNotes& notes, const std::vector<Control>& controls);

/// Makes notes whole: every control of the cockpit, and in every phase the standard drill as the notes change it.
/// Format 1 keeps its own list of steps; its levers become controls. Done to notes that are whole already it changes
/// nothing. Problems: a step that stands by one that is not there, a control, position or figure that is not known.
void expand(TypeNotes& notes, Problems& problems);

/// Acts in force: those of the school taken, else of the step.
const std::vector<Action>& actionsInForce(const Step& step, const School* school);

/// What an act or a step says in this cockpit's words, figures left in braces: "auto rich", "booster pump on".
std::string wordsOf(const Action& action, const Step& step, const std::vector<Control>& controls,
                    const TypeNotes& notes);
std::string wordsOf(const Step& step, const std::vector<Action>& actions, const std::vector<Control>& controls,
                    const TypeNotes& notes);

} // namespace amber::cockpit
