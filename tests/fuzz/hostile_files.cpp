// SPDX-License-Identifier: GPL-3.0-or-later
// Every kind of text file that the program reads, spoilt in every way a hand, a slip or a damaged disk can: each is
// refused with a reason, or read, and what notes and sorties plan are figures that can be. Deterministic: hostile-files
// SEED COUNT. Writes the first offending file to OUT (default hostile.toml) and ends with 1. (Logs in SQLite:
// tests/app/log/log_file_test.cpp.)
#include "advice/cool_down.h"
#include "advice/cooling.h"
#include "advice/ground_budget.h"
#include "advice/let_down.h"
#include "air/metar.h"
#include "audit/audit.h"
#include "data_folder.h"
#include "files/key_ranges.h"
#include "flight/cruise.h"
#include "flight/engine_traces.h"
#include "flight/open_files.h"
#include "plan/lever_picture.h"
#include "plan/pictures.h"
#include "plan/plan.h"
#include "plan/plan_export.h"
#include "reading/notes_reader.h"
#include "record/log_text.h"
#include "record/recorder_file.h"
#include "rehearse/acts.h"
#include "rehearse/setup.h"
#include "script/script.h"
#include "sortie/airframe_file.h"
#include "sortie/sortie_text.h"
#include <algorithm>
#include <chrono>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <random>
#include <sstream>
#include <unistd.h>

