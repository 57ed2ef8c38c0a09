// SPDX-License-Identifier: GPL-3.0-or-later
// Every text that is shown, held to docs/glossary.md; with AMBER_WORDS=FILE they are written to it, sorted by place.
#include "command_runner.h"
#include "log/hours_dialog.h"
#include "log/learnt_dialog.h"
#include "log/trials_dialog.h"
#include "pages/page_table.h"
#include "seat/seat_frame.h"
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
        if (!test::thorough() && !qEnvironmentVariableIsSet("AMBER_WORDS") && type != "lorimer-spring" &&
            type != "farrier-summer")
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
    if (const QByteArray file = qgetenv("AMBER_WORDS"); !file.isEmpty()) {
        std::ofstream out(file.toStdString());
        for (const auto& [text, places] : all)
            out << text << "\t" << *places.begin()
                << (places.size() > 1 ? " and " + std::to_string(places.size() - 1) : "") << "\n";
    }
}
} // namespace
