// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/begin_panel.h"
#include "cockpit/controls.h"
#include "files/document.h"
#include "kit/captioned.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "rehearse/setup.h"
#include <QFileInfo>
#include <QHBoxLayout>
#include <QRadioButton>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int greatestShown = 999'999;
int shownSeed(std::uint64_t seed) {
    return static_cast<int>(std::min<std::uint64_t>(seed, greatestShown));
}
} // namespace

BeginPanel::BeginPanel(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("begin-panel"));
    auto* halves = new QHBoxLayout(this);
    halves->setContentsMargins(20, 8, 20, 8);
    halves->setSpacing(28);
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    halves->addLayout(column, 3);
    title_ = new QLabel(tr("Rehearse"), this);
    title_->setObjectName(QStringLiteral("begin-title"));
    title_->setFont(face(25, true));
    column->addWidget(title_);
    explained_ = new RichLabel(this);
    explained_->setObjectName(QStringLiteral("begin-explained"));
    explained_->setFont(face(14));
    explained_->setMaximumWidth(820);
    column->addWidget(explained_);
    column->addSpacing(4);

    ways_ = new QButtonGroup(this);
    const auto add = [&](int which, const QString& id, const QString& name, const QString& said) {
        auto* button = new QRadioButton(name, this);
        button->setObjectName(QStringLiteral("way-") + id);
        button->setFont(face(15, true));
        button->setAccessibleDescription(said);
        ways_->addButton(button, which);
        auto* words = new QLabel(said, this);
        words->setFont(face(13));
        words->setWordWrap(true);
        words->setContentsMargins(26, 0, 0, 5);
        words->setForegroundRole(QPalette::PlaceholderText);
        words->setMaximumWidth(760);
        column->addWidget(button);
        column->addWidget(words);
    };
    const auto way = [&](rehearse::Way which, const QString& name, const QString& said) {
        add(static_cast<int>(which), q(rehearse::nameOf(which)), name, said);
    };
    way(rehearse::Way::led, tr("&Guided"),
        tr("The next act and its reason. Time stands while it waits: prime, starter and battery too."));
    way(rehearse::Way::challenged, tr("&Challenge and response"),
        tr("Lists are read, not where things should stand: put it there, look, answer. Time stands as well."));
    way(rehearse::Way::alone, tr("&Unprompted"), tr("Nothing is said until the debrief; time may be taken back."));
    way(rehearse::Way::examined, tr("Chec&k"),
        tr("Unprompted: faults unannounced, a question every few minutes. What is done is done."));
    add(questions, QStringLiteral("questions"), tr("&Questions"),
        tr("Limits, speeds, senses of levers. Missed: again today; known: after 1, 2, 4, 8, 16 days."));
    ways_->button(static_cast<int>(rehearse::Way::led))->setChecked(true);

    column->addSpacing(2);
    setupRow_ = new QWidget(this);
    auto* row = new QHBoxLayout(setupRow_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(18);
    from_ = new QComboBox(this);
    from_->setObjectName(QStringLiteral("begin-from"));
    from_->setToolTip(tr("Where it begins: everything stands as a careful hand would have it"));
    row->addWidget(captioned(tr("From"), from_, this));
    faults_ = new QComboBox(this);
    faults_->setObjectName(QStringLiteral("begin-faults"));
    faults_->addItem(tr("none"));
    faults_->addItem(tr("one, drawn by the number"));
    faults_->addItem(tr("an instructor's file…"));
    row->addWidget(captioned(tr("Faults"), faults_, this));
    seed_ = new QSpinBox(this);
    seed_->setObjectName(QStringLiteral("begin-seed"));
    seed_->setRange(0, greatestShown);
    seed_->setValue(1);
    seed_->setPrefix(tr("no. "));
    seed_->setFont(face(14));
    seed_->setAccessibleName(tr("Number that draws what is left to chance"));
    seed_->setToolTip(tr("The same number draws the same faults: write it down to do it again"));
    row->addWidget(seed_, 0, Qt::AlignBottom);
    who_ = new QComboBox(this);
    who_->setObjectName(QStringLiteral("begin-who"));
    who_->setEditable(true);
    who_->setInsertPolicy(QComboBox::NoInsert);
    who_->setMinimumWidth(120);
    who_->setToolTip(tr("Whose practice it is: unprompted practice, checks and challenge and response are written into "
                        "a log, by skill"));
    connect(who_, &QComboBox::currentTextChanged, this, &BeginPanel::showHistory);
    row->addWidget(captioned(tr("Who"), who_, this));
    two_ = new QCheckBox(tr("T&wo at the keyboard"), this);
    two_->setObjectName(QStringLiteral("begin-two"));
    two_->setFont(face(14));
    connect(two_, &QCheckBox::toggled, this, &BeginPanel::showKeys);
    row->addWidget(two_, 0, Qt::AlignBottom);
    row->addStretch(1);
    column->addWidget(setupRow_);
    faultsSaid_ = new RichLabel(this);
    faultsSaid_->setObjectName(QStringLiteral("begin-faults-said"));
    faultsSaid_->setFont(face(13));
    faultsSaid_->setForegroundRole(QPalette::PlaceholderText);
    column->addWidget(faultsSaid_);
    column->addSpacing(10);
    begin_ = new QPushButton(tr("&Begin"), this);
    begin_->setObjectName(QStringLiteral("begin-go"));
    begin_->setFont(face(16, true));
    begin_->setDefault(true);
    begin_->setMinimumHeight(36);
    begin_->setMaximumWidth(180);
    auto* go = new QHBoxLayout;
    go->addWidget(begin_, 1);
    auto* again = new QPushButton(tr("Acts from a &file…"), this);
    again->setObjectName(QStringLiteral("begin-acts"));
    again->setFont(face(14));
    again->setMinimumHeight(36);
    again->setToolTip(tr("A rehearsal that was saved is done again, to be looked at: unprompted, from where it began"));
    go->addWidget(again);
    go->addStretch(1);
    column->addLayout(go);
    column->addStretch(1);
    auto* side = new QVBoxLayout;
    side->setSpacing(10);
    side->addWidget(worked());
    history_ = new RichLabel(this);
    history_->setObjectName(QStringLiteral("begin-history"));
    history_->setFont(face(13));
    side->addWidget(history_);
    side->addStretch(1);
    halves->addLayout(side, 2);
    connect(again, &QPushButton::clicked, this, [this] {
        const QString path = askActs();
        if (path.isEmpty())
            return;
        if (const Problems wrong = takeActs(path); !wrong.empty())
            emit problems(QFileInfo(path).fileName(), wrong);
    });
    history = [](const QString&) { return QString(); };

    askSetup = askActs = [] { return QString(); };
    connect(faults_, &QComboBox::activated, this, [this](int which) {
        if (which == fromFile) {
            const QString path = askSetup();
            const Problems wrong = path.isEmpty() ? Problems{} : takeSetup(path);
            if (!wrong.empty())
                emit problems(QFileInfo(path).fileName(), wrong);
            if (path.isEmpty() || !wrong.empty())
                faults_->setCurrentIndex(file_ ? fromFile : none);
        }
        showFaults();
    });
    connect(begin_, &QPushButton::clicked, this, &BeginPanel::begun);
    connect(ways_, &QButtonGroup::idToggled, this, [this] {
        setupRow_->setVisible(!wantsQuestions());
        faultsSaid_->setVisible(!wantsQuestions());
    });
}