namespace {
using namespace amber;
using Random = std::mt19937_64;

constexpr double slowest = 5.0; // s of processor for one file, plans included, sanitizers too
std::string current;            // the text at work, for whoever must say what it died of
std::string out = "hostile.toml";

void keep() {
    std::ofstream(out, std::ios::binary) << current;
}
extern "C" void onAlarm(int) {
    keep();
    constexpr char said[] = "hostile-files: a file takes longer than a minute\n";
    [[maybe_unused]] const auto written = ::write(2, said, sizeof said - 1);
    std::_Exit(1);
}

std::size_t below(Random& r, std::size_t n) {
    return n == 0 ? 0 : static_cast<std::size_t>(r() % n);
}
double unit(Random& r) {
    return static_cast<double>(r() >> 11) * 0x1p-53;
}

std::string textOf(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

/// Begin and length of every number of a text that is not part of a word.
std::vector<std::pair<std::size_t, std::size_t>> numbersOf(const std::string& text) {
    std::vector<std::pair<std::size_t, std::size_t>> found;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (!std::isdigit(static_cast<unsigned char>(text[i])) ||
            (i > 0 && std::isalnum(static_cast<unsigned char>(text[i - 1]))))
            continue;
        std::size_t end = i;
        while (end < text.size() &&
               (std::isdigit(static_cast<unsigned char>(text[end])) || text[end] == '.' || text[end] == ','))
            ++end;
        found.emplace_back(i, end - i);
        i = end;
    }
    return found;
}

void spoil(std::string& text, Random& r) {
    static const std::vector<std::string> absurd{"0",   "-1",    "1e9",  "1e308", "999999999", "0.000001",
                                                 "nan", "-1700", "1e-9", "",      "inf",       "3 3"};
    std::vector<std::size_t> starts{0};
    for (std::size_t i = 0; i + 1 < text.size(); ++i)
        if (text[i] == '\n')
            starts.push_back(i + 1);
    const auto line = [&](std::size_t k) {
        const auto end = text.find('\n', starts[k]);
        return text.substr(starts[k], end == std::string::npos ? end : end + 1 - starts[k]);
    };
    const auto numbers = numbersOf(text);
    switch (below(r, 10)) {
    case 0:
    case 1:
    case 2:
    case 3: { // a plausible slip: it often passes, and is planned
        if (numbers.empty())
            return;
        const auto [at, size] = numbers[below(r, numbers.size())];
        std::string plain = text.substr(at, size);
        std::erase(plain, ',');
        const double factor =
            below(r, 3) ? std::exp(1.4 * (unit(r) - 0.5)) : std::pow(10.0, static_cast<double>(below(r, 5)) - 2);
        text.replace(at, size, fmt::format("{:.6g}", std::strtod(plain.c_str(), nullptr) * factor));
        return;
    }
    case 4: { // an absurd one
        if (numbers.empty())
            return;
        const auto [at, size] = numbers[below(r, numbers.size())];
        text.replace(at, size, absurd[below(r, absurd.size())]);
        return;
    }
    case 5: { // a line too few, or twice
        const std::size_t k = below(r, starts.size());
        const std::string whole = line(k);
        if (below(r, 2))
            text.erase(starts[k], whole.size());
        else
            text.insert(starts[k], whole);
        return;
    }
    case 6: { // two lines exchanged
        const std::size_t a = below(r, starts.size()), b = below(r, starts.size());
        if (a >= b)
            return;
        const std::string first = line(a), second = line(b);
        text.replace(starts[b], second.size(), first);
        text.replace(starts[a], first.size(), second);
        return;
    }
    case 7: { // a text emptied, or another's
        const auto open = text.find('"', below(r, text.size())),
                   close = open == std::string::npos ? open : text.find('"', open + 1);
        if (close == std::string::npos)
            return;
        const auto other = text.find('"', below(r, text.size())),
                   end = other == std::string::npos ? other : text.find('"', other + 1);
        const std::string with = below(r, 2) || end == std::string::npos ? "" : text.substr(other + 1, end - other - 1);
        text.replace(open + 1, close - open - 1, with);
        return;
    }
    case 8: // cut off
        text.resize(below(r, text.size() + 1));
        return;
    default: // a damaged byte
        if (!text.empty())
            text[below(r, text.size())] = static_cast<char>(below(r, 256));
    }
}

/// What is wrong with a plan; empty when every figure can be.
std::string wrongWith(const powerplant::Aircraft& aircraft, const Sortie& sortie, const plan::Plan& made,
                      bool everything) {
    const auto& f = made.flown;
    double last = 0.0;
    for (const auto& m : f.samples) {
        const auto warm = [](double k) { return k > 150 && k < 1500; };
        // Not there before it has come to the gauge, in the start or just after it.
        const bool oilPressure = m.has(Gauge::oilPressure) ? m[Gauge::oilPressure] >= 0 && m[Gauge::oilPressure] < 1e8
                                                           : m.phase <= Phase::warmUp;
        if (!(m.time >= last - 1e-6 && m.time < 3.6e6) || !(m[Gauge::rpm] >= 0 && m[Gauge::rpm] < 150) ||
            !(m[Gauge::boost] > 0 && m[Gauge::boost] < 1e6) || !warm(m.headOrCoolant()) ||
            !warm(m[Gauge::oilTemperature]) || !oilPressure || !(m[Gauge::fuel] >= -1e-9 && m[Gauge::fuel] < 1e4) ||
            !std::isfinite(m[Gauge::power]) || !std::isfinite(m[Gauge::chargeTemperature]) ||
            !std::isfinite(m[Gauge::height]) || !std::isfinite(m[Gauge::airspeed]) || !std::isfinite(m[Gauge::torque]))
            return fmt::format(
                "at {} s in {}: rpm {}, boost {}, metal {}, oil {}, oil pressure {}, fuel {}, power {}, charge "
                "{}, height {}, speed {}",
                m.time, titleOf(m.phase), m[Gauge::rpm], m[Gauge::boost], m.headOrCoolant(), m[Gauge::oilTemperature],
                m[Gauge::oilPressure], m[Gauge::fuel], m[Gauge::power], m[Gauge::chargeTemperature], m[Gauge::height],
                m[Gauge::airspeed]);
        last = m.time;
    }
    if (plan::planJson(aircraft, sortie, made).empty() || plan::planCsv(made).empty() || plan::planText(made).empty())
        return "an export is empty";
    if (current.find("nan") == std::string::npos && plan::planText(made).find("nan") != std::string::npos)
        return "\"nan\" in the text";
    const auto& cockpit = aircraft.notes.cockpit;
    const auto again = readSortie(writeSortie(sortie, cockpit), "again.toml");
    if (!again.sortie)
        return "its own file is refused: " + again.problems.front().text();
    if (!everything)
        return {};
    // What the pages reckon besides.
    advice::groundBudget(aircraft, sortie, f, advice::GroundFrom{});
    for (const Phase p : {Phase::climb, Phase::cruise}) {
        advice::coolingPicture(aircraft, sortie, f, p);
        plan::compareDays(aircraft, sortie, f, p);
    }
    plan::climbPicture(aircraft, sortie, f);
    plan::cruisePicture(aircraft, sortie, f);
    advice::letDownWays(aircraft, sortie, f);
    advice::coolDown(aircraft, sortie, f);
    return {};
}

Sortie anyDay(const TypeNotes& notes, Random& r) {
    Sortie s = flight::plainSortie(notes);
    s.airframe.notes = "hostile.toml";
    s.day.oat = Temperature::si(228 + 90 * unit(r));
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 30 * unit(r));
    s.day.qnh = Pressure::si(86000 + 23000 * unit(r));
    s.day.elevation = s.flight.toElevation = Length::si(3500 * unit(r) - 200);
    s.flight.cruiseHeight = Length::si(s.day.elevation.si() + 300 + 9000 * unit(r));
    s.flight.distance = Distance::si(3e6 * unit(r) * unit(r));
    s.flight.hold = Duration::si(7200 * unit(r) * unit(r));
    return s;
}

