// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/seat_frame.h"
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/page_scroll.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "seat/asked_words.h"
#include "symptoms/patterns.h"
#include "units/text.h"
#include <QDate>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QShortcut>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr qint64 wordsEvery = 100;    // ms
constexpr std::size_t mostLines = 40; // of what was said and done

QLabel* rich(const char* name, QWidget* parent) {
    auto* label = new RichLabel(parent);
    label->setObjectName(QLatin1String(name));
    label->setFont(face(13));
    label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    return label;
}
} // namespace

SeatFrame::SeatFrame(Seat& seat, QWidget* parent) : QWidget(parent), seat_(seat) {
    setObjectName(QStringLiteral("seat-frame"));
    setAccessibleName(tr("Rehearse"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new PageScroll(this); // of a window too low for it
    body_ = new QWidget(scroll);
    auto* pages = new QVBoxLayout(body_);
    pages->setContentsMargins(0, 0, 0, 0);
    scroll->hold(body_);
    column->addWidget(scroll);
    begin_ = new BeginPanel(seat_.document(), body_);
    work_ = workPage();
    debrief_ = new DebriefView(seat_, body_);
    examiner_ = new QuestionView(tr("You are asked"), body_);
    examiner_->findChild<QPushButton*>(QStringLiteral("question-leave"))
        ->hide(); // it is answered, or one is not examined
    cards_ = new QuestionView(tr("Questions"), body_);
    for (auto* page : {static_cast<QWidget*>(begin_), work_, static_cast<QWidget*>(debrief_),
                       static_cast<QWidget*>(examiner_), static_cast<QWidget*>(cards_)}) {
        page->hide();
        pages->addWidget(page);
    }
    turnTo(begin_);
    loadLog = [] { return std::vector<rehearse::Practised>(); };
    keepLog = [](const std::vector<rehearse::Practised>&) { return QString(); };
    begin_->history = [this](const QString& who) {
        const QString said = skills(who, loadLog());
        return said.isEmpty()
                   ? said
                   : tr("<b>So far</b>, unprompted and in checks on this type:") + QStringLiteral("<br>") + said;
    };
    debrief_->overTime = [this] {
        auto log = loadLog();
        for (auto& line : practised())
            log.push_back(std::move(line));
        return skills(who_, log);
    };
    loadCards = [](const QString&) { return rehearse::CardBoxes(); };
    keepCards = [](const QString&, const rehearse::CardBoxes&) {};
    today = [] { return QDate::currentDate().toJulianDay(); };

    connect(begin_, &BeginPanel::begun, this, [this] {
        if (begin_->wantsQuestions()) {
            openCards();
            return;
        }
        who_ = begin_->who();
        seat_.sit(begin_->setup(), begin_->way(), begin_->acts(), begin_->areTwo());
        showHands();
    });
    connect(debrief_, &DebriefView::backWanted, this, &SeatFrame::showHands);
    connect(debrief_, &DebriefView::leaveWanted, this, &SeatFrame::leaveWanted);
    connect(debrief_, &DebriefView::momentWanted, this, &SeatFrame::momentWanted);
    connect(examiner_, &QuestionView::answered, this, [this](const QString& text) {
        if (!seat_.isTaken())
            return;
        if (seat_.session().answer(text.toStdString())) {
            emit seat_.refused({});
            showHands(); // nothing is said until the debrief
        } else
            emit seat_.refused(tr("Write a figure, as 245, or the number of an answer."));
    });
    connect(cards_, &QuestionView::answered, this, [this](const QString& text) {
        const auto& question = questions_[card_];
        const auto right = rehearse::isRight(question, text.toStdString());
        if (!right) {
            emit seat_.refused(tr("Write a figure, as 245, or the number of an answer."));
            return;
        }
        emit seat_.refused({});
        ++cardsAsked_;
        cardsRight_ += *right ? 1 : 0;
        lastCard_ = question.key;
        boxes_.answered(question.key, *right, today());
        keepCards(q(seat_.document().aircraft().notes.name), boxes_);
        cards_->tell(question, *right);
    });
    connect(cards_, &QuestionView::goOn, this, &SeatFrame::nextCard);
    connect(cards_, &QuestionView::leaveWanted, this, [this] {
        emit seat_.refused({});
        turnTo(begin_);
    });
    connect(&seat_, &Seat::moved, this, &SeatFrame::refresh);
    connect(&seat_, &Seat::chosen, this, [this] {
        needles_->update();
        trend_->update();
        refreshSlowly();
    });

    const auto key = [this](const QKeySequence& sequence, auto does) {
        auto* shortcut = new QShortcut(sequence, work_, nullptr, nullptr, Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, [this, does] {
            if (seat_.isTaken())
                does();
        });
    };
    key(Qt::Key_Escape, [this] {
        if (hands_->figure()->hasFocus())
            hands_->setFocus();
        else
            seat_.pause(seat_.session().speed() > 0);
    });
    key(Qt::Key_Backspace, [this] { seat_.back(seat_.session().rehearsal().now() - 10'000); });
    const auto faster = [this](int by) {
        const auto& all = rehearse::Session::speeds;
        const auto at = static_cast<int>(std::find(all.begin(), all.end(), seat_.session().speed()) - all.begin());
        seat_.setSpeed(all[static_cast<std::size_t>(std::clamp(at + by, 0, static_cast<int>(all.size()) - 1))]);
    };
    key(Qt::Key_Comma, [faster] { faster(-1); });
    key(Qt::Key_Period, [faster] { faster(1); });
    key(Qt::Key_F8, [this] { seat_.toNextAct(); });
    key(Qt::Key_F4, [this] { offerCall(); });
    key(Qt::Key_F5, [this] { showDebrief(); });
}

QWidget* SeatFrame::workPage() {
    auto* page = new QWidget(body_);
    page->setObjectName(QStringLiteral("seat-work"));
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(20, 6, 20, 2);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setSpacing(8);
    title_ = new QLabel(page);
    title_->setObjectName(QStringLiteral("seat-title"));
    title_->setTextFormat(Qt::PlainText);
    title_->setFont(face(25, true));
    headline_ = new QLabel(page);
    headline_->setObjectName(QStringLiteral("seat-headline"));
    headline_->setTextFormat(Qt::PlainText);
    headline_->setFont(face(14));
    headline_->setForegroundRole(QPalette::PlaceholderText);
    headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headline_->setContentsMargins(4, 0, 0, 4);
    head->addWidget(title_, 0, Qt::AlignBottom);
    head->addWidget(headline_, 1, Qt::AlignBottom);
    const auto button = [&](const char* name, const QString& text, const QString& tip, auto does) {
        auto* made = new QToolButton(page);
        made->setObjectName(QLatin1String(name));
        made->setText(text);
        made->setToolTip(tip);
        made->setAccessibleName(tip);
        made->setFont(face(14));
        made->setFocusPolicy(Qt::TabFocus);
        connect(made, &QToolButton::clicked, this, [this, does] {
            if (seat_.isTaken())
                does();
        });
        return made;
    };
    back_ = button("seat-back", tr("◂ 10 s"), tr("Ten seconds back (Backspace)"),
                   [this] { seat_.back(seat_.session().rehearsal().now() - 10'000); });
    head->addWidget(back_, 0, Qt::AlignBottom);
    speeds_ = new QButtonGroup(this);
    for (const int speed : rehearse::Session::speeds) {
        auto* made = button(
            qPrintable(QStringLiteral("seat-speed-%1").arg(speed)), speed == 0 ? tr("pause") : tr("×%1").arg(speed),
            speed == 0 ? tr("Time stands (Escape)")
                       : tr("%1 times as fast as real time (comma slower, full stop faster)").arg(speed),
            [this, speed] { seat_.setSpeed(speed); });
        made->setCheckable(true);
        speeds_->addButton(made, speed);
        head->addWidget(made, 0, Qt::AlignBottom);
    }
    next_ = button("seat-next", tr("to the next act ▸"), tr("On until something is to be done (F8)"),
                   [this] { seat_.toNextAct(); });
    head->addWidget(next_, 0, Qt::AlignBottom);
    clock_ = new QLabel(page);
    clock_->setObjectName(QStringLiteral("seat-clock"));
    clock_->setFont(face(20, true));
    clock_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    clock_->setMinimumWidth(82);
    head->addWidget(clock_, 0, Qt::AlignBottom);
    column->addLayout(head);

    auto* line = new QHBoxLayout;
    line->setSpacing(8);
    asked_ = rich("seat-asked", page);
    asked_->setFont(face(14));
    asked_->setMinimumHeight(38);
    asked_->setAlignment(Qt::AlignVCenter | Qt::AlignLeft);
    line->addWidget(asked_, 1);
    beginNext_ =
        button("seat-begin-next", QString(), tr("The next phase begins (Ctrl+Page Down)"), [this] { beginNext(); });
    line->addWidget(beginNext_);
    line->addWidget(button("seat-call", tr("Name the fault  F4"), tr("Say what is wrong, by its name (F4)"),
                           [this] { offerCall(); }));
    line->addWidget(
        button("seat-debrief", tr("Debrief  F5"), tr("What it has come to so far (F5)"), [this] { showDebrief(); }));
    column->addLayout(line);

    auto* columns = new QHBoxLayout;
    columns->setSpacing(22);
    auto* left = new QVBoxLayout;
    left->setSpacing(2);
    hands_ = new HandsView(seat_, page);
    left->addWidget(heading(tr("Hands"), page));
    left->addWidget(hands_, 1);
    columns->addLayout(left, 43);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(2);
    needles_ = new NeedlesView(seat_, page);
    trend_ = new TrendView(seat_, page);
    trendTitle_ = new QLabel(page);
    trendTitle_->setFont(face(12));
    trendTitle_->setForegroundRole(QPalette::PlaceholderText);
    trendTitle_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    middle->addWidget(heading(tr("Needles (model)"), page));
    middle->addWidget(needles_, 3);
    middle->addSpacing(4);
    middle->addWidget(trendTitle_);
    middle->addWidget(trend_, 2);
    columns->addLayout(middle, 34);
    auto* right = new QVBoxLayout;
    right->setSpacing(2);
    clocks_ = rich("seat-clocks", page);
    signs_ = rich("seat-signs", page);
    said_ = rich("seat-said", page);
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
    for (auto* label : {clocks_, signs_})
        label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    right->addWidget(heading(tr("Clocks (model)"), page));
    right->addWidget(clocks_);
    right->addSpacing(6);
    right->addWidget(heading(tr("Seen, heard and felt (model)"), page));
    right->addWidget(signs_);
    right->addSpacing(6);
    right->addWidget(heading(tr("Said and done"), page));
    right->addWidget(said_, 1);
    columns->addLayout(right, 23);
    column->addLayout(columns, 1);
    said_->installEventFilter(this);
    return page;
}

/// Only the page that is shown asks for room.
void SeatFrame::turnTo(QWidget* page) {
    if (page == shown_)
        return;
    if (shown_)
        shown_->hide();
    shown_ = page;
    shown_->show();
}

bool SeatFrame::eventFilter(QObject* watched, QEvent* event) {
    if (watched == said_ && event->type() == QEvent::Resize) {
        shownSecond_ = -1;
        if (seat_.isTaken())
            QMetaObject::invokeMethod(this, &SeatFrame::refreshSlowly, Qt::QueuedConnection);
    }
    return QWidget::eventFilter(watched, event);
}

void SeatFrame::open(Phase phase) {
    if (seat_.isTaken()) {
        showHands();
        return;
    }
    QStringList others;
    for (const auto& line : loadLog())
        if (const QString name = q(line.who); !name.isEmpty() && !others.contains(name))
            others << name;
    begin_->setWho(who_.isEmpty() && !others.isEmpty() ? others.last() : who_, others);
    begin_->refresh(phase);
    turnTo(begin_);
}

void SeatFrame::showHands() {
    turnTo(work_);
    shownSecond_ = -1;
    hands_->refresh();
    refresh();
    hands_->setFocus(Qt::OtherFocusReason);
}

void SeatFrame::showDebrief() {
    if (!seat_.isTaken())
        return;
    seat_.pause(true);
    debrief_->refresh();
    turnTo(debrief_);
}

std::vector<rehearse::Practised> SeatFrame::practised() const {
    // Who is led shows what can be read, not what is known; acts of a file are another's.
    if (!seat_.isTaken() || seat_.session().way() == rehearse::Way::led || seat_.session().rehearsal().acts().empty() ||
        !begin_->acts().empty())
        return {};
    auto out =
        rehearse::practised(seat_.session().debriefed(), seat_.notes(),
                            QDate::fromJulianDay(today()).toString(Qt::ISODate).toStdString(), who_.toStdString());
    if (seat_.session().way() == rehearse::Way::challenged) // the order was told
        std::erase_if(out, [](const rehearse::Practised& line) { return phaseFromKey(line.skill).has_value(); });
    return out;
}

void SeatFrame::log() {
    const auto lines = practised();
    if (lines.empty())
        return;
    if (const QString error = keepLog(lines); !error.isEmpty())
        emit seat_.refused(error);
}

/// The weakest first: "Start: 86 % lately, of 4 rehearsals".
QString SeatFrame::skills(const QString& who, const std::vector<rehearse::Practised>& log) const {
    if (!seat_.document().isOpen())
        return {};
    QString out;
    for (const auto& skill : rehearse::skillsOf(log, who.toStdString(), seat_.document().aircraft().notes.name)) {
        QStringList shares;
        constexpr std::size_t shown = 6; // rehearsals
        for (std::size_t i = skill.shares.size() > shown ? skill.shares.size() - shown : 0; i < skill.shares.size();
             ++i)
            shares << QString::number(std::lround(skill.shares[i] * 100.0));
        out += tr("<div>%1: <b>%2 %</b> lately; rehearsal by rehearsal %3</div>")
                   .arg(q(rehearse::titleOfSkill(skill.skill)))
                   .arg(std::lround(skill.lately * 100.0))
                   .arg(shares.join(QStringLiteral(", ")));
    }
    return out;
}

void SeatFrame::openCards() {
    const auto& n = seat_.document().aircraft().notes;
    questions_ = rehearse::questionsOf(n);
    boxes_ = loadCards(q(n.name));
    cardsAsked_ = cardsRight_ = 0;
    lastCard_.clear();
    turnTo(cards_);
    nextCard();
}

void SeatFrame::nextCard() {
    const auto due = boxes_.dueOf(questions_, today());
    const auto next =
        boxes_.next(questions_, today(), static_cast<std::uint64_t>(today()) * 1'000 + cardsAsked_, lastCard_);
    if (!next) {
        cards_->rest(tr("Nothing more is due today. %1 of %2 were right.").arg(cardsRight_).arg(cardsAsked_));
        return;
    }
    card_ = *next;
    cards_->ask(questions_[card_], tr("%1  ·  %2 of %3 right  ·  %4 due today")
                                       .arg(q(seat_.document().aircraft().notes.name))
                                       .arg(cardsRight_)
                                       .arg(cardsAsked_)
                                       .arg(due));
}

/// Who is examined is asked, while time stands.
void SeatFrame::examine() {
    const auto question = seat_.session().question();
    if (!question || shown_ != work_)
        return;
    turnTo(examiner_);
    examiner_->ask(seat_.session().questions()[*question], tr("time stands; nothing is said until the debrief"));
}

void SeatFrame::beginNext() {
    const auto phase = seat_.session().rehearsal().phase();
    if (phase < Phase::stop)
        seat_.begin(static_cast<Phase>(static_cast<int>(phase) + 1));
}

void SeatFrame::offerCall() {
    seat_.pause(true);
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("seat-call-menu"));
    const TypeNotes& n = seat_.notes();
    const bool many = n.engineCount() > 1;
    const auto& hand = seat_.engines();
    const int engine = many && hand.size() == 1 ? static_cast<int>(hand.front()) : -1;
    menu->addAction(many ? (engine >= 0 ? tr("On %1:").arg(q(n.positions[static_cast<std::size_t>(engine)].name))
                                        : tr("On any engine (a number first says which):"))
                         : tr("What is wrong:"))
        ->setEnabled(false);
    for (const auto& pattern : trouble::patternsFor(n))
        if (pattern.fault)
            connect(menu->addAction(q(nameOf(*pattern.fault).title)), &QAction::triggered, this,
                    [this, fault = *pattern.fault, engine] { seat_.call(fault, engine); });
    connect(menu, &QMenu::aboutToHide, this, [this] { seat_.pause(false); });
    menu->popup(mapToGlobal(QPoint(width() / 2, 80)));
}

void SeatFrame::showSpeed() {
    if (auto* button = speeds_->button(seat_.session().speed()))
        button->setChecked(true);
    back_->setEnabled(seat_.session().way() != rehearse::Way::examined);
}

void SeatFrame::refresh() {
    if (!seat_.isTaken())
        return;
    examine();
    const auto& s = seat_.session();
    const auto& r = s.rehearsal();
    const qint64 gone = r.now() / 1000;
    clock_->setText(QStringLiteral("%1:%2:%3")
                        .arg(gone / 3600)
                        .arg(gone / 60 % 60, 2, 10, QLatin1Char('0'))
                        .arg(gone % 60, 2, 10, QLatin1Char('0')));
    hands_->update();
    needles_->update();
    trend_->update();
    showSpeed();
    // Words are read, not watched: some times a second at the most, however fast time runs.
    const bool mayWait = s.speed() > 1 && slowly_.isValid() && slowly_.elapsed() < wordsEvery;
    if (shownActs_ != r.acts().size() || s.speed() == 0 || (!mayWait && r.now() / 1000 != shownSecond_)) {
        refreshSlowly();
        slowly_.start();
    }
}

void SeatFrame::refreshSlowly() {
    if (!seat_.isTaken())
        return;
    const auto& s = seat_.session();
    const auto& r = s.rehearsal();
    const TypeNotes& n = seat_.notes();
    const Colours c(this);
    shownSecond_ = r.now() / 1000;
    shownActs_ = r.acts().size();
    title_->setText(q(titleOf(r.phase())));
    QString air = q(rehearse::nameOf(s.way()));
    if (r.phase() >= Phase::takeOff && r.phase() <= Phase::landing) {
        constexpr double readTo = 3.048; // m a minute: ten feet
        const double rate = std::round(r.state().rate * 60.0 / readTo) * readTo;
        air += tr("  ·  %1  ·  %2  ·  %3%4/min  (model)")
                   .arg(q(format(r.state().height, *n.cockpit.height)), q(format(r.state().ias, *n.cockpit.speed)),
                        rate < 0 ? tr("−") : tr("+"), q(format(std::abs(rate), *n.cockpit.height)));
    }
    headline_->setText(headline_->fontMetrics().elidedText(air, Qt::ElideRight, std::max(60, headline_->width())));
    headline_->setToolTip(air);
    const bool more = r.phase() < Phase::stop;
    beginNext_->setVisible(more);
    if (more)
        beginNext_->setText(tr("%1 begins ▸").arg(q(titleOf(static_cast<Phase>(static_cast<int>(r.phase()) + 1)))));

    next_->setVisible(rehearse::isAccompanied(s.way()));
    asked_->setText(askedWords(s, c, seat_.areTwo()));

    // ---- clocks
    QString clocks = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='2'>");
    for (const auto& clock : s.clocks()) {
        const bool normal = clock.verdict.colour() == watch::Colour::normal;
        clocks +=
            QStringLiteral("<tr><td>%1%2</td><td align='right'%3><b>%4</b></td></tr>")
                .arg(normal ? QString() : html::mark(clock.verdict, c) + QLatin1Char(' '), html::text(clock.what),
                     normal ? QString() : QStringLiteral(" style='color:%1'").arg(c.of(clock.verdict.colour()).name()),
                     html::text(clock.value));
    }
    clocks_->setText(clocks + QStringLiteral("</table>"));
    QStringList signs;
    for (const auto& sign : s.signs())
        signs << html::text(sign);
    signs_->setText(signs.isEmpty() ? tr("nothing out of the way") : signs.join(QStringLiteral("<br>")));

    // ---- said and done, the latest first, as many as there is room for
    const auto said = s.saidAndDone();
    QString lines;
    const int room = std::max(3, said_->height() / (QFontMetrics(said_->font()).height() + 1));
    int used = 0;
    for (std::size_t i = said.size(); i-- > 0 && used < room && said.size() - i <= mostLines;) {
        const QString when = q(formatMinutesSeconds(static_cast<double>(said[i].at) / 1000.0));
        const QString text = html::text(said[i].text);
        used += 1 + QFontMetrics(said_->font()).horizontalAdvance(when + QStringLiteral("   ") + q(said[i].text)) /
                        std::max(80, said_->width() - 8);
        if (used > room)
            break;
        lines +=
            QStringLiteral("<div><span style='color:%1'>%2</span>&nbsp; %3</div>")
                .arg(c.faint.name(), when,
                     said[i].colour == watch::Colour::normal
                         ? text
                         : QStringLiteral("<span style='color:%1'>%2</span>").arg(c.of(said[i].colour).name(), text));
    }
    said_->setText(lines);
    trendTitle_->setText(
        trendTitle_->fontMetrics().elidedText(trend_->title(), Qt::ElideRight, std::max(80, trendTitle_->width())));
}

} // namespace amber::app
