// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QHash>
#include <QLabel>
#include <QTextDocument>

namespace amber::app {

/// Rich text that wraps to the width its column gives it. A plain label lays its text out six times for one change, to
/// find hints nobody asked for; this one once a width.
class RichLabel : public QLabel {
    Q_OBJECT
public:
    explicit RichLabel(QWidget* parent = nullptr);

    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    /// The text laid out for a width of the widget.
    QTextDocument& laidOut(int width) const;
    mutable QTextDocument document_;
    mutable QString known_;           ///< text of the document
    mutable QHash<int, int> heights_; ///< of the widget, by its width; layouts ask for several in turn
};

} // namespace amber::app
