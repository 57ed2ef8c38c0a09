// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/metar.h"
#include "charts/power_chart_view.h"
#include "charts/score.h"
#include "live/aloft_view.h"
#include "log/record_frame.h"
#include "pages/phase_page.h"
#include "pages/trouble_frame.h"
#include "seat/seat_frame.h"
#include "shell/day_strip.h"
#include "shell/field_keys.h"
#include "shell/find_box.h"
#include "shell/manual_window.h"
#include "shell/phase_rail.h"
#include "store/settings.h"
#include "store/sortie_document.h"
#include <QLabel>
#include <QMainWindow>
#include <QMenu>
#include <QPointer>
#include <QSplitter>
#include <QStackedWidget>
#include <QTimer>
#include <QToolButton>
#include <functional>

namespace amber::app {
class Hangar;
class HangarDialog;
class HoursDialog;
class LearntDialog;
class MissingDialog;
class StartPage;
class TrialsDialog;

/// The window: day strip, phase rail, phase page, score; menus; files.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    enum class Unsaved { save, discard, cancel };
    /// What to do with a file that another window or program has written meanwhile.
    enum class Conflict { overwrite, keepBoth, takeTheirs, cancel };

    /// @param settingsFile INI file, empty for the user's own @param autosaveFolder where crash protection is kept
    MainWindow(const QString& settingsFile, const QString& autosaveFolder, QWidget* parent = nullptr);
    ~MainWindow() override;

    /// Opens a sortie, or type notes as a new sortie. @return whether it opened; problems are shown when not
    bool openPath(const QString& path);
    /// Offers autosaves that a crash left behind.
    void offerRecovery();
    /// Ways to begin, in place of all else, until a sortie is open.
    void showStart();
    void showPhase(Phase phase);
    /// Trouble, over the phase that is shown, at the moment chosen on the score; and back to where one was.
    void openTrouble();
    void closeTrouble();
    [[nodiscard]] bool inTrouble() const;
    /// Rehearse: how one begins, or the one that goes on; and back to the plan, where a rehearsal is left off for good.
    void openRehearsal();
    void closeRehearsal();
    [[nodiscard]] bool rehearsing() const { return rehearsing_; }
    /// Record: what was read, beside what the plan expects; and back to the plan.
    void openRecord();
    /// What the log teaches of this airframe, as a window over this one. @return null: the log cannot be read
    LearntDialog* showLearnt();
    /// Hours, starts, oil and what is due of this airframe. @return null: the log cannot be read
    HoursDialog* showHours();
    /// What was tried on this airframe, and what of it shows. @return null: the log cannot be read
    TrialsDialog* showTrials();
    /// What the booklet has that the notes do not, worth most first, as a window over this one.
    MissingDialog* showMissing();
    /// The log that a hangar shares: its address and how it stands, as a window over this one.
    HangarDialog* showHangar();
    void closeRecord();
    /// The run that is flown now, at arm's length, in place of all else; and back to Record.
    void openAloft();
    void closeAloft();
    [[nodiscard]] bool isAloft() const { return whole_->currentWidget() == aloft_; }
    [[nodiscard]] AloftView& aloft() { return *aloft_; }
    [[nodiscard]] LiveRun& live() { return *live_; }
    [[nodiscard]] RecorderLink& recorderLink() { return *link_; }
    /// A page of a phase's plan, whatever mode the window is in.
    void showPlanPage(Phase phase, std::string_view page);
    /// The manual, at a chapter and its heading; without one at what is said of the page that is shown.
    ManualWindow* openManual(const QString& chapter = {}, const QString& heading = {});
    /// One box in which anything is found by its name.
    FindBox* openFind();
    [[nodiscard]] bool recording() const { return recording_; }
    void setTheme(ThemeKind theme);
    [[nodiscard]] ThemeKind theme() const { return theme_; }

