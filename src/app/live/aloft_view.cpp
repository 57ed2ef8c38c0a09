// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/aloft_view.h"
#include "aloft/next.h"
#include "aloft/stands.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "live/look_at.h"
#include "live/next_card.h"
#include "record/log_text.h"
#include "units/text.h"
#include <QGridLayout>
#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double twoMinutes = 120.0; // s, "two minutes ago"
constexpr int edgeWidth = 8;

QLabel* plain(QWidget* parent, Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter) {
    auto* label = new QLabel(parent);
    label->setTextFormat(Qt::PlainText);
    label->setAlignment(align);
    label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    return label;
}
QLabel* captionOf(const QString& text, QWidget* parent) {
    auto* label = plain(parent);
    label->setText(text);
    label->setFont(face(14, true));
    label->setForegroundRole(QPalette::Link);
    return label;
}
} // namespace

AloftView::AloftView(LiveRun& live, RecorderLink& link, QWidget* parent) : QWidget(parent), live_(live), link_(link) {
    setObjectName(QStringLiteral("aloft"));
    setAccessibleName(tr("The run at arm's length"));
    setFocusPolicy(Qt::StrongFocus);
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(20 + edgeWidth, 6, 20, 6);
    page->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setSpacing(20);
    phase_ = plain(this);
    phase_->setObjectName(QStringLiteral("aloft-phase"));
    phase_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    about_ = plain(this);
    about_->setObjectName(QStringLiteral("aloft-about"));
    about_->setForegroundRole(QPalette::PlaceholderText);
    clock_ = plain(this, Qt::AlignRight | Qt::AlignVCenter);
    clock_->setObjectName(QStringLiteral("aloft-clock"));
    clock_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    head->addWidget(phase_);
    head->addWidget(about_, 1);
    head->addWidget(clock_);
    page->addLayout(head);

    auto* columns = new QHBoxLayout;
    columns->setSpacing(28);
    auto* left = new QVBoxLayout;
    left->setSpacing(2);
    left->addWidget(captionOf(tr("NOW"), this));
    auto* set = new QGridLayout;
    set->setHorizontalSpacing(14);
    set->setVerticalSpacing(1);
    set->setColumnStretch(0, 3);
    set->setColumnStretch(1, 4);
    for (std::size_t i = 0; i < what_.size(); ++i) {
        what_[i] = plain(this);
        what_[i]->setForegroundRole(QPalette::PlaceholderText);
        set_[i] = plain(this, Qt::AlignRight | Qt::AlignVCenter);
        set_[i]->setWordWrap(true);
        set->addWidget(what_[i], static_cast<int>(i), 0);
        set->addWidget(set_[i], static_cast<int>(i), 1);
    }
    left->addLayout(set);
    left->addStretch(1);
    left->addWidget(captionOf(tr("LOOK AT"), this));
    needles_ = new LookAt(this);
    left->addWidget(needles_);
    columns->addLayout(left, 11);

    auto* middle = new QVBoxLayout;
    middle->setSpacing(6);
    middle->addWidget(captionOf(tr("NEXT"), this));
    nexts_ = new QWidget(this);
    auto* cards = new QVBoxLayout(nexts_);
    cards->setContentsMargins(0, 0, 0, 0);
    cards->setSpacing(8);
    for (auto& card : cards_) {
        card = new NextCard(nexts_);
        cards->addWidget(card, 3);
        connect(card, &NextCard::ticked, this, [this, card] { tick(card->id()); });
    }
    cards_[0]->setFirst(true);
    then_ = plain(nexts_);
    then_->setForegroundRole(QPalette::PlaceholderText);
    then_->setWordWrap(true);
    cards->addWidget(then_);
    cards->addStretch(2);
    middle->addWidget(nexts_, 1);
    moments_ = new QWidget(this);
    moments_->setObjectName(QStringLiteral("aloft-moments"));
    new QGridLayout(moments_);
    moments_->hide();
    middle->addWidget(moments_, 1);
    columns->addLayout(middle, 12);

    auto* right = new QVBoxLayout;
    right->setSpacing(1);
    right->addWidget(captionOf(tr("COUNTS"), this));
    for (std::size_t i = 0; i < clockWhat_.size(); ++i) {
        clockWhat_[i] = plain(this);
        clockWhat_[i]->setForegroundRole(QPalette::PlaceholderText);
        clockValue_[i] = plain(this, Qt::AlignRight | Qt::AlignVCenter);
        right->addWidget(clockWhat_[i]);
        right->addWidget(clockValue_[i]);
        right->addSpacing(4);
    }
    right->addStretch(1);
    columns->addLayout(right, 6);
    page->addLayout(columns, 1);

    told_ = plain(this);
    told_->setObjectName(QStringLiteral("aloft-told"));
    told_->setWordWrap(true);
    page->addWidget(told_);
    scan_ = new QLineEdit(this);
    scan_->setObjectName(QStringLiteral("aloft-scan"));
    scan_->setAccessibleName(tr("Whole scan"));
    scan_->hide();
    page->addWidget(scan_);
    scan_->installEventFilter(this);
    address_ = new QLineEdit(this);
    address_->setObjectName(QStringLiteral("aloft-address"));
    address_->setAccessibleName(tr("Where the recorder is"));
    address_->setPlaceholderText(tr("serial:/dev/ttyUSB0 · tcp:192.168.4.1:5000 · udp:127.0.0.1:5000 · empty: off"));
    address_->hide();
    page->addWidget(address_);
    address_->installEventFilter(this);

    auto* keys = new QHBoxLayout;
    keys->setSpacing(10);
    nowKey_ = key("aloft-now", tr("A moment, kept at once; its name may follow (Space)"));
    nameKey_ = key("aloft-name", tr("The moment that is named here: now, or when NOW was pressed (Return)"));
    earlierKey_ = key("aloft-earlier", tr("What was pressed last was two minutes before (Left)"));
    scanKey_ = key("aloft-read", tr("A whole scan in one line (S)"));
    momentsKey_ = key("aloft-all", tr("Every moment and tank by its own key (M)"));
    troubleKey_ = key("aloft-trouble", tr("When it goes wrong, from here (F9)"));
    for (auto* k : {nowKey_, nameKey_, earlierKey_, scanKey_, momentsKey_, troubleKey_})
        keys->addWidget(k, k == nameKey_ ? 3 : 2);
    page->addLayout(keys);
    foot_ = plain(this);
    foot_->setObjectName(QStringLiteral("aloft-foot"));
    foot_->setFont(face(13));
    foot_->setForegroundRole(QPalette::PlaceholderText);
    page->addWidget(foot_);
    connect(nowKey_, &QPushButton::clicked, this, [this] { say(live_.pressNow()); });
    connect(nameKey_, &QPushButton::clicked, this, [this] {
        if (!live_.question().isEmpty()) {
            live_.answer(true);
            say({});
        } else if (const auto name = live_.proposed()) {
            say(live_.press(*name));
        }
    });
    connect(earlierKey_, &QPushButton::clicked, this, [this] {
        if (!live_.question().isEmpty()) {
            live_.answer(false);
            say({});
        } else {
            say(live_.earlier(twoMinutes));
        }
    });
    connect(scanKey_, &QPushButton::clicked, this, [this] {
        scan_->setVisible(!scan_->isVisible());
        if (scan_->isVisible()) {
            scanLines_ = live_.book().lines(live_.now().phase);
            QStringList names;
            for (const auto& line : scanLines_)
                names << q(line.title).toLower();
            scan_->setPlaceholderText(names.join(QStringLiteral(" · ")));
            scan_->setFocus(Qt::OtherFocusReason);
        } else {
            setFocus(Qt::OtherFocusReason);
        }
    });
    connect(momentsKey_, &QPushButton::clicked, this, &AloftView::toggleMoments);
    connect(troubleKey_, &QPushButton::clicked, this, &AloftView::troubleWanted);
    connect(&live_, &LiveRun::changed, this, [this] {
        if (isVisible())
            refresh();
    });
    connect(&link_, &RecorderLink::told, this, [this](const QString& what) { say(what); });
}

