// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/session.h"
#include "store/sortie_document.h"
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <array>
#include <memory>

namespace amber::app {

/// Where somebody sits and rehearses: the session that goes on, its clock on the window's thread, which engines the
/// hand is on, which control and which needle. What is on screen follows moved().
class Seat : public QObject {
    Q_OBJECT
public:
    explicit Seat(SortieDocument& document, QObject* parent = nullptr);

    [[nodiscard]] bool isTaken() const { return session_ != nullptr; }
    /// Sits down: the plan as it now stands is frozen. The document must be open.
    /// @param acts of a file, that are done at their moments @param two at the keyboard: the first has what the first
    /// of the crew works, the second the rest
    void sit(rehearse::Setup setup, rehearse::Way way, std::vector<rehearse::Act> acts = {}, bool two = false);
    void leave();
    [[nodiscard]] rehearse::Session& session() { return *session_; }
    [[nodiscard]] std::shared_ptr<const rehearse::Session> sharedSession() const { return session_; }
    [[nodiscard]] const rehearse::Session& session() const { return *session_; }
    [[nodiscard]] const TypeNotes& notes() const { return session_->aircraft().notes; }
    [[nodiscard]] SortieDocument& document() { return document_; }

    // ---- time
    void setSpeed(int times);
    void pause(bool still) { setSpeed(still ? 0 : before_); }
    /// So much real time has gone: the window's clock calls it, and tests.
    void live(double realSeconds);
    void back(rehearse::Milliseconds to);
    void undo();
    /// On until something is to be done. It can be cancelled while it goes on.
    void toNextAct();
    /// While it goes on to the next act nobody may leave or sit down.
    [[nodiscard]] bool isBusy() const { return busy_; }

    // ---- hands
    [[nodiscard]] bool areTwo() const { return two_; }
    /// Whose key, or whose control under the mouse, it is that comes: 0, or 1 of two. What follows is that one's.
    void take(std::size_t pair) { pair_ = two_ ? pair : 0; }
    [[nodiscard]] std::size_t pair() const { return pair_; }
    /// Whose a control is.
    [[nodiscard]] std::size_t pairOf(std::size_t control) const;
    /// Where each has the hand.
    [[nodiscard]] std::size_t controlOf(std::size_t pair) const { return pairs_.at(pair).control; }
    [[nodiscard]] const std::vector<std::size_t>& enginesOf(std::size_t pair) const { return pairs_.at(pair).engines; }
    [[nodiscard]] const std::vector<std::size_t>& engines() const { return pairs_.at(pair_).engines; }
    void chooseEngines(std::vector<std::size_t> engines);
    [[nodiscard]] std::size_t control() const { return pairs_.at(pair_).control; }
    void chooseControl(std::size_t control);
    /// The control that is asked for, of the engines that want it. @return whether one is
    bool chooseAsked();
    void put(const rehearse::Act& act);
    void putEach(const std::vector<rehearse::Act>& acts); ///< an act an engine
    /// The planned mark, for who is led; for who is challenged, the item answered with how it stands.
    void putAsPlanned();
    void answerItem();
    void begin(Phase phase);
    void call(powerplant::Fault fault, int engine);

    [[nodiscard]] Gauge gauge() const { return gauge_; }
    void chooseGauge(Gauge gauge);

signals:
    void seated();         ///< sat down, or left
    void moved();          ///< time has gone on, or something was done
    void chosen();         ///< another control, engine or needle
    void refused(QString); ///< why something cannot be done; empty: mended

private:
    void changed();
    SortieDocument& document_;
    std::shared_ptr<rehearse::Session> session_; ///< shared with what is flown again in the background
    /// What the careful hand has shown of a sortie, for whoever sits down to it again.
    std::shared_ptr<const hand::HandRun> shown_;
    std::shared_ptr<const powerplant::Aircraft> shownOf_;
    Sortie shownFor_;
    QTimer tick_;
    QElapsedTimer since_;
    int before_ = 1; ///< speed before it stood
    bool busy_ = false;
    struct Pair {
        std::vector<std::size_t> engines;
        std::size_t control = 0;
    };
    std::array<Pair, 2> pairs_;
    std::size_t pair_ = 0;
    bool two_ = false;
    Gauge gauge_ = Gauge::rpm;
};

} // namespace amber::app
