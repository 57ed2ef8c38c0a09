// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/log_text.h"
#include "files/csv.h"
#include "record/what.h"
#include "units/text.h"
#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <map>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

namespace amber::record {
namespace {
using nlohmann::ordered_json;
constexpr int format = 1;
constexpr std::int64_t day = 86'400'000;

/// The value of a member of the kind that is expected; what it is not is told by an exception with the name.
template <class T>
T member(const nlohmann::json& of, const char* name) {
    const auto found = of.find(name);
    if (found == of.end())
        throw std::runtime_error(fmt::format("\"{}\" is missing", name));
    if constexpr (std::is_same_v<T, std::string>) {
        if (!found->is_string())
            throw std::runtime_error(fmt::format("\"{}\" is not text", name));
    } else if constexpr (std::is_same_v<T, std::int64_t>) {
        if (!found->is_number_integer())
            throw std::runtime_error(fmt::format("\"{}\" is not a whole number", name));
    } else if (!found->is_number()) {
        throw std::runtime_error(fmt::format("\"{}\" is not a number", name));
    }
    return found->get<T>();
}
std::string textOr(const nlohmann::json& of, const char* name) {
    return of.contains(name) ? member<std::string>(of, name) : std::string();
}

Run runFrom(const nlohmann::json& j) {
    return {member<std::string>(j, "id"), member<std::string>(j, "airframe"), textOr(j, "type"),
            textOr(j, "title"),           member<std::int64_t>(j, "began"),   textOr(j, "sortie")};
}

TraceBlock blockFrom(const nlohmann::json& j) {
    TraceBlock b;
    b.id = member<std::string>(j, "id");
    b.run = member<std::string>(j, "run");
    b.source = textOr(j, "source");
    b.engine = textOr(j, "engine");
    b.quantity = member<std::string>(j, "quantity");
    b.start = member<std::int64_t>(j, "start");
    b.step = member<std::int64_t>(j, "step");
    const auto samples = j.find("samples");
    if (samples == j.end() || !samples->is_array())
        throw std::runtime_error("\"samples\" is no list");
    for (const auto& one : *samples) {
        if (!one.is_number() && !one.is_null())
            throw std::runtime_error("a sample is neither a number nor null");
        b.values.push_back(one.is_null() ? std::numeric_limits<float>::quiet_NaN() : one.get<float>());
    }
    return b;
}

Entry entryFrom(const nlohmann::json& j) {
    Entry e;
    e.id = member<std::string>(j, "id");
    e.run = member<std::string>(j, "run");
    e.supersedes = textOr(j, "supersedes");
    e.at = member<std::int64_t>(j, "at");
    e.entered = member<std::int64_t>(j, "entered");
    if (const auto rough = j.find("rough"); rough != j.end()) {
        if (!rough->is_boolean())
            throw std::runtime_error("\"rough\" is not true or false");
        e.rough = rough->get<bool>();
    }
    e.who = textOr(j, "who");
    const auto phase = phaseFromKey(member<std::string>(j, "phase"));
    if (!phase)
        throw std::runtime_error("\"phase\" is no phase");
    e.phase = *phase;
    e.engine = textOr(j, "engine");
    e.what = member<std::string>(j, "what");
    const auto kind = kindFromKey(member<std::string>(j, "kind"));
    if (!kind)
        throw std::runtime_error("\"kind\" is not figure, looked, words or withdrawn");
    e.kind = *kind;
    if (e.kind == Entry::Kind::figure)
        e.value = member<double>(j, "value");
    if (j.contains("planned"))
        e.planned = member<double>(j, "planned");
    if (j.contains("lasted"))
        e.lasted = member<double>(j, "lasted");
    e.words = textOr(j, "words");
    e.about = textOr(j, "about");
    return e;
}
} // namespace

namespace {
void put(ordered_json& into, const char* name, const std::string& text) {
    if (!text.empty())
        into[name] = text;
}
std::string line(const ordered_json& row) {
    return row.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}
constexpr const char* lists[] = {"runs", "entries", "traces"};
constexpr std::size_t mostProblems = 200; // problems of one file, beyond which they are counted
} // namespace

bool LogJsonWriter::row(int list, const std::string& text) {
    std::string out;
    if (list_ < 0)
        out = fmt::format("{{\n \"format\": {}", format);
    while (list_ < list) { // lists without a row stand there empty
        out += list_ >= 0 ? (first_ ? "]" : "\n ]") : "";
        ++list_;
        out += fmt::format(",\n \"{}\": [", lists[list_]);
        first_ = true;
    }
    if (!text.empty()) {
        out += first_ ? "\n  " : ",\n  ";
        out += text;
        first_ = false;
    }
    return sink_(out);
}

bool LogJsonWriter::put(const Run& r) {
    ordered_json j{{"id", r.id}, {"airframe", r.airframe}, {"began", r.began}};
    record::put(j, "type", r.type);
    record::put(j, "title", r.title);
    record::put(j, "sortie", r.sortie);
    return row(0, line(j));
}

bool LogJsonWriter::put(const Entry& e) {
    ordered_json j{
        {"id", e.id},     {"run", e.run},         {"at", e.at}, {"entered", e.entered}, {"phase", keyOf(e.phase)},
        {"what", e.what}, {"kind", keyOf(e.kind)}};
    record::put(j, "supersedes", e.supersedes);
    if (e.rough)
        j["rough"] = true;
    record::put(j, "who", e.who);
    record::put(j, "engine", e.engine);
    if (e.kind == Entry::Kind::figure)
        j["value"] = e.value;
    if (e.planned)
        j["planned"] = *e.planned;
    if (e.lasted)
        j["lasted"] = *e.lasted;
    record::put(j, "words", e.words);
    record::put(j, "about", e.about);
    return row(1, line(j));
}

bool LogJsonWriter::put(const TraceBlock& b) {
    ordered_json j{{"id", b.id}, {"run", b.run}, {"source", b.source}, {"quantity", b.quantity}};
    record::put(j, "engine", b.engine);
    j["start"] = b.start;
    j["step"] = b.step;
    std::string text = line(j);
    text.pop_back();
    return row(2, text + ",\"samples\":" + samplesText(b.values) + "}");
}

bool LogJsonWriter::end() {
    if (list_ < 1 && !row(1, {}))
        return false;
    return sink_(first_ ? "]\n}\n" : "\n ]\n}\n");
}

std::string logJson(const Log& log, const std::vector<TraceBlock>& traces) {
    std::string out;
    LogJsonWriter writer([&](std::string_view text) {
        out += text;
        return true;
    });
    for (const auto& [id, r] : log.runs)
        writer.put(r);
    for (const auto& [id, e] : log.entries)
        writer.put(e);
    for (const auto& b : traces)
        writer.put(b);
    writer.end();
    return out;
}

bool readLogJson(std::istream& in, const std::string& file, Problems& problems, const LogSink& sink) {
    // Nested no deeper than a log is: a parser that calls itself has an end to its stack.
    constexpr int rowDepth = 2, deepestOfALog = 4;
    int deepest = 0, formats = 0;
    std::string list;
    std::map<std::string, std::size_t> numbers;
    std::size_t untold = 0;
    bool early = false, noLog = false;
    std::string known; ///< the format, as far as it has been read
    const auto tell = [&](const std::string& wrong) {
        if (problems.size() < mostProblems)
            problems.push_back({file, 0, wrong, "It is left out"});
        else
            ++untold;
    };
    const auto take = [&](const nlohmann::json& j) {
        const std::size_t number = ++numbers[list];
        std::string wrong;
        try {
            if (!j.is_object())
                throw std::runtime_error("it is no object");
            const auto put = [&](auto row, const auto& to) {
                wrong = wrongWith(row);
                if (wrong.empty())
                    to(std::move(row));
            };
            if (list == lists[0])
                put(runFrom(j), sink.run);
            else if (list == lists[1])
                put(entryFrom(j), sink.entry);
            else if (sink.block)
                put(blockFrom(j), sink.block);
        } catch (const std::exception& e) {
            wrong = e.what();
        }
        if (!wrong.empty())
            tell(fmt::format("\"{}\", number {}: {}", list, number, wrong));
    };
    const bool ours = [&] {
        using Event = nlohmann::json::parse_event_t;
        const auto seen = [&](int depth, Event event, nlohmann::json& parsed) {
            deepest = std::max(deepest, depth);
            if (depth > deepestOfALog)
                return false;
            if (depth == 0 && event != Event::object_start && event != Event::object_end)
                noLog = true;
            if (depth == 1 && event == Event::key)
                list = parsed.get<std::string>();
            const bool isList = list == lists[0] || list == lists[1] || list == lists[2];
            if (depth == 1 && event == Event::value && list == "format") {
                ++formats;
                known = parsed.is_number_integer() && parsed.get<std::int64_t>() == format ? "1" : "other";
            }
            if (depth == 1 && isList && (event == Event::value || event == Event::object_end))
                tell(fmt::format("\"{}\" is no list", list));
            if (depth == rowDepth && isList &&
                (event == Event::object_end || event == Event::value || event == Event::array_end)) {
                if (known.empty())
                    early = true;
                else if (known == "1")
                    take(parsed);
                return false; // not held
            }
            return true;
        };
        const auto root = nlohmann::json::parse(in, seen, false);
        return !root.is_discarded() && root.is_object();
    }();
    if (untold > 0)
        problems.push_back({file, 0, fmt::format("and {} more", untold), "They are left out"});
    if (!ours || noLog || deepest > deepestOfALog) {
        problems.push_back({file, 0,
                            numbers.empty() ? "this is no log in JSON" : "this log in JSON breaks off or is damaged",
                            "Write one with: amber-throttle log export"});
        return false;
    }
    if (known != "1") {
        problems.push_back(
            {file, 0, "this log has another format than 1", "A newer program wrote it: read it with that one"});
        return false;
    }
    if (early) {
        problems.push_back({file, 0, "\"format\" stands behind the rows", "Write it first"});
        return false;
    }
    return true;
}

Log readLogJson(std::string_view text, const std::string& file, Problems& problems, std::vector<TraceBlock>* traces) {
    Log log;
    std::set<std::string> ids;
    LogSink sink;
    const auto twice = [&](const char* what, const std::string& id) {
        problems.push_back({file, 0, fmt::format("{} {} is there twice", what, id), "It is left out"});
    };
    sink.run = [&](Run r) {
        if (const std::string id = r.id; !log.runs.try_emplace(id, std::move(r)).second)
            twice("run", id);
    };
    sink.entry = [&](Entry e) {
        if (const std::string id = e.id; !log.entries.try_emplace(id, std::move(e)).second)
            twice("entry", id);
    };
    if (traces)
        sink.block = [&](TraceBlock b) {
            if (!ids.insert(b.id).second)
                twice("block", b.id);
            else
                traces->push_back(std::move(b));
        };
    std::istringstream in{std::string(text)};
    readLogJson(in, file, problems, sink);
    return log;
}

std::string timeText(std::int64_t milliseconds) {
    const auto days =
        static_cast<std::int64_t>(std::floor(static_cast<double>(milliseconds) / static_cast<double>(day)));
    const std::chrono::year_month_day date{std::chrono::sys_days{std::chrono::days{days}}};
    const std::int64_t seconds = (milliseconds - days * day) / 1000;
    return fmt::format("{:04}-{:02}-{:02} {:02}:{:02}:{:02}", static_cast<int>(date.year()),
                       static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()), seconds / 3600,
                       seconds / 60 % 60, seconds % 60);
}

