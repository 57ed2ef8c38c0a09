// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/leaning.h"
#include "engine/mixture_curve.h"
#include <algorithm>

namespace amber::engine {

double leanResponse(double fuelAir) {
    constexpr double step = 0.01; // of the ratio
    return (powerOfMixture(fuelAir * (1.0 - step)) / powerOfMixture(fuelAir) - 1.0) / step;
}

LeanVerdict readLeanTest(LeanResponse response, bool allowed) {
    switch (response) {
    case LeanResponse::roseThenFell:
        return {true, "It was rich: pulling passed best power, and beyond it the power falls.",
                allowed ? "Leave it at the fall, a tenth of the way back if it runs rough; watch the heads."
                        : "Push back past the highest figure: at this power the notes want it rich."};
    case LeanResponse::fellAtOnce:
        return {false, "It was not rich: it stood at best power or weak of it already.",
                allowed ? "Put it back where it was; richer only if the heads rise."
                        : "Push it rich at once: at this power a weak mixture burns and detonates."};
    case LeanResponse::noChange:
        break;
    }
    return {true, "No change yet: either it is very rich or the lever is in its automatic range.",
            "Pull a little more and look again; stop when it falls."};
}

Power ratedPower(const TypeNotes& notes) {
    double rated = 0.0, most = 0.0;
    for (const auto& rating : notes.ratings)
        for (const auto& line : rating.lines)
            if (line.power) {
                most = std::max(most, line.power->si());
                if (!rating.minutes)
                    rated = std::max(rated, line.power->si());
            }
    return Power::si(rated > 0 ? rated : most);
}

bool weakAllowed(const TypeNotes& notes, Power power) {
    return power.si() <= notes.engine.weakUpTo * ratedPower(notes).si() * (1 + 1e-9);
}

} // namespace amber::engine