QPushButton* AloftView::key(const char* name, const QString& tip) {
    auto* button = new QPushButton(this);
    button->setObjectName(QLatin1String(name));
    button->setToolTip(tip);
    button->setFocusPolicy(Qt::TabFocus);
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    return button;
}

int AloftView::mm(double millimetres) const {
    // Where the screen is small, no more than it has room for.
    const double perMm = std::clamp(physicalDpiY() / 25.4, 2.8, 8.0);
    const double room = std::min(height() / 800.0, width() / 1200.0);
    return std::max(11, static_cast<int>(std::lround(millimetres * perMm * std::min(1.0, room * 3.78 / perMm))));
}

void AloftView::setSizes() {
    // Capitals are seven tenths of the letters' size: ten and six millimetres of the face.
    phase_->setFont(face(mm(10), true));
    clock_->setFont(face(mm(7), true));
    about_->setFont(face(mm(5)));
    for (std::size_t i = 0; i < what_.size(); ++i) {
        what_[i]->setFont(face(mm(5.5)));
        set_[i]->setFont(face(mm(8.5), true));
    }
    for (std::size_t i = 0; i < clockWhat_.size(); ++i) {
        clockWhat_[i]->setFont(face(mm(4.5)));
        clockValue_[i]->setFont(face(mm(6.5), true));
    }
    for (auto* card : cards_)
        card->setSizes(mm(7.5), mm(4.5));
    then_->setFont(face(mm(4.5)));
    told_->setFont(face(mm(5), true));
    scan_->setFont(face(mm(6)));
    address_->setFont(face(mm(5)));
    needles_->setSizes(mm(5.5));
    for (auto* k : {nowKey_, nameKey_, earlierKey_, scanKey_, momentsKey_, troubleKey_}) {
        k->setFont(face(mm(5), true));
        k->setFixedHeight(mm(20));
    }
    for (auto* k : momentKeys_) {
        k->setFont(face(mm(4.5), true));
        k->setMinimumHeight(mm(14));
    }
}