/// How the hands are worked, for who sits here the first time.
QLabel* BeginPanel::worked() {
    keys_ = new RichLabel(this);
    keys_->setObjectName(QStringLiteral("begin-keys"));
    keys_->setFont(face(13));
    return keys_;
}

void BeginPanel::showKeys() {
    const bool two = areTwo();
    QString html = QStringLiteral("<table cellpadding='3'>");
    QList<QPair<QString, QString>> keys;
    const auto add = [&](const QString& key, const QString& does) { keys.append({key, does}); };
    if (two) {
        add(tr("← → ↑ ↓"), tr("%1: from control to control; move it").arg(q(document_.aircraft().notes.crew.front())));
        add(tr("1 … 4, 0"), tr("puts that hand on one engine, on all"));
        add(tr("Space, Enter"),
            tr("works or holds it; the planned mark (guided), the answer (challenge and response)"));
        add(tr("A D W S"), tr("the other: from control to control; move it"));
        add(tr("Q"), tr("puts that hand on the next engine, on all"));
        add(tr("E, R"), tr("works or holds it; the planned mark, the answer"));
    } else {
        add(tr("T, P, M …"), tr("take a control by the letter beside it"));
        add(tr("1 … 4, 0"), tr("put the hand on one engine, on all"));
        add(tr("↑ ↓"), tr("move it; with Shift finely, Page Up and Page Down far"));
        add(tr("= 39 Enter"), tr("to a figure, by watching the needle"));
        add(tr("Enter"), tr("to where the drill has it (guided); answers an item (challenge)"));
        add(tr("Space"), tr("works a switch, strokes the primer, holds what must be held"));
        add(tr("Home"), tr("to the control that is asked for (guided)"));
    }
    add(tr("Ctrl+Page Down"), tr("the next phase begins"));
    add(tr("Esc  ,  ."), tr("time stands; slower; faster"));
    add(tr("F8"), tr("on until something is to be done"));
    add(tr("Backspace, Ctrl+Z"), tr("ten seconds back; before the last act"));
    add(tr("F4, F5"), tr("name the fault; the debrief"));
    for (const auto& [key, does] : keys)
        html += QStringLiteral("<tr><td style='white-space:nowrap;padding-right:10px'><b>%1</b></td><td>%2</td></tr>")
                    .arg(key.toHtmlEscaped(), does.toHtmlEscaped());
    keys_->setText(html + tr("</table><p>Everything is done with the mouse too: drag levers, click or hold switches, "
                             "turn the wheel over what is to move.</p>"));
}

