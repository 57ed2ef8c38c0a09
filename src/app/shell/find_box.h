// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QTreeWidget>
#include <functional>
#include <vector>

namespace amber::app {

/// Something that can be gone to: a page, a figure of the plan, a step, an act of the menus, a term, a chapter.
struct Findable {
    enum class Kind { page, figure, step, act, term, chapter };
    Kind kind = Kind::page;
    QString title; ///< "Climb · cooling", "High blower at"
    QString shown; ///< beside it: a figure's value, a key, a term's meaning
    QString also;  ///< words it is found by and that are not shown
    std::function<void()> go;
    bool near = false; ///< of the phase that is shown: before its equals
};

/// Which of them hold all words typed, each at the beginning of a word, best first: those whose title (or its
/// part after the phase) begins with what was typed, then those that have all words in the title, then the rest; in
/// each, those of the phase that is shown first, then the order that they were given in.
std::vector<const Findable*> found(const std::vector<Findable>& all, const QString& typed);

/// One box in which anything is found by its name. Enter or a click goes there, Escape leaves.
class FindBox : public QDialog {
    Q_OBJECT
public:
    FindBox(std::vector<Findable> all, int width, QWidget* parent = nullptr);
    [[nodiscard]] int shown() const { return static_cast<int>(found_.size()); }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void go();

    std::vector<Findable> all_;
    std::vector<const Findable*> found_;
    QLineEdit* edit_;
    QTreeWidget* list_;
};

} // namespace amber::app