std::optional<std::int64_t> timeFrom(std::string_view text) {
    // 2026-11-29 14:05, with :30 or without; T for the space, Z at the end.
    if (!text.empty() && text.back() == 'Z')
        text.remove_suffix(1);
    if (text.size() != 16 && text.size() != 19)
        return std::nullopt;
    const auto number = [&](std::size_t at, std::size_t size) -> std::optional<int> {
        int value = 0;
        for (std::size_t i = at; i < at + size; ++i) {
            if (text[i] < '0' || text[i] > '9')
                return std::nullopt;
            value = 10 * value + (text[i] - '0');
        }
        return value;
    };
    if (text[4] != '-' || text[7] != '-' || (text[10] != ' ' && text[10] != 'T') || text[13] != ':' ||
        (text.size() == 19 && text[16] != ':'))
        return std::nullopt;
    const auto y = number(0, 4), mo = number(5, 2), d = number(8, 2), h = number(11, 2), mi = number(14, 2),
               s = text.size() == 19 ? number(17, 2) : std::optional(0);
    if (!y || !mo || !d || !h || !mi || !s || *h > 23 || *mi > 59 || *s > 59)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(*y), std::chrono::month(static_cast<unsigned>(*mo)),
                                           std::chrono::day(static_cast<unsigned>(*d))};
    if (!date.ok())
        return std::nullopt;
    const std::int64_t days = std::chrono::sys_days{date}.time_since_epoch().count();
    return days * day + ((*h * 60 + *mi) * 60 + *s) * std::int64_t{1000};
}

