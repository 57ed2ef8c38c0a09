// SPDX-License-Identifier: GPL-3.0-or-later
// Lets everything that is posted happen, what is laid out anew last of all.
#pragma once
#include <QCoreApplication>
#include <QEvent>

namespace amber::test {

/// Sees whether anything was laid out. (A box that fits itself to its text says so by a timer of its own: its row is
/// laid out then, and what holds the row a pass later.)
class LaidOut : public QObject {
public:
    bool seen = false;
    bool eventFilter(QObject*, QEvent* event) override {
        seen = seen || event->type() == QEvent::LayoutRequest || event->type() == QEvent::Resize;
        return false;
    }
};

inline void settle() {
    LaidOut laidOut;
    QCoreApplication::instance()->installEventFilter(&laidOut);
    // Six passes at least, and until nothing moves; what never stands still is looked at as it is.
    for (int i = 0; i < 6 || (laidOut.seen && i < 40); ++i) {
        laidOut.seen = false;
        QCoreApplication::processEvents();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    }
}

} // namespace amber::test
