// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/symptoms_page.h"
#include "kit/flow_layout.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "notes/lever_words.h"
#include "trouble/automatics.h"
#include "trouble/context.h"
#include <QGridLayout>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <span>

namespace amber::app {
namespace {
/// Needles that a crew looks at when something is wrong, in this order.
constexpr std::array watchedGauges{Gauge::oilPressure,
                                   Gauge::oilTemperature,
                                   Gauge::headTemperature,
                                   Gauge::coolantTemperature,
                                   Gauge::rpm,
                                   Gauge::boost,
                                   Gauge::fuelPressure,
                                   Gauge::fuelFlow,
                                   Gauge::torque,
                                   Gauge::chargeTemperature,
                                   Gauge::carburettorAir,
                                   Gauge::exhaustTemperature,
                                   Gauge::oilContents,
                                   Gauge::waterPressure,
                                   Gauge::volts,
                                   Gauge::amperes};
/// Those of a start.
constexpr std::array startingGauges{Gauge::rpm, Gauge::fuelPressure, Gauge::oilPressure, Gauge::volts, Gauge::amperes};
/// What is noticed, in the order in which it is asked.
std::vector<Sense> senses(bool starts) {
    if (starts)
        return {Sense::starting, Sense::seen, Sense::smelt, Sense::heard, Sense::felt};
    return {Sense::felt, Sense::heard, Sense::seen, Sense::smelt, Sense::when, Sense::tried, Sense::starting};
}
constexpr double leastShown = 0.01;
constexpr std::size_t mostShown = 7;
} // namespace

SymptomsPage::SymptomsPage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("symptoms-page"));
    halves_ = new QHBoxLayout(this);
    halves_->setContentsMargins(0, 0, 0, 0);
    halves_->setSpacing(20);
    auto* left = new QWidget(this);
    left_ = new QVBoxLayout(left);
    left_->setContentsMargins(0, 0, 0, 0);
    left_->setSpacing(6);
    left_->addStretch(1);
    halves_->addWidget(left, 5);
    auto* right = new QWidget(this);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    act_ = new RichLabel(right);
    act_->setObjectName(QStringLiteral("first-act"));
    act_->setFont(face(17, true));
    tell_ = new RichLabel(right);
    tell_->setObjectName(QStringLiteral("tell-apart"));
    tell_->setFont(face(14));
    causes_ = new FiguresView(right);
    causes_->setObjectName(QStringLiteral("causes"));
    drill_ = new QPushButton(right);
    drill_->setObjectName(QStringLiteral("to-drill"));
    drill_->setFont(face(14));
    clear_ = new QPushButton(tr("Nothing noticed"), right);
    clear_->setObjectName(QStringLiteral("clear"));
    clear_->setFont(face(13));
    column->addWidget(act_);
    column->addWidget(drill_, 0, Qt::AlignLeft);
    column->addWidget(tell_);
    column->addWidget(causes_);
    column->addWidget(clear_, 0, Qt::AlignLeft);
    column->addStretch(1);
    halves_->addWidget(right, 6);
    connect(clear_, &QPushButton::clicked, this, [this] { notice({}); });
    connect(drill_, &QPushButton::clicked, this, [this] {
        if (diagnosis_.drill)
            emit drillWanted(*diagnosis_.drill);
    });
}

QWidget* SymptomsPage::first() {
    // At a start one looks outside first.
    if (context_.stage() == trouble::Stage::starting && !buttons_.empty())
        return buttons_.front().button;
    return needles_.empty() ? static_cast<QWidget*>(clear_) : needles_.front().way;
}

