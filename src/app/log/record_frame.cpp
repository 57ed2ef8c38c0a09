// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/record_frame.h"
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "record/log_text.h"
#include "units/text.h"
#include <QDateTime>
#include <QHBoxLayout>
#include <QPushButton>
#include <QRegularExpression>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::app {
namespace {
constexpr std::size_t shownLines = 40, mostClocks = 7, leastClocks = 3;
/// What the plan has as times and nobody presses a clock for.
constexpr std::array<std::string_view, 4> notTimed{"endurance", "time-down", "all-running", "walk-round"};

QString clockOf(std::int64_t at) {
    return q(record::timeText(at).substr(11, 5));
}
QString dayOf(std::int64_t at) {
    return q(record::timeText(at).substr(0, 16));
}
} // namespace

RecordFrame::RecordFrame(Book& book, QWidget* parent) : QWidget(parent), book_(book) {
    setObjectName(QStringLiteral("record"));
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(20, 8, 20, 8);
    page->setSpacing(6);

    auto* head = new QHBoxLayout;
    head->setSpacing(14);
    title_ = new QLabel(this);
    title_->setObjectName(QStringLiteral("record-title"));
    title_->setFont(face(25, true));
    head->addWidget(title_, 0, Qt::AlignBottom);
    headline_ = new QLabel(this);
    headline_->setObjectName(QStringLiteral("record-headline"));
    headline_->setFont(face(14));
    headline_->setContentsMargins(0, 0, 0, 4);
    headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headline_->setForegroundRole(QPalette::PlaceholderText);
    head->addWidget(headline_, 1, Qt::AlignBottom);
    runs_ = new QComboBox(this);
    runs_->setObjectName(QStringLiteral("record-run"));
    runs_->setToolTip(tr("The run that is written in: a new one, or one of this airframe's earlier ones"));
    runs_->setMinimumWidth(170);
    head->addWidget(captioned(tr("Run"), runs_, this), 0, Qt::AlignBottom);
    flown_ = typedLine(*head, "record-flown", tr("Flown, UTC"), tr("now"), this);
    flown_->setToolTip(
        tr("When a run began that is typed in afterwards: 2026-11-29 14:05. Its times are kept as rough"));
    flown_->setFixedWidth(150);
    who_ = typedLine(*head, "record-who", tr("By"), tr("who reads"), this);
    who_->setFixedWidth(110);
    page->addLayout(head);

    auto* columns = new QHBoxLayout;
    columns->setSpacing(26);
    auto* left = new QVBoxLayout;
    left->setSpacing(5);
    left->addWidget(heading(tr("Read, beside what the plan expects"), this));
    model_ = new ReadModel(book_, this);
    table_ = new ReadTable(this);
    left->addWidget(table_, 3);
    sentence_ = new RichLabel(this);
    sentence_->setObjectName(QStringLiteral("record-sentence"));
    sentence_->setFont(face(14));
    left->addWidget(sentence_);
    auto* lines = new QHBoxLayout;
    lines->setSpacing(14);
    quick_ = typedLine(*lines, "record-quick", tr("&Whole scan"), QString(), this);
    quick_->setToolTip(
        tr("Line after line. One figure is every engine's, 182/201 one each; a full stop: looked, in its "
           "band; a dash: not read. Return keeps them all"));
    words_ = typedLine(*lines, "record-words", tr("De&fect or note, of the chosen engine"),
                       tr("a defect; “note …”, “work …”, “trial …”"), this);
    words_->setToolTip(
        tr("A defect in words. Begin with “note” for a note; “work” and the name of what was due, when it was "
           "done; “overhaul”, with which an engine begins anew; “trial intakes: blanked” for a way that "
           "is tried"));
    lines->setStretch(0, 1);
    lines->setStretch(1, 1);
    left->addLayout(lines);
    seasonTitle_ = new QLabel(this);
    seasonTitle_->setObjectName(QStringLiteral("season-title"));
    seasonTitle_->setTextFormat(Qt::PlainText);
    seasonTitle_->setFont(face(13));
    seasonTitle_->setForegroundRole(QPalette::PlaceholderText);
    seasonTitle_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    left->addWidget(seasonTitle_);
    season_ = new SeasonView(this);
    left->addWidget(season_, 2);
    writeUp_ = new WriteUpView(book_, this);
    writeUp_->setVisible(false);
    left->addWidget(writeUp_, 8);
    connect(writeUp_, &WriteUpView::sheetWanted, this, &RecordFrame::sheetWanted);
    connect(writeUp_, &WriteUpView::refused, this, &RecordFrame::refused);
    columns->addLayout(left, 1);

    right_ = new QWidget(this);
    auto* right = new QVBoxLayout(right_);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(5);
    clocksHeading_ = heading(tr("Stop clocks"), right_);
    right->addWidget(clocksHeading_);
    clocks_ = new StopClocks(right_);
    clocks_->now = [this] { return book_.now(); };
    right->addWidget(clocks_);
    right->addSpacing(6);
    right->addWidget(heading(tr("Kept in this run, UTC"), right_));
    saved_ = new QLabel(right_);
    saved_->setObjectName(QStringLiteral("record-saved"));
    saved_->setFont(face(13, true));
    saved_->setWordWrap(true);
    right->addWidget(saved_);
    hangar_ = new QLabel(right_);
    hangar_->setObjectName(QStringLiteral("record-hangar"));
    hangar_->setFont(face(13));
    hangar_->setWordWrap(true);
    hangar_->setForegroundRole(QPalette::PlaceholderText);
    hangar_->setVisible(false);
    right->addWidget(hangar_);
    auto* scroll = new QScrollArea(right_);
    scroll->setObjectName(QStringLiteral("record-so-far-scroll"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->viewport()->setAutoFillBackground(false);
    soFar_ = new RichLabel(scroll);
    soFar_->setObjectName(QStringLiteral("record-so-far"));
    soFar_->setFont(face(13));
    soFar_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    soFar_->setAutoFillBackground(false);
    scroll->setWidget(soFar_);
    right->addWidget(scroll, 1);
    auto* all = new QHBoxLayout;
    all->setSpacing(4);
    const auto asked = [&](const char* name, const QString& text, const QString& tip, auto signal) {
        auto* button = new QPushButton(text, right_);
        button->setObjectName(QLatin1String(name));
        button->setFont(face(13));
        button->setToolTip(tip);
        button->setMinimumWidth(0);
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        all->addWidget(button, 1);
        connect(button, &QPushButton::clicked, this, signal);
    };
    right->addWidget(heading(tr("All runs of this airframe"), right_));
    asked("record-learnt", tr("Learnt"), tr("What the log has taught of it: accepted, the plan uses it (Ctrl+Shift+L)"),
          &RecordFrame::learntWanted);
    asked("record-hours", tr("Hours"), tr("Since new and overhaul, starts, oil, and what is due (Ctrl+Shift+H)"),
          &RecordFrame::hoursWanted);
    asked("record-trials", tr("Trials"), tr("Two ways of doing a thing, compared over the runs (Ctrl+Shift+T)"),
          &RecordFrame::trialsWanted);
    right->addLayout(all);
    // It takes the height there is: the readings beside it say how low the window may be.
    right_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
    columns->addWidget(right_);
    page->addLayout(columns, 1);

    table_->setReadModel(model_);
    connect(model_, &ReadModel::refused, this, &RecordFrame::refused);
    connect(table_, &ReadTable::looked, this, [this](const QModelIndex& index) {
        if (const auto where = model_->place(index))
            book_.keepLooked(*where);
    });
    connect(table_, &ReadTable::clockPressed, this, [this](const QModelIndex& index) {
        if (const auto where = model_->place(index))
            clocks_->press(*where);
    });
    connect(clocks_, &StopClocks::stopped, this, [this](const Book::Place& where, double seconds) {
        book_.keepTyped(where, {record::Entry::Kind::figure, std::round(seconds * 10.0) / 10.0, {}});
    });
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this] {
        offerClocks();
        showSentence();
    });
    connect(quick_, &QLineEdit::returnPressed, this, &RecordFrame::takeQuick);
    connect(words_, &QLineEdit::returnPressed, this, &RecordFrame::takeWords);
    connect(flown_, &QLineEdit::editingFinished, this, &RecordFrame::takeFlown);
    connect(who_, &QLineEdit::textChanged, this, [this](const QString& text) { book_.setWho(text); });
    connect(runs_, &QComboBox::activated, this, &RecordFrame::chooseRun);
    connect(&book_, &Book::changed, this, &RecordFrame::refresh);
    connect(&book_, &Book::kept, this, [this](const QString& when) {
        saved_->setForegroundRole(QPalette::WindowText);
        tellSaved(tr("Saved %1 UTC").arg(when));
        emit refused({});
    });
    connect(&book_, &Book::failed, this, [this](const QString& why) {
        tellSaved(tr("Not saved"));
        emit refused(why);
    });
}

