// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/walk_round_view.h"
#include "kit/row_view.h"
#include "pages/page.h"

class QHBoxLayout;

namespace amber::app {

/// The walk-round: the plate of stations, what is to be seen or read at the chosen one, what was written up, the tanks
/// by dip and gauge.
class WalkRoundPage : public Page {
    Q_OBJECT
public:
    explicit WalkRoundPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    void enter() override;

protected:
    void widen() override;

private:
    QHBoxLayout* upper_; ///< the columns on the right
    void showStation(bool first);
    void showWhy();
    void take(int row, const QString& text);

    QWidget* left_;
    QLabel *head_, *why_, *defects_;
    RowView *set_, *fuel_, *clock_;
    WalkRoundView* walk_;
};

} // namespace amber::app
