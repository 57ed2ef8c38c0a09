// SPDX-License-Identifier: GPL-3.0-or-later
#include "command_runner.h"
#include "flight/open_files.h"
#include "print/card.h"
#include "shell/snapshot.h"
#include <QFile>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

using namespace amber;
using test::run;

namespace {

QString data(const QString& file) {
    return QString::fromStdString(test::dataFolder()) + QLatin1Char('/') + file;
}
const QString demoPath = data(QStringLiteral("demo/lorimer-spring.toml"));

QString squeezed(QString text) {
    return text.replace(QRegularExpression(QStringLiteral("\\s+")), QString());
}

TEST(Card, TheTextOfThePdfHasTheFiguresOfTheJson) {
    QTemporaryDir scratch;
    for (const QString& name : {QStringLiteral("lorimer-spring"), QStringLiteral("farrier-summer")}) {
        const QString sortie = data(QStringLiteral("demo/%1.toml").arg(name));
        const QString pdf = scratch.filePath(name + QStringLiteral(".pdf"));
        ASSERT_EQ(run({QStringLiteral("plan"), sortie, QStringLiteral("--pdf"), pdf}).code, 0);
        QProcess reader;
        reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), pdf, QStringLiteral("-")});
        ASSERT_TRUE(reader.waitForFinished());
        const QString raw = QString::fromUtf8(reader.readAllStandardOutput());
        reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-raw"), pdf, QStringLiteral("-")});
        ASSERT_TRUE(reader.waitForFinished());
        const QString card = squeezed(raw) + squeezed(QString::fromUtf8(reader.readAllStandardOutput()));
        const auto json =
            nlohmann::json::parse(run({QStringLiteral("plan"), sortie, QStringLiteral("--json")}).out.toStdString());
        const auto has = [&](const nlohmann::json& value) {
            EXPECT_TRUE(card.contains(squeezed(QString::fromStdString(value.get<std::string>())))) << value;
        };
        for (const auto& phase : json["phases"]) {
            has(phase["headline"]);
            for (const auto& s : phase["set"])
                has(s["value"]);
            for (const auto& e : phase["expect"])
                has(e["value"]);
            for (const auto& c : phase["clock"])
                has(c["value"]);
            for (const auto& c : phase["cautions"])
                has(c);
        }
        EXPECT_TRUE(card.contains(QStringLiteral("mmodel,anestimate"))) << "origin marks are explained";
        QProcess info;
        info.start(QStringLiteral("pdfinfo"), {pdf});
        ASSERT_TRUE(info.waitForFinished());
        const QString facts = QString::fromUtf8(info.readAllStandardOutput());
        EXPECT_TRUE(facts.contains(QRegularExpression(QStringLiteral("Page size:\\s+(419|420)\\.?\\d* x (595|596)"))))
            << facts.toStdString();
        const int sides = QRegularExpression(QStringLiteral("Pages:\\s+(\\d+)")).match(facts).captured(1).toInt();
        EXPECT_GE(sides, 2);
        EXPECT_LE(sides, 7) << "three sheets at most, the walk-round with them, and a side for trouble";
        // The last side is what is done when it goes wrong: drills of this type, with its figures.
        QProcess last;
        last.start(QStringLiteral("pdftotext"),
                   {QStringLiteral("-f"), QString::number(sides), QStringLiteral("-raw"), pdf, QStringLiteral("-")});
        ASSERT_TRUE(last.waitForFinished());
        const QString trouble = squeezed(QString::fromUtf8(last.readAllStandardOutput()));
        const auto out =
            nlohmann::json::parse(run({QStringLiteral("trouble"), QStringLiteral("engine-out"), sortie,
                                       QStringLiteral("--at"), QStringLiteral("take-off"), QStringLiteral("--json")})
                                      .out.toStdString());
        EXPECT_TRUE(trouble.contains(QStringLiteral("WHENITGOESWRONG")));
        // It serves whichever engine fails: the first one's name is on no line of it.
        const auto loaded = flight::loadSortie(sortie.toStdString());
        const auto& positions = loaded.aircraft->notes.positions;
        const QString first = QStringLiteral(", ") + QString::fromStdString(positions.front().name);
        for (const auto& step : out["drills"][0]["steps"]) {
            QString what = QString::fromStdString(step["what"].get<std::string>());
            if (positions.size() > 1 && what.endsWith(first))
                what = what.chopped(first.size()) + QStringLiteral(", dead engine");
            EXPECT_TRUE(trouble.contains(squeezed(what))) << what.toStdString();
        }
        EXPECT_TRUE(trouble.contains(QStringLiteral("GOINGROUND")) &&
                    trouble.contains(QStringLiteral("FIRE:INTHEAIR")));
    }
}

TEST(CommandLine, PlanGivesJsonCsvAndText) {
    const auto json = run({QStringLiteral("plan"), demoPath, QStringLiteral("--json")});
    EXPECT_EQ(json.code, 0);
    EXPECT_EQ(nlohmann::json::parse(json.out.toStdString())["phases"].size(), 11u);
    EXPECT_TRUE(run({QStringLiteral("plan"), demoPath, QStringLiteral("--csv")})
                    .out.startsWith("phase,kind,what,value,origin,colour"));
    EXPECT_TRUE(run({QStringLiteral("plan"), demoPath}).out.contains("39 inHg"));
}