void RecordFrame::tellSaved(const QString& text) {
    saved_->setText(text);
    saved_->setVisible(!text.isEmpty());
}

void RecordFrame::showHangar(const QString& state) {
    hangar_->setText(state);
    hangar_->setVisible(!state.isEmpty());
}

QString RecordFrame::open(Phase phase) {
    const QString why = book_.open();
    tellSaved({});
    show(phase);
    if (why.isEmpty()) {
        for (const auto& line : book_.told())
            emit refused(line);
        book_.wasTold();
    }
    return why;
}

void RecordFrame::show(Phase phase) {
    phase_ = phase;
    title_->setText(q(titleOf(phase)));
    model_->show(phase);
    quick_->setPlaceholderText([this] {
        QStringList names;
        for (const auto& line : model_->lines())
            names << q(line.title).toLower();
        return names.join(QStringLiteral(" · "));
    }());
    makeRoom();
    refresh();
    table_->setFocus(Qt::OtherFocusReason);
}

void RecordFrame::follow() {
    if (const QString why = book_.open(); !why.isEmpty())
        emit refused(why);
    refresh();
}

void RecordFrame::refresh() {
    if (!isVisibleTo(parentWidget()) && !book_.isOpen())
        return;
    // Another run may have another plan.
    const auto lines = book_.lines(phase_);
    const auto same = [](const record::ReadLine& a, const record::ReadLine& b) {
        return a.what == b.what && a.planned == b.planned && a.each == b.each;
    };
    if (std::equal(lines.begin(), lines.end(), model_->lines().begin(), model_->lines().end(), same) &&
        book_.notes().engineCount() == model_->engines())
        model_->refresh();
    else
        model_->show(phase_);
    showRuns();
    offerClocks();
    showSentence();
    showSoFar();
    if (phase_ == Phase::writeUp)
        writeUp_->refresh();
}

