// SPDX-License-Identifier: GPL-3.0-or-later
// The card for the air, read back from its PDF by Poppler.
#include "flight/open_files.h"
#include "print/air_card.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QProcess>
#include <QRegularExpression>

namespace {
using namespace amber;

class AirCardPdf : public testing::Test {
protected:
    struct Word {
        double left, top, right, bottom; ///< points
        QString text;
    };
    using Side = std::vector<Word>;
    static std::vector<Side> read(const QString& pdf) {
        QProcess reader;
        reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-bbox"), pdf, QStringLiteral("-")});
        EXPECT_TRUE(reader.waitForFinished(30000));
        const QString html = QString::fromUtf8(reader.readAllStandardOutput());
        std::vector<Side> out;
        const QRegularExpression word(QStringLiteral(
            "<page|<word xMin=\"([\\d.]+)\" yMin=\"([\\d.]+)\" xMax=\"([\\d.]+)\" yMax=\"([\\d.]+)\">([^<]*)</word>"));
        for (auto it = word.globalMatch(html); it.hasNext();) {
            const auto m = it.next();
            if (m.captured(0) == QLatin1String("<page"))
                out.emplace_back();
            else
                out.back().push_back({m.captured(1).toDouble(), m.captured(2).toDouble(), m.captured(3).toDouble(),
                                      m.captured(4).toDouble(), m.captured(5)});
        }
        return out;
    }
    static QString textOf(const Side& side) {
        QStringList words;
        for (const auto& w : side)
            words << w.text;
        return words.join(QLatin1Char(' '));
    }
};
class AirCard : public AirCardPdf, public testing::WithParamInterface<const char*> {};

TEST_P(AirCard, HasWhatFliesOnItsFirstSideInLargeTypeAndRoomForClipAndRings) {
    constexpr double mm = 72 / 25.4;
    QTemporaryDir folder;
    const QString path = folder.filePath(QStringLiteral("air.pdf"));
    const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/" + GetParam() + ".toml");
    ASSERT_TRUE(loaded.ok());
    const auto plan = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    ASSERT_EQ(app::writeAirCardPdf(path, plan, *loaded.aircraft, *loaded.sortie), QString());
    const auto sides = read(path);
    ASSERT_GE(sides.size(), 2u);
    EXPECT_LE(sides.size(), 4u);
    EXPECT_LE(sides.front().size(), 150u) << "words of the first side, with head and foot";
    for (std::size_t i = 0; i < sides.size(); ++i)
        for (const auto& w : sides[i]) {
            EXPECT_GE(w.top, 21.5 * mm) << w.text.toStdString() << " under the clip, side " << i + 1;
            EXPECT_GE(w.left, 9.5 * mm) << w.text.toStdString();
            EXPECT_LE(w.right, 141 * mm) << w.text.toStdString() << " runs over the edge, side " << i + 1;
            EXPECT_LE(w.bottom, 204 * mm) << w.text.toStdString() << " runs off the foot, side " << i + 1;
            EXPECT_GE(w.bottom - w.top, 11.0) << w.text.toStdString() << " is too small";
        }
    // Each figure is the plan's own.
    const QString first = textOf(sides.front());
    for (const Phase phase : {Phase::climb, Phase::cruise})
        for (const auto& line : plan[phase].set)
            if (std::any_of(line.figures.begin(), line.figures.end(),
                            [](const auto& f) {
                                return f.fact.dimension == Dimension::manifoldPressure ||
                                       f.fact.dimension == Dimension::rotation;
                            }) &&
                line.value.size() < 40)
                EXPECT_TRUE(first.contains(QString::fromStdString(line.value).simplified()))
                    << line.what << ": " << line.value << " not in " << first.toStdString();
    EXPECT_TRUE(first.contains(QStringLiteral("Fails:"))) << first.toStdString();
    EXPECT_TRUE(first.contains(QStringLiteral("1 of %1").arg(sides.size())));
    // Memory items: none is left out.
    QString rest;
    for (std::size_t i = 1; i < sides.size(); ++i)
        rest += textOf(sides[i]) + QLatin1Char(' ');
    EXPECT_TRUE(rest.contains(QStringLiteral("Engine fails")));
    EXPECT_TRUE(rest.contains(QStringLiteral("Fire in the air")));
    // Nothing on top of another thing.
    for (const auto& side : sides)
        for (std::size_t a = 0; a < side.size(); ++a)
            for (std::size_t b = a + 1; b < side.size(); ++b) {
                const QRectF one(side[a].left, side[a].top, side[a].right - side[a].left, side[a].bottom - side[a].top),
                    two(side[b].left, side[b].top, side[b].right - side[b].left, side[b].bottom - side[b].top);
                const QRectF both = one.intersected(two);
                EXPECT_FALSE(both.width() > 1 && both.height() > 5)
                    << side[a].text.toStdString() << " and " << side[b].text.toStdString();
            }
}
TEST_F(AirCardPdf, FirstWhatIsRedAndNamesNoEngineToFeather) {
    QTemporaryDir folder;
    const auto textOfCard = [&](const char* demo) {
        const QString path = folder.filePath(QStringLiteral("air.pdf"));
        const auto loaded = flight::loadSortie(test::dataFolder() + "/demo/" + demo + ".toml");
        EXPECT_EQ(app::writeAirCardPdf(path, plan::makePlan(*loaded.aircraft, *loaded.sortie), *loaded.aircraft,
                                       *loaded.sortie),
                  QString());
        QString all;
        for (const auto& side : read(path))
            all += textOf(side) + QLatin1Char(' ');
        return all;
    };
    const QString windy = textOfCard("wheelwright-windy");
    EXPECT_TRUE(windy.contains(QStringLiteral("behind the aft limit"))) << windy.toStdString();
    EXPECT_LT(windy.indexOf(QStringLiteral("behind the aft limit")), windy.indexOf(QStringLiteral("TAKE-OFF")));
    const QString lorimer = textOfCard("lorimer-spring");
    EXPECT_FALSE(lorimer.contains(QStringLiteral("NOT FIT"))) << "nothing red, nothing said";
    // Whichever fails: neither is named where one is shut down.
    EXPECT_TRUE(lorimer.contains(QStringLiteral("Feathering, dead engine")));
    for (const char* named : {"Feathering, Port", "Feathering, Starboard", "Mixture, Port", "Fuel cock, Port"})
        EXPECT_FALSE(lorimer.contains(QLatin1String(named))) << named;
    EXPECT_TRUE(lorimer.contains(QStringLiteral("less with height ≈"))) << "an estimate carries its mark";
    // Another day, another code.
    const QRegularExpression code(QStringLiteral("plan ([0-9a-f]{6})"));
    EXPECT_NE(code.match(lorimer).captured(1), code.match(windy).captured(1));
}
INSTANTIATE_TEST_SUITE_P(Demos, AirCard,
                         testing::Values("lorimer-spring", "farrier-summer", "mercer-frost", "ostler-bush",
                                         "tanner-winter", "thatcher-lesson", "tinker-damp", "collier-high",
                                         "wheelwright-height", "sexton-meadow", "chandler-haven"));
} // namespace
