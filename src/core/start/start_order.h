// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "start/cranking.h"
#include "start/priming.h"
#include "units/result.h"
#include <map>
#include <string>
#include <vector>

namespace amber::start {

enum class EventKind { prime, wait, energise, crank, oilPressureWatch, rest };
std::string_view keyOf(EventKind kind);   ///< oil_pressure_watch
std::string_view titleOf(EventKind kind); ///< "oil pressure"

struct Event {
    std::string engine; ///< position id
    EventKind kind = EventKind::prime;
    double start = 0.0, end = 0.0; ///< s
    int attempt = 1;
    bool failed = false; ///< a crank that did not catch
    [[nodiscard]] double length() const { return end - start; }
};

/// One try at an engine, as it comes out.
struct Try {
    double turned = 0.0; ///< s, the blades before the ignition included
    double dose = 0.0;   ///< given before it, in the advice's unit
    bool fires = true;
    bool operator==(const Try&) const = default;
};

struct StartRequest {
    std::vector<std::string> order;      ///< position ids; empty: the notes'
    std::map<std::string, int> failures; ///< position id → tries that do not catch
    Temperature engine = Temperature::si(288.15);
    Temperature oil = Temperature::si(288.15);
    Pressure field = Pressure::si(standardPressure);
    Supply supply = Supply::cart;
    PrimeLiking liking;
    bool diluted = false;                             ///< oil diluted at the last stop
    std::map<std::string, std::vector<Try>> foreseen; ///< of each engine by its model; none: it catches at once
};

struct StartTimeline {
    std::vector<std::string> order;
    std::vector<Event> events;                 ///< by start time
    std::map<std::string, double> runningFrom; ///< first fire of each engine that catches
    std::vector<std::string> abandoned;        ///< engines whose tries are used up
    std::map<std::string, double> givenUp;     ///< s at which each of those was let go
    double total = 0.0;                        ///< s, until the last oil pressure is in its band
    double ampereHours = 0.0;                  ///< taken from the supply
    double batteryLeft = 1.0;                  ///< fraction of the battery's charge; 1 from a cart
    int cartridgesLeft = -1;                   ///< −1: not that kind
    Pressure airLeft;
    std::vector<std::string> onLineFirst;                            ///< accessories of the first engine running
    [[nodiscard]] double laneTotal(const std::string& engine) const; ///< s of events of one engine
};

/// Plans the start: one starter supply that turns one engine at a time, each engine's waits for vapour, its starter's
/// rest between tries and its oil-pressure watch. While an engine rests another is tried; while oil pressure is watched
/// nothing is cranked, but the next engine is primed where the notes allow. Fails for an order that does not name every
/// engine once.
Result<StartTimeline> planStart(const TypeNotes& notes, const StartRequest& request);
/// The same with the schools in force (startInForce()).
Result<StartTimeline> planStart(const TypeNotes& notes, const StartNotes& inForce, const StartRequest& request);

/// One order with its name and the reason for it, for comparing.
struct NamedOrder {
    std::string name;
    std::vector<std::string> order;
    std::string reason;
    std::string risk;
};
/// The notes' order, the accessory engine first, and away from the crew door first, where they differ.
std::vector<NamedOrder> namedOrders(const TypeNotes& notes);

/// An order and what comes of it.
struct ComparedOrder {
    NamedOrder named;
    StartTimeline timeline;
    bool wanted = false; ///< the one the request asks for
};
/// The named orders, and the request's own where it is none of them, each with nothing failing but what the request
/// says.
std::vector<ComparedOrder> compareOrders(const TypeNotes& notes, const StartNotes& inForce,
                                         const StartRequest& request);

/// One line of the start told in order, engine by engine: what is set, and when.
struct SequenceLine {
    double time = 0.0;  ///< s
    std::string engine; ///< position id; empty: all
    std::string what, set;
};
/// The timeline with the notes' settings between engines in their places.
std::vector<SequenceLine> startSequence(const TypeNotes& notes, const StartNotes& inForce,
                                        const StartTimeline& timeline, const StartRequest& request);

} // namespace amber::start
