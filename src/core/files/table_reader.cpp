// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/table_reader.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::document {
namespace {
std::optional<double> ratioIn(std::string_view text) {
    std::string_view rest;
    const auto number = readNumber(text, rest);
    if (!number || rest.empty() || (rest.front() != ':' && !rest.starts_with("to ")))
        return std::nullopt;
    std::string_view behind;
    const auto one = readNumber(rest.substr(rest.front() == ':' ? 1 : 3), behind);
    return one && behind.empty() && one.value() == 1.0 ? std::optional(number.value()) : std::nullopt;
}
std::size_t editDistance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    for (std::size_t j = 0; j <= b.size(); ++j)
        row[j] = j;
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t diagonal = row[0];
        row[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const std::size_t above = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, diagonal + (a[i - 1] != b[j - 1])});
            diagonal = above;
        }
    }
    return row.back();
}
} // namespace

std::string nearest(std::string_view word, const std::vector<std::string>& names) {
    std::string best;
    std::size_t least = std::min<std::size_t>(4, (word.size() + 1) / 2 + 1);
    if (word.size() > 64)
        return best;
    for (const auto& name : names)
        if (const auto d = editDistance(word, name); d < least) {
            least = d;
            best = name;
        }
    return best;
}

std::vector<std::string> TableReader::keys() const {
    std::vector<std::string> out;
    for (const auto& member : table_.members)
        out.push_back(member.key);
    return out;
}

int TableReader::line(std::string_view key) const {
    const Node* node = table_.find(key);
    return node ? node->line : table_.line;
}

void TableReader::problem(int line, std::string what, std::string remedy) {
    problems_.push_back({file_, line, std::move(what), std::move(remedy)});
}

const Node* TableReader::take(const std::string& key, bool required) {
    known_.insert(key);
    const Node* node = table_.find(key);
    if (!node && required)
        problem(table_.line, fmt::format("{} is missing", at(key)),
                fmt::format("Add {} to {}", key, path_.empty() ? "the file" : "[" + path_ + "]"));
    return node;
}

const Node* TableReader::take(const std::string& key, Node::Kind kind, bool required) {
    const Node* node = take(key, required);
    if (!node || node->kind == kind)
        return node;
    problem(node->line, fmt::format("{} must be {}, but is {}", at(key), nameOf(kind), nameOf(node->kind)),
            kind == Node::Kind::text ? "Put it in quotes" : "Write it as the format description shows");
    return nullptr;
}

std::string TableReader::text(const std::string& key, bool required) {
    const Node* node = take(key, Node::Kind::text, required);
    if (node && required && node->text.find_first_not_of(" \t\r\n") == std::string::npos)
        problem(node->line, fmt::format("{} is empty", at(key)), "Write what it is called");
    return node ? node->text : std::string{};
}

bool TableReader::within(const std::string& key, const Node& node, double si, const std::string& ranged,
                         const UnitSpec* unit) {
    const KeyRange* range = rangeOf(format_, ranged.empty() ? at(key) : ranged);
    if (!range || range->holds(si))
        return true;
    const std::string written = node.kind == Node::Kind::text
                                    ? '"' + std::string(node.text.substr(0, 40)) + '"'
                                    : fmt::format("{:.10g}", node.kind == Node::Kind::number ? node.number : si);
    problem(node.line, fmt::format("{} = {} is out of range", at(key), written), range->expected(unit));
    return false;
}

bool TableReader::asked(const std::string& key, const Node& node, const UnitSpec& unit, const std::string& ranged) {
    const auto both = thousandsOrDecimals(node.text, unit);
    const KeyRange* range = both ? rangeOf(format_, ranged.empty() ? at(key) : ranged) : nullptr;
    if (!both || (range && !range->holds(both->si)))
        return false;
    problem(node.line,
            fmt::format("{} = \"{}\": does the point part thousands or decimals?", at(key), node.text.substr(0, 40)),
            fmt::format("Write {} or {}", both->thousands, both->decimals));
    return true;
}

