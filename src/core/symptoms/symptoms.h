// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "symptoms/patterns.h"
#include <span>

namespace amber::trouble {

/// One cause and how well it fits what was noticed.
struct Cause {
    Pattern pattern;
    double fit = 0.0; ///< chance among all causes, by phase, equipment, what was done, and what was noticed
    std::vector<Sign> fits, against; ///< of what was noticed
    std::vector<Sign> lookFor;       ///< surely shown by it and not yet noticed
    bool plausible = false;          ///< at least a fifth as likely as the best
    std::string then;                ///< first act if it is this one, on this aircraft
};

/// What to do first, when the cause is not known.
struct Diagnosis {
    std::vector<Cause> causes; ///< best first; empty: nothing was noticed
    FirstAct first = FirstAct::look;
    std::string act;          ///< it, on this aircraft
    std::size_t forCause = 0; ///< the cause that weighs most for it
    std::optional<Emergency> drill;
    double harm = 0.0; ///< expected, in classes (harm.h)
    /// The look or test that parts the gravest that fits from its like; it comes before what cannot be undone.
    std::string test;
    /// The first act is another when one chance is halved or doubled, and one of the two cannot be undone; or the act
    /// with the least expected harm cannot be undone and its cause is not sure enough; or one can only look.
    bool unsure = false;
};

/// Ranks causes and decides the first act: that with the least expected harm over all causes that remain, of those that
/// this aircraft can do here and now. What cannot be undone aloft wants a cause that is grave and likely, and two signs
/// of it or flames. One falling needle of oil or fuel pressure is never put down to its gauge first.
Diagnosis diagnose(const TypeNotes& notes, std::span<const Sign> noticed, const Context& context = {});

/// What is done first if it is that cause: the best of its acts that this aircraft can do here and now.
std::string firstActOf(const Pattern& cause, const TypeNotes& notes, const Context& context);

/// The chance of a cause before anything is noticed, relative to others; 0: it cannot be here.
double chanceBefore(const Pattern& cause, const Context& context);

} // namespace amber::trouble
