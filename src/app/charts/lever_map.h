// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/lever_order.h"
#include "flight/cruise.h"
#include "store/sortie_document.h"
#include <QWidget>

class QCustomPlot;

namespace amber::app {

/// Boost against rpm with the knock boundary, the notes' limits and lines of power; on it the path of the levers from
/// where they are to the cruise that is planned.
class LeverMap : public QWidget {
    Q_OBJECT
public:
    explicit LeverMap(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] const engine::LeverPath& path() const { return path_; }
    /// The moves in words, one line each, and why in that order.
    [[nodiscard]] QStringList words() const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 150}; }

private:
    void draw();

    SortieDocument& document_;
    QCustomPlot* plot_;
    engine::LeverPath path_;
    engine::LeverPosition from_, to_;
};

/// Where the cruise of the open sortie is asked.
flight::CruiseConditions cruiseConditionsOf(const SortieDocument& document);

} // namespace amber::app
