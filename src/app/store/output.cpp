// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/output.h"
#include "store/data_folder.h"
#include <QCoreApplication>
#include <QFileInfo>
#include <QRegularExpression>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace amber::app {
namespace {
QString told(const char* text) {
    return QCoreApplication::translate("Output", text);
}

/// What a file is by its first bytes.
enum class Kind { empty, database, pdf, png, svg, json, toml, text };
struct KindRow {
    Kind kind;
    const char* name;
};
constexpr KindRow kindNames[] = {{Kind::database, "a log (SQLite)"},
                                 {Kind::pdf, "a PDF"},
                                 {Kind::png, "a picture (PNG)"},
                                 {Kind::svg, "a drawing (SVG)"},
                                 {Kind::json, "JSON"},
                                 {Kind::toml, "notes, a sortie or another TOML file"},
                                 {Kind::text, "text"}};
QString nameOf(Kind kind) {
    for (const auto& row : kindNames)
        if (row.kind == kind)
            return told(row.name);
    return {};
}
constexpr qint64 tasted = 4096; // bytes

Kind kindOf(const QByteArray& head) {
    const QByteArray text = head.trimmed();
    if (text.isEmpty())
        return Kind::empty;
    if (head.startsWith("SQLite format 3"))
        return Kind::database;
    if (head.startsWith("%PDF"))
        return Kind::pdf;
    if (head.startsWith("\x89PNG"))
        return Kind::png;
    if (text.startsWith("<?xml") || text.startsWith("<svg"))
        return Kind::svg;
    // A table's name or a key alone on the first line that is no comment: TOML. A list or an object: JSON.
    static const QRegularExpression toml(
        QStringLiteral(R"(^(\[\[?[A-Za-z0-9_."' -]+\]\]?\s*(#.*)?|[A-Za-z0-9_."'-]+\s*=.*)$)"));
    for (const auto& line : text.split('\n')) {
        const QByteArray one = line.trimmed();
        if (one.isEmpty() || one.startsWith('#'))
            continue;
        if (toml.match(QString::fromUtf8(one)).hasMatch())
            return Kind::toml;
        break;
    }
    return text.startsWith('{') || text.startsWith('[') ? Kind::json : Kind::text;
}
Kind kindOfFile(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return Kind::empty;
    return kindOf(file.read(tasted));
}
} // namespace

Output::Output(const QString& path) : path_(path), file_(path) {
    const QFileInfo target(path);
    if (path.trimmed().isEmpty())
        why_ = told("There is no file name to write to.");
    else if (target.exists() && !target.isFile())
        why_ = told("%1 is not a file: it is not written to. Choose another name.").arg(path);
    else if (shipsWithTheProgram(path))
        why_ = told("%1 ships with the program and is not written to: choose another name.").arg(path);
}

bool Output::write(const QByteArray& piece) {
    if (!why_.isEmpty())
        return false;
    if (!begun_) {
        begun_ = true;
        const Kind there = kindOfFile(path_), now = kindOf(piece.left(tasted));
        if (there != Kind::empty && now != Kind::empty && there != now) {
            why_ = told("%1 is %2, and %3 would be written over it: it was left as it is. Choose another name.")
                       .arg(path_, nameOf(there), nameOf(now));
            return false;
        }
        // Unbuffered: on a full disk a buffered QSaveFile (Qt 6.4) commits what little was written and reports success.
        if (!file_.open(QIODevice::WriteOnly | QIODevice::Unbuffered)) {
            why_ = told("%1 cannot be written: %2. Choose another folder or name.").arg(path_, file_.errorString());
            return false;
        }
    }
    errno = 0;
    const qint64 before = file_.size();
    if (file_.write(piece) == piece.size() && file_.size() == before + piece.size())
        return true;
    // Qt does not say why a write came out short: the system does, or the disk is full.
    why_ = told("%1 was not written: %2. What was there before is still there.")
               .arg(path_, errno ? QString::fromLocal8Bit(std::strerror(errno)) : told("the disk is full"));
    file_.cancelWriting();
    return false;
}

QString Output::commit() {
    if (why_.isEmpty() && !begun_)
        write({});
    if (file_.isOpen() && !file_.commit() && why_.isEmpty())
        why_ = told("%1 was not written: %2. What was there before is still there.").arg(path_, file_.errorString());
    if (!why_.isEmpty())
        return why_;
    // The new name survives a loss of power only when its folder has been written too.
    if (const int folder =
            ::open(QFile::encodeName(QFileInfo(path_).absolutePath()).constData(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
        folder >= 0) {
        ::fsync(folder);
        ::close(folder);
    }
    return {};
}

QString writeAtomically(const QString& path, const QByteArray& contents) {
    Output out(path);
    out.write(contents);
    return out.commit();
}

QString overInput(const std::string& output, std::initializer_list<std::string> inputs) {
    struct stat to {};
    if (output.empty() || ::stat(output.c_str(), &to) != 0)
        return {};
    for (const auto& input : inputs) {
        struct stat from {};
        if (!input.empty() && ::stat(input.c_str(), &from) == 0 && from.st_dev == to.st_dev && from.st_ino == to.st_ino)
            return told("%1 is read here: it is not written over. Choose another name.")
                .arg(QString::fromLocal8Bit(output.c_str()));
    }
    return {};
}

} // namespace amber::app