TEST(CommandLine, PointGivesTheKeysAndAgreesWithThePlan) {
    const QString notes = data(QStringLiteral("notes/lorimer-l4.toml"));
    const auto r =
        run({QStringLiteral("point"), QStringLiteral("--notes"), notes, QStringLiteral("--rpm"), QStringLiteral("2350"),
             QStringLiteral("--boost"), QStringLiteral("39 inHg"), QStringLiteral("--gear"), QStringLiteral("low"),
             QStringLiteral("--altitude"), QStringLiteral("0 ft"), QStringLiteral("--json")});
    ASSERT_EQ(r.code, 0) << r.err.toStdString();
    const auto json = nlohmann::json::parse(r.out.toStdString());
    for (const char* key : {"power_kW", "manifold_pressure_kPa", "full_throttle", "charge_temperature_C",
                            "air_flow_kg_h", "fuel_flow_kg_h", "bsfc_g_kWh", "full_throttle_height_m"})
        EXPECT_TRUE(json.contains(key)) << key;
    EXPECT_NEAR(json["power_kW"].get<double>(), 1230 * 0.7457, 0.02 * 1230 * 0.7457);
    EXPECT_NEAR(json["full_throttle_height_m"].get<double>(), 5150 * 0.3048, 150);
    EXPECT_FALSE(json["full_throttle"].get<bool>());
}

TEST(CommandLine, ExitCodesAreAsDocumented) {
    QTemporaryDir scratch;
    EXPECT_EQ(run({QStringLiteral("--version")}).code, 0);
    EXPECT_EQ(run({QStringLiteral("--help")}).code, 0);
    EXPECT_EQ(run({QStringLiteral("point"), QStringLiteral("--notes"), demoPath}).code, 2) << "missing options";
    EXPECT_EQ(run({QStringLiteral("plan"), QStringLiteral("/no/such.toml")}).code, 1);
    const QString bad = scratch.filePath(QStringLiteral("bad.toml"));
    QFile f(bad);
    ASSERT_TRUE(f.open(QIODevice::WriteOnly));
    f.write("format = 1\n[type]\nnmae = \"x\"\n");
    f.close();
    const auto check = run({QStringLiteral("check"), bad, demoPath, data(QStringLiteral("notes/farrier-f5.toml"))});
    EXPECT_EQ(check.code, 1);
    EXPECT_TRUE(check.out.contains("bad.toml:3: type.nmae is not a key of this format. Did you mean name?"))
        << check.out.toStdString();
    EXPECT_TRUE(check.out.contains("sortie in order"));
    EXPECT_EQ(run({QStringLiteral("check"), demoPath}).code, 0);
    EXPECT_EQ(
        run({QStringLiteral("plan"), demoPath, QStringLiteral("--pdf"), QStringLiteral("/proc/none/card.pdf")}).code,
        3);
    EXPECT_EQ(run({QStringLiteral("snapshot"), QStringLiteral("--view"), QStringLiteral("nowhere"),
                   QStringLiteral("--out"), scratch.filePath(QStringLiteral("x.png"))})
                  .code,
              2);
}

TEST(CommandLine, SnapshotsAreDrawnWithoutADisplay) {
    QTemporaryDir scratch;
    const auto list = run({QStringLiteral("snapshot"), QStringLiteral("--list")});
    EXPECT_TRUE(list.out.contains("mercer-start-order")) << list.out.toStdString();
    EXPECT_TRUE(list.out.contains("tinker-walk-round")) << list.out.toStdString();
    const QString png = scratch.filePath(QStringLiteral("climb.png"));
    ASSERT_EQ(run({QStringLiteral("snapshot"), QStringLiteral("--view"), QStringLiteral("lorimer-climb"),
                   QStringLiteral("--out"), png, QStringLiteral("--size"), QStringLiteral("1400x900"),
                   QStringLiteral("--theme"), QStringLiteral("hangar")})
                  .code,
              0);
    const QImage image(png);
    EXPECT_EQ(image.size(), QSize(1400, 900));
    EXPECT_LT(image.pixelColor(1390, 140).lightness(), 60);
}

TEST(CommandLine, PrimeAndStartOrderGiveJson) {
    const QString notes = data(QStringLiteral("notes/lorimer-l4.toml"));
    const auto prime = run({QStringLiteral("prime"), QStringLiteral("--notes"), notes, QStringLiteral("--temperature"),
                            QStringLiteral("-5 C"), QStringLiteral("--json")});
    ASSERT_EQ(prime.code, 0) << prime.err.toStdString();
    const auto dose = nlohmann::json::parse(prime.out.toStdString());
    EXPECT_EQ(dose["dose"], 5);
    EXPECT_EQ(dose["origin"], "notes");
    for (const char* key : {"unit", "firing_low", "firing_high", "flood_dose", "vaporise_s", "drain_s"})
        EXPECT_TRUE(dose.contains(key)) << key;
    const auto order =
        run({QStringLiteral("start-order"), QStringLiteral("--notes"), notes, QStringLiteral("--order"),
             QStringLiteral("1,2"), QStringLiteral("--fail"), QStringLiteral("1:1"), QStringLiteral("--temperature"),
             QStringLiteral("6 C"), QStringLiteral("--supply"), QStringLiteral("battery"), QStringLiteral("--json")});
    ASSERT_EQ(order.code, 0) << order.err.toStdString();
    const auto json = nlohmann::json::parse(order.out.toStdString());
    EXPECT_LT(json["running_from_s"]["2"].get<double>(), json["running_from_s"]["1"].get<double>());
    EXPECT_LT(json["totals"]["battery_left"].get<double>(), 1.0);
    EXPECT_EQ(run({QStringLiteral("start-order"), QStringLiteral("--notes"), notes, QStringLiteral("--order"),
                   QStringLiteral("1"), QStringLiteral("--temperature"), QStringLiteral("6 C")})
                  .code,
              2);
    EXPECT_EQ(run({QStringLiteral("prime"), QStringLiteral("--notes"), notes, QStringLiteral("--temperature"),
                   QStringLiteral("warm")})
                  .code,
              2);
}

} // namespace
