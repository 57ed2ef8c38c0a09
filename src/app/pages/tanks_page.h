// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// When to change tanks, what is left in each, and what comes round by the clock.
class TanksPage : public FiguresPage {
    Q_OBJECT
public:
    explicit TanksPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
