// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/start_order.h"
#include <algorithm>
#include <deque>
#include <fmt/format.h>
#include <set>

namespace amber::start {

std::string_view keyOf(EventKind kind) {
    switch (kind) {
    case EventKind::prime:
        return "prime";
    case EventKind::wait:
        return "wait";
    case EventKind::energise:
        return "energise";
    case EventKind::crank:
        return "crank";
    case EventKind::oilPressureWatch:
        return "oil_pressure_watch";
    case EventKind::rest:
        return "rest";
    }
    return "";
}

std::string_view titleOf(EventKind kind) {
    return kind == EventKind::oilPressureWatch ? "oil pressure" : kind == EventKind::wait ? "vaporise" : keyOf(kind);
}

double StartTimeline::laneTotal(const std::string& engine) const {
    double sum = 0.0;
    for (const auto& e : events)
        if (e.engine == engine)
            sum += e.length();
    return sum;
}

namespace {

struct EngineState {
    std::string id;
    int tried = 0, fails = 0;
    double ready = 0.0;     // earliest crank: primed and vaporised
    double restedAt = 0.0;  // end of the starter's rest
    double drainsAt = 1e18; // after which the prime is gone
    bool primed = false;
    std::vector<Try> foreseen;
};

class Scheduler {
public:
    Scheduler(const TypeNotes& notes, const StartNotes& start, const StartRequest& request,
              std::vector<std::string> order)
        : n_(notes), s_(start), r_(request), priming_(start),
          cranking_(crank(start, {request.oil, request.supply, request.diluted, bladesPerRevolution(notes)})),
          advice_(priming_.advice(request.engine, request.field)) {
        for (const auto& id : order) {
            const auto fails = request.failures.find(id);
            queue_.push_back(
                {id, 0, fails == request.failures.end() ? 0 : std::max(0, fails->second), 0, 0, 1e18, false, {}});
            if (const auto tries = request.foreseen.find(id); tries != request.foreseen.end())
                queue_.back().foreseen = tries->second;
        }
        out_.order = std::move(order);
        cartridges_ = s_.starter.cartridges;
    }

    StartTimeline run() {
        while (!queue_.empty()) {
            // The first in the order whose starter is rested; when all rest, the one that is rested soonest.
            auto next = std::find_if(queue_.begin(), queue_.end(),
                                     [&](const EngineState& e) { return e.restedAt <= now_ + 1e-9; });
            if (next == queue_.end()) {
                next = std::min_element(queue_.begin(), queue_.end(), [](const EngineState& a, const EngineState& b) {
                    return a.restedAt < b.restedAt;
                });
                now_ = std::max(now_, next->restedAt);
            }
            EngineState engine = *next;
            queue_.erase(next);
            attempt(engine);
        }
        std::stable_sort(out_.events.begin(), out_.events.end(),
                         [](const Event& a, const Event& b) { return a.start < b.start; });
        for (const auto& e : out_.events)
            if (e.kind != EventKind::rest)
                out_.total = std::max(out_.total, e.end);
        out_.batteryLeft =
            r_.supply == Supply::battery ? std::max(0.0, 1.0 - out_.ampereHours / s_.battery.ampereHours) : 1.0;
        out_.cartridgesLeft = s_.starter.kind == StarterKind::cartridge ? std::max(0, cartridges_) : -1;
        const double used = (s_.starter.airBottle.si() - cranking_.airLeft.si()) * tries_;
        out_.airLeft =
            Pressure::si(s_.starter.kind == StarterKind::air ? std::max(0.0, s_.starter.airBottle.si() - used) : 0.0);
        return std::move(out_);
    }

private:
    double add(const EngineState& e, EventKind kind, double from, double length, bool failed = false) {
        if (length > 0)
            out_.events.push_back({e.id, kind, from, from + length, e.tried + 1, failed});
        return from + length;
    }

    /// What is foreseen of the try that is next, those that are said to fail apart.
    [[nodiscard]] static const Try* foreseen(const EngineState& e) {
        const int i = e.tried - e.fails;
        return i >= 0 && static_cast<std::size_t>(i) < e.foreseen.size() ? &e.foreseen[static_cast<std::size_t>(i)]
                                                                         : nullptr;
    }
    [[nodiscard]] double dose(const EngineState& e) const {
        const Try* next = foreseen(e);
        return next ? next->dose : doseFor(advice_, r_.liking, e.id);
    }

    /// Strokes, seconds or blades, and the blades pulled through besides.
    [[nodiscard]] double primingTime(const EngineState& e) const {
        return start::primingTime(s_, advice_, dose(e), e.tried == e.fails || dose(e) > 0).si();
    }

    /// Primes from a moment on; the crew's hands are then busy until it is done.
    void prime(EngineState& e, double from) {
        const double begin = std::max(from, handsFree_);
        const double done = add(e, EventKind::prime, begin, primingTime(e));
        handsFree_ = done;
        e.ready = primingTime(e) > 0 ? add(e, EventKind::wait, done, advice_.vaporise.si()) : done;
        e.drainsAt = primingTime(e) > 0 ? done + std::max(advice_.drain.si(), advice_.vaporise.si()) : 1e18;
        e.primed = true;
    }

