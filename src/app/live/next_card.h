// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/now.h"
#include <QWidget>

namespace amber::app {

/// One thing that comes next: what, in how long, why; a bar that fills towards it. Due it is amber.
class NextCard : public QWidget {
    Q_OBJECT
public:
    explicit NextCard(QWidget* parent = nullptr);
    /// @param since s that went by since it was reckoned
    void show(const aloft::NextItem* item, double since);
    void setSizes(int title, int small);
    /// "Blower changed 0:20".
    [[nodiscard]] QString said() const { return said_; }
    [[nodiscard]] const std::string& id() const { return id_; }

signals:
    void ticked(); ///< pressed

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    QString what_, when_, why_, said_;
    double full_ = -1.0;
    watch::Colour colour_ = watch::Colour::normal;
    bool first_ = false;
    int title_ = 28, small_ = 18;
    std::string id_;
    double from_ = 0.0; ///< s that it was away when it was first shown

public:
    void setFirst(bool first) { first_ = first; }
};

/// Minutes and seconds under ten minutes, else minutes; hours and minutes from one hour on.
QString countdown(double seconds);

} // namespace amber::app
