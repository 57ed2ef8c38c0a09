// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "data_folder.h"
#include "flight/open_files.h"
#include <fstream>
#include <gtest/gtest.h>
#include <map>
#include <sstream>
#include <stdexcept>
#include <string>

namespace amber::test {

inline std::string dataPath(const std::string& name) {
    return dataFolder() + "/" + name;
}

inline std::string fileText(const std::string& path) {
    std::ifstream in(path);
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

/// A demo loaded once for the whole run.
inline const flight::LoadedSortie& loaded(const std::string& name) {
    static std::map<std::string, flight::LoadedSortie> all;
    auto found = all.find(name);
    if (found == all.end()) {
        found = all.emplace(name, flight::loadSortie(dataPath("demo/" + name + ".toml"))).first;
        const auto& l = found->second;
        EXPECT_TRUE(l.ok()) << (l.problems.empty() ? name : l.problems.front().text());
    }
    return found->second;
}

/// A copy of it, to change.
inline flight::LoadedSortie loadDemo(const std::string& name) {
    return loaded(name);
}

/// The two demos most used, by their aircraft; any other name is a slip of the test.
inline const flight::LoadedSortie& demo(const std::string& name) {
    if (name != "lorimer" && name != "farrier")
        throw std::invalid_argument("no such demo: " + name);
    return loaded(name == "lorimer" ? "lorimer-spring" : "farrier-summer");
}

inline const powerplant::Aircraft& lorimer() {
    return *demo("lorimer").aircraft;
}
inline const powerplant::Aircraft& farrier() {
    return *demo("farrier").aircraft;
}

inline const std::vector<std::string>& demoNames() {
    static const std::vector<std::string> names{
        "lorimer-spring", "farrier-summer", "mercer-frost",       "ostler-bush",   "tanner-winter", "thatcher-lesson",
        "tinker-damp",    "collier-high",   "wheelwright-height", "sexton-meadow", "chandler-haven"};
    return names;
}

/// Text with one piece replaced; the piece must be there.
inline std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << "not in the text: " << from;
    return at == std::string::npos ? text : text.replace(at, from.size(), to);
}

} // namespace amber::test
