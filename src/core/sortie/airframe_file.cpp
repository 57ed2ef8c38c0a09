// SPDX-License-Identifier: GPL-3.0-or-later
#include "sortie/airframe_file.h"
#include "files/table_reader.h"
#include <algorithm>
#include <array>
#include <charconv>
#include <filesystem>
#include <fmt/format.h>

namespace amber {
namespace {
using document::Node;
using document::TableReader;

constexpr std::array<std::string_view, 2> answers{"accepted", "refused"};

/// A day, "2025-04-14".
std::string dayIn(TableReader& t, const std::string& key) {
    std::string out = t.text(key);
    const bool shaped = out.size() == 10 && out[4] == '-' && out[7] == '-' &&
                        std::all_of(out.begin(), out.end(), [](char c) { return c == '-' || (c >= '0' && c <= '9'); });
    const auto number = [&](std::size_t from, std::size_t length) {
        int value = 0;
        std::from_chars(out.data() + from, out.data() + from + length, value);
        return value;
    };
    if (!out.empty() && (!shaped || number(0, 4) < 1970 || number(5, 2) < 1 || number(5, 2) > 12 || number(8, 2) < 1 ||
                         number(8, 2) > 31)) {
        t.problem(t.line(key), fmt::format("{} = \"{}\" is no day", key, out), "Write year-month-day: \"2025-04-14\"");
        out.clear();
    }
    return out;
}

LearntLine readLearnt(TableReader& t) {
    LearntLine out;
    out.what = t.text("what", true);
    out.engine = t.text("engine");
    if (out.what == "prime" || out.what == "fuel") {
        out.value = t.number("factor", true).value_or(1.0);
    } else if (const auto gauge = gaugeFromKey(out.what); gauge && isTaught(*gauge)) {
        const bool pressure = nameOf(*gauge).dimension == Dimension::pressure;
        out.value = t.quantitySi(pressure ? Dimension::pressure : Dimension::temperatureDifference, "by", true, nullptr,
                                 pressure ? "learnt.pressure" : "learnt.by")
                        .value_or(0.0);
    } else {
        t.problem(t.line("what"), fmt::format("\"{}\" is nothing that a log teaches", out.what),
                  "Write prime, fuel, head, coolant, oil, oil-pressure or charge");
    }
    out.runs = static_cast<int>(t.number("runs", true).value_or(1));
    out.first = t.text("first");
    out.last = t.text("last");
    out.model = t.text("model", true);
    out.accepted = t.word("answer", {answers.begin(), answers.end()}, true).value_or(1) == 0;
    out.answered = t.text("answered");
    out.who = t.text("who");
    t.finish();
    return out;
}

std::string asTable(const LearntLine& l) {
    std::string out = fmt::format("\n[[learnt]]\nwhat = {}\n", document::quoted(l.what));
    if (!l.engine.empty())
        out += fmt::format("engine = {}\n", document::quoted(l.engine));
    const auto gauge = gaugeFromKey(l.what);
    if (!gauge)
        out += fmt::format("factor = {:.4g}\n", l.value);
    else if (nameOf(*gauge).dimension == Dimension::pressure)
        out += fmt::format("by = \"{:.4g} kPa\"\n", l.value / 1000.0);
    else
        out += fmt::format("by = \"{:.4g} K\"\n", l.value);
    out += fmt::format("runs = {}\nfirst = {}\nlast = {}\nmodel = {}\nanswer = {}\nanswered = {}\n", l.runs,
                       document::quoted(l.first), document::quoted(l.last), document::quoted(l.model),
                       document::quoted(std::string(answers[l.accepted ? 0 : 1])), document::quoted(l.answered));
    if (!l.who.empty())
        out += fmt::format("who = {}\n", document::quoted(l.who));
    return out;
}

std::string found(const std::string& path, const std::string& from) {
    const std::filesystem::path p(path);
    return p.is_absolute() ? p.string() : (std::filesystem::path(from).parent_path() / p).lexically_normal().string();
}
} // namespace

AirframeReading readAirframe(std::string_view text, const std::string& file) {
    AirframeReading out;
    const auto root = document::parse(text, file, out.problems);
    if (!root)
        return out;
    TableReader t(*root, "", file, out.problems, FileFormat::airframe);
    AirframeFacts f;
    f.line = 1;
    t.number("format", true);
    if (auto a = t.table("airframe", true)) {
        f.notes = found(a->text("notes", true), file);
        f.variant = a->text("variant");
        f.registration = a->text("registration", true);
        f.serial = a->text("serial");
        f.hours = a->number("hours");
        f.hoursAt = dayIn(*a, "hours_at");
        f.weighed = a->quantity<Dimension::mass>("weighed");
        f.weighedArm = a->quantity<Dimension::length>("weighed_arm");
        for (const auto& [position, node] : a->members("extra_prime")) {
            if (node->kind != Node::Kind::number)
                a->problem(node->line, fmt::format("airframe.extra_prime.{} is not a dose", position),
                           "Write a number between −20 and 20");
            else if (a->within("extra_prime", *node, node->number))
                f.extraPrime[position] = node->number;
        }
        a->finish();
    }
    for (auto& e : t.tables("engine")) {
        f.engines.push_back(
            {e.text("position", true), e.text("serial"), e.number("hours"), e.number("since_overhaul")});
        e.finish();
    }
    for (auto& d : t.tables("defect")) {
        f.defects.push_back({d.text("what", true), d.text("since"), d.flag("stops").value_or(false)});
        d.finish();
    }
    for (auto& d : t.tables("due")) {
        AirframeFacts::Due due;
        due.what = d.text("what", true);
        due.engine = d.text("engine");
        due.every = d.number("every");
        if (const auto months = d.number("months"))
            due.months = static_cast<int>(*months);
        due.doneHours = d.number("done_hours");
        due.done = dayIn(d, "done");
        if (!due.every && !due.months)
            d.problem(d.line(), "due: nothing says when it comes round",
                      "Write every = 50 (hours), months = 12, or both");
        d.finish();
        f.due.push_back(std::move(due));
    }
    for (auto& l : t.tables("learnt"))
        f.learnt.push_back(readLearnt(l));
    if (auto r = t.table("recorder")) {
        f.recorder.emplace();
        f.recorder->time = r->text("time");
        for (const auto& [heading, node] : r->members("columns"))
            if (node->kind == Node::Kind::text)
                f.recorder->columns.emplace_back(heading, node->text);
            else
                r->problem(node->line, fmt::format("recorder.columns.\"{}\" is not text", heading),
                           "Write gauge, engine and unit: \"head, 1, °F\"");
        r->finish();
    }
    t.finish();
    if (out.problems.empty())
        out.facts = std::move(f);
    return out;
}

bool isTaught(Gauge gauge) {
    return gauge == Gauge::headTemperature || gauge == Gauge::coolantTemperature || gauge == Gauge::oilTemperature ||
           gauge == Gauge::oilPressure || gauge == Gauge::chargeTemperature;
}

Result<std::string> withLearnt(std::string_view text, const std::string& file, const std::vector<LearntLine>& lines) {
    std::string out;
    bool inLearnt = false;
    for (std::size_t from = 0; from < text.size();) {
        const auto end = std::min(text.find('\n', from), text.size() - 1) + 1;
        const std::string_view line = text.substr(from, end - from);
        const auto first = line.find_first_not_of(" \t");
        if (first != std::string_view::npos && line[first] == '[')
            inLearnt = line.substr(first).starts_with("[[learnt]]");
        if (!inLearnt)
            out += line;
        from = end;
    }
    while (out.ends_with("\n\n"))
        out.pop_back();
    if (!out.empty() && out.back() != '\n')
        out += '\n';
    for (const auto& l : lines)
        out += asTable(l);
    // Nothing else may have changed, and what was written must be what is read.
    const auto before = readAirframe(text, file), after = readAirframe(out, file);
    if (!before.facts)
        return Failure{before.problems.empty() ? file : before.problems.front().text()};
    if (after.facts) {
        AirframeFacts same = *before.facts;
        same.learnt = after.facts->learnt;
        if (same == *after.facts && after.facts->learnt.size() == lines.size())
            return out;
    }
    return Failure{fmt::format("{}: what was learnt cannot be written in this file as it is laid out: write each as "
                               "a table [[learnt]]",
                               file)};
}

std::string airframePathOf(const Sortie& sortie, const std::string& sortiePath) {
    return found(sortie.airframe.file, sortiePath);
}

void joinAirframe(Sortie& sortie, const std::string& sortiePath, Problems& problems) {
    if (sortie.airframe.file.empty())
        return;
    const std::string path = airframePathOf(sortie, sortiePath);
    const auto text = document::readFile(path, problems);
    if (!text)
        return;
    auto reading = readAirframe(*text, path);
    problems.insert(problems.end(), reading.problems.begin(), reading.problems.end());
    if (!reading.facts)
        return;
    Airframe& a = sortie.airframe;
    a.facts = std::make_shared<const AirframeFacts>(*reading.facts);
    a.notes = std::filesystem::absolute(a.facts->notes).lexically_normal().string();
    if (a.variant.empty())
        a.variant = a.facts->variant;
    if (a.registration.empty())
        a.registration = a.facts->registration;
    for (const auto& [position, dose] : a.facts->extraPrime)
        a.extraPrime.try_emplace(position, dose);
}

} // namespace amber
