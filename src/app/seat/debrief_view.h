// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include "rehearse/mend.h"
#include "seat/seat.h"
#include <QPushButton>
#include <QTextBrowser>
#include <QWidget>
#include <functional>
#include <memory>
#include <optional>
#include <thread>

namespace amber::app {

/// What a rehearsal comes to, people first; each line leads to its moment. It is printed, or saved to be done again.
class DebriefView : public QWidget {
    Q_OBJECT
public:
    explicit DebriefView(Seat& seat, QWidget* parent = nullptr);
    ~DebriefView() override;
    /// As it stands; what would have changed its outcome is flown again in the background, and told as it is found.
    void refresh();
    /// Nothing is flown in the background any more.
    [[nodiscard]] bool isCounted() const { return !flying_; }
    [[nodiscard]] QString text() const { return text_->toPlainText(); }
    /// How skills went over time, rich text: the frame knows.
    std::function<QString()> overTime;
    /// How a file is asked for: the window knows.
    std::function<QString(const QString& title, const QString& suggestion, const QString& filter)> askFile;

signals:
    void backWanted();                      ///< to the hands
    void leaveWanted();                     ///< back to the plan
    void momentWanted(qint64 milliseconds); ///< of a line that was clicked

private:
    /// Rich text. @param colours of the screen, or of paper
    [[nodiscard]] QString written(const Colours& colours) const;
    [[nodiscard]] QByteArray trace() const;
    void write(const QString& kind);
    /// One more has been flown. @param which of the debriefs it belongs to
    void flown(int which, bool last);
    void leaveOff();
    Seat& seat_;
    QTextBrowser* text_;
    std::optional<rehearse::Debrief> debrief_;
    std::shared_ptr<rehearse::Mending> mending_;
    std::jthread thread_;
    int which_ = 0;
    bool flying_ = false;
};

} // namespace amber::app
