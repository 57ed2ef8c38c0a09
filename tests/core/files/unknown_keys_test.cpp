// SPDX-License-Identifier: GPL-3.0-or-later
// No table of any file takes a key that it does not know: a slip of the pen is told, not passed over.
#include "reading/notes_reader.h"
#include "sortie/airframe_file.h"
#include "sortie/sortie.h"
#include "test_data.h"
#include <algorithm>
#include <filesystem>
#include <regex>
#include <set>

namespace amber {
namespace {

std::vector<std::string> tomlIn(const std::string& folder) {
    std::vector<std::string> out;
    for (const auto& entry : std::filesystem::directory_iterator(test::dataPath(folder)))
        if (entry.path().extension() == ".toml")
            out.push_back(entry.path().string());
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<std::string> linesOf(const std::string& file) {
    std::istringstream in(test::fileText(file));
    std::vector<std::string> lines;
    for (std::string line; std::getline(in, line);)
        lines.push_back(line);
    return lines;
}

const std::regex header(R"(^\[\[?([a-z_.-]+)\]\]?\s*(#.*)?$)");

/// Each table written in one line, the first of its key under its header, with a key of nobody's in it; says whether
/// the reader told it on its line.
template <class Read>
std::size_t eachInline(const std::vector<std::string>& files, Read&& read) {
    std::set<std::string> seen;
    const std::regex table(R"(^\s*([a-z_-]+) = \[?\s*\{.*)");
    for (const auto& file : files) {
        const auto lines = linesOf(file);
        const std::regex list(R"(^\s*([a-z_-]+) = \[\s*$)"), member(R"(^\s*\{.*)");
        std::string under, of;
        std::set<std::size_t> spoilt;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            std::smatch m;
            if (std::regex_match(lines[i], m, header))
                under = m[1];
            if (std::regex_match(lines[i], m, list))
                of = m[1];
            const bool one = std::regex_match(lines[i], member), own = !one && std::regex_match(lines[i], m, table);
            if ((!one && !own) || !seen.insert(under + "." + (one ? of : std::string(m[1]))).second)
                continue;
            spoilt.insert(i);
        }
        // All of a file's at once: each is told on its own line.
        std::string text;
        for (std::size_t k = 0; k < lines.size(); ++k) {
            std::string line = lines[k];
            if (spoilt.contains(k))
                line.insert(line.find('{') + 1, " nonsense = 1,");
            text += line + "\n";
        }
        if (spoilt.empty())
            continue;
        const Problems problems = read(text, file);
        for (const std::size_t i : spoilt)
            EXPECT_TRUE(std::any_of(problems.begin(), problems.end(),
                                    [&](const Problem& p) { return p.line == static_cast<int>(i) + 1; }))
                << file << ":" << i + 1 << ": " << lines[i] << " takes it";
    }
    return seen.size();
}

/// Each header that no earlier file had, with a key of nobody's under it; says whether the reader told it on its line.
template <class Read>
std::size_t eachHeader(const std::vector<std::string>& files, Read&& read) {
    std::set<std::string> seen;
    for (const auto& file : files) {
        const auto lines = linesOf(file);
        std::set<std::size_t> spoilt;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            std::smatch m;
            if (std::regex_match(lines[i], m, header) && seen.insert(m[1]).second)
                spoilt.insert(i);
        }
        if (spoilt.empty())
            continue;
        std::string text;
        std::vector<std::pair<std::size_t, int>> nonsense; // line of the header, line of what stands under it
        int line = 0;
        for (std::size_t k = 0; k < lines.size(); ++k) {
            text += lines[k] + "\n";
            ++line;
            if (spoilt.contains(k)) {
                text += "nonsense = 1\n";
                nonsense.emplace_back(k, ++line);
            }
        }
        const Problems problems = read(text, file);
        for (const auto& [i, at] : nonsense)
            EXPECT_TRUE(std::any_of(
                problems.begin(), problems.end(),
                [at = at](const Problem& p) { return p.line == at && p.text().find("nonsense") != std::string::npos; }))
                << file << ": " << lines[i] << (problems.empty() ? " takes it" : ": " + problems.front().text());
    }
    return seen.size();
}

TEST(UnknownKeys, NoTableOfNotesTakesOne) {
    auto files = tomlIn("notes");
    const auto old = tomlIn("../tests/fixtures/format1");
    files.insert(files.end(), old.begin(), old.end());
    const std::regex variant("\\[\\[variant\\]\\]\\s+id = \"([^\"]+)\"");
    const auto told = [&](const std::string& text, const std::string& file) {
        Problems all = readNotes(text, file).problems;
        // What a variant changes is read with it, as `check` does for each.
        for (std::sregex_iterator v(text.begin(), text.end(), variant), end; v != end; ++v) {
            const Problems more = readNotes(text, file, (*v)[1]).problems;
            all.insert(all.end(), more.begin(), more.end());
        }
        return all;
    };
    EXPECT_GT(eachHeader(files, told), 40u);
    EXPECT_GT(eachInline(files, told), 20u);
}

TEST(UnknownKeys, NoTableOfASortieTakesOne) {
    const auto headers = eachHeader(tomlIn("demo"), [](const std::string& text, const std::string& file) {
        return readSortie(text, file).problems;
    });
    EXPECT_GT(headers, 8u);
}

TEST(UnknownKeys, NorOneThatNoDemoHas) {
    const std::string path = test::dataPath("demo/lorimer-spring.toml"), text = test::fileText(path);
    for (const char* table : {"fuel", "field", "start", "walk_round", "run_up", "stop"}) {
        if (text.find("[" + std::string(table) + "]") != std::string::npos)
            continue;
        const auto told = [&](const std::string& key) {
            const auto problems = readSortie(text + "\n[" + table + "]\n" + key, path).problems;
            return std::any_of(problems.begin(), problems.end(),
                               [](const Problem& p) { return p.text().find("nonsense") != std::string::npos; });
        };
        EXPECT_FALSE(told("")) << table;
        EXPECT_TRUE(told("nonsense = 1\n")) << table;
    }
}

TEST(UnknownKeys, DewPointOverTheAirIsRefusedButForItsRounding) {
    const auto& l = test::loaded("lorimer-spring");
    Sortie s = *l.sortie;
    s.day.dewPoint = Temperature::si(s.day.oat.si() + 0.45);
    EXPECT_TRUE(checkSortie(s, l.aircraft->notes, "").empty());
    s.day.dewPoint = Temperature::si(s.day.oat.si() + 0.55);
    EXPECT_FALSE(checkSortie(s, l.aircraft->notes, "").empty());
}

TEST(UnknownKeys, NoFileTakesOneBeforeItsFirstTable) {
    const auto told = [](const Problems& problems) {
        return std::any_of(problems.begin(), problems.end(),
                           [](const Problem& p) { return p.text().find("nonsense") != std::string::npos; });
    };
    const std::string slip = "nonsense = 1\n";
    EXPECT_TRUE(told(readNotes(slip + test::fileText(test::dataPath("notes/lorimer-l4.toml")), "n.toml").problems));
    EXPECT_TRUE(told(readSortie(slip + test::fileText(test::dataPath("demo/lorimer-spring.toml")), "s.toml").problems));
    EXPECT_TRUE(told(readAirframe(slip + "name = \"A\"\n", "a.toml").problems));
}

} // namespace
} // namespace amber
