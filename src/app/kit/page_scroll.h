// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QScrollArea>

namespace amber::app {

/// Holds a page: as wide and as high as there is room, and scrolled up and down where there is less height than it
/// needs at the least. (A plain scroll area would give pictures all the height they would like and scroll much sooner.)
class PageScroll : public QScrollArea {
    Q_OBJECT
public:
    explicit PageScroll(QWidget* parent = nullptr);
    void hold(QWidget* page);
    [[nodiscard]] QSize minimumSizeHint() const override;
    [[nodiscard]] QSize sizeHint() const override { return minimumSizeHint(); }

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fit();
    [[nodiscard]] int leastHeight(int width) const;
};

} // namespace amber::app
