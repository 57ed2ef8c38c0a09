// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/phase_page.h"
#include "engine/leaning.h"
#include "shell/theme.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
QString q(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}

QString markHtml(watch::Colour colour, const Colours& c) {
    const char* shape = colour == watch::Colour::red ? "■" : colour == watch::Colour::amber ? "▲" : "●";
    return QStringLiteral("<span style='color:%1'>%2</span>").arg(c.of(colour).name(), QString::fromUtf8(shape));
}

std::string fmtTorque(const plan::CruisePoint& p, const TypeNotes& n) {
    return "BMEP " + format(p.point.meanEffectivePressure, n.unitOf(Gauge::torque)) + "; ";
}

template <class Line>
std::vector<Row> rowsOf(const std::vector<Line>& lines) {
    return {lines.begin(), lines.end()};
}
} // namespace

PhasePage::PhasePage(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("phase-page"));
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(20, 8, 20, 8);
    page->setSpacing(6);

    auto* head = new QHBoxLayout;
    head->setSpacing(12);
    title_ = new QLabel(this);
    title_->setObjectName(QStringLiteral("phase-title"));
    title_->setFont(face(25, true));
    headline_ = new QLabel(this);
    headline_->setObjectName(QStringLiteral("headline"));
    headline_->setFont(face(14));
    headline_->setContentsMargins(0, 0, 0, 4);
    headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headline_->setForegroundRole(QPalette::PlaceholderText);
    head->addWidget(title_, 0, Qt::AlignBottom);
    head->addWidget(headline_, 1, Qt::AlignBottom);
    fieldRow_ = new QWidget(this);
    head->addWidget(fieldRow_, 0, Qt::AlignBottom);
    page->addLayout(head);

    notices_ = new QLabel(this);
    notices_->setObjectName(QStringLiteral("notices"));
    notices_->setFont(face(13));
    notices_->setWordWrap(true);
    notices_->setTextFormat(Qt::RichText);
    page->addWidget(notices_);

    auto* columns = new QHBoxLayout;
    columns->setSpacing(26);
    page->addLayout(columns, 1);

    auto* left = new QVBoxLayout;
    left->setSpacing(0);
    set_ = new RowView(QStringLiteral("set"), this);
    set_->setAccessibleName(tr("Set: levers in order"));
    setHead_ = heading(tr("Set"));
    left->addWidget(setHead_);
    left->addWidget(set_);
    sequence_ = new RowView(QStringLiteral("sequence"), this);
    sequence_->setAccessibleName(tr("The start, engine by engine"));
    left->addWidget(sequence_);
    why_ = new QLabel(this);
    why_->setObjectName(QStringLiteral("why"));
    why_->setFont(face(13));
    why_->setWordWrap(true);
    why_->setTextFormat(Qt::RichText);
    why_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    left->addSpacing(6);
    left->addWidget(why_);
    steps_ = new QLabel(this);
    steps_->setObjectName(QStringLiteral("steps"));
    steps_->setFont(face(14));
    steps_->setWordWrap(true);
    steps_->setTextFormat(Qt::RichText);
    steps_->setContentsMargins(0, 6, 0, 0);
    left->addWidget(steps_);
    defects_ = new QLabel(this);
    defects_->setObjectName(QStringLiteral("defects"));
    defects_->setFont(face(13));
    defects_->setWordWrap(true);
    defects_->setTextFormat(Qt::RichText);
    defects_->setContentsMargins(0, 8, 0, 0);
    left->addWidget(defects_);
    left->addStretch(1);
    comparisonHead_ = heading(tr("Another day (model)"));
    comparison_ = new QLabel(this);
    comparison_->setObjectName(QStringLiteral("comparison"));
    comparison_->setFont(face(13));
    comparison_->setTextFormat(Qt::RichText);
    comparison_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    left->addWidget(comparisonHead_);
    left->addWidget(comparison_);
    left_ = new QWidget(this);
    left_->setLayout(left);
    left->setContentsMargins(0, 0, 0, 0);
    columns->addWidget(left_);

    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(26);
    auto* expectColumn = new QVBoxLayout;
    expectColumn->setSpacing(0);
    expect_ = new RowView(QStringLiteral("expect"), this);
    expect_->setAccessibleName(tr("Expect: gauges"));
    expectHead_ = heading(tr("Expect"));
    expectColumn->addWidget(expectHead_);
    expectColumn->addWidget(expect_);
    fuel_ = new RowView(QStringLiteral("ground-fuel"), this);
    fuel_->setAccessibleName(tr("Fuel by dip and gauge"));
    expectColumn->addWidget(fuel_);
    whyBeside_ = new QLabel(this);
    whyBeside_->setObjectName(QStringLiteral("why-beside"));
    whyBeside_->setFont(face(13));
    whyBeside_->setWordWrap(true);
    whyBeside_->setTextFormat(Qt::RichText);
    whyBeside_->setContentsMargins(0, 10, 0, 0);
    expectColumn->addWidget(whyBeside_);
    expectColumn->addStretch(1);
    auto* clockColumn = new QVBoxLayout;
    clockColumn->setSpacing(0);
    clock_ = new RowView(QStringLiteral("clock"), this);
    clock_->setFixedWidth(276);
    clock_->setAccessibleName(tr("Clock: waits and times"));
    clockHead_ = heading(tr("Clock"));
    clockColumn->addWidget(clockHead_);
    clockColumn->addWidget(clock_);
    clockColumn->addStretch(1);
    upper->addLayout(expectColumn, 1);
    upper->addLayout(clockColumn, 0);
    right->addLayout(upper);
    orders_ = new QLabel(this);
    orders_->setObjectName(QStringLiteral("orders"));
    orders_->setFont(face(13));
    orders_->setTextFormat(Qt::RichText);
    orders_->setWordWrap(true);
    ordersHead_ = heading(tr("Orders compared (model)"));
    right->addWidget(ordersHead_);
    right->addWidget(orders_);

    chartTitle_ = new QLabel(this);
    chartTitle_->setFont(face(12));
    chartTitle_->setForegroundRole(QPalette::PlaceholderText);
    chart_ = new PhaseChart(document_, this);
    startTitle_ = new QLabel(this);
    startTitle_->setObjectName(QStringLiteral("start-summary"));
    startTitle_->setFont(face(12));
    startTitle_->setForegroundRole(QPalette::PlaceholderText);
    for (auto* label : {chartTitle_, startTitle_})
        label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    startTimeline_ = new StartTimelineView(document_, this);
    auto* pictures = new QHBoxLayout;
    pictures->setSpacing(16);
    const auto column = [&](QLabel* label, QWidget* picture, int stretch) {
        auto* holder = new QWidget(this);
        auto* layout = new QVBoxLayout(holder);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(2);
        layout->addWidget(label);
        layout->addWidget(picture, 1);
        pictures->addWidget(holder, stretch);
        return holder;
    };
    chartColumn_ = column(chartTitle_, chart_, 1);
    startColumn_ = column(startTitle_, startTimeline_, 1);
    walk_ = new WalkRoundView(document_, this);
    pictures->addWidget(walk_, 1);
    buildPrimePictures(pictures);
    buildEnginePages(pictures);
    right->addSpacing(8);
    right->addLayout(pictures, 1);
    connect(startTimeline_, &StartTimelineView::summaryChanged, this, [this] {
        startTitle_->setText(startTimeline_->summary());
        startTitle_->setToolTip(startTitle_->text());
        showSequence();
    });
    connect(startTimeline_, &StartTimelineView::orderWanted, this, &PhasePage::takeOrder);
    connect(walk_, &WalkRoundView::chosen, this, [this] { refreshWalk(true); });
    connect(set_, &RowView::found, this, &PhasePage::takeFinding);
    connect(set_, &RowView::pastEnd, this, [this](int by) {
        const int to = walk_->selected() + by;
        if (to < 0 || to >= walk_->stations())
            return;
        walk_->select(to);
        refreshWalk(true);
        if (by < 0)
            set_->setCurrentIndex(set_->model()->index(set_->model()->rowCount() - 1, 0));
    });
    columns->addLayout(right, 1);

    buildFields();
    // Until a sortie is open nothing of one phase shows: all at once they would not fit.
    for (auto& [widget, phases] : fields_)
        widget->hide();
    for (QWidget* widget :
         std::initializer_list<QWidget*>{startColumn_, primePictures_, walk_, orders_, ordersHead_, sequence_, fuel_,
                                         defects_, whyBeside_, powerChart_, leverColumn_, steps_})
        widget->hide();
    connect(set_, &RowView::rowSelected, this, &PhasePage::showWhy);
    connect(set_, &RowView::schoolWanted, this, &PhasePage::offerSchools);
    connect(chart_, &PhaseChart::heightDragged, this, [this](double metres, int gesture) {
        Sortie changed = document_.sortie();
        changed.flight.cruiseHeight = Length::si(metres);
        if (const QString error = document_.edit(changed, tr("cruise height"), gesture); !error.isEmpty())
            emit refused(error);
    });
}

