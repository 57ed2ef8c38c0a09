// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// Heads or coolant in the climb or cruise against speed and opening, and what would help.
class CoolingPage : public FiguresPage {
    Q_OBJECT
public:
    explicit CoolingPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
