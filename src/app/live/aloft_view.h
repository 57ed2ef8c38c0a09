// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "live/keep_awake.h"
#include "live/live_run.h"
#include "live/recorder_link.h"
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>
#include <array>
#include <functional>

namespace amber::app {
class NextCard;
class LookAt;

/// The run at arm's length: one phase, what stands now, what comes next, what counts, four needles; everything by touch
/// with gloves and by a handful of keys. Main figures are ten millimetres high and targets twenty where the screen has
/// the room. An edge lights when something is due; nothing flashes and nothing sounds.
class AloftView : public QWidget {
    Q_OBJECT
public:
    AloftView(LiveRun& live, RecorderLink& link, QWidget* parent = nullptr);
    /// Taken up: the run goes on from where it is.
    void begin();
    void leave();
    void refresh();
    /// A line for the recorder's address, under everything else. @param taken why it cannot be, or empty
    void askAddress(const QString& now, std::function<QString(const QString&)> taken);

    // what tests and readers of the screen ask
    [[nodiscard]] QString phaseShown() const { return phase_->text(); }
    [[nodiscard]] QStringList nextShown() const;
    [[nodiscard]] QStringList clocksShown() const;
    [[nodiscard]] QString told() const { return told_->text(); }
    [[nodiscard]] QPushButton& nowKey() { return *nowKey_; }
    [[nodiscard]] QPushButton& nameKey() { return *nameKey_; }
    [[nodiscard]] QLineEdit& scan() { return *scan_; }
    [[nodiscard]] bool showsMoments() const { return moments_->isVisible(); }
    [[nodiscard]] watch::Colour edge() const { return edge_; }

signals:
    void leaveWanted();
    void troubleWanted();
    void recorderWanted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QPushButton* key(const char* name, const QString& tip);
    void say(const QString& what);
    void toggleMoments();
    void fillMoments();
    void tick(const std::string& id);
    void takeScan();
    void takeAddress();
    void setSizes();
    [[nodiscard]] int mm(double millimetres) const;
    void showSet();
    void showClocks();

    LiveRun& live_;
    RecorderLink& link_;
    KeepAwake awake_;
    QLabel *phase_, *about_, *clock_, *told_, *foot_;
    std::array<QLabel*, 5> what_, set_;
    std::array<QLabel*, 5> clockWhat_, clockValue_;
    std::array<NextCard*, 3> cards_;
    QLabel* then_;
    LookAt* needles_;
    QWidget *nexts_, *moments_;
    std::vector<QPushButton*> momentKeys_;
    std::vector<LiveRun::Named> names_;
    QPushButton *nowKey_, *nameKey_, *earlierKey_, *scanKey_, *momentsKey_, *troubleKey_;
    QLineEdit *scan_, *address_;
    std::function<QString(const QString&)> addressTaken_;
    watch::Colour edge_ = watch::Colour::normal;
    QString said_;
    std::vector<record::ReadLine> scanLines_;
};

} // namespace amber::app
