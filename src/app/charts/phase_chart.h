// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QWidget>

namespace amber::app {

/// The computed picture of a phase: priming for the start (against dose, or against time after the last stroke), boost
/// against height for the climb, power against height for the cruise, temperatures against time for the rest. Zoom with
/// the wheel, drag to pan, double click to see all again.
class PhaseChart : public QWidget {
    Q_OBJECT
public:
    enum class Kind { byPhase, primeDose, primeTime };
    explicit PhaseChart(SortieDocument& document, QWidget* parent = nullptr, Kind kind = Kind::byPhase);
    ~PhaseChart() override;
    void show(Phase phase);
    /// Whether a phase has one picture; the start has two of its own kinds, the walk-round its plate.
    [[nodiscard]] static bool hasPicture(Phase phase);
    [[nodiscard]] QString title() const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, 90}; }
    /// Read-out at a position inside the widget, as the tool tip shows it.
    [[nodiscard]] QString readOut(QPoint position) const;

signals:
    void heightDragged(double metres, int gesture); ///< the planned height was dragged on the picture

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Impl;
    std::unique_ptr<Impl> d_;
};

} // namespace amber::app
