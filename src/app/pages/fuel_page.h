// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// Fuel needed part by part beside what is aboard, and the same turned round.
class FuelPage : public FiguresPage {
    Q_OBJECT
public:
    explicit FuelPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
