// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/document.h"
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sstream>
#define TOML_EXCEPTIONS 0
#include <toml++/toml.h>

namespace amber::document {

const Node* Node::find(std::string_view key) const {
    for (const auto& [name, node] : members)
        if (name == key)
            return &node;
    return nullptr;
}

Node* Node::find(std::string_view key) {
    return const_cast<Node*>(std::as_const(*this).find(key));
}

std::string_view nameOf(Node::Kind kind) {
    switch (kind) {
    case Node::Kind::table:
        return "a table";
    case Node::Kind::array:
        return "a list";
    case Node::Kind::text:
        return "text";
    case Node::Kind::number:
        return "a number";
    case Node::Kind::boolean:
        return "true or false";
    }
    return "";
}

namespace {
Node convert(const toml::node& from, int line, const std::string& file, Problems& problems) {
    Node out;
    out.line = from.source().begin.line ? static_cast<int>(from.source().begin.line) : line;
    if (const auto* table = from.as_table()) {
        for (const auto& [key, value] : *table)
            out.members.push_back(
                {std::string(key.str()), convert(value, static_cast<int>(key.source().begin.line), file, problems)});
        // toml++ sorts the keys; people want to see what they wrote in the order they wrote it.
        std::stable_sort(out.members.begin(), out.members.end(),
                         [](const auto& a, const auto& b) { return a.value.line < b.value.line; });
    } else if (const auto* array = from.as_array()) {
        out.kind = Node::Kind::array;
        for (const auto& item : *array)
            out.items.push_back(convert(item, out.line, file, problems));
    } else if (const auto* text = from.as_string()) {
        out.kind = Node::Kind::text;
        out.text = text->get();
    } else if (const auto* integer = from.as_integer()) {
        out.kind = Node::Kind::number;
        out.number = static_cast<double>(integer->get());
    } else if (const auto* number = from.as_floating_point()) {
        out.kind = Node::Kind::number;
        out.number = number->get();
        if (!std::isfinite(out.number)) {
            problems.push_back(
                {file, out.line, "nan and inf are not figures", "Write the number, or leave the line out"});
            out.number = 0.0;
        }
    } else if (const auto* flag = from.as_boolean()) {
        out.kind = Node::Kind::boolean;
        out.boolean = flag->get();
    } else {
        problems.push_back({file, out.line, "a date or time is not used here", "Put it in quotes or leave it out"});
        out.kind = Node::Kind::text;
    }
    return out;
}

std::string idOf(const Node& table) {
    for (const char* name : {"key", "id"})
        if (const Node* id = table.find(name); id && id->kind == Node::Kind::text)
            return id->text;
    return {};
}
} // namespace

namespace {
/// Whether a key begins here: what toml++ takes for granted after the bracket of a table header.
bool keyBegins(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c == '-' ||
           c == '"' || c == '\'';
}

/// Whether the table header that begins at `i` ("[" or "[[") has a key, or the closing bracket that toml++ itself
/// refuses.
bool headerIsSound(std::string_view text, std::size_t i) {
    const auto skip = [&] {
        while (i < text.size() && (text[i] == ' ' || text[i] == '\t'))
            ++i;
    };
    ++i;
    if (i < text.size() && text[i] == '[')
        ++i;
    skip();
    return i >= text.size() || text[i] == ']' || keyBegins(text[i]);
}

constexpr std::size_t deepest =
    24; ///< brackets in brackets, or names joined by points: no file of ours needs half of it

/// Line of the first thing outside quotes and comments that TOML 1.0 does not allow and that toml++ 3.3 has undefined
/// behaviour on, so that it never reaches it: a letter that is not ASCII (its whitespace tables), a quote in the middle
/// of a word, a table header without a key, a list closed by a brace, and what nests so deep that reading it would
/// exhaust the stack. 0 if there is none.
int lineOfStrayCharacter(std::string_view text) {
    enum class In { bare, comment, basic, literal, longBasic, longLiteral } in = In::bare;
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    int line = 1;
    std::string open;       // brackets in a value that are not closed yet
    std::size_t joined = 0; // names joined by points so far
    bool value = false;     // past the = of this line, or inside brackets
    bool begins = true;     // nothing but space on this line yet
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        const auto three = [&](const char* quotes) { return text.substr(i, 3) == quotes; };
        if (c == '\n') {
            ++line;
            if (in == In::comment || in == In::basic || in == In::literal)
                in = In::bare;
            if (in == In::bare && open.empty())
                value = false;
            begins = true;
            joined = 0;
            continue;
        }
        switch (in) {
        case In::bare:
            if (static_cast<unsigned char>(c) >= 0x80)
                return line;
            if (c == '[' && begins && !value && !headerIsSound(text, i))
                return line;
            if (c == '=')
                value = true;
            if (value && (c == '[' || c == '{')) {
                open += c;
                if (open.size() > deepest)
                    return line;
            }
            if (c == '.' && ++joined > deepest)
                return line;
            if (c == '=' || c == ',' || c == '{' || c == '[')
                joined = 0;
            if (value && (c == ']' || c == '}') && !open.empty()) {
                if (open.back() != (c == ']' ? '[' : '{'))
                    return line;
                open.pop_back();
            }
            if (c != ' ' && c != '\t' && c != '\r')
                begins = false;
            if (c == '#') {
                in = In::comment;
            } else if (c == '"' || c == '\'') {
                if (i > 0 && std::string_view(" \t\r\n=,.[{").find(text[i - 1]) == std::string_view::npos)
                    return line;
                const bool isLong = three(c == '"' ? R"(""")" : "'''");
                in = c == '"' ? (isLong ? In::longBasic : In::basic) : (isLong ? In::longLiteral : In::literal);
                i += isLong ? 2 : 0;
            }
            break;
        case In::comment:
            break;
        case In::basic:
        case In::longBasic:
            if (c == '\\' && i + 1 < text.size() && text[i + 1] != '\n') {
                ++i;
            } else if (in == In::basic ? c == '"' : three(R"(""")")) {
                i += in == In::longBasic ? 2 : 0;
                in = In::bare;
            }
            break;
        case In::literal:
        case In::longLiteral:
            if (in == In::literal ? c == '\'' : three("'''")) {
                i += in == In::longLiteral ? 2 : 0;
                in = In::bare;
            }
            break;
        }
    }
    return 0;
}
} // namespace

