// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <deque>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

/// Files of separated values, read and written in one place (RFC 4180): a mark parts cells, quotes hold one together
/// with its marks and line ends, a quote within quotes is doubled. Spaces around a cell without quotes are no part of
/// it.
namespace amber::csv {

/// Without spaces, tabs and carriage returns at either end.
std::string_view trimmed(std::string_view text);

/// The records of a text, one after the other; the cells point into the text, or into the reader until the next record.
/// A quote that is never closed is a letter like any other, and its cell ends with its line.
/// @code
/// csv::Records records("a;\"b \"\"c\"\"\"\n", ';');
/// std::vector<std::string_view> cells;
/// records.next(cells); // a, b "c"
/// @endcode
class Records {
public:
    explicit Records(std::string_view text, char mark = ',') : text_(text), mark_(mark) {
        if (text_.starts_with("\xef\xbb\xbf"))
            at_ = 3;
    }
    /// @return false at the end of the text
    bool next(std::vector<std::string_view>& cells);
    /// The line on which the record began, from 1.
    [[nodiscard]] int line() const { return line_; }
    void mark(char mark) { mark_ = mark; }

private:
    std::string_view quoted();
    std::string_view text_;
    char mark_;
    std::size_t at_ = 0;
    int line_ = 0, following_ = 1;
    std::deque<std::string> undone_; ///< cells with doubled quotes
};

/// Every record of a small file as people write it that has something in it and is no comment (#): its cells, and its
/// line.
void eachLine(std::string_view text, const std::function<void(const std::vector<std::string>& cells, int line)>& seen);

/// A cell for a spreadsheet: in quotes; what a spreadsheet would reckon as a formula (= + - @ at its beginning) stands
/// behind an apostrophe, which `plain` takes away again.
std::string cell(std::string_view text);
std::string plain(std::string_view cell);

} // namespace amber::csv