void AloftView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    setSizes();
}

void AloftView::begin() {
    live_.takeUp();
    said_.clear();
    setSizes();
    refresh();
    setFocus(Qt::OtherFocusReason);
    awake_.hold(tr("a run is live"));
}

void AloftView::askAddress(const QString& now, std::function<QString(const QString&)> taken) {
    addressTaken_ = std::move(taken);
    address_->setText(now);
    address_->show();
    address_->setFocus(Qt::OtherFocusReason);
    address_->selectAll();
}

void AloftView::leave() {
    scan_->hide();
    address_->hide();
    moments_->hide();
    nexts_->show();
    awake_.release();
}

void AloftView::say(const QString& what) {
    said_ = what;
    refresh();
}

void AloftView::showSet() {
    std::size_t shown = 0;
    for (const auto& line : aloft::standsNow(live_.book().aircraft(), live_.book().plan(), live_.now())) {
        if (shown == what_.size())
            break;
        what_[shown]->setText(q(line.what));
        set_[shown]->setText(q(line.value));
        set_[shown]->setToolTip(q(line.why));
        // A long setting takes a second line and smaller letters, not the page.
        int size = mm(8.5);
        const int room = std::max(80, set_[shown]->width());
        const auto fits = [&] {
            const QFontMetrics m(face(size, true));
            return m.boundingRect(QRect(0, 0, room, 1000), Qt::TextWordWrap, set_[shown]->text()).height() <=
                       std::max(m.height(), mm(11)) &&
                   m.boundingRect(QRect(0, 0, room, 1000), Qt::TextWordWrap, set_[shown]->text()).width() <= room;
        };
        while (size > 12 && !fits())
            --size;
        set_[shown]->setFont(face(size, true));
        ++shown;
    }
    for (; shown < what_.size(); ++shown) {
        what_[shown]->setText({});
        set_[shown]->setText({});
    }
}

