// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/magnetos.h"
#include "units/ascii.h"
#include "units/text.h"
#include "watch/maker.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double rpmHair = 1e-6; // rev/s: on the limit is inside it

struct Word {
    std::string_view word;
    DropManner manner;
};
constexpr std::array<Word, 10> words{{{"smooth", DropManner::smooth},
                                      {"slow", DropManner::slow},
                                      {"slowly", DropManner::slow},
                                      {"sudden", DropManner::sudden},
                                      {"rough", DropManner::sudden},
                                      {"misses", DropManner::sudden},
                                      {"stops", DropManner::stopped},
                                      {"stopped", DropManner::stopped},
                                      {"dead", DropManner::stopped},
                                      {"cuts", DropManner::stopped}}};

std::string_view trimmed(std::string_view text) {
    const auto isGap = [](char c) { return c == ' ' || c == ',' || c == '\t'; };
    while (!text.empty() && isGap(text.front()))
        text.remove_prefix(1);
    while (!text.empty() && isGap(text.back()))
        text.remove_suffix(1);
    return text;
}

std::string rpm(Rotation r) {
    return format(r.si(), *units::rpm.spec);
}
Rotation limitOf(const MagnetoNotes& n, MagnetoSide side) {
    return side == MagnetoSide::left ? n.left : n.right;
}
bool over(const MagnetoNotes& n, MagnetoSide side, const Drop& d) {
    return d.fall.si() > limitOf(n, side).si() + rpmHair;
}
bool none(const MagnetoNotes& n, const Drop& d) {
    return d.manner != DropManner::stopped && d.fall.si() < n.least.si() - rpmHair;
}
} // namespace

Result<Drop> readDrop(std::string_view text) {
    Drop d;
    std::string_view rest = trimmed(text);
    bool numbered = false;
    if (!rest.empty() && (ascii::isDigit(rest.front()) || rest.front() == '-' || rest.front() == '+')) {
        const auto number = readNumber(rest, rest);
        if (!number)
            return Failure{number.error()};
        if (number.value() < 0 || number.value() > 1500)
            return Failure{"a fall between 0 and 1,500 rpm is expected"};
        d.fall = Rotation::si(number.value() / 60);
        numbered = true;
        rest = trimmed(rest);
        if (rest.starts_with("rpm"))
            rest = trimmed(rest.substr(3));
    }
    if (!rest.empty()) {
        const auto found = std::find_if(words.begin(), words.end(), [&](const Word& w) { return w.word == rest; });
        if (found == words.end())
            return Failure{
                fmt::format("\"{}\" is not how rpm fall: write the fall, then slow, rough or nothing; or stops", rest)};
        d.manner = found->manner;
    }
    if (!numbered && d.manner != DropManner::stopped)
        return Failure{"the fall in rpm is missing: \"80\", \"80 slow\", \"120 rough\", or \"stops\""};
    return d;
}

std::string wordsOf(const Drop& d) {
    switch (d.manner) {
    case DropManner::stopped:
        return "stops";
    case DropManner::slow:
        return rpm(d.fall) + ", slow";
    case DropManner::sudden:
        return rpm(d.fall) + ", rough";
    case DropManner::smooth:
        break;
    }
    return rpm(d.fall);
}

Verdict judgeDrop(const MagnetoNotes& n, MagnetoSide side, const Drop& d) {
    const std::string_view where = side == MagnetoSide::left ? "Left" : "Right";
    if (d.manner == DropManner::stopped)
        return Maker::red(fmt::format("{} mag dead: on it alone the engine stops.", where));
    if (none(n, d))
        return Maker::red(
            fmt::format("{} mag shows no drop: less than {} means it does not ground (hot mag).", where, rpm(n.least)));
    if (over(n, side, d))
        return Maker::red(fmt::format("{} mag drop {}, limit {}.", where, rpm(d.fall), rpm(limitOf(n, side))));
    if (d.manner == DropManner::sudden)
        return Maker::amber(
            fmt::format("{} mag drop {}, limit {}, but rough.", where, rpm(d.fall), rpm(limitOf(n, side))));
    return Maker::normal(fmt::format("{} mag drop {}, limit {}.", where, rpm(d.fall), rpm(limitOf(n, side))));
}

