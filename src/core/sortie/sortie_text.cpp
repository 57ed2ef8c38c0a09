// SPDX-License-Identifier: GPL-3.0-or-later
#include "sortie/sortie_text.h"
#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <set>
#include <vector>

namespace amber {
namespace {
constexpr char joint = '\x1f'; // between the names of a path: no file can hold it

/// Names joined by points, as in a header or before an equals sign; nothing when it is not that.
std::optional<std::string> pathOf(std::string_view text) {
    std::string out, name;
    bool any = false;
    const auto put = [&] {
        if (!out.empty())
            out += joint;
        out += name;
        name.clear();
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == ' ' || c == '\t')
            continue;
        if (c == '.') {
            if (!any)
                return std::nullopt;
            put();
            any = false;
        } else if (c == '"' || c == '\'') {
            const auto end = text.find(c, i + 1);
            if (any || end == std::string_view::npos || text.substr(i, end - i).find('\\') != std::string_view::npos)
                return std::nullopt;
            name = std::string(text.substr(i + 1, end - i - 1));
            any = true;
            i = end;
        } else {
            name += c;
            any = true;
        }
    }
    if (!any)
        return std::nullopt;
    put();
    return out;
}

/// Where a value ends that begins at `from`: before the comment and the space ahead of it; nothing when it does not end
/// on this line.
std::optional<std::size_t> endOfValue(std::string_view line, std::size_t from) {
    int depth = 0;
    std::size_t end = from;
    for (std::size_t i = from; i < line.size(); ++i) {
        const char c = line[i];
        if (c == '#')
            break;
        if (c == '"' || c == '\'') {
            if (line.substr(i, 3) == std::string(3, c))
                return std::nullopt;
            ++i;
            while (i < line.size() && line[i] != c)
                i += c == '"' && line[i] == '\\' ? 2 : 1;
            if (i >= line.size())
                return std::nullopt;
        }
        depth += c == '[' || c == '{' ? 1 : c == ']' || c == '}' ? -1 : 0;
        if (c != ' ' && c != '\t' && c != '\r')
            end = i + 1;
    }
    return depth == 0 && end > from ? std::optional(end) : std::nullopt;
}

struct Line {
    std::string text;
    std::string table; ///< path of the table it stands in
    std::string key;   ///< whole path; empty: not a figure
    std::size_t value = 0, valueEnd = 0;
    bool header = false;
};

/// The lines of a file with what stands on them; nothing when they cannot be told line by line.
std::optional<std::vector<Line>> linesOf(const std::string& text) {
    std::vector<Line> out;
    std::string table;
    for (std::size_t at = 0; at < text.size();) {
        const auto end = std::min(text.find('\n', at), text.size());
        Line line{text.substr(at, end - at), table, {}, 0, 0, false};
        at = end + 1;
        const std::string_view all = line.text;
        const auto first = all.find_first_not_of(" \t\r\xEF\xBB\xBF");
        if (first != std::string_view::npos && all[first] == '[') {
            const auto close = all.find(']', first);
            const auto path = close == std::string_view::npos || all.substr(first, 2) == "[["
                                  ? std::nullopt
                                  : pathOf(all.substr(first + 1, close - first - 1));
            if (!path)
                return std::nullopt;
            line.table = table = *path;
            line.header = true;
        } else if (first != std::string_view::npos && all[first] != '#') {
            const auto equals = all.find('=', first);
            const auto path =
                equals == std::string_view::npos ? std::nullopt : pathOf(all.substr(first, equals - first));
            if (!path)
                return std::nullopt;
            line.key = table.empty() ? *path : table + joint + *path;
            line.value = all.find_first_not_of(" \t", equals + 1);
            const auto valueEnd = line.value == std::string_view::npos ? std::nullopt : endOfValue(all, line.value);
            if (!valueEnd)
                return std::nullopt;
            line.valueEnd = *valueEnd;
        }
        out.push_back(std::move(line));
    }
    return out;
}

struct Figure {
    std::string table, name, value;
};
using Figures = std::map<std::string, Figure>; // by path

/// The figures of a text of our own writing.
Figures figuresOf(const std::string& text) {
    Figures out;
    for (const auto& line : linesOf(text).value_or(std::vector<Line>{}))
        if (!line.key.empty())
            out[line.key] = {line.table, line.text.substr(0, line.text.find_first_of(" =")),
                             line.text.substr(line.value, line.valueEnd - line.value)};
    return out;
}

/// Inline tables are figures of a table written on one line.
std::string inlineTable(const Figures& wanted, const std::string& path) {
    std::string out;
    for (const auto& [key, figure] : wanted)
        if (figure.table == path)
            out += (out.empty() ? "" : ", ") + figure.name + " = " + figure.value;
    return out.empty() ? "{}" : "{ " + out + " }";
}

std::string joined(const std::vector<Line>& lines) {
    std::string out;
    for (const auto& line : lines)
        out += line.text + "\n";
    return out;
}

std::string headerOf(std::string path) {
    std::string out;
    for (const char c : path)
        out += c == joint ? '.' : c;
    return "[" + out + "]";
}

std::string merged(std::vector<Line> lines, const Figures& was, const Figures& wanted) {
    std::set<std::string> standing;
    std::vector<Line> out;
    for (auto& line : lines) {
        if (line.key.empty()) {
            out.push_back(std::move(line));
            continue;
        }
        const bool inlined = line.text[line.value] == '{';
        const auto under = [&](const auto& entry) { return entry.second.table == line.key; };
        if (inlined) {
            bool same = true;
            for (const auto* one : {&was, &wanted})
                for (const auto& [key, figure] : *one)
                    if (figure.table == line.key) {
                        standing.insert(key);
                        const auto before = was.find(key), after = wanted.find(key);
                        same = same && before != was.end() && after != wanted.end() &&
                               before->second.value == after->second.value;
                    }
            if (std::none_of(wanted.begin(), wanted.end(), under) && std::any_of(was.begin(), was.end(), under))
                continue;
            if (!same)
                line.text.replace(line.value, line.valueEnd - line.value, inlineTable(wanted, line.key));
            out.push_back(std::move(line));
            continue;
        }
        standing.insert(line.key);
        const auto before = was.find(line.key), after = wanted.find(line.key);
        if (after == wanted.end() && before != was.end())
            continue; // taken out
        if (after != wanted.end() && (before == was.end() || before->second.value != after->second.value))
            line.text.replace(line.value, line.valueEnd - line.value, after->second.value);
        out.push_back(std::move(line));
    }
    for (const auto& [key, figure] : wanted) {
        // What the old text left to its default and still has by default is left so.
        const auto before = was.find(key);
        if (standing.contains(key) || (before != was.end() && before->second.value == figure.value))
            continue;
        // After the last line of its table that says something, else under a header of its own at the end.
        std::size_t place = out.size();
        for (std::size_t i = 0; i < out.size(); ++i)
            if (out[i].table == figure.table && (out[i].header || !out[i].key.empty()))
                place = i + 1;
        const Line line{figure.name + " = " + figure.value, figure.table, key, 0, 1, false};
        if (place == out.size() && (out.empty() || out.back().table != figure.table)) {
            out.push_back({"", figure.table, {}, 0, 0, false});
            out.push_back({headerOf(figure.table), figure.table, {}, 0, 0, true});
            out.push_back(line);
        } else {
            out.insert(out.begin() + static_cast<std::ptrdiff_t>(place), line);
        }
    }
    return joined(out);
}

/// The comments of a text, each on its own line.
std::string commentsOf(const std::string& text) {
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const auto end = std::min(text.find('\n', at), text.size());
        const auto line = text.substr(at, end - at);
        const auto first = line.find_first_not_of(" \t");
        if (first != std::string::npos && line[first] == '#' && line.find("# Amber Throttle sortie") != first)
            out += line.substr(first) + "\n";
        at = end + 1;
    }
    return out;
}
} // namespace

std::string rewriteSortie(const std::string& original, const Sortie& sortie, const Cockpit& cockpit) {
    const std::string fresh = writeSortie(sortie, cockpit);
    const auto before = readSortie(original, "");
    if (original.empty() || !before.sortie)
        return fresh;
    if (const auto lines = linesOf(original)) {
        const std::string text = merged(*lines, figuresOf(writeSortie(*before.sortie, cockpit)), figuresOf(fresh));
        // Never trusted unread: it must be the same sortie.
        if (const auto again = readSortie(text, ""); again.sortie && writeSortie(*again.sortie, cockpit) == fresh)
            return text;
    }
    return commentsOf(original) + fresh;
}

} // namespace amber
