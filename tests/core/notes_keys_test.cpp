// SPDX-License-Identifier: GPL-3.0-or-later
// Every line of a good notes file broken in turn: each fault must be found, with its line.
#include "notes/notes_reader.h"
#include "test_data.h"
#include <regex>

using namespace amber;

namespace {

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);)
        out.push_back(line);
    return out;
}

std::string joined(const std::vector<std::string>& lines) {
    std::string out;
    for (const auto& l : lines)
        out += l + "\n";
    return out;
}

class EachType : public testing::TestWithParam<const char*> {
protected:
    [[nodiscard]] std::vector<std::string> lines() const {
        return linesOf(test::fileText(test::dataPath("notes/" + std::string(GetParam()) + ".toml")));
    }
};

TEST_P(EachType, AMisspeltKeyIsFoundOnItsLine) {
    const auto good = lines();
    const std::regex key("^([a-z_]+)( = .*)$");
    int tried = 0;
    bool inVariant = false, inOpenTable = false;
    for (std::size_t i = 0; i < good.size(); ++i) {
        if (good[i].starts_with("["))
            inVariant = good[i].starts_with("[variant.set") || good[i].starts_with("[[variant");
        inOpenTable = inVariant; // what a variant changes is checked where it lands
        std::smatch m;
        if (inOpenTable || !std::regex_match(good[i], m, key))
            continue;
        auto bad = good;
        bad[i] = m[1].str() + "x" + m[2].str();
        const auto reading = readNotes(joined(bad), "t.toml");
        EXPECT_FALSE(reading.notes) << bad[i];
        bool found = false;
        for (const auto& p : reading.problems)
            found = found || (p.line == static_cast<int>(i) + 1 && p.what.find("is not a key") != std::string::npos);
        EXPECT_TRUE(found) << "line " << i + 1 << ": " << bad[i] << "\n"
                           << (reading.problems.empty() ? "no problem" : reading.problems.front().text());
        ++tried;
    }
    EXPECT_GT(tried, 150);
}

TEST_P(EachType, AFigureInTheWrongUnitIsFoundOnItsLine) {
    const auto good = lines();
    const std::regex figure(
        "^([a-z_]+) = \"[^\"{]*[0-9] (inHg|°C|°F|kt|mph|km/h|ft|m|lb|kg|lbf/in²|kgf/cm²|mmHg|US gal|imp gal|l)\"$");
    int tried = 0;
    bool words = false;
    for (std::size_t i = 0; i < good.size(); ++i) {
        if (good[i].starts_with("["))
            words = good[i].find("step") != std::string::npos || good[i].find("clock") != std::string::npos ||
                    good[i].find("school") != std::string::npos || good[i].find("variant") != std::string::npos;
        std::smatch m;
        if (words || !std::regex_match(good[i], m, figure))
            continue;
        auto bad = good;
        bad[i] = std::regex_replace(
            good[i], std::regex(" (inHg|°C|°F|kt|mph|km/h|ft|m|lb|kg|lbf/in²|kgf/cm²|mmHg|US gal|imp gal|l)\"$"),
            " parsec\"");
        const auto reading = readNotes(joined(bad), "t.toml");
        EXPECT_FALSE(reading.notes) << bad[i];
        bool found = false;
        for (const auto& p : reading.problems)
            found = found || p.line == static_cast<int>(i) + 1;
        EXPECT_TRUE(found) << "line " << i + 1 << ": " << bad[i];
        ++tried;
    }
    EXPECT_GT(tried, 40);
}

TEST_P(EachType, NoSingleLineTakenOutTrapsTheReaderOrTheModels) {
    const auto good = lines();
    for (std::size_t i = 0; i < good.size(); i += 3) {
        auto bad = good;
        bad.erase(bad.begin() + static_cast<long>(i));
        const auto reading = readNotes(joined(bad), "t.toml");
        EXPECT_EQ(reading.notes.has_value(), reading.problems.empty()) << good[i];
        if (reading.notes) {
            const auto aircraft = plan::assemble(*reading.notes);
            EXPECT_TRUE(aircraft.ok() || !aircraft.error().empty());
        }
    }
}

INSTANTIATE_TEST_SUITE_P(
    Fleet, EachType, testing::Values("lorimer-l4", "farrier-f5", "mercer-m6", "ostler-o3", "tanner-tn7", "thatcher-t3"),
    [](const auto& chosen) { return std::string(chosen.param).substr(0, std::string(chosen.param).find('-')); });

} // namespace
