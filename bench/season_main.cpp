// SPDX-License-Identifier: GPL-3.0-or-later
// A season with known faults, flown by the careful hand, and what the log's trends make of it: which series of the sick
// engine are told, and how many of the sound ones are told wrongly, season by season; and what it teaches of an
// airframe that differs from its notes: how often the truth lies in the interval, and what is offered that is not so.
// Usage: amber-season [SEASONS, 10] [RUNS, 36]; amber-season --write FILE: the demo log, as JSON.
#include "data_folder.h"
#include "notes/cockpit_units.h"
#include "record/lessons.h"
#include "record/log_text.h"
#include "record/trend.h"
#include "season.h"
#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <fstream>
#include <string_view>

using namespace amber;

int main(int argc, char** argv) {
    const auto base = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    if (!base.ok())
        return 1;
    bench::SeasonSetting setting;
    setting.faults = {{powerplant::Fault::coolerClogged, 1, 0.5, 12}};
    const Gauge heads = headOrCoolantGauge(base.aircraft->notes);
    constexpr double needle = 6.0, dose = 1.3, fuel = 1.05;
    setting.differs = {{dose, fuel, {{heads, needle}}}, {1.0, fuel, {}}};
    if (argc > 2 && std::string_view(argv[1]) == "--write") {
        std::ofstream(argv[2]) << record::logJson(bench::season(base, setting));
        return 0;
    }
    const int seasons = argc > 1 ? std::atoi(argv[1]) : 10;
    if (argc > 2)
        setting.runs = std::atoi(argv[2]);
    const std::string sick = base.aircraft->notes.positions[1].id;
    int found = 0, wrong = 0, sound = 0, told = 0, within = 0, truths = 0, false_ = 0, others = 0;
    for (int k = 0; k < seasons; ++k) {
        setting.seed = static_cast<std::uint64_t>(k) + 1;
        const auto log = bench::season(base, setting);
        bool oil = false;
        for (const auto& s : record::seriesOf(log, base.sortie->airframe.registration)) {
            const auto trend = record::trendOf(s.points);
            if (s.engine == sick) { // a hot oil system warms more than its own needle: all of this engine's are its own
                oil = oil || (s.what == "oil" && trend.tells() && trend.slope > 0);
                if (trend.tells())
                    fmt::print("  season {}: {}\n", k + 1, record::trendText(s, trend));
                continue;
            }
            ++sound;
            if (trend.tells()) {
                ++wrong;
                fmt::print("  season {}, WRONGLY: {}\n", k + 1, record::trendText(s, trend));
            }
        }
        found += oil ? 1 : 0;
        for (const auto& lesson :
             record::lessonsOf(log, base.sortie->airframe.registration, base.aircraft->notes, "")) {
            if (!lesson.planned || (lesson.line.engine == sick && lesson.line.what != "prime"))
                continue;
            const bool port = lesson.line.engine == base.aircraft->notes.positions[0].id;
            const double truth = lesson.line.what == "fuel"                      ? fuel
                                 : lesson.line.what == "prime"                   ? (port ? dose : 1.0)
                                 : port && lesson.line.what == nameOf(heads).key ? needle
                                                                                 : 0.0;
            const bool none = truth == 0.0 || truth == 1.0;
            if (lesson.offered())
                fmt::print("  season {}{}: {}\n", k + 1, none ? ", WRONGLY" : "", lesson.words);
            ++(none ? others : truths);
            within += lesson.low <= truth && truth <= lesson.high ? 1 : 0;
            if (lesson.offered())
                ++(none ? false_ : told);
        }
    }
    fmt::print("learnt: {} of {} differences offered; {} of {} that are none; the truth in the interval in {} of {}\n",
               told, truths, false_, others, within, truths + others);
    fmt::print("{} seasons of {} runs: the clogging cooler was found in {}; of {} series of the sound engine {} told a "
               "trend that is none ({:.1f} %; the interval's own share is 1 %)\n",
               seasons, setting.runs, found, sound, wrong, 100.0 * wrong / std::max(1, sound));
    return found == seasons ? 0 : 1;
}
