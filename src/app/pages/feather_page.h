// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// Feathering, and letting it out again.
class FeatherPage : public TroublePage {
    Q_OBJECT
public:
    FeatherPage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    void reckon(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override { return feather_.view; }

protected:
    void widen() override;

private:
    QBoxLayout* columns_;
    DrillPart feather_, restart_;
    FiguresView* figures_;
};

} // namespace amber::app
