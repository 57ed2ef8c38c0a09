// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/inline_field.h"
#include "store/sortie_document.h"
#include <QComboBox>
#include <QPushButton>
#include <QWidget>
#include <vector>

namespace amber::app {

/// The day, the load and the airframe in one line across the top; everything below follows what is changed here.
class DayStrip : public QWidget {
    Q_OBJECT
public:
    explicit DayStrip(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    void focusFirst();

signals:
    void metarWanted();
    void summaryShown(bool shown); ///< whether the sortie's time and fuel have room in the strip
    void refused(QString why);     ///< what was typed or chosen is not taken; empty: mended

protected:
    void resizeEvent(QResizeEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    InlineField* add(InlineField* field, const QString& hint);
    void refreshSummary();

    SortieDocument& document_;
    std::vector<InlineField*> fields_;
    QComboBox* airframe_;
    QComboBox* grade_;
    QLabel* summary_;
    QPushButton* metar_;
};

} // namespace amber::app
