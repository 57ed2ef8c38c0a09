// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <QPagedPaintDevice>
#include <QString>

namespace amber::app {

/// The card for the air: A5, black on white, settings in 14 points, nothing under 11; the upper 22 mm are free for the
/// clip, the left 10 mm for rings. First side: limits, take-off under what is done when it fails, climb and change of
/// gear, cruise, let-down, landing with its go-around. What has no room is left out by rank, never squeezed. Then the
/// memory items of an engine failure and of fire, edge barred, a drill never broken over two sides where one holds it.
/// @return how many sides were painted
int paintAirCard(QPagedPaintDevice& device, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                 const Sortie& sortie);
/// As a PDF, written atomically. @return an error to show, or an empty text
QString writeAirCardPdf(const QString& path, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                        const Sortie& sortie);

} // namespace amber::app