std::string logCsv(const Log& log) {
    return "airframe,day,run,time,rough,phase,engine,what,figure,unit,planned,looked,words,who,disagrees,id\n" +
           logCsvRows(log);
}

namespace {
/// For a spreadsheet, a line a reading.
std::string oneLine(std::string text) {
    std::replace_if(
        text.begin(), text.end(), [](char c) { return c == '\n' || c == '\r'; }, ' ');
    return text;
}
} // namespace

std::string logCsvRows(const Log& log) {
    std::string out;
    const auto all = standing(log);
    for (const auto& [id, run] : log.runs)
        for (const auto& s : all.contains(id) ? all.at(id) : std::vector<Standing>())
            for (const Entry* e : s.last) {
                const WhatRow* row = whatOf(e->what);
                const UnitSpec* unit = row ? unitOf(*row) : nullptr;
                const auto figure = [&](double si) {
                    return fmt::format("{:.10g}", unit ? (si - unit->offset) / unit->scale : si);
                };
                const bool isFigure = e->kind == Entry::Kind::figure;
                out +=
                    fmt::format("{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}\n", csv::cell(run.airframe),
                                timeText(run.began).substr(0, 10), id, timeText(e->at), e->rough ? "about" : "",
                                keyOf(e->phase), csv::cell(e->engine), e->what, isFigure ? figure(e->value) : "",
                                isFigure && unit ? std::string(unit->symbol) : "",
                                e->planned ? figure(*e->planned) : "", e->kind == Entry::Kind::looked ? "looked" : "",
                                csv::cell(oneLine(e->words)), csv::cell(e->who), s.disagrees ? "yes" : "", e->id);
            }
    return out;
}

} // namespace amber::record
