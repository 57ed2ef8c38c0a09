// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QPagedPaintDevice>
#include <QString>
#include <functional>

namespace amber::app {

/// What `paint` paints as a PDF of A5 sides without a margin, written atomically. @return an error to show, or an empty
/// text
QString writeA5Pdf(const QString& path, const QString& title, const std::function<void(QPagedPaintDevice&)>& paint);

} // namespace amber::app