void AloftView::showClocks() {
    const auto& now = live_.now();
    const Colours c(this);
    const auto& n = live_.book().notes();
    const auto& fuel = *n.cockpit.fuel;
    struct Shown {
        QString what, value;
        watch::Colour colour = watch::Colour::normal;
    };
    std::vector<Shown> all;
    for (const auto& r : now.ratings)
        if (r.runs || r.verdict.colour() != watch::Colour::normal)
            all.push_back({tr("%1, used").arg(q(r.name)),
                           tr("%1 of %2")
                               .arg(q(formatMinutesSeconds(r.used + (r.runs ? live_.since() : 0.0))),
                                    q(formatMinutesSeconds(r.allowed.value_or(0.0)))),
                           r.verdict.colour()});
    for (const auto& item : now.next)
        if (item.kind == aloft::NextItem::Kind::oilPressure && item.in)
            all.push_back({q(item.what), countdown(*item.in - live_.since()), item.verdict.colour()});
    if (now.toRunUp && now.phase <= Phase::warmUp)
        all.push_back(
            {tr("Warm for the run-up"), tr("%1 to %2").arg(countdown(now.toRunUp->low), countdown(now.toRunUp->high))});
    else if (now.toTakeOff && now.phase <= Phase::runUp)
        all.push_back({tr("Warm for take-off"),
                       tr("%1 to %2").arg(countdown(now.toTakeOff->low), countdown(now.toTakeOff->high))});
    if (now.phase >= Phase::warmUp && !now.over && now.here.feeding >= 0) {
        const auto& tank = n.fuel.tanks[static_cast<std::size_t>(now.here.feeding)];
        all.push_back(
            {tr("%1, feeding").arg(q(tank.name)),
             QStringLiteral("≈") + q(format(now.here.tanks[static_cast<std::size_t>(now.here.feeding)], fuel))});
    }
    if (!now.over && now.phase >= Phase::warmUp) {
        const double half = 0.5 * (now.here.landing.high - now.here.landing.low);
        all.push_back(
            {tr("Fuel when stopped"),
             QStringLiteral("%1 ± %2").arg(q(formatValue(now.here.landing.value, fuel)), q(format(half, fuel))),
             now.here.verdict.colour()});
        if (now.phase >= Phase::climb)
            all.push_back(
                {tr("To the reserve"), q(formatHoursOrMinutes(std::max(0.0, now.here.endurance - live_.since())))});
        if (now.here.turnBack && *now.here.turnBack > 0.0)
            all.push_back({tr("Latest turning back"), countdown(*now.here.turnBack - live_.since())});
    }
    for (std::size_t i = 0; i < clockWhat_.size(); ++i) {
        const bool has = i < all.size();
        clockWhat_[i]->setText(has ? all[i].what : QString());
        clockValue_[i]->setText(has ? all[i].value : QString());
        QPalette p = palette();
        if (has && all[i].colour != watch::Colour::normal)
            p.setColor(QPalette::WindowText, c.of(all[i].colour));
        clockValue_[i]->setPalette(p);
    }
}

