// SPDX-License-Identifier: GPL-3.0-or-later
// Flights by engines of another build, with what is said along the way held against what came.
// amber-live [--flights 400] [--seed 1] SORTIE…
#include "aloft_flights.h"
#include "data_folder.h"
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <map>
#include <string>

using namespace amber;

int main(int argc, char** argv) {
    int flights = 400;
    std::uint64_t seed = 1;
    std::vector<std::string> files;
    for (int i = 1; i < argc; ++i) {
        const std::string arg = argv[i];
        if (arg == "--flights" && i + 1 < argc)
            flights = std::atoi(argv[++i]);
        else if (arg == "--seed" && i + 1 < argc)
            seed = std::strtoull(argv[++i], nullptr, 10);
        else
            files.push_back(arg);
    }
    if (files.empty())
        for (const auto& e : std::filesystem::directory_iterator(test::dataFolder() + "/demo"))
            if (e.path().extension() == ".toml")
                files.push_back(e.path().string());
    std::sort(files.begin(), files.end());
    std::vector<flight::LoadedSortie> fleet;
    for (const auto& file : files)
        fleet.push_back(flight::loadSortie(file));
    struct Sum {
        double plan = 0.0, now = 0.0;
        int count = 0, covered = 0;
        std::vector<double> width, widthNow;
    };
    std::map<std::string, Sum> sums;
    std::map<std::string, std::map<std::string, Sum>> byType;
    int misread = 0, asked = 0, good = 0, cried = 0, lengthened = 0;
    double rating = 0.0;
    for (int i = 0; i < flights; ++i) {
        const auto& loaded = fleet[static_cast<std::size_t>(i) % fleet.size()];
        if (!loaded.ok())
            continue;
        const auto judged = bench::judgeFlight(loaded, seed * 100'000 + static_cast<std::uint64_t>(i));
        for (const auto& x : judged.foretold)
            for (Sum* sum : {&sums[x.what], &byType[loaded.aircraft->notes.name][x.what]}) {
                sum->plan += std::abs(x.plan);
                sum->now += std::abs(x.now);
                ++sum->count;
                sum->covered += x.covered;
                sum->width.push_back(x.width);
                sum->widthNow.push_back(x.widthNow);
            }
        misread += judged.misread;
        asked += judged.asked;
        good += judged.good;
        cried += judged.cried;
        lengthened += judged.lengthened;
        rating = std::max(rating, judged.rating);
    }
    const auto median = [](std::vector<double> v) {
        if (v.empty())
            return 0.0;
        std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
        return v[v.size() / 2];
    };
    fmt::print("| foretold | cases | mean error, plan | mean error, today | ratio | covered | width over before |\n"
               "|---|---|---|---|---|---|---|\n");
    const auto line = [&](const std::string& name, const Sum& s) {
        fmt::print("| {} | {} | {:.4g} | {:.4g} | {:.2f} | {:.0f} % | {:.2f} |\n", name, s.count, s.plan / s.count,
                   s.now / s.count, s.now / s.plan, 100.0 * s.covered / s.count, median(s.widthNow) / median(s.width));
    };
    for (const auto& [what, s] : sums)
        line(what, s);
    for (const auto& [type, of] : byType)
        for (const auto& [what, s] : of)
            line(type + ": " + what, s);
    fmt::print(
        "\nMisread {} of which asked about {:.1f} %; good {} of which asked about {:.1f} %. Rating minutes off by "
        "{:.1f} s at most. Endurance lengthened by one reading: {}.\n",
        misread, 100.0 * asked / std::max(1, misread), good, 100.0 * cried / std::max(1, good), rating, lengthened);
    return 0;
}
