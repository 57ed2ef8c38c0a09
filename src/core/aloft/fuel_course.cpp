// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/fuel_course.h"
#include "record/what.h"
#include <algorithm>
#include <cmath>

namespace amber::aloft {

FuelCourse::FuelCourse(const flight::Flown& f, const TypeNotes& n, const Course& course, const Happened& happened) {
    const std::size_t tanks = f.contents.tanks;
    const auto row = f.contents.at(0);
    first_.assign(row.begin(), row.end());
    // Tanks chosen by hand, by when.
    std::vector<std::pair<double, int>> chosen;
    for (const auto& m : happened.moments)
        if (m.what.starts_with(record::ofTank))
            for (std::size_t t = 0; t < n.fuel.tanks.size(); ++t)
                if (n.fuel.tanks[t].id == m.what.substr(record::ofTank.size()))
                    chosen.emplace_back(m.at, static_cast<int>(t));
    const auto& s = f.samples;
    // The interval that ends at or after a time of the plan; time stands still in none.
    const auto intervalAt = [&](double plan) {
        const auto k = static_cast<std::size_t>(
            std::upper_bound(s.begin(), s.end(), plan, [](double t, const flight::Sample& x) { return t < x.time; }) -
            s.begin());
        return std::clamp<std::size_t>(k, 1, s.size() - 1);
    };
    if (s.size() < 2)
        return;
    const int plansOwn = s[intervalAt(course.planAt(course.now()))].tank; // that it feeds from now
    bool released = false;
    const auto add = [&](double from, double to, std::size_t sample) {
        // What the plan draws between a sample and the one before.
        Node node{from, to, std::vector<double>(tanks), s[sample].tank};
        const double seconds = s[sample].time - s[sample - 1].time;
        const bool drops = std::find(f.dropped.begin(), f.dropped.end(), sample) != f.dropped.end();
        const auto before = f.contents.at(sample - 1), after = f.contents.at(sample);
        for (std::size_t t = 0; t < tanks && seconds > 1e-9; ++t)
            if (!(drops && n.fuel.tanks[t].kind == TankKind::drop))
                node.rates[t] = (before[t] - after[t]) / seconds;
        // Split where a tank was chosen by hand.
        for (std::size_t c = 0; c <= chosen.size(); ++c) {
            const double a = c == 0 ? node.from : std::max(node.from, chosen[c - 1].first);
            const double b = c == chosen.size() ? node.to : std::min(node.to, chosen[c].first);
            if (b <= a)
                continue;
            Node part = node;
            part.from = a;
            part.to = b;
            // A choice of the past holds until the plan's own next change after now.
            released = released || (a >= course.now() && node.feeds != plansOwn);
            if (c > 0 && (!released || node.feeds == chosen[c - 1].second)) {
                const double all = node.total();
                std::fill(part.rates.begin(), part.rates.end(), 0.0);
                part.feeds = chosen[c - 1].second;
                part.rates[static_cast<std::size_t>(part.feeds)] = all;
            }
            nodes_.push_back(std::move(part));
        }
    };
    for (const auto& piece : course.pieces()) {
        if (piece.to <= piece.from)
            continue;
        auto k = intervalAt(piece.planFrom);
        if (piece.planTo - piece.planFrom < 1e-9) {
            while (k > 1 && s[k].time - s[k - 1].time < 1e-9)
                --k;
            add(piece.from, piece.to, k);
            continue;
        }
        for (; k < s.size() && s[k - 1].time < piece.planTo; ++k) {
            const double a = std::max(s[k - 1].time, piece.planFrom), b = std::min(s[k].time, piece.planTo);
            if (b <= a)
                continue;
            add(piece.from + (a - piece.planFrom) / piece.pace(), piece.from + (b - piece.planFrom) / piece.pace(), k);
        }
    }
}

double FuelCourse::used(double real) const {
    double sum = 0.0;
    for (const auto& node : nodes_)
        if (node.from < real)
            sum += node.total() * (std::min(node.to, real) - node.from);
    return sum;
}

double FuelCourse::flow(double real) const {
    for (const auto& node : nodes_)
        if (real < node.to)
            return node.total();
    return 0.0;
}

int FuelCourse::feeding(double real) const {
    for (const auto& node : nodes_)
        if (real < node.to)
            return node.feeds;
    return -1;
}

std::vector<double> FuelCourse::tanks(double real, double burn) const {
    auto out = first_;
    for (const auto& node : nodes_)
        if (node.from < real)
            for (std::size_t t = 0; t < out.size(); ++t)
                out[t] -= node.rates[t] * burn * (std::min(node.to, real) - node.from);
    for (auto& t : out)
        t = std::max(0.0, t);
    return out;
}

std::optional<double> FuelCourse::downTo(std::size_t tank, double left, double from, double burn) const {
    double held = tanks(from, burn)[tank];
    double last = 0.0, at = from;
    bool fed = false;
    for (const auto& node : nodes_) {
        if (node.to <= from)
            continue;
        const double a = std::max(from, node.from), rate = node.rates[tank] * burn;
        if (held <= left + 1e-9)
            return a;
        if (rate > 1e-12) {
            fed = true;
            last = rate;
            if (held - rate * (node.to - a) <= left)
                return a + (held - left) / rate;
            held -= rate * (node.to - a);
            at = node.to;
        } else if (fed) { // the plan leaves it here: today it lasts longer
            break;
        } else {
            held -= rate * (node.to - a);
        }
    }
    if (!fed || last <= 0.0)
        return std::nullopt;
    return at + (held - left) / last;
}

} // namespace amber::aloft