Verdict judgeDifference(const MagnetoNotes& n, const Drop& left, const Drop& right) {
    const double apart = std::abs(left.fall.si() - right.fall.si());
    if (left.manner == DropManner::stopped || right.manner == DropManner::stopped)
        return Maker::red("One magneto does not carry the engine.");
    if (!n.difference)
        return Maker::normal(fmt::format("Difference {}; the notes give no limit.", rpm(Rotation::si(apart))));
    if (apart > n.difference->si() + rpmHair)
        return Maker::amber(
            fmt::format("Difference {}, limit {}: over.", rpm(Rotation::si(apart)), rpm(*n.difference)));
    return Maker::normal(fmt::format("Difference {}, limit {}.", rpm(Rotation::si(apart)), rpm(*n.difference)));
}

MagnetoFinding magnetoFinding(const MagnetoNotes& n, const Drop& left, const Drop& right, int cleared,
                              const std::string& burst) {
    MagnetoFinding f;
    const Verdict l = judgeDrop(n, MagnetoSide::left, left), r = judgeDrop(n, MagnetoSide::right, right),
                  apart = judgeDifference(n, left, right);
    const Verdict& worse = r.colour() > l.colour() ? r : l;
    f.verdict = apart.colour() > worse.colour() ? apart : worse;
    const bool leftIs = !(r.colour() > l.colour());
    const auto side = nameOf(leftIs ? MagnetoSide::left : MagnetoSide::right);
    const Drop& bad = leftIs ? left : right;
    const auto clearOr = [&](std::string after) {
        if (cleared == 0) {
            f.burst = true;
            f.next = fmt::format("Clear it: {}, then check again.", burst);
        } else {
            f.next = std::move(after);
        }
    };
    if (left.manner == DropManner::stopped || right.manner == DropManner::stopped) {
        const auto dead = left.manner == DropManner::stopped ? "left" : "right";
        f.cause = fmt::format("The {} magneto is dead, or its switch is wired wrong.", dead);
        f.next = "Close the throttle before switching back to both, then shut down and call the engineer.";
        return f;
    }
    if (none(n, left) || none(n, right)) {
        const bool both = none(n, left) && none(n, right);
        f.cause = both ? "Neither switch earths, or the switch was not moved."
                       : fmt::format("The {} switch does not earth: that magneto is live with the switch off.",
                                     none(n, left) ? "left" : "right");
        f.next = "Shut down by the mixture, keep everyone from the propeller, and call the engineer.";
        return f;
    }
    if (over(n, MagnetoSide::left, left) && over(n, MagnetoSide::right, right)) {
        f.verdict = Maker::red(fmt::format("Both fall too far: {} and {}.", rpm(left.fall), rpm(right.fall)));
        f.cause = "Both sides alike: mixture, warm carburettor air or ignition timing rather than a plug.";
        f.next =
            cleared == 0 ? "Mixture rich, carburettor air cold, then once more." : "Shut down and call the engineer.";
        return f;
    }
    if (worse.colour() == Colour::red) {
        if (bad.manner == DropManner::sudden) {
            f.cause = fmt::format("Sudden and rough on one side: a plug or lead of the {} magneto is dead.", side);
            f.next = "A burst will not mend it: shut down and call the engineer.";
        } else {
            f.cause = fmt::format("{} on one side: oiled or leaded plugs of the {} magneto.",
                                  bad.manner == DropManner::slow ? "A slow fall" : "A smooth fall", side);
            clearOr("It has not cleared: shut down and call the engineer.");
        }
        return f;
    }
    if (apart.colour() == Colour::amber) {
        const auto weaker = left.fall > right.fall ? "left" : "right";
        f.cause = fmt::format("Each is within its limit, but the {} is weaker: plugs, points or timing of that side.",
                              weaker);
        clearOr("Difference still over: write it up and ask the engineer before flight.");
        return f;
    }
    if (worse.colour() == Colour::amber) {
        f.cause = fmt::format("It misses on the {}: a plug or lead that begins to fail.", side);
        clearOr("It still misses: ask the engineer before flight.");
        return f;
    }
    f.verdict = Maker::verdict(f.verdict.colour(), "Both fall smoothly and alike.");
    return f;
}

} // namespace amber::watch
