// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/phase_page.h"
#include "shell/captioned.h"
#include "shell/field_behaviour.h"
#include "shell/theme.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {
namespace {
QString q(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}
constexpr std::size_t mostTankFields = 4;

QString markHtml(watch::Colour colour, const Colours& c) {
    const char* shape = colour == watch::Colour::red ? "■" : colour == watch::Colour::amber ? "▲" : "●";
    return QStringLiteral("<span style='color:%1'>%2</span>").arg(c.of(colour).name(), QString::fromUtf8(shape));
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
    left->addWidget(heading(tr("Set")));
    left->addWidget(set_);
    why_ = new QLabel(this);
    why_->setObjectName(QStringLiteral("why"));
    why_->setFont(face(13));
    why_->setWordWrap(true);
    why_->setTextFormat(Qt::RichText);
    why_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    left->addSpacing(6);
    left->addWidget(why_);
    left->addStretch(1);
    comparisonHead_ = heading(tr("Another day (model)"));
    comparison_ = new QLabel(this);
    comparison_->setObjectName(QStringLiteral("comparison"));
    comparison_->setFont(face(13));
    comparison_->setTextFormat(Qt::RichText);
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
    expectColumn->addStretch(1);
    auto* clockColumn = new QVBoxLayout;
    clockColumn->setSpacing(0);
    clock_ = new RowView(QStringLiteral("clock"), this);
    clock_->setFixedWidth(276);
    clock_->setAccessibleName(tr("Clock: waits and times"));
    clockColumn->addWidget(heading(tr("Clock")));
    clockColumn->addWidget(clock_);
    clockColumn->addStretch(1);
    upper->addLayout(expectColumn, 1);
    upper->addLayout(clockColumn, 0);
    right->addLayout(upper);

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
    column(chartTitle_, chart_, 40);
    startColumn_ = column(startTitle_, startTimeline_, 60);
    right->addSpacing(8);
    right->addLayout(pictures, 1);
    connect(startTimeline_, &StartTimelineView::summaryChanged, this, [this] {
        startTitle_->setText(startTimeline_->summary());
        startTitle_->setToolTip(startTitle_->text());
    });
    connect(startTimeline_, &StartTimelineView::orderWanted, this, &PhasePage::takeOrder);
    columns->addLayout(right, 1);

    buildFields();
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

QComboBox* PhasePage::ratingChoice(const QString& name, std::string Flight::*place) {
    auto* box = new QComboBox(fieldRow_);
    box->setObjectName(name);
    ratings_.emplace_back(box, place);
    connect(box, &QComboBox::activated, this, [this, box, place](int index) {
        Sortie changed = document_.sortie();
        changed.flight.*place = box->itemData(index).toString().toStdString();
        if (const QString error = document_.edit(changed, tr("rating")); !error.isEmpty())
            emit refused(error);
    });
    return box;
}

void PhasePage::buildFields() {
    auto* row = new QHBoxLayout(fieldRow_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(18);
    const auto cockpit = [this](const UnitSpec* Cockpit::*unit) {
        return [this, unit] { return document_.aircraft().notes.cockpit.*unit; };
    };
    const auto addInline = [&](InlineField* field, const QString& hint, std::vector<Phase> phases) {
        field->setHint(hint);
        row->addWidget(field, 0, Qt::AlignBottom);
        inlineFields_.push_back(field);
        fields_.push_back({field, std::move(phases)});
        return field;
    };
    const auto addChoice = [&](const QString& caption, QComboBox* box, std::vector<Phase> phases) {
        auto* holder = captioned(caption, box, fieldRow_);
        row->addWidget(holder, 0, Qt::AlignBottom);
        fields_.push_back({holder, std::move(phases)});
    };
    addChoice(tr("Rating"), ratingChoice(QStringLiteral("climb-rating"), &Flight::climbRating), {Phase::climb});
    addChoice(tr("Rating"), ratingChoice(QStringLiteral("cruise-rating"), &Flight::cruiseRating), {Phase::cruise});
    addInline(
        new InlineField(tr("Cruise height"), QStringLiteral("cruise-height"),
                        figureField<Dimension::length>(document_, tr("cruise height"), cockpit(&Cockpit::height), 500,
                                                       [](Sortie& s) -> Length& { return s.flight.cruiseHeight; }),
                        fieldRow_),
        tr("Height above sea level on the QNH"), {Phase::climb, Phase::cruise, Phase::letDown});
    addInline(
        new InlineField(tr("Distance"), QStringLiteral("distance"),
                        figureField<Dimension::distance>(document_, tr("distance"), cockpit(&Cockpit::distance), 10,
                                                         [](Sortie& s) -> Distance& { return s.flight.distance; }),
                        fieldRow_),
        tr("Over the ground, the whole flight"), {Phase::cruise});
    addInline(new InlineField(tr("Queue"), QStringLiteral("hold"),
                              figureField<Dimension::duration>(
                                  document_, tr("queue"), [] { return units::minute.spec; }, 1,
                                  [](Sortie& s) -> Duration& { return s.flight.hold; }),
                              fieldRow_),
              tr("Minutes of waiting at the holding point"), {Phase::warmUp, Phase::runUp});
    addInline(
        new InlineField(tr("Landing field"), QStringLiteral("to-elevation"),
                        figureField<Dimension::length>(document_, tr("landing field"), cockpit(&Cockpit::height), 50,
                                                       [](Sortie& s) -> Length& { return s.flight.toElevation; }),
                        fieldRow_),
        tr("Elevation of the field of landing"), {Phase::letDown, Phase::landing});
    startOrder_ = new QComboBox(fieldRow_);
    startOrder_->setObjectName(QStringLiteral("start-order"));
    supply_ = new QComboBox(fieldRow_);
    supply_->setObjectName(QStringLiteral("supply"));
    supply_->addItems({tr("ground cart"), tr("battery")});
    addChoice(tr("Order"), startOrder_, {Phase::start});
    addChoice(tr("Supply"), supply_, {Phase::start});
    connect(startOrder_, &QComboBox::activated, this, [this](int index) {
        const auto orders = start::namedOrders(document_.aircraft().notes);
        if (index >= 0 && index < static_cast<int>(orders.size()))
            takeOrder(orders[static_cast<std::size_t>(index)].order);
    });
    connect(supply_, &QComboBox::activated, this, [this](int index) {
        Sortie changed = document_.sortie();
        changed.start.supply = index == 0 ? start::Supply::cart : start::Supply::battery;
        if (const QString error = document_.edit(changed, tr("supply")); !error.isEmpty())
            emit refused(error);
    });
    {
        InlineField::Behaviour b;
        b.show = [this] {
            const auto& s = document_.sortie().start;
            return s.sinceStop ? tr("%1 ago").arg(QString::fromStdString(format(s.sinceStop->si(), *units::hour.spec)))
                               : tr("cold");
        };
        b.apply = [this](const QString& text, int gesture) -> QString {
            Sortie changed = document_.sortie();
            const QString plain = text.trimmed().remove(QStringLiteral("ago")).trimmed();
            if (plain.compare(QStringLiteral("cold"), Qt::CaseInsensitive) == 0) {
                changed.start.sinceStop.reset();
            } else {
                const auto read = readQuantity(Dimension::duration, plain.toStdString(), units::hour.spec);
                if (!read || read.value().si < 0 || read.value().si > 360000)
                    return tr("Write how long ago the engines were stopped, \"2 h\" or \"40 min\", or \"cold\".");
                changed.start.sinceStop = Duration::si(read.value().si);
            }
            return document_.edit(changed, tr("engines stopped"), gesture);
        };
        addInline(
            new InlineField(tr("Stopped"), QStringLiteral("stopped"), std::move(b), fieldRow_),
            tr("How long ago the engines were stopped, or cold: they are primed for the temperature they have left"),
            {Phase::start});
    }
    // Tank contents are read on the walk-round.
    for (std::size_t i = 0; i < mostTankFields; ++i) {
        InlineField::Behaviour b;
        const auto tank = [this, i]() -> const Tank* {
            return i < document_.aircraft().notes.fuel.tanks.size() ? &document_.aircraft().notes.fuel.tanks[i]
                                                                    : nullptr;
        };
        const auto contents = [this, tank] {
            const auto found = document_.sortie().contents.find(tank()->id);
            return found == document_.sortie().contents.end() ? tank()->capacity : found->second;
        };
        const auto put = [this, tank](double si, int gesture) {
            Sortie changed = document_.sortie();
            changed.contents[tank()->id] = Volume::si(std::max(0.0, si));
            return document_.edit(changed, tr("fuel"), gesture);
        };
        b.show = [this, tank, contents] {
            return tank() ? QString::fromStdString(format(contents().si(), *document_.aircraft().notes.cockpit.fuel))
                          : QString();
        };
        b.apply = [this, tank, put](const QString& text, int gesture) -> QString {
            if (!tank())
                return {};
            const auto read =
                readQuantity(Dimension::volume, text.toStdString(), document_.aircraft().notes.cockpit.fuel);
            return read ? put(read.value().si, gesture) : QString::fromStdString(read.error());
        };
        b.step = [this, tank, contents, put](int steps, int gesture) -> QString {
            const double unit = document_.aircraft().notes.cockpit.fuel->scale;
            return tank() ? put(std::min(tank()->capacity.si(), contents().si() + steps * 5 * unit), gesture)
                          : QString();
        };
        auto* field = addInline(new InlineField(tr("Tank"), QStringLiteral("tank-%1").arg(i), std::move(b), fieldRow_),
                                tr("Fuel in this tank at start, by dip"), {Phase::walkRound, Phase::cruise});
        tankFields_.emplace_back(field, i);
    }
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
        lines << QStringLiteral("%1 %2").arg(markHtml(r.colour, c), q(r.sentence));
    for (const auto& e : p.expect)
        if (e.judgement.colour != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(markHtml(e.judgement.colour, c), q(e.judgement.sentence));
    for (const auto& k : p.clocks)
        if (k.colour != watch::Colour::normal)
            lines << QStringLiteral("%1 %2: %3").arg(markHtml(k.colour, c), q(k.what), q(k.why));
    notices_->setText(lines.join(QStringLiteral("<br>")));
    notices_->setVisible(!lines.isEmpty());

    const int row = set_->currentIndex().row();
    set_->put(rowsOf(p.set));
    if (row >= 0 && row < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row, 0));
    expect_->put(rowsOf(p.expect));
    // Words want more room than levers; a phase without gauges gives all of it.
    left_->setFixedWidth(p.expect.empty() ? 720 : phase_ >= Phase::takeOff && phase_ <= Phase::letDown ? 380 : 424);
    expectHead_->setVisible(!p.expect.empty());
    expect_->setVisible(!p.expect.empty());
    clock_->put(rowsOf(p.clocks));
    chart_->show(phase_);
    chartTitle_->setVisible(PhaseChart::hasPicture(phase_));
    chartTitle_->setText(chart_->title());

    for (auto& [widget, phases] : fields_)
        widget->setVisible(std::find(phases.begin(), phases.end(), phase_) != phases.end());
    for (auto& [field, index] : tankFields_) {
        const bool there = index < notes.fuel.tanks.size();
        if (there)
            field->setCaption(tr("%1 tank").arg(QString::fromStdString(notes.fuel.tanks[index].name)));
        field->setVisible(there && phase_ == Phase::walkRound);
    }
    refreshStart();
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

void PhasePage::refreshStart() {
    const bool here = phase_ == Phase::start;
    startColumn_->setVisible(here);
    if (!here)
        return;
    const QSignalBlocker quiet(startOrder_), quiet2(supply_);
    const TypeNotes& notes = document_.aircraft().notes;
    const auto& chosen = document_.sortie().start.order;
    startOrder_->clear();
    int current = -1;
    for (const auto& named : start::namedOrders(notes)) {
        auto request = plan::startRequestOf(document_.sortie());
        request.order = named.order;
        const auto timeline = start::planStart(notes, request);
        const double total = timeline ? timeline.value().total : 0.0;
        startOrder_->addItem(
            tr("%1, %2").arg(QString::fromStdString(named.name), QString::fromStdString(formatMinutesSeconds(total))));
        startOrder_->setItemData(startOrder_->count() - 1, QString::fromStdString(named.reason), Qt::ToolTipRole);
        if (named.order == (chosen.empty() ? notes.start.order : chosen))
            current = startOrder_->count() - 1;
    }
    if (current < 0) {
        startOrder_->addItem(
            tr("your own, %1").arg(QString::fromStdString(formatMinutesSeconds(document_.plan().startTimeline.total))));
        current = startOrder_->count() - 1;
    }
    startOrder_->setCurrentIndex(current);
    const auto kind = notes.start.starter.kind;
    supply_->parentWidget()->setVisible(kind == StarterKind::direct || kind == StarterKind::inertia);
    supply_->setCurrentIndex(document_.sortie().start.supply == start::Supply::cart ? 0 : 1);
    startTimeline_->refresh();
}

void PhasePage::takeOrder(const std::vector<std::string>& order) {
    Sortie changed = document_.sortie();
    changed.start.order = order == document_.aircraft().notes.start.order ? std::vector<std::string>{} : order;
    if (const QString error = document_.edit(changed, tr("start order")); !error.isEmpty())
        emit refused(error);
}

void PhasePage::refreshComparison() {
    const auto comparison = plan::compareDays(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    const bool any = !comparison.rows.empty();
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
    const auto& lines = document_.plan()[phase_].set;
    const int row = set_->currentIndex().row();
    if (row < 0 || row >= static_cast<int>(lines.size())) {
        why_->clear();
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
    for (std::size_t i = 0; i < s.schools.size(); ++i) {
        const auto& school = s.schools[i];
        html += QStringLiteral("<br>%1 <b>%2</b>%3: %4 <i>%5</i> %6")
                    .arg(static_cast<int>(i) == s.school ? QStringLiteral("●") : QStringLiteral("○"), q(school.name),
                         school.byNotes ? tr(" (notes)") : QString(), q(school.gain), tr("But:"), q(school.risk));
    }
    why_->setText(html);
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
    Sortie changed = document_.sortie();
    changed.choices[std::string(keyOf(phase_)) + "/" + s.stepId] = school.toStdString();
    if (const QString error = document_.edit(changed, tr("school")); !error.isEmpty())
        emit refused(error);
}

} // namespace amber::app
