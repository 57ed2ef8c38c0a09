// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cockpit/equipment.h"
#include "notes/problem.h"

namespace amber::cockpit {

/// Every control of a type: what its equipment needs (origin practice), named, placed and marked as the notes say
/// (origin notes), in the order of their places. Problems: one id twice, a position that means nothing known, a link to
/// nothing.
std::vector<Control> controls(const TypeNotes& notes, Problems& problems);

/// Null for an id that is not there.
const Control* find(const std::vector<Control>& controls, std::string_view id);
/// The control that acts on this, or null.
const Control* acting(const std::vector<Control>& controls, Acts on);

/// The member of the crew who works it: whom the notes name, else the first of their crew.
const std::string& worker(const Control& control, const std::vector<std::string>& crew);

/// Where along its travel a position lies, 0 less … 1 more.
double place(const Control& control, std::string_view position);

/// A control that is linked to another, and the position that it is taken to.
struct Follower {
    const Control* control;
    std::string is;
};
/// Those that move with a control when it is put in a position: each to its own position that lies at the same share of
/// its travel, the end for the end. A figure between two positions moves none of them.
std::vector<Follower> followers(const std::vector<Control>& controls, const Control& moved, std::string_view position);

} // namespace amber::cockpit
