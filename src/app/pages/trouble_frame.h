// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/page_scroll.h"
#include "pages/trouble_page.h"
#include <QButtonGroup>
#include <QElapsedTimer>
#include <QLabel>
#include <QTimer>
#include <QToolButton>
#include <map>

namespace amber::app {

/// Trouble: over every phase, one key away. The moment in words, which engines are dead, the pages by number; Escape
/// goes back. A clock runs from the first act that is ticked.
class TroubleFrame : public QWidget {
    Q_OBJECT
public:
    explicit TroubleFrame(SortieDocument& document, QWidget* parent = nullptr);
    /// @param time s from the first look
    void open(double time);
    /// The document has changed, or the moment.
    void refresh();
    /// Makes the first page while nothing hurries: opened, it stands at once.
    void prepare();
    void showPage(std::string_view key);
    [[nodiscard]] std::string_view pageKey() const { return troubleTable()[page_].key; }
    [[nodiscard]] const char* pageTitle() const { return troubleTable()[page_].title; }
    [[nodiscard]] TroublePage& page() const { return *current_; }
    [[nodiscard]] const TroubleMoment& moment() const { return moment_; }
    void setDead(std::vector<std::size_t> dead);
    void setTime(double seconds);
    /// Earlier or later, within the sortie.
    void shiftBy(double seconds);
    /// The figures now, not after the next frame.
    void reckonNow();
    /// To the first act of the page's drill.
    void focusFirst();

signals:
    void left();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    TroublePage* made(std::size_t row);
    void exchange(std::size_t row);
    void buildEngines();
    void toggled(std::size_t engine, bool dead);
    void showClock();

    SortieDocument& document_;
    TroubleMoment moment_;
    std::size_t page_ = 0;
    QLabel *title_, *when_, *clock_, *cautions_;
    QWidget* engineHolder_;
    std::vector<QToolButton*> engines_;
    std::string enginesOf_;
    QButtonGroup* tabs_;
    QWidget* body_;
    PageScroll* scroll_;
    std::map<std::size_t, TroublePage*> pages_;
    TroublePage* current_ = nullptr;
    QTimer *later_, *tick_;
    QElapsedTimer since_;
};

} // namespace amber::app
