// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/ground_budget_view.h"
#include "charts/heat_chart.h"
#include "charts/lever_map.h"
#include "charts/phase_chart.h"
#include "charts/power_chart_view.h"
#include "charts/start_timeline_view.h"
#include "charts/walk_round_view.h"
#include "data_folder.h"
#include "kit/figures_view.h"
#include "kit/row_view.h"
#include "pages/choose_cruise_page.h"
#include "pages/run_up_page.h"
#include "pages/settings_page.h"
#include "settle.h"
#include "shell/main_window.h"
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QtTest>
#include <filesystem>
#include <gtest/gtest.h>
#include <stdexcept>
#include <string>
#include <string_view>

namespace amber::test {

/// A folder of somebody's files and the window that is open on them.
struct Desk {
    QTemporaryDir folder;
    std::unique_ptr<app::MainWindow> window;
};

/// A real window on a copy of the demo files.
class Window : public testing::Test {
protected:
    explicit Window(std::shared_ptr<Desk> at = std::make_shared<Desk>())
        : desk(std::move(at)), scratch(desk->folder), window(desk->window) {}

    void SetUp() override {
        layOut();
        window = std::make_unique<app::MainWindow>(scratch.filePath(QStringLiteral("settings.ini")), autosaves());
        attend();
        window->resize(1280, 800);
        ASSERT_TRUE(window->openPath(lorimer()));
        window->show();
        ASSERT_TRUE(QTest::qWaitForWindowExposed(window.get()));
        window->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
        settle();
    }
    void TearDown() override {
        answer = app::MainWindow::Unsaved::discard;
        mayLeaveRehearsal = true;
        window.reset();
    }
    /// The demo files as they ship, and no other of ours.
    void layOut() const {
        ASSERT_TRUE(scratch.isValid());
        const std::filesystem::path here = scratch.path().toStdString();
        for (const auto& entry : std::filesystem::directory_iterator(here))
            std::filesystem::remove_all(entry);
        for (const char* folder : {"notes", "demo", "airframes"})
            std::filesystem::copy(std::filesystem::path(dataFolder()) / folder, here / folder);
    }
    /// Answers what the window asks.
    void attend() {
        window->askUnsaved = [this] {
            ++asked;
            return answer;
        };
        window->askLeaveRehearsal = [this] {
            ++leaveAsked;
            return mayLeaveRehearsal;
        };
        window->askFile = [this](const QString&, const QString&, const QString&, bool) { return file; };
    }

    [[nodiscard]] QString autosaves() const { return scratch.filePath(QStringLiteral("autosave")); }
    [[nodiscard]] QString lorimer() const { return scratch.filePath(QStringLiteral("demo/lorimer-spring.toml")); }
    [[nodiscard]] QString farrier() const { return scratch.filePath(QStringLiteral("demo/farrier-summer.toml")); }
    [[nodiscard]] QLineEdit* field(const char* name) const {
        return window->findChild<QLineEdit*>(QLatin1String(name) + QStringLiteral("-edit"));
    }
    [[nodiscard]] app::SortieDocument& document() const { return window->document(); }
    [[nodiscard]] static QByteArray contents(const QString& path) {
        QFile f(path);
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
    static void write(const QString& path, const QByteArray& bytes) {
        QFile f(path);
        ASSERT_TRUE(f.open(QIODevice::WriteOnly));
        f.write(bytes);
    }
    /// Opens a demo, by its file without .toml, at a page of a phase.
    void open(const char* demo, Phase phase = Phase::climb, std::string_view page = "settings") {
        answer = app::MainWindow::Unsaved::discard;
        ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/%1.toml").arg(QLatin1String(demo)))));
        window->showPhase(phase);
        window->page().showPage(page);
        settle();
    }
    /// A part of the page that is shown, by class and name.
    template <class W>
    W& on(const char* name = nullptr) const {
        auto* found = name ? window->page().page().template findChild<W*>(QLatin1String(name))
                           : window->page().page().template findChild<W*>();
        if (!found)
            throw std::runtime_error(std::string("the page has no ") + (name ? name : typeid(W).name()));
        return *found;
    }
    [[nodiscard]] app::RowView& rows(const char* column) const { return on<app::RowView>(column); }
    /// The figures beside a picture.
    [[nodiscard]] QString figures() const {
        if (const auto* view = window->page().page().findChild<app::FiguresView*>(QStringLiteral("heat-figures")))
            return view->text();
        return on<QLabel>("heat-figures").text();
    }
    /// The page that is shown, of its class.
    template <class P>
    P& pageAs() const {
        return dynamic_cast<P&>(window->page().page());
    }
    /// What a column of the page shows, all rows in one text.
    static QString shown(app::RowView& view) {
        QStringList rows;
        for (int i = 0; i < view.model()->rowCount(); ++i)
            rows << view.model()->index(i, 0).data().toString();
        return rows.join(QLatin1Char('\n'));
    }
    void type(const char* name, const QString& text) const {
        QLineEdit* edit = field(name);
        ASSERT_NE(edit, nullptr) << name;
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, text);
    }

    const std::shared_ptr<Desk> desk;
    QTemporaryDir& scratch;
    std::unique_ptr<app::MainWindow>& window;
    app::MainWindow::Unsaved answer = app::MainWindow::Unsaved::cancel;
    int asked = 0, leaveAsked = 0;
    bool mayLeaveRehearsal = true;
    QString file;
};

/// The same window from one test of a suite to the next, as of somebody who goes on working in it: two fifths of what
/// a test of a page costs is to build a window and take it down. Files, settings, theme, size and what is open are put
/// back.
class KeptWindow : public Window {
protected:
    KeptWindow() : Window(kept() ? kept() : kept() = std::make_shared<Desk>()) {}
    static void TearDownTestSuite() { kept().reset(); }

    void SetUp() override {
        if (!window)
            return Window::SetUp();
        answer = app::MainWindow::Unsaved::discard;
        attend();
        window->closeRecord();
        window->book().close();
        layOut();
        QSettings(scratch.filePath(QStringLiteral("settings.ini")), QSettings::IniFormat).clear();
        window->closeTrouble();
        window->closeRehearsal();
        if (window->theme() != app::ThemeKind::day)
            window->setTheme(app::ThemeKind::day);
        window->resize(1280, 800);
        window->show(); // a test may have closed it
        ASSERT_TRUE(window->openPath(lorimer()));
        window->showPhase(Phase::walkRound);
        window->page().showPage("settings");
        window->trouble().showPage(app::troubleTable().front().key);
        window->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
        settle();
        answer = app::MainWindow::Unsaved::cancel;
        asked = leaveAsked = 0;
    }
    void TearDown() override {
        // Whatever a test has left hanging in the window ends with it.
        if (HasFailure())
            kept().reset();
        for (auto* dialog : window->findChildren<QDialog*>())
            delete dialog;
        answer = app::MainWindow::Unsaved::discard;
        mayLeaveRehearsal = true;
        window->closeRehearsal();
        window->askUnsaved = [] { return app::MainWindow::Unsaved::discard; };
        window->askLeaveRehearsal = [] { return true; };
        window->askFile = [](const QString&, const QString&, const QString&, bool) { return QString(); };
    }

private:
    static std::shared_ptr<Desk>& kept() {
        static std::shared_ptr<Desk> desk;
        return desk;
    }
};

} // namespace amber::test