void RecordFrame::showRuns() {
    const QSignalBlocker quiet(runs_);
    runs_->clear();
    runIds_.clear();
    runs_->addItem(tr("a new run"));
    runIds_.emplace_back();
    int current = 0;
    for (const auto& r : book_.runs()) {
        if (book_.run() && r.id == book_.run()->id)
            current = runs_->count();
        runs_->addItem(dayOf(r.began));
        runs_->setItemData(runs_->count() - 1, q(r.title), Qt::ToolTipRole);
        runIds_.push_back(r.id);
    }
    runs_->setCurrentIndex(current);
    flown_->setEnabled(!book_.run());
    if (!flown_->hasFocus())
        flown_->setText(book_.run() ? dayOf(book_.run()->began) : book_.flown() ? dayOf(*book_.flown()) : QString());
    headline_->setText(
        tr("%1%2").arg(q(book_.airframe()), !book_.hasItsPlan()    ? tr("  ·  of that day no plan was kept")
                                            : book_.isAfterwards() ? tr("  ·  typed afterwards, times rough")
                                            : book_.run()          ? tr("  ·  the run goes on")
                                                          : tr("  ·  the run begins with the first reading")));
}

std::string RecordFrame::chosenEngine() const {
    const auto where = model_->place(table_->currentIndex());
    return where ? where->engine : std::string();
}