std::string tryNotes(const std::string& text, Random& r, bool everything, std::size_t& planned) {
    const auto reading = readNotes(text, "hostile.toml");
    if (reading.notes.has_value() == !reading.problems.empty())
        return "neither notes nor a problem";
    for (const auto& p : reading.problems)
        if (p.what.empty())
            return "a problem without words";
    if (!reading.notes)
        return {};
    Problems problems;
    const auto aircraft = powerplant::assemble(*reading.notes, problems);
    if (!aircraft)
        return problems.empty() || problems.front().what.empty() ? "refused without a reason" : std::string{};
    const Sortie sortie = anyDay(aircraft->notes, r);
    if (!checkSortie(sortie, aircraft->notes, "").empty())
        return {};
    ++planned;
    for (const auto& p : cockpit::audit(aircraft->notes))
        if (p.what.empty() || p.remedy.empty())
            return "a finding without words";
    const auto made = plan::makePlan(*aircraft, sortie);
    for (const double share : {0.05, 0.4, 0.97})
        for (const auto& lever : plan::leversAt(*aircraft, sortie, made.flown, share * made.flown.totalTime()))
            for (const auto& place : lever.now)
                if (place.share && !(*place.share >= 0 && *place.share <= 1))
                    return "a lever beyond its travel: " + lever.id;
    return wrongWith(*aircraft, sortie, made, everything);
}

std::string trySortie(const std::string& text, const std::string& path, bool everything, std::size_t& planned) {
    const auto loaded = flight::loadSortieText(text, path);
    if (!loaded.ok())
        return loaded.problems.empty() ? "refused without a reason" : std::string{};
    ++planned;
    return wrongWith(*loaded.aircraft, *loaded.sortie, plan::makePlan(*loaded.aircraft, *loaded.sortie), everything);
}

/// What a kind of file is read by, and what is wrong with what came of it.
using Try = std::string (*)(const std::string& text);

const TypeNotes& lorimerNotes() {
    static const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/lorimer-spring.toml");
    return loaded.aircraft->notes;
}
std::string told(bool read, const Problems& problems) {
    for (const auto& p : problems)
        if (p.what.empty())
            return "a problem without words";
    return read || !problems.empty() ? std::string() : "neither read nor a problem";
}
std::string tryAirframe(const std::string& text) {
    const auto reading = readAirframe(text, "hostile.toml");
    return told(reading.facts.has_value(), reading.problems);
}
std::string trySetup(const std::string& text) {
    Problems problems;
    return told(rehearse::readSetup(text, "hostile.toml", lorimerNotes(), problems).has_value(), problems);
}
std::string tryActs(const std::string& text) {
    Problems problems;
    const auto acts = rehearse::readActs(text, "hostile.csv", lorimerNotes(), problems);
    if (acts)
        for (const auto& act : *acts)
            if (act.at < 0)
                return "an act before the beginning";
    return told(acts.has_value(), problems);
}
std::string tryScript(const std::string& text) {
    Problems problems;
    return told(powerplant::readScript(text, "hostile.csv", lorimerNotes(), problems).has_value(), problems);
}
std::string tryRecorder(const std::string& text) {
    Problems problems;
    const auto recording = record::readRecorder(text, "hostile.csv", lorimerNotes(), nullptr, problems);
    if (recording)
        for (const auto& piece : recording->pieces)
            for (std::size_t i = 0; i < piece.values.size(); ++i) {
                const auto* range = rangeOf(FileFormat::log, nameOf(recording->map.columns[i].gauge).key);
                for (const float v : piece.values[i])
                    if (std::isinf(v) ||
                        (range && !std::isnan(v) && !range->holds(v) && !range->holds(std::nextafter(v, 0.0F)) &&
                         !range->holds(std::nextafter(v, 2.0F * v))))
                        return fmt::format("a figure of {} that no such gauge shows: {}",
                                           recording->map.columns[i].heading, v);
            }
    return told(recording.has_value(), problems);
}
std::string tryLog(const std::string& text) {
    Problems problems;
    std::vector<record::TraceBlock> blocks;
    const auto log = record::readLogJson(text, "hostile.json", problems, &blocks);
    for (const auto& [id, run] : log.runs)
        if (auto wrong = record::wrongWith(run); !wrong.empty())
            return "taken in: " + wrong;
    for (const auto& [id, entry] : log.entries)
        if (auto wrong = record::wrongWith(entry); !wrong.empty())
            return "taken in: " + wrong;
    Problems again;
    if (record::readLogJson(record::logJson(log, blocks), "again.json", again).entries != log.entries || !again.empty())
        return "what was taken in does not come back";
    return {};
}
std::string tryMetar(const std::string& text) {
    const auto reading = air::readMetar(text);
    return reading || !reading.error().empty() ? std::string() : "refused without a reason";
}
} // namespace

