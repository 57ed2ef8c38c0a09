// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/document.h"
#include "files/table_reader.h"
#include "units/unit_table.h"
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>

using namespace amber;
using namespace amber::document;

namespace {

Node parsed(const std::string& text) {
    Problems problems;
    auto node = parse(text, "t.toml", problems);
    EXPECT_TRUE(node && problems.empty()) << (problems.empty() ? text : problems.front().text());
    return node.value_or(Node{});
}

std::string allOf(const Problems& problems) {
    std::string out;
    for (const auto& p : problems)
        out += p.text() + "\n";
    return out;
}

TEST(Document, KeepsTheLineOfEveryValue) {
    const Node root = parsed("a = 1\n\n[b]\nc = \"x\"\n[[d]]\ne = [1,\n 2]\n");
    EXPECT_EQ(root.find("a")->line, 1);
    EXPECT_EQ(root.find("b")->find("c")->line, 4);
    EXPECT_EQ(root.find("d")->items.front().find("e")->line, 6);
    EXPECT_EQ(root.find("nothing"), nullptr);
}

TEST(Document, MembersStandInTheOrderOfTheFile) {
    const Node root = parsed("zebra = 1\napple = 2\nmango = 3\n");
    std::string order;
    for (const auto& [key, value] : root.members)
        order += key + " ";
    EXPECT_EQ(order, "zebra apple mango ");
}

TEST(Document, ASyntaxErrorNamesItsLine) {
    Problems problems;
    EXPECT_FALSE(parse("a = 1\nb = \nc = 3\n", "t.toml", problems));
    ASSERT_EQ(problems.size(), 1u);
    EXPECT_EQ(problems.front().line, 2);
    EXPECT_NE(problems.front().remedy.find("Correct this line"), std::string::npos);
}

TEST(Document, AKeyGivenTwiceIsAnError) {
    Problems problems;
    EXPECT_FALSE(parse("a = 1\na = 2\n", "t.toml", problems));
    EXPECT_EQ(problems.front().line, 2);
}

TEST(Overlay, ChangesMembersDeepAndKeyedElements) {
    Node base = parsed("[t]\na = 1\nb = 2\n[[rating]]\nkey = \"x\"\nrpm = 10\n[[rating]]\nkey = \"y\"\nrpm = 20\n");
    Problems problems;
    overlay(base, parsed("[t]\nb = 3\nc = 4\n[rating.y]\nrpm = 25\n"), "t.toml", problems);
    EXPECT_TRUE(problems.empty()) << allOf(problems);
    EXPECT_EQ(base.find("t")->find("a")->number, 1);
    EXPECT_EQ(base.find("t")->find("b")->number, 3);
    EXPECT_EQ(base.find("t")->find("c")->number, 4);
    EXPECT_EQ(base.find("rating")->items[0].find("rpm")->number, 10);
    EXPECT_EQ(base.find("rating")->items[1].find("rpm")->number, 25);
}

TEST(Overlay, NamingWhatIsNotThereIsAProblem) {
    Node base = parsed("[[rating]]\nkey = \"x\"\n");
    Problems problems;
    overlay(base, parsed("[rating.z]\nrpm = 1\n"), "t.toml", problems);
    EXPECT_NE(allOf(problems).find("rating.z, which the type does not have"), std::string::npos);
}

TEST(TableReader, ReportsEachKindOfFaultAndGoesOn) {
    const Node root =
        parsed("text = 3\ncylinders = 300\nflag = \"yes\"\nword = \"blue\"\nlist = [1]\nheight = 5\nspeed = "
               "\"5 ft\"\nrange = \"9 to 3 °C\"\npairs = [[1]]\nstray = 1\n");
    Problems problems;
    const std::string file = "t.toml";
    TableReader t(root, "engine", file, problems, FileFormat::notes);
    EXPECT_EQ(t.text("text"), "");
    EXPECT_FALSE(t.number("cylinders"));
    EXPECT_FALSE(t.flag("flag"));
    EXPECT_FALSE(t.word("word", {"red", "green"}));
    EXPECT_TRUE(t.texts("list").empty());
    EXPECT_FALSE(t.quantity<Dimension::length>("height"));
    EXPECT_FALSE(t.quantity<Dimension::speed>("speed"));
    EXPECT_FALSE(t.range(Dimension::temperature, "range"));
    EXPECT_TRUE(t.pairs("pairs", "first", "second").empty());
    EXPECT_FALSE(t.table("missing", true));
    t.finish();
    EXPECT_EQ(problems.size(), 11u) << allOf(problems);
    const auto all = allOf(problems);
    for (const char* piece :
         {"text must be text, but is a number", "cylinders = 300 is out of range", "flag must be true or false",
          "Use one of: red, green", "has no unit", "\"ft\" is not a unit of a speed", "runs from high to low",
          "pairs of numbers", "missing is missing", "stray is not a key"})
        EXPECT_NE(all.find(piece), std::string::npos) << piece << "\n" << all;
    for (const auto& p : problems)
        EXPECT_EQ(p.file, "t.toml");
}

TEST(TableReader, ReadsEachKindOfValue) {
    const Node root = parsed(
        "text = \"x\"\ncylinders = 3\nflag = true\nword = \"green\"\nlist = [\"a\", \"b\"]\nheight = \"5 ft\"\nrpm "
        "= 2400\nrange = \"-5 to +5 °C\"\npairs = [[1, 2], [3, 4]]\nunit = \"mph\"\n");
    Problems problems;
    const std::string file = "t.toml";
    TableReader t(root, "engine", file, problems, FileFormat::notes);
    EXPECT_EQ(t.text("text"), "x");
    EXPECT_EQ(t.number("cylinders"), 3.0);
    EXPECT_EQ(t.flag("flag"), true);
    EXPECT_EQ(t.word("word", {"red", "green"}), 1u);
    EXPECT_EQ(t.texts("list").size(), 2u);
    EXPECT_NEAR(t.quantity<Dimension::length>("height")->si(), 1.524, 1e-9);
    EXPECT_NEAR(t.quantity<Dimension::rotation>("rpm", true, units::rpm.spec)->si(), 40, 1e-9);
    EXPECT_NEAR(t.range(Dimension::temperature, "range")->second, 278.15, 1e-9);
    EXPECT_EQ(t.pairs("pairs", "first", "second").size(), 2u);
    EXPECT_EQ(t.unit(Dimension::speed, "unit"), units::mph.spec);
    t.finish();
    EXPECT_TRUE(problems.empty()) << allOf(problems);
}

TEST(Nearest, FindsTheSlipAndNotTheStranger) {
    const std::vector<std::string> names{"compression", "displacement", "cylinders"};
    EXPECT_EQ(nearest("compresion", names), "compression");
    EXPECT_EQ(nearest("cylnders", names), "cylinders");
    EXPECT_EQ(nearest("wings", names), "");
    EXPECT_EQ(nearest(std::string(500, 'x'), names), "");
}

RC_GTEST_PROP(DocumentProperty, AnyTextParsesOrSaysWhere, (const std::string& text)) {
    Problems problems;
    const auto node = parse(text, "any.toml", problems);
    const bool sound = node.has_value() || !problems.empty();
    RC_ASSERT(sound);
}

TEST(Document, WhatStandsInQuotesIsNoBracketAndWhatFollowsThemIs) {
    const std::string many(100, '['), back(100, ']'); // the parser itself would take them
    const auto refused = [](const std::string& text) {
        Problems problems;
        return !document::parse(text, "f.toml", problems).has_value();
    };
    EXPECT_FALSE(refused("a = '" + many + "'\nb = 1\n")) << "a literal holds what it likes";
    EXPECT_FALSE(refused("a = \"" + many + "\"\nb = 1\n"));
    EXPECT_FALSE(refused("a = 1 # " + many + "\nb = 2\n"));
    for (const std::string quoted : {"'x'", "\"x\"", "\'\'\'x\'\'\'", "\"\"\"x\"\"\""})
        EXPECT_TRUE(refused("a = [" + quoted + ", " + many + back + "]\n"))
            << quoted << ": after its end brackets count again";
    EXPECT_TRUE(refused("a = 1 # it is\nb = " + many + back + "\n"));
}

} // namespace