void RecordFrame::offerClocks() {
    std::vector<StopClocks::Clock> clocks;
    constexpr int others = 236, each = 31; // px
    const auto most = static_cast<std::size_t>(
        std::clamp((height() - others) / each, static_cast<int>(leastClocks), static_cast<int>(mostClocks)));
    const auto index = table_->currentIndex();
    const auto& n = book_.notes();
    const auto engine = static_cast<std::size_t>(
        std::clamp(index.column() - ReadModel::firstEngine, 0, static_cast<int>(n.engineCount()) - 1));
    for (const auto& line : model_->lines()) {
        const auto* row = record::whatOf(line.what);
        if (row && !row->gauge && record::unitOf(*row) == units::second.spec)
            clocks.push_back(
                {{phase_, line.what, n.positions.at(engine).id},
                 n.engineCount() > 1 ? tr("%1, %2").arg(q(line.title), q(n.positions.at(engine).name)) : q(line.title),
                 line.planned,
                 true});
    }
    if (static_cast<std::size_t>(phase_) < plannedPhases)
        for (const auto& clock : book_.plan()[phase_].clocks)
            if (clock.fact.dimension == Dimension::duration && clock.fact.value > 0.0 && clocks.size() < most &&
                std::find(notTimed.begin(), notTimed.end(), clock.fact.id) == notTimed.end())
                clocks.push_back({{phase_, "plan:" + clock.what, {}}, q(clock.what), clock.fact.value, false});
    clocksHeading_->setVisible(!clocks.empty());
    clocks_->offer(std::move(clocks));
}

void RecordFrame::showSentence() {
    const auto index = table_->currentIndex();
    const auto where = model_->place(index);
    const auto* line = model_->line(index.row());
    if (!where || !line) {
        sentence_->setText(tr("Nothing is read in this phase but words."));
        season_->show({}, {}, nullptr);
        seasonTitle_->clear();
        return;
    }
    const Colours c(this);
    QStringList said;
    const auto* stands = book_.at(*where);
    if (const auto verdict = model_->verdict(index)) {
        said << QStringLiteral("%1 %2").arg(html::mark(*verdict, c), html::text(verdict->sentence()));
    } else if (!stands) {
        said << tr("Return: next. Space: looked, in its band. Delete: not read. %1Each figure is on disk as you leave "
                   "it.")
                    .arg(line->unit == units::second.spec && !line->gauge ? tr("S: stop clock. ") : QString());
    }
    QString engine;
    for (const auto& p : book_.notes().positions)
        if (p.id == where->engine && book_.notes().engineCount() > 1)
            engine = q(p.name);
    const auto series = book_.series(*where);
    const auto trend = record::trendOf(series.points);
    if (trend.tells())
        said << QStringLiteral("<b>%1</b> %2")
                    .arg(html::text(record::trendText(series, trend, engine.toStdString(), &book_.notes())),
                         series.againstPlan
                             ? tr("Against the plan (model): a hint where to look, for an engineer to judge.")
                             : tr("A hint where to look, for an engineer to judge."));
    if (stands && stands->planned && !line->unit)
        said << tr("The plan of the day: %1.")
                    .arg(q(
                        record::figureText(line->what, *stands->planned, record::unitIn(line->what, &book_.notes()))));
    sentence_->setText(said.join(QStringLiteral("<br>")));
    const QString unit = line->unit ? QStringLiteral(", ") + QString::fromUtf8(line->unit->symbol) : QString();
    if (!engine.isEmpty())
        engine += QStringLiteral(", ");
    seasonTitle_->setText(series.againstPlan || (series.points.empty() && line->planned)
                              ? tr("%1%2, run by run, off the plan of each day%3; the last one in amber")
                                    .arg(engine, q(line->title), unit)
                              : tr("%1%2, run by run%3; the last one in amber").arg(engine, q(line->title), unit));
    season_->show(series, trend, line->unit);
}

