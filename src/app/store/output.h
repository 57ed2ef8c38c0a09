// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QByteArray>
#include <QSaveFile>
#include <QString>
#include <initializer_list>
#include <string>

namespace amber::app {

/// A file that is written piece by piece and is there whole at the end, or not at all: until `commit` the old one
/// stands. Every file that the program writes at somebody's word goes through here, so that one rule holds for all:
/// what is not a file (a device, a pipe, a folder) is not written to, and a file is only written over by one of its own
/// kind: no trace over a sortie, no card over notes, nothing over a log.
class Output {
public:
    explicit Output(const QString& path);
    /// @return whether it can go on; what is wrong is told by `commit`
    bool write(const QByteArray& piece);
    /// Why it could not be written so far, or empty. Left without `commit`, the old file stands.
    [[nodiscard]] const QString& wrong() const { return why_; }
    /// @return an error, or empty: the file is there, on the disk
    QString commit();

private:
    QString path_, why_;
    QSaveFile file_;
    bool begun_ = false;
};

/// The same for what is there at once. @return an error, or empty
QString writeAtomically(const QString& path, const QByteArray& contents);

/// Why an output may not be that file: it is one of those that are read. @return an error, or empty
QString overInput(const std::string& output, std::initializer_list<std::string> inputs);

} // namespace amber::app
