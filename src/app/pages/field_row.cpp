// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/field_row.h"
#include "files/key_ranges.h"
#include "kit/captioned.h"
#include "kit/combo.h"
#include "kit/flow_layout.h"
#include "kit/html.h"
#include "kit/words.h"
#include "pages/field_behaviour.h"
#include "plan/start_words.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QSignalBlocker>
#include <algorithm>
#include <cmath>
#include <memory>

namespace amber::app {
namespace {
/// A figure that is stepped stops at the ends of its range.
double heldWithin(const char* path, double si) {
    const KeyRange& range = *rangeOf(FileFormat::sortie, path);
    return std::clamp(si, range.lowSi(), range.highSi());
}
constexpr std::size_t mostStationFields = 8;
constexpr std::size_t mostTankFields = 4; // with more tanks the last field shows the one that is chosen
} // namespace

FieldRow::FieldRow(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("field-row"));
    auto* flow = new FlowLayout(this, 18, 4);
    flow->setContentsMargins(0, 0, 0, 0);
    flow->setRightAligned(true);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
    buildFlight();
    buildStart();
    buildCruise();
    buildGround();
    buildLoad();
    // Until a sortie is open nothing shows: all at once they would not fit.
    for (auto& place : places_)
        place.widget->hide();
}

void FieldRow::add(InlineField* field, const QString& hint, Where where) {
    field->setHint(hint);
    field->setAbandon([this](int gesture) { document_.abandon(gesture); });
    connect(field, &InlineField::refused, this, &FieldRow::refused);
    layout()->addWidget(field);
    places_.push_back({field, field, std::move(where)});
}

void FieldRow::add(const QString& caption, QComboBox* box, Where where) {
    auto* holder = captioned(caption, box, this);
    layout()->addWidget(holder);
    places_.push_back({holder, nullptr, std::move(where)});
}

QComboBox* FieldRow::choice(const char* name, const QStringList& items, const QString& hint, const QString& what,
                            std::function<void(Sortie&, int)> put) {
    auto* box = new QComboBox(this);
    box->setObjectName(QLatin1String(name));
    box->addItems(items);
    box->setToolTip(hint);
    connect(box, &QComboBox::activated, this, [this, what, put](int index) {
        Sortie changed = document_.sortie();
        put(changed, index);
        take(changed, what);
    });
    return box;
}

void FieldRow::take(const Sortie& changed, const QString& what) {
    if (const QString error = document_.edit(changed, what); !error.isEmpty())
        emit refused(error);
}

bool FieldRow::wanted(const Where& where, Phase phase, std::string_view page) const {
    const auto holds = [](const auto& list, const auto& what) {
        return std::find(list.begin(), list.end(), what) != list.end();
    };
    return holds(where.phases, phase) && !holds(where.notOn, page) &&
           (where.onlyOn.empty() || holds(where.onlyOn, page)) && (!where.when || where.when());
}

void FieldRow::show(Phase phase, std::string_view page) {
    phase_ = phase;
    page_ = page;
    const TypeNotes& notes = document_.aircraft().notes;
    refreshTanks();
    {
        const QSignalBlocker q1(diluted_), q2(blanks_), q3(supply_);
        diluted_->setCurrentIndex(document_.sortie().start.diluted ? 1 : 0);
        blanks_->setCurrentIndex(document_.sortie().start.blanks ? 1 : 0);
        supply_->setCurrentIndex(document_.sortie().start.supply == start::Supply::battery ? 1 : 0);
    }
    for (auto& [box, place] : ratings_) {
        QList<ComboChoice> choices;
        for (const auto& rating : notes.ratings)
            choices << ComboChoice{q(rating.name), q(rating.key), {}};
        const Phase of = place == &Flight::climbRating ? Phase::climb : Phase::cruise;
        offer(*box, choices, q(flight::ratingFor(notes, document_.sortie(), of).key));
    }
    // What goes is hidden before what comes is shown: all at once they would widen the window.
    for (const bool shown : {false, true})
        for (auto& place : places_)
            if (wanted(place.where, phase, page) == shown) {
                place.widget->setVisible(shown);
                if (shown && place.field)
                    place.field->refresh();
            }
}

