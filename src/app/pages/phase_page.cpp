// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/phase_page.h"
#include "kit/combo.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "plan/start_words.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QSignalBlocker>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {

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
    // Where the fields leave it no room beside the title, the headline has a line of its own.
    headlineBelow_ = new QLabel(this);
    headlineBelow_->setObjectName(QStringLiteral("headline-below"));
    headlineBelow_->setFont(face(14));
    headlineBelow_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headlineBelow_->setForegroundRole(QPalette::PlaceholderText);
    headlineBelow_->hide();
    page->addWidget(headlineBelow_);

    notices_ = new RichLabel(this);
    notices_->setObjectName(QStringLiteral("notices"));
    notices_->setFont(face(13));
    page->addWidget(notices_);

    body_ = new QWidget(this);
    auto* columns = new QHBoxLayout(body_);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(26);
    page->addWidget(body_, 1);
    heat_ = new HeatPage(document_, this);
    runUp_ = new RunUpPage(document_, this);
    for (QWidget* whole : std::initializer_list<QWidget*>{heat_, runUp_}) {
        whole->hide();
        page->addWidget(whole, 1);
    }
    connect(runUp_, &RunUpPage::refused, this, &PhasePage::refused);

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
    why_ = new RichLabel(this);
    why_->setObjectName(QStringLiteral("why"));
    why_->setFont(face(13));
    why_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    left->addSpacing(6);
    left->addWidget(why_);
    steps_ = new RichLabel(this);
    steps_->setObjectName(QStringLiteral("steps"));
    steps_->setFont(face(14));
    steps_->setContentsMargins(0, 6, 0, 0);
    left->addWidget(steps_);
    defects_ = new RichLabel(this);
    defects_->setObjectName(QStringLiteral("defects"));
    defects_->setFont(face(13));
    defects_->setContentsMargins(0, 8, 0, 0);
    left->addWidget(defects_);
    left->addStretch(1);
    comparisonHead_ = heading(tr("Another day (model)"));
    comparison_ = new RichLabel(this);
    comparisonLater_ = new QTimer(this);
    comparisonLater_->setSingleShot(true);
    comparisonLater_->setInterval(0);
    connect(comparisonLater_, &QTimer::timeout, this, &PhasePage::refreshComparison);
    comparison_->setObjectName(QStringLiteral("comparison"));
    comparison_->setFont(face(13));
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
    whyBeside_ = new RichLabel(this);
    whyBeside_->setObjectName(QStringLiteral("why-beside"));
    whyBeside_->setFont(face(13));
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
    orders_ = new RichLabel(this);
    orders_->setObjectName(QStringLiteral("orders"));
    orders_->setFont(face(13));
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
    headlineText_ = QString::fromStdString(p.headline) + tr("  (model)");

    QStringList lines;
    for (const auto& caution : p.cautions)
        lines << QStringLiteral("<b>%1</b> %2").arg(tr("Caution:"), html::text(caution));
    for (const auto& r : p.remarks)
        if (phase_ != Phase::walkRound ||
            r.verdict.colour() == watch::Colour::red) // the others are listed as written up
            lines << QStringLiteral("%1 %2").arg(html::mark(r.verdict, c), html::text(r.verdict.sentence()));
    for (const auto& e : p.expect)
        if (e.verdict.colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(html::mark(e.verdict, c), html::text(e.verdict.sentence()));
    for (const auto& k : p.clocks)
        if (k.verdict.colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2: %3").arg(html::mark(k.verdict, c), html::text(k.what), html::text(k.why));
    notices_->setText(lines.join(QStringLiteral("<br>")));
    notices_->setVisible(!lines.isEmpty());

    if (showWholePage()) {
        refreshStart();
        showFields();
        showPageChoice();
        for (auto* field : inlineFields_)
            field->refresh();
        return;
    }
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
        set_->put(html::rows(p.set));
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
        sequence_->put(html::rows(p.priming));
    if (settings)
        expect_->put(html::rows(p.expect));
    expectHead_->setText(walking ? tr("Fuel by dip and gauge") : tr("Expect"));
    expectHead_->setVisible((!p.expect.empty() && settings) || walking);
    expect_->setVisible(!p.expect.empty() && settings);
    fuel_->setVisible(walking);
    if (walking)
        fuel_->put(html::rows(p.groundFuel));
    clockHead_->setVisible(settings);
    clock_->setVisible(settings);
    if (settings)
        clock_->put(html::rows(p.clocks));
    primePictures_->setVisible(priming);
    if (priming)
        for (auto* picture : {&doseChart_, &timeChart_}) {
            picture->chart->show(phase_);
            picture->label->setText(picture->chart->title());
        }
    const bool picture = PhaseChart::hasPicture(phase_) && settings;
    if (picture) {
        chart_->show(phase_);
        chartTitle_->setText(chart_->title());
    }
    chartColumn_->setVisible(picture);
    chart_->setVisible(picture);

    showFields();
    refreshStart();
    showPageChoice();
    for (auto& [box, place] : ratings_) {
        QList<ComboChoice> choices;
        for (const auto& rating : notes.ratings)
            choices << ComboChoice{q(rating.name), q(rating.key), {}};
        const Phase phase = place == &Flight::climbRating ? Phase::climb : Phase::cruise;
        offer(*box, choices, q(flight::ratingFor(notes, document_.sortie(), phase).key));
    }
    for (auto* field : inlineFields_)
        field->refresh();
    showWhy();
    // Other days take flights of their own: where they stand already, after the frame that shows this one.
    const bool compared = settings && plan::comparesDays(phase_);
    if (compared && comparison_->isVisible() && comparedPhase_ == phase_) {
        comparisonLater_->start();
    } else {
        comparisonHead_->setVisible(compared);
        comparison_->setVisible(compared);
        refreshComparison();
    }
}

bool PhasePage::showWholePage() {
    static const std::map<SubPage, HeatPage::Kind> heats{
        {SubPage::engines, HeatPage::Kind::engines},   {SubPage::budget, HeatPage::Kind::budget},
        {SubPage::bands, HeatPage::Kind::bands},       {SubPage::cooling, HeatPage::Kind::cooling},
        {SubPage::schedule, HeatPage::Kind::schedule}, {SubPage::afterwards, HeatPage::Kind::afterwards}};
    const auto heat = heats.find(subPage());
    const bool sheet = subPage() == SubPage::sheet, whole = sheet || heat != heats.end();
    // What goes is hidden before what comes is shown.
    if (whole)
        body_->hide();
    if (!sheet)
        runUp_->hide();
    if (heat == heats.end())
        heat_->hide();
    body_->setVisible(!whole);
    runUp_->setVisible(sheet);
    heat_->setVisible(heat != heats.end());
    if (sheet)
        runUp_->refresh();
    if (heat != heats.end())
        heat_->present(heat->second, phase_);
    return whole;
}

void PhasePage::showPageChoice() {
    const QSignalBlocker quiet(pageChoice_);
    static const std::map<SubPage, const char*> names{
        {SubPage::settings, "settings"}, {SubPage::priming, "priming"},      {SubPage::order, "order"},
        {SubPage::engines, "engines"},   {SubPage::budget, "ground budget"}, {SubPage::sheet, "sheet"},
        {SubPage::chart, "power chart"}, {SubPage::bands, "by height"},      {SubPage::cooling, "cooling"},
        {SubPage::choose, "choose"},     {SubPage::schedule, "schedule"},    {SubPage::afterwards, "afterwards"}};
    pageChoice_->clear();
    const auto pages = subPagesOf(phase_);
    for (const auto page : pages)
        pageChoice_->addItem(tr(names.at(page)));
    pageChoice_->setCurrentIndex(static_cast<int>(std::find(pages.begin(), pages.end(), subPage()) - pages.begin()));
}

PhasePage::SubPage PhasePage::causePage(Phase phase) {
    switch (phase) {
    case Phase::warmUp:
        return SubPage::engines;
    case Phase::runUp:
        return SubPage::budget;
    case Phase::climb:
    case Phase::cruise:
        return SubPage::cooling;
    case Phase::letDown:
        return SubPage::schedule;
    case Phase::stop:
        return SubPage::afterwards;
    default:
        return SubPage::settings;
    }
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
            return !ordering && notes.start.cold.diluteBelow.has_value() && subPage() != SubPage::budget;
        if (widget == blanks_->parentWidget())
            return notes.start.cold.blanksBelow.has_value() && subPage() != SubPage::budget;
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
        if (widget == tankChoice_->parentWidget())
            return notes.fuel.tanks.size() > tankFields_.size();
        return true;
    };
    const int others = static_cast<int>(notes.fuel.tanks.size()) - static_cast<int>(tankFields_.size()) + 1;
    if (tankChoice_->count() != std::max(1, others) ||
        tankChoice_->property("type").toString() != QString::fromStdString(notes.file)) {
        const QSignalBlocker quiet(tankChoice_);
        tankChoice_->clear();
        tankChoice_->setProperty("type", QString::fromStdString(notes.file));
        for (std::size_t i = tankFields_.size() - 1; i < notes.fuel.tanks.size(); ++i)
            tankChoice_->addItem(QString::fromStdString(notes.fuel.tanks[i].name));
    }
    for (auto& [field, index] : tankFields_)
        if (const Tank* tank = tankOf(index))
            field->setCaption(tr("%1 tank").arg(QString::fromStdString(tank->name)));
    // What goes is hidden before what comes is shown: all at once they would widen the window.
    for (const bool shown : {false, true})
        for (auto& [widget, phases] : fields_)
            if (wanted(widget, phases) == shown)
                widget->setVisible(shown);
    placeHeadline();
}

