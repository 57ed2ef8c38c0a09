// SPDX-License-Identifier: GPL-3.0-or-later
// What an edit in the day strip costs, from the key to the painted pixels: processor milliseconds of the real window,
// off-screen, on every page of a demo (the four-engined one without an argument). Prints a Markdown table, worst page
// first. With a phase, its pages alone, without trouble. Usage: amber-window [DEMO] [EDITS, 24] [PHASE]
#include "data_folder.h"
#include "kit/theme.h"
#include "processor.h"
#include "shell/main_window.h"
#include <QApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdlib>
#include <fmt/format.h>
#include <vector>

using namespace amber;
using bench::processorSeconds;

namespace {
void press(QWidget* widget, int key) {
    QKeyEvent down(QEvent::KeyPress, key, Qt::NoModifier), up(QEvent::KeyRelease, key, Qt::NoModifier);
    QCoreApplication::sendEvent(widget, &down);
    QCoreApplication::sendEvent(widget, &up);
}
} // namespace

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    const QString demo = argc > 1 ? QString::fromLocal8Bit(argv[1]) : QStringLiteral("mercer-frost");
    const int edits = argc > 2 ? std::atoi(argv[2]) : 24;
    const QTemporaryDir scratch;
    app::MainWindow window(scratch.filePath(QStringLiteral("settings.ini")), scratch.filePath(QStringLiteral("kept")));
    window.askUnsaved = [] { return app::MainWindow::Unsaved::discard; };
    window.resize(1280, 800);
    window.show();
    if (!window.openPath(QString::fromStdString(test::dataFolder()) + QStringLiteral("/demo/%1.toml").arg(demo)))
        return 1;
    // The plan's own time, by which the rest can be compared from machine to machine.
    double plan = 1e9;
    for (int i = 0; i < 20; ++i) {
        const double before = processorSeconds();
        if (plan::makePlan(window.document().aircraft(), window.document().sortie()).phases.empty())
            return 1;
        plan = std::min(plan, 1000 * (processorSeconds() - before));
    }
    auto* field = window.findChild<QLineEdit*>(QStringLiteral("oat-edit"));
    struct Row {
        std::string page;
        double median, worst, all;
    };
    std::vector<Row> rows;
    for (int p = 0; p <= static_cast<int>(Phase::stop); ++p)
        for (const auto* row : app::pagesOf(static_cast<Phase>(p), window.document())) {
            const auto page = row->key;
            if (argc > 3 && keyOf(static_cast<Phase>(p)) != argv[3])
                continue;
            window.showPhase(static_cast<Phase>(p));
            window.page().showPage(page);
            for (int i = 0; i < 20; ++i)
                QCoreApplication::processEvents();
            field->setFocus();
            std::vector<double> took, all;
            for (int i = 0; i < edits; ++i) {
                const double before = processorSeconds();
                press(field, i % 2 ? Qt::Key_Down : Qt::Key_Up);
                // Layout and painting are posted; what waits for a timer comes after the frame.
                for (int round = 0; round < 4; ++round)
                    QCoreApplication::sendPostedEvents();
                took.push_back(1000 * (processorSeconds() - before));
                for (int round = 0; round < 4; ++round)
                    QCoreApplication::processEvents();
                all.push_back(1000 * (processorSeconds() - before));
            }
            std::sort(took.begin(), took.end());
            std::sort(all.begin(), all.end());
            rows.push_back({fmt::format("{}, page {}", keyOf(static_cast<Phase>(p)), page), took[took.size() / 2],
                            took.back(), all[all.size() / 2]});
        }
    std::sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) { return a.median > b.median; });
    double sum = 0;
    fmt::print("| page | to the painted frame: median, ms | in plans | worst, ms | with what comes after it, ms "
               "|\n|---|---|---|---|---|\n");
    for (const auto& r : rows) {
        fmt::print("| {} | {:.1f} | {:.1f} | {:.1f} | {:.1f} |\n", r.page, r.median, r.median / plan, r.worst, r.all);
        sum += r.median;
    }
    std::vector<double> medians;
    for (const auto& r : rows)
        medians.push_back(r.median);
    std::sort(medians.begin(), medians.end());
    fmt::print("\nMedian of the pages {:.1f} ms, mean {:.1f} ms; one plan takes {:.1f} ms.\n",
               medians[medians.size() / 2], sum / static_cast<double>(rows.size()), plan);
    if (argc > 3)
        return 0;
    // Trouble from every phase: to the first act in its place, and with the figures that come after.
    std::vector<double> first, whole;
    double worstPage = 0.0;
    for (int round = 0; round < 3; ++round)
        for (int p = 0; p <= static_cast<int>(Phase::stop); ++p) {
            window.showPhase(static_cast<Phase>(p));
            for (int i = 0; i < 10; ++i)
                QCoreApplication::processEvents();
            const double before = processorSeconds();
            window.openTrouble();
            for (int posted = 0; posted < 4; ++posted)
                QCoreApplication::sendPostedEvents();
            first.push_back(1000 * (processorSeconds() - before));
            for (int i = 0; i < 6; ++i)
                QCoreApplication::processEvents();
            whole.push_back(1000 * (processorSeconds() - before));
            for (const auto& row : app::troubleTable()) {
                const double turned = processorSeconds();
                window.trouble().showPage(row.key);
                for (int posted = 0; posted < 4; ++posted)
                    QCoreApplication::sendPostedEvents();
                if (round > 0) // made once
                    worstPage = std::max(worstPage, 1000 * (processorSeconds() - turned));
                for (int i = 0; i < 6; ++i)
                    QCoreApplication::processEvents();
            }
            window.trouble().showPage("engine-fails");
            window.closeTrouble();
        }
    std::sort(first.begin(), first.end());
    std::sort(whole.begin(), whole.end());
    fmt::print(
        "\nTrouble: from the key to its first act {:.1f} ms (worst {:.1f}), with the figures {:.0f} ms (worst {:.0f}); "
        "another of its pages {:.1f} ms at worst.\n",
        first[first.size() / 2], first.back(), whole[whole.size() / 2], whole.back(), worstPage);
    return 0;
}
