// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/trace.h"
#include "record/entry.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <iterator>
#include <limits>
#include <set>

namespace amber::record {
namespace {
constexpr std::int64_t heldFor = 5; // steps
constexpr std::size_t mostMoments = 400'000;

/// Fowler, Noll and Vo, 64 bits, from another beginning for each half.
std::uint64_t hash(const std::vector<std::string>& content, std::uint64_t from) {
    std::uint64_t h = from;
    for (const auto& part : content) {
        for (const char c : part) {
            h ^= static_cast<unsigned char>(c);
            h *= 1099511628211ULL;
        }
        h ^= 0x1ffU; // between two parts
        h *= 1099511628211ULL;
    }
    return h;
}
} // namespace

std::string contentId(char prefix, const std::vector<std::string>& content) {
    return fmt::format("{}{:016x}{:016x}", prefix, hash(content, 14695981039346656037ULL),
                       hash(content, 0x9e3779b97f4a7c15ULL));
}

std::string samplesText(const std::vector<float>& values) {
    std::string out = "[";
    for (const float v : values) {
        if (out.size() > 1)
            out += ',';
        if (std::isnan(v))
            out += "null";
        else
            fmt::format_to(std::back_inserter(out), "{:.9g}", v);
    }
    return out + "]";
}

std::vector<float> samplesFrom(std::string_view text) {
    std::vector<float> out;
    if (text.size() < 3 || text.front() != '[' || text.back() != ']')
        return out;
    text = text.substr(1, text.size() - 2);
    for (;;) {
        const auto comma = text.find(',');
        auto one = text.substr(0, comma);
        one.remove_prefix(std::min(one.find_first_not_of(' '), one.size()));
        one = one.substr(0, one.find_last_not_of(' ') + 1);
        float v = 0.0F;
        const auto [end, wrong] = std::from_chars(one.data(), one.data() + one.size(), v);
        const bool whole = wrong == std::errc() && end == one.data() + one.size();
        out.push_back(whole ? v : std::numeric_limits<float>::quiet_NaN());
        if (comma == std::string_view::npos)
            return out;
        text.remove_prefix(comma + 1);
    }
}

constexpr std::size_t longestText = 8'192; // bytes, of a block's names

std::string wrongWith(const TraceBlock& b) {
    const auto* row = std::find_if(gaugeRegister.begin(), gaugeRegister.end(),
                                   [&](const GaugeRow& r) { return r.key == b.quantity; });
    if (row == gaugeRegister.end())
        return fmt::format("block {}: \"{}\" is no quantity of a recorder", b.id, b.quantity);
    if (b.id.empty() || b.run.empty())
        return "a block of a trace has no id or no run";
    for (const auto* text : {&b.id, &b.run, &b.source, &b.engine})
        if (auto wrong = wrongText(*text, longestText); !wrong.empty())
            return fmt::format("a block of a trace has {}", wrong);
    if (b.values.empty() || b.values.size() > blockSamples)
        return fmt::format("block {} has not 1 to {} samples", b.id, blockSamples);
    if (b.start <= 0 || b.step <= 0 || b.step > 86'400'000 || b.end() > lastTime)
        return fmt::format("block {} is at no time between 1970 and 9999", b.id);
    if (std::any_of(b.values.begin(), b.values.end(), [](float v) { return std::isinf(v); }))
        return fmt::format("block {} has a figure that is none", b.id);
    return {};
}

std::vector<TraceBlock> blocksOf(const Recording& r, const std::string& run, const std::string& source,
                                 std::int64_t began) {
    std::vector<TraceBlock> out;
    if (r.pieces.empty())
        return out;
    const std::int64_t shift = r.dated ? 0 : began - r.pieces.front().start;
    for (const auto& piece : r.pieces)
        for (std::size_t c = 0; c < r.map.columns.size(); ++c) {
            const auto& column = r.map.columns[c];
            const auto& values = piece.values[c];
            for (std::size_t from = 0; from < values.size(); from += blockSamples) {
                const auto to = std::min(from + blockSamples, values.size());
                TraceBlock b;
                b.run = run;
                b.source = source;
                b.engine = column.engine;
                b.quantity = nameOf(column.gauge).key;
                b.step = piece.step;
                b.start = shift + piece.start + piece.step * static_cast<std::int64_t>(from);
                b.values.assign(values.begin() + static_cast<std::ptrdiff_t>(from),
                                values.begin() + static_cast<std::ptrdiff_t>(to));
                if (std::all_of(b.values.begin(), b.values.end(), [](float v) { return std::isnan(v); }))
                    continue;
                std::vector<std::string> content{run, b.engine, b.quantity, std::to_string(b.start),
                                                 std::to_string(b.step)};
                content.emplace_back(reinterpret_cast<const char*>(b.values.data()), b.values.size() * sizeof(float));
                b.id = contentId('b', content);
                out.push_back(std::move(b));
            }
        }
    return out;
}

RunTrace traceOf(const std::vector<TraceBlock>& blocks, const TypeNotes& notes) {
    RunTrace out;
    std::int64_t finest = 0;
    for (const auto& b : blocks)
        finest = finest == 0 ? b.step : std::min(finest, b.step);
    // Where blocks lie there are moments; where there is none nobody knows.
    std::vector<std::pair<std::int64_t, std::int64_t>> spans;
    for (const auto& b : blocks)
        spans.emplace_back(b.start, b.end());
    std::sort(spans.begin(), spans.end());
    std::int64_t until = std::numeric_limits<std::int64_t>::min();
    for (const auto& [from, to] : spans) {
        if (to <= until)
            continue;
        // On with the steps of what lies before it, where it joins on.
        std::int64_t t = from;
        if (!out.at.empty() && from <= until)
            t = out.at.back() + finest;
        for (; t < to && out.at.size() < mostMoments; t += finest)
            out.at.push_back(t);
        until = to;
    }
    out.engines.assign(notes.positions.size(), std::vector<Readings>(out.at.size()));
    for (const auto& b : blocks) {
        const auto row = std::find_if(gaugeRegister.begin(), gaugeRegister.end(),
                                      [&](const GaugeRow& r) { return r.key == b.quantity; });
        if (row == gaugeRegister.end())
            continue;
        auto at = static_cast<std::size_t>(std::lower_bound(out.at.begin(), out.at.end(), b.start) - out.at.begin());
        const std::int64_t last = b.end() + (heldFor - 1) * b.step;
        for (; at < out.at.size() && out.at[at] < last; ++at) {
            auto index = std::min(static_cast<std::int64_t>(b.values.size()) - 1, (out.at[at] - b.start) / b.step);
            const bool beyond = out.at[at] >= b.end();
            for (int back = 1; index >= 0 && back < heldFor && std::isnan(b.values[static_cast<std::size_t>(index)]);
                 ++back)
                --index;
            if (index < 0 || std::isnan(b.values[static_cast<std::size_t>(index)]))
                continue;
            for (std::size_t e = 0; e < out.engines.size(); ++e) {
                if (!b.engine.empty() && notes.positions[e].id != b.engine)
                    continue;
                double& place = out.engines[e][at][row->gauge];
                if (!beyond || std::isnan(place)) // the next block's own figure goes before one that is held
                    place = b.values[static_cast<std::size_t>(index)];
            }
        }
    }
    return out;
}

} // namespace amber::record