QLabel* PhasePage::heading(const QString& text) {
    auto* label = new QLabel(text, this);
    QFont font = captionFace();
    font.setBold(true);
    font.setPixelSize(12);
    label->setFont(font);
    label->setForegroundRole(QPalette::Link);
    label->setFixedHeight(20);
    return label;
}

void PhasePage::buildEnginePages(QHBoxLayout* row) {
    powerChart_ = new PowerChartView(nullptr, this);
    row->addWidget(powerChart_, 1);
    connect(powerChart_, &PowerChartView::readingChanged, this, [this] {
        steps_->setText(
            powerChart_->steps().join(QStringLiteral("<br><br>")) +
            tr("<br><br><i>Drag A for the boost, the diamond for the height. Left and Right: height; Up and "
               "Down: boost; Page Up and Down: rpm; G: gear; Home: the plan's setting.</i>"));
    });
    leverColumn_ = new QWidget(this);
    auto* column = new QVBoxLayout(leverColumn_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    column->addWidget(heading(tr("Levers, from the climb to this cruise (model)")));
    leverMap_ = new LeverMap(document_, leverColumn_);
    column->addWidget(leverMap_, 1);
    moves_ = new QLabel(leverColumn_);
    moves_->setObjectName(QStringLiteral("moves"));
    moves_->setFont(face(13));
    moves_->setWordWrap(true);
    moves_->setTextFormat(Qt::RichText);
    column->addWidget(moves_);
    row->addWidget(leverColumn_, 1);
    connect(sequence_, &RowView::taken, this, [this](int r) { takeCandidate(r - 1); });
}

void PhasePage::refreshChart() {
    const auto& f = document_.plan().flown[phase_];
    const auto& m = document_.plan().flown.moments[f.firstMoment];
    const Length altitude = document_.sortie().day.pressureAltitudeOf(Length::si(m.height));
    powerChart_->show(document_.aircraft(),
                      {f.setting.rpm, f.point.manifoldPressure, f.setting.gear,
                       Length::si(std::max(0.0, altitude.si())), document_.sortie().day.at(altitude).temperature});
}

QByteArray PhasePage::chartPicture(bool svg) {
    if (subPage() != SubPage::chart)
        refreshChart();
    constexpr int width = 1100, height = 620;
    return svg ? powerChart_->svg(width, height) : powerChart_->png(width, height);
}

const UnitSpec& PhasePage::askUnit() const {
    const auto& c = document_.aircraft().notes.cockpit;
    using namespace units::detail;
    switch (ask_) {
    case plan::Ask::power:
        return *c.power;
    case plan::Ask::burn:
        return c.fuel == &volumeTable[1]   ? volumeFlowTable[1]
               : c.fuel == &volumeTable[0] ? volumeFlowTable[0]
                                           : volumeFlowTable[2];
    case plan::Ask::airspeed:
        return *c.speed;
    case plan::Ask::endurance:
        return *units::hour.spec;
    case plan::Ask::range:
        break;
    }
    return *c.distance;
}

double PhasePage::askedValue() const {
    if (const auto found = askedValues_.find(ask_); found != askedValues_.end())
        return found->second;
    const auto& f = document_.plan().flown;
    const double fuel = f.moments[f[Phase::cruise].firstMoment].fuel,
                 hours = f.cruiseFuelFlow > 0 ? fuel / f.cruiseFuelFlow : 0;
    switch (ask_) {
    case plan::Ask::power:
        return f[Phase::cruise].point.power.si();
    case plan::Ask::burn:
        return f.cruiseFuelFlow;
    case plan::Ask::airspeed:
        return f.cruiseTas.si();
    case plan::Ask::endurance:
        return hours;
    case plan::Ask::range:
        break;
    }
    return hours * f.cruiseTas.si();
}

void PhasePage::ask(plan::Ask what, double valueSi) {
    ask_ = what;
    askedValues_[what] = valueSi;
    askChoice_->setCurrentIndex(static_cast<int>(what));
    refresh();
}

void PhasePage::refreshChoice() {
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    const auto& cruise = document_.plan().flown[Phase::cruise];
    answer_ = plan::cruiseCandidates(a, cruiseConditionsOf(document_), ask_, askedValue());
    std::vector<Row> rows;
    CandidateRow head{"rpm", "boost", "gear", "mixture", "power", "burn", "true speed", "hours", {}, false, true};
    if (n.engine.gears.size() < 2)
        head.gear.clear();
    rows.emplace_back(head);
    const UnitSpec* flow = &units::detail::volumeFlowTable[2];
    for (std::size_t i = 0; i < 3; ++i)
        if (n.cockpit.fuel == &units::detail::volumeTable[i])
            flow = &units::detail::volumeFlowTable[i];
    for (const auto& p : answer_.candidates) {
        CandidateRow row;
        row.rpm = format(std::round(p.setting.rpm.si() * 6) / 6, *units::rpm.spec);
        row.boost = n.gauges.contains(Gauge::boost) ? format(p.point.manifoldPressure.si(), n.unitOf(Gauge::boost))
                                                    : std::string{};
        row.gear = n.engine.gears.size() > 1 ? n.engine.gears[p.setting.gear].name : std::string{};
        row.mixture = p.setting.mixture == Mixture::rich ? "rich" : "weak";
        row.power = format(p.point.power.si(), *n.cockpit.power);
        row.burn = format(p.burn, *flow, p.burn < 30 * flow->scale ? 1 : 0);
        row.speed = format(p.tas.si(), *n.cockpit.speed);
        row.hours = formatHoursMinutes(p.hours) + " h";
        row.why = p.why;
        if (n.gauges.contains(Gauge::torque))
            row.why = fmtTorque(p, n) + row.why;
        row.chosen = std::abs(p.setting.rpm.si() - cruise.setting.rpm.si()) < 0.2 &&
                     std::abs(p.point.manifoldPressure.si() - cruise.point.manifoldPressure.si()) < 300 &&
                     p.setting.gear == cruise.setting.gear && p.setting.mixture == cruise.setting.mixture;
        rows.emplace_back(std::move(row));
    }
    sequence_->put(std::move(rows));
    leverMap_->setVisible(!n.engine.gears.empty());
    leverMap_->refresh();
    QStringList lines;
    if (answer_.candidates.empty())
        lines << QStringLiteral("<b>%1</b>").arg(q(answer_.why));
    else
        lines << tr("<i>Enter or a double click takes a setting into the plan.</i>");
    if (!n.engine.gears.empty())
        lines << leverMap_->words();
    if (leanTest_->currentIndex() > 0) {
        const auto verdict = engine::readLeanTest(static_cast<engine::LeanResponse>(leanTest_->currentIndex() - 1),
                                                  engine::weakAllowed(n, cruise.point.power));
        lines << tr("<b>Lean test</b> %1 %2").arg(q(verdict.sentence), q(verdict.next));
    }
    moves_->setText(lines.join(QStringLiteral("<br>")));
}

void PhasePage::takeCandidate(int index) {
    if (index < 0 || index >= static_cast<int>(answer_.candidates.size()))
        return;
    const auto& p = answer_.candidates[static_cast<std::size_t>(index)];
    const auto& n = document_.aircraft().notes;
    Sortie changed = document_.sortie();
    changed.flight.cruiseRpm = p.setting.rpm;
    changed.flight.cruiseBoost =
        n.gauges.contains(Gauge::boost) ? std::optional(p.point.manifoldPressure) : std::nullopt;
    changed.flight.cruiseMixture = p.setting.mixture;
    changed.flight.cruiseGear = n.engine.gears.empty() ? std::string{} : n.engine.gears[p.setting.gear].name;
    if (const QString error = document_.edit(changed, tr("cruise setting")); !error.isEmpty())
        emit refused(error);
}

void PhasePage::buildPrimePictures(QHBoxLayout* row) {
    primePictures_ = new QWidget(this);
    auto* layout = new QVBoxLayout(primePictures_);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    for (auto* picture : {&doseChart_, &timeChart_}) {
        auto& [label, chart, kind] = *picture;
        label = new QLabel(primePictures_);
        label->setFont(face(12));
        label->setForegroundRole(QPalette::PlaceholderText);
        label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        chart = new PhaseChart(document_, primePictures_, kind);
        layout->addWidget(label);
        layout->addWidget(chart, 1);
    }
    row->addWidget(primePictures_, 1);
}

void PhasePage::show(Phase phase) {
    phase_ = phase;
    set_->clearSelection();
    refresh();
    if (set_->model()->rowCount() > 0)
        set_->setCurrentIndex(set_->model()->index(0, 0));
    showWhy();
}

void PhasePage::refresh() {
    if (!document_.isOpen())
        return;
    const plan::PhasePlan& p = document_.plan()[phase_];
    const TypeNotes& notes = document_.aircraft().notes;
    const Colours c(this);
    title_->setText(QString::fromUtf8(titleOf(phase_).data()));
    headline_->setText(QString::fromStdString(p.headline) + tr("  (model)"));
    headline_->setToolTip(headline_->text());

    QStringList lines;
    for (const auto& caution : p.cautions)
        lines << QStringLiteral("<b>%1</b> %2").arg(tr("Caution:"), q(caution));
    for (const auto& r : p.remarks)
        if (phase_ != Phase::walkRound || r.colour == watch::Colour::red) // the others are listed as written up
            lines << QStringLiteral("%1 %2").arg(markHtml(r.colour, c), q(r.sentence));
    for (const auto& e : p.expect)
        if (e.judgement.colour != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(markHtml(e.judgement.colour, c), q(e.judgement.sentence));
    for (const auto& k : p.clocks)
        if (k.colour != watch::Colour::normal)
            lines << QStringLiteral("%1 %2: %3").arg(markHtml(k.colour, c), q(k.what), q(k.why));
    notices_->setText(lines.join(QStringLiteral("<br>")));
    notices_->setVisible(!lines.isEmpty());

    const bool walking = phase_ == Phase::walkRound && walk_->stations() > 0;
    const bool starting = phase_ == Phase::start;
    const bool ordering = subPage() == SubPage::order, priming = subPage() == SubPage::priming,
               charting = subPage() == SubPage::chart, choosing = subPage() == SubPage::choose;
    const bool settings = subPage() == SubPage::settings; // Set, Expect and Clock
    // What goes is hidden before what comes is shown: both at once would widen the window.
    const auto gone = [](bool wanted, std::initializer_list<QWidget*> widgets) {
        for (auto* widget : widgets)
            if (!wanted)
                widget->hide();
    };
    gone(walking, {walk_, fuel_, defects_});
    gone(charting, {powerChart_, steps_});
    gone(choosing, {leverColumn_});
    gone(priming, {primePictures_});
    gone(ordering, {startColumn_, orders_, ordersHead_});
    gone(settings, {expect_, clock_, clockHead_});
    gone(settings && PhaseChart::hasPicture(phase_), {chartColumn_});
    // Words want more room than levers; a phase without gauges gives all of it.
    left_->setFixedWidth(walking                                                ? 404
                         : starting && settings                                 ? 424
                         : choosing                                             ? 600
                         : charting                                             ? 300
                         : p.expect.empty()                                     ? 720
                         : phase_ >= Phase::takeOff && phase_ <= Phase::letDown ? 380
                                                                                : 424);
    walk_->setVisible(walking);
    defects_->setVisible(walking);
    if (walking) {
        refreshWalk(false);
    } else {
        setHead_->setText(ordering   ? tr("Set, engine by engine (model)")
                          : priming  ? tr("Prime")
                          : charting ? tr("The reading, step by step (model)")
                          : choosing ? tr("Settings that give it (model)")
                                     : tr("Set"));
        const int row = set_->currentIndex().row();
        set_->put(rowsOf(p.set));
        if (row >= 0 && row < set_->model()->rowCount())
            set_->setCurrentIndex(set_->model()->index(row, 0));
    }
    set_->setVisible(settings);
    why_->setVisible((!starting || priming) && !charting && !choosing);
    whyBeside_->setVisible(starting && settings);
    sequence_->setVisible(ordering || priming || choosing);
    powerChart_->setVisible(charting);
    steps_->setVisible(charting);
    leverColumn_->setVisible(choosing);
    if (charting)
        refreshChart();
    if (choosing)
        refreshChoice();
    if (priming)
        sequence_->put(rowsOf(p.priming));
    expect_->put(rowsOf(p.expect));
    expectHead_->setText(walking ? tr("Fuel by dip and gauge") : tr("Expect"));
    expectHead_->setVisible((!p.expect.empty() && settings) || walking);
    expect_->setVisible(!p.expect.empty() && settings);
    fuel_->setVisible(walking);
    fuel_->put(rowsOf(p.groundFuel));
    clockHead_->setVisible(settings);
    clock_->setVisible(settings);
    clock_->put(rowsOf(p.clocks));
    primePictures_->setVisible(priming);
    if (priming)
        for (auto* picture : {&doseChart_, &timeChart_}) {
            picture->chart->show(phase_);
            picture->label->setText(picture->chart->title());
        }
    chart_->show(phase_);
    const bool picture = PhaseChart::hasPicture(phase_) && settings;
    chartColumn_->setVisible(picture);
    chart_->setVisible(picture);
    chartTitle_->setText(chart_->title());

    showFields();
    refreshStart();
    {
        const QSignalBlocker quiet(pageChoice_);
        static const std::map<SubPage, const char*> names{{SubPage::settings, "settings"},
                                                          {SubPage::priming, "priming"},
                                                          {SubPage::order, "order"},
                                                          {SubPage::chart, "power chart"},
                                                          {SubPage::choose, "choose"}};
        pageChoice_->clear();
        const auto pages = subPagesOf(phase_);
        for (const auto page : pages)
            pageChoice_->addItem(tr(names.at(page)));
        pageChoice_->setCurrentIndex(
            static_cast<int>(std::find(pages.begin(), pages.end(), subPage()) - pages.begin()));
    }
    for (auto& [box, place] : ratings_) {
        const QSignalBlocker quiet(box);
        box->clear();
        for (const auto& rating : notes.ratings)
            box->addItem(QString::fromStdString(rating.name), QString::fromStdString(rating.key));
        const Phase phase = place == &Flight::climbRating ? Phase::climb : Phase::cruise;
        box->setCurrentIndex(
            box->findData(QString::fromStdString(plan::ratingFor(notes, document_.sortie(), phase).key)));
    }
    for (auto* field : inlineFields_)
        field->refresh();
    refreshComparison();
    showWhy();
}

void PhasePage::showFields() {
    const TypeNotes& notes = document_.aircraft().notes;
    const bool ordering = subPage() == SubPage::order, choosing = subPage() == SubPage::choose,
               charting = subPage() == SubPage::chart;
    const auto kind = notes.start.starter.kind;
    const auto wanted = [&](QWidget* widget, const std::vector<Phase>& phases) {
        if (std::find(phases.begin(), phases.end(), phase_) == phases.end())
            return false;
        if (widget == startOrder_->parentWidget())
            return ordering;
        if (widget == supply_->parentWidget())
            return kind == StarterKind::direct || kind == StarterKind::inertia;
        if (widget == diluted_->parentWidget())
            return !ordering && notes.start.cold.diluteBelow.has_value();
        if (widget->objectName() == QLatin1String("preheated"))
            return !ordering;
        if (widget == askChoice_->parentWidget() || widget == leanTest_->parentWidget() ||
            widget->objectName() == QLatin1String("asked"))
            return choosing;
        if (widget->objectName() == QLatin1String("cruise-boost"))
            return !choosing && !charting && notes.gauges.contains(Gauge::boost);
        if (widget->objectName() == QLatin1String("cruise-rpm") || widget->objectName() == QLatin1String("distance"))
            return !choosing && !charting;
        if (phase_ == Phase::cruise && choosing && widget->objectName() == QLatin1String("cruise-height"))
            return false;
        for (const auto& [field, index] : tankFields_)
            if (field == widget)
                return phase_ == Phase::walkRound && index < notes.fuel.tanks.size();
        return true;
    };
    for (auto& [field, index] : tankFields_)
        if (index < notes.fuel.tanks.size())
            field->setCaption(tr("%1 tank").arg(QString::fromStdString(notes.fuel.tanks[index].name)));
    // What goes is hidden before what comes is shown: all at once they would widen the window.
    for (const bool shown : {false, true})
        for (auto& [widget, phases] : fields_)
            if (wanted(widget, phases) == shown)
                widget->setVisible(shown);
}

std::vector<PhasePage::SubPage> PhasePage::subPagesOf(Phase phase) {
    switch (phase) {
    case Phase::start:
        return {SubPage::settings, SubPage::priming, SubPage::order};
    case Phase::takeOff:
    case Phase::climb:
        return {SubPage::settings, SubPage::chart};
    case Phase::cruise:
        return {SubPage::settings, SubPage::chart, SubPage::choose};
    default:
        return {SubPage::settings};
    }
}

PhasePage::SubPage PhasePage::subPage() const {
    const auto found = subPages_.find(phase_);
    return found == subPages_.end() ? SubPage::settings : found->second;
}

void PhasePage::showSubPage(SubPage page) {
    const auto pages = subPagesOf(phase_);
    if (std::find(pages.begin(), pages.end(), page) == pages.end())
        return;
    subPages_[phase_] = page;
    refresh();
}

void PhasePage::nextSubPage() {
    const auto pages = subPagesOf(phase_);
    const auto here = std::find(pages.begin(), pages.end(), subPage());
    showSubPage(here + 1 == pages.end() ? pages.front() : *(here + 1));
}

void PhasePage::refreshStart() {
    const bool here = phase_ == Phase::start, ordering = here && subPage() == SubPage::order;
    startColumn_->setVisible(ordering);
    orders_->setVisible(ordering);
    ordersHead_->setVisible(ordering);
    if (!here)
        return;
    const QSignalBlocker quiet(startOrder_), quiet2(supply_), quiet3(diluted_);
    const auto& plan = document_.plan();
    const Colours c(this);
    startOrder_->clear();
    const auto cell = [&](const QString& text, const char* align = "left") {
        return QStringLiteral("<td align='%1' style='color:%2'>%3</td>").arg(QLatin1String(align), c.ink.name(), text);
    };
    const bool battery = document_.sortie().start.supply == start::Supply::battery;
    QString html = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='3'><tr style='color:%1'>"
                                  "<td></td><td align='right'>%2</td>%3<td>%4</td></tr>")
                       .arg(c.faint.name(), tr("all running"),
                            battery ? QStringLiteral("<td align='right'>%1</td>").arg(tr("battery")) : QString(),
                            tr("on line first, and why"));
    for (const auto& o : plan.orders) {
        startOrder_->addItem(tr("%1, %2").arg(q(o.named.name), q(formatMinutesSeconds(o.timeline.total))));
        startOrder_->setItemData(startOrder_->count() - 1, QString::fromStdString(o.named.reason), Qt::ToolTipRole);
        if (o.wanted)
            startOrder_->setCurrentIndex(startOrder_->count() - 1);
        QStringList online;
        for (const auto& a : o.timeline.onLineFirst)
            online << q(a);
        QString name = q(o.named.name);
        if (o.wanted)
            name = QStringLiteral("<b>%1</b>").arg(name);
        html += QStringLiteral("<tr>") + cell((o.wanted ? QStringLiteral("● ") : QStringLiteral("○ ")) + name) +
                cell(q(formatMinutesSeconds(o.timeline.total)), "right");
        if (battery)
            html += cell(tr("%1 %").arg(std::lround(100 * o.timeline.batteryLeft)), "right");
        html += cell(QStringLiteral("%1. %2 <i>%3</i> %4")
                         .arg(online.isEmpty() ? tr("nothing") : online.join(QStringLiteral(", ")), q(o.named.reason),
                              tr("But:"), q(o.named.risk))) +
                QStringLiteral("</tr>");
    }
    orders_->setText(html + QStringLiteral("</table>"));
    supply_->setCurrentIndex(battery ? 1 : 0);
    diluted_->setCurrentIndex(document_.sortie().start.diluted ? 1 : 0);
    if (!ordering)
        return;
    startTimeline_->refresh();
}

void PhasePage::showSequence() {
    if (subPage() != SubPage::order)
        return;
    const TypeNotes& notes = document_.aircraft().notes;
    // With what does not catch on the timeline, and the settings that follow from it.
    const auto lines = start::startSequence(notes, document_.plan().startInForce, startTimeline_->timeline(),
                                            plan::startRequestOf(document_.sortie()));
    std::vector<SequenceRow> told;
    std::string last;
    for (const auto& line : lines) {
        const std::string text = line.what + " " + line.set;
        if (!told.empty() && last == line.engine && line.time - told.back().time < 0.5) {
            told.back().text += " · " + text;
            continue;
        }
        std::string name;
        for (const auto& p : notes.positions)
            if (p.id == line.engine && line.engine != last)
                name = p.name;
        last = line.engine;
        told.push_back({line.time, name, text});
    }
    std::vector<Row> rows(told.begin(), told.end());
    sequence_->put(std::move(rows));
}

void PhasePage::refreshWalk(bool first) {
    const auto& walk = document_.plan().walk;
    walk_->refresh();
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (index >= walk.stops.size())
        return;
    const auto& stop = walk.stops[index];
    setHead_->setText(tr("%1  ·  station %2 of %3")
                          .arg(QString::fromStdString(stop.station->name))
                          .arg(index + 1)
                          .arg(walk.stops.size()));
    const int row = first ? 0 : set_->currentIndex().row();
    set_->put(rowsOf(stop.items));
    if (row >= 0 && row < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row, 0));
    const Colours c(this);
    QStringList lines;
    for (const auto& d : walk.defects)
        lines << QStringLiteral("%1 %2: %3").arg(markHtml(d.colour, c), q(d.where), q(d.sentence));
    const QString head = QStringLiteral("<span style='color:%1'><b>%2</b></span><br>")
                             .arg(palette().color(QPalette::Link).name(), tr("Written up"));
    defects_->setText(head + (lines.isEmpty() ? tr("Nothing so far.") : lines.join(QStringLiteral("<br>"))));
    showWhy();
}

