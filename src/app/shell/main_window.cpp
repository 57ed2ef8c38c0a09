// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/main_window.h"
#include "air/metar.h"
#include "engine/power_chart.h"
#include "files/document.h"
#include "kit/html.h"
#include "kit/plain_tips.h"
#include "kit/theme.h"
#include "log/engineers_sheet.h"
#include "log/hangar_dialog.h"
#include "log/hours_dialog.h"
#include "log/learnt_dialog.h"
#include "log/trials_dialog.h"
#include "pages/power_chart_page.h"
#include "plan/plan_export.h"
#include "print/air_card.h"
#include "print/card.h"
#include "print/chart_print.h"
#include "shell/details_dialog.h"
#include "shell/findables.h"
#include "shell/metar_dialog.h"
#include "shell/missing_dialog.h"
#include "shell/problems_dialog.h"
#include "shell/recorder_dialog.h"
#include "shell/recovery_dialog.h"
#include "shell/start_page.h"
#include "store/data_folder.h"
#include <QActionGroup>
#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QDialogButtonBox>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPrintDialog>
#include <QPrinter>
#include <QSplitter>
#include <QStandardPaths>
#include <QTextBrowser>
#include <QTimer>
#include <QVBoxLayout>
#include <utility>

namespace amber::app {
namespace {
constexpr int scoreBesideTrouble = 960; // px of the window
constexpr int scoreEvery = 250;         // ms, while somebody rehearses
const QString sortieFilter = QStringLiteral("Sorties (*.toml);;All files (*)");
} // namespace

MainWindow::MainWindow(const QString& settingsFile, const QString& autosaveFolder, QWidget* parent)
    : QMainWindow(parent), settings_(settingsFile), autosaveFolder_(autosaveFolder), document_(autosaveFolder) {
    setObjectName(QStringLiteral("main-window"));
    qApp->installEventFilter(new PlainTips(this));
    setTheme(settings_.theme()); // before there is much to dress
    setAcceptDrops(true);
    auto* centre = new QWidget(this);
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    strip_ = new DayStrip(document_, centre);
    rail_ = new PhaseRail(centre);
    halves_ = new QSplitter(Qt::Vertical, centre);
    halves_->setObjectName(QStringLiteral("halves"));
    halves_->setChildrenCollapsible(false);
    halves_->setHandleWidth(5);
    auto* upper = new QWidget(halves_);
    auto* above = new QVBoxLayout(upper);
    above->setContentsMargins(0, 0, 0, 0);
    above->setSpacing(0);
    stack_ = new QStackedWidget(upper);
    page_ = new PhasePage(document_, stack_);
    trouble_ = new TroubleFrame(document_, stack_);
    stack_->addWidget(page_);
    stack_->addWidget(trouble_);
    seat_ = new Seat(document_, this);
    seatFrame_ = new SeatFrame(*seat_, stack_);
    stack_->addWidget(seatFrame_);
    // The log lies beside the folder of unsaved work, in the user's own data.
    book_ = new Book(document_, QFileInfo(autosaveFolder_).absolutePath() + QStringLiteral("/log.sqlite"), this);
    hangar_ = new Hangar(book_->path(), this);
    recordFrame_ = new RecordFrame(*book_, stack_);
    stack_->addWidget(recordFrame_);
    live_ = new LiveRun(*book_, this);
    link_ = new RecorderLink(this);
    held_ = new QLabel(upper);
    held_->setObjectName(QStringLiteral("held"));
    held_->setFont(face(13, true));
    held_->setContentsMargins(20, 3, 20, 3);
    held_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    held_->setVisible(false);
    connect(held_, &QLabel::linkActivated, this, &MainWindow::showWriteUp);
    scoreFollows_ = new QTimer(this);
    scoreFollows_->setSingleShot(true);
    scoreFollows_->setInterval(scoreEvery);
    score_ = new Score(document_, halves_);
    auto* middle = new QHBoxLayout;
    middle->setContentsMargins(0, 0, 0, 0);
    middle->setSpacing(0);
    auto* rule = new QFrame(upper);
    rule->setFrameShape(QFrame::VLine);
    rule->setFrameShadow(QFrame::Plain);
    rule->setForegroundRole(QPalette::Mid);
    auto* side = new QVBoxLayout;
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(0);
    auto* modes = new QHBoxLayout;
    modes->setContentsMargins(2, 4, 2, 0);
    modes->setSpacing(1);
    const auto mode = [&](const char* name, const QString& text, const QString& tip, auto does) {
        auto* button = new QToolButton(upper);
        button->setObjectName(QLatin1String(name));
        button->setText(text);
        button->setToolTip(tip);
        button->setFont(face(12, true));
        // Three stand in the width of the rail.
        button->setStyleSheet(
            QStringLiteral("QToolButton { padding: 2px 1px; } QToolButton:focus { padding: 1px 0px; }"));
        button->setCheckable(true);
        button->setEnabled(false);
        button->setFocusPolicy(Qt::TabFocus);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setMinimumHeight(30);
        connect(button, &QToolButton::clicked, this, does);
        modes->addWidget(button);
        return button;
    };
    planButton_ = mode("mode-plan", tr("Plan"), tr("The engines' settings for today (F6)"), [this] { toPlan(); });
    rehearseButton_ =
        mode("mode-rehearse", tr("Rehearse"), tr("Practise them on live engines (F7)"), [this] { openRehearsal(); });
    recordButton_ = mode("mode-record", tr("Record"), tr("What the engines did, kept as it is read (F10)"),
                         [this] { openRecord(); });
    side->addLayout(modes);
    side->addWidget(rail_, 1);
    troubleButton_ = new QToolButton(upper);
    troubleButton_->setObjectName(QStringLiteral("trouble-word"));
    troubleButton_->setText(tr("Trouble   F9"));
    troubleButton_->setToolTip(tr("When it goes wrong: engine, symptoms, feathering, dive, going round, fire (F9; "
                                  "Escape goes back)"));
    troubleButton_->setFont(face(15, true));
    troubleButton_->setCheckable(true);
    troubleButton_->setEnabled(false);
    troubleButton_->setFocusPolicy(Qt::TabFocus);
    troubleButton_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    troubleButton_->setMinimumHeight(34);
    side->addWidget(troubleButton_);
    middle->addLayout(side);
    middle->addWidget(rule);
    middle->addWidget(stack_, 1);
    column->addWidget(strip_);
    above->addWidget(held_);
    above->addLayout(middle, 1);
    message_ = new QLabel(upper);
    message_->setObjectName(QStringLiteral("message"));
    message_->setFont(face(13));
    // A long reason takes a second line; it does not widen the window.
    message_->setWordWrap(true);
    message_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    message_->setContentsMargins(20, 2, 20, 2);
    message_->hide();
    above->addWidget(message_);
    halves_->addWidget(upper);
    halves_->addWidget(score_);
    // Both grow with the window; the border between them can be dragged.
    halves_->setStretchFactor(0, 5);
    halves_->setStretchFactor(1, 2);
    column->addWidget(halves_, 1);
    whole_ = new QStackedWidget(this);
    whole_->addWidget(centre);
    aloft_ = new AloftView(*live_, *link_, whole_);
    whole_->addWidget(aloft_);
    setCentralWidget(whole_);
    fieldKeys_ = new FieldKeys(centre);
    resize(1280, 800);
    buildMenus();

    connect(&document_, &SortieDocument::changed, this, &MainWindow::refresh);
    connect(&document_, &SortieDocument::fileChanged, this, &MainWindow::refreshTitle);
    connect(&document_, &SortieDocument::failed, this, [this](const QString& text) { say(text, true); });
    connect(rail_, &PhaseRail::chosen, this, &MainWindow::railChose);
    connect(rail_, &QListView::clicked, this, [this] { closeTrouble(); });
    connect(seat_, &Seat::moved, this, &MainWindow::followSeat);
    connect(seat_, &Seat::seated, this, [this] {
        if (!seat_->isTaken())
            score_->endTrace();
        showMode();
    });
    connect(scoreFollows_, &QTimer::timeout, this, [this] {
        if (seat_->isTaken())
            score_->showTrace(seat_->session().rehearsal(), seat_->session().planTime(0));
    });
    const auto toMoment = [this](qint64 milliseconds) {
        if (!seat_->isTaken())
            return;
        seat_->pause(true);
        seat_->back(milliseconds);
        seatFrame_->showHands();
    };
    connect(score_, &Score::momentWanted, this, toMoment);
    connect(seatFrame_, &SeatFrame::momentWanted, this, toMoment);
    connect(seatFrame_, &SeatFrame::leaveWanted, this, &MainWindow::closeRehearsal);
    connect(
        &seatFrame_->beginPanel(), &BeginPanel::problems, this,
        [this](const QString& file, const Problems& problems) { (new ProblemsDialog(file, problems, this))->open(); });
    connect(troubleButton_, &QToolButton::clicked, this, [this] { inTrouble() ? closeTrouble() : openTrouble(); });
    connect(trouble_, &TroubleFrame::left, this, &MainWindow::closeTrouble);
    connect(&document_, &SortieDocument::momentChosen, this, [this] {
        if (inTrouble() && document_.moment())
            trouble_->setTime(*document_.moment());
    });
    // In trouble the score chooses the moment and nothing else.
    connect(score_, &Score::chosen, this, [this](Phase phase) {
        if (!inTrouble())
            showPhase(phase);
    });
    connect(score_, &Score::causeWanted, this, [this](Phase phase) {
        if (inTrouble())
            return;
        showPhase(phase);
        page_->showPage(causePage(phase, document_).key);
    });
    connect(strip_, &DayStrip::summaryShown, this, [this](bool shown) { score_->tellSummary(!shown); });
    connect(strip_, &DayStrip::metarWanted, this, &MainWindow::pasteMetar);
    const auto tell = [this](const QString& why) { say(why, !why.isEmpty()); };
    connect(page_, &PhasePage::refused, this, tell);
    connect(strip_, &DayStrip::refused, this, tell);
    connect(seat_, &Seat::refused, this, tell);
    connect(recordFrame_, &RecordFrame::refused, this, tell);
    connect(recordFrame_, &RecordFrame::sheetWanted, this, &MainWindow::writeEngineersSheet);
    link_->now = [this] { return live_->timeNow(); };
    connect(link_, &RecorderLink::came, live_, &LiveRun::feed);
    connect(aloft_, &AloftView::leaveWanted, this, &MainWindow::closeAloft);
    connect(aloft_, &AloftView::troubleWanted, this, &MainWindow::openTrouble);
    connect(aloft_, &AloftView::recorderWanted, this, [this] {
        aloft_->askAddress(settings_.recorder(), [this](const QString& address) {
            const QString why = link_->connectTo(address, book_->notes(), document_.sortie().airframe.facts.get());
            if (why.isEmpty())
                settings_.setRecorder(link_->address());
            return why;
        });
    });
    connect(live_, &LiveRun::changed, this, [this] {
        score_->showNow(recording_ && live_->begun() && !live_->now().over ? std::optional(live_->now().plan)
                                                                           : std::nullopt);
    });
    connect(score_, &Score::momentPut, this, [this](std::size_t which, double time) {
        std::vector<rehearse::Kept> drawn;
        recordFrame_->putMoment(which, time, recordFrame_->recorded(document_.plan(), drawn));
    });
    connect(score_, &Score::momentForgotten, recordFrame_, &RecordFrame::forgetMoment);
    connect(recordFrame_, &RecordFrame::learntWanted, this, &MainWindow::showLearnt);
    connect(recordFrame_, &RecordFrame::hoursWanted, this, &MainWindow::showHours);
    connect(recordFrame_, &RecordFrame::trialsWanted, this, &MainWindow::showTrials);
    connect(book_, &Book::kept, hangar_, &Hangar::soon);
    connect(hangar_, &Hangar::came, book_, &Book::readAgain);
    connect(hangar_, &Hangar::changed, this, [this] { recordFrame_->showHangar(hangar_->state()); });
    hangar_->setAddress(settings_.hangar());
    connect(book_, &Book::changed, this, [this] {
        showHeld();
        if (!recording_)
            return;
        showMode();
        showDots();
    });

    askUnsaved = [this] {
        QMessageBox box(
            QMessageBox::NoIcon, tr("Unsaved changes"),
            tr("Save the changes to %1 before leaving it?")
                .arg(document_.path().isEmpty() ? tr("this new sortie") : QFileInfo(document_.path()).fileName()),
            QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
        box.setDefaultButton(QMessageBox::Save);
        const int answer = box.exec();
        return answer == QMessageBox::Save      ? Unsaved::save
               : answer == QMessageBox::Discard ? Unsaved::discard
                                                : Unsaved::cancel;
    };
    askConflict = [this] {
        QMessageBox box(QMessageBox::NoIcon, tr("Changed by another"),
                        tr("%1 has been written by another window or program since it was opened here.")
                            .arg(QFileInfo(document_.path()).fileName()),
                        QMessageBox::NoButton, this);
        box.setInformativeText(tr("Keep both saves yours under another name; theirs stays as it is."));
        auto* both = box.addButton(tr("Keep &both…"), QMessageBox::AcceptRole);
        auto* theirs = box.addButton(tr("Take &theirs"), QMessageBox::ResetRole);
        auto* mine = box.addButton(tr("&Overwrite theirs"), QMessageBox::DestructiveRole);
        box.addButton(QMessageBox::Cancel);
        box.setDefaultButton(both);
        box.exec();
        return box.clickedButton() == both     ? Conflict::keepBoth
               : box.clickedButton() == theirs ? Conflict::takeTheirs
               : box.clickedButton() == mine   ? Conflict::overwrite
                                               : Conflict::cancel;
    };
    askTake = [this](const QString& name, const std::vector<ToldLine>& lines) {
        return RecorderDialog(name, lines, this).exec() == QDialog::Accepted;
    };
    askLeaveRehearsal = [this] {
        QMessageBox box(QMessageBox::NoIcon, tr("Leave the rehearsal"),
                        tr("Leave it for the plan? What was done in it is lost unless it was saved in the debrief."),
                        QMessageBox::NoButton, this);
        auto* leave = box.addButton(tr("&Leave it"), QMessageBox::DestructiveRole);
        box.setDefaultButton(box.addButton(tr("&Go on rehearsing"), QMessageBox::RejectRole));
        box.exec();
        return box.clickedButton() == leave;
    };
    askFile = [this](const QString& title, const QString& suggestion, const QString& filter, bool saving) {
        return saving ? QFileDialog::getSaveFileName(this, title, suggestion, filter)
                      : QFileDialog::getOpenFileName(this, title, suggestion, filter);
    };
    seatFrame_->beginPanel().askSetup = [this] {
        return askFile(tr("Instructor's file"), dataFolder() + QStringLiteral("/rehearsals"),
                       tr("Rehearsals (*.toml);;All files (*)"), false);
    };
    seatFrame_->beginPanel().askActs = [this] {
        return askFile(tr("Acts of a rehearsal"), QFileInfo(document_.path()).absolutePath(),
                       tr("Acts (*.csv);;All files (*)"), false);
    };
    // The log of practice lies beside the folder of unsaved work, in the user's own data.
    const QString log = QFileInfo(autosaveFolder_).absolutePath() + QStringLiteral("/practice.csv");
    seatFrame_->loadLog = [log] {
        QFile file(log);
        Problems ignored; // lines that are none are left as they are
        return file.open(QIODevice::ReadOnly)
                   ? rehearse::readLog(file.readAll().toStdString(), log.toStdString(), ignored)
                   : std::vector<rehearse::Practised>();
    };
    seatFrame_->keepLog = [log](const std::vector<rehearse::Practised>& more) {
        QFile file(log);
        QByteArray text = file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
        if (text.isEmpty())
            text = QByteArray::fromStdString(std::string(rehearse::logHead));
        if (!text.endsWith('\n'))
            text += '\n';
        QDir().mkpath(QFileInfo(log).absolutePath());
        return writeAtomically(log, text + QByteArray::fromStdString(rehearse::writeLog(more)));
    };
    seatFrame_->loadCards = [this](const QString& type) {
        rehearse::CardBoxes out;
        for (const QString& line : settings_.cards(type)) {
            const QStringList parts = line.split(QLatin1Char(' '));
            bool box = false, due = false;
            if (parts.size() != 3)
                continue;
            const rehearse::CardBoxes::Card card{std::clamp(parts[1].toInt(&box), 0, rehearse::CardBoxes::boxes - 1),
                                                 parts[2].toLongLong(&due)};
            if (box && due)
                out.put(parts[0].toStdString(), card);
        }
        return out;
    };
    seatFrame_->keepCards = [this](const QString& type, const rehearse::CardBoxes& boxes) {
        QStringList lines;
        for (const auto& [key, card] : boxes.cards())
            lines << QStringLiteral("%1 %2 %3").arg(QString::fromStdString(key)).arg(card.box).arg(card.due);
        settings_.setCards(type, lines);
    };
    seatFrame_->debriefView().askFile = [this](const QString& title, const QString& name, const QString& filter) {
        return askFile(title, QFileInfo(document_.path()).absolutePath() + QLatin1Char('/') + name, filter, true);
    };
    if (const auto geometry = settings_.geometry(); !geometry.isEmpty())
        restoreGeometry(geometry);
    halves_->setSizes({527, 181});
    refreshTitle();
    rail_->setFocus();
}

MainWindow::~MainWindow() {
    // The widgets look at the document, even while they lose the focus: they go first. (Taken out of the window before,
    // each would be dressed anew.)
    delete centralWidget();
}

void MainWindow::buildMenus() {
    const auto add = [this](QMenu* menu, const QString& text, const QKeySequence& key, auto slot, bool sortie = true) {
        QAction* action = menu->addAction(text);
        action->setShortcut(key);
        connect(action, &QAction::triggered, this, slot);
        if (sortie)
            needsSortie_ << action;
        return action;
    };
    QMenu* file = menuBar()->addMenu(tr("&Sortie"));
    add(
        file, tr("&New from type notes…"), QKeySequence::New,
        [this] {
            if (!mayLeave() || !endRehearsal())
                return;
            if (const QString path = askFile(tr("Type notes"), dataFolder() + QStringLiteral("/notes"),
                                             tr("Type notes (*.toml)"), false);
                !path.isEmpty())
                if (const auto problems = document_.startNew(path); !problems.empty())
                    (new ProblemsDialog(QFileInfo(path).fileName(), problems, this))->open();
        },
        false)
        ->setObjectName(QStringLiteral("new-sortie"));
    add(
        file, tr("&Open…"), QKeySequence::Open,
        [this] {
            if (const QString path =
                    askFile(tr("Open sortie"), QFileInfo(document_.path()).absolutePath(), sortieFilter, false);
                !path.isEmpty())
                openPath(path);
        },
        false)
        ->setObjectName(QStringLiteral("open-sortie"));
    recent_ = file->addMenu(tr("Open &recent"));
    QMenu* demo = file->addMenu(tr("&Demo sorties"));
    for (const auto& d : demoSorties())
        add(
            demo, tr(d.title), {}, [this, name = QString::fromLatin1(d.file)] { openPath(demoSortie(name)); }, false);
    file->addSeparator();
    add(file, tr("Titl&e, destination…"), QKeySequence(Qt::CTRL | Qt::Key_I), [this] { showDetails(); });
    add(
        file, tr("&Unsaved work…"), {},
        [this] {
            if (SortieDocument::leftovers(autosaveFolder_).isEmpty())
                say(tr("No run has left unsaved work behind."));
            offerRecovery();
        },
        false);
    file->addSeparator();
    add(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
    add(file, tr("Save &as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saveAs(); });
    file->addSeparator();
    add(file, tr("Take in a recor&der's file…"), {}, [this] { takeInRecorderFile(); });
    add(
        file, tr("The &hangar's log…"), {}, [this] { showHangar(); }, false);
    file->addSeparator();
    add(file, tr("&Print card…"), QKeySequence::Print, [this] { printCard(); });
    add(file, tr("Card as P&DF…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P),
        [this] { exportAs(QStringLiteral("pdf")); });
    add(file, tr("Air card as PDF…"), {}, [this] { exportAs(QStringLiteral("air.pdf")); });
    add(file, tr("Plan as &JSON…"), {}, [this] { exportAs(QStringLiteral("json")); });
    add(file, tr("Plan as &CSV…"), {}, [this] { exportAs(QStringLiteral("csv")); });
    add(file, tr("Power chart as S&VG…"), {}, [this] { exportAs(QStringLiteral("svg")); });
    add(file, tr("Power chart as P&NG…"), {}, [this] { exportAs(QStringLiteral("png")); });
    add(file, tr("Power chart as CS&V…"), {}, [this] { exportAs(QStringLiteral("chart.csv")); });
    add(file, tr("Print power chart…"), {}, [this] { printChart(); });
    file->addSeparator();
    add(
        file, tr("&Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); }, false);

    QMenu* editMenu = menuBar()->addMenu(tr("&Edit"));
    undo_ = document_.undoStack().createUndoAction(this, tr("&Undo"));
    undo_->setShortcut(QKeySequence::Undo);
    redo_ = document_.undoStack().createRedoAction(this, tr("&Redo"));
    redo_->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
    undoAct_ = new QAction(tr("&Before the last act"), this);
    undoAct_->setShortcut(QKeySequence::Undo);
    undoAct_->setVisible(false);
    undoAct_->setEnabled(false);
    connect(undoAct_, &QAction::triggered, this, [this] {
        if (seat_->isTaken())
            seat_->undo();
    });
    undoReading_ = new QAction(tr("&Before the last reading"), this);
    undoReading_->setShortcut(QKeySequence::Undo);
    undoReading_->setVisible(false);
    undoReading_->setEnabled(false);
    connect(undoReading_, &QAction::triggered, this, [this] { recordFrame_->undo(); });
    editMenu->addActions({undo_, redo_, undoAct_, undoReading_});
    editMenu->addSeparator();
    add(editMenu, tr("Paste &METAR…"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] { pasteMetar(); });
    add(editMenu, tr("&Field by its letter"), QKeySequence(Qt::Key_F2), [this] { fieldKeys_->offer(); });
    add(editMenu, tr("&Day strip"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] { strip_->focusFirst(); });

    QMenu* view = menuBar()->addMenu(tr("&View"));
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const Phase phase = phaseNames[i].phase;
        add(view, QString::fromUtf8(titleOf(phase).data()),
            phase == Phase::load ? QKeySequence(Qt::CTRL | Qt::Key_L)
                                 : QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_0 + i % 10)),
            [this, phase] { showPhase(phase); });
    }
    view->addSeparator();
    add(view, tr("P&lan"), QKeySequence(Qt::Key_F6), [this] { toPlan(); });
    add(view, tr("&Rehearse"), QKeySequence(Qt::Key_F7), [this] { openRehearsal(); });
    add(view, tr("Re&cord"), QKeySequence(Qt::Key_F10), [this] { openRecord(); });
    add(view, tr("At ar&m's length"), QKeySequence(Qt::Key_F11), [this] { isAloft() ? closeAloft() : openAloft(); });
    add(view, tr("&Write-up"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_W), [this] { showWriteUp(); });
    add(view, tr("Le&arnt…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L), [this] { showLearnt(); });
    add(view, tr("Missin&g figures…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B), [this] { showMissing(); });
    add(view, tr("&Hours…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_H), [this] { showHours(); });
    add(view, tr("Tr&ials…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_T), [this] { showTrials(); });
    add(view, tr("Tro&uble"), QKeySequence(Qt::Key_F9), [this] { inTrouble() ? closeTrouble() : openTrouble(); });
    view->addSeparator();
    add(view, tr("&Next phase"), QKeySequence(Qt::CTRL | Qt::Key_PageDown), [this] {
        if (rehearsing_ && seat_->isTaken()) {
            if (const Phase now = seat_->session().rehearsal().phase(); now < Phase::stop)
                seat_->begin(static_cast<Phase>(static_cast<int>(now) + 1));
            return;
        }
        const int last = static_cast<int>(plannedPhases) - (recording_ ? 0 : 1);
        showPhase(static_cast<Phase>(std::min(static_cast<int>(rail_->selected()) + 1, last)));
    });
    add(view, tr("&Previous phase"), QKeySequence(Qt::CTRL | Qt::Key_PageUp),
        [this] { showPhase(static_cast<Phase>(std::max(static_cast<int>(rail_->selected()) - 1, 0))); });
    view->addSeparator();
    add(view, tr("Next page of the p&hase"), QKeySequence(Qt::CTRL | Qt::Key_Space), [this] { page_->nextPage(); });
    add(view, tr("S&et column"), QKeySequence(Qt::ALT | Qt::Key_1),
        [this] { page_->focusColumn(QStringLiteral("set")); });
    add(view, tr("E&xpect column"), QKeySequence(Qt::ALT | Qt::Key_2),
        [this] { page_->focusColumn(QStringLiteral("expect")); });
    add(view, tr("C&lock column"), QKeySequence(Qt::ALT | Qt::Key_3),
        [this] { page_->focusColumn(QStringLiteral("clock")); });
    add(view, tr("Sc&ore"), QKeySequence(Qt::ALT | Qt::Key_4), [this] { score_->setFocus(); });
    add(view, tr("Whole &score"), QKeySequence(Qt::ALT | Qt::Key_Home), [this] { score_->showAll(); });
    view->addSeparator();
    add(
        view, tr("&Hangar theme"), QKeySequence(Qt::CTRL | Qt::Key_T),
        [this] {
            setTheme(theme_ == ThemeKind::day ? ThemeKind::hangar : ThemeKind::day);
            settings_.setTheme(theme_);
        },
        false);

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add(
        help, tr("&Manual at this page"), QKeySequence(Qt::Key_F1), [this] { openManual(); }, false);
    add(
        help, tr("&Find anything…"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { openFind(); }, false);
    add(
        help, tr("&Glossary"), {}, [this] { openManual(QStringLiteral("glossary")); }, false);
    add(
        help, tr("&Keys"), QKeySequence(Qt::SHIFT | Qt::Key_F1), [this] { showShortcuts(); }, false);
    add(
        help, tr("&Cautions"), {}, [this] { showCautions(); }, false);
    for (auto* action : needsSortie_)
        action->setEnabled(false);
    refreshRecent();
}

bool MainWindow::openPath(const QString& path) {
    if (!mayLeave() || !endRehearsal())
        return false;
    // Type notes dropped or opened begin a new sortie of that type.
    Problems ignored;
    const auto text = document::readFile(path.toStdString(), ignored);
    const auto root = text ? document::parse(*text, path.toStdString(), ignored) : std::nullopt;
    const bool notes = root && root->find("engine") && !root->find("airframe");
    const Problems problems = notes ? document_.startNew(path) : document_.load(path);
    if (!problems.empty()) {
        (new ProblemsDialog(QFileInfo(path).fileName(), problems, this))->open();
        settings_.forgetRecent(QFileInfo(path).absoluteFilePath());
        refreshRecent();
        return false;
    }
    if (!notes)
        settings_.addRecent(path);
    refreshRecent();
    say({});
    return true;
}

void MainWindow::showStart() {
    if (document_.isOpen())
        return;
    if (!start_) {
        const auto act = [this](const char* name) {
            for (auto* action : findChildren<QAction*>())
                if (action->objectName() == QLatin1String(name))
                    action->trigger();
        };
        const auto openDemo = [this] {
            if (openPath(demoSortie(QStringLiteral("lorimer-spring"))))
                showPhase(Phase::climb);
        };
        StartPage::Ways ways;
        ways.open = [this](const QString& path) {
            if (openPath(path))
                showPhase(Phase::walkRound);
        };
        ways.demo = openDemo;
        ways.newSortie = [act] { act("new-sortie"); };
        ways.openFile = [act] { act("open-sortie"); };
        ways.rehearse = [this, openDemo] {
            openDemo();
            if (document_.isOpen()) {
                showPhase(Phase::start);
                openRehearsal();
            }
        };
        ways.ownAircraft = [this] { openManual(QStringLiteral("own-aircraft")); };
        ways.manual = [this] { openManual(QStringLiteral("first-sortie")); };
        start_ = new StartPage(std::move(ways), whole_);
        whole_->addWidget(start_);
    }
    whole_->setCurrentWidget(start_);
    start_->show(settings_.recentFiles(), QFileInfo(autosaveFolder_).absolutePath(), settings_.file());
}

void MainWindow::offerRecovery() {
    const auto leftovers = SortieDocument::leftovers(autosaveFolder_);
    if (leftovers.isEmpty())
        return;
    (new RecoveryDialog(
         leftovers,
         [this](const SortieDocument::Leftover& leftover) -> QString {
             if (!mayLeave() || !endRehearsal())
                 return tr("What is open now has changes that are not saved.");
             const auto problems = document_.recover(leftover.autosave, leftover.original);
             if (!problems.empty()) {
                 QString why = tr("It cannot be brought back; it stays in %1.").arg(leftover.autosave);
                 for (const auto& p : problems)
                     why += QLatin1Char(' ') + QString::fromStdString(p.text());
                 return why;
             }
             SortieDocument::discard(leftover);
             return {};
         },
         this))
        ->open();
}

void MainWindow::showMode() {
    const bool open = document_.isOpen();
    planButton_->setEnabled(open);
    rehearseButton_->setEnabled(open);
    recordButton_->setEnabled(open);
    planButton_->setChecked(!rehearsing_ && !recording_);
    rehearseButton_->setChecked(rehearsing_);
    recordButton_->setChecked(recording_);
    // The plan is frozen while somebody rehearses it.
    const bool taken = seat_->isTaken();
    strip_->setEnabled(!taken);
    undoReading_->setVisible(recording_);
    undoReading_->setEnabled(recording_ && book_->canUndo());
    undoAct_->setVisible(taken);
    undoAct_->setEnabled(taken);
    const bool plans = !taken && !recording_;
    undo_->setVisible(plans);
    redo_->setVisible(plans);
    undo_->setEnabled(plans && document_.undoStack().canUndo());
    redo_->setEnabled(plans && document_.undoStack().canRedo());
}

QWidget* MainWindow::frameOfMode() const {
    return rehearsing_ ? static_cast<QWidget*>(seatFrame_) : recording_ ? static_cast<QWidget*>(recordFrame_) : page_;
}

void MainWindow::toPlan() {
    closeAloft();
    closeRecord();
    closeRehearsal();
}

void MainWindow::openRecord() {
    if (!document_.isOpen())
        return;
    closeAloft();
    if (rehearsing_)
        closeRehearsal();
    if (rehearsing_)
        return;
    if (inTrouble())
        closeTrouble();
    recording_ = true;
    stack_->setCurrentWidget(recordFrame_);
    showHeld();
    if (const QString why = recordFrame_->open(rail_->selected()); !why.isEmpty())
        say(why, true);
    showMode();
    showDots();
}

void MainWindow::openAloft() {
    openRecord();
    if (!recording_ || !book_->isOpen())
        return;
    // Readings and moments bear the run's own time: the computer's clock may be set while it is flown.
    book_->now = [this] { return live_->timeNow(); };
    whole_->setCurrentWidget(aloft_);
    aloft_->begin();
}

void MainWindow::closeAloft() {
    if (!isAloft())
        return;
    aloft_->leave();
    whole_->setCurrentIndex(0);
    if (const Phase phase = std::min(live_->now().phase, Phase::stop); live_->begun())
        showPhase(phase);
    recordFrame_->table().setFocus(Qt::OtherFocusReason);
}

void MainWindow::showDots() {
    score_->showReadings(recordFrame_->dots(document_.plan()));
    std::vector<rehearse::Kept> recorded;
    const double began = recordFrame_->recorded(document_.plan(), recorded);
    score_->showRecorded(std::move(recorded), began);
    score_->showMoments(recordFrame_->moments(began));
}

void MainWindow::showHeld() {
    const bool holds = !book_->holding().empty();
    if (holds) {
        const Colours c(this);
        const auto& verdict = book_->held();
        held_->setText(QStringLiteral("%1 <span style='color:%2'>%3</span> &nbsp; <a style='color:%4' href='w'>%5</a>")
                           .arg(html::mark(verdict, c), c.of(verdict.colour()).name(), html::text(verdict.sentence()),
                                c.ink.name(), tr("Write-up")));
        held_->setToolTip(q(verdict.sentence()));
    }
    held_->setVisible(holds);
    rail_->showWriteUp(recording_ ? std::optional(book_->writeUp().worst()) : std::nullopt);
}

void MainWindow::showWriteUp() {
    openRecord();
    if (recording_)
        showPhase(Phase::writeUp);
    recordFrame_->writeUp().list().setFocus(Qt::OtherFocusReason);
}

MissingDialog* MainWindow::showMissing() {
    if (!document_.isOpen())
        return nullptr;
    auto* missing = new MissingDialog(document_, this);
    missing->setAttribute(Qt::WA_DeleteOnClose);
    missing->open();
    return missing;
}

LearntDialog* MainWindow::showLearnt() {
    openRecord();
    if (!recording_)
        return nullptr;
    const std::string airframe = document_.sortie().airframe.registration;
    auto log = book_->latest(airframe, Teaching::latestRuns);
    if (!log) {
        say(q(log.error()), true);
        return nullptr;
    }
    auto* learnt =
        new LearntDialog(document_,
                         Teaching(std::move(log.value()), {document_.sortie(), document_.sharedAircraft(), {}},
                                  document_.path().toStdString()),
                         recordFrame_->who(), this);
    learnt->setAttribute(Qt::WA_DeleteOnClose);
    learnt->open();
    return learnt;
}

HoursDialog* MainWindow::showHours() {
    openRecord();
    if (!recording_)
        return nullptr;
    const auto all = book_->hours();
    if (!all) {
        say(q(all.error()), true);
        return nullptr;
    }
    auto* hours = new HoursDialog(q(book_->airframe()), all.value(), book_->notes(), this);
    hours->setAttribute(Qt::WA_DeleteOnClose);
    hours->open();
    return hours;
}

TrialsDialog* MainWindow::showTrials() {
    openRecord();
    if (!recording_)
        return nullptr;
    const std::string& airframe = document_.sortie().airframe.registration;
    const auto log = book_->latest(airframe, 0);
    if (!log) {
        say(q(log.error()), true);
        return nullptr;
    }
    auto* trials =
        new TrialsDialog(q(airframe), record::trialsOf(log.value(), airframe, document_.aircraft().notes), this);
    trials->setAttribute(Qt::WA_DeleteOnClose);
    trials->open();
    return trials;
}

HangarDialog* MainWindow::showHangar() {
    auto* dialog = new HangarDialog(
        *hangar_, [this](const QString& address) { settings_.setHangar(address); }, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
    return dialog;
}

void MainWindow::takeInRecorderFile() {
    openRecord();
    if (!recording_)
        return;
    const QString path = askFile(tr("A recorder's file"), QFileInfo(document_.path()).absolutePath(),
                                 tr("Recorders' files (*.csv *.txt);;All files (*)"), false);
    if (path.isEmpty())
        return;
    QApplication::setOverrideCursor(Qt::WaitCursor);
    const auto taken = book_->lookAt(path);
    QApplication::restoreOverrideCursor();
    if (!taken.recording) {
        say(taken.problems.empty() ? tr("It could not be read.") : q(taken.problems.front().text()), true);
        return;
    }
    if (!askTake(QFileInfo(path).fileName(), toldOf(taken, book_->notes())))
        return;
    if (const QString why = book_->take(taken); !why.isEmpty())
        say(why, true);
    else
        say(tr("%1: %2 readings of it are in the log.").arg(QFileInfo(path).fileName()).arg(taken.entries.size()));
    showDots();
}

void MainWindow::writeEngineersSheet() {
    const QString path =
        askFile(tr("The engineer's sheet"),
                QFileInfo(document_.path()).absolutePath() + QLatin1Char('/') + tr("for-the-engineer.pdf"),
                QStringLiteral("*.pdf"), true);
    if (path.isEmpty())
        return;
    const QString error = writeAtomically(path, engineersSheet(*book_));
    say(error.isEmpty() ? tr("Written to %1.").arg(path) : error, !error.isEmpty());
}

void MainWindow::closeRecord() {
    if (!recording_) {
        showMode();
        return;
    }
    if (inTrouble())
        closeTrouble();
    recording_ = false;
    showHeld();
    score_->endReadings();
    stack_->setCurrentWidget(page_);
    say({});
    showMode();
    page_->refresh();
    rail_->setFocus(Qt::OtherFocusReason);
}

void MainWindow::openRehearsal() {
    if (!document_.isOpen())
        return;
    if (inTrouble())
        closeTrouble();
    closeRecord();
    rehearsing_ = true;
    stack_->setCurrentWidget(seatFrame_);
    seatFrame_->open(page_->phase());
    followSeat();
    showMode();
}

bool MainWindow::endRehearsal() {
    if (!seat_->isTaken())
        return true;
    if (seat_->isBusy())
        return false;
    seat_->pause(true);
    if (!seat_->session().rehearsal().acts().empty() && !askLeaveRehearsal()) {
        showMode();
        return false;
    }
    seatFrame_->log();
    seat_->leave();
    return true;
}

void MainWindow::closeRehearsal() {
    if (!rehearsing_ || !endRehearsal()) {
        showMode();
        return;
    }
    if (inTrouble())
        closeTrouble();
    rehearsing_ = false;
    stack_->setCurrentWidget(page_);
    showMode();
    page_->refresh();
    rail_->setFocus(Qt::OtherFocusReason);
}

void MainWindow::followSeat() {
    if (!seat_->isTaken())
        return;
    const auto& r = seat_->session().rehearsal();
    if (rail_->selected() != r.phase()) {
        railFollows_ = true;
        rail_->select(r.phase());
        railFollows_ = false;
    }
    // The score is drawn anew some times a second, at once where time was taken back.
    if (!score_->tracing() || score_->traceLength() > r.trace().size())
        score_->showTrace(r, seat_->session().planTime(0));
    else if (!scoreFollows_->isActive())
        scoreFollows_->start();
}

/// In the plan the rail shows a phase; in a rehearsal it begins the next, or goes back to where an earlier one began.
void MainWindow::railChose(Phase phase) {
    if (recording_)
        recordFrame_->show(phase);
    if (phase >= Phase::writeUp) // nothing of it is planned
        return;
    page_->show(phase);
    score_->select(phase);
    if (railFollows_ || !rehearsing_ || !seat_->isTaken())
        return;
    const auto& r = seat_->session().rehearsal();
    const Phase now = r.phase();
    if (static_cast<int>(phase) == static_cast<int>(now) + 1) {
        seat_->begin(phase);
        return;
    }
    qint64 began = -1;
    if (phase == r.setup().from)
        began = 0;
    for (const auto& act : r.acts())
        if (act.kind == rehearse::Act::Kind::phase && act.phase == phase)
            began = act.at;
    if (phase < now && began >= 0) {
        seat_->pause(true);
        seat_->back(began);
    } else if (phase != now) {
        say(tr("In a rehearsal phases begin one after the other: %1 comes next.")
                .arg(now < Phase::stop
                         ? QString::fromUtf8(titleOf(static_cast<Phase>(static_cast<int>(now) + 1)).data())
                         : tr("the debrief")),
            true);
    }
    followSeat();
}

bool MainWindow::inTrouble() const {
    return stack_->currentWidget() == trouble_;
}

void MainWindow::placeScore() {
    // A drill wants the height that a small window has not for both.
    score_->setVisible(!inTrouble() || height() >= scoreBesideTrouble);
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    placeScore();
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
    // Of score and rail, which take no Escape themselves.
    if (event->key() == Qt::Key_Escape && inTrouble())
        closeTrouble();
    else
        QMainWindow::keyPressEvent(event);
}

void MainWindow::openTrouble() {
    if (!document_.isOpen() || inTrouble())
        return;
    cameFrom_ = QApplication::focusWidget();
    if (seat_->isTaken())
        seat_->pause(true);
    // The score's cursor where the hand is on it; the moment chosen there, in this phase; else the middle of the phase.
    const auto& p = document_.plan()[page_->phase()];
    double time = p.start + 0.5 * p.duration;
    if (seat_->isTaken())
        time =
            std::min(seat_->session().planTime(seat_->session().rehearsal().now()), document_.plan().flown.totalTime());
    else if (const auto chosen = document_.moment(); chosen && *chosen >= p.start && *chosen <= p.start + p.duration)
        time = *chosen;
    if (score_->cursorTime() >= 0 && (score_->hasFocus() || score_->underMouse()))
        time = score_->cursorTime();
    if (isAloft()) { // now, and back to it
        time = std::min(live_->now().plan, document_.plan().flown.totalTime());
        aloft_->leave();
        whole_->setCurrentIndex(0);
        fromAloft_ = true;
    }
    stack_->setCurrentWidget(trouble_);
    placeScore();
    troubleButton_->setChecked(true);
    trouble_->open(time);
    trouble_->focusFirst();
}

void MainWindow::closeTrouble() {
    if (!inTrouble()) {
        troubleButton_->setChecked(false);
        return;
    }
    stack_->setCurrentWidget(frameOfMode());
    placeScore();
    troubleButton_->setChecked(false);
    page_->refresh();
    if (cameFrom_ && cameFrom_->isVisible())
        cameFrom_->setFocus(Qt::OtherFocusReason);
    else
        rail_->setFocus(Qt::OtherFocusReason);
    if (std::exchange(fromAloft_, false))
        openAloft();
}

void MainWindow::showPhase(Phase phase) {
    if (inTrouble())
        closeTrouble();
    if (rehearsing_ && !seat_->isTaken())
        closeRehearsal();
    rail_->select(phase);
}

void MainWindow::setTheme(ThemeKind theme) {
    theme_ = theme;
    const QPalette palette = paletteFor(theme);
    if (const QString sheet = styleSheetFor(palette); qApp->styleSheet() != sheet) {
        // A frame that is dressed anew forgets its margins (QFrame::setFrameRect).
        std::vector<std::pair<QFrame*, QMargins>> kept;
        for (auto* framed : findChildren<QFrame*>())
            kept.emplace_back(framed, framed->contentsMargins());
        // The style sheet goes first: taking one off gives widgets back the palette they had before it.
        qApp->setStyleSheet({});
        qApp->setPalette(palette);
        setPalette(palette);
        qApp->setStyleSheet(sheet);
        for (const auto& [framed, was] : kept)
            framed->setContentsMargins(was);
    } else
        setPalette(palette);
    if (document_.isOpen())
        refresh();
}

void MainWindow::refresh() {
    if (document_.isOpen() && whole_->currentIndex() != 0 && !isAloft())
        whole_->setCurrentIndex(0);
    for (auto* action : needsSortie_)
        action->setEnabled(true);
    strip_->refresh();
    rail_->show(document_.plan());
    troubleButton_->setEnabled(true);
    showMode();
    page_->refresh();
    if (recording_) {
        recordFrame_->follow();
        showDots();
    }
    if (inTrouble())
        trouble_->refresh();
    else
        QTimer::singleShot(0, trouble_, &TroubleFrame::prepare);
    score_->refresh();
    say({});
    book_->lookForHolds();
    showHeld();
}

void MainWindow::refreshTitle() {
    const QString name = !document_.isOpen()          ? QString()
                         : document_.path().isEmpty() ? tr("new sortie")
                                                      : QFileInfo(document_.path()).fileName();
    setWindowTitle(name.isEmpty() ? tr("Amber Throttle") : tr("%1[*] — Amber Throttle").arg(name));
    setWindowModified(document_.isOpen() && document_.isModified());
}

void MainWindow::refreshRecent() {
    recent_->clear();
    const auto files = settings_.recentFiles();
    for (const auto& path : files)
        connect(recent_->addAction(QFileInfo(path).fileName()), &QAction::triggered, this,
                [this, path] { openPath(path); });
    recent_->setEnabled(!files.isEmpty());
}

void MainWindow::say(const QString& text, bool wrong) {
    if (text.isEmpty() && message_->isHidden())
        return;
    const Colours c(this);
    message_->setText(text);
    message_->setStyleSheet(wrong ? QStringLiteral("color:%1").arg(c.red.name()) : QString());
    message_->setVisible(!text.isEmpty());
}

bool MainWindow::mayLeave() {
    if (!document_.isOpen() || !document_.isModified())
        return true;
    switch (askUnsaved()) {
    case Unsaved::save:
        return save();
    case Unsaved::discard:
        return true;
    case Unsaved::cancel:
        break;
    }
    return false;
}

bool MainWindow::save() {
    if (document_.path().isEmpty() || shipsWithTheProgram(document_.path()))
        return saveAs();
    if (document_.changedOnDisk()) {
        switch (askConflict()) {
        case Conflict::keepBoth:
            return saveAs();
        case Conflict::takeTheirs:
            if (const Problems problems = document_.load(document_.path()); !problems.empty()) {
                (new ProblemsDialog(QFileInfo(document_.path()).fileName(), problems, this))->open();
                return false;
            }
            say(tr("Opened again as the other wrote it."));
            return true;
        case Conflict::overwrite:
            break;
        case Conflict::cancel:
            return false;
        }
    }
    if (!writeTo(document_.path()))
        return false;
    say(tr("Saved."));
    return true;
}

bool MainWindow::writeTo(const QString& path) {
    const QString error = document_.save(path);
    if (!error.isEmpty())
        say(error, true);
    return error.isEmpty();
}

bool MainWindow::saveAs() {
    // A demo is saved as one's own, elsewhere.
    const QString offered = document_.path().isEmpty() ? QStringLiteral("sortie.toml")
                            : shipsWithTheProgram(document_.path())
                                ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) +
                                      QLatin1Char('/') + QFileInfo(document_.path()).fileName()
                                : document_.path();
    QString path = askFile(tr("Save sortie as"), offered, sortieFilter, true);
    if (path.isEmpty())
        return false;
    if (QFileInfo(path).suffix().isEmpty())
        path += QStringLiteral(".toml");
    if (!writeTo(path))
        return false;
    settings_.addRecent(path);
    refreshRecent();
    say(tr("Saved as %1.").arg(QFileInfo(path).fileName()));
    return true;
}

void MainWindow::applyMetar(const air::MetarReading& reading) {
    Sortie changed = document_.sortie();
    changed.day = reading.applied(changed.day);
    const QString error = document_.edit(changed, tr("METAR"));
    say(error.isEmpty() ? QString::fromStdString(reading.summary()) : error, !error.isEmpty());
}

void MainWindow::pasteMetar() {
    const QString clipboard = QApplication::clipboard()->text();
    const bool usable = clipboard.size() < 1000 && air::readMetar(clipboard.toStdString()).ok();
    auto* dialog = new MetarDialog(
        usable ? clipboard : QString(),
        [this](const air::MetarReading& reading) {
            Sortie changed = document_.sortie();
            changed.day = reading.applied(changed.day);
            return document_.refusal(changed);
        },
        this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        if (dialog->reading())
            applyMetar(*dialog->reading());
    });
    dialog->open();
}

PowerChartView& MainWindow::powerChart() {
    auto& page = *page_->find<PowerChartPage>("chart");
    if (&page_->page() != &page) {
        const auto& phases = pageRow("chart").phases;
        const bool has = std::find(phases.begin(), phases.end(), page_->phase()) != phases.end();
        page.present(has ? page_->phase() : Phase::climb);
    }
    return page.chart();
}

void MainWindow::exportAs(const QString& kind) {
    // Beside the sortie's own file.
    const QFileInfo sortie(document_.path());
    const QString base = document_.path().isEmpty()
                             ? QStringLiteral("plan")
                             : sortie.absolutePath() + QLatin1Char('/') + sortie.completeBaseName();
    const QString path = askFile(tr("Export"), base + QLatin1Char('.') + kind, QStringLiteral("*.%1").arg(kind), true);
    if (path.isEmpty())
        return;
    QString error;
    if (kind == QLatin1String("air.pdf"))
        error = writeAirCardPdf(path, document_.plan(), document_.aircraft(), document_.sortie());
    else if (kind == QLatin1String("pdf"))
        error = writeCardPdf(path, document_.plan(), document_.aircraft(), document_.sortie());
    else if (kind == QLatin1String("svg") || kind == QLatin1String("png")) {
        constexpr int width = 1100, height = 620;
        auto& chart = powerChart();
        error =
            writeAtomically(path, kind == QLatin1String("svg") ? chart.svg(width, height) : chart.png(width, height));
    } else if (kind == QLatin1String("chart.csv")) {
        error = writeAtomically(path, powerChart().csv());
    } else
        error = writeAtomically(path,
                                QByteArray::fromStdString(kind == QLatin1String("json")
                                                              ? plan::planJson(document_.aircraft(), document_.sortie(),
                                                                               document_.plan(), true)
                                                              : plan::planCsv(document_.plan())));
    say(error.isEmpty() ? tr("Written to %1.").arg(path) : error, !error.isEmpty());
}

void MainWindow::printCard() {
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(QPageSize(QPageSize::A5));
    printer.setDocName(QString::fromStdString(document_.plan().title));
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() == QDialog::Accepted)
        paintCard(printer, document_.plan(), document_.aircraft(), document_.sortie());
}

void MainWindow::printChart() {
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(QPageSize(QPageSize::A4));
    printer.setPageOrientation(QPageLayout::Landscape);
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() == QDialog::Accepted) {
        auto& chart = powerChart();
        paintChart(printer, chart.svg(1100, 620), QString::fromStdString(document_.plan().aircraft), chart.steps());
    }
}

void MainWindow::showPlanPage(Phase phase, std::string_view page) {
    toPlan();
    if (rehearsing_)
        return; // whoever rehearses stays where they are
    showPhase(phase);
    page_->showPage(page);
}

FindBox* MainWindow::openFind() {
    auto* box = new FindBox(findables(*this), std::min(760, width() - 80), this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->open();
    return box;
}

ManualWindow* MainWindow::openManual(const QString& chapter, const QString& heading) {
    if (!manual_)
        manual_ = new ManualWindow(QSize(std::min(1000, width() - 60), std::min(700, height() - 60)), this);
    manual_->show(); // laid out: places in it are known
    if (!chapter.isEmpty())
        manual_->openAt(chapter, heading);
    else if (rehearsing_ || recording_)
        manual_->openAt(rehearsing_ ? QStringLiteral("rehearse")
                        : isAloft() ? QStringLiteral("aloft")
                                    : QStringLiteral("record"));
    else if (!document_.isOpen())
        manual_->openAt(QStringLiteral("first-sortie"));
    else if (inTrouble())
        manual_->openAt(QStringLiteral("pages"), tr(trouble_->pageTitle()));
    else
        manual_->openAt(QStringLiteral("pages"), tr(pageRow(page_->pageKey()).title));
    manual_->raise();
    manual_->activateWindow();
    return manual_;
}

void MainWindow::showShortcuts() {
    const auto row = [](const QString& key, const QString& does) {
        return QStringLiteral("<tr><td style='white-space:nowrap;padding-right:14px'><b>%1</b></td><td>%2</td></tr>")
            .arg(key.toHtmlEscaped(), does.toHtmlEscaped());
    };
    QString html = QStringLiteral("<table cellpadding='3'>");
    for (const auto* menu : menuBar()->actions())
        for (const auto* action : menu->menu()->actions())
            if (!action->shortcut().isEmpty())
                html +=
                    row(action->shortcut().toString(QKeySequence::NativeText), action->text().remove(QLatin1Char('&')));
    const QList<QPair<QString, QString>> others{
        {tr("Up, Down"),
         tr("in a field: step the value, Page Up and Page Down by ten; in a column: next line and its reason")},
        {tr("Escape"), tr("in a field: take back what was typed")},
        {tr("Enter"),
         tr("on a step with schools: choose another; on a candidate: take it; on the score: go to the phase")},
        {tr("1 … 6, E, Left, Right"),
         tr("in trouble: its pages; the next engine is the dead one; a minute earlier or later (Shift: ten)")},
        {tr("Down, Space, Home"), tr("on a drill: the next act; done, and the next; begin anew")},
        {tr("Escape"), tr("in trouble: back to where you were")},
        {tr("Space, Delete"), tr("on the walk-round and the run-up sheet: in order; clear. Typing writes up")},
        {tr("Left, Right, + −, Home"), tr("on score and pictures: move, zoom, all")},
        {tr("M"), tr("on the score, over a recorder: the next of its moments; Left, Right move it, Return puts it "
                     "there, Delete takes it back")},
        {tr("Arrows, Home, End"), tr("on the walk-round's plate: from station to station")},
        {tr("Left, Right"), tr("on the power chart: height of the reading")},
        {tr("T, P, M … 1 … 4, 0"),
         tr("in a rehearsal: takes a control by its letter; the engines that the hand is on")},
        {tr("Up, Down, Shift, = figure"),
         tr("moves it; finely; to a figure. Enter: to the planned mark (guided), answers "
            "(challenge and response). Home: to what is asked")},
        {tr("Space"), tr("works a switch, strokes the primer, holds what must be held")},
        {tr("Escape, comma, full stop"),
         tr("in a rehearsal: time stands; slower; faster. F8: to the next act (guided, challenge)")},
        {tr("A D W S, Q, E, R"), tr("the second of two at the keyboard: from control to control and moves it; the next "
                                    "engine; works or holds it; the planned mark, the answer")},
        {tr("Backspace, Ctrl+Z"), tr("in a rehearsal: ten seconds back; before the last act")},
        {tr("F4, F5"), tr("in a rehearsal: name the fault; the debrief")},
        {tr("Return, Space, Delete, S"),
         tr("in the log: next reading; looked, in its band; not read; start or stop its clock")},
        {tr("Alt+W, Alt+F, Ctrl+Z"),
         tr("in the log: a whole scan in one line; a defect or note; before the last reading")},
        {tr("Up, Down"), tr("on the power chart: boost")},
        {tr("Page Up, Page Down, G"), tr("on the power chart: rpm; gear")},
        {tr("Home"), tr("on the power chart: the plan's setting")},
        {tr("F, Ctrl+Up, Ctrl+Down"),
         tr("on the start's timeline: this try does not catch; earlier or later in the order")},
    };
    for (const auto& [key, does] : others)
        html += row(key, does);
    auto* box = new QDialog(this);
    box->setObjectName(QStringLiteral("keys"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->setWindowTitle(tr("Keys"));
    auto* column = new QVBoxLayout(box);
    auto* text = new QTextBrowser(box);
    text->setFont(face(14));
    text->setHtml(html + QStringLiteral("</table>"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, box);
    connect(buttons, &QDialogButtonBox::rejected, box, &QDialog::reject);
    column->addWidget(text, 1);
    column->addWidget(buttons);
    // Never taller than the window it explains: the rest scrolls.
    box->resize(std::min(680, width() - 40), std::min(560, height() - 40));
    box->open();
}

void MainWindow::showDetails() {
    auto* dialog = new DetailsDialog(document_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::showCautions() {
    auto* box =
        new QMessageBox(QMessageBox::NoIcon, tr("Cautions"),
                        tr("Amber Throttle plans, teaches and records; it does not fly or maintain aircraft.\n\n"
                           "Approved flight manuals, limitations placards, local regulations and licensed engineers "
                           "come first. A figure marked model is an estimate.\n\n"
                           "Propellers: treat as live, always. Fire guard, chocks and clear area for every start. No "
                           "ground running beyond the limits; never hand-turn against resistance."),
                        QMessageBox::Close, this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->open();
}

void MainWindow::showEvent(QShowEvent* event) {
    QMainWindow::showEvent(event);
    if (std::exchange(shownBefore_, true))
        return;
    // Only now is it known how high the window is: shares of another height would be others.
    layout()->activate();
    centralWidget()->layout()->activate();
    if (const auto halves = settings_.halves(); !halves.isEmpty())
        halves_->restoreState(halves);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!mayLeave() || !endRehearsal()) {
        event->ignore();
        return;
    }
    settings_.setGeometry(saveGeometry());
    settings_.setHalves(halves_->saveState());
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() || event->mimeData()->hasText())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const auto urls = event->mimeData()->urls();
    if (!urls.isEmpty() && urls.front().isLocalFile()) {
        openPath(urls.front().toLocalFile());
    } else if (document_.isOpen()) {
        if (const auto reading = air::readMetar(event->mimeData()->text().toStdString()))
            applyMetar(reading.value());
        else
            say(QString::fromStdString(reading.error()), true);
    }
}

} // namespace amber::app