std::optional<double> TableReader::number(const std::string& key, bool required) {
    const Node* node = take(key, required);
    // "5.4 : 1", as booklets print a ratio.
    std::optional<double> figure;
    if (node && node->kind == Node::Kind::number)
        figure = node->number;
    else if (node && node->kind == Node::Kind::text)
        figure = ratioIn(node->text);
    if (node && !figure)
        node = take(key, Node::Kind::number, required); // says what is wrong
    if (!node || !figure || !within(key, *node, *figure))
        return std::nullopt;
    return figure;
}

std::optional<bool> TableReader::flag(const std::string& key) {
    const Node* node = take(key, Node::Kind::boolean, false);
    return node ? std::optional(node->boolean) : std::nullopt;
}

std::vector<std::string> TableReader::texts(const std::string& key) {
    std::vector<std::string> out;
    if (const Node* node = take(key, Node::Kind::array, false))
        for (const Node& item : node->items) {
            if (item.kind == Node::Kind::text && !item.text.empty())
                out.push_back(item.text);
            else if (item.kind == Node::Kind::text)
                problem(item.line, fmt::format("{} holds an empty text", at(key)), "Write it out or take it out");
            else
                problem(item.line, fmt::format("{} holds {}", at(key), nameOf(item.kind)),
                        "Every entry of this list is text in quotes");
        }
    return out;
}

std::optional<std::size_t> TableReader::word(const std::string& key, const std::vector<std::string_view>& words,
                                             bool required) {
    const Node* node = take(key, Node::Kind::text, required);
    if (!node)
        return std::nullopt;
    const auto found = std::find(words.begin(), words.end(), node->text);
    if (found != words.end())
        return static_cast<std::size_t>(found - words.begin());
    problem(node->line, fmt::format("{} = \"{}\" is not known", at(key), node->text),
            fmt::format("Use one of: {}", fmt::join(words, ", ")));
    return std::nullopt;
}

std::optional<double> TableReader::quantitySi(Dimension dimension, const std::string& key, bool required,
                                              const UnitSpec* assumed, const std::string& ranged) {
    const Node* node = take(key, required);
    if (!node)
        return std::nullopt;
    const auto held = [&](double si) { return within(key, *node, si, ranged) ? std::optional(si) : std::nullopt; };
    if (node->kind == Node::Kind::number && assumed)
        return held(node->number * assumed->scale + assumed->offset);
    if (node->kind == Node::Kind::text) {
        const auto written = readQuantity(dimension, node->text, assumed);
        if (written && asked(key, *node, *written.value().unit, ranged))
            return std::nullopt;
        if (written)
            return within(key, *node, written.value().si, ranged, written.value().unit)
                       ? std::optional(written.value().si)
                       : std::nullopt;
        problem(node->line, fmt::format("{}: {}", at(key), written.error()), "");
        return std::nullopt;
    }
    const auto& unit = unitsOf(dimension).front();
    problem(node->line, fmt::format("{} has no unit", at(key)),
            fmt::format("Write the number and its unit in quotes, for example \"{} {}\"",
                        node->kind == Node::Kind::number ? node->number : 1.0, unit.symbol));
    return std::nullopt;
}

std::optional<std::pair<double, double>> TableReader::range(Dimension dimension, const std::string& key,
                                                            const std::string& ranged) {
    const Node* node = take(key, Node::Kind::text, false);
    if (!node)
        return std::nullopt;
    const auto to = node->text.find(" to ");
    const auto fail = [&](const std::string& why) {
        problem(node->line, fmt::format("{} = \"{}\": {}", at(key), node->text, why),
                fmt::format("Write a range as \"low to high {}\"", unitsOf(dimension).front().symbol));
        return std::nullopt;
    };
    if (to == std::string::npos)
        return fail("this is not a range");
    const auto high = readQuantity(dimension, std::string_view(node->text).substr(to + 4));
    if (!high)
        return fail(high.error());
    const auto low = readQuantity(dimension, std::string_view(node->text).substr(0, to), high.value().unit);
    if (!low)
        return fail(low.error());
    if (low.value().si > high.value().si)
        return fail("it runs from high to low");
    if (!within(key, *node, low.value().si, ranged, low.value().unit) ||
        !within(key, *node, high.value().si, ranged, high.value().unit))
        return std::nullopt;
    return std::pair{low.value().si, high.value().si};
}

