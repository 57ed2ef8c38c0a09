// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// Speeds for the weight of each moment, and the distances of the notes for today.
class SpeedsPage : public FiguresPage {
    Q_OBJECT
public:
    explicit SpeedsPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