void SymptomsPage::widen() {
    halves_->setDirection(width() < 900 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void SymptomsPage::build() {
    const auto& n = document_.aircraft().notes;
    const std::string type = n.file + n.variant + std::to_string(context_.stages());
    if (choices_ && built_ == type)
        return;
    built_ = type;
    delete choices_;
    needles_.clear();
    buttons_.clear();
    choices_ = new QWidget(this);
    left_->insertWidget(0, choices_);
    auto* column = new QVBoxLayout(choices_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const bool starts = context_.stage() == trouble::Stage::starting;
    column->addWidget(heading(starts ? tr("Start trouble: does it turn, cough; wet or dry?") : tr("The needles")));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(3);
    const bool coolant = n.engine.cooling == Cooling::liquid;
    // Only what something shows that can happen here.
    auto patterns = trouble::patternsFor(n);
    std::erase_if(patterns, [&](const trouble::Pattern& p) { return trouble::chanceBefore(p, context_) <= 0.0; });
    int place = 0;
    for (const Gauge gauge : starts ? std::span<const Gauge>(startingGauges) : std::span<const Gauge>(watchedGauges)) {
        if (gauge == (coolant ? Gauge::headTemperature : Gauge::coolantTemperature))
            continue;
        // A needle that this cockpit has, or that some cause moves and can be read otherwise.
        const bool marked = n.gauges.contains(gauge);
        const bool told = std::any_of(patterns.begin(), patterns.end(), [&](const trouble::Pattern& p) {
            return std::any_of(p.signs.begin(), p.signs.end(),
                               [&](const auto& e) { return e.sign.isNeedle() && e.sign.gauge == gauge; });
        });
        if (!told ||
            (!marked && (gauge == Gauge::torque || gauge == Gauge::boost || gauge == Gauge::chargeTemperature ||
                         gauge == Gauge::fuelPressure || gauge == Gauge::exhaustTemperature)))
            continue;
        auto* label = new QLabel(q(std::string(nameOf(gauge).title)), choices_);
        label->setFont(face(13));
        auto* way = new QComboBox(choices_);
        way->setObjectName(QStringLiteral("needle-%1").arg(q(nameOf(gauge).key)));
        way->setAccessibleName(label->text());
        way->addItem(QStringLiteral("—"));
        for (const auto& row : wayTable())
            way->addItem(q(row.words));
        label->setBuddy(way);
        connect(way, &QComboBox::currentIndexChanged, this, &SymptomsPage::refresh);
        grid->addWidget(label, place / 2, 2 * (place % 2));
        grid->addWidget(way, place / 2, 2 * (place % 2) + 1);
        needles_.push_back({gauge, way});
        ++place;
    }
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
    if (!starts)
        column->addLayout(grid);
    for (const Sense sense : senses(starts)) {
        auto* row = new QWidget(choices_);
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(6);
        auto* label = new QLabel(q(nameOf(sense)), row);
        label->setFont(captionFace());
        label->setFixedWidth(62);
        auto* holder = new QWidget(row);
        auto* flow = new FlowLayout(holder, 4, 4);
        flow->setContentsMargins(0, 0, 0, 0);
        bool any = false;
        for (const auto& felt : feltTable()) {
            if (felt.sense != sense)
                continue;
            const bool told = std::any_of(patterns.begin(), patterns.end(), [&](const trouble::Pattern& p) {
                return std::any_of(p.signs.begin(), p.signs.end(),
                                   [&](const auto& e) { return e.sign.felt == felt.felt; });
            });
            if (!told)
                continue;
            auto* button = new QToolButton(holder);
            button->setObjectName(QStringLiteral("sign-%1").arg(q(felt.key)));
            button->setText(q(felt.words));
            button->setCheckable(true);
            button->setFont(face(13));
            button->setFocusPolicy(Qt::StrongFocus);
            flow->addWidget(button);
            connect(button, &QToolButton::toggled, this, &SymptomsPage::refresh);
            buttons_.push_back({felt.felt, button});
            any = true;
        }
        line->addWidget(label, 0, Qt::AlignTop);
        line->addWidget(holder, 1);
        row->setVisible(any);
        column->addWidget(row);
    }
    if (starts) { // what is seen and heard comes before the needles
        column->addSpacing(6);
        column->addLayout(grid);
    }
    column->addStretch(1);
}

std::vector<Sign> SymptomsPage::noticed() const {
    std::vector<Sign> out;
    for (const auto& needle : needles_)
        if (needle.way->currentIndex() > 0)
            out.emplace_back(needle.gauge, wayTable()[static_cast<std::size_t>(needle.way->currentIndex()) - 1].way);
    for (const auto& b : buttons_)
        if (b.button->isChecked())
            out.emplace_back(b.felt);
    return out;
}

void SymptomsPage::notice(const std::vector<Sign>& signs) {
    for (auto& needle : needles_) {
        const QSignalBlocker quiet(needle.way);
        needle.way->setCurrentIndex(0);
        for (const auto& s : signs)
            if (s.isNeedle() && s.gauge == needle.gauge)
                needle.way->setCurrentIndex(static_cast<int>(s.way) + 1);
    }
    for (auto& b : buttons_) {
        const QSignalBlocker quiet(b.button);
        b.button->setChecked(std::find(signs.begin(), signs.end(), Sign(b.felt)) != signs.end());
    }
    refresh();
}

void SymptomsPage::present(const TroubleMoment& moment) {
    context_ = trouble::contextOf(caseOf(moment));
    build();
    refresh();
}

void SymptomsPage::refresh() {
    const auto signs = noticed();
    diagnosis_ = trouble::diagnose(document_.aircraft().notes, signs, context_);
    drill_->hide();
    clear_->setEnabled(!signs.empty());
    Figures shown;
    Table hands({tr("if it no longer looks after itself"), tr("the hand")}, 1);
    for (const auto& a : trouble::automaticsOf(document_.aircraft().notes))
        hands.row({q(a.what), q(a.byHand)});
    const auto finish = [&] {
        if (!hands.lines.empty())
            shown.emplace_back(hands);
        causes_->put(std::move(shown));
    };
    if (diagnosis_.causes.empty()) {
        act_->setText(tr("What do you see, hear, feel, smell?"));
        tell_->setText(tr("Choose what the needles do and what you notice, together. One sign is seldom enough; what "
                          "stands still tells as much."));
        finish();
        return;
    }
    const auto& of = diagnosis_.causes[diagnosis_.forCause].pattern;
    act_->setText(html::text(diagnosis_.act));
    QStringList lines;
    if (diagnosis_.unsure)
        lines << tr("<b>Unsure:</b> nothing yet that cannot be undone.");
    lines << tr("Test: %1").arg(html::text(diagnosis_.test));
    if (!of.words.empty())
        lines << tr("The notes: %1").arg(html::text(of.words));
    QStringList look;
    for (const auto& sign : diagnosis_.causes.front().lookFor)
        if (look.size() < 3)
            look << q(wordsOf(sign));
    if (!look.isEmpty())
        lines << tr("Look for: %1.").arg(look.join(QStringLiteral("; ")).toHtmlEscaped());
    tell_->setText(lines.join(QStringLiteral("<br>")));
    if (diagnosis_.drill) {
        drill_->setText(tr("The drill: %1").arg(q(nameOf(*diagnosis_.drill).title)));
        drill_->show();
    }
    Table table({tr("it may be"), tr("chance (p)"), tr("then"), tr("told by")}, 2);
    table.leftOn = true;
    std::size_t count = 0;
    for (const auto& c : diagnosis_.causes) {
        if (++count > mostShown || c.fit < leastShown)
            break;
        table.row({q(c.pattern.name), tr("%1 %").arg(100 * c.fit, 0, 'f', 0), q(c.then), q(c.pattern.toldBy)},
                  &c.pattern == &of);
    }
    shown.emplace_back(std::move(table));
    shown.emplace_back(
        tr("General practice%1; ranked, not known. Land, and let a licensed engineer look.")
            .arg(document_.aircraft().notes.trouble.symptoms.empty() ? QString() : tr(" and the type's notes")));
    finish();
}

} // namespace amber::app
