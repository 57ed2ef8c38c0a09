// SPDX-License-Identifier: GPL-3.0-or-later
// The booklet on the command line: a chart measured through the child that reads pictures, and what is still to be
// looked for.
#include "command_runner.h"
#include "store/paper.h"
#include <QFile>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

namespace {
using namespace amber;
using test::command;
using test::notesOf;

class BookletCommands : public ::testing::Test {
protected:
    QTemporaryDir scratch;
    std::string path(const char* name) { return scratch.filePath(QLatin1String(name)).toStdString(); }
    /// A chart of 10 by 8 fields, 40 px each, and a line from its lower left corner to its upper right.
    std::string chart(const char* name = "chart.png", bool curve = true) {
        QImage page(500, 420, QImage::Format_Grayscale8);
        page.fill(240);
        QPainter p(&page);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(QColor(120, 120, 120), 1.4));
        for (int i = 0; i <= 10; ++i)
            p.drawLine(QPointF(50 + 40 * i, 50), QPointF(50 + 40 * i, 370));
        for (int i = 0; i <= 8; ++i)
            p.drawLine(QPointF(50, 50 + 40 * i), QPointF(450, 50 + 40 * i));
        p.setPen(QPen(Qt::black, 3));
        if (curve)
            p.drawLine(QPointF(50, 370), QPointF(450, 50));
        p.end();
        page.save(scratch.filePath(QLatin1String(name)));
        return path(name);
    }
    static std::vector<std::string> measuring(const std::string& file, const std::string& follow = "52,368 448,52") {
        return {"booklet",
                "measure",
                file,
                "--box",
                "40,40,420,340",
                "--x",
                "90,330=1000 410,330=9000",
                "--y",
                "90,330=100 90,90=700",
                "--follow",
                follow,
                "--json"};
    }
};

// The line from (0, 0) to (10,000, 800) of the printed scale, by hand: y = 0.08 x.
TEST_F(BookletCommands, APrintedLineIsMeasuredThroughTheChild) {
    const auto r = command(measuring(chart()));
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto out = nlohmann::json::parse(r.out.toStdString());
    EXPECT_TRUE(out["axes"]["grid"]);
    EXPECT_TRUE(out["axes"]["checked"]);
    EXPECT_EQ(out["axes"]["crossings"], 99);
    EXPECT_LT(out["axes"]["residual_px"], 0.2);
    ASSERT_LE(out["points"].size(), 4U) << "a straight line is two points";
    for (const auto& p : out["points"]) {
        EXPECT_NEAR(p["y"].get<double>(), 0.08 * p["x"].get<double>(), 4) << "a fifth of a pixel, and the pen's corner";
        EXPECT_LT(p["error_y"], 3.0);
    }
    EXPECT_NEAR(out["line_width_px"].get<double>(), 3, 1);
    EXPECT_TRUE(out["asks"].empty());
}

// The printed scale as feet and horsepower: the model stands beside each point, in the chart's own units.
TEST_F(BookletCommands, TheModelIsLaidOverTheCurve) {
    auto words = measuring(chart());
    for (const char* w :
         {"--of", "power-height", "--rpm", "2350", "--gear", "low", "--boost", "39 inHg", "--units", "ft hp"})
        words.emplace_back(w);
    EXPECT_EQ(command(words).code, 2) << "whose model?";
    words.insert(words.end(), {"--notes", notesOf("lorimer-l4")});
    const auto r = command(words);
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    for (const auto& p : nlohmann::json::parse(r.out.toStdString())["points"]) {
        EXPECT_NEAR(p["model"].get<double>(), 1230, 80) << "39 inHg at 2,350 rpm";
        EXPECT_TRUE(p["parts"]);
    }
    // Two marks an axis and no grid: nothing checks them, and whether the model parts cannot be said.
    auto unchecked = words;
    const auto box = std::find(unchecked.begin(), unchecked.end(), "--box");
    unchecked.erase(box, box + 2);
    const auto u = command(unchecked);
    const auto out = nlohmann::json::parse(u.out.toStdString());
    EXPECT_FALSE(out["axes"]["checked"]);
    for (const auto& p : out["points"])
        EXPECT_TRUE(p["parts"].is_null());
    *std::find(words.begin(), words.end(), "ft hp") = "ft kt";
    EXPECT_EQ(command(words).code, 2);
}

TEST_F(BookletCommands, WhereNoLineIsItAsks) {
    const auto r = command(measuring(chart("bare.png", false), "60,360 300,75"));
    EXPECT_EQ(r.code, 1);
    EXPECT_FALSE(nlohmann::json::parse(r.out.toStdString())["asks"].empty());
}

