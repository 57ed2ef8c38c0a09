// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/glossary.h"
#include <QFile>

namespace amber::app {

std::vector<Term> readGlossary(const QString& markdown) {
    std::vector<Term> out;
    for (const QString& line : markdown.split(QLatin1Char('\n'))) {
        if (!line.startsWith(QLatin1String("| ")))
            continue;
        const QStringList cells = line.split(QLatin1Char('|'));
        if (cells.size() < 5 || cells[1].trimmed() == QLatin1String("term"))
            continue;
        Term term{cells[1].trimmed(), cells[2].trimmed(), {}};
        for (const QString& other : cells[3].split(QLatin1Char(';'), Qt::SkipEmptyParts))
            if (!other.trimmed().isEmpty())
                term.not_ << other.trimmed();
        out.push_back(std::move(term));
    }
    return out;
}

const std::vector<Term>& glossary() {
    static const std::vector<Term> all = [] {
        QFile file(QStringLiteral(":/manual/glossary.md"));
        return file.open(QIODevice::ReadOnly) ? readGlossary(QString::fromUtf8(file.readAll())) : std::vector<Term>{};
    }();
    return all;
}

} // namespace amber::app
