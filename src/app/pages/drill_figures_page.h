// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// A drill at the left; at the right what comes of it in one sentence, the figures, and a picture.
class DrillFiguresPage : public TroublePage {
    Q_OBJECT
public:
    DrillFiguresPage(SortieDocument& document, const char* name, QWidget* parent);
    void begin() override;
    [[nodiscard]] QWidget* first() override { return drill_.view; }

protected:
    void widen() override;
    /// The sentence at the top: rich text; empty: none.
    void say(const QString& text);
    /// Figures under it, and what stands under the drill where there is anything.
    void put(const trouble::Figures& figures, const QString& heading);
    void putUnderDrill(const trouble::Figures& figures, const QString& heading);
    template <class Picture>
    void draw(Picture picture) {
        chart_->put(std::move(picture));
        title_->setText(chart_->title());
        title_->show();
        chart_->show();
    }
    DrillPart drill_;

private:
    QBoxLayout* halves_;
    RichLabel* verdict_;
    FiguresView *figures_, *under_;
    QLabel* title_;
    TroubleChart* chart_;
};

} // namespace amber::app
