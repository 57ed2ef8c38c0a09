// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/lever_map.h"
#include "kit/inline_field.h"
#include "kit/row_view.h"
#include "pages/page.h"
#include <QComboBox>
#include <map>

namespace amber::app {

/// A cruise asked for by power, burn, speed, endurance or range: settings that give it, and the way there on a map of
/// the levers.
class ChooseCruisePage : public Page {
    Q_OBJECT
public:
    explicit ChooseCruisePage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Asks; the candidates follow.
    void ask(flight::Ask ask, double valueSi);
    [[nodiscard]] const std::vector<flight::CruisePoint>& candidates() const { return answer_.candidates; }
    /// Takes a candidate as the plan's cruise: an undoable edit.
    void take(int index);

protected:
    void widen() override;

private:
    [[nodiscard]] double askedValue() const;
    [[nodiscard]] const UnitSpec& askUnit() const;
    [[nodiscard]] CandidateRow rowOf(const flight::CruisePoint& point) const;

    QWidget* left_;
    QComboBox *askChoice_, *leanTest_;
    InlineField* asked_;
    RowView* rows_;
    LeverMap* map_;
    QLabel *heading_, *moves_;
    flight::Ask ask_ = flight::Ask::power;
    std::map<flight::Ask, double> values_; ///< SI; what was not asked yet is the plan's own
    flight::CruiseAnswer answer_;
};

} // namespace amber::app
