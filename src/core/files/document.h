// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

/// A TOML document as a plain tree that keeps the line of every value: what the readers of notes and sorties work on.
namespace amber::document {

struct Member;

struct Node {
    enum class Kind { table, array, text, number, boolean };
    Kind kind = Kind::table;
    int line = 0;
    std::string text;
    double number = 0.0;
    bool boolean = false;
    std::vector<Member> members; ///< of a table, in the order of the file
    std::vector<Node> items;     ///< of an array

    [[nodiscard]] const Node* find(std::string_view key) const;
    [[nodiscard]] Node* find(std::string_view key);
};

struct Member {
    std::string key;
    Node value;
};

/// "a table", "text", … for messages.
std::string_view nameOf(Node::Kind kind);

inline constexpr std::size_t largestFile = 4u << 20; ///< bytes; a longer file is refused unread

/// Parses TOML 1.0. Dates, NaN and infinity are problems: nothing here uses them. @return nothing when it does not
/// parse at all
std::optional<Node> parse(std::string_view text, const std::string& file, Problems& problems);

/// Lays `over` upon `base`: tables member by member; a table over an array of tables changes the element whose "key" or
/// "id" is the member's name; anything else replaces. Naming an element that is not there is a problem.
void overlay(Node& base, const Node& over, const std::string& file, Problems& problems);

/// Text as a TOML basic string.
std::string quoted(const std::string& text);

/// Reads a whole file. @return nothing, and a problem, when it is missing, unreadable, a folder or larger than
/// largestFile
std::optional<std::string> readFile(const std::string& path, Problems& problems, std::uintmax_t largest = largestFile);

} // namespace amber::document
