// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/entry.h"
#include "files/key_ranges.h"
#include "record/what.h"
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <memory>

namespace amber::record {
namespace {
struct KindRow {
    Entry::Kind kind;
    std::string_view key;
};
constexpr std::array<KindRow, 4> kinds{{
    {Entry::Kind::figure, "figure"},
    {Entry::Kind::looked, "looked"},
    {Entry::Kind::words, "words"},
    {Entry::Kind::withdrawn, "withdrawn"},
}};
constexpr std::size_t longest = 64;              // of an id
constexpr double longestStretch = 14 * 86'400.0; // s
constexpr std::size_t mostWords = 20'000;        // characters
constexpr std::size_t longestKey = 200;          // of what the notes name
constexpr std::size_t longestName = 400;         // bytes: of an airframe, a type, a title, a person
constexpr std::size_t longestPath = 8'192;       // bytes
constexpr double mostOfNotes = 1e9;              // SI, of what only they give a range
constexpr std::int64_t firstTime = 0;            // 1970

std::string wrongId(const std::string& id, const char* of) {
    if (id.empty() || id.size() > longest)
        return fmt::format("{} has no id of 1 to {} characters", of, longest);
    for (const char c : id)
        if (!(c >= '0' && c <= '9') && !(c >= 'a' && c <= 'z') && c != '-')
            return fmt::format("the id \"{}\" has other characters than 0-9, a-z and -", id);
    return {};
}
bool isTime(std::int64_t at) {
    return at > firstTime && at <= lastTime;
}
} // namespace

std::string_view keyOf(Entry::Kind kind) {
    return kinds[static_cast<std::size_t>(kind)].key;
}

std::optional<Entry::Kind> kindFromKey(std::string_view key) {
    for (const auto& row : kinds)
        if (row.key == key)
            return row.kind;
    return std::nullopt;
}

Ids idsFrom(std::function<std::uint64_t()> chance) {
    struct Last {
        std::int64_t at = -1;
        std::uint32_t count = 0;
    };
    return [chance = std::move(chance), last = std::make_shared<Last>()](std::int64_t now) {
        // A clock that is set back goes on counting in the time it had, so that ids still sort as they were given.
        if (now > last->at) {
            last->at = now;
            last->count = 0;
        } else if (++last->count > 0xffff) {
            ++last->at;
            last->count = 0;
        }
        return fmt::format("{:012x}-{:04x}-{:016x}", static_cast<std::uint64_t>(last->at) & 0xffff'ffff'ffffULL,
                           last->count, chance());
    };
}

std::string wrongText(std::string_view text, std::size_t most) {
    if (text.size() > most)
        return fmt::format("over {} bytes of text", most);
    for (std::size_t i = 0; i < text.size();) {
        const auto c = static_cast<unsigned char>(text[i]);
        if ((c < 0x20 && c != '\n' && c != '\t') || c == 0x7f)
            return fmt::format("a character that no text has (number {})", c);
        // RFC 3629, section 4.
        const std::size_t more = c < 0x80                ? 0
                                 : c >= 0xc2 && c < 0xe0 ? 1
                                 : c >= 0xe0 && c < 0xf0 ? 2
                                 : c >= 0xf0 && c < 0xf5 ? 3
                                                         : 4;
        if (more == 4 || i + more >= text.size())
            return "letters that are not UTF-8";
        for (std::size_t k = 1; k <= more; ++k)
            if ((static_cast<unsigned char>(text[i + k]) & 0xc0U) != 0x80U)
                return "letters that are not UTF-8";
        if (more >= 2) {
            const auto second = static_cast<unsigned char>(text[i + 1]);
            if ((c == 0xe0 && second < 0xa0) || (c == 0xed && second >= 0xa0) || (c == 0xf0 && second < 0x90) ||
                (c == 0xf4 && second >= 0x90))
                return "letters that are not UTF-8";
        }
        if (c == 0xc2 && static_cast<unsigned char>(text[i + 1]) < 0xa0)
            return "a character that no text has (a control of the terminal)";
        i += more + 1;
    }
    return {};
}

std::string wrongWith(const Run& r) {
    if (auto wrong = wrongId(r.id, "a run"); !wrong.empty())
        return wrong;
    for (const auto* text : {&r.airframe, &r.type, &r.title})
        if (auto wrong = wrongText(*text, longestName); !wrong.empty())
            return fmt::format("run {} has {}", r.id, wrong);
    if (auto wrong = wrongText(r.sortie, longestPath); !wrong.empty())
        return fmt::format("run {}: the path of its sortie has {}", r.id, wrong);
    if (r.airframe.empty())
        return fmt::format("run {} names no airframe", r.id);
    if (!isTime(r.began))
        return fmt::format("run {} began at no time between 1970 and 9999", r.id);
    return {};
}

std::string wrongWith(const Entry& e) {
    if (auto wrong = wrongId(e.id, "an entry"); !wrong.empty())
        return wrong;
    if (auto wrong = wrongId(e.run, "the run of an entry"); !wrong.empty())
        return wrong;
    if (e.supersedes == e.id)
        return fmt::format("entry {} supersedes itself", e.id);
    if (!e.supersedes.empty())
        if (auto wrong = wrongId(e.supersedes, "what an entry supersedes"); !wrong.empty())
            return wrong;
    if (!isTime(e.at) || !isTime(e.entered))
        return fmt::format("entry {} was at no time between 1970 and 9999", e.id);
    if (auto wrong = wrongText(e.words, mostWords); !wrong.empty())
        return fmt::format("entry {}: its words have {}", e.id, wrong);
    for (const auto* text : {&e.who, &e.engine})
        if (auto wrong = wrongText(*text, longestName); !wrong.empty())
            return fmt::format("entry {} has {}", e.id, wrong);
    if (auto wrong = wrongText(e.what, longestName); !wrong.empty())
        return fmt::format("entry {} has {}", e.id, wrong);
    const bool words = takesWords(e.what), ofNotes = isOfNotes(e.what) && e.what.size() <= longestKey;
    if (!words && !ofNotes && !whatOf(e.what))
        return fmt::format("entry {}: \"{}\" is nothing that a log takes", e.id, e.what);
    if (isAnswer(e.what) != !e.about.empty())
        return fmt::format("entry {}: an engineer's answer is about something, and nothing else is", e.id);
    if (!e.about.empty())
        if (auto wrong = wrongId(e.about, "what an answer is about"); !wrong.empty())
            return wrong;
    if (e.lasted && (!std::isfinite(*e.lasted) || *e.lasted < 0.0 || *e.lasted > longestStretch))
        return fmt::format("entry {} lasted no time between nothing and {:.0f} days", e.id, longestStretch / 86'400);
    if (e.planned) { // held to what is held of what was read: it was reckoned, but a file says anything
        const auto* range = rangeOf(FileFormat::log, e.what);
        const double width = range ? range->highSi() - range->lowSi() : mostOfNotes;
        if (!std::isfinite(*e.planned) ||
            (range && (*e.planned < range->lowSi() - width || *e.planned > range->highSi() + width)))
            return fmt::format("entry {}: the figure planned for {} is not plausible", e.id, e.what);
    }
    switch (e.kind) {
    case Entry::Kind::figure:
        if (words)
            return fmt::format("entry {}: {} is words, not a figure", e.id, e.what);
        if (ofNotes) {
            if (!std::isfinite(e.value) || std::abs(e.value) > mostOfNotes || e.words.empty())
                return fmt::format("entry {}: a reading of {} is a figure with its unit in words", e.id, e.what);
            break;
        }
        if (const auto* range = rangeOf(FileFormat::log, e.what);
            !std::isfinite(e.value) || (range && !range->holds(e.value)))
            return fmt::format("entry {}: this figure of {} is not plausible. {}", e.id, e.what,
                               range ? range->expected() : std::string());
        break;
    case Entry::Kind::words:
        if (!(words || e.what.starts_with(ofWalk)) || e.words.empty())
            return fmt::format("entry {}: a defect, a note or an answer has words", e.id);
        break;
    case Entry::Kind::looked:
        if (words)
            return fmt::format("entry {}: only a needle is looked at", e.id);
        break;
    case Entry::Kind::withdrawn:
        if (e.supersedes.empty())
            return fmt::format("entry {} withdraws nothing", e.id);
        break;
    }
    return {};
}

} // namespace amber::record