    void attempt(EngineState& e) {
        if (e.primed && now_ > e.drainsAt)
            e.primed = false; // waited too long: it is primed again
        if (!e.primed && !s_.primeWhileTurning)
            prime(e, now_);
        double t = std::max({now_, e.ready, e.restedAt});
        t = add(e, EventKind::energise, t, cranking_.energise.si());
        const Try* next = foreseen(e);
        const bool fails = e.tried < e.fails || (next && !next->fires);
        const double most = longestTry(s_).si() + cranking_.forBlades.si();
        double cranked = next ? next->turned : fails ? most : cranking_.untilFiring.si();
        const double begin = t;
        if (s_.primeWhileTurning && primingTime(e) > 0) {
            // Sprayed in as it turns, within the try; it fires when the dose is in.
            const double from = std::max(begin, std::min(handsFree_, begin + most));
            const double length = std::min(primingTime(e), std::max(0.0, most - (from - begin)));
            handsFree_ = add(e, EventKind::prime, from, length);
            if (!next)
                cranked = std::min(most, std::max(cranked, handsFree_ - begin));
        }
        t = add(e, EventKind::crank, t, std::max(0.1, cranked), fails);
        ++tries_;
        if (s_.starter.kind == StarterKind::cartridge)
            --cartridges_;
        out_.ampereHours += cranking_.amperes * ((t - begin) + 0.6 * cranking_.energise.si()) / 3600.0;
        now_ = t;
        if (!fails) {
            out_.runningFrom[e.id] = t;
            if (out_.runningFrom.size() == 1)
                for (const auto& p : n_.positions)
                    if (p.id == e.id)
                        out_.onLineFirst = p.accessories;
            const double watch = cranking_.untilOilPressure.si();
            if (s_.primeAhead && !s_.primeWhileTurning && !queue_.empty())
                for (auto& other : queue_)
                    if (!other.primed && other.restedAt <= now_ + watch) {
                        // So that it is vaporised when the watch ends, and no sooner than it must be.
                        prime(other, now_);
                        break;
                    }
            add(e, EventKind::oilPressureWatch, t, watch);
            now_ = t + watch;
            return;
        }
        ++e.tried;
        e.primed = false;
        const bool spent = e.tried >= s_.tries || (s_.starter.kind == StarterKind::cartridge && cartridges_ <= 0);
        if (spent) {
            out_.abandoned.push_back(e.id);
            out_.givenUp[e.id] = t;
            --e.tried;
            add(e, EventKind::rest, t, s_.starter.longRest.si());
            return;
        }
        --e.tried;
        add(e, EventKind::rest, t, s_.rest.si());
        ++e.tried;
        e.restedAt = t + s_.rest.si();
        queue_.push_back(e);
    }

    const TypeNotes& n_;
    const StartNotes& s_;
    const StartRequest& r_;
    Priming priming_;
    Cranking cranking_;
    PrimeAdvice advice_;
    StartTimeline out_;
    std::deque<EngineState> queue_;
    double now_ = 0.0, handsFree_ = 0.0;
    int tries_ = 0, cartridges_ = 0;
};
} // namespace

Result<StartTimeline> planStart(const TypeNotes& notes, const StartRequest& request) {
    return planStart(notes, notes.start, request);
}

Result<StartTimeline> planStart(const TypeNotes& notes, const StartNotes& inForce, const StartRequest& request) {
    std::vector<std::string> order = request.order.empty() ? notes.start.order : request.order;
    std::set<std::string> known, named(order.begin(), order.end());
    for (const auto& p : notes.positions)
        known.insert(p.id);
    if (named != known || order.size() != known.size())
        return Failure{fmt::format("the order {} does not name every engine once: the {} has {}", fmt::join(order, ","),
                                   notes.name, fmt::join(known, ", "))};
    for (const auto& [id, count] : request.failures)
        if (!known.contains(id) || count < 0)
            return Failure{fmt::format("there is no engine \"{}\" to fail: the {} has {}", id, notes.name,
                                       fmt::join(known, ", "))};
    return Scheduler(notes, inForce, request, std::move(order)).run();
}

std::vector<NamedOrder> namedOrders(const TypeNotes& notes) {
    std::vector<NamedOrder> out{{"by the notes", notes.start.order, notes.start.orderReason,
                                 "Learnt once for this type, it is forgotten on the next."}};
    const auto first = [&](const std::string& id, const char* name, const char* reason, const char* risk) {
        if (id.empty())
            return;
        std::vector<std::string> order{id};
        for (const auto& other : notes.start.order)
            if (other != id)
                order.push_back(other);
        if (std::none_of(out.begin(), out.end(), [&](const NamedOrder& n) { return n.order == order; }))
            out.push_back({name, std::move(order), reason, risk});
    };
    first(notes.start.accessoryFirst, "accessory engine first",
          "Generator, hydraulics or air are on line for the rest.",
          "It may stand beside the crew door or the fire guard.");
    first(notes.start.awayFirst, "away from the crew door first",
          "People reach and leave the door past standing propellers.",
          "What it drives may not be what is needed first.");
    return out;
}

std::vector<ComparedOrder> compareOrders(const TypeNotes& notes, const StartNotes& inForce,
                                         const StartRequest& request) {
    std::vector<ComparedOrder> out;
    const auto& wanted = request.order.empty() ? notes.start.order : request.order;
    const auto add = [&](NamedOrder named) {
        StartRequest r = request;
        r.order = named.order;
        if (auto timeline = planStart(notes, inForce, r))
            out.push_back({named, std::move(timeline.value()), named.order == wanted});
    };
    for (auto& named : namedOrders(notes))
        add(std::move(named));
    if (std::none_of(out.begin(), out.end(), [](const ComparedOrder& c) { return c.wanted; }))
        add({"your own", wanted, "Dragged by the pilot.", "Not what the notes teach."});
    return out;
}

} // namespace amber::start
