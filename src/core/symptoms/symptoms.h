// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "symptoms/patterns.h"
#include <span>

namespace amber::trouble {

/// One cause and how well it fits what was noticed.
struct Cause {
    Pattern pattern;
    double fit = 0.0; ///< share of 1 that all causes have among them: of what was noticed, alike likely beforehand
    std::vector<Sign> fits, against; ///< of what was noticed
    std::vector<Sign> lookFor;       ///< surely shown by it and not yet noticed
    bool plausible = false;          ///< at least a fifth as likely as the best
};

struct Diagnosis {
    std::vector<Cause> causes; ///< best first; empty: nothing was noticed
    std::size_t act = 0;       ///< index of the cause whose act goes first: the worst plausible one
    /// How the one that is acted on is told from its like, where others fit about as well.
    std::string tellApart;
    [[nodiscard]] bool unsure() const { return causes.size() > 1 && causes[1].plausible; }
};

/// Ranks causes by fit: each sign is as likely as the cause's pattern has it (a needle that a cause does not move
/// stands still). One falling needle of oil or fuel pressure is never put down to its gauge first.
Diagnosis diagnose(const TypeNotes& notes, std::span<const Sign> noticed);
Diagnosis diagnose(const std::vector<Pattern>& patterns, std::span<const Sign> noticed);

} // namespace amber::trouble
