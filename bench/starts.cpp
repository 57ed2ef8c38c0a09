// SPDX-License-Identifier: GPL-3.0-or-later
// Starts on days from −30 to 45 °C: what the plan foretells of each engine beside what a hand that does the drill gets.
// amber-starts STEP SORTIE.toml...
#include "flight/open_files.h"
#include "started.h"
#include <cstdlib>
#include <fmt/format.h>
#include <map>

using namespace amber;

int main(int count, char** values) {
    const double step = count > 1 ? std::atof(values[1]) : 5.0;
    if (count < 3 || !(step > 0)) {
        fmt::print(stderr, "amber-starts STEP SORTIE.toml...: days from −30 to 45 °C, every STEP kelvins\n");
        return 2;
    }
    fmt::print("{:<18} {:>7} {:>6} {:>5} {:>5} {:>9} {:>12} {:>9}\n", "type", "engines", "first", "later", "never",
               "told else", "worst clock", "wrong");
    int engines = 0, wrong = 0, red = 0;
    for (int i = 2; i < count; ++i) {
        const auto l = flight::loadSortie(values[i]);
        if (!l.ok()) {
            fmt::print(stderr, "{}: cannot be read\n", values[i]);
            return 1;
        }
        int of = 0, first = 0, later = 0, never = 0, otherwise = 0, bad = 0;
        double worst = 0.0;
        for (double celsius = -30.0; celsius <= 45.0; celsius += step) {
            const Sortie s = test::atWarmth(*l.sortie, celsius);
            const auto f = flight::fly(*l.aircraft, s);
            const auto got = test::started(*l.aircraft, s, f);
            const bool late = std::any_of(f.findings.begin(), f.findings.end(),
                                          [](const auto& x) { return x.rule == watch::Rule::oilPressureLate; });
            for (std::size_t e = 0; e < got.tries.size(); ++e, ++of) {
                const auto& id = l.aircraft->notes.positions[e].id;
                const auto& tries = f.foreseen.at(id);
                if (!tries.back().fires) {
                    ++never;
                    bad += got.fires[e] >= 0.0; // red, and it fired
                } else {
                    (tries.size() == 1 ? first : later) += 1;
                    otherwise += static_cast<std::size_t>(got.tries[e]) != tries.size();
                    bad += got.fires[e] < 0.0; // promised, and it never fired
                    if (tries.size() == 1 && got.fires[e] >= 0.0)
                        worst = std::max(worst, std::abs(got.fires[e] - got.before - f.start.runningFrom.at(id)));
                }
                red += late || !tries.back().fires;
            }
        }
        fmt::print("{:<18} {:>7} {:>6} {:>5} {:>5} {:>9} {:>10.0f} s {:>9}\n", l.aircraft->notes.name, of, first, later,
                   never, otherwise, worst, bad);
        engines += of;
        wrong += bad;
    }
    fmt::print("{} engines; red {} ({:.0f} %); foretold wrongly {} ({:.1f} %)\n", engines, red, 100.0 * red / engines,
               wrong, 100.0 * wrong / engines);
    return wrong == 0 ? 0 : 1;
}
