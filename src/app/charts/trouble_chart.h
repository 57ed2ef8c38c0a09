// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/picture_chart.h"
#include "trouble/sheet.h"
#include <variant>

namespace amber::app {

/// Pictures of trouble: rate against height on the engines that are left, with the heights she holds; the glide; the
/// height lost going round; heads or coolant through a dive.
class TroubleChart : public PictureChart {
    Q_OBJECT
public:
    struct OutPicture {
        trouble::EngineOut out;
        trouble::RateCurves curves;
    };
    explicit TroubleChart(SortieDocument& document, QWidget* parent = nullptr);
    void put(OutPicture picture);
    void put(trouble::GoRound round);
    void put(trouble::Dive dive);
    void clear();

protected:
    void compose() override;

private:
    void rates(const OutPicture& picture);
    void glide(const trouble::EngineOut& out);
    void round(const trouble::GoRound& round);
    void dive(const trouble::Dive& dive);
    std::variant<std::monostate, OutPicture, trouble::GoRound, trouble::Dive> picture_;
};

} // namespace amber::app
