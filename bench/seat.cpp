// SPDX-License-Identifier: GPL-3.0-or-later
// What a frame of a rehearsal costs, from the clock's tick to the painted pixels: processor milliseconds of the real
// window, off-screen, at each speed of time, in the climb of a demo (the four-engined one without an argument). A frame
// is a sixtieth of a second; the score is drawn anew every fifteenth. Prints a Markdown table, median and worst.
// Usage: amber-seat [DEMO] [FRAMES, 600]
#include "data_folder.h"
#include "processor.h"
#include "shell/main_window.h"
#include <QApplication>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdlib>
#include <fmt/format.h>
#include <vector>

using namespace amber;
using bench::processorSeconds;

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    const QString demo = argc > 1 ? QString::fromLocal8Bit(argv[1]) : QStringLiteral("mercer-frost");
    const int frames = argc > 2 ? std::atoi(argv[2]) : 600;
    constexpr double frame = 1.0 / 60.0; // s
    constexpr int scoreEvery = 15;
    const QTemporaryDir scratch;
    app::MainWindow window(scratch.filePath(QStringLiteral("settings.ini")), scratch.filePath(QStringLiteral("kept")));
    window.askLeaveRehearsal = [] { return true; };
    window.resize(1280, 800);
    window.show();
    if (!window.openPath(QString::fromStdString(test::dataFolder()) + QStringLiteral("/demo/%1.toml").arg(demo)))
        return 1;
    window.openRehearsal();
    rehearse::Setup setup;
    setup.from = Phase::climb;
    window.seat().sit(setup, rehearse::Way::alone);
    window.seat().pause(true);
    window.seatFrame().showHands();
    for (int i = 0; i < 20; ++i)
        QCoreApplication::processEvents();
    fmt::print("{}, {} frames at each speed, processor ms a frame (a sixtieth of a second has 16.7)\n\n",
               demo.toStdString(), frames);
    fmt::print("| speed | median | 95 of 100 | worst |\n|---|---|---|---|\n");
    for (const int speed : {1, 5, 20, 60}) {
        window.seat().session().setSpeed(speed);
        std::vector<double> took;
        for (int i = 0; i < frames; ++i) {
            const double before = processorSeconds();
            window.seat().live(frame);
            if (i % scoreEvery == 0)
                window.score().showTrace(window.seat().session().rehearsal(), window.seat().session().planTime(0));
            for (int round = 0; round < 4; ++round)
                QCoreApplication::sendPostedEvents();
            took.push_back(1000 * (processorSeconds() - before));
        }
        std::sort(took.begin(), took.end());
        fmt::print("| ×{} | {:.2f} | {:.2f} | {:.2f} |\n", speed, took[took.size() / 2], took[took.size() * 95 / 100],
                   took.back());
    }
    return 0;
}
