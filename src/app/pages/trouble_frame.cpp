// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/trouble_frame.h"
#include "kit/html.h"
#include "kit/words.h"
#include "pages/symptoms_page.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {

TroubleFrame::TroubleFrame(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("trouble-frame"));
    setAccessibleName(tr("Trouble"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 8, 20, 8);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setSpacing(12);
    title_ = new QLabel(tr("Trouble"), this);
    title_->setObjectName(QStringLiteral("trouble-title"));
    title_->setFont(face(25, true));
    when_ = new QLabel(this);
    when_->setObjectName(QStringLiteral("trouble-moment"));
    when_->setFont(face(14));
    when_->setForegroundRole(QPalette::PlaceholderText);
    when_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    when_->setContentsMargins(0, 0, 0, 4);
    clock_ = new QLabel(this);
    clock_->setObjectName(QStringLiteral("trouble-clock"));
    clock_->setFont(face(20, true));
    engineHolder_ = new QWidget(this);
    auto* row = new QHBoxLayout(engineHolder_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    auto* dead = new QLabel(tr("dead:"), engineHolder_);
    dead->setFont(face(14));
    row->addWidget(dead);
    auto* back = new QToolButton(this);
    back->setObjectName(QStringLiteral("trouble-back"));
    back->setText(tr("Back  Esc"));
    back->setFont(face(14));
    connect(back, &QToolButton::clicked, this, &TroubleFrame::left);
    head->addWidget(title_, 0, Qt::AlignBottom);
    head->addWidget(when_, 1, Qt::AlignBottom);
    for (const double step : {-60.0, 60.0}) {
        auto* shift = new QToolButton(this);
        shift->setObjectName(step < 0 ? QStringLiteral("earlier") : QStringLiteral("later"));
        shift->setText(step < 0 ? tr("−") : tr("+"));
        shift->setFont(face(15, true));
        shift->setAccessibleName(step < 0 ? tr("A minute earlier") : tr("A minute later"));
        shift->setToolTip(step < 0 ? tr("A minute earlier (Left; Shift: ten)")
                                   : tr("A minute later (Right; Shift: ten)"));
        connect(shift, &QToolButton::clicked, this,
                [this, step] { setTime(std::clamp(moment_.time + step, 0.0, document_.plan().flown.totalTime())); });
        head->addWidget(shift, 0, Qt::AlignBottom);
    }
    head->addWidget(clock_, 0, Qt::AlignBottom);
    head->addWidget(engineHolder_, 0, Qt::AlignBottom);
    head->addWidget(back, 0, Qt::AlignBottom);
    column->addLayout(head);

    auto* tabs = new QHBoxLayout;
    tabs->setSpacing(3);
    tabs_ = new QButtonGroup(this);
    tabs_->setExclusive(true);
    for (std::size_t i = 0; i < troubleTable().size(); ++i) {
        auto* button = new QToolButton(this);
        button->setObjectName(QStringLiteral("trouble-%1").arg(q(troubleTable()[i].key)));
        button->setText(QStringLiteral("%1 %2").arg(i + 1).arg(tr(troubleTable()[i].title)));
        button->setCheckable(true);
        button->setFont(face(13));
        button->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
        button->setMinimumHeight(30);
        tabs_->addButton(button, static_cast<int>(i));
        tabs->addWidget(button);
    }
    tabs->addStretch(1);
    connect(tabs_, &QButtonGroup::idClicked, this, [this](int id) {
        showPage(troubleTable()[static_cast<std::size_t>(id)].key);
        focusFirst();
    });
    column->addLayout(tabs);
    cautions_ = new RichLabel(this);
    cautions_->setObjectName(QStringLiteral("trouble-cautions"));
    cautions_->setFont(face(13));
    column->addWidget(cautions_);

    body_ = new QWidget(this);
    auto* pages = new QVBoxLayout(body_);
    pages->setContentsMargins(0, 0, 0, 0);
    scroll_ = new PageScroll(this);
    scroll_->hold(body_);
    column->addWidget(scroll_, 1);

    scroll_->installEventFilter(this);
    // Whatever has the focus: a list of ways would take a number for a letter to look for.
    const auto onKey = [this](const QKeySequence& key, auto act) {
        auto* shortcut = new QShortcut(key, this);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, act);
    };
    onKey(Qt::Key_Escape, [this] { emit left(); });
    for (std::size_t i = 0; i < troubleTable().size(); ++i)
        onKey(QKeySequence(Qt::Key_1 + static_cast<int>(i)), [this, i] {
            showPage(troubleTable()[i].key);
            focusFirst();
        });
    onKey(Qt::Key_E, [this] {
        if (!engines_.empty() && troubleTable()[page_].asksEngines)
            setDead({(moment_.dead.front() + 1) % engines_.size()});
    });

    later_ = new QTimer(this);
    later_->setSingleShot(true);
    later_->setInterval(0);
    connect(later_, &QTimer::timeout, this, &TroubleFrame::reckonNow);
    tick_ = new QTimer(this);
    tick_->setInterval(250);
    connect(tick_, &QTimer::timeout, this, &TroubleFrame::showClock);
}

