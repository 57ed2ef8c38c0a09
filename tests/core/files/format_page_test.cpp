// SPDX-License-Identifier: GPL-3.0-or-later
// docs/formats/type-notes.md against the reader: every key it lists is read, every key of the shipped files is listed,
// and its examples hold nothing that the reader does not know.
#include "reading/notes_reader.h"
#include "test_data.h"
#include <filesystem>
#include <map>
#include <regex>
#include <set>
#include <sstream>

namespace {
using namespace amber;

std::string page() {
    return test::fileText(test::dataPath("../docs/formats/type-notes.md"));
}

/// Section of a header in the page or a file: "[limits.oil.climb]" and "[limits.G.PHASE]" → "limits.G.PHASE".
std::string general(std::string section) {
    static const std::set<std::string> phases{"walk-round", "start",  "warm-up",  "run-up",  "take-off",
                                              "climb",      "cruise", "let-down", "landing", "stop"};
    std::vector<std::string> parts;
    std::stringstream in(section);
    for (std::string part; std::getline(in, part, '.');)
        parts.push_back(part);
    if (phases.contains(parts[0]))
        parts[0] = "PHASE";
    if (parts[0] == "limits" && parts.size() > 1)
        parts[1] = "G";
    if (parts[0] == "limits" && parts.size() > 2)
        parts[2] = "PHASE";
    std::string out;
    for (const auto& part : parts)
        out += (out.empty() ? "" : ".") + part;
    return out;
}

/// Keys by section, as the page's first table lists them.
std::map<std::string, std::set<std::string>> listed() {
    std::map<std::string, std::set<std::string>> out;
    std::istringstream in(page());
    static const std::regex row(R"re(^\| `\[+([a-zA-Z_.-]+)\]+` \| (.*) \|$)re"), braces(R"re(\([^()]*\))re"),
        inner(R"re(`\[+([a-zA-Z_.-]+)\]+`)re"), key(R"re(^\s*([a-z][a-z_0-9]*)(\s*=.*)?\s*$)re");
    for (std::string line; std::getline(in, line);) {
        std::smatch m;
        if (!std::regex_match(line, m, row))
            continue;
        std::string section = general(m[1]);
        std::string text = m[2];
        text = std::regex_replace(text, braces, "");
        text = std::regex_replace(text, inner, ",@$1,");
        text = std::regex_replace(text, std::regex(R"re(= \[.*\])re"), "=");
        text = std::regex_replace(text, std::regex(";"), ",^,"); // back to the row's own table
        text = std::regex_replace(text, std::regex(" or | and |:"), ",");
        std::stringstream tokens(text);
        for (std::string token; std::getline(tokens, token, ',');) {
            std::smatch k;
            if (token == "^")
                section = general(m[1]);
            else if (!token.empty() && token[0] == '@')
                section = general(token.substr(1));
            else if (std::regex_match(token, k, key))
                out[section].insert(k[1]);
            else if (const auto at = token.find_first_not_of(' '); at != std::string::npos)
                out[section + " "].insert(
                    token.substr(at, token.find_first_of(" =", at) - at)); // in a list or a phrase
        }
    }
    return out;
}

struct Header {
    std::string file, section;
    std::size_t after = 0; ///< offset of the line behind it
    std::set<std::string> keys;
};
std::vector<Header> headers() {
    std::vector<Header> out;
    static const std::regex header(R"re(^\[+([a-zA-Z0-9_.-]+)\]+\s*(#.*)?$)re"),
        assigned(R"re(^([a-zA-Z_0-9-]+) = .*)re");
    for (const auto& entry : std::filesystem::directory_iterator(test::dataPath("notes"))) {
        const auto text = test::fileText(entry.path());
        std::size_t at = 0;
        std::istringstream in(text);
        for (std::string line; std::getline(in, line);) {
            at += line.size() + 1;
            std::smatch m;
            if (std::regex_match(line, m, header))
                out.push_back({entry.path().string(), m[1], at, {}});
            else if (!out.empty() && out.back().file == entry.path().string() && std::regex_match(line, m, assigned))
                out.back().keys.insert(m[1]);
        }
    }
    return out;
}

TEST(FormatPage, EveryKeyThatItListsIsRead) {
    const auto all = headers();
    const auto keys = listed();
    int tried = 0, sections = 0;
    for (const auto& entry : keys) {
        const auto& section = entry.first;
        const auto& names = entry.second;
        if (section.ends_with(' '))
            continue;
        const auto where =
            std::find_if(all.begin(), all.end(), [&](const Header& h) { return general(h.section) == section; });
        if (where == all.end())
            continue; // written inside another table everywhere
        ++sections;
        const auto text = test::fileText(where->file);
        for (const auto& name : names) {
            if (where->keys.contains(name))
                continue; // the file is in order as it is
            auto more = text;
            more.insert(where->after, name + " = 1\n");
            for (const auto& p : readNotes(more, "t.toml").problems)
                EXPECT_FALSE(p.what.find("." + name + " is not a key") != std::string::npos)
                    << "[" << where->section << "] " << name << " is listed and not read: " << p.text();
            ++tried;
        }
    }
    EXPECT_GT(sections, 25);
    EXPECT_GT(tried, 30);
}

TEST(FormatPage, EveryKeyOfTheShippedFilesIsListed) {
    const auto text = page();
    const auto keys = listed();
    std::set<std::string> missing;
    for (const auto& h : headers()) {
        const auto section = general(h.section);
        if (section.starts_with("variant") || section.starts_with("run_up_sheet"))
            continue; // laid over the others; its own example below the table
        for (const auto& key : h.keys) {
            const auto has = [&](const std::string& s) { return keys.contains(s) && keys.at(s).contains(key); };
            if (!has(section) && !has(section + " ") && !has("PHASE") && text.find(key) == std::string::npos)
                missing.insert("[" + section + "] " + key);
        }
    }
    for (const auto& m : missing)
        ADD_FAILURE() << m << " stands in a file and not on the page";
    EXPECT_GT(keys.size(), 30u);
}

TEST(FormatPage, ItsExamplesHoldOnlyKeysThatAreRead) {
    // Indented blocks with a header are whole tables; the items of a walk-round go into a station.
    std::string blocks, items;
    std::istringstream in(page());
    for (std::string line; std::getline(in, line);) {
        if (line.starts_with("    {"))
            items +=
                line.substr(4, line.find("#") == std::string::npos ? std::string::npos : line.find("#") - 4) + ",\n";
        else if (line.starts_with("    "))
            blocks += line.substr(4) + "\n";
    }
    ASSERT_NE(blocks.find("[run_up_sheet.magnetos]"), std::string::npos);
    ASSERT_NE(items.find("gauge ="), std::string::npos);
    const auto unknown = [](const std::string& text) {
        std::string out;
        for (const auto& p : readNotes(text, "t.toml").problems)
            if (p.what.find("is not a key") != std::string::npos ||
                p.what.find("cannot be read") != std::string::npos || p.what.find("TOML") != std::string::npos)
                out += p.text() + "\n";
        return out;
    };
    EXPECT_EQ(unknown("format = 2\n" + blocks), "");
    EXPECT_EQ(unknown("format = 1\n[[walk.station]]\nid = \"a\"\nname = \"A\"\naft = 1\nstarboard = 1\nitem = [\n" +
                      items + "]\n"),
              "");
    EXPECT_NE(unknown("format = 1\n[run_up_sheet]\nhigh_power_fro = 1900\n"), "") << "the test itself can tell";
}
} // namespace