int main(int argc, char** argv) {
    if (argc < 3) {
        fmt::print(stderr, "hostile-files SEED COUNT [OUT]\n");
        return 2;
    }
    const std::uint64_t seed = std::strtoull(argv[1], nullptr, 10);
    const long count = std::strtol(argv[2], nullptr, 10);
    if (argc > 3)
        out = argv[3];
    std::signal(SIGALRM, onAlarm);
    struct File {
        std::filesystem::path path;
        Try read; ///< null: notes or a sortie, which are planned
        bool sortie = false;
        std::string text;
    };
    std::vector<File> files;
    struct Folder {
        const char* name;
        Try read;
    };
    for (const auto& [folder, read] : std::initializer_list<Folder>{{"/notes", nullptr},
                                                                    {"/demo", nullptr},
                                                                    {"/airframes", tryAirframe},
                                                                    {"/rehearsals", trySetup},
                                                                    {"/scripts", tryScript},
                                                                    {"/../tests/fuzz/seeds/rehearsal", tryActs},
                                                                    {"/../tests/fuzz/seeds/recorder", tryRecorder},
                                                                    {"/../tests/fuzz/seeds/log", tryLog},
                                                                    {"/../tests/fuzz/seeds/metar", tryMetar}})
        for (const auto& entry : std::filesystem::directory_iterator(test::dataFolder() + folder))
            files.push_back({entry.path(), read, folder == std::string("/demo"), textOf(entry.path())});
    std::sort(files.begin(), files.end(), [](const File& a, const File& b) { return a.path < b.path; });
    std::size_t planned = 0;
    double longest = 0.0;
    for (long i = 0; i < count; ++i) {
        Random r(seed * 1000003 + static_cast<std::uint64_t>(i));
        const std::size_t k = below(r, files.size());
        current = files[k].text;
        for (std::size_t n = 1 + below(r, 3); n-- > 0;)
            spoil(current, r);
        ::alarm(60);
        const std::clock_t begin = std::clock();
        std::string wrong;
        try {
            wrong = files[k].read     ? files[k].read(current)
                    : files[k].sortie ? trySortie(current, files[k].path.string(), i % 8 == 0, planned)
                                      : tryNotes(current, r, i % 8 == 0, planned);
        } catch (const std::exception& error) {
            wrong = std::string("exception: ") + error.what();
        }
        const double took = static_cast<double>(std::clock() - begin) / CLOCKS_PER_SEC;
        longest = std::max(longest, took);
        if (wrong.empty() && took > slowest)
            wrong = fmt::format("takes {:.1f} s", took);
        if (!wrong.empty()) {
            keep();
            fmt::print("hostile-files: seed {}, file {} ({}): {}\nIt is kept in {}\n", seed, i,
                       files[k].path.filename().string(), wrong, out);
            return 1;
        }
    }
    fmt::print("{} files spoilt, {} still planned, longest {:.2f} s of processor\n", count, planned, longest);
    return 0;
}
