// SPDX-License-Identifier: GPL-3.0-or-later
// Every text that is shown, held to docs/glossary.md; with AMBER_WORDS=FILE they are written to it, sorted by place.
#include "command_runner.h"
#include "log/hours_dialog.h"
#include "log/learnt_dialog.h"
#include "log/trials_dialog.h"
#include "pages/page_table.h"
#include "seat/seat_frame.h"
#include "shell/glossary.h"
#include "shown_words.h"
#include "thorough.h"
#include "window_fixture.h"
#include <fstream>
#include <map>

namespace {
using namespace amber;

class Words : public test::Window {
protected:
    using Places = std::map<std::string, std::set<std::string>>; ///< a text as "kind: text", where it stands

    void look(const std::string& place, QWidget& at) {
        test::settle();
        for (const auto& [kind, text] : test::wordsOf(at))
            all[kind + ": " + text].insert(place);
    }
    void everyPage(const std::string& type) {
        for (std::size_t phase = 0; phase < plannedPhases; ++phase) {
            window->showPhase(phaseNames[phase].phase);
            for (const auto* page : app::pagesOf(phaseNames[phase].phase, document())) {
                window->page().showPage(page->key);
                look(type + ", " + std::string(phaseNames[phase].title) + ", " + std::string(page->key),
                     window->page());
            }
        }
        window->openTrouble();
        for (const auto& page : app::troubleTable()) {
            window->trouble().showPage(page.key);
            window->trouble().reckonNow();
            look(type + ", trouble, " + std::string(page.key), window->trouble());
        }
        window->closeTrouble();
    }
    void otherModes(const std::string& type) {
        window->openRehearsal();
        look(type + ", rehearse, begin", window->seatFrame());
        rehearse::Setup setup;
        setup.from = Phase::walkRound;
        window->seat().sit(setup, rehearse::Way::led);
        window->seat().pause(true);
        window->seatFrame().showHands();
        look(type + ", rehearse, hands", window->seatFrame());
        window->seatFrame().showDebrief();
        look(type + ", rehearse, debrief", window->seatFrame());
        window->seatFrame().openCards();
        look(type + ", rehearse, questions", window->seatFrame());
        window->closeRehearsal();
        window->openRecord();
        for (const Phase phase : {Phase::start, Phase::runUp, Phase::climb, Phase::load, Phase::writeUp}) {
            window->showPhase(phase);
            look(type + ", record, " + std::string(keyOf(phase)), window->recordFrame());
        }
        window->closeRecord();
    }
    void commands(const std::string& type) {
        const auto at = [&](const char* folder) { return test::dataFolder() + "/" + folder + "/" + type + ".toml"; };
        for (const std::vector<std::string>& arguments : std::initializer_list<std::vector<std::string>>{
                 {"plan", at("demo")},
                 {"load", at("demo")},
                 {"fuel", at("demo")},
                 {"trouble", "engine-out", at("demo")},
                 {"trouble", "go-round", at("demo")},
                 {"trouble", "symptom", at("demo"), "--sign", "oil-pressure falls"}})
            for (const QByteArray& line : test::command(arguments).out.split('\n'))
                if (const auto text = QString::fromUtf8(line).simplified(); text.contains(QLatin1Char(' ')))
                    all["command: " + text.toStdString()].insert(type + ", " + arguments.front());
    }

    Places all;
};

TEST_F(Words, AreThoseOfTheGlossary) {
    mayLeaveRehearsal = true;
    answer = app::MainWindow::Unsaved::discard;
    const auto demos = QDir(scratch.filePath(QStringLiteral("demo"))).entryList({QStringLiteral("*.toml")});
    for (const QString& demo : demos) {
        const std::string type = demo.chopped(5).toStdString();
        if (!test::thorough() && !qEnvironmentVariableIsSet("AMBER_WORDS") && type != "mercer-frost")
            continue;
        open(type.c_str());
        everyPage(type);
        otherModes(type);
        commands(type);
    }
    for (const auto* action : window->findChildren<QAction*>()) {
        test::ShownWords words;
        test::addWords(words, "menu", action->text());
        for (const auto& [kind, text] : words)
            all[kind + ": " + text].insert("menus");
    }
    EXPECT_GT(all.size(), 1000u);
    // What the notes and sorties themselves say stands as it is written there; so does what the glossary gives.
    QString own;
    for (const char* folder : {"notes", "demo", "airframes"})
        for (const auto& file : QDir(scratch.filePath(QLatin1String(folder))).entryInfoList({QStringLiteral("*.toml")}))
            own += QString::fromUtf8(contents(file.absoluteFilePath()));
    std::vector<std::pair<QRegularExpression, QString>> rules{
        {QRegularExpression(QStringLiteral("\\b([Ss]he|[Hh]er|[Hh]erself)\\b")), QStringLiteral("it, the aircraft")}};
    for (const auto& term : app::glossary())
        for (const QString& other : term.not_)
            rules.emplace_back(QRegularExpression(QStringLiteral("\\b%1\\b").arg(QRegularExpression::escape(other)),
                                                  QRegularExpression::CaseInsensitiveOption),
                               term.term);
    int broken = 0;
    for (const auto& [text, places] : all) {
        const QString words = QString::fromStdString(text).section(QStringLiteral(": "), 1);
        for (const auto& [rule, say] : rules)
            if (const auto match = rule.match(words); match.hasMatch()) {
                // Found in the notes with the word before and after it: theirs.
                const qsizetype from =
                    std::max<qsizetype>(0, words.lastIndexOf(QLatin1Char(' '), match.capturedStart() - 2));
                qsizetype to = words.indexOf(QLatin1Char(' '), match.capturedEnd() + 1);
                const QString about = words.mid(from, (to < 0 ? words.size() : to) - from).trimmed();
                if (own.contains(about, Qt::CaseInsensitive))
                    continue;
                if (++broken <= 40)
                    ADD_FAILURE() << *places.begin() << ": \"" << match.captured().toStdString() << "\" is "
                                  << say.toStdString() << " in: " << text;
            }
    }
    EXPECT_EQ(broken, 0) << "texts that use another word than the glossary's";
    if (const QByteArray file = qgetenv("AMBER_WORDS"); !file.isEmpty()) {
        std::ofstream out(file.toStdString());
        for (const auto& [text, places] : all)
            out << text << "\t" << *places.begin()
                << (places.size() > 1 ? " and " + std::to_string(places.size() - 1) : "") << "\n";
    }
}
} // namespace