    [[nodiscard]] SortieDocument& document() { return document_; }
    [[nodiscard]] DayStrip& strip() { return *strip_; }
    [[nodiscard]] PhaseRail& rail() { return *rail_; }
    [[nodiscard]] PhasePage& page() { return *page_; }
    [[nodiscard]] TroubleFrame& trouble() { return *trouble_; }
    [[nodiscard]] Score& score() { return *score_; }
    [[nodiscard]] Seat& seat() { return *seat_; }
    [[nodiscard]] SeatFrame& seatFrame() { return *seatFrame_; }
    [[nodiscard]] Book& book() { return *book_; }
    [[nodiscard]] Hangar& hangar() { return *hangar_; }
    [[nodiscard]] RecordFrame& recordFrame() { return *recordFrame_; }
    [[nodiscard]] QString message() const { return message_->text(); }

    /// How the user is asked; tests answer themselves.
    std::function<Unsaved()> askUnsaved;
    std::function<Conflict()> askConflict;
    /// Whether a recorder's file is kept, after what it has was shown.
    std::function<bool(const QString& name, const std::vector<ToldLine>& lines)> askTake;
    std::function<bool()> askLeaveRehearsal; ///< whether what was done in it may be lost
    std::function<QString(const QString& title, const QString& suggestion, const QString& filter, bool save)> askFile;

    bool save();
    bool saveAs();
    /// Puts a METAR's figures into the day: one undoable edit.
    void applyMetar(const air::MetarReading& reading);

protected:
    void showEvent(QShowEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void buildMenus();
    void refresh();
    void refreshTitle();
    void placeScore();
    void followSeat();
    void railChose(Phase phase);
    void showMode();
    void toPlan();
    void showDots();
    void showHeld(); ///< what of the log holds the aircraft, over every page
    void showWriteUp();
    void writeEngineersSheet();
    void takeInRecorderFile();
    [[nodiscard]] QWidget* frameOfMode() const;
    /// Leaves what is rehearsed, asking where something was done. @return whether it was left
    [[nodiscard]] bool endRehearsal();
    void refreshRecent();
    void say(const QString& text, bool wrong = false);
    [[nodiscard]] bool mayLeave();
    void pasteMetar();
    /// The power chart of the phase that is shown, with its reading; where it has none, that of the climb.
    [[nodiscard]] PowerChartView& powerChart();
    void exportAs(const QString& kind);
    void printCard();
    void printChart();
    void showShortcuts();
    void showCautions();
    void showDetails();
    [[nodiscard]] bool writeTo(const QString& path);

    Settings settings_;
    QString autosaveFolder_;
    SortieDocument document_;
    DayStrip* strip_;
    PhaseRail* rail_;
    PhasePage* page_;
    TroubleFrame* trouble_;
    Seat* seat_;
    SeatFrame* seatFrame_;
    Book* book_;
    Hangar* hangar_;
    RecordFrame* recordFrame_;
    LiveRun* live_;
    RecorderLink* link_;
    AloftView* aloft_;
    QToolButton *planButton_, *rehearseButton_, *recordButton_;
    QAction *undo_ = nullptr, *redo_ = nullptr, *undoAct_ = nullptr, *undoReading_ = nullptr;
    QTimer* scoreFollows_;
    QStackedWidget* whole_; ///< the window's own things, or how to begin
    StartPage* start_ = nullptr;
    QPointer<ManualWindow> manual_; ///< made when it is first opened
    bool rehearsing_ = false, recording_ = false, railFollows_ = false, fromAloft_ = false;
    QStackedWidget* stack_;
    QToolButton* troubleButton_;
    QPointer<QWidget> cameFrom_; ///< had the focus when trouble was opened
    Score* score_;
    QSplitter* halves_;
    bool shownBefore_ = false;
    QLabel *message_, *held_;
    FieldKeys* fieldKeys_ = nullptr;
    QMenu* recent_ = nullptr;
    QList<QAction*> needsSortie_;
    ThemeKind theme_ = ThemeKind::day;
};

} // namespace amber::app
