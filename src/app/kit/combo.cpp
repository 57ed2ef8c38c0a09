// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/combo.h"
#include <QComboBox>
#include <QSignalBlocker>
#include <algorithm>

namespace amber::app {

void offer(QComboBox& box, const QList<ComboChoice>& choices, const QString& data) {
    const QSignalBlocker quiet(&box);
    bool same = box.count() == choices.size();
    for (int i = 0; same && i < box.count(); ++i)
        same = ComboChoice{box.itemText(i), box.itemData(i).toString(), box.itemData(i, Qt::ToolTipRole).toString()} ==
               choices[i];
    if (!same) {
        box.clear();
        for (const auto& c : choices) {
            box.addItem(c.text, c.data);
            if (!c.tip.isEmpty())
                box.setItemData(box.count() - 1, c.tip, Qt::ToolTipRole);
        }
    }
    box.setCurrentIndex(std::max(0, box.findData(data)));
}

} // namespace amber::app
