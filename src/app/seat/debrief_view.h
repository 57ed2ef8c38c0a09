// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include "seat/seat.h"
#include <QPushButton>
#include <QTextBrowser>
#include <QWidget>
#include <functional>

namespace amber::app {

/// What a rehearsal comes to, people first; each line leads to its moment. It is printed, or saved to be done again.
class DebriefView : public QWidget {
    Q_OBJECT
public:
    explicit DebriefView(Seat& seat, QWidget* parent = nullptr);
    void refresh();
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
    Seat& seat_;
    QTextBrowser* text_;
};

} // namespace amber::app