TroublePage* TroubleFrame::made(std::size_t row) {
    if (const auto found = pages_.find(row); found != pages_.end())
        return found->second;
    auto* page = troubleTable()[row].make(document_, body_);
    page->hide();
    body_->layout()->addWidget(page);
    connect(page, &TroublePage::ticked, this, [this] {
        if (!since_.isValid()) {
            since_.start();
            tick_->start();
        }
        showClock();
    });
    connect(page, &TroublePage::placeWanted, this, [this, page](QRect place) {
        if (page != current_)
            return;
        const QPoint at = page->mapTo(body_, place.center());
        scroll_->ensureVisible(at.x(), at.y(), 0, place.height() / 2 + 8);
    });
    if (auto* symptoms = qobject_cast<SymptomsPage*>(page))
        connect(symptoms, &SymptomsPage::drillWanted, this, [this](Emergency emergency) {
            const auto in = [&](const auto& drills) {
                return std::find(drills.begin(), drills.end(), emergency) != drills.end();
            };
            showPage(in(fireDrills)                                                       ? "fire"
                     : in(systemsDrills)                                                  ? "systems"
                     : emergency == Emergency::feather || emergency == Emergency::restart ? "feather"
                     : emergency == Emergency::dive                                       ? "dive"
                     : emergency == Emergency::fewEngines                                 ? "few-engines"
                                                                                          : "engine-fails");
            focusFirst();
        });
    pages_[row] = page;
    return page;
}

void TroubleFrame::exchange(std::size_t row) {
    auto* wanted = made(row);
    page_ = row;
    if (wanted != current_) {
        if (current_)
            current_->hide();
        current_ = wanted;
        current_->show();
        scroll_->ensureVisible(0, 0, 0, 0);
    }
    if (auto* button = tabs_->button(static_cast<int>(row)))
        button->setChecked(true);
}

void TroubleFrame::buildEngines() {
    const auto& n = document_.aircraft().notes;
    const std::string type = n.file + n.variant;
    if (type != enginesOf_) {
        enginesOf_ = type;
        qDeleteAll(engines_);
        engines_.clear();
        for (std::size_t i = 0; i < n.positions.size() && n.positions.size() > 1; ++i) {
            auto* button = new QToolButton(engineHolder_);
            button->setObjectName(QStringLiteral("dead-%1").arg(q(n.positions[i].id)));
            button->setText(q(n.positions[i].name));
            button->setAccessibleName(tr("%1 dead").arg(q(n.positions[i].name)));
            button->setCheckable(true);
            button->setFont(face(14));
            button->setFocusPolicy(Qt::StrongFocus);
            button->setToolTip(tr("Which engine is dead (E: the next one)"));
            engineHolder_->layout()->addWidget(button);
            connect(button, &QToolButton::clicked, this, [this, i](bool dead) { toggled(i, dead); });
            engines_.push_back(button);
        }
        moment_.dead = {0};
    }
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        const QSignalBlocker quiet(engines_[i]);
        engines_[i]->setChecked(std::find(moment_.dead.begin(), moment_.dead.end(), i) != moment_.dead.end());
    }
    engineHolder_->setVisible(!engines_.empty() && troubleTable()[page_].asksEngines);
    // One engine has no fewer to land on.
    if (engines_.empty() && troubleTable()[page_].ofSeveral)
        page_ = 0;
    for (std::size_t i = 0; i < troubleTable().size(); ++i)
        if (troubleTable()[i].ofSeveral)
            tabs_->button(static_cast<int>(i))->setVisible(!engines_.empty());
}

void TroubleFrame::toggled(std::size_t engine, bool dead) {
    auto all = moment_.dead;
    std::erase(all, engine);
    if (dead)
        all.push_back(engine);
    if (all.empty()) // at least one is dead here
        all = {engine};
    std::sort(all.begin(), all.end());
    setDead(std::move(all));
}

void TroubleFrame::setDead(std::vector<std::size_t> dead) {
    moment_.dead = std::move(dead);
    refresh();
}

void TroubleFrame::setTime(double seconds) {
    moment_.time = seconds;
    refresh();
}

void TroubleFrame::shiftBy(double seconds) {
    setTime(std::clamp(moment_.time + seconds, 0.0, document_.plan().flown.totalTime()));
}

void TroubleFrame::open(double time) {
    moment_.time = time;
    if (moment_.dead.empty())
        moment_.dead = {0};
    since_.invalidate();
    tick_->stop();
    if (current_)
        current_->begin();
    refresh();
}

