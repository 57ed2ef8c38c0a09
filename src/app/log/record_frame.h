// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/score.h"
#include "log/book.h"
#include "log/read_table.h"
#include "log/season_view.h"
#include "log/stop_clocks.h"
#include "log/write_up_view.h"
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QWidget>

namespace amber::app {

/// Record: what was read in a phase beside what the plan of its day expects, typed where it is expected or as one line;
/// stop clocks; what was kept today; and the chosen reading run by run.
class RecordFrame : public QWidget {
    Q_OBJECT
public:
    explicit RecordFrame(Book& book, QWidget* parent = nullptr);
    /// @return why the log cannot be opened, or empty
    QString open(Phase phase);
    void show(Phase phase);
    /// The document has changed: another airframe has other runs.
    void follow();
    [[nodiscard]] Phase phase() const { return phase_; }
    [[nodiscard]] ReadTable& table() { return *table_; }
    [[nodiscard]] ReadModel& model() { return *model_; }
    [[nodiscard]] StopClocks& clocks() { return *clocks_; }
    [[nodiscard]] WriteUpView& writeUp() { return *writeUp_; }
    [[nodiscard]] SeasonView& season() { return *season_; }
    [[nodiscard]] QString sentence() const { return sentence_->text(); }
    [[nodiscard]] QString soFar() const { return soFar_->text(); }
    [[nodiscard]] QString who() const { return who_->text(); }
    [[nodiscard]] QString saved() const { return saved_->text(); }
    void undo();
    /// How it stands with the hangar's log; empty: there is none.
    void showHangar(const QString& state);
    /// What the run's recorder saw, on the plan that the score shows: laid on it at take-off power, else at the run's
    /// beginning. @return s of the plan's time at the first moment
    double recorded(const plan::Plan& drawn, std::vector<rehearse::Kept>& out) const;
    /// Its moments there, in the order of `moments`. @param began as `recorded` gives it
    [[nodiscard]] std::vector<Score::Moment> moments(double began) const;
    /// One of them put elsewhere, s of the plan's time. @param began of the trace as it was drawn
    void putMoment(std::size_t which, double time, double began);
    /// One of them back to where the rules find it.
    void forgetMoment(std::size_t which);
    /// What stands in the run and has a needle, within its phase. @param drawn the plan that the score shows
    [[nodiscard]] std::vector<Score::Reading> dots(const plan::Plan& drawn) const;

signals:
    void refused(QString why); ///< empty: mended
    void sheetWanted();        ///< the engineer's, as a PDF
    void learntWanted();
    void hoursWanted();
    void trialsWanted();

protected:
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void tellSaved(const QString& text);
    void refresh();
    void showRuns();
    void makeRoom();
    void showSentence();
    void offerClocks();
    void showSoFar();
    /// "Oil temp.:"
    [[nodiscard]] QString titled(const record::Entry& entry) const;
    void takeQuick();
    void takeWords();
    void takeFlown();
    void chooseRun(int index);
    [[nodiscard]] std::string chosenEngine() const;

    Book& book_;
    Phase phase_ = Phase::climb;
    ReadModel* model_;
    ReadTable* table_;
    StopClocks* clocks_;
    SeasonView* season_;
    QLabel* clocksHeading_;
    WriteUpView* writeUp_;
    QLabel *title_, *headline_, *saved_, *hangar_, *sentence_, *soFar_, *seasonTitle_;
    QLineEdit *quick_, *words_, *flown_, *who_;
    QComboBox* runs_;
    QWidget* right_;
    std::vector<std::string> runIds_; ///< of the choice; empty: the new one
};

} // namespace amber::app
