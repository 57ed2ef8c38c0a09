// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"

namespace amber::app {

/// The drills for a fire, side by side.
class FirePage : public TroublePage {
    Q_OBJECT
public:
    FirePage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override;

protected:
    void widen() override;

private:
    QBoxLayout* columns_;
    DrillPart starting_, ground_, air_, induction_, stack_;
    bool flying_ = false;
};

} // namespace amber::app