void PhasePage::takeFinding(int row, const QString& text) {
    const auto& stops = document_.plan().walk.stops;
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (phase_ != Phase::walkRound || index >= stops.size() || row < 0 ||
        row >= static_cast<int>(stops[index].items.size()))
        return;
    const auto& finding = stops[index].items[static_cast<std::size_t>(row)];
    Sortie changed = document_.sortie();
    const std::string typed = text.trimmed().toStdString();
    if (typed.empty()) {
        changed.walk.found.erase(finding.key);
    } else {
        if (const auto why = start::refusal(*finding.item, typed); !why.empty()) {
            emit refused(QString::fromStdString(finding.what + ": " + why));
            return;
        }
        changed.walk.found[finding.key] = start::kept(*finding.item, typed);
    }
    if (const QString error = document_.edit(changed, tr("walk-round")); !error.isEmpty()) {
        emit refused(error);
        return;
    }
    // On to the next thing at this station.
    if (!typed.empty() && row + 1 < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row + 1, 0));
}

void PhasePage::takeOrder(const std::vector<std::string>& order) {
    Sortie changed = document_.sortie();
    changed.start.order = order == document_.aircraft().notes.start.order ? std::vector<std::string>{} : order;
    if (const QString error = document_.edit(changed, tr("start order")); !error.isEmpty())
        emit refused(error);
}

