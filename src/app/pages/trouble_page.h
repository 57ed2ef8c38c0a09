// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/drill_view.h"
#include "charts/trouble_chart.h"
#include "kit/figures_view.h"
#include "kit/rich_label.h"
#include "store/sortie_document.h"
#include "trouble/sheet.h"
#include <QBoxLayout>
#include <QWidget>
#include <string_view>
#include <vector>

namespace amber::app {

/// What a page of trouble is shown for.
struct TroubleMoment {
    double time = 0.0;             ///< s from the first look at the tyres
    std::vector<std::size_t> dead; ///< indices of positions, at least one
};

/// One page of trouble. The drill stands at once; what the engines must be flown for comes after the frame that shows
/// it.
class TroublePage : public QWidget {
    Q_OBJECT
public:
    TroublePage(SortieDocument& document, QWidget* parent);
    /// Trouble is opened: what the first frame can do without is left to the next.
    virtual void begin() {}
    /// Words and drill, at once.
    virtual void present(const TroubleMoment& moment) = 0;
    /// The figures beside them.
    virtual void reckon(const TroubleMoment& moment) { (void)moment; }
    /// Seconds of a limited rating that were left at the moment shown, with its name; nothing: no clock runs out.
    [[nodiscard]] virtual std::optional<std::pair<double, QString>> runsOut() const { return std::nullopt; }
    /// The list that the hand walks.
    [[nodiscard]] virtual QWidget* first() = 0;

signals:
    void ticked();
    void placeWanted(QRect place); ///< in the page's own coordinates

protected:
    [[nodiscard]] trouble::Case caseOf(const TroubleMoment& moment) const;
    /// A drill with its reason under it.
    struct DrillPart {
        QWidget* holder;
        DrillView* view;
        RichLabel* why;
    };
    DrillPart drillPart(const QString& name, const QString& heading);
    void fill(DrillPart& part, const trouble::EmergencyDrill& drill);
    QLabel* heading(const QString& text);
    /// Figures as a table: what, the figure with its mark, why.
    static Table tableOf(const trouble::Figures& figures, const QString& first);
    void resizeEvent(QResizeEvent* event) override;
    virtual void widen() {}

    SortieDocument& document_;

private:
    void showWhy(const DrillPart& part, int line);
};

/// One kind of trouble: its place in the row of pages and how it is made.
struct TroubleRow {
    std::string_view key;
    const char* title;
    TroublePage* (*make)(SortieDocument& document, QWidget* parent);
    bool asksEngines;       ///< which engine is dead matters
    bool ofSeveral = false; ///< of aircraft with more than one
};
const std::vector<TroubleRow>& troubleTable();

} // namespace amber::app
