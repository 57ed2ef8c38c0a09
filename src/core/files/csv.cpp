// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/csv.h"
#include "units/ascii.h"
#include <algorithm>

namespace amber::csv {
namespace {
constexpr std::size_t longestQuoted = 1 << 20; // a quote that was meant as a letter does not swallow the file

bool reckoned(std::string_view text) {
    if (text.empty())
        return false;
    if (text.front() == '+' || text.front() == '-') // a figure is none
        return text.size() < 2 || !(ascii::isDigit(text[1]) || text[1] == '.');
    return std::string_view("=@\t\r").find(text.front()) != std::string_view::npos;
}
} // namespace

std::string_view trimmed(std::string_view s) {
    const auto blank = [](char c) { return c == ' ' || c == '\t' || c == '\r'; };
    while (!s.empty() && blank(s.front()))
        s.remove_prefix(1);
    while (!s.empty() && blank(s.back()))
        s.remove_suffix(1);
    return s;
}

/// What stands in the quotes that begin at `at_`, which then is behind them; empty with `at_` unmoved if they never
/// close.
std::string_view Records::quoted() {
    const std::size_t begin = at_ + 1, most = std::min(text_.size(), begin + longestQuoted);
    bool doubled = false;
    for (std::size_t i = begin; i < most; ++i) {
        if (text_[i] != '"')
            continue;
        if (i + 1 < text_.size() && text_[i + 1] == '"') {
            doubled = true;
            ++i;
            continue;
        }
        // Behind it only blanks, up to a mark or the end of the line: else the quote was a letter.
        std::size_t behind = i + 1;
        while (behind < text_.size() && text_[behind] != mark_ &&
               (text_[behind] == ' ' || text_[behind] == '\t' || text_[behind] == '\r'))
            ++behind;
        if (behind < text_.size() && text_[behind] != mark_ && text_[behind] != '\n')
            break;
        std::string_view inside = text_.substr(begin, i - begin);
        following_ += static_cast<int>(std::count(inside.begin(), inside.end(), '\n'));
        at_ = behind;
        if (!doubled)
            return inside;
        std::string& out = undone_.emplace_back();
        for (std::size_t k = 0; k < inside.size(); ++k) {
            out += inside[k];
            if (inside[k] == '"')
                ++k;
        }
        return out;
    }
    return {};
}

bool Records::next(std::vector<std::string_view>& cells) {
    cells.clear();
    undone_.clear();
    if (at_ >= text_.size())
        return false;
    line_ = following_;
    for (;;) {
        while (at_ < text_.size() && text_[at_] != mark_ && (text_[at_] == ' ' || text_[at_] == '\t'))
            ++at_;
        bool taken = false;
        if (at_ < text_.size() && text_[at_] == '"') {
            const std::size_t before = at_;
            const auto inside = quoted();
            if ((taken = at_ != before))
                cells.push_back(inside);
        }
        if (!taken) {
            const std::size_t begin = at_;
            while (at_ < text_.size() && text_[at_] != mark_ && text_[at_] != '\n')
                ++at_;
            cells.push_back(trimmed(text_.substr(begin, at_ - begin)));
        }
        if (at_ >= text_.size())
            return true;
        const bool end = text_[at_] == '\n';
        ++at_;
        if (end) {
            ++following_;
            return true;
        }
    }
}

void eachLine(std::string_view text, const std::function<void(const std::vector<std::string>& cells, int line)>& seen) {
    Records records(text);
    std::vector<std::string_view> cells;
    while (records.next(cells))
        if ((cells.size() > 1 || !cells.front().empty()) && !cells.front().starts_with('#'))
            seen(std::vector<std::string>(cells.begin(), cells.end()), records.line());
}

std::string cell(std::string_view text) {
    std::string out = reckoned(text) ? "\"'" : "\"";
    for (const char c : text) {
        if (c == '"')
            out += '"';
        out += c;
    }
    return out + '"';
}

std::string plain(std::string_view cell) {
    return std::string(cell.starts_with('\'') && reckoned(cell.substr(1)) ? cell.substr(1) : cell);
}

} // namespace amber::csv
