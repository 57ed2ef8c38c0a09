// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/open_files.h"
#include "files/document.h"
#include "flight/taught.h"
#include "loading/load_sheet.h"
#include "reading/notes_reader.h"
#include "sortie/airframe_file.h"
#include <algorithm>
#include <filesystem>

namespace amber::flight {

namespace {
LoadedAircraft assembled(NotesReading reading) {
    LoadedAircraft out;
    out.problems = std::move(reading.problems);
    if (!reading.notes)
        return out;
    if (auto aircraft = powerplant::assemble(std::move(*reading.notes), out.problems))
        out.aircraft = std::make_shared<const powerplant::Aircraft>(std::move(*aircraft));
    return out;
}
} // namespace

FileKind kindOf(const document::Node& root) {
    if (root.find("airframe"))
        return root.find("day") || root.find("flight") || root.find("load") ? FileKind::sortie : FileKind::airframe;
    return root.find("rehearsal") ? FileKind::setup : FileKind::notes;
}

LoadedAircraft loadAircraft(const std::string& notesPath, const std::string& variant) {
    return assembled(readNotesFile(notesPath, variant));
}

LoadedAircraft Shelf::aircraft(const std::string& notesPath, const std::string& variant) {
    LoadedAircraft out;
    auto text = document::readFile(notesPath, out.problems);
    if (!text)
        return out;
    std::erase_if(kept_, [](const Kept& k) { return k.aircraft.expired(); });
    const auto same = [&](const Kept& k) { return k.path == notesPath && k.variant == variant && k.text == *text; };
    if (const auto found = std::find_if(kept_.begin(), kept_.end(), same); found != kept_.end()) {
        out.aircraft = found->aircraft.lock();
        return out;
    }
    out = assembled(readNotes(*text, notesPath, variant));
    if (out.aircraft && out.problems.empty())
        kept_.push_back({notesPath, variant, std::move(*text), out.aircraft});
    return out;
}

std::string notesPathOf(const Sortie& sortie, const std::string& sortiePath) {
    const std::filesystem::path notes(sortie.airframe.notes);
    if (notes.is_absolute())
        return notes.string();
    return (std::filesystem::path(sortiePath).parent_path() / notes).lexically_normal().string();
}

LoadedSortie loadSortieText(std::string_view text, const std::string& path, Shelf* shelf) {
    LoadedSortie out;
    auto reading = readSortie(text, path);
    out.problems = std::move(reading.problems);
    if (!reading.sortie)
        return out;
    joinAirframe(*reading.sortie, path, out.problems);
    if (!out.problems.empty())
        return out;
    const std::string notes = notesPathOf(*reading.sortie, path);
    const std::string& variant = reading.sortie->airframe.variant;
    auto loaded = shelf ? shelf->aircraft(notes, variant) : loadAircraft(notes, variant);
    out.problems.insert(out.problems.end(), loaded.problems.begin(), loaded.problems.end());
    if (!loaded.aircraft)
        return out;
    const auto misfits = checkSortie(*reading.sortie, loaded.aircraft->notes, path);
    out.problems.insert(out.problems.end(), misfits.begin(), misfits.end());
    if (misfits.empty()) {
        if (!reading.sortie->load.weightTyped)
            reading.sortie->weight = loading::rampWeight(loaded.aircraft->notes, *reading.sortie);
        out.sortie = std::move(reading.sortie);
        out.aircraft = taught(std::move(loaded.aircraft), *out.sortie);
    }
    return out;
}

LoadedSortie loadSortie(const std::string& path) {
    LoadedSortie out;
    const auto text = document::readFile(path, out.problems);
    if (!text)
        return out;
    return loadSortieText(*text, path);
}

Sortie plainSortie(const TypeNotes& notes) {
    Sortie s;
    s.title = "New sortie";
    s.airframe.variant = notes.variant;
    s.day = air::standardDay(Length{});
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 5.0);
    s.day.field = "Field";
    s.fuelGrade = notes.fuel.grades.front();
    s.weight = Mass::si(std::clamp(0.5 * (notes.speeds.lightWeight.si() + notes.speeds.heavyWeight.si()),
                                   notes.emptyWeight.si(), notes.maxWeight.si()));
    s.flight.to = "Field";
    s.flight.cruiseHeight = Length::of(5000, units::foot);
    s.flight.distance = Distance::of(100, units::nauticalMile);
    return s;
}

} // namespace amber::flight