void PhasePage::refreshComparison() {
    const auto comparison = plan::compareDays(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    const bool any = !comparison.rows.empty() && subPage() == SubPage::settings;
    comparisonHead_->setVisible(any);
    comparison_->setVisible(any);
    if (!any)
        return;
    const Colours c(this);
    QString html = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='1'><tr><td></td>");
    for (const auto& column : comparison.columns)
        html += QStringLiteral("<td align='right' style='color:%1'>%2</td>").arg(c.faint.name(), q(column));
    html += QStringLiteral("</tr>");
    for (const auto& row : comparison.rows) {
        html += QStringLiteral("<tr><td style='color:%1'>%2</td>").arg(c.ink.name(), q(row.what));
        for (std::size_t i = 0; i < row.cells.size(); ++i) {
            QString cell = q(row.cells[i]).replace(QLatin1Char(' '), QStringLiteral("&nbsp;"));
            if (row.colours[i] != watch::Colour::normal)
                cell = markHtml(row.colours[i], c) +
                       QStringLiteral("&nbsp;<span style='color:%1'>%2</span>").arg(c.of(row.colours[i]).name(), cell);
            html +=
                QStringLiteral("<td align='right'>%1</td>").arg(i == 0 ? QStringLiteral("<b>%1</b>").arg(cell) : cell);
        }
        html += QStringLiteral("</tr>");
    }
    comparison_->setText(html + QStringLiteral("</table>"));
}

void PhasePage::showWhy() {
    if (phase_ == Phase::walkRound && walk_->stations() > 0) {
        const auto& stops = document_.plan().walk.stops;
        const auto index = static_cast<std::size_t>(walk_->selected());
        const int row = set_->currentIndex().row();
        if (index >= stops.size() || row < 0 || row >= static_cast<int>(stops[index].items.size())) {
            why_->clear();
            return;
        }
        const auto& f = stops[index].items[static_cast<std::size_t>(row)];
        const Colours c(this);
        const bool look = f.item->kind == WalkItemKind::look;
        why_->setText(QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3 %4%5")
                          .arg(c.amber.name(), q(f.what), q(f.item->why),
                               f.item->stopper ? tr("<b>Stops the flight when wrong.</b> ") : QString(),
                               look ? tr("<i>Space: in order. Type: what is wrong. Delete: not seen.</i>")
                                    : tr("<i>Type the reading.</i>")));
        return;
    }
    if (subPage() == SubPage::priming) {
        why_->setText(tr("Strokes count from the first firm one, and the barrel fills before each. <b>Too little</b> "
                         "turns and never fires. <b>Too much</b> coughs, pops, smokes black and runs from the drain: "
                         "cut-off, throttle wide open, turn it clear, then start again without prime. A fire at the "
                         "intake: keep turning, fuel off, throttle open; then ignition off."));
        return;
    }
    const auto& lines = document_.plan()[phase_].set;
    const int row = set_->currentIndex().row();
    if (row < 0 || row >= static_cast<int>(lines.size())) {
        why_->clear();
        whyBeside_->clear();
        return;
    }
    const auto& s = lines[static_cast<std::size_t>(row)];
    const Colours c(this);
    QString html =
        QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3").arg(c.amber.name(), q(s.what), q(s.why));
    if (!s.sense.empty())
        html += QStringLiteral(" <i>%1</i> %2.").arg(tr("Lever:"), q(s.sense));
    if (!s.skipped.empty())
        html += QStringLiteral("<br><i>%1</i> %2").arg(tr("Skipped:"), q(s.skipped));
    if (s.ordersOffered)
        html += tr("<br>◇ Enter: another order; the page \"order\" compares them.");
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        const auto& school = s.schools[i];
        if (s.ordersOffered && static_cast<int>(i) != s.school)
            continue;
        html += QStringLiteral("<br>%1 <b>%2</b>%3: %4 <i>%5</i> %6")
                    .arg(static_cast<int>(i) == s.school ? QStringLiteral("●") : QStringLiteral("○"), q(school.name),
                         school.byNotes ? tr(" (notes)") : QString(), q(school.gain), tr("But:"), q(school.risk));
    }
    why_->setText(html);
    whyBeside_->setText(html);
}

