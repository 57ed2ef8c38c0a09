// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/figures_page.h"
#include <QPushButton>

namespace amber::app {

/// The greatest setting that the day leaves of a rating: every bound, and which of them binds.
class AllowsPage : public FiguresPage {
    Q_OBJECT
public:
    explicit AllowsPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Takes the setting into the plan: an undoable edit.
    void take();

protected:
    [[nodiscard]] Figures figures() const override;

private:
    QPushButton *take_, *back_;
};

} // namespace amber::app
