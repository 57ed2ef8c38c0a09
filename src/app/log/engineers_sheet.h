// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/book.h"
#include <QByteArray>

namespace amber::app {

/// The engineer's sheet of the run that is open, A4, black on white: what stands out of normal, with what to look at
/// and room to answer, and all that was read. @return the PDF's bytes
QByteArray engineersSheet(const Book& book);

} // namespace amber::app
