// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command.h"
#include "cli/exit_codes.h"
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {
namespace {

/// "1280x800". @return false when it is not that
bool readSize(const std::string& text, int& width, int& height) {
    char end = 0;
    return std::sscanf(text.c_str(), "%dx%d%c", &width, &height, &end) == 2 && width >= 640 && height >= 480 &&
           width <= 7680 && height <= 4320;
}

class SnapshotCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "snapshot"; }
    [[nodiscard]] const char* help() const override { return "Draw a view of the demo to PNG, without a display"; }
    void declare(Arguments& a) override {
        a.text("--view", view_, "View, see --list");
        a.text("--out", out_, "PNG file");
        a.text("--size", size_, "WIDTHxHEIGHT");
        a.choice("--theme", theme_, {"day", "hangar"}, "day or hangar");
        a.flag("--list", list_, "List the views");
    }
    int run(const CommandActions& actions) override {
        if (list_) {
            for (const auto& view : actions.snapshotViews)
                fmt::print("{}\n", view);
            return exitOk;
        }
        int width = 0, height = 0;
        if (!readSize(size_, width, height) || view_.empty() || out_.empty()) {
            fmt::print(stderr,
                       "amber-throttle snapshot: --view and --out are needed; --size is WIDTHxHEIGHT from 640x480\n");
            return exitUsage;
        }
        return actions.snapshot(view_, out_, width, height, theme_ == "hangar");
    }

private:
    std::string view_, out_, size_ = "1280x800", theme_ = "day";
    bool list_ = false;
};
} // namespace

std::unique_ptr<Command> snapshotCommand() {
    return std::make_unique<SnapshotCommand>();
}

} // namespace amber::app
