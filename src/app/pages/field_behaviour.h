// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/inline_field.h"
#include "store/sortie_document.h"
#include "units/text.h"
#include <cmath>
#include <functional>

namespace amber::app {

/// Behaviour of a field for one figure of the sortie.
/// @param unit what it is shown and assumed in (asked each time: it changes with the cockpit) @param step size of a
/// step, in that unit @param settle what follows from the figure in the same edit
template <Dimension D>
InlineField::Behaviour figureField(
    SortieDocument& document, QString what, std::function<const UnitSpec*()> unit, double step,
    std::function<Quantity<D>&(Sortie&)> place, int decimals = -1,
    std::function<void(Sortie&)> settle = [](Sortie&) {}) {
    InlineField::Behaviour b;
    b.show = [&document, unit, place, decimals] {
        Sortie copy = document.sortie();
        return QString::fromStdString(format(place(copy).si(), *unit(), decimals));
    };
    b.abandon = [&document](int gesture) { document.abandon(gesture); };
    b.apply = [&document, what, unit, place, settle](const QString& text, int gesture) -> QString {
        const auto read = readQuantity(D, text.toStdString(), unit());
        if (!read)
            return QString::fromStdString(read.error());
        Sortie changed = document.before(gesture);
        place(changed) = Quantity<D>::si(read.value().si);
        settle(changed);
        return document.edit(changed, what, gesture);
    };
    b.step = [&document, what, unit, step, place, settle](int steps, int gesture) -> QString {
        Sortie stepped = document.sortie(), changed = document.before(gesture);
        auto& value = place(changed);
        value = place(stepped);
        // Onto round figures of the unit, so that stepping reads well.
        const double now = (value.si() - unit()->offset) / unit()->scale;
        const double next = (std::round(now / step + steps * 1.0)) * step;
        value = Quantity<D>::si(next * unit()->scale + unit()->offset);
        settle(changed);
        return document.edit(changed, what, gesture);
    };
    return b;
}

} // namespace amber::app
