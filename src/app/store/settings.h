// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include <QSettings>
#include <QStringList>
#include <memory>

namespace amber::app {

/// What the program remembers between runs: the one typed home of it.
class Settings {
public:
    /// @param file an INI file; empty: the user's own
    explicit Settings(const QString& file = {});

    [[nodiscard]] QStringList recentFiles() const;
    [[nodiscard]] QString file() const; ///< where they are kept
    void addRecent(const QString& path);
    void forgetRecent(const QString& path);
    [[nodiscard]] ThemeKind theme() const;
    void setTheme(ThemeKind theme);
    [[nodiscard]] QByteArray geometry() const;
    void setGeometry(const QByteArray& geometry);
    /// What was answered of the questions of a type, card by card: "limit/head/most 3 2461023".
    [[nodiscard]] QStringList cards(const QString& type) const;
    void setCards(const QString& type, const QStringList& cards);
    /// Where the border between page and score was left.
    [[nodiscard]] QByteArray halves() const;
    void setHalves(const QByteArray& halves);
    /// Address of the log that a hangar shares; empty: none.
    [[nodiscard]] QString hangar() const;
    void setHangar(const QString& address);
    /// Address of the engine recorder, as RecorderLink has it; empty: none.
    [[nodiscard]] QString recorder() const;
    void setRecorder(const QString& address);

private:
    std::unique_ptr<QSettings> store_;
};

} // namespace amber::app
