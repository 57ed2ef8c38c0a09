// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QStringList>
#include <QWidget>
#include <functional>

class QVBoxLayout;

namespace amber::app {

/// What stands in the window before a sortie is open: ways to begin, the last sorties, where files are kept.
class StartPage : public QWidget {
    Q_OBJECT
public:
    struct Ways {
        std::function<void(const QString& path)> open;
        std::function<void()> demo, newSortie, openFile, rehearse, ownAircraft, manual;
    };
    StartPage(Ways ways, QWidget* parent);
    /// @param recent sorties, the last first @param kept folder of the log and of unsaved work @param settings their
    /// file
    void show(const QStringList& recent, const QString& kept, const QString& settings);

private:
    Ways ways_;
    QWidget* body_ = nullptr;
};

} // namespace amber::app
