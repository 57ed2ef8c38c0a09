// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QLabel>
#include <QLineEdit>
#include <QWidget>
#include <functional>

namespace amber::app {

/// A number that names one stay in a field or one drag, so that its edits are undone together.
int newGesture();

/// A caption over a value that is edited in place: typed, stepped with the arrow keys or the wheel, or dragged sideways
/// on the caption. What is typed is applied at once when it can be read; when not, the field says why, and whatever the
/// same stay in the field had already changed is taken back: leaving a refused figure leaves the old one. Undo and redo
/// are the window's, here too.
class InlineField : public QWidget {
    Q_OBJECT
public:
    struct Behaviour {
        std::function<QString()> show;                                  ///< the value as it stands
        std::function<QString(const QString& text, int gesture)> apply; ///< an error sentence, or empty
        std::function<QString(int steps, int gesture)> step;            ///< none: cannot be stepped
        std::function<void(int gesture)> abandon;                       ///< takes back what a gesture has done
    };

    InlineField(const QString& caption, const QString& name, Behaviour behaviour, QWidget* parent = nullptr);

    ~InlineField() override;

    /// Shows the value again, unless it is being typed just now.
    void refresh();
    [[nodiscard]] QString text() const { return edit_->text(); }
    [[nodiscard]] QString error() const { return error_; }
    [[nodiscard]] QLineEdit* editor() const { return edit_; }
    void setCaption(const QString& caption);
    void setHint(const QString& hint);
    /// How to take back what a gesture has done, for fields made without it.
    void setAbandon(std::function<void(int gesture)> abandon) { behaviour_.abandon = std::move(abandon); }

signals:
    /// What was typed is not taken, and why; empty when it is mended.
    void refused(QString why);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void typed();
    void finish();
    void stepBy(int steps);
    void setError(const QString& error);
    void leave();
    void fit();

    Behaviour behaviour_;
    QLabel* caption_;
    QLineEdit* edit_;
    QString hint_, error_;
    bool typing_ = false, dragging_ = false;
    int gesture_ = 0, dragFrom_ = 0, dragSteps_ = 0;
};

} // namespace amber::app
