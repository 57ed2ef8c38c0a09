// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/row_view.h"
#include "store/sortie_document.h"
#include <QBoxLayout>
#include <QLabel>
#include <QWidget>

namespace amber::app {

/// One page of a phase. Only the page that is shown is told of changes; it reads the document and asks nothing of the
/// window, nor which mode is on. Each kind of page is a class of its own and a row of pages/page_table.cpp.
class Page : public QWidget {
    Q_OBJECT
public:
    Page(SortieDocument& document, QWidget* parent);

    /// Shows a phase, from its beginning where the page did not show it before.
    void present(Phase phase);
    /// Shows the document as it is now.
    virtual void refresh() = 0;
    /// The document has another aircraft or sortie, or the page is gone to anew: the first line is chosen.
    virtual void enter() {}

signals:
    void refused(QString why);     ///< what was typed or chosen is not taken; empty: mended
    void placeWanted(QRect place); ///< a part of the page, in its own coordinates, that should be in sight

protected:
    /// Lays the columns out for the page's width.
    virtual void widen() {}
    void resizeEvent(QResizeEvent* event) override;

    /// An edit of the document; why not, where it is refused.
    bool edit(const Sortie& changed, const QString& what, int gesture = 0);
    /// Figures at the left in a column of their own width, pictures at the right.
    struct Halves {
        QWidget* column;
        QVBoxLayout *left, *right;
    };
    Halves halves(int between, int lines = 0);
    QLabel* heading(const QString& text);
    /// A column of rows under its heading, beside others. @param spoken its name to a screen reader
    RowView* rowsUnder(QBoxLayout& columns, const char* name, const QString& title, const QString& spoken, int stretch);
    QLabel* richText(const char* name, int size = 13);
    /// A caption over a picture, cut where it is too long.
    QLabel* pictureTitle(const char* name);
    /// So narrow that what stands side by side stands one above the other.
    [[nodiscard]] bool narrow() const { return width() < 900; }
    static void stack(QBoxLayout& columns, bool stacked) {
        columns.setDirection(stacked ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    }
    /// Gives a column a width; 0: all there is.
    static void setColumn(QWidget& column, int width);
    /// A share of the page's width, within bounds, px.
    [[nodiscard]] int share(double of, int least, int most) const;

    SortieDocument& document_;
    Phase phase_ = Phase::walkRound;
};

} // namespace amber::app
