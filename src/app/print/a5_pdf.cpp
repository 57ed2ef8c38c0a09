// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/a5_pdf.h"
#include "store/output.h"
#include "store/sortie_document.h"
#include <QBuffer>
#include <QPdfWriter>

namespace amber::app {

QString writeA5Pdf(const QString& path, const QString& title, const std::function<void(QPagedPaintDevice&)>& paint) {
    QByteArray bytes;
    {
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        QPdfWriter writer(&buffer);
        writer.setPageSize(QPageSize(QPageSize::A5));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        writer.setResolution(600);
        writer.setTitle(title);
        writer.setCreator(QStringLiteral("Amber Throttle " AMBER_VERSION));
        paint(writer);
    }
    return writeAtomically(path, bytes);
}

} // namespace amber::app