void TroubleFrame::refresh() {
    if (!document_.isOpen())
        return;
    buildEngines();
    std::erase_if(moment_.dead, [&](std::size_t i) { return i >= document_.aircraft().notes.positions.size(); });
    if (moment_.dead.empty())
        moment_.dead = {0};
    exchange(page_);
    const auto& n = document_.aircraft().notes;
    const auto at = trouble::momentAt(n, document_.sortie(), document_.plan().flown, moment_.time);
    when_->setText(q(trouble::wordsOf(at, n)));
    when_->setToolTip(tr("The moment chosen on the score: click another one there"));
    const auto key = troubleTable()[page_].key;
    std::vector<std::string> cautions = key == "go-round" ? trouble::goRoundCautions()
                                        : key == "symptoms"
                                            ? std::vector<std::string>{"First what can be taken back; a single falling "
                                                                       "pressure is the engine until it is proved the "
                                                                       "gauge. The approved manual comes first."}
                                        : key == "dive"        ? trouble::cautionsOf(n, Emergency::dive)
                                        : key == "feather"     ? trouble::cautionsOf(n, Emergency::feather)
                                        : key == "fire"        ? trouble::cautionsOf(n, Emergency::fireStarting)
                                        : key == "few-engines" ? trouble::cautionsOf(n, Emergency::fewEngines)
                                        : key == "systems"     ? trouble::cautionsOf(n, Emergency::smoke)
                                                               : trouble::cautionsOf(n, Emergency::engineFails);
    const auto own = [&](Emergency e) {
        if (const auto drill = n.trouble.drills.find(e); drill != n.trouble.drills.end())
            cautions.insert(cautions.end(), drill->second.cautions.begin(), drill->second.cautions.end());
    };
    if (key == "feather") {
        for (auto& c : trouble::cautionsOf(n, Emergency::restart))
            cautions.push_back(c);
        own(Emergency::feather);
        own(Emergency::restart);
    } else if (key == "fire") {
        for (auto& c : trouble::cautionsOf(n, Emergency::fireAir))
            cautions.push_back(c);
        for (const auto e : fireDrills)
            own(e);
    } else if (key == "systems") {
        for (const auto e : systemsDrills) {
            if (e != systemsDrills.front()) // its caution stands already
                for (auto& c : trouble::cautionsOf(n, e))
                    cautions.push_back(c);
            own(e);
        }
    } else if (key == "dive") {
        own(Emergency::dive);
    } else if (key == "few-engines") {
        own(Emergency::fewEngines);
    } else if (key == "engine-fails") {
        own(Emergency::engineFails);
    }
    QStringList lines;
    for (const auto& c : cautions)
        lines << html::text(c);
    cautions_->setText(QStringLiteral("<b>%1</b> %2").arg(tr("Caution:"), lines.join(QStringLiteral("  "))));
    current_->present(moment_);
    showClock();
    later_->start();
}

void TroubleFrame::prepare() {
    if (!document_.isOpen() || current_)
        return;
    refresh();
    later_->stop();
}

void TroubleFrame::reckonNow() {
    later_->stop();
    if (document_.isOpen() && current_ && (isVisible() || !window()->isVisible()))
        current_->reckon(moment_);
}

void TroubleFrame::showPage(std::string_view key) {
    for (std::size_t i = 0; i < troubleTable().size(); ++i)
        if (troubleTable()[i].key == key) {
            page_ = i;
            refresh();
            return;
        }
}

void TroubleFrame::focusFirst() {
    if (current_)
        current_->first()->setFocus(Qt::ShortcutFocusReason);
}

void TroubleFrame::showClock() {
    if (!since_.isValid()) {
        clock_->clear();
        return;
    }
    const double gone = static_cast<double>(since_.elapsed()) / 1000.0;
    QString text = q(formatMinutesSeconds(gone));
    if (const auto left = current_ ? current_->runsOut() : std::nullopt)
        text += tr(" · %1 %2").arg(left->second, q(formatMinutesSeconds(std::max(0.0, left->first - gone))));
    clock_->setText(text);
    clock_->setToolTip(tr("Since the first act was ticked"));
}

bool TroubleFrame::eventFilter(QObject* watched, QEvent* event) {
    // A page that scrolls would take the arrows that nothing on it wants.
    if (watched == scroll_ && event->type() == QEvent::KeyPress) {
        const auto* pressed = static_cast<QKeyEvent*>(event);
        if (pressed->key() == Qt::Key_Left || pressed->key() == Qt::Key_Right) {
            const double step = pressed->modifiers() & Qt::ShiftModifier ? 600.0 : 60.0;
            shiftBy(pressed->key() == Qt::Key_Left ? -step : step);
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace amber::app
