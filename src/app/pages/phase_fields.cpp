// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/key_ranges.h"
#include "pages/field_behaviour.h"
#include "pages/phase_page.h"
#include "plan/start_words.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
/// A figure that is stepped stops at the ends of its range.
double heldWithin(const char* path, double si) {
    const KeyRange& range = *rangeOf(FileFormat::sortie, path);
    return std::clamp(si, range.lowSi(), range.highSi());
}
constexpr std::size_t mostTankFields = 4; // with more tanks the last field shows the one that is chosen
} // namespace

QComboBox* PhasePage::ratingChoice(const QString& name, std::string Flight::*place) {
    auto* box = new QComboBox(fieldRow_);
    box->setObjectName(name);
    ratings_.emplace_back(box, place);
    connect(box, &QComboBox::activated, this, [this, box, place](int index) {
        Sortie changed = document_.sortie();
        changed.flight.*place = box->itemData(index).toString().toStdString();
        if (place == &Flight::cruiseRating) {
            // A rating is a whole setting: what was chosen or typed beside it goes.
            changed.flight.cruiseRpm.reset();
            changed.flight.cruiseBoost.reset();
            changed.flight.cruiseMixture.reset();
            changed.flight.cruiseGear.clear();
        }
        if (const QString error = document_.edit(changed, tr("rating")); !error.isEmpty())
            emit refused(error);
    });
    return box;
}

/// Puts a field into the page's row of fields, for some phases.
InlineField* PhasePage::adopt(InlineField* field, const QString& hint, std::vector<Phase> phases) {
    field->setHint(hint);
    field->setAbandon([this](int gesture) { document_.abandon(gesture); });
    connect(field, &InlineField::refused, this, &PhasePage::refused);
    fieldRow_->layout()->addWidget(field);
    fieldRow_->layout()->setAlignment(field, Qt::AlignBottom);
    inlineFields_.push_back(field);
    fields_.push_back({field, std::move(phases)});
    return field;
}

const Tank* PhasePage::tankOf(std::size_t field) const {
    const auto& tanks = document_.aircraft().notes.fuel.tanks;
    if (field + 1 == mostTankFields && tanks.size() > mostTankFields)
        field += static_cast<std::size_t>(std::max(0, tankChoice_->currentIndex()));
    return field < tanks.size() ? &tanks[field] : nullptr;
}

void PhasePage::buildFields() {
    auto* row = new QHBoxLayout(fieldRow_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(18);
    const auto cockpit = [this](const UnitSpec* Cockpit::*unit) {
        return [this, unit] { return document_.aircraft().notes.cockpit.*unit; };
    };
    const auto addInline = [&](InlineField* field, const QString& hint, std::vector<Phase> phases) {
        return adopt(field, hint, std::move(phases));
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
        tr("Elevation of the field of landing; there and back it follows the day strip's"),
        {Phase::letDown, Phase::landing});
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
                if (!read)
                    return tr("Write how long ago the engines were stopped, \"2 h\" or \"40 min\", or \"cold\".");
                changed.start.sinceStop = Duration::si(read.value().si);
            }
            return document_.edit(changed, tr("engines stopped"), gesture);
        };
        addInline(
            new InlineField(tr("Stopped"), QStringLiteral("stopped"), std::move(b), fieldRow_),
            tr("How long ago the engines were stopped, or cold: they are primed for the temperature they have left"),
            {Phase::start, Phase::walkRound});
    }
    {
        InlineField::Behaviour b;
        b.show = [this] {
            const auto& s = document_.sortie().start;
            return s.preheated ? QString::fromStdString(
                                     format(s.preheated->si(), *document_.aircraft().notes.cockpit.temperature))
                               : tr("no");
        };
        b.apply = [this](const QString& text, int gesture) -> QString {
            Sortie changed = document_.sortie();
            if (const QString plain = text.trimmed(); plain.isEmpty() || plain == tr("no")) {
                changed.start.preheated.reset();
            } else {
                const auto read = readQuantity(Dimension::temperature, plain.toStdString(),
                                               document_.aircraft().notes.cockpit.temperature);
                if (!read)
                    return tr("Write the temperature the engines are heated to, or \"no\".");
                changed.start.preheated = Temperature::si(read.value().si);
            }
            return document_.edit(changed, tr("pre-heating"), gesture);
        };
        addInline(new InlineField(tr("Pre-heated"), QStringLiteral("preheated"), std::move(b), fieldRow_),
                  tr("Temperature to which engine and oil are heated before the start, or no"), {Phase::start});
    }
    diluted_ = new QComboBox(fieldRow_);
    diluted_->setObjectName(QStringLiteral("diluted"));
    diluted_->addItems({tr("as it is"), tr("diluted")});
    diluted_->setToolTip(tr("Whether the oil was diluted at the last stop"));
    addChoice(tr("Oil"), diluted_, {Phase::start, Phase::warmUp});
    connect(diluted_, &QComboBox::activated, this, [this](int index) {
        Sortie changed = document_.sortie();
        changed.start.diluted = index == 1;
        if (const QString error = document_.edit(changed, tr("dilution")); !error.isEmpty())
            emit refused(error);
    });
    buildHeatFields();
    buildCruiseFields();
    pageChoice_ = new QComboBox(fieldRow_);
    pageChoice_->setObjectName(QStringLiteral("page-choice"));
    pageChoice_->setToolTip(tr("The pages of this phase (Ctrl+Space: next)"));
    addChoice(tr("Page"), pageChoice_,
              {Phase::start, Phase::warmUp, Phase::runUp, Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown,
               Phase::stop});
    connect(pageChoice_, &QComboBox::activated, this,
            [this](int index) { showSubPage(subPagesOf(phase_).at(static_cast<std::size_t>(index))); });
    {
        InlineField::Behaviour b;
        b.show = [this] {
            return tr("%1° nose up")
                .arg(q(formatNumber(plan::groundAttitude(document_.aircraft().notes, document_.sortie()), 1)));
        };
        const auto put = [this](double degrees, int gesture) -> QString {
            Sortie changed = document_.sortie();
            changed.walk.attitude = degrees;
            return document_.edit(changed, tr("attitude"), gesture);
        };
        b.apply = [put](const QString& text, int gesture) -> QString {
            std::string_view rest;
            const std::string typed = text.trimmed().toStdString();
            const auto number = readNumber(typed, rest);
            return number ? put(number.value(), gesture)
                          : tr("Write how she stands in degrees nose up, between −30 and 30.");
        };
        b.step = [this, put](int steps, int gesture) {
            return put(plan::groundAttitude(document_.aircraft().notes, document_.sortie()) + 0.5 * steps, gesture);
        };
        addInline(new InlineField(tr("She stands"), QStringLiteral("attitude"), std::move(b), fieldRow_),
                  tr("Attitude on the ground: the fuel gauges read by it"), {Phase::walkRound});
    }
    // Tank contents are read on the walk-round.
    tankChoice_ = new QComboBox(fieldRow_);
    tankChoice_->setObjectName(QStringLiteral("tank-choice"));
    addChoice(tr("Other tanks"), tankChoice_, {Phase::walkRound});
    connect(tankChoice_, &QComboBox::activated, this, [this] {
        showFields();
        for (auto& [field, index] : tankFields_)
            field->refresh();
    });
    for (std::size_t i = 0; i < mostTankFields; ++i) {
        InlineField::Behaviour b;
        const auto tank = [this, i] { return tankOf(i); };
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
                                tr("Fuel the plan loads in this tank; a dip found on the walk-round goes before it"),
                                {Phase::walkRound, Phase::cruise});
        tankFields_.emplace_back(field, i);
    }
}

