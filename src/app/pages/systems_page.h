// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"
#include <vector>

namespace amber::app {

/// The drills for what is no engine's failure: smoke, generator, charge, wheels and flaps, water in the fuel.
class SystemsPage : public TroublePage {
    Q_OBJECT
public:
    SystemsPage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override;

protected:
    void widen() override;

private:
    QBoxLayout* columns_;
    std::vector<std::pair<Emergency, DrillPart>> parts_;
};

} // namespace amber::app
