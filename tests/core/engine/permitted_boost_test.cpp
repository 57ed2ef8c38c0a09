// SPDX-License-Identifier: GPL-3.0-or-later
// Boost that may be set, against a plain minimum over the rows of the file that shares nothing with it.
#include "engine/permitted_boost.h"
#include "flight/flown.h"
#include "test_data.h"
#include <gtest/gtest.h>
#include <random>

namespace {
using namespace amber;

/// Least of what the rows of a rating say, as a person reads them one after the other. The grade: its entry, or the
/// entry next below it and next above it as bounds (what is between is ours).
struct Oracle {
    double least = 1e9, bound = 1e9; ///< Pa: by rows that say a figure; with a grade between two, the lower of both
};
Oracle rowsOf(const TypeNotes& n, const Rating& r, const std::string& grade, std::size_t gear, double pressureAltitude,
              Phase phase, std::optional<double> asked) {
    Oracle o;
    const auto row = [&](double pa) {
        o.least = std::min(o.least, pa);
        o.bound = std::min(o.bound, pa);
    };
    bool own = false;
    for (const auto& line : r.lines)
        if (!n.engine.gears.empty() && line.gear == n.engine.gears[gear].name && line.boost && !own) {
            row(line.boost->si());
            own = true;
        }
    if (!own)
        row(r.boost->si());
    for (const auto& [height, boost] : r.above)
        if (pressureAltitude >= height.si())
            row(boost.si());
    if (r.grades.contains(grade))
        row(r.grades.at(grade).si());
    else if (grade != r.grade && !r.grades.empty()) {
        double lowest = 1e9, highest = 0;
        for (const auto& [name, boost] : r.grades) {
            lowest = std::min(lowest, boost.si());
            highest = std::max(highest, boost.si());
        }
        o.bound = std::min(o.bound, lowest); // no lower than the lowest entry
    }
    if (phase <= Phase::cruise && n.phase(phase).boost)
        row(n.phase(phase).boost->si());
    if (n.gauges.contains(Gauge::boost))
        if (const auto mark = n.gauges.at(Gauge::boost).in(phase).limitHigh)
            row(*mark);
    if (asked)
        row(*asked);
    return o;
}

TEST(PermittedBoost, IsTheLeastOfTheRowsAndNoLess) {
    std::mt19937_64 draw(40'011);
    const auto at = [&](double low, double high) { return std::uniform_real_distribution(low, high)(draw); };
    std::vector<flight::LoadedSortie> all;
    for (const auto& name : test::demoNames())
        all.push_back(test::loaded(name));
    constexpr double needle = 300.0; // Pa
    int asked = 0, bound[9] = {};
    for (int i = 0; i < 100'000; ++i) {
        const auto& loaded = all[static_cast<std::size_t>(i) % all.size()];
        const TypeNotes* notes = &loaded.aircraft->notes;
        Rating r = notes->ratings[draw() % notes->ratings.size()];
        if (!r.boost)
            continue;
        const double top = r.boost->si();
        // Steps with height, as many as may be; the file's own grades, and any of the others by number.
        r.above.clear();
        double height = at(500, 3000), left = top;
        for (std::size_t k = draw() % 7; k > 0; --k, height += at(300, 2500))
            r.above.emplace_back(Length::si(height), ManifoldPressure::si(left -= at(100, 6000)));
        if (draw() % 2 == 0) // and a boost of its own in a gear
            for (auto& line : r.lines)
                line.boost = ManifoldPressure::si(at(0.7 * top, top));
        const auto& grades = notes->fuel.grades;
        const std::string grade = grades[draw() % grades.size()];
        const std::size_t gear = notes->engine.gears.empty() ? 0 : draw() % notes->engine.gears.size();
        const double pressureAltitude = at(-300, 9000);
        const Phase phase = std::array{Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown}[draw() % 4];
        std::optional<double> own;
        if (draw() % 3 == 0)
            own = at(0.6 * top, 1.1 * top);
        const auto oracle = rowsOf(*notes, r, grade, gear, pressureAltitude, phase, own);
        const auto got = engine::permittedBoost(*notes, r, grade,
                                                {gear, Length::si(pressureAltitude), phase,
                                                 own ? std::optional(ManifoldPressure::si(*own)) : std::nullopt});
        ASSERT_TRUE(got.boost);
        ASSERT_LE(got.boost->si(), oracle.least + 1e-6) << loaded.aircraft->notes.name << " " << r.key << " " << grade;
        if (!r.grades.empty() || r.grade == grade)
            ASSERT_GE(got.boost->si(), oracle.bound - needle) << loaded.aircraft->notes.name << " " << r.key;
        ++bound[static_cast<int>(got.binds)];
        ++asked;
    }
    EXPECT_GT(asked, 70'000);
    for (const auto what : {engine::Binds::rating, engine::Binds::gear, engine::Binds::height, engine::Binds::grade,
                            engine::Binds::phase, engine::Binds::asked})
        EXPECT_GT(bound[static_cast<int>(what)], 100) << engine::nameOf(what) << " never bound: it proves nothing";
}
/// What is flown: at no moment of take-off and climb more than the rows leave in that gear at that height.
TEST(PermittedBoost, NoMomentOfThePlanIsOverTheRows) {
    std::mt19937_64 draw(40'012);
    const auto at = [&](double low, double high) { return std::uniform_real_distribution(low, high)(draw); };
    int steps = 0, sorties = 0;
    for (const auto& name : test::demoNames()) {
        auto l = test::loaded(name);
        const auto own = l.aircraft;
        if (!flight::ratingFor(own->notes, *l.sortie, Phase::climb).boost)
            continue;
        for (int i = 0; i < 3; ++i, ++sorties) {
            auto changed = std::make_shared<powerplant::Aircraft>(*own);
            const std::string key = flight::ratingFor(own->notes, *l.sortie, Phase::climb).key;
            double height = at(300, 1200), top = 0;
            for (auto& r : changed->notes.ratings)
                if (r.key == key) {
                    top = r.boost->si();
                    double left = top;
                    r.above.clear();
                    for (int k = 0; k < 1 + i; ++k, height += at(300, 900))
                        r.above.emplace_back(Length::si(height), ManifoldPressure::si(left -= at(1500, 4000)));
                }
            l.aircraft = changed;
            const auto& n = changed->notes;
            l.sortie->fuelGrade = n.fuel.grades[draw() % n.fuel.grades.size()];
            l.sortie->day.qnh = Pressure::si(at(98'000, 103'500));
            l.sortie->flight.climbBoost.reset();
            if (i == 1)
                l.sortie->flight.climbBoost = ManifoldPressure::si(at(0.8 * top, 1.05 * top));
            const auto f = flight::fly(*changed, *l.sortie);
            const auto& rating = *n.rating(key);
            const double until = f.ratingChanges.empty() ? 1e9 : f.ratingChanges.front().time;
            for (std::size_t k = f[Phase::climb].firstSample; k <= f[Phase::climb].lastSample; ++k) {
                const auto& m = f.samples[k];
                if (m.time >= until)
                    break;
                std::size_t gear = n.gearIndex(n.phase(Phase::climb).gear).value_or(0);
                for (const auto& change : f.gearChanges)
                    if (m.time >= change.time)
                        gear = change.to;
                const double pressureAltitude = l.sortie->day.pressureAltitudeOf(Length::si(m[Gauge::height])).si();
                const auto& typed = l.sortie->flight.climbBoost;
                // (Two moments stand at a step: before the hand has moved, and after; 15 m are the width of an
                // altimeter.)
                const auto oracle = rowsOf(n, rating, l.sortie->fuelGrade, gear, pressureAltitude - 15.0, Phase::climb,
                                           typed ? std::optional(typed->si()) : std::nullopt);
                ASSERT_LE(m[Gauge::boost], oracle.least + 300.0)
                    << name << " at " << pressureAltitude << " m, moment " << k - f[Phase::climb].firstSample << " of "
                    << f[Phase::climb].lastSample - f[Phase::climb].firstSample << ", first step "
                    << rating.above.front().first.si() << ", s " << m.time - f[Phase::climb].start;
            }
            steps += static_cast<int>(f.boostFalls.size());
            for (const auto& fall : f.boostFalls)
                EXPECT_TRUE(std::any_of(
                    rating.above.begin(), rating.above.end(),
                    [&](const auto& row) { return std::abs(row.first.si() - fall.pressureAltitude.si()) < 15.0; }))
                    << name << ": a fall at a height that is none of the file's";
        }
    }
    EXPECT_GE(sorties, 20);
    EXPECT_GT(steps, 15);
}
} // namespace
