// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/load_cures.h"
#include "pages/figures_page.h"
#include <QPushButton>
#include <vector>

namespace amber::app {

/// The load sheet, the envelope with today's track through it, and what would cure a load that leaves it.
class LoadPage : public FiguresPage {
    Q_OBJECT
public:
    explicit LoadPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Takes a cure: an undoable edit.
    void cure(std::size_t which);
    [[nodiscard]] const std::vector<advice::LoadCure>& cures() const { return cures_; }

protected:
    [[nodiscard]] Figures figures() const override;

private:
    std::vector<advice::LoadCure> cures_;
    std::vector<QPushButton*> buttons_;
    QLabel* cureTitle_;
    QPushButton* follow_;
};

} // namespace amber::app
