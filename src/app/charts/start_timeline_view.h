// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QWidget>
#include <map>
#include <string>

namespace amber::app {

/// The start of all engines against time: one lane an engine, one for the supply. A click on an engine (or F on the
/// lane reached with Up and Down) asks what if its try does not catch; dragging a lane, or Ctrl with Up and Down,
/// changes the order.
class StartTimelineView : public QWidget {
    Q_OBJECT
public:
    explicit StartTimelineView(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] const start::StartTimeline& timeline() const { return timeline_; }
    [[nodiscard]] int failuresOf(const std::string& engine) const;
    /// One failed try more, back to none after the last that is allowed.
    void failOnceMore(const std::string& engine);
    [[nodiscard]] QString summary() const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 100}; }
    [[nodiscard]] QRectF laneRect(int lane) const;

signals:
    void orderWanted(const std::vector<std::string>& order);
    void summaryChanged();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    void recompute();
    void move(int lane, int by);
    [[nodiscard]] double xOf(double seconds) const;
    [[nodiscard]] double laneHeight() const;
    [[nodiscard]] QString supplyName() const;
    [[nodiscard]] QString nameOf(const std::string& engine) const;

    SortieDocument& document_;
    start::StartTimeline timeline_;
    std::map<std::string, int> failures_;
    int lane_ = 0;
    int pressed_ = -1;
};

} // namespace amber::app
