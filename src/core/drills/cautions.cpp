// SPDX-License-Identifier: GPL-3.0-or-later
#include "drills/cautions.h"
#include "units/ascii.h"
#include <algorithm>
#include <functional>
#include <string_view>

namespace amber::cockpit {
namespace {
/// One caution of general practice: where, for whom, and the words by which notes say it themselves.
struct StandardCaution {
    Phase phase;
    std::string_view text;
    std::vector<std::string_view> saidBy;
    std::function<bool(const TypeNotes&)> when;
};
bool always(const TypeNotes&) {
    return true;
}

const std::vector<StandardCaution>& standard() {
    static const std::vector<StandardCaution> all{
        {Phase::walkRound, "The propeller is live; a blade that stops is never forced.", {"live"}, always},
        {Phase::start, "Fire guard posted and the fire drill briefed (trouble, fire).", {"fire guard"}, always},
        {Phase::runUp,
         "Seconds at full throttle on the ground count: no more than the notes allow.",
         {"full throttle", "seconds"},
         always},
        {Phase::takeOff,
         "Slower than the safe speed, a failed engine means throttles back and land ahead.",
         {"safe speed", "fewer engines"},
         [](const TypeNotes& n) { return n.positions.size() > 1; }},
        {Phase::cruise,
         "Ice in the carburettor: heat early, before it runs rough.",
         {"ice"},
         [](const TypeNotes& n) { return n.engine.suctionCarburettor; }},
        {Phase::letDown, "Shock cooling cracks heads: power comes back by steps.", {"shock"}, always},
    };
    return all;
}
} // namespace

std::vector<std::string> standardCautions(const TypeNotes& n, Phase phase) {
    std::vector<std::string> out;
    for (const auto& c : standard()) {
        if (c.phase != phase || !c.when(n))
            continue;
        const bool said =
            std::any_of(n.phase(phase).cautions.begin(), n.phase(phase).cautions.end(), [&](std::string own) {
                std::transform(own.begin(), own.end(), own.begin(), ascii::lower);
                return std::any_of(c.saidBy.begin(), c.saidBy.end(),
                                   [&](std::string_view word) { return own.find(word) != std::string::npos; });
            });
        if (!said)
            out.emplace_back(c.text);
    }
    return out;
}

} // namespace amber::cockpit