void RecordFrame::showSoFar() {
    const Colours c(this);
    const auto& n = book_.notes();
    // One scan of a needle is one line, all engines in it; the latest first.
    struct Line {
        const record::Entry* first;
        QStringList figures;
    };
    std::vector<Line> lines;
    const auto all = book_.soFar();
    for (auto it = all.rbegin(); it != all.rend(); ++it) {
        const auto& e = **it;
        QString figure;
        if (e.kind == record::Entry::Kind::figure) {
            figure =
                html::text(e.words.empty() ? record::figureText(e.what, e.value, record::unitIn(e.what, &n)) : e.words);
        } else {
            figure = e.kind != record::Entry::Kind::looked ? html::text(e.words)
                     : e.what.starts_with(record::ofWalk)  ? html::text(watch::saidOf(watch::inOrder))
                                                           : tr("in its band");
        }
        if (const auto* said = book_.judged(e); said && said->verdict.colour() != watch::Colour::normal)
            figure = html::mark(said->verdict, c) + QLatin1Char(' ') + figure;
        if (const auto engine = record::engineName(n, e.engine); !engine.empty())
            figure = record::isAnswer(e.what) ? tr("%1 (%2)").arg(figure, html::text(engine))
                                              : html::text(engine) + QLatin1Char(' ') + figure;
        const auto same = [&](const Line& l) {
            return !record::takesWords(e.what) && l.first->what == e.what && l.first->phase == e.phase &&
                   std::abs(l.first->at - e.at) < 60'000;
        };
        if (const auto with = std::find_if(lines.begin(), lines.end(), same); with != lines.end())
            with->figures.prepend(figure);
        else if (lines.size() < shownLines)
            lines.push_back({&e, {figure}});
    }
    QStringList shown;
    for (const auto& l : lines) {
        shown << QStringLiteral("<span style='color:%1'>%2%3</span> %4 %5")
                     .arg(c.faint.name(), l.first->rough ? tr("about ") : QString(), clockOf(l.first->at),
                          titled(*l.first), l.figures.join(QStringLiteral(", ")));
    }
    soFar_->setText(shown.isEmpty() ? tr("Nothing yet.") : shown.join(QStringLiteral("<br>")));
}

QString RecordFrame::titled(const record::Entry& e) const {
    if (e.what == "defect")
        return QStringLiteral("<b>%1</b>").arg(tr("Defect:"));
    return html::text(record::titleOf(e.what, book_.notes())) + QLatin1Char(':');
}

void RecordFrame::takeQuick() {
    if (quick_->text().trimmed().isEmpty())
        return;
    const auto scan = record::readQuickLine(model_->lines(), model_->engines(), quick_->text().toStdString());
    if (!scan) {
        emit refused(q(scan.error()));
        return;
    }
    if (!book_.keepScan(phase_, model_->lines(), scan.value()).isEmpty())
        return;
    quick_->clear();
    table_->setFocus(Qt::OtherFocusReason); // where Ctrl+Z takes the scan back
}

void RecordFrame::takeWords() {
    QString text = words_->text().trimmed();
    if (text.isEmpty())
        return;
    std::string what = "defect";
    for (const auto& [key, word] : {std::pair("note", tr("note")), std::pair("overhaul", tr("overhaul")),
                                    std::pair("work", tr("work")), std::pair("trial", tr("trial"))})
        // The word itself: a clip that worked loose is a defect.
        if (text.startsWith(word, Qt::CaseInsensitive) &&
            (text.size() == word.size() || !text.at(word.size()).isLetter())) {
            what = key;
            text = text.mid(word.size()).remove(QRegularExpression(QStringLiteral("^[\\s:,.]+")));
            break;
        }
    if (text.isEmpty())
        return;
    // Words that begin with an engine's name are of that engine, whichever cell is chosen.
    std::string engine = chosenEngine();
    for (const auto& position : book_.notes().positions)
        for (const auto& name : {q(position.name), q(position.id)})
            if (text.startsWith(name, Qt::CaseInsensitive) &&
                (text.size() == name.size() || !text.at(name.size()).isLetterOrNumber()))
                engine = position.id;
    if (!book_.keepWords({phase_, what, engine}, text).isEmpty())
        return;
    words_->clear();
    table_->setFocus(Qt::OtherFocusReason);
}

void RecordFrame::takeFlown() {
    if (book_.run())
        return;
    const QString text = flown_->text().trimmed();
    if (text.isEmpty() || text == tr("now")) {
        book_.setFlown(std::nullopt);
        return;
    }
    const auto when = record::timeFrom(text.toStdString());
    if (!when || *when > book_.now()) {
        emit refused(when ? tr("Flown: %1 has not come yet.").arg(text)
                          : tr("Flown: write the time as 2026-11-29 14:05, UTC; empty: now."));
        return;
    }
    emit refused({});
    if (book_.flown() != when)
        book_.setFlown(when);
}

void RecordFrame::chooseRun(int index) {
    const auto& id = runIds_.at(static_cast<std::size_t>(index));
    tellSaved({});
    if (id.empty())
        book_.anew();
    else if (const QString why = book_.choose(id); !why.isEmpty())
        emit refused(why);
    table_->setFocus(Qt::OtherFocusReason);
}

