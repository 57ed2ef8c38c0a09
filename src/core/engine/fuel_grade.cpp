// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/fuel_grade.h"
#include "units/ascii.h"
#include "units/text.h"
#include <algorithm>
#include <charconv>
#include <fmt/format.h>

namespace amber::engine {

double performanceNumber(double grade) {
    return grade >= 100.0 ? grade : 2800.0 / (128.0 - std::max(grade, 40.0));
}

std::optional<double> gradeNumber(const std::string& grade) {
    double value = 0.0;
    const auto digits = std::find_if(grade.begin(), grade.end(), ascii::isDigit);
    const char* from = grade.data() + (digits - grade.begin());
    if (std::from_chars(from, grade.data() + grade.size(), value).ec != std::errc{} || value < 40 || value > 200)
        return std::nullopt;
    return value;
}

namespace {
struct Entry {
    double number;
    ManifoldPressure boost;
};

/// The rating's own boost at its own grade, and its entries, best grade first.
std::vector<Entry> entriesOf(const Rating& rating) {
    std::vector<Entry> out;
    if (const auto own = gradeNumber(rating.grade); own && rating.boost)
        out.push_back({performanceNumber(*own), *rating.boost});
    for (const auto& [grade, boost] : rating.grades)
        if (const auto number = gradeNumber(grade))
            out.push_back({performanceNumber(*number), boost});
    std::sort(out.begin(), out.end(), [](const Entry& a, const Entry& b) { return a.number > b.number; });
    return out;
}

std::optional<GradeCap> byEntries(const Rating& rating, const std::string& grade) {
    if (const auto exact = rating.grades.find(grade); exact != rating.grades.end())
        return GradeCap{exact->second, Origin::notes};
    if (grade == rating.grade)
        return GradeCap{*rating.boost, Origin::notes};
    const auto number = gradeNumber(grade);
    const auto entries = entriesOf(rating);
    if (!number || entries.empty())
        return std::nullopt;
    const double wanted = performanceNumber(*number);
    if (wanted >= entries.front().number)
        return GradeCap{entries.front().boost, Origin::notes};
    for (std::size_t i = 1; i < entries.size(); ++i)
        if (wanted >= entries[i].number) {
            const auto &high = entries[i - 1], &low = entries[i];
            const double t = high.number > low.number ? (wanted - low.number) / (high.number - low.number) : 0.0;
            return GradeCap{ManifoldPressure::si(low.boost.si() + t * (high.boost.si() - low.boost.si())),
                            Origin::between};
        }
    return GradeCap{entries.back().boost, Origin::model};
}
} // namespace

std::string gradeRemark(const TypeNotes& notes, const std::string& grade) {
    const auto& known = notes.fuel.grades;
    if (std::find(known.begin(), known.end(), grade) != known.end())
        return {};
    const auto theirs = fmt::format("the notes know {}", fmt::join(known, ", "));
    return gradeNumber(grade)
               ? fmt::format("Grade {} is not in the notes; it is reckoned by its number ({})", grade, theirs)
               : fmt::format("\"{}\" is not a fuel grade: {}", grade, theirs);
}

std::optional<GradeCap> gradeCap(const TypeNotes& notes, const Rating& rating, const std::string& grade) {
    if (!rating.boost)
        return std::nullopt;
    if (!rating.grade.empty() || !rating.grades.empty())
        return byEntries(rating, grade);
    std::optional<GradeCap> cap;
    for (const auto& other : notes.ratings)
        if (other.boost && (!other.grade.empty() || !other.grades.empty()))
            if (const auto theirs = byEntries(other, grade); theirs && (!cap || theirs->boost > cap->boost))
                cap = theirs;
    return cap;
}

} // namespace amber::engine
