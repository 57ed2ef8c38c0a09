// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>

namespace amber::app {

/// Asks the desktop not to darken the screen while a run is live (org.freedesktop.ScreenSaver over the session bus),
/// and gives it back. Where there is no session bus, or nobody answers, nothing happens.
class KeepAwake {
public:
    ~KeepAwake() { release(); }
    void hold(const QString& why);
    void release();
    [[nodiscard]] bool held() const { return cookie_ != 0; }

private:
    unsigned cookie_ = 0;
};

} // namespace amber::app
