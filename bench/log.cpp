// SPDX-License-Identifier: GPL-3.0-or-later
// What a log of many runs costs: to open, to keep one more entry, to list, to read one run, one airframe's trends and
// what holds it, and a recorder's file.
// Processor milliseconds, median and worst of ten; entries are read ten to a run. Prints a Markdown table.
// Usage: amber-log [RUNS, 100000] [AIRFRAMES, 20]
#include "data_folder.h"
#include "flight/open_files.h"
#include "processor.h"
#include "record/from_trace.h"
#include "record/hours.h"
#include "record/lessons.h"
#include "record/trend.h"
#include "record/trials.h"
#include "record/write_up.h"
#include "store/log_file.h"
#include <QCoreApplication>
#include <QFileInfo>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdlib>
#include <fmt/format.h>
#include <functional>
#include <vector>

using namespace amber;
using app::LogFile;
using bench::processorSeconds;

int main(int argc, char** argv) {
    QCoreApplication application(argc, argv);
    const int runs = argc > 1 ? std::atoi(argv[1]) : 100'000, airframes = argc > 2 ? std::atoi(argv[2]) : 20;
    constexpr int each = 10;
    constexpr std::int64_t first = 1'500'000'000'000, hour = 3'600'000;
    const QTemporaryDir folder;
    const QString path = folder.filePath(QStringLiteral("log.sqlite"));
    {
        auto log = LogFile::open(path);
        if (!log)
            return 1;
        for (int from = 0; from < runs; from += 5'000) {
            record::Log part;
            for (int i = from; i < std::min(runs, from + 5'000); ++i) {
                record::Run r{fmt::format("{:08}", i), fmt::format("HR-{}", i % airframes),
                              "Lorimer L.4",           "About the field",
                              first + i * hour,        "format = 1\n"};
                for (int k = 0; k < each; ++k) {
                    record::Entry e;
                    e.id = fmt::format("{}-{}", r.id, k);
                    e.run = r.id;
                    e.at = e.entered = r.began + k;
                    e.phase = k < 5 ? Phase::climb : Phase::cruise;
                    e.engine = k % 2 == 0 ? "1" : "2";
                    e.what = k % 5 < 3 ? "head" : "oil";
                    e.value = 360.0 + (i * 7 + k * 13) % 20;
                    e.planned = 365.0;
                    part.entries.emplace(e.id, std::move(e));
                }
                part.runs.emplace(r.id, std::move(r));
            }
            if (!log.value()->append(part).isEmpty())
                return 1;
        }
    }
    fmt::print("{} runs of {} airframes, {} entries, {:.0f} MB\n\n| | median, ms | worst |\n|---|---|---|\n", runs,
               airframes, runs * each, static_cast<double>(QFileInfo(path).size()) / 1e6);
    const auto measure = [](const char* what, const std::function<void()>& work) {
        std::vector<double> took;
        for (int i = 0; i < 10; ++i) {
            const double before = processorSeconds();
            work();
            took.push_back(1000 * (processorSeconds() - before));
        }
        std::sort(took.begin(), took.end());
        fmt::print("| {} | {:.1f} | {:.1f} |\n", what, took[took.size() / 2], took.back());
    };
    measure("open", [&] { (void)LogFile::open(path); });
    auto log = std::move(LogFile::open(path).value());
    int kept = 0;
    measure("keep one entry", [&] {
        record::Entry e;
        e.id = fmt::format("kept-{}", ++kept);
        e.run = "00000000";
        e.at = e.entered = first;
        e.what = "oil";
        e.value = 350.0;
        (void)log->add(e);
    });
    measure("registrations", [&] { (void)log->airframes(); });
    measure("the latest 200 runs of one", [&] { (void)log->runs(QStringLiteral("HR-3"), 200); });
    measure("one run", [&] {
        LogFile::Wanted wanted;
        wanted.run = QStringLiteral("00000003");
        (void)log->read(wanted);
    });
    measure("trends of the latest 500 runs of one", [&] {
        LogFile::Wanted wanted;
        wanted.airframe = QStringLiteral("HR-3");
        wanted.latest = 500;
        const auto read = log->read(wanted);
        for (const auto& s : record::seriesOf(read.value(), "HR-3"))
            (void)record::trendOf(s.points);
    });
    const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/mercer-frost.toml");
    if (!loaded.ok())
        return 1;
    const auto& notes = loaded.aircraft->notes;
    measure("what holds one, of the latest 500 runs", [&] {
        LogFile::Wanted wanted;
        wanted.airframe = QStringLiteral("HR-3");
        wanted.latest = 500;
        (void)record::holding(log->read(wanted).value(), "HR-3", notes, *loaded.sortie, record::flownOf());
    });
    const auto of = [&](int latest) {
        LogFile::Wanted wanted;
        wanted.airframe = QStringLiteral("HR-3");
        wanted.latest = latest;
        return log->read(wanted).value();
    };
    measure("what the latest 100 runs teach, planned already",
            [&] { (void)record::lessonsOf(of(100), "HR-3", notes, "mark"); });
    measure("hours of all runs of one", [&] { (void)record::hoursOf(of(0), "HR-3", notes, nullptr, 0); });
    measure("trials of all runs of one", [&] { (void)record::trialsOf(of(0), "HR-3", notes); });
    // A recorder of four engines, ten columns each, for three hours at a second.
    std::string text = "Time";
    const char* columns[] = {"RPM",
                             "MAP [inHg]",
                             "CHT [°C]",
                             "Oil temp [°C]",
                             "Oil press [psi]",
                             "Fuel press [psi]",
                             "Fuel flow [l/h]",
                             "Charge [°C]",
                             "BMEP [psi]",
                             "Exhaust [°C]"};
    for (int e = 1; e <= 4; ++e)
        for (const std::string c : columns)
            text += fmt::format(",{} {}", c, e);
    text += '\n';
    for (int t = 0; t < 10'800; ++t) {
        text += std::to_string(t);
        for (int e = 0; e < 4; ++e)
            text +=
                fmt::format(",{},32.{},18{}.5,6{}.2,7{}.1,15.{},30{},4{},15{},65{}", t > 60 ? 2100 + (t + e) % 9 : 0,
                            t % 9, t % 7, t % 5, t % 9, t % 4, t % 9, t % 8, t % 6, t % 9);
        text += '\n';
    }
    Problems problems;
    std::optional<record::Recording> recording;
    measure("a recorder's file, 4 engines, 10 columns, 3 h: read",
            [&] { recording = record::readRecorder(text, "r.csv", notes, nullptr, problems); });
    if (!recording || recording->map.columns.size() != 40)
        return fmt::print(stderr, "the bench's file has {} columns known\n",
                          recording ? recording->map.columns.size() : 0),
               1;
    std::vector<record::TraceBlock> blocks;
    record::RunTrace trace;
    measure("made into blocks and laid side by side", [&] {
        blocks = record::blocksOf(*recording, "00000003", "r.csv", first);
        trace = record::traceOf(blocks, notes);
    });
    std::vector<record::Entry> entries;
    measure("its moments found and its stretches judged", [&] {
        entries = record::entriesOf(trace, record::findAnchors(trace, notes), notes, nullptr, "00000003", "r.csv");
    });
    measure("kept (the first time), then passed over", [&] { (void)log->keepTrace(blocks, entries); });
    measure("read back", [&] { (void)log->traces(QStringLiteral("00000003")); });
    return 0;
}
