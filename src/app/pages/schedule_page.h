// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// The let-down: power off by steps, and other rates of descent.
class SchedulePage : public FiguresPage {
    Q_OBJECT
public:
    explicit SchedulePage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