std::optional<Node> parse(std::string_view text, const std::string& file, Problems& problems) {
    if (const int stray = lineOfStrayCharacter(text)) {
        problems.push_back(
            {file, stray,
             "a quote, a letter that is not plain ASCII, one bracket too many or the wrong one stands where none may",
             "Put the whole text in one pair of quotes, and nest nothing deeper than the format does"});
        return std::nullopt;
    }
    const auto result = toml::parse(text, std::string_view(file));
    if (!result) {
        const auto& error = result.error();
        problems.push_back({file, static_cast<int>(error.source().begin.line), std::string(error.description()),
                            "Correct this line first; what follows it has not been read"});
        return std::nullopt;
    }
    return convert(result.table(), 1, file, problems);
}

void overlay(Node& base, const Node& over, const std::string& file, Problems& problems) {
    for (const auto& [key, value] : over.members) {
        Node* mine = base.find(key);
        if (!mine) {
            base.members.push_back({key, value});
        } else if (mine->kind == Node::Kind::table && value.kind == Node::Kind::table) {
            overlay(*mine, value, file, problems);
        } else if (mine->kind == Node::Kind::array && value.kind == Node::Kind::table) {
            for (const auto& [name, change] : value.members) {
                const std::string& wanted = name;
                const auto found = std::find_if(mine->items.begin(), mine->items.end(),
                                                [&](const Node& item) { return idOf(item) == wanted; });
                if (found == mine->items.end())
                    problems.push_back({file, change.line,
                                        "the variant changes " + key + "." + name + ", which the type does not have",
                                        "Use the key or id of one that stands above"});
                else if (change.kind == Node::Kind::table)
                    overlay(*found, change, file, problems);
                else
                    *found = change;
            }
        } else {
            *mine = value;
        }
    }
}

std::optional<std::string> readFile(const std::string& path, Problems& problems, std::uintmax_t largest) {
    std::error_code error;
    const auto status = std::filesystem::status(path, error);
    if (error || !std::filesystem::exists(status)) {
        problems.push_back({path, 0, "there is no such file", "Check the name and the folder"});
        return std::nullopt;
    }
    if (!std::filesystem::is_regular_file(status)) {
        problems.push_back({path, 0, "this is not a file that can be read", "Name a TOML file"});
        return std::nullopt;
    }
    const auto size = std::filesystem::file_size(path, error);
    if (error || size > largest) {
        problems.push_back({path, 0, "the file is larger than " + std::to_string(largest >> 20) + " MiB",
                            "Notes and sorties are small text files; this is something else"});
        return std::nullopt;
    }
    std::ifstream in(path, std::ios::binary);
    std::ostringstream text;
    text << in.rdbuf();
    if (!in) {
        problems.push_back({path, 0, "the file could not be read", "Check that you may read it"});
        return std::nullopt;
    }
    return text.str();
}

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        const auto u = static_cast<unsigned char>(c);
        if (c == '"' || c == '\\')
            (out += '\\') += c;
        else if (u < 0x20 || u == 0x7f)
            out += fmt::format("\\u{:04x}", u);
        else
            out += c;
    }
    return out + "\"";
}

} // namespace amber::document
