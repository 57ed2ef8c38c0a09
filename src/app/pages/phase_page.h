// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/lever_map.h"
#include "charts/phase_chart.h"
#include "charts/power_chart_view.h"
#include "charts/start_timeline_view.h"
#include "charts/walk_round_view.h"
#include "kit/inline_field.h"
#include "kit/row_view.h"
#include "pages/heat_page.h"
#include "pages/run_up_page.h"
#include "store/sortie_document.h"
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QWidget>
#include <map>
#include <vector>

namespace amber::app {

/// One phase of the plan: Set, Expect, Clock, why, the phase's picture, cautions, and what another day would change.
class PhasePage : public QWidget {
    Q_OBJECT
public:
    explicit PhasePage(SortieDocument& document, QWidget* parent = nullptr);
    void show(Phase phase);
    void refresh();
    [[nodiscard]] Phase phase() const { return phase_; }
    [[nodiscard]] RowView& setRows() { return *set_; }
    [[nodiscard]] RowView& expectRows() { return *expect_; }
    [[nodiscard]] RowView& clockRows() { return *clock_; }
    [[nodiscard]] PhaseChart& chart() { return *chart_; }
    [[nodiscard]] StartTimelineView& startTimeline() { return *startTimeline_; }

    [[nodiscard]] WalkRoundView& walkRound() { return *walk_; }
    [[nodiscard]] RowView& sequenceRows() { return *sequence_; }
    [[nodiscard]] PhaseChart& doseChart() { return *doseChart_.chart; }
    [[nodiscard]] PhaseChart& timeChart() { return *timeChart_.chart; }
    /// The pages of a phase: settings everywhere; priming and order of the start; the engines' warm-up and the ground
    /// budget; the run-up sheet; the power chart of take-off, climb and cruise; the climb by
    /// bands of height; cooling; the choosing of a cruise; the
    /// let-down's schedule; what follows the stop.
    enum class SubPage {
        settings,
        priming,
        order,
        engines,
        budget,
        sheet,
        chart,
        bands,
        cooling,
        choose,
        schedule,
        afterwards
    };
    /// The page of a phase that tells why heads, coolant or oil are where they are.
    static SubPage causePage(Phase phase);
    static std::vector<SubPage> subPagesOf(Phase phase);
    void showSubPage(SubPage page);
    /// To the next page of this phase, round.
    void nextSubPage();
    [[nodiscard]] SubPage subPage() const;
    [[nodiscard]] PowerChartView& powerChart() { return *powerChart_; }
    [[nodiscard]] LeverMap& leverMap() { return *leverMap_; }
    [[nodiscard]] HeatPage& heat() { return *heat_; }
    [[nodiscard]] RunUpPage& runUp() { return *runUp_; }
    [[nodiscard]] const std::vector<flight::CruisePoint>& candidates() const { return answer_.candidates; }
    /// The power chart with its reading as SVG or PNG.
    [[nodiscard]] QByteArray chartPicture(bool svg);
    /// The same chart's lines as CSV.
    [[nodiscard]] QByteArray chartTable();
    /// Asks a cruise; the candidates follow.
    void ask(flight::Ask ask, double valueSi);
    /// Takes a candidate as the plan's cruise: an undoable edit.
    void takeCandidate(int index);

    /// Takes a school for a step: an undoable edit.
    void chooseSchool(int row, const QString& school);

signals:
    void refused(QString why);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QLabel* heading(const QString& text);
    void buildFields();
    InlineField* adopt(InlineField* field, const QString& hint, std::vector<Phase> phases);
    [[nodiscard]] const Tank* tankOf(std::size_t field) const;
    void showWhy();
    void offerSchools(int row);
    void refreshComparison();
    QTimer* comparisonLater_;
    Phase comparedPhase_ = Phase::walkRound; ///< of the comparison that stands there
    void refreshStart();
    void showFields();
    void placeHeadline();
    void showSequence();
    void refreshWalk(bool first);
    void takeFinding(int row, const QString& text);
    void buildEnginePages(QHBoxLayout* row);
    void buildCruiseFields();
    void buildHeatFields();
    /// The whole-width pages, in place of the columns. @return whether one is shown
    bool showWholePage();
    void showPageChoice();
    void refreshChart();
    void refreshChoice();
    [[nodiscard]] double askedValue() const;
    [[nodiscard]] const UnitSpec& askUnit() const;
    void buildPrimePictures(QHBoxLayout* row);
    void takeOrder(const std::vector<std::string>& order);
    [[nodiscard]] QComboBox* ratingChoice(const QString& name, std::string Flight::*place);

    struct Picture {
        QLabel* label = nullptr;
        PhaseChart* chart = nullptr;
        PhaseChart::Kind kind = PhaseChart::Kind::byPhase;
    };
    struct PageField {
        QWidget* widget;
        std::vector<Phase> phases;
    };

    SortieDocument& document_;
    Phase phase_ = Phase::climb;
    QString headlineText_; ///< whole, wherever it is shown
    QLabel *title_, *headline_, *headlineBelow_, *notices_, *why_, *comparison_, *comparisonHead_, *chartTitle_,
        *expectHead_, *setHead_, *clockHead_, *whyBeside_, *defects_, *orders_, *ordersHead_;
    RowView *set_, *expect_, *clock_, *sequence_, *fuel_;
    PhaseChart* chart_;
    StartTimelineView* startTimeline_;
    QLabel* startTitle_;
    QComboBox *startOrder_, *supply_, *diluted_, *blanks_, *pageChoice_, *askChoice_, *leanTest_, *tankChoice_;
    QWidget *fieldRow_, *body_, *left_, *startColumn_, *chartColumn_, *primePictures_;
    WalkRoundView* walk_;
    PowerChartView* powerChart_;
    HeatPage* heat_;
    RunUpPage* runUp_;
    LeverMap* leverMap_;
    QWidget* leverColumn_;
    QLabel *steps_, *moves_;
    std::map<Phase, SubPage> subPages_;
    flight::Ask ask_ = flight::Ask::power;
    std::map<flight::Ask, double> askedValues_; ///< SI; what was not asked yet is the plan's own
    flight::CruiseAnswer answer_;
    Picture doseChart_{nullptr, nullptr, PhaseChart::Kind::primeDose},
        timeChart_{nullptr, nullptr, PhaseChart::Kind::primeTime};
    std::vector<PageField> fields_;
    std::vector<InlineField*> inlineFields_;
    std::vector<std::pair<QComboBox*, std::string Flight::*>> ratings_;
    std::vector<std::pair<InlineField*, std::size_t>> tankFields_;
};

} // namespace amber::app
