// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "record/trend.h"
#include <QString>
#include <QWidget>

namespace amber::app {

/// One series of the log run by run: how far each reading was from what the plan of its day expected, the last one in
/// amber, the middle half of those before it as a band, and the trend where the data tell one.
class SeasonView : public QWidget {
    Q_OBJECT
public:
    explicit SeasonView(QWidget* parent = nullptr);
    /// @param unit of the cockpit, for differences; null: a count
    void show(record::Series series, record::Trend trend, const UnitSpec* unit);
    [[nodiscard]] const record::Series& series() const { return series_; }
    [[nodiscard]] QSize sizeHint() const override { return {600, 110}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, 10}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    record::Series series_;
    record::Trend trend_;
    const UnitSpec* unit_ = nullptr;
};

} // namespace amber::app
