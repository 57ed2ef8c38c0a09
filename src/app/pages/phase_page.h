// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/page_scroll.h"
#include "pages/field_row.h"
#include "pages/page.h"
#include "pages/page_table.h"
#include <QComboBox>
#include <QLabel>
#include <QWidget>
#include <map>
#include <string_view>

namespace amber::app {

/// The frame of a phase: title, headline, fields, cautions, and under them one of the phase's pages. It knows pages by
/// their rows of the table and nothing of what is on them. A window too low for a page scrolls it.
class PhasePage : public QWidget {
    Q_OBJECT
public:
    explicit PhasePage(SortieDocument& document, QWidget* parent = nullptr);
    void show(Phase phase);
    void refresh();
    [[nodiscard]] Phase phase() const { return phase_; }
    /// A page of this phase by its key; a key it has not changes nothing.
    void showPage(std::string_view key);
    /// To the next page of this phase, round.
    void nextPage();
    [[nodiscard]] std::string_view pageKey() const { return row().key; }
    [[nodiscard]] Page& page() const { return *current_; }
    /// To a column of the page by its name: "set", "expect", "clock".
    void focusColumn(const QString& name);
    /// A page by its key and class, made where it is not yet, whether it is shown or not; null: there is none.
    template <class P>
    P* find(std::string_view key) {
        return dynamic_cast<P*>(made(key));
    }

signals:
    void refused(QString why);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    [[nodiscard]] const PageRow& row() const;
    Page* made(std::string_view key);
    void showNotices();
    void showPageChoice();
    void placeHeadline();
    /// Puts the page of the phase in place of the one that is shown.
    void exchange();

    SortieDocument& document_;
    Phase phase_ = Phase::climb;
    QString headlineText_; ///< whole, wherever it is shown
    QLabel *title_, *headline_, *headlineBelow_, *notices_;
    FieldRow* fields_;
    QComboBox* choice_;
    QWidget *choiceHolder_, *body_;
    PageScroll* scroll_;
    std::map<std::string_view, Page*> pages_;  ///< made so far, by key
    std::map<Phase, std::string_view> chosen_; ///< page of each phase
    Page* current_ = nullptr;
};

} // namespace amber::app