const UnitSpec* TableReader::unit(Dimension dimension, const std::string& key) {
    const Node* node = take(key, Node::Kind::text, false);
    if (!node)
        return nullptr;
    if (const UnitSpec* unit = findUnit(dimension, node->text))
        return unit;
    std::string choices;
    for (const auto& u : unitsOf(dimension))
        choices += (choices.empty() ? "" : ", ") + std::string(u.symbol);
    problem(node->line, fmt::format("{} = \"{}\" is not a unit of {}", at(key), node->text, amber::nameOf(dimension)),
            "Use one of: " + choices);
    return nullptr;
}

std::optional<TableReader> TableReader::table(const std::string& key, bool required) {
    const Node* node = take(key, Node::Kind::table, required);
    if (!node)
        return std::nullopt;
    return TableReader(*node, at(key), file_, problems_, format_);
}

std::vector<TableReader> TableReader::tables(const std::string& key) {
    std::vector<TableReader> out;
    if (const Node* node = take(key, Node::Kind::array, false))
        for (const Node& item : node->items) {
            if (item.kind == Node::Kind::table)
                out.emplace_back(item, at(key), file_, problems_, format_);
            else
                problem(item.line, fmt::format("{} holds {}", at(key), nameOf(item.kind)),
                        fmt::format("Write each as a table under [[{}]]", at(key)));
        }
    return out;
}

std::vector<std::pair<std::string, TableReader>> TableReader::namedTables() {
    std::vector<std::pair<std::string, TableReader>> out;
    for (const auto& [key, node] : table_.members)
        if (node.kind == Node::Kind::table) {
            known_.insert(key);
            out.emplace_back(key, TableReader(node, at(key), file_, problems_, format_));
        }
    return out;
}

std::vector<std::pair<double, double>> TableReader::pairs(const std::string& key, const char* first, const char* second,
                                                          const UnitSpec* unit) {
    std::vector<std::pair<double, double>> out;
    const auto si = [unit](double number) { return unit ? number * unit->scale + unit->offset : number; };
    if (const Node* node = take(key, Node::Kind::array, false))
        for (const Node& item : node->items) {
            if (item.kind == Node::Kind::array && item.items.size() == 2 && item.items[0].kind == Node::Kind::number &&
                item.items[1].kind == Node::Kind::number) {
                const double a = si(item.items[0].number), b = si(item.items[1].number);
                const bool inside = within(key, item.items[0], a, at(key) + "." + first);
                if (within(key, item.items[1], b, at(key) + "." + second) && inside)
                    out.emplace_back(a, b);
            } else
                problem(item.line, fmt::format("{} must hold pairs of numbers", at(key)),
                        "Write it as [[0.5, 0.085], [1.0, 0.105]]");
        }
    return out;
}

std::vector<double> TableReader::numbers(const std::string& key) {
    std::vector<double> out;
    if (const Node* node = take(key, Node::Kind::array, false))
        for (const Node& item : node->items) {
            if (item.kind != Node::Kind::number)
                problem(item.line, fmt::format("{} must hold numbers", at(key)), "Write it as [0.71, 0.68]");
            else if (within(key, item, item.number))
                out.push_back(item.number);
        }
    return out;
}

std::vector<std::pair<std::string, const Node*>> TableReader::members(const std::string& key) {
    std::vector<std::pair<std::string, const Node*>> out;
    if (const Node* node = take(key, Node::Kind::table, false))
        for (const auto& [name, member] : node->members)
            out.emplace_back(name, &member);
    return out;
}

void TableReader::finish() {
    constexpr std::size_t mostListed = 16;
    for (const auto& [key, node] : table_.members)
        if (!known_.contains(key)) {
            const auto guess = nearest(key, {known_.begin(), known_.end()});
            problem(node.line, fmt::format("{} is not a key of this format", at(key)),
                    !guess.empty()               ? fmt::format("Did you mean {}?", guess)
                    : known_.size() > mostListed ? "Take it out, or see docs/formats for the keys there are"
                                                 : fmt::format("The keys there are: {}", fmt::join(known_, ", ")));
        }
}

} // namespace amber::document
