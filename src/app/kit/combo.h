// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QList>
#include <QString>

class QComboBox;

namespace amber::app {

struct ComboChoice {
    QString text, data, tip;
    bool operator==(const ComboChoice&) const = default;
};

/// Offers these choices with the one of `data` taken, silently; what is there already is left alone: filling a box
/// anew lays its row out anew.
void offer(QComboBox& box, const QList<ComboChoice>& choices, const QString& data);

} // namespace amber::app
