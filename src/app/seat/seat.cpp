// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/seat.h"
#include "cockpit/controls.h"
#include "kit/words.h"
#include "units/text.h"
#include <QApplication>
#include <QProgressDialog>
#include <numeric>

namespace amber::app {
namespace {
constexpr int frame = 16; // ms
}

Seat::Seat(SortieDocument& document, QObject* parent) : QObject(parent), document_(document) {
    tick_.setInterval(frame);
    tick_.setTimerType(Qt::PreciseTimer);
    connect(&tick_, &QTimer::timeout, this, [this] { live(static_cast<double>(since_.restart()) / 1000.0); });
}

void Seat::sit(rehearse::Setup setup, rehearse::Way way, std::vector<rehearse::Act> acts, bool two) {
    // A careful hand shows the way, and comes to a later beginning: a second or two for four engines.
    QApplication::setOverrideCursor(Qt::WaitCursor);
    const auto aircraft = document_.sharedAircraft();
    const bool again = shownOf_ == aircraft && shownFor_ == document_.sortie();
    session_ = std::make_shared<rehearse::Session>(aircraft, document_.sortie(), document_.plan().flown,
                                                   std::move(setup), way, again ? shown_ : nullptr);
    QApplication::restoreOverrideCursor();
    shownOf_ = aircraft;
    shownFor_ = document_.sortie();
    shown_ = session_->reference();
    session_->play(std::move(acts));
    two_ = two;
    pair_ = 0;
    for (std::size_t pair = 0; pair < pairs_.size(); ++pair) {
        auto& p = pairs_.at(pair);
        p.engines.resize(notes().engineCount());
        std::iota(p.engines.begin(), p.engines.end(), std::size_t{0});
        p.control = 0;
        while (p.control + 1 < notes().controls.size() && pairOf(p.control) != pair)
            ++p.control;
    }
    gauge_ = notes().gauges.contains(Gauge::boost) ? Gauge::boost : Gauge::rpm;
    before_ = 1;
    chooseAsked();
    setSpeed(1);
    emit seated();
    changed();
}

void Seat::leave() {
    tick_.stop();
    if (!session_)
        return;
    session_.reset();
    emit seated();
}

void Seat::setSpeed(int times) {
    if (!session_)
        return;
    if (times > 0)
        before_ = times;
    session_->setSpeed(times);
    if (times > 0) {
        since_.start();
        tick_.start();
    } else {
        tick_.stop();
    }
    emit moved();
}

void Seat::live(double realSeconds) {
    if (session_ && session_->live(realSeconds))
        emit moved();
}

void Seat::back(rehearse::Milliseconds to) {
    if (session_->back(to))
        changed();
    else
        emit refused(tr("A check cannot take time back."));
}

void Seat::undo() {
    if (session_->undo())
        changed();
    else
        emit refused(session_->way() == rehearse::Way::examined ? tr("A check cannot take time back.")
                                                                : tr("Nothing has been done yet."));
}

void Seat::toNextAct() {
    if (busy_)
        return;
    if (!rehearse::isAccompanied(session_->way())) {
        emit refused(tr(
            "To the next act: only guided, or in challenge and response, for it tells when something is due. The full "
            "stop runs time faster."));
        return;
    }
    if (!session_->guide().next()) {
        emit refused(tr("The drill is over."));
        return;
    }
    QProgressDialog progress(tr("On to the next act…"), tr("Cancel"), 0, 0, QApplication::activeWindow());
    progress.setWindowModality(Qt::ApplicationModal);
    progress.setMinimumDuration(500);
    const bool ticked = tick_.isActive();
    tick_.stop();
    busy_ = true;
    const bool came = session_->toNextAct([&] {
        progress.setLabelText(
            tr("On to the next act: %1")
                .arg(q(formatMinutesSeconds(static_cast<double>(session_->rehearsal().now()) / 1000.0))));
        // Until its dialogue stands between, what is typed and clicked waits: it would act on what is moving.
        QApplication::processEvents(progress.isVisible() ? QEventLoop::AllEvents : QEventLoop::ExcludeUserInputEvents);
        return !progress.wasCanceled();
    });
    busy_ = false;
    since_.start();
    if (ticked)
        tick_.start();
    changed();
    if (const auto& why = session_->guide().willNotCome(); !came && !why.empty())
        emit refused(q(why));
}

void Seat::chooseEngines(std::vector<std::size_t> engines) {
    if (engines.empty())
        return;
    pairs_.at(pair_).engines = std::move(engines);
    emit chosen();
}

std::size_t Seat::pairOf(std::size_t control) const {
    const auto& crew = notes().crew;
    return two_ && !crew.empty() && cockpit::worker(notes().controls[control], crew) != crew.front() ? 1 : 0;
}

void Seat::chooseControl(std::size_t control) {
    pairs_.at(pair_).control = control;
    emit chosen();
}

bool Seat::chooseAsked() {
    const auto wanting = session_->guide().wanting(session_->rehearsal());
    if (session_->way() != rehearse::Way::led || wanting.empty())
        return false;
    take(pairOf(wanting.front().control));
    auto& hand = pairs_.at(pair_);
    hand.control = wanting.front().control;
    hand.engines.clear();
    for (const auto& put : wanting)
        if (put.control == hand.control)
            hand.engines.push_back(put.engine);
    emit chosen();
    return true;
}

void Seat::put(const rehearse::Act& act) {
    session_->put(act, engines());
    changed();
}

void Seat::putEach(const std::vector<rehearse::Act>& acts) {
    for (const auto& act : acts)
        session_->put(act, {static_cast<std::size_t>(act.engine)});
    changed();
}

void Seat::putAsPlanned() {
    if (session_->way() == rehearse::Way::challenged)
        answerItem();
    else if (session_->way() != rehearse::Way::led)
        emit refused(tr("The drill's mark is told only in guided practice."));
    else if (session_->putAsPlanned(control(), engines()))
        changed();
    else
        emit refused(tr("The drill has not put this control anywhere yet."));
}

void Seat::answerItem() {
    if (!session_->guide().challenges()) {
        emit refused(tr("No item is read just now."));
        return;
    }
    const auto& ask = *session_->guide().next();
    if (two_ && pairOf(ask.puts.front().control) != pair_) {
        emit refused(tr("The %1 answers for this.").arg(q(rehearse::answers(ask, notes()))));
        return;
    }
    session_->answerItem();
    changed();
}

void Seat::begin(Phase phase) {
    session_->begin(phase);
    changed();
}

void Seat::call(powerplant::Fault fault, int engine) {
    session_->call(fault, engine);
    changed();
}

void Seat::chooseGauge(Gauge gauge) {
    gauge_ = gauge;
    emit chosen();
}

void Seat::changed() {
    emit refused({});
    emit moved();
}

} // namespace amber::app
