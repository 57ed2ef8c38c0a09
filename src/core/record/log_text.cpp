// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/log_text.h"
#include "files/csv.h"
#include "record/what.h"
#include "units/text.h"
#include <charconv>
#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <nlohmann/json.hpp>
#include <set>

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

std::string logJson(const Log& log, const std::vector<TraceBlock>& traces) {
    ordered_json out{{"format", format}, {"runs", ordered_json::array()}, {"entries", ordered_json::array()}};
    const auto put = [](ordered_json& into, const char* name, const std::string& text) {
        if (!text.empty())
            into[name] = text;
    };
    for (const auto& [id, r] : log.runs) {
        ordered_json j{{"id", id}, {"airframe", r.airframe}, {"began", r.began}};
        put(j, "type", r.type);
        put(j, "title", r.title);
        put(j, "sortie", r.sortie);
        out["runs"].push_back(std::move(j));
    }
    for (const auto& [id, e] : log.entries) {
        ordered_json j{
            {"id", id},       {"run", e.run},         {"at", e.at}, {"entered", e.entered}, {"phase", keyOf(e.phase)},
            {"what", e.what}, {"kind", keyOf(e.kind)}};
        put(j, "supersedes", e.supersedes);
        if (e.rough)
            j["rough"] = true;
        put(j, "who", e.who);
        put(j, "engine", e.engine);
        if (e.kind == Entry::Kind::figure)
            j["value"] = e.value;
        if (e.planned)
            j["planned"] = *e.planned;
        if (e.lasted)
            j["lasted"] = *e.lasted;
        put(j, "words", e.words);
        put(j, "about", e.about);
        out["entries"].push_back(std::move(j));
    }
    constexpr auto replaced = nlohmann::json::error_handler_t::replace;
    std::string text = out.dump(1, ' ', false, replaced);
    if (!traces.empty()) {
        // A block a line: hundreds of samples, one a line, nobody would read.
        text.erase(text.find_last_not_of("\n}") + 1);
        text += ",\n \"traces\": [";
        for (std::size_t i = 0; i < traces.size(); ++i) {
            const TraceBlock& b = traces[i];
            ordered_json j{{"id", b.id}, {"run", b.run}, {"source", b.source}, {"quantity", b.quantity}};
            put(j, "engine", b.engine);
            j["start"] = b.start;
            j["step"] = b.step;
            std::string line = j.dump(-1, ' ', false, replaced);
            line.pop_back();
            text += (i ? ",\n  " : "\n  ") + line + ",\"samples\":" + samplesText(b.values) + "}";
        }
        text += "\n ]\n}";
    }
    return text + "\n";
}

Log readLogJson(std::string_view text, const std::string& file, Problems& problems, std::vector<TraceBlock>* traces) {
    Log log;
    // Nested no deeper than a log is: a parser that calls itself has an end to its stack.
    int deepest = 0;
    const auto shallow = [&](int depth, nlohmann::json::parse_event_t, nlohmann::json&) {
        deepest = std::max(deepest, depth);
        return depth <= 4;
    };
    const auto root = nlohmann::json::parse(text, shallow, false);
    if (root.is_discarded() || !root.is_object() || deepest > 4) {
        problems.push_back({file, 0, "this is no log in JSON", "Write one with: amber-throttle log export"});
        return log;
    }
    if (const auto f = root.find("format");
        f == root.end() || !f->is_number_integer() || f->get<std::int64_t>() != format) {
        problems.push_back(
            {file, 0, "this log has another format than 1", "A newer program wrote it: read it with that one"});
        return log;
    }
    const auto all = [&](const char* name, const auto& take) {
        const auto list = root.find(name);
        if (list == root.end())
            return;
        if (!list->is_array()) {
            problems.push_back({file, 0, fmt::format("\"{}\" is no list", name), "Write a list of objects"});
            return;
        }
        std::size_t number = 0;
        for (const auto& one : *list) {
            ++number;
            std::string wrong;
            try {
                if (!one.is_object())
                    throw std::runtime_error("it is no object");
                wrong = take(one);
            } catch (const std::exception& e) {
                wrong = e.what();
            }
            if (!wrong.empty())
                problems.push_back(
                    {file, 0, fmt::format("\"{}\", number {}: {}", name, number, wrong), "It is left out"});
        }
    };
    all("runs", [&](const nlohmann::json& j) {
        Run r = runFrom(j);
        std::string wrong = wrongWith(r);
        if (wrong.empty() && !log.runs.try_emplace(r.id, r).second)
            wrong = fmt::format("run {} is there twice", r.id);
        return wrong;
    });
    all("entries", [&](const nlohmann::json& j) {
        Entry e = entryFrom(j);
        std::string wrong = wrongWith(e);
        if (wrong.empty() && !log.entries.try_emplace(e.id, e).second)
            wrong = fmt::format("entry {} is there twice", e.id);
        return wrong;
    });
    if (traces) {
        std::set<std::string> ids;
        all("traces", [&](const nlohmann::json& j) {
            TraceBlock b = blockFrom(j);
            std::string wrong = wrongWith(b);
            if (wrong.empty() && !ids.insert(b.id).second)
                wrong = fmt::format("block {} is there twice", b.id);
            if (wrong.empty())
                traces->push_back(std::move(b));
            return wrong;
        });
    }
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
    std::string out =
        "airframe,day,run,time,rough,phase,engine,what,figure,unit,planned,looked,words,who,disagrees,id\n";
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
                                csv::cell(e->words), csv::cell(e->who), s.disagrees ? "yes" : "", e->id);
            }
    return out;
}

} // namespace amber::record
