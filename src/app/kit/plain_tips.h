// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QObject>

namespace amber::app {

/// Shows every tool tip as the plain text that it is. Qt takes text that looks like HTML for HTML, and what a tip says
/// comes from notes, sorties and other people's logs. Installed once on the application.
class PlainTips : public QObject {
public:
    using QObject::QObject;
    bool eventFilter(QObject* watched, QEvent* event) override;
    /// As Qt is to be given it: safe, its lines kept.
    static QString shown(const QString& text);
};

} // namespace amber::app
