// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// After the stop: cooling down, dilution, starting again.
class AfterwardsPage : public FiguresPage {
    Q_OBJECT
public:
    explicit AfterwardsPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
