// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/session.h"
#include "store/sortie_document.h"
#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QWidget>
#include <functional>

namespace amber::app {

/// How a rehearsal begins: in which way, from which phase, with which faults.
class BeginPanel : public QWidget {
    Q_OBJECT
public:
    explicit BeginPanel(SortieDocument& document, QWidget* parent = nullptr);
    /// Shows the sortie as it is now. @param phase that it would begin in
    void refresh(Phase phase);
    /// Takes an instructor's file. @return the problems that it has; empty: taken
    Problems takeSetup(const QString& path);
    [[nodiscard]] rehearse::Way way() const;
    /// Questions are wanted, no rehearsal.
    [[nodiscard]] bool wantsQuestions() const { return ways_->checkedId() == questions; }
    void chooseQuestions() { ways_->button(questions)->setChecked(true); }
    void setWay(rehearse::Way way);
    [[nodiscard]] rehearse::Setup setup() const;
    /// Takes acts of a file, to be looked at as they are done again. @return the problems that it has; empty: taken
    Problems takeActs(const QString& path);
    [[nodiscard]] const std::vector<rehearse::Act>& acts() const { return acts_; }
    /// Two sit at the keyboard.
    [[nodiscard]] bool areTwo() const { return two_->isEnabled() && two_->isChecked(); }
    /// Who practises, as they call themselves; may be empty.
    [[nodiscard]] QString who() const { return who_->currentText().trimmed(); }
    void setWho(const QString& who, const QStringList& others);
    /// What is known of who practises, under the keys.
    std::function<QString(const QString& who)> history;
    /// How a file is asked for: the window knows.
    std::function<QString()> askSetup, askActs;

signals:
    void begun();
    void problems(QString file, amber::Problems problems);

private:
    enum Faults { none, chance, fromFile };
    static constexpr int questions = 10; ///< beside the ways
    void showFaults();
    void showHistory();
    QLabel* worked();
    void showKeys();
    SortieDocument& document_;
    QLabel *title_, *explained_, *faultsSaid_;
    QButtonGroup* ways_;
    QComboBox *from_, *faults_, *who_;
    QLabel *history_, *keys_;
    QCheckBox* two_;
    std::vector<rehearse::Act> acts_;
    QString actsName_;
    QSpinBox* seed_;
    QWidget* setupRow_;
    QPushButton* begin_;
    std::optional<rehearse::Setup> file_;
    QString fileName_;
};

} // namespace amber::app