void AloftView::refresh() {
    const auto& now = live_.now();
    const auto& n = live_.book().notes();
    phase_->setText(now.over ? tr("Stopped") : q(titleOf(now.phase)));
    QStringList about{q(live_.book().airframe())};
    if (now.phase >= Phase::takeOff && now.phase <= Phase::landing)
        about << QStringLiteral("≈") + q(formatHeight(now.height, *n.cockpit.height));
    if (!live_.happened().moments.empty()) {
        const auto& last = live_.happened().moments.back();
        const double ago = now.at + live_.since() - last.at;
        QString name =
            last.what == aloft::unnamed ? tr("NOW") : q(record::titleOf(last.what, n)).section(QLatin1Char(','), 0, 0);
        for (const auto& p : n.positions)
            if (p.id == last.engine && n.engineCount() > 1)
                name = tr("%1, %2").arg(q(p.name), name);
        about << tr("%1 %2 ago").arg(name, countdown(std::max(0.0, ago)));
    }
    about_->setText(about.join(QStringLiteral("  ·  ")));
    clock_->setText(q(record::timeText(live_.timeNow()).substr(11, 8)) + tr(" UTC"));
    showSet();
    needles_->show(live_);
    // What waits keeps its place; the first three are shown.
    std::size_t i = 0;
    for (; i < cards_.size(); ++i) {
        cards_[i]->show(i < now.next.size() ? &now.next[i] : nullptr, live_.since());
        cards_[i]->setVisible(i < now.next.size());
    }
    QStringList then;
    for (; i < now.next.size() && then.size() < 3; ++i)
        if (now.next[i].in)
            then << QStringLiteral("%1 %2").arg(q(now.next[i].what), countdown(*now.next[i].in - live_.since()));
    then_->setText(now.quiet      ? q(now.quietWhy)
                   : then.empty() ? QString()
                                  : tr("then: %1").arg(then.join(QStringLiteral("\n"))));
    showClocks();

    // One line for what is asked and said: a question, then what cannot be, then a reading, then what the needles look
    // like.
    QString told = live_.question();
    if (told.isEmpty())
        told = said_;
    if (told.isEmpty() && !now.asks.empty())
        told = q(now.asks.front().sentence()) + (now.today.asked.empty() ? QString() : tr("  It stands: T"));
    if (told.isEmpty())
        told = live_.seems();
    told_->setText(told);
    told_->setVisible(!told.isEmpty());
    edge_ = needles_->worst();
    for (const auto& item : now.next)
        edge_ = std::max(edge_, aloft::verdictAt(item, live_.since()).colour());
    for (const auto& r : now.ratings)
        if (r.runs)
            edge_ = std::max(edge_, r.verdict.colour());
    if (!now.quiet)
        edge_ = std::max(edge_,
                         now.here.verdict.colour() == watch::Colour::red ? watch::Colour::red : watch::Colour::normal);
    const bool asks = !live_.question().isEmpty();
    nowKey_->setText(tr("NOW\nSpace"));
    nowKey_->setEnabled(!asks && !now.over);
    const auto name = live_.proposed();
    nameKey_->setText(asks ? tr("Yes\nReturn") : name ? tr("✓ %1\nReturn").arg(name->name) : tr("–\nReturn"));
    nameKey_->setEnabled(asks || name.has_value());
    earlierKey_->setText(asks ? tr("No, just now\nLeft") : tr("2 min before\nLeft"));
    scanKey_->setText(tr("Read a scan\nS"));
    momentsKey_->setText(moments_->isVisible() ? tr("Next\nM") : tr("All moments\nM"));
    troubleKey_->setText(tr("Trouble\nF9"));
    foot_->setText(tr("≈ by the plan, slid to the moments%1; limits are the notes'.   D: done · B: bend %2 · Z: undo · "
                      "R: recorder · Esc: "
                      "leave%3")
                       .arg(live_.bends() ? tr(" and bent to what was read") : QString(),
                            live_.bends() ? tr("off") : tr("on"),
                            link_.state().isEmpty() ? QString() : QStringLiteral(" · ") + link_.state()));
    if (moments_->isVisible())
        fillMoments();
    update();
}

void AloftView::tick(const std::string& id) {
    for (const auto& item : live_.now().next) {
        if (item.id != id)
            continue;
        if (item.ticks) {
            say(live_.tick(item));
            return;
        }
        for (const auto& name : live_.names())
            if (name.what == item.place && name.engine == item.engine) {
                say(live_.press(name));
                return;
            }
    }
}

void AloftView::toggleMoments() {
    const bool shows = !moments_->isVisible();
    nexts_->setVisible(!shows);
    moments_->setVisible(shows);
    names_.clear();
    refresh();
}

void AloftView::fillMoments() {
    const auto names = live_.names();
    const bool same = names.size() == names_.size() &&
                      std::equal(names.begin(), names.end(), names_.begin(),
                                 [](const auto& a, const auto& b) { return a.what == b.what && a.engine == b.engine; });
    if (same)
        return;
    names_ = names;
    auto* grid = static_cast<QGridLayout*>(moments_->layout());
    for (auto* k : momentKeys_) {
        grid->removeWidget(k);
        k->disconnect(this);
        k->hide();
        k->deleteLater();
    }
    momentKeys_.clear();
    constexpr std::size_t most = 14;
    for (std::size_t i = 0; i < std::min(names_.size(), most); ++i) {
        auto* k = new QPushButton(i < 9 ? tr("%1  %2").arg(i + 1).arg(names_[i].name) : names_[i].name, moments_);
        k->setObjectName(QStringLiteral("moment-") + q(names_[i].what) + q(names_[i].engine));
        k->setFocusPolicy(Qt::TabFocus);
        k->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Expanding);
        k->setFont(face(mm(4.5), true));
        k->setMinimumHeight(mm(14));
        const auto name = names_[i];
        connect(k, &QPushButton::clicked, this, [this, name] { say(live_.press(name)); });
        grid->addWidget(k, static_cast<int>(i / 2), static_cast<int>(i % 2));
        k->show();
        momentKeys_.push_back(k);
    }
}

