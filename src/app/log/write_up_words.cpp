// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/write_up_words.h"
#include "kit/html.h"
#include "record/log_text.h"
#include <QCoreApplication>

namespace amber::app {

QString writtenUp(const record::WriteUpLine& line, const TypeNotes& notes, const Colours& c, bool dated) {
    const auto tr = [](const char* text) { return QCoreApplication::translate("WriteUp", text); };
    const auto faint = [&](const QString& text) {
        return QStringLiteral("<br><span style='color:%1'>%2</span>").arg(c.faint.name(), text);
    };
    const std::string engine = record::engineName(notes, line.engine);
    const QString when = q(record::timeText(line.at));
    QString out = QStringLiteral("%1 <b>%2%3, %4%5</b> &nbsp; ")
                      .arg(html::mark(line.verdict, c), engine.empty() ? QString() : html::text(engine) + ", ",
                           html::text(titleOf(line.phase)), line.rough ? tr("about ") : QString(),
                           dated ? when.left(16) : when.mid(11, 5));
    if (line.what == "defect")
        out += tr("Defect: ");
    out += html::text(line.verdict.sentence());
    if (!line.look.empty())
        out += faint(tr("Look at (p): ") + html::text(line.look));
    for (const auto& a : line.answers)
        out += QStringLiteral("<br>%1 %2")
                   .arg(tr("Answered %1:").arg(q(record::timeText(a.at)).left(16)),
                        tr("found: %1; done: %2; signed: %3")
                            .arg(html::text(a.found), html::text(a.done), html::text(a.by)));
    if (!line.answered())
        out += QStringLiteral("<br>%1").arg(
            line.holds()
                ? QStringLiteral("<b style='color:%1'>%2</b>")
                      .arg(c.of(watch::Colour::red).name(), tr("Holds the next flight until an engineer has answered."))
                : tr("Not answered."));
    return out;
}

} // namespace amber::app