void PhasePage::buildHeatFields() {
    auto* row = static_cast<QHBoxLayout*>(fieldRow_->layout());
    blanks_ = new QComboBox(fieldRow_);
    blanks_->setObjectName(QStringLiteral("blanks"));
    blanks_->addItems({tr("off"), tr("fitted")});
    blanks_->setToolTip(tr("Blanks on the oil cooler and intakes until the take-off"));
    auto* holder = captioned(tr("Blanks"), blanks_, fieldRow_);
    row->addWidget(holder, 0, Qt::AlignBottom);
    fields_.push_back({holder, {Phase::warmUp}});
    connect(blanks_, &QComboBox::activated, this, [this](int index) {
        Sortie changed = document_.sortie();
        changed.start.blanks = index == 1;
        if (const QString error = document_.edit(changed, tr("blanks")); !error.isEmpty())
            emit refused(error);
    });
    InlineField::Behaviour b;
    b.show = [this] {
        const auto& s = document_.sortie();
        const auto& unit = *document_.aircraft().notes.cockpit.temperature;
        return s.forecast ? html::text(format(s.forecast->si(), unit)) : tr("as today");
    };
    const auto put = [this](std::optional<Temperature> forecast, int gesture) {
        Sortie changed = document_.sortie();
        changed.forecast = forecast;
        return document_.edit(changed, tr("forecast"), gesture);
    };
    b.apply = [this, put](const QString& text, int gesture) -> QString {
        if (const QString plain = text.trimmed(); plain.isEmpty() || plain == tr("as today"))
            return put(std::nullopt, gesture);
        const auto read = readQuantity(Dimension::temperature, text.trimmed().toStdString(),
                                       document_.aircraft().notes.cockpit.temperature);
        if (!read)
            return tr("Write the lowest temperature forecast before the next start, or nothing.");
        return put(Temperature::si(read.value().si), gesture);
    };
    b.step = [this, put](int steps, int gesture) {
        const auto& s = document_.sortie();
        const double unit = document_.aircraft().notes.cockpit.temperature->scale;
        return put(Temperature::si(heldWithin("stop.forecast", s.forecast.value_or(s.day.oat).si() + steps * unit)),
                   gesture);
    };
    adopt(new InlineField(tr("Forecast"), QStringLiteral("forecast"), std::move(b), fieldRow_),
          tr("Lowest temperature before the next start: it decides the oil's dilution"), {Phase::stop});
}

