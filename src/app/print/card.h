// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <QPagedPaintDevice>
#include <QString>

namespace amber::app {

/// The card that is taken to the aircraft: black on white, A5, one page a side, phases in order with settings, limits,
/// clocks, cautions and origin marks; on the last side, its edge barred, what is done when it goes wrong. @return how
/// many sides were painted
int paintCard(QPagedPaintDevice& device, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
              const Sortie& sortie);
/// The card as a PDF, written atomically. @return an error to show, or an empty text
QString writeCardPdf(const QString& path, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                     const Sortie& sortie);

} // namespace amber::app
