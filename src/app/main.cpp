// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"
#include "cli/exit_codes.h"
#include "flight/open_files.h"
#include "kit/theme.h"
#include "plan/plan.h"
#include "print/air_card.h"
#include "print/card.h"
#include "shell/main_window.h"
#include "shell/snapshot.h"
#include "store/data_folder.h"
#include <QApplication>
#include <QIcon>
#include <QStandardPaths>
#include <QTimer>
#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <string_view>

namespace {
using namespace amber;
using namespace amber::app;

/// Programs without a window draw off-screen, so that no display is needed.
void offScreen() {
    qputenv("QT_QPA_PLATFORM", "offscreen");
}

/// Whether a window can be shown; says what to do when not.
bool thereIsADisplay() {
    if (!qEnvironmentVariableIsEmpty("DISPLAY") || !qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY") ||
        !qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        return true;
    fmt::print(stderr, "amber-throttle: there is no display for the window. Without one, use a command: amber-throttle "
                       "plan SORTIE, or amber-throttle --help.\n");
    return false;
}

/// What Qt says to programmers of its own platform is nothing to somebody at a terminal.
void withoutPlatform(QtMsgType type, const QMessageLogContext& context, const QString& message) {
    const bool platform = (context.category && std::string_view(context.category).starts_with("qt.qpa")) ||
                          message.startsWith(QLatin1String("This plugin does not support")) ||
                          message.startsWith(QLatin1String("QStandardPaths: XDG_RUNTIME_DIR"));
    if (!platform || type == QtFatalMsg)
        fmt::print(stderr, "{}\n", message.toStdString());
}

/// Qt ends the program with a signal when a display does not answer: say so and leave in order instead.
void leaveInOrder(QtMsgType type, const QMessageLogContext&, const QString& message) {
    fmt::print(stderr, "{}\n", message.toStdString());
    if (type != QtFatalMsg)
        return;
    fmt::print(stderr, "amber-throttle: the window could not be opened on this display. Without one, use a command: "
                       "amber-throttle plan SORTIE, or amber-throttle --help.\n");
    std::_Exit(exitUsage);
}

void dress(QApplication& application) {
    QApplication::setStyle(QStringLiteral("Fusion"));
    application.setApplicationName(QStringLiteral("amber-throttle"));
    application.setApplicationDisplayName(QStringLiteral("Amber Throttle"));
    application.setDesktopFileName(QStringLiteral("amber-throttle"));
    application.setWindowIcon(QIcon(QStringLiteral(":/amber-throttle.svg")));
    if (!loadFonts())
        fmt::print(stderr, "amber-throttle: a font that ships with the program could not be loaded\n");
    application.setFont(face(14));
}
} // namespace

int main(int argc, char** argv) {
    qInstallMessageHandler(withoutPlatform);
    CommandActions actions;
    actions.snapshotViews = snapshotViews();
    actions.card = [&](const std::string& sortie, const std::string& pdf, bool air) {
        offScreen();
        QApplication application(argc, argv);
        dress(application);
        const auto loaded = flight::loadSortie(sortie);
        if (!loaded.ok()) {
            for (const auto& p : loaded.problems)
                fmt::print(stderr, "{}\n", p.text());
            return static_cast<int>(exitProblems);
        }
        const QString error = (air ? writeAirCardPdf : writeCardPdf)(QString::fromStdString(pdf),
                                                                     plan::makePlan(*loaded.aircraft, *loaded.sortie),
                                                                     *loaded.aircraft, *loaded.sortie);
        if (!error.isEmpty())
            fmt::print(stderr, "amber-throttle: {}\n", error.toStdString());
        return static_cast<int>(error.isEmpty() ? exitOk : exitWrite);
    };
    actions.chart = [&](const ChartOptions& options) {
        offScreen();
        QApplication application(argc, argv);
        dress(application);
        return drawChart(options);
    };
    actions.snapshot = [&](const std::string& view, const std::string& out, int width, int height, bool hangar) {
        offScreen();
        QApplication application(argc, argv);
        dress(application);
        return takeSnapshot(view, out, width, height, hangar);
    };
    actions.window = [&](const std::string& sortie, bool demo) {
        if (!thereIsADisplay())
            return static_cast<int>(exitUsage);
        const auto usual = qInstallMessageHandler(leaveInOrder);
        QApplication application(argc, argv);
        qInstallMessageHandler(usual);
        dress(application);
        MainWindow window({}, QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) +
                                  QStringLiteral("/autosave"));
        const bool bare = sortie.empty() && !demo;
        if (!bare &&
            window.openPath(demo ? demoSortie(QStringLiteral("lorimer-spring")) : QString::fromStdString(sortie)))
            window.showPhase(demo ? Phase::climb : Phase::walkRound);
        else
            window.showStart();
        window.show();
        QTimer::singleShot(0, &window, [&window] { window.offerRecovery(); });
        // For measuring how soon the window is up: draw once and leave.
        if (qEnvironmentVariableIsSet("AMBER_THROTTLE_QUIT_WHEN_SHOWN"))
            QTimer::singleShot(0, &application, [&window] {
                window.repaint();
                QApplication::quit();
            });
        return QApplication::exec();
    };
    return runCommandLine(argc, argv, actions);
}