void PhasePage::offerSchools(int row) {
    const auto& lines = document_.plan()[phase_].set;
    if (row < 0 || row >= static_cast<int>(lines.size()))
        return;
    const auto& s = lines[static_cast<std::size_t>(row)];
    if (s.schools.empty() || !s.open)
        return;
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("schools"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setToolTipsVisible(true);
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        auto* action = menu->addAction(QString::fromStdString(s.schools[i].name) +
                                       (s.schools[i].byNotes ? tr("  (notes)") : QString()));
        action->setCheckable(true);
        action->setChecked(static_cast<int>(i) == s.school);
        action->setToolTip(QString::fromStdString(s.schools[i].gain + " But: " + s.schools[i].risk));
        const QString name = QString::fromStdString(s.schools[i].name);
        connect(action, &QAction::triggered, this, [this, row, name] { chooseSchool(row, name); });
    }
    menu->popup(
        set_->viewport()->mapToGlobal(set_->visualRect(set_->model()->index(row, 0)).bottomLeft() + QPoint(128, 0)));
}

void PhasePage::chooseSchool(int row, const QString& school) {
    const auto& s = document_.plan()[phase_].set.at(static_cast<std::size_t>(row));
    if (s.ordersOffered) {
        for (const auto& o : document_.plan().orders)
            if (o.named.name == school.toStdString()) {
                takeOrder(o.named.order);
                return;
            }
        return;
    }
    Sortie changed = document_.sortie();
    changed.choices[std::string(keyOf(phase_)) + "/" + s.stepId] = school.toStdString();
    if (const QString error = document_.edit(changed, tr("school")); !error.isEmpty())
        emit refused(error);
}

} // namespace amber::app
