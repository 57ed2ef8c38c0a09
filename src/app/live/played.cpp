// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/played.h"
#include "notes/cockpit_units.h"
#include "record/what.h"
#include <algorithm>

namespace amber::app {
namespace {
constexpr double inTheAir = 600.0;                   // s between two scans
constexpr std::array afterFire{75.0, 200.0};         // s of the scans in the warm-up
constexpr std::array scanned{Gauge::oilTemperature}; // beside heads or coolant
} // namespace

QString play(LiveRun& live, const aloft::StandInFlight& flight, double from, double until,
             const std::function<void(double)>& setTime) {
    const auto& n = live.book().notes();
    const Gauge heads = headOrCoolantGauge(n);
    double fired = 0.0, off = 0.0;
    for (const auto& m : flight.moments) {
        fired = m.what == "at-first-fire" ? std::max(fired, m.at) : fired;
        off = m.what == "at-take-off" ? m.at : off;
    }
    std::vector<double> scans;
    for (const double after : afterFire)
        scans.push_back(fired + after);
    for (double t = off + inTheAir; t + 60.0 < static_cast<double>(flight.truth.size()); t += inTheAir)
        scans.push_back(t);
    struct Event {
        double at;
        const aloft::Given* moment;
    };
    std::vector<Event> events;
    for (const auto& m : flight.moments)
        events.push_back({m.at, &m});
    for (const double t : scans)
        events.push_back({t, nullptr});
    std::stable_sort(events.begin(), events.end(), [](const Event& a, const Event& b) { return a.at < b.at; });
    for (const auto& e : events) {
        if (e.at < from || e.at > until)
            continue;
        setTime(e.at);
        live.reckon();
        if (e.moment) {
            LiveRun::Named name{e.moment->what, e.moment->engine, {}};
            for (const auto& known : live.names())
                if (known.what == name.what && known.engine == name.engine)
                    name = known;
            if (name.name.isEmpty())
                name.name = QString::fromStdString(record::titleOf(name.what, n));
            if (const QString why = live.press(name); !why.isEmpty())
                return why;
            continue;
        }
        const auto& truth = flight.truth[static_cast<std::size_t>(e.at)];
        for (const Gauge g : {heads, scanned.front()})
            for (std::size_t i = 0; n.gauges.contains(g) && i < n.positions.size(); ++i)
                if (const QString why = live.book().keepTyped(
                        {truth.phase, std::string(nameOf(g).key), n.positions[i].id},
                        {record::Entry::Kind::figure, watch::asRead(n, g, truth.engines[i][g]), {}});
                    !why.isEmpty())
                    return why;
    }
    setTime(until);
    live.reckon();
    return {};
}

} // namespace amber::app