bool AloftView::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress && (watched == scan_ || watched == address_)) {
        const int pressed = static_cast<QKeyEvent*>(event)->key();
        if (pressed == Qt::Key_Return || pressed == Qt::Key_Enter) {
            // A line's own Return is no moment of the flight.
            if (watched == scan_)
                takeScan();
            else
                takeAddress();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void AloftView::takeAddress() {
    const QString why = addressTaken_ ? addressTaken_(address_->text()) : QString();
    if (why.isEmpty()) {
        address_->hide();
        setFocus(Qt::OtherFocusReason);
    }
    say(why);
}

void AloftView::takeScan() {
    const auto read =
        record::readQuickLine(scanLines_, live_.book().notes().engineCount(), scan_->text().toStdString());
    if (!read) {
        say(q(read.error()));
        return;
    }
    const QString why = live_.book().keepScan(live_.now().phase, scanLines_, read.value());
    if (!why.isEmpty()) {
        say(why);
        return;
    }
    scan_->clear();
    scan_->hide();
    setFocus(Qt::OtherFocusReason);
    live_.reckon();
    say({});
}

void AloftView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Space:
        nowKey_->click();
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        nameKey_->click();
        return;
    case Qt::Key_Left:
        earlierKey_->click();
        return;
    case Qt::Key_S:
        scanKey_->click();
        return;
    case Qt::Key_M:
        momentsKey_->click();
        return;
    case Qt::Key_B:
        live_.setBends(!live_.bends());
        return;
    case Qt::Key_T:
        if (!live_.now().today.asked.empty())
            say(live_.standBy(live_.now().today.asked.front()));
        return;
    case Qt::Key_D:
        for (const auto& item : live_.now().next)
            if (item.ticks) {
                tick(item.id);
                break;
            }
        return;
    case Qt::Key_Z:
        say(live_.undo());
        return;
    case Qt::Key_R:
        emit recorderWanted();
        return;
    case Qt::Key_Escape:
        if (scan_->isVisible() || address_->isVisible()) {
            scan_->hide();
            address_->hide();
            setFocus(Qt::OtherFocusReason);
        } else if (moments_->isVisible()) {
            toggleMoments();
        } else {
            emit leaveWanted();
        }
        return;
    default:
        if (moments_->isVisible() && event->key() >= Qt::Key_1 && event->key() <= Qt::Key_9) {
            const auto which = static_cast<std::size_t>(event->key() - Qt::Key_1);
            if (which < momentKeys_.size())
                momentKeys_[which]->click();
            return;
        }
    }
    QWidget::keyPressEvent(event);
}

void AloftView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    p.fillRect(rect(), c.paper);
    // The edge that lights: seen from the corner of an eye.
    p.fillRect(QRect(0, 0, edgeWidth, height()), edge_ == watch::Colour::normal ? c.grid : c.of(edge_));
    const int under = phase_->geometry().bottom() + 4;
    p.setPen(QPen(c.faint, 1));
    p.drawLine(edgeWidth + 20, under, width() - 20, under);
    const int over = nowKey_->geometry().top() - 6;
    if (over > under)
        p.drawLine(edgeWidth + 20, over, width() - 20, over);
}

QStringList AloftView::nextShown() const {
    QStringList out;
    for (const auto* card : cards_)
        if (!card->said().isEmpty())
            out << card->said();
    return out;
}

QStringList AloftView::clocksShown() const {
    QStringList out;
    for (std::size_t i = 0; i < clockWhat_.size(); ++i)
        if (!clockWhat_[i]->text().isEmpty())
            out << QStringLiteral("%1: %2").arg(clockWhat_[i]->text(), clockValue_[i]->text());
    return out;
}

} // namespace amber::app
