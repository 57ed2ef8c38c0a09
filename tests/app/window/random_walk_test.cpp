// SPDX-License-Identifier: GPL-3.0-or-later
#include "random_walk.h"
#include "window_fixture.h"

namespace {
using namespace amber;
using test::Window;

/// AMBER_THROTTLE_ACTS and AMBER_THROTTLE_SEED make it longer or another one (tools/random-acts).
TEST_F(Window, AnythingAnyoneDoesLeavesASortieThatCanBePlanned) {
    answer = app::MainWindow::Unsaved::discard;
    window->askConflict = [] { return app::MainWindow::Conflict::overwrite; };
    file = scratch.filePath(QStringLiteral("demo/walked.toml"));
    const int acts =
        qEnvironmentVariableIsSet("AMBER_THROTTLE_ACTS") ? qEnvironmentVariableIntValue("AMBER_THROTTLE_ACTS") : 90;
    const int seed =
        qEnvironmentVariableIsSet("AMBER_THROTTLE_SEED") ? qEnvironmentVariableIntValue("AMBER_THROTTLE_SEED") : 1;
    test::RandomWalk walk(*window, scratch.filePath(QStringLiteral("demo")), static_cast<std::uint64_t>(seed));
    for (int i = 0; i < acts; ++i) {
        const QString wrong = walk.act();
        ASSERT_TRUE(wrong.isEmpty()) << "seed " << seed << ", act " << i << ": " << wrong.toStdString();
        ASSERT_LE(window->minimumSizeHint().width(), 1280)
            << "seed " << seed << ", act " << i << ": it has grown too wide; strip "
            << window->strip().minimumSizeHint().width() << ", page " << window->page().minimumSizeHint().width();
    }
}

} // namespace
