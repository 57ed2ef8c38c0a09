// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/debrief.h"
#include <functional>
#include <memory>
#include <mutex>

namespace amber::rehearse {

/// Flies a rehearsal again with one act put right, to see what would have changed its outcome most. The person's own
/// later acts stay; a phase that was begun when something had come about (a height, a needle) waits for it again, and
/// what follows is later by as much. Nothing else is added and no careful hand takes over. At most `most` candidates,
/// from the chain of why and from the acts that were left out, wrong, out of turn or asked for by nobody, the likeliest
/// first; each is stopped when the acts are over or she is.
class Mending {
public:
    /// Takes up the rehearsal from its kept states: on the thread that steps it.
    /// @param reference what the careful hand puts, as the debrief was made by; where the best of the first candidates
    /// leaves an aim unmet its flight is debriefed by it in turn: what then stands first is a second thing done wrong.
    ///     Must outlive this; null: nothing second is looked for
    Mending(const Rehearsal& rehearsal, const Debrief& debrief, const hand::HandRun* reference);
    ~Mending();
    Mending(const Mending&) = delete;
    Mending& operator=(const Mending&) = delete;

    [[nodiscard]] std::size_t count() const; ///< of first candidates
    /// Flies the next one, on any one thread; into() may be asked meanwhile by another. @return whether there was one
    bool flyNext(const std::function<bool()>& goOn = {});
    /// What has been found so far, the best first, into a debrief of the same moment.
    void into(Debrief& debrief) const;

    static constexpr std::size_t most = 8;

private:
    struct Candidate;
    std::vector<std::unique_ptr<Candidate>> candidates_;
    struct Base;
    std::unique_ptr<Base> base_;
    std::size_t flown_ = 0;
    const hand::HandRun* reference_;
    std::unique_ptr<Rehearsal> best_; ///< the flight of the best so far
    double bestHarm_ = 0.0;
    std::unique_ptr<Debrief> besidesOf_; ///< of that flight
    std::unique_ptr<Mending> besides_;
    mutable std::mutex lock_; ///< of what has been found
};

/// All of them, at once.
void mend(const Rehearsal& rehearsal, const hand::HandRun& reference, Debrief& debrief);

/// Whether two rehearsals read alike throughout: no needle that the notes know apart by more than its reading width.
bool readAlike(const Rehearsal& a, const Rehearsal& b);

/// How badly a rehearsal has come out: aims not met by their weight, limits passed, what an engine has lost.
double harmOf(const Rehearsal& rehearsal);

} // namespace amber::rehearse
