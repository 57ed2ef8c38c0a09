// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/taken_in.h"
#include "files/document.h"
#include "record/log_text.h"
#include "units/text.h"
#include <filesystem>
#include <fmt/format.h>

namespace amber::app {
namespace {
constexpr std::uintmax_t mostOfRecorder = 500'000'000; // bytes
}

TakenIn takeInRecorder(const std::string& path, const record::RunFlown& flown, const plan::Plan& plan,
                       const record::Run& run, const std::vector<record::Standing>& standing) {
    TakenIn out;
    out.run = run;
    const auto text = document::readFile(path, out.problems, mostOfRecorder);
    if (!text)
        return out;
    const auto& notes = flown.aircraft->notes;
    out.recording = record::readRecorder(*text, path, notes, flown.sortie.airframe.facts.get(), out.problems);
    if (!out.recording)
        return out;
    const std::string source = std::filesystem::path(path).filename().string();
    out.blocks = record::blocksOf(*out.recording, run.id, source, run.began);
    const auto trace = record::traceOf(out.blocks, notes);
    out.anchors = record::anchorsOf(trace, notes, standing, run.began);
    out.entries = record::entriesOf(trace, out.anchors, notes, &plan, run.id, source);
    return out;
}

std::vector<ToldLine> toldOf(const TakenIn& taken, const TypeNotes& n) {
    std::vector<ToldLine> out;
    if (!taken.recording)
        return out;
    for (const auto& c : taken.recording->map.columns) {
        const auto engine = record::engineName(n, c.engine);
        out.push_back({c.heading, fmt::format("{}{}{}, in {}{}", nameOf(c.gauge).title, engine.empty() ? "" : ", ",
                                              engine, c.unit, c.byName ? "  (by its name)" : "")});
    }
    std::string unknown;
    for (const auto& heading : taken.recording->map.unknown)
        unknown += (unknown.empty() ? "" : ", ") + heading;
    if (!unknown.empty())
        out.push_back({"Not taken", unknown});
    for (const auto& line : taken.recording->told)
        out.push_back({{}, line});
    const auto moment = [&](std::string_view what, const std::string& id, const std::optional<std::int64_t>& at) {
        const auto engine = record::engineName(n, id);
        out.push_back({fmt::format("{}{}{}", what, engine.empty() ? "" : ", ", engine),
                       at ? fmt::format("{} UTC, {} into the run", record::timeText(*at),
                                        formatMinutesSeconds(static_cast<double>(*at - taken.run.began) / 1000.0))
                          : std::string("not found")});
    };
    for (const auto& row : record::momentRows)
        if (row.found && row.at)
            moment(row.name(), {}, taken.anchors.*row.at);
        else if (row.found)
            for (std::size_t e = 0; e < n.positions.size() && e < (taken.anchors.*row.each).size(); ++e)
                moment(row.name(), n.positions[e].id, (taken.anchors.*row.each)[e]);
    out.push_back({{}, fmt::format("{} lines, {} readings of them", taken.recording->lines, taken.entries.size())});
    return out;
}

} // namespace amber::app