void BeginPanel::refresh(Phase phase) {
    const auto& plan = document_.plan();
    explained_->setText(tr("The controls of <b>%1</b> on its own engines, as they would answer today: an estimate "
                           "(model), for practice on the ground. It replaces neither the approved manual nor a check "
                           "by an instructor.")
                            .arg(q(plan.aircraft).toHtmlEscaped()));
    from_->clear();
    for (std::size_t i = static_cast<std::size_t>(Phase::walkRound); i < plannedPhases; ++i)
        from_->addItem(q(titleOf(static_cast<Phase>(i))), static_cast<int>(i));
    from_->setCurrentIndex(std::max(0, from_->findData(static_cast<int>(std::max(phase, Phase::walkRound)))));
    file_.reset();
    acts_.clear();
    const auto& n = document_.aircraft().notes;
    const bool others = !n.crew.empty() && std::any_of(n.controls.begin(), n.controls.end(), [&](const Control& c) {
        return cockpit::worker(c, n.crew) != n.crew.front();
    });
    two_->setEnabled(others);
    two_->setToolTip(others ? tr("The %1 has some keys, whoever works the rest has others; both may hold at once")
                                  .arg(q(n.crew.front()))
                            : tr("These notes have one who works everything"));
    showKeys();
    showHistory();
    faults_->setCurrentIndex(none);
    showFaults();
    begin_->setFocus(Qt::OtherFocusReason);
}

void BeginPanel::showFaults() {
    switch (faults_->currentIndex()) {
    case chance:
        faultsSaid_->setText(tr("One fault that this type can have, on any engine, in any phase from here to the "
                                "let-down. Call it when you know it."));
        break;
    case fromFile:
        faultsSaid_->setText(tr("%1: “%2”, from its own beginning.")
                                 .arg(fileName_.toHtmlEscaped(), q(file_ ? file_->title : "").toHtmlEscaped()));
        if (file_)
            from_->setCurrentIndex(std::max(0, from_->findData(static_cast<int>(file_->from))));
        break;
    default:
        faultsSaid_->setText(tr("Nothing goes wrong that you do not do."));
    }
    if (!acts_.empty())
        faultsSaid_->setText(faultsSaid_->text() + tr(" <b>%1</b>: %2 acts are done again at their moments.")
                                                       .arg(actsName_.toHtmlEscaped())
                                                       .arg(acts_.size()));
    seed_->setVisible(faults_->currentIndex() != none);
}

Problems BeginPanel::takeSetup(const QString& path) {
    Problems wrong;
    if (const auto text = document::readFile(path.toStdString(), wrong))
        if (auto read = rehearse::readSetup(*text, path.toStdString(), document_.aircraft().notes, wrong)) {
            file_ = std::move(*read);
            fileName_ = QFileInfo(path).fileName();
            seed_->setValue(shownSeed(file_->seed));
            faults_->setCurrentIndex(fromFile);
            showFaults();
        }
    return wrong;
}

Problems BeginPanel::takeActs(const QString& path) {
    Problems wrong;
    if (const auto text = document::readFile(path.toStdString(), wrong))
        if (auto read = rehearse::readActs(*text, path.toStdString(), document_.aircraft().notes, wrong)) {
            acts_ = std::move(*read);
            actsName_ = QFileInfo(path).fileName();
            setWay(rehearse::Way::alone);
            showFaults();
        }
    return wrong;
}

void BeginPanel::setWho(const QString& who, const QStringList& others) {
    who_->clear();
    who_->addItems(others);
    who_->setCurrentText(who);
}

void BeginPanel::showHistory() {
    const QString text = history(who());
    history_->setText(text);
    history_->setVisible(!text.isEmpty());
}

rehearse::Way BeginPanel::way() const {
    return static_cast<rehearse::Way>(ways_->checkedId());
}

void BeginPanel::setWay(rehearse::Way way) {
    ways_->button(static_cast<int>(way))->setChecked(true);
}

rehearse::Setup BeginPanel::setup() const {
    rehearse::Setup out;
    const bool file = faults_->currentIndex() == fromFile && file_;
    if (file)
        out = *file_;
    out.from = static_cast<Phase>(from_->currentData().toInt());
    if (!file || seed_->value() != shownSeed(out.seed)) // else the file's own, however long
        out.seed = static_cast<std::uint64_t>(seed_->value());
    if (faults_->currentIndex() == chance)
        out.traps = {rehearse::oneByChance(document_.aircraft().notes, out.from, out.seed)};
    return out;
}

} // namespace amber::app
