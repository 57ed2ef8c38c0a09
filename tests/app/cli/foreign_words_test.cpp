// SPDX-License-Identifier: GPL-3.0-or-later
// What notes, sorties and other people's logs say is text wherever it is shown: never markup.
#include "kit/plain_tips.h"
#include "log/record_frame.h"
#include "pages/page_table.h"
#include "seat/seat_frame.h"
#include "window_fixture.h"
#include <QHelpEvent>
#include <QLabel>
#include <QRegularExpression>
#include <QToolTip>
#include <set>

namespace {
using namespace amber;

class ForeignWords : public test::Window {
protected:
    /// The Lorimer, with markup in every name that its files give.
    void markUp() const {
        const QString path = scratch.filePath(QStringLiteral("notes/lorimer-l4.toml"));
        QString text = QString::fromUtf8(contents(path));
        const auto names = QRegularExpression(
            QStringLiteral("^((?:name|what|why|reason|caution|gain|risk|title|place|words) = \")([^\"\\\\]*)(\")"),
            QRegularExpression::MultilineOption);
        text.replace(names, QStringLiteral("\\1\\2 <b>qq</b>\\3"));
        write(path, text.toUtf8());
        const QString sortie = lorimer();
        QString day = QString::fromUtf8(contents(sortie));
        day.replace(
            QRegularExpression(QStringLiteral("^(title|field|to) = \"([^\"]*)\""), QRegularExpression::MultilineOption),
            QStringLiteral("\\1 = \"\\2 <b>qq</b>\""));
        write(sortie, day.toUtf8());
    }
    /// Labels that show the markup as what it would do.
    void look(std::set<std::string>& wrong, const QString& where) const {
        for (const auto* label : window->findChildren<QLabel*>()) {
            const bool rich = label->textFormat() == Qt::RichText ||
                              (label->textFormat() == Qt::AutoText && Qt::mightBeRichText(label->text()));
            if (rich && label->text().contains(QLatin1String("<b>qq")))
                wrong.insert(
                    (where + QLatin1String(": ") + label->objectName() + QLatin1String(" ") + label->text().left(120))
                        .toStdString());
        }
    }
};

TEST_F(ForeignWords, AreTextOnEveryPageInEveryModeAndDialogue) {
    markUp();
    ASSERT_TRUE(window->openPath(lorimer())) << "names may say anything";
    std::set<std::string> wrong;
    std::size_t seen = 0;
    for (std::size_t phase = 0; phase < plannedPhases; ++phase) {
        window->showPhase(phaseNames[phase].phase);
        for (const auto* page : app::pagesOf(phaseNames[phase].phase, document())) {
            window->page().showPage(page->key);
            test::settle();
            ++seen;
            look(wrong, QString::fromUtf8(page->key.data(), static_cast<qsizetype>(page->key.size())));
        }
    }
    EXPECT_GT(seen, 30u);
    window->openTrouble();
    for (const auto& page : app::troubleTable()) {
        window->trouble().showPage(page.key);
        window->trouble().reckonNow();
        test::settle();
        look(wrong, QStringLiteral("trouble"));
    }
    window->closeTrouble();
    window->openRehearsal();
    test::settle();
    look(wrong, QStringLiteral("rehearse"));
    window->closeRehearsal();
    window->openRecord();
    test::settle();
    look(wrong, QStringLiteral("record"));
    for (const auto& w : wrong)
        ADD_FAILURE() << w;
}

TEST_F(ForeignWords, InATipAreText) {
    auto* label = window->findChild<QLabel*>();
    ASSERT_NE(label, nullptr);
    label->setToolTip(QStringLiteral("<b>a</b> & b"));
    QHelpEvent help(QEvent::ToolTip, QPoint(2, 2), label->mapToGlobal(QPoint(2, 2)));
    QApplication::sendEvent(label, &help);
    EXPECT_TRUE(QToolTip::text().contains(QLatin1String("&lt;b&gt;a&lt;/b&gt; &amp; b")))
        << QToolTip::text().toStdString();
    EXPECT_EQ(app::PlainTips::shown(QStringLiteral("a < b")), QStringLiteral("a < b"));
}
} // namespace
