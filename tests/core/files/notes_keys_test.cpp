// SPDX-License-Identifier: GPL-3.0-or-later
// Every line of a good notes file broken in turn: each fault must be found, with its line.
#include "reading/notes_reader.h"
#include "test_data.h"
#include "thorough.h"
#include <map>
#include <regex>
#include <set>

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

/// Spoils the chosen lines, every twelfth of them in one reading: each must be told on its own line.
void eachIsTold(const std::vector<std::string>& good, const std::map<std::size_t, std::string>& spoilt,
                const std::string& piece) {
    constexpr std::size_t readings = 12;
    for (std::size_t offset = 0; offset < readings; ++offset) {
        auto bad = good;
        std::set<int> wanted;
        std::size_t k = 0;
        for (const auto& [line, text] : spoilt)
            if (k++ % readings == offset) {
                bad[line] = text;
                wanted.insert(static_cast<int>(line) + 1);
            }
        const auto reading = readNotes(joined(bad), "t.toml");
        EXPECT_FALSE(reading.notes);
        for (const auto& p : reading.problems)
            if (p.what.find(piece) != std::string::npos)
                wanted.erase(p.line);
        for (const int line : wanted)
            ADD_FAILURE() << "line " << line << ": " << bad[static_cast<std::size_t>(line) - 1] << " is not told";
    }
}

TEST_P(EachType, AMisspeltKeyIsFoundOnItsLine) {
    const auto good = lines();
    const std::regex key("^([a-z_]+)( = .*)$");
    std::map<std::size_t, std::string> spoilt;
    bool inVariant = false; // what a variant changes is checked where it lands
    for (std::size_t i = 0; i < good.size(); ++i) {
        if (good[i].starts_with("["))
            inVariant = good[i].starts_with("[variant.set") || good[i].starts_with("[[variant");
        std::smatch m;
        if (!inVariant && std::regex_match(good[i], m, key))
            spoilt[i] = m[1].str() + "x" + m[2].str();
    }
    EXPECT_GT(spoilt.size(), 150u);
    eachIsTold(good, spoilt, "is not a key");
}

TEST_P(EachType, AFigureInTheWrongUnitIsFoundOnItsLine) {
    const auto good = lines();
    const std::regex figure(
        "^([a-z_]+) = \"[^\"{]*[0-9] (inHg|°C|°F|kt|mph|km/h|ft|m|lb|kg|lbf/in²|kgf/cm²|mmHg|US gal|imp gal|l)\"$");
    std::map<std::size_t, std::string> spoilt;
    bool words = false;
    for (std::size_t i = 0; i < good.size(); ++i) {
        if (good[i].starts_with("["))
            words = good[i].find("step") != std::string::npos || good[i].find("clock") != std::string::npos ||
                    good[i].find("school") != std::string::npos || good[i].find("variant") != std::string::npos;
        std::smatch m;
        if (!words && std::regex_match(good[i], m, figure))
            spoilt[i] = good[i].substr(0, good[i].size() - m[2].length() - 1) + "parsec\"";
    }
    EXPECT_GT(spoilt.size(), 40u);
    eachIsTold(good, spoilt, "parsec");
}

TEST_P(EachType, NoSingleLineTakenOutTrapsTheReaderOrTheModels) {
    const auto good = lines();
    for (std::size_t i = good.size() % 7; i < good.size(); i += test::thorough() ? 1 : 41) {
        auto bad = good;
        bad.erase(bad.begin() + static_cast<long>(i));
        const auto reading = readNotes(joined(bad), "t.toml");
        EXPECT_EQ(reading.notes.has_value(), reading.problems.empty()) << good[i];
        if (reading.notes) {
            Problems problems;
            const auto aircraft = powerplant::assemble(*reading.notes, problems);
            EXPECT_NE(aircraft.has_value(), !problems.empty()) << good[i];
        }
    }
}

INSTANTIATE_TEST_SUITE_P(
    Fleet, EachType, testing::Values("lorimer-l4", "farrier-f5", "mercer-m6", "ostler-o3", "tanner-tn7", "thatcher-t3"),
    [](const auto& chosen) { return std::string(chosen.param).substr(0, std::string(chosen.param).find('-')); });

} // namespace
