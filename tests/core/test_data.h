// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/loading.h"
#include <fstream>
#include <gtest/gtest.h>
#include <sstream>
#include <string>

namespace amber::test {

inline std::string dataPath(const std::string& name) {
    return std::string(AMBER_SOURCE_DATA) + "/" + name;
}

inline std::string fileText(const std::string& path) {
    std::ifstream in(path);
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

/// A demo sortie with its aircraft; loaded once, copied freely.
inline const plan::LoadedSortie& demo(const std::string& name) {
    static const plan::LoadedSortie lorimer = plan::loadSortie(dataPath("demo/lorimer-spring.toml"));
    static const plan::LoadedSortie farrier = plan::loadSortie(dataPath("demo/farrier-summer.toml"));
    const auto& chosen = name == "lorimer" ? lorimer : farrier;
    EXPECT_TRUE(chosen.ok());
    return chosen;
}

/// Text with one piece replaced; the piece must be there.
inline std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << "not in the text: " << from;
    return at == std::string::npos ? text : text.replace(at, from.size(), to);
}

} // namespace amber::test
