// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"

namespace amber::app {

/// The warm-up of every engine: when each may be run up, the rpm in steps, and why not faster or slower.
class EnginesPage : public FiguresPage {
    Q_OBJECT
public:
    explicit EnginesPage(SortieDocument& document, QWidget* parent = nullptr);

protected:
    [[nodiscard]] Figures figures() const override;
};

} // namespace amber::app
