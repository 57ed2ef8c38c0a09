// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/practice_log.h"
#include "seat/begin_panel.h"
#include "seat/debrief_view.h"
#include "seat/hands_view.h"
#include "seat/needles_view.h"
#include "seat/question_view.h"
#include "seat/seat.h"
#include "seat/trend_view.h"
#include <QButtonGroup>
#include <QElapsedTimer>
#include <QLabel>
#include <QToolButton>
#include <QWidget>
#include <functional>

namespace amber::app {

/// Rehearse: how it begins; then hands, needles, clocks and what was said and done, under time that runs as fast as is
/// wanted; then the debrief.
class SeatFrame : public QWidget {
    Q_OBJECT
public:
    explicit SeatFrame(Seat& seat, QWidget* parent = nullptr);
    /// To where a rehearsal begins, or to the one that goes on.
    void open(Phase phase);
    void showDebrief();
    void showHands();
    /// Offers the faults that this type can have, to be called.
    void offerCall();
    [[nodiscard]] BeginPanel& beginPanel() { return *begin_; }
    [[nodiscard]] HandsView& hands() { return *hands_; }
    [[nodiscard]] NeedlesView& needles() { return *needles_; }
    [[nodiscard]] DebriefView& debriefView() { return *debrief_; }
    [[nodiscard]] QuestionView& examiner() { return *examiner_; }
    [[nodiscard]] QuestionView& cards() { return *cards_; }
    [[nodiscard]] const rehearse::CardBoxes& boxes() const { return boxes_; }
    /// Questions from the notes, spaced by what was missed.
    void openCards();
    /// Where the boxes of a type are kept, and which day it is: the window knows.
    std::function<rehearse::CardBoxes(const QString& type)> loadCards;
    std::function<void(const QString& type, const rehearse::CardBoxes& boxes)> keepCards;
    std::function<qint64()> today;
    /// The log of practice: what was kept, and lines to be added to it. @return an error, or empty
    std::function<std::vector<rehearse::Practised>()> loadLog;
    std::function<QString(const std::vector<rehearse::Practised>& more)> keepLog;
    /// Writes what was rehearsed into the log, where it was from memory and something was done; once.
    void log();
    [[nodiscard]] QString asked() const { return asked_->text(); }
    [[nodiscard]] QString saidAndDone() const { return said_->text(); }
    [[nodiscard]] QString clocks() const { return clocks_->text(); }

signals:
    void leaveWanted();
    void momentWanted(qint64 milliseconds);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void refreshSlowly();
    void showSpeed();
    void beginNext();
    [[nodiscard]] std::vector<rehearse::Practised> practised() const;
    [[nodiscard]] QString skills(const QString& who, const std::vector<rehearse::Practised>& log) const;
    void examine();
    void nextCard();
    QWidget* workPage();
    void turnTo(QWidget* page);

    Seat& seat_;
    QWidget *body_, *shown_ = nullptr;
    BeginPanel* begin_;
    DebriefView* debrief_;
    QuestionView *examiner_, *cards_;
    std::vector<rehearse::Question> questions_; ///< of the cards
    rehearse::CardBoxes boxes_;
    std::size_t card_ = 0, cardsAsked_ = 0, cardsRight_ = 0;
    std::string lastCard_;
    QString who_; ///< practises now
    QWidget* work_;
    HandsView* hands_;
    NeedlesView* needles_;
    TrendView* trend_;
    QLabel *title_, *headline_, *clock_, *asked_, *clocks_, *signs_, *said_, *trendTitle_;
    QToolButton *beginNext_, *back_, *next_;
    QButtonGroup* speeds_;
    qint64 shownSecond_ = -1;
    QElapsedTimer slowly_;
    std::size_t shownActs_ = 0;
};

} // namespace amber::app
