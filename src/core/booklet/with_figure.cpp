// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/with_figure.h"
#include <vector>

namespace amber::booklet {
namespace {
std::string_view trimmed(std::string_view s) {
    while (!s.empty() && (s.front() == ' ' || s.front() == '\t'))
        s.remove_prefix(1);
    while (!s.empty() && (s.back() == ' ' || s.back() == '\t' || s.back() == '\r'))
        s.remove_suffix(1);
    return s;
}
/// What stands before a comment; a # within quotes is none.
std::string_view withoutComment(std::string_view line) {
    char quote = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (quote) {
            if (line[i] == '\\' && quote == '"')
                ++i;
            else if (line[i] == quote)
                quote = 0;
        } else if (line[i] == '"' || line[i] == '\'') {
            quote = line[i];
        } else if (line[i] == '#') {
            return line.substr(0, i);
        }
    }
    return line;
}
} // namespace

std::optional<std::string> withFigure(std::string_view text, std::string_view path, std::string_view value) {
    const auto dot = path.rfind('.');
    if (dot == std::string_view::npos)
        return std::nullopt;
    const std::string table(path.substr(0, dot)), key(path.substr(dot + 1));
    std::vector<std::string_view> lines;
    for (std::size_t at = 0; at <= text.size();) {
        const auto end = std::min(text.find('\n', at), text.size());
        lines.push_back(text.substr(at, end - at));
        at = end + 1;
    }
    if (!lines.empty() && lines.back().empty())
        lines.pop_back();
    const std::string written = key + " = " + std::string(value);
    std::string current;
    std::optional<std::size_t> header, found;
    bool several = false;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const auto line = trimmed(withoutComment(lines[i]));
        if (line.starts_with('[') && line.ends_with(']') && line.find('=') == std::string_view::npos &&
            line.find('"') == std::string_view::npos) {
            several = line.starts_with("[[");
            current = std::string(trimmed(several ? line.substr(2, line.size() - 4) : line.substr(1, line.size() - 2)));
            if (current == table || (several && table.starts_with(current + "."))) {
                if (several)
                    return std::nullopt;
                header = i;
            }
            continue;
        }
        const auto equals = line.find('=');
        if (equals == std::string_view::npos)
            continue;
        const auto name = trimmed(line.substr(0, equals));
        if (!several && current == table && name == key)
            found = i;
        // The table itself, or one above it, written within a line.
        const std::string whole = current.empty() ? std::string(name) : current + "." + std::string(name);
        if (!several && (whole == table || table.starts_with(whole + ".")))
            return std::nullopt;
    }
    std::string out;
    const auto add = [&](std::string_view line) {
        out += line;
        out += '\n';
    };
    for (std::size_t i = 0; i < lines.size(); ++i) {
        if (found && i == *found) {
            // A value that goes on over lines is left to its owner.
            const auto old = trimmed(withoutComment(lines[i]));
            if (old.ends_with('[') || old.ends_with('{') || old.ends_with(',') ||
                old.find("\"\"\"") != std::string_view::npos)
                return std::nullopt;
            const auto comment = lines[i].substr(withoutComment(lines[i]).size());
            add(comment.empty() ? written : written + "  " + std::string(comment));
            continue;
        }
        add(lines[i]);
        if (!found && header && i == *header)
            add(written);
    }
    if (!found && !header) {
        out += "\n[" + table + "]\n";
        add(written);
    }
    return out;
}

} // namespace amber::booklet
