// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/run_of.h"
#include "flight/open_files.h"
#include "sortie/airframe_file.h"
#include <filesystem>

namespace amber::record {

Run runOf(const Sortie& sortie, const std::string& sortiePath, const TypeNotes& notes, std::string id,
          std::int64_t began) {
    Run out;
    out.id = std::move(id);
    out.airframe = sortie.airframe.registration;
    out.type = notes.name;
    out.title = sortie.title;
    out.began = began;
    Sortie whole = sortie;
    const auto full = [](const std::string& path) {
        return std::filesystem::absolute(path).lexically_normal().string();
    };
    if (!whole.airframe.file.empty())
        whole.airframe.file = full(airframePathOf(whole, sortiePath));
    else
        whole.airframe.notes = full(flight::notesPathOf(whole, sortiePath));
    out.sortie = writeSortie(whole, notes.cockpit);
    return out;
}

} // namespace amber::record
