// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include "notes/type_notes.h"
#include <QRectF>
#include <utility>

namespace amber::app {

/// A dial laid straight: normal a filled band, the amber margin hatched, limits red lines across.
class NeedleBar {
public:
    /// @param scale SI, ends of the dial
    NeedleBar(QRectF bar, std::pair<double, double> scale) : bar_(bar), low_(scale.first), high_(scale.second) {}
    /// Where a reading stands, SI; held at the ends.
    [[nodiscard]] double x(double si) const;
    void paint(QPainter& painter, const Colours& colours, const Band& band) const;
    /// A needle above it.
    void paintNeedle(QPainter& painter, double si, const QColor& colour) const;

private:
    QRectF bar_;
    double low_, high_;
};

} // namespace amber::app
