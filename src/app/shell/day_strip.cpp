// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/day_strip.h"
#include "kit/captioned.h"
#include "kit/combo.h"
#include "kit/flow_layout.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "loading/load_sheet.h"
#include "pages/field_behaviour.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <QPainter>
#include <cmath>

namespace amber::app {
namespace {
constexpr int roomForSummary = 1200; // px; a narrower window tells it in the score's line

InlineField::Behaviour fieldName(SortieDocument& document) {
    InlineField::Behaviour b;
    b.show = [&document] { return QString::fromStdString(document.sortie().day.field); };
    b.apply = [&document](const QString& text, int gesture) -> QString {
        if (text.trimmed().isEmpty())
            return QObject::tr("Name the field.");
        Sortie changed = document.sortie();
        const bool home = changed.flight.to == changed.day.field;
        changed.day.field = text.trimmed().toStdString();
        if (home) {
            changed.flight.to = changed.day.field;
            changed.flight.toElevation = changed.day.elevation;
        }
        return document.edit(changed, QObject::tr("field"), gesture);
    };
    return b;
}

InlineField::Behaviour windField(SortieDocument& document) {
    InlineField::Behaviour b;
    b.show = [&document] {
        const auto& w = document.sortie().day.wind;
        return QStringLiteral("%1°/%2 kt")
            .arg(w.fromDegrees, 3, 10, QLatin1Char('0'))
            .arg(std::lround(w.speed.in(units::knot)));
    };
    b.apply = [&document](const QString& text, int gesture) -> QString {
        const QString error = QObject::tr("Write the wind as direction and speed: 240/8");
        const auto slash = text.indexOf(QLatin1Char('/'));
        if (slash < 1)
            return error;
        bool ok = false;
        const int from = text.left(slash).remove(QChar(0x00b0)).trimmed().toInt(&ok);
        const auto speed = readQuantity(Dimension::speed, text.mid(slash + 1).toStdString(), units::knot.spec);
        if (!ok || !speed)
            return error;
        Sortie changed = document.sortie();
        changed.day.wind = {from, Speed::si(speed.value().si)};
        return document.edit(changed, QObject::tr("wind"), gesture);
    };
    return b;
}

/// The weight as it holds; typed it stands, "load" lets it follow from the load sheet.
InlineField::Behaviour weightField(SortieDocument& document, std::function<const UnitSpec*()> unit) {
    const auto place = [&document](Sortie& s) -> Mass& {
        if (!s.load.weightTyped) {
            s.weight = loading::rampWeight(document.aircraft().notes, s);
            s.load.weightTyped = true;
        }
        return s.weight;
    };
    auto b = figureField<Dimension::mass>(document, QObject::tr("weight"), std::move(unit), 100, place);
    const auto typed = b.apply;
    b.apply = [&document, typed](const QString& text, int gesture) -> QString {
        const QString plain = text.trimmed();
        if (!plain.isEmpty() && plain.compare(QStringLiteral("load"), Qt::CaseInsensitive) != 0)
            return typed(text, gesture);
        if (!document.aircraft().notes.loading.given)
            return QObject::tr("These notes have no load sheet: type the weight.");
        Sortie changed = document.before(gesture);
        changed.load.weightTyped = false;
        return document.edit(changed, QObject::tr("weight"), gesture);
    };
    return b;
}
} // namespace

DayStrip::DayStrip(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("day-strip"));
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(20, 8, 20, 8);
    line->setSpacing(16);
    // The fields wrap into a second line where the window is too narrow for one.
    auto* fields = new QWidget(this);
    auto* row = new FlowLayout(fields, 16, 4);
    row->setContentsMargins(0, 0, 0, 0);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    fields->setSizePolicy(policy);
    line->addWidget(fields, 1);

    airframe_ = new QComboBox(this);
    airframe_->setObjectName(QStringLiteral("airframe"));
    row->addWidget(captioned(tr("Aircraft"), airframe_, this));
    airframe_->setToolTip(tr("Mark or model of this airframe: limits and ratings follow it"));

