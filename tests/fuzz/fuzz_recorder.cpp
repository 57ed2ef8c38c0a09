// SPDX-License-Identifier: GPL-3.0-or-later
#include "data_folder.h"
#include "flight/open_files.h"
#include "record/from_trace.h"
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>

namespace {
using namespace amber;
const flight::LoadedSortie& lorimer() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    return loaded;
}
} // namespace

/// Any bytes are a recording or a problem; its blocks are what a log takes, laid side by side its moments rise, and
/// what it comes to are entries that a log takes.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    const std::string_view text{reinterpret_cast<const char*>(bytes), size};
    const auto& notes = lorimer().aircraft->notes;
    Problems problems;
    const auto recording = record::readRecorder(text, "fuzz.csv", notes, nullptr, problems);
    if (recording.has_value() == !problems.empty())
        std::abort();
    if (!recording)
        return 0;
    constexpr std::int64_t began = 1'796'000'000'000;
    auto blocks = record::blocksOf(*recording, "r1", "fuzz.csv", began);
    std::erase_if(blocks, [](const auto& b) { return !record::wrongWith(b).empty(); }); // of another age
    const auto trace = record::traceOf(blocks, notes);
    for (std::size_t i = 1; i < trace.at.size(); ++i)
        if (trace.at[i] <= trace.at[i - 1])
            std::abort();
    for (const auto& e : record::entriesOf(trace, record::findAnchors(trace, notes), notes, nullptr, "r1", "fuzz.csv"))
        if (const auto wrong = record::wrongWith(e); !wrong.empty()) {
            std::fprintf(stderr, "%s\n", wrong.c_str());
            std::abort();
        }
    return 0;
}