TEST_F(BookletCommands, WhatIsNoPageIsRefusedWithAReason) {
    const auto says = [&](const std::string& file, const char* reason) {
        const auto r = command(measuring(file));
        EXPECT_EQ(r.code, 1) << file;
        EXPECT_TRUE(r.err.contains(reason)) << r.err.toStdString();
        EXPECT_TRUE(r.out.isEmpty());
    };
    says(path("absent.png"), "no such file");
    says(notesOf("lorimer-l4"), "no picture that is read here");
    QFile spoilt(scratch.filePath(QStringLiteral("spoilt.pdf")));
    ASSERT_TRUE(spoilt.open(QIODevice::WriteOnly));
    spoilt.write("%PDF-1.4\n1 0 obj << /Type /Catalog >> garbage");
    spoilt.close();
    says(path("spoilt.pdf"), "damaged");
    // A picture that says it is 40,000 pixels square and is not: its head is read, not its pixels.
    QFile png(QString::fromStdString(chart()));
    ASSERT_TRUE(png.open(QIODevice::ReadOnly));
    QByteArray huge = png.readAll();
    const char side[4] = {0, 0, static_cast<char>(0x9c), 0x40};
    huge.replace(16, 4, QByteArray(side, 4)).replace(20, 4, QByteArray(side, 4));
    // The head's checksum, as PNG wants it
    quint32 crc = 0xffffffffU;
    for (const char c : huge.mid(12, 17)) {
        crc ^= static_cast<unsigned char>(c);
        for (int k = 0; k < 8; ++k)
            crc = crc & 1 ? 0xedb88320U ^ (crc >> 1) : crc >> 1;
    }
    crc ^= 0xffffffffU;
    for (int i = 0; i < 4; ++i)
        huge[29 + i] = static_cast<char>(crc >> (24 - 8 * i));
    QFile out(scratch.filePath(QStringLiteral("huge.png")));
    ASSERT_TRUE(out.open(QIODevice::WriteOnly));
    out.write(huge);
    out.close();
    says(path("huge.png"), "100 million");
}

TEST_F(BookletCommands, APageOfAPdfIsReadAndTheCountSaid) {
    {
        QPdfWriter writer(scratch.filePath(QStringLiteral("two.pdf")));
        writer.setPageSize(QPageSize(QPageSize::A6));
        QPainter p(&writer);
        p.fillRect(QRectF(1000, 1000, 1000, 1000), Qt::black);
        writer.newPage();
        p.drawLine(0, 0, 100, 100);
    }
    const auto page = app::readPaper(scratch.filePath(QStringLiteral("two.pdf")), 1);
    ASSERT_TRUE(page.wrong.empty()) << page.wrong;
    EXPECT_EQ(page.pages, 2);
    EXPECT_NEAR(page.page.width, 105 / 25.4 * 200, 3) << "A6 at 200 dots an inch";
    EXPECT_GT(std::count(page.page.grey.begin(), page.page.grey.end(), 0), 10000);
    EXPECT_NE(app::readPaper(scratch.filePath(QStringLiteral("two.pdf")), 3).wrong.find("2 pages"), std::string::npos);
    EXPECT_EQ(app::readPaper(scratch.filePath(QStringLiteral("two.pdf")), 1, [] { return true; }).page.empty(), true);
}

TEST_F(BookletCommands, WrongWordsAreToldBeforeAnythingIsRead) {
    for (const auto& [option, value] : {std::pair{"--x", "90,330"},
                                        {"--follow", "1,2"},
                                        {"--follow", "1;2 3;4"},
                                        {"--box", "1,2,3"},
                                        {"--page", "two"},
                                        {"--follow", "nan,5 9,9"},
                                        {"--x", "1,2=inf 3,4=5"}}) {
        auto words = measuring(path("absent.png"));
        if (const auto at = std::find(words.begin(), words.end(), option); at != words.end())
            *(at + 1) = value;
        else
            words.insert(words.end(), {option, value});
        const auto r = command(words);
        EXPECT_EQ(r.code, 2) << option << " " << value;
        EXPECT_FALSE(r.err.isEmpty());
    }
}

TEST_F(BookletCommands, WhatToLookForNextStandsFirst) {
    const auto r = command({"booklet", "missing", notesOf("tanner-tn7"), "--json"});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto out = nlohmann::json::parse(r.out.toStdString());
    ASSERT_FALSE(out.empty());
    EXPECT_EQ(out[0]["path"], "rating.*.fuel");
    EXPECT_NEAR(out[0]["fuel"].get<double>(), 0.07, 0.015);
    const auto complete = command({"booklet", "missing", notesOf("lorimer-l4")});
    EXPECT_EQ(complete.code, 0);
    EXPECT_EQ(command({"booklet", "missing", path("absent.toml")}).code, 1);
}
} // namespace
