// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/needs.h"
#include "cockpit/controls.h"
#include "cockpit/equipment.h"
#include "notes/cockpit_units.h"
#include "start/priming.h"
#include "units/text.h"
#include "watch/judge.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::hand {
namespace {
constexpr double icedFrom = 0.08, growsFrom = 0.12, clearUnder = 0.02; // of the passage
constexpr double chokesFrom = 0.2;               // of the passage: a minute of hot charge costs less than the engine
constexpr double someHeat = 0.4, moreHeat = 0.7; // of the hot air: ours; the lever holds what keeps it clear
constexpr double onTravel = 0.05;
constexpr double coolsBy = 8.0;     // K that the charge must be under its normal range's end before it is heated
constexpr double minuteLeft = 60.0; // s of fuel in a tank
constexpr double enough = 5e-3;     // m³ in another, or a twentieth of what it holds
constexpr double turnsFrom = 0.3, aStroke = 0.2; // rev/s; of a dose, that lies in it
constexpr double shutUnder = 0.05, openOver = 0.95;

class Looks {
public:
    Looks(const powerplant::Powerplant& plant, const Moment& moment)
        : plant_(plant), n_(plant.aircraft().notes), m_(moment), boosted_(cockpit::equipmentOf(n_).boosted) {}

    std::vector<Need> all() {
        for (std::size_t e = 0; e < m_.state.engines.size(); ++e)
            one(e);
        return std::move(out_);
    }

private:
    [[nodiscard]] std::optional<std::size_t> control(Acts acts) const {
        const Control* c = cockpit::acting(n_.controls, acts);
        return c ? std::optional(static_cast<std::size_t>(c - n_.controls.data())) : std::nullopt;
    }
    void add(NeedOf of, std::size_t control, std::size_t engine, advice::Figure to, const std::string& why) {
        auto found = std::find_if(out_.begin(), out_.end(), [&](const Need& n) { return n.of == of; });
        if (found == out_.end()) {
            out_.push_back({of, {}, {}, why});
            found = std::prev(out_.end());
        }
        found->puts.push_back({m_.state.now, control, engine, std::move(to), 0.0, false});
        found->engines.push_back(engine);
    }
    static advice::Figure position(const char* is) {
        advice::Figure f;
        f.position = is;
        return f;
    }
    void one(std::size_t e) {
        tank(e);
        const auto& s = m_.state.engines[e];
        const auto& l = m_.levers.engines[e];
        if (m_.phase == Phase::start && !s.firing)
            jets(e);
        if (!s.firing)
            return;
        if (const auto air = control(Acts::carburettorAir)) {
            const bool powered = boosted_ && (m_.phase == Phase::climb || m_.phase == Phase::cruise);
            const double room = chargeRoom(e); // K under its normal range's end
            // Where heat costs boost, and brings knocking nearer, no more of it than the ice wants; else all of it.
            const double wanted = !powered || s.ice > chokesFrom ? 1.0 : s.ice > growsFrom ? moreHeat : someHeat;
            if (m_.phase == Phase::takeOff) {
                if (l.hotAir > 0.0)
                    add(NeedOf::coldAir, *air, e, position("cold"), "Power is wanted.");
            } else if (s.ice > icedFrom && m_.phase < Phase::stop && l.hotAir < wanted - onTravel &&
                       (room > coolsBy || s.ice > chokesFrom)) {
                advice::Figure to;
                if (wanted < 1.0)
                    to.share = wanted;
                else
                    to.position = "hot";
                add(NeedOf::hotAir, *air, e, to,
                    fmt::format("Ice in the carburettor: {:.0f} % of its passage.", 100.0 * s.ice));
            } else if (powered && l.hotAir > 0.0 &&
                       ((room <= 0.0 && s.ice < icedFrom) || (l.hotAir > someHeat + onTravel && s.ice < clearUnder))) {
                advice::Figure to;
                if (l.hotAir > someHeat + onTravel && room > coolsBy)
                    to.share = someHeat; // it keeps clear by that
                else
                    to.position = "cold";
                add(NeedOf::coldAir, *air, e, to,
                    s.ice < clearUnder ? "The ice has melted, and power is wanted."
                                       : "The charge is too hot for longer heat.");
            }
        }
        if (const auto flap = control(Acts::coolingFlap); flap && m_.phase > Phase::start && m_.phase < Phase::stop) {
            const Gauge gauge = headOrCoolantGauge(n_);
            const auto found = n_.gauges.find(gauge);
            const double read = m_.readings.engines[e][gauge];
            if (found == n_.gauges.end() || std::isnan(read))
                return;
            const Band& band = found->second.in(m_.phase);
            const UnitSpec& unit = n_.unitOf(gauge);
            const double width = unit.scale * std::pow(10.0, 1 - unit.decimals);
            advice::Figure to;
            if (band.normalHigh && read > *band.normalHigh + width && l.coolingFlap < openOver) {
                to.share = 1.0;
                add(NeedOf::openFlaps, *flap, e, to,
                    fmt::format("{} {}: over the normal {}.", nameOf(gauge).title, format(read, unit),
                                format(*band.normalHigh, unit)));
            } else if (m_.phase > Phase::takeOff && band.normalLow && read < *band.normalLow - width &&
                       l.coolingFlap > shutUnder) {
                to.share = 0.0;
                add(NeedOf::shutFlaps, *flap, e, to,
                    fmt::format("{} {}: under the normal {}.", nameOf(gauge).title, format(read, unit),
                                format(*band.normalLow, unit)));
            }
        }
    }
    /// Not before it turns: a pump that presses on open jets fills an engine that stands.
    void jets(std::size_t e) {
        const auto& s = m_.state.engines[e];
        const auto& l = m_.levers.engines[e];
        const auto mixture = control(Acts::mixture);
        if (!mixture || !l.cutOff || !l.mesh || s.n < turnsFrom || l.primer > 0 ||
            s.primed > aStroke * plant_.engine(e).doseMass() || !n_.controls[*mixture].position("rich"))
            return;
        const auto prime = start::Priming(n_.start).advice(Temperature::si(s.headOrCoolant), Pressure::si(s.wideOpen));
        if (prime.dose > 0.0 || prime.blades > 0.0)
            return;
        add(NeedOf::jets, *mixture, e, position("rich"), "Warm and unprimed: it starts on its jets as it turns.");
    }
    [[nodiscard]] double chargeRoom(std::size_t e) const {
        const auto found = n_.gauges.find(Gauge::chargeTemperature);
        const double read = m_.readings.engines[e][Gauge::chargeTemperature];
        if (found == n_.gauges.end() || std::isnan(read))
            return std::numeric_limits<double>::infinity();
        const Band& band = found->second.in(m_.phase);
        const auto& most = band.normalHigh ? band.normalHigh : band.limitHigh;
        return most ? *most - read : std::numeric_limits<double>::infinity();
    }
    void tank(std::size_t e) {
        const auto& l = m_.levers.engines[e];
        const auto& s = m_.state.engines[e];
        if (!l.cock || l.tank < 0 || (!s.firing && m_.phase <= Phase::start) || m_.phase >= Phase::stop)
            return;
        const auto cock = control(Acts::fuel);
        const auto fed = static_cast<std::size_t>(l.tank);
        if (!cock || fed >= m_.state.tanks.size())
            return;
        double flow = 0.0; // of every engine on this tank
        for (std::size_t i = 0; i < m_.state.engines.size(); ++i)
            if (m_.levers.engines[i].tank == l.tank)
                if (const double one = m_.readings.engines[i][Gauge::fuelFlow]; one > 0)
                    flow += one;
        if (m_.state.tanks[fed] > flow * minuteLeft && m_.state.tanks[fed] > 1e-6)
            return;
        std::size_t best = fed;
        for (std::size_t t = 0; t < m_.state.tanks.size(); ++t) {
            const auto& tank = n_.fuel.tanks[t];
            const bool feeds = tank.feeds.empty() ||
                               std::find(tank.feeds.begin(), tank.feeds.end(), n_.positions[e].id) != tank.feeds.end();
            if (feeds && n_.controls[*cock].position(tank.id) && m_.state.tanks[t] > m_.state.tanks[best] &&
                m_.state.tanks[t] > std::min(enough, 0.05 * tank.usable.si()))
                best = t;
        }
        if (best == fed)
            return;
        advice::Figure to;
        to.position = n_.fuel.tanks[best].id;
        add(NeedOf::otherTank, *cock, e, to,
            m_.state.tanks[fed] > 1e-6 ? fmt::format("{} has a minute left.", n_.fuel.tanks[fed].name)
                                       : fmt::format("{} is dry.", n_.fuel.tanks[fed].name));
    }

    const powerplant::Powerplant& plant_;
    const TypeNotes& n_;
    const Moment& m_;
    bool boosted_;
    std::vector<Need> out_;
};
} // namespace

std::vector<Need> needs(const powerplant::Powerplant& plant, const Moment& moment) {
    return Looks(plant, moment).all();
}

} // namespace amber::hand
