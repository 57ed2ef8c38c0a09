// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/lever_panel.h"
#include "pages/page.h"

namespace amber::app {

/// The cockpit at the moment chosen on the score, or at the end of the phase: every control, before and now.
class LeversPage : public Page {
    Q_OBJECT
public:
    explicit LeversPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;

private:
    QLabel *title_, *reading_;
    LeverPanel* panel_;
};

} // namespace amber::app
