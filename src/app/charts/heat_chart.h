// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QWidget>
#include <memory>

namespace amber::app {

/// Pictures of heat and time: every engine's warm-up from its own start; the climb against height; where heads or
/// coolant settle against speed for openings of the flaps; the let-down's steps; cooling at idle and after the stop.
/// Zoom with the wheel, drag to pan, Home or a double click shows all.
class HeatChart : public QWidget {
    Q_OBJECT
public:
    enum class Kind { engines, climb, cooling, schedule, afterwards };
    explicit HeatChart(SortieDocument& document, QWidget* parent = nullptr);
    ~HeatChart() override;
    void draw(Kind kind, Phase phase);
    [[nodiscard]] QString title() const;
    /// Read-out at a position inside the widget, as the tool tip shows it.
    [[nodiscard]] QString readOut(QPoint position) const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 160}; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Impl;
    std::unique_ptr<Impl> d_;
};

} // namespace amber::app