    const auto cockpit = [this](const UnitSpec* Cockpit::*unit) {
        return [this, unit] { return document_.aircraft().notes.cockpit.*unit; };
    };
    row->addWidget(add(new InlineField(tr("From"), QStringLiteral("field"), fieldName(document_), this),
                       tr("Field of departure")));
    row->addWidget(add(new InlineField(tr("Elevation"), QStringLiteral("elevation"),
                                       figureField<Dimension::length>(
                                           document_, tr("elevation"), cockpit(&Cockpit::height), 50,
                                           [](Sortie& s) -> Length& { return s.day.elevation; }, -1,
                                           [](Sortie& s) {
                                               // There and back: the landing field is the same.
                                               if (s.flight.to == s.day.field)
                                                   s.flight.toElevation = s.day.elevation;
                                           }),
                                       this),
                       tr("Height of the field above sea level. A different unit may be typed: 92 m")));
    row->addWidget(add(new InlineField(tr("QNH"), QStringLiteral("qnh"),
                                       figureField<Dimension::pressure>(
                                           document_, tr("QNH"), [] { return units::hPa.spec; }, 1,
                                           [](Sortie& s) -> Pressure& { return s.day.qnh; }),
                                       this),
                       tr("Altimeter setting; inHg may be typed: 29.80 inHg")));
    row->addWidget(add(new InlineField(tr("OAT"), QStringLiteral("oat"),
                                       figureField<Dimension::temperature>(
                                           document_, tr("OAT"), cockpit(&Cockpit::temperature), 1,
                                           [](Sortie& s) -> Temperature& { return s.day.oat; }, -1,
                                           [](Sortie& s) {
                                               // Colder air cannot hold the old dew point.
                                               s.day.dewPoint = std::min(s.day.dewPoint, s.day.oat);
                                           }),
                                       this),
                       tr("Outside air temperature at the field")));
    row->addWidget(add(new InlineField(tr("Dew point"), QStringLiteral("dew-point"),
                                       figureField<Dimension::temperature>(
                                           document_, tr("dew point"), cockpit(&Cockpit::temperature), 1,
                                           [](Sortie& s) -> Temperature& { return s.day.dewPoint; }),
                                       this),
                       tr("Dew point at the field")));
    row->addWidget(add(new InlineField(tr("Wind"), QStringLiteral("wind"), windField(document_), this),
                       tr("Direction and speed: 240/8")));
    grade_ = new QComboBox(this);
    grade_->setObjectName(QStringLiteral("grade"));
    row->addWidget(captioned(tr("Fuel grade"), grade_, this));
    grade_->setToolTip(tr("Grade in the tanks today; a lower one cuts the boost that may be used"));
    row->addWidget(add(new InlineField(tr("Weight"), QStringLiteral("weight"),
                                       weightField(document_, cockpit(&Cockpit::weight)), this),
                       tr("All-up weight at start. It follows from the load sheet until it is typed; \"load\" lets it "
                          "follow again")));
    metar_ = new QPushButton(tr("METAR…"), this);
    metar_->setObjectName(QStringLiteral("metar"));
    metar_->setFont(face(13));
    metar_->setToolTip(tr("Paste a weather report (Ctrl+M)"));
    row->addWidget(metar_);
    summary_ = new QLabel(this);
    summary_->setObjectName(QStringLiteral("summary"));
    summary_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    line->addWidget(summary_, 0);

    connect(metar_, &QPushButton::clicked, this, &DayStrip::metarWanted);
    connect(airframe_, &QComboBox::activated, this, [this](int index) {
        Sortie changed = document_.sortie();
        changed.airframe.variant = airframe_->itemData(index).toString().toStdString();
        const QString error = document_.edit(changed, tr("variant"));
        if (!error.isEmpty()) {
            refresh();
            emit refused(error);
        }
    });
    connect(grade_, &QComboBox::activated, this, [this](int index) {
        Sortie changed = document_.sortie();
        changed.fuelGrade = grade_->itemData(index).toString().toStdString();
        if (const QString error = document_.edit(changed, tr("fuel grade")); !error.isEmpty())
            emit refused(error);
    });
}

InlineField* DayStrip::add(InlineField* field, const QString& hint) {
    field->setHint(hint);
    field->setAbandon([this](int gesture) { document_.abandon(gesture); });
    connect(field, &InlineField::refused, this, &DayStrip::refused);
    fields_.push_back(field);
    return field;
}

void DayStrip::refresh() {
    if (!document_.isOpen())
        return;
    const TypeNotes& notes = document_.aircraft().notes;
    const Sortie& s = document_.sortie();
    const QString name =
        q(notes.name) +
        (s.airframe.registration.empty() ? QString() : QStringLiteral(" “%1”").arg(q(s.airframe.registration)));
    QList<ComboChoice> airframes, grades;
    for (const auto& v : notes.variants)
        airframes << ComboChoice{name + QStringLiteral(" · ") + q(v.id), q(v.id), q(v.name)};
    if (airframes.isEmpty())
        airframes << ComboChoice{name, QString(), {}};
    offer(*airframe_, airframes, q(notes.variant));
    bool known = false;
    for (const auto& g : notes.fuel.grades) {
        grades << ComboChoice{tr("grade %1").arg(q(g)), q(g), {}};
        known = known || g == s.fuelGrade;
    }
    if (!known)
        grades << ComboChoice{tr("grade %1").arg(q(s.fuelGrade)), q(s.fuelGrade), {}};
    offer(*grade_, grades, q(s.fuelGrade));
    for (auto* field : fields_)
        field->refresh();
    refreshSummary();
}

void DayStrip::refreshSummary() {
    const auto& f = document_.plan().flown;
    const UnitSpec& fuel = *document_.aircraft().notes.cockpit.fuel;
    const Colours c(this);
    const auto origin = q(powerplant::markWithFuel(document_.aircraft()));
    summary_->setTextFormat(Qt::RichText);
    summary_->setText(QStringLiteral("<div style='font-size:11px;color:%1'>SORTIE, %4, %5</div><div "
                                     "style='font-size:15px'><b>%2</b> h · <b>%3</b></div>")
                          .arg(c.faint.name(), QString::fromStdString(formatHoursMinutes(f.totalTime())),
                               QString::fromStdString(format(f.fuelAtStart - f.fuelAtEnd, fuel)),
                               f.knowsWind() ? tr("WITH THE WIND") : tr("STILL AIR"), origin.toUpper()));
    summary_->setToolTip(tr("Elapsed time from walk-round to the last engine stopped, and fuel used, %1 (%3)\n%2")
                             .arg(f.knowsWind()
                                      ? tr("with the wind aloft on its track")
                                      : tr("in still air: the wind at the field says nothing of the wind aloft"),
                                  QString::fromStdString(document_.plan().dayLine), origin));
}

void DayStrip::focusFirst() {
    if (!fields_.empty())
        fields_[2]->editor()->setFocus(Qt::ShortcutFocusReason);
}

void DayStrip::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool room = width() >= roomForSummary;
    summary_->setVisible(room);
    emit summaryShown(room);
}

void DayStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setPen(QPen(Colours(this).faint, 1));
    p.drawLine(0, height() - 1, width(), height() - 1);
}

} // namespace amber::app