std::vector<Score::Reading> RecordFrame::dots(const plan::Plan& drawn) const {
    std::vector<Score::Reading> out;
    if (!book_.run())
        return out;
    const auto& n = book_.notes();
    for (const auto* e : book_.soFar()) {
        const auto* row = record::whatOf(e->what);
        if (e->kind != record::Entry::Kind::figure || !row || !row->gauge || !n.gauges.contains(*row->gauge) ||
            static_cast<std::size_t>(e->phase) >= plannedPhases)
            continue;
        // A phase is compared within itself: time is never stretched.
        const auto& p = drawn[e->phase];
        const double since = static_cast<double>(e->at - book_.run()->began) / 1000.0;
        const auto* said = book_.judged(*e);
        out.push_back({std::clamp(since, p.start, p.start + p.duration), e->phase, *row->gauge, e->value,
                       said ? said->verdict.colour() : watch::Colour::normal});
    }
    return out;
}

double RecordFrame::recorded(const plan::Plan& drawn, std::vector<rehearse::Kept>& out) const {
    const auto& t = book_.trace();
    if (!book_.run() || t.empty())
        return 0.0;
    constexpr std::size_t shown = 4000; // moments: more than a screen has pixels
    const auto phases = record::phasesOf(t, book_.anchors(), book_.notes());
    const std::size_t each = std::max<std::size_t>(1, t.at.size() / shown);
    for (std::size_t i = 0; i < t.at.size(); i += each) {
        rehearse::Kept k;
        k.at = t.at[i] - t.at.front();
        k.phase = phases[i];
        for (const auto& engine : t.engines)
            k.engines.push_back(engine[i]);
        out.push_back(std::move(k));
    }
    const auto at = book_.anchors().takeOffPower;
    return at ? drawn[Phase::takeOff].start - static_cast<double>(*at - t.at.front()) / 1000.0
              : static_cast<double>(t.at.front() - book_.run()->began) / 1000.0;
}

std::vector<Score::Moment> RecordFrame::moments(double began) const {
    std::vector<Score::Moment> out;
    const auto& t = book_.trace();
    if (!book_.run() || t.empty())
        return out;
    for (const auto& a : record::listed(book_.anchors(), book_.notes())) {
        QString name = q(a.row->name());
        if (const auto engine = record::engineName(book_.notes(), a.engine); !engine.empty())
            name += QStringLiteral(", ") + q(engine);
        out.push_back({name, began + static_cast<double>(a.at - t.at.front()) / 1000.0, book_.written(a) != nullptr});
    }
    return out;
}

void RecordFrame::putMoment(std::size_t which, double time, double began) {
    auto all = record::listed(book_.anchors(), book_.notes());
    const auto& t = book_.trace();
    if (which >= all.size() || t.empty())
        return;
    all[which].at = std::clamp(t.at.front() + static_cast<std::int64_t>(std::llround(time - began)) * 1000,
                               t.at.front(), t.at.back());
    book_.putMoment(all[which]);
}

void RecordFrame::forgetMoment(std::size_t which) {
    const auto all = record::listed(book_.anchors(), book_.notes());
    if (which < all.size())
        book_.forgetMoment(all[which]);
}

void RecordFrame::undo() {
    book_.undo();
}

void RecordFrame::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    makeRoom();
}

void RecordFrame::makeRoom() {
    right_->setFixedWidth(std::clamp(width() * 24 / 100, 190, 380));
    // The readings come first: a low window has no room for the season under many of them.
    constexpr int others = 300, line = 22; // px
    const bool room = height() >= others + line * model_->rowCount();
    const bool writes = phase_ == Phase::writeUp;
    season_->setVisible(room && !writes);
    seasonTitle_->setVisible(room && !writes);
    table_->setLeastRows(writes ? 2 : 4); // beside what an engineer should know of, which comes first there
    // What goes first, then what comes: shown together they would ask for more height than the window has.
    QWidget *comes = sentence_, *goes = writeUp_;
    if (writes)
        std::swap(comes, goes);
    goes->setVisible(false);
    comes->setVisible(true);
    if (book_.isOpen())
        offerClocks();
}

void RecordFrame::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange && book_.isOpen())
        refresh();
}

} // namespace amber::app
