// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/rehearsal.h"
#include "store/sortie_document.h"
#include <QWidget>
#include <functional>
#include <optional>
#include <vector>

namespace amber::app {

/// The whole sortie against time, always in sight: boost, rpm, height, heads or coolant, oil and fuel, each in its own
/// lane, with marks where something must be done. Click or Enter goes to the phase of that moment, on a
/// temperature out of its normal band to the page that tells why; the wheel and + −
/// zoom, dragging pans, Home shows all.
class Score : public QWidget {
    Q_OBJECT
public:
    explicit Score(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    void select(Phase phase);
    [[nodiscard]] QSize sizeHint() const override { return {1000, 200}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {400, 160}; }

    /// Where a time of the sortie stands, and back.
    [[nodiscard]] double xOf(double seconds) const;
    [[nodiscard]] double timeAt(double x) const;
    [[nodiscard]] double cursorTime() const { return cursor_; }
    /// What the lanes read at a time, as shown beside them.
    [[nodiscard]] QStringList readings(double seconds) const;
    void zoom(double factor, double aroundSeconds);
    void showAll();
    /// Whether it says the sortie's time and fuel too: where the day strip has no room for them.
    void tellSummary(bool tell) {
        summary_ = tell;
        update();
    }

    /// A rehearsal's trace in ink over the plan in grey, its moment marked; a click on what has been goes back to it.
    /// @param began s of the plan's time at which it begins
    void showTrace(const rehearse::Rehearsal& rehearsal, double began);
    void endTrace();
    /// What was read, as dots in the judge's colour over the plan in grey.
    struct Reading {
        double time = 0.0; ///< s of the plan's time
        Phase phase = Phase::climb;
        Gauge gauge = Gauge::rpm;
        double value = 0.0; ///< SI
        watch::Colour colour = watch::Colour::normal;
    };
    void showReadings(std::vector<Reading> readings);
    /// Under them what a recorder saw, in ink. @param began s of the plan's time at its first moment
    void showRecorded(std::vector<rehearse::Kept> recorded, double began);
    [[nodiscard]] bool showsRecorded() const { return reading_ && !trace_.empty(); }
    /// The moments that its run hangs on, to be dragged where they were: by the mouse on their flags, or M for the next
    /// one, arrows (a second; with Shift ten) and Return. Delete takes one back to where the rules find it.
    struct Moment {
        QString name;
        double time = 0.0;   ///< s of the plan's time
        bool byHand = false; ///< somebody has put it there: its flag is filled
    };
    void showMoments(std::vector<Moment> moments);
    [[nodiscard]] const std::vector<Moment>& moments() const { return moments_; }
    /// Where a moment's flag is.
    [[nodiscard]] QPointF flagOf(std::size_t which) const;
    void endReadings();
    /// A line at what is now of the plan, while a run is live. @param time s of the plan
    void showNow(std::optional<double> time);
    [[nodiscard]] std::optional<double> shownNow() const { return now_; }
    [[nodiscard]] const std::vector<Reading>& shownReadings() const { return readings_; }
    [[nodiscard]] bool tracing() const { return tracing_; }
    [[nodiscard]] std::size_t traceLength() const { return trace_.size(); }

signals:
    void momentWanted(qint64 milliseconds);         ///< of the rehearsal
    void momentPut(std::size_t which, double time); ///< s of the plan's time
    void momentForgotten(std::size_t which);
    void chosen(amber::Phase phase);
    /// A stretch out of its normal band was clicked: the phase, whose page tells why.
    void causeWanted(amber::Phase phase);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Lane;
    [[nodiscard]] std::vector<Lane> lanes() const;
    [[nodiscard]] QRectF area() const;
    [[nodiscard]] double total() const;
    /// Whether a temperature lane is out of its normal band at a place.
    [[nodiscard]] bool crossingAt(QPointF place) const;
    /// Where each lane stands: those of temperatures, with two edges to tell apart, are half as high again.
    [[nodiscard]] std::vector<QRectF> boxes(const std::vector<Lane>& lanes) const;
    void paintLane(QPainter& painter, const Lane& lane, const QRectF& box) const;
    bool moveMoment(const QKeyEvent& event);
    void paintMoments(QPainter& painter) const;
    void paintTrace(QPainter& painter, const Lane& lane, const std::function<double(double)>& y) const;
    void clampView();

    SortieDocument& document_;
    Phase phase_ = Phase::climb;
    double from_ = 0.0, to_ = 1.0; // visible times, s
    bool all_ = true, summary_ = false;
    double cursor_ = -1.0;
    bool pressed_ = false, panned_ = false;
    double pressX_ = 0.0, pressFrom_ = 0.0;
    bool tracing_ = false, reading_ = false;
    std::vector<Reading> readings_;
    std::vector<Moment> moments_;
    std::optional<double> now_; ///< s of the plan's time
    int held_ = -1;             ///< moment that is moved
    double heldAt_ = 0.0;       ///< s of the plan's time
    bool heldByKey_ = false;
    std::vector<rehearse::Kept> trace_;
    std::size_t traceBacks_ = 0;
    double traceBegan_ = 0.0, traceNow_ = 0.0; ///< s of the plan's time
};

} // namespace amber::app
