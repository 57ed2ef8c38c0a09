// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "watch/verdict.h"

namespace amber::watch {

/// Makes verdicts, for this folder alone: tools/check-layers finds any other that includes it.
struct Maker {
    static Verdict verdict(Colour colour, std::string sentence) { return {colour, std::move(sentence)}; }
    static Verdict normal(std::string sentence) { return {Colour::normal, std::move(sentence)}; }
    static Verdict amber(std::string sentence) { return {Colour::amber, std::move(sentence)}; }
    static Verdict red(std::string sentence) { return {Colour::red, std::move(sentence)}; }
};

} // namespace amber::watch
