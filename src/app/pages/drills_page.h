// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"
#include <vector>

namespace amber::app {

/// Drills side by side, in columns; one that this aircraft cannot need is left out.
class DrillsPage : public TroublePage {
    Q_OBJECT
public:
    /// @param ground, flying the drill that the keyboard begins at
    DrillsPage(SortieDocument& document, const QString& name, const std::vector<std::vector<Emergency>>& columns,
               Emergency ground, Emergency flying, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override;

protected:
    void widen() override;

private:
    QBoxLayout* columns_;
    std::vector<std::pair<Emergency, DrillPart>> parts_;
    Emergency ground_, aloft_;
    bool flying_ = false;
};

/// The drills for a fire.
class FirePage : public DrillsPage {
    Q_OBJECT
public:
    FirePage(SortieDocument& document, QWidget* parent);
};

/// The drills for what is no engine's failure: smoke, generator, charge, wheels and flaps, water in the fuel.
class SystemsPage : public DrillsPage {
    Q_OBJECT
public:
    SystemsPage(SortieDocument& document, QWidget* parent);
};

} // namespace amber::app
