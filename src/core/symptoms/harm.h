// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "symptoms/patterns.h"
#include <span>
#include <string_view>

/// What it costs to be wrong. Classes of harm: 1 a delay, 10 hours of work or power that was wanted, 100 an engine,
/// 1,000 the aircraft, 10,000 a life; our own estimates (origin practice), of the order in which they matter and no
/// nearer.
namespace amber::trouble {

/// Of a cause that is left alone for the minute in which one looks.
double leftAlone(const Pattern& cause, Stage stage);
/// How much of that is left when the act is done: a tenth where it is the cause's best, more where it only helps, six
/// tenths where one only looks aloft, a little more where one looks after an act that does nothing for it, all where
/// that act cannot be undone.
double leftAfter(FirstAct act, const Pattern& cause, const TypeNotes& notes, const Context& context);
/// Of the act by itself, needed or not.
double costOf(FirstAct act, const TypeNotes& notes, Stage stage);

/// An act that makes a certain cause worse.
struct WrongAct {
    FirstAct act;
    std::string_view cause; ///< key of its pattern
    double harm;
    std::string_view why;
};
std::span<const WrongAct> wrongActs();

} // namespace amber::trouble