void FieldRow::refreshTanks() {
    const TypeNotes& notes = document_.aircraft().notes;
    const int others = static_cast<int>(notes.fuel.tanks.size()) - static_cast<int>(tankFields_.size()) + 1;
    if (tankChoice_->count() != std::max(1, others) || tankChoice_->property("type").toString() != q(notes.file)) {
        const QSignalBlocker quiet(tankChoice_);
        tankChoice_->clear();
        tankChoice_->setProperty("type", q(notes.file));
        for (std::size_t i = tankFields_.size() - 1; i < notes.fuel.tanks.size(); ++i)
            tankChoice_->addItem(q(notes.fuel.tanks[i].name));
    }
    for (auto& [field, index] : tankFields_)
        if (const Tank* tank = tankOf(index))
            field->setCaption(tank->name.ends_with("tank") ? q(tank->name) : tr("%1 tank").arg(q(tank->name)));
    for (auto& [field, index] : stationFields_)
        if (index < notes.loading.stations.size())
            field->setCaption(q(notes.loading.stations[index].name));
}

QComboBox* FieldRow::ratingChoice(const QString& name, std::string Flight::*place) {
    auto* box = new QComboBox(this);
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
        take(changed, tr("rating"));
    });
    return box;
}

const Tank* FieldRow::tankOf(std::size_t field) const {
    const auto& tanks = document_.aircraft().notes.fuel.tanks;
    if (field + 1 == mostTankFields && tanks.size() > mostTankFields)
        field += static_cast<std::size_t>(std::max(0, tankChoice_->currentIndex()));
    return field < tanks.size() ? &tanks[field] : nullptr;
}

void FieldRow::buildFlight() {
    const auto cockpit = [this](const UnitSpec* Cockpit::*unit) {
        return [this, unit] { return document_.aircraft().notes.cockpit.*unit; };
    };
    add(tr("Rating"), ratingChoice(QStringLiteral("climb-rating"), &Flight::climbRating), {{Phase::climb}});
    add(tr("Rating"), ratingChoice(QStringLiteral("cruise-rating"), &Flight::cruiseRating), {{Phase::cruise}});
    add(new InlineField(tr("Cruise height"), QStringLiteral("cruise-height"),
                        figureField<Dimension::length>(document_, tr("cruise height"), cockpit(&Cockpit::height), 500,
                                                       [](Sortie& s) -> Length& { return s.flight.cruiseHeight; }),
                        this),
        tr("Height above sea level on the QNH"), {{Phase::climb, Phase::cruise, Phase::letDown}, {"choose"}});
    add(new InlineField(tr("Distance"), QStringLiteral("distance"),
                        figureField<Dimension::distance>(document_, tr("distance"), cockpit(&Cockpit::distance), 10,
                                                         [](Sortie& s) -> Distance& { return s.flight.distance; }),
                        this),
        tr("Over the ground, the whole flight"), {{Phase::cruise}, {"choose", "chart"}});
    add(new InlineField(tr("Queue"), QStringLiteral("hold"),
                        figureField<Dimension::duration>(
                            document_, tr("queue"), [] { return units::minute.spec; }, 1,
                            [](Sortie& s) -> Duration& { return s.flight.hold; }),
                        this),
        tr("Minutes of waiting at the holding point"), {{Phase::warmUp, Phase::runUp}});
    add(new InlineField(tr("Landing field"), QStringLiteral("to-elevation"),
                        figureField<Dimension::length>(document_, tr("landing field"), cockpit(&Cockpit::height), 50,
                                                       [](Sortie& s) -> Length& { return s.flight.toElevation; }),
                        this),
        tr("Elevation of the field of landing; there and back it follows the day strip's"),
        {{Phase::letDown, Phase::landing}});
}

