// SPDX-License-Identifier: GPL-3.0-or-later
#include "sortie/airframe_file.h"
#include "files/table_reader.h"
#include <filesystem>
#include <fmt/format.h>

namespace amber {
namespace {
using document::Node;
using document::TableReader;

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
        f.engines.push_back({e.text("position", true), e.text("serial"), e.number("hours")});
        e.finish();
    }
    for (auto& d : t.tables("defect")) {
        f.defects.push_back({d.text("what", true), d.text("since"), d.flag("stops").value_or(false)});
        d.finish();
    }
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
