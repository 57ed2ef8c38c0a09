// SPDX-License-Identifier: GPL-3.0-or-later
// Ten hours of a live run on an accelerated clock, without a recorder and with one of forty columns ten times a second:
// processor time over the time that passed, memory after the first hour and at the end, bytes of the log.
// amber-live-load [HOURS]
#include "aloft/line_reader.h"
#include "data_folder.h"
#include "processor.h"
#include "shell/main_window.h"
#include <QApplication>
#include <QFileInfo>
#include <QTemporaryDir>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <fstream>

using namespace amber;

namespace {
double resident() { // MB
    std::ifstream in("/proc/self/statm");
    double pages = 0.0, all = 0.0;
    in >> all >> pages;
    return pages * 4096.0 / 1e6;
}
} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::loadFonts();
    const double hours = argc > 1 ? std::atof(argv[1]) : 10.0;
    fmt::print(
        "| recorder | processor, % of a core | MB after an hour | MB at the end | log, MB |\n|---|---|---|---|---|\n");
    for (const bool recorder : {false, true}) {
        QTemporaryDir folder;
        app::MainWindow window(folder.filePath("settings.ini"), folder.filePath("autosave"));
        window.resize(1280, 800);
        window.openPath(QString::fromStdString(test::dataFolder()) + "/demo/lorimer-spring.toml");
        double at = 0.0;
        constexpr std::int64_t morning = 1'778'751'000'000;
        window.live().stamp = [&at] {
            return aloft::Stamp{"bench", static_cast<std::int64_t>(1000.0 * at),
                                morning + static_cast<std::int64_t>(1000.0 * at)};
        };
        window.show();
        window.openAloft();
        aloft::LineReader reader(window.document().aircraft().notes);
        std::string heading = "Time";
        const char* names[] = {"RPM", "Boost", "CHT", "Oil temp", "Oil press", "Fuel flow", "EGT", "Charge"};
        const char* units[] = {"rpm", "inHg", "°C", "°C", "lbf/in²", "US gal/h", "°C", "°C"};
        for (int c = 0; c < 40; ++c)
            heading += fmt::format(",{} {} [{}]", names[c % 8], c / 8 % 2 + 1, units[c % 8]);
        reader.take(heading + "\n", window.live().timeNow());
        double first = 0.0;
        const auto began = std::clock();
        std::size_t pressed = 0;
        while (at < hours * 3600.0) {
            if (recorder)
                for (int tenth = 0; tenth < 10; ++tenth) {
                    std::string line = fmt::format("{:.1f}", at + 0.1 * tenth);
                    for (int c = 0; c < 40; ++c) {
                        constexpr double base[] = {2100, 33, 190, 68, 80, 80, 700, 40};
                        line += fmt::format(",{:.1f}", base[c % 8] + std::sin(0.01 * at + c));
                    }
                    const auto rows = reader.take(line + "\n", window.live().timeNow() + tenth * 100);
                    if (!rows.empty())
                        window.live().feed(*reader.map(), rows);
                    (void)reader.told();
                }
            at += 1.0;
            if (std::fmod(at, 5.0) < 0.5)
                window.live().reckon();
            else
                window.aloft().refresh();
            window.aloft().grab(); // it is drawn
            QApplication::processEvents();
            if (at > 300.0 * static_cast<double>(pressed) && pressed < 8) {
                if (const auto next = window.live().proposed())
                    window.live().press(*next);
                ++pressed;
            }
            if (at == 3600.0)
                first = resident();
        }
        const double used = static_cast<double>(std::clock() - began) / CLOCKS_PER_SEC;
        double log = 0.0;
        for (const auto& info : QDir(folder.path()).entryInfoList(QDir::Files))
            log += info.fileName().startsWith("log.sqlite") ? static_cast<double>(info.size()) / 1e6 : 0.0;
        fmt::print("| {} | {:.2f} | {:.0f} | {:.0f} | {:.1f} |\n", recorder ? "40 columns, 10 a second" : "none",
                   100.0 * used / (hours * 3600.0), first, resident(), log);
    }
    return 0;
}
