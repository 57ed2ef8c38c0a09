// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QObject>
#include <QPointer>
#include <QWidget>
#include <functional>

namespace amber::app {

/// How much of a page that scrolls is in view. A page as tall as what is on it is not told that its window was made
/// higher or lower: this tells it.
class InView : public QObject {
public:
    InView(QWidget* page, std::function<void()> changed);
    /// Height of what is in view, in pixels; 0: the page is in nothing that scrolls yet.
    [[nodiscard]] int height();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* page_;
    std::function<void()> changed_;
    QPointer<QWidget> area_;
};

} // namespace amber::app
