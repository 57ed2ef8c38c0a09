// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QWidget>
#include <memory>

class QCustomPlot;

namespace amber::app {

/// A plot of one page: zoom with the wheel, drag to pan, Home or a double click shows all, + and − by keyboard, read
/// out under the pointer. What is drawn is the descendant's.
class PictureChart : public QWidget {
    Q_OBJECT
public:
    PictureChart(SortieDocument& document, const QString& name, QWidget* parent);
    ~PictureChart() override;
    [[nodiscard]] QString title() const { return title_; }
    /// Read-out at a position inside the widget, as the tool tip shows it.
    [[nodiscard]] QString readOut(QPoint position) const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 160}; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    /// Lines, marks and words, on a plot that is empty; sets title and units.
    virtual void compose() = 0;
    /// Draws anew. @param same the picture is the one before: zoom stays
    void redraw(bool same = true);
    void ranges(double xLow, double xHigh, double yLow, double yHigh);

    SortieDocument& document_;
    QCustomPlot* plot_;
    QString title_, xUnit_, yUnit_;
    int xDecimals_ = 1, yDecimals_ = 0; ///< of the read-out

private:
    void ticks();
    bool zoomed_ = false;
};

} // namespace amber::app
