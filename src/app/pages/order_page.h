// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/start_timeline_view.h"
#include "kit/row_view.h"
#include "pages/page.h"
#include <QComboBox>

namespace amber::app {

/// The order of the start: engine by engine on a timeline, with tries that do not catch, and other orders beside it.
class OrderPage : public Page {
    Q_OBJECT
public:
    explicit OrderPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;

protected:
    void widen() override;

private:
    void showSequence();
    void showOrders();

    QWidget* left_;
    RowView* sequence_;
    QLabel *title_, *orders_;
    QComboBox* order_;
    StartTimelineView* timeline_;
};

} // namespace amber::app