void FieldRow::buildStart() {
    supply_ = choice("supply", {tr("ground cart"), tr("battery")}, {}, tr("supply"), [](Sortie& s, int index) {
        s.start.supply = index == 0 ? start::Supply::cart : start::Supply::battery;
    });
    add(tr("Supply"), supply_, {{Phase::start}, {}, [this] {
                                    const auto kind = document_.aircraft().notes.start.starter.kind;
                                    return kind == StarterKind::direct || kind == StarterKind::inertia;
                                }});
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
        add(new InlineField(tr("Stopped"), QStringLiteral("stopped"), std::move(b), this),
            tr("How long ago the engines were stopped, or cold: they are primed for the temperature they have left"),
            {{Phase::start, Phase::walkRound}});
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
        add(new InlineField(tr("Pre-heated"), QStringLiteral("preheated"), std::move(b), this),
            tr("Temperature to which engine and oil are heated before the start, or no"), {{Phase::start}, {"order"}});
    }
    diluted_ = choice("diluted", {tr("as it is"), tr("diluted")}, tr("Whether the oil was diluted at the last stop"),
                      tr("dilution"), [](Sortie& s, int index) { s.start.diluted = index == 1; });
    add(tr("Oil"), diluted_, {{Phase::start, Phase::warmUp}, {"order", "budget"}, [this] {
                                  return document_.aircraft().notes.start.cold.diluteBelow.has_value();
                              }});
    blanks_ = choice("blanks", {tr("off"), tr("fitted")}, tr("Blanks on the oil cooler and intakes until the take-off"),
                     tr("blanks"), [](Sortie& s, int index) { s.start.blanks = index == 1; });
    add(tr("Blanks"), blanks_, {{Phase::warmUp}, {"budget"}, [this] {
                                    return document_.aircraft().notes.start.cold.blanksBelow.has_value();
                                }});
}

void FieldRow::buildCruise() {
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
        add(new InlineField(tr("Rpm"), QStringLiteral("cruise-rpm"), std::move(b), this),
            tr("Cruise rpm; nothing: the rating's"), {{Phase::cruise}, {"choose", "chart"}});
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
        add(new InlineField(tr("Boost"), QStringLiteral("cruise-boost"), std::move(b), this),
            tr("Cruise boost; nothing: the rating's"),
            {{Phase::cruise}, {"choose", "chart"}, [this] {
                 return document_.aircraft().notes.gauges.contains(Gauge::boost);
             }});
    }
}

void FieldRow::buildGround() {
    {
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
        add(new InlineField(tr("Forecast"), QStringLiteral("forecast"), std::move(b), this),
            tr("Lowest temperature before the next start: it sets the oil dilution"), {{Phase::stop}});
    }
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
                          : tr("Write how it stands in degrees nose up, between −30 and 30.");
        };
        b.step = [this, put](int steps, int gesture) {
            return put(plan::groundAttitude(document_.aircraft().notes, document_.sortie()) + 0.5 * steps, gesture);
        };
        add(new InlineField(tr("Attitude"), QStringLiteral("attitude"), std::move(b), this),
            tr("Attitude on the ground: the fuel gauges read by it"), {{Phase::walkRound}});
    }
    // Tank contents are read on the walk-round.
    tankChoice_ = new QComboBox(this);
    tankChoice_->setObjectName(QStringLiteral("tank-choice"));
    add(tr("Other tanks"), tankChoice_, {{Phase::walkRound, Phase::load}, {"speeds"}, [this] {
                                             return document_.aircraft().notes.fuel.tanks.size() > mostTankFields;
                                         }});
    connect(tankChoice_, &QComboBox::activated, this, [this] { show(phase_, page_); });
    for (std::size_t i = 0; i < mostTankFields; ++i) {
        InlineField::Behaviour b;
        const auto tank = [this, i] { return tankOf(i); };
        const auto contents = [this, tank] {
            const auto found = document_.sortie().contents.find(tank()->id);
            if (found == document_.sortie().contents.end())
                return tank()->removable ? Volume{} : tank()->capacity;
            return found->second;
        };
        const auto put = [this, tank](double si, int gesture) {
            Sortie changed = document_.sortie();
            changed.contents[tank()->id] = Volume::si(std::max(0.0, si));
            return document_.edit(changed, tr("fuel"), gesture);
        };
        const auto hangs = [this, tank] {
            return !tank()->removable || document_.sortie().contents.contains(tank()->id);
        };
        b.show = [this, tank, contents, hangs] {
            if (tank() && !hangs())
                return tr("none");
            return tank() ? QString::fromStdString(format(contents().si(), *document_.aircraft().notes.cockpit.fuel))
                          : QString();
        };
        b.apply = [this, tank, put](const QString& text, int gesture) -> QString {
            if (!tank())
                return {};
            if (tank()->removable && (text.trimmed().isEmpty() || text.trimmed() == tr("none"))) {
                Sortie changed = document_.before(gesture);
                changed.contents.erase(tank()->id);
                return document_.edit(changed, tr("fuel"), gesture);
            }
            const auto read =
                readQuantity(Dimension::volume, text.toStdString(), document_.aircraft().notes.cockpit.fuel);
            return read ? put(read.value().si, gesture) : QString::fromStdString(read.error());
        };
        b.step = [this, tank, contents, put](int steps, int gesture) -> QString {
            const double unit = document_.aircraft().notes.cockpit.fuel->scale;
            return tank() ? put(std::min(tank()->capacity.si(), contents().si() + steps * 5 * unit), gesture)
                          : QString();
        };
        auto* field = new InlineField(tr("Tank"), QStringLiteral("tank-%1").arg(i), std::move(b), this);
        add(field, tr("Fuel the plan loads in this tank; a dip found on the walk-round comes first"),
            {{Phase::walkRound, Phase::load}, {"speeds"}, [this, i] {
                 return i < document_.aircraft().notes.fuel.tanks.size();
             }});
        tankFields_.emplace_back(field, i);
    }
}

