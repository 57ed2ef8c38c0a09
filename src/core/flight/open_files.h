// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/document.h"
#include "powerplant/aircraft.h"
#include "sortie/sortie.h"
#include <memory>
#include <string>
#include <vector>

namespace amber::flight {

/// What kind of file of ours a document is, by its tables.
enum class FileKind { notes, sortie, airframe, setup };
FileKind kindOf(const document::Node& root);

struct LoadedAircraft {
    std::shared_ptr<const powerplant::Aircraft> aircraft; ///< null when there are problems
    Problems problems;
};
struct LoadedSortie {
    std::optional<Sortie> sortie;
    std::shared_ptr<const powerplant::Aircraft> aircraft;
    Problems problems;
    [[nodiscard]] bool ok() const { return sortie && aircraft; }
};

/// Notes read, checked and with their models settled.
LoadedAircraft loadAircraft(const std::string& notesPath, const std::string& variant);
/// Aircraft that have been read and that somebody still holds: the same file in the same words is the same aircraft,
/// and is not read twice. It keeps none alive.
class Shelf {
public:
    LoadedAircraft aircraft(const std::string& notesPath, const std::string& variant);

private:
    struct Kept {
        std::string path, variant, text;
        std::weak_ptr<const powerplant::Aircraft> aircraft;
    };
    std::vector<Kept> kept_;
};
/// Path of a sortie's notes: as written when absolute, else from the sortie's own folder.
std::string notesPathOf(const Sortie& sortie, const std::string& sortiePath);
/// A sortie with its notes, ready to plan; or every problem found on the way.
LoadedSortie loadSortie(const std::string& path);
/// The same from text that stands for the file at `path`.
/// @param shelf where its aircraft may be already
LoadedSortie loadSortieText(std::string_view text, const std::string& path, Shelf* shelf = nullptr);

/// A sortie to begin with: standard day at sea level, full tanks, the best grade, a middling weight.
Sortie plainSortie(const TypeNotes& notes);

} // namespace amber::flight
