// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/session.h"
#include "store/sortie_document.h"
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
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
    /// @param acts of a file, that are done at their moments
    void sit(rehearse::Setup setup, rehearse::Way way, std::vector<rehearse::Act> acts = {});
    void leave();
    [[nodiscard]] rehearse::Session& session() { return *session_; }
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
    [[nodiscard]] const std::vector<std::size_t>& engines() const { return engines_; }
    void chooseEngines(std::vector<std::size_t> engines);
    [[nodiscard]] std::size_t control() const { return control_; }
    void chooseControl(std::size_t control);
    /// The control that is asked for, of the engines that want it. @return whether one is
    bool chooseAsked();
    void put(const rehearse::Act& act);
    void putEach(const std::vector<rehearse::Act>& acts); ///< an act an engine
    void putAsPlanned();
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
    std::unique_ptr<rehearse::Session> session_;
    /// What the careful hand has shown of a sortie, for whoever sits down to it again.
    std::shared_ptr<const hand::HandRun> shown_;
    std::shared_ptr<const powerplant::Aircraft> shownOf_;
    Sortie shownFor_;
    QTimer tick_;
    QElapsedTimer since_;
    int before_ = 1; ///< speed before it stood
    bool busy_ = false;
    std::vector<std::size_t> engines_;
    std::size_t control_ = 0;
    Gauge gauge_ = Gauge::rpm;
};

} // namespace amber::app
