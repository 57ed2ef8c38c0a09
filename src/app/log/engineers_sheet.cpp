// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/engineers_sheet.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "log/write_up_words.h"
#include "record/log_text.h"
#include <QBuffer>
#include <QCoreApplication>
#include <QPdfWriter>
#include <QTextDocument>
#include <map>

namespace amber::app {
namespace {
QString tr(const char* text) {
    return QCoreApplication::translate("EngineersSheet", text);
}

/// All that was read, a line a reading, engines side by side.
QString readings(const Book& book) {
    const auto& n = book.notes();
    std::map<std::pair<Phase, std::string>, std::map<std::string, QString>> by;
    std::vector<std::pair<Phase, std::string>> order;
    for (const auto* e : book.soFar()) {
        if (record::takesWords(e->what))
            continue;
        const auto key = std::pair(e->phase, e->what);
        if (!by.contains(key))
            order.push_back(key);
        const UnitSpec* unit = record::unitIn(e->what, &n);
        by[key][e->engine] =
            e->kind == record::Entry::Kind::looked
                ? tr("looked at")
                : html::text(e->words.empty() ? record::figureText(e->what, e->value, unit) : e->words);
    }
    std::stable_sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    QString out = QStringLiteral("<table cellpadding='2' cellspacing='0'><tr><td><b>%1</b></td><td><b>%2</b></td>")
                      .arg(tr("Phase"), tr("Read"));
    for (const auto& p : n.positions)
        out += QStringLiteral("<td align='right'><b>&nbsp;&nbsp;%1</b></td>").arg(html::text(p.name));
    out += QStringLiteral("</tr>");
    for (const auto& key : order) {
        out += QStringLiteral("<tr><td>%1</td><td>&nbsp;%2</td>")
                   .arg(html::text(titleOf(key.first)), html::text(record::titleOf(key.second, n)));
        const auto& figures = by[key];
        if (const auto whole = figures.find({}); whole != figures.end())
            out += QStringLiteral("<td align='right' colspan='%1'>%2</td>").arg(n.positions.size()).arg(whole->second);
        else
            for (const auto& p : n.positions) {
                const auto one = figures.find(p.id);
                out += QStringLiteral("<td align='right'>&nbsp;&nbsp;%1</td>")
                           .arg(one == figures.end() ? QString() : one->second);
            }
        out += QStringLiteral("</tr>");
    }
    return out + QStringLiteral("</table>");
}
/// Hours, starts and what is due, engines side by side; empty: nothing is known of them.
QString hoursIn(const Book& book, const Colours& c) {
    const auto hours = book.hours();
    if (!hours)
        return {};
    const auto table = record::hoursTable(hours.value(), book.notes());
    QString out;
    for (const auto& due : hours.value().due)
        out += QStringLiteral("%1 %2<br>").arg(html::mark(due.verdict, c), html::text(due.verdict.sentence()));
    for (const auto& line : table.told)
        out += html::text(line) + QStringLiteral("<br>");
    out += QStringLiteral("<table cellpadding='2' cellspacing='0'><tr><td></td>");
    for (const auto& name : table.columns)
        out += QStringLiteral("<td align='right'><b>&nbsp;&nbsp;%1</b></td>").arg(html::text(name));
    out += QStringLiteral("</tr>");
    for (const auto& row : table.rows) {
        out += QStringLiteral("<tr><td>%1</td>").arg(html::text(row.what));
        for (const auto& cell : row.cells)
            out += QStringLiteral("<td align='right'>&nbsp;&nbsp;%1</td>").arg(html::text(cell));
        out += QStringLiteral("</tr>");
    }
    return out + QStringLiteral("</table>");
}
} // namespace

QByteArray engineersSheet(const Book& book) {
    const Colours c(paletteFor(ThemeKind::day));
    const auto& n = book.notes();
    QString out =
        QStringLiteral("<h2>%1</h2><p><b>%2</b> &nbsp; %3<br>%4</p>")
            .arg(tr("For the engineer"), html::text(book.airframe()), html::text(n.name),
                 book.run() ? tr("Run begun %1 UTC, %2")
                                  .arg(q(record::timeText(book.run()->began)).left(16), html::text(book.run()->title))
                            : tr("No run is open."));
    const auto add = [&](const record::WriteUpLine& line, bool dated) {
        out += QStringLiteral("<p>%1").arg(writtenUp(line, n, c, dated));
        if (!line.answered())
            out += QStringLiteral("<br><br>%1<br><br>%2")
                       .arg(tr("Found: ______________________________________________________________"),
                            tr("Done: _________________________________  Signed: ____________________"));
        out += QStringLiteral("</p><hr>");
    };
    for (const auto& line : book.writeUp().lines)
        add(line, false);
    for (const auto& held : book.holding())
        if (!book.run() || held.run.id != book.run()->id)
            add(held.line, true);
    if (book.writeUp().lines.empty() && book.holding().empty())
        out += QStringLiteral("<p>%1</p>").arg(tr("Nothing stands out of normal in what was read."));
    if (!book.soFar().empty())
        out += QStringLiteral("<h3>%1</h3>%2").arg(tr("What was read"), readings(book));
    if (const QString hours = hoursIn(book, c); !hours.isEmpty())
        out += QStringLiteral("<h3>%1</h3>%2").arg(tr("Hours, by this log and the airframe's file"), hours);
    out += QStringLiteral("<p>%1</p>")
               .arg(tr("(p): general engineering practice, a hint where to look. The maintenance manual and a licensed "
                       "engineer come first; what the law wants written and signed belongs in the papers it asks for. "
                       "Propellers are live, always."));
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setTitle(tr("For the engineer"));
        writer.setCreator(QStringLiteral("Amber Throttle " AMBER_VERSION));
        QTextDocument document;
        QFont font = face(14);
        font.setPointSizeF(9.5);
        document.setDefaultFont(font);
        document.setHtml(out);
        document.print(&writer);
    }
    return bytes;
}

} // namespace amber::app