void PhasePage::buildCruiseFields() {
    auto* row = static_cast<QHBoxLayout*>(fieldRow_->layout());
    const auto choice = [&](const QString& caption, QComboBox* box) {
        auto* holder = captioned(caption, box, fieldRow_);
        row->addWidget(holder, 0, Qt::AlignBottom);
        fields_.push_back({holder, {Phase::cruise}});
    };
    const auto inlineField = [&](const QString& caption, const char* name, InlineField::Behaviour b,
                                 const QString& hint) {
        adopt(new InlineField(caption, QLatin1String(name), std::move(b), fieldRow_), hint, {Phase::cruise});
    };
    {
        InlineField::Behaviour b;
        b.show = [this] {
            return q(
                format(std::round(document_.plan().flown[Phase::cruise].setting.rpm.si() * 6) / 6, *units::rpm.spec));
        };
        const auto put = [this](std::optional<Rotation> rpm, int gesture) {
            Sortie changed = document_.sortie();
            changed.flight.cruiseRpm = rpm;
            return document_.edit(changed, tr("cruise rpm"), gesture);
        };
        b.apply = [put](const QString& text, int gesture) -> QString {
            if (text.trimmed().isEmpty())
                return put(std::nullopt, gesture);
            const auto read = readQuantity(Dimension::rotation, text.toStdString(), units::rpm.spec);
            if (!read)
                return tr("Write the rpm of the cruise; nothing for the rating's.");
            return put(Rotation::si(read.value().si), gesture);
        };
        b.step = [this, put](int steps, int gesture) {
            return put(
                Rotation::si(heldWithin("flight.cruise_rpm",
                                        document_.plan().flown[Phase::cruise].setting.rpm.si() + steps * 50.0 / 60)),
                gesture);
        };
        inlineField(tr("Rpm"), "cruise-rpm", std::move(b), tr("Cruise rpm; nothing: the rating's"));
    }
    {
        InlineField::Behaviour b;
        b.show = [this] {
            const auto& f = document_.plan().flown[Phase::cruise];
            return q(format(f.point.manifoldPressure.si(), document_.aircraft().notes.unitOf(Gauge::boost)));
        };
        const auto put = [this](std::optional<ManifoldPressure> boost, int gesture) {
            Sortie changed = document_.sortie();
            changed.flight.cruiseBoost = boost;
            return document_.edit(changed, tr("cruise boost"), gesture);
        };
        b.apply = [this, put](const QString& text, int gesture) -> QString {
            if (text.trimmed().isEmpty())
                return put(std::nullopt, gesture);
            const auto read = readQuantity(Dimension::manifoldPressure, text.toStdString(),
                                           &document_.aircraft().notes.unitOf(Gauge::boost));
            if (!read)
                return tr("Write the boost of the cruise; nothing for the rating's.");
            return put(ManifoldPressure::si(read.value().si), gesture);
        };
        b.step = [this, put](int steps, int gesture) {
            const auto& unit = document_.aircraft().notes.unitOf(Gauge::boost);
            const double one = unit.decimals == 0 ? 10 * unit.scale : 0.5 * unit.scale;
            return put(ManifoldPressure::si(
                           heldWithin("flight.cruise_boost",
                                      document_.plan().flown[Phase::cruise].point.manifoldPressure.si() + steps * one)),
                       gesture);
        };
        inlineField(tr("Boost"), "cruise-boost", std::move(b), tr("Cruise boost; nothing: the rating's"));
    }
    askChoice_ = new QComboBox(fieldRow_);
    askChoice_->setObjectName(QStringLiteral("ask"));
    for (const auto& name : flight::askNames)
        askChoice_->addItem(QString::fromUtf8(name.title.data()));
    choice(tr("Ask for"), askChoice_);
    connect(askChoice_, &QComboBox::activated, this, [this](int index) {
        ask_ = flight::askNames[static_cast<std::size_t>(index)].ask;
        refresh();
    });
    {
        InlineField::Behaviour b;
        b.show = [this] { return q(format(askedValue(), askUnit(), ask_ == flight::Ask::endurance ? 1 : -1)); };
        b.apply = [this](const QString& text, int) -> QString {
            const auto read = readQuantity(flight::nameOf(ask_).dimension, text.toStdString(), &askUnit());
            if (!read || !(read.value().si > 0))
                return read ? tr("Ask for more than nothing.") : QString::fromStdString(read.error());
            ask(ask_, read.value().si);
            return {};
        };
        b.step = [this](int steps, int) -> QString {
            ask(ask_, std::max(1e-9, askedValue() * (1.0 + 0.02 * steps)));
            return {};
        };
        inlineField(tr("Of"), "asked", std::move(b), tr("What the cruise should give"));
    }
    leanTest_ = new QComboBox(fieldRow_);
    leanTest_->setObjectName(QStringLiteral("lean-test"));
    leanTest_->addItems({tr("not tried"), tr("rose, then fell"), tr("fell at once"), tr("no change")});
    leanTest_->setToolTip(tr("What rpm or torque did when the mixture was pulled a little"));
    choice(tr("Lean test"), leanTest_);
    connect(leanTest_, &QComboBox::activated, this, [this] { refreshChoice(); });
}

} // namespace amber::app
