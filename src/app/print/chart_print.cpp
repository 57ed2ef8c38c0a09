// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/chart_print.h"
#include "kit/theme.h"
#include <QAbstractTextDocumentLayout>
#include <QPagedPaintDevice>
#include <QPainter>
#include <QSvgRenderer>
#include <QTextDocument>
#include <algorithm>

namespace amber::app {

void paintChart(QPagedPaintDevice& device, const QByteArray& svg, const QString& title, const QStringList& steps) {
    QPainter p(&device);
    const double mm = device.logicalDpiX() / 25.4;
    const QRectF area(12 * mm, 10 * mm, device.width() - 24 * mm, device.height() - 20 * mm);
    QFont head(fontFamily());
    head.setPointSizeF(11);
    head.setBold(true);
    p.setFont(head);
    p.drawText(area, Qt::AlignTop | Qt::AlignLeft, title);
    QSvgRenderer chart(svg);
    const QSizeF size = chart.defaultSize();
    const double height = std::min(area.height() * 0.7, area.width() * size.height() / size.width());
    const double width = height * size.width() / size.height();
    chart.render(&p, QRectF(area.left(), area.top() + 9 * mm, width, height));
    QTextDocument text;
    QFont body(fontFamily());
    body.setPointSizeF(9);
    text.setDefaultFont(body);
    text.documentLayout()->setPaintDevice(&device);
    text.setHtml(steps.join(QStringLiteral("<br>")) +
                 QStringLiteral("<br><i>%1</i>")
                     .arg(QObject::tr("A model fitted to the type's notes: an estimate. The approved manual and "
                                      "its charts come first.")));
    text.setTextWidth(area.width());
    p.translate(area.left(), area.top() + 12 * mm + height);
    text.drawContents(&p);
}

} // namespace amber::app
