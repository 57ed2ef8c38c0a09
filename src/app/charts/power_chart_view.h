// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/power_chart.h"
#include "store/sortie_document.h"
#include <QWidget>
#include <memory>

class QCustomPlot;
class QCPAxisRect;

namespace amber::app {

/// The power chart of the period, two panels, with the construction of one reading drawn on it: point A at sea level, B
/// at full-throttle height, the line that joins them, the reading, the correction for air temperature. Drag A for the
/// boost and the reading for the height (Left and Right move the height, Up and Down the boost, Page Up and Down the
/// rpm, G the gear; Home goes back to the plan's setting); wheel zooms, drag pans, double click shows all.
class PowerChartView : public QWidget {
    Q_OBJECT
public:
    explicit PowerChartView(QWidget* parent = nullptr);
    ~PowerChartView() override;

    struct Reading {
        Rotation rpm;
        ManifoldPressure boost;
        std::size_t gear = 0;
        Length height; ///< pressure altitude
        Temperature outside;
    };
    /// Shows an aircraft's chart with a reading; the reading is what Home goes back to. The aircraft is kept alive
    /// until the next: the document may replace its own at any time.
    void show(std::shared_ptr<const powerplant::Aircraft> aircraft, const Reading& reading);
    [[nodiscard]] const Reading& reading() const;
    void read(const Reading& reading);
    [[nodiscard]] const std::optional<engine::Construction>& construction() const;
    /// The steps with their numbers, for checking against the paper.
    [[nodiscard]] QStringList steps() const;
    [[nodiscard]] QCustomPlot& plot();

    /// Picture as PNG bytes, as SVG, or the lines as CSV.
    [[nodiscard]] QByteArray png(int width, int height) const;
    [[nodiscard]] QByteArray svg(int width, int height) const;
    [[nodiscard]] QByteArray csv() const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {300, 180}; }

signals:
    void readingChanged();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Impl;
    std::unique_ptr<Impl> d_;
};

} // namespace amber::app
