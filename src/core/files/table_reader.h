// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/document.h"
#include "files/key_ranges.h"
#include "notes/problem.h"
#include "units/text.h"
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace amber::document {

/// Takes values out of one TOML table by name and kind, reporting every fault it meets and going on; at the end,
/// finish() reports the keys nobody asked for, with the nearest known name. Every figure is held against its range
/// (files/key_ranges.h), found by its path.
class TableReader {
public:
    TableReader(const Node& table, std::string path, const std::string& file, Problems& problems, FileFormat format)
        : table_(table), path_(std::move(path)), file_(file), problems_(problems), format_(format) {}

    [[nodiscard]] bool has(std::string_view key) const { return table_.find(key) != nullptr; }
    [[nodiscard]] std::vector<std::string> keys() const; ///< of every member, in the order of the file
    [[nodiscard]] int line(std::string_view key) const;
    [[nodiscard]] int line() const { return table_.line; }
    [[nodiscard]] const std::string& path() const { return path_; }

    std::string text(const std::string& key, bool required = false);
    /// A plain number within its range.
    std::optional<double> number(const std::string& key, bool required = false);
    std::optional<bool> flag(const std::string& key);
    std::vector<std::string> texts(const std::string& key);
    /// One of a few words. @return the index into `words`
    std::optional<std::size_t> word(const std::string& key, const std::vector<std::string_view>& words,
                                    bool required = false);

    /// A quantity with its unit as text; a bare number only where `assumed` is given (rpm, minutes).
    template <Dimension D>
    std::optional<Quantity<D>> quantity(const std::string& key, bool required = false,
                                        const UnitSpec* assumed = nullptr) {
        if (const auto si = quantitySi(D, key, required, assumed))
            return Quantity<D>::si(*si);
        return std::nullopt;
    }
    /// @param ranged path of the range where it is not the figure's own
    std::optional<double> quantitySi(Dimension dimension, const std::string& key, bool required,
                                     const UnitSpec* assumed, const std::string& ranged = {});
    /// "150 to 232 °C": the unit may stand once, at the end.
    std::optional<std::pair<double, double>> range(Dimension dimension, const std::string& key,
                                                   const std::string& ranged = {});
    /// Whether a figure of a member (SI, or a plain number) lies within its range; a problem when not.
    /// Asks which it is where a point may part thousands and both would do; @return whether it asked.
    bool asked(const std::string& key, const Node& node, const UnitSpec& unit, const std::string& ranged);
    /// @param unit in which the figure was written, and its range is told
    bool within(const std::string& key, const Node& node, double si, const std::string& ranged = {},
                const UnitSpec* unit = nullptr);
    const UnitSpec* unit(Dimension dimension, const std::string& key);

    /// A sub-table, or nothing; asking marks it as known.
    std::optional<TableReader> table(const std::string& key, bool required = false);
    /// An array of tables: [[key]].
    std::vector<TableReader> tables(const std::string& key);
    /// Every member that is a table, by name (for tables named by the writer, as in [limits.head]).
    std::vector<std::pair<std::string, TableReader>> namedTables();
    /// Pairs of numbers: [[0.5, 0.085], [1.0, 0.105]], each within the range of its name ("engine.mixture.rich.ratio").
    /// @param unit what the numbers are in; the pairs come in SI. Null: plain numbers
    std::vector<std::pair<double, double>> pairs(const std::string& key, const char* first, const char* second,
                                                 const UnitSpec* unit = nullptr);
    /// Numbers within the key's range: [0.71, 0.68].
    std::vector<double> numbers(const std::string& key);
    [[nodiscard]] const std::string& file() const { return file_; }
    /// Every member of a sub-table as text, by name.
    std::vector<std::pair<std::string, const Node*>> members(const std::string& key);

    void problem(int line, std::string what, std::string remedy);
    void finish();

private:
    const Node* take(const std::string& key, bool required);
    const Node* take(const std::string& key, Node::Kind kind, bool required);
    std::string at(const std::string& key) const { return path_.empty() ? key : path_ + "." + key; }

    const Node& table_;
    std::string path_;
    const std::string& file_;
    Problems& problems_;
    FileFormat format_;
    std::set<std::string> known_;
};

/// The nearest of some names (edit distance at most 3 and less than half the word), or empty.
std::string nearest(std::string_view word, const std::vector<std::string>& names);

} // namespace amber::document
