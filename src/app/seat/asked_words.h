// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include "rehearse/session.h"
#include <QString>

namespace amber::app {

/// What a rehearsal asks for now, as rich text: to who is led the next act with its reason; to who is challenged the
/// next item, without where it should stand until it was answered wrongly; to who is alone nothing.
/// @param two at the keyboard
QString askedWords(const rehearse::Session& session, const Colours& colours, bool two);

} // namespace amber::app
