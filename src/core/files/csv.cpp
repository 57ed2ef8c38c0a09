// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/csv.h"

namespace amber::csv {
namespace {
std::vector<std::string> cellsIn(std::string_view line) {
    std::vector<std::string> cells;
    std::string cell;
    bool quoted = false;
    for (const char c : line) {
        if (c == '"')
            quoted = !quoted;
        else if (c == ',' && !quoted) {
            cells.push_back(trimmed(cell));
            cell.clear();
        } else
            cell += c;
    }
    cells.push_back(trimmed(cell));
    return cells;
}
} // namespace

std::string trimmed(std::string_view s) {
    while (!s.empty() && (s.front() == ' ' || s.front() == '\t'))
        s.remove_prefix(1);
    while (!s.empty() && (s.back() == ' ' || s.back() == '\t' || s.back() == '\r'))
        s.remove_suffix(1);
    return std::string(s);
}

void eachLine(std::string_view text, const std::function<void(const std::vector<std::string>& cells, int line)>& seen) {
    int number = 0;
    while (!text.empty()) {
        ++number;
        const auto end = text.find('\n');
        const std::string line = trimmed(text.substr(0, end));
        text = end == std::string_view::npos ? std::string_view{} : text.substr(end + 1);
        if (!line.empty() && line.front() != '#')
            seen(cellsIn(line), number);
    }
}

} // namespace amber::csv
