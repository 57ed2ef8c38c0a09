// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/debrief_view.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "script/script.h"
#include "units/text.h"
#include <QBuffer>
#include <QHBoxLayout>
#include <QLabel>
#include <QPdfWriter>
#include <QScrollBar>
#include <QTextDocument>
#include <QUrl>
#include <QVBoxLayout>

namespace amber::app {

DebriefView::DebriefView(Seat& seat, QWidget* parent) : QWidget(parent), seat_(seat) {
    setObjectName(QStringLiteral("debrief"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 8, 20, 8);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Debrief"), this);
    title->setFont(face(25, true));
    head->addWidget(title, 1, Qt::AlignBottom);
    const auto button = [&](const char* name, const QString& text, auto does) {
        auto* made = new QPushButton(text, this);
        made->setObjectName(QLatin1String(name));
        made->setFont(face(14));
        connect(made, &QPushButton::clicked, this, does);
        head->addWidget(made, 0, Qt::AlignBottom);
        return made;
    };
    button("debrief-back", tr("&Go on"), [this] { emit backWanted(); });
    button("debrief-pdf", tr("As &PDF…"), [this] { write(QStringLiteral("pdf")); });
    button("debrief-acts", tr("&Acts as CSV…"), [this] { write(QStringLiteral("acts.csv")); });
    button("debrief-trace", tr("&Trace as CSV…"), [this] { write(QStringLiteral("trace.csv")); });
    button("debrief-leave", tr("&Leave"), [this] { emit leaveWanted(); });
    column->addLayout(head);
    text_ = new QTextBrowser(this);
    text_->setObjectName(QStringLiteral("debrief-text"));
    text_->setAccessibleName(tr("Debrief"));
    text_->setFont(face(14));
    text_->setOpenLinks(false);
    text_->setFrameShape(QFrame::NoFrame);
    connect(text_, &QTextBrowser::anchorClicked, this,
            [this](const QUrl& link) { emit momentWanted(link.toString().section(QLatin1Char(':'), 1).toLongLong()); });
    column->addWidget(text_, 1);
    overTime = [] { return QString(); };
    askFile = [](const QString&, const QString&, const QString&) { return QString(); };
}

DebriefView::~DebriefView() {
    leaveOff();
}

void DebriefView::leaveOff() {
    if (thread_.joinable()) {
        thread_.request_stop();
        thread_.join();
    }
    flying_ = false;
}

void DebriefView::refresh() {
    leaveOff();
    if (!seat_.isTaken())
        return;
    debrief_ = seat_.session().debriefed();
    mending_ =
        std::make_shared<rehearse::Mending>(seat_.session().rehearsal(), *debrief_, seat_.session().reference().get());
    flying_ = mending_->count() > 0;
    if (!flying_)
        mending_->into(*debrief_);
    text_->setHtml(written(Colours(this)));
    if (!flying_)
        return;
    // The session is held, whoever leaves it meanwhile.
    const int which = ++which_;
    thread_ =
        std::jthread([this, which, mending = mending_, session = seat_.sharedSession()](const std::stop_token& stop) {
            const auto tell = [&](bool last) {
                QMetaObject::invokeMethod(
                    this, [this, which, last] { flown(which, last); }, Qt::QueuedConnection);
            };
            while (!stop.stop_requested() && mending->flyNext([&] { return !stop.stop_requested(); }))
                tell(false);
            if (!stop.stop_requested())
                tell(true);
        });
}

void DebriefView::flown(int which, bool last) {
    if (which != which_ || !debrief_ || !seat_.isTaken())
        return;
    mending_->into(*debrief_);
    if (last)
        flying_ = false;
    const int was = text_->verticalScrollBar()->value();
    text_->setHtml(written(Colours(this)));
    text_->verticalScrollBar()->setValue(was);
}

QString DebriefView::written(const Colours& c) const {
    const auto& s = seat_.session();
    const auto debrief = debrief_ ? *debrief_ : s.debriefed();
    QString html;
    html +=
        QStringLiteral("<p style='color:%1'>%2</p>")
            .arg(c.faint.name(),
                 tr("%1, %2, rehearsed %3 from %4: %5, fuel %6 (model). For practice; the approved manual and your "
                    "instructor come first.")
                     .arg(html::text(seat_.notes().name), html::text(s.sortie().title), q(rehearse::nameOf(s.way())),
                          q(titleOf(s.rehearsal().setup().from)).toLower(), q(formatMinutesSeconds(debrief.seconds)),
                          q(format(debrief.fuel, *seat_.notes().cockpit.fuel))));
    rehearse::About about{};
    for (const auto& line : debrief.lines(seat_.notes())) {
        if (html.endsWith(QStringLiteral("</p>")) || line.about != about) {
            about = line.about;
            html += QStringLiteral("<h3 style='color:%1;margin-bottom:2px'>%2</h3>")
                        .arg(c.amber.name(), tr(rehearse::titleOf(about)));
        }
        const QString mark =
            line.colour == watch::Colour::normal
                ? QString()
                : QStringLiteral("<span style='color:%1'>%2</span> ")
                      .arg(c.of(line.colour).name(),
                           line.colour == watch::Colour::red ? QStringLiteral("■") : QStringLiteral("▲"));
        const QString when = line.at ? QStringLiteral("<a style='color:%1' href='t:%2'>%3</a>&nbsp; ")
                                           .arg(c.ink.name())
                                           .arg(*line.at)
                                           .arg(q(formatMinutesSeconds(static_cast<double>(*line.at) / 1000.0)))
                                     : QString();
        html += QStringLiteral("<div style='margin-bottom:3px'>%1%2%3</div>").arg(mark, when, html::text(line.text));
    }
    if (flying_)
        html += QStringLiteral("<p style='color:%1'>%2</p>")
                    .arg(c.faint.name(), tr("Flying it again with one act put right, to see what would have changed it "
                                            "most …"));
    const QString over = overTime();
    if (!over.isEmpty())
        html += QStringLiteral("<h3 style='color:%1;margin-bottom:2px'>%2</h3>").arg(c.amber.name(), tr("Over time")) +
                over;
    return html;
}

/// Once more from its acts: a line a second in the recorder's format.
QByteArray DebriefView::trace() const {
    const auto& r = seat_.session().rehearsal();
    rehearse::Rehearsal again(seat_.session().aircraft(), r.sortie(), r.plan(), r.setup());
    again.script(r.acts());
    std::string out = powerplant::traceHeader(again.powerplant());
    again.advance(r.now(), [&](const hand::Moment& m) {
        if (again.now() % 1000 == 0)
            out += powerplant::traceLine(again.powerplant(), m.state,
                                         powerplant::trembling(m.readings, r.setup().seed, m.state.now));
    });
    return QByteArray::fromStdString(out);
}

void DebriefView::write(const QString& kind) {
    const bool pdf = kind == QLatin1String("pdf");
    const bool traced = kind == QLatin1String("trace.csv");
    const QString path = askFile(pdf      ? tr("Debrief as PDF")
                                 : traced ? tr("What the engines did, second by second")
                                          : tr("What was done, to be done again"),
                                 pdf      ? tr("debrief.pdf")
                                 : traced ? tr("trace.csv")
                                          : tr("rehearsal.csv"),
                                 pdf ? QStringLiteral("*.pdf") : QStringLiteral("*.csv"));
    if (path.isEmpty())
        return;
    QString error;
    if (pdf) {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        {
            QPdfWriter writer(&buffer);
            writer.setPageSize(QPageSize(QPageSize::A4));
            writer.setCreator(QStringLiteral("Amber Throttle " AMBER_VERSION));
            QTextDocument document;
            document.setDefaultFont(face(14));
            document.setHtml(QStringLiteral("<h1>%1</h1>").arg(tr("Debrief")) +
                             written(Colours(paletteFor(ThemeKind::day))));
            document.print(&writer);
        }
        error = writeAtomically(path, bytes);
    } else if (traced) {
        error = writeAtomically(path, trace());
    } else {
        error = writeAtomically(
            path, QByteArray::fromStdString(rehearse::writeActs(seat_.session().rehearsal().acts(), seat_.notes())));
    }
    emit seat_.refused(error.isEmpty() ? QString() : error);
}

} // namespace amber::app
