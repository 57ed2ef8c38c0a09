// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/in_view.h"
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
    /// @param first ids of those that are looked for first, in their order: they stand over the picture, the others
    /// under it
    void put(const trouble::Figures& figures, const QString& heading, const std::vector<std::string_view>& first);
    void putUnderDrill(const trouble::Figures& figures, const QString& heading);
    template <class Picture>
    void draw(Picture picture) {
        chart_->put(std::move(picture));
        title_->setText(chart_->title());
        title_->show();
        chart_->show();
        fit();
    }
    DrillPart drill_;

private:
    QBoxLayout* halves_;
    RichLabel* verdict_;
    /// The picture whole, in what the page leaves under the first figures; the drill's memory items whole beside it.
    void fit();
    FiguresView *figures_, *more_, *under_;
    QLabel* title_;
    TroubleChart* chart_;
    InView inView_{this, [this] { fit(); }};
};

} // namespace amber::app
