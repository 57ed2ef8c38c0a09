// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "live/live_run.h"
#include <QWidget>

namespace amber::app {

/// Four needles to be looked at: their bands, where they stand by a recorder or by what was read, else (faint, with ≈)
/// where they are expected.
class LookAt : public QWidget {
    Q_OBJECT
public:
    explicit LookAt(QWidget* parent = nullptr);
    void show(const LiveRun& live);
    void setSizes(int text);
    [[nodiscard]] QStringList said() const;
    [[nodiscard]] watch::Colour worst() const;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    struct Line {
        QString title, values;
        Band band;
        std::pair<double, double> scale;
        std::vector<double> needles;
        bool expected = true;
        watch::Colour colour = watch::Colour::normal;
    };
    std::vector<Line> lines_;
    int text_ = 22;
};

} // namespace amber::app
