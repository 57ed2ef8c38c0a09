// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/taken_in.h"
#include "files/document.h"
#include <filesystem>

namespace amber::app {
namespace {
constexpr std::uintmax_t mostOfRecorder = 500'000'000; // bytes
}

TakenIn takeInRecorder(const std::string& path, const record::RunFlown& flown, const plan::Plan& plan,
                       const record::Run& run, const std::vector<record::Standing>& standing) {
    TakenIn out;
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

} // namespace amber::app
