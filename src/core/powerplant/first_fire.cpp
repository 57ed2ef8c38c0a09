// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/first_fire.h"
#include "cockpit/controls.h"
#include <algorithm>
#include <cmath>

namespace amber::powerplant {
namespace {
constexpr double pumpFills = 5.0;  // s before the first stroke, with pump and cock on
constexpr double switching = 0.4;  // s for one act of a hand
constexpr double coilTakes = 10.0; // A, booster, pump and lamps

/// One engine at its start: levers as the drill puts them, time in short steps.
class Trial {
public:
    Trial(const Powerplant& plant, const StartNotes& start, const start::StartRequest& request, const BeforeFire& b)
        : plant_(plant), engine_(plant.engine(b.engine)), n_(plant.aircraft().notes), s_(start), r_(request),
          priming_(start),
          state_(engine_.standing(request.engine, request.oil)), left_{{}, b.charge, b.bottle, b.cartridges} {
        if (b.engine < plant.aircraft().learnt.size())
            learnt_ = plant.aircraft().learnt[b.engine];
        around_.air = b.air;
        around_.cart = request.supply == start::Supply::cart;
        levers_.throttle = throttleAt(start::crackedThrottle);
        levers_.cock = true;
        levers_.booster = cockpit::acting(n_.controls, Acts::pump) != nullptr;
        levers_.thinning = request.diluted ? n_.start.cold.dilutedViscosity : 1.0;
        id_ = n_.positions[b.engine].id;
        advice_ = priming_.advice(request.engine, request.field);
        dose_ = start::doseFor(advice_, request.liking, id_);
        levers_.cutOff = !start.openJets;
        go(pumpFills, [] { return false; });
    }
    AfterFire run() {
        const int most = std::max(1, s_.tries);
        for (int i = 0; i < most; ++i) {
            if (s_.starter.kind == StarterKind::cartridge && left_.cartridges <= 0)
                break;
            if (attempt(i))
                break;
            stand(s_.rest.si());
        }
        return std::move(left_);
    }

private:
    bool attempt(int index) {
        // What lies in it is not given again.
        const double whole = start::inNotesDoses(s_, advice_, dose_), lies = state_.primed / engine_.doseMass();
        const double dose = index == 0 || whole <= 0 ? dose_ : std::max(0.0, std::round(dose_ * (1.0 - lies / whole)));
        const double doses = index == 0 ? whole : dose_ > 0 ? dose / dose_ * whole : 0.0;
        const double primes = start::primingTime(s_, advice_, dose, index == 0 || dose > 0).si();
        const bool direct = s_.starter.kind == StarterKind::direct, turning = s_.primeWhileTurning && direct;
        const auto rate = primes > 0 ? doses / primes : 0.0;
        const auto primed = [&] {
            levers_.primer = rate;
            go(primes, never);
            levers_.primer = 0.0;
        };
        if (!s_.primeWhileTurning && primes > 0) {
            primed();
            stand(advice_.vaporise.si());
        }
        const auto crank =
            start::crank(s_, {Temperature::si(state_.oil), r_.supply, r_.diluted, start::bladesPerRevolution(n_)});
        if (s_.starter.kind == StarterKind::inertia) {
            levers_.energise = true;
            go(crank.energise.si(), never);
            levers_.energise = false;
        }
        if (s_.primeWhileTurning &&
            !direct) // the wheel is still running up, or a shot and a bottle have no turn to spare
            primed();
        levers_.mesh = true;
        levers_.cutOff =
            !s_.openJets && start::inNotesDoses(s_, advice_, dose_) > 0; // unprimed it starts on its jets as it turns
        double turned = 0.0;
        const auto turns = [&](double seconds) {
            const auto fires = [&] { return state_.firing; };
            const double done = go(seconds, fires);
            turned += done;
        };
        if (turning && primes > 0) {
            levers_.primer = rate;
            turns(primes);
            levers_.primer = 0.0;
        }
        const double most = start::longestTry(s_).si();
        if (!state_.firing && s_.bladesFirst) { // the starter's limit counts from the switching on
            turns(std::max(0.0, crank.forBlades.si() - turned));
            levers_.ignition = Ignition::both;
            turns(switching);
        }
        levers_.ignition = Ignition::both;
        levers_.boosterCoil = true;
        turns(most);
        levers_.mesh = levers_.boosterCoil = false;
        levers_.ignition = Ignition::off;
        levers_.cutOff = !s_.openJets;
        left_.tries.push_back({turned, dose, state_.firing});
        return state_.firing;
    }
    /// Standing, its fuel and its warmth left to themselves.
    void stand(double seconds) {
        engine_.stride(state_, levers_, around_, static_cast<Milliseconds>(1000.0 * seconds));
    }
    /// s that went by until it was done.
    template <class Done>
    double go(double seconds, const Done& done) {
        const auto& nominal = n_.start.battery.volts;
        double t = 0.0;
        while (t < seconds - 1e-9 && !done()) {
            const auto ms = static_cast<Milliseconds>(std::min(100.0, std::ceil(1000.0 * (seconds - t))));
            const double dt = static_cast<double>(ms) / 1000.0;
            around_.volts = around_.cart ? 1.1 * nominal : plant_.loadedVolts(left_.charge, drawn_ + coilTakes);
            around_.airBottle = left_.bottle;
            around_.cartridges = left_.cartridges;
            const auto read = engine_.step(state_, levers_, noEffects, learnt_, around_, ms);
            drawn_ = read.starterAmperes;
            left_.bottle = std::max(0.0, left_.bottle - read.airDrawn * dt);
            left_.cartridges = std::max(0, left_.cartridges - read.cartridge);
            if (!around_.cart)
                left_.charge = std::max(0.0, left_.charge - (drawn_ + coilTakes) * dt / 3600.0);
            around_.now += ms;
            t += dt;
        }
        return t;
    }
    static bool never() { return false; }
    const Powerplant& plant_;
    const Engine& engine_;
    const TypeNotes& n_;
    const StartNotes& s_;
    const start::StartRequest& r_;
    start::Priming priming_;
    EngineState state_;
    EngineLevers levers_;
    Surroundings around_;
    Learnt learnt_;
    AfterFire left_;
    start::PrimeAdvice advice_;
    std::string id_;
    double dose_ = 0.0, drawn_ = 0.0;
};
} // namespace

AfterFire firstFire(const Powerplant& plant, const StartNotes& start, const start::StartRequest& request,
                    const BeforeFire& before) {
    return Trial(plant, start, request, before).run();
}

std::map<std::string, std::vector<start::Try>> foresee(const Powerplant& plant, const StartNotes& start,
                                                       const start::StartRequest& request, const air::Ambient& air) {
    const TypeNotes& n = plant.aircraft().notes;
    const auto& order = request.order.empty() ? n.start.order : request.order;
    const auto advice = start::Priming(start).advice(request.engine, request.field);
    const auto& learnt = plant.aircraft().learnt;
    BeforeFire b{0, air, plant.batteryCapacity(), start.starter.airBottle.si(), start.starter.cartridges};
    std::map<std::string, std::vector<start::Try>> out;
    std::optional<std::size_t> like;
    for (const auto& id : order) {
        const auto at =
            std::find_if(n.positions.begin(), n.positions.end(), [&](const Position& p) { return p.id == id; });
        if (at == n.positions.end())
            continue;
        b.engine = static_cast<std::size_t>(at - n.positions.begin());
        // A sister with the same dose and nothing of her own comes to the same, fed by a cart that does not tire.
        const bool tires = (request.supply == start::Supply::battery && start.starter.kind != StarterKind::hand) ||
                           start.starter.kind == StarterKind::air || start.starter.kind == StarterKind::cartridge;
        if (like && !tires &&
            start::doseFor(advice, request.liking, id) ==
                start::doseFor(advice, request.liking, n.positions[*like].id) &&
            (learnt.empty() || learnt[*like] == learnt[b.engine])) {
            out[id] = out[n.positions[*like].id];
            continue;
        }
        auto after = firstFire(plant, start, request, b);
        b.charge = after.charge;
        b.bottle = after.bottle;
        b.cartridges = after.cartridges;
        out[id] = std::move(after.tries);
        like = b.engine;
    }
    return out;
}

} // namespace amber::powerplant
