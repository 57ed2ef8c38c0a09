// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/aims_of.h"
#include "flight/aim_figures.h"
#include "notes/cockpit_units.h"
#include "record/anchors.h"
#include "record/what.h"
#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

namespace amber::record {
namespace {
constexpr double longestGap = 10.0;            // s: what happened in a longer one nobody knows
constexpr std::int64_t holdsFor = 20 * 60'000; // ms that a typed needle stands for
constexpr std::int64_t scanLasts = 120'000;    // ms between two figures of one scan
using watch::Aim;

/// Aims that needles alone decide.
bool isOfNeedles(Aim aim) {
    return aim == Aim::oilPressure || aim == Aim::runUpWarm || aim == Aim::takeOffWarm || aim == Aim::runsOn ||
           aim == Aim::cooledFirst;
}

std::vector<watch::AimResult> unmetOf(const watch::Aims& aims) {
    auto out = aims.results(false);
    std::erase_if(out,
                  [](const watch::AimResult& r) { return r.status != watch::AimStatus::unmet || !isOfNeedles(r.aim); });
    return out;
}
} // namespace

std::vector<watch::AimResult> notMet(const RunTrace& t, const std::vector<Phase>& phases, const TypeNotes& n,
                                     const flight::Flown* flown) {
    std::vector<watch::AimResult> out;
    const double idle = 0.5 * idleOf(n);
    for (std::size_t e = 0; e < t.engines.size() && e < n.engineCount(); ++e) {
        watch::Aims aims(n, flight::aimFigures(n, flown));
        std::vector<watch::EngineSeen> engines(n.engineCount());
        auto& seen = engines[e];
        bool ran = false, unseen = true; // whether it ran before anybody saw it
        double lastSeen = -std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i < t.at.size(); ++i) {
            Readings needles = t.engines[e][i];
            const double rpm = needles[Gauge::rpm];
            if (std::isnan(rpm))
                continue; // a needle that is not written tells nothing
            watch::AimMoment now;
            now.time = t.seconds(i);
            seen.running = seen.sparks = rpm >= idle;
            unseen = seen.running && (now.time - lastSeen > longestGap || unseen);
            ran = ran || seen.running;
            lastSeen = now.time;
            now.phase = ran ? phases[i] : Phase::start;
            now.airborne = now.phase > Phase::takeOff && now.phase < Phase::stop;
            now.touchedDown = now.phase >= Phase::landing; // an engine that is stopped after it was rightly stopped
            if (unseen)                                    // its seconds of oil pressure have gone by
                needles[Gauge::oilPressure] = watch::AimMoment::unknown;
            seen.needles = &needles;
            now.engines = engines;
            aims.see(now);
            seen.needles = nullptr;
        }
        for (auto& result : unmetOf(aims)) {
            if (result.engine != static_cast<int>(e))
                continue;
            if (result.aim == Aim::runsOn) { // on the ground it may be stopped at any time
                std::size_t i = 0;
                while (i + 1 < t.at.size() && t.seconds(i + 1) <= result.at)
                    ++i;
                if (phases[i] < Phase::climb || phases[i] > Phase::letDown)
                    continue;
            }
            out.push_back(std::move(result));
        }
    }
    return out;
}

std::vector<NotMet> notMet(const std::vector<Standing>& all, const TypeNotes& n) {
    std::vector<const Entry*> reads;
    for (const auto& s : all)
        for (const Entry* e : s.last)
            if (e->kind == Entry::Kind::figure && e->phase >= Phase::warmUp && e->phase <= Phase::takeOff &&
                !e->lasted && !e->rough)
                reads.push_back(e);
    std::stable_sort(reads.begin(), reads.end(), [](const Entry* a, const Entry* b) {
        return std::pair(a->phase, a->at) < std::pair(b->phase, b->at);
    });
    double greatest = n.runUp.highPowerFrom.si();
    for (const auto& rating : n.ratings)
        greatest = std::max(greatest, rating.rpm.si());
    std::vector<NotMet> out;
    for (std::size_t e = 0; e < n.engineCount(); ++e) {
        watch::Aims aims(n, flight::aimFigures(n));
        std::vector<watch::EngineSeen> engines(n.engineCount());
        std::map<Gauge, const Entry*> last;
        double clock = 0.0;
        for (std::size_t i = 0; i < reads.size();) {
            // Figures of one scan belong together: nobody knows which of them was read first.
            const Phase phase = reads[i]->phase;
            std::int64_t at = reads[i]->at;
            bool openedUp = false;
            for (; i < reads.size() && reads[i]->phase == phase && reads[i]->at - at <= scanLasts; ++i) {
                const Entry& entry = *reads[i];
                at = entry.at;
                if (!entry.engine.empty() && entry.engine != n.positions[e].id)
                    continue;
                const WhatRow* row = whatOf(entry.what);
                if (row && row->gauge)
                    last[*row->gauge] = &entry;
                // For a magneto, a propeller, standing rpm it was opened up.
                openedUp = openedUp ||
                           (phase == Phase::runUp && (entry.what.starts_with(ofSheet) || entry.what == "static-rpm" ||
                                                      entry.what == "magneto-left" || entry.what == "magneto-right")) ||
                           (phase == Phase::takeOff && row && row->gauge);
            }
            if (!openedUp)
                continue;
            Readings needles;
            for (const auto& [gauge, from] : last)
                if (at - from->at <= holdsFor && gauge != Gauge::oilPressure) // a count of the start judges that one
                    needles[gauge] = from->value;
            if (!(phase == Phase::takeOff && needles.has(Gauge::rpm)))
                needles[Gauge::rpm] = phase == Phase::takeOff ? greatest : n.runUp.highPowerFrom.si();
            engines[e].running = true;
            engines[e].needles = &needles;
            watch::AimMoment now;
            now.time = clock += 1.0;
            now.phase = phase;
            now.engines = engines;
            aims.see(now);
            engines[e].needles = nullptr;
        }
        for (auto& result : unmetOf(aims)) {
            if (result.engine != static_cast<int>(e))
                continue;
            for (const Gauge gauge : {Gauge::oilTemperature, headOrCoolantGauge(n)})
                if (const auto from = last.find(gauge); from != last.end()) {
                    out.push_back({result, from->second->id});
                    break;
                }
        }
    }
    return out;
}

} // namespace amber::record