void PhasePage::placeHeadline() {
    const QFontMetrics metrics(headline_->font());
    const auto fields = fieldRow_->layout()->sizeHint().width();
    const int inner = width() - layout()->contentsMargins().left() - layout()->contentsMargins().right();
    const int beside = inner - title_->sizeHint().width() - fields - 2 * 12;
    const bool fits = metrics.horizontalAdvance(headlineText_) <= beside;
    headline_->setText(fits ? headlineText_ : QString());
    headlineBelow_->setText(metrics.elidedText(headlineText_, Qt::ElideRight, inner));
    for (auto* label : {headline_, headlineBelow_})
        label->setToolTip(headlineText_);
    headlineBelow_->setVisible(!fits);
}

void PhasePage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (document_.isOpen())
        placeHeadline();
}

std::vector<PhasePage::SubPage> PhasePage::subPagesOf(Phase phase) {
    switch (phase) {
    case Phase::start:
        return {SubPage::settings, SubPage::priming, SubPage::order};
    case Phase::warmUp:
        return {SubPage::settings, SubPage::engines, SubPage::budget};
    case Phase::runUp:
        return {SubPage::settings, SubPage::sheet, SubPage::budget};
    case Phase::takeOff:
        return {SubPage::settings, SubPage::chart};
    case Phase::climb:
        return {SubPage::settings, SubPage::bands, SubPage::chart, SubPage::cooling};
    case Phase::cruise:
        return {SubPage::settings, SubPage::chart, SubPage::choose, SubPage::cooling};
    case Phase::letDown:
        return {SubPage::settings, SubPage::schedule};
    case Phase::stop:
        return {SubPage::settings, SubPage::afterwards};
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

void PhasePage::refreshComparison() {
    if (!document_.isOpen() || subPage() != SubPage::settings || !plan::comparesDays(phase_))
        return;
    const auto comparison = plan::compareDays(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    comparedPhase_ = phase_;
    const bool any = !comparison.rows.empty();
    comparisonHead_->setVisible(any);
    comparison_->setVisible(any);
    if (!any)
        return;
    const Colours c(this);
    QString rich = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='1'><tr><td></td>");
    for (const auto& column : comparison.columns)
        rich += QStringLiteral("<td align='right' valign='bottom' style='color:%1;padding-left:10px'>%2</td>")
                    .arg(c.faint.name(), html::text(column));
    rich += QStringLiteral("</tr>");
    for (const auto& row : comparison.rows) {
        // A unit that all have stands once, with the name: so four columns find room.
        const auto unitOf = [](const std::string& cell) {
            const auto space = cell.find(' ');
            return space == std::string::npos ? std::string{} : cell.substr(space + 1);
        };
        const std::string unit = row.cells.empty() ? std::string{} : unitOf(row.cells.front());
        const bool once = !unit.empty() && std::all_of(row.cells.begin(), row.cells.end(),
                                                       [&](const std::string& cell) { return unitOf(cell) == unit; });
        rich += QStringLiteral("<tr><td style='color:%1'>%2</td>")
                    .arg(c.ink.name(), html::text(once ? row.what + ", " + unit : row.what)
                                           .replace(QLatin1Char(' '), QStringLiteral("&nbsp;")));
        for (std::size_t i = 0; i < row.cells.size(); ++i) {
            QString cell = html::text(once ? row.cells[i].substr(0, row.cells[i].find(' ')) : row.cells[i])
                               .replace(QLatin1Char(' '), QStringLiteral("&nbsp;"));
            if (row.verdicts[i].colour() != watch::Colour::normal)
                cell = html::mark(row.verdicts[i], c) + QStringLiteral("&nbsp;<span style='color:%1'>%2</span>")
                                                            .arg(c.of(row.verdicts[i].colour()).name(), cell);
            rich +=
                QStringLiteral("<td align='right'>%1</td>").arg(i == 0 ? QStringLiteral("<b>%1</b>").arg(cell) : cell);
        }
        rich += QStringLiteral("</tr>");
    }
    comparison_->setText(rich + QStringLiteral("</table>"));
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
        const bool look = f.item.kind == WalkItemKind::look;
        why_->setText(QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3 %4%5")
                          .arg(c.amber.name(), html::text(f.what), html::text(f.item.why),
                               f.item.stopper ? tr("<b>Stops the flight when wrong.</b> ") : QString(),
                               look ? tr("<i>Space: in order. Type: what is wrong. Delete: not seen.</i>")
                                    : tr("<i>Type the reading.</i>")));
        return;
    }
    if (subPage() == SubPage::priming) {
        why_->setText(tr("Strokes count from the first firm one, and the barrel fills before each. <b>Too little</b> "
                         "turns and never fires. <b>Too much</b> coughs, pops, smokes black and runs from the drain: "
                         "%1, throttle wide open, turn it clear, then start again without prime. A fire at the "
                         "intake: keep turning, fuel off, throttle open; then ignition off.")
                          .arg(q(plan::fuelOff(document_.aircraft().notes))));
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
    QString rich = QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3")
                       .arg(c.amber.name(), html::text(s.what), html::text(s.why));
    if (!s.sense.empty())
        rich += QStringLiteral(" <i>%1</i> %2.").arg(tr("Lever:"), html::text(s.sense));
    if (!s.skipped.empty())
        rich += QStringLiteral("<br><i>%1</i> %2").arg(tr("Skipped:"), html::text(s.skipped));
    if (s.ordersOffered)
        rich += tr("<br>◇ Enter: another order; the page \"order\" compares them.");
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        const auto& school = s.schools[i];
        if (s.ordersOffered && static_cast<int>(i) != s.school)
            continue;
        rich += QStringLiteral("<br>%1 <b>%2</b>%3: %4 <i>%5</i> %6")
                    .arg(static_cast<int>(i) == s.school ? QStringLiteral("●") : QStringLiteral("○"),
                         html::text(school.name), school.byNotes ? tr(" (notes)") : QString(), html::text(school.gain),
                         tr("But:"), html::text(school.risk));
    }
    why_->setText(rich);
    whyBeside_->setText(rich);
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
