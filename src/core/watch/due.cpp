// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/due.h"
#include "units/text.h"
#include "watch/maker.h"
#include "watch/rules.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {

Verdict judgeDue(double in, const std::string& what) {
    return unless(in > 0.0, Rule::due,
                  in > 0.0     ? fmt::format("{} in {}.", what, formatMinutesSeconds(in))
                  : in > -60.0 ? fmt::format("{}: now.", what)
                               : fmt::format("{}: overdue by {}.", what, formatMinutesSeconds(-in)));
}

Verdict judgeAsked(const std::string& sentence) {
    return unless(false, Rule::readAgain, sentence);
}

Verdict judgeFuelAhead(double left, double must, double width, const std::string& sentence) {
    if (left < must)
        return unless(false, Rule::reserve, sentence);
    return unless(left >= must + width, Rule::reserveNear, sentence);
}

} // namespace amber::watch
