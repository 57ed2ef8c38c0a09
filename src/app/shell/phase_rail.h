// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <QAbstractListModel>
#include <QListView>
#include <optional>

namespace amber::app {

/// The phases of the sortie down the left side: worst colour, name, when it begins.
class PhaseRail : public QListView {
    Q_OBJECT
public:
    explicit PhaseRail(QWidget* parent = nullptr);
    void show(const plan::Plan& plan);
    /// After the phases of the plan what is written up of a run, with its worst colour; nothing: it is not asked for.
    void showWriteUp(std::optional<watch::Verdict> worst);
    void select(Phase phase);
    [[nodiscard]] Phase selected() const;

signals:
    void chosen(amber::Phase phase);

protected:
    void currentChanged(const QModelIndex& current, const QModelIndex& previous) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    class Model;
    class Delegate;
    Model* model_;
    std::optional<watch::Verdict> writeUp_;
};

} // namespace amber::app