void FieldRow::words(const QString& caption, const QString& name, const QString& what, const QString& hint,
                     std::function<QString()> show, std::function<QString(Sortie&, const QString&)> take, Where where) {
    InlineField::Behaviour b;
    b.show = std::move(show);
    b.apply = [this, what, take = std::move(take)](const QString& text, int gesture) -> QString {
        Sortie changed = document_.before(gesture);
        if (const QString why = take(changed, text.trimmed()); !why.isEmpty())
            return why;
        return document_.edit(changed, what, gesture);
    };
    add(new InlineField(caption, name, std::move(b), this), hint, std::move(where));
}

void FieldRow::buildLoad() {
    const auto notes = [this]() -> const TypeNotes& { return document_.aircraft().notes; };
    const auto listed = [](const std::vector<std::string>& ids) {
        QStringList out;
        for (const auto& id : ids)
            out << q(id);
        return out.join(QStringLiteral(", "));
    };
    // Stations: a weight, and after it who or what it is.
    for (std::size_t i = 0; i < mostStationFields; ++i) {
        const auto station = [notes, i]() -> const LoadStation* {
            const auto& all = notes().loading.stations;
            return i < all.size() ? &all[i] : nullptr;
        };
        const auto mass = [this, station] {
            const auto& given = document_.sortie().load.stations;
            const auto found = given.find(station()->id);
            return found == given.end() ? station()->usual : found->second;
        };
        InlineField::Behaviour b;
        b.show = [this, station, mass] {
            return station() ? q(format(mass().si(), *document_.aircraft().notes.cockpit.weight)) : QString();
        };
        // Who sat there before this stay in the field: what is typed begins from that at every key.
        struct Before {
            int gesture = 0;
            std::optional<std::string> name;
        };
        const auto before = std::make_shared<Before>();
        b.apply = [this, station, before](const QString& text, int gesture) -> QString {
            if (!station())
                return {};
            if (const auto& names = document_.sortie().load.names; before->gesture != gesture) {
                const auto found = names.find(station()->id);
                *before = {gesture, found == names.end() ? std::nullopt : std::optional(found->second)};
            }
            const UnitSpec* unit = document_.aircraft().notes.cockpit.weight;
            const QString figure = text.section(QLatin1Char(';'), 0, 0).trimmed();
            const QString who = text.section(QLatin1Char(';'), 1).trimmed();
            Sortie changed = document_.sortie();
            const auto read = readQuantity(Dimension::mass, figure.toStdString(), unit);
            if (!read)
                return tr("Write a weight, and after a semicolon who or what it is: \"185 lb; instructor\".");
            changed.load.stations[station()->id] = Mass::si(read.value().si);
            if (text.contains(QLatin1Char(';')))
                changed.load.names[station()->id] = who.toStdString();
            else if (before->name)
                changed.load.names[station()->id] = *before->name;
            else
                changed.load.names.erase(station()->id);
            return document_.edit(changed, tr("load"), gesture);
        };
        b.step = [this, station, mass](int steps, int gesture) -> QString {
            if (!station())
                return {};
            const double unit = document_.aircraft().notes.cockpit.weight->scale;
            Sortie changed = document_.sortie();
            const double most = station()->most ? station()->most->si() : 1e9;
            changed.load.stations[station()->id] =
                Mass::si(std::clamp((std::round(mass().si() / unit / 5.0) + steps) * 5.0 * unit, 0.0, most));
            return document_.edit(changed, tr("load"), gesture);
        };
        auto* field = new InlineField(tr("Station"), QStringLiteral("station-%1").arg(i), std::move(b), this);
        add(field, tr("Weight at this station; after a semicolon who or what: \"185 lb; instructor\""),
            {{Phase::load}, {}, [station] { return station() != nullptr; }, {"load"}});
        stationFields_.emplace_back(field, i);
    }
    const Where fuel{{Phase::load, Phase::cruise}, {}, {}, {"fuel", "best", "tanks"}};
    words(
        tr("Wind aloft"), QStringLiteral("wind-aloft"), tr("wind aloft"),
        tr("Wind at the cruise height, \"270/35\"; nothing: still air"),
        [this] {
            const auto& w = document_.sortie().flight.aloft;
            return w ? QStringLiteral("%1/%2")
                           .arg(w->fromDegrees, 3, 10, QLatin1Char('0'))
                           .arg(std::lround(w->speed.in(units::knot)))
                     : tr("still");
        },
        [](Sortie& s, const QString& text) -> QString {
            if (text.isEmpty() || text == tr("still")) {
                s.flight.aloft.reset();
                return {};
            }
            bool fine = false, fast = false;
            const int from = text.section(QLatin1Char('/'), 0, 0).toInt(&fine);
            const double speed = text.section(QLatin1Char('/'), 1, 1).toDouble(&fast);
            if (!fine || !fast)
                return tr("Write where it blows from and its knots: 270/35.");
            s.flight.aloft = air::Wind{from, Speed::of(speed, units::knot)};
            return {};
        },
        fuel);
    words(
        tr("Track"), QStringLiteral("track"), tr("track"),
        tr("True track of the flight, degrees; of each leg, with its distance, \"045 120 nm, 225 110 nm\""),
        [this] {
            const auto& f = document_.sortie().flight;
            if (f.legs.empty())
                return f.track ? QStringLiteral("%1°").arg(std::lround(*f.track), 3, 10, QLatin1Char('0')) : tr("none");
            QStringList out;
            for (const auto& leg : f.legs)
                out << (leg.track ? QStringLiteral("%1°").arg(std::lround(*leg.track), 3, 10, QLatin1Char('0'))
                                  : tr("?"));
            return out.join(QStringLiteral(", "));
        },
        [this](Sortie& s, const QString& text) -> QString {
            if (text.isEmpty() || text == tr("none")) {
                s.flight.track.reset();
                s.flight.legs.clear();
                return {};
            }
            const QStringList parts = text.split(QLatin1Char(','), Qt::SkipEmptyParts);
            std::vector<Leg> legs;
            for (const auto& part : parts) {
                std::string_view rest;
                const std::string plain = part.trimmed().remove(QChar(0xb0)).toStdString();
                const auto track = readNumber(plain, rest);
                if (!track)
                    return tr(
                        "Write a track in degrees, or one for each leg with its distance: 045 120 nm, 225 110 nm.");
                Leg leg;
                leg.track = track.value();
                const QString distance = QString::fromUtf8(rest.data(), static_cast<qsizetype>(rest.size())).trimmed();
                if (parts.size() == 1 && distance.isEmpty()) {
                    s.flight.track = leg.track;
                    s.flight.legs.clear();
                    return {};
                }
                const auto length = readQuantity(Dimension::distance, distance.toStdString(),
                                                 document_.aircraft().notes.cockpit.distance);
                if (!length)
                    return tr("Write each leg's distance after its track: 045 120 nm, 225 110 nm.");
                leg.distance = Distance::si(length.value().si);
                legs.push_back(leg);
            }
            double sum = 0.0;
            for (std::size_t i = 0; i < legs.size(); ++i) {
                sum += legs[i].distance.si();
                legs[i].to = i + 1 == legs.size()               ? s.flight.to
                             : i == 0 && !s.flight.over.empty() ? s.flight.over
                                                                : "leg " + std::to_string(i + 1);
            }
            s.flight.legs = std::move(legs);
            s.flight.distance = Distance::si(sum);
            return {};
        },
        fuel);
    words(
        tr("Alternate"), QStringLiteral("alternate"), tr("alternate"),
        tr("Where to if the field is shut, with its distance: \"Tarn Haven 60 nm\"; nothing: none"),
        [this] {
            const auto& f = document_.sortie().flight;
            return f.alternateDistance.si() > 0
                       ? QStringLiteral("%1 %2")
                             .arg(q(f.alternate),
                                  q(format(f.alternateDistance.si(), *document_.aircraft().notes.cockpit.distance)))
                             .trimmed()
                       : tr("none");
        },
        [this](Sortie& s, const QString& text) -> QString {
            if (text.isEmpty() || text == tr("none")) {
                s.flight.alternate.clear();
                s.flight.alternateDistance = {};
                return {};
            }
            qsizetype digit = 0;
            while (digit < text.size() && !text[digit].isDigit())
                ++digit;
            const auto length = readQuantity(Dimension::distance, text.mid(digit).toStdString(),
                                             document_.aircraft().notes.cockpit.distance);
            if (!length)
                return tr("Write its name and distance: Tarn Haven 60 nm.");
            s.flight.alternate = text.left(digit).trimmed().toStdString();
            if (s.flight.alternate.empty())
                s.flight.alternate = "Alternate";
            s.flight.alternateDistance = Distance::si(length.value().si);
            return {};
        },
        {{Phase::load}, {}, {}, {"fuel"}});
    words(
        tr("Reserve"), QStringLiteral("reserve"), tr("reserve"), tr("Minutes of cruise kept; nothing: the notes'"),
        [this] {
            return q(format(flight::reserveTime(document_.aircraft().notes, document_.sortie()), *units::minute.spec));
        },
        [](Sortie& s, const QString& text) -> QString {
            if (text.isEmpty()) {
                s.fuel.reserve.reset();
                return {};
            }
            const auto read = readQuantity(Dimension::duration, text.toStdString(), units::minute.spec);
            if (!read)
                return q(read.error());
            s.fuel.reserve = Duration::si(read.value().si);
            return {};
        },
        {{Phase::load}, {}, {}, {"fuel"}});
    words(
        tr("An hour costs"), QStringLiteral("price-of-time"), tr("price of an hour"),
        tr("Fuel that an hour is worth, for the cheapest cruise; nothing: not asked"),
        [this] {
            const auto& p = document_.sortie().fuel.priceOfTime;
            return p ? q(format(p->si() * 3600.0, *document_.aircraft().notes.cockpit.fuel)) : tr("not asked");
        },
        [this](Sortie& s, const QString& text) -> QString {
            if (text.isEmpty() || text == tr("not asked")) {
                s.fuel.priceOfTime.reset();
                return {};
            }
            const auto read =
                readQuantity(Dimension::volume, text.toStdString(), document_.aircraft().notes.cockpit.fuel);
            if (!read)
                return q(read.error());
            s.fuel.priceOfTime = VolumeFlow::si(read.value().si / 3600.0);
            return {};
        },
        {{Phase::cruise}, {}, {}, {"best"}});
    words(
        tr("Tank order"), QStringLiteral("tank-order"), tr("tank order"),
        tr("Tanks in the order they are fed from in the cruise, by the notes' ids; nothing: the notes' order"),
        [this, listed] {
            const auto& own = document_.sortie().fuel.order;
            return listed(own.empty() ? document_.aircraft().notes.fuel.order : own);
        },
        [](Sortie& s, const QString& text) -> QString {
            s.fuel.order.clear();
            for (const auto& id : text.split(QLatin1Char(','), Qt::SkipEmptyParts))
                s.fuel.order.push_back(id.trimmed().toStdString());
            return {};
        },
        {{Phase::load, Phase::cruise}, {}, [notes] { return notes().fuel.tanks.size() > 1; }, {"tanks", "fuel"}});
    words(
        tr("Bad ground"), QStringLiteral("bad-ground"), tr("bad ground"),
        tr("Stretches of distance flown over which no tank is changed: \"40-60, 110-130\"; nothing: none"),
        [this] {
            const double unit = document_.aircraft().notes.cockpit.distance->scale;
            QStringList out;
            for (const auto& [from, to] : document_.sortie().flight.badGround)
                out << QStringLiteral("%1–%2").arg(std::lround(from / unit)).arg(std::lround(to / unit));
            return out.isEmpty() ? tr("none") : out.join(QStringLiteral(", "));
        },
        [this](Sortie& s, const QString& text) -> QString {
            const double unit = document_.aircraft().notes.cockpit.distance->scale;
            std::vector<std::pair<double, double>> read;
            if (text != tr("none"))
                for (QString part : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) {
                    part.replace(QChar(0x2013), QLatin1Char('-'));
                    bool one = false, two = false;
                    const double from = part.section(QLatin1Char('-'), 0, 0).toDouble(&one);
                    const double to = part.section(QLatin1Char('-'), 1, 1).toDouble(&two);
                    if (!one || !two || !(to > from) || from < 0)
                        return tr("Write from and to, in %1 flown: 40-60, 110-130.")
                            .arg(q(std::string(document_.aircraft().notes.cockpit.distance->symbol)));
                    read.emplace_back(from * unit, to * unit);
                }
            s.flight.badGround = std::move(read);
            return {};
        },
        {{Phase::cruise}, {}, {}, {"tanks"}});
    words(
        tr("Runway"), QStringLiteral("runway"), tr("runway"),
        tr("Direction and length: \"240 3,000 ft\"; add grass or wet. Nothing: not asked"),
        [this] {
            const auto& strip = document_.sortie().strip;
            QStringList out;
            if (strip.runway)
                out << QStringLiteral("%1").arg(std::lround(*strip.runway), 3, 10, QLatin1Char('0'));
            if (strip.length)
                out << q(format(strip.length->si(), *document_.aircraft().notes.cockpit.height));
            if (strip.grass)
                out << tr("grass");
            if (strip.wet)
                out << tr("wet");
            return out.isEmpty() ? tr("not asked") : out.join(QLatin1Char(' '));
        },
        [this](Sortie& s, const QString& text) -> QString {
            FieldChoice strip;
            strip.slope = s.strip.slope;
            QString rest = text == tr("not asked") ? QString() : text;
            strip.grass = rest.contains(tr("grass"));
            strip.wet = rest.contains(tr("wet"));
            rest.remove(tr("grass")).remove(tr("wet"));
            rest = rest.trimmed();
            if (!rest.isEmpty()) {
                bool fine = false;
                strip.runway = rest.section(QLatin1Char(' '), 0, 0).toDouble(&fine);
                const QString length = rest.section(QLatin1Char(' '), 1).trimmed();
                if (!fine)
                    return tr("Write direction and length: 240 3,000 ft.");
                if (!length.isEmpty()) {
                    const auto read = readQuantity(Dimension::length, length.toStdString(),
                                                   document_.aircraft().notes.cockpit.height);
                    if (!read)
                        return q(read.error());
                    strip.length = Length::si(read.value().si);
                }
            }
            s.strip = strip;
            return {};
        },
        {{Phase::load}, {}, [notes] { return !notes().tables.empty(); }, {"speeds"}});
}

} // namespace amber::app
